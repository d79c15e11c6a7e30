//! Functions, base classes and metaclasses that make classes like dataclasses (PEP 681).

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{Arg, ArgKind, BodyId, Expr, ExprId, ModuleIndex};
use leitmotiv_syntax::names::Name;

use super::dataclass::Options;
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::functions::Decorator;
use crate::outline::{self, module_index, reading};
use crate::types::{ClassRef, FunctionRef, Literal, Type};

/// What a `dataclass_transform(…)` marks.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Site {
    /// The file.
    pub file: File,
    /// The function or class, by its name.
    pub at: Anchor,
}

/// What a mark says of the classes made by what it marks, where a class does not say it itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Defaults {
    kw_only: Option<bool>,
    frozen: Option<bool>,
    order: Option<bool>,
}

/// The mark of a function, or of one of its signatures.
pub fn of_function(db: &dyn Db, function: FunctionRef) -> Option<Site> {
    let file = function.file;
    let outline = outline::function(db, file, function.function);
    let all = outline.signatures.iter().copied().chain([function.function]);
    all.into_iter().find_map(|one| {
        let is_marked = has_mark(db, &outline::function(db, file, one).decorators);
        is_marked.then_some(Site { file, at: Anchor::Function(one) })
    })
}

/// The mark of a class.
pub fn of_class(db: &dyn Db, class: ClassRef) -> Option<Site> {
    let is_marked = has_mark(db, &outline::class(db, class).decorators);
    is_marked.then_some(Site { file: class.file, at: Anchor::Class(class.class) })
}

fn has_mark(db: &dyn Db, decorators: &[Decorator]) -> bool {
    decorators.iter().filter_map(|decorator| decorator.called).any(|name| is_mark(db, name))
}

fn is_mark(db: &dyn Db, name: Name) -> bool {
    matches!(db.names().text(name), "dataclass_transform" | "__dataclass_transform__")
}

/// The arguments of the mark.
fn arguments(db: &dyn Db, index: &ModuleIndex, at: Anchor) -> Option<Box<[Arg]>> {
    index.decorators_at(at).iter().find_map(|decorator| {
        let Expr::Call { callee, ref args } = index.exprs[*decorator] else { return None };
        let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = index.exprs[callee] else { return None };
        is_mark(db, name).then(|| args.clone())
    })
}

/// What a keyword argument says, where it is `True` or `False`.
fn written(db: &dyn Db, index: &ModuleIndex, args: &[Arg], name: &str) -> Option<bool> {
    let found = args.iter().find(|arg| matches!(arg.kind, ArgKind::Keyword(key) if db.names().text(key) == name))?;
    match index.exprs[found.value] {
        Expr::Bool(value) => Some(value),
        _ => None,
    }
}

pub(crate) fn defaults(db: &dyn Db, file: File, at: Anchor) -> Defaults {
    saw(db, file, Ask::Defaults(at));
    defaults_query(db, file, at)
}

#[salsa::tracked(returns(copy))]
fn defaults_query(db: &dyn Db, file: File, at: Anchor) -> Defaults {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let args = arguments(db, index, at).unwrap_or_default();
    let said = |name: &str| written(db, index, &args, name);
    Defaults { kw_only: said("kw_only_default"), frozen: said("frozen_default"), order: said("order_default") }
}

/// What a class is by such a mark: what its own arguments, in the index of its file, say, and the mark's defaults for the rest.
pub(super) fn options(db: &dyn Db, site: Site, own: &ModuleIndex, args: &[Arg]) -> Options {
    let defaults = defaults(db, site.file, site.at);
    let flag =
        |name: &str, by_mark: Option<bool>, default: bool| written(db, own, args, name).or(by_mark).unwrap_or(default);
    Options {
        init: flag("init", None, true),
        kw_only: flag("kw_only", defaults.kw_only, false),
        frozen: flag("frozen", defaults.frozen, false),
        order: flag("order", defaults.order, false),
        slots: false,
        match_args: true,
        unhashed: false,
        transform: Some(site),
    }
}

/// Whether fields need no annotation: what the library attrs is given by `attr.ib()` is one ("attr.s" in its documentation).
pub(super) fn takes_plain(db: &dyn Db, site: Site) -> bool {
    matches!(db.names().text(site.file.module(db)), "attr" | "attrs")
}

/// What a constructor calls a private field by itself: the library attrs leaves the underscores away ("Private attributes" in
/// its documentation).
pub(super) fn public_name(db: &dyn Db, site: Site, name: Name) -> Option<Name> {
    let text = db.names().text(name);
    let is_private = text.starts_with('_') && !text.ends_with("__");
    let public = text.trim_start_matches('_');
    let leaves_away = takes_plain(db, site) && is_private && !public.is_empty();
    leaves_away.then(|| db.names().intern(public))
}

/// Whether a call describes a field: what is called is one of those that the mark names.
pub(super) fn describes_field(infer: &mut Infer<'_>, site: Site, callee: ExprId) -> bool {
    let called = infer.quietly(callee);
    matches!(called, Type::Function(_) | Type::Class(_)) && specifiers(infer.db, site.file, site.at).contains(&called)
}

/// What a mark names as the functions and classes that describe fields.
pub(crate) fn specifiers(db: &dyn Db, file: File, at: Anchor) -> &[Type] {
    saw(db, file, Ask::Specifiers(at));
    specifiers_query(db, file, at)
}

#[salsa::tracked(returns(deref), cycle_initial = |_, _, _, _| Box::default())]
fn specifiers_query(db: &dyn Db, file: File, at: Anchor) -> Box<[Type]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let args = arguments(db, index, at).unwrap_or_default();
    let is_list = |arg: &&Arg| matches!(arg.kind, ArgKind::Keyword(key) if db.names().text(key) == "field_specifiers");
    let Some(Expr::Tuple(parts)) = args.iter().find(is_list).map(|arg| &index.exprs[arg.value]) else {
        return Box::default();
    };
    let mut there = Infer::new(db, file, BodyId(0));
    parts.iter().map(|part| there.quietly(*part)).collect()
}

/// Whether a field's description says by its signature that `__init__` does not take the field: all its forms have a parameter
/// `init: Literal[False]` (typing specification, "Dataclass transform", "Field specifier parameters").
pub(super) fn leaves_out(infer: &mut Infer<'_>, callee: ExprId) -> bool {
    let (db, called) = (infer.db, infer.quietly(callee));
    if !matches!(called, Type::Function(_)) {
        return false;
    }
    let is_false = |ty: Type| matches!(ty, Type::Literal(id) if *db.store().literal(id) == Literal::Bool(false));
    let candidates = infer.candidates(called);
    !candidates.is_empty()
        && candidates.iter().all(|candidate| {
            candidate.signature.params.iter().any(|param| db.names().text(param.name) == "init" && is_false(param.ty))
        })
}
