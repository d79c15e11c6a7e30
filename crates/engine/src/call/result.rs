//! What an unannotated function gives for the arguments of one call, where its parameters alone do not say.

use leitmotiv_index::tree::{Expr, ExprId, ParamKind, Value};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::{Name, known};

use super::Candidate;
use super::bind::{Argument, ArgumentKind};
use crate::definitions::classes::members;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::resolve::module_index;
use crate::types::{CauseKind, FunctionRef, Type};

/// Functions of more expressions than this are not worked out anew for a call. Said in docs/architecture.md.
const LARGEST: u32 = 40;

/// Calls in functions that are worked out for a call are worked out in turn only this deep. Said in docs/architecture.md.
const DEEPEST_CALL: u32 = 1;

impl Infer<'_> {
    /// The result of a call for its own arguments, where that is known and `plain`, the result for any, is not.
    pub(crate) fn result_for(&mut self, candidate: &Candidate, given: &[Argument], plain: Type) -> Type {
        let Some(function) = candidate.function else { return plain };
        let (db, file) = (self.db, function.file);
        let index = module_index(db, file);
        let record = &index.functions[function.function];
        let body = &index.bodies[record.body];
        // Of several types, the arguments may tell which.
        let asks_for_class = || {
            body.exprs.end - body.exprs.start <= LARGEST
                && body.exprs.clone().any(|number| {
                    matches!(index.exprs[ExprId(number)], Expr::Call { callee, .. }
                    if matches!(index.exprs[callee], Expr::Name(known::ISINSTANCE, _)))
                })
        };
        let is_unknown = self.rests_on_parameters(plain, function);
        let is_open = is_unknown || matches!(plain, Type::Union(_)) && asks_for_class();
        if self.calls >= DEEPEST_CALL || !is_open {
            return plain;
        }
        let is_plain = !record.is_async && body.yields.is_empty() && !file.is_stub(db) && record.decorators.is_empty();
        if !is_plain || body.exprs.end - body.exprs.start > LARGEST {
            return plain;
        }
        let Some(types) = self.types_of(candidate, given) else { return plain };
        // What is not known of an argument may be of any class that is asked for.
        if !is_unknown && types.iter().any(|(_, ty)| self.holds_unknown(*ty)) {
            return plain;
        }
        let mut there = Infer::new(db, file, record.body);
        there.calls = self.calls + 1;
        let mut is_known = false;
        for (place, ty) in types {
            let Some(param) = record.params.get(place) else { return plain };
            if param.annotation.is_none() {
                is_known |= !ty.is_dynamic();
                there.give(param.def, ty);
            }
        }
        if !is_known {
            return plain;
        }
        if candidate.skipped == 1
            && let (Some(receiver), Some(first)) = (candidate.receiver, record.params.first())
        {
            there.give(first.def, receiver);
        }
        let result = functions::returned(&mut there, function.function);
        let result = there.widen_for_others(result);
        if self.holds_unknown(result)
            || result == Type::Never
            || crate::types::substitute::has_variables(db.store(), result)
        {
            return plain;
        }
        functions::unless_doubtful(db, file, result, record.name_range, record.name)
    }

    /// Whether a place in a function that is worked out for a call is only for arguments of another class than the call's:
    /// `if isinstance(other, Epoch):`.
    pub(crate) fn is_ruled_out(&mut self, at: TextRange) -> bool {
        if self.calls == 0 || self.given_params.is_empty() {
            return false;
        }
        let index = self.index;
        let numbers: Vec<u32> = index.clauses_around.of(at.start()).collect();
        numbers.into_iter().map(|number| &index.clauses[number as usize]).filter(|clause| clause.positive).any(
            |clause| {
                let body = &index.bodies[self.body];
                let test =
                    body.exprs.clone().map(ExprId).find(|expr| {
                        index.spans[*expr] == clause.test && matches!(index.exprs[*expr], Expr::Call { .. })
                    });
                let Some(Expr::Call { callee, args }) = test.map(|test| &index.exprs[test]) else { return false };
                let (Expr::Name(known::ISINSTANCE, _), [asked, class]) = (&index.exprs[*callee], args.as_ref()) else {
                    return false;
                };
                let Expr::Name(_, value) = index.exprs[asked.value] else { return false };
                let Value::Def(def) = index.values[index.unnarrowed(value)] else { return false };
                let Some(given) = self.given_params.get(&def).copied() else { return false };
                self.narrow_isinstance(given, class.value, true, false) == Type::Never
            },
        )
    }

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
        let index = module_index(db, function.file);
        let record = &index.functions[function.function];
        let body = &index.bodies[record.body];
        let Some(first) = record.params.first() else { return plain };
        let is_overridden = |name: Name| {
            let own = |id| members::find(db, id, name, None).map(|found| store.instance(found.owner).class);
            own(id) != own(owner)
        };
        let calls_another = body.exprs.clone().any(|expr| match &index.exprs[ExprId(expr)] {
            Expr::Call { callee, .. } => match index.exprs[*callee] {
                Expr::Attribute { value, name, .. } => {
                    matches!(index.exprs[value], Expr::Name(object, _) if object == first.name) && is_overridden(name)
                }
                _ => false,
            },
            _ => false,
        });
        if !calls_another {
            return plain;
        }
        let is_small = body.exprs.end - body.exprs.start <= LARGEST;
        if self.calls >= DEEPEST_CALL || !is_small || record.is_async || !body.yields.is_empty() {
            return plain;
        }
        let mut there = Infer::new(db, function.file, record.body);
        there.calls = self.calls + 1;
        there.give(first.def, receiver);
        let result = functions::returned(&mut there, function.function);
        there.widen_for_others(result)
    }

    /// Whether a result is unknown because the parameters of the function are.
    fn rests_on_parameters(&self, ty: Type, function: FunctionRef) -> bool {
        let store = self.db.store();
        let params = &module_index(self.db, function.file).functions[function.function].params;
        crate::types::holds(store, ty, &|part| {
            let Type::Unknown(cause) = part else { return false };
            let cause = store.cause(cause);
            cause.kind == CauseKind::Parameter
                && cause.file == function.file
                && params.iter().any(|param| param.name_range == cause.range)
        })
    }

    /// The types of a call's arguments by the parameters that take them; `None` where they are not written one by one.
    pub(crate) fn types_of(&mut self, candidate: &Candidate, given: &[Argument]) -> Option<Vec<(usize, Type)>> {
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
            let ty = match argument.expr {
                Some(expr) => self.expr(expr),
                None => argument.ty,
            };
            types.push((place + candidate.skipped, self.widen_for_others(ty)));
        }
        Some(types)
    }
}
