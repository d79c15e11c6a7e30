//! Taking stock: how much there is, how much is annotated and known, and where to begin.
//!
//! - this file: modules, and the sums over them
//! - [`parts`]: the same for packages, classes and functions
//! - [`packages`]: what is imported from outside and says nothing of its types
//! - [`layers`]: which modules import which, and in circles
//! - [`plan`]: what to annotate first, with what comes of it

pub mod layers;
pub mod packages;
pub mod parts;
pub mod plan;

use std::collections::BTreeMap;
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::{Checked, check};
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::CauseKind;
use leitmotiv_index::tree::{FunctionId, ModuleIndex};
use leitmotiv_project::resolve::Origin;
use leitmotiv_project::settings::Severity;
use rayon::prelude::*;
use rustc_hash::FxHashMap;
use serde::Serialize;

use self::packages::{Outside, Target, Untyped, top};
use crate::annotate::edit::{Edited, proved};
use crate::annotate::{Inquiry, Sureness, Wanted, recorded};
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
    /// How many commits of the last year changed it; `None` where version control does not say.
    pub changes: Option<usize>,
    /// How many expressions of the whole project are unknown because of this module's unannotated parameters.
    pub unknown_by: usize,
    /// Those of them that are known once `annotate` has written what there is evidence for, in all modules.
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
    /// Those that are known, or are where parameters that nobody annotated are what is concluded of them: what calls pass, and what functions do
    /// with them. Once that is asked ([`weigh`]); before, the same as `known_expressions`.
    pub concluded_expressions: usize,
    /// Those that are `Any`.
    pub any_expressions: usize,
    /// Modules; once they are weighed, best to begin with first.
    pub modules: Vec<Module>,
    /// Packages without types, most gain first.
    pub untyped: Vec<Untyped>,
    /// What to annotate first, once that is asked ([`plan`]).
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub steps: Vec<plan::Step>,
    /// Layers of modules, lowest first: each imports modules of lower layers only; those that stand together import each other in a circle.
    pub layers: Vec<Vec<Vec<String>>>,
    /// Unknown expressions by kind of cause, most first.
    pub causes: Vec<(&'static str, usize)>,
    /// What is used of the standard library, where that was asked for.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub library: Vec<LibraryName>,
}

/// Takes stock of what was checked. What there is to gain is told by [`weigh`], how often modules change by [`churn`].
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
    let mut outside = Outside::default();
    let imports: Vec<Vec<Target>> = report.files.iter().map(|file| outside.imports(db, *file)).collect();
    for target in imports.iter().flatten() {
        *fan_in.entry(target.file).or_default() += 1;
    }
    let mut findings: FxHashMap<File, usize> = FxHashMap::default();
    for reported in report.findings.iter().filter(|reported| reported.severity >= Severity::Warning) {
        *findings.entry(reported.finding.file).or_default() += 1;
    }
    for (file, checked) in report.files.iter().zip(&report.checked) {
        let index = module_index(db, *file);
        let (slots, annotated) = slots(db, *file, index);
        let module = Module {
            path: file.path(db).to_owned(),
            lines: checked.lines,
            functions: index.functions.len(),
            slots,
            annotated,
            expressions: checked.expressions,
            known_expressions: checked.known(),
            any_expressions: checked.any,
            findings: findings.get(file).copied().unwrap_or(0),
            fan_in: fan_in.get(file).copied().unwrap_or(0),
            changes: None,
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
    survey.concluded_expressions = survey.known_expressions;
    survey.untyped = outside.packages(&import_gains);
    if survey.any_expressions > 0 {
        causes.insert(ANY, survey.any_expressions);
    }
    survey.layers = layers::layers(db, &report.files, &imports);
    survey.causes = causes.into_iter().collect();
    survey.causes.sort_by(|one, other| other.1.cmp(&one.1).then_with(|| one.0.cmp(other.0)));
    survey
}

/// Says how often each module was changed in the last year, as git has it.
pub fn churn(db: &Database, survey: &mut Survey) {
    let changes = crate::churn::changes(db.project());
    for module in &mut survey.modules {
        module.changes = changes.as_ref().map(|changes| changes.get(&module.path).copied().unwrap_or(0));
    }
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

/// Says how much is known with what is concluded, and what there is to gain in each module: all that there is evidence for is written, in
/// memory, and what is unknown then is counted again.
/// The modules come in the order in which they are worth beginning with. Returns what would be written into each file.
pub fn weigh(db: &mut Database, report: &Report, survey: &mut Survey) -> Vec<Edited> {
    let wanted = Wanted { at_least: Sureness::Fair, records: recorded(db.project()), ..Wanted::default() };
    let mut inquiry = Inquiry::new(db, &report.files);
    let proposals = inquiry.propose(&report.files, &wanted);
    let (_, concluded) = inquiry.check(&Wanted { at_least: Sureness::Low, ..wanted });
    let known = concluded.iter().map(|checked| checked.known()).sum::<usize>();
    survey.concluded_expressions = known.max(survey.known_expressions);
    drop(inquiry);
    let edited = proved(db, proposals);
    let mut trial = Trial::new(db);
    trial.write(edited.iter().map(|edited| (edited.file, edited.change.after.as_str().into())));
    let left = unknown_by(trial.db(), &check(trial.db(), &report.files));
    drop(trial);
    let left: FxHashMap<&str, usize> = left.iter().map(|(file, count)| (file.path(&*db), *count)).collect();
    for module in &mut survey.modules {
        module.gain = module.unknown_by.saturating_sub(left.get(module.path.as_str()).copied().unwrap_or(0));
    }
    // Less work for the same gain comes first.
    let worth = |module: &Module| module.gain as f64 / (module.slots - module.annotated + 4) as f64;
    survey.modules.sort_by(|one, other| {
        let by_gain = worth(other).total_cmp(&worth(one)).then_with(|| other.unknown_by.cmp(&one.unknown_by));
        by_gain.then_with(|| one.path.cmp(&other.path))
    });
    edited
}

/// Parameters and returns of a module's functions, and how many are annotated.
fn slots(db: &Database, file: File, index: &ModuleIndex) -> (usize, usize) {
    index
        .functions
        .iter()
        .map(|(id, _)| slots_of(db, file, index, id))
        .fold((0, 0), |all, one| (all.0 + one.0, all.1 + one.1))
}

/// Parameters and return of one function, and how many are annotated.
fn slots_of(db: &Database, file: File, index: &ModuleIndex, id: FunctionId) -> (usize, usize) {
    let (mut slots, mut annotated) = (0, 0);
    let function = &index.functions[id];
    {
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
