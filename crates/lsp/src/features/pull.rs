//! Diagnostics that the client asks for.

use leitmotiv_engine::base::file::File;
use lsp_types::{
    Diagnostic, DocumentDiagnosticReport, DocumentDiagnosticReportResult, FullDocumentDiagnosticReport,
    RelatedFullDocumentDiagnosticReport, RelatedUnchangedDocumentDiagnosticReport, UnchangedDocumentDiagnosticReport,
    WorkspaceDiagnosticParams, WorkspaceDiagnosticReport, WorkspaceDiagnosticReportResult,
    WorkspaceDocumentDiagnosticReport, WorkspaceFullDocumentDiagnosticReport,
    WorkspaceUnchangedDocumentDiagnosticReport,
};

use super::Answer;
use crate::diagnostics::{self, digest};
use crate::requests::Tell;
use crate::server::Done;
use crate::snapshot::Snapshot;

/// `textDocument/diagnostic`
pub(crate) fn document(
    known: Option<(&Snapshot, File)>,
    before: Option<&str>,
    tell: Tell<'_>,
) -> DocumentDiagnosticReportResult {
    let items = known.map(|(snapshot, file)| of(snapshot, file)).unwrap_or_default();
    let result_id = digest(&items);
    if let Some((snapshot, file)) = known
        && let Some(path) = file.disk(&snapshot.session.db)
    {
        tell(Done::Pulled { folder: snapshot.folder, path: path.to_owned(), digest: result_id.clone() });
    }
    let report = match before == Some(result_id.as_str()) {
        true => DocumentDiagnosticReport::Unchanged(RelatedUnchangedDocumentDiagnosticReport {
            related_documents: None,
            unchanged_document_diagnostic_report: UnchangedDocumentDiagnosticReport { result_id },
        }),
        false => DocumentDiagnosticReport::Full(RelatedFullDocumentDiagnosticReport {
            related_documents: None,
            full_document_diagnostic_report: FullDocumentDiagnosticReport { result_id: Some(result_id), items },
        }),
    };
    DocumentDiagnosticReportResult::Report(report)
}

/// What a debt stands for may be settled by other files: with a ledger, all are looked at.
fn of(snapshot: &Snapshot, file: File) -> Vec<Diagnostic> {
    if !snapshot.session.ledger.is_there() {
        return diagnostics::of_file(snapshot, file);
    }
    let report = diagnostics::whole(snapshot);
    let own = report.findings.iter().filter(|reported| reported.finding.file == file);
    own.map(|reported| diagnostics::one(snapshot, reported)).collect()
}

/// `workspace/diagnostic`
///
/// # Errors
/// None.
pub fn workspace(snapshots: &[Snapshot], params: WorkspaceDiagnosticParams) -> Answer<WorkspaceDiagnosticReportResult> {
    let mut items = Vec::new();
    for snapshot in snapshots {
        for (file, diagnostics) in diagnostics::of_all(snapshot) {
            let Some(uri) = snapshot.uri(file) else { continue };
            let result_id = digest(&diagnostics);
            let version = snapshot.version(file).map(i64::from);
            let before = params.previous_result_ids.iter().find(|known| known.uri == uri);
            items.push(match before.is_some_and(|before| before.value == result_id) {
                true => WorkspaceDocumentDiagnosticReport::Unchanged(WorkspaceUnchangedDocumentDiagnosticReport {
                    uri,
                    version,
                    unchanged_document_diagnostic_report: UnchangedDocumentDiagnosticReport { result_id },
                }),
                false => WorkspaceDocumentDiagnosticReport::Full(WorkspaceFullDocumentDiagnosticReport {
                    uri,
                    version,
                    full_document_diagnostic_report: FullDocumentDiagnosticReport {
                        result_id: Some(result_id),
                        items: diagnostics,
                    },
                }),
            });
        }
    }
    Ok(WorkspaceDiagnosticReportResult::Report(WorkspaceDiagnosticReport { items }))
}
