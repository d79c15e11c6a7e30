//! Tuples of variables: `*Ts` stands for any number of types (PEP 646; typing specification, "Generics": TypeVarTuple).
//!
//! In a class's arguments a tuple stands for such a variable; in a tuple it is the part of unknown length; among
//! parameters it is what `*args` takes.

use leitmotiv_index::tree::ParamKind;

use crate::base::db::Db;
use crate::call::Candidate;
use crate::call::{Argument, ArgumentKind, Caller};
use crate::context::TypeContext;
use crate::types::substitute::{Substitution, has_variables, is_variadic, placed};
use crate::types::{Signature, SignatureParam, Tuple, Type, VarId};

/// The parameters of a signature with `*berths: *tuple[int, str]` written one by one.
pub(crate) fn unpack_places(db: &dyn Db, signature: Signature) -> Signature {
    let unpacked = |param: &SignatureParam| match (param.kind, param.ty) {
        (ParamKind::VarArgs, Type::Form(id)) => match *db.store().single(id) {
            Type::Tuple(tuple) => Some(placed(db.store().tuple(tuple), param)),
            _ => None,
        },
        _ => None,
    };
    if !signature.params.iter().any(|param| unpacked(param).is_some()) {
        return signature;
    }
    let params = signature.params.iter().flat_map(|param| unpacked(param).unwrap_or_else(|| vec![param.clone()]));
    Signature { params: params.collect(), ..signature }
}

impl TypeContext<'_> {
    /// `*Ts`, of a tuple that is all of it: `*args` passed on.
    pub(crate) fn open_places(&mut self, ty: Type) -> Option<Type> {
        let store = self.db.store();
        let tuple = store.tuple(self.tuple_shape(ty)?);
        let is_all = tuple.prefix.is_empty() && tuple.suffix.is_empty();
        tuple.rest.filter(|rest| is_all && is_variadic(store, *rest))
    }

    /// A callable that is asked for, with what stands for the `*Ts` among its parameters. If nothing else says that, what is
    /// passed does, by what it must be given.
    pub(crate) fn with_taken(&self, want: Signature, have: &Signature, solution: &mut Substitution) -> Signature {
        let store = self.db.store();
        let Some(place) = want.params.iter().position(|param| is_variadic(store, param.ty)) else { return want };
        let Type::Var(var) = want.params[place].ty else { return want };
        let known = solution.get(var).unwrap_or_else(|| {
            let taken = have.params.iter().filter(|param| is_placed(param)).skip(place);
            let prefix = taken.filter(|param| !param.optional).map(|param| param.ty).collect();
            let known = Type::Tuple(store.intern_tuple(Tuple { prefix, rest: None, suffix: [].into() }));
            solution.set(var, known);
            known
        });
        crate::types::substitute::signature(store, &want, &mut |other| (other == var).then_some(known))
    }

    /// Notes what a tuple of variables stands for. What was said first holds; element by element, it may be more.
    pub(crate) fn unify_places(&self, var: VarId, given: Type, solution: &mut Substitution) {
        let store = self.db.store();
        let known = match (solution.get(var), given) {
            (None | Some(Type::Any | Type::Unknown(_)), Type::Tuple(_)) => given,
            (Some(Type::Tuple(one)), Type::Tuple(other)) => {
                let (one, other) = (store.tuple(one), store.tuple(other));
                if one.rest.is_some() || other.rest.is_some() || one.prefix.len() != other.prefix.len() {
                    return;
                }
                let prefix = one.prefix.iter().zip(&other.prefix).map(|(one, other)| {
                    if self.is_assignable(*other, *one) { *one } else { self.join([*one, *other]) }
                });
                Type::Tuple(store.intern_tuple(Tuple { prefix: prefix.collect(), rest: None, suffix: [].into() }))
            }
            _ => return,
        };
        solution.set(var, known);
    }

    /// Of a tuple with `*Ts` among its elements, what `Ts` stands for is noted; given back are the elements around it with
    /// those they take.
    pub(crate) fn around_places(
        &self,
        var: VarId,
        want: &Tuple,
        have: &Tuple,
        solution: &mut Substitution,
    ) -> Vec<(Type, Type)> {
        let (front, back) = (want.prefix.len(), want.suffix.len());
        let store = self.db.store();
        let is_short = have.prefix.len() < front
            || if have.rest.is_some() { have.suffix.len() < back } else { have.prefix.len() < front + back };
        if is_short {
            return Vec::new();
        }
        let (middle, behind, tail) = match have.rest {
            Some(_) => {
                let (behind, tail) = have.suffix.split_at(have.suffix.len() - back);
                (&have.prefix[front..], behind, tail)
            }
            None => {
                let (middle, tail) = have.prefix[front..].split_at(have.prefix.len() - front - back);
                (middle, [].as_slice(), tail)
            }
        };
        let inner = Tuple { prefix: middle.into(), rest: have.rest, suffix: behind.into() };
        self.unify_places(var, Type::Tuple(store.intern_tuple(inner)), solution);
        let ends = want.prefix.iter().zip(&have.prefix).chain(want.suffix.iter().zip(tail));
        ends.map(|(want, have)| (*want, *have)).collect()
    }
}

/// What stands for `*Ts` in a call, whoever calls.
pub(crate) trait Places<'db>: Caller<'db> {
    /// A candidate whose `*args: *Ts` is written out, where its receiver or a callable that is passed says what `Ts` stands
    /// for.
    fn with_places(&mut self, candidate: &Candidate, given: &[Argument]) -> Option<Candidate> {
        let store = self.db.store();
        let list = candidate.signature.params.iter().find(|param| is_variadic(store, param.ty))?;
        let Type::Var(var) = list.ty else { return None };
        let Some(known @ Type::Tuple(_)) = candidate.start.get(var) else {
            return self.with_passed_places(candidate, given);
        };
        let mut replace = |other| (other == var).then_some(known);
        let signature = crate::types::substitute::signature(store, &candidate.signature, &mut replace);
        Some(self.with_signature(candidate, signature))
    }

    /// What `*args: *Ts` takes in a call says what `Ts` stands for.
    fn collect_places(
        &mut self,
        params: &[SignatureParam],
        pairs: &[(usize, Argument, u32)],
        solution: &mut Substitution,
    ) {
        let store = self.db.store();
        let Some(list) = params.iter().position(|param| is_variadic(store, param.ty)) else { return };
        let Type::Var(var) = params[list].ty else { return };
        // Literal types stay where they choose among a callback's signatures.
        let chooses = pairs.iter().any(|(param, argument, _)| {
            matches!(params[*param].ty, Type::Callable(_)) && !self.is_lambda(argument) && {
                let given = self.argument_type(*argument);
                self.candidates(given).len() > 1
            }
        });
        let (mut prefix, mut rest, mut suffix) = (Vec::new(), None, Vec::new());
        for (_, argument, _) in pairs.iter().filter(|(param, ..)| *param == list) {
            let given = self.argument_type(*argument);
            if argument.kind == ArgumentKind::Star {
                rest = Some(given);
                continue;
            }
            let ty = if chooses || self.says(argument) { given } else { self.widen(given) };
            if rest.is_some() { suffix.push(ty) } else { prefix.push(ty) }
        }
        let tuple = Tuple { prefix: prefix.into(), rest, suffix: suffix.into() };
        solution.set(var, Type::Tuple(store.intern_tuple(tuple)));
    }

    /// A candidate with the parameters of the callable that is passed to it in the place of its `*args: *Ts`, as many as
    /// arguments are given; `None` where that is not one plain signature, or takes another number of them.
    fn with_passed_places(&mut self, candidate: &Candidate, given: &[Argument]) -> Option<Candidate> {
        let store = self.db.store();
        let params = &candidate.signature.params;
        let list = params.iter().position(|param| is_variadic(store, param.ty))?;
        let Type::Var(var) = params[list].ty else { return None };
        let placed = params[..list].iter().filter(|param| is_placed(param)).count();
        if given.iter().any(|given| matches!(given.kind, ArgumentKind::Star | ArgumentKind::DoubleStar)) {
            return None;
        }
        let count = given.iter().filter(|given| given.kind == ArgumentKind::Positional).count().checked_sub(placed)?;
        let (place, before) = params[..list].iter().enumerate().find_map(|(place, param)| {
            let Type::Callable(id) = param.ty else { return None };
            let wanted = &store.signature(id).params;
            let before = wanted.iter().position(|param| param.ty == Type::Var(var))?;
            Some((place, before))
        })?;
        let argument = *given.get(place).filter(|given| given.kind == ArgumentKind::Positional)?;
        if self.is_lambda(&argument) {
            return None;
        }
        let function = self.argument_type(argument);
        let candidates = self.candidates(function);
        let [taking] = &*candidates else { return None };
        let taken: Vec<&SignatureParam> =
            taking.signature.params.iter().filter(|param| is_placed(param)).skip(before).collect();
        let needed = taken.iter().filter(|param| !param.optional).count();
        let is_plain = taken.iter().all(|param| !has_variables(store, param.ty));
        if !is_plain || count < needed || count > taken.len() {
            return None;
        }
        let prefix = taken[..count].iter().map(|param| param.ty).collect();
        let known = Type::Tuple(store.intern_tuple(Tuple { prefix, rest: None, suffix: [].into() }));
        let mut replace = |other| (other == var).then_some(known);
        let signature = crate::types::substitute::signature(store, &candidate.signature, &mut replace);
        Some(self.with_signature(candidate, signature))
    }
}

impl<'db, C: Caller<'db>> Places<'db> for C {}

fn is_placed(param: &SignatureParam) -> bool {
    matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal)
}
