//! Dataclasses (PEP 557), and the fields of named tuples and typed dictionaries, which are declared alike.

use std::sync::Arc;

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ArgKind, Class, ClassId, DefKind, Expr, ExprId, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use super::{info, transform};
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::{self, module_index, reading};
use crate::types::{ClassRef, InstanceId, Signature, SignatureParam, SpecialForm, Type};

/// What `@dataclass` was given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Options {
    /// Whether `__init__` is made.
    pub init: bool,
    /// Whether all fields are by keyword only.
    pub kw_only: bool,
    /// Whether fields are read-only.
    pub frozen: bool,
    /// Whether `<` and its kin are made.
    pub order: bool,
    /// Whether its instances have nothing but their fields.
    pub slots: bool,
    /// Whether patterns may give its fields by position.
    pub match_args: bool,
    /// Whether its instances have no hash, as they are compared by value and can change.
    pub unhashed: bool,
    /// What makes the class one, where that is not `@dataclass` itself (PEP 681).
    pub transform: Option<transform::Site>,
}

impl Options {
    /// Of a `@dataclass` without arguments.
    #[must_use]
    pub fn plain() -> Options {
        Options {
            init: true,
            kw_only: false,
            frozen: false,
            order: false,
            slots: false,
            match_args: true,
            unhashed: false,
            transform: None,
        }
    }
}

/// A declared field.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Field {
    /// Its name.
    pub name: Name,
    /// Its declared type.
    pub ty: Type,
    /// Whether it has a default.
    pub optional: bool,
    /// Whether it is by keyword only.
    pub kw_only: bool,
    /// Whether `__init__` takes it.
    pub init: bool,
    /// What `__init__` calls it, where that is another name.
    pub alias: Option<Name>,
    /// Whether `__init__` takes other things and makes the field's value of them.
    pub is_converted: bool,
    /// Whether it is declared as `InitVar`: `__init__` takes it and passes it on to `__post_init__`.
    pub is_passed_on: bool,
    /// Whether a typed dictionary's item may not be changed (PEP 705).
    pub read_only: bool,
    /// The class that declares it.
    pub class: ClassRef,
    /// Where it does.
    pub at: Anchor,
}

/// The `@dataclass` among a class's decorators, by its name and where it comes from.
pub(crate) fn options(infer: &mut Infer<'_>, class: &Class, info: &super::ClassInfo) -> Option<Options> {
    let index = infer.index;
    for decorator in &class.decorators {
        let (callee, args) = match &index.exprs[*decorator] {
            Expr::Call { callee, args } => (*callee, args.as_ref()),
            _ => (*decorator, &[][..]),
        };
        if !is_dataclass(infer, callee) {
            if let Type::Function(id) = infer.quietly(callee)
                && let Some(site) = transform::of_function(infer.db, *infer.db.store().function(id))
            {
                return Some(transform::options(infer.db, site, index, args));
            }
            continue;
        }
        let flag = |name: &str, default: bool| {
            args.iter()
                .find(|arg| matches!(arg.kind, ArgKind::Keyword(key) if infer.db.names().text(key) == name))
                .map_or(default, |arg| index.exprs[arg.value] == Expr::Bool(true))
        };
        return Some(Options {
            init: flag("init", true),
            kw_only: flag("kw_only", false),
            frozen: flag("frozen", false),
            order: flag("order", false),
            slots: flag("slots", false),
            match_args: flag("match_args", true),
            unhashed: flag("eq", true) && !flag("frozen", false) && !flag("unsafe_hash", false),
            transform: None,
        });
    }
    // A base, or a metaclass, may make all classes that derive from it dataclasses.
    let db = infer.db;
    let of_base = info.mro.iter().skip(1).find_map(|base| transform::of_class(db, db.store().instance(*base).class));
    let of_metaclass = || {
        let metaclass = super::info(db, info.metaclass?);
        metaclass.mro.iter().find_map(|base| transform::of_class(db, db.store().instance(*base).class))
    };
    let site = of_base.or_else(of_metaclass)?;
    Some(transform::options(db, site, index, &class.args))
}

fn is_dataclass(infer: &mut Infer<'_>, callee: ExprId) -> bool {
    let Type::Function(id) = infer.expr(callee) else { return false };
    let function = infer.db.store().function(id);
    outline::function(infer.db, function.file, function.function).name == known::DATACLASS
        && infer.db.names().text(function.file.module(infer.db)) == "dataclasses"
}

/// The fields that a class declares itself, in the order of the text.
pub fn own_fields(db: &dyn Db, class: ClassRef, all_kw_only: bool) -> &[Field] {
    declared_fields(db, class.file, class.class, all_kw_only)
}

pub(crate) fn declared_fields(db: &dyn Db, file: File, class: ClassId, all_kw_only: bool) -> &[Field] {
    saw(db, file, Ask::DeclaredFields(class, all_kw_only));
    declared_fields_query(db, file, class, all_kw_only)
}

#[salsa::tracked(returns(deref), cycle_initial = |_, _, _, _, _| Arc::default())]
fn declared_fields_query(db: &dyn Db, file: File, class: ClassId, all_kw_only: bool) -> Arc<[Field]> {
    let _reading = reading(db, file);
    let class = ClassRef { file, class };
    let index = module_index(db, class.file);
    let record = &index.classes[class.class];
    let mut infer = Infer::new(db, class.file, record.body);
    let options = info(db, class).dataclass;
    let takes_plain =
        options.and_then(|options| options.transform).is_some_and(|site| transform::takes_plain(db, site));
    let mut defs: Vec<leitmotiv_index::tree::DefId> = index.scopes[record.scope]
        .symbols
        .values()
        .filter_map(|symbol| {
            symbol.defs.iter().copied().find(|def| match index.defs[*def].kind {
                DefKind::Annotated { .. } => true,
                DefKind::Assign { value, unpack: None, .. } => takes_plain && is_described(&mut infer, options, value),
                _ => false,
            })
        })
        .collect();
    defs.sort_unstable();
    let kind = info(db, class).kind;
    let total = !record
        .args
        .iter()
        .any(|arg| arg.kind == ArgKind::Keyword(known::TOTAL) && index.exprs[arg.value] == Expr::Bool(false));
    let mut kw_only = all_kw_only;
    let mut fields = Vec::new();
    for def in defs {
        let (annotation, value) = match index.defs[def].kind {
            DefKind::Annotated { annotation, value } => (Some(annotation), value),
            DefKind::Assign { value, .. } => (None, Some(value)),
            _ => continue,
        };
        if annotation.is_some_and(|annotation| infer.is_class_var(annotation)) {
            continue;
        }
        let ty = match annotation {
            Some(annotation) => infer.declared_annotation(annotation).unwrap_or(Type::Any),
            None => value.map_or(Type::Any, |value| described_type(&mut infer, value)),
        };
        if let Type::Instance(id) = ty {
            let class = db.store().instance(id).class;
            if db.names().text(crate::outline::class_name(db, class)) == "KW_ONLY" {
                kw_only = true;
                continue;
            }
        }
        let mut field = Field {
            name: index.defs[def].name,
            ty,
            optional: value.is_some(),
            kw_only,
            init: true,
            alias: None,
            is_converted: false,
            is_passed_on: annotation.is_some_and(|annotation| is_init_var(&mut infer, annotation)),
            read_only: false,
            class,
            at: index.anchor_of_def(def),
        };
        if let (super::ClassKind::TypedDict { .. }, Some(annotation)) = (kind, annotation) {
            let (required, read_only) = qualifiers(&mut infer, annotation);
            field.optional = !required.unwrap_or(total);
            field.read_only = read_only;
        }
        if let Some(value) = value
            && let Expr::Call { callee, args } = &index.exprs[value]
            && describes(&mut infer, options, *callee)
        {
            field.optional = args.iter().any(|arg| match arg.kind {
                ArgKind::Keyword(known::DEFAULT | known::DEFAULT_FACTORY | known::FACTORY) => true,
                // What is passed by position is the default; `...` stands for there being none.
                ArgKind::Positional => index.exprs[arg.value] != Expr::Ellipsis,
                _ => false,
            });
            field.init = !transform::leaves_out(&mut infer, *callee);
            for arg in args {
                match arg.kind {
                    ArgKind::Keyword(known::KW_ONLY) => field.kw_only = index.exprs[arg.value] == Expr::Bool(true),
                    ArgKind::Keyword(name) => match (db.names().text(name), &index.exprs[arg.value]) {
                        ("init", value) => field.init = *value != Expr::Bool(false),
                        ("alias", Expr::Str(Some(alias))) => field.alias = Some(*alias),
                        ("converter", value) => field.is_converted = *value != Expr::None,
                        _ => {}
                    },
                    _ => {}
                }
            }
        }
        if field.alias.is_none()
            && let Some(site) = info(db, class).dataclass.and_then(|options| options.transform)
        {
            field.alias = transform::public_name(db, site, field.name);
        }
        fields.push(field);
    }
    fields.into()
}

/// Whether `Required[…]` or `NotRequired[…]` says that a key must be there, or need not (PEP 655), and whether `ReadOnly[…]`
/// says that its item stays (PEP 705).
fn qualifiers(infer: &mut Infer<'_>, annotation: ExprId) -> (Option<bool>, bool) {
    let mut annotation = annotation;
    let mut required = None;
    let mut read_only = false;
    while let Expr::Subscript { value, index, .. } = infer.index.exprs[annotation] {
        annotation = index;
        match infer.quietly(value) {
            Type::Special(SpecialForm::Required) => required = Some(true),
            Type::Special(SpecialForm::NotRequired) => required = Some(false),
            Type::Special(SpecialForm::ReadOnly) => read_only = true,
            Type::Special(SpecialForm::Annotated) => match &infer.index.exprs[index] {
                Expr::Tuple(parts) if !parts.is_empty() => annotation = parts[0],
                _ => break,
            },
            _ => break,
        }
    }
    (required, read_only)
}

/// Whether a value is a call that describes a field.
fn is_described(infer: &mut Infer<'_>, options: Option<Options>, value: ExprId) -> bool {
    matches!(infer.index.exprs[value], Expr::Call { callee, .. } if describes(infer, options, callee))
}

/// The type that a field's description names by `type=`.
fn described_type(infer: &mut Infer<'_>, value: ExprId) -> Type {
    let index = infer.index;
    let Expr::Call { args, .. } = &index.exprs[value] else { return Type::Any };
    let named =
        args.iter().find(|arg| matches!(arg.kind, ArgKind::Keyword(key) if infer.db.names().text(key) == "type"));
    named.and_then(|arg| infer.declared_annotation(arg.value)).unwrap_or(Type::Any)
}

/// Whether a call is a field's description.
fn describes(infer: &mut Infer<'_>, options: Option<Options>, callee: ExprId) -> bool {
    match options.and_then(|options| options.transform) {
        Some(site) => transform::describes_field(infer, site, callee),
        None => is_field(infer.index, callee),
    }
}

fn is_field(index: &leitmotiv_index::tree::ModuleIndex, callee: ExprId) -> bool {
    matches!(index.exprs[callee], Expr::Name(known::FIELD, _) | Expr::Attribute { name: known::FIELD, .. })
}

/// Whether an annotation is `InitVar` or `InitVar[…]`.
pub(crate) fn is_init_var(infer: &mut Infer<'_>, annotation: ExprId) -> bool {
    let head = match infer.index.exprs[annotation] {
        Expr::Subscript { value, .. } => value,
        _ => annotation,
    };
    let Type::Class(id) = infer.quietly(head) else { return false };
    super::shown(infer.db, infer.db.store().instance(id).class) == "InitVar"
}

/// All fields, those of bases first; a field that is declared again keeps its place.
pub fn all_fields(db: &dyn Db, class: ClassRef) -> Vec<Field> {
    let mut fields: Vec<Field> = Vec::new();
    for entry in info(db, class).mro.iter().rev() {
        let entry = db.store().instance(*entry).class;
        let entry_info = info(db, entry);
        let declares = entry_info.dataclass.is_some()
            || matches!(entry_info.kind, super::ClassKind::NamedTuple | super::ClassKind::TypedDict { .. });
        if !declares || entry.file.module(db) == known::TYPING {
            continue;
        }
        let all_kw_only = entry_info.dataclass.is_some_and(|options| options.kw_only);
        for field in own_fields(db, entry, all_kw_only) {
            match fields.iter_mut().find(|other| other.name == field.name) {
                Some(other) => *other = *field,
                None => fields.push(*field),
            }
        }
    }
    fields
}

/// All fields of an instance's class, with the arguments that the instance has.
pub fn fields_of(db: &dyn Db, instance: InstanceId) -> Vec<Field> {
    let given = super::class_arguments(db, instance);
    let fields = all_fields(db, db.store().instance(instance).class).into_iter();
    fields.map(|field| Field { ty: given.apply(db.store(), field.ty), ..field }).collect()
}

/// What a dataclass is given besides its constructor: comparisons, where it asked for them, and what the module
/// `dataclasses` leaves in it.
pub fn made_member(db: &dyn Db, instance: InstanceId, name: Name) -> Option<Type> {
    let store = db.store();
    let classes = &info(db, store.instance(instance).class).mro;
    let options = |entry: &InstanceId| info(db, store.instance(*entry).class).dataclass;
    match db.names().text(name) {
        "__lt__" | "__le__" | "__gt__" | "__ge__" => {
            classes.iter().find(|entry| options(entry).is_some_and(|options| options.order))?;
            let other = SignatureParam::placed(Type::Instance(instance));
            let returns = crate::resolve::builtin_instance(db, known::BOOL_CLASS, &[]);
            Some(Type::Callable(store.intern_signature(Signature { params: [other].into(), returns })))
        }
        "__slots__" => {
            classes.iter().find(|entry| options(entry).is_some_and(|options| options.slots))?;
            let text = crate::resolve::builtin_instance(db, known::STR, &[]);
            let tuple = crate::types::Tuple { prefix: [].into(), rest: Some(text), suffix: [].into() };
            Some(Type::Tuple(store.intern_tuple(tuple)))
        }
        "__dataclass_fields__" => {
            classes.iter().find_map(options)?;
            let text = crate::resolve::builtin_instance(db, known::STR, &[]);
            Some(crate::resolve::builtin_instance(db, known::DICT, &[text, Type::Any]))
        }
        _ => None,
    }
}

/// What `dataclasses.replace` takes for an instance: of its fields any that the constructor takes, and all that only go to
/// `__post_init__`.
pub fn replacement(db: &dyn Db, instance: InstanceId) -> Option<Signature> {
    let is_dataclass = |entry: &InstanceId| info(db, db.store().instance(*entry).class).dataclass.is_some();
    if !info(db, db.store().instance(instance).class).mro.iter().any(is_dataclass) {
        return None;
    }
    let mut params = vec![SignatureParam::placed(Type::Instance(instance))];
    let fields = fields_of(db, instance).into_iter().filter(|field| field.init);
    params.extend(fields.map(|field| SignatureParam {
        name: field.name,
        kind: ParamKind::KeywordOnly,
        ty: field.ty,
        optional: !field.is_passed_on || field.optional,
    }));
    Some(Signature { params: params.into(), returns: Type::Instance(instance) })
}

/// The constructor that follows from the fields.
pub fn constructor(db: &dyn Db, instance: InstanceId) -> Signature {
    let mut fields: Vec<Field> = fields_of(db, instance).into_iter().filter(|field| field.init).collect();
    fields.sort_by_key(|field| field.kw_only);
    let params = fields
        .into_iter()
        .map(|field| SignatureParam {
            name: field.alias.unwrap_or(field.name),
            kind: if field.kw_only { ParamKind::KeywordOnly } else { ParamKind::Normal },
            ty: if field.is_converted { Type::Any } else { field.ty },
            optional: field.optional,
        })
        .collect();
    Signature { params, returns: Type::Instance(instance) }
}
