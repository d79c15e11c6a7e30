//! How things are drawn: findings as threads, tables, closing lines. Everything gives text; commands print it.
//!
//! Laid out for 80 columns without colour; colour repeats what the words say.

pub use leitmotiv_report::words::{count, percent, thousands};
use std::borrow::Cow;
use std::fmt::Write as _;

use anstyle::{AnsiColor, Style};
use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_project::settings::Severity;
use leitmotiv_report::document::{Entry, Place, Step};
use leitmotiv_syntax::shown::{escaped, escaped_code, escaped_line};
use unicode_width::UnicodeWidthStr;

pub use crate::fold::{fold, fold_type};

/// The narrowest and widest that text is laid out for.
const NARROWEST: usize = 60;
const WIDEST: usize = 120;

/// How wide to lay out: the terminal's width, or 80 columns where there is none.
pub fn width() -> usize {
    terminal_size::terminal_size().map_or(80, |(width, _)| usize::from(width.0)).clamp(NARROWEST, WIDEST)
}

/// How many lines a terminal shows; `None` where the output is none.
pub fn height() -> Option<usize> {
    let is_terminal = std::io::IsTerminal::is_terminal(&std::io::stdout());
    is_terminal.then(|| terminal_size::terminal_size().map_or(24, |(_, height)| usize::from(height.0)))
}

/// How a text is set off.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Paint {
    /// A heading.
    Strong,
    /// Of lesser weight.
    Faint,
    /// An error.
    Red,
    /// A warning.
    Yellow,
    /// A note.
    Cyan,
    /// What comes.
    Green,
}

/// Stands for the end of a style. Styles are marked by characters that no text has (Unicode, "Noncharacters"), and become
/// escape sequences only where text is printed: what comes from files can bring none.
const PLAIN: char = '\u{fdd0}';

impl Paint {
    const ALL: [Paint; 6] = [Paint::Strong, Paint::Faint, Paint::Red, Paint::Yellow, Paint::Cyan, Paint::Green];

    fn style(self) -> Style {
        match self {
            Paint::Strong => Style::new().bold(),
            Paint::Faint => Style::new().dimmed(),
            Paint::Red => AnsiColor::Red.on_default(),
            Paint::Yellow => AnsiColor::Yellow.on_default(),
            Paint::Cyan => AnsiColor::Cyan.on_default(),
            Paint::Green => AnsiColor::Green.on_default(),
        }
    }

    fn mark(self) -> char {
        match self {
            Paint::Strong => '\u{fdd1}',
            Paint::Faint => '\u{fdd2}',
            Paint::Red => '\u{fdd3}',
            Paint::Yellow => '\u{fdd4}',
            Paint::Cyan => '\u{fdd5}',
            Paint::Green => '\u{fdd6}',
        }
    }
}

fn severity_paint(severity: Severity) -> Paint {
    match severity {
        Severity::Error => Paint::Red,
        Severity::Warning => Paint::Yellow,
        Severity::Note | Severity::Off => Paint::Cyan,
    }
}

/// Text in a style, with hidden characters written out.
pub fn paint(paint: Paint, text: &str) -> String {
    format!("{}{}{PLAIN}", paint.mark(), escaped(text))
}

/// Text as it is printed: styles as escape sequences, which the stream takes off where they are not wanted, and all other
/// hidden characters written out.
pub fn shown(text: &str) -> Cow<'_, str> {
    let is_mark = |char: char| ('\u{fdd0}'..='\u{fdd6}').contains(&char);
    // All marks begin with this byte, and little else does.
    if !text.as_bytes().contains(&0xef) {
        return escaped(text);
    }
    let mut out = String::with_capacity(text.len() + text.len() / 16);
    let mut painted = None;
    for part in text.split_inclusive(is_mark) {
        let mark = part.chars().next_back().filter(|char| is_mark(*char));
        let plain = &part[..part.len() - mark.map_or(0, char::len_utf8)];
        out.push_str(&escaped(plain));
        let Some(mark) = mark else { continue };
        let ended: Option<Paint> = painted.take();
        if let Some(paint) = ended {
            // Writing to a string cannot fail.
            let _ = write!(out, "{:#}", paint.style());
        }
        if let Some(paint) = Paint::ALL.into_iter().find(|paint| paint.mark() == mark) {
            let _ = write!(out, "{}", paint.style());
            painted = Some(paint);
        }
    }
    Cow::Owned(out)
}

/// A heading.
pub fn heading(text: &str) -> String {
    paint(Paint::Strong, text)
}

/// Text of lesser weight.
pub fn faint(text: &str) -> String {
    paint(Paint::Faint, text)
}

/// How a file is shown: its path with hidden characters written out, on one line whatever its name is.
pub fn path(db: &Database, file: File) -> Cow<'_, str> {
    escaped_line(file.path(db))
}

/// Cuts a text at a width.
pub fn cut(text: &str, width: usize) -> String {
    if text.width() <= width {
        return text.to_owned();
    }
    let mut cut = String::new();
    for char in text.chars() {
        if cut.width() + 1 >= width {
            break;
        }
        cut.push(char);
    }
    cut.push('…');
    cut
}

/// The line of code that a finding stands in, without indent, cut so that the finding's own part is in sight.
fn code_line(entry: &Entry, width: usize) -> String {
    let (line, from) = &entry.code;
    let (head, tail) = line.split_at(line.char_indices().nth(*from).map_or(line.len(), |(at, _)| at));
    let head = escaped_code(head);
    let from = head.chars().count();
    let line = format!("{head}{}", escaped_code(tail));
    let trimmed = line.trim_start();
    let indent = line.chars().count() - trimmed.chars().count();
    let from = from.saturating_sub(indent);
    if trimmed.width() <= width || from < width / 2 {
        return cut(trimmed.trim_end(), width);
    }
    let tail: String = trimmed.chars().skip(from.saturating_sub(12)).collect();
    cut(&format!("…{}", tail.trim_end()), width)
}

/// One finding in few lines: the line of code, what is wrong, where that comes from, the first way out. The rest is `explain`'s.
pub fn brief(entry: &Entry, width: usize) -> String {
    let mut out = head(entry, width);
    if let Some(first) = entry.steps.first() {
        let from = place_of(entry, &first.place);
        let on_the_way = match entry.steps.iter().filter(|step| !step.asks).count() {
            0 | 1 => String::new(),
            more => format!(" (and {} on the way)", count(more - 1, "place", "places")),
        };
        let _ = writeln!(out, "{}", fold(&format!("{from}: {}{on_the_way}", first.text), width, "  ○ ", "    "));
    }
    if let Some(way) = entry.ways.first() {
        let price = if way.price == "nothing" { String::new() } else { format!(" (price: {})", way.price) };
        let _ = writeln!(out, "{}", fold(&format!("{}{price}", way.title), width, "  way out: ", "    "));
    }
    out
}

/// Where a finding is, what it is, the line of code, and what is wrong.
pub fn head(entry: &Entry, width: usize) -> String {
    let path = escaped_line(&entry.place.path);
    let start = entry.place.start;
    let mut out = String::new();
    let mut label = entry.severity.name().to_owned();
    if let Some(demand) = entry.demand {
        let _ = write!(label, ", held to {demand}");
    }
    if entry.owed {
        label.push_str(", owed");
    }
    let place = format!("{path}:{}:{}", start.line, start.column);
    let rule = faint(entry.rule);
    let _ = writeln!(out, "{place}  {}  {rule}", paint(severity_paint(entry.severity), &label));
    let code = code_line(entry, width - 4);
    if !code.is_empty() {
        let _ = writeln!(out, "    {}", paint(Paint::Strong, &code));
    }
    let _ = writeln!(out, "{}", fold(&entry.message, width, "  ", "  "));
    out
}

/// A place as it is told beside a finding: within the same file, by its line.
pub fn place_of(entry: &Entry, place: &Place) -> String {
    let line = place.start.line;
    match place.path == entry.place.path {
        true => format!("line {line}"),
        false => format!("{}:{line}", escaped_line(&place.path)),
    }
}

/// So many places are shown of a long way at each of its ends.
const MOST_AT_ENDS: usize = 4;

/// The places a type came through, oldest first, along one line that ends here; of a long way, those in the middle are counted. `places` says
/// where each is.
pub fn thread(steps: &[&Step], places: &[String], width: usize, is_whole: bool, here: Option<&str>) -> String {
    let column = places.iter().map(|place| place.width()).max().unwrap_or(0).min(width / 3);
    let room = width.saturating_sub(column + 6).max(24);
    let folded = if is_whole { 0 } else { steps.len().saturating_sub(2 * MOST_AT_ENDS) };
    let line = if here.is_some() { '│' } else { ' ' };
    let mut out = String::new();
    for (number, (step, place)) in steps.iter().zip(places).enumerate() {
        if folded > 1 && (MOST_AT_ENDS..MOST_AT_ENDS + folded).contains(&number) {
            if number == MOST_AT_ENDS {
                let _ = writeln!(out, "  ┆ {}", faint(&format!("{folded} more places: explain -v shows them")));
            }
            continue;
        }
        let padding = " ".repeat(column.saturating_sub(place.width()));
        let _ = writeln!(out, "  ○ {place}{padding}  {}", cut(&step.code, room));
        let indent = format!("  {line} {}  ", " ".repeat(column));
        let _ = writeln!(out, "{}", fold(&step.text, width, &indent, &indent));
    }
    if let Some(here) = here {
        let padding = " ".repeat(column.saturating_sub(here.width()));
        let _ = writeln!(out, "  ● {here}{padding}  here");
    }
    out
}

/// How narrow a table's last column becomes before others do.
const NARROWEST_CELL: usize = 24;

/// A plain table: columns aligned, numbers to the right, no boxes. `right` says which columns hold numbers.
pub fn table(heads: &[&str], right: &[bool], rows: &[Vec<String>], width: usize) -> String {
    let columns = heads.len();
    let plain = |cell: &String| escaped_line(cell).into_owned();
    let rows: Vec<Vec<String>> = rows.iter().map(|row| row.iter().map(plain).collect()).collect();
    let mut widths: Vec<usize> = heads.iter().map(|head| head.width()).collect();
    for row in &rows {
        for (place, cell) in row.iter().enumerate() {
            widths[place] = widths[place].max(cell.width());
        }
    }
    // What does not fit is taken from the last column, which may go on in further lines, and then from the widest one that
    // holds words.
    let total = |widths: &[usize]| widths.iter().sum::<usize>() + 2 * (columns - 1);
    let last = columns - 1;
    if !right[last] {
        let over = total(&widths).saturating_sub(width);
        widths[last] -= over.min(widths[last].saturating_sub(NARROWEST_CELL));
    }
    while total(&widths) > width {
        let widest = (0..columns).filter(|place| !right[*place]).max_by_key(|place| widths[*place]);
        match widest {
            Some(place) if widths[place] > 12 => widths[place] -= 1,
            _ => break,
        }
    }
    let mut out = String::new();
    let mut line = |mut cells: Vec<String>, style: Option<Paint>| {
        // What the last column says is never cut: it goes on in lines of its own.
        let mut more = Vec::new();
        if !right[last] && cells[last].width() > widths[last] {
            let folded = fold(&cells[last], widths[last].max(12), "", "");
            let mut lines = folded.lines().map(str::to_owned);
            cells[last] = lines.next().unwrap_or_default();
            more = lines.collect();
        }
        let mut text = String::new();
        for (place, cell) in cells.iter().enumerate() {
            let cell = if place == last { cell.clone() } else { cut(cell, widths[place]) };
            let padding = " ".repeat(widths[place].saturating_sub(cell.width()));
            if right[place] {
                text.push_str(&padding);
                text.push_str(&cell);
            } else {
                text.push_str(&cell);
                text.push_str(&padding);
            }
            if place + 1 < columns {
                text.push_str("  ");
            }
        }
        let text = text.trim_end();
        let _ = writeln!(out, "{}", style.map_or_else(|| text.to_owned(), |style| paint(style, text)));
        let indent = " ".repeat(widths[..last].iter().sum::<usize>() + 2 * last);
        for line in more {
            let _ = writeln!(out, "{indent}{line}");
        }
    };
    line(heads.iter().map(|head| (*head).to_owned()).collect(), Some(Paint::Faint));
    for row in &rows {
        line(row.clone(), None);
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn styles_are_ours_and_nothing_else_gets_through() {
        let text = format!("{} a\u{1b}[31mb\u{9b}\u{202e}", heading("x\u{1b}y"));
        assert_eq!(shown(&text), "\u{1b}[1mx\\x1by\u{1b}[0m a\\x1b[31mb\\x9b\\u202e");
    }

    #[test]
    fn tables_fit_their_width() {
        let rows = vec![vec!["a name that is far too long to fit in here".into(), "12".into()]];
        let text = table(&["module", "lines"], &[false, true], &rows, 30);
        let text = shown(&text);
        let text = anstream::adapter::strip_str(&text).to_string();
        assert!(text.lines().all(|line| line.width() <= 30), "{text}");
        assert!(text.contains('…') && text.ends_with("12\n"));
    }
}
