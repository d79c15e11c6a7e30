//! What a type is.
//!
//! A [`Type`] is a small `Copy` handle; what it stands for lies in the [`store::Store`]. Properties:
//!
//! 1. Equal handles mean equal types; most questions are answered without looking into the store.
//! 2. Unions are flat, hold no type twice, keep the order of first appearance (what a file concludes for
//!    others is put in one order, see [`mod@canonical`]), and hold at most one unknown.
//! 3. [`Type::Unknown`] spreads like `Any` but keeps its cause; [`Type::Any`] was written by someone.

pub mod canonical;
pub mod display;
pub(crate) mod folded;
pub mod store;
pub mod substitute;
pub mod union;

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ClassId, FunctionId, ParamKind};
use leitmotiv_syntax::names::Name;
use serde::{Deserialize, Serialize};

use crate::base::file::File;

macro_rules! handles {
    ($($(#[$doc:meta])* $name:ident;)*) => {$(
        $(#[$doc])*
        #[derive(Clone, Copy, PartialEq, Eq, Hash)]
        pub struct $name(pub(crate) u32);
    )*};
}

handles! {
    /// An [`Instance`].
    InstanceId;
    /// A [`Tuple`].
    TupleId;
    /// A [`Literal`].
    LiteralId;
    /// A [`FunctionRef`].
    FunctionTypeId;
    /// A [`Method`].
    MethodId;
    /// A [`Signature`].
    SignatureId;
    /// The parts of a union.
    UnionId;
    /// A [`TypeVariable`].
    VarId;
    /// A [`Cause`].
    CauseId;
    /// A type on its own, where a handle to one is needed.
    TypeId;
}

/// A type.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum Type {
    /// `Never`: no value at all.
    Never,
    /// `Any`, as written.
    Any,
    /// Cannot be told, for a cause.
    Unknown(CauseId),
    /// `None`
    None,
    /// `Vessel`, `list[int]`
    Instance(InstanceId),
    /// `tuple[int, str]`, `tuple[int, ...]`
    Tuple(TupleId),
    /// `Literal[3]`, `Literal["north"]`, `Literal[Berth.NORTH]`
    Literal(LiteralId),
    /// The class `Vessel` itself, as a value.
    Class(InstanceId),
    /// `type[Vessel]`: it or a class derived from it.
    SubclassOf(TypeId),
    /// A function made by `def`.
    Function(FunctionTypeId),
    /// A function with its first argument given.
    Method(MethodId),
    /// `Callable[[int], str]`, a lambda
    Callable(SignatureId),
    /// A property, as found in a class.
    Property(FunctionTypeId),
    /// A module.
    Module(File),
    /// A namespace package, or a package known only by its submodules.
    Namespace(Name),
    /// `int | None`
    Union(UnionId),
    /// A type variable.
    Var(VarId),
    /// A special form as a value, such as `typing.Optional`.
    Special(SpecialForm),
    /// A type as a value, as in `Alias = int | None`.
    Form(TypeId),
    /// `super()`: lookup goes on behind a class in the receiver's order of resolution.
    Super(MethodId),
}

const _: () = assert!(size_of::<Type>() <= 12);

/// A class: where it is defined.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct ClassRef {
    /// The file.
    pub file: File,
    /// Its number in there.
    pub class: ClassId,
}

/// A class with arguments for its type parameters.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct Instance {
    /// The class.
    pub class: ClassRef,
    /// As many as the class has parameters, or none.
    pub args: Box<[Type]>,
}

/// A tuple's shape.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct Tuple {
    /// Elements before the part of unknown length.
    pub prefix: Box<[Type]>,
    /// The elements of the part of unknown length, if there is one.
    pub rest: Option<Type>,
    /// Elements behind it.
    pub suffix: Box<[Type]>,
}

impl Tuple {
    /// Whether nothing is known of it, neither how many elements it has nor what they are.
    #[must_use]
    pub fn is_anything(&self) -> bool {
        self.prefix.is_empty() && self.suffix.is_empty() && self.rest.is_some_and(Type::is_dynamic)
    }
}

/// A literal's value.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum Literal {
    /// `3`
    Int(i64),
    /// `True`
    Bool(bool),
    /// `"north"`
    Str(Name),
    /// `b"north"`, each byte as the character of that number.
    Bytes(Name),
    /// `Berth.NORTH`
    Enum(ClassRef, Name),
}

/// How a function in a class takes its first argument.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum Binding {
    /// The instance it is looked up on.
    Instance,
    /// The class.
    Class,
    /// None.
    Static,
}

/// A function made by `def`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct FunctionRef {
    /// The file.
    pub file: File,
    /// Its number in there; of overloads, the last.
    pub function: FunctionId,
    /// How it binds when it is looked up on an object.
    pub binding: Binding,
    /// The class it was found in, with its arguments.
    pub owner: Option<InstanceId>,
}

/// A function with its first argument given; for [`Type::Super`], where the lookup begins.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct Method {
    /// The function; for `super()`, the class behind which lookup begins as its owner.
    pub function: Type,
    /// The first argument.
    pub receiver: Type,
}

/// What a callable takes and gives.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct Signature {
    /// Parameters, in order.
    pub params: Box<[SignatureParam]>,
    /// What a call gives.
    pub returns: Type,
}

/// A parameter of a signature.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct SignatureParam {
    /// Its name; of `Callable[[int], str]`, empty.
    pub name: Name,
    /// How arguments reach it.
    pub kind: ParamKind,
    /// What it accepts.
    pub ty: Type,
    /// Whether it may be left out.
    pub optional: bool,
}

impl SignatureParam {
    /// A parameter that must be given, and by position.
    #[must_use]
    pub fn placed(ty: Type) -> SignatureParam {
        let name = leitmotiv_syntax::names::known::EMPTY;
        SignatureParam { name, kind: ParamKind::PositionalOnly, ty, optional: false }
    }
}

/// A type variable (PEP 484, PEP 695), a parameter specification, or `Self`.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct TypeVariable {
    /// Its name.
    pub name: Name,
    /// Where it is defined, which tells variables of one name apart.
    pub file: File,
    /// Where in there; of `Self`, and of what the engine makes up, the module as a whole.
    pub at: Anchor,
    /// What it is.
    pub kind: VarKind,
    /// How containers over it relate.
    pub variance: Variance,
    /// What says what it is limited to ([`crate::definitions::type_variables::limits`]).
    pub origin: VarOrigin,
}

/// What says what a type variable is limited to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum VarOrigin {
    /// Its definition, at [`TypeVariable::at`].
    Definition,
    /// It is `Self`, or made up by the engine, with this bound.
    Own(Option<Type>),
}

/// Kinds of type variable.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum VarKind {
    /// `T`
    Type,
    /// `*Ts`
    Tuple,
    /// `**P`
    Params,
    /// `Self` (PEP 673)
    SelfType,
    /// The name of a recursive alias within itself: no variable that anything could stand for, but what the alias says, which is its bound
    /// (typing specification, "Type aliases").
    Alias,
}

/// How `C[A]` relates to `C[B]` where `A` fits `B`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum Variance {
    /// Only where both are the same.
    Invariant,
    /// It fits as well.
    Covariant,
    /// The other way round.
    Contravariant,
    /// As the class uses it ([`crate::definitions::variance::of`]).
    Inferred,
}

/// Why a type cannot be told.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub struct Cause {
    /// What kind of reason.
    pub kind: CauseKind,
    /// Where.
    pub file: File,
    /// Where in there.
    pub at: Anchor,
    /// The name concerned.
    pub name: Name,
}

/// Kinds of reasons why a type cannot be told.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum CauseKind {
    /// A parameter without annotation.
    Parameter,
    /// A module that cannot be found.
    UnresolvedImport,
    /// A module without types, whose value could not be inferred either.
    UntypedImport,
    /// A name that is not defined, or not in that module.
    Undefined,
    /// The value depends on itself.
    Cycle,
    /// An attribute or class that is made while the program runs.
    Dynamic,
    /// A base class that is unknown.
    Base,
    /// A decorator whose result cannot be told.
    Decorator,
    /// A container that is created empty and never seen filled.
    Empty,
    /// A generic class without its arguments.
    Bare,
    /// A type variable that no argument says anything about.
    Unsolved,
    /// An error that is reported where it happens.
    Reported,
    /// A form of the language or the typing specification that is not understood yet.
    Unsupported,
}

impl CauseKind {
    /// The kind in words, as in "unknown because of …".
    #[must_use]
    pub fn words(self) -> &'static str {
        match self {
            CauseKind::Parameter => "a parameter without annotation",
            CauseKind::UnresolvedImport => "an import that cannot be found",
            CauseKind::UntypedImport => "a module without types",
            CauseKind::Undefined => "a name that is not defined",
            CauseKind::Cycle => "a value that depends on itself",
            CauseKind::Dynamic => "what only shows when the program runs",
            CauseKind::Base => "a base class that is unknown",
            CauseKind::Decorator => "a decorator whose result is unknown",
            CauseKind::Empty => "a container that is never seen filled",
            CauseKind::Bare => "a generic class without arguments",
            CauseKind::Unsolved => "a type variable that no argument says anything about",
            CauseKind::Reported => "what a finding was reported for",
            CauseKind::Unsupported => "a form that is not understood yet",
        }
    }
}

/// The special forms of the typing module, and functions that the engine must know by identity.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[allow(missing_docs)]
pub enum SpecialForm {
    Any,
    NoReturn,
    Never,
    SelfType,
    LiteralString,
    Union,
    Optional,
    Callable,
    Type,
    Tuple,
    Generic,
    Protocol,
    ClassVar,
    Final,
    Literal,
    TypedDict,
    Annotated,
    TypeAlias,
    TypeGuard,
    TypeIs,
    Concatenate,
    Unpack,
    Required,
    NotRequired,
    ReadOnly,
    /// `typing.DefaultDict` and its kin: the name of the class in `collections`.
    DefaultDict,
    OrderedDict,
    Counter,
    ChainMap,
    Deque,
    TypeForm,
}

impl SpecialForm {
    /// The form by its name in `typing`.
    #[must_use]
    pub fn by_name(name: &str) -> Option<SpecialForm> {
        Some(match name {
            "Any" => SpecialForm::Any,
            "NoReturn" => SpecialForm::NoReturn,
            "Never" => SpecialForm::Never,
            "Self" => SpecialForm::SelfType,
            "LiteralString" => SpecialForm::LiteralString,
            "Union" => SpecialForm::Union,
            "Optional" => SpecialForm::Optional,
            "Callable" => SpecialForm::Callable,
            "Type" => SpecialForm::Type,
            "Tuple" => SpecialForm::Tuple,
            "Generic" => SpecialForm::Generic,
            "Protocol" => SpecialForm::Protocol,
            "ClassVar" => SpecialForm::ClassVar,
            "Final" => SpecialForm::Final,
            "Literal" => SpecialForm::Literal,
            "TypedDict" => SpecialForm::TypedDict,
            "Annotated" => SpecialForm::Annotated,
            "TypeAlias" => SpecialForm::TypeAlias,
            "TypeGuard" => SpecialForm::TypeGuard,
            "TypeIs" => SpecialForm::TypeIs,
            "Concatenate" => SpecialForm::Concatenate,
            "Unpack" => SpecialForm::Unpack,
            "Required" => SpecialForm::Required,
            "NotRequired" => SpecialForm::NotRequired,
            "ReadOnly" => SpecialForm::ReadOnly,
            "DefaultDict" => SpecialForm::DefaultDict,
            "OrderedDict" => SpecialForm::OrderedDict,
            "Counter" => SpecialForm::Counter,
            "ChainMap" => SpecialForm::ChainMap,
            "Deque" => SpecialForm::Deque,
            "TypeForm" => SpecialForm::TypeForm,
            _ => return None,
        })
    }
}

impl Type {
    /// Whether nothing can be said of it: unknown or `Any`.
    #[must_use]
    pub fn is_dynamic(self) -> bool {
        matches!(self, Type::Any | Type::Unknown(_))
    }

    /// Whether it is unknown (`Any` is not).
    #[must_use]
    pub fn is_unknown(self) -> bool {
        matches!(self, Type::Unknown(_))
    }
}

/// Whether a type is, or holds as a part, an argument or an element, one of which `is` says so.
pub fn holds(store: &store::Store, ty: Type, is: &dyn Fn(Type) -> bool) -> bool {
    let inside = |types: &[Type]| types.iter().any(|ty| holds(store, *ty, is));
    is(ty)
        || match ty {
            Type::Union(id) => inside(store.union_parts(id)),
            Type::Instance(id) => inside(&store.instance(id).args),
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                inside(&tuple.prefix) || inside(tuple.rest.as_slice()) || inside(&tuple.suffix)
            }
            _ => false,
        }
}

/// Whether a type is nested deeper than a limit; looks no deeper than that.
#[must_use]
pub fn deeper_than(store: &store::Store, ty: Type, limit: u32) -> bool {
    let inside = |types: &[Type], limit: u32| types.iter().any(|ty| deeper_than(store, *ty, limit));
    match ty {
        Type::Instance(id) | Type::Class(id) => {
            let args = &store.instance(id).args;
            !args.is_empty() && (limit == 0 || inside(args, limit - 1))
        }
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            limit == 0
                || inside(&tuple.prefix, limit - 1)
                || inside(tuple.rest.as_slice(), limit - 1)
                || inside(&tuple.suffix, limit - 1)
        }
        Type::Union(id) => inside(store.union_parts(id), limit),
        Type::Callable(id) => {
            let signature = store.signature(id);
            limit == 0
                || deeper_than(store, signature.returns, limit - 1)
                || signature.params.iter().any(|param| deeper_than(store, param.ty, limit - 1))
        }
        Type::SubclassOf(id) | Type::Form(id) => deeper_than(store, *store.single(id), limit),
        Type::Method(id) | Type::Super(id) => limit == 0 || deeper_than(store, store.method(id).receiver, limit - 1),
        Type::Function(id) | Type::Property(id) => store
            .function(id)
            .owner
            .is_some_and(|owner| limit == 0 || deeper_than(store, Type::Instance(owner), limit - 1)),
        Type::Never
        | Type::Any
        | Type::Unknown(_)
        | Type::None
        | Type::Literal(_)
        | Type::Module(_)
        | Type::Namespace(_)
        | Type::Var(_)
        | Type::Special(_) => false,
    }
}
