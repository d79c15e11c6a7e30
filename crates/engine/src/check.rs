//! The findings of files.

use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;

use leitmotiv_index::tree::{BodyId, ModuleIndex};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;
use rayon::prelude::*;
use rustc_hash::FxHashMap;

use crate::base::database::Database;
use crate::base::db::{Config, Db, Unasked};
use crate::base::file::File;
use crate::context::Asked;
use crate::definitions::circles;
use crate::definitions::functions;
use crate::findings::finding::{Finding, fault, finding, sort};
use crate::findings::fold::{fold_imports, missing_part};
use crate::findings::suppress::{Suppression, Suppressions};
use crate::infer::Infer;
use crate::outline::{module_index, reading, reading_all};
use crate::problems::{Problem, ProblemKind};
use crate::rules::{self, Context, Rule, Worded};
use crate::types::{CauseId, Type};

/// What checking one file gives.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Checked {
    /// The findings that no comment hides, by position, then rule.
    pub findings: Vec<Finding>,
    /// Number of lines.
    pub lines: usize,
    /// How many expressions there are that could have been known.
    pub expressions: usize,
    /// Those whose type is unknown, with the cause and how many there are of it, in the order of first appearance.
    pub unknown: Vec<(CauseId, usize)>,
    /// How many expressions are `Any`, which somebody wrote, here or in a library.
    pub any: usize,
    /// The comments that hide findings, or are meant to, in the order of the text.
    pub suppressions: Vec<Suppression>,
    /// What is known in each body, in the order of the bodies.
    pub bodies: Vec<Counted>,
    /// Whether the check itself failed.
    pub fault: bool,
    /// Where in `unknown` a cause stands.
    unknown_at: FxHashMap<CauseId, usize>,
}

/// What is known of one body's expressions.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Counted {
    /// The body.
    pub body: BodyId,
    /// How many expressions there are.
    pub expressions: usize,
    /// Those of them that are unknown, or `Any`.
    pub open: usize,
}

impl Checked {
    /// Adds what was counted in a body.
    fn add(&mut self, other: Checked) {
        self.expressions += other.expressions;
        self.any += other.any;
        for (cause, count) in other.unknown {
            self.add_unknown(cause, count);
        }
    }

    fn add_unknown(&mut self, cause: CauseId, count: usize) {
        match self.unknown_at.get(&cause) {
            Some(at) => self.unknown[*at].1 += count,
            None => {
                self.unknown_at.insert(cause, self.unknown.len());
                self.unknown.push((cause, count));
            }
        }
    }
}

/// What is wrong in one file, in no words, whoever asks for it: what inference and checks report, body by body.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
struct Found {
    /// The bodies in which something is wrong.
    bodies: Vec<FoundIn>,
    /// What is known of the expressions.
    counted: Checked,
}

/// What is wrong in one body.
#[derive(Debug, Clone, PartialEq, Eq)]
struct FoundIn {
    body: BodyId,
    /// What was reported; `None` where the check of the body failed.
    problems: Option<Vec<Problem>>,
}

/// Checks the bodies of one file. It is asked again when the file's own text changes, or when something of another file that it
/// asked for comes out otherwise; that places there move is not enough.
#[salsa::tracked(returns(clone))]
fn problems(db: &dyn Db, file: File) -> Arc<Found> {
    let _reading = reading(file);
    let index = module_index(db, file);
    let mut found = Found::default();
    let skip = unchecked(db, index);
    let mut nears = 0;
    let mut asked = Asked::default();
    for (body, record) in index.bodies.iter() {
        if record.function.is_some_and(|function| skip.contains(&function)) {
            continue;
        }
        // A fault of the program stays with the body that it happens in: the rest of the file is told.
        let mut own = Checked::default();
        let problems = guarded(|| {
            if record.function.is_some_and(|function| !is_defined(db, file, index, function)) {
                return Vec::new();
            }
            let mut infer = Infer::new(db, file, body);
            infer.nears = nears;
            infer.asked = std::mem::take(&mut asked);
            infer.check();
            nears = infer.nears;
            count(&infer, &mut own);
            asked = std::mem::take(&mut infer.asked);
            std::mem::take(&mut infer.problems)
        });
        if problems.is_some() {
            let open = own.any + own.unknown.iter().map(|(_, count)| count).sum::<usize>();
            found.counted.bodies.push(Counted { body, expressions: own.expressions, open });
            found.counted.add(own);
        }
        if problems.as_ref().is_none_or(|problems| !problems.is_empty()) {
            found.bodies.push(FoundIn { body, problems });
        }
    }
    Arc::new(found)
}

/// Checks one file: drops what nobody asks for and what comments hide, and puts the rest into words, which look at any file that
/// evidence leads to.
#[salsa::tracked(returns(clone))]
pub fn check_file(db: &dyn Db, file: File) -> Arc<Checked> {
    let _reading = reading_all();
    Arc::new(tell(db, file))
}

fn tell(db: &dyn Db, file: File) -> Checked {
    if let Some(reason) = file.unreadable(db) {
        let message = format!("the file cannot be read: {reason}");
        return Checked { findings: vec![fault(file, message)], ..Checked::default() };
    }
    let index = module_index(db, file);
    let found = problems(db, file);
    let mut findings: Vec<Finding> = Vec::new();
    let mut missing = FxHashMap::default();
    let mut checked = Checked { lines: index.line_count, ..found.counted.clone() };
    // A file that does not parse is read in part only: what is said of names in it may be wrong.
    let is_broken = !index.faults.is_empty();
    let unasked = Unasked::get(db).rules(db);
    let mut comments = Suppressions::new(db, file, index);
    let mut is_told = |problem: &&Problem| {
        let rule = rules::rule_of(&problem.kind).slug;
        let is_read = !is_broken || rule == "syntax.error";
        // What a comment hides it hides whether or not anybody asks for it.
        let is_asked = unasked.binary_search(&rule).is_err();
        is_read && !comments.hides(rule, problem.range, is_asked) && is_asked
    };
    let version = Config::get(db).target(db).version;
    let faults: Vec<Problem> =
        index.faults.iter().map(syntax).chain(index.newer.iter().map(|newer| too_new(newer, version))).collect();
    let faults = (BodyId(0), Some(faults.as_slice()));
    let bodies = found.bodies.iter().map(|found| (found.body, found.problems.as_deref()));
    for (body, problems) in std::iter::once(faults).chain(bodies) {
        let function = index.bodies[body].function;
        let worded = problems.and_then(|problems| {
            let told: Vec<&Problem> = problems.iter().filter(&mut is_told).collect();
            guarded(|| word(db, file, body, told))
        });
        let Some(worded) = worded else {
            let around = functions::qualified(db, file, function);
            let range = function.map_or(TextRange::default(), |function| index.functions[function].name_range);
            let message = format!("Leitmotiv failed while checking `{around}`; the rest is reported");
            findings.push(Finding { range, symbol: around, ..fault(file, message) });
            checked.fault = true;
            continue;
        };
        for (rule, worded, problem) in worded {
            if let ProblemKind::ImportUnresolved { module, .. } = problem.kind {
                let part = missing_part(db, file, module);
                missing.insert(problem.range, (part, db.names().text(part).to_owned()));
            }
            let around = match &problem.kind {
                ProblemKind::AnnotationMissing { function, .. } | ProblemKind::OverrideUnmarked { function, .. } => {
                    Some(*function)
                }
                _ => function,
            };
            findings.push(finding(db, rule, file, problem, worded, functions::qualified(db, file, around)));
        }
    }
    let of_comments = comments.problems();
    checked.suppressions = comments.all();
    let told = of_comments.iter().filter(|problem| {
        let rule = rules::rule_of(&problem.kind).slug;
        unasked.binary_search(&rule).is_err()
    });
    for (rule, worded, problem) in word(db, file, BodyId(0), told) {
        findings.push(finding(db, rule, file, problem, worded, functions::qualified(db, file, None)));
    }
    sort(&mut findings);
    findings.dedup();
    checked.findings = findings;
    fold_imports(&mut checked.findings, &missing);
    checked
}

fn syntax(fault: &leitmotiv_syntax::parse::SyntaxFault) -> Problem {
    let kind = ProblemKind::Syntax { message: fault.message.clone() };
    Problem { range: fault.range, expr: None, kind }
}

fn too_new(newer: &leitmotiv_syntax::newer::NewerSyntax, version: (u8, u8)) -> Problem {
    let kind = ProblemKind::SyntaxNewer { what: newer.what, since: newer.since, version };
    Problem { range: newer.range, expr: None, kind }
}

/// Problems of a body in the words of their rules, those left out in which their rules find nothing to tell.
fn word<'p>(
    db: &dyn Db,
    file: File,
    body: BodyId,
    problems: impl IntoIterator<Item = &'p Problem>,
) -> Vec<(&'static Rule, Worded, &'p Problem)> {
    let problems: Vec<&Problem> = problems.into_iter().collect();
    let Some(end) = problems.iter().map(|problem| problem.range.end()).max() else { return Vec::new() };
    let mut infer = Infer::new(db, file, body);
    // What a value in a loop is depends on where one begins to ask: as the check did, at the beginning.
    infer.nears = usize::MAX / 2;
    infer.check_up_to(end);
    infer.checking = false;
    let mut context = Context { infer: &mut infer };
    problems
        .into_iter()
        .filter_map(|problem| rules::word(&mut context, problem).map(|(rule, worded)| (rule, worded, problem)))
        .collect()
}

/// Carries out some work; `None` where it panics. A query that is given up because something changed is no fault, and goes on
/// up.
fn guarded<T>(work: impl FnOnce() -> T) -> Option<T> {
    catch_unwind(AssertUnwindSafe(work))
        .map_err(|payload| {
            if payload.is::<salsa::Cancelled>() {
                std::panic::resume_unwind(payload);
            }
        })
        .ok()
}

/// Whether a function's definition, and those it stands in, can be reached.
fn is_defined(db: &dyn Db, file: File, index: &ModuleIndex, function: leitmotiv_index::tree::FunctionId) -> bool {
    use leitmotiv_index::tree::ReachId;
    let mut next = Some(function);
    while let Some(function) = next {
        let def = &index.defs[index.functions[function].def];
        let is_reached = match def.reach {
            ReachId::ALWAYS => true,
            reach if reach.is_never() => false,
            reach => Infer::new(db, file, def.body).reachable(reach),
        };
        if !is_reached {
            return false;
        }
        next = index.bodies[def.body].function;
    }
    true
}

/// Functions under `@no_type_check` (PEP 484), with those inside of them.
fn unchecked(db: &dyn Db, index: &ModuleIndex) -> Vec<leitmotiv_index::tree::FunctionId> {
    if db.names().find("no_type_check").is_none() {
        return Vec::new();
    }
    let marked: Vec<TextRange> = index
        .functions
        .iter()
        .filter(|(_, function)| {
            let mut names = function.decorators.iter().map(|decorator| index.decorator_name(*decorator));
            names.any(|name| name == Some(known::NO_TYPE_CHECK))
        })
        .map(|(_, function)| function.range)
        .collect();
    if marked.is_empty() {
        return Vec::new();
    }
    index
        .functions
        .iter()
        .filter(|(_, function)| marked.iter().any(|range| range.contains_range(function.range)))
        .map(|(id, _)| id)
        .collect()
}

/// Counts what is known of a body's expressions.
fn count(infer: &Infer<'_>, checked: &mut Checked) {
    let mut all: Vec<_> = infer.known_exprs().collect();
    all.sort_by_key(|(expr, _)| *expr);
    let store = infer.db.store();
    for (_, ty) in all {
        checked.expressions += 1;
        if let Some(cause) = crate::types::union::cause_in(store, ty) {
            checked.add_unknown(cause, 1);
        } else if crate::types::union::parts(store, &ty).contains(&Type::Any) {
            checked.any += 1;
        }
    }
}

/// Checks files in parallel; the results are in the order of the files. A panic stays with the body that it happens in.
#[must_use]
pub fn check(db: &Database, files: &[File]) -> Vec<Arc<Checked>> {
    // What the files say by themselves depends on nothing else, and so is worked out side by side without any waiting.
    files.par_iter().for_each_with(db.clone(), |db, file| {
        let _ = catch_unwind(AssertUnwindSafe(|| module_index(db, *file)));
    });
    // Results at the end of long chains of calls are worked out from the ground up, with little stack.
    files.par_iter().for_each_with(db.clone(), |db, file| {
        let calls = catch_unwind(AssertUnwindSafe(|| circles::calls(db, *file))).unwrap_or_default();
        for function in &calls.on_the_way {
            let _ = catch_unwind(AssertUnwindSafe(|| functions::open_return_type(db, *file, *function)));
        }
    });
    files
        .par_iter()
        .map_with(db.clone(), |db, file| {
            guarded(|| check_file(db, *file)).unwrap_or_else(|| {
                let message = "Leitmotiv failed while checking this file; the other files are reported".to_owned();
                Arc::new(Checked { findings: vec![fault(*file, message)], fault: true, ..Checked::default() })
            })
        })
        .collect()
}
