//! What the project's files do, all of them together: asked for only where something seems to be missing, for it takes the index of
//! every file.
//!
//! What each file adds is a query of its own, and compared: an edit that adds nothing and takes nothing away stops there.

use std::sync::Arc;

use leitmotiv_index::tree::{ClassId, Expr};
use leitmotiv_syntax::names::Name;
use rustc_hash::{FxHashMap, FxHashSet};

use super::project_files;
use crate::base::asked::{Ask, AskAll, nobody, saw, saw_of_all};
use crate::base::db::{Db, Layout};
use crate::base::file::{File, Known};
use crate::outline::{module_index, reading};
use crate::types::ClassRef;

/// The files of the project that assign an attribute of that name on an object that is not the method's own.
pub fn patching_files(db: &dyn Db, name: Name) -> &[File] {
    saw_of_all(db, AskAll::Patched(name));
    let _nobody = nobody();
    patched_by(db, Layout::get(db), name)
}

#[salsa::tracked(returns(deref))]
fn patched_by(db: &dyn Db, layout: Layout, name: Name) -> Arc<[File]> {
    all_patches(db, layout).get(&name).cloned().unwrap_or_default()
}

#[salsa::tracked(returns(ref))]
fn all_patches(db: &dyn Db, _layout: Layout) -> FxHashMap<Name, Arc<[File]>> {
    let mut all: FxHashMap<Name, Vec<File>> = FxHashMap::default();
    for file in project_files(db) {
        for name in patched_in(db, *file) {
            all.entry(*name).or_default().push(*file);
        }
    }
    all.into_iter().map(|(name, files)| (name, files.into())).collect()
}

/// The names that one file assigns so, sorted by number.
#[salsa::tracked(returns(deref))]
fn patched_in(db: &dyn Db, file: File) -> Box<[Name]> {
    if let Some(known) = &db.facts(file).known {
        return known.patched.clone();
    }
    patched_now(db, file)
}

fn patched_now(db: &dyn Db, file: File) -> Box<[Name]> {
    let _reading = reading(db, file);
    sorted(module_index(db, file).patched.keys().copied().collect())
}

/// Whether a class of the project gives its objects something of that name, or a name of that attribute is written as a text.
pub fn is_provided(db: &dyn Db, name: Name) -> bool {
    saw_of_all(db, AskAll::Provided(name));
    let _nobody = nobody();
    is_provided_by_any(db, Layout::get(db), name)
}

#[salsa::tracked(returns(copy))]
fn is_provided_by_any(db: &dyn Db, layout: Layout, name: Name) -> bool {
    all_provided(db, layout).contains(&name)
}

#[salsa::tracked(returns(ref))]
fn all_provided(db: &dyn Db, _layout: Layout) -> FxHashSet<Name> {
    project_files(db).iter().flat_map(|file| provided_in(db, *file)).copied().collect()
}

#[salsa::tracked(returns(deref))]
fn provided_in(db: &dyn Db, file: File) -> Box<[Name]> {
    if let Some(known) = &db.facts(file).known {
        return known.provided.clone();
    }
    provided_now(db, file)
}

fn provided_now(db: &dyn Db, file: File) -> Box<[Name]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let mut all = FxHashSet::default();
    for (_, class) in index.classes.iter() {
        all.extend(index.scopes[class.scope].symbols.keys().copied());
        all.extend(class.attributes.keys().copied());
    }
    all.extend(index.patched.keys().copied());
    all.extend(index.exprs.iter().filter_map(|(_, expr)| match expr {
        Expr::Str(text) => *text,
        _ => None,
    }));
    sorted(all)
}

/// Whether something of that name is called somewhere in the project, as a class is to make its objects.
pub fn is_called(db: &dyn Db, name: Name) -> bool {
    saw_of_all(db, AskAll::Called(name));
    let _nobody = nobody();
    is_called_by_any(db, Layout::get(db), name)
}

#[salsa::tracked(returns(copy))]
fn is_called_by_any(db: &dyn Db, layout: Layout, name: Name) -> bool {
    all_called(db, layout).contains_key(&name)
}

/// The project's files by the names of what they call, in the order of the files.
#[salsa::tracked(returns(ref))]
fn all_called(db: &dyn Db, _layout: Layout) -> FxHashMap<Name, Vec<File>> {
    let mut all: FxHashMap<Name, Vec<File>> = FxHashMap::default();
    for file in project_files(db) {
        called_in(db, *file).iter().for_each(|name| all.entry(*name).or_default().push(*file));
    }
    all
}

#[salsa::tracked(returns(deref))]
fn called_in(db: &dyn Db, file: File) -> Box<[Name]> {
    if let Some(known) = &db.facts(file).known {
        return known.called.clone();
    }
    called_now(db, file)
}

fn called_now(db: &dyn Db, file: File) -> Box<[Name]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let called = index.exprs.iter().filter_map(|(_, expr)| match expr {
        Expr::Call { callee, .. } => match index.exprs[*callee] {
            Expr::Name(name, _) | Expr::Attribute { name, .. } => Some(name),
            _ => None,
        },
        _ => None,
    });
    sorted(called.collect())
}

/// The project's files in which something of that name is called.
pub fn calls_by_name(db: &dyn Db, name: Name) -> &[File] {
    saw_of_all(db, AskAll::Calling(name));
    let _nobody = nobody();
    calling(db, Layout::get(db), name)
}

/// What more files than these give a function nobody looks at: the more calls, the likelier one fits. Said in docs/architecture.md.
pub(crate) const FEW: usize = 8;

/// The same, where they are few: whoever asks is not told of more.
pub fn few_calls_by_name(db: &dyn Db, name: Name) -> Option<&[File]> {
    saw_of_all(db, AskAll::FewCalling(name));
    let _nobody = nobody();
    Some(calling(db, Layout::get(db), name)).filter(|files| files.len() <= FEW)
}

#[salsa::tracked(returns(deref))]
fn calling(db: &dyn Db, layout: Layout, name: Name) -> Box<[File]> {
    all_called(db, layout).get(&name).map(|files| files.as_slice().into()).unwrap_or_default()
}

fn sorted(names: FxHashSet<Name>) -> Box<[Name]> {
    let mut names: Vec<Name> = names.into_iter().collect();
    names.sort_unstable();
    names.into()
}

/// The classes of the project's files.
pub fn own_classes(db: &dyn Db) -> &[ClassRef] {
    saw_of_all(db, AskAll::Classes);
    let _nobody = nobody();
    all_classes(db, Layout::get(db))
}

#[salsa::tracked(returns(deref))]
fn all_classes(db: &dyn Db, _layout: Layout) -> Arc<[ClassRef]> {
    let of = |file: &File| {
        let file = *file;
        classes_of(db, file).iter().map(move |class| ClassRef { file, class: *class })
    };
    project_files(db).iter().flat_map(of).collect()
}

/// The classes of a file.
pub(crate) fn classes_of(db: &dyn Db, file: File) -> &[ClassId] {
    saw(db, file, Ask::Whole);
    classes_of_query(db, file)
}

#[salsa::tracked(returns(deref))]
fn classes_of_query(db: &dyn Db, file: File) -> Box<[ClassId]> {
    if let Some(known) = &db.facts(file).known {
        return known.classes.clone();
    }
    classes_now(db, file)
}

fn classes_now(db: &dyn Db, file: File) -> Box<[ClassId]> {
    let _reading = reading(db, file);
    module_index(db, file).classes.iter().map(|(class, _)| class).collect()
}

/// What a file adds to what all files do, whatever is known of it from before; but for the bases of its classes.
pub(crate) fn known_now(db: &dyn Db, file: File) -> Known {
    Known {
        patched: patched_now(db, file),
        provided: provided_now(db, file),
        called: called_now(db, file),
        classes: classes_now(db, file),
        bases: Box::default(),
    }
}
