//! What an unannotated function gives for the arguments of one call, where its parameters alone do not say.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{Expr, ExprId, FunctionId, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use super::Candidate;
use super::arguments::{Argument, ArgumentKind, Caller};
use crate::base::asked::{Ask, saw, saw_with};
use crate::base::assumed;
use crate::base::cycles::converge;
use crate::base::db::Db;
use crate::base::file::File;
use crate::base::stored::known_type;
use crate::context::TypeContext;
use crate::definitions::classes::members;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::types::{Cause, CauseKind, FunctionRef, Literal, Tuple, TupleId, Type};

/// Functions of more expressions than this are not worked out anew for a call. Said in docs/architecture.md.
const LARGEST: u32 = 40;

/// Calls in functions that are worked out for a call are worked out in turn only this deep. Said in docs/architecture.md.
const DEEPEST_CALL: u32 = 1;

impl TypeContext<'_> {
    /// Whether a result is unknown because the parameters of the function are.
    fn rests_on_parameters(&self, ty: Type, function: FunctionRef) -> bool {
        let store = self.db.store();
        crate::types::holds(store, ty, &|part| {
            let Type::Unknown(cause) = part else { return false };
            let cause = store.cause(cause);
            cause.kind == CauseKind::Parameter
                && cause.file == function.file
                && matches!(cause.at, Anchor::Param(of, _) if of == function.function)
        })
    }
}

/// What unannotated functions give for a call's own arguments, whoever calls.
pub(crate) trait CallResult<'db>: Caller<'db> {
    /// The result of a call for its own arguments, where that is known and `plain`, the result for any, is not.
    fn result_for(&mut self, candidate: &Candidate, given: &[Argument], plain: Type) -> Type {
        let Some(function) = candidate.function else { return plain };
        let (db, file) = (self.db, function.file);
        let outline = crate::outline::function(db, file, function.function);
        let is_assumed = assumed::anything(db, file) && outline.params.iter().any(|param| !param.is_annotated);
        let is_unknown = is_assumed || self.rests_on_parameters(plain, function);
        let size = || size_of(db, file, function.function);
        // Of several types, the arguments may tell which.
        let is_open =
            is_unknown || matches!(plain, Type::Union(_)) && size() == (Size { is_small: true, asks_for_class: true });
        if self.calls >= DEEPEST_CALL || !is_open {
            return plain;
        }
        let is_plain = !outline.is_async && !outline.is_generator && !file.is_stub(db) && outline.decorators.is_empty();
        if !is_plain || !size().is_small {
            return plain;
        }
        let Some(types) = self.types_of(candidate, given) else { return plain };
        // What is not known of an argument may be of any class that is asked for.
        if !is_unknown && types.iter().any(|(_, ty)| self.holds_unknown(*ty)) {
            return plain;
        }
        let mut is_known = false;
        let mut given: Vec<(u32, Type)> = Vec::new();
        for (place, ty) in types {
            let Some(param) = outline.params.get(place) else { return plain };
            if !param.is_annotated {
                is_known |= !ty.is_dynamic();
                given.push((u32::try_from(place).unwrap_or(u32::MAX), ty));
            }
        }
        if !is_known {
            return plain;
        }
        if candidate.skipped == 1
            && let Some(receiver) = candidate.receiver
        {
            given.push((0, receiver));
        }
        let result = given_back_for(db, file, function.function, given);
        if self.holds_unknown(result)
            || result == Type::Never
            || crate::types::substitute::has_variables(db.store(), result)
        {
            return plain;
        }
        functions::unless_doubtful(db, file, result, Anchor::Function(function.function), outline.name)
    }

    /// The types of a call's arguments by the parameters that take them; `None` where they are not written one by one.
    fn types_of(&mut self, candidate: &Candidate, given: &[Argument]) -> Option<Vec<(usize, Type)>> {
        let params = &candidate.signature.params;
        let mut types = Vec::with_capacity(given.len());
        let mut next = 0;
        for argument in given {
            let place = match argument.kind {
                ArgumentKind::Positional => {
                    let place = next;
                    next += 1;
                    place
                }
                ArgumentKind::Keyword(name) => params.iter().position(|param| param.name == name)?,
                ArgumentKind::Star | ArgumentKind::DoubleStar => return None,
            };
            let is_single = params.get(place).is_some_and(|param| {
                matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal | ParamKind::KeywordOnly)
            });
            if !is_single {
                return None;
            }
            let ty = self.argument_type(*argument);
            types.push((place + candidate.skipped, self.widen_for_others(ty)));
        }
        Some(types)
    }
}

impl<'db, C: Caller<'db>> CallResult<'db> for C {}

impl TypeContext<'_> {
    /// The result of an inherited method, where that calls methods of its object which the object's own class has otherwise.
    pub(crate) fn result_for_receiver(&mut self, candidate: &Candidate, plain: Type) -> Type {
        let (Some(function), Some(receiver @ Type::Instance(id))) = (candidate.function, candidate.receiver) else {
            return plain;
        };
        let (db, store) = (self.db, self.db.store());
        let Some(owner) = function.owner.filter(|_| !plain.is_dynamic() && plain != Type::None) else { return plain };
        if store.instance(owner).class == store.instance(id).class || function.file.is_stub(db) {
            return plain;
        }
        let outline = crate::outline::function(db, function.file, function.function);
        let is_overridden = |name: &Name| {
            let own = |id| members::find(db, id, *name, None).map(|found| store.instance(found.owner).class);
            own(id) != own(owner)
        };
        if !own_calls(db, function.file, function.function).iter().any(is_overridden) {
            return plain;
        }
        let is_small = size_of(db, function.file, function.function).is_small;
        if self.calls >= DEEPEST_CALL || !is_small || outline.is_async || outline.is_generator {
            return plain;
        }
        given_back_for(db, function.file, function.function, vec![(0, receiver)])
    }
}

/// How much there is in a function, and what.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Size {
    /// It is small enough to be worked out anew for a call.
    is_small: bool,
    /// It asks `isinstance`.
    asks_for_class: bool,
}

pub(crate) fn size_of(db: &dyn Db, file: File, function: FunctionId) -> Size {
    saw(db, file, Ask::SizeOf(function));
    size_of_query(db, file, function)
}

#[salsa::tracked(returns(copy))]
fn size_of_query(db: &dyn Db, file: File, function: FunctionId) -> Size {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let exprs = index.bodies[index.functions[function].body].exprs.clone();
    let is_small = exprs.end - exprs.start <= LARGEST;
    let asks = |number: u32| {
        matches!(index.exprs[ExprId(number)], Expr::Call { callee, .. }
            if matches!(index.exprs[callee], Expr::Name(known::ISINSTANCE, _)))
    };
    Size { is_small, asks_for_class: is_small && exprs.clone().any(asks) }
}

/// The methods that a function calls on its first parameter, in the order of the text.
pub(crate) fn own_calls(db: &dyn Db, file: File, function: FunctionId) -> &[Name] {
    saw(db, file, Ask::OwnCalls(function));
    own_calls_query(db, file, function)
}

#[salsa::tracked(returns(deref))]
fn own_calls_query(db: &dyn Db, file: File, function: FunctionId) -> Box<[Name]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let Some(first) = record.params.first() else { return Box::default() };
    let called = |number: u32| match &index.exprs[ExprId(number)] {
        Expr::Call { callee, .. } => match index.exprs[*callee] {
            Expr::Attribute { value, name, .. } => {
                matches!(index.exprs[value], Expr::Name(object, _) if object == first.name).then_some(name)
            }
            _ => None,
        },
        _ => None,
    };
    index.bodies[record.body].exprs.clone().filter_map(called).collect()
}

/// What a function gives back where parameters, by their 0-based places, are given these types.
pub(crate) fn given_back_for(db: &dyn Db, file: File, function: FunctionId, given: Vec<(u32, Type)>) -> Type {
    saw_with(db, file, || Ask::GivenBackFor(function, given_tuple(db, &given)));
    if let Some(known) = known_type(db, file, Ask::GivenBackFor(function, given_tuple(db, &given))) {
        return known;
    }
    given_back_for_query(db, file, function, given)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Type::Never, cycle_fn = recover)]
fn given_back_for_query(db: &dyn Db, file: File, function: FunctionId, given: Vec<(u32, Type)>) -> Type {
    let _reading = reading(db, file);
    let record = &module_index(db, file).functions[function];
    let mut there = Infer::new(db, file, record.body);
    there.calls = 1;
    for (place, ty) in given {
        if let Some(param) = record.params.get(place as usize) {
            there.give(param.def, ty);
        }
    }
    let result = functions::returned(&mut there, function);
    there.widen_for_others(result)
}

/// Places and types, one behind the other, in a tuple: as [`Ask::GivenBackFor`] has them.
fn given_tuple(db: &dyn Db, given: &[(u32, Type)]) -> TupleId {
    let store = db.store();
    let place = |place: u32| Type::Literal(store.intern_literal(Literal::Int(i64::from(place))));
    let parts = given.iter().flat_map(|(at, ty)| [place(*at), *ty]).collect();
    store.intern_tuple(Tuple { prefix: parts, rest: None, suffix: Box::default() })
}

fn recover(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    now: Type,
    file: File,
    function: FunctionId,
    _: Vec<(u32, Type)>,
) -> Type {
    let name = crate::outline::function(db, file, function).name;
    let cause = Cause { kind: CauseKind::Cycle, file, at: Anchor::Function(function), name };
    converge(db, cycle.iteration(), *last, now, cause)
}
