//! Which names classes have, as lists.

use leitmotiv_syntax::names::{Name, known};

use super::info;
use crate::base::db::Db;
use crate::outline;
use crate::types::InstanceId;

/// Names of members, for near misses: those of the class and its bases.
#[must_use]
pub fn names_in_no_order(db: &dyn Db, instance: InstanceId) -> Vec<Name> {
    let mut all = Vec::new();
    for entry in &info(db, db.store().instance(instance).class).mro {
        let class = db.store().instance(*entry).class;
        if !crate::resolve::is_builtin(db, class, known::OBJECT) {
            let outline = outline::class(db, class);
            all.extend(outline.of_body.iter().chain(&outline.of_methods).copied());
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
        let outline = outline::class(db, class);
        all.extend(outline.of_body.iter().chain(&outline.of_methods).copied());
    }
    all.dedup();
    all
}
