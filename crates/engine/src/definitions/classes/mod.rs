//! Classes: bases, order of resolution, what kind of class it is, and its members.

pub mod dataclass;
mod derived;
pub(crate) mod described;
pub mod enums;
pub(crate) mod kept;
pub mod members;
pub mod names;
pub mod open_members;
pub mod special_names;
pub mod transform;

use std::sync::Arc;

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ArgKind, ClassId, Expr, ExprId};
use leitmotiv_syntax::names::{Name, known};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::context::TypeContext;
use crate::infer::Infer;
use crate::outline::class_name;
use crate::outline::classes::ClassNames;
use crate::outline::{module_index, reading};
use crate::resolve::{builtin, instance_of, is_builtin, is_standard};
use crate::types::substitute::Substitution;
use crate::types::{CauseId, ClassRef, InstanceId, SpecialForm, Type, VarId};

pub(crate) use derived::bases_now;
pub use derived::derived;

/// What is known of a class as a whole.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct ClassInfo {
    /// Its type parameters.
    pub params: Vec<VarId>,
    /// The order of resolution, itself first, `object` last, each with its arguments in terms of the parameters.
    pub mro: Vec<InstanceId>,
    /// For each class in the order of resolution, which names it has of its own; empty where the class leads to itself.
    pub names: Vec<ClassNames>,
    /// The cause of a base being unknown, if one is: then members may come from there.
    pub unknown_base: Option<CauseId>,
    /// The cause of it being no type, if an unknown base makes a description of what other objects offer of it.
    pub description: Option<CauseId>,
    /// Its metaclass, where one is given here or in a base.
    pub metaclass: Option<ClassRef>,
    /// What kind of class it is.
    pub kind: ClassKind,
    /// The `@dataclass` that applies.
    pub dataclass: Option<dataclass::Options>,
    /// Of a class that derives from a tuple of known shape, that tuple, in terms of the parameters.
    pub shape: Option<Type>,
    /// Whether the bases contradict each other.
    pub conflict: bool,
    /// The first in the order of resolution that makes attributes as the program runs.
    pub maker: Option<ClassRef>,
    /// Whether one of them names attributes in `__slots__`.
    pub has_slots: bool,
    /// Whether one of them is registered as a subclass of others: `@Mapping.register` (library reference, "abc").
    pub is_registered: bool,
}

/// Kinds of class that the specification treats in their own way.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum ClassKind {
    /// Any other.
    #[default]
    Plain,
    /// A protocol (PEP 544).
    Protocol,
    /// An enumeration.
    Enum,
    /// A typed dictionary (PEP 589); whether its keys are required unless said otherwise.
    TypedDict {
        /// `total=True`
        total: bool,
    },
    /// A named tuple.
    NamedTuple,
}

/// What is known of a class.
pub fn class_info(db: &dyn Db, file: File, class: ClassId) -> &ClassInfo {
    saw(db, file, Ask::ClassInfo(class));
    class_info_query(db, file, class)
}

#[salsa::tracked(returns(deref), cycle_initial = |_, _, _, _| Arc::default(), cycle_fn = recover_class)]
fn class_info_query(db: &dyn Db, file: File, class: ClassId) -> Arc<ClassInfo> {
    let _reading = reading(db, file);
    let this = ClassRef { file, class };
    let mut info = build(db, this);
    info.names.reserve_exact(info.mro.len());
    let register = db.names().find("register");
    for entry in &info.mro {
        let class = db.store().instance(*entry).class;
        let outline = crate::outline::class(db, class);
        info.names.push(outline.names.clone());
        info.maker = info.maker.or(outline.makes_attributes.then_some(class));
        info.has_slots |= outline.slots != crate::outline::classes::Slots::Absent;
        info.is_registered |= outline.decorators.iter().any(|mark| mark.bare.is_some() && mark.bare == register);
    }
    Arc::new(info)
}

/// How many rounds a class that leads to itself may take. Said in docs/architecture.md.
const MOST_ROUNDS: u32 = 6;

/// A class that leads to itself, by a base or in what its bases are given: after some rounds its bases are unknown, so that
/// every such circle ends.
fn recover_class(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Arc<ClassInfo>,
    value: Arc<ClassInfo>,
    file: File,
    class: ClassId,
) -> Arc<ClassInfo> {
    let itself = ClassRef { file, class };
    // One that derives from itself has no end at all.
    let is_own_base = value.mro.iter().skip(1).any(|base| db.store().instance(*base).class == itself);
    if value == *last || cycle.iteration() < MOST_ROUNDS && !(is_own_base && cycle.iteration() > 0) {
        return value;
    }
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.classes[class];
    let at = record.args.first().map_or(Anchor::Class(class), |arg| index.anchor_in(record.body, arg.value));
    let cause = crate::types::Cause { kind: crate::types::CauseKind::Cycle, file, at, name: record.name };
    let mut mro = vec![instance_of(db, itself, &[])];
    mro.extend(builtin(db, known::OBJECT).map(|object| instance_of(db, object, &[])));
    Arc::new(ClassInfo { mro, unknown_base: Some(db.store().intern_cause(cause)), ..ClassInfo::default() })
}

/// What is known of a class.
pub fn info(db: &dyn Db, class: ClassRef) -> &ClassInfo {
    class_info(db, class.file, class.class)
}

fn build(db: &dyn Db, class: ClassRef) -> ClassInfo {
    let store = db.store();
    let index = module_index(db, class.file);
    let record = &index.classes[class.class];
    let mut infer = Infer::new(db, class.file, record.body);
    let mut result = ClassInfo::default();
    let mut bases: Vec<InstanceId> = Vec::new();
    let mut generic: Option<Vec<VarId>> = None;
    let mut free: Vec<VarId> = Vec::new();
    let mut total = true;
    for arg in &record.args {
        match arg.kind {
            ArgKind::Positional => {}
            ArgKind::Keyword(known::METACLASS) => {
                if let Type::Class(id) = infer.expr(arg.value) {
                    result.metaclass = Some(store.instance(id).class);
                }
                continue;
            }
            ArgKind::Keyword(known::TOTAL) => {
                total = index.exprs[arg.value] != Expr::Bool(false);
                continue;
            }
            ArgKind::Keyword(_) => continue,
            ArgKind::Star | ArgKind::DoubleStar => {
                result.unknown_base = Some(infer.cause(crate::types::CauseKind::Base, arg.value));
                continue;
            }
        }
        match infer.base(arg.value) {
            Base::Class(id) => {
                for arg in &store.instance(id).args {
                    collect_vars(db, *arg, &mut free);
                }
                bases.push(id);
            }
            Base::Generic(vars) => generic = Some(vars),
            Base::Protocol(vars) => {
                result.kind = ClassKind::Protocol;
                if !vars.is_empty() {
                    generic = Some(vars);
                }
            }
            Base::TypedDict => result.kind = ClassKind::TypedDict { total },
            Base::NamedTuple => result.kind = ClassKind::NamedTuple,
            Base::Tuple(id) => {
                if let Some(tuple) = builtin(db, known::TUPLE) {
                    let element = infer.tuple_element(id);
                    collect_vars(db, Type::Tuple(id), &mut free);
                    bases.push(instance_of(db, tuple, &[element]));
                    result.shape = Some(Type::Tuple(id));
                }
            }
            Base::Unknown(cause) => result.unknown_base = result.unknown_base.or(Some(cause)),
        }
    }
    if class.file.origin(db).is_untyped_source()
        && let Some(decorator) = record.decorators.iter().find(|decorator| remakes(db, class.file, **decorator))
    {
        // What a decorator makes of a class can only be told where it is annotated.
        result.unknown_base = Some(infer.cause(crate::types::CauseKind::Decorator, *decorator));
    }
    let own: Vec<VarId> = record.type_params.iter().filter_map(|def| infer.type_param(*def)).collect();
    result.params = if own.is_empty() { generic.unwrap_or(free) } else { own };
    inherit_kind(db, &bases, &mut result, total);
    if matches!(result.kind, ClassKind::TypedDict { .. })
        && bases.is_empty()
        && let Some(base) = crate::resolve::standard_class(db, known::TYPING, db.names().intern("_TypedDict"))
    {
        bases.push(instance_of(db, base, &[]));
    }
    if result.kind == ClassKind::NamedTuple
        && bases.is_empty()
        && let Some(base) = crate::resolve::standard_class(db, known::TYPING, db.names().intern("NamedTuple"))
        && base != class
    {
        bases.push(instance_of(db, base, &[]));
    }
    let own_args: Vec<Type> = result.params.iter().map(|var| Type::Var(*var)).collect();
    let this = instance_of(db, class, &own_args);
    linearize(db, class, this, &bases, &mut result);
    if result.kind == ClassKind::Protocol && result.metaclass.is_none() {
        let names = db.names();
        result.metaclass = crate::resolve::standard_class(db, names.intern("abc"), names.intern("ABCMeta"));
    }
    result.dataclass = dataclass::options(&mut infer, record, &result);
    result.description = result.unknown_base.filter(|_| described::is_description(db, &result));
    result
}

/// Whether a class's decorator may make another class of it: any that is not known to give the class back.
pub(crate) fn remakes(db: &dyn Db, file: File, decorator: ExprId) -> bool {
    let index = module_index(db, file);
    let head = match index.exprs[decorator] {
        Expr::Call { callee, .. } => callee,
        _ => decorator,
    };
    let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = index.exprs[head] else { return true };
    !matches!(
        db.names().text(name),
        "dataclass"
            | "final"
            | "total_ordering"
            | "runtime_checkable"
            | "unique"
            | "no_type_check"
            | "deprecated"
            | "dataclass_transform"
            | "verify"
    ) && !kept::gives_back(db, file, decorator)
}

/// Whether a class stands under a decorator that may make another class of it.
pub(crate) fn is_remade(db: &dyn Db, file: File, class: ClassId) -> bool {
    saw(db, file, Ask::IsRemade(class));
    is_remade_query(db, file, class)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| false)]
fn is_remade_query(db: &dyn Db, file: File, class: ClassId) -> bool {
    let _reading = reading(db, file);
    let decorators = &module_index(db, file).classes[class].decorators;
    decorators.iter().any(|decorator| remakes(db, file, *decorator))
}

/// What stands in a class's bases.
pub(crate) enum Base {
    /// A class with its arguments.
    Class(InstanceId),
    /// `Generic[T]`
    Generic(Vec<VarId>),
    /// `Protocol` or `Protocol[T]`
    Protocol(Vec<VarId>),
    /// `TypedDict`
    TypedDict,
    /// `NamedTuple`
    NamedTuple,
    /// `tuple[int, str]`
    Tuple(crate::types::TupleId),
    /// Something whose members cannot be told.
    Unknown(CauseId),
}

impl Infer<'_> {
    /// Reads one base of a class.
    pub(crate) fn base(&mut self, expr: leitmotiv_index::tree::ExprId) -> Base {
        let store = self.db.store();
        let index = self.index;
        let (head, args) = match &index.exprs[expr] {
            Expr::Subscript { value, index: arg, .. } => (*value, Some(*arg)),
            _ => (expr, None),
        };
        let head_type = self.expr(head);
        let vars = |infer: &mut Self, args: Option<leitmotiv_index::tree::ExprId>| -> Vec<VarId> {
            let mut found = Vec::new();
            for arg in args.map(|args| infer.items(args)).unwrap_or_default() {
                let ty = infer.annotation(arg);
                collect_vars(infer.db, ty, &mut found);
            }
            found
        };
        match head_type {
            // `namedtuple("Leg", "port tide")`
            Type::Function(id) if self.text_of_function(id) == ("collections", "namedtuple") => Base::NamedTuple,
            Type::Special(SpecialForm::Generic) => Base::Generic(vars(self, args)),
            Type::Special(SpecialForm::Protocol) => Base::Protocol(vars(self, args)),
            Type::Special(SpecialForm::TypedDict) => Base::TypedDict,
            Type::Class(id) if args.is_none() => {
                let class = store.instance(id).class;
                if is_standard(self.db, class, known::TYPING, self.db.names().intern("NamedTuple")) {
                    return Base::NamedTuple;
                }
                // `class A(list)`: nothing is said of the elements.
                let params = info(self.db, class).params.clone();
                let given = store.instance(id).args.len();
                if !params.is_empty() && given == 0 {
                    let cause = self.cause(crate::types::CauseKind::Bare, expr);
                    let args = crate::definitions::type_variables::with_defaults(self.db, &params, &[], &mut || {
                        Type::Unknown(cause)
                    });
                    return Base::Class(instance_of(self.db, class, &args));
                }
                Base::Class(id)
            }
            _ => match self.annotation(expr) {
                Type::Instance(id) => Base::Class(id),
                Type::Tuple(id) => Base::Tuple(id),
                Type::Unknown(cause) => Base::Unknown(cause),
                _ => Base::Unknown(self.cause(crate::types::CauseKind::Base, expr)),
            },
        }
    }
}

impl TypeContext<'_> {
    /// The module and the name of a function.
    fn text_of_function(&self, id: crate::types::FunctionTypeId) -> (&str, &str) {
        let function = self.db.store().function(id);
        let name = crate::outline::function(self.db, function.file, function.function).name;
        (self.text(function.file.module(self.db)), self.text(name))
    }
}

fn collect_vars(db: &dyn Db, ty: Type, found: &mut Vec<VarId>) {
    crate::types::substitute::rewrite(db.store(), ty, &mut |var| {
        if !found.contains(&var) {
            found.push(var);
        }
        None
    });
}

fn inherit_kind(db: &dyn Db, bases: &[InstanceId], result: &mut ClassInfo, total: bool) {
    for id in bases {
        let class = db.store().instance(*id).class;
        let base = info(db, class);
        match base.kind {
            ClassKind::Enum => result.kind = ClassKind::Enum,
            ClassKind::NamedTuple if result.kind == ClassKind::Plain => result.kind = ClassKind::NamedTuple,
            ClassKind::TypedDict { .. } if result.kind == ClassKind::Plain => {
                result.kind = ClassKind::TypedDict { total };
            }
            _ => {}
        }
        result.unknown_base = result.unknown_base.or(base.unknown_base);
        let given = Substitution::of(&base.params, &db.store().instance(*id).args);
        result.shape = result.shape.or(base.shape.map(|shape| given.apply(db.store(), shape)));
        // Our stubs give built-in classes the abstract bases that they answer for; these do not decide what makes a class.
        let is_abstract = |metaclass: ClassRef| db.names().text(class_name(db, metaclass)) == "ABCMeta";
        if result.metaclass.is_none_or(is_abstract) {
            result.metaclass = base.metaclass.or(result.metaclass);
        }
        if is_standard(db, class, db.names().intern("enum"), db.names().intern("Enum")) {
            result.kind = ClassKind::Enum;
        }
    }
}

/// C3 (PEP 253 and the language reference, "Resolving MRO entries"). Where bases contradict each other, the order is
/// depth-first instead, and the conflict noted.
fn linearize(db: &dyn Db, class: ClassRef, this: InstanceId, bases: &[InstanceId], result: &mut ClassInfo) {
    let store = db.store();
    let object = builtin(db, known::OBJECT).filter(|object| *object != class);
    let mut lists: Vec<Vec<InstanceId>> = Vec::new();
    for base in bases {
        let base = store.instance(*base);
        let base_info = info(db, base.class);
        let substitution = Substitution::of(&base_info.params, &base.args);
        let list = base_info.mro.iter().filter_map(|entry| match substitution.apply(store, Type::Instance(*entry)) {
            Type::Instance(id) => Some(id),
            _ => None,
        });
        lists.push(list.collect());
    }
    // With one base there is nothing to merge: chains of thousands of classes stay cheap.
    if let [_] = bases
        && let [only] = lists.as_slice()
    {
        result.mro = std::iter::once(this).chain(only.iter().copied()).collect();
        return;
    }
    lists.push(bases.to_vec());
    if bases.is_empty()
        && let Some(object) = object
    {
        lists.push(vec![instance_of(db, object, &[])]);
    }
    let class_of = |id: InstanceId| store.instance(id).class;
    result.mro = vec![this];
    while lists.iter().any(|list| !list.is_empty()) {
        let head = lists.iter().filter_map(|list| list.first()).copied().find(|head| {
            !lists.iter().any(|list| list.iter().skip(1).any(|other| class_of(*other) == class_of(*head)))
        });
        let head = head.unwrap_or_else(|| {
            result.conflict = true;
            // Something is left, or the loop would have ended.
            lists.iter().find_map(|list| list.first()).copied().unwrap_or(this)
        });
        for list in &mut lists {
            list.retain(|other| class_of(*other) != class_of(head));
        }
        if class_of(head) != class {
            result.mro.push(head);
        }
    }
}

/// The entry of `of` in the order of resolution of an instance, with the arguments it has there.
pub fn as_base(db: &dyn Db, instance: InstanceId, of: ClassRef) -> Option<InstanceId> {
    let store = db.store();
    let record = store.instance(instance);
    if record.class == of {
        return Some(instance);
    }
    let class = info(db, record.class);
    let entry = class.mro.iter().find(|entry| is_same(db, store.instance(**entry).class, of))?;
    let substitution = class_arguments(db, instance);
    match substitution.apply(store, Type::Instance(*entry)) {
        Type::Instance(id) => Some(id),
        _ => None,
    }
}

/// What stands for the parameters of an instance's class; where nothing is given, an unknown or the parameters' defaults.
pub fn class_arguments(db: &dyn Db, instance: InstanceId) -> Substitution {
    let record = db.store().instance(instance);
    let class = info(db, record.class);
    if record.args.len() >= class.params.len() {
        return Substitution::of(&class.params, &record.args);
    }
    let args = crate::definitions::type_variables::with_defaults(db, &class.params, &record.args, &mut || Type::Any);
    Substitution::of(&class.params, &args)
}

/// Whether two classes are the same, also where one is declared in the stub of the other's module.
fn is_same(db: &dyn Db, one: ClassRef, other: ClassRef) -> bool {
    one == other
        || one.file != other.file
            && one.file.is_stub(db) != other.file.is_stub(db)
            && one.file.module(db) == other.file.module(db)
            && class_name(db, one) == class_name(db, other)
}

/// Whether `class` is `base` or derives from it, and whether that is sure: with an unknown base it may.
pub fn derives(db: &dyn Db, class: ClassRef, base: ClassRef) -> Option<bool> {
    if class == base {
        return Some(true);
    }
    let info = info(db, class);
    if info.mro.iter().any(|entry| is_same(db, db.store().instance(*entry).class, base)) {
        return Some(true);
    }
    if info.unknown_base.is_some() { None } else { Some(false) }
}

/// Whether a class derives from the built-in of that name.
pub fn derives_builtin(db: &dyn Db, class: ClassRef, name: Name) -> bool {
    is_builtin(db, class, name)
        || info(db, class).mro.iter().any(|entry| is_builtin(db, db.store().instance(*entry).class, name))
}

/// The members of an enumeration, in the order of the text; aliases apart.
pub fn enum_members(db: &dyn Db, class: ClassRef) -> Vec<Name> {
    enums::of_class(db, class.file, class.class).names.clone()
}

/// For a comparison that `functools.total_ordering` makes, the one that the class has: it says what is compared with what.
pub fn ordered_by(db: &dyn Db, instance: InstanceId, name: Name) -> Option<members::Found> {
    const COMPARISONS: [&str; 4] = ["__lt__", "__le__", "__gt__", "__ge__"];
    if !COMPARISONS.contains(&db.names().text(name)) {
        return None;
    }
    let is_ordered = info(db, db.store().instance(instance).class).mro.iter().any(|entry| {
        let class = db.store().instance(*entry).class;
        crate::outline::class(db, class).is_under(db.names().intern("total_ordering"))
    });
    let mut others = COMPARISONS.iter().filter_map(|other| db.names().find(other));
    is_ordered.then(|| others.find_map(|other| members::find(db, instance, other, None)))?
}

/// How a class is shown: its bare name.
pub fn shown(db: &dyn Db, class: ClassRef) -> &str {
    db.names().text(class_name(db, class))
}
