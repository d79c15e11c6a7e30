//! Functions and classes that the engine must know by identity, because the typing specification or the language gives
//! their calls a meaning that no signature can say.

use leitmotiv_index::tree::{Arg, ArgKind, DefId, Expr, ExprId, ScopeKind};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use super::calls::given;
use crate::call::{Candidate, Candidates};
use crate::context::TypeContext;
use crate::outline::class_name;
use crate::problems::ProblemKind;
use crate::types::{
    CauseKind, FunctionRef, InstanceId, Literal, Method, Type, TypeVariable, VarKind, VarOrigin, Variance,
};

/// What a call makes that the typing module has a meaning of its own for.
enum Made {
    Variable(VarKind),
    NewType,
    Alias,
}

impl TypeContext<'_> {
    /// The name of a keyword argument, for messages.
    pub(crate) fn text(&self, name: Name) -> &str {
        self.db.names().text(name)
    }
}

impl Infer<'_> {
    /// A call of a function with a meaning of its own; `None` for any other.
    pub(crate) fn special_call(&mut self, expr: ExprId, function: FunctionRef, args: &[Arg]) -> Option<Type> {
        let module = self.db.names().text(function.file.module(self.db));
        if function.file.origin(self.db) != leitmotiv_project::resolve::Origin::Bundled {
            return None;
        }
        let name = self.db.names().text(crate::outline::function(self.db, function.file, function.function).name);
        let positional =
            |place: usize| args.iter().filter(|arg| arg.kind == ArgKind::Positional).nth(place).map(|arg| arg.value);
        match (module, name) {
            // What is wrong with their number is told as of any other function.
            ("typing" | "typing_extensions", "reveal_type") if args.len() != 1 => None,
            ("typing" | "typing_extensions", "assert_type" | "cast") if args.len() != 2 => None,
            ("typing" | "typing_extensions", "assert_never") if args.len() != 1 => None,
            ("typing" | "typing_extensions", "reveal_type") => {
                let ty = self.expr(positional(0)?);
                self.problem(expr, ProblemKind::RevealType { ty });
                Some(ty)
            }
            ("typing" | "typing_extensions", "assert_type") => {
                let given = self.expr(positional(0)?);
                let expected = self.annotation(positional(1)?);
                // Where nothing is left of a value the code does not run.
                let subject = positional(0)?;
                let is_ruled_out = given == Type::Never
                    && matches!(self.index.exprs[subject], Expr::Name(_, value) if self.index.unnarrowed(value) != value);
                if !is_ruled_out && !self.is_equivalent(given, expected) {
                    self.problem(expr, ProblemKind::AssertType { expected, given });
                }
                Some(given)
            }
            ("typing" | "typing_extensions", "assert_never") => {
                let value = positional(0)?;
                let given = self.expr(value);
                if given != Type::Never && !given.is_dynamic() {
                    self.problem(value, ProblemKind::AssertNever { given });
                }
                Some(Type::Never)
            }
            ("typing" | "typing_extensions", "cast") => {
                let ty = positional(0)?;
                if let Some(value) = positional(1) {
                    self.expr(value);
                }
                Some(self.annotation(ty))
            }
            ("dataclasses", "replace") => {
                let Type::Instance(id) = self.expr(positional(0)?) else { return None };
                let signature = crate::definitions::classes::dataclass::replacement(self.db, id)?;
                let candidate = Candidate { function: Some(function), ..Candidate::plain(signature, None) };
                Some(self.call_candidates(expr, &Candidates::only(candidate), &given(args)))
            }
            ("builtins", "isinstance" | "issubclass") => {
                let function = crate::outline::function(self.db, function.file, function.function).name;
                self.check_asked(function, positional(1)?);
                None
            }
            ("builtins", "sorted" | "min" | "max") => {
                self.check_ordered(args);
                None
            }
            ("builtins", "sum") => {
                self.check_summed(args);
                None
            }
            ("collections", "namedtuple") => {
                for arg in args {
                    self.expr(arg.value);
                }
                Some(self.unknown(CauseKind::Dynamic, expr))
            }
            ("builtins", "getattr") => {
                let object = self.expr(positional(0)?);
                let key = self.expr(positional(1)?);
                let default = positional(2).map(|default| self.expr(default));
                let Type::Literal(id) = key else { return Some(self.unknown(CauseKind::Dynamic, expr)) };
                let Literal::Str(key) = *self.db.store().literal(id) else { return None };
                let found = if object.is_dynamic() { None } else { self.member(object, key) };
                // Who writes it so for what is declared wants nobody to know.
                let is_value = !matches!(found, Some(Type::Function(_) | Type::Method(_) | Type::Class(_)));
                let is_said = matches!(object, Type::Instance(id)
                    if crate::definitions::classes::members::find(self.db, id, key, None).is_some_and(|found| found.member.declared));
                let is_hidden = is_value && !matches!(object, Type::Module(_)) && (is_said || default.is_none());
                let found = found.map(|ty| if is_hidden { self.unknown(CauseKind::Dynamic, expr) } else { ty });
                match (found, default) {
                    (Some(found), Some(default)) => Some(self.join([found, default])),
                    (Some(found), None) => Some(found),
                    _ => Some(self.unknown(CauseKind::Dynamic, expr)),
                }
            }
            _ => None,
        }
    }

    /// A call of a class with a meaning of its own; `None` for any other.
    pub(crate) fn special_construction(&mut self, expr: ExprId, class: InstanceId, args: &[Arg]) -> Option<Type> {
        let instance = self.db.store().instance(class);
        let file = instance.class.file;
        if file.origin(self.db) != leitmotiv_project::resolve::Origin::Bundled {
            return None;
        }
        let module = self.db.names().text(file.module(self.db));
        let name = self.db.names().text(class_name(self.db, instance.class));
        match (module, name) {
            ("functools", "partial") => self.partial(expr, class, &crate::infer::calls::given(args)),
            ("builtins", "super") => Some(self.super_object(expr, args)),
            ("builtins", "type") => {
                let [Arg { kind: ArgKind::Positional, value }] = args else {
                    for arg in args {
                        self.expr(arg.value);
                    }
                    return Some(self.unknown(CauseKind::Dynamic, expr));
                };
                let ty = self.expr(*value);
                Some(self.class_of(ty, expr))
            }
            // `f = staticmethod(f)`, as it was written before there were decorators.
            ("builtins", "staticmethod" | "classmethod") => {
                let [Arg { kind: ArgKind::Positional, value }] = args else { return None };
                let Type::Function(id) = self.expr(*value) else { return None };
                let binding =
                    if name == "classmethod" { crate::types::Binding::Class } else { crate::types::Binding::Static };
                let function = FunctionRef { binding, ..*self.db.store().function(id) };
                Some(Type::Function(self.db.store().intern_function(function)))
            }
            ("enum", "Enum" | "IntEnum" | "StrEnum" | "Flag" | "IntFlag") if args.len() > 1 => {
                for arg in args {
                    self.expr(arg.value);
                }
                Some(self.unknown(CauseKind::Dynamic, expr))
            }
            ("typing", "NewType") if args.len() != 2 => None,
            ("typing", "NewType" | "NamedTuple") => {
                for arg in args {
                    self.expr(arg.value);
                }
                Some(self.unknown(CauseKind::Dynamic, expr))
            }
            _ => None,
        }
    }

    /// `type(x)`
    fn class_of(&mut self, ty: Type, expr: ExprId) -> Type {
        let store = self.db.store();
        crate::types::union::map(store, ty, |part| match part {
            Type::Instance(_) => Type::SubclassOf(store.intern_type(part)),
            Type::Literal(_) | Type::Tuple(_) => match self.nominal(part) {
                Some(id) => Type::Class(id),
                None => self.unknown(CauseKind::Dynamic, expr),
            },
            part if part.is_dynamic() => part,
            Type::None => match crate::resolve::standard_class(self.db, known::TYPES, known::NONE_TYPE) {
                Some(class) => self.class_value(class),
                None => self.builtin(known::TYPE),
            },
            _ => self.builtin(known::TYPE),
        })
    }

    /// `super()` with and without arguments.
    fn super_object(&mut self, expr: ExprId, args: &[Arg]) -> Type {
        let (start, receiver) = match args {
            [] => {
                self.check_super(expr);
                let Some(found) = self.method_around() else { return self.unknown(CauseKind::Dynamic, expr) };
                found
            }
            [class, object] => {
                let class = self.expr(class.value);
                (class, self.expr(object.value))
            }
            _ => return self.unknown(CauseKind::Dynamic, expr),
        };
        if receiver.is_dynamic() || !matches!(start, Type::Class(_)) {
            return self.unknown(CauseKind::Dynamic, expr);
        }
        Type::Super(self.db.store().intern_method(Method { function: start, receiver }))
    }

    /// `super()` alone asks for a first argument that is an object of the class, or a class below it (library reference, "Built-in
    /// Functions").
    fn check_super(&mut self, expr: ExprId) {
        let Some(function) = self.index.bodies[self.body].function else { return };
        let record = &self.index.functions[function];
        let is_static = record
            .decorators
            .iter()
            .any(|decorator| self.index.decorator_name(*decorator) == Some(known::STATICMETHOD));
        if record.class.is_some() && is_static && record.params.is_empty() {
            let callee = crate::problems::Callee { shown: "super".into(), at: None, param: None };
            let params = vec![self.db.names().intern("type"), self.db.names().intern("object")];
            self.problem(expr, ProblemKind::CallMissing { callee, params });
        }
    }

    /// The class and first parameter of the method that this body belongs to.
    fn method_around(&mut self) -> Option<(Type, Type)> {
        let mut function = self.index.bodies[self.body].function?;
        loop {
            let record = &self.index.functions[function];
            if let Some(class) = record.class {
                let class = crate::types::ClassRef { file: self.file, class };
                let start = self.class_value(class);
                // In `__new__` the first parameter is the class.
                let receiver = if record.name == known::NEW {
                    start
                } else {
                    crate::definitions::functions::receiver_type(self.db, self.file, function)
                };
                return Some((start, receiver));
            }
            let mut scope = Some(record.parent);
            function = loop {
                let current = scope?;
                match self.index.scopes[current].kind {
                    ScopeKind::Function(outer) => break outer,
                    _ => scope = self.index.scopes[current].parent,
                }
            };
        }
    }

    /// Applies a decorator to a function's value.
    pub(crate) fn decorated(&mut self, decorator: ExprId, ty: Type) -> Type {
        let index = self.index;
        let head = match &index.exprs[decorator] {
            Expr::Call { callee, .. } => *callee,
            _ => decorator,
        };
        let name = match index.exprs[head] {
            Expr::Name(name, _) | Expr::Attribute { name, .. } => name,
            _ => known::EMPTY,
        };
        let value = self.expr(head);
        let from_standard = match value {
            Type::Function(id) => {
                self.db.store().function(id).file.origin(self.db) == leitmotiv_project::resolve::Origin::Bundled
            }
            Type::Class(id) => {
                self.db.store().instance(id).class.file.origin(self.db) == leitmotiv_project::resolve::Origin::Bundled
            }
            _ => false,
        };
        let text = self.db.names().text(name);
        if from_standard
            && (crate::definitions::functions::keeps_function(text) || matches!(text, "lru_cache" | "cache"))
        {
            return ty;
        }
        if from_standard && matches!(text, "abstractproperty" | "property") {
            return crate::definitions::functions::as_property(ty);
        }
        if let Type::Class(id) = value {
            let class = self.db.store().instance(id).class;
            // Descriptors that behave as properties do.
            if from_standard && matches!(text, "cached_property" | "DynamicClassAttribute") {
                return crate::definitions::functions::as_property(ty);
            }
            if crate::definitions::classes::derives_builtin(self.db, class, known::PROPERTY) {
                return crate::definitions::functions::as_property(ty);
            }
        }
        // What a decorator gives for just this function cannot be told from its text alone.
        let calls = std::mem::replace(&mut self.calls, u32::MAX);
        let decorator_type = self.expr(decorator);
        let result = if decorator_type.is_dynamic() { decorator_type } else { self.call_with(decorator_type, &[ty]) };
        self.calls = calls;
        if decorator_type.is_dynamic() {
            return Type::Unknown(self.cause_named(CauseKind::Decorator, decorator, name));
        }
        // A wrapper made by an unannotated decorator may pass on its arguments in ways that its own signature does not
        // show; only annotations, or giving the function back, make the result sure.
        if result == ty {
            return ty;
        }
        let is_said = match decorator_type {
            // What a call of an annotated function gives is annotated.
            Type::Callable(_) => self.is_said(decorator),
            _ => self.says_result(decorator_type),
        };
        if let Type::Callable(id) = result
            && is_said
            && let [own] = &*self.candidates(ty)
            && own.signature == *self.db.store().signature(id)
        {
            // Nothing changed: then messages may speak of the function.
            return ty;
        }
        if result.is_unknown() || !is_said {
            return Type::Unknown(self.cause_named(CauseKind::Decorator, decorator, name));
        }
        result
    }

    /// Whether a callable's result is annotated.
    fn says_result(&mut self, ty: Type) -> bool {
        match ty {
            Type::Class(_) => true,
            Type::Instance(_) => match self.member(ty, known::CALL) {
                Some(method @ Type::Method(_)) => self.says_result(method),
                _ => false,
            },
            _ => {
                self.candidates(ty).first().is_some_and(|candidate| !candidate.inferred && candidate.function.is_some())
            }
        }
    }

    /// An assignment whose value gets its meaning from the name it is assigned to: type variables.
    pub(crate) fn special_assignment(&mut self, def: DefId, value: ExprId) -> Option<Type> {
        let index = self.index;
        let Expr::Call { callee, args } = &index.exprs[value] else { return None };
        let kind = match self.variable_call(*callee)? {
            Made::Variable(kind) => kind,
            Made::NewType => return self.new_type(value),
            Made::Alias => return self.called_alias(*callee, args),
        };
        if !self.is_of_typing(*callee) {
            return None;
        }
        Some(self.type_variable(def, kind, args))
    }

    /// What a call makes that is assigned to a name, told by the name that is called, under whatever name it was imported.
    fn variable_call(&self, callee: ExprId) -> Option<Made> {
        let name = match self.index.exprs[callee] {
            Expr::Name(name, _) => {
                let symbol = self.index.scopes[leitmotiv_index::tree::ScopeId(0)].symbols.get(&name);
                match symbol.and_then(|symbol| symbol.defs.first()).map(|def| &self.index.defs[*def].kind) {
                    Some(leitmotiv_index::tree::DefKind::ImportFrom { name, alias: true, .. }) => *name,
                    _ => name,
                }
            }
            Expr::Attribute { name, .. } => name,
            _ => return None,
        };
        match self.db.names().text(name) {
            "TypeVar" => Some(Made::Variable(VarKind::Type)),
            "ParamSpec" => Some(Made::Variable(VarKind::Params)),
            "TypeVarTuple" => Some(Made::Variable(VarKind::Tuple)),
            "NewType" => Some(Made::NewType),
            "TypeAliasType" => Some(Made::Alias),
            _ => None,
        }
    }

    fn is_of_typing(&mut self, callee: ExprId) -> bool {
        matches!(self.speculate(|infer| infer.expr(callee)), Type::Class(id)
            if self.db.store().instance(id).class.file.module(self.db) == known::TYPING)
    }

    /// Looks at a call that makes a type variable.
    pub(crate) fn check_variable(&mut self, name: Name, value: ExprId) {
        let index = self.index;
        if let Expr::Call { callee, args } = &index.exprs[value]
            && let Some(Made::Variable(kind)) = self.variable_call(*callee)
            && self.is_of_typing(*callee)
        {
            self.check_variable_call(name, kind, args, value);
        }
    }

    /// `Depths = TypeAliasType("Depths", list[T], type_params=(T,))`: its variables come in the order of their appearance.
    fn called_alias(&mut self, callee: ExprId, args: &[Arg]) -> Option<Type> {
        let is_typing = self.is_of_typing(callee);
        let second = args.get(1).filter(|arg| is_typing && arg.kind == ArgKind::Positional)?;
        let ty = self.annotation(second.value);
        Some(self.form(ty))
    }

    /// A `NewType` whose call cannot be read as a class is unknown.
    fn new_type(&mut self, value: ExprId) -> Option<Type> {
        Some(self.unknown(CauseKind::Dynamic, value))
    }

    fn type_variable(&mut self, def: DefId, kind: VarKind, args: &[Arg]) -> Type {
        let record = &self.index.defs[def];
        let (name, at) = (record.name, self.index.anchor_of_def(def));
        let mut variance = Variance::Invariant;
        for arg in args {
            match arg.kind {
                ArgKind::Keyword(name) if self.text(name) == "infer_variance" && self.is_true(arg.value) => {
                    variance = Variance::Inferred;
                }
                ArgKind::Keyword(known::COVARIANT) if self.is_true(arg.value) => variance = Variance::Covariant,
                ArgKind::Keyword(known::CONTRAVARIANT) if self.is_true(arg.value) => {
                    variance = Variance::Contravariant;
                }
                _ => {}
            }
        }
        let variable = TypeVariable { name, file: self.file, at, kind, variance, origin: VarOrigin::Definition };
        Type::Var(self.db.store().intern_variable(variable))
    }

    pub(crate) fn is_true(&self, expr: ExprId) -> bool {
        self.index.exprs[expr] == Expr::Bool(true)
    }
}
