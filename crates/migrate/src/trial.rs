//! Changed texts, tried out on the session's own database and taken back.

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use rustc_hash::FxHashMap;

/// Texts that are tried out. When it is dropped, all files have the texts again that they had before.
///
/// What a trial needs is worked out from what is known: files that no change concerns are not read or inferred again.
pub struct Trial<'db> {
    db: &'db mut Database,
    before: FxHashMap<File, Arc<str>>,
}

impl<'db> Trial<'db> {
    /// A trial in which nothing is changed yet.
    pub fn new(db: &'db mut Database) -> Trial<'db> {
        Trial { db, before: FxHashMap::default() }
    }

    /// The project as it is in the trial.
    #[must_use]
    pub fn db(&self) -> &Database {
        self.db
    }

    /// The project as it is in the trial, for a trial within.
    pub fn within(&mut self) -> &mut Database {
        self.db
    }

    /// Gives files other texts.
    pub fn write(&mut self, texts: impl IntoIterator<Item = (File, Arc<str>)>) {
        for (file, text) in texts {
            let known = file.text(self.db).clone();
            if known != text {
                self.before.entry(file).or_insert(known);
                self.db.try_text(file, text);
            }
        }
    }
}

impl Drop for Trial<'_> {
    fn drop(&mut self) {
        for (file, text) in self.before.drain() {
            self.db.try_text(file, text);
        }
    }
}

#[cfg(test)]
mod tests {
    use leitmotiv_engine::check::check;
    use leitmotiv_project::{Project, Surroundings};

    use super::*;

    #[test]
    fn a_trial_shows_what_a_change_would_do_and_leaves_nothing_behind() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().canonicalize().unwrap().join("ferry.py");
        std::fs::write(&path, "def berths():\n    return 3\n").unwrap();
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        let mut db = Database::new(project);
        let file = db.source(&path);
        let rules = |db: &Database| check(db, &[file])[0].findings.iter().map(|found| found.rule).collect::<Vec<_>>();
        let before = rules(&db);
        {
            let mut trial = Trial::new(&mut db);
            trial.write([(file, Arc::from("def berths() -> str:\n    return 3\n"))]);
            assert_ne!(rules(trial.db()), before);
        }
        assert_eq!(file.text(&db).as_ref(), "def berths():\n    return 3\n");
        assert_eq!(rules(&db), before);
    }
}
