//! Findings as results of tests, in the XML that runners of tests and build servers exchange: each file is a test, and fails where something is
//! found in it that makes the check fail.

use std::collections::BTreeMap;
use std::fmt::Write as _;

use leitmotiv_project::settings::Severity;

use crate::document::{Document, Entry};
use crate::line::lines;

/// A document as XML. `files` are those that were checked, as they are shown; what is at least as severe as `least` is a failure, the rest is
/// told in the test's output.
#[must_use]
pub fn suites(document: &Document, files: &[&str], least: Severity) -> String {
    let is_failure = |entry: &&Entry| !entry.owed && entry.severity >= least;
    let failures = document.entries.iter().filter(is_failure).count();
    // The ledger and the configuration may have findings as well.
    let mut tests: BTreeMap<&str, Vec<&Entry>> = files.iter().map(|path| (*path, Vec::new())).collect();
    for entry in &document.entries {
        tests.entry(&entry.place.path).or_default().push(entry);
    }
    let failed = tests.values().filter(|own| own.iter().any(is_failure)).count();
    let mut out = String::from("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
    // Writing to a string cannot fail.
    let _ = writeln!(out, "<testsuites tests=\"{}\" failures=\"{failed}\">", tests.len());
    let _ = writeln!(
        out,
        "  <testsuite name=\"leitmotiv check\" tests=\"{}\" failures=\"{failed}\" errors=\"0\" skipped=\"0\">",
        tests.len()
    );
    let _ = writeln!(out, "    <properties><property name=\"findings\" value=\"{failures}\"/></properties>");
    for (path, own) in tests {
        let name = escaped(path);
        if own.is_empty() {
            let _ = writeln!(out, "    <testcase classname=\"leitmotiv\" name=\"{name}\" file=\"{name}\"/>");
            continue;
        }
        let _ = writeln!(out, "    <testcase classname=\"leitmotiv\" name=\"{name}\" file=\"{name}\">");
        // A test fails once: with all that is found.
        let (failures, rest): (Vec<&Entry>, Vec<&Entry>) = own.into_iter().partition(is_failure);
        if let Some(first) = failures.first() {
            let message = match failures.len() {
                1 => first.message.clone(),
                count => format!("{} (and {} more)", first.message, count - 1),
            };
            let _ = writeln!(
                out,
                "      <failure type=\"{}\" message=\"{}\">{}</failure>",
                first.rule,
                escaped(&message),
                escaped(&lines(failures))
            );
        }
        if !rest.is_empty() {
            let _ = writeln!(out, "      <system-out>{}</system-out>", escaped(&lines(rest)));
        }
        out.push_str("    </testcase>\n");
    }
    out.push_str("  </testsuite>\n</testsuites>\n");
    out
}

/// Text in XML (XML 1.0, "Characters"): what may not stand there at all is written out.
fn escaped(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for char in text.chars() {
        match char {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            '\n' => out.push_str("&#10;"),
            '\t' => out.push_str("&#9;"),
            char if char < ' ' || matches!(char, '\u{fffe}' | '\u{ffff}') => {
                let _ = write!(out, "\\x{:02x}", u32::from(char));
            }
            char => out.push(char),
        }
    }
    out
}
