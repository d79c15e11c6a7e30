//! The findings of files.

use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;
use std::time::{Duration, Instant};

use leitmotiv_index::tree::BodyId;
use leitmotiv_syntax::TextRange;
use rayon::prelude::*;
use rustc_hash::FxHashMap;

use crate::base::asked::{Ask, saw};
use crate::base::database::Database;
use crate::base::db::{Config, Db, Unasked};
use crate::base::file::File;
use crate::bodies::{self, guarded};
use crate::definitions::circles;
use crate::definitions::functions;
pub use crate::findings::checked::{Checked, Counted};
use crate::findings::evidence::Evidence;
use crate::findings::finding::{Finding, fault, finding, sort};
use crate::findings::fold::{fold_imports, missing_part};
use crate::findings::suppress::Suppressions;
use crate::infer::Infer;
use crate::outline::{module_index, reading_all};
use crate::problems::{Problem, ProblemKind};
use crate::rules::{self, Context, Rule, Worded};
use crate::unfit;

/// Checks one file: drops what nobody asks for and what comments hide, and puts the rest into words, which look at any file that
/// evidence leads to.
pub fn check_file(db: &dyn Db, file: File) -> Arc<Checked> {
    saw(db, file, Ask::Whole);
    check_file_query(db, file)
}

#[salsa::tracked(returns(clone))]
fn check_file_query(db: &dyn Db, file: File) -> Arc<Checked> {
    let _reading = reading_all(db, file);
    Arc::new(tell(db, file))
}

fn tell(db: &dyn Db, file: File) -> Checked {
    if let Some(reason) = file.unreadable(db) {
        let message = format!("the file cannot be read: {reason}");
        return Checked { findings: vec![fault(file, message)], ..Checked::default() };
    }
    let index = module_index(db, file);
    let found = bodies::problems(db, file);
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
    for unfit in unfit::in_file(db, file).iter() {
        let function = index.bodies[unfit.body].function;
        let told: Vec<&Problem> = unfit.problems.iter().filter(&mut is_told).collect();
        let around = functions::qualified(db, file, function);
        let infer = unfit::for_call(db, file, unfit.body, &unfit.given);
        for (rule, mut worded, problem) in guarded(|| word_in(infer, told)).unwrap_or_default() {
            if let Some((place, words)) = unfit::place_of(db, unfit, file).zip(unfit::words(db, file, unfit)) {
                worded.evidence.insert(0, Evidence::new("passed", unfit.caller, place, words));
            }
            findings.push(finding(db, rule, file, problem, worded, around.clone()));
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
    word_in(Infer::new(db, file, body), problems)
}

fn word_in<'p>(
    mut infer: Infer<'_>,
    problems: impl IntoIterator<Item = &'p Problem>,
) -> Vec<(&'static Rule, Worded, &'p Problem)> {
    let problems: Vec<&Problem> = problems.into_iter().collect();
    let Some(end) = problems.iter().map(|problem| problem.range.end()).max() else { return Vec::new() };
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

/// Checks files in parallel; the results are in the order of the files. A panic stays with the body that it happens in.
#[must_use]
pub fn check(db: &Database, files: &[File]) -> Vec<Arc<Checked>> {
    timed(db, files).into_iter().map(|(checked, _)| checked).collect()
}

/// The same with how long each took: what several ask for counts for the one that asked first.
#[must_use]
pub fn timed(db: &Database, files: &[File]) -> Vec<(Arc<Checked>, Duration)> {
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
            let began = Instant::now();
            let checked = guarded(|| check_file(db, *file)).unwrap_or_else(|| {
                let message = "Leitmotiv failed while checking this file; the other files are reported".to_owned();
                Arc::new(Checked { findings: vec![fault(*file, message)], fault: true, ..Checked::default() })
            });
            (checked, began.elapsed())
        })
        .collect()
}
