//! Taking stock: how much there is, how much is annotated and known, and where to begin.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::{Checked, check};
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{Imported, absolute_name, import_target};
use leitmotiv_engine::types::{CauseKind, Type};
use leitmotiv_index::tree::{DefKind, ModuleIndex};
use leitmotiv_project::resolve::Origin;
use leitmotiv_project::settings::Severity;
use rayon::prelude::*;
use rustc_hash::{FxHashMap, FxHashSet};
use serde::Serialize;

use crate::annotate::edit::proved;
use crate::annotate::{Inquiry, Sureness, Wanted, vet};
use crate::session::Report;
use crate::trial::Trial;

/// A module's numbers.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Module {
    /// The file, relative to the project.
    pub path: String,
    /// Lines.
    pub lines: usize,
    /// Functions.
    pub functions: usize,
    /// Parameters and returns that can be annotated (`self` and `cls` apart).
    pub slots: usize,
    /// Those that are.
    pub annotated: usize,
    /// Expressions checked.
    pub expressions: usize,
    /// Those whose type is known, and is not `Any`.
    pub known_expressions: usize,
    /// Those that are `Any`, which somebody wrote, here or in a library.
    pub any_expressions: usize,
    /// Findings at or above a warning.
    pub findings: usize,
    /// How many other modules of the project import it.
    pub fan_in: usize,
    /// How many expressions of the whole project are unknown because of this module's unannotated parameters.
    pub unknown_by: usize,
    /// Those of them that are known once `annotate` has written what there is evidence for, in all modules.
    pub gain: usize,
}

/// A package without types.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Untyped {
    /// The top-level module.
    pub module: String,
    /// How many modules import it.
    pub importers: usize,
    /// `untyped` or `missing`.
    pub state: &'static str,
    /// How many expressions are unknown because of it.
    pub gain: usize,
}

/// A name of the standard library that the project uses.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct LibraryName {
    /// The module.
    pub module: String,
    /// The name in it.
    pub name: String,
    /// How often it is used.
    pub uses: usize,
    /// How often what it gives is known.
    pub known: usize,
}

/// The names of the standard library that files use, most unknown uses first.
#[must_use]
pub fn library(db: &Database, files: &[File]) -> Vec<LibraryName> {
    let each: Vec<_> = files
        .par_iter()
        .map_with(db.clone(), |db, file| leitmotiv_engine::view::library_coverage::uses(db, *file))
        .collect();
    let mut all: BTreeMap<(String, String), (usize, usize)> = BTreeMap::new();
    for (name, uses) in each.into_iter().flatten() {
        let sum = all.entry(name).or_default();
        *sum = (sum.0 + uses.all, sum.1 + uses.known);
    }
    let mut names: Vec<LibraryName> =
        all.into_iter().map(|((module, name), (uses, known))| LibraryName { module, name, uses, known }).collect();
    names.sort_by_key(|name| std::cmp::Reverse(name.uses - name.known));
    names
}

/// The whole stock.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Survey {
    /// The schema of this form.
    pub schema: &'static str,
    /// Lines.
    pub lines: usize,
    /// Slots that can be annotated.
    pub slots: usize,
    /// Those that are.
    pub annotated: usize,
    /// Expressions.
    pub expressions: usize,
    /// Those whose type is known, and is not `Any`.
    pub known_expressions: usize,
    /// Those that are `Any`.
    pub any_expressions: usize,
    /// Modules; once they are weighed, best to begin with first.
    pub modules: Vec<Module>,
    /// Packages without types, most gain first.
    pub untyped: Vec<Untyped>,
    /// Unknown expressions by kind of cause, most first.
    pub causes: Vec<(&'static str, usize)>,
    /// What is used of the standard library, where that was asked for.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub library: Vec<LibraryName>,
}

/// Takes stock of what was checked. What there is to gain is told by [`weigh`].
#[must_use]
pub fn survey(db: &Database, report: &Report) -> Survey {
    let mut survey = Survey { schema: "leitmotiv.survey/1", ..Survey::default() };
    let unknown_by = unknown_by(db, &report.checked);
    let mut import_gains: BTreeMap<String, usize> = BTreeMap::new();
    let mut causes: BTreeMap<&'static str, usize> = BTreeMap::new();
    for checked in &report.checked {
        for (cause, count) in &checked.unknown {
            let cause = *db.store().cause(*cause);
            *causes.entry(cause.kind.words()).or_default() += count;
            match cause.kind {
                CauseKind::UnresolvedImport | CauseKind::UntypedImport => {
                    let module = db.names().text(cause.name);
                    *import_gains.entry(top(db, module)).or_default() += count;
                }
                _ if cause.file.origin(db) == Origin::Untyped => {
                    let module = db.names().text(cause.file.module(db));
                    *import_gains.entry(top(db, module)).or_default() += count;
                }
                _ => {}
            }
        }
    }
    let mut fan_in: FxHashMap<File, usize> = FxHashMap::default();
    let mut untyped: BTreeMap<(String, &'static str), BTreeSet<String>> = BTreeMap::new();
    for file in &report.files {
        imports(db, *file, &mut fan_in, &mut untyped);
    }
    for (file, checked) in report.files.iter().zip(&report.checked) {
        let index = module_index(db, *file);
        let (slots, annotated) = slots(db, *file, index);
        let unknown: usize = checked.unknown.iter().map(|(_, count)| count).sum();
        let findings = report
            .findings
            .iter()
            .filter(|reported| reported.finding.file == *file && reported.severity >= Severity::Warning)
            .count();
        let module = Module {
            path: file.path(db).to_owned(),
            lines: checked.lines,
            functions: index.functions.len(),
            slots,
            annotated,
            expressions: checked.expressions,
            known_expressions: checked.expressions.saturating_sub(unknown + checked.any),
            any_expressions: checked.any,
            findings,
            fan_in: fan_in.get(file).copied().unwrap_or(0),
            unknown_by: unknown_by.get(file).copied().unwrap_or(0),
            gain: 0,
        };
        survey.lines += module.lines;
        survey.slots += module.slots;
        survey.annotated += module.annotated;
        survey.expressions += module.expressions;
        survey.known_expressions += module.known_expressions;
        survey.any_expressions += module.any_expressions;
        survey.modules.push(module);
    }
    survey.untyped = untyped
        .into_iter()
        .map(|((module, state), importers)| Untyped {
            gain: import_gains.get(&module).copied().unwrap_or(0),
            importers: importers.len(),
            module,
            state,
        })
        .collect();
    survey.untyped.sort_by(|one, other| other.gain.cmp(&one.gain).then_with(|| one.module.cmp(&other.module)));
    if survey.any_expressions > 0 {
        causes.insert(ANY, survey.any_expressions);
    }
    survey.causes = causes.into_iter().collect();
    survey.causes.sort_by(|one, other| other.1.cmp(&one.1).then_with(|| one.0.cmp(other.0)));
    survey
}

/// What stands among the causes for `Any`: nothing is known of it, though somebody said so.
const ANY: &str = "`Any`, as somebody wrote it";

/// How many expressions are unknown because of parameters without annotations, by the files of those.
fn unknown_by(db: &Database, checked: &[Arc<Checked>]) -> FxHashMap<File, usize> {
    let mut found: FxHashMap<File, usize> = FxHashMap::default();
    for (cause, count) in checked.iter().flat_map(|checked| &checked.unknown) {
        let cause = db.store().cause(*cause);
        if cause.kind == CauseKind::Parameter && cause.file.origin(db) != Origin::Untyped {
            *found.entry(cause.file).or_default() += count;
        }
    }
    found
}

/// Says what there is to gain in each module: all that there is evidence for is written, in memory, and what is unknown then is counted again.
/// The modules come in the order in which they are worth beginning with. Returns the files that there is evidence for.
pub fn weigh(db: &mut Database, report: &Report, survey: &mut Survey) -> FxHashSet<File> {
    let wanted = Wanted { at_least: Sureness::Fair, ..Wanted::default() };
    let proposals = Inquiry::new(db, &report.files).propose(&report.files, &wanted);
    let open: FxHashSet<File> = proposals.iter().map(|proposal| proposal.file).collect();
    let texts = proved(db, proposals);
    let mut trial = Trial::new(db);
    trial.write(texts.into_iter().map(|edited| (edited.file, edited.change.after.into())));
    let left = unknown_by(trial.db(), &check(trial.db(), &report.files));
    drop(trial);
    let left: FxHashMap<&str, usize> = left.iter().map(|(file, count)| (file.path(&*db), *count)).collect();
    for module in &mut survey.modules {
        module.gain = module.unknown_by.saturating_sub(left.get(module.path.as_str()).copied().unwrap_or(0));
    }
    // What others import pays more than its own gain: they learn from it. Less work for the same gain comes first.
    let worth = |module: &Module| {
        let open = module.slots - module.annotated;
        (module.gain * (1 + module.fan_in)) as f64 / (open + 4) as f64
    };
    survey.modules.sort_by(|one, other| {
        let by_gain = worth(other).total_cmp(&worth(one)).then_with(|| other.unknown_by.cmp(&one.unknown_by));
        by_gain.then_with(|| one.path.cmp(&other.path))
    });
    open
}

/// Where to begin.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Begin<'a> {
    /// The best module for which there is evidence to annotate from.
    pub annotate: Option<&'a Module>,
    /// A better one, for which there is none.
    pub by_hand: Option<&'a Module>,
}

/// For so many modules what is proposed is tried, which takes several checks each.
const MOST_TRIED: usize = 1;

/// So many modules are looked at for evidence.
const MOST_LOOKED_AT: usize = 64;

/// Whether anything that is proposed for a file stands, once the rest of the project is asked.
fn is_accepted(db: &mut Database, report: &Report, file: File, wanted: &Wanted) -> bool {
    !vet::vetted(db, &report.files, &[file], wanted).changes.is_empty()
}

/// The modules to begin with, of those that something is unknown because of; `open` are those that there is evidence for ([`weigh`]).
#[must_use]
pub fn begin<'a>(db: &mut Database, report: &Report, survey: &'a Survey, open: &FxHashSet<File>) -> Begin<'a> {
    let wanted = Wanted { at_least: Sureness::Fair, ..Wanted::default() };
    let mut begin = Begin::default();
    let mut tries = MOST_TRIED;
    for module in survey.modules.iter().filter(|module| module.unknown_by > 0).take(MOST_LOOKED_AT) {
        let Some(file) = report.files.iter().find(|file| file.path(&*db) == module.path) else { continue };
        let is_open = open.contains(file);
        // Where something is annotated already, what is left may be what other code contradicts.
        let is_sure = is_open && (module.annotated == 0 || tries > 0 && is_accepted(db, report, *file, &wanted));
        if is_open && module.annotated > 0 {
            tries = tries.saturating_sub(1);
        }
        if is_sure {
            begin.annotate = Some(module);
            break;
        }
        begin.by_hand = begin.by_hand.or(Some(module).filter(|module| module.slots > module.annotated));
    }
    begin
}

/// The package that a module belongs to: its first name, or of a namespace package (PEP 420), which has nothing of its own, the
/// names up to the part that has.
fn top(db: &Database, module: &str) -> String {
    let ends = module.match_indices('.').map(|(end, _)| end).chain([module.len()]);
    let is_namespace = |part: &str| db.source_of(db.names().intern(part)).is_none() && !db.submodules(part).is_empty();
    let part = ends.map(|end| &module[..end]).find(|part| !is_namespace(part));
    part.unwrap_or(module).to_owned()
}

/// Parameters and returns of a module's functions, and how many are annotated.
fn slots(db: &Database, file: File, index: &ModuleIndex) -> (usize, usize) {
    let (mut slots, mut annotated) = (0, 0);
    for (id, function) in index.functions.iter() {
        let implicit = function.class.is_some()
            && leitmotiv_engine::outline::function(db, file, id).binding != leitmotiv_engine::types::Binding::Static;
        for param in function.params.iter().skip(usize::from(implicit)) {
            slots += 1;
            annotated += usize::from(param.annotation.is_some());
        }
        slots += 1;
        annotated += usize::from(function.returns.is_some());
    }
    (slots, annotated)
}

fn imports(
    db: &Database,
    file: File,
    fan_in: &mut FxHashMap<File, usize>,
    untyped: &mut BTreeMap<(String, &'static str), BTreeSet<String>>,
) {
    let index = module_index(db, file);
    let mut seen: Vec<File> = Vec::new();
    for (_, def) in index.defs.iter() {
        let (module, level, name) = match def.kind {
            DefKind::Import { module, .. } => (module, 0, None),
            DefKind::ImportFrom { module, level, name, .. } => (module, level, Some(name)),
            DefKind::Star { module, level } => (module, level, None),
            _ => continue,
        };
        match import_target(db, file, module, level) {
            Some(Imported::File(target)) => {
                // `from package import module` imports the module.
                let target = match name.and_then(|name| leitmotiv_engine::resolve::submodule(db, target, name)) {
                    Some(Type::Module(submodule)) => submodule,
                    _ => target,
                };
                if target.origin(db) == Origin::Untyped {
                    let module = top(db, db.names().text(target.module(db)));
                    untyped.entry((module, "untyped")).or_default().insert(file.path(db).to_owned());
                }
                if target != file && !seen.contains(&target) {
                    seen.push(target);
                    *fan_in.entry(target).or_default() += 1;
                }
            }
            Some(Imported::Namespace(_)) => {}
            None => {
                let Some(full) = absolute_name(db, file, module, level) else { continue };
                let module = top(db, db.names().text(full));
                untyped.entry((module, "missing")).or_default().insert(file.path(db).to_owned());
            }
        }
    }
}
