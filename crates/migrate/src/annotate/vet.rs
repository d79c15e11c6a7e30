//! Proposals tried out together, round by round.
//!
//! Each try checks the whole project with the changed texts, whichever files were asked for; what is newly found, anywhere, takes
//! proposals with it, until nothing new is found. What is written then makes more known, and so there may be more to propose: the rounds end when there is not.

use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};
use std::path::PathBuf;
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::{Checked, check};
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::resolve::{leads_to, module_index};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;

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
    /// The proposals that were left out because they make findings or cannot be written safely, by place.
    pub withdrawn: Vec<Withdrawn>,
}

/// A proposal that was left out.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Withdrawn {
    /// The file, as it is shown.
    pub path: String,
    /// The dotted name of the function.
    pub function: String,
    /// The parameter's name, or `None` for the return.
    pub param: Option<String>,
    /// What would have been written.
    pub text: String,
    /// What stands against it: a place as `path:line`, line from 1 as it would be with the annotations, and in words.
    pub against: Option<(String, String)>,
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
    let mut vetted = Vetted { rounds: Vec::new(), changes: Vec::new(), withdrawn: Vec::new() };
    let mut changes: BTreeMap<PathBuf, Change> = BTreeMap::new();
    let mut refused: BTreeSet<Slot> = BTreeSet::new();
    let mut notes: BTreeMap<Slot, Withdrawn> = BTreeMap::new();
    let (mut db, mut files) = (db.clone(), files.to_vec());
    let mut before: Option<BTreeMap<Key, usize>> = None;
    let mut tried_again = None;
    let mut lines = 0;
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
        for proposal in &proposals {
            let (path, function, param) = slot(&db, proposal);
            let text = proposal.spelled.text.clone();
            let note = Withdrawn { path, function, param, text, against: None };
            notes.entry(slot(&db, proposal)).or_insert(note);
        }
        let (accepted, next, against) = tried(&db, &files, proposals, &known, &mut lines);
        for (slot, against) in against {
            if let Some(note) = notes.get_mut(&slot) {
                note.against = Some(against);
            }
        }
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
    vetted.withdrawn = refused.iter().filter_map(|slot| notes.remove(slot)).collect();
    vetted.changes = changes.into_values().collect();
    vetted.changes.sort_by(|one, other| one.shown.cmp(&other.shown));
    vetted
}

type Next = (Database, Vec<File>, BTreeMap<Key, usize>);

/// The project with some proposals written into it.
struct Attempt {
    edited: Vec<Edited>,
    trial: Database,
    files: Vec<File>,
    checked: Vec<Arc<Checked>>,
    tally: BTreeMap<Key, usize>,
}

impl Attempt {
    /// With all of `files` checked, or only one of them, by its path in the project.
    fn new(db: &Database, files: &[File], proposals: Vec<Proposal>, only: Option<&str>) -> Attempt {
        let edited = edited(db, proposals);
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
        let files: Vec<File> = files.iter().filter_map(|file| file.disk(db)).map(|path| trial.source(path)).collect();
        let checked = match only {
            None => check(&trial, &files),
            Some(only) => {
                let one: Vec<File> = files.iter().copied().filter(|file| file.path(&trial) == only).collect();
                check(&trial, &one)
            }
        };
        let tally = tally(&trial, &checked);
        Attempt { edited, trial, files, checked, tally }
    }

    /// The findings that there were not so many of before.
    fn worse(&self, before: &BTreeMap<Key, usize>) -> Vec<&Finding> {
        let all = self.checked.iter().flat_map(|checked| &checked.findings);
        let is_worse = |finding: &&Finding| {
            let key = key(&self.trial, finding);
            finding.severity > Severity::Note && self.tally.get(&key) > before.get(&key)
        };
        all.filter(is_worse).collect()
    }

    /// The proposals that are in it, but for those of some functions.
    fn without(&self, out: &HashSet<Suspect>) -> Vec<Proposal> {
        let all = self.edited.iter().flat_map(|edited| edited.proposals.iter().map(move |proposal| (edited, proposal)));
        let is_in = |edited: &Edited, proposal: &Proposal| {
            let of = |param| (edited.change.path.clone(), proposal.function.clone(), param);
            !out.contains(&of(None)) && !out.contains(&of(Some(proposal.param.clone())))
        };
        all.filter(|(edited, proposal)| is_in(edited, proposal)).map(|(_, proposal)| proposal.clone()).collect()
    }
}

/// A function by file and dotted name, and its parameter, or return, that is suspected; `None` for all of it.
type Suspect = (PathBuf, String, Option<Option<String>>);

/// Why slots were left out: where, and in words.
type Against = BTreeMap<Slot, (String, String)>;

/// So many lines are checked, in all, to find by halves the suspects that findings come from; after that all suspects are left
/// out. Said in docs/architecture.md.
const MOST_LINES: usize = 2_000_000;

/// What a try costs beside the file that is checked, in lines: other files are read as far as it asks them.
const LINES_OF_A_TRY: usize = 20_000;

/// The proposals of one round that make no findings, and the project as it is with them; nothing where none is left. Each try
/// leaves some out, so that it ends.
fn tried(
    db: &Database,
    files: &[File],
    mut proposals: Vec<Proposal>,
    before: &BTreeMap<Key, usize>,
    lines: &mut usize,
) -> (Vec<Edited>, Option<Next>, Against) {
    let mut against = Against::new();
    loop {
        let attempt = Attempt::new(db, files, proposals, None);
        if attempt.edited.is_empty() {
            return (Vec::new(), None, against);
        }
        let worse = attempt.worse(before);
        let Some(first) = worse.first() else {
            return (attempt.edited, Some((attempt.trial, attempt.files, attempt.tally)), against);
        };
        let mut out: HashMap<Suspect, &Finding> = HashMap::new();
        for finding in &worse {
            for suspect in along(&attempt, finding) {
                out.entry(suspect).or_insert(finding);
            }
        }
        if out.is_empty() {
            out = guilty(db, files, &attempt, first, before, lines)
                .into_iter()
                .map(|suspect| (suspect, *first))
                .collect();
        }
        for edited in &attempt.edited {
            for proposal in &edited.proposals {
                let of = |param| (edited.change.path.clone(), proposal.function.clone(), param);
                let found = out.get(&of(Some(proposal.param.clone()))).or_else(|| out.get(&of(None)));
                if let Some(finding) = found {
                    against.insert(slot(db, proposal), said(&attempt.trial, finding));
                }
            }
        }
        proposals = attempt.without(&out.into_keys().collect());
    }
}

/// A finding as what stands against a proposal.
fn said(db: &Database, finding: &Finding) -> (String, String) {
    let line = module_index(db, finding.file).lines.0.index_of(finding.range.start()) + 1;
    (format!("{}:{line}", finding.file.path(db)), finding.message.clone())
}

/// All functions with proposals for which something holds.
fn pick(attempt: &Attempt, keep: impl Fn(&Edited, &str) -> bool) -> Vec<Suspect> {
    let each = attempt.edited.iter().flat_map(|edited| edited.proposals.iter().map(move |proposal| (edited, proposal)));
    let mut found: Vec<Suspect> = each
        .filter(|(edited, proposal)| keep(edited, &proposal.function))
        .map(|(edited, proposal)| (edited.change.path.clone(), proposal.function.clone(), None))
        .collect();
    found.dedup();
    found
}

/// The proposal for the parameter that stands at a place, if there is one.
fn parameter_at(attempt: &Attempt, file: File, range: TextRange) -> Option<Suspect> {
    let index = module_index(&attempt.trial, file);
    let id = index.functions_around.of(range.start()).next()?;
    let param = index.functions[id].params.iter().find(|param| {
        let annotation = param.annotation.map(|annotation| index.spans[annotation]);
        let whole = annotation.map_or(param.name_range, |annotation| param.name_range.cover(annotation));
        whole.contains_range(range)
    })?;
    let name = attempt.trial.names().text(param.name);
    let function = functions::qualified(&attempt.trial, file, Some(id));
    let path = file.disk(&attempt.trial)?;
    let edited = attempt.edited.iter().find(|edited| edited.change.path == path)?;
    let is_this = |proposal: &&Proposal| proposal.function == function && proposal.param.as_deref() == Some(name);
    edited
        .proposals
        .iter()
        .find(is_this)
        .map(|proposal| (path.to_path_buf(), function.clone(), Some(proposal.param.clone())))
}

/// The functions with proposals along the evidence of a new finding; of a text that is no program any more, or that uses a name
/// that is not bound in it, all of its own.
fn along(attempt: &Attempt, finding: &Finding) -> Vec<Suspect> {
    let trial = &attempt.trial;
    if matches!(finding.rule, "syntax.error" | "engine.fault" | "name.undefined" | "name.unbound") {
        let path = finding.file.disk(trial);
        let own = pick(attempt, |edited, _| path == Some(edited.change.path.as_path()));
        if !own.is_empty() {
            return own;
        }
    }
    // What a parameter is said to be, and is not: the other annotations of its function may stay.
    let declared = finding.evidence.iter().filter(|step| step.kind == "declared");
    let params: Vec<Suspect> = declared.filter_map(|step| parameter_at(attempt, step.file, step.range)).collect();
    if !params.is_empty() {
        return params;
    }
    let mut names: BTreeSet<String> = BTreeSet::from([finding.symbol.clone()]);
    let places = finding.evidence.iter().map(|step| (step.file, step.range));
    for (file, range) in places.chain([(finding.file, finding.range)]) {
        let index = module_index(trial, file);
        let around = index.functions_around.of(range.start());
        names.extend(around.map(|id| functions::qualified(trial, file, Some(id))));
    }
    pick(attempt, |_, function| names.contains(function))
}

/// The functions that a new finding comes from whose evidence does not say so: of those that the code around it names, or else of
/// files that its file imports, or else of all, found by leaving out one half and then the other.
fn guilty(
    db: &Database,
    files: &[File],
    attempt: &Attempt,
    finding: &Finding,
    before: &BTreeMap<Key, usize>,
    lines: &mut usize,
) -> Vec<Suspect> {
    let trial = &attempt.trial;
    let key = key(trial, finding);
    let index = module_index(trial, finding.file);
    // Whether the finding is still there, its own file tells.
    let own = finding.file.path(trial);
    let is_gone_without = |out: &[Suspect], lines: &mut usize| {
        *lines += index.line_count + LINES_OF_A_TRY;
        let rest = attempt.without(&out.iter().cloned().collect());
        rest.is_empty() || Attempt::new(db, files, rest, Some(own)).tally.get(&key) <= before.get(&key)
    };
    let around = index.functions_around.of(finding.range.start()).last().map(|id| index.functions[id].range);
    let range = around.unwrap_or(finding.range);
    let code = finding.file.text(trial).get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
    let words: HashSet<&str> = code.split(|char: char| char != '_' && !char.is_alphanumeric()).collect();
    let named = pick(attempt, |_, function| words.contains(function.rsplit('.').next().unwrap_or(function)));
    let imported = || pick(attempt, |edited, _| leads_to(trial, finding.file, trial.source(&edited.change.path)));
    let found = [named, imported()];
    let mut found = found.into_iter().filter(|suspects| !suspects.is_empty());
    if *lines > MOST_LINES {
        return found.next().unwrap_or_else(|| pick(attempt, |_, _| true));
    }
    let mut suspects =
        found.find(|suspects| is_gone_without(suspects, lines)).unwrap_or_else(|| pick(attempt, |_, _| true));
    while *lines <= MOST_LINES {
        let (one, other) = suspects.split_at(suspects.len() / 2);
        if one.is_empty() {
            break;
        }
        if is_gone_without(one, lines) {
            suspects = one.to_vec();
        } else if is_gone_without(other, lines) {
            suspects = other.to_vec();
        } else {
            // It takes some of both.
            break;
        }
    }
    suspects
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
