//! Findings as JSON, schema `leitmotiv.findings/1`; described in `docs/json.md`.

use leitmotiv_project::settings::Severity;
use serde::Serialize;

use crate::document::{Document, Entry, Place};
use crate::groups::{self, By};

#[derive(Serialize)]
struct Findings<'a> {
    schema: &'static str,
    findings: Vec<Finding<'a>>,
    #[serde(skip_serializing_if = "Option::is_none")]
    groups: Option<Groups<'a>>,
    summary: Summary,
}

#[derive(Serialize)]
struct Groups<'a> {
    by: &'static str,
    groups: Vec<Group<'a>>,
}

#[derive(Serialize)]
struct Group<'a> {
    key: &'a str,
    explain: Option<&'a str>,
    text: &'a str,
    /// Numbers of findings, from 0.
    findings: &'a [usize],
    #[serde(flatten)]
    of_cause: Option<OfCause<'a>>,
}

#[derive(Serialize)]
struct OfCause<'a> {
    unknown: usize,
    files: usize,
    change: &'a str,
    #[serde(skip_serializing_if = "Option::is_none")]
    tried: Option<Tried<'a>>,
}

#[derive(Serialize)]
struct Tried<'a> {
    went: usize,
    others: usize,
    came: Vec<Came<'a>>,
    stands_in: bool,
}

#[derive(Serialize)]
struct Came<'a> {
    place: &'a str,
    message: &'a str,
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
    #[serde(skip_serializing_if = "Option::is_none")]
    at_run_time: Option<&'a str>,
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
    /// Whether it tells what is asked for, and not how what is given came to be.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    asks: bool,
}

#[derive(Serialize)]
struct Remedy<'a> {
    id: &'a str,
    title: &'a str,
    price: &'a str,
    safe: bool,
    /// How many findings have the cause that it changes.
    settles: usize,
    #[serde(skip_serializing_if = "Vec::is_empty")]
    edits: Vec<Edit<'a>>,
}

/// What stands in a range becomes a text.
#[derive(Serialize)]
struct Edit<'a> {
    path: &'a str,
    range: Range,
    text: &'a str,
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

/// A document as JSON, ending in a line end; groups of what is listed may come along.
#[must_use]
pub fn findings(document: &Document, by: Option<(By, &[groups::Group])>) -> String {
    let groups = by.map(|(by, groups)| Groups { by: by.name(), groups: groups.iter().map(group).collect() });
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

fn group(group: &groups::Group) -> Group<'_> {
    Group {
        key: &group.key,
        explain: group.subject.as_deref(),
        text: &group.text,
        findings: &group.findings,
        of_cause: group.cause.as_ref().map(|cause| OfCause {
            unknown: cause.unknown,
            files: cause.files,
            change: &cause.change,
            tried: cause.tried.as_ref().map(|tried| Tried {
                went: tried.went,
                others: tried.others,
                came: tried.came.iter().map(|(place, message)| Came { place, message }).collect(),
                stands_in: cause.stands_in,
            }),
        }),
    }
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
                asks: step.asks,
            })
            .collect(),
        at_run_time: entry.at_run_time.as_deref(),
        remedies: entry
            .ways
            .iter()
            .map(|way| Remedy {
                id: way.id,
                title: &way.title,
                price: &way.price,
                safe: way.safe,
                settles: way.settles,
                edits: way
                    .edits
                    .iter()
                    .map(|(place, text)| Edit { path: &place.path, range: range(place), text })
                    .collect(),
            })
            .collect(),
    }
}

fn range(place: &Place) -> Range {
    Range {
        start: Position { line: place.start.line, column: place.start.column },
        end: Position { line: place.end.line, column: place.end.column },
    }
}
