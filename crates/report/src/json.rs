//! Findings as JSON, schema `leitmotiv.findings/1`; described in `docs/json.md`.

use leitmotiv_project::settings::Severity;
use serde::Serialize;

use crate::document::{Document, Entry, Place};
use crate::groups::{By, groups};

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

/// A document as JSON, ending in a line end; with `by`, groups of what is listed come along.
#[must_use]
pub fn findings(document: &Document, by: Option<By>) -> String {
    let groups = by.map(|by| Groups {
        by: by.name(),
        groups: groups(&document.entries, by)
            .into_iter()
            .map(|group| Group { key: group.key, explain: group.subject, text: group.text, findings: group.findings })
            .collect(),
    });
    let summary = &document.summary;
    let findings = Findings {
        schema: "leitmotiv.findings/1",
        findings: document.entries.iter().map(one).collect(),
        groups,
        summary: Summary {
            files: summary.files,
            lines: summary.lines,
            error: summary.errors,
            warning: summary.warnings,
            note: summary.notes,
            owed: summary.owed,
        },
    };
    // Plain data without maps: serialising cannot fail.
    let mut text = serde_json::to_string_pretty(&findings).unwrap_or_default();
    text.push('\n');
    text
}

fn one(entry: &Entry) -> Finding<'_> {
    let cause = &entry.cause;
    Finding {
        rule: entry.rule,
        severity: entry.severity,
        path: &entry.place.path,
        range: range(&entry.place),
        message: &entry.message,
        symbol: &entry.symbol,
        status: if entry.owed { "owed" } else { "new" },
        cause: Cause { path: &cause.place.path, line: cause.place.start.line, text: &cause.text },
        evidence: entry
            .steps
            .iter()
            .map(|step| Evidence {
                kind: step.kind,
                path: &step.place.path,
                range: range(&step.place),
                text: &step.text,
            })
            .collect(),
        remedies: entry
            .remedies
            .iter()
            .map(|remedy| Remedy { id: remedy.id, title: &remedy.title, price: remedy.price, safe: remedy.safe })
            .collect(),
    }
}

fn range(place: &Place) -> Range {
    Range {
        start: Position { line: place.start.line, column: place.start.column },
        end: Position { line: place.end.line, column: place.end.column },
    }
}
