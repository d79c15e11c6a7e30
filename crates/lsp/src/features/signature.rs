//! The signatures of the call that is being written.

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::types::SignatureParam;
use leitmotiv_engine::view::signature;
use leitmotiv_engine::view::things::Reader;
use lsp_types::{ParameterInformation, ParameterLabel, SignatureHelp, SignatureHelpParams, SignatureInformation};

use super::Answer;
use crate::snapshot::Snapshot;

/// `textDocument/signatureHelp`
///
/// # Errors
/// None.
pub fn help(snapshot: &Snapshot, file: File, params: SignatureHelpParams) -> Answer<Option<SignatureHelp>> {
    let db = &snapshot.session.db;
    let offset = snapshot.offset(file, params.text_document_position_params.position);
    let mut reader = Reader::new(db, file);
    let Some(call) = signature::around(&mut reader, offset) else { return Ok(None) };
    let span = reader.index.spans[call.callee];
    let name = file.text(db)[span].rsplit('.').next().unwrap_or_default().trim().to_owned();
    let names = |param: &SignatureParam| db.names().text(param.name).to_owned();
    let number = |value: usize| u32::try_from(value).unwrap_or(u32::MAX);
    let signatures: Vec<SignatureInformation> = call
        .signatures
        .iter()
        .map(|one| {
            let mut label = format!("{name}(");
            let mut parameters = Vec::new();
            for (number_of, (place, shown)) in one.pieces().into_iter().enumerate() {
                if number_of > 0 {
                    label.push_str(", ");
                }
                // Columns of labels are in UTF-16 whatever was agreed upon (LSP 3.17, "ParameterInformation").
                let start = number(label.encode_utf16().count());
                label.push_str(shown);
                let end = number(label.encode_utf16().count());
                if place.is_some() {
                    let label = ParameterLabel::LabelOffsets([start, end]);
                    parameters.push(ParameterInformation { label, documentation: None });
                }
            }
            label.push(')');
            if let Some(returns) = &one.returns {
                label.push_str(" -> ");
                label.push_str(returns);
            }
            let active = one.reached(call.place, call.keyword.as_deref(), &names).map(number);
            SignatureInformation {
                label,
                documentation: None,
                // None of them is at the cursor: what is behind the last one.
                active_parameter: active.or(Some(number(parameters.len()))),
                parameters: Some(parameters),
            }
        })
        .collect();
    let active_parameter = signatures.get(call.active).and_then(|one| one.active_parameter);
    Ok(Some(SignatureHelp { signatures, active_signature: Some(number(call.active)), active_parameter }))
}
