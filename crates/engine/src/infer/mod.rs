//! Types of expressions, on demand.
//!
//! An [`Infer`] works on one body and remembers what it has found there. Asking for an expression works out just what that
//! expression depends on: the values of names along the flow, and by queries whatever lies in other bodies and modules.
//!
//! Cycles inside of a body are loops: [`values`] iterates a loop's head until its type stands still. While it does, what
//! was remembered or reported since is taken back, so that in the end everything was worked out from final types. Cycles
//! across bodies are left to the queries' own recovery.
//!
//! - [`values`]: values and definitions
//! - [`assignment_narrowing`]: what a place holds right after an assignment
//! - [`reach`]: which places can be reached
//! - [`expressions`]: one match over expressions
//! - [`containers`]: displays, comprehensions, iteration, unpacking, and whether they fit what is expected
//! - [`items`]: what stands in brackets behind an object
//! - [`aliases`]: what aliases stand for
//! - [`literal_strings`]: texts that are put together of literal ones
//! - [`typed_dict_displays`]: displays that are to become typed dictionaries
//! - [`attributes`]: reading attributes
//! - [`calls`]: calls that are written
//! - [`operators`]: what operators give
//! - [`names`]: names that the body itself does not bind
//! - [`self_results`]: what methods give back of themselves
//! - [`special`]: functions that the engine must know by identity
//! - [`phi`]: narrowings that come together again
//! - [`lambdas`]: what is expected of lambdas
//! - [`generators`]: what is yielded, sent and returned

pub(crate) mod aliases;
pub mod attributes;
pub mod calls;
pub mod containers;
pub mod expressions;
mod generators;
mod items;
mod lambdas;
mod literal_strings;
pub mod names;
pub mod operators;
mod reach;
pub mod special;
mod values;

pub mod assignment_narrowing;
pub mod phi;
pub mod self_results;
pub mod type_expressions;
pub mod typed_dict_displays;

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyId, DefId, Expr, ExprId, ModuleIndex, ReachId, ValueId};
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::{FxHashMap, FxHashSet};

use crate::base::db::Db;
use crate::base::file::File;
use crate::context::{Mark, TypeContext};
use crate::outline::{Site, module_index};
use crate::problems::{Problem, ProblemKind};
use crate::resolve::builtin_instance;
use crate::types::union;
use crate::types::{Cause, CauseId, CauseKind, FunctionRef, InstanceId, Literal, Type};

/// Works out types in one body.
pub struct Infer<'db> {
    /// What is asked of types alone.
    pub context: TypeContext<'db>,
    /// The file's index.
    pub index: &'db ModuleIndex,
    /// The body.
    pub body: BodyId,
    pub(crate) exprs: FxHashMap<ExprId, Type>,
    pub(crate) values: FxHashMap<ValueId, Type>,
    pub(crate) defs: FxHashMap<DefId, Type>,
    pub(crate) reaches: FxHashMap<ReachId, bool>,
    /// Loop heads being worked out, with what they are taken to be so far and whether that was asked for.
    pub(crate) heads: FxHashMap<ValueId, (Type, bool)>,
    /// Definitions being worked out.
    pub(crate) open_defs: Vec<DefId>,
    /// What was remembered, in order, so that it can be taken back.
    pub(crate) journal: Vec<Entry>,
    /// What parameters are, where a call says so: of lambdas by the call that they are given to, of a function by the call
    /// that its result is worked out for.
    pub(crate) given_params: FxHashMap<DefId, Type>,
    /// What lambdas are expected to take, where their place says so.
    pub(crate) lambdas: FxHashMap<leitmotiv_index::tree::LambdaId, Vec<Type>>,
    /// Values whose being None was told, with the place.
    pub(crate) told_none: Vec<(attributes::Told, ExprId)>,
    /// For values whose ways were gone through: whether ways lead to them with the name bound, and without.
    pub(crate) bound_ways: FxHashMap<ValueId, (bool, bool)>,
    /// Names of scopes that nothing declares.
    pub(crate) undeclared: FxHashSet<(leitmotiv_index::tree::ScopeId, Name)>,
    /// For names of scopes, the definition that is final.
    pub(crate) finals: FxHashMap<(leitmotiv_index::tree::ScopeId, Name), Option<DefId>>,
    /// How many names were compared to find near misses in spelling.
    pub(crate) nears: usize,
    /// Names whose being unbound was told, with the place.
    pub(crate) told_unbound: Vec<(Name, ExprId)>,
    /// The same of notes on conditions that go together.
    pub(crate) told_together: Vec<(attributes::Told, ExprId)>,
    /// What was found wrong; kept only by a walk that checks.
    pub problems: Vec<Problem>,
    /// Whether problems are kept.
    pub checking: bool,
    pub(crate) depth: u32,
    /// Expressions of which it is being asked whether what they are is only concluded.
    pub(crate) asked_loose: Vec<(ExprId, bool)>,
    /// What is being called.
    pub(crate) called: Option<ExprId>,
    /// The call whose arguments are being bound.
    pub(crate) calling: Option<ExprId>,
    /// What parameters are given, where that is noted.
    pub(crate) passed: Option<Vec<calls::Passed>>,
    /// Whether only what functions of the project are given is noted that have parameters which nobody annotated; what these take is not.
    pub(crate) notes_open_only: bool,
    /// Who concludes what nobody annotated, where that is asked for, and how deep.
    pub(crate) concluding: Option<(&'static Concluding, u32)>,
}

/// Who concludes what something is that is unknown because of parameters which nobody annotated. All are told how many functions deep they may
/// look.
pub(crate) struct Concluding {
    /// What a parameter is, by its function and 0-based place; of `*args` and `**kwargs`, each of those that are given.
    pub(crate) parameter: fn(&dyn Db, File, leitmotiv_index::tree::FunctionId, u32, u32) -> Option<Type>,
    /// What methods give an attribute of an object.
    pub(crate) attribute: fn(&dyn Db, InstanceId, Name, u32) -> Option<Type>,
    /// What a function gives.
    pub(crate) result: fn(&dyn Db, FunctionRef, u32) -> Option<Type>,
}

#[derive(Debug, Clone, Copy)]
pub(crate) enum Entry {
    Expr(ExprId),
    Value(ValueId),
    Def(DefId),
    Reach(ReachId),
}

/// Inferred containers are nested at most this deep. Said in docs/architecture.md.
const DEEPEST_TYPE: u32 = 4;

/// Types that are read or come of calls are nested at most this deep; deeper ones have grown by themselves, as those of
/// `class A[T]: x: "A[tuple[T, T]]"` do. Said in docs/architecture.md.
const DEEPEST_READ: u32 = 10;

/// So many names are compared in a file to find near misses in spelling. Said in docs/architecture.md.
const MOST_COMPARED: usize = 1_000_000;

/// Expressions nested deeper than this are unknown. Said in docs/architecture.md.
const DEEPEST: u32 = 2_000;

impl<'db> std::ops::Deref for Infer<'db> {
    type Target = TypeContext<'db>;

    fn deref(&self) -> &TypeContext<'db> {
        &self.context
    }
}

impl std::ops::DerefMut for Infer<'_> {
    fn deref_mut(&mut self) -> &mut Self::Target {
        &mut self.context
    }
}

impl TypeContext<'_> {
    /// The union of some types; a literal beside its own class says nothing more.
    pub fn join(&self, types: impl IntoIterator<Item = Type>) -> Type {
        let store = self.db.store();
        let joined = union::join(store, types);
        let Type::Union(id) = joined else { return joined };
        let joined = self.without_empties(joined, store.union_parts(id));
        let Type::Union(id) = joined else { return joined };
        let parts = store.union_parts(id);
        let is_literal = |part: &Type| matches!(part, Type::Literal(_));
        if !parts.iter().any(is_literal) || !parts.iter().any(|part| matches!(part, Type::Instance(_))) {
            return joined;
        }
        union::filter(store, joined, |part| !is_literal(&part) || !parts.contains(&self.literal_fallback(part)))
    }

    /// A union in which an empty container stands beside another one of its class is that other one.
    fn without_empties(&self, ty: Type, parts: &[Type]) -> Type {
        let store = self.db.store();
        let is_empty = |part: &Type| match part {
            Type::Instance(id) => {
                let args = &store.instance(*id).args;
                !args.is_empty()
                    && args
                        .iter()
                        .all(|arg| matches!(arg, Type::Unknown(cause) if store.cause(*cause).kind == CauseKind::Empty))
            }
            _ => false,
        };
        if !parts.iter().any(is_empty) {
            return ty;
        }
        let class = |part: &Type| match part {
            Type::Instance(id) => Some(store.instance(*id).class),
            _ => None,
        };
        union::filter(store, ty, |part| {
            !is_empty(&part) || !parts.iter().any(|other| class(other) == class(&part) && !is_empty(other))
        })
    }

    /// The class form of a literal: `int` for `3`.
    pub fn literal_fallback(&self, ty: Type) -> Type {
        let Type::Literal(id) = ty else { return ty };
        match *self.db.store().literal(id) {
            Literal::Int(_) => self.builtin(known::INT),
            Literal::Bool(_) => self.builtin(known::BOOL_CLASS),
            Literal::Str(_) => self.builtin(known::STR),
            Literal::Bytes(_) => self.builtin(known::BYTES),
            Literal::Enum(class, _) => Type::Instance(crate::resolve::instance_of(self.db, class, &[])),
        }
    }

    /// A type without its literals.
    pub fn widen(&self, ty: Type) -> Type {
        match ty {
            Type::Literal(_) => self.literal_fallback(ty),
            Type::Union(_) => union::map(self.db.store(), ty, |part| self.literal_fallback(part)),
            Type::Tuple(id) => {
                let tuple = self.db.store().tuple(id).clone();
                let wide = |types: &[Type]| types.iter().map(|ty| self.widen(*ty)).collect();
                Type::Tuple(self.db.store().intern_tuple(crate::types::Tuple {
                    prefix: wide(&tuple.prefix),
                    // How many there are is not known: somebody said what they are.
                    rest: tuple.rest,
                    suffix: wide(&tuple.suffix),
                }))
            }
            ty => ty,
        }
    }

    /// What an inferred type is to other parts of the program, which may see other values of its kind: without literals, and
    /// with its unions in one order.
    /// Members of enumerations stay what they are only in their own body.
    pub fn widen_for_others(&self, ty: Type) -> Type {
        crate::types::canonical::canonical(self.db, self.widen(ty))
    }

    /// An instance of a built-in class without arguments.
    pub fn builtin(&self, name: Name) -> Type {
        builtin_instance(self.db, name, &[])
    }

    /// The type of `...`.
    pub(crate) fn ellipsis(&self) -> Type {
        match crate::resolve::standard_class(self.db, known::TYPES, known::ELLIPSIS_TYPE) {
            Some(class) => Type::Instance(crate::resolve::instance_of(self.db, class, &[])),
            None => Type::Any,
        }
    }

    /// `list[element]` and the like, nested up to a limit.
    pub fn container(&self, name: Name, args: &[Type]) -> Type {
        let args: Vec<Type> = args.iter().map(|arg| self.limit_depth(*arg)).collect();
        builtin_instance(self.db, name, &args)
    }

    /// The type, unknown from where on it is nested so deeply that it must have grown by itself, as a list that is put into
    /// itself does. Without a limit, such types would grow with every look at them.
    pub(crate) fn limit_depth(&self, ty: Type) -> Type {
        let cause = Cause { kind: CauseKind::Cycle, file: self.file, at: Anchor::Module, name: known::EMPTY };
        let unknown = Type::Unknown(self.db.store().intern_cause(cause));
        crate::types::folded::shallow(self.db.store(), ty, DEEPEST_TYPE, unknown)
    }
}

impl<'db> Infer<'db> {
    /// Says what a parameter is.
    pub(crate) fn give(&mut self, param: DefId, ty: Type) {
        self.given_params.insert(param, ty);
    }

    /// Starts on a body, with nothing known.
    #[must_use]
    pub fn new(db: &'db dyn Db, file: File, body: BodyId) -> Infer<'db> {
        Infer {
            context: TypeContext::new(db, file, body),
            index: module_index(db, file),
            body,
            exprs: FxHashMap::default(),
            values: FxHashMap::default(),
            defs: FxHashMap::default(),
            reaches: FxHashMap::default(),
            heads: FxHashMap::default(),
            open_defs: Vec::new(),
            journal: Vec::new(),
            given_params: FxHashMap::default(),
            lambdas: FxHashMap::default(),
            told_none: Vec::new(),
            told_unbound: Vec::new(),
            told_together: Vec::new(),
            bound_ways: FxHashMap::default(),
            undeclared: FxHashSet::default(),
            finals: FxHashMap::default(),
            nears: 0,
            problems: Vec::new(),
            checking: false,
            depth: 0,
            asked_loose: Vec::new(),
            called: None,
            calling: None,
            passed: None,
            notes_open_only: false,
            concluding: None,
        }
    }

    /// The same body with nothing known but what parameters are given.
    pub(crate) fn afresh(&self) -> Infer<'db> {
        let concluding = self.concluding;
        Infer { given_params: self.given_params.clone(), concluding, ..Infer::new(self.db, self.file, self.body) }
    }

    /// Reports a problem at an expression, if this walk checks.
    pub fn problem(&mut self, expr: ExprId, kind: ProblemKind) {
        let range = self.index.spans[expr];
        // `try: x.y` with `except AttributeError` asks whether it is there.
        let is_absence = matches!(
            kind,
            ProblemKind::MemberAbsent { .. }
                | ProblemKind::NoneMember { .. }
                | ProblemKind::NameUndefined { .. }
                | ProblemKind::NameUnbound { .. }
        );
        let asks = is_absence && self.index.guarded_members.iter().any(|guarded| guarded.contains_range(range));
        let asks_for_item = matches!(kind, ProblemKind::IndexRange { .. })
            && self.index.guarded_items.iter().any(|guarded| guarded.contains_range(range));
        // Whatever comes of None here is caught as well.
        let is_caught =
            kind.is_of_none() && self.index.guarded_none.iter().any(|guarded| guarded.contains_range(range));
        let is_tried =
            kind.is_of_arguments() && self.index.guarded_calls.iter().any(|guarded| guarded.contains_range(range));
        // `except Exception` around what a module of some versions does not have.
        let is_of_module = matches!(kind, ProblemKind::MemberAbsent { object: Type::Module(_), .. })
            && self.index.guarded_none.iter().any(|guarded| guarded.contains_range(range));
        // A test that says that this fails.
        let is_meant = !self.index.failing.is_empty()
            && !matches!(kind, ProblemKind::RevealType { .. } | ProblemKind::AssertType { .. })
            && self.index.failing.iter().any(|failing| failing.contains_range(range));
        if !asks
            && !asks_for_item
            && !is_caught
            && !is_tried
            && !is_of_module
            && !is_meant
            && !self.is_excluded(range)
            && self.checking
        {
            let Some(kind) = self.unless_together(kind, expr) else {
                self.untell(expr);
                return;
            };
            if let ProblemKind::Correlated { .. } = kind {
                self.untell(expr);
                if !self.is_first_together(expr) {
                    return;
                }
            }
            let kind = self.with_reason(kind);
            self.problem_at(range, Some(expr), kind);
        }
    }

    /// Whether a part of an expression is never reached on the target version and platform.
    pub(crate) fn is_excluded(&self, range: leitmotiv_syntax::TextRange) -> bool {
        self.index.excluded.iter().any(|excluded| excluded.contains_range(range))
    }

    /// Reports a problem at a range.
    pub fn problem_at(&mut self, range: leitmotiv_syntax::TextRange, expr: Option<ExprId>, kind: ProblemKind) {
        if self.checking {
            self.problems.push(Problem { range, expr, kind });
        }
    }

    /// The name that comes nearest to a word, near enough to be meant; none once very many were looked through.
    pub(crate) fn nearest<'a>(&mut self, wanted: &str, names: Vec<&'a str>) -> Option<&'a str> {
        self.nears += names.len();
        attributes::nearest(wanted, names)
    }

    /// Whether names near to a word are still looked for: not once very many were looked through.
    pub(crate) fn seeks_nearest(&self) -> bool {
        self.nears <= MOST_COMPARED
    }

    /// A definition of this file as a place.
    pub(crate) fn site_of(&self, def: DefId) -> Site {
        Site { file: self.file, at: self.index.anchor_of_def(def) }
    }

    /// An expression of this file as a place.
    pub(crate) fn site_of_expr(&self, expr: ExprId) -> Site {
        Site { file: self.file, at: self.index.anchor_in(self.body, expr) }
    }

    /// An unknown with its cause at an expression.
    pub fn unknown(&self, kind: CauseKind, expr: ExprId) -> Type {
        Type::Unknown(self.cause(kind, expr))
    }

    /// A cause at an expression.
    pub fn cause(&self, kind: CauseKind, expr: ExprId) -> CauseId {
        self.cause_named(kind, expr, known::EMPTY)
    }

    /// A cause at an expression, with the name concerned.
    pub fn cause_named(&self, kind: CauseKind, expr: ExprId, name: Name) -> CauseId {
        self.db.store().intern_cause(Cause { kind, file: self.file, at: self.index.anchor_in(self.body, expr), name })
    }

    pub(crate) fn mark(&self) -> Mark {
        Mark { journal: self.journal.len(), problems: self.problems.len() }
    }

    /// Forgets what was remembered and reported since a mark.
    pub(crate) fn roll_back(&mut self, mark: Mark) {
        while self.journal.len() > mark.journal {
            match self.journal.pop() {
                Some(Entry::Expr(id)) => {
                    self.exprs.remove(&id);
                }
                Some(Entry::Value(id)) => {
                    self.values.remove(&id);
                }
                Some(Entry::Def(id)) => {
                    self.defs.remove(&id);
                }
                Some(Entry::Reach(id)) => {
                    self.reaches.remove(&id);
                }
                None => break,
            }
        }
        self.problems.truncate(mark.problems);
    }

    /// Works something out without leaving a trace of it.
    pub(crate) fn speculate<T>(&mut self, work: impl FnOnce(&mut Self) -> T) -> T {
        let mark = self.mark();
        let checking = std::mem::replace(&mut self.checking, false);
        let result = work(self);
        self.checking = checking;
        self.roll_back(mark);
        result
    }

    /// The type of an expression.
    pub fn expr(&mut self, expr: ExprId) -> Type {
        if let Some(ty) = self.exprs.get(&expr) {
            return *ty;
        }
        if self.depth > DEEPEST {
            return self.unknown(CauseKind::Unsupported, expr);
        }
        self.depth += 1;
        // What stands in an argument has its own signatures to choose among.
        let (strict, plainly) = (std::mem::take(&mut self.strict), std::mem::take(&mut self.plainly));
        let ty = self.expression(expr);
        let ty = self.unfolded(ty);
        (self.strict, self.plainly) = (strict, plainly);
        self.depth -= 1;
        let ty = match self.index.exprs[expr] {
            Expr::Attribute { .. } | Expr::Call { .. } | Expr::Subscript { .. }
                if crate::types::deeper_than(self.db.store(), ty, DEEPEST_READ) =>
            {
                self.unknown(CauseKind::Cycle, expr)
            }
            _ => ty,
        };
        let ty = match self.concluding {
            Some(by) if ty.is_unknown() => self.concluded(by, expr).unwrap_or(ty),
            _ => ty,
        };
        self.exprs.insert(expr, ty);
        self.journal.push(Entry::Expr(expr));
        ty
    }

    /// What is concluded of an attribute, or of the result of a call, that is unknown.
    fn concluded(&mut self, (concluding, depth): (&Concluding, u32), expr: ExprId) -> Option<Type> {
        match self.index.exprs[expr] {
            Expr::Attribute { value, name, .. } => match self.expr(value) {
                Type::Instance(id) => (concluding.attribute)(self.db, id, name, depth),
                _ => None,
            },
            Expr::Call { callee, .. } => {
                let function = match self.expr(callee) {
                    Type::Method(id) => self.db.store().method(id).function,
                    callee => callee,
                };
                let Type::Function(id) = function else { return None };
                (concluding.result)(self.db, *self.db.store().function(id), depth)
            }
            _ => None,
        }
    }

    /// The type of an expression if it has been worked out here.
    #[must_use]
    pub fn known_expr(&self, expr: ExprId) -> Option<Type> {
        self.exprs.get(&expr).copied()
    }

    /// All expressions that were worked out here.
    pub fn known_exprs(&self) -> impl Iterator<Item = (ExprId, Type)> {
        self.exprs.iter().map(|(expr, ty)| (*expr, *ty))
    }
}
