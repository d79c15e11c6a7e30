//! Findings one to a line, in the form that editors and forges read of compilers (GNU coding standards, "Formatting Error
//! Messages"): `path:line:column: severity rule: message`. Lines and columns are counted from 1, columns in code points.

use std::fmt::Write as _;

use leitmotiv_engine::base::database::Database;
use leitmotiv_migrate::session::Reported;
use leitmotiv_syntax::shown::escaped_line;

use crate::place::positions;

/// The lines, each with its end.
#[must_use]
pub fn lines(db: &Database, findings: &[&Reported]) -> String {
    let mut out = String::new();
    for reported in findings {
        let finding = &reported.finding;
        let start = positions(db, finding.file, finding.range).0;
        let path = escaped_line(finding.file.path(db));
        let severity = if reported.owed { "owed" } else { reported.severity.name() };
        let message = escaped_line(&finding.message);
        // Writing to a string cannot fail.
        let _ = writeln!(out, "{path}:{}:{}: {severity} {}: {message}", start.line, start.column, finding.rule);
    }
    out
}
