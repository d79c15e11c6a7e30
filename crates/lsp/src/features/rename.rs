//! New names.

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::view::rename;
use leitmotiv_syntax::edits::Edit;
use lsp_server::ErrorCode;
use lsp_types::{PrepareRenameResponse, RenameParams, TextDocumentPositionParams, WorkspaceEdit};

use super::Answer;
use crate::requests::error;
use crate::snapshot::Snapshot;

/// `textDocument/prepareRename`
///
/// # Errors
/// Why nothing can be renamed here.
pub fn prepare(
    snapshot: &Snapshot,
    file: File,
    params: TextDocumentPositionParams,
) -> Answer<Option<PrepareRenameResponse>> {
    let offset = snapshot.offset(file, params.position);
    match rename::prepare(&snapshot.session.db, file, offset) {
        Ok(range) => Ok(Some(PrepareRenameResponse::Range(snapshot.range(file, range)))),
        Err(refusal) => Err(error(ErrorCode::RequestFailed, refusal.to_string())),
    }
}

/// `textDocument/rename`
///
/// # Errors
/// Why the new name cannot be given.
pub fn rename(snapshot: &Snapshot, file: File, params: RenameParams) -> Answer<Option<WorkspaceEdit>> {
    let offset = snapshot.offset(file, params.text_document_position.position);
    match rename::plan(&snapshot.session.db, file, offset, &params.new_name) {
        Ok(renamed) => {
            let edits: Vec<(File, Edit)> = renamed
                .into_iter()
                .map(|(file, range)| (file, Edit::replace(range, params.new_name.clone())))
                .collect();
            Ok(snapshot.change(&edits))
        }
        Err(refusal) => Err(error(ErrorCode::RequestFailed, refusal.to_string())),
    }
}
