//! Annotations to types (typing specification, "Type annotations" and "Special types in annotations").

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{
    BinaryOp, DefId, DefKind, Expr, ExprId, ParamKind, ScopeId, Symbol, TypeParamKind, UnaryOp,
};
use leitmotiv_syntax::names::{Name, known};

use crate::context::TypeContext;
use crate::definitions::classes;
use crate::infer::Infer;
use crate::outline::Site;
use crate::problems::ProblemKind;
use crate::resolve::{builtin_instance, instance_of, standard_class};
use crate::types::{
    CauseKind, Literal, Signature, SpecialForm, Tuple, Type, TypeVariable, VarId, VarKind, VarOrigin, Variance,
};

impl TypeContext<'_> {
    /// What the result `TypeGuard[T]` or `TypeIs[T]` tells, and whether a false one tells the opposite.
    pub(crate) fn guarded_by(&self, returns: Type) -> Option<(Type, bool)> {
        let Type::Instance(id) = returns else { return None };
        let instance = self.db.store().instance(id);
        let [told] = instance.args.as_ref() else { return None };
        if instance.class.file.module(self.db) != known::TYPING {
            return None;
        }
        match classes::shown(self.db, instance.class) {
            "_TypeGuard" => Some((*told, false)),
            "_TypeIs" => Some((*told, true)),
            _ => None,
        }
    }

    /// A result as a value: what tells something is a bool.
    pub(crate) fn plain_result(&self, returns: Type) -> Type {
        match self.guarded_by(returns) {
            Some(_) => builtin_instance(self.db, known::BOOL_CLASS, &[]),
            None => returns,
        }
    }

    /// `tuple[element, ...]`
    pub fn tuple_of_any(&self, element: Type) -> Type {
        let tuple = Tuple { prefix: [].into(), rest: Some(element), suffix: [].into() };
        Type::Tuple(self.db.store().intern_tuple(tuple))
    }
}

impl Infer<'_> {
    /// The type that an annotation names. What is no type is reported and unknown.
    pub fn annotation(&mut self, expr: ExprId) -> Type {
        let index = self.index;
        match &index.exprs[expr] {
            Expr::None => Type::None,
            Expr::Ellipsis => Type::Any,
            Expr::Binary { op: BinaryOp::BitOr, left, right } => {
                let left = self.annotation(*left);
                let right = self.annotation(*right);
                self.join([left, right])
            }
            Expr::Subscript { value, index: args, .. } => self.parameterized(expr, *value, *args),
            Expr::Str(Some(text)) => self.forward(expr, *text),
            Expr::Name(name, value) => {
                if let Some(alias) = self.alias_in_itself(expr, *name, *value) {
                    return alias;
                }
                let ty = self.expr(expr);
                let meant = match ty {
                    Type::Union(_) => self.stated(*value),
                    Type::Instance(_) | Type::Literal(_) | Type::Tuple(_) => self.meant_above(expr, *name),
                    _ => None,
                };
                self.meant_by_name(expr, meant.unwrap_or(ty))
            }
            Expr::Attribute { value, name, .. } => {
                // `*args: P.args, **kwargs: P.kwargs` stand together for the parameters (PEP 612).
                if matches!(self.text(*name), "args" | "kwargs")
                    && let Some(list) = self.parameter_variable(*value)
                {
                    return list;
                }
                let ty = self.expr(expr);
                self.meant_by_name(expr, ty)
            }
            Expr::Starred(inner) => self.annotation(*inner),
            Expr::Invalid => self.unknown(CauseKind::Reported, expr),
            Expr::List(_)
            | Expr::Tuple(_)
            | Expr::Dict(_)
            | Expr::Set(_)
            | Expr::Int(_)
            | Expr::Bool(_)
            | Expr::Float
            | Expr::Complex
            | Expr::Bytes(_)
            | Expr::FString(_)
            | Expr::TString(_)
            | Expr::Unary { .. }
            | Expr::Compare { .. }
            | Expr::Lambda(_)
            | Expr::Conditional { .. }
            | Expr::Named { .. }
            | Expr::Comprehension(_) => {
                self.problem(
                    expr,
                    ProblemKind::AnnotationInvalid { reason: "a value stands where a type is expected".into() },
                );
                self.unknown(CauseKind::Reported, expr)
            }
            Expr::Call { .. } => {
                let ty = self.expr(expr);
                if !ty.is_dynamic() {
                    let reason = "a call stands where a type is expected".into();
                    self.problem(expr, ProblemKind::AnnotationInvalid { reason });
                }
                self.unknown(CauseKind::Reported, expr)
            }
            _ => self.unknown(CauseKind::Unsupported, expr),
        }
    }

    /// A string where a type is expected that was not lowered as one, as in `List["Vessel"]` outside of annotations.
    fn forward(&mut self, expr: ExprId, text: Name) -> Type {
        if let Some(written) = self.index.quoted.get(&expr) {
            return self.annotation(*written);
        }
        let text_str = self.db.names().text(text).to_owned();
        let is_name = !text_str.is_empty() && text_str.chars().all(|char| char.is_alphanumeric() || char == '_');
        if !is_name {
            return self.unknown(CauseKind::Unsupported, expr);
        }
        match self.global(text) {
            Some(ty) => self.meant_by(expr, ty),
            None => self.unknown(CauseKind::Undefined, expr),
        }
    }

    /// What a name means in the module that a variable of the class, bound further down, hides: `-> str` before
    /// `str = property(…)`.
    fn meant_above(&mut self, expr: ExprId, name: Name) -> Option<Type> {
        let index = self.index;
        let scope = &index.scopes[self.scope_at(expr)];
        let symbol =
            scope.symbols.get(&name).filter(|_| matches!(scope.kind, leitmotiv_index::tree::ScopeKind::Class(_)))?;
        let at = index.spans[expr].start();
        let is_below = symbol.foreign.is_empty() && symbol.defs.iter().all(|def| index.defs[*def].range.start() > at);
        self.global(name).filter(|_| is_below)
    }

    /// The type that a name stands for. One that holds None stands for a class that is put there as the program runs.
    fn meant_by_name(&mut self, expr: ExprId, ty: Type) -> Type {
        if matches!(ty, Type::Class(_) | Type::SubclassOf(_)) && self.is_declared_variable(expr) {
            let reason = "this is a variable, which may hold another class".into();
            self.problem(expr, ProblemKind::AnnotationInvalid { reason });
        }
        if ty == Type::None { self.unknown(CauseKind::Dynamic, expr) } else { self.meant_by(expr, ty) }
    }

    /// The type that a value stands for when it is used as one.
    fn meant_by(&mut self, expr: ExprId, ty: Type) -> Type {
        let store = self.db.store();
        match ty {
            Type::Class(id) => self.bare_class(expr, id),
            Type::Form(id) => {
                let ty = *store.single(id);
                self.bare_alias(expr, ty)
            }
            Type::Special(special) => self.bare_special(expr, special),
            Type::Var(_) | Type::None | Type::Any | Type::Unknown(_) => ty,
            Type::SubclassOf(id) => *store.single(id),
            Type::Never => self.unknown(CauseKind::Cycle, expr),
            Type::Module(_) | Type::Namespace(_) => {
                self.problem(
                    expr,
                    ProblemKind::AnnotationInvalid { reason: "a module stands where a type is expected".into() },
                );
                self.unknown(CauseKind::Reported, expr)
            }
            Type::Function(id) => {
                let function = *store.function(id);
                if !function.file.origin(self.db).is_own() {
                    // What is a function in some library's source may be documented as a class.
                    return self.unknown(CauseKind::Dynamic, expr);
                }
                let record = crate::outline::function(self.db, function.file, function.function);
                if record.class.is_some() && crate::resolve::builtin(self.db, record.name).is_some() {
                    let at = Site::of_function(function.file, function.function);
                    self.problem(expr, ProblemKind::NameShadowed { name: record.name, at });
                    return self.unknown(CauseKind::Reported, expr);
                }
                let shown = crate::definitions::functions::shown(self.db, function.file, function.function);
                self.problem(
                    expr,
                    ProblemKind::AnnotationInvalid { reason: format!("`{shown}` is a function here, not a type") },
                );
                self.unknown(CauseKind::Reported, expr)
            }
            Type::Union(_) => {
                // `try: from a import T` with a fallback: any of the classes may be meant; `None` beside a class is none.
                let parts: Vec<Type> = crate::types::union::parts(store, &ty).to_vec();
                let types: Vec<Type> = parts
                    .into_iter()
                    .filter(|part| {
                        matches!(part, Type::Class(_) | Type::Form(_) | Type::Special(_) | Type::Any | Type::Unknown(_))
                    })
                    .map(|part| self.meant_by(expr, part))
                    .collect();
                if types.is_empty() { self.unknown(CauseKind::Dynamic, expr) } else { self.join(types) }
            }
            // A variable whose value is not a type that can be seen.
            _ => {
                if self.is_surely_a_value(expr, ty) {
                    let reason = "this is a variable, which holds a value".into();
                    self.problem(expr, ProblemKind::AnnotationInvalid { reason });
                    return self.unknown(CauseKind::Reported, expr);
                }
                self.unknown(CauseKind::Dynamic, expr)
            }
        }
    }

    /// Whether a name is bound but once, to what is a value and no type.
    fn is_surely_a_value(&mut self, expr: ExprId, ty: Type) -> bool {
        if !self.checking || self.only_binding(expr).is_none() {
            return false;
        }
        let store = self.db.store();
        match ty {
            Type::Literal(_) | Type::Tuple(_) | Type::Method(_) => true,
            Type::Instance(id) => {
                let class = store.instance(id).class;
                let info = classes::info(self.db, class);
                let is_typing = class.file.module(self.db) == known::TYPING;
                !is_typing
                    && info.unknown_base.is_none()
                    && !classes::derives_builtin(self.db, class, known::TYPE)
                    && !crate::resolve::is_builtin(self.db, class, known::OBJECT)
                    && self.member(ty, known::GETATTR).is_none()
            }
            _ => false,
        }
    }

    /// The one definition that a name has in the scope that it is read from: an assignment, or an annotation.
    fn only_binding(&self, expr: ExprId) -> Option<DefId> {
        let Expr::Name(name, _) = self.index.exprs[expr] else { return None };
        let mut next = Some(self.scope_at(expr));
        while let Some(current) = next {
            let record = &self.index.scopes[current];
            if let Some(symbol) = record.symbols.get(&name) {
                let [only] = symbol.defs.as_slice() else { return None };
                let binds = matches!(
                    self.index.defs[*only].kind,
                    DefKind::Assign { unpack: None, .. } | DefKind::Annotated { value: Some(_), .. }
                );
                return (binds && symbol.foreign.is_empty()).then_some(*only);
            }
            next = record.parent;
        }
        None
    }

    /// Whether a name is a variable that is declared to hold a class: it may hold another one, and is no type.
    fn is_declared_variable(&mut self, expr: ExprId) -> bool {
        let Some(only) = self.only_binding(expr).filter(|_| self.checking) else { return false };
        let DefKind::Annotated { annotation, .. } = self.index.defs[only].kind else { return false };
        // `Task: type[Task]` in a class means another `Task`.
        if self.index.spans[annotation].contains_range(self.index.spans[expr]) {
            return false;
        }
        matches!(self.declared_annotation(annotation), Some(Type::SubclassOf(_)))
    }

    /// A class without arguments: those that it could have are unknown.
    fn bare_class(&mut self, expr: ExprId, id: crate::types::InstanceId) -> Type {
        let instance = self.db.store().instance(id).clone();
        if crate::resolve::is_builtin(self.db, instance.class, known::TUPLE) && instance.args.is_empty() {
            let unknown = self.bare(expr);
            return self.tuple_of_any(unknown);
        }
        // `type` stands for `type[Any]` (typing specification, "Special types in annotations").
        if crate::resolve::is_builtin(self.db, instance.class, known::TYPE) {
            self.note_form(expr, ProblemKind::GenericBare);
        }
        let info = classes::info(self.db, instance.class);
        if let Some(cause) = info.description {
            return Type::Unknown(cause);
        }
        if instance.args.is_empty() && !info.params.is_empty() {
            let args =
                crate::definitions::type_variables::with_defaults(self.db, &info.params, &[], &mut || self.bare(expr));
            return Type::Instance(instance_of(self.db, instance.class, &args));
        }
        if instance.args.is_empty() { Type::Instance(id) } else { self.bare_alias(expr, Type::Instance(id)) }
    }

    /// Notes something of how a type is written, where it stands in the body that is checked: others look it up from elsewhere.
    pub(super) fn note_form(&mut self, expr: ExprId, kind: ProblemKind) {
        if self.index.bodies[self.body].exprs.contains(&expr.0) {
            self.problem(expr, kind);
        }
    }

    /// What is left open by a generic type without its arguments.
    fn bare(&mut self, expr: ExprId) -> Type {
        self.note_form(expr, ProblemKind::GenericBare);
        self.unknown(CauseKind::Bare, expr)
    }

    fn bare_special(&mut self, expr: ExprId, special: SpecialForm) -> Type {
        match special {
            SpecialForm::Any => {
                self.note_form(expr, ProblemKind::AnnotationAny);
                Type::Any
            }
            SpecialForm::NoReturn | SpecialForm::Never => Type::Never,
            SpecialForm::SelfType => self.self_variable(expr),
            SpecialForm::LiteralString => {
                match standard_class(self.db, known::TYPING, self.db.names().intern("_LiteralString")) {
                    Some(class) => Type::Instance(instance_of(self.db, class, &[])),
                    None => builtin_instance(self.db, known::STR, &[]),
                }
            }
            SpecialForm::Tuple => {
                let unknown = self.bare(expr);
                self.tuple_of_any(unknown)
            }
            SpecialForm::Type => {
                self.note_form(expr, ProblemKind::GenericBare);
                builtin_instance(self.db, known::TYPE, &[])
            }
            SpecialForm::Callable => {
                let unknown = self.bare(expr);
                crate::definitions::functions::any_callable(self.db.store(), unknown)
            }
            SpecialForm::DefaultDict
            | SpecialForm::OrderedDict
            | SpecialForm::Counter
            | SpecialForm::ChainMap
            | SpecialForm::Deque => self.collection(expr, special, &[]),
            SpecialForm::ClassVar | SpecialForm::Final => self.unknown(CauseKind::Bare, expr),
            _ => self.unknown(CauseKind::Unsupported, expr),
        }
    }

    /// The parts between the brackets.
    pub(crate) fn items(&self, args: ExprId) -> Vec<ExprId> {
        match &self.index.exprs[args] {
            Expr::Tuple(parts) => parts.to_vec(),
            _ => vec![args],
        }
    }

    fn parameterized(&mut self, expr: ExprId, head: ExprId, args: ExprId) -> Type {
        let store = self.db.store();
        let items = self.items(args);
        match self.expr(head) {
            Type::Special(special) => self.special_form(expr, special, &items),
            Type::Class(id) => {
                let instance = store.instance(id).clone();
                if crate::resolve::is_builtin(self.db, instance.class, known::TUPLE) {
                    return self.tuple_form(&items);
                }
                if crate::resolve::is_builtin(self.db, instance.class, known::TYPE) {
                    return self.type_form(&items);
                }
                // An alias of a generic class whose variables are given.
                if !instance.args.is_empty() {
                    return self.alias_with(Type::Instance(id), &items);
                }
                if classes::shown(self.db, instance.class) == "InitVar"
                    && let [item] = items.as_slice()
                {
                    // A parameter of the constructor, of the type that is given (PEP 557).
                    return self.annotation(*item);
                }
                let info = classes::info(self.db, instance.class);
                let kinds: Vec<VarKind> = info.params.iter().map(|var| store.variable(*var).kind).collect();
                let takes_tuple = kinds.contains(&VarKind::Tuple);
                let mut types: Vec<Type> = if kinds.contains(&VarKind::Params) && !takes_tuple {
                    self.arguments_with_lists(&kinds, args, &items)
                } else {
                    self.packed(&kinds, &items)
                };
                if info.params.is_empty() {
                    // A class that takes its arguments at run time only.
                    return Type::Instance(id);
                }
                if takes_tuple {
                    types.resize_with(info.params.len(), || self.unknown(CauseKind::Bare, expr));
                    return Type::Instance(instance_of(self.db, instance.class, &types));
                }
                if types.len() > info.params.len() {
                    let (takes, given) = (info.params.len(), types.len());
                    self.problem(expr, ProblemKind::GenericArguments { class: instance.class, takes, given });
                    types.truncate(info.params.len());
                }
                for ((item, var), ty) in items.iter().zip(&info.params).zip(&types) {
                    self.check_limits(*item, *var, *ty);
                }
                let needs = info.params.iter().filter(|var| {
                    self.checking && crate::definitions::type_variables::limits(self.db, **var).default.is_none()
                });
                if self.checking && types.len() < needs.count() {
                    let (takes, given) = (info.params.len(), types.len());
                    self.problem(expr, ProblemKind::GenericArguments { class: instance.class, takes, given });
                }
                let types =
                    crate::definitions::type_variables::with_defaults(self.db, &info.params, &types, &mut || {
                        self.unknown(CauseKind::Bare, expr)
                    });
                Type::Instance(instance_of(self.db, instance.class, &types))
            }
            Type::Form(id) => {
                let ty = *store.single(id);
                self.alias_with(ty, &items)
            }
            ty @ (Type::Any | Type::Unknown(_)) => ty,
            // A function hides the class that is meant.
            ty @ Type::Function(_) => self.meant_by(head, ty),
            _ if !matches!(self.index.exprs[head], Expr::Name(..) | Expr::Attribute { .. }) => {
                let reason = "a value stands where a type is expected".into();
                self.problem(expr, ProblemKind::AnnotationInvalid { reason });
                self.unknown(CauseKind::Reported, expr)
            }
            _ => self.unknown(CauseKind::Dynamic, expr),
        }
    }

    /// A type argument; a parameter list where none is asked for is passed over.
    pub(super) fn argument(&mut self, expr: ExprId) -> Type {
        match self.index.exprs[expr] {
            Expr::List(_) | Expr::Ellipsis => self.unknown(CauseKind::Unsupported, expr),
            _ => self.annotation(expr),
        }
    }

    fn special_form(&mut self, expr: ExprId, special: SpecialForm, items: &[ExprId]) -> Type {
        match special {
            SpecialForm::Union => {
                let parts: Vec<Type> = items.iter().map(|item| self.annotation(*item)).collect();
                self.join(parts)
            }
            SpecialForm::Optional => {
                let parts: Vec<Type> = items.iter().map(|item| self.annotation(*item)).chain([Type::None]).collect();
                self.join(parts)
            }
            SpecialForm::Callable => self.callable_form(expr, items),
            SpecialForm::Type => self.type_form(items),
            SpecialForm::Tuple => self.tuple_form(items),
            SpecialForm::Literal => {
                let parts: Vec<Type> = items.iter().map(|item| self.literal_form(*item)).collect();
                self.join(parts)
            }
            SpecialForm::Annotated
            | SpecialForm::Required
            | SpecialForm::NotRequired
            | SpecialForm::ReadOnly
            | SpecialForm::ClassVar
            | SpecialForm::Final => match items.first() {
                Some(first) => self.annotation(*first),
                None => self.unknown(CauseKind::Unsupported, expr),
            },
            // What stands for a type is taken as its class is (PEP 747).
            SpecialForm::TypeForm => match items.first() {
                Some(first) => {
                    let ty = self.annotation(*first);
                    if ty.is_dynamic() { ty } else { Type::SubclassOf(self.db.store().intern_type(ty)) }
                }
                None => self.unknown(CauseKind::Unsupported, expr),
            },
            // `Generic[Unpack[Ts]]`
            SpecialForm::Unpack if let [only] = items => self.annotation(*only),
            // What a function that tells gives: a bool that only such functions give.
            SpecialForm::TypeGuard | SpecialForm::TypeIs if let [only] = items => {
                let told = self.annotation(*only);
                let name = if special == SpecialForm::TypeIs { "_TypeIs" } else { "_TypeGuard" };
                match standard_class(self.db, known::TYPING, self.db.names().intern(name)) {
                    Some(class) => Type::Instance(instance_of(self.db, class, &[told])),
                    None => builtin_instance(self.db, known::BOOL_CLASS, &[]),
                }
            }
            SpecialForm::TypeGuard | SpecialForm::TypeIs => builtin_instance(self.db, known::BOOL_CLASS, &[]),
            SpecialForm::DefaultDict
            | SpecialForm::OrderedDict
            | SpecialForm::Counter
            | SpecialForm::ChainMap
            | SpecialForm::Deque => self.collection(expr, special, items),
            _ => self.unknown(CauseKind::Unsupported, expr),
        }
    }

    fn collection(&mut self, expr: ExprId, special: SpecialForm, items: &[ExprId]) -> Type {
        let name = match special {
            SpecialForm::DefaultDict => "defaultdict",
            SpecialForm::OrderedDict => "OrderedDict",
            SpecialForm::Counter => "Counter",
            SpecialForm::ChainMap => "ChainMap",
            _ => "deque",
        };
        let names = self.db.names();
        let Some(class) = standard_class(self.db, names.intern("collections"), names.intern(name)) else {
            return Type::Any;
        };
        if items.is_empty() {
            return self.bare_class(expr, instance_of(self.db, class, &[]));
        }
        let args: Vec<Type> = items.iter().map(|item| self.annotation(*item)).collect();
        Type::Instance(instance_of(self.db, class, &args))
    }

    fn tuple_form(&mut self, items: &[ExprId]) -> Type {
        let store = self.db.store();
        let exprs = &self.index.exprs;
        if let [element, dots] = items
            && exprs[*dots] == Expr::Ellipsis
        {
            let element = self.annotation(*element);
            return self.tuple_of_any(element);
        }
        if let [only] = items
            && matches!(&exprs[*only], Expr::Tuple(parts) if parts.is_empty())
        {
            return Type::Tuple(store.intern_tuple(Tuple { prefix: [].into(), rest: None, suffix: [].into() }));
        }
        let mut prefix = Vec::new();
        let mut rest = None;
        let mut suffix = Vec::new();
        for item in items {
            if let Some(inner) = self.unpacked(*item) {
                // `*tuple[int, ...]`, `*Ts` (PEP 646)
                match self.annotation(inner) {
                    Type::Tuple(id) if rest.is_none() => {
                        let inner = store.tuple(id);
                        prefix.extend(&inner.prefix);
                        rest = inner.rest;
                        suffix.extend(&inner.suffix);
                    }
                    ty if crate::types::substitute::is_variadic(store, ty) && rest.is_none() => rest = Some(ty),
                    ty if ty.is_dynamic() => rest = Some(ty),
                    _ => rest = Some(self.unknown(CauseKind::Unsupported, *item)),
                }
                continue;
            }
            let ty = self.annotation(*item);
            if rest.is_some() {
                suffix.push(ty);
            } else {
                prefix.push(ty);
            }
        }
        Type::Tuple(store.intern_tuple(Tuple { prefix: prefix.into(), rest, suffix: suffix.into() }))
    }

    /// What stands behind the star of `*Ts`, or in `Unpack[Ts]`.
    pub(crate) fn unpacked(&mut self, item: ExprId) -> Option<ExprId> {
        match self.index.exprs[item] {
            Expr::Starred(inner) => Some(inner),
            Expr::Subscript { value, index, .. } if self.expr(value) == Type::Special(SpecialForm::Unpack) => {
                Some(index)
            }
            _ => None,
        }
    }

    /// The annotation of `**fares`. Where it unpacks a typed dictionary (PEP 692), that is marked as a form: its items are
    /// parameters by keyword.
    pub(crate) fn keywords_annotation(&mut self, annotation: ExprId) -> Type {
        let ty = match self.unpacked(annotation) {
            Some(inner) => self.annotation(inner),
            None => return self.annotation(annotation),
        };
        match ty {
            Type::Instance(_) => Type::Form(self.db.store().intern_type(ty)),
            ty => ty,
        }
    }

    /// The annotation of `*berths`. A tuple that is unpacked there (PEP 646) is marked as a form: its elements are
    /// parameters by position.
    pub(crate) fn places_annotation(&mut self, annotation: ExprId) -> Type {
        let Some(inner) = self.unpacked(annotation) else { return self.annotation(annotation) };
        match self.annotation(inner) {
            ty @ Type::Tuple(_) => Type::Form(self.db.store().intern_type(ty)),
            ty => ty,
        }
    }

    /// The arguments of a class or alias, one for each of its variables: what a tuple of variables takes is one tuple.
    pub(super) fn packed(&mut self, kinds: &[VarKind], items: &[ExprId]) -> Vec<Type> {
        let Some(place) = kinds.iter().position(|kind| *kind == VarKind::Tuple) else {
            return items.iter().map(|item| self.argument(*item)).collect();
        };
        let behind = kinds.len() - place - 1;
        let end = items.len().saturating_sub(behind).max(place.min(items.len()));
        let (front, rest) = items.split_at(place.min(items.len()));
        let (middle, back) = rest.split_at(end - front.len());
        let mut types: Vec<Type> = front.iter().map(|item| self.argument(*item)).collect();
        // A tuple of variables that is passed on whole stands for itself.
        let packed = match middle {
            [only] if let Some(inner) = self.unpacked(*only) => self.annotation(inner),
            middle => self.tuple_form(middle),
        };
        types.push(packed);
        types.extend(back.iter().map(|item| self.argument(*item)));
        types
    }

    fn type_form(&mut self, items: &[ExprId]) -> Type {
        let Some(item) = items.first() else { return builtin_instance(self.db, known::TYPE, &[]) };
        let inner = self.annotation(*item);
        if inner.is_dynamic() {
            return builtin_instance(self.db, known::TYPE, &[]);
        }
        let store = self.db.store();
        crate::types::union::map(store, inner, |part| Type::SubclassOf(store.intern_type(part)))
    }

    fn callable_form(&mut self, expr: ExprId, items: &[ExprId]) -> Type {
        let [params, returns] = items else { return self.unknown(CauseKind::Unsupported, expr) };
        let returns = self.annotation(*returns);
        let store = self.db.store();
        match &self.index.exprs[*params] {
            Expr::List(parts) => {
                let Type::Tuple(id) = self.tuple_form(parts) else { return Type::Any };
                let tuple = store.tuple(id);
                // Nothing can be said of parameters behind those whose number is open.
                let is_plain = tuple.suffix.is_empty() && !tuple.rest.is_some_and(Type::is_dynamic);
                if !is_plain {
                    return crate::definitions::functions::any_callable(store, returns);
                }
                let list = crate::definitions::functions::anything(known::EMPTY, ParamKind::VarArgs);
                let params = crate::types::substitute::placed(tuple, &list).into();
                Type::Callable(store.intern_signature(Signature { params, returns }))
            }
            _ => match self.parameter_list(*params) {
                Some(Type::Callable(id)) => {
                    let params = store.signature(id).params.clone();
                    Type::Callable(store.intern_signature(Signature { params, returns }))
                }
                _ => crate::definitions::functions::any_callable(store, returns),
            },
        }
    }

    fn literal_form(&mut self, item: ExprId) -> Type {
        let store = self.db.store();
        let literal = match self.index.exprs[item] {
            Expr::Str(Some(text)) => Literal::Str(text),
            Expr::Bytes(Some(text)) => Literal::Bytes(text),
            Expr::Int(Some(value)) => Literal::Int(value),
            Expr::Bool(value) => Literal::Bool(value),
            Expr::None => return Type::None,
            Expr::Unary { op: UnaryOp::Neg, operand } => match self.index.exprs[operand] {
                Expr::Int(Some(value)) => Literal::Int(-value),
                _ => return self.unknown(CauseKind::Unsupported, item),
            },
            Expr::Unary { op: UnaryOp::Pos, operand } => match self.index.exprs[operand] {
                Expr::Int(Some(value)) => Literal::Int(value),
                _ => return self.unknown(CauseKind::Unsupported, item),
            },
            Expr::Subscript { .. } => return self.annotation(item),
            _ => {
                return match self.expr(item) {
                    ty @ Type::Literal(_) => ty,
                    Type::Form(id) => *store.single(id),
                    ty if ty.is_dynamic() => ty,
                    _ => self.unknown(CauseKind::Unsupported, item),
                };
            }
        };
        Type::Literal(store.intern_literal(literal))
    }

    /// `Self`, bound to the class around it.
    pub(crate) fn self_variable(&mut self, expr: ExprId) -> Type {
        let class = self.class_around(expr);
        let bound = class.map(|class| {
            let args: Vec<Type> = classes_params(self, class);
            Type::Instance(instance_of(self.db, class, &args))
        });
        let variable = TypeVariable {
            name: self.db.names().intern("Self"),
            file: self.file,
            at: Anchor::Module,
            kind: VarKind::SelfType,
            variance: Variance::Covariant,
            origin: VarOrigin::Own(bound),
        };
        Type::Var(self.db.store().intern_variable(variable))
    }

    /// The innermost class that an expression stands in.
    fn class_around(&self, expr: ExprId) -> Option<crate::types::ClassRef> {
        let at = self.index.spans[expr].start();
        // In its bases and decorators, a class is not there yet.
        let is_head = |class: &leitmotiv_index::tree::ClassId| {
            let record = &self.index.classes[*class];
            let mut head = record.args.iter().map(|arg| arg.value).chain(record.decorators.iter().copied());
            head.any(|part| self.index.spans[part].contains(at))
        };
        let around = self.index.classes_around.of(at).find(|class| !is_head(class));
        around.map(|class| crate::types::ClassRef { file: self.file, class })
    }

    /// The annotation of a parameter; a default of `None` does not make it optional (PEP 484 as amended).
    pub(crate) fn param_annotation(&mut self, annotation: ExprId, _default: Option<ExprId>) -> Type {
        self.annotation(annotation)
    }

    /// The type that an annotation of a variable declares; `None` where it declares no type of its own (`Final`).
    pub(crate) fn declared_annotation(&mut self, annotation: ExprId) -> Option<Type> {
        match &self.index.exprs[annotation] {
            Expr::Name(..) | Expr::Attribute { .. } => match self.expr(annotation) {
                Type::Special(SpecialForm::Final | SpecialForm::ClassVar | SpecialForm::TypeAlias) => None,
                // `x: Any` in stubs of special forms says what they are.
                Type::Special(SpecialForm::Any) => {
                    self.note_form(annotation, ProblemKind::AnnotationAny);
                    Some(Type::Any)
                }
                _ => Some(self.annotation(annotation)),
            },
            _ => Some(self.annotation(annotation)),
        }
    }

    /// Whether an annotation is `ClassVar` or `ClassVar[…]`.
    pub(crate) fn is_class_var(&mut self, annotation: ExprId) -> bool {
        let head = match self.index.exprs[annotation] {
            Expr::Subscript { value, .. } => value,
            _ => annotation,
        };
        matches!(self.index.exprs[head], Expr::Name(..) | Expr::Attribute { .. })
            && self.expr(head) == Type::Special(SpecialForm::ClassVar)
    }

    /// What `TypeGuard[T]` or `TypeIs[T]` as a return annotation says.
    pub(crate) fn guard(&mut self, returns: ExprId) -> Option<(Type, bool)> {
        let Expr::Subscript { value, index: args, .. } = self.index.exprs[returns] else { return None };
        match self.expr(value) {
            Type::Special(SpecialForm::TypeGuard) => Some((self.annotation(args), false)),
            Type::Special(SpecialForm::TypeIs) => Some((self.annotation(args), true)),
            _ => None,
        }
    }

    /// The declared type of a scope's name, by its last declaration that says one.
    pub(crate) fn declared_symbol(&mut self, scope: ScopeId, name: Name) -> Option<Type> {
        let index = self.index;
        let symbol = index.scopes[scope].symbols.get(&name)?;
        // A name that is bound thousands of times is asked for as often.
        if self.is_undeclared(scope, name, symbol) {
            return None;
        }
        for def in symbol.defs.iter().chain(&symbol.foreign).rev() {
            match &index.defs[*def].kind {
                DefKind::Annotated { annotation, .. } => {
                    if let Some(special) = self.special_declaration(*def) {
                        return Some(special);
                    }
                    if let Some(ty) = self.declared_annotation(*annotation) {
                        return Some(ty);
                    }
                }
                DefKind::Assign { comment: Some(comment), unpack: None, .. } => return Some(self.annotation(*comment)),
                // An annotated parameter stays what it was said to be when it is assigned again (typing specification,
                // "Type declarations").
                DefKind::Param { function, index: place }
                    if index.functions[*function].params[*place as usize].annotation.is_some() =>
                {
                    return Some(self.definition(*def));
                }
                _ => {}
            }
        }
        None
    }

    /// Whether none of a name's definitions says of what type it is.
    pub(crate) fn is_undeclared(&mut self, scope: ScopeId, name: Name, symbol: &Symbol) -> bool {
        if self.undeclared.contains(&(scope, name)) {
            return true;
        }
        let declares = |def: &DefId| {
            matches!(
                self.index.defs[*def].kind,
                DefKind::Annotated { .. } | DefKind::Assign { comment: Some(_), .. } | DefKind::Param { .. }
            )
        };
        let is_undeclared = !symbol.defs.iter().chain(&symbol.foreign).any(declares);
        if is_undeclared && symbol.defs.len() > 8 {
            self.undeclared.insert((scope, name));
        }
        is_undeclared
    }

    /// The special forms are declared in our stubs as `Optional: _SpecialForm`.
    fn special_declaration(&self, def: DefId) -> Option<Type> {
        if !self.file.is_stub(self.db) || self.file.origin(self.db) != leitmotiv_project::resolve::Origin::Bundled {
            return None;
        }
        let DefKind::Annotated { annotation, .. } = self.index.defs[def].kind else { return None };
        let Expr::Name(form, _) = self.index.exprs[annotation] else { return None };
        if self.db.names().text(form) != "_SpecialForm" {
            return None;
        }
        SpecialForm::by_name(self.db.names().text(self.index.defs[def].name)).map(Type::Special)
    }

    /// A type parameter of the new syntax (PEP 695).
    pub(crate) fn type_param(&self, def: DefId) -> Option<VarId> {
        let record = &self.index.defs[def];
        let DefKind::TypeParam { kind, .. } = record.kind else { return None };
        let (name, at) = (record.name, self.index.anchor_of_def(def));
        let variable = TypeVariable {
            name,
            file: self.file,
            at,
            kind: match kind {
                TypeParamKind::TypeVar => VarKind::Type,
                TypeParamKind::TypeVarTuple => VarKind::Tuple,
                TypeParamKind::ParamSpec => VarKind::Params,
            },
            variance: Variance::Inferred,
            origin: VarOrigin::Definition,
        };
        Some(self.db.store().intern_variable(variable))
    }
}

fn classes_params(infer: &Infer<'_>, class: crate::types::ClassRef) -> Vec<Type> {
    classes::info(infer.db, class).params.iter().map(|var| Type::Var(*var)).collect()
}
