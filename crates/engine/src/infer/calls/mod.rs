//! Calls that are written: what is called, what is told where no signature takes the arguments.
//!
//! - [`arguments`]: arguments that are written
//! - [`expected`]: calls whose result is expected to be of some type
//! - [`partial`]: what is left to be passed to `functools.partial`
//! - [`refused`]: what is told where no signature takes the arguments
//! - [`typed_dict`]: methods of typed dictionaries

mod arguments;
mod expected;
mod partial;
mod refused;
mod typed_dict;

pub(crate) use self::arguments::{Given, Passed};
use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId};
use leitmotiv_syntax::names::{Name, known};

use crate::call::{Argument, ArgumentKind, Bind, Candidates};
use crate::context::candidates::{Constructor, Made};
use crate::infer::Infer;
use crate::types::substitute::Substitution;
use crate::types::{CauseKind, InstanceId, Type};

impl Infer<'_> {
    /// The type of a call expression.
    pub(crate) fn call(&mut self, expr: ExprId, callee: ExprId, args: &[Arg]) -> Type {
        if let Some(known) = self.typed_dict_call(callee, args) {
            return known;
        }
        let outer = self.called.replace(callee);
        let ty = self.expr(callee);
        self.called = outer;
        self.note_unannotated_callee(callee, ty);
        let outer = self.calling.replace(expr);
        let is_class = matches!(ty, Type::Class(_) | Type::SubclassOf(_));
        // Nor need a subclass have the constructor of its base; where the class says what its own takes, it is asked all the same.
        let is_own =
            is_class && self.is_own_class(callee) && !(self.is_annotated_here() && self.is_constructor_said(ty));
        let result = if is_own || is_class && self.is_some_class(callee) {
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
        self.calling = outer;
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
            Expr::Attribute { value, .. } => {
                self.is_ambiguous(value) || self.is_ambiguous(callee) || !self.is_declared_place(value)
            }
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
    pub(crate) fn is_own_class(&self, callee: ExprId) -> bool {
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

    /// Whether the function whose body this is says what it gives.
    fn is_annotated_here(&self) -> bool {
        let function = self.index.bodies[self.body].function;
        function.is_some_and(|function| self.index.functions[function].returns.is_some())
    }

    /// Whether all that a class's own constructor takes is annotated.
    fn is_constructor_said(&mut self, ty: Type) -> bool {
        let store = self.db.store();
        let id = match ty {
            Type::Class(id) => id,
            Type::SubclassOf(inner) => match self.upper_bound(*store.single(inner)) {
                Type::Instance(id) => id,
                _ => return false,
            },
            _ => return false,
        };
        let Constructor::Candidates(candidates, _) = self.constructor(id) else { return false };
        let own = store.instance(id).class;
        candidates.iter().all(|candidate| {
            candidate.function.is_some_and(|function| {
                let outline = crate::outline::function(self.db, function.file, function.function);
                let is_own = outline.class.is_some_and(|class| class == own.class && function.file == own.file);
                let takes_any = outline.params.len() > 1 || outline.is_annotated;
                is_own && takes_any && outline.params.iter().skip(1).all(|param| param.is_annotated)
            })
        })
    }

    /// Whether an expression is the name of a `type` statement.
    pub(crate) fn is_alias_name(&self, expr: ExprId) -> bool {
        match self.index.exprs[expr] {
            leitmotiv_index::tree::Expr::Name(name, value) => self.alias_named(name, value).is_some(),
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
                let has_lambda = args.iter().any(|arg| matches!(self.index.exprs[arg.value], Expr::Lambda(_)));
                let start = self.mark();
                for part in called {
                    let so_far = self.problems.len();
                    if has_lambda {
                        // What the last one said of the parameters of a lambda is not what this one says.
                        self.roll_back(crate::context::Mark { problems: so_far, ..start });
                    }
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
                // Of whatever class it is, its constructor takes what that of its bound does (typing specification, "Constructors").
                Type::Var(_) => {
                    let made = *store.single(inner);
                    if let Type::Instance(id) = self.upper_bound(made) {
                        self.construct(expr, id, &given(args));
                    }
                    made
                }
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
            // A union, a literal or an alias names types, and makes nothing.
            Type::Form(id) => match *store.single(id) {
                Type::Union(_) | Type::Literal(_) | Type::None => self.not_callable(expr, ty),
                Type::Instance(_) if self.callee_of(expr).is_some_and(|callee| self.is_alias_name(callee)) => {
                    self.not_callable(expr, ty)
                }
                _ => self.unknown(CauseKind::Dynamic, expr),
            },
            Type::Property(_) | Type::Special(_) | Type::Super(_) => self.unknown(CauseKind::Dynamic, expr),
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

    /// The result of a call by the first candidate that takes its arguments; reports where none does.
    pub(crate) fn call_candidates(&mut self, expr: ExprId, candidates: &Candidates, given: &[Argument]) -> Type {
        if candidates.is_empty() {
            return self.unknown(CauseKind::Dynamic, expr);
        }
        let expanded = self.with_lists(candidates, given);
        let candidates = expanded.as_ref().unwrap_or(candidates);
        match self.choose(candidates, given) {
            Ok((result, _)) => {
                if candidates.len() > 1
                    && let Some(chosen) = self.chosen.take()
                {
                    self.check_deprecated_signature(expr, chosen);
                }
                result
            }
            Err(refusals) => {
                self.report(expr, candidates, refusals);
                // Most calls are meant to be the one that was nearly right.
                if candidates.len() == 1 {
                    let start = candidates[0].start.clone();
                    let result = self.candidate_result(&candidates[0], &start);
                    self.solved(result)
                } else {
                    self.unknown(CauseKind::Reported, expr)
                }
            }
        }
    }

    /// The instance that calling a class makes; reports arguments that do not fit.
    pub(crate) fn construct(&mut self, expr: ExprId, class: InstanceId, given: &[Argument]) -> Type {
        match self.constructor(class) {
            Constructor::Candidates(candidates, made) => {
                if candidates.is_empty() {
                    return self.unknown(CauseKind::Dynamic, expr);
                }
                match self.choose(&candidates, given) {
                    Ok((result, solution)) => {
                        if let Some(chosen) = self.chosen.take() {
                            self.check_deprecated_signature(expr, chosen);
                        }
                        self.made(class, made, result, &solution, expr)
                    }
                    Err(refusals) => {
                        self.report(expr, &candidates, refusals);
                        self.made(class, Made::Instance, Type::None, &Substitution::new(), expr)
                    }
                }
            }
            Constructor::TypedDict(both) => {
                let (items, from_other) = *both;
                let is_from_other = given.first().is_some_and(|first| first.kind == ArgumentKind::Positional);
                let candidate = if is_from_other { from_other } else { items };
                match self.choose(&Candidates::only(candidate.clone()), given) {
                    Ok((_, solution)) => self.made(class, Made::Instance, Type::None, &solution, expr),
                    Err(refusals) => {
                        self.report(expr, &[candidate], refusals);
                        self.normal_instance(class)
                    }
                }
            }
            Constructor::Anything => self.made(class, Made::Instance, Type::None, &Substitution::new(), expr),
            Constructor::Unknown(ty) => ty,
        }
    }

    fn made(&mut self, class: InstanceId, made: Made, result: Type, solution: &Substitution, expr: ExprId) -> Type {
        // Variables that no argument told are unknown from here, as with `list()`.
        let unsolved = self.unknown(CauseKind::Empty, expr);
        self.instance_made(class, made, result, solution, unsolved)
    }
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
