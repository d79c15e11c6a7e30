//! Functions: what they are as values, what they take, what they give.

use std::sync::Arc;

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyShape, Expr, ExprId, FunctionId, ModuleIndex, ParamKind, ScopeKind};
use leitmotiv_syntax::names::{Name, known};

use crate::base::asked::{Ask, saw};
use crate::base::assumed;
use crate::base::cycles::converge;
use crate::base::db::Db;
use crate::base::file::File;
use crate::base::stored::{known_is, known_type};
use crate::infer::Infer;
use crate::outline::functions::{binding, enclosing_body, is_overridable_stub, signatures};
use crate::outline::{self, module_index, reading};
use crate::resolve::{builtin_instance, instance_of, standard_instance};
use crate::types::store::Store;
use crate::types::{Binding, Cause, CauseKind, ClassRef, FunctionRef, Signature, SignatureParam, Type, VarKind};

/// A function's signature as it is declared; what is not annotated is unknown, and an unannotated result is left to
/// [`return_type`].
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Declared {
    /// Parameters in order, the first one of methods included.
    pub params: Box<[SignatureParam]>,
    /// Whether the first of them is annotated.
    pub annotates_first: bool,
    /// What a call gives, where that is annotated: of coroutines, the coroutine.
    pub returns: Option<Type>,
    /// What a true result says of the first argument (PEP 647, PEP 742), and whether a false one says the opposite.
    pub guard: Option<(Type, bool)>,
}

/// What a function declares.
pub fn declared(db: &dyn Db, file: File, function: FunctionId) -> &Declared {
    saw(db, file, Ask::Declared(function));
    declared_query(db, file, function)
}

#[salsa::tracked(returns(deref), cycle_initial = |_, _, _, _| Arc::new(Declared::default()))]
fn declared_query(db: &dyn Db, file: File, function: FunctionId) -> Arc<Declared> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let body = enclosing_body(db, file, function);
    let mut infer = Infer::new(db, file, body);
    let params = record
        .params
        .iter()
        .enumerate()
        .map(|(place, param)| SignatureParam {
            name: param.name,
            kind: param.kind,
            ty: match param.annotation {
                Some(annotation) if param.kind == ParamKind::KwArgs => infer.keywords_annotation(annotation),
                Some(annotation) if param.kind == ParamKind::VarArgs => infer.places_annotation(annotation),
                Some(annotation) => infer.param_annotation(annotation, param.default),
                None if place == 0 && record.class.is_some() => receiver_type(db, file, function),
                None => {
                    let at = Anchor::Param(function, u32::try_from(place).unwrap_or(u32::MAX));
                    let cause = Cause { kind: CauseKind::Parameter, file, at, name: param.name };
                    Type::Unknown(db.store().intern_cause(cause))
                }
            },
            optional: param.default.is_some(),
        })
        .collect();
    let guard = record.returns.and_then(|returns| infer.guard(returns));
    let returns = record.returns.map(|returns| {
        let ty = infer.annotation(returns);
        if record.is_async && index.bodies[record.body].yields.is_empty() { coroutine(db, ty) } else { ty }
    });
    let annotates_first = record.params.first().is_some_and(|param| param.annotation.is_some());
    Arc::new(Declared { params, annotates_first, returns, guard })
}

fn coroutine(db: &dyn Db, ty: Type) -> Type {
    standard_instance(db, db.names().intern("collections.abc"), known::COROUTINE, &[Type::Any, Type::Any, ty])
}

/// What the first parameter of a method is when it is not annotated.
pub fn receiver_type(db: &dyn Db, file: File, function: FunctionId) -> Type {
    let index = module_index(db, file);
    let record = &index.functions[function];
    let Some(class) = record.class else { return Type::Any };
    let class = ClassRef { file, class };
    let args: Vec<Type> =
        crate::definitions::classes::info(db, class).params.iter().map(|var| Type::Var(*var)).collect();
    let instance = instance_of(db, class, &args);
    let is_named_so = record.params.first().is_none_or(|param| names_a_receiver(db.names().text(param.name)));
    match binding(db, index, function) {
        Binding::Instance if is_named_so => Type::Instance(instance),
        Binding::Class => Type::Class(instance),
        // Not named as a receiver, it may be something else: a helper called in the class's body, a method that a
        // metaclass makes static.
        Binding::Instance | Binding::Static => {
            let param = record.params.first();
            let at = param.map_or(Anchor::Function(function), |_| Anchor::Param(function, 0));
            let name = param.map_or(record.name, |param| param.name);
            Type::Unknown(db.store().intern_cause(Cause { kind: CauseKind::Parameter, file, at, name }))
        }
    }
}

/// Whether a first parameter's name says that it is the object or the class (PEP 8, "Function and method arguments").
fn names_a_receiver(name: &str) -> bool {
    let bare = name.trim_matches('_');
    bare.is_empty()
        || bare.contains("self")
        || matches!(bare, "cls" | "mcs" | "mcls" | "metacls" | "klass" | "this" | "me")
}

/// What a `def` binds its name to, decorators applied.
pub fn value(db: &dyn Db, file: File, function: FunctionId) -> Type {
    saw(db, file, Ask::Value(function));
    if let Some(known) = known_type(db, file, Ask::Value(function)) {
        return known;
    }
    value_query(db, file, function)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| Type::Never, cycle_fn = recover_value)]
fn value_query(db: &dyn Db, file: File, function: FunctionId) -> Type {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let store = db.store();
    let plain = FunctionRef { file, function, binding: binding(db, index, function), owner: None };
    let mut ty = Type::Function(store.intern_function(plain));
    let mut infer = Infer::new(db, file, index.defs[record.def].body);
    // Callers see an overloaded function's signatures, whatever decorators make of the definition behind them.
    let is_definition = !signatures(db, file, index, function).contains(&function);
    for decorator in record.decorators.iter().rev() {
        let is_plain = matches!(
            index.decorator_name(*decorator),
            Some(known::STATICMETHOD | known::CLASSMETHOD | known::PROPERTY | known::SETTER | known::DELETER)
        );
        if is_definition && !is_plain {
            continue;
        }
        ty = match &index.exprs[*decorator] {
            Expr::Name(known::STATICMETHOD | known::CLASSMETHOD, _) => ty,
            // What another decorator made of the getter is called all the same.
            Expr::Name(known::PROPERTY, _) => match ty {
                Type::Callable(id) => store.signature(id).returns,
                ty => as_property(ty),
            },
            Expr::Attribute { name: known::SETTER | known::DELETER, value, .. } => {
                // `@berth.setter`: the property stays what it was.
                match infer.expr(*value) {
                    Type::Property(id) => Type::Property(id),
                    Type::Never => ty,
                    other => other,
                }
            }
            _ => infer.decorated(*decorator, ty),
        };
    }
    ty
}

fn recover_value(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    value: Type,
    file: File,
    function: FunctionId,
) -> Type {
    let record = outline::function(db, file, function);
    let cause = Cause { kind: CauseKind::Cycle, file, at: Anchor::Function(function), name: record.name };
    converge(db, cycle.iteration(), *last, value, cause)
}

/// A function as a property's getter.
pub fn as_property(ty: Type) -> Type {
    match ty {
        Type::Function(id) => Type::Property(id),
        other => other,
    }
}

/// What an unannotated function gives, inferred from its body. Of a method that gives back its own object, the class it is
/// written in.
pub fn return_type(db: &dyn Db, file: File, function: FunctionId) -> Type {
    let store = db.store();
    crate::types::substitute::rewrite(store, open_return_type(db, file, function), &mut |var| {
        let variable = store.variable(var);
        (variable.kind == VarKind::SelfType).then(|| crate::definitions::type_variables::bound(db, var)).flatten()
    })
}

/// The same with `Self` where the object itself, or an instance of the class it is called on, is given back.
pub fn open_return_type(db: &dyn Db, file: File, function: FunctionId) -> Type {
    saw(db, file, Ask::OpenReturnType(function));
    if let Some(known) = known_type(db, file, Ask::OpenReturnType(function)) {
        return known;
    }
    open_return_type_query(db, file, function)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| Type::Never, cycle_fn = recover_return)]
fn open_return_type_query(db: &dyn Db, file: File, function: FunctionId) -> Type {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let body = &index.bodies[record.body];
    if file.is_stub(db) {
        let cause = Cause { kind: CauseKind::Parameter, file, at: Anchor::Function(function), name: record.name };
        return Type::Unknown(db.store().intern_cause(cause));
    }
    if let Some(ty) = assumed::result(db, file, function) {
        let is_coroutine = record.is_async && body.yields.is_empty();
        return if is_coroutine { coroutine(db, ty) } else { ty };
    }
    if crate::definitions::circles::calls(db, file).in_large_circles.contains(&function) {
        let cause = Cause { kind: CauseKind::Cycle, file, at: Anchor::Function(function), name: record.name };
        return Type::Unknown(db.store().intern_cause(cause));
    }
    // What a function gives may hang on another's result, and so on down a long chain.
    stacker::maybe_grow(STACK_LEFT, STACK_ADDED, || {
        let mut infer = Infer::new(db, file, record.body);
        if !body.yields.is_empty() {
            return generator(db, &mut infer, function);
        }
        let joined = returned(&mut infer, function);
        let ty = unless_doubtful(db, file, infer.widen_for_others(joined), Anchor::Function(function), record.name);
        // That something is an `object` says only that nobody looked closer.
        let is_object = |part: Type| {
            matches!(part, Type::Instance(id)
            if crate::resolve::is_builtin(db, db.store().instance(id).class, known::OBJECT))
        };
        let ty = crate::types::union::map(db.store(), ty, |part| {
            if is_object(part) { unknown_result(db, file, function) } else { part }
        });
        if record.is_async { coroutine(db, ty) } else { ty }
    })
}

/// With less stack left than this (bytes) more is added: as much as one function's result needs by far.
const STACK_LEFT: usize = 4 << 20;

/// How much stack is added at a time (bytes).
const STACK_ADDED: usize = 64 << 20;

/// Whether an expression calls somebody's `__getattribute__` or `__getattr__`.
fn looks_up(index: &ModuleIndex, value: ExprId) -> bool {
    let Expr::Call { callee, .. } = index.exprs[value] else { return false };
    matches!(index.exprs[callee], Expr::Attribute { name: known::GETATTR | known::GETATTRIBUTE, .. })
}

/// What the `return` statements of a function give, and its end.
pub(crate) fn returned(infer: &mut Infer<'_>, function: FunctionId) -> Type {
    let index = infer.index;
    let record = &index.functions[function];
    let body = &index.bodies[record.body];
    // A method that only says that there is nothing is there for subclasses to say more.
    if record.class.is_some() && record.shape == BodyShape::ReturnsNone {
        return unknown_result(infer.db, infer.file, function);
    }
    // What `__getattr__` leaves to the usual look-up is mostly no attribute at all.
    let is_hook = matches!(record.name, known::GETATTR | known::GETATTRIBUTE);
    let is_left = |value: Option<ExprId>| value.is_some_and(|value| looks_up(index, value));
    let is_hook = is_hook && body.returns.iter().any(|statement| !is_left(statement.value));
    let mut parts = Vec::new();
    for statement in &body.returns {
        if is_hook && is_left(statement.value) {
            continue;
        }
        if infer.reachable(statement.reach) && !infer.is_ruled_out(statement.range) {
            parts.push(statement.value.map_or(Type::None, |value| infer.given_back(value)));
        }
    }
    if infer.reachable(body.end) {
        match record.shape {
            // A method that subclasses are to fill says nothing of its result.
            BodyShape::Empty if record.class.is_some() => parts.push(unknown_result(infer.db, infer.file, function)),
            _ => parts.push(Type::None),
        }
    } else if parts.is_empty() && record.class.is_some() && record.shape == BodyShape::NotImplemented {
        parts.push(unknown_result(infer.db, infer.file, function));
    }
    infer.join(parts)
}

/// What is inferred from the source of an installed module, where it is one of several: its users go by what it is
/// documented to give in their case, which its source does not show. Then it is unknown.
pub(crate) fn unless_doubtful(db: &dyn Db, file: File, ty: Type, at: Anchor, name: Name) -> Type {
    let is_installed = file.origin(db) == leitmotiv_project::resolve::Origin::Typed && !file.is_stub(db);
    if !file.origin(db).is_untyped_source() && !is_installed {
        return ty;
    }
    let store = db.store();
    let unless_union = |ty: &Type| match ty {
        Type::Union(_) => Type::Unknown(store.intern_cause(Cause { kind: CauseKind::UntypedImport, file, at, name })),
        ty => *ty,
    };
    match ty {
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            Type::Tuple(store.intern_tuple(crate::types::Tuple {
                prefix: tuple.prefix.iter().map(unless_union).collect(),
                rest: tuple.rest.as_ref().map(unless_union),
                suffix: tuple.suffix.iter().map(unless_union).collect(),
            }))
        }
        Type::Instance(id) => {
            let instance = store.instance(id);
            let args: Vec<Type> = instance.args.iter().map(unless_union).collect();
            Type::Instance(instance_of(db, instance.class, &args))
        }
        ty => unless_union(&ty),
    }
}

fn unknown_result(db: &dyn Db, file: File, function: FunctionId) -> Type {
    let record = &module_index(db, file).functions[function];
    let cause = Cause { kind: CauseKind::Dynamic, file, at: Anchor::Function(function), name: record.name };
    Type::Unknown(db.store().intern_cause(cause))
}

fn generator(db: &dyn Db, infer: &mut Infer<'_>, function: FunctionId) -> Type {
    let record = &infer.index.functions[function];
    let body = &infer.index.bodies[record.body];
    let mut yielded = Vec::new();
    for expr in &body.yields {
        let ty = match infer.index.exprs[*expr] {
            Expr::Yield(Some(value)) => infer.given_back(value),
            Expr::Yield(None) => Type::None,
            Expr::YieldFrom(value) => {
                let ty = infer.expr(value);
                infer.element(ty, false).unwrap_or(Type::Any)
            }
            _ => continue,
        };
        yielded.push(infer.widen_for_others(ty));
    }
    let mut returned = Vec::new();
    for statement in &body.returns {
        if let Some(value) = statement.value {
            let ty = infer.expr(value);
            returned.push(infer.widen_for_others(ty));
        }
    }
    let yielded = infer.join(yielded);
    let abc = db.names().intern("collections.abc");
    if record.is_async {
        return standard_instance(db, abc, known::ASYNC_GENERATOR, &[yielded, Type::Any]);
    }
    let returned = if returned.is_empty() { Type::None } else { infer.join(returned) };
    standard_instance(db, abc, known::GENERATOR, &[yielded, Type::Any, returned])
}

fn recover_return(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    value: Type,
    file: File,
    function: FunctionId,
) -> Type {
    let record = outline::function(db, file, function);
    let cause = Cause { kind: CauseKind::Cycle, file, at: Anchor::Function(function), name: record.name };
    converge(db, cycle.iteration(), *last, value, cause)
}

/// Whether a decorator by that name leaves the function what it was.
pub fn keeps_function(name: &str) -> bool {
    matches!(
        name,
        "overload"
            | "override"
            | "final"
            | "abstractmethod"
            | "no_type_check"
            | "runtime_checkable"
            | "wraps"
            | "deprecated"
            | "dataclass_transform"
    )
}

/// Whether a call of a function never comes back: it says so, or its body cannot be left.
pub fn never_returns(db: &dyn Db, file: File, function: FunctionId) -> bool {
    saw(db, file, Ask::NeverReturns(function));
    if let Some(known) = known_is(db, file, Ask::NeverReturns(function)) {
        return known;
    }
    never_returns_query(db, file, function)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| false, cycle_fn = |_, cycle: &salsa::Cycle<'_>, _: &bool, value: bool, _, _| value && cycle.iteration() < 4)]
fn never_returns_query(db: &dyn Db, file: File, function: FunctionId) -> bool {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    if let Some(returns) = record.returns {
        let body = enclosing_body(db, file, function);
        return Infer::new(db, file, body).annotation(returns) == Type::Never;
    }
    if file.is_stub(db) || record.shape != BodyShape::Code || record.is_async {
        return false;
    }
    let body = &index.bodies[record.body];
    if !body.yields.is_empty() || is_overridable_stub(db, file, function) {
        return false;
    }
    let mut infer = Infer::new(db, file, record.body);
    !infer.reachable(body.end) && body.returns.iter().all(|statement| !infer.reachable(statement.reach))
}

/// The name by which messages call a function: `Berth.assign`, `assign`.
pub fn shown(db: &dyn Db, file: File, function: FunctionId) -> String {
    let outline = outline::function(db, file, function);
    let name = db.names().text(outline.name);
    match outline.class {
        Some(class) => format!("{}.{name}", db.names().text(outline::class_name(db, ClassRef { file, class }))),
        None => name.to_owned(),
    }
}

/// The full dotted name of a definition's place, as in `ferry.berths.Berth.assign`.
pub fn qualified(db: &dyn Db, file: File, function: Option<FunctionId>) -> String {
    let index = module_index(db, file);
    let mut parts: Vec<&str> = Vec::new();
    let mut scope = match function {
        Some(function) => {
            parts.push(db.names().text(index.functions[function].name));
            Some(index.functions[function].parent)
        }
        None => None,
    };
    while let Some(current) = scope {
        match index.scopes[current].kind {
            ScopeKind::Class(class) => parts.push(db.names().text(index.classes[class].name)),
            ScopeKind::Function(function) => parts.push(db.names().text(index.functions[function].name)),
            _ => {}
        }
        scope = index.scopes[current].parent;
    }
    parts.push(db.names().text(file.module(db)));
    parts.reverse();
    parts.retain(|part| !part.is_empty());
    parts.join(".")
}

/// A callable without its first parameter.
pub fn without_first(store: &Store, ty: Type) -> Type {
    let Type::Callable(id) = ty else { return ty };
    let signature = store.signature(id);
    let Some(first) = signature.params.first() else { return ty };
    if matches!(first.kind, ParamKind::VarArgs | ParamKind::KwArgs) {
        return ty;
    }
    let params = signature.params[1..].into();
    Type::Callable(store.intern_signature(Signature { params, returns: signature.returns }))
}

/// A parameter that takes anything.
pub fn anything(name: Name, kind: ParamKind) -> SignatureParam {
    SignatureParam { name, kind, ty: Type::Any, optional: true }
}

/// `Callable[..., returns]`
pub fn any_callable(store: &Store, returns: Type) -> Type {
    let params = Box::new([anything(known::EMPTY, ParamKind::VarArgs), anything(known::EMPTY, ParamKind::KwArgs)]);
    Type::Callable(store.intern_signature(Signature { params, returns }))
}

/// Whether a variable stands for `Self`.
pub fn is_self(store: &Store, var: crate::types::VarId) -> bool {
    store.variable(var).kind == VarKind::SelfType
}

/// The plain `dict[str, …]` of `**kwargs` and `tuple[…, ...]` of `*args`, as seen inside the function.
pub fn inside(db: &dyn Db, kind: ParamKind, ty: Type) -> Type {
    let is_list = matches!(ty, Type::Var(var) if db.store().variable(var).kind == VarKind::Params);
    let ty = if is_list { Type::Any } else { ty };
    match kind {
        // `*berths: *tuple[int, str]` holds just those elements (PEP 646).
        ParamKind::VarArgs if let Type::Form(id) = ty => *db.store().single(id),
        ParamKind::VarArgs => {
            let tuple = crate::types::Tuple { prefix: Box::new([]), rest: Some(ty), suffix: Box::new([]) };
            Type::Tuple(db.store().intern_tuple(tuple))
        }
        // `**fares: Unpack[Fares]` holds just those items (PEP 692).
        ParamKind::KwArgs if let Type::Form(id) = ty => *db.store().single(id),
        ParamKind::KwArgs => builtin_instance(db, known::DICT, &[builtin_instance(db, known::STR, &[]), ty]),
        ParamKind::PositionalOnly | ParamKind::Normal | ParamKind::KeywordOnly => ty,
    }
}
