//! The records of an indexed module.
//!
//! Guarantees:
//! 1. Ids of expressions increase within a body, and the expressions and definitions of a body are one run of ids each
//!    ([`Body::exprs`], [`Body::defs`]); bodies follow each other in the order of their own ids.
//! 2. A [`Reach`] refers only to smaller [`ReachId`]s; the graph of reachability has no cycle.
//! 3. A [`Value`] refers only to smaller [`ValueId`]s, except the arguments of a [`Value::Phi`] at a loop's head.
//! 4. The ids of functions and classes are made of their names and of what they are defined in: they stay the same while others come
//!    and go, and say nothing of the order.
//! 5. Nothing here refers to the parser's tree; it is dropped once the module is indexed.

use std::ops::Range;

use leitmotiv_syntax::comments::Comment;
use leitmotiv_syntax::names::Name;
use leitmotiv_syntax::newer::NewerSyntax;
use leitmotiv_syntax::parse::SyntaxFault;
use leitmotiv_syntax::positions::Lines;
use leitmotiv_syntax::{TextRange, TextSize};
use rustc_hash::{FxHashMap, FxHashSet};
use serde::{Deserialize, Serialize};
use smallvec::SmallVec;

use crate::around::Around;
pub use crate::ids::{
    BodyId, ClassId, ComprehensionId, DefId, ExprId, FunctionId, LambdaId, PatternId, ReachId, ScopeId, ValueId,
};
use crate::ids::{IdVec, KeyVec};

/// Everything that is known of a module from its own text.
#[derive(Debug, Default)]
pub struct ModuleIndex {
    /// Expressions.
    pub exprs: IdVec<ExprId, Expr>,
    /// Where each expression stands, in bytes.
    pub spans: IdVec<ExprId, TextRange>,
    /// Scopes; the module's is the first.
    pub scopes: IdVec<ScopeId, Scope>,
    /// Functions, in the order of the text within each body.
    pub functions: KeyVec<FunctionId, Function>,
    /// Classes.
    pub classes: KeyVec<ClassId, Class>,
    /// Lambdas.
    pub lambdas: IdVec<LambdaId, Lambda>,
    /// Comprehensions and generator expressions.
    pub comprehensions: IdVec<ComprehensionId, Comprehension>,
    /// Bodies; the module's is the first.
    pub bodies: IdVec<BodyId, Body>,
    /// Definitions.
    pub defs: IdVec<DefId, Def>,
    /// Values.
    pub values: IdVec<ValueId, Value>,
    /// Arguments of phis: whence, and what. [`Value::Phi`] holds ranges of it.
    pub phi_args: Vec<(ReachId, ValueId)>,
    /// Reachability.
    pub reaches: IdVec<ReachId, Reach>,
    /// What [`Reach::Join`] joins.
    pub reach_args: Vec<ReachId>,
    /// Patterns.
    pub patterns: IdVec<PatternId, Pattern>,
    /// What is put into containers that were created empty, see [`Filled`].
    pub fills: FxHashMap<Filled, Vec<Fill>>,
    /// Lambdas that stand where a type may be expected.
    pub stands: FxHashMap<LambdaId, Stand>,
    /// Names listed in `__all__`, where it can be read from the text.
    pub exported: Option<Vec<Name>>,
    /// Comments that say something to a type checker, in the order of the text.
    pub comments: Vec<Comment>,
    /// Syntax faults, in the order of the text.
    pub faults: Vec<SyntaxFault>,
    /// What the target version of the language refuses, and later ones read, in the order of the text.
    pub newer: Vec<NewerSyntax>,
    /// Line starts.
    pub lines: TextLines,
    /// Number of lines.
    pub line_count: usize,
    /// The module's docstring.
    pub docstring: Option<TextRange>,
    /// Attributes that are assigned on objects other than a method's own, as when tests or set-up code patch a class; under
    /// `__class__` where their names cannot be read.
    pub patched: FxHashMap<Name, SmallVec<[Patch; 1]>>,
    /// Attributes that conditions ask about, with the bodies that do: code that does so reckons with their being None, or empty.
    pub tested: FxHashMap<Name, SmallVec<[BodyId; 2]>>,
    /// The same of names of the module that functions ask about.
    pub tested_globals: FxHashMap<Name, SmallVec<[BodyId; 2]>>,
    /// The patterns of cases as wholes, in order: a part's id is at most that of the whole that it belongs to.
    pub cases: Vec<PatternId>,
    /// Calls of `get` with a key, where the flow knows what is there.
    pub looked_up: FxHashMap<ExprId, ValueId>,
    /// The value below all narrowings: of narrowings, and of phis that join nothing but narrowings of one value.
    pub roots: FxHashMap<ValueId, ValueId>,
    /// The bodies of handlers of failing imports, in which stand-ins for what is missing are made.
    pub fallbacks: Vec<TextRange>,
    /// Names of the module whose truth the target version and platform decide; `None` once that is no longer sure.
    pub constants: FxHashMap<Name, Option<bool>>,
    /// What `if` statements and `and` do only where a condition holds, or does not.
    pub clauses: Vec<Clause>,
    /// The clauses around a place.
    pub clauses_around: crate::around::Around<u32>,
    /// Bodies of `try` statements with a handler that expects imports or names to be absent.
    pub guarded: Vec<TextRange>,
    /// Bodies of `try` statements with a handler for names or attributes that are not there.
    pub guarded_members: Vec<TextRange>,
    /// Bodies of `try` statements with a handler for items that are not there.
    pub guarded_items: Vec<TextRange>,
    /// Bodies of `try` statements with a handler for `TypeError`, and these handlers: calls with arguments that do not fit
    /// are tried there.
    pub guarded_calls: Vec<TextRange>,
    /// Whether names of the module are made as it runs: `fill(globals())`, `globals()[name] = …`.
    pub makes_names: bool,
    /// Names that are made so with a name that can be read: `globals()["tide"] = …`, also through a function's `__globals__`.
    pub made_names: FxHashSet<Name>,
    /// Bodies under `if TYPE_CHECKING`.
    pub checking_only: Vec<TextRange>,
    /// Whether annotations are not evaluated where they stand (PEP 563, PEP 649).
    pub postpones: bool,
    /// Bodies of `with` statements by which tests say that they are to fail.
    pub failing: Vec<TextRange>,
    /// Parts of expressions that are never reached on the target version and platform: `sys.version_info >= (3, 99) and …`.
    pub excluded: Vec<TextRange>,
    /// Strings among the arguments of what may be a type outside of annotations (`Alias = list["Vessel[Any]"]`), with the
    /// types that are written in them.
    pub quoted: FxHashMap<ExprId, ExprId>,
    /// Bodies of `try` statements with a handler for any exception at all.
    pub guarded_none: Vec<TextRange>,
    /// The classes that places stand in, decorators included.
    pub classes_around: Around<ClassId>,
    /// The functions that places stand in, decorators included.
    pub functions_around: Around<FunctionId>,
}

/// [`Lines`] with a default: that of an empty text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct TextLines(pub Lines);

impl Default for TextLines {
    fn default() -> Self {
        TextLines(Lines::new(""))
    }
}

/// An expression. Ids of parts are smaller than the id of the whole.
#[derive(Debug, Clone, PartialEq)]
pub enum Expr {
    /// What the parser could not understand.
    Invalid,
    /// `None`
    None,
    /// `True`, `False`
    Bool(bool),
    /// `...`
    Ellipsis,
    /// `12`; `None` where it does not fit 64 bits.
    Int(Option<i64>),
    /// `1.5`
    Float,
    /// `2j`
    Complex,
    /// `"north"`; the text is kept where it is short.
    Str(Option<Name>),
    /// `b"north"`; kept, with each byte as the character of that number, where it is short.
    Bytes(Option<Name>),
    /// `f"{berth}"` and t-strings: the expressions in it.
    FString(Box<[ExprId]>),
    /// A template string (PEP 750), with what stands in braces.
    TString(Box<[ExprId]>),
    /// `berth`, and the value it has here.
    Name(Name, ValueId),
    /// `vessel.berth`; `place` is its value where the flow knows more than the attribute's own type, else [`ValueId::NONE`].
    Attribute { value: ExprId, name: Name, place: ValueId },
    /// `berths[0]`; `place` as for attributes.
    Subscript { value: ExprId, index: ExprId, place: ValueId },
    /// `1:2:3` inside of a subscript.
    Slice(Box<Slice>),
    /// `assign(vessel, berth=3)`
    Call { callee: ExprId, args: Box<[Arg]> },
    /// `a + b`
    Binary { op: BinaryOp, left: ExprId, right: ExprId },
    /// `-a`
    Unary { op: UnaryOp, operand: ExprId },
    /// `a and b and c`
    BoolOp { and: bool, operands: Box<[ExprId]> },
    /// `a < b <= c`: the first operand, then each operator with its right operand.
    Compare { left: ExprId, rest: Box<[(CompareOp, ExprId)]> },
    /// `a if test else b`; the ways by which each branch is reached say which of them count.
    Conditional { test: ExprId, then: ExprId, otherwise: ExprId },
    /// `lambda x: x + 1`
    Lambda(LambdaId),
    /// `[x for x in xs]` and its kin.
    Comprehension(ComprehensionId),
    /// `[a, b]`
    List(Box<[ExprId]>),
    /// `a, b`
    Tuple(Box<[ExprId]>),
    /// `{a, b}`
    Set(Box<[ExprId]>),
    /// `{a: b, **c}`; a key of `None` is an unpacking.
    Dict(Box<[(Option<ExprId>, ExprId)]>),
    /// `*a`
    Starred(ExprId),
    /// `await a`
    Await(ExprId),
    /// `yield a`
    Yield(Option<ExprId>),
    /// `yield from a`
    YieldFrom(ExprId),
    /// `(a := b)`
    Named { def: DefId, value: ExprId },
}

impl Expr {
    /// Whether everybody sees what it is: a plain literal.
    #[must_use]
    pub fn shows_type(&self) -> bool {
        matches!(
            self,
            Expr::None
                | Expr::Bool(_)
                | Expr::Ellipsis
                | Expr::Int(_)
                | Expr::Float
                | Expr::Complex
                | Expr::Str(_)
                | Expr::Bytes(_)
                | Expr::FString(_)
                | Expr::TString(_)
                | Expr::Lambda(_)
        )
    }
}

/// The parts of `1:2:3`.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub struct Slice {
    pub lower: Option<ExprId>,
    pub upper: Option<ExprId>,
    pub step: Option<ExprId>,
}

// There are some three of them a line of code.
const _: () = assert!(size_of::<Expr>() <= 24);

impl ValueId {
    /// "The flow says nothing about this place."
    pub const NONE: ValueId = ValueId(u32::MAX);
    /// No value at all: the name is not bound here.
    pub const UNBOUND: ValueId = ValueId(0);

    /// The value, unless it is [`ValueId::NONE`].
    #[must_use]
    pub fn known(self) -> Option<ValueId> {
        (self != ValueId::NONE).then_some(self)
    }
}

impl ReachId {
    /// Always reached.
    pub const ALWAYS: ReachId = ReachId(0);
    /// Never reached.
    pub const NEVER: ReachId = ReachId(1);
    /// Not reached, and meant not to be: the code is for another version or platform, or switched off.
    pub const EXCLUDED: ReachId = ReachId(2);

    /// Whether it is known from the text alone that this is not reached.
    #[must_use]
    pub fn is_never(self) -> bool {
        matches!(self, ReachId::NEVER | ReachId::EXCLUDED)
    }
}

/// An argument of a call or an item of a class's bases.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Arg {
    /// How it is given.
    pub kind: ArgKind,
    /// The value.
    pub value: ExprId,
}

/// How an argument is given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ArgKind {
    /// `f(a)`
    Positional,
    /// `f(a=b)`
    Keyword(Name),
    /// `f(*a)`
    Star,
    /// `f(**a)`
    DoubleStar,
}

/// Operators with two operands (comparison apart).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[allow(missing_docs)]
pub enum BinaryOp {
    Add,
    Sub,
    Mul,
    MatMul,
    Div,
    Mod,
    Pow,
    LShift,
    RShift,
    BitOr,
    BitXor,
    BitAnd,
    FloorDiv,
}

/// Operators with one operand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[allow(missing_docs)]
pub enum UnaryOp {
    Not,
    Neg,
    Pos,
    Invert,
}

/// Comparison operators.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[allow(missing_docs)]
pub enum CompareOp {
    Eq,
    NotEq,
    Lt,
    LtE,
    Gt,
    GtE,
    Is,
    IsNot,
    In,
    NotIn,
}

/// A scope: where names live.
#[derive(Debug)]
pub struct Scope {
    /// What opens it.
    pub kind: ScopeKind,
    /// The scope around it; `None` for the module.
    pub parent: Option<ScopeId>,
    /// The names bound in it.
    pub symbols: FxHashMap<Name, Symbol>,
    /// `from m import *` in it, in the order of the text.
    pub stars: Vec<DefId>,
}

/// What opens a scope.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum ScopeKind {
    Module,
    Class(ClassId),
    Function(FunctionId),
    Lambda,
    Comprehension,
    /// The type parameters of a function, class or alias (PEP 695).
    TypeParameters,
}

/// A name bound in a scope.
#[derive(Debug, Default)]
pub struct Symbol {
    /// Where it is bound within the scope's own body, in the order of the text.
    pub defs: SmallVec<[DefId; 1]>,
    /// Where functions bind it by `global` or `nonlocal`.
    pub foreign: Vec<DefId>,
    /// Its value at the end of the scope's body.
    pub exit: Option<ValueId>,
}

/// A `def`.
#[derive(Debug)]
pub struct Function {
    /// Its name.
    pub name: Name,
    /// Where the name stands.
    pub name_range: TextRange,
    /// The whole statement, decorators included.
    pub range: TextRange,
    /// From `def` or `async` on.
    pub def_start: TextSize,
    /// Behind the parenthesis that closes the parameters.
    pub params_end: TextSize,
    /// Its own scope.
    pub scope: ScopeId,
    /// The scope it is defined in.
    pub parent: ScopeId,
    /// The class whose body it is defined in.
    pub class: Option<ClassId>,
    /// Parameters, in the order of the text.
    pub params: Box<[Param]>,
    /// The return annotation.
    pub returns: Option<ExprId>,
    /// Decorators, in the order of the text.
    pub decorators: Box<[ExprId]>,
    /// `async def`
    pub is_async: bool,
    /// Its body.
    pub body: BodyId,
    /// The definition of its name.
    pub def: DefId,
    /// Where its docstring stands, quotes included.
    pub docstring: Option<TextRange>,
    /// What the body consists of, as far as that matters to its callers.
    pub shape: BodyShape,
    /// Type parameters (PEP 695).
    pub type_params: Box<[DefId]>,
}

impl Function {
    /// Whether it has any annotation.
    #[must_use]
    pub fn is_annotated(&self) -> bool {
        self.returns.is_some() || self.params.iter().any(|param| param.annotation.is_some())
    }
}

/// What a function's body consists of, docstring apart.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BodyShape {
    /// Real code.
    Code,
    /// Only `...` or `pass` or nothing.
    Empty,
    /// Only `return` or `return None`.
    ReturnsNone,
    /// Only `raise NotImplementedError`, with or without a call.
    NotImplemented,
}

/// A parameter.
#[derive(Debug, Clone)]
pub struct Param {
    /// Its name.
    pub name: Name,
    /// Where the name stands.
    pub name_range: TextRange,
    /// How arguments reach it.
    pub kind: ParamKind,
    /// Its annotation.
    pub annotation: Option<ExprId>,
    /// Its default.
    pub default: Option<ExprId>,
    /// Its definition in the function's scope.
    pub def: DefId,
}

/// How arguments reach a parameter.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum ParamKind {
    /// By position only (before `/`, or two leading underscores in the manner of PEP 484).
    PositionalOnly,
    /// By position or keyword.
    Normal,
    /// `*args`
    VarArgs,
    /// By keyword only.
    KeywordOnly,
    /// `**kwargs`
    KwArgs,
}

/// A `class`.
#[derive(Debug)]
pub struct Class {
    /// Its name.
    pub name: Name,
    /// Where the name stands.
    pub name_range: TextRange,
    /// The whole statement.
    pub range: TextRange,
    /// Its own scope.
    pub scope: ScopeId,
    /// The scope it is defined in.
    pub parent: ScopeId,
    /// The body it is defined in.
    pub body: BodyId,
    /// Bases and keywords.
    pub args: Box<[Arg]>,
    /// Decorators, in the order of the text.
    pub decorators: Box<[ExprId]>,
    /// The definition of its name.
    pub def: DefId,
    /// Where its docstring stands, quotes included.
    pub docstring: Option<TextRange>,
    /// Names that methods assign on their first parameter, with those assignments in the order of the text.
    pub attributes: FxHashMap<Name, SmallVec<[DefId; 1]>>,
    /// Methods and nested functions' names in the order of the text, for walks that must not depend on hashing.
    pub methods: Vec<FunctionId>,
    /// Type parameters (PEP 695).
    pub type_params: Box<[DefId]>,
    /// Attributes that `__init__` gives something else than None on every way.
    pub set_by_init: FxHashSet<Name>,
    /// Whether methods make attributes whose names cannot be read: by `self.__dict__` or `setattr(self, …)`.
    pub makes_attributes: bool,
    /// Of a metaclass: names that its `__new__` gives other values in the namespaces of the classes that it makes; the empty one where they
    /// cannot be read.
    pub rewrites: FxHashSet<Name>,
    /// How it is written.
    pub form: ClassForm,
}

/// How a class is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ClassForm {
    /// By a `class` statement.
    Statement,
    /// `NamedTuple("Leg", [("port", str)])`
    NamedTuple,
    /// `namedtuple("Leg", "port tide")`
    PlainTuple,
    /// `TypedDict("Fare", {"adult": float})`
    TypedDict,
    /// `Enum("Tide", "HIGH LOW")`
    Enum,
    /// `NewType("Berth", int)`
    NewType,
}

/// A `lambda`.
#[derive(Debug)]
pub struct Lambda {
    /// Parameters.
    pub params: Box<[Param]>,
    /// The result.
    pub body: ExprId,
}

/// Where a lambda stands.
#[derive(Debug, Clone, Copy)]
pub struct Stand {
    /// The whole expression that it is a part of.
    pub root: ExprId,
    /// What that is to be.
    pub kind: StandKind,
}

/// What an expression is to be.
#[derive(Debug, Clone, Copy)]
pub enum StandKind {
    /// What an annotation says.
    Annotation(ExprId),
    /// What a target of an assignment is declared to be.
    Target(ExprId),
    /// What the function declares to give.
    Result,
}

/// A comprehension.
#[derive(Debug)]
pub struct Comprehension {
    /// Which kind.
    pub kind: ComprehensionKind,
    /// The element, or the value of a dict's item.
    pub element: ExprId,
    /// The key of a dict's item.
    pub key: Option<ExprId>,
    /// `for target in iterable`, in order: the iterables.
    pub iterables: Box<[ExprId]>,
    /// The targets, in the same order.
    pub targets: Box<[ExprId]>,
    /// All conditions.
    pub conditions: Box<[ExprId]>,
    /// Whether it awaits.
    pub is_async: bool,
}

/// Kinds of comprehension.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum ComprehensionKind {
    List,
    Set,
    Dict,
    Generator,
}

/// A unit of flow.
#[derive(Debug)]
pub struct Body {
    /// The function whose body it is; `None` for the module.
    pub function: Option<FunctionId>,
    /// The expressions lowered for it.
    pub exprs: Range<u32>,
    /// The definitions that happen in it.
    pub defs: Range<u32>,
    /// Its statements, compound ones as their parts, in the order of the text.
    pub statements: Vec<Statement>,
    /// Where control leaves at the end of the text.
    pub end: ReachId,
    /// Its `return` statements.
    pub returns: Vec<Return>,
    /// Its `yield` and `yield from` expressions; a function that has any is a generator.
    pub yields: Vec<ExprId>,
}

/// A `return` statement.
#[derive(Debug, Clone, Copy)]
pub struct Return {
    /// What is returned.
    pub value: Option<ExprId>,
    /// How it is reached.
    pub reach: ReachId,
    /// Where it stands.
    pub range: TextRange,
}

/// A statement, or one part of a compound statement.
#[derive(Debug)]
pub struct Statement {
    /// What it does.
    pub kind: StatementKind,
    /// How it is reached.
    pub reach: ReachId,
    /// Where it stands; of compound statements, the header.
    pub range: TextRange,
}

/// What a statement does.
#[derive(Debug)]
pub enum StatementKind {
    /// An expression on its own.
    Expr(ExprId),
    /// `a = b = value`
    Assign { targets: SmallVec<[ExprId; 1]>, value: ExprId },
    /// `a: annotation = value`; the class in whose body it stands, if it does.
    Annotated { target: ExprId, annotation: ExprId, value: Option<ExprId>, class: Option<ClassId> },
    /// `a += value`; `target` reads the old value.
    Augmented { target: ExprId, op: BinaryOp, value: ExprId },
    /// The test of `if` and `while`, and guards of cases.
    Test(ExprId),
    /// `for target in iterable`
    For { target: ExprId, iterable: ExprId, is_async: bool },
    /// One item of a `with`.
    With { manager: ExprId, target: Option<ExprId>, is_async: bool },
    /// `return`; an index into [`Body::returns`].
    Return(usize),
    /// `raise`
    Raise { exception: Option<ExprId>, cause: Option<ExprId> },
    /// `assert test, message`
    Assert { test: ExprId, message: Option<ExprId> },
    /// `del a, b`
    Delete(Box<[ExprId]>),
    /// `def`
    Function(FunctionId),
    /// `class`
    Class(ClassId),
    /// Names bound by one `import` or `from … import`.
    Import(Box<[DefId]>),
    /// The subject of a `match`.
    Match(ExprId),
    /// A case's pattern.
    Case(PatternId),
    /// The end of a `match` without a case for everything: its subject, and what is left of it.
    Unmatched { subject: ExprId, rest: ValueId },
    /// A chain of `if` and `elif` without `else`: its tests, and where all of them ask about one place and some branch goes on behind the
    /// chain, that place and what is left of it.
    Chain { tests: Box<[ExprId]>, rest: Option<(ExprId, ValueId)> },
    /// The type of an `except` clause.
    Except(ExprId),
    /// `type A = …`
    TypeAlias(DefId),
}

/// A place where a name or attribute is given a value.
#[derive(Debug)]
pub struct Def {
    /// How.
    pub kind: DefKind,
    /// The name or attribute.
    pub name: Name,
    /// Where the name stands.
    pub range: TextRange,
    /// The body in which this happens.
    pub body: BodyId,
    /// The scope that the name belongs to; for attributes, the scope of the statement.
    pub scope: ScopeId,
    /// How it is reached.
    pub reach: ReachId,
}

/// How a name or attribute is given a value.
#[derive(Debug, Clone, PartialEq)]
pub enum DefKind {
    /// `a = value`, or a part of it.
    Assign { value: ExprId, unpack: Option<Box<[UnpackStep]>>, comment: Option<ExprId> },
    /// `a: annotation` or `a: annotation = value`
    Annotated { annotation: ExprId, value: Option<ExprId> },
    /// `a += value`; `target` reads the old value.
    Augmented { target: ExprId, op: BinaryOp, value: ExprId },
    /// `for a in iterable`, in statements and comprehensions.
    For { iterable: ExprId, unpack: Option<Box<[UnpackStep]>>, is_async: bool },
    /// `with manager as a`
    With { manager: ExprId, unpack: Option<Box<[UnpackStep]>>, is_async: bool },
    /// `except exception as a`
    Except { exception: Option<ExprId>, star: bool },
    /// `import a.b.c` (binds `a`) or `import a.b as c` (binds all of it).
    Import { module: Name, alias: bool },
    /// `from module import name`; `module` with its leading dots as written.
    ImportFrom { module: Name, level: u32, name: Name, alias: bool },
    /// `from module import *`
    Star { module: Name, level: u32 },
    /// `def`
    Function(FunctionId),
    /// `class`
    Class(ClassId),
    /// A parameter, by its 0-based place.
    Param { function: FunctionId, index: u32 },
    /// A parameter of a lambda.
    LambdaParam { lambda: LambdaId, index: u32 },
    /// `(a := value)`
    Named { value: ExprId },
    /// A name captured by a pattern.
    Capture { subject: ExprId, value: ValueId, pattern: PatternId },
    /// A type parameter (PEP 695): its bound or constraints, its default.
    TypeParam { kind: TypeParamKind, bound: Option<ExprId>, default: Option<ExprId> },
    /// `type a = value`
    TypeAlias { value: ExprId },
}

/// Kinds of type parameter.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
#[allow(missing_docs)]
pub enum TypeParamKind {
    TypeVar,
    TypeVarTuple,
    ParamSpec,
}

/// One step from an unpacked value to a part of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct UnpackStep {
    /// Which target, 0-based.
    pub index: u32,
    /// How many targets there are.
    pub count: u32,
    /// Which of the targets is starred.
    pub star: Option<u32>,
}

/// A value.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Value {
    /// None: the name is not bound (yet, or any more).
    Unbound,
    /// A name of the module or the builtins, read from elsewhere.
    Global(Name),
    /// A name of a function around this one, by its value at that function's end.
    Closure { scope: ScopeId, name: Name },
    /// A name of a function around this one, by the value it had where this one is defined, because it is not bound again after.
    Captured { body: BodyId, value: ValueId },
    /// A name in an annotation that is resolved when all is defined, seen from a scope.
    Deferred { scope: ScopeId, name: Name },
    /// What a definition gives.
    Def(DefId),
    /// One of several: a range of [`ModuleIndex::phi_args`].
    Phi { start: u32, len: u32, is_loop: bool },
    /// `of`, where `condition` came out as `positive`; `subject` is the part of the condition that reads it.
    Narrow { of: ValueId, condition: ExprId, subject: ExprId, positive: bool },
    /// `of`, where `pattern` did (or did not) match it.
    Matched { of: ValueId, pattern: PatternId, positive: bool },
    /// The type that the expression (an attribute, a subscript or a look-up) has by itself.
    Natural(ExprId),
    /// The same without None: a method that was just called gave the attribute a value.
    Given(ExprId),
    /// What the expression gave, written to an item.
    Written(ExprId),
    /// What the container of the condition `key in container` holds at that key.
    Item { condition: ExprId },
}

/// What is done only where a condition holds, or does not.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Clause {
    /// The condition.
    pub test: TextRange,
    /// What is done.
    pub body: TextRange,
    /// Whether the condition must hold.
    pub positive: bool,
    /// Where the statement begins whose part it is: that of one `if` with all its `elif`.
    pub statement: TextSize,
    /// Whether nothing comes behind what is done: it ends in `return`, `raise` and the like.
    pub leaves: bool,
}

/// How a place is reached.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reach {
    /// From the body's start, always.
    Always,
    /// Not at all.
    Never,
    /// By `of`, unless the call does not return.
    AfterCall { of: ReachId, call: ExprId },
    /// By `of`, unless nothing is left of the value.
    WhileAny { of: ReachId, value: ValueId },
    /// By `of`, if the context manager swallows exceptions.
    Swallowed { of: ReachId, manager: ExprId, is_async: bool },
    /// By `of`, unless the name that is imported, or the attribute of the module that is, is known to come out otherwise on the
    /// target version and platform.
    Constant { of: ReachId, import: DefId, attribute: Option<Name>, positive: bool },
    /// By one of several: a range of [`ModuleIndex::reach_args`].
    Join { start: u32, len: u32 },
}

/// A pattern.
#[derive(Debug)]
pub struct Pattern {
    /// Its kind.
    pub kind: PatternKind,
    /// Where it stands.
    pub range: TextRange,
}

/// Kinds of pattern (PEP 634).
#[derive(Debug)]
pub enum PatternKind {
    /// `Berth.NORTH`, `3`
    Value(ExprId),
    /// `None`, `True`, `False`
    Singleton(Option<bool>),
    /// `[a, *rest]`; a star has no pattern of its own.
    Sequence { patterns: Box<[PatternId]>, star: Option<u32> },
    /// `{"berth": b}`
    Mapping { keys: Box<[ExprId]>, patterns: Box<[PatternId]> },
    /// `Vessel(name, berth=b)`
    Class { class: ExprId, positional: Box<[PatternId]>, keywords: Box<[(Name, PatternId)]> },
    /// `*rest`
    Star,
    /// `_`, `name`, `pattern as name`
    As { pattern: Option<PatternId> },
    /// `a | b`
    Or(Box<[PatternId]>),
}

/// A container that was created empty and is filled later.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Filled {
    /// A local name, by the assignment that created the container.
    Def(DefId),
    /// An attribute of a class's instances.
    Attribute(ClassId, Name),
    /// A name of the module, filled by functions.
    Global(Name),
}

/// An attribute that is assigned on some object.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct Patch {
    /// The body in which this happens.
    pub body: BodyId,
    /// The object.
    pub object: ExprId,
}

/// One thing put into a container.
#[derive(Debug, Clone, Copy)]
pub struct Fill {
    /// How.
    pub kind: FillKind,
    /// The body in which this happens.
    pub body: BodyId,
    /// The value.
    pub value: ExprId,
}

/// How something is put into a container.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FillKind {
    /// `a.append(value)`, `a.add(value)`
    Element,
    /// `a.extend(value)`, `a.update(value)`, `a += value`
    All,
    /// `a[key] = value`
    Item { key: ExprId },
    /// `a[start:stop] = value`
    Slice,
    /// `a[key][inner] = value`, `a[key].append(value)`: into what it holds.
    Inner,
}

impl ModuleIndex {
    /// The phi's arguments.
    #[must_use]
    pub fn phi(&self, start: u32, len: u32) -> &[(ReachId, ValueId)] {
        &self.phi_args[start as usize..(start + len) as usize]
    }

    /// What a join joins.
    #[must_use]
    pub fn joined(&self, start: u32, len: u32) -> &[ReachId] {
        &self.reach_args[start as usize..(start + len) as usize]
    }

    /// All expressions with where they stand.
    pub fn spans_iter(&self) -> impl Iterator<Item = (ExprId, TextRange)> {
        self.spans.iter().map(|(expr, span)| (expr, *span))
    }

    /// The name of a decorator without arguments: `final` of `@final` and of `@typing.final`.
    #[must_use]
    pub fn decorator_name(&self, decorator: ExprId) -> Option<Name> {
        match self.exprs[decorator] {
            Expr::Name(name, _) | Expr::Attribute { name, .. } => Some(name),
            _ => None,
        }
    }

    /// The value below all narrowings.
    #[must_use]
    pub fn unnarrowed(&self, value: ValueId) -> ValueId {
        match self.values[value] {
            Value::Narrow { .. } | Value::Matched { .. } | Value::Phi { .. } => {
                self.roots.get(&value).copied().unwrap_or(value)
            }
            _ => value,
        }
    }

    /// Makes a value that is another one with more known of it.
    pub fn narrowing(&mut self, value: Value) -> ValueId {
        let (Value::Narrow { of, .. } | Value::Matched { of, .. }) = value else { return self.values.push(value) };
        let root = self.unnarrowed(of);
        let id = self.values.push(value);
        self.roots.insert(id, root);
        id
    }
}
