//! Who calls, and what is called.

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::union::parts;
use leitmotiv_engine::view::references::callers;
use leitmotiv_engine::view::symbols::{self, Kind};
use leitmotiv_engine::view::things::{Reader, behind_imports};
use leitmotiv_index::tree::{DefKind, Expr, ExprId, FunctionId};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{TextRange, TextSize};
use lsp_types::{
    CallHierarchyIncomingCall, CallHierarchyIncomingCallsParams, CallHierarchyItem, CallHierarchyOutgoingCall,
    CallHierarchyOutgoingCallsParams, CallHierarchyPrepareParams, SymbolKind,
};

use super::Answer;
use crate::snapshot::Snapshot;

/// `textDocument/prepareCallHierarchy`
///
/// # Errors
/// None.
pub fn prepare(
    snapshot: &Snapshot,
    file: File,
    params: CallHierarchyPrepareParams,
) -> Answer<Option<Vec<CallHierarchyItem>>> {
    let db = &snapshot.session.db;
    let offset = snapshot.offset(file, params.text_document_position_params.position);
    let mut reader = Reader::new(db, file);
    let Some(mention) = reader.at(offset) else { return Ok(None) };
    let mut found: Vec<(File, FunctionId)> = Vec::new();
    for thing in reader.means(mention) {
        let thing = behind_imports(db, thing);
        let index = module_index(db, thing.file());
        for def in thing.definitions(db) {
            match index.defs[def].kind {
                DefKind::Function(function) => found.push((thing.file(), function)),
                // A class is called by its `__init__`.
                DefKind::Class(class) => {
                    let own = index.classes[class].methods.iter().copied();
                    let init = own.into_iter().find(|method| index.functions[*method].name == known::INIT);
                    found.extend(init.map(|init| (thing.file(), init)));
                }
                _ => {}
            }
        }
    }
    let items: Vec<CallHierarchyItem> =
        found.into_iter().filter_map(|(file, function)| item(snapshot, file, Some(function))).collect();
    Ok((!items.is_empty()).then_some(items))
}

/// A function, or a module, as an item.
fn item(snapshot: &Snapshot, file: File, function: Option<FunctionId>) -> Option<CallHierarchyItem> {
    let db = &snapshot.session.db;
    let index = module_index(db, file);
    let (name, kind, range, selection) = match function {
        Some(function) => {
            let record = &index.functions[function];
            let kind = match symbols::kind_of(db, file, function) {
                Kind::Constructor => SymbolKind::CONSTRUCTOR,
                Kind::Method => SymbolKind::METHOD,
                Kind::Property => SymbolKind::PROPERTY,
                _ => SymbolKind::FUNCTION,
            };
            (functions::shown(db, file, function), kind, record.range, record.name_range)
        }
        None => {
            let name = db.names().text(file.module(db)).to_owned();
            (name, SymbolKind::MODULE, TextRange::up_to(TextSize::of(&**file.text(db))), TextRange::default())
        }
    };
    Some(CallHierarchyItem {
        name,
        kind,
        tags: None,
        detail: Some(db.names().text(file.module(db)).to_owned()),
        uri: snapshot.uri(file)?,
        range: snapshot.range(file, range),
        selection_range: snapshot.range(file, selection),
        data: None,
    })
}

/// The function that an item is, by where its name stands.
fn function_of(snapshot: &Snapshot, file: File, item: &CallHierarchyItem) -> Option<FunctionId> {
    let index = module_index(&snapshot.session.db, file);
    let at = snapshot.offset(file, item.selection_range.start);
    index.functions.iter().find(|(_, record)| record.name_range.start() == at).map(|(function, _)| function)
}

/// `callHierarchy/incomingCalls`
///
/// # Errors
/// None.
pub fn incoming(
    snapshot: &Snapshot,
    file: File,
    params: CallHierarchyIncomingCallsParams,
) -> Answer<Option<Vec<CallHierarchyIncomingCall>>> {
    let Some(function) = function_of(snapshot, file, &params.item) else { return Ok(None) };
    let found = callers(&snapshot.session.db, file, function);
    let calls = found.into_iter().filter_map(|caller| {
        let from_ranges = caller.calls.iter().map(|range| snapshot.range(caller.file, *range)).collect();
        Some(CallHierarchyIncomingCall { from: item(snapshot, caller.file, caller.function)?, from_ranges })
    });
    Ok(Some(calls.collect()))
}

/// `callHierarchy/outgoingCalls`
///
/// # Errors
/// None.
pub fn outgoing(
    snapshot: &Snapshot,
    file: File,
    params: CallHierarchyOutgoingCallsParams,
) -> Answer<Option<Vec<CallHierarchyOutgoingCall>>> {
    let db = &snapshot.session.db;
    let function = function_of(snapshot, file, &params.item);
    let mut reader = Reader::new(db, file);
    let index = reader.index;
    let body = match function {
        Some(function) => index.functions[function].body,
        None => index.bodies.iter().next().map(|(body, _)| body).unwrap_or(leitmotiv_index::tree::BodyId(0)),
    };
    let mut found: Vec<((File, FunctionId), Vec<TextRange>)> = Vec::new();
    for number in index.bodies[body].exprs.clone() {
        let Expr::Call { callee, .. } = index.exprs[ExprId(number)] else { continue };
        let ty = reader.type_of(callee);
        let called: Vec<(File, FunctionId)> =
            parts(db.store(), &ty).iter().filter_map(|part| called(snapshot, *part)).collect();
        for one in called {
            match found.iter_mut().find(|(known, _)| *known == one) {
                Some((_, places)) => places.push(index.spans[callee]),
                None => found.push((one, vec![index.spans[callee]])),
            }
        }
    }
    let calls = found.into_iter().filter_map(|((to, function), places)| {
        let from_ranges = places.iter().map(|range| snapshot.range(file, *range)).collect();
        Some(CallHierarchyOutgoingCall { to: item(snapshot, to, Some(function))?, from_ranges })
    });
    Ok(Some(calls.collect()))
}

/// The function that is called; of a class its `__init__`, where the project has written one.
fn called(snapshot: &Snapshot, ty: Type) -> Option<(File, FunctionId)> {
    let db = &snapshot.session.db;
    let store = db.store();
    match ty {
        Type::Function(id) => {
            let function = store.function(id);
            Some((function.file, function.function))
        }
        Type::Method(id) => called(snapshot, store.method(id).function),
        Type::Class(id) => {
            let found = leitmotiv_engine::definitions::classes::members::find(db, id, known::INIT, None)?;
            called(snapshot, found.member.ty).filter(|(file, _)| file.origin(db).is_own())
        }
        _ => None,
    }
}
