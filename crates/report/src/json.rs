//! Findings as JSON, schema `leitmotiv.findings/1`; described in `docs/json.md`.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_migrate::session::{Report, Reported};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;
use serde::Serialize;

use crate::groups::{By, groups};
use crate::place::positions;

#[derive(Serialize)]
struct Findings<'a> {
    schema: &'static str,
    findings: Vec<Finding<'a>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    groups: Option<Groups>,
    summary: Summary,
}

#[derive(Serialize)]
struct Groups {
    by: &'static str,
    groups: Vec<Group>,
}

#[derive(Serialize)]
struct Group {
    key: String,
    explain: Option<String>,
    text: String,
    /// Numbers of findings, from 0.
    findings: Vec<usize>,
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

/// A report as JSON, ending in a line end. Debts are listed with status `owed` where `show_owed` is set; with `by`, groups of
/// what is listed come along.
#[must_use]
pub fn findings(db: &Database, report: &Report, show_owed: bool, by: Option<By>) -> String {
    let shown: Vec<&Reported> = report.findings.iter().filter(|reported| show_owed || !reported.owed).collect();
    let groups = by.map(|by| Groups {
        by: by.name(),
        groups: groups(db, &shown, by)
            .into_iter()
            .map(|group| Group { key: group.key, explain: group.subject, text: group.text, findings: group.findings })
            .collect(),
    });
    let document = Findings {
        schema: "leitmotiv.findings/1",
        findings: shown.iter().map(|reported| one(db, reported)).collect(),
        groups,
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
    let (cause_file, cause_range) = finding.cause(db);
    let cause_text = finding.cause_text(db);
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
