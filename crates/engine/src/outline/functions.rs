//! What is read of a function from its text alone: its parameters' names, how it is bound, which of its namesakes are its overloads.

use std::sync::Arc;

use leitmotiv_index::tree::{
    BodyId, BodyShape, ClassId, DefId, DefKind, Expr, ExprId, FunctionId, ModuleIndex, ParamKind, StatementKind,
};
use leitmotiv_syntax::names::{Name, known};
use smallvec::SmallVec;

use super::{bundled, module_index, reading};
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::types::Binding;

/// A function as its text has it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FunctionOutline {
    /// Its name.
    pub name: Name,
    /// The class whose body it is defined in.
    pub class: Option<ClassId>,
    /// Parameters, in the order of the text, the first one of methods included.
    pub params: Box<[ParamOutline]>,
    /// Whether its result is annotated.
    pub is_annotated: bool,
    /// Decorators, in the order of the text.
    pub decorators: Box<[Decorator]>,
    /// How it takes its first argument, if it is a class's.
    pub binding: Binding,
    /// The signatures that calls of it may use.
    pub signatures: Signatures,
    /// What its body consists of, as far as that matters to its callers.
    pub shape: BodyShape,
    /// `async def`
    pub is_async: bool,
    /// Whether it yields.
    pub is_generator: bool,
    /// Whether its `return` statements give nothing but `False` and None.
    pub only_denies: bool,
}

impl FunctionOutline {
    /// Whether one of its decorators is written without arguments and by that name: `final` of `@final` and `@typing.final`.
    #[must_use]
    pub fn is_under(&self, name: Name) -> bool {
        self.decorators.iter().any(|decorator| decorator.bare == Some(name))
    }
}

/// A parameter as its text has it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct ParamOutline {
    /// Its name.
    pub name: Name,
    /// How arguments reach it.
    pub kind: ParamKind,
    /// Whether it is annotated.
    pub is_annotated: bool,
    /// Its default.
    pub default: DefaultOutline,
}

/// A parameter's default as its text has it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum DefaultOutline {
    /// There is none.
    Absent,
    /// `None`
    None,
    /// Any other.
    Some,
}

/// A decorator as its text has it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Decorator {
    /// The name of one without arguments: `final` of `@final` and of `@typing.final`.
    pub bare: Option<Name>,
    /// The name of one with arguments: `deprecated` of `@deprecated("…")`.
    pub called: Option<Name>,
    /// Whether it is a name alone, without the module's.
    pub is_plain: bool,
}

impl Decorator {
    pub(super) fn all(index: &ModuleIndex, decorators: &[ExprId]) -> Box<[Decorator]> {
        let of = |decorator: &ExprId| {
            let called = match index.exprs[*decorator] {
                Expr::Call { callee, .. } => index.decorator_name(callee),
                _ => None,
            };
            let is_plain = matches!(index.exprs[*decorator], Expr::Name(..));
            Decorator { bare: index.decorator_name(*decorator), called, is_plain }
        };
        decorators.iter().map(of).collect()
    }
}

/// The functions whose signatures the calls of a function may use, in order.
#[derive(Debug, Clone, PartialEq, Eq)]
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

/// A function as its text has it.
pub fn function(db: &dyn Db, file: File, function: FunctionId) -> &FunctionOutline {
    bundled::function(db, file, function, || read(db, file, function))
        .unwrap_or_else(|| function_outline(db, file, function))
}

fn function_outline(db: &dyn Db, file: File, function: FunctionId) -> &FunctionOutline {
    saw(db, file, Ask::FunctionOutline(function));
    function_outline_query(db, file, function)
}

#[salsa::tracked(returns(ref))]
fn function_outline_query(db: &dyn Db, file: File, function: FunctionId) -> FunctionOutline {
    let _reading = reading(db, file);
    read(db, file, function)
}

fn read(db: &dyn Db, file: File, function: FunctionId) -> FunctionOutline {
    let index = module_index(db, file);
    let record = &index.functions[function];
    let default = |default: Option<ExprId>| match default.map(|default| &index.exprs[default]) {
        None => DefaultOutline::Absent,
        Some(Expr::None) => DefaultOutline::None,
        Some(_) => DefaultOutline::Some,
    };
    let param = |param: &leitmotiv_index::tree::Param| ParamOutline {
        name: param.name,
        kind: param.kind,
        is_annotated: param.annotation.is_some(),
        default: default(param.default),
    };
    let body = &index.bodies[record.body];
    FunctionOutline {
        name: record.name,
        class: record.class,
        params: record.params.iter().map(param).collect(),
        is_annotated: record.returns.is_some(),
        decorators: Decorator::all(index, &record.decorators),
        binding: binding(db, index, function),
        signatures: signatures(db, file, index, function),
        shape: record.shape,
        is_async: record.is_async,
        is_generator: !body.yields.is_empty(),
        only_denies: body.returns.iter().all(|statement| {
            statement.value.is_none_or(|value| matches!(index.exprs[value], Expr::Bool(false) | Expr::None))
        }),
    }
}

/// The body in which a function's decorators, defaults and annotations are evaluated.
pub fn enclosing_body(db: &dyn Db, file: File, function: FunctionId) -> BodyId {
    let index = module_index(db, file);
    index.defs[index.functions[function].def].body
}

/// How a function takes its first argument, as [`FunctionOutline::binding`]: for those who read its file.
pub(crate) fn binding(db: &dyn Db, index: &ModuleIndex, function: FunctionId) -> Binding {
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
    match db.names().text(record.name) {
        // Implicitly so (data model).
        "__new__" => Binding::Static,
        "__init_subclass__" | "__class_getitem__" => Binding::Class,
        _ => Binding::Instance,
    }
}

/// How many definitions of a name are looked through for each of its functions.
const FEW_DEFINITIONS: usize = 16;

/// The signatures that calls of a function may use: its own, or those of its overloads in order (typing specification,
/// "Overloads"), as [`FunctionOutline::signatures`]: for those who read its file.
pub(crate) fn signatures(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId) -> Signatures {
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

/// The overloads among the definitions of a name, by the first of its functions; empty where there are none.
pub(crate) fn many_overloads(db: &dyn Db, file: File, first: FunctionId) -> Arc<[FunctionId]> {
    saw(db, file, Ask::ManyOverloads(first));
    many_overloads_query(db, file, first)
}

#[salsa::tracked(returns(clone))]
fn many_overloads_query(db: &dyn Db, file: File, first: FunctionId) -> Arc<[FunctionId]> {
    let _reading = reading(db, file);
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

fn signatures_among(index: &ModuleIndex, defs: &[DefId]) -> SmallVec<[FunctionId; 4]> {
    let of = |def: &DefId| match index.defs[*def].kind {
        DefKind::Function(other) if !index.defs[*def].reach.is_never() => Some(other),
        _ => None,
    };
    let is_signature = |function: &FunctionId| {
        index.functions[*function].decorators.iter().any(|decorator| is_overload(index, *decorator))
    };
    defs.iter().filter_map(of).filter(is_signature).collect()
}

/// Whether a decorator marks a signature of an overloaded function.
pub(crate) fn is_overload(index: &ModuleIndex, decorator: ExprId) -> bool {
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
        StatementKind::Raise { exception: Some(exception), .. } => {
            let raised = match &index.exprs[*exception] {
                Expr::Call { callee, .. } => *callee,
                _ => *exception,
            };
            matches!(index.exprs[raised], Expr::Name(known::NOT_IMPLEMENTED_ERROR, _))
        }
        _ => false,
    })
}
