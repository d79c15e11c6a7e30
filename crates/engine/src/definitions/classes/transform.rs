//! Functions, base classes and metaclasses that make classes like dataclasses (PEP 681).

use leitmotiv_index::tree::{Arg, ArgKind, BodyId, Expr, ExprId};

use super::dataclass::Options;
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::resolve::module_index;
use crate::types::{ClassRef, FunctionRef, Literal, Type};
use leitmotiv_syntax::names::Name;

/// Where a `dataclass_transform(…)` stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Site {
    /// The file.
    pub file: File,
    /// The call.
    pub call: ExprId,
}

/// The mark among a function's decorators, or among those of one of its signatures.
pub fn of_function(db: &dyn Db, function: FunctionRef) -> Option<Site> {
    let index = module_index(db, function.file);
    let signatures = crate::definitions::written::overloads(db, function.file, function.function);
    let all = signatures.iter().copied().chain([function.function]);
    all.into_iter().find_map(|function_id| mark(db, function.file, &index.functions[function_id].decorators))
}

/// The mark among a class's decorators.
pub fn of_class(db: &dyn Db, class: ClassRef) -> Option<Site> {
    mark(db, class.file, &module_index(db, class.file).classes[class.class].decorators)
}

fn mark(db: &dyn Db, file: File, decorators: &[ExprId]) -> Option<Site> {
    let index = module_index(db, file);
    decorators.iter().find_map(|decorator| {
        let Expr::Call { callee, .. } = index.exprs[*decorator] else { return None };
        let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = index.exprs[callee] else { return None };
        let is_mark = matches!(db.names().text(name), "dataclass_transform" | "__dataclass_transform__");
        is_mark.then_some(Site { file, call: *decorator })
    })
}

/// What a class is by such a mark: what its own arguments say, and the mark's defaults for the rest.
pub(super) fn options(db: &dyn Db, site: Site, own: &File, args: &[Arg]) -> Options {
    let index = module_index(db, site.file);
    let Expr::Call { args: said, .. } = &index.exprs[site.call] else { return Options::plain() };
    let written = |file: File, args: &[Arg], name: &str| {
        let found =
            args.iter().find(|arg| matches!(arg.kind, ArgKind::Keyword(key) if db.names().text(key) == name))?;
        match module_index(db, file).exprs[found.value] {
            Expr::Bool(value) => Some(value),
            _ => None,
        }
    };
    let flag = |name: &str, default: bool| {
        let by_mark = || written(site.file, said, &format!("{name}_default"));
        written(*own, args, name).or_else(by_mark).unwrap_or(default)
    };
    Options {
        init: flag("init", true),
        kw_only: flag("kw_only", false),
        frozen: flag("frozen", false),
        order: flag("order", false),
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
    let index = module_index(infer.db, site.file);
    let Expr::Call { args, .. } = &index.exprs[site.call] else { return false };
    let specifiers = args
        .iter()
        .find(|arg| matches!(arg.kind, ArgKind::Keyword(key) if infer.db.names().text(key) == "field_specifiers"));
    let Some(specifiers) = specifiers else { return false };
    let Expr::Tuple(parts) = &index.exprs[specifiers.value] else { return false };
    let called = infer.quietly(callee);
    let mut there = Infer::new(infer.db, site.file, BodyId(0));
    parts.iter().any(|part| {
        let one = there.quietly(*part);
        one == called && matches!(one, Type::Function(_) | Type::Class(_))
    })
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
