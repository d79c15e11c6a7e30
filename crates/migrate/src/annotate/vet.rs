//! Proposals tried out together, round by round.
//!
//! Each try checks the whole project with the changed texts, whichever files were asked for; what is newly found, anywhere, takes
//! proposals with it, until nothing new is found. What is written then makes more known, and so there may be more to propose: the rounds end when there is not.

use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};
use std::path::{Path, PathBuf};
use std::sync::Arc;

use leitmotiv_engine::check::{Checked, Finding, check};
use leitmotiv_engine::db::{Database, File};
use leitmotiv_engine::functions;
use leitmotiv_engine::module::{leads_to, module_index};
use leitmotiv_project::settings::Severity;

use super::edit::{Edited, edited};
use super::{Proposal, Wanted, propose};
use crate::change::Change;

/// How many rounds there are at most. Said in docs/architecture.md.
const MOST_ROUNDS: usize = 8;

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

/// Proposals for the files at the places `asked` of all of the project's `files`, round by round, without those that would make
/// findings anywhere in these.
#[must_use]
pub fn vetted(db: &Database, files: &[File], asked: &[usize], wanted: &Wanted) -> Vetted {
    let mut vetted = Vetted { rounds: Vec::new(), changes: Vec::new(), dropped: 0 };
    let mut changes: BTreeMap<PathBuf, Change> = BTreeMap::new();
    let mut refused: BTreeSet<Slot> = BTreeSet::new();
    let (mut db, mut files) = (db.clone(), files.to_vec());
    let mut before: Option<BTreeMap<Key, usize>> = None;
    let mut tried_again = None;
    for _ in 0..MOST_ROUNDS {
        let of: Vec<File> = asked.iter().filter_map(|at| files.get(*at).copied()).collect();
        let found = propose(&db, &of, wanted);
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

/// The proposals of one round that make no findings, and the project as it is with them; nothing where none is left. Each try
/// leaves some out, so that it ends.
fn tried(
    db: &Database,
    files: &[File],
    mut proposals: Vec<Proposal>,
    before: &BTreeMap<Key, usize>,
) -> (Vec<Edited>, Option<Next>) {
    loop {
        let edited = edited(db, proposals);
        if edited.is_empty() {
            return (Vec::new(), None);
        }
        let trial = Database::new(db.project().clone());
        let changed: HashMap<File, &str> =
            edited.iter().map(|edited| (edited.file, edited.change.after.as_str())).collect();
        // What earlier rounds changed is not on disk either.
        for file in files {
            if let Some(path) = file.disk(db) {
                let text = changed.get(file).map_or_else(|| file.text(db).to_string(), |after| (*after).to_owned());
                let _ = trial.trial(path, text);
            }
        }
        let again: Vec<File> = files.iter().filter_map(|file| file.disk(db)).map(|path| trial.source(path)).collect();
        let checked = check(&trial, &again);
        let after = tally(&trial, &checked);
        let worse = checked.iter().flat_map(|checked| &checked.findings).filter(|finding| {
            let key = key(&trial, finding);
            finding.severity > Severity::Note && after.get(&key) > before.get(&key)
        });
        let mut out: HashSet<(&Path, &str)> = HashSet::new();
        for finding in worse {
            out.extend(suspects(&trial, finding, &edited));
        }
        if out.is_empty() {
            return (edited, Some((trial, again, after)));
        }
        proposals = edited
            .iter()
            .flat_map(|edited| edited.proposals.iter().map(|proposal| (edited.change.path.as_path(), proposal)))
            .filter(|(path, proposal)| !out.contains(&(*path, proposal.function.as_str())))
            .map(|(_, proposal)| proposal.clone())
            .collect();
    }
}

/// The functions (by file) whose proposals are to be left out because of a new finding: those along its evidence; or else those
/// that the code around it names; or else those of files that its file imports; or else all.
fn suspects<'a>(trial: &Database, finding: &Finding, edited: &'a [Edited]) -> Vec<(&'a Path, &'a str)> {
    let all = || {
        let each = edited.iter().flat_map(|edited| edited.proposals.iter().map(move |proposal| (edited, proposal)));
        each.map(|(edited, proposal)| (edited, edited.change.path.as_path(), proposal.function.as_str()))
    };
    let pick = |keep: &dyn Fn(&Edited, &str) -> bool| -> Vec<(&'a Path, &'a str)> {
        all()
            .filter(|(edited, _, function)| keep(edited, function))
            .map(|(_, path, function)| (path, function))
            .collect()
    };
    let is_of = |edited: &Edited, file: File| file.disk(trial) == Some(edited.change.path.as_path());
    // A text that is no program any more, and a name that is not bound in it, are the file's own.
    if matches!(finding.rule, "syntax.error" | "engine.fault" | "name.undefined" | "name.unbound") {
        let own = pick(&|edited, _| is_of(edited, finding.file));
        if !own.is_empty() {
            return own;
        }
    }
    let mut names: BTreeSet<String> = BTreeSet::from([finding.symbol.clone()]);
    let places = finding.evidence.iter().map(|step| (step.file, step.range));
    for (file, range) in places.chain([(finding.file, finding.range)]) {
        let index = module_index(trial, file);
        let around = index.functions_around.of(range.start());
        names.extend(around.map(|id| functions::qualified(trial, file, Some(id))));
    }
    let along = pick(&|_, function| names.contains(function));
    if !along.is_empty() {
        return along;
    }
    let index = module_index(trial, finding.file);
    let around = index.functions_around.of(finding.range.start()).last().map(|id| index.functions[id].range);
    let range = around.unwrap_or(finding.range);
    let code = finding.file.text(trial).get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
    let words: HashSet<&str> = code.split(|char: char| char != '_' && !char.is_alphanumeric()).collect();
    let named = pick(&|_, function| words.contains(function.rsplit('.').next().unwrap_or(function)));
    if !named.is_empty() {
        return named;
    }
    let imported = pick(&|edited, _| leads_to(trial, finding.file, trial.source(&edited.change.path)));
    if imported.is_empty() { pick(&|_, _| true) } else { imported }
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
