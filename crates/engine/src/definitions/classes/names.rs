//! Which names classes have: as a set that answers quickly, and as lists.

use std::hash::{BuildHasher, BuildHasherDefault};

use leitmotiv_index::tree::DefId;
use leitmotiv_syntax::names::{Name, known};

use super::info;
use crate::base::db::Db;
use crate::resolve::module_index;
use crate::types::{ClassRef, InstanceId};

/// A set of names that may hold a few more than were put into it: what is not in it, nobody need ask for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct NameFilter([u64; 4]);

impl NameFilter {
    /// One that all names may be in.
    const ANY: NameFilter = NameFilter([u64::MAX; 4]);

    fn of(names: impl Iterator<Item = Name>) -> NameFilter {
        let mut bits = [0; 4];
        for name in names {
            let (word, bit) = NameFilter::place(name);
            bits[word] |= bit;
        }
        NameFilter(bits)
    }

    fn place(name: Name) -> (usize, u64) {
        let hash = BuildHasherDefault::<rustc_hash::FxHasher>::default().hash_one(name);
        ((hash >> 62) as usize, 1 << ((hash >> 56) & 63))
    }

    /// Whether a name may be in it.
    #[must_use]
    pub fn may_have(self, name: Name) -> bool {
        let (word, bit) = NameFilter::place(name);
        self.0[word] & bit != 0
    }
}

/// Which names a class may have of its own, as a class that derives from it needs to know.
pub(super) fn name_filter(db: &dyn Db, this: ClassRef, class: ClassRef) -> NameFilter {
    if class != this {
        return info(db, class).names.first().copied().unwrap_or(NameFilter::ANY);
    }
    let index = module_index(db, class.file);
    let record = &index.classes[class.class];
    NameFilter::of(index.scopes[record.scope].symbols.keys().chain(record.attributes.keys()).copied())
}

/// Names of members, for near misses: those of the class and its bases.
#[must_use]
pub fn names_in_no_order(db: &dyn Db, instance: InstanceId) -> Vec<Name> {
    let mut all = Vec::new();
    for entry in &info(db, db.store().instance(instance).class).mro {
        let class = db.store().instance(*entry).class;
        if !crate::resolve::is_builtin(db, class, known::OBJECT) {
            let index = module_index(db, class.file);
            let record = &index.classes[class.class];
            let symbols = index.scopes[record.scope].symbols.iter().filter(|(_, symbol)| !symbol.defs.is_empty());
            all.extend(symbols.map(|(name, _)| *name).chain(record.attributes.keys().copied()));
        }
    }
    all
}

/// Names of members: those of the class and its bases, in the order of resolution and of the text.
pub fn names(db: &dyn Db, instance: InstanceId) -> Vec<Name> {
    let store = db.store();
    let mut all = Vec::new();
    for entry in &info(db, store.instance(instance).class).mro {
        let class = store.instance(*entry).class;
        if crate::resolve::is_builtin(db, class, known::OBJECT) {
            continue;
        }
        let index = module_index(db, class.file);
        let record = &index.classes[class.class];
        let symbols = index.scopes[record.scope]
            .symbols
            .iter()
            .filter_map(|(name, symbol)| symbol.defs.first().map(|def| (*def, *name)));
        let attributes = record.attributes.iter().filter_map(|(name, defs)| defs.first().map(|def| (*def, *name)));
        let mut own: Vec<(DefId, Name)> = symbols.chain(attributes).collect();
        own.sort_by_key(|(def, _)| *def);
        all.extend(own.into_iter().map(|(_, name)| name));
    }
    all.dedup();
    all
}
