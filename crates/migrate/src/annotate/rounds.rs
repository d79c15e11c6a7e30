//! Parameters concluded to a fixed point: what one is concluded to be makes more known, in its function and in what that calls and gives.

use std::sync::Arc;

use leitmotiv_engine::base::assumed::Assumed;
use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::Checked;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::{self, module_index};
use leitmotiv_engine::types::{Binding, Type, union};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::{FunctionId, ModuleIndex};
use rayon::prelude::*;
use rustc_hash::{FxHashMap, FxHashSet};

use super::duck::Members;
use super::evidence::{Conclusion, Source, Sureness};
use super::known::Known;
use super::sources::traces::Traces;
use super::suggest::Facts;
use super::{Named, Part, Proposal, Refused, Wanted, results, weigh};

/// How many rounds there are at most, for what is fair and again for what is low. Said in docs/architecture.md.
const MOST_ROUNDS: usize = 6;

/// After so many rounds what was concluded of a parameter stays. Said in docs/architecture.md.
const SETTLING_ROUNDS: usize = 3;

/// Conclusions by parameter.
type Parameters = FxHashMap<Parameter, Conclusion>;

/// Conclusions of results by function.
type Results = FxHashMap<(File, FunctionId), Conclusion>;

/// What is concluded of a project.
pub(super) struct Concluded {
    /// What is concluded, by parameter.
    pub(super) parameters: Parameters,
    /// What is concluded of results that cannot be inferred, by function.
    pub(super) results: Results,
    /// What is known in the end.
    pub(super) known: Known,
    /// Classes by their members.
    pub(super) members: Members,
}

/// An inquiry into what the slots of a project are: a database of its own, in which what was concluded is taken for granted, so that it may make
/// more known. What is asked again after a change is worked out as far as it concerns the change.
pub struct Inquiry {
    db: Database,
    /// Its files, with those of the database that the inquiry is made for.
    files: Vec<(File, File)>,
    concluded: Option<Concluded>,
    refused: Refused,
}

impl Inquiry {
    /// What was concluded, with the database that it was concluded in.
    pub(super) fn facts(&self) -> Option<Facts<'_>> {
        let files = self.files.iter().map(|(own, _)| *own).collect();
        Some(Facts { db: &self.db, files, concluded: self.concluded.as_ref()? })
    }

    /// An inquiry into a project, of which these are all files.
    #[must_use]
    pub fn new(project: &Database, files: &[File]) -> Inquiry {
        let mut db = project.anew();
        let mut own: Vec<(File, File)> = Vec::with_capacity(files.len());
        for file in files.iter().copied() {
            let Some(path) = file.disk(project) else { continue };
            let here = db.source(path);
            db.try_text(here, file.text(project).clone());
            own.push((here, file));
        }
        Inquiry { db, files: own, concluded: None, refused: Refused::default() }
    }

    /// Takes something else for granted of one of its own files.
    pub(super) fn assume(&mut self, file: File, assumed: Option<Arc<Assumed>>) {
        self.db.assume(file, assumed);
    }

    /// Begins anew from nothing but the texts: nothing is concluded, refused or taken for granted.
    pub fn begin_anew(&mut self) {
        for (own, _) in &self.files {
            self.db.assume(*own, None);
        }
        self.concluded = None;
        self.refused = Refused::default();
    }

    /// Gives a file another text; `file` is that of the project's own database.
    pub fn write(&mut self, file: File, text: Arc<str>) {
        if let Some((own, _)) = self.files.iter().copied().find(|(_, theirs)| *theirs == file) {
            self.db.try_text(own, text);
        }
    }

    /// Says that some of what was proposed is not so, for other code contradicts it: something else may be concluded in its place, and it is no
    /// evidence for anything.
    pub fn refuse(&mut self, proposals: &[Arc<Proposal>]) {
        let own: FxHashMap<File, File> = self.files.iter().map(|(own, theirs)| (*theirs, *own)).collect();
        let mut gone: FxHashSet<Named> = FxHashSet::default();
        for proposal in proposals {
            let Some(own) = own.get(&proposal.file) else { continue };
            let named = (*own, proposal.function.clone(), proposal.part.clone());
            self.refused.entry(named.clone()).or_default().push(proposal.ty);
            gone.insert(named);
        }
        let Some(concluded) = &mut self.concluded else { return };
        let db = &self.db;
        let with_gone: FxHashSet<File> = gone.iter().map(|(file, ..)| *file).collect();
        concluded.parameters.retain(|parameter, _| {
            let Parameter { file, function, place } = *parameter;
            let param = || outline::function(db, file, function).params.get(place as usize);
            let named = |name| (file, functions::qualified(db, file, Some(function)), Part::Parameter(name));
            let is_gone = |name| gone.contains(&named(db.names().text(name).to_owned()));
            !with_gone.contains(&file) || param().is_none_or(|param| !is_gone(param.name))
        });
        concluded.results.retain(|(file, function), _| {
            !with_gone.contains(file)
                || !gone.contains(&(*file, functions::qualified(db, *file, Some(*function)), Part::Return))
        });
    }

    /// Proposals for some of the project's own files, in their order and that of the text.
    #[must_use]
    pub fn propose(&mut self, asked: &[File], wanted: &Wanted) -> Vec<Arc<Proposal>> {
        self.conclude(wanted);
        let Some(concluded) = &self.concluded else { return Vec::new() };
        let refused = &self.refused;
        let asked: FxHashSet<File> = asked.iter().copied().collect();
        let pairs: Vec<(File, File)> =
            self.files.iter().copied().filter(|(_, theirs)| asked.contains(theirs)).collect();
        let each: Vec<Vec<Arc<Proposal>>> = pairs
            .par_iter()
            .map_with(self.db.clone(), |db, (own, theirs)| {
                let mut proposals = super::in_file(db, *own, wanted, concluded, refused);
                proposals.iter_mut().for_each(|proposal| proposal.file = *theirs);
                proposals.into_iter().map(Arc::new).collect()
            })
            .collect();
        each.into_iter().flatten().collect()
    }

    /// Checks the project's files where what is concluded is taken for granted; with the database that the causes are of.
    #[must_use]
    pub fn check(&mut self, wanted: &Wanted) -> (&Database, Vec<Arc<Checked>>) {
        self.conclude(wanted);
        let files: Vec<File> = self.files.iter().map(|(own, _)| *own).collect();
        (&self.db, leitmotiv_engine::check::check(&self.db, &files))
    }

    /// Concludes what it can of the parameters of all files: first what is at least fair, from nothing but what is; then, where that is
    /// wanted, what is low.
    fn conclude(&mut self, wanted: &Wanted) {
        let files: Vec<File> = self.files.iter().map(|(own, _)| *own).collect();
        let is_first = self.concluded.is_none();
        let phases: &[Sureness] = match (wanted.at_least, is_first) {
            (Sureness::Sure | Sureness::Fair, _) => &[Sureness::Fair],
            (Sureness::Low, true) => &[Sureness::Fair, Sureness::Low],
            (Sureness::Low, false) => &[Sureness::Low],
        };
        let (mut parameters, mut results, mut members) = match self.concluded.take() {
            Some(before) => (before.parameters, before.results, Some(before.members)),
            None => (FxHashMap::default(), FxHashMap::default(), None),
        };
        let mut last = None;
        let traces = match wanted.sources.contains(&Source::Traces) {
            true => Traces::new(&self.db, &files, &wanted.records),
            false => Traces::default(),
        };
        let traces = Arc::new(traces);
        for phase in phases {
            let fair = parameters.clone();
            let is_second = *phase == Sureness::Low;
            for number in 0..MOST_ROUNDS {
                let db = &self.db;
                // From some round on what was concluded stays: two things may say each other's contrary for ever.
                let settled = (!is_first || number >= SETTLING_ROUNDS).then_some(&parameters);
                let taken =
                    parameters.iter().filter(|(_, conclusion): &(_, &Conclusion)| conclusion.sureness >= *phase);
                let taken = taken.map(|(parameter, conclusion)| (*parameter, conclusion.ty)).collect();
                let known = Known::gather(db, &files, taken, traces.clone());
                let members = members.get_or_insert_with(|| Members::new(db, known.classes(db)));
                let mut next = round(db, &known, members, &files, (&self.refused, settled, &wanted.sources, *phase));
                // What was fair when only fair things were assumed stays as it was.
                if is_second {
                    for (parameter, conclusion) in &mut next {
                        match fair.get(parameter) {
                            Some(before) if before.sureness >= Sureness::Fair => *conclusion = before.clone(),
                            _ => conclusion.sureness = Sureness::Low,
                        }
                    }
                }
                let more = open_results(db, &known, &files, &results, (*phase, &self.refused));
                let is_same = same(&next, &parameters) && more.is_empty();
                results.extend(more);
                parameters = next;
                last = Some(known);
                if is_same {
                    break;
                }
                assume(&mut self.db, &files, (&parameters, &results), *phase);
            }
        }
        let db = &self.db;
        let known = last.unwrap_or_else(|| Known::gather(db, &files, FxHashMap::default(), traces));
        let members = members.unwrap_or_else(|| Members::new(db, known.classes(db)));
        self.concluded = Some(Concluded { parameters, results, known, members });
    }
}

fn same(one: &Parameters, other: &Parameters) -> bool {
    one.len() == other.len()
        && one.iter().all(|(parameter, conclusion)| {
            other.get(parameter).is_some_and(|other| (other.ty, other.sureness) == (conclusion.ty, conclusion.sureness))
        })
}

fn assume(db: &mut Database, files: &[File], (parameters, results): (&Parameters, &Results), least: Sureness) {
    let mut by_file: FxHashMap<File, Assumed> = FxHashMap::default();
    for (parameter, conclusion) in parameters {
        if conclusion.sureness >= least {
            let assumed = by_file.entry(parameter.file).or_default();
            assumed.parameters.insert((parameter.function, parameter.place), conclusion.ty);
        }
    }
    for ((file, function), conclusion) in results {
        by_file.entry(*file).or_default().results.insert(*function, conclusion.ty);
    }
    for file in files {
        let assumed = by_file.remove(file).map(Arc::new);
        db.assume(*file, assumed);
    }
}

fn is_refused(refused: &Refused, slot: &Named, ty: Type) -> bool {
    refused.get(slot).is_some_and(|refused| refused.contains(&ty))
}

/// What is concluded of results that cannot be inferred as a whole.
fn open_results(
    db: &Database,
    known: &Known,
    files: &[File],
    before: &Results,
    (least, refused): (Sureness, &Refused),
) -> Vec<((File, FunctionId), Conclusion)> {
    each_source(db, files, |db, file, index| {
        let mut found = Vec::new();
        for (function, record) in index.functions.iter() {
            let key = (file, function);
            if record.returns.is_some() || before.contains_key(&key) {
                continue;
            }
            let dotted = || (file, functions::qualified(db, file, Some(function)), Part::Return);
            let inferred = functions::return_type(db, file, function);
            if !weigh::open(db, inferred) {
                continue;
            }
            let Some(concluded) = results::conclude(db, known, key, false) else { continue };
            // What leaves parts open is inferred better once more is known.
            let is_open = if inferred.is_dynamic() { is_open_at_top } else { weigh::open };
            let is_wanted = concluded.sureness >= least && !is_open(db, concluded.ty);
            if is_wanted && (refused.is_empty() || !is_refused(refused, &dotted(), concluded.ty)) {
                found.push((key, concluded));
            }
        }
        found
    })
}

/// Whether a part of a union, or all of a type, is not known.
fn is_open_at_top(db: &Database, ty: Type) -> bool {
    union::parts(db.store(), &ty).iter().any(|part| part.is_dynamic())
}

fn round(
    db: &Database,
    known: &Known,
    members: &Members,
    files: &[File],
    (refused, settled, sources, phase): (&Refused, Option<&Parameters>, &[Source], Sureness),
) -> Parameters {
    let with_refused: FxHashSet<File> = refused.keys().map(|(file, ..)| *file).collect();
    let each = each_source(db, files, |db, file, index| {
        let mut found = Vec::new();
        for (function, record) in index.functions.iter() {
            let dotted = || functions::qualified(db, file, Some(function));
            let dotted = with_refused.contains(&file).then(dotted);
            for parameter in open_parameters(db, file, index, function) {
                // What was less may have become more.
                let before = settled.and_then(|settled| settled.get(&parameter));
                let before = before.filter(|before| before.sureness >= phase).cloned();
                let conclusion = before.or_else(|| weigh::parameter(db, known, members, parameter, sources));
                let Some(conclusion) = conclusion else { continue };
                let name = db.names().text(record.params[parameter.place as usize].name);
                let named = |dotted: &String| (file, dotted.clone(), Part::Parameter(name.to_owned()));
                let is_out = |dotted| is_refused(refused, &named(dotted), conclusion.ty);
                if !dotted.as_ref().is_some_and(is_out) {
                    found.push((parameter, conclusion));
                }
            }
        }
        found
    });
    each.into_iter().collect()
}

/// What some work finds in each file whose source can be read, in the order of the files.
fn each_source<T: Send>(
    db: &Database,
    files: &[File],
    work: impl Fn(&Database, File, &ModuleIndex) -> Vec<T> + Sync,
) -> Vec<T> {
    let each: Vec<Vec<T>> = files
        .par_iter()
        .map_with(db.clone(), |db, file| {
            let index = module_index(db, *file);
            let is_read = !file.is_stub(db) && index.faults.is_empty();
            if is_read { work(db, *file, index) } else { Vec::new() }
        })
        .collect();
    each.into_iter().flatten().collect()
}

/// The parameters of a function that nobody annotated and that are not the method's own object.
pub(super) fn open_parameters(db: &Database, file: File, index: &ModuleIndex, function: FunctionId) -> Vec<Parameter> {
    let record = &index.functions[function];
    let outline = outline::function(db, file, function);
    let is_bound = record.class.is_some()
        && (outline.binding != Binding::Static || outline.name == leitmotiv_syntax::names::known::NEW);
    (0..record.params.len())
        .filter(|place| record.params[*place].annotation.is_none() && !(*place == 0 && is_bound))
        .map(|place| Parameter { file, function, place: u32::try_from(place).unwrap_or(u32::MAX) })
        .collect()
}
