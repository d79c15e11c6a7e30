//! What may stand at the cursor.

use std::str::FromStr;

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::view::complete::{self, Item, ItemKind};
use leitmotiv_migrate::import;
use leitmotiv_syntax::TextSize;
use lsp_types::{
    CompletionItem, CompletionItemKind, CompletionItemLabelDetails, CompletionItemTag, CompletionList,
    CompletionParams, CompletionResponse, CompletionTextEdit, TextEdit, Uri,
};
use serde_json::json;

use super::Answer;
use crate::snapshot::Snapshot;

/// So many items are sent; who types on is asked again.
const MOST: usize = 250;

/// The imports of so many items are worked out at once, for clients that do not ask for them.
const MOST_AT_ONCE: usize = 4;

/// `textDocument/completion`
///
/// # Errors
/// None.
pub fn completion(snapshot: &Snapshot, file: File, params: CompletionParams) -> Answer<Option<CompletionResponse>> {
    let offset = snapshot.offset(file, params.text_document_position.position);
    let found = complete::at(&snapshot.session.db, file, offset);
    let range = snapshot.range(file, found.replaces);
    let is_incomplete = found.is_incomplete || found.items.len() > MOST;
    let imports = found.items.iter().filter(|item| item.import.is_some()).count();
    let uri = params.text_document_position.text_document.uri;
    let items = found
        .items
        .into_iter()
        .take(MOST)
        .map(|item| {
            let new_text = item.insert.clone().unwrap_or_else(|| item.label.clone());
            let data = item.import.as_ref().map(
                |module| json!({"uri": uri.as_str(), "module": module, "name": item.label, "at": u32::from(offset)}),
            );
            let edits = match imports <= MOST_AT_ONCE {
                true => {
                    item.import.as_ref().and_then(|module| import_edits(snapshot, file, module, &item.label, offset))
                }
                false => None,
            };
            CompletionItem {
                kind: Some(kind(item.kind)),
                sort_text: Some(format!("{:04}{}", item.rank, item.label)),
                filter_text: Some(item.label.clone()),
                text_edit: Some(CompletionTextEdit::Edit(TextEdit { range, new_text })),
                additional_text_edits: edits,
                tags: item.is_deprecated.then(|| vec![CompletionItemTag::DEPRECATED]),
                data,
                ..described(&item)
            }
        })
        .collect();
    Ok(Some(CompletionResponse::List(CompletionList { is_incomplete, items })))
}

fn described(item: &Item) -> CompletionItem {
    let detail = (!item.detail.is_empty()).then(|| item.detail.clone());
    let from = item.import.as_ref().filter(|module| !module.is_empty());
    CompletionItem {
        label: item.label.clone(),
        detail,
        label_details: from
            .map(|module| CompletionItemLabelDetails { detail: None, description: Some(module.clone()) }),
        ..CompletionItem::default()
    }
}

fn kind(kind: ItemKind) -> CompletionItemKind {
    match kind {
        ItemKind::Module => CompletionItemKind::MODULE,
        ItemKind::Class => CompletionItemKind::CLASS,
        ItemKind::Function => CompletionItemKind::FUNCTION,
        ItemKind::Method => CompletionItemKind::METHOD,
        ItemKind::Property => CompletionItemKind::PROPERTY,
        ItemKind::Field => CompletionItemKind::FIELD,
        ItemKind::Variable | ItemKind::Argument => CompletionItemKind::VARIABLE,
        ItemKind::Constant => CompletionItemKind::CONSTANT,
        ItemKind::EnumMember => CompletionItemKind::ENUM_MEMBER,
        ItemKind::Key => CompletionItemKind::FIELD,
        ItemKind::Literal => CompletionItemKind::VALUE,
        ItemKind::Keyword => CompletionItemKind::KEYWORD,
    }
}

fn import_edits(snapshot: &Snapshot, file: File, module: &str, name: &str, at: TextSize) -> Option<Vec<TextEdit>> {
    // With no module of its own, the name is a module's.
    let (module, name) = if module.is_empty() { (name, None) } else { (module, Some(name)) };
    let edits = import::edits(&snapshot.session.db, file, module, name, at)?;
    Some(snapshot.edits(file, &edits))
}

/// The document that an item was offered in, where there is more to be told of it.
#[must_use]
pub fn document_of(item: &CompletionItem) -> Option<Uri> {
    let uri = item.data.as_ref()?.get("uri")?.as_str()?;
    Uri::from_str(uri).ok()
}

/// `completionItem/resolve`: the import that an item needs.
#[must_use]
pub fn resolve(snapshot: &Snapshot, file: File, mut item: CompletionItem) -> CompletionItem {
    if item.additional_text_edits.is_none()
        && let Some(data) = item.data.as_ref()
        && let Some(module) = data.get("module").and_then(serde_json::Value::as_str)
        && let Some(name) = data.get("name").and_then(serde_json::Value::as_str)
    {
        let at = data.get("at").and_then(serde_json::Value::as_u64).and_then(|at| u32::try_from(at).ok());
        let at = TextSize::new(at.unwrap_or_default());
        item.additional_text_edits = import_edits(snapshot, file, module, name, at);
    }
    item
}
