//! Calls: which signature, which argument for which parameter, what comes back. Of types alone; calls that are written are
//! [`crate::infer::calls`].
//!
//! - this file: what is called
//! - [`arguments`]: written arguments, and bare types
//! - [`bind`]: arguments to parameters
//! - [`construct`]: calls of classes
//! - [`given_none`]: None that comes back only for None
//! - [`result`]: what an unannotated function gives for a call's own arguments
//! - [`spread`]: arguments behind `*` and `**`

mod arguments;
mod bind;
pub mod construct;
pub(crate) mod given_none;
pub(crate) mod result;
mod spread;

use leitmotiv_index::tree::ParamKind;
use leitmotiv_syntax::names::known;

pub use self::arguments::{Argument, ArgumentKind};
pub(crate) use self::arguments::{Bare, Caller};
pub(crate) use self::bind::{Bind, Refusal, Why};
use crate::context::TypeContext;
pub use crate::context::candidates::Candidate;
pub(crate) use crate::context::candidates::Candidates;
use crate::definitions::functions;
use crate::outline::Site;
use crate::problems::Callee;
use crate::types::substitute::{Substitution, signature as rewrite_signature};
use crate::types::{CauseKind, FunctionRef, Signature, SignatureParam, Type, VarKind};

impl TypeContext<'_> {
    /// What a candidate gives, with what was found to stand for its variables.
    pub(crate) fn candidate_result(&mut self, candidate: &Candidate, solution: &Substitution) -> Type {
        let store = self.db.store();
        let returns = if candidate.inferred {
            match candidate.function {
                Some(function) => {
                    let given =
                        function.owner.map(|owner| crate::definitions::classes::class_arguments(self.db, owner));
                    let given = given.unwrap_or_default();
                    match candidate.receiver {
                        Some(receiver) => {
                            let ty = functions::open_return_type(self.db, function.file, function.function);
                            self.seen_by(&given, ty, receiver)
                        }
                        None => given.apply(store, functions::return_type(self.db, function.file, function.function)),
                    }
                }
                None => Type::Any,
            }
        } else {
            candidate.signature.returns
        };
        solution.apply(store, returns)
    }

    /// Why nothing is known of what stands for a variable: nothing that was passed says it.
    fn unsolved_cause(&self, var: crate::types::VarId) -> crate::types::CauseId {
        let store = self.db.store();
        let variable = store.variable(var);
        store.intern_cause(crate::types::Cause {
            kind: CauseKind::Unsolved,
            file: variable.file,
            at: variable.at,
            name: variable.name,
        })
    }

    /// The result of calling a value with arguments of given types, wherever the call may stand. Reports nothing.
    pub fn call_with(&mut self, ty: Type, args: &[Type]) -> Type {
        self.try_call(ty, args).unwrap_or(Type::Any)
    }

    /// The same, or `None` where the arguments do not fit.
    pub fn try_call(&mut self, ty: Type, args: &[Type]) -> Option<Type> {
        let store = self.db.store();
        match ty {
            Type::Never | Type::Any | Type::Unknown(_) => Some(ty),
            Type::Union(id) => {
                let parts = store.union_parts(id).to_vec();
                let results: Option<Vec<Type>> = parts.into_iter().map(|part| self.try_call(part, args)).collect();
                results.map(|results| self.join(results))
            }
            Type::Class(id) => {
                let given: Vec<Argument> = args.iter().map(|ty| Argument::of_type(*ty)).collect();
                Some(self.construct_quietly(id, &given))
            }
            Type::Function(_) | Type::Method(_) | Type::Callable(_) => {
                let candidates = self.candidates(ty);
                let given: Vec<Argument> = args.iter().map(|ty| Argument::of_type(*ty)).collect();
                Bare(self).choose(&candidates, &given).ok().map(|(result, _)| result)
            }
            Type::Instance(_) => match self.member(ty, known::CALL)? {
                Type::Instance(_) => Some(Type::Any),
                method => self.try_call(method, args),
            },
            _ => Some(Type::Any),
        }
    }

    /// The result of calling a value without arguments, as for properties, iterators and context managers.
    pub(crate) fn result_of(&mut self, ty: Type) -> Type {
        match ty {
            Type::Function(_) | Type::Method(_) | Type::Callable(_) => {
                let candidates = self.candidates(ty);
                match candidates.first() {
                    Some(candidate) => {
                        let result = self.candidate_result(candidate, &candidate.start);
                        self.plain_result(self.solved(result))
                    }
                    None => Type::Any,
                }
            }
            ty if ty.is_dynamic() => ty,
            ty => self.call_with(ty, &[]),
        }
    }

    /// The signatures that calls of a value may use, in order.
    pub(crate) fn candidates(&mut self, ty: Type) -> Candidates {
        let store = self.db.store();
        match ty {
            Type::Function(id) => {
                let function = *store.function(id);
                self.remembered_candidates(ty, function, None)
            }
            Type::Method(id) => {
                let method = *store.method(id);
                match method.function {
                    Type::Function(id) => {
                        let function = *store.function(id);
                        self.remembered_candidates(ty, function, Some(method.receiver))
                    }
                    other => self.candidates(other),
                }
            }
            Type::Callable(id) => Candidates::only(Candidate::plain(store.signature(id).clone(), None)),
            _ => Candidates::default(),
        }
    }

    /// The signatures by which a value is called, also of classes and of objects with `__call__`; `None` where they cannot be
    /// told.
    pub(crate) fn signatures_of(&mut self, ty: Type) -> Option<Candidates> {
        match ty {
            Type::Function(_) | Type::Method(_) | Type::Callable(_) => Some(self.candidates(ty)),
            Type::Class(class) => self.constructors(class),
            Type::Instance(_) => match self.member(ty, known::CALL)? {
                method @ (Type::Function(_) | Type::Method(_) | Type::Callable(_)) => Some(self.candidates(method)),
                _ => None,
            },
            _ => None,
        }
    }

    /// The same as [`Infer::function_candidates`], remembered.
    fn remembered_candidates(&mut self, ty: Type, function: FunctionRef, receiver: Option<Type>) -> Candidates {
        if let Some(known) = self.asked.candidates.get(&ty) {
            return known.clone();
        }
        let candidates: Candidates = self.function_candidates(function, receiver).into_iter().collect();
        // What is worked out while a protocol's arguments are may be of a part of them only.
        if self.unifying.is_empty() {
            self.asked.candidates.insert(ty, candidates.clone());
        }
        candidates
    }

    fn function_candidates(&mut self, function: FunctionRef, receiver: Option<Type>) -> Vec<Candidate> {
        let db = self.db;
        let store = db.store();
        let overloads = &crate::outline::function(db, function.file, function.function).signatures;
        let this = receiver.map(|receiver| self.object_of(receiver));
        let owner = function.owner.map(|owner| match (receiver, this) {
            (Some(Type::Class(_)), Some(Type::Instance(own))) => {
                crate::definitions::classes::as_base(db, own, store.instance(owner).class).unwrap_or(owner)
            }
            _ => owner,
        });
        let substitution =
            owner.map(|owner| crate::definitions::classes::class_arguments(db, owner)).unwrap_or_default();
        let mut candidates = Vec::with_capacity(overloads.len());
        for overload in overloads.iter() {
            let declared = functions::declared(db, function.file, *overload);
            let signature =
                Signature { params: declared.params.clone(), returns: declared.returns.unwrap_or(Type::Never) };
            let signature = crate::solve::variadic::unpack_places(db, unpack_keywords(db, signature));
            // In one step: what stands for the class's variables may speak of another class's `Self`.
            let mut replace = |var| match this {
                Some(this) if functions::is_self(store, var) => Some(this),
                _ => substitution.get(var),
            };
            let mut signature = rewrite_signature(store, &signature, &mut replace);
            let mut start = Substitution::new();
            let mut skipped = 0;
            let mut refuses = None;
            if let Some(receiver) = receiver
                && let Some(first) = signature.params.first()
                && !matches!(first.kind, ParamKind::VarArgs | ParamKind::KwArgs | ParamKind::KeywordOnly)
            {
                if declared.annotates_first {
                    let first = first.ty;
                    // What the class's variables are, the other arguments say.
                    let receiver = match (receiver, this, first) {
                        (Type::Class(_), Some(Type::Instance(own)), Type::SubclassOf(of))
                            if *store.single(of) == Type::Instance(own) =>
                        {
                            Type::Class(own)
                        }
                        _ => receiver,
                    };
                    // `def __init__(self: dict[str, V], …)` holds only for such receivers.
                    if !crate::solve::unify::has_own_variables(store, first)
                        && !crate::solve::unify::has_own_variables(store, receiver)
                        && !self.is_assignable(receiver, first)
                    {
                        refuses = Some(first);
                    }
                    if crate::solve::unify::has_own_variables(store, receiver) {
                        // In construction, the annotation says what the class's parameters are.
                        let mut said = Substitution::new();
                        self.unify(receiver, first, &mut said);
                        for var in crate::types::substitute::variables(store, receiver) {
                            if let Some(ty) = said.get(var).filter(|ty| *ty != Type::Var(var)) {
                                start.set(var, ty);
                            }
                        }
                    } else {
                        self.unify(first, receiver, &mut start);
                        let wanted = self.solved(start.apply(store, first));
                        if overloads.len() > 1 && !self.is_assignable(receiver, wanted) {
                            refuses = Some(wanted);
                        }
                    }
                }
                skipped = 1;
                signature.params = signature.params[1..].into();
            }
            let function = FunctionRef { function: *overload, ..function };
            candidates.push(Candidate {
                signature,
                function: Some(function),
                takes_self: skipped == 0 && self.takes_self(function),
                refuses,
                name: None,
                skipped,
                start,
                inferred: declared.returns.is_none(),
                receiver,
            });
        }
        // Those that take the object are meant; that none does is told where it is called.
        if candidates.iter().any(|candidate| candidate.refuses.is_none()) {
            candidates.retain(|candidate| candidate.refuses.is_none());
        } else if candidates.len() == 1 {
            candidates.clear();
        }
        candidates
    }

    /// What `Self` stands for in a method that is called on something: of a class without arguments, what the call's own arguments say of
    /// its variables.
    fn object_of(&self, receiver: Type) -> Type {
        match receiver {
            Type::Class(id) => Type::Instance(self.in_own_terms(id)),
            receiver => self.receiver_itself(receiver),
        }
    }

    /// What a call gives. A callable keeps the variables that only it mentions: it is generic itself.
    pub(crate) fn call_result(&self, candidate: &Candidate, result: Type) -> Type {
        if !matches!(result, Type::Callable(_)) {
            return self.plain_result(self.solved(self.without_idle(candidate, result)));
        }
        let store = self.db.store();
        let own: Vec<crate::types::VarId> = candidate
            .signature
            .params
            .iter()
            .flat_map(|param| crate::types::substitute::variables(store, param.ty))
            .collect();
        self.solved_but(result, &|var| !own.contains(&var))
    }

    /// A result without the variables that have no part in it: in `get(key, default: V | T) -> V | T` nothing is left for `T` where
    /// the default is a `V`, or is not given.
    fn without_idle(&self, candidate: &Candidate, result: Type) -> Type {
        let store = self.db.store();
        let Type::Union(id) = result else { return result };
        let parts = store.union_parts(id);
        if !parts.iter().any(|part| matches!(part, Type::Var(_)))
            || parts.iter().all(|part| matches!(part, Type::Var(_)))
        {
            return result;
        }
        crate::types::union::filter(store, result, |part| {
            let Type::Var(var) = part else { return true };
            let is_beside = |ty: Type| matches!(ty, Type::Union(id) if store.union_parts(id).contains(&part));
            let params = &candidate.signature.params;
            let mentions = |ty: Type| crate::types::substitute::variables(store, ty).contains(&var);
            let is_beside = params.iter().any(|param| is_beside(param.ty))
                && params.iter().all(|param| is_beside(param.ty) || !mentions(param.ty));
            let is_plain = store.variable(var).kind == VarKind::Type && !self.is_own_variable(var);
            !(is_beside && is_plain && crate::definitions::type_variables::limits(self.db, var).default.is_none())
        })
    }

    /// A result whose variables nothing stands for: they are unknown to the caller, or their default.
    pub(crate) fn solved(&self, ty: Type) -> Type {
        self.solved_but(ty, &|_| false)
    }

    fn solved_but(&self, ty: Type, keeps: &dyn Fn(crate::types::VarId) -> bool) -> Type {
        let store = self.db.store();
        crate::types::substitute::rewrite(store, ty, &mut |var| {
            let variable = store.variable(var);
            // The body's own variables stay: they are types there like any other.
            if keeps(var)
                || self.is_own_variable(var)
                || (variable.kind == VarKind::SelfType && variable.file == self.file)
            {
                return None;
            }
            let default = crate::definitions::type_variables::limits(self.db, var).default;
            Some(default.unwrap_or_else(|| Type::Unknown(self.unsolved_cause(var))))
        })
    }

    /// How messages name a candidate.
    pub(crate) fn callee(&self, candidate: &Candidate) -> Callee {
        let Some(function) = candidate.function else {
            let shown = candidate.name.map_or("the callable", |name| self.text(name)).to_owned();
            return Callee { shown, at: None, param: None };
        };
        let name = crate::outline::function(self.db, function.file, function.function).name;
        let mut shown = functions::shown(self.db, function.file, function.function);
        if name == known::INIT || name == known::NEW {
            shown = shown.split('.').next().unwrap_or_default().to_owned();
        }
        Callee { shown, at: Some(Site::of_function(function.file, function.function)), param: None }
    }
}

/// A signature with the items of an unpacked typed dictionary as parameters by keyword (PEP 692).
fn unpack_keywords(db: &dyn crate::base::db::Db, signature: Signature) -> Signature {
    let Some((last, rest)) = signature.params.split_last() else { return signature };
    let (ParamKind::KwArgs, Type::Form(id)) = (last.kind, last.ty) else { return signature };
    let Type::Instance(dictionary) = *db.store().single(id) else { return signature };
    let mut params = rest.to_vec();
    for field in crate::definitions::classes::dataclass::fields_of(db, dictionary) {
        // A name that is a parameter already cannot come by keyword as well.
        if params.iter().all(|param| param.name != field.name || param.kind == ParamKind::PositionalOnly) {
            params.push(SignatureParam {
                name: field.name,
                kind: ParamKind::KeywordOnly,
                ty: field.ty,
                optional: field.optional,
            });
        }
    }
    Signature { params: params.into(), ..signature }
}
