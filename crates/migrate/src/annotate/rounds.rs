//! Parameters concluded to a fixed point: what one is concluded to be makes more known, in its function and in what that calls and gives.

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::{Assumed, File};
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::{self, module_index};
use leitmotiv_engine::types::{Binding, Type, union};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::{FunctionId, ModuleIndex};
use rayon::prelude::*;
use rustc_hash::{FxHashMap, FxHashSet};

use super::duck::Members;
use super::evidence::{Conclusion, Sureness};
use super::known::Known;
use super::{Named, Part, Wanted, results, weigh};

/// How many rounds there are at most, for what is fair and again for what is low. Said in docs/architecture.md.
const MOST_ROUNDS: usize = 6;

/// What parameters are taken to be while more is concluded. When it is dropped, nothing is taken for granted any more.
pub(super) struct Assumptions<'db> {
    db: &'db mut Database,
    files: Vec<File>,
}

impl Drop for Assumptions<'_> {
    fn drop(&mut self) {
        for file in &self.files {
            self.db.assume(*file, None);
        }
    }
}

impl Assumptions<'_> {
    /// The project, with what was concluded taken for granted.
    pub(super) fn db(&self) -> &Database {
        self.db
    }
}

/// What is concluded for the parameters of a project.
pub(super) struct Concluded {
    /// What is concluded, by parameter.
    pub(super) parameters: FxHashMap<Parameter, Conclusion>,
    /// What is concluded of results that cannot be inferred, by function.
    pub(super) results: FxHashMap<(File, FunctionId), Conclusion>,
    /// What is known in the end.
    pub(super) known: Known,
    /// Classes by their members.
    pub(super) members: Members,
}

/// Concludes what it can of the parameters of all files: first what is at least fair, from nothing but what is; then, where that is wanted,
/// what is low.
pub(super) fn conclude<'db>(db: &'db mut Database, files: &[File], wanted: &Wanted) -> (Assumptions<'db>, Concluded) {
    let mut assumptions = Assumptions { db, files: Vec::new() };
    let mut parameters: FxHashMap<Parameter, Conclusion> = FxHashMap::default();
    let mut members: Option<Members> = None;
    let mut last = None;
    let mut fair: FxHashMap<Parameter, Conclusion> = FxHashMap::default();
    let mut results: FxHashMap<(File, FunctionId), Conclusion> = FxHashMap::default();
    for phase in [Sureness::Fair, Sureness::Low] {
        if phase < wanted.at_least {
            break;
        }
        for _ in 0..MOST_ROUNDS {
            let db: &Database = assumptions.db;
            let taken = |least: Sureness| {
                let all = parameters.iter().filter(move |(_, conclusion)| conclusion.sureness >= least);
                all.map(|(parameter, conclusion)| (*parameter, conclusion.ty)).collect::<FxHashMap<Parameter, Type>>()
            };
            let known = Known::gather(db, files, taken(phase));
            let members = members.get_or_insert_with(|| Members::new(db, known.classes(db)));
            let mut next = round(db, &known, members, files, wanted);
            // What was fair when only fair things were assumed stays as it was.
            if phase == Sureness::Low {
                for (parameter, conclusion) in &mut next {
                    match fair.get(parameter) {
                        Some(before) if before.sureness >= Sureness::Fair => *conclusion = before.clone(),
                        _ => conclusion.sureness = Sureness::Low,
                    }
                }
                next.extend(fair.iter().filter(|(_, one)| one.sureness >= Sureness::Fair).map(|(key, one)| (*key, one.clone())));
            }
            let more = open_results(db, &known, files, &results, (phase, wanted));
            let is_same = same(&next, &parameters) && more.is_empty();
            results.extend(more);
            parameters = next;
            last = Some(known);
            if is_same {
                break;
            }
            assume(&mut assumptions, files, (&parameters, &results), phase);
        }
        fair.clone_from(&parameters);
    }
    let db: &Database = assumptions.db;
    let known = last.unwrap_or_else(|| Known::gather(db, files, FxHashMap::default()));
    let members = members.unwrap_or_else(|| Members::new(db, known.classes(db)));
    (assumptions, Concluded { parameters, results, known, members })
}

fn same(one: &FxHashMap<Parameter, Conclusion>, other: &FxHashMap<Parameter, Conclusion>) -> bool {
    one.len() == other.len()
        && one.iter().all(|(parameter, conclusion)| {
            other
                .get(parameter)
                .is_some_and(|other| (other.ty, other.sureness) == (conclusion.ty, conclusion.sureness))
        })
}

fn assume(
    assumptions: &mut Assumptions<'_>,
    files: &[File],
    (parameters, results): (&FxHashMap<Parameter, Conclusion>, &FxHashMap<(File, FunctionId), Conclusion>),
    least: Sureness,
) {
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
        if assumed.is_some() && !assumptions.files.contains(file) {
            assumptions.files.push(*file);
        }
        assumptions.db.assume(*file, assumed);
    }
}

fn is_refused(wanted: &Wanted, slot: &Named, ty: Type) -> bool {
    wanted.refused.get(slot).is_some_and(|refused| refused.contains(&ty))
}

/// What is concluded of results that cannot be inferred as a whole.
fn open_results(
    db: &Database,
    known: &Known,
    files: &[File],
    before: &FxHashMap<(File, FunctionId), Conclusion>,
    (least, wanted): (Sureness, &Wanted),
) -> Vec<((File, FunctionId), Conclusion)> {
    let each: Vec<Vec<((File, FunctionId), Conclusion)>> = files
        .par_iter()
        .map_with(db.clone(), |db, file| {
            let index = module_index(db, *file);
            if file.is_stub(db) || !index.faults.is_empty() {
                return Vec::new();
            }
            let mut found = Vec::new();
            for (function, record) in index.functions.iter() {
                let key = (*file, function);
                if record.returns.is_some() || before.contains_key(&key) {
                    continue;
                }
                let dotted = || (*file, functions::qualified(db, *file, Some(function)), Part::Return);
                if !weigh::open(db, functions::return_type(db, *file, function)) {
                    continue;
                }
                let Some(concluded) = results::conclude(db, known, key, false) else { continue };
                let is_wanted = concluded.sureness >= least && !is_open_at_top(db, concluded.ty);
                if is_wanted && (wanted.refused.is_empty() || !is_refused(wanted, &dotted(), concluded.ty)) {
                    found.push((key, concluded));
                }
            }
            found
        })
        .collect();
    each.into_iter().flatten().collect()
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
    wanted: &Wanted,
) -> FxHashMap<Parameter, Conclusion> {
    let refused: FxHashSet<File> = wanted.refused.keys().map(|(file, ..)| *file).collect();
    let each: Vec<Vec<(Parameter, Conclusion)>> = files
        .par_iter()
        .map_with(db.clone(), |db, file| {
            let index = module_index(db, *file);
            if file.is_stub(db) || !index.faults.is_empty() {
                return Vec::new();
            }
            let mut found = Vec::new();
            for (function, record) in index.functions.iter() {
                let dotted = || functions::qualified(db, *file, Some(function));
                let dotted = refused.contains(file).then(dotted);
                for parameter in open_parameters(db, *file, index, function) {
                    let Some(conclusion) = weigh::parameter(db, known, members, parameter) else { continue };
                    let name = db.names().text(record.params[parameter.place as usize].name);
                    let named = |dotted: &String| (*file, dotted.clone(), Part::Parameter(name.to_owned()));
                    let is_refused = |dotted| is_refused(wanted, &named(dotted), conclusion.ty);
                    if !dotted.as_ref().is_some_and(is_refused) {
                        found.push((parameter, conclusion));
                    }
                }
            }
            found
        })
        .collect();
    each.into_iter().flatten().collect()
}

/// The parameters of a function that nobody annotated and that are not the method's own object.
pub(super) fn open_parameters(
    db: &Database,
    file: File,
    index: &ModuleIndex,
    function: FunctionId,
) -> Vec<Parameter> {
    let record = &index.functions[function];
    let outline = outline::function(db, file, function);
    let is_bound = record.class.is_some() && (outline.binding != Binding::Static || outline.name == leitmotiv_syntax::names::known::NEW);
    (0..record.params.len())
        .filter(|place| record.params[*place].annotation.is_none() && !(*place == 0 && is_bound))
        .map(|place| Parameter { file, function, place: u32::try_from(place).unwrap_or(u32::MAX) })
        .collect()
}
