//! Functions that give None only where one of their arguments is None: `if port is None: return None`. Who passes a port does not
//! get None.

use leitmotiv_index::tree::{Expr, FunctionId, ModuleIndex, Return, Value};
use smallvec::SmallVec;

use super::Candidate;
use super::arguments::{Argument, Caller};
use super::result::CallResult;
use crate::base::asked::{Ask, saw};
use crate::base::cycles::converge;
use crate::base::db::Db;
use crate::base::file::File;
use crate::base::stored::known_type;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::functions::DefaultOutline;
use crate::outline::{module_index, reading};
use crate::types::union::{filter, may_be_none};
use crate::types::{Cause, CauseKind, Type};

/// None that comes back only of None, whoever calls.
pub(crate) trait GivenNone<'db>: CallResult<'db> {
    /// What comes back of an unannotated function for arguments that are not None, where that is less than `plain`.
    fn without_given_none(&mut self, candidate: &Candidate, given: &[Argument], plain: Type) -> Type {
        let store = self.db.store();
        let Some(function) = candidate.function.filter(|_| may_be_none(store, plain) && plain != Type::None) else {
            return plain;
        };
        let asked = asked_for_none(self.db, function.file, function.function);
        if asked.is_empty() || may_be_none(store, given_something(self.db, function.file, function.function)) {
            return plain;
        }
        let Some(types) = self.types_of(candidate, given) else { return plain };
        let outline = crate::outline::function(self.db, function.file, function.function);
        let may_be_asked = |param: &usize| match types.iter().find(|(place, _)| place == param) {
            Some((_, ty)) => may_be_none(store, *ty),
            None => outline.params[*param].default != DefaultOutline::Some,
        };
        if asked.iter().any(may_be_asked) { plain } else { filter(store, plain, |part| part != Type::None) }
    }
}

impl<'db, C: Caller<'db>> GivenNone<'db> for C {}

/// The parameters, by number, whose being None makes a function give None back; none where it has no such `return`.
pub(crate) fn asked_for_none(db: &dyn Db, file: File, function: FunctionId) -> &[usize] {
    saw(db, file, Ask::AskedForNone(function));
    asked_for_none_query(db, file, function)
}

#[salsa::tracked(returns(deref))]
fn asked_for_none_query(db: &dyn Db, file: File, function: FunctionId) -> SmallVec<[usize; 2]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let body = &index.bodies[index.functions[function].body];
    let mut asked = SmallVec::new();
    for statement in &body.returns {
        if let Some(param) = asks(db, file, index, function, statement)
            && !asked.contains(&param)
        {
            asked.push(param);
        }
    }
    asked
}

/// The parameter that is None where a `return` gives None back.
fn asks(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId, statement: &Return) -> Option<usize> {
    if statement.value.is_some_and(|value| index.exprs[value] != Expr::None) {
        return None;
    }
    let record = &index.functions[function];
    let number = index.clauses_around.of(statement.range.start()).next()?;
    let clause = &index.clauses[number as usize];
    if !clause.positive || !record.range.contains_range(clause.test) {
        return None;
    }
    let range = usize::from(clause.test.start())..usize::from(clause.test.end());
    let name = file.text(db).get(range)?.trim().strip_suffix(" is None")?.trim_end();
    let param = record.params.iter().position(|param| db.names().text(param.name) == name)?;
    // What is asked is what was passed, and not what the function put in its place.
    let is_passed = index.bodies[record.body].exprs.clone().any(|number| {
        let expr = leitmotiv_index::tree::ExprId(number);
        match index.exprs[expr] {
            Expr::Name(read, value)
                if read == record.params[param].name && clause.test.contains_range(index.spans[expr]) =>
            {
                index.values[index.unnarrowed(value)] == Value::Def(record.params[param].def)
            }
            _ => false,
        }
    });
    is_passed.then_some(param)
}

/// What a function gives apart from the None that it gives for None.
pub(crate) fn given_something(db: &dyn Db, file: File, function: FunctionId) -> Type {
    saw(db, file, Ask::GivenSomething(function));
    if let Some(known) = known_type(db, file, Ask::GivenSomething(function)) {
        return known;
    }
    given_something_query(db, file, function)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| Type::Never, cycle_fn = recover)]
fn given_something_query(db: &dyn Db, file: File, function: FunctionId) -> Type {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let body = &index.bodies[record.body];
    let mut infer = Infer::new(db, file, record.body);
    if !body.yields.is_empty() || crate::definitions::circles::calls(db, file).in_large_circles.contains(&function) {
        return functions::return_type(db, file, function);
    }
    let mut parts = Vec::new();
    for statement in &body.returns {
        if asks(db, file, index, function, statement).is_none() && infer.reachable(statement.reach) {
            parts.push(statement.value.map_or(Type::None, |value| infer.given_back(value)));
        }
    }
    if infer.reachable(body.end) {
        parts.push(Type::None);
    }
    infer.join(parts)
}

fn recover(db: &dyn Db, cycle: &salsa::Cycle<'_>, last: &Type, now: Type, file: File, function: FunctionId) -> Type {
    let record = crate::outline::function(db, file, function);
    let cause = Cause {
        kind: CauseKind::Cycle,
        file,
        at: leitmotiv_index::anchor::Anchor::Function(function),
        name: record.name,
    };
    converge(db, cycle.iteration(), *last, now, cause)
}
