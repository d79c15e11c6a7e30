//! Findings one to a line, in the form that editors and forges read of compilers (GNU coding standards, "Formatting Error
//! Messages"): `path:line:column: severity rule: message`. Lines and columns are counted from 1, columns in code points.

use std::fmt::Write as _;

use leitmotiv_syntax::shown::escaped_line;

use crate::document::Entry;

/// The lines, each with its end.
#[must_use]
pub fn lines<'a>(entries: impl IntoIterator<Item = &'a Entry>) -> String {
    let mut out = String::new();
    for entry in entries {
        let path = escaped_line(&entry.place.path);
        let start = entry.place.start;
        let severity = if entry.owed { "owed" } else { entry.severity.name() };
        let message = escaped_line(&entry.message);
        // Writing to a string cannot fail.
        let _ = writeln!(out, "{path}:{}:{}: {severity} {}: {message}", start.line, start.column, entry.rule);
    }
    out
}
