//! Proposals tried out together, round by round.
//!
//! Each try checks the changed texts; what is newly found takes the proposals along its evidence with it, until nothing new is
//! found. What is written then makes more known, and so there may be more to propose: the rounds end when there is not.

use std::collections::{BTreeMap, BTreeSet, HashSet};
use std::sync::Arc;

use leitmotiv_engine::check::{Checked, Finding, check};
use leitmotiv_engine::db::{Database, File};
use leitmotiv_engine::functions;
use leitmotiv_engine::module::module_index;
use leitmotiv_project::settings::Severity;

use super::edit::{Edited, edited};
use super::{Proposal, Wanted, propose};
use crate::change::Change;

/// How many rounds there are at most. Said in docs/architecture.md.
const MOST_ROUNDS: usize = 8;

/// How often the proposals of one round are tried before the files that still make findings are given up.
const MOST_TRIALS: usize = 6;

/// A round: the proposals that hold, and the database in which their places are right.
pub struct Round {
    /// The database that the proposals were made on.
    pub db: Database,
    /// The proposals.
    pub proposals: Vec<Proposal>,
}

/// What came of it.
pub struct Vetted {
    /// The rounds.
    pub rounds: Vec<Round>,
    /// All changes, from the texts on disk to those after the last round, by path.
    pub changes: Vec<Change>,
    /// How many proposals were left out because they make findings or cannot be written safely.
    pub dropped: usize,
}

impl Vetted {
    /// How many annotations there are to write.
    #[must_use]
    pub fn count(&self) -> usize {
        self.rounds.iter().map(|round| round.proposals.len()).sum()
    }
}

/// A slot by its names: file, function, and parameter or the return.
type Slot = (String, String, Option<String>);

fn slot(db: &Database, proposal: &Proposal) -> Slot {
    (proposal.file.path(db).to_owned(), proposal.function.clone(), proposal.param.clone())
}

/// Proposals for files, round by round, without those that would make findings.
#[must_use]
pub fn vetted(db: &Database, files: &[File], wanted: &Wanted) -> Vetted {
    let mut vetted = Vetted { rounds: Vec::new(), changes: Vec::new(), dropped: 0 };
    let mut changes: BTreeMap<std::path::PathBuf, Change> = BTreeMap::new();
    let mut refused: BTreeSet<Slot> = BTreeSet::new();
    let (mut db, mut files) = (db.clone(), files.to_vec());
    let mut before: Option<BTreeMap<Key, usize>> = None;
    let mut tried_again = None;
    for _ in 0..MOST_ROUNDS {
        let found = propose(&db, &files, wanted);
        let is_new = |proposal: &&Proposal| !refused.contains(&slot(&db, proposal));
        let mut proposals: Vec<Proposal> = found.iter().filter(is_new).cloned().collect();
        if proposals.is_empty() {
            // What stood against the others may be gone by now: as another run would, try all of them once more.
            let is_tried = tried_again == Some(refused.len());
            if found.is_empty() || is_tried {
                break;
            }
            tried_again = Some(refused.len());
            proposals = found;
        }
        let all: BTreeSet<Slot> = proposals.iter().map(|proposal| slot(&db, proposal)).collect();
        refused.retain(|slot| !all.contains(slot));
        let known = before.take().unwrap_or_else(|| tally(&db, &check(&db, &files)));
        let (accepted, next) = tried(&db, &files, proposals, &known);
        let kept: BTreeSet<Slot> =
            accepted.iter().flat_map(|edited| &edited.proposals).map(|proposal| slot(&db, proposal)).collect();
        refused.extend(all.difference(&kept).cloned());
        let Some((trial, tried, tally)) = next else {
            before = Some(known);
            continue;
        };
        let mut proposals = Vec::with_capacity(kept.len());
        for edited in accepted {
            proposals.extend(edited.proposals);
            let Change { path, shown, before, after } = edited.change;
            changes.entry(path.clone()).and_modify(|change| change.after.clone_from(&after)).or_insert(Change {
                path,
                shown,
                before,
                after,
            });
        }
        vetted.rounds.push(Round { db, proposals });
        (db, files, before) = (trial, tried, Some(tally));
    }
    vetted.dropped = refused.len();
    vetted.changes = changes.into_values().collect();
    vetted.changes.sort_by(|one, other| one.shown.cmp(&other.shown));
    vetted
}

type Next = (Database, Vec<File>, BTreeMap<Key, usize>);

/// The proposals of one round that make no findings, and the project as it is with them; nothing where none is left.
fn tried(
    db: &Database,
    files: &[File],
    mut proposals: Vec<Proposal>,
    before: &BTreeMap<Key, usize>,
) -> (Vec<Edited>, Option<Next>) {
    for trials in 0.. {
        let edited = edited(db, proposals);
        if edited.is_empty() {
            return (Vec::new(), None);
        }
        let trial = Database::new(db.project().clone());
        // What earlier rounds changed is not on disk.
        for file in files {
            if let Some(path) = file.disk(db) {
                let change = edited.iter().find(|edited| edited.file == *file);
                let text = change.map_or_else(|| file.text(db).to_string(), |edited| edited.change.after.clone());
                let _ = trial.trial(path, text);
            }
        }
        let again: Vec<File> = files.iter().filter_map(|file| file.disk(db)).map(|path| trial.source(path)).collect();
        let checked = check(&trial, &again);
        let after = tally(&trial, &checked);
        let mut blamed: BTreeSet<String> = BTreeSet::new();
        let mut spoilt: HashSet<File> = HashSet::new();
        for finding in checked.iter().flat_map(|checked| &checked.findings) {
            let key = key(&trial, finding);
            if after.get(&key) <= before.get(&key) {
                continue;
            }
            let mut names = BTreeSet::from([finding.symbol.clone()]);
            let places = finding.evidence.iter().map(|step| (step.file, step.range));
            for (file, range) in places.chain([(finding.file, finding.range)]) {
                let index = module_index(&trial, file);
                let around = index.functions.iter().filter(|(_, record)| record.range.contains_range(range));
                names.extend(around.map(|(id, _)| functions::qualified(&trial, file, Some(id))));
            }
            let mut all = edited.iter().flat_map(|edited| &edited.proposals);
            let is_blamed = all.any(|proposal| names.contains(&proposal.function));
            // A text that is no program any more, and what no function can be blamed for.
            let is_of_file =
                matches!(finding.rule, "syntax.error" | "engine.fault" | "name.undefined" | "name.unbound");
            if is_of_file || trials >= MOST_TRIALS || !is_blamed {
                let pairs = files.iter().zip(&again).filter(|(_, again)| **again == finding.file);
                spoilt.extend(pairs.map(|(file, _)| *file));
            }
            blamed.extend(names);
        }
        let left: usize = edited.iter().map(|edited| edited.proposals.len()).sum();
        let kept: Vec<Proposal> = edited
            .iter()
            .filter(|edited| !spoilt.contains(&edited.file))
            .flat_map(|edited| &edited.proposals)
            .filter(|proposal| !blamed.contains(&proposal.function))
            .cloned()
            .collect();
        if kept.len() == left {
            return (edited, Some((trial, again, after)));
        }
        proposals = kept;
    }
    (Vec::new(), None)
}

type Key = (String, &'static str, String);

fn key(db: &Database, finding: &Finding) -> Key {
    (finding.file.path(db).to_owned(), finding.rule, finding.symbol.clone())
}

/// How many findings there are by file, rule and symbol; notes and missing annotations apart.
fn tally(db: &Database, checked: &[Arc<Checked>]) -> BTreeMap<Key, usize> {
    let mut tally = BTreeMap::new();
    for finding in checked.iter().flat_map(|checked| &checked.findings) {
        if finding.severity > Severity::Note {
            *tally.entry(key(db, finding)).or_default() += 1;
        }
    }
    tally
}
