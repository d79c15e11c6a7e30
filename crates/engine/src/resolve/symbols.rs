//! What the names of a module mean to others.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyId, DefId, DefKind, ReachId, ScopeId, ValueId};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::{Name, known};

use super::{Imported, absolute_name, import_target, module_value};
use crate::base::asked::{Ask, saw};
use crate::base::cycles::converge;
use crate::base::db::{Config, Db};
use crate::base::file::File;
use crate::base::stored::{known_maybe, known_type};
use crate::infer::Infer;
use crate::outline::names::{exported, has_stars, module_names, names_for_others};
use crate::outline::{module_index, module_name, reading};
use crate::types::{Cause, CauseKind, Type};

/// The type of a scope's name as others see it: its declared type, or all that it may hold at its body's end or by
/// assignments elsewhere.
pub fn scope_type(db: &dyn Db, file: File, scope: ScopeId, name: Name) -> Type {
    let ask = if scope == ScopeId(0) { Ask::ScopeType(name) } else { Ask::Whole };
    saw(db, file, ask);
    if let Some(known) = known_type(db, file, ask) {
        return known;
    }
    scope_type_query(db, file, scope, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Type::Never, cycle_fn = recover_scope_type)]
fn scope_type_query(db: &dyn Db, file: File, scope: ScopeId, name: Name) -> Type {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let Some(symbol) = index.scopes[scope].symbols.get(&name) else { return Type::Never };
    let body = symbol.defs.first().or(symbol.foreign.first()).map_or(BodyId(0), |def| index.defs[*def].body);
    let mut infer = Infer::new(db, file, body);
    if let Some(declared) = infer.declared_symbol(scope, name) {
        return declared;
    }
    let mut parts = Vec::new();
    if let Some(exit) = symbol.exit {
        match infer.stated(exit) {
            Some(stated) => parts.push(stated),
            None => parts.push(infer.value(exit)),
        }
    }
    for def in &symbol.foreign {
        let mut infer = Infer::new(db, file, index.defs[*def].body);
        parts.push(infer.definition(*def));
    }
    let ty = infer.join(parts);
    // What is final keeps its literal type (PEP 591).
    if symbol.defs.iter().any(|def| infer.is_final(*def)) {
        return ty;
    }
    if let ([only], []) = (symbol.defs.as_slice(), symbol.foreign.as_slice()) {
        // What is imported is what it is to others already; a name for one member of an enumeration is meant to be just that.
        let is_import = matches!(index.defs[*only].kind, DefKind::ImportFrom { .. });
        let is_member =
            matches!(ty, Type::Literal(id) if matches!(db.store().literal(id), crate::types::Literal::Enum(..)));
        if is_import || is_member {
            return ty;
        }
    }
    if ty == Type::None && scope == ScopeId(0) && !file.is_stub(db) {
        // What is only ever None in its own module is there to be set from elsewhere.
        let at = Anchor::Name(index.scope_key(scope), name, 0);
        return Type::Unknown(db.store().intern_cause(Cause { kind: CauseKind::Dynamic, file, at, name }));
    }
    infer.widen_for_others(ty)
}

pub(crate) fn recover_scope_type(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    value: Type,
    file: File,
    scope: ScopeId,
    name: Name,
) -> Type {
    let _reading = reading(db, file);
    let at = Anchor::Name(module_index(db, file).scope_key(scope), name, 0);
    converge(db, cycle.iteration(), *last, value, Cause { kind: CauseKind::Cycle, file, at, name })
}

/// The type of a value of an enclosing body, seen from a function defined there.
pub fn captured_type(db: &dyn Db, file: File, body: BodyId, value: ValueId) -> Type {
    saw(db, file, Ask::Whole);
    captured_type_query(db, file, body, value)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Type::Never, cycle_fn = recover_captured)]
fn captured_type_query(db: &dyn Db, file: File, body: BodyId, value: ValueId) -> Type {
    let _reading = reading(db, file);
    Infer::new(db, file, body).value(value)
}

pub(crate) fn recover_captured(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    now: Type,
    file: File,
    _body: BodyId,
    _value: ValueId,
) -> Type {
    let at = Anchor::Module;
    converge(db, cycle.iteration(), *last, now, Cause { kind: CauseKind::Cycle, file, at, name: known::EMPTY })
}

/// A member of a module: a name bound in it, by a star import into it, or a submodule. `None` where it has none.
pub fn member(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    // What our own stubs import, the module mostly imports as well, and somebody may take it from there.
    if (file.origin(db) == Origin::Bundled || !is_private_import(db, file, name))
        && let Some(ty) = own_name(db, file, name)
    {
        return Some(ty);
    }
    if let Some(submodule) = submodule(db, file, name) {
        return Some(submodule);
    }
    let is_undocumented = || {
        let names = db.names();
        file.origin(db) == Origin::Bundled
            && leitmotiv_stdlib::is_undocumented(names.text(file.module(db)), names.text(name))
    };
    if module_name(db, file, name).is_made || is_undocumented() {
        let cause = Cause { kind: CauseKind::Dynamic, file, at: Anchor::Module, name };
        return Some(Type::Unknown(db.store().intern_cause(cause)));
    }
    None
}

/// Whether a module has a name for other versions of the language only: by the conditions in a stub of the project or of our
/// own, or by our list of what came when. Code tells platforms apart in more ways than can be followed, so that what our stubs
/// have for other platforms counts as there.
pub(crate) fn is_for_other_versions(db: &dyn Db, file: File, name: Name) -> bool {
    if !file.is_stub(db) {
        return false;
    }
    let for_others = || {
        let names = names_for_others(db, file);
        let place = names.binary_search_by_key(&name, |(name, _)| *name);
        place.ok().map(|place| names[place].1)
    };
    match file.origin(db) {
        Origin::Project => for_others().is_some(),
        Origin::Bundled => {
            let version = Config::get(db).target(db).version;
            let names = db.names();
            for_others() == Some(false)
                || leitmotiv_stdlib::lacks_name(names.text(file.module(db)), names.text(name), version)
        }
        _ => false,
    }
}

/// Whether a stub only imports a name for its own use: it gives on what it imports under `as`, by a star, or what `__all__`
/// names (typing specification, "Distributing type information", import conventions).
pub(crate) fn is_private_import(db: &dyn Db, file: File, name: Name) -> bool {
    if !file.is_stub(db) {
        return false;
    }
    let outline = module_name(db, file, name);
    outline.is_only_imported && outline.is_exported != Some(true)
}

/// A name bound in a module or by a star import into it.
pub fn own_name(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    let ty = scope_type(db, file, ScopeId(0), name);
    if ty != Type::Never || module_name(db, file, name).is_bound {
        return Some(ty);
    }
    if has_stars(db, file) { starred(db, file, name) } else { None }
}

/// A name that star imports bring into a module, remembered: a package may gather those of hundreds of modules.
pub fn starred(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    saw(db, file, Ask::Starred(name));
    if let Some(known) = known_maybe(db, file, Ask::Starred(name)) {
        return known;
    }
    starred_query(db, file, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| None, cycle_fn = recover_starred)]
fn starred_query(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    let _reading = reading(db, file);
    star_name(db, file, name)
}

pub(crate) fn recover_starred(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Option<Type>,
    value: Option<Type>,
    file: File,
    name: Name,
) -> Option<Type> {
    let cause = Cause { kind: CauseKind::Cycle, file, at: Anchor::Module, name };
    Some(converge(db, cycle.iteration(), last.unwrap_or(Type::Never), value?, cause))
}

fn star_name(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    let stars = &module_index(db, file).scopes[ScopeId(0)].stars;
    // A module that is not there may have the name; one that is there, and has it, is more likely meant.
    let mut unknown = None;
    let is_missing = |found: Type, star: DefId| {
        let Type::Unknown(cause) = found else { return false };
        let cause = db.store().cause(cause);
        cause.file == file && cause.at == module_index(db, file).anchor_of_def(star)
    };
    let index = module_index(db, file);
    // One for another version of the language brings nothing.
    for star in stars.iter().rev().filter(|star| index.defs[**star].reach != ReachId::EXCLUDED) {
        match star_member(db, file, *star, name) {
            Some(found) if is_missing(found, *star) => unknown = unknown.or(Some(found)),
            Some(found) => return Some(found),
            None => {}
        }
    }
    unknown
}

/// What `name` is by a star import, if it comes from there.
pub(crate) fn star_member(db: &dyn Db, file: File, star: DefId, name: Name) -> Option<Type> {
    let index = module_index(db, file);
    let DefKind::Star { module, level } = index.defs[star].kind else { return None };
    let Some(target) = import_target(db, file, module, level) else {
        // Whatever is not known may have come from there.
        let at = index.anchor_of_def(star);
        let cause = Cause { kind: CauseKind::UnresolvedImport, file, at, name: module };
        return Some(Type::Unknown(db.store().intern_cause(cause)));
    };
    let Imported::File(target) = target else { return None };
    if target == file {
        return None;
    }
    if target.origin(db) == Origin::Untyped && target.is_stub(db) {
        // Machine code: any public name may come from there.
        let at = index.anchor_of_def(star);
        let cause = Cause { kind: CauseKind::UntypedImport, file, at, name: module };
        return (!db.names().text(name).starts_with('_')).then(|| Type::Unknown(db.store().intern_cause(cause)));
    }
    // Of most names that are asked for, a module has nothing: what it lists and binds says so at once.
    let exported = exported(db, target);
    let is_bound = module_names(db, target).binary_search(&name).is_ok();
    let visible = match exported {
        Some(all) => all.binary_search(&name).is_ok(),
        None => {
            let is_private = db.names().text(name).starts_with('_');
            !is_private && (!is_bound || !is_private_import(db, target, name))
        }
    };
    if !visible {
        return None;
    }
    let own = match is_bound {
        true => Some(scope_type(db, target, ScopeId(0), name)),
        false if has_stars(db, target) => starred(db, target, name),
        false => None,
    };
    own.or_else(|| {
        let is_there = exported.is_some() || imports_submodule(db, target, name);
        is_there.then(|| submodule(db, target, name)).flatten()
    })
}

/// Whether a package imports from its submodule of that name, which makes the submodule an attribute of the package
/// (language reference, "Submodules").
pub(crate) fn imports_submodule(db: &dyn Db, package: File, name: Name) -> bool {
    saw(db, package, Ask::ImportsSubmodule(name));
    imports_submodule_query(db, package, name)
}

#[salsa::tracked(returns(copy))]
fn imports_submodule_query(db: &dyn Db, package: File, name: Name) -> bool {
    let _reading = reading(db, package);
    let full = format!("{}.{}", db.names().text(package.module(db)), db.names().text(name));
    let Some(full) = db.names().find(&full) else { return false };
    module_index(db, package).defs.iter().any(|(_, def)| match def.kind {
        DefKind::ImportFrom { module, level, .. } | DefKind::Star { module, level } => {
            absolute_name(db, package, module, level) == Some(full)
        }
        DefKind::Import { module, .. } => module == full,
        _ => false,
    })
}

/// A submodule of a package.
pub fn submodule(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    if !file.is_package(db) {
        return None;
    }
    let full = format!("{}.{}", db.names().text(file.module(db)), db.names().text(name));
    let full = db.names().intern(&full);
    module_value(db, full, Some(file)).filter(|found| match found {
        Type::Module(found) => is_same_package(db, file, *found),
        _ => true,
    })
}

/// Whether what a regular package of the project gives is its own: of another copy that is installed, nothing comes but what was
/// built there.
pub(crate) fn is_same_package(db: &dyn Db, package: File, found: File) -> bool {
    let is_copy = matches!(found.origin(db), Origin::Typed | Origin::Untyped) && found.path(db).ends_with(".py");
    // A stub of a part stands for the rest of an installed package.
    package.origin(db) != Origin::Project || package.is_stub(db) || !is_copy
}
