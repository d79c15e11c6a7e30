//! Which classes of the project derive from a class. What each file adds is a query of its own, and so is the answer for each class:
//! an edit that changes neither stops there.

use leitmotiv_index::tree::ClassId;
use leitmotiv_syntax::names::Name;
use rustc_hash::FxHashMap;

use super::{derives, info};
use crate::base::asked::{Ask, AskAll, is_written, nobody, saw, saw_of_all};
use crate::base::db::{Db, Layout};
use crate::base::file::File;
use crate::outline::{class_name, reading};
use crate::resolve::{classes_of, project_files};
use crate::types::ClassRef;

/// What a class is called, with its module: a class in a stub and the one that it describes are the same.
pub(crate) type Called = (Name, Name);

fn called(db: &dyn Db, class: ClassRef) -> Called {
    (class.file.module(db), class_name(db, class))
}

/// The classes of the project that derive from a class, without it, in the order of the files.
pub fn derived(db: &dyn Db, class: ClassRef) -> impl Iterator<Item = ClassRef> {
    let (module, name) = called(db, class);
    saw_of_all(db, AskAll::Below(module, name));
    let unasked = nobody();
    let below = all_derived(db, Layout::get(db)).get(&(module, name));
    let all = derived_from(db, class.file, class.class).iter();
    drop(unasked);
    // Where one is below by its name only, what it derives from has been looked at.
    if is_written() {
        below.into_iter().flatten().for_each(|other| saw(db, other.file, Ask::ClassInfo(other.class)));
    }
    all.copied()
}

#[salsa::tracked(returns(deref), cycle_initial = |_, _, _, _| Box::default())]
fn derived_from(db: &dyn Db, file: File, class: ClassId) -> Box<[ClassRef]> {
    let class = ClassRef { file, class };
    let derives = |other: &ClassRef| *other != class && derives(db, *other, class) == Some(true);
    let below = all_derived(db, Layout::get(db)).get(&called(db, class));
    below.into_iter().flatten().copied().filter(derives).collect()
}

#[salsa::tracked(returns(ref), cycle_initial = |_, _, _| FxHashMap::default())]
fn all_derived(db: &dyn Db, _layout: Layout) -> FxHashMap<Called, Vec<ClassRef>> {
    let mut all: FxHashMap<Called, Vec<ClassRef>> = FxHashMap::default();
    for file in project_files(db) {
        for (base, class) in bases_in(db, *file) {
            all.entry(*base).or_default().push(ClassRef { file: *file, class: *class });
        }
    }
    all
}

/// What the classes of a file derive from.
#[salsa::tracked(returns(deref), cycle_initial = |_, _, _| Box::default())]
fn bases_in(db: &dyn Db, file: File) -> Box<[(Called, ClassId)]> {
    if let Some(known) = &db.facts(file).known {
        return known.bases.clone();
    }
    bases_now(db, file)
}

/// The same, whatever is known of the file from before.
pub(crate) fn bases_now(db: &dyn Db, file: File) -> Box<[(Called, ClassId)]> {
    let _reading = reading(db, file);
    let of = |class: &ClassId| {
        let own = ClassRef { file, class: *class };
        let mro = &info(db, own).mro;
        let bases = mro.iter().map(|entry| db.store().instance(*entry).class).filter(move |base| *base != own);
        bases.map(|base| (called(db, base), *class)).collect::<Vec<_>>()
    };
    classes_of(db, file).iter().flat_map(of).collect()
}
