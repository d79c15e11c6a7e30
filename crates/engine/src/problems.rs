//! What inference reports: plain data, in no words.

use leitmotiv_index::tree::{BinaryOp, ClassId, CompareOp, ExprId, FunctionId, UnaryOp};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;

use crate::base::file::File;
use crate::outline::Site;
use crate::types::{CauseId, ClassRef, FunctionRef, SpecialForm, Type, VarId};

/// Something that was found wrong, or worth saying.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Problem {
    /// Where, in bytes.
    pub range: TextRange,
    /// The expression concerned, from which evidence starts.
    pub expr: Option<ExprId>,
    /// What.
    pub kind: ProblemKind,
}

/// An operator as it is written.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Operator {
    /// `a + b`, or `a += b`.
    Binary(BinaryOp, bool),
    /// `a < b`
    Compare(CompareOp),
    /// `-a`
    Unary(UnaryOp),
}

impl ProblemKind {
    /// Whether it is a call whose arguments do not fit.
    #[must_use]
    pub fn is_of_arguments(&self) -> bool {
        matches!(
            self,
            ProblemKind::CallMissing { .. }
                | ProblemKind::CallSurplus { .. }
                | ProblemKind::CallKeyword { .. }
                | ProblemKind::CallOverload { .. }
                | ProblemKind::CallArgument { .. }
                | ProblemKind::NoneArgument { .. }
        )
    }

    /// Whether it is the use of something that may be None.
    #[must_use]
    pub fn is_of_none(&self) -> bool {
        matches!(
            self,
            ProblemKind::NoneMember { .. }
                | ProblemKind::NoneOperand { .. }
                | ProblemKind::NoneCall { .. }
                | ProblemKind::NoneIteration { .. }
                | ProblemKind::NoneIndex { .. }
                | ProblemKind::NoneArgument { .. }
        )
    }
}

impl Operator {
    /// The operator as it is written.
    #[must_use]
    pub fn sign(self) -> String {
        match self {
            Operator::Binary(op, in_place) => {
                let sign = match op {
                    BinaryOp::Add => "+",
                    BinaryOp::Sub => "-",
                    BinaryOp::Mul => "*",
                    BinaryOp::MatMul => "@",
                    BinaryOp::Div => "/",
                    BinaryOp::Mod => "%",
                    BinaryOp::Pow => "**",
                    BinaryOp::LShift => "<<",
                    BinaryOp::RShift => ">>",
                    BinaryOp::BitOr => "|",
                    BinaryOp::BitXor => "^",
                    BinaryOp::BitAnd => "&",
                    BinaryOp::FloorDiv => "//",
                };
                if in_place { format!("{sign}=") } else { sign.to_owned() }
            }
            Operator::Compare(op) => match op {
                CompareOp::Eq => "==",
                CompareOp::NotEq => "!=",
                CompareOp::Lt => "<",
                CompareOp::LtE => "<=",
                CompareOp::Gt => ">",
                CompareOp::GtE => ">=",
                CompareOp::Is => "is",
                CompareOp::IsNot => "is not",
                CompareOp::In => "in",
                CompareOp::NotIn => "not in",
            }
            .to_owned(),
            Operator::Unary(op) => match op {
                UnaryOp::Not => "not",
                UnaryOp::Neg => "-",
                UnaryOp::Pos => "+",
                UnaryOp::Invert => "~",
            }
            .to_owned(),
        }
    }
}

/// Kinds of problem. Each is worded by exactly one rule.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum ProblemKind {
    /// The text is not Python.
    Syntax { message: String },
    /// The text is Python, but of a later version than the project's.
    SyntaxNewer { what: &'static str, since: (u8, u8), version: (u8, u8) },
    /// `import ferri`
    ImportUnresolved { module: Name, near: Option<String> },
    /// `import tidelib`, which has no types.
    ImportUntyped { module: Name },
    /// `import queue`, where the project has a `queue.py`.
    ImportShadowed { module: Name, file: File },
    /// `from ferry import Vesel`
    ImportName { module: Name, file: Option<crate::base::file::File>, name: Name, near: Option<String> },
    /// `vesel`
    NameUndefined { name: Name, near: Option<String> },
    /// `assign()` where a vessel is needed.
    CallMissing { callee: Callee, params: Vec<Name> },
    /// `assign(a, b, c)` where two are taken: how many are taken by position, how many are given.
    CallSurplus { callee: Callee, taken: usize, given: usize },
    /// `assign(a, bert=b)`
    CallKeyword { callee: Callee, name: Name, near: Option<String> },
    /// A call that none of several signatures takes.
    CallOverload { callee: Callee, forms: Vec<Form> },
    /// `assign("three")` where a number is taken.
    CallArgument { callee: Callee, param: Name, place: u32, expected: Type, given: Type },
    /// `vessel.bert`
    MemberAbsent { object: Type, name: Name, near: Option<String>, rest: Option<Type> },
    /// `vessel.berth.number` where the berth may be None.
    NoneMember { object: Type, name: Name },
    /// `price + extra` where the extra may be None: the operand, and the operator.
    NoneOperand { holder: ExprId, object: Type, operator: Operator },
    /// `on_arrival()` where it may be None.
    NoneCall { object: Type },
    /// `for stop in stops` where the stops may be None.
    NoneIteration { object: Type },
    /// `stops[0]` where the stops may be None.
    NoneIndex { object: Type },
    /// `assign(vessel)` where the vessel may be None, and nothing else is wrong with it.
    NoneArgument { callee: Callee, param: Name, place: u32, expected: Type, object: Type },
    /// `3()`
    CallNotCallable { object: Type },
    /// `vessel[0]`: read, written or deleted
    IndexUnsupported { object: Type, access: Access },
    /// `-> int` with an end that no `return` leads to.
    MissingReturn { declared: Type, function: FunctionId },
    /// `-> list[int]` where a method of the class is called `list`.
    NameShadowed { name: Name, at: Site },
    /// A name that is read where nothing has been bound to it on any way, or not on every way.
    NameUnbound { name: Name, always: bool },
    /// A value is used as what it cannot be.
    Unusable { object: Type, why: Unusable },
    /// A text is formatted with values that do not go with it.
    Format { why: BadFormat },
    /// A special method gives something that the interpreter does not take.
    SpecialResult { method: String, gives: Type, wanted: Type },
    /// What is unbound or None only where two conditions do not go together: the problem, and where a value is given under the
    /// other condition.
    Correlated { kind: Box<ProblemKind>, given: Site, is_later: bool },
    /// `assign(3, berth=4)` where the first is the berth.
    CallRepeated { callee: Callee, param: Name },
    /// `fare["chidl"]` of a typed dictionary.
    KeyAbsent { object: Type, key: Name, near: Option<String> },
    /// `legs[2]` of a tuple of two.
    IndexRange { object: Type, at: i64 },
    /// `def assign(berth: int = "three")`
    ValueDefault { declared: Type, given: Type, name: Name, annotation: TextRange },
    /// `if vessel.is_full:` where that is a method.
    OperatorCondition { object: Type },
    /// `depart()` of a coroutine, without `await`.
    CallUnawaited { object: Type },
    /// `Vessel()` of a class with abstract methods.
    ClassAbstract { class: Type, missing: Vec<Name>, at: Site },
    /// Branches over a closed set that leave some of it out.
    IncompleteMatch { rest: Type },
    /// A member that cannot stand in for that of a base: both as they are shown, and where the base's is.
    ClassOverride { own: String, hidden: Option<Hidden>, why: Clash },
    /// Another problem, with the reason why something does not fit.
    Explained { inner: Box<ProblemKind>, reason: Reason },
    /// Signatures of an overloaded function that do not go together; the other one concerned.
    Overloads { name: Name, why: BadOverload, at: Option<TextRange> },
    /// `assert_never(x)` where something is left of `x`.
    AssertNever { given: Type },
    /// `fares[3]` of a `dict[str, int]`
    IndexKey { object: Type, expected: Type, given: Type },
    /// `fare[key]` of a typed dictionary, where the key may be any text.
    KeyOpen { object: Type, given: Type },
    /// `# type: ignore` without saying what it hides.
    SuppressionBlanket,
    /// A suppression without a reason: what it is called.
    SuppressionUnreasoned { what: &'static str },
    /// `yield "three"` from `-> Iterator[int]`
    ValueYield { declared: Type, given: Type, function: FunctionId },
    /// `fares["child"] = "three"` of a `dict[str, int]`; whether it is the key that does not fit.
    ValueItem { object: Type, expected: Type, given: Type, is_key: bool },
    /// `vessel.length = 3` where that is a property.
    MemberReadonly { object: Type, name: Name, why: Fixed, at: Site, is_deleted: bool },
    /// `vessel.bert = 3` where no class declares that.
    MemberUndeclared { object: Type, name: Name, near: Option<String> },
    /// Something final is changed.
    ClassFinal { what: Ended, at: Site },
    /// `class Vessel(3)`
    ClassBase { base: Type, why: BadBase },
    /// Bases that no order of resolution goes with.
    ClassOrder { bases: Vec<Type> },
    /// A field that the class cannot have like this.
    ClassField { name: Name, why: BadField, at: Option<Site> },
    /// Code behind a `return`.
    Unreachable { after: Option<TextRange> },
    /// `count: int = "three"`
    ValueAssign { declared: Type, given: Type, name: Name, def: Option<Site> },
    /// `return "three"` from `-> int`
    ValueReturn { declared: Type, given: Type, function: FunctionId },
    /// `"three" + 1`
    OperatorUnsupported { operator: Operator, left: Type, right: Option<Type> },
    /// `def assign(vessel):` where annotations are demanded.
    AnnotationMissing { function: FunctionId, params: Vec<Name>, returns: bool },
    /// `x: Any` where that is not to be written.
    AnnotationAny,
    /// `x: list` where arguments are demanded.
    GenericBare,
    /// `assign(vessel)` of a function without any annotation, where annotated code is to call none.
    CallUnannotated { function: FunctionRef },
    /// What is unknown in a body for one reason: the reason, how many expressions are unknown by it, where the first of them stands.
    UnknownValue { cause: CauseId, uses: usize },
    /// `self.berth = 3` in a method, where attributes are to be there from the beginning.
    AttributeLate { class: ClassId, name: Name },
    /// A method that stands in for another and is not marked so: the class that has the other one, and where.
    OverrideUnmarked { function: FunctionId, owner: ClassRef, at: Site },
    /// `x: list[str, int]`, `x: dict[str]`
    GenericArguments { class: ClassRef, takes: usize, given: usize },
    /// The same of an alias: what it is called where it is used.
    AliasArguments { name: Name, takes: usize, given: usize },
    /// `Row[str]` where `Row` is generic in a variable that must be a number.
    GenericBound { var: VarId, given: Type },
    /// A type variable where nothing is generic in it.
    GenericScope { var: VarId, why: BadScope },
    /// A variable that a class says it only gives, or only takes, where it takes it, or gives it.
    GenericVariance { var: VarId, taken: bool },
    /// A variable that is covariant or contravariant as an argument of a base that is not.
    BaseVariance { var: VarId, base: ClassRef },
    /// `T = TypeVar("S")`
    GenericDefinition { why: BadDefinition },
    /// A type variable in a function's result and none of its parameters.
    GenericResult { var: VarId },
    /// The use of what somebody marked as deprecated, and what the mark says.
    Deprecated { what: Type, message: String },
    /// `x: 3`
    AnnotationInvalid { reason: String },
    /// `x: Optional[int, str]`
    AnnotationForm { why: BadForm },
    /// `def berth(self) -> ClassVar[int]`
    AnnotationPlace { why: BadPlace },
    /// `reveal_type(x)`
    RevealType { ty: Type },
    /// `assert_type(x, int)` where it is a str.
    AssertType { expected: Type, given: Type },
    /// `# type: ignore` where nothing is wrong.
    SuppressionUnused { what: String },
    /// A fault of the program itself.
    Fault { message: String },
}

/// What is wrong with a form's arguments.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BadForm {
    /// It says nothing without arguments.
    Bare(SpecialForm),
    /// It takes one argument, and has so many.
    One(SpecialForm, usize),
    /// `Annotated` has nothing but a type.
    Annotated,
    /// `Callable` does not have a list and a result.
    Callable,
    /// `Concatenate` does not end in parameters.
    Concatenate,
    /// `Literal` has something that is none.
    Literal,
    /// Dots stand where they do not mean "any number".
    Dots,
    /// Two parts of one tuple are of any length.
    TwoOpen,
    /// What is unpacked is no tuple.
    Unpacked,
    /// `int or None`
    Choice,
    /// It takes no arguments.
    NoArguments(SpecialForm),
    /// A key of the typed dictionary that `**` unpacks is a parameter as well.
    Twice(Name),
    /// What `**` unpacks is no typed dictionary.
    NoItems(Type),
    /// A quoted part beside `|`, which fails as it is evaluated.
    QuotedPart,
    /// `TypeIs` names what is not within its parameter's type: the type that is named, and the parameter's.
    Apart(Type, Type),
}

/// Why a form cannot stand where it does.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BadPlace {
    /// It says something of a variable, and of another kind of variable.
    Qualifier(SpecialForm),
    /// It is only a base of classes.
    Base(SpecialForm),
    /// `TypeAlias` stands by no variable of a module or class.
    Alias,
    /// `Self` outside of a class.
    SelfOutside,
    /// `Self` in a static method.
    SelfStatic,
    /// `Self` in a metaclass.
    SelfMeta,
    /// `Self` among the bases of a class.
    SelfBase,
    /// Parameters stand where a type is expected.
    Parameters,
    /// `P.args` and `P.kwargs` that do not stand together.
    Pair,
    /// A variable for several types that is not unpacked.
    Packed,
    /// Something is unpacked where one type is expected.
    Star,
    /// `ClassVar` holds a type variable.
    ClassVarOpen(VarId),
    /// `Self` beside a first parameter that is annotated.
    SelfAnnotated,
    /// `TypeGuard` or `TypeIs` of a function without a parameter to tell of.
    Guard(SpecialForm),
}

/// Why a type variable means nothing where it stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BadScope {
    /// Neither a function nor a class around is generic in it.
    Unbound,
    /// The class around is generic in it as well.
    Outer(ClassRef),
}

/// What is wrong with the definition of a type variable, or with a list of them.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BadDefinition {
    /// It says another name than it is bound to.
    Name {
        /// What it is bound to.
        bound: Name,
        /// What it says.
        written: Name,
    },
    /// It has a single constraint.
    OneConstraint,
    /// It has a bound and constraints.
    Both,
    /// It is covariant and contravariant.
    BothVariances,
    /// What it is limited to depends on another variable.
    Open(VarId),
    /// Its default does not fit what it is limited to.
    Default(Type, Type),
    /// Something else stands in the list.
    NotVariable,
    /// A variable stands in the list twice.
    Twice(VarId),
    /// The first has no default and stands behind the second, which has one.
    Order(VarId, VarId),
    /// A base is generic in it, and the list does not have it.
    Unlisted(VarId),
    /// Two of the list stand for several types.
    TwoOpen(VarId, VarId),
    /// A base lists variables beside a list in brackets.
    Listed(SpecialForm),
    /// It is made by a call, and used beside a list in brackets.
    Mixed(VarId),
}

/// Why a type does not fit.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Reason {
    /// A container's elements must be just the same, as others may be put in: the class, what is held, what is asked for.
    Invariant { class: ClassRef, have: Type, want: Type },
    /// A protocol asks for a member that is not there, or is otherwise.
    Protocol { class: ClassRef, member: Name, clash: Option<Box<Clash>> },
}

/// As what a value cannot be used.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Unusable {
    /// It is iterated; whether by `async for`, and whether the other kind of loop would do.
    NotIterable { is_async: bool, other: bool },
    /// It is unpacked into another number of names than it has values.
    Unpacked { given: usize, wanted: usize, has_star: bool },
    /// It is entered; whether by `async with`, which method it lacks, and whether the other kind of statement would do.
    NotManager { is_async: bool, lacks: Name, other: bool },
    /// It is awaited.
    NotAwaitable,
    /// It is unpacked by `**` in a call: it is no mapping, or one with these keys, which are no names.
    NotMapping { key: Option<Type> },
    /// It is raised or caught.
    NotException { is_caught: bool },
    /// It is a key, or an element of a set.
    NotHashable,
    /// `isinstance` or `issubclass` is asked about it.
    NotClass { function: Name, why: NotClass },
}

/// Why `isinstance` cannot be asked about something.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum NotClass {
    /// It is a value and no class.
    Value,
    /// A class with arguments.
    Arguments,
    /// A `NewType`.
    NewType,
    /// A `type` statement's name.
    Alias,
    /// A typed dictionary.
    TypedDict,
    /// A protocol without `@runtime_checkable`.
    Unmarked,
    /// A protocol with this attribute, where subclasses are asked about.
    Data(Name),
}

/// What is done with an item.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Access {
    /// It is read.
    Read,
    /// It is assigned.
    Write,
    /// It is deleted.
    Delete,
}

/// Why a text and the values that it is formatted with do not go together.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum BadFormat {
    /// It takes so many, and so many are given.
    Count { wanted: usize, given: usize },
    /// It takes a value by this name or number, which is not given.
    Name(String),
    /// It takes values by name, and what is given is no mapping.
    NotMapping(Type),
    /// A conversion, what it takes in words, and what it is given.
    Value { code: String, wanted: &'static str, given: Type },
}

/// The member of a base that another one hides.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Hidden {
    /// As messages show it.
    pub shown: String,
    /// Where it is defined.
    pub at: Site,
}

/// Why a member cannot stand in for that of a base.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Clash {
    /// It is marked as standing in for one, and there is none.
    Alone,
    /// It is another kind of thing: the base's, its own.
    Kind(&'static str, &'static str),
    /// No signature of its own goes with that one of the base (0-based).
    Signature(usize),
    /// An attribute holds something else: what the base's holds, what it holds.
    Holds(Type, Type),
    /// It does not take a parameter that the base's takes.
    Lacks(Name),
    /// A parameter that callers may name is called otherwise: the base's name, its own.
    Renames(Name, Name),
    /// It takes so many arguments at most, and gets so many.
    Count {
        /// How many it takes by position.
        taken: usize,
        /// How many it gets.
        given: usize,
    },
    /// It asks for a parameter that the base's does not have.
    Asks(Name),
    /// It takes less than the base's: the parameter, what the base's takes, what it takes.
    Takes(Name, Type, Type),
    /// It gives something else: what the base's gives, what it gives.
    Gives(Type, Type),
    /// It can only be read, where it may be assigned in the other.
    Reads,
    /// It holds less than may be assigned to the other's: what that holds, what it holds.
    Within(Type, Type),
}

impl Clash {
    /// Whether only names of parameters differ.
    #[must_use]
    pub fn is_of_names(&self) -> bool {
        matches!(self, Clash::Renames(..))
    }
}

/// Why signatures of an overloaded function do not go together.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum BadOverload {
    /// There is but one.
    Single,
    /// No definition follows them.
    Undefined,
    /// The definition does not take what one takes.
    Refused,
    /// The definition gives something else: what the signature says, what the definition says.
    Result(Type, Type),
    /// One above takes all that it takes.
    Hidden,
    /// One below takes all that it takes, and gives something else: what it gives, what that one gives.
    Overlap(Type, Type),
    /// Some take the object, the class or nothing first, and others something else.
    Binding,
}

/// What is called.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Callee {
    /// Its name as messages show it.
    pub shown: String,
    /// Where it is defined, if that can be pointed at.
    pub at: Option<Site>,
    /// The definition of the parameter concerned.
    pub param: Option<Site>,
}

/// One of several signatures, and why it does not take a call's arguments.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Form {
    /// Where it is declared, if that can be pointed at.
    pub at: Option<Site>,
    /// Why it does not take them.
    pub why: Mismatch,
}

/// Why a signature does not take a call's arguments.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Mismatch {
    /// Parameters get nothing.
    Missing(Vec<Name>),
    /// More is given by position than is taken.
    Surplus {
        /// How many are taken.
        taken: usize,
        /// How many are given.
        given: usize,
    },
    /// There is no parameter of that name; the nearest that there is.
    Keyword(Name, Option<String>),
    /// A parameter gets a value twice.
    Repeated(Name),
    /// An argument does not fit.
    Argument {
        /// The parameter.
        name: Name,
        /// Which argument it is, from 0.
        place: u32,
        /// What is taken.
        expected: Type,
        /// What is given.
        given: Type,
    },
}

/// Why an attribute cannot be assigned.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fixed {
    /// It is a property that nothing sets.
    Property,
    /// It is a property that nothing deletes.
    Kept,
    /// It is a field of a frozen dataclass.
    Frozen,
    /// It is a field of a named tuple.
    Tuple,
    /// It is declared as final.
    Final,
    /// It is a member of an enumeration.
    Member,
    /// It is a variable of the class.
    ClassVariable,
    /// It is an item of a typed dictionary that is only read.
    Item,
    /// It is an item that a typed dictionary must have; it was to be deleted.
    Required,
}

/// What is marked as final, and changed all the same.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Ended {
    /// A class, by deriving from it.
    Class(Type),
    /// A method, by overriding it.
    Method(FunctionRef),
    /// A name or an attribute, by giving it another value.
    Name(Name),
    /// A name or an attribute that never gets a value.
    Unset(Name),
    /// An attribute, declared by a method that is not `__init__`.
    Late(Name),
    /// A function that is no method, which nothing could override.
    Function(Name),
}

/// What is wrong with a base.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BadBase {
    /// It is no class.
    NotClass,
    /// It stands there twice.
    Repeated,
    /// Nothing can derive from it.
    Closed,
    /// It is an enumeration that has members.
    Members,
    /// It is made by `NewType`.
    NewType,
    /// `NewType` is made of it, and it is no class that objects are made of.
    NotBelow,
    /// It is a `type` statement's alias.
    Alias,
    /// Its metaclass and that of another base do not go together.
    Metaclass,
    /// It is no protocol, and a protocol derives from it.
    NotProtocol,
    /// It is a dataclass that is not frozen, and the class is, or the other way round: whether the base is frozen.
    Frozen(bool),
    /// Named tuples and typed dictionaries take no such base.
    Beside(&'static str),
}

/// What is wrong with a field.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum BadField {
    /// It has no default, and one before it has.
    Order(Name),
    /// Its default is a container that all instances would share.
    Shared,
    /// `__post_init__` does not take it.
    NotPassed,
    /// `__post_init__` takes something else: what the field is, what it takes.
    PassedAs(Type, Type),
    /// `__post_init__` asks for it, and no field passes it on.
    Asked,
    /// It is a method, or has a value, in a typed dictionary.
    NoItem,
    /// A base's item of that name holds something else: what that holds, what it holds.
    Retyped(Type, Type),
    /// A base's item of that name must be there, and it need not; or the other way round, where others may take it away.
    Presence {
        /// Whether the base's must be there.
        required: bool,
    },
    /// A base's item of that name may be changed, and it is only read.
    ReadOnly,
    /// Two bases have items of that name that differ.
    Differs(ClassRef, ClassRef),
    /// The comparison is made by `order=True`, and written as well.
    Ordered,
    /// A second mark from where on fields are by keyword only.
    SecondMark,
    /// A named tuple's field begins with an underscore.
    Underscore,
    /// A member of an enumeration is annotated.
    AnnotatedMember,
}
