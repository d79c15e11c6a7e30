//! Where imports lead.

use leitmotiv_index::tree::{DefId, DefKind, ScopeId};
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::FxHashSet;

use super::{is_namespace, is_same_package, module_file};
use crate::base::asked::{Ask, frame, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::outline::{module_index, reading};
use crate::types::Type;

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
    if let Some(file) = module_file(db, name, importer) {
        return Some(Type::Module(file));
    }
    is_namespace(db, name).then_some(Type::Namespace(name))
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
    if let Some(found) = module_file(db, name, Some(file)) {
        // Relative imports look into the importer's own package.
        let package = || module_file(db, absolute_name(db, file, known::EMPTY, level)?, Some(file));
        let is_own = level == 0 || package().is_none_or(|package| is_same_package(db, package, found));
        return is_own.then_some(Imported::File(found));
    }
    is_namespace(db, name).then_some(Imported::Namespace(name))
}

/// Whether importing one file of the project may import another one, by whatever way; each leads to itself.
pub fn leads_to(db: &dyn Db, from: File, to: File) -> bool {
    reached_from(db, from).contains(&to)
}

/// The files of the project that importing one of them may import, by whatever way, and itself.
fn reached_from(db: &dyn Db, from: File) -> &FxHashSet<File> {
    saw(db, from, Ask::Whole);
    reached_from_query(db, from)
}

#[salsa::tracked(returns(ref))]
fn reached_from_query(db: &dyn Db, from: File) -> FxHashSet<File> {
    let _asking = frame(db, from);
    let mut seen = FxHashSet::from_iter([from]);
    let mut open = vec![from];
    while let Some(file) = open.pop() {
        open.extend(imported_files(db, file).iter().copied().filter(|next| seen.insert(*next)));
    }
    seen
}

/// The files of the project that one of them imports itself, in the order of the text.
pub(crate) fn imported_files(db: &dyn Db, file: File) -> &[File] {
    saw(db, file, Ask::ImportedFiles);
    imported_files_query(db, file)
}

#[salsa::tracked(returns(deref))]
fn imported_files_query(db: &dyn Db, file: File) -> Box<[File]> {
    let mut all: Vec<File> = Vec::new();
    let mut reached = |name: Name| {
        // The packages around a module are imported with it (import system, "Packages").
        let text = db.names().text(name);
        let ends = text.match_indices('.').map(|(end, _)| end).chain([text.len()]);
        for part in ends.map(|end| db.names().intern(&text[..end])) {
            if let Some(next) = module_file(db, part, Some(file))
                && next.origin(db).is_own()
            {
                all.push(next);
            }
        }
    };
    let _reading = reading(db, file);
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
    let mut seen = FxHashSet::default();
    all.retain(|file| seen.insert(*file));
    all.into()
}

/// What the target version and platform decide that an imported name comes out as.
pub(crate) fn imported_constant(db: &dyn Db, file: File, (import, attribute): (DefId, Option<Name>)) -> Option<bool> {
    let (target, name) = match (&module_index(db, file).defs[import].kind, attribute) {
        (DefKind::ImportFrom { module, level, name, .. }, None) => {
            let Some(Imported::File(target)) = import_target(db, file, *module, *level) else { return None };
            (target, *name)
        }
        (DefKind::Import { module, alias }, Some(name)) => {
            let module = if *alias { *module } else { root_name(db, *module) };
            (module_file(db, module, Some(file))?, name)
        }
        _ => return None,
    };
    constant(db, target, name)
}

/// What the target version and platform decide that a name of a module comes out as, if they do.
pub(crate) fn constant(db: &dyn Db, file: File, name: Name) -> Option<bool> {
    saw(db, file, Ask::Constant(name));
    constant_query(db, file, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| None)]
fn constant_query(db: &dyn Db, file: File, name: Name) -> Option<bool> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    if let Some(outcome) = index.constants.get(&name) {
        return *outcome;
    }
    let [def] = index.scopes[ScopeId(0)].symbols.get(&name)?.defs.as_slice() else { return None };
    imported_constant(db, file, (*def, None))
}

pub(crate) fn root_name(db: &dyn Db, module: Name) -> Name {
    let text = db.names().text(module);
    db.names().intern(text.split('.').next().unwrap_or(text))
}
