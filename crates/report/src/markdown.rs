//! Findings as Markdown, for a comment in a code review: what fails in sight, the thread of each folded away.

use std::fmt::Write as _;

use crate::document::{Document, Entry};

/// So many findings are listed; a comment has an end.
const MOST: usize = 50;

/// The Markdown, ending in a line end.
#[must_use]
pub fn comment(document: &Document) -> String {
    let summary = &document.summary;
    let mut parts = Vec::new();
    for (number, one, many) in [
        (summary.errors, "error", "errors"),
        (summary.warnings, "warning", "warnings"),
        (summary.notes, "note", "notes"),
        (summary.owed, "owed", "owed"),
    ] {
        if number > 0 {
            parts.push(format!("{number} {}", if number == 1 { one } else { many }));
        }
    }
    let mut out = match parts.is_empty() {
        true => "**Types:** nothing found\n".to_owned(),
        false => format!("**Types:** {}\n", parts.join(", ")),
    };
    for entry in document.entries.iter().take(MOST) {
        one(entry, &mut out);
    }
    if document.entries.len() > MOST {
        let _ = write!(out, "\nand {} more\n", document.entries.len() - MOST);
    }
    out
}

fn one(entry: &Entry, out: &mut String) {
    let start = entry.place.start;
    let severity = if entry.owed { "owed" } else { entry.severity.name() };
    // Writing to a string cannot fail.
    let _ = writeln!(
        out,
        "\n- {severity} {}: {}",
        code(&format!("{}:{}", entry.place.path, start.line)),
        text(&entry.message)
    );
    let (line, _) = &entry.code;
    if !line.trim().is_empty() {
        let _ = writeln!(out, "  {}", code(line.trim()));
    }
    if let (Some(first), Some(way)) = (entry.steps.first(), entry.ways.first()) {
        let from = code(&first.place.subject());
        let _ = writeln!(
            out,
            "  <details><summary>where it comes from, and a way out</summary>\n\n  from {from}: {}",
            text(&first.text)
        );
        let _ = writeln!(out, "\n  {} (price: {})\n  </details>", text(&way.title), text(&way.price));
    }
}

/// Code in a line (CommonMark, "Code spans"): in more backticks than it has itself.
fn code(code: &str) -> String {
    let code = code.replace(['\n', '\r'], " ");
    let longest = code.split(|char| char != '`').map(str::len).max().unwrap_or(0);
    let ticks = "`".repeat(longest + 1);
    let pad = if code.starts_with('`') || code.ends_with('`') { " " } else { "" };
    format!("{ticks}{pad}{code}{pad}{ticks}")
}

/// Text in which only code between backticks is set off.
#[must_use]
pub fn text(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut in_code = false;
    let mut before = ' ';
    for char in text.chars() {
        // Code may stand in several backticks, which open and close it together.
        let is_mark = char == '`' && before != '`';
        before = char;
        match char {
            '`' if is_mark => in_code = !in_code,
            '`' => {}
            '\n' | '\r' => {
                out.push(' ');
                continue;
            }
            '\\' | '*' | '_' | '[' | ']' | '<' | '>' | '#' | '|' | '&' if !in_code => out.push('\\'),
            _ => {}
        }
        out.push(char);
    }
    out
}

#[cfg(test)]
mod tests {
    use super::{code, text};

    #[test]
    fn what_comes_from_code_stays_code() {
        assert_eq!(code("a`b"), "``a`b``");
        assert_eq!(code("`x`"), "`` `x` ``");
        assert_eq!(text("`a_b` has no <b> of_it"), "`a_b` has no \\<b\\> of\\_it");
        assert_eq!(text("``a_b`` of_it"), "``a_b`` of\\_it");
    }
}
