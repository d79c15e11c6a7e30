//! The story of a finding: how what is wrong came to be, what asks for something else, what happens at run time, and the ways out as they would
//! be written, each tried on a copy in memory.

use std::fmt::Write as _;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::rules;
use leitmotiv_migrate::causes::{Attempts, Outcome, texts};
use leitmotiv_migrate::diff::{Changed, changed};
use leitmotiv_migrate::ways::Way;
use leitmotiv_report::document::{Entry, Step};
use leitmotiv_syntax::shown::{escaped_code, escaped_line};

use crate::commands::check;
use crate::look::{self, Paint};

/// So many lines of one way out are shown.
const MOST_LINES: usize = 10;

/// A way out, with what it changes and what came of it.
pub(super) struct Tried {
    way: Way,
    /// The changed lines by file, as it is shown.
    lines: Vec<(String, Vec<Changed>)>,
    outcome: Option<Outcome>,
}

/// Tries the ways out of a finding, in a project of which `files` are all; those that settle it and bring nothing come first.
pub(super) fn tried(db: &mut Database, files: &[File], finding: &Finding, ways: Vec<Way>) -> Vec<Tried> {
    let lines: Vec<Vec<(String, Vec<Changed>)>> = ways.iter().map(|way| lines(db, way)).collect();
    let mut attempts = Attempts::new(db, files);
    let mut all: Vec<Tried> = ways
        .into_iter()
        .zip(lines)
        .map(|(way, lines)| {
            let outcome = (!lines.is_empty()).then(|| attempts.outcome(&way, std::iter::once(finding))).flatten();
            Tried { way, lines, outcome }
        })
        .collect();
    all.sort_by_key(|tried| match &tried.outcome {
        Some(outcome) if outcome.went > 0 && outcome.came.is_empty() => 0,
        Some(outcome) if outcome.went > 0 => 1,
        None => 1,
        Some(_) => 2,
    });
    all
}

fn lines(db: &Database, way: &Way) -> Vec<(String, Vec<Changed>)> {
    let texts = texts(db, way).unwrap_or_default();
    texts.into_iter().map(|(file, text)| (file.path(db).to_owned(), changed(file.text(db), &text))).collect()
}

/// A finding's story; `seen` is what recorded runs say.
pub(super) fn story(entry: &Entry, tried: &[Tried], seen: &str, width: usize, is_whole: bool) -> String {
    let mut out = look::head(entry, width);
    let here = format!("line {}", entry.place.start.line);
    let (asking, coming): (Vec<&Step>, Vec<&Step>) = entry.steps.iter().partition(|step| step.asks);
    let places =
        |steps: &[&Step]| -> Vec<String> { steps.iter().map(|step| look::place_of(entry, &step.place)).collect() };
    if !coming.is_empty() {
        let _ = writeln!(out, "\n{}", look::heading("How it comes here"));
        out.push_str(&look::thread(&coming, &places(&coming), width, is_whole, Some(&here)));
    }
    if !asking.is_empty() {
        let _ = writeln!(out, "\n{}", look::heading("What asks for it"));
        out.push_str(&look::thread(&asking, &places(&asking), width, is_whole, None));
    }
    out.push_str(seen);
    let Some(rule) = rules::by_slug(entry.rule) else { return out };
    let _ = writeln!(out, "\n{}", look::heading("At run time"));
    let words = entry.at_run_time.as_deref().unwrap_or(rule.page.at_run_time);
    let _ = writeln!(out, "{}", look::fold(words, width, "  ", "  "));
    let _ = writeln!(out, "\n{}", look::heading("Ways out"));
    let column = tried.iter().map(|tried| tried.way.id.len()).chain([5]).max().unwrap_or(5);
    for one in tried {
        out.push_str(&way(entry, one, column, width));
    }
    // What no comment hides.
    let is_of_file = matches!(rule.slug, "syntax.error" | "engine.fault" | "config.ledger");
    let more = look::faint(&format!("More on the rule: leitmotiv explain {}", rule.slug));
    if is_of_file {
        let _ = writeln!(out, "\n{more}");
        return out;
    }
    let first = format!("  {}  ", look::heading(&format!("{:column$}", "allow")));
    let indent = " ".repeat(column + 4);
    let allow = format!("hide it on its line: # leitmotiv: allow({}) and the reason", rule.slug);
    let _ = writeln!(out, "{}", folded(&allow, width, &first, column));
    let _ = writeln!(out, "{indent}price: nothing is checked there by this rule any more");
    let _ = writeln!(out, "\n{more}");
    out
}

/// Text behind a painted head, which takes a column and the blanks around it.
fn folded(text: &str, width: usize, head: &str, column: usize) -> String {
    let blank = " ".repeat(column + 4);
    look::fold(text, width, &blank, &blank).replacen(&blank, head, 1)
}

fn way(entry: &Entry, tried: &Tried, column: usize, width: usize) -> String {
    let indent = " ".repeat(column + 4);
    let head = format!("  {}  ", look::heading(&format!("{:column$}", tried.way.id)));
    let mut out = format!("{}\n", folded(&tried.way.title, width, &head, column));
    let mut left = MOST_LINES;
    for (path, changes) in &tried.lines {
        if *path != entry.place.path {
            let _ = writeln!(out, "{indent}  {}", escaped_line(path));
        }
        for change in changes {
            let gone = change.gone.iter().enumerate().map(|(at, line)| (change.line + at, '-', line));
            let come = change.come.iter().map(|line| (change.line, '+', line));
            for (number, sign, line) in gone.chain(come) {
                if left > 0 {
                    let number = if sign == '-' || change.gone.is_empty() { number.to_string() } else { String::new() };
                    let room = width.saturating_sub(column + 14);
                    let code = look::cut(&part(&escaped_code(line), change, room), room);
                    let paint = if sign == '-' { Paint::Red } else { Paint::Green };
                    let _ = writeln!(out, "{indent}{number:>6} {}", look::paint(paint, &format!("{sign} {code}")));
                }
                left = left.saturating_sub(1);
            }
        }
    }
    let _ = writeln!(out, "{}", look::fold(&format!("price: {}", tried.way.price), width, &indent, &indent));
    if let Some(outcome) = &tried.outcome {
        let words = format!("tried: {}", came(outcome));
        let _ = writeln!(out, "{}", look::fold(&words, width, &indent, &indent));
    }
    out
}

/// A line; where it differs from the other one only behind what there is room for, from before that on.
fn part(line: &str, change: &Changed, room: usize) -> String {
    let (Some(gone), Some(come)) = (change.gone.first(), change.come.first()) else { return line.to_owned() };
    let same = gone.chars().zip(come.chars()).take_while(|(one, other)| one == other).count();
    if line.chars().count() <= room || same + 8 < room || change.gone.len() > 1 || change.come.len() > 1 {
        return line.to_owned();
    }
    let indent = line.len() - line.trim_start().len();
    let rest: String = line.chars().skip(same.saturating_sub(room / 2)).collect();
    format!("{}…{rest}", &line[..indent])
}

/// What came of a way out, in words.
fn came(outcome: &Outcome) -> String {
    let words = match outcome.went {
        0 => "it would still be found, or the next of its kind",
        _ => "it goes",
    };
    format!("{words}{}", check::beside(outcome))
}

/// The command that the way out which comes first is, or writes it at a place as it is typed; `None` where a person has to.
pub(super) fn next(tried: &[Tried], place: &str) -> Option<String> {
    let first = tried.first()?;
    if let Some((_, command)) = first.way.title.split_once(": leitmotiv ") {
        return Some(format!("leitmotiv {command}"));
    }
    let settles = first.outcome.as_ref().is_some_and(|outcome| outcome.went > 0);
    settles.then(|| format!("leitmotiv fix {place} --way {}", first.way.id))
}
