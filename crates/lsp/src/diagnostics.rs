//! Findings as diagnostics.

use std::collections::{BTreeMap, HashSet};
use std::hash::{Hash, Hasher};
use std::sync::{Mutex, PoisonError};

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::rules;
use leitmotiv_migrate::session::{Asked, Report, Reported};
use leitmotiv_project::settings::Severity;
use leitmotiv_project::write::note;
use lsp_types::{
    CodeDescription, Diagnostic, DiagnosticRelatedInformation, DiagnosticSeverity, DiagnosticTag, NumberOrString,
};
use serde_json::json;

use crate::snapshot::Snapshot;
use crate::uri;

/// The findings of one file, as `check` would tell them; what is told of the ledger itself left out, and other files not looked at where the
/// ledger has debts.
#[must_use]
pub fn of_file(snapshot: &Snapshot, file: File) -> Vec<Diagnostic> {
    if !snapshot.files.contains(&file) {
        return Vec::new();
    }
    let report = snapshot.session.report(vec![file], &Asked::default());
    report.findings.iter().map(|reported| one(snapshot, reported)).collect()
}

/// The findings of all files, those without any among them; and those told of the ledger.
#[must_use]
pub fn of_all(snapshot: &Snapshot) -> Vec<(File, Vec<Diagnostic>)> {
    let report = whole(snapshot);
    let mut found: BTreeMap<&str, (File, Vec<Diagnostic>)> = BTreeMap::new();
    let db = &snapshot.session.db;
    for file in snapshot.files.iter() {
        found.insert(file.path(db), (*file, Vec::new()));
    }
    for reported in &report.findings {
        let file = reported.finding.file;
        let entry = found.entry(file.path(db)).or_insert_with(|| (file, Vec::new()));
        entry.1.push(one(snapshot, reported));
    }
    found.into_values().collect()
}

/// The report of all files.
#[must_use]
pub fn whole(snapshot: &Snapshot) -> Report {
    let mut report = snapshot.session.report(snapshot.files.to_vec(), &Asked::default());
    snapshot.session.promised(&[], &mut report);
    report
}

/// A finding as a diagnostic.
#[must_use]
pub fn one(snapshot: &Snapshot, reported: &Reported) -> Diagnostic {
    let finding = &reported.finding;
    let severity = match (reported.owed, reported.severity) {
        (true, _) => DiagnosticSeverity::HINT,
        (_, Severity::Error) => DiagnosticSeverity::ERROR,
        (_, Severity::Warning) => DiagnosticSeverity::WARNING,
        _ => DiagnosticSeverity::INFORMATION,
    };
    let tag = match finding.rule {
        "flow.unreachable" => Some(DiagnosticTag::UNNECESSARY),
        "deprecated.use" => Some(DiagnosticTag::DEPRECATED),
        _ => None,
    };
    let related = finding.evidence.iter().filter_map(|step| {
        let location = snapshot.location((step.file, step.range))?;
        Some(DiagnosticRelatedInformation { location, message: step.text.clone() })
    });
    let related: Option<Vec<DiagnosticRelatedInformation>> =
        (snapshot.client.has_related && !finding.evidence.is_empty()).then(|| related.collect());
    Diagnostic {
        range: snapshot.range(finding.file, finding.range),
        severity: Some(severity),
        code: Some(NumberOrString::String(finding.rule.to_owned())),
        code_description: page(snapshot, finding.rule),
        source: Some("leitmotiv".to_owned()),
        message: finding.message.clone(),
        related_information: related,
        tags: tag.map(|tag| vec![tag]),
        data: Some(json!({
            "severity": reported.severity.name(),
            "status": if reported.owed { "owed" } else { "new" },
            "symbol": finding.symbol,
        })),
    }
}

/// The rules whose pages were written into a project's own folder, to be linked to.
#[derive(Debug, Default)]
pub struct Pages(Mutex<HashSet<String>>);

/// Where a rule's page lies: written when it is first linked to.
fn page(snapshot: &Snapshot, rule: &str) -> Option<CodeDescription> {
    let root = &snapshot.session.project().root;
    let name = format!("rule-{rule}.md");
    let mut written = snapshot.pages.0.lock().unwrap_or_else(PoisonError::into_inner);
    if !written.contains(rule) {
        let text = rules::page(rules::by_slug(rule)?, 1);
        if note::read(root, &name).is_none_or(|known| known != text.as_bytes()) {
            note::write(root, &name, text.as_bytes()).ok()?;
        }
        written.insert(rule.to_owned());
    }
    Some(CodeDescription { href: uri::of_path(&note::path(root, &name))? })
}

/// What tells some diagnostics from others.
#[must_use]
pub fn digest(diagnostics: &[Diagnostic]) -> String {
    let mut hasher = std::hash::DefaultHasher::new();
    serde_json::to_string(diagnostics).unwrap_or_default().hash(&mut hasher);
    format!("{:016x}", hasher.finish())
}
