//! What is read of a function from the text alone: how it is bound, and which of its namesakes are its overloads.

use std::sync::Arc;

use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId, FunctionId};
use leitmotiv_syntax::names::known;

use crate::base::db::Db;
use crate::base::file::File;
use crate::resolve::module_index;
use crate::types::Binding;
use smallvec::SmallVec;

/// How many definitions of a name are looked through for each of its functions.
const FEW_DEFINITIONS: usize = 16;

/// The body in which a function's decorators, defaults and annotations are evaluated.
pub fn enclosing_body(db: &dyn Db, file: File, function: FunctionId) -> leitmotiv_index::tree::BodyId {
    let index = module_index(db, file);
    index.defs[index.functions[function].def].body
}

/// How a function of a class takes its first argument.
pub fn binding(db: &dyn Db, file: File, function: FunctionId) -> Binding {
    let index = module_index(db, file);
    let record = &index.functions[function];
    if record.class.is_none() {
        return Binding::Static;
    }
    for decorator in &record.decorators {
        match index.exprs[*decorator] {
            Expr::Name(known::STATICMETHOD, _) => return Binding::Static,
            Expr::Name(known::CLASSMETHOD, _) => return Binding::Class,
            _ => {}
        }
    }
    let name = db.names().text(record.name);
    match name {
        // Implicitly so (data model).
        "__new__" => Binding::Static,
        "__init_subclass__" | "__class_getitem__" => Binding::Class,
        _ => Binding::Instance,
    }
}

/// The signatures that calls of a function may use: its own, or those of its overloads in order (typing specification,
/// "Overloads").
pub fn overloads(db: &dyn Db, file: File, function: FunctionId) -> Signatures {
    let index = module_index(db, file);
    let record = &index.functions[function];
    let scope = &index.scopes[index.defs[record.def].scope];
    let Some(symbol) = scope.symbols.get(&record.name) else { return Signatures::One(function) };
    if symbol.defs.len() <= FEW_DEFINITIONS {
        return match signatures_among(index, &symbol.defs).as_slice() {
            [] => Signatures::One(function),
            found => Signatures::Many(found.into()),
        };
    }
    // One walk serves all functions of a name.
    let first = symbol.defs.iter().find_map(|def| match index.defs[*def].kind {
        DefKind::Function(first) => Some(first),
        _ => None,
    });
    let found = many_overloads(db, file, first.unwrap_or(function));
    if found.is_empty() { Signatures::One(function) } else { Signatures::Many(found) }
}

/// The functions whose signatures the calls of a function may use, in order.
#[derive(Debug, Clone)]
pub enum Signatures {
    /// It has no overloads.
    One(FunctionId),
    /// Its overloads.
    Many(Arc<[FunctionId]>),
}

impl std::ops::Deref for Signatures {
    type Target = [FunctionId];

    fn deref(&self) -> &[FunctionId] {
        match self {
            Signatures::One(function) => std::slice::from_ref(function),
            Signatures::Many(functions) => functions,
        }
    }
}

/// The overloads among the definitions of a name, by the first of its functions; empty where there are none.
#[salsa::tracked(returns(clone))]
pub(crate) fn many_overloads(db: &dyn Db, file: File, first: FunctionId) -> Arc<[FunctionId]> {
    let index = module_index(db, file);
    let record = &index.functions[first];
    let scope = &index.scopes[index.defs[record.def].scope];
    scope
        .symbols
        .get(&record.name)
        .map(|symbol| signatures_among(index, &symbol.defs))
        .unwrap_or_default()
        .as_slice()
        .into()
}

fn signatures_among(index: &leitmotiv_index::tree::ModuleIndex, defs: &[DefId]) -> SmallVec<[FunctionId; 4]> {
    let of = |def: &DefId| match index.defs[*def].kind {
        DefKind::Function(other) if !index.defs[*def].reach.is_never() => Some(other),
        _ => None,
    };
    let is_signature = |function: &FunctionId| {
        index.functions[*function].decorators.iter().any(|decorator| is_overload(index, *decorator))
    };
    defs.iter().filter_map(of).filter(is_signature).collect()
}

pub(crate) fn is_overload(index: &leitmotiv_index::tree::ModuleIndex, decorator: ExprId) -> bool {
    index.decorator_name(decorator) == Some(known::OVERLOAD)
}

/// A method that only raises `NotImplementedError` is meant to be overridden.
pub(crate) fn is_overridable_stub(db: &dyn Db, file: File, function: FunctionId) -> bool {
    let index = module_index(db, file);
    let record = &index.functions[function];
    if record.class.is_none() {
        return false;
    }
    index.bodies[record.body].statements.iter().any(|statement| match &statement.kind {
        leitmotiv_index::tree::StatementKind::Raise { exception: Some(exception), .. } => {
            let raised = match &index.exprs[*exception] {
                Expr::Call { callee, .. } => *callee,
                _ => *exception,
            };
            matches!(index.exprs[raised], Expr::Name(known::NOT_IMPLEMENTED_ERROR, _))
        }
        _ => false,
    })
}
