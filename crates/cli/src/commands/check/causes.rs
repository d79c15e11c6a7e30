//! `leitmotiv check --by cause`

use std::fmt::Write as _;
use std::path::PathBuf;

use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_migrate::causes::{Outcome, attempted, causes};
use leitmotiv_migrate::exact::inexact;
use leitmotiv_migrate::remembered::Seen;
use leitmotiv_migrate::session::{Asked, Report, Session};
use leitmotiv_migrate::since::Changed;
use leitmotiv_migrate::tighten::Silent;
use leitmotiv_report::document::Document;
use leitmotiv_report::groups::{Group, OfCause, of_causes};
use leitmotiv_report::whole::Whole;
use leitmotiv_syntax::shown::escaped_line;

use super::Check;
use crate::failure::Failure;
use crate::look;

/// So many causes are listed of unknown values alone.
const MOST_UNKNOWN: usize = 10;

/// Checks the files below some paths, and finds the causes.
pub(super) fn check(
    session: &mut Session,
    command: &Check,
    paths: &[PathBuf],
    asked: &Asked,
    changed: Option<&Changed>,
) -> Result<(Whole, Vec<Group>), Failure> {
    let mut report = session.check(paths, asked)?;
    let seen = Seen::new(&session.db, &report);
    if let Some(changed) = changed {
        let db = &session.db;
        report.findings.retain(|reported| {
            let finding = &reported.finding;
            let lines = &module_index(db, finding.file).lines.0;
            let line = |at| u32::try_from(lines.index_of(at) + 1).unwrap_or(u32::MAX);
            changed.touches(finding.file.path(db), (line(finding.range.start()), line(finding.range.end())))
        });
    }
    if command.exact {
        let left = |slug: &str| session.settled(&report, slug).1.left;
        let found = inexact(session, &Silent::of(session, &report), &left);
        session.add(&mut report, &found);
    }
    let document = Document::new(&session.db, &report, command.owed);
    let groups = groups(session, &report, command)?;
    Ok((Whole { document, seen, fault: report.fault }, groups))
}

/// The causes of what was found, and of what is unknown, with what came of their changes if these are to be tried.
fn groups(session: &mut Session, report: &Report, command: &Check) -> Result<Vec<Group>, Failure> {
    let shown = report.findings.iter().filter(|reported| command.owed || !reported.owed);
    let findings: Vec<&Finding> = shown.map(|reported| &reported.finding).collect();
    let checked: Vec<_> = report.files.iter().copied().zip(report.checked.iter().cloned()).collect();
    let all = causes(&session.db, &findings, &checked);
    let mut tried = Vec::new();
    if command.r#try {
        let mut files = session.files(&[])?;
        files.extend(report.files.iter().copied());
        files.sort_by_key(|file| file.path(&session.db));
        files.dedup();
        tried = attempted(&mut session.db, &files, &findings, &all);
    }
    Ok(of_causes(all, tried))
}

/// Causes with what they explain, and what would settle them.
pub(super) fn table(groups: &[Group], is_tried: bool) -> String {
    let width = look::width();
    let with_findings = groups.iter().take_while(|group| !group.findings.is_empty()).count();
    let shown = &groups[..groups.len().min(with_findings + MOST_UNKNOWN)];
    if shown.is_empty() {
        return String::new();
    }
    let number = |number: usize| if number == 0 { String::new() } else { look::thousands(number) };
    let mut out = format!("{}\n", look::faint("findings  unknown  files  cause"));
    for group in shown {
        let of = group.cause.as_ref();
        let (unknown, files) = of.map_or((0, 0), |of| (of.unknown, of.files));
        let (findings, unknown, files) = (number(group.findings.len()), number(unknown), number(files));
        let key = escaped_line(&group.key);
        let change = of.map_or("", |of| of.change.as_str());
        let text = if group.findings.is_empty() { change } else { &group.text };
        let numbers = format!("{findings:>8}  {unknown:>7}  {files:>5}  ");
        let indent = " ".repeat(numbers.chars().count());
        let line = look::fold(&format!("{key}  {text}"), width, &numbers, &indent);
        let _ = writeln!(out, "{}", line.replacen(&*key, &look::heading(&key), 1));
        if let Some(of) = of.filter(|_| !group.findings.is_empty()) {
            let outcome = if is_tried { format!(": {}", outcome(group, of)) } else { String::new() };
            let first = format!("{indent}way out: ");
            let _ =
                writeln!(out, "{}", look::fold(&format!("{change}{outcome}"), width, &first, &format!("{indent}  ")));
        }
    }
    if let Some(rest) = groups.get(shown.len()..).filter(|rest| !rest.is_empty()) {
        let unknown: usize = rest.iter().filter_map(|group| group.cause.as_ref()).map(|cause| cause.unknown).sum();
        let causes = look::count(rest.len(), "other place", "other places");
        let values = look::count(unknown, "more value is", "more values are");
        let _ = writeln!(out, "{:>17}  {}", "", look::faint(&format!("{values} unknown because of {causes}")));
    }
    out.push('\n');
    out
}

/// What came of a change on trial, in words.
pub(in crate::commands) fn outcome(group: &Group, of: &OfCause) -> String {
    let Some(tried) = &of.tried else { return "not tried".to_owned() };
    let promised = group.findings.len();
    let mut words = match (tried.went, promised) {
        (1, 1) => "it goes".to_owned(),
        (went, promised) if went == promised => format!("all {promised} go"),
        (went, promised) => format!("{went} of {promised} go"),
    };
    words.push_str(&beside(tried));
    words
}

/// What else goes by a change, and what comes, in words behind others.
pub(in crate::commands) fn beside(tried: &Outcome) -> String {
    let mut words = String::new();
    if tried.others > 0 {
        let _ = write!(words, ", and {} with it", look::count(tried.others, "other", "others"));
    }
    match tried.came.as_slice() {
        [] => {}
        [(place, message)] => {
            let _ = write!(words, "; {place} comes: {message}");
        }
        [(place, message), ..] => {
            let _ = write!(words, "; {} come, first {place}: {message}", tried.came.len());
        }
    }
    words
}
