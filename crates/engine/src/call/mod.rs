//! Calls: which signature, which argument for which parameter, what comes back.
//!
//! - this file: what is called
//! - [`arguments`]: written arguments, and bare types
//! - [`bind`]: arguments to parameters
//! - [`refused`]: what is told where no signature takes the arguments
//! - [`construct`]: calls of classes
//! - [`given_none`]: None that comes back only for None
//! - [`result`]: what an unannotated function gives for a call's own arguments
//! - [`spread`]: arguments behind `*` and `**`
//! - [`partial`]: what is left to be passed to `functools.partial`
//! - [`typed_dict`]: methods of typed dictionaries
//! - [`expected`]: calls whose result is expected to be of some type

mod arguments;
mod bind;
pub mod construct;
mod expected;
mod given_none;
mod partial;
mod refused;
mod result;
mod spread;
mod typed_dict;

use std::rc::Rc;

use rustc_hash::FxHashMap;

use leitmotiv_index::tree::{Arg, ArgKind, ExprId, ParamKind};
use leitmotiv_syntax::names::{Name, known};

pub use self::arguments::{Argument, ArgumentKind};
pub(crate) use self::arguments::{Bare, Caller};
pub(crate) use self::bind::{Bind, Refusal, Why};
use crate::context::TypeContext;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::Site;
use crate::problems::Callee;
use crate::types::substitute::{Substitution, signature as rewrite_signature};
use crate::types::{CauseKind, FunctionRef, Signature, SignatureParam, Type, VarKind};

/// A signature that a call may use.
#[derive(Debug, Clone)]
pub struct Candidate {
    /// What it takes; a bound first argument is already taken off.
    pub signature: Signature,
    /// The function behind it.
    pub function: Option<FunctionRef>,
    /// What messages call it, where there is no function.
    pub name: Option<Name>,
    /// How many parameters were taken off.
    pub skipped: usize,
    /// What stands for variables before the call's own arguments say more.
    pub start: Substitution,
    /// Whether the result is still to be inferred from the function's body.
    pub inferred: bool,
    /// The object that it is bound to.
    pub receiver: Option<Type>,
}

/// The signatures that a call may use, in order; cheap to hand on.
#[derive(Debug, Clone, Default)]
pub(crate) struct Candidates {
    all: Rc<[Candidate]>,
    /// Of very many: those that take a literal first, by that literal.
    by_literal: Option<Rc<ByLiteral>>,
    /// Of very many: whether any has parameters that a call's arguments bring (`*args: P.args`, `*args: *Ts`).
    take_lists: bool,
}

/// Many signatures by the literal that each takes first.
#[derive(Debug)]
struct ByLiteral {
    of: FxHashMap<Type, Vec<usize>>,
    /// Those that take something else first.
    others: Vec<usize>,
}

impl Candidates {
    /// One signature.
    pub(crate) fn only(candidate: Candidate) -> Candidates {
        Candidates { all: Rc::new([candidate]), by_literal: None, take_lists: false }
    }

    /// Whether there are so many that they are told apart by their first argument.
    fn are_many(&self) -> bool {
        self.by_literal.is_some()
    }

    /// The numbers of the signatures that may take a literal as their first argument, in order; `None` where each is to be
    /// tried.
    fn for_literal(&self, literal: Type) -> Option<Vec<usize>> {
        let by_literal = self.by_literal.as_ref()?;
        let mut numbers = by_literal.of.get(&literal).cloned().unwrap_or_default();
        numbers.extend(&by_literal.others);
        numbers.sort_unstable();
        Some(numbers)
    }
}

impl std::ops::Deref for Candidates {
    type Target = [Candidate];

    fn deref(&self) -> &[Candidate] {
        &self.all
    }
}

impl FromIterator<Candidate> for Candidates {
    fn from_iter<I: IntoIterator<Item = Candidate>>(all: I) -> Candidates {
        let all: Rc<[Candidate]> = all.into_iter().collect();
        let by_literal = (all.len() > MANY).then(|| {
            let mut known = ByLiteral { of: FxHashMap::default(), others: Vec::new() };
            for (number, candidate) in all.iter().enumerate() {
                match candidate.literal_first() {
                    Some(literal) => known.of.entry(literal).or_default().push(number),
                    None => known.others.push(number),
                }
            }
            Rc::new(known)
        });
        let take_lists = all.iter().flat_map(|candidate| candidate.signature.params.iter()).any(|param| {
            matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) && matches!(param.ty, Type::Var(_))
        });
        Candidates { all, by_literal, take_lists }
    }
}

/// From how many signatures on they are remembered, and those passed over that take another literal first: of a function
/// with thousands of them, as are made for keys, nearly all are.
const MANY: usize = 16;

impl Candidate {
    /// The literal that it takes as its first argument by position, and nothing else.
    fn literal_first(&self) -> Option<Type> {
        let first = self.signature.params.first()?;
        let is_placed = matches!(first.kind, ParamKind::Normal | ParamKind::PositionalOnly);
        (is_placed && matches!(first.ty, Type::Literal(_))).then_some(first.ty)
    }

    /// A signature with no function behind it.
    pub(crate) fn plain(signature: Signature, name: Option<Name>) -> Candidate {
        Candidate {
            signature,
            function: None,
            name,
            skipped: 0,
            start: Substitution::new(),
            inferred: false,
            receiver: None,
        }
    }
}

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
    pub(crate) fn call_with(&mut self, ty: Type, args: &[Type]) -> Type {
        self.try_call(ty, args).unwrap_or(Type::Any)
    }

    /// The same, or `None` where the arguments do not fit.
    pub(crate) fn try_call(&mut self, ty: Type, args: &[Type]) -> Option<Type> {
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
                        self.solved(result)
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
        let substitution =
            function.owner.map(|owner| crate::definitions::classes::class_arguments(db, owner)).unwrap_or_default();
        let mut candidates = Vec::with_capacity(overloads.len());
        for overload in overloads.iter() {
            let declared = functions::declared(db, function.file, *overload);
            let signature =
                Signature { params: declared.params.clone(), returns: declared.returns.unwrap_or(Type::Never) };
            let signature = crate::solve::variadic::unpack_places(db, unpack_keywords(db, signature));
            // In one step: what stands for the class's variables may speak of another class's `Self`.
            let this = receiver.map(|receiver| self.receiver_itself(receiver));
            let mut replace = |var| match this {
                Some(this) if functions::is_self(store, var) => Some(this),
                _ => substitution.get(var),
            };
            let mut signature = rewrite_signature(store, &signature, &mut replace);
            let mut start = Substitution::new();
            let mut skipped = 0;
            if let Some(receiver) = receiver
                && let Some(first) = signature.params.first()
                && !matches!(first.kind, ParamKind::VarArgs | ParamKind::KwArgs | ParamKind::KeywordOnly)
            {
                if declared.annotates_first {
                    let first = first.ty;
                    // `def __init__(self: dict[str, V], …)` holds only for such receivers.
                    if !crate::solve::unify::has_own_variables(store, first)
                        && !crate::solve::unify::has_own_variables(store, receiver)
                        && !self.is_assignable(receiver, first)
                    {
                        continue;
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
                            continue;
                        }
                    }
                }
                skipped = 1;
                signature.params = signature.params[1..].into();
            }
            candidates.push(Candidate {
                signature,
                function: Some(FunctionRef { function: *overload, ..function }),
                name: None,
                skipped,
                start,
                inferred: declared.returns.is_none(),
                receiver,
            });
        }
        candidates
    }

    /// What a call gives. A callable keeps the variables that only it mentions: it is generic itself.
    pub(crate) fn call_result(&self, candidate: &Candidate, result: Type) -> Type {
        if !matches!(result, Type::Callable(_)) {
            return self.solved(self.without_idle(candidate, result));
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

impl Infer<'_> {
    /// The type of a call expression.
    pub(crate) fn call(&mut self, expr: ExprId, callee: ExprId, args: &[Arg]) -> Type {
        if let Some(known) = self.typed_dict_call(callee, args) {
            return known;
        }
        let outer = self.called.replace(callee);
        let ty = self.expr(callee);
        self.called = outer;
        let is_class = matches!(ty, Type::Class(_) | Type::SubclassOf(_));
        let result = if is_class && (self.is_own_class(callee) || self.is_some_class(callee)) {
            // What is called is the class of a subclass, perhaps, with a constructor of its own.
            for arg in args {
                self.expr(arg.value);
            }
            let checking = std::mem::replace(&mut self.checking, false);
            let result = self.call_type(expr, ty, args);
            self.checking = checking;
            result
        } else {
            self.call_type(expr, ty, args)
        };
        // Arguments that no parameter was found for are still looked at.
        for arg in args {
            self.expr(arg.value);
        }
        self.check_spread(args);
        self.check_format(callee, args);
        result
    }

    pub(crate) fn callee_of(&self, call: ExprId) -> Option<ExprId> {
        match self.index.exprs[call] {
            leitmotiv_index::tree::Expr::Call { callee, .. } => Some(callee),
            _ => None,
        }
    }

    /// Reports what cannot be called, unless a subclass of it could be.
    fn not_callable(&mut self, call: ExprId, object: Type) -> Type {
        if let Some(callee) = self.callee_of(call)
            && !self.is_receiver(callee)
        {
            self.problem(callee, crate::problems::ProblemKind::CallNotCallable { object });
        }
        self.unknown(CauseKind::Reported, call)
    }

    fn has_loose_callee(&mut self, call: ExprId) -> bool {
        use leitmotiv_index::tree::Expr;
        let Expr::Call { callee, .. } = self.index.exprs[call] else { return false };
        match self.index.exprs[callee] {
            Expr::Attribute { value, .. } => self.is_ambiguous(value) || self.is_ambiguous(callee),
            Expr::Name(name, value) if self.is_taken_at_start(name, value) => true,
            _ => self.is_ambiguous(callee),
        }
    }

    /// Whether a name is imported or defined in several ways, of which one is taken as the program starts: by the version of a
    /// package, for example.
    fn is_taken_at_start(&mut self, name: Name, value: leitmotiv_index::tree::ValueId) -> bool {
        use leitmotiv_index::tree::{DefKind, Value};
        let index = self.index;
        let mut defs = Vec::new();
        match index.values[index.unnarrowed(value)] {
            Value::Def(_) | Value::Phi { .. } => self.leaves(value, &mut defs, 0),
            _ => {
                let symbol = index.scopes[leitmotiv_index::tree::ScopeId(0)].symbols.get(&name);
                defs.extend(symbol.into_iter().flat_map(|symbol| &symbol.defs));
            }
        }
        let is_statement = |def: &leitmotiv_index::tree::DefId| {
            matches!(
                index.defs[*def].kind,
                DefKind::Class(_) | DefKind::Function(_) | DefKind::Import { .. } | DefKind::ImportFrom { .. }
            )
        };
        defs.len() > 1 && defs.iter().all(is_statement)
    }

    /// Whether an expression is the class of an object, which may be a subclass of what is known: `cls`, `type(vessel)`,
    /// `vessel.__class__`.
    fn is_own_class(&self, callee: ExprId) -> bool {
        use leitmotiv_index::tree::Expr;
        match &self.index.exprs[callee] {
            Expr::Name(..) => self.is_receiver(callee),
            Expr::Attribute { name: known::DUNDER_CLASS, .. } => true,
            Expr::Call { callee, args } => {
                matches!(self.index.exprs[*callee], Expr::Name(known::TYPE, _)) && args.len() == 1
            }
            _ => false,
        }
    }

    /// Whether a class was only concluded from what a property or method of an object gives: a subclass's may give another.
    fn is_some_class(&mut self, callee: ExprId) -> bool {
        use leitmotiv_index::tree::Expr;
        match self.index.exprs[callee] {
            Expr::Attribute { value, .. } => matches!(self.quietly(value), Type::Instance(_)) && !self.is_said(callee),
            Expr::Call { callee: method, .. } => {
                matches!(self.quietly(method), Type::Method(_)) && !self.is_said(callee)
            }
            _ => false,
        }
    }

    fn call_type(&mut self, expr: ExprId, ty: Type, args: &[Arg]) -> Type {
        let store = self.db.store();
        match ty {
            Type::Never | Type::Any | Type::Unknown(_) => ty,
            Type::Union(id) => {
                let parts = store.union_parts(id).to_vec();
                if let Some(callee) = self.callee_of(expr)
                    && self.checking
                    && parts.contains(&Type::None)
                    && !self.is_unreliable_none(callee)
                    && self.is_first_none(callee, expr)
                {
                    self.problem(callee, crate::problems::ProblemKind::NoneCall { object: ty });
                }
                let called = parts.into_iter().filter(|part| *part != Type::None);
                // Where nobody can tell which it is, one that takes the arguments is enough.
                let is_loose = self.checking && self.has_loose_callee(expr);
                if is_loose {
                    for arg in args {
                        self.expr(arg.value);
                    }
                }
                let before = self.problems.len();
                // None among them may be all there is of the rest as well.
                let mut all_refuse = !store.union_parts(id).contains(&Type::None);
                let mut results = Vec::new();
                for part in called {
                    let so_far = self.problems.len();
                    results.push(self.call_type(expr, part, args));
                    all_refuse &= self.problems.len() > so_far;
                    self.drop_repeated(before, so_far);
                }
                if is_loose && !all_refuse {
                    self.problems.truncate(before);
                }
                self.join(results)
            }
            Type::Function(id) => {
                let function = *store.function(id);
                if let Some(special) = self.special_call(expr, function, args) {
                    return special;
                }
                let candidates = self.candidates(ty);
                self.call_candidates(expr, &candidates, &given(args))
            }
            Type::Class(id) => {
                if let Some(special) = self.special_construction(expr, id, args) {
                    return special;
                }
                self.check_abstract(expr, id);
                self.construct(expr, id, &given(args))
            }
            Type::SubclassOf(inner) => match *store.single(inner) {
                Type::Instance(id) => {
                    self.construct(expr, id, &given(args));
                    Type::Instance(id)
                }
                Type::Var(_) => *store.single(inner),
                other => other,
            },
            Type::Method(_) | Type::Callable(_) => {
                let candidates = self.candidates(ty);
                self.call_candidates(expr, &candidates, &given(args))
            }
            Type::Instance(_) => match self.member(ty, known::CALL) {
                // An object whose `__call__` is again such an object is not followed any further.
                Some(Type::Instance(_)) => self.unknown(CauseKind::Dynamic, expr),
                Some(method) => self.call_type(expr, method, args),
                None => self.not_callable(expr, ty),
            },
            Type::Var(_) => {
                let upper = self.upper_bound(ty);
                if upper == ty { Type::Any } else { self.call_type(expr, upper, args) }
            }
            Type::None => {
                if let Some(callee) = self.callee_of(expr)
                    && !self.is_unreliable_none(callee)
                {
                    self.problem(callee, crate::problems::ProblemKind::NoneCall { object: ty });
                }
                self.unknown(CauseKind::Reported, expr)
            }
            Type::Literal(_) | Type::Tuple(_) | Type::Module(_) | Type::Namespace(_) => self.not_callable(expr, ty),
            Type::Property(_) | Type::Special(_) | Type::Form(_) | Type::Super(_) => {
                self.unknown(CauseKind::Dynamic, expr)
            }
        }
    }

    /// Takes back problems from `from` on that say the same of the same place as those since `start`: each class of a union that
    /// is called finds them.
    fn drop_repeated(&mut self, start: usize, from: usize) {
        if start == from || self.problems.len() == from {
            return;
        }
        let found = self.problems.split_off(from);
        for problem in found {
            let is_told = self.problems[start..].iter().any(|told| {
                told.range == problem.range
                    && std::mem::discriminant(&told.kind) == std::mem::discriminant(&problem.kind)
            });
            if !is_told {
                self.problems.push(problem);
            }
        }
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

/// A call's arguments as they are written.
pub(crate) fn given(args: &[Arg]) -> Vec<Argument> {
    args.iter()
        .map(|arg| Argument {
            kind: match arg.kind {
                ArgKind::Positional => ArgumentKind::Positional,
                ArgKind::Keyword(name) => ArgumentKind::Keyword(name),
                ArgKind::Star => ArgumentKind::Star,
                ArgKind::DoubleStar => ArgumentKind::DoubleStar,
            },
            expr: Some(arg.value),
            ty: Type::Never,
        })
        .collect()
}
