//! What documents and the workspace define.

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::view::symbols::{self, Kind, Symbol};
use lsp_types::{
    DocumentSymbol, DocumentSymbolParams, DocumentSymbolResponse, Location, OneOf, SymbolInformation, SymbolKind,
    SymbolTag, WorkspaceSymbol, WorkspaceSymbolParams, WorkspaceSymbolResponse,
};
use rayon::prelude::*;

use super::Answer;
use crate::snapshot::Snapshot;

/// `textDocument/documentSymbol`
///
/// # Errors
/// None.
pub fn of_document(snapshot: &Snapshot, file: File, _: DocumentSymbolParams) -> Answer<Option<DocumentSymbolResponse>> {
    let all = symbols::of(&snapshot.session.db, file);
    if snapshot.client.has_symbol_tree {
        let tree = all.iter().map(|symbol| nested(snapshot, file, symbol)).collect();
        return Ok(Some(DocumentSymbolResponse::Nested(tree)));
    }
    let mut flat = Vec::new();
    for symbol in &all {
        flatten(snapshot, file, symbol, None, &mut flat);
    }
    Ok(Some(DocumentSymbolResponse::Flat(flat)))
}

#[allow(deprecated)]
fn nested(snapshot: &Snapshot, file: File, symbol: &Symbol) -> DocumentSymbol {
    let children: Vec<DocumentSymbol> = symbol.children.iter().map(|child| nested(snapshot, file, child)).collect();
    DocumentSymbol {
        name: symbol.name.clone(),
        detail: None,
        kind: kind(symbol.kind),
        tags: symbol.is_deprecated.then(|| vec![SymbolTag::DEPRECATED]),
        deprecated: None,
        range: snapshot.range(file, symbol.range),
        selection_range: snapshot.range(file, symbol.name_range),
        children: (!children.is_empty()).then_some(children),
    }
}

#[allow(deprecated)]
fn flatten(snapshot: &Snapshot, file: File, symbol: &Symbol, around: Option<&str>, out: &mut Vec<SymbolInformation>) {
    let Some(uri) = snapshot.uri(file) else { return };
    out.push(SymbolInformation {
        name: symbol.name.clone(),
        kind: kind(symbol.kind),
        tags: symbol.is_deprecated.then(|| vec![SymbolTag::DEPRECATED]),
        deprecated: None,
        location: Location { uri, range: snapshot.range(file, symbol.range) },
        container_name: around.map(str::to_owned),
    });
    for child in &symbol.children {
        flatten(snapshot, file, child, Some(&symbol.name), out);
    }
}

fn kind(kind: Kind) -> SymbolKind {
    match kind {
        Kind::Class => SymbolKind::CLASS,
        Kind::Enum => SymbolKind::ENUM,
        Kind::EnumMember => SymbolKind::ENUM_MEMBER,
        Kind::Protocol => SymbolKind::INTERFACE,
        Kind::Function => SymbolKind::FUNCTION,
        Kind::Method => SymbolKind::METHOD,
        Kind::Constructor => SymbolKind::CONSTRUCTOR,
        Kind::Property => SymbolKind::PROPERTY,
        Kind::Attribute => SymbolKind::FIELD,
        Kind::Constant => SymbolKind::CONSTANT,
        Kind::Variable => SymbolKind::VARIABLE,
        Kind::Alias => SymbolKind::TYPE_PARAMETER,
    }
}

/// So many symbols are sent.
const MOST: usize = 400;

/// `workspace/symbol`: those that have the letters asked for in their order.
///
/// # Errors
/// None.
pub fn of_workspace(snapshots: &[Snapshot], params: WorkspaceSymbolParams) -> Answer<Option<WorkspaceSymbolResponse>> {
    let query = params.query.to_lowercase();
    let mut found: Vec<(usize, WorkspaceSymbol)> = Vec::new();
    for snapshot in snapshots {
        let each: Vec<Vec<(usize, Symbol, Option<String>)>> = snapshot
            .files
            .par_iter()
            .map_with(snapshot.session.db.clone(), |db, file| {
                let mut own = Vec::new();
                for symbol in symbols::of(db, *file) {
                    matching(symbol, None, &query, &mut own);
                }
                own
            })
            .collect();
        for (file, own) in snapshot.files.iter().zip(each) {
            let Some(uri) = snapshot.uri(*file) else { continue };
            found.extend(own.into_iter().map(|(cost, symbol, around)| {
                let location = Location { uri: uri.clone(), range: snapshot.range(*file, symbol.name_range) };
                let symbol = WorkspaceSymbol {
                    name: symbol.name,
                    kind: kind(symbol.kind),
                    tags: None,
                    container_name: around,
                    location: OneOf::Left(location),
                    data: None,
                };
                (cost, symbol)
            }));
        }
    }
    // The nearest first; those alike by file and place, as they were found.
    found.sort_by_key(|(cost, _)| *cost);
    found.truncate(MOST);
    Ok(Some(WorkspaceSymbolResponse::Nested(found.into_iter().map(|(_, symbol)| symbol).collect())))
}

fn matching(symbol: Symbol, around: Option<&str>, query: &str, out: &mut Vec<(usize, Symbol, Option<String>)>) {
    for child in &symbol.children {
        matching(child.clone(), Some(&symbol.name), query, out);
    }
    let name = symbol.name.to_lowercase();
    let mut letters = name.chars();
    if !query.chars().all(|wanted| letters.any(|letter| letter == wanted)) {
        return;
    }
    let cost = match name.find(query) {
        Some(0) if name.len() == query.len() => 0,
        Some(0) => 1,
        Some(_) => 2,
        None => 3,
    };
    out.push((cost, Symbol { children: Vec::new(), ..symbol }, around.map(str::to_owned)));
}
