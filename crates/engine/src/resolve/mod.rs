//! Modules, imports, and what the names of a module mean to others.

use leitmotiv_index::lower::{Target, index_module};
use leitmotiv_index::tree::{BodyId, DefId, DefKind, ModuleIndex, ReachId, ScopeId, ValueId};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{TextRange, TextSize};

use crate::base::db::{Config, Db, File};
use crate::infer::Infer;
use crate::types::{Cause, CauseKind, ClassRef, Instance, InstanceId, Type};

/// What a module's text says about itself.
#[salsa::tracked(returns(ref), no_eq)]
pub fn module_index(db: &dyn Db, file: File) -> ModuleIndex {
    let target = Config::get(db).target(db);
    let target = Target { is_stub: file.is_stub(db), ..target.clone() };
    index_module(file.text(db), db.names(), &target)
}

/// The type of a scope's name as others see it: its declared type, or all that it may hold at its body's end or by
/// assignments elsewhere.
#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Type::Never, cycle_fn = recover_scope_type)]
pub fn scope_type(db: &dyn Db, file: File, scope: ScopeId, name: Name) -> Type {
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
        let range = definition_range(db, file, scope, name);
        return Type::Unknown(db.store().intern_cause(Cause { kind: CauseKind::Dynamic, file, range, name }));
    }
    infer.widen_for_others(ty)
}

fn recover_scope_type(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    value: Type,
    file: File,
    scope: ScopeId,
    name: Name,
) -> Type {
    let range = definition_range(db, file, scope, name);
    converge(db, cycle.iteration(), *last, value, Cause { kind: CauseKind::Cycle, file, range, name })
}

/// Where a scope's name is first bound.
fn definition_range(db: &dyn Db, file: File, scope: ScopeId, name: Name) -> TextRange {
    let index = module_index(db, file);
    let symbol = index.scopes[scope].symbols.get(&name);
    let def = symbol.and_then(|symbol| symbol.defs.first().or(symbol.foreign.first()));
    def.map_or(TextRange::empty(TextSize::new(0)), |def| index.defs[*def].range)
}

/// What a query that met itself goes on with. Values only grow from round to round, and after a few rounds the answer is
/// unknown, so that every cycle ends.
pub(crate) fn converge(db: &dyn Db, round: u32, last: Type, value: Type, cause: Cause) -> Type {
    if value == last {
        return value;
    }
    let unknown = || Type::Unknown(db.store().intern_cause(cause));
    if round >= 6 {
        return unknown();
    }
    if round >= 1 {
        let joined = crate::types::union::join(db.store(), [last, value]);
        // Growing structure, such as a list of lists of lists, never ends by itself.
        return if round >= 4 && joined != last { unknown() } else { joined };
    }
    value
}

/// The type of a value of an enclosing body, seen from a function defined there.
#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Type::Never, cycle_fn = recover_captured)]
pub fn captured_type(db: &dyn Db, file: File, body: BodyId, value: ValueId) -> Type {
    Infer::new(db, file, body).value(value)
}

fn recover_captured(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    now: Type,
    file: File,
    _body: BodyId,
    _value: ValueId,
) -> Type {
    let range = TextRange::empty(TextSize::new(0));
    converge(db, cycle.iteration(), *last, now, Cause { kind: CauseKind::Cycle, file, range, name: known::EMPTY })
}

/// A member of a module: a name bound in it, by a star import into it, or a submodule. `None` where it has none.
pub fn member(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    // What our own stubs import, the module mostly imports as well, and somebody may take it from there.
    if (file.origin(db) == Origin::Bundled || !is_private_import(db, file, name))
        && let Some(ty) = own_name(db, file, name, 0)
    {
        return Some(ty);
    }
    if let Some(submodule) = submodule(db, file, name) {
        return Some(submodule);
    }
    let index = module_index(db, file);
    let is_made = index.scopes[ScopeId(0)].symbols.contains_key(&known::GETATTR)
        || index.makes_names
        || index.made_names.contains(&name);
    let is_undocumented = || {
        let names = db.names();
        file.origin(db) == Origin::Bundled
            && leitmotiv_stdlib::is_undocumented(names.text(file.module(db)), names.text(name))
    };
    if is_made || is_undocumented() {
        let range = TextRange::empty(TextSize::new(0));
        let cause = Cause { kind: CauseKind::Dynamic, file, range, name };
        return Some(Type::Unknown(db.store().intern_cause(cause)));
    }
    None
}

/// Whether a stub only imports a name for its own use: it gives on what it imports under `as`, by a star, or what `__all__`
/// names (typing specification, "Distributing type information", import conventions).
fn is_private_import(db: &dyn Db, file: File, name: Name) -> bool {
    if !file.is_stub(db) {
        return false;
    }
    let index = module_index(db, file);
    let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else { return false };
    let is_private = |def: &DefId| {
        matches!(index.defs[*def].kind, DefKind::Import { alias: false, .. } | DefKind::ImportFrom { alias: false, .. })
    };
    symbol.defs.iter().all(is_private) && !index.exported.as_ref().is_some_and(|all| all.contains(&name))
}

/// A name bound in a module or by a star import into it. `depth` bounds chains of star imports.
pub fn own_name(db: &dyn Db, file: File, name: Name, depth: u32) -> Option<Type> {
    let index = module_index(db, file);
    let scope = &index.scopes[ScopeId(0)];
    if scope.symbols.contains_key(&name) {
        return Some(scope_type(db, file, ScopeId(0), name));
    }
    if scope.stars.is_empty() || depth > 16 {
        return None;
    }
    if depth > 0 { star_name(db, file, name, depth) } else { starred(db, file, name) }
}

/// A name that star imports bring into a module, remembered: a package may gather those of hundreds of modules.
#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| None, cycle_fn = recover_starred)]
pub fn starred(db: &dyn Db, file: File, name: Name) -> Option<Type> {
    star_name(db, file, name, 0)
}

fn recover_starred(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Option<Type>,
    value: Option<Type>,
    file: File,
    name: Name,
) -> Option<Type> {
    let cause = Cause { kind: CauseKind::Cycle, file, range: TextRange::empty(TextSize::new(0)), name };
    Some(converge(db, cycle.iteration(), last.unwrap_or(Type::Never), value?, cause))
}

fn star_name(db: &dyn Db, file: File, name: Name, depth: u32) -> Option<Type> {
    let stars = &module_index(db, file).scopes[ScopeId(0)].stars;
    // A module that is not there may have the name; one that is there, and has it, is more likely meant.
    let mut unknown = None;
    let is_missing = |found: Type, star: DefId| {
        let Type::Unknown(cause) = found else { return false };
        let cause = db.store().cause(cause);
        cause.file == file && cause.range == module_index(db, file).defs[star].range
    };
    let index = module_index(db, file);
    // One for another version of the language brings nothing.
    for star in stars.iter().rev().filter(|star| index.defs[**star].reach != ReachId::EXCLUDED) {
        match star_member(db, file, *star, name, depth) {
            Some(found) if is_missing(found, *star) => unknown = unknown.or(Some(found)),
            Some(found) => return Some(found),
            None => {}
        }
    }
    unknown
}

/// What `name` is by a star import, if it comes from there.
fn star_member(db: &dyn Db, file: File, star: DefId, name: Name, depth: u32) -> Option<Type> {
    let index = module_index(db, file);
    let DefKind::Star { module, level } = index.defs[star].kind else { return None };
    let Some(target) = import_target(db, file, module, level) else {
        // Whatever is not known may have come from there.
        let range = index.defs[star].range;
        let cause = Cause { kind: CauseKind::UnresolvedImport, file, range, name: module };
        return Some(Type::Unknown(db.store().intern_cause(cause)));
    };
    let Imported::File(target) = target else { return None };
    if target == file {
        return None;
    }
    if target.origin(db) == Origin::Untyped && target.is_stub(db) {
        // Machine code: any public name may come from there.
        let range = index.defs[star].range;
        let cause = Cause { kind: CauseKind::UntypedImport, file, range, name: module };
        return (!db.names().text(name).starts_with('_')).then(|| Type::Unknown(db.store().intern_cause(cause)));
    }
    let exported = &module_index(db, target).exported;
    let visible = match exported {
        Some(all) => all.contains(&name),
        None => !db.names().text(name).starts_with('_') && !is_private_import(db, target, name),
    };
    if !visible {
        return None;
    }
    own_name(db, target, name, depth + 1).or_else(|| {
        let is_there = exported.is_some() || imports_submodule(db, target, name);
        is_there.then(|| submodule(db, target, name)).flatten()
    })
}

/// Whether a package imports from its submodule of that name, which makes the submodule an attribute of the package
/// (language reference, "Submodules").
fn imports_submodule(db: &dyn Db, package: File, name: Name) -> bool {
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
fn is_same_package(db: &dyn Db, package: File, found: File) -> bool {
    let is_copy = matches!(found.origin(db), Origin::Typed | Origin::Untyped) && found.path(db).ends_with(".py");
    // A stub of a part stands for the rest of an installed package.
    package.origin(db) != Origin::Project || package.is_stub(db) || !is_copy
}

/// What an import leads to.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Imported {
    /// A file.
    File(File),
    /// A namespace package.
    Namespace(Name),
}

/// The module as a value.
pub fn module_value(db: &dyn Db, name: Name, importer: Option<File>) -> Option<Type> {
    if let Some(file) = db.module_file(name, importer) {
        return Some(Type::Module(file));
    }
    db.is_namespace(name).then_some(Type::Namespace(name))
}

/// The full name of an imported module: relative ones are resolved against the importer (PEP 328).
pub fn absolute_name(db: &dyn Db, file: File, module: Name, level: u32) -> Option<Name> {
    if level == 0 {
        return Some(module);
    }
    let own = db.names().text(file.module(db));
    let mut parts: Vec<&str> = own.split('.').filter(|part| !part.is_empty()).collect();
    let up = level as usize - usize::from(file.is_package(db));
    if up > parts.len() {
        return None;
    }
    parts.truncate(parts.len() - up);
    let tail = db.names().text(module);
    if !tail.is_empty() {
        parts.push(tail);
    }
    Some(db.names().intern(&parts.join(".")))
}

/// What `from module import …` looks into.
pub fn import_target(db: &dyn Db, file: File, module: Name, level: u32) -> Option<Imported> {
    let name = absolute_name(db, file, module, level)?;
    if name == known::EMPTY {
        return None;
    }
    if let Some(found) = db.module_file(name, Some(file)) {
        // Relative imports look into the importer's own package.
        let package = || db.module_file(absolute_name(db, file, known::EMPTY, level)?, Some(file));
        let is_own = level == 0 || package().is_none_or(|package| is_same_package(db, package, found));
        return is_own.then_some(Imported::File(found));
    }
    db.is_namespace(name).then_some(Imported::Namespace(name))
}

/// Whether importing one file of the project may import another one, by whatever way.
#[salsa::tracked(returns(copy))]
pub fn leads_to(db: &dyn Db, from: File, to: File) -> bool {
    let mut seen = rustc_hash::FxHashSet::from_iter([from]);
    let mut open = vec![from];
    while let Some(file) = open.pop() {
        if file == to {
            return true;
        }
        let mut reached = |name: Name| {
            // The packages around a module are imported with it (import system, "Packages").
            let text = db.names().text(name);
            let ends = text.match_indices('.').map(|(end, _)| end).chain([text.len()]);
            for part in ends.map(|end| db.names().intern(&text[..end])) {
                if let Some(next) = db.module_file(part, Some(file))
                    && next.origin(db).is_own()
                    && seen.insert(next)
                {
                    open.push(next);
                }
            }
        };
        for (_, def) in module_index(db, file).defs.iter() {
            match def.kind {
                DefKind::Import { module, .. } => reached(module),
                DefKind::ImportFrom { module, level, name, .. } => {
                    let Some(module) = absolute_name(db, file, module, level) else { continue };
                    let inside = format!("{}.{}", db.names().text(module), db.names().text(name));
                    reached(db.names().intern(&inside));
                }
                DefKind::Star { module, level } => {
                    let Some(module) = absolute_name(db, file, module, level) else { continue };
                    reached(module);
                }
                _ => {}
            }
        }
    }
    false
}

/// What the target version and platform decide that an imported name comes out as. `depth` bounds chains of imports.
pub(crate) fn imported_constant(
    db: &dyn Db,
    file: File,
    (import, attribute): (DefId, Option<Name>),
    depth: u32,
) -> Option<bool> {
    let (target, name) = match (&module_index(db, file).defs[import].kind, attribute) {
        (DefKind::ImportFrom { module, level, name, .. }, None) => {
            let Some(Imported::File(target)) = import_target(db, file, *module, *level) else { return None };
            (target, *name)
        }
        (DefKind::Import { module, alias }, Some(name)) => {
            let module = if *alias { *module } else { root_name(db, *module) };
            (db.module_file(module, Some(file))?, name)
        }
        _ => return None,
    };
    let index = module_index(db, target);
    if let Some(outcome) = index.constants.get(&name) {
        return *outcome;
    }
    let [def] = index.scopes[ScopeId(0)].symbols.get(&name)?.defs.as_slice() else { return None };
    if depth < 8 { imported_constant(db, target, (*def, None), depth + 1) } else { None }
}

/// A module of the standard library by its full name.
pub fn standard_module(db: &dyn Db, name: Name) -> Option<File> {
    db.module_file(name, None)
}

/// A class of a standard module.
pub fn standard_class(db: &dyn Db, module: Name, name: Name) -> Option<ClassRef> {
    if let Some(class) = db.remembered_class(module, name) {
        return Some(class);
    }
    let file = standard_module(db, module)?;
    let class = class_in(db, file, name)?;
    if file.origin(db) == Origin::Bundled {
        db.remember_class(module, name, class);
    }
    Some(class)
}

/// The class that a module's name was last bound to by a `class` statement.
pub fn class_in(db: &dyn Db, file: File, name: Name) -> Option<ClassRef> {
    let index = module_index(db, file);
    let symbol = index.scopes[ScopeId(0)].symbols.get(&name)?;
    symbol.defs.iter().rev().find_map(|def| match index.defs[*def].kind {
        DefKind::Class(class) => Some(ClassRef { file, class }),
        _ => None,
    })
}

/// A built-in class.
pub fn builtin(db: &dyn Db, name: Name) -> Option<ClassRef> {
    standard_class(db, known::BUILTINS, name)
}

/// An instance of a built-in class with arguments; an unknown if the bundle should lack it.
pub fn builtin_instance(db: &dyn Db, name: Name, args: &[Type]) -> Type {
    standard_instance(db, known::BUILTINS, name, args)
}

/// An instance of a class of a standard module.
pub fn standard_instance(db: &dyn Db, module: Name, name: Name, args: &[Type]) -> Type {
    match standard_class(db, module, name) {
        Some(class) => Type::Instance(instance_of(db, class, args)),
        None => Type::Any,
    }
}

/// The handle for a class with arguments.
pub fn instance_of(db: &dyn Db, class: ClassRef, args: &[Type]) -> InstanceId {
    db.store().intern_instance(Instance { class, args: args.into() })
}

/// Whether a class is the one of that name in a standard module.
pub fn is_standard(db: &dyn Db, class: ClassRef, module: Name, name: Name) -> bool {
    class.file.module(db) == module && module_index(db, class.file).classes[class.class].name == name
}

/// Whether a class is the built-in of that name.
pub fn is_builtin(db: &dyn Db, class: ClassRef, name: Name) -> bool {
    is_standard(db, class, known::BUILTINS, name)
}

/// A class's name.
pub fn class_name(db: &dyn Db, class: ClassRef) -> Name {
    module_index(db, class.file).classes[class.class].name
}

pub(crate) fn root_name(db: &dyn Db, module: Name) -> Name {
    let text = db.names().text(module);
    db.names().intern(text.split('.').next().unwrap_or(text))
}
