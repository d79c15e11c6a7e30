//! What is wrong in the bodies of files, in no words, and what their calls pass to parameters that nobody annotated.

use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;

use leitmotiv_index::tree::{BodyId, ExprId, FunctionId, ModuleIndex, ReachId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;
use rustc_hash::FxHashMap;

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::context::Asked;
use crate::findings::checked::{Checked, Counted};
use crate::infer::Infer;
use crate::infer::calls::Given;
use crate::outline::{module_index, reading};
use crate::problems::Problem;
use crate::types::Type;

/// What is wrong in one file, in no words, whoever asks for it: what inference and checks report, body by body.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub(crate) struct Found {
    /// The bodies in which something is wrong.
    pub(crate) bodies: Vec<FoundIn>,
    /// What is known of the expressions.
    pub(crate) counted: Checked,
    /// The calls of the project's functions with parameters that nobody annotated, in the order of the bodies.
    pub(crate) calls: Vec<Call>,
}

/// What is wrong in one body.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct FoundIn {
    pub(crate) body: BodyId,
    /// What was reported; `None` where the check of the body failed.
    pub(crate) problems: Option<Vec<Problem>>,
}

/// What a call gives parameters, by their 0-based places, sorted.
pub(crate) type Arguments = Box<[(u32, Type)]>;

/// A call of a function of the project that has parameters which nobody annotated.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Call {
    /// The function.
    pub(crate) to: (File, FunctionId),
    /// What its parameters are given.
    pub(crate) given: Arguments,
    /// The call.
    pub(crate) range: TextRange,
}

/// Checks the bodies of one file. It is asked again when the file's own text changes, or when something of another file that it
/// asked for comes out otherwise; that places there move is not enough.
pub(crate) fn problems(db: &dyn Db, file: File) -> Arc<Found> {
    saw(db, file, Ask::Whole);
    problems_query(db, file)
}

#[salsa::tracked(returns(clone))]
fn problems_query(db: &dyn Db, file: File) -> Arc<Found> {
    let _reading = reading(db, file);
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
            infer.passed = Some(Vec::new());
            infer.notes_open_only = true;
            infer.check();
            nears = infer.nears;
            count(&infer, &mut own);
            let problems = std::mem::take(&mut infer.problems);
            infer.checking = false;
            calls_of(&mut infer, &mut found.calls);
            asked = std::mem::take(&mut infer.asked);
            problems
        });
        if problems.is_some() {
            found.counted.bodies.push(Counted { body, expressions: own.expressions, open: own.open() });
            found.counted.add(own);
        }
        if problems.as_ref().is_none_or(|problems| !problems.is_empty()) {
            found.bodies.push(FoundIn { body, problems });
        }
    }
    Arc::new(found)
}

/// Puts together what one body's calls pass, call by call.
fn calls_of(infer: &mut Infer<'_>, calls: &mut Vec<Call>) {
    let mut by_call: FxHashMap<(ExprId, File, FunctionId), FxHashMap<u32, Type>> = FxHashMap::default();
    // What was worked out again in a loop is noted again: the last has seen most.
    for passed in infer.passed.take().unwrap_or_default() {
        let (Some(call), Some(function)) = (passed.call, passed.function) else { continue };
        if may_fail(infer.index, infer.index.spans[call]) {
            continue;
        }
        let ty = match passed.given {
            Given::Expr(expr) => infer.expr(expr),
            Given::Type(ty) => ty,
        };
        let ty = infer.widen(ty);
        by_call.entry((call, function.file, function.function)).or_default().insert(passed.place, ty);
    }
    let mut all: Vec<Call> = by_call
        .into_iter()
        .map(|((call, file, function), given)| {
            let mut given: Vec<(u32, Type)> = given.into_iter().collect();
            given.sort_unstable_by_key(|(place, _)| *place);
            Call { to: (file, function), given: given.into(), range: infer.index.spans[call] }
        })
        .collect();
    all.sort_by_key(|call| (call.range.start(), call.range.end(), call.to.1));
    calls.append(&mut all);
}

/// Whether what stands at a place is meant to fail, or code around it reckons with that.
fn may_fail(index: &ModuleIndex, range: TextRange) -> bool {
    let all = [&index.failing, &index.guarded_members, &index.guarded_items, &index.guarded_calls, &index.guarded_none];
    all.into_iter().flatten().any(|around| around.contains_range(range))
}

/// Carries out some work; `None` where it panics. A query that is given up because something changed is no fault, and goes on
/// up.
pub(crate) fn guarded<T>(work: impl FnOnce() -> T) -> Option<T> {
    catch_unwind(AssertUnwindSafe(work))
        .map_err(|payload| {
            if payload.is::<salsa::Cancelled>() {
                std::panic::resume_unwind(payload);
            }
        })
        .ok()
}

/// Whether a function's definition, and those it stands in, can be reached.
fn is_defined(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId) -> bool {
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
fn unchecked(db: &dyn Db, index: &ModuleIndex) -> Vec<FunctionId> {
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
    let store = infer.db.store();
    let mut unknown: Vec<_> = Vec::new();
    for (expr, ty) in infer.known_exprs() {
        checked.expressions += 1;
        if let Some(cause) = crate::types::union::cause_in(store, ty) {
            unknown.push((expr, cause));
        } else if crate::types::union::parts(store, &ty).contains(&Type::Any) {
            checked.any += 1;
        }
    }
    unknown.sort_unstable_by_key(|(expr, _)| *expr);
    for (_, cause) in unknown {
        checked.add_unknown(cause, 1);
    }
}
