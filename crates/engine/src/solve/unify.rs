//! What stands for type variables (typing specification, "Generics").

use leitmotiv_index::tree::ParamKind;

use crate::base::db::Db;
use crate::call::Candidate;
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind, as_base};
use crate::types::store::Store;
use crate::types::substitute::signature as rewrite_signature;
use crate::types::substitute::{Substitution, has_variables, is_variadic};
use crate::types::union::{join, parts};
use crate::types::{Signature, SignatureParam, Type, VarId, VarKind, Variance};

fn is_placed(param: &SignatureParam) -> bool {
    matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal)
}

/// Whether variables occur that a call could solve.
#[must_use]
pub fn has_own_variables(store: &Store, ty: Type) -> bool {
    has_variables(store, ty)
}

impl TypeContext<'_> {
    /// What is left of a signature's parameters behind the first few; anything where the signature is not known.
    fn rest_of(&self, signature: Option<&Signature>, before: usize) -> Type {
        let store = self.db.store();
        let Some(signature) = signature else { return crate::definitions::functions::any_callable(store, Type::Never) };
        let mut left = before;
        let mut params: Vec<SignatureParam> = Vec::with_capacity(signature.params.len());
        for param in &signature.params {
            if is_placed(param) && left > 0 {
                left -= 1;
                continue;
            }
            params.push(param.clone());
        }
        Type::Callable(store.intern_signature(Signature { params: params.into(), returns: Type::Never }))
    }

    /// Whether a type is what an empty container holds: nothing.
    fn is_empty_element(&self, ty: Type) -> bool {
        matches!(ty, Type::Unknown(cause) if self.db.store().cause(cause).kind == crate::types::CauseKind::Empty)
    }

    /// Notes what must stand for the variables of `param` so that `given` fits it. What contradicts is joined; whether it
    /// fits then is asked afterwards.
    pub(crate) fn unify(&mut self, param: Type, given: Type, solution: &mut Substitution) {
        self.unify_within(param, given, solution, 0);
    }

    fn unify_within(&mut self, param: Type, given: Type, solution: &mut Substitution, depth: u32) {
        let store = self.db.store();
        if depth > 16 || !has_variables(store, param) {
            return;
        }
        let depth = depth + 1;
        match param {
            // A recursive alias stands for what it says.
            Type::Var(var) if store.variable(var).kind == crate::types::VarKind::Alias => {}
            Type::Var(var) => {
                let variable = store.variable(var);
                if variable.kind == VarKind::Tuple {
                    self.unify_places(var, given, solution);
                    return;
                }
                if variable.kind != VarKind::Type || given == Type::Never {
                    return;
                }
                let constraints = &crate::definitions::type_variables::limits(self.db, var).constraints;
                if !constraints.is_empty() {
                    // Another variable that can only be the same things stays itself.
                    if let Type::Var(other) = given
                        && crate::definitions::type_variables::limits(self.db, other).constraints == *constraints
                    {
                        solution.set(var, given);
                        return;
                    }
                    // The constraint that takes it, of several the narrowest.
                    let taking: Vec<Type> =
                        constraints.iter().copied().filter(|one| self.is_assignable(given, *one)).collect();
                    let narrowest = |one: &&Type| taking.iter().all(|other| self.is_assignable(**one, *other));
                    let chosen = taking.iter().find(narrowest).or(taking.first()).copied();
                    if solution.get(var).is_none_or(|known| known.is_dynamic()) {
                        solution.set(var, if given.is_dynamic() { given } else { chosen.unwrap_or(constraints[0]) });
                    }
                    return;
                }
                let joined = match solution.get(var) {
                    Some(known) if self.is_empty_element(given) => known,
                    // One argument is known and another is not: it may be either.
                    Some(known) if given.is_dynamic() => join(store, [known, given]),
                    Some(known) if self.is_assignable(given, known) && !known.is_dynamic() => known,
                    Some(known) if self.is_assignable(known, given) && !given.is_dynamic() && !known.is_dynamic() => {
                        given
                    }
                    Some(known) => join(store, [known, given]),
                    None => given,
                };
                solution.set(var, joined);
            }
            Type::Union(id) => {
                // `T | None`: what the plain parts take is not T.
                let all = store.union_parts(id).to_vec();
                let (open, plain): (Vec<Type>, Vec<Type>) =
                    all.into_iter().partition(|part| has_variables(store, *part));
                let rest: Vec<Type> = parts(store, &given)
                    .iter()
                    .copied()
                    .filter(|part| part.is_dynamic() || !plain.iter().any(|one| self.is_assignable(*part, *one)))
                    .collect();
                let rest = join(store, rest);
                let structured: Vec<Type> = open.iter().copied().filter(|part| !matches!(part, Type::Var(_))).collect();
                for part in &structured {
                    self.unify_within(*part, rest, solution, depth);
                }
                for part in open.iter().filter(|part| matches!(part, Type::Var(_))) {
                    let left: Vec<Type> = parts(store, &rest)
                        .iter()
                        .copied()
                        .filter(|given| {
                            given.is_dynamic()
                                || !structured.iter().any(|one| {
                                    let solved = solution.apply(store, *one);
                                    self.is_assignable(*given, self.solved(solved))
                                })
                        })
                        .collect();
                    self.unify_within(*part, join(store, left), solution, depth);
                }
            }
            _ => {
                for part in parts(store, &given).to_vec() {
                    self.unify_part(param, part, solution, depth);
                }
            }
        }
    }

    /// The first candidate that takes what is known of a signature's parameters.
    fn taking<'c>(
        &mut self,
        candidates: &'c [Candidate],
        want: &Signature,
        known: &Substitution,
    ) -> Option<&'c Candidate> {
        let store = self.db.store();
        if candidates.len() < 2 {
            return None;
        }
        candidates.iter().find(|candidate| {
            let params = &candidate.signature.params;
            let needed = params.iter().filter(|param| !param.optional && is_placed(param)).count();
            let taken = params.iter().filter(|param| is_placed(param)).count();
            let mut inner = candidate.start.clone();
            needed <= want.params.len()
                && (want.params.len() <= taken || params.iter().any(|param| param.kind == ParamKind::VarArgs))
                && want.params.iter().zip(params).all(|(param, have)| {
                    let argument = known.apply(store, param.ty);
                    if has_variables(store, argument) {
                        return true;
                    }
                    self.unify(have.ty, argument, &mut inner);
                    let takes = inner.apply(store, have.ty);
                    self.is_assignable(argument, self.solved(takes))
                })
        })
    }

    fn unify_part(&mut self, param: Type, given: Type, solution: &mut Substitution, depth: u32) {
        let store = self.db.store();
        if given.is_dynamic() {
            // Whatever it holds is as unknown as itself.
            crate::types::substitute::rewrite(store, param, &mut |var| {
                match solution.get(var) {
                    None => solution.set(var, given),
                    // One part is known and another is not: it may hold either.
                    Some(known) if is_free(self.db, var) && known != Type::Never => {
                        solution.set(var, join(store, [known, given]));
                    }
                    Some(_) => {}
                }
                None
            });
            return;
        }
        match param {
            Type::Instance(id) => {
                let want = store.instance(id).clone();
                if let Some(own) = self.nominal(given)
                    && let Some(base) = as_base(self.db, own, want.class)
                {
                    let have = store.instance(base).args.clone();
                    for (param, given) in want.args.iter().zip(&have) {
                        self.unify_within(*param, *given, solution, depth);
                    }
                    return;
                }
                if classes::info(self.db, want.class).kind == ClassKind::Protocol {
                    // What is asked within the same question says nothing more.
                    if self.unifying.contains(&(want.class, given)) {
                        return;
                    }
                    let info = classes::info(self.db, want.class);
                    // First what stands for the protocol's own variables, then these against the arguments wanted.
                    let mut own = Substitution::new();
                    for (var, arg) in info.params.iter().zip(&want.args) {
                        let known = solution.apply(store, *arg);
                        if crate::definitions::variance::of(self.db, want.class, *var) == Variance::Contravariant
                            && !has_variables(store, known)
                        {
                            own.set(*var, known);
                        }
                    }
                    let is_asked_plainly = own == Substitution::new();
                    let known = self.unified.get(&(want.class, given)).filter(|_| is_asked_plainly).cloned();
                    if let Some(known) = known {
                        own = known;
                    } else {
                        self.unifying.push((want.class, given));
                        for (member, have) in self.protocol_arguments(given, id) {
                            self.unify_within(member, have, &mut own, depth);
                        }
                        self.unifying.pop();
                        if is_asked_plainly {
                            self.unified.insert((want.class, given), own.clone());
                        }
                        // Answers that an outer question cut short are only good within it.
                        if self.unifying.is_empty() {
                            self.unified.clear();
                        }
                    }
                    for (var, arg) in info.params.iter().zip(&want.args) {
                        if let Some(found) = own.get(*var) {
                            self.unify_within(*arg, found, solution, depth);
                        }
                    }
                }
            }
            Type::Tuple(id) => {
                let want = store.tuple(id).clone();
                if let Some(have) = self.tuple_shape(given) {
                    let have = store.tuple(have).clone();
                    if let Some(Type::Var(var)) = want.rest.filter(|rest| is_variadic(store, *rest)) {
                        for (param, given) in self.around_places(var, &want, &have, solution) {
                            self.unify_within(param, given, solution, depth);
                        }
                        return;
                    }
                    match want.rest {
                        Some(rest) => {
                            for element in have.prefix.iter().chain(&have.rest) {
                                self.unify_within(rest, *element, solution, depth);
                            }
                        }
                        None => {
                            let from = have.prefix.iter().copied().chain(have.rest.into_iter().cycle());
                            for (param, given) in want.prefix.iter().zip(from) {
                                self.unify_within(*param, given, solution, depth);
                            }
                        }
                    }
                }
            }
            Type::Callable(id) => {
                let want = store.signature(id).clone();
                let given = match given {
                    Type::Class(class) => {
                        if let Some((list, before)) = self.open_end(&want)
                            && solution.get(list).is_none()
                        {
                            let signature = self.construction(class);
                            solution.set(list, self.rest_of(signature.as_ref(), before));
                        }
                        let gives = self.class_gives(class);
                        self.unify_within(want.returns, gives, solution, depth);
                        return;
                    }
                    Type::Instance(_) => match self.member(given, leitmotiv_syntax::names::known::CALL) {
                        Some(method) => method,
                        None => return,
                    },
                    other => other,
                };
                let candidates = self.candidates(given);
                let want = match candidates.first() {
                    Some(first) => self.with_taken(want, &first.signature, solution),
                    None => want,
                };
                let Some(candidate) = self.taking(&candidates, &want, solution).or(candidates.first()) else { return };
                if let Some((list, before)) = self.open_end(&want)
                    && solution.get(list).is_none()
                {
                    // Which of several signatures is meant cannot be told.
                    let signature = rewrite_signature(store, &candidate.signature, &mut |var| candidate.start.get(var));
                    let signature = (candidates.len() == 1).then_some(signature);
                    solution.set(list, self.rest_of(signature.as_ref(), before));
                }
                for (param, have) in want.params.iter().zip(&candidate.signature.params) {
                    // A callback's own variables say nothing, and what it takes is only the most that it can be given.
                    let is_open = matches!(param.ty, Type::Var(var) if solution.get(var).is_none())
                        || !matches!(param.ty, Type::Var(_));
                    if is_open && !has_variables(store, have.ty) && !have.ty.is_dynamic() {
                        self.unify_within(param.ty, have.ty, solution, depth);
                    }
                }
                let known = solution.clone();
                let mut inner = candidate.start.clone();
                for (param, have) in want.params.iter().zip(&candidate.signature.params) {
                    let argument = known.apply(store, param.ty);
                    if !has_variables(store, argument) {
                        self.unify_within(have.ty, argument, &mut inner, depth);
                    }
                }
                let result = self.candidate_result(candidate, &inner);
                let mut result = self.solved(result);
                // Of several signatures that give different things, the arguments that it is called with tell, and they are not
                // known here: `Callable[..., R]`.
                let takes_any = |kind: ParamKind| want.params.iter().any(|param| param.kind == kind);
                if candidates.len() > 1 && takes_any(ParamKind::VarArgs) && takes_any(ParamKind::KwArgs) {
                    let is_other = |other: &Candidate| {
                        let gives = self.candidate_result(other, &other.start);
                        self.solved(gives) != result
                    };
                    if candidates.iter().any(is_other) {
                        result = Type::Unknown(self.dynamic_cause());
                    }
                }
                self.unify_within(want.returns, result, solution, depth);
            }
            Type::SubclassOf(inner) => {
                let inner = *store.single(inner);
                match given {
                    Type::Class(id) => {
                        let unknown = Type::Unknown(self.dynamic_cause());
                        self.unify_within(inner, self.open_instance(id, unknown), solution, depth);
                    }
                    Type::SubclassOf(own) => self.unify_within(inner, *store.single(own), solution, depth),
                    Type::Form(own) => self.unify_within(inner, *store.single(own), solution, depth),
                    _ => {}
                }
            }
            _ => {}
        }
    }
}

/// Whether a variable stands for one type, whichever that is.
fn is_free(db: &dyn Db, var: VarId) -> bool {
    db.store().variable(var).kind == VarKind::Type
        && crate::definitions::type_variables::limits(db, var).constraints.is_empty()
}
