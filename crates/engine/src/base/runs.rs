//! Which queries ran: for tests that hold what an edit may cost, and for looking where the time goes.

use std::collections::BTreeMap;
use std::sync::Arc;

use dashmap::DashMap;
use salsa::{Database as _, EventKind, IngredientIndex};

use super::database::Database;

/// Counts of a database's queries, by their names. Clones count together.
#[derive(Debug, Clone, Default)]
pub struct Runs {
    executed: Arc<DashMap<IngredientIndex, u64>>,
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
            *runs.executed.entry(key.ingredient_index()).or_default() += 1;
        })
    }

    /// How often each query was carried out, and each kind of key made, since this was asked last.
    #[must_use]
    pub fn take(&self, db: &Database) -> BTreeMap<String, u64> {
        let mut counts = BTreeMap::new();
        for entry in self.executed.iter() {
            *counts.entry(db.ingredient_debug_name(*entry.key()).into_owned()).or_default() += *entry.value();
        }
        self.executed.clear();
        counts
    }
}
