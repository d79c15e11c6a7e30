//! Which queries ran: for tests that hold what an edit may cost, and for looking where the time goes.

use std::collections::BTreeMap;
use std::sync::Arc;

use dashmap::DashMap;
use salsa::plumbing::FromId;
use salsa::{DatabaseKeyIndex, EventKind};

use super::db::Db;
use super::file::File;

/// The queries that a database carried out, and the keys that it made for them. Clones count together.
#[derive(Debug, Clone, Default)]
pub struct Runs {
    executed: Arc<DashMap<DatabaseKeyIndex, u64>>,
}

impl Runs {
    /// Counts from what the database tells of itself.
    pub(super) fn watch(&self) -> Box<dyn Fn(salsa::Event) + Send + Sync> {
        let runs = self.clone();
        Box::new(move |event| {
            let key = match event.kind {
                EventKind::WillExecute { database_key } => database_key,
                EventKind::DidInternValue { key, .. } => key,
                _ => return,
            };
            *runs.executed.entry(key).or_default() += 1;
        })
    }

    /// Forgets what ran so far.
    pub fn clear(&self) {
        self.executed.clear();
    }

    /// How often each query was carried out, and how many keys of each kind were made, by name.
    #[must_use]
    pub fn counts(&self, db: &dyn Db) -> BTreeMap<String, u64> {
        let mut counts = BTreeMap::new();
        for entry in self.executed.iter() {
            *counts.entry(name(db, *entry.key())).or_default() += *entry.value();
        }
        counts
    }

    /// The files for which a query of files was carried out, as they are shown, sorted.
    #[must_use]
    pub fn files(&self, db: &dyn Db, query: &str) -> Vec<String> {
        let is_meant = |key: &DatabaseKeyIndex| name(db, *key) == query;
        let keys = self.executed.iter().map(|entry| *entry.key()).filter(is_meant);
        let mut paths: Vec<String> = keys.map(|key| File::from_id(key.key_index()).path(db).to_owned()).collect();
        paths.sort();
        paths
    }
}

/// What the function is called by which a query is asked.
fn name(db: &dyn Db, key: DatabaseKeyIndex) -> String {
    let name = db.ingredient_debug_name(key.ingredient_index());
    name.strip_suffix("_query").unwrap_or(&name).to_owned()
}
