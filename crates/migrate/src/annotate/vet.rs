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
use leitmotiv_engine::outline::module_index;
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::{TextRange, TextSize};

use super::edit::{Edited, edited, unproved};
use super::suspects::{
    Blame, MOST_SEARCHES, Search, Suspect, blame, imported, named_around, on_its_lines, pick, rooted, without,
};
use super::{Inquiry, Part, Proposal, Wanted, attributes, named};
use crate::change::Change;
use crate::held::Held;
use crate::trial::Trial;

/// How many rounds there are at most. Said in docs/architecture.md.
const MOST_ROUNDS: usize = 24;

/// How often something else is tried for a slot, once other code has contradicted what was.
const MOST_TRIES: usize = 2;

/// What came of it.
pub struct Vetted {
    /// The proposals that hold, by path and in the order of the text.
    pub accepted: Vec<Arc<Proposal>>,
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
    /// What of it.
    pub part: Part,
    /// What would have been written.
    pub text: String,
    /// What stands against it: a place as `path:line`, line from 1 as it would be with the annotations, and in words.
    pub against: Option<(String, String)>,
}

/// A slot by its names: file, function or class, and what of it.
type Slot = (String, String, Part);

fn slot(db: &Database, proposal: &Proposal) -> Slot {
    (proposal.file.path(db).to_owned(), proposal.function.clone(), proposal.part.clone())
}

/// Proposals for some files, round by round, without those that would make findings anywhere in all of the project's `files`. They are
/// tried out on the database, and taken back.
#[must_use]
pub fn vetted(db: &mut Database, files: &[File], asked: &[File], wanted: &Wanted) -> Vetted {
    let mut vetted = Vetted { accepted: Vec::new(), changes: Vec::new(), withdrawn: Vec::new() };
    let mut changes: BTreeMap<PathBuf, Change> = BTreeMap::new();
    let mut refused: BTreeSet<Slot> = BTreeSet::new();
    let mut notes: BTreeMap<Slot, Withdrawn> = BTreeMap::new();
    let mut before: Option<Tally> = None;
    let mut inquiry = Inquiry::new(db, files);
    let mut tries: BTreeMap<Slot, usize> = BTreeMap::new();
    let mut contradicted: BTreeSet<(Slot, String)> = BTreeSet::new();
    let mut has_accepted = false;
    let places = places(db, asked);
    let mut trial = Trial::new(db);
    let mut lines = 0;
    let mut remembered = Remembered::new();
    for _ in 0..MOST_ROUNDS {
        let mut proposals = inquiry.propose(asked, wanted);
        let db = trial.db();
        proposals.retain(|proposal| {
            let slot = slot(db, proposal);
            let is_tried = tries.get(&slot).is_some_and(|tries| *tries >= MOST_TRIES);
            !is_tried && !contradicted.contains(&(slot, proposal.spelled.text.clone()))
        });
        // What leaves parts open may be known whole once more is written.
        if proposals.iter().any(|proposal| !proposal.is_open) {
            proposals.retain(|proposal| !proposal.is_open);
        }
        if proposals.is_empty() {
            if !has_accepted {
                break;
            }
            // Another run would begin from nothing but the texts: so does this one, until that finds nothing more.
            inquiry.begin_anew();
            tries.clear();
            lines = 0;
            has_accepted = false;
            continue;
        }
        let all: BTreeSet<Slot> = proposals.iter().map(|proposal| slot(db, proposal)).collect();
        refused.retain(|slot| !all.contains(slot));
        let known = before.take().unwrap_or_else(|| tally(db, &check(db, files), &wanted.held));
        for proposal in &proposals {
            let (path, function, part) = slot(db, proposal);
            let text = proposal.spelled.text.clone();
            let note = Withdrawn { path, function, part, text, against: None };
            notes.entry(slot(db, proposal)).or_insert(note);
        }
        let held = &*wanted.held;
        let mut round = Round {
            trial: &mut trial,
            held,
            files,
            base: HashMap::new(),
            written: Vec::new(),
            remembered: &mut remembered,
        };
        let tried = proposals.clone();
        let Tried { tally, against, direct } = round.tried(proposals, &known, &mut lines);
        contradicted.extend(direct);
        let accepted = round.written;
        for (slot, against) in against {
            if let Some(note) = notes.get_mut(&slot) {
                note.against = Some(against);
            }
        }
        let db = trial.db();
        let kept: BTreeSet<Slot> =
            accepted.iter().flat_map(|edited| &edited.proposals).map(|proposal| slot(db, proposal)).collect();
        refused.extend(all.difference(&kept).cloned());
        has_accepted |= !kept.is_empty();
        let out: Vec<Arc<Proposal>> =
            tried.into_iter().filter(|proposal| !kept.contains(&slot(db, proposal))).collect();
        for proposal in &out {
            *tries.entry(slot(db, proposal)).or_default() += 1;
        }
        inquiry.refuse(&out);
        for edited in accepted {
            inquiry.write(edited.file, Arc::from(edited.change.after.as_str()));
            vetted.accepted.extend(edited.proposals);
            let Change { path, shown, before, after } = edited.change;
            changes.entry(path.clone()).and_modify(|change| change.after.clone_from(&after)).or_insert(Change {
                path,
                shown,
                before,
                after,
            });
        }
        before = Some(tally.unwrap_or(known));
    }
    // Later rounds tell places in texts that have grown.
    vetted.accepted.sort_by_cached_key(|proposal| {
        let slot = slot(trial.db(), proposal);
        let place = places.get(&slot).copied();
        (slot.0, place)
    });
    vetted.withdrawn = refused.iter().filter_map(|slot| notes.remove(slot)).collect();
    vetted.changes = changes.into_values().collect();
    vetted.changes.sort_by(|one, other| one.shown.cmp(&other.shown));
    vetted
}

/// Where slots stand in files.
fn places(db: &Database, files: &[File]) -> BTreeMap<Slot, TextSize> {
    let mut found = BTreeMap::new();
    for file in files {
        let index = module_index(db, *file);
        let path = file.path(db);
        for (function, record) in index.functions.iter() {
            let name = functions::qualified(db, *file, Some(function));
            for param in &record.params {
                let part = Part::Parameter(db.names().text(param.name).to_owned());
                found.insert((path.to_owned(), name.clone(), part), param.name_range.start());
            }
            found.insert((path.to_owned(), name, Part::Return), record.params_end);
        }
        for declarable in attributes::worth_declaring(db, *file) {
            let (owner, part) = named(db, *file, declarable);
            found.insert((path.to_owned(), owner, part), index.defs[declarable.def].range.start());
        }
    }
    found
}

/// The line that something begins on, from 1.
fn line(db: &Database, file: File, range: TextRange) -> usize {
    module_index(db, file).lines.0.index_of(range.start()) + 1
}

/// One round: proposals written into the project, fewer from try to try.
struct Round<'a, 'db> {
    trial: &'a mut Trial<'db>,
    /// What files are held to that annotations could break.
    held: &'a Held,
    files: &'a [File],
    /// The texts before the round, of files that it has changed.
    base: HashMap<File, Arc<str>>,
    /// What is written now, by path.
    written: Vec<Edited>,
    /// What searches have found so far, in this round and those before.
    remembered: &'a mut Remembered,
}

/// What a try has shown.
struct Attempt {
    checked: Vec<Arc<Checked>>,
    tally: Tally,
}

impl Attempt {
    /// The findings that there were not so many of before.
    fn worse(&self, db: &Database, before: &Tally, held: &Held) -> Vec<Finding> {
        let all = self.checked.iter().flat_map(|checked| &checked.findings);
        let is_worse = |finding: &&Finding| {
            let key = key(db, finding);
            counts(db, finding, held) && self.tally.get(&key) > before.get(&key)
        };
        all.filter(is_worse).cloned().collect()
    }
}

/// What came of trying proposals.
struct Tried {
    /// The findings that there are then, or none where nothing is left.
    tally: Option<Tally>,
    /// Why what was left out was.
    against: Against,
    /// What of it findings name themselves, with its text.
    direct: BTreeSet<(Slot, String)>,
}

/// The slots that findings were found to come from: where they come again, these are asked about first.
type Remembered = BTreeMap<Key, BTreeSet<Slot>>;

/// How many findings there are of each kind.
pub(crate) type Tally = BTreeMap<Key, usize>;

/// Why slots were left out: where, and in words.
type Against = BTreeMap<Slot, (String, String)>;

/// So many times the lines of the project are checked, in all, to find the suspects that findings come from; and so many lines more.
/// After that the suspects that are left go together. Said in docs/architecture.md.
const MOST_LINES: (usize, usize) = (10, 1_000_000);

/// So many suspects at most are left out without being told apart.
const MOST_UNSEARCHED: usize = 32;

/// What a try costs beside the files that are checked, in lines: other files are read as far as it asks them.
const LINES_OF_A_TRY: usize = 10_000;

impl Round<'_, '_> {
    /// Writes proposals into the texts from before the round, in place of what is written now, and checks all files, or only some.
    fn attempt(&mut self, proposals: Vec<Arc<Proposal>>, only: Option<&[File]>) -> Attempt {
        let mut wanted: HashMap<File, Vec<Arc<Proposal>>> = HashMap::new();
        for proposal in proposals {
            wanted.entry(proposal.file).or_default().push(proposal);
        }
        // Files in which the same is to stand stay as they are.
        let is_same = |edited: &Edited| {
            let wanted = wanted.get(&edited.file).map(Vec::as_slice).unwrap_or_default();
            wanted.len() == edited.proposals.len()
                && std::iter::zip(wanted, &edited.proposals).all(|(one, other)| Arc::ptr_eq(one, other))
        };
        let (mut written, other): (Vec<Edited>, Vec<Edited>) =
            std::mem::take(&mut self.written).into_iter().partition(is_same);
        for edited in &written {
            wanted.remove(&edited.file);
        }
        self.trial.write(other.iter().filter_map(|edited| Some((edited.file, self.base.get(&edited.file)?.clone()))));
        let new = edited(self.trial.db(), wanted.into_values().flatten().collect());
        for edited in &new {
            self.base.entry(edited.file).or_insert_with(|| edited.file.text(self.trial.db()).clone());
        }
        self.trial.write(new.iter().map(|edited| (edited.file, Arc::from(edited.change.after.as_str()))));
        written.extend(new);
        written.sort_by(|one, other| one.change.shown.cmp(&other.change.shown));
        self.written = written;
        let db = self.trial.db();
        let checked = match only {
            None => check(db, self.files),
            Some(only) => check(db, only),
        };
        let tally = tally(db, &checked, self.held);
        Attempt { checked, tally }
    }

    /// Leaves out what makes findings, until nothing does. Each try leaves some out, so that it ends.
    fn tried(&mut self, mut proposals: Vec<Arc<Proposal>>, before: &Tally, lines: &mut usize) -> Tried {
        let mut against = Against::new();
        let mut direct: BTreeSet<(Slot, String)> = BTreeSet::new();
        loop {
            let attempt = self.attempt(proposals, None);
            if self.written.is_empty() {
                return Tried { tally: None, against, direct };
            }
            let db = self.trial.db();
            let worse = attempt.worse(db, before, self.held);
            if worse.is_empty() {
                let unproved: HashMap<File, Vec<Arc<Proposal>>> = unproved(&self.written).into_iter().collect();
                if !unproved.is_empty() {
                    let mut rest = without(&self.written, &HashSet::new());
                    rest.retain(|proposal| unproved.get(&proposal.file).is_none_or(|plain| plain.contains(proposal)));
                    proposals = rest;
                    continue;
                }
                return Tried { tally: Some(attempt.tally), against, direct };
            }
            // By their places among the findings. These are told in the texts that they were found in.
            let told: Vec<(String, String)> = worse.iter().map(|finding| said(db, finding)).collect();
            let mut out: HashMap<Suspect, usize> = HashMap::new();
            let mut open: Vec<(usize, Vec<Suspect>)> = Vec::new();
            for (at, finding) in worse.iter().enumerate() {
                match blame(db, &self.written, finding) {
                    Blame::Slot(slot) => {
                        out.entry(slot).or_insert(at);
                    }
                    Blame::Among(suspects) => open.push((at, suspects)),
                }
            }
            let written = self.written.clone();
            let is_search = out.is_empty();
            if is_search {
                out = self.guilty_again(&worse, &open, before, lines);
            }
            if is_search && out.is_empty() {
                out = self.guilty(&worse, open, before, lines);
                let db = self.trial.db();
                for (proposal, at) in &out {
                    self.remembered.entry(key(db, &worse[*at])).or_default().insert(slot(db, proposal));
                }
            }
            for (proposal, at) in &out {
                let slot = slot(self.trial.db(), proposal);
                against.insert(slot.clone(), told[*at].clone());
                if !is_search {
                    direct.insert((slot, proposal.spelled.text.clone()));
                }
            }
            proposals = without(&written, &out.into_keys().collect());
        }
    }

    /// So many lines may be checked to find what findings come from.
    fn most_lines(&self) -> usize {
        let db = self.trial.db();
        let all: usize = self.files.iter().map(|file| module_index(db, *file).line_count).sum();
        all * MOST_LINES.0 + MOST_LINES.1
    }

    /// Checks the files of some findings without some of what is written.
    fn try_without(
        &mut self,
        written: &[Edited],
        out: &HashSet<Suspect>,
        asked: &HashSet<File>,
        lines: &mut usize,
    ) -> Option<Tally> {
        let asked: Vec<File> = self.files.iter().copied().filter(|file| asked.contains(file)).collect();
        let db = self.trial.db();
        *lines += asked.iter().map(|file| module_index(db, *file).line_count).sum::<usize>() + LINES_OF_A_TRY;
        let rest = without(written, out);
        (!rest.is_empty()).then(|| self.attempt(rest, Some(&asked)).tally)
    }

    /// What the same findings were found to come from before, if it is written again and they are gone without it.
    fn guilty_again(
        &mut self,
        worse: &[Finding],
        open: &[(usize, Vec<Suspect>)],
        before: &Tally,
        lines: &mut usize,
    ) -> HashMap<Suspect, usize> {
        let written = self.written.clone();
        let db = self.trial.db();
        let by_slot: HashMap<Slot, Suspect> =
            pick(&written, |_| true).into_iter().map(|one| (slot(db, &one), one)).collect();
        let again = |at: usize| {
            let slots = self.remembered.get(&key(db, &worse[at]))?;
            let found: Vec<Suspect> = slots.iter().filter_map(|slot| by_slot.get(slot)).cloned().collect();
            (!found.is_empty()).then_some((at, found))
        };
        let again: Vec<(usize, Vec<Suspect>)> = open.iter().filter_map(|(at, _)| again(*at)).collect();
        if again.is_empty() {
            return HashMap::new();
        }
        let keys: Vec<Key> = again.iter().map(|(at, _)| key(db, &worse[*at])).collect();
        let out: HashSet<Suspect> = again.iter().flat_map(|(_, found)| found).cloned().collect();
        let asked: HashSet<File> = again.iter().map(|(at, _)| worse[*at].file).collect();
        let tally = self.try_without(&written, &out, &asked, lines);
        let gone = std::iter::zip(again, keys)
            .filter(|(_, key)| tally.as_ref().is_none_or(|tally| tally.get(key) <= before.get(key)));
        gone.flat_map(|((at, found), _)| found.into_iter().map(move |one| (one, at))).collect()
    }

    /// The functions that new findings come from whose evidence does not say so: of what the code around each names, or else of files that
    /// its file imports, or else of all, found by leaving out one half and then the other. All findings are looked into side by side, so that
    /// there are not many more tries than for one.
    fn guilty(
        &mut self,
        worse: &[Finding],
        open: Vec<(usize, Vec<Suspect>)>,
        before: &Tally,
        lines: &mut usize,
    ) -> HashMap<Suspect, usize> {
        let written = self.written.clone();
        let db = self.trial.db();
        let most = self.most_lines();
        let mut searches: Vec<Search> = Vec::new();
        let mut taken: HashSet<Suspect> = HashSet::new();
        for (at, along) in open {
            let finding = &worse[at];
            let key = key(db, finding);
            let wide = [
                on_its_lines(db, &written, finding),
                named_around(db, &written, finding),
                imported(db, &written, finding.file),
                pick(&written, |_| true),
            ];
            let near = [rooted(db, &written, finding), along];
            let search = Search::new(at, finding.file, key, near.into_iter().chain(wide));
            // Findings with the same suspects have the same reason, as like as not: the next try tells.
            let is_apart = search.suspects.iter().all(|suspect| !taken.contains(suspect));
            if is_apart && searches.len() < MOST_SEARCHES && searches.iter().all(|other| other.key != search.key) {
                taken.extend(search.suspects.iter().cloned());
                searches.push(search);
            }
        }
        // Whether a finding is still there, its own file tells.
        loop {
            // Beyond the budget only those go on that would else leave out much.
            let goes_on =
                |search: &Search| search.is_open() && (*lines <= most || search.suspects.len() > MOST_UNSEARCHED);
            let mut out: HashSet<Suspect> = HashSet::new();
            let mut now: Vec<usize> = Vec::new();
            for (number, search) in searches.iter().enumerate() {
                // What one search leaves out, another one must not ask about at the same time.
                if goes_on(search) && search.suspects.iter().all(|suspect| !out.contains(suspect)) {
                    out.extend(search.suspects.iter().cloned());
                    now.push(number);
                }
            }
            if now.is_empty() {
                break;
            }
            for number in &now {
                searches[*number].put_back().iter().for_each(|suspect| {
                    out.remove(suspect);
                });
            }
            let asked: HashSet<File> = now.iter().map(|number| searches[*number].file).collect();
            let tally = self.try_without(&written, &out, &asked, lines);
            for number in now {
                let search = &mut searches[number];
                let is_gone = tally.as_ref().is_none_or(|tally| tally.get(&search.key) <= before.get(&search.key));
                search.step(is_gone);
            }
        }
        let nearest: Vec<(Suspect, usize)> = searches
            .first()
            .map_or(Vec::new(), |search| search.nearest.iter().map(|suspect| (suspect.clone(), search.at)).collect());
        let found =
            searches.into_iter().flat_map(|search| search.suspects.into_iter().map(move |one| (one, search.at)));
        let found: HashMap<Suspect, usize> = found.collect();
        // Searches that were in each other's way may have found nobody; somebody must go.
        if found.is_empty() { nearest.into_iter().collect() } else { found }
    }
}

pub(crate) type Key = (String, &'static str, String);

pub(crate) fn key(db: &Database, finding: &Finding) -> Key {
    (finding.file.path(db).to_owned(), finding.rule, finding.symbol.clone())
}

/// Whether a finding stands against what brings it: notes do not, nor what nobody holds the file to.
fn counts(db: &Database, finding: &Finding, held: &Held) -> bool {
    let is_held = || held.get(finding.file.path(db)).is_some_and(|rules| rules.contains(&finding.rule));
    finding.severity > Severity::Note || finding.severity == Severity::Off && is_held()
}

/// How many findings there are by file, rule and symbol; notes and missing annotations apart.
pub(crate) fn tally(db: &Database, checked: &[Arc<Checked>], held: &Held) -> Tally {
    let mut tally = BTreeMap::new();
    for finding in checked.iter().flat_map(|checked| &checked.findings) {
        if counts(db, finding, held) {
            *tally.entry(key(db, finding)).or_default() += 1;
        }
    }
    tally
}

/// A finding as what stands against a proposal.
fn said(db: &Database, finding: &Finding) -> (String, String) {
    (format!("{}:{}", finding.file.path(db), line(db, finding.file, finding.range)), finding.message.clone())
}
