//! Findings as JSON, schema `leitmotiv.findings/1`; described in `docs/json.md`.

use leitmotiv_engine::db::{Database, File};
use leitmotiv_migrate::session::{Report, Reported};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;
use serde::Serialize;

use crate::place::positions;

#[derive(Serialize)]
struct Findings<'a> {
    schema: &'static str,
    findings: Vec<Finding<'a>>,
    summary: Summary,
}

#[derive(Serialize)]
struct Finding<'a> {
    rule: &'a str,
    severity: Severity,
    path: &'a str,
    range: Range,
    message: &'a str,
    symbol: &'a str,
    status: &'static str,
    cause: Cause<'a>,
    evidence: Vec<Evidence<'a>>,
    remedies: Vec<Remedy<'a>>,
}

#[derive(Serialize)]
struct Range {
    start: Position,
    end: Position,
}

#[derive(Serialize)]
struct Position {
    line: u32,
    column: u32,
}

#[derive(Serialize)]
struct Cause<'a> {
    path: &'a str,
    line: u32,
    text: &'a str,
}

#[derive(Serialize)]
struct Evidence<'a> {
    kind: &'a str,
    path: &'a str,
    range: Range,
    text: &'a str,
}

#[derive(Serialize)]
struct Remedy<'a> {
    id: &'a str,
    title: &'a str,
    price: &'a str,
    safe: bool,
}

#[derive(Serialize)]
struct Summary {
    files: usize,
    lines: usize,
    error: usize,
    warning: usize,
    note: usize,
    owed: usize,
}

/// A report as JSON, ending in a line end. Debts are listed with status `owed` where `show_owed` is set.
#[must_use]
pub fn findings(db: &Database, report: &Report, show_owed: bool) -> String {
    let document = Findings {
        schema: "leitmotiv.findings/1",
        findings: report
            .findings
            .iter()
            .filter(|reported| show_owed || !reported.owed)
            .map(|reported| one(db, reported))
            .collect(),
        summary: Summary {
            files: report.files.len(),
            lines: report.lines,
            error: report.count(Severity::Error),
            warning: report.count(Severity::Warning),
            note: report.count(Severity::Note),
            owed: report.owed(),
        },
    };
    // Plain data without maps: serialising cannot fail.
    let mut text = serde_json::to_string_pretty(&document).unwrap_or_default();
    text.push('\n');
    text
}

fn one<'a>(db: &'a Database, reported: &'a Reported) -> Finding<'a> {
    let finding = &reported.finding;
    let (cause_file, cause_range) = finding.cause();
    let cause_text = finding.evidence.first().map_or(finding.message.as_str(), |first| first.text.as_str());
    Finding {
        rule: finding.rule,
        severity: reported.severity,
        path: finding.file.path(db),
        range: range(db, finding.file, finding.range),
        message: &finding.message,
        symbol: &finding.symbol,
        status: if reported.owed { "owed" } else { "new" },
        cause: Cause {
            path: cause_file.path(db),
            line: positions(db, cause_file, cause_range).0.line,
            text: cause_text,
        },
        evidence: finding
            .evidence
            .iter()
            .map(|step| Evidence {
                kind: step.kind,
                path: step.file.path(db),
                range: range(db, step.file, step.range),
                text: &step.text,
            })
            .collect(),
        remedies: finding
            .remedies
            .iter()
            .map(|remedy| Remedy { id: remedy.id, title: &remedy.title, price: remedy.price, safe: remedy.safe })
            .collect(),
    }
}

fn range(db: &Database, file: File, range: TextRange) -> Range {
    let (start, end) = positions(db, file, range);
    Range {
        start: Position { line: start.line, column: start.column },
        end: Position { line: end.line, column: end.column },
    }
}
