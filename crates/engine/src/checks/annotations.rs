//! The forms of annotations: what each takes, and where it may stand (typing specification, "Type annotations", "Type
//! qualifiers", "Generics").
//!
//! Working out what an annotation means ([`crate::infer::type_expressions`]) makes the best of what is written; here it is walked once
//! more, while checking only, and told where it is wrong.

use leitmotiv_index::tree::{ClassId, Expr, ExprId, FunctionId, Param, ParamKind, UnaryOp};
use leitmotiv_syntax::names::known;

use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::problems::{BadForm, BadPlace, ProblemKind};
use crate::types::substitute::variables;
use crate::types::{Binding, ClassRef, SpecialForm, Type, VarKind};

/// Where an annotation, or a part of one, stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Site {
    /// `count: …` in a module.
    Module,
    /// `count: …` in a function.
    Local,
    /// `self.count: …`
    Attribute,
    /// `count: …` in a class.
    Class(ClassId),
    /// A parameter, apart from the two below.
    Parameter,
    /// `*counts: …`
    Places,
    /// `**counts: …`
    Keywords,
    /// `-> …`
    Result,
    /// Where one type is taken: an argument, a part of a union.
    Inner,
    /// Where a tuple of variables may be unpacked as well.
    Unpacking,
    /// An argument of a class or an alias, which may be a list of parameters as well.
    Argument,
    /// The parameters of `Callable`.
    Parameters,
}

impl Infer<'_> {
    /// Looks at the annotation of a variable or an attribute.
    pub(crate) fn check_variable_form(&mut self, target: ExprId, annotation: ExprId, class: Option<ClassId>) {
        let site = match (&self.index.exprs[target], class, self.index.bodies[self.body].function) {
            (Expr::Attribute { .. }, _, _) => Site::Attribute,
            (_, Some(class), _) => Site::Class(class),
            (_, None, Some(_)) => Site::Local,
            (_, None, None) => Site::Module,
        };
        self.check_form(annotation, site);
    }

    /// Looks at the annotations of a function.
    pub(crate) fn check_function_forms(&mut self, function: FunctionId) {
        let record = &self.index.functions[function];
        for param in &record.params {
            let Some(annotation) = param.annotation else { continue };
            match (param.kind, self.paired(annotation)) {
                (ParamKind::VarArgs | ParamKind::KwArgs, Some(_)) => self.check_pair(&record.params, param),
                (ParamKind::VarArgs, None) => self.check_form(annotation, Site::Places),
                (ParamKind::KwArgs, None) => self.check_form(annotation, Site::Keywords),
                _ => self.check_form(annotation, Site::Parameter),
            }
        }
        if let Some(returns) = record.returns {
            self.check_form(returns, Site::Result);
            self.check_guard(function, returns);
        }
        self.check_unpacked_keywords(function);
    }

    /// `**kw: Unpack[Items]` beside parameters of the same names (PEP 692).
    fn check_unpacked_keywords(&mut self, function: FunctionId) {
        let record = &self.index.functions[function];
        let Some(annotation) =
            record.params.iter().find(|param| param.kind == ParamKind::KwArgs).and_then(|param| param.annotation)
        else {
            return;
        };
        if self.unpacked(annotation).is_none() {
            return;
        }
        let Type::Form(id) = self.speculate(|infer| infer.keywords_annotation(annotation)) else { return };
        let items = *self.db.store().single(id);
        let Some(fields) = self.typed_dict_fields(items) else { return };
        let takes_name = |kind| matches!(kind, ParamKind::Normal | ParamKind::KeywordOnly);
        let twice = record
            .params
            .iter()
            .find(|param| takes_name(param.kind) && fields.iter().any(|field| field.name == param.name));
        if let Some(param) = twice {
            self.malformed(annotation, BadForm::Twice(param.name));
        }
    }

    /// `TypeGuard` and `TypeIs` tell of the first argument that is given; what `TypeIs` names is within its type (typing
    /// specification, "Type narrowing").
    fn check_guard(&mut self, function: FunctionId, returns: ExprId) {
        let index = self.index;
        let record = &index.functions[function];
        let Expr::Subscript { value, .. } = index.exprs[returns] else { return };
        let Type::Special(special @ (SpecialForm::TypeGuard | SpecialForm::TypeIs)) = self.quietly(value) else {
            return;
        };
        let binding = crate::outline::functions::binding(self.db, index, function);
        let bound = usize::from(record.class.is_some() && binding != Binding::Static);
        let told = record
            .params
            .get(bound)
            .filter(|param| matches!(param.kind, ParamKind::Normal | ParamKind::PositionalOnly | ParamKind::VarArgs));
        let Some(told) = told else {
            self.misplaced(returns, BadPlace::Guard(special));
            return;
        };
        let Some((named, true)) = self.speculate(|infer| infer.guard(returns)) else { return };
        let Some(annotation) = told.annotation.filter(|_| told.kind != ParamKind::VarArgs) else { return };
        let taken = self.speculate(|infer| infer.annotation(annotation));
        let is_open = |ty| crate::types::substitute::has_variables(self.db.store(), ty);
        if !is_open(named) && !is_open(taken) && !self.is_assignable(named, taken) {
            self.malformed(returns, BadForm::Apart(named, taken));
        }
    }

    /// Looks at a value that may be an alias: only where it is a special form with arguments.
    pub(crate) fn check_alias_form(&mut self, value: ExprId) {
        // An alias of `Self` would mean another class wherever it stands (PEP 673).
        if matches!(self.index.exprs[value], Expr::Name(..) | Expr::Attribute { .. })
            && self.quietly(value) == Type::Special(SpecialForm::SelfType)
        {
            self.misplaced(value, BadPlace::SelfOutside);
        }
        if let Expr::Subscript { value: head, .. } = self.index.exprs[value]
            && matches!(self.index.exprs[head], Expr::Name(..) | Expr::Attribute { .. })
            && matches!(self.expr(head), Type::Special(_))
        {
            self.check_form(value, Site::Inner);
        }
    }

    /// The variable for parameters of `P.args` or `P.kwargs`, and whether it is the former.
    fn paired(&mut self, annotation: ExprId) -> Option<(Type, bool)> {
        let annotation = self.index.quoted.get(&annotation).copied().unwrap_or(annotation);
        let Expr::Attribute { value, name, .. } = self.index.exprs[annotation] else { return None };
        let is_places = match self.text(name) {
            "args" => true,
            "kwargs" => false,
            _ => return None,
        };
        Some((self.parameter_variable(value)?, is_places))
    }

    /// `*args: P.args, **kwargs: P.kwargs` stand together (PEP 612).
    fn check_pair(&mut self, params: &[Param], param: &Param) {
        let Some(annotation) = param.annotation else { return };
        let is_places = param.kind == ParamKind::VarArgs;
        let Some((variable, says_places)) = self.paired(annotation) else { return };
        let other = if is_places { ParamKind::KwArgs } else { ParamKind::VarArgs };
        let other = params.iter().find(|one| one.kind == other).and_then(|one| one.annotation);
        let goes_with = other.and_then(|other| self.paired(other)).is_some_and(|(one, _)| one == variable);
        let between = params.iter().any(|one| one.kind == ParamKind::KeywordOnly);
        if says_places != is_places || !goes_with || between {
            self.misplaced(annotation, BadPlace::Pair);
        }
    }

    fn misplaced(&mut self, expr: ExprId, why: BadPlace) {
        self.problem(expr, ProblemKind::AnnotationPlace { why });
    }

    fn malformed(&mut self, expr: ExprId, why: BadForm) {
        self.problem(expr, ProblemKind::AnnotationForm { why });
    }

    /// Walks an annotation, or a part of one.
    pub(crate) fn check_form(&mut self, expr: ExprId, site: Site) {
        let index = self.index;
        match &index.exprs[expr] {
            Expr::Binary { left, right, .. } => {
                self.check_quoted_part(expr, *left, *right);
                self.check_form(*left, Site::Inner);
                self.check_form(*right, Site::Inner);
            }
            // `Callable[[int, ...], str]`
            Expr::Ellipsis if site == Site::Unpacking => self.malformed(expr, BadForm::Callable),
            Expr::Str(_) => {
                if let Some(written) = index.quoted.get(&expr) {
                    self.check_form(*written, site);
                }
            }
            Expr::Starred(inner) => {
                if matches!(site, Site::Unpacking | Site::Argument | Site::Places) {
                    self.check_unpacked(*inner);
                } else {
                    self.misplaced(expr, BadPlace::Star);
                }
            }
            Expr::List(parts) if matches!(site, Site::Argument | Site::Parameters) => {
                parts.iter().for_each(|part| self.check_form(*part, Site::Unpacking));
            }
            // Elsewhere a list is no type at all, but for the argument of a class.
            Expr::List(_) if matches!(site, Site::Inner | Site::Unpacking) => {
                self.misplaced(expr, BadPlace::Parameters);
            }
            Expr::Subscript { value, index: args, .. } => self.check_subscript(expr, *value, *args, site),
            Expr::Name(..) | Expr::Attribute { .. } => self.check_name(expr, site),
            Expr::BoolOp { .. } => self.malformed(expr, BadForm::Choice),
            // Where the text itself is broken, that has been told.
            Expr::Invalid if index.faults.is_empty() => {
                let reason = "what is quoted here names no type".into();
                self.problem(expr, ProblemKind::AnnotationInvalid { reason });
            }
            _ => {}
        }
    }

    fn check_name(&mut self, expr: ExprId, site: Site) {
        if self.paired(expr).is_some() {
            self.misplaced(expr, BadPlace::Pair);
            return;
        }
        match self.quietly(expr) {
            Type::Special(special) => self.check_bare(expr, special, site),
            Type::Var(var) => match self.db.store().variable(var).kind {
                VarKind::Params if !matches!(site, Site::Argument | Site::Parameters) => {
                    self.misplaced(expr, BadPlace::Parameters);
                }
                VarKind::Tuple => self.misplaced(expr, BadPlace::Packed),
                _ => {}
            },
            _ => {}
        }
    }

    fn check_bare(&mut self, expr: ExprId, special: SpecialForm, site: Site) {
        match special {
            SpecialForm::Optional
            | SpecialForm::Union
            | SpecialForm::Literal
            | SpecialForm::Annotated
            | SpecialForm::Concatenate
            | SpecialForm::Unpack
            | SpecialForm::Required
            | SpecialForm::NotRequired
            | SpecialForm::ReadOnly
            | SpecialForm::TypeGuard
            | SpecialForm::TypeIs => self.malformed(expr, BadForm::Bare(special)),
            SpecialForm::Generic | SpecialForm::Protocol | SpecialForm::TypedDict => {
                self.misplaced(expr, BadPlace::Base(special))
            }
            SpecialForm::ClassVar | SpecialForm::Final => self.check_qualifier(expr, special, site),
            SpecialForm::TypeAlias if !matches!(site, Site::Module | Site::Class(_)) => {
                self.misplaced(expr, BadPlace::Alias);
            }
            SpecialForm::SelfType => self.check_self(expr),
            _ => {}
        }
    }

    /// A quoted name beside `|` is a text when the annotation is evaluated, and a text has no `|` (PEP 604, PEP 649).
    fn check_quoted_part(&mut self, expr: ExprId, left: ExprId, right: ExprId) {
        if self.file.is_stub(self.db) || self.index.postpones {
            return;
        }
        let text = self.file.text(self.db);
        let index = self.index;
        // Within a text, nothing of it is evaluated.
        let is_quoted = |part: ExprId| {
            let before = usize::from(index.spans[part].start());
            text[..before].ends_with(['"', '\''])
        };
        let is_whole = |part: ExprId| {
            let after = usize::from(index.spans[part].end());
            is_quoted(part) && text[after..].starts_with(['"', '\''])
        };
        let (quoted, other) = match (is_whole(left), is_whole(right)) {
            (true, false) => (left, right),
            (false, true) => (right, left),
            (true, true) => (left, right),
            _ => return,
        };
        // Of what the typing module makes, much takes a text beside it.
        let fails = is_whole(other)
            || match index.exprs[other] {
                Expr::None => true,
                Expr::Name(..) | Expr::Attribute { .. } => match self.quietly(other) {
                    Type::Class(id) => self.db.store().instance(id).class.file.module(self.db) != known::TYPING,
                    _ => false,
                },
                _ => false,
            };
        if fails && !matches!(index.exprs[quoted], Expr::Binary { .. }) {
            self.malformed(expr, BadForm::QuotedPart);
        }
    }

    fn check_qualifier(&mut self, expr: ExprId, special: SpecialForm, site: Site) {
        let fits = match special {
            SpecialForm::ClassVar => matches!(site, Site::Class(_)),
            SpecialForm::Final => matches!(site, Site::Class(_) | Site::Module | Site::Local | Site::Attribute),
            _ => matches!(site, Site::Class(class) if self.is_typed_dictionary(class)),
        };
        if !fits {
            self.misplaced(expr, BadPlace::Qualifier(special));
        }
    }

    fn is_typed_dictionary(&self, class: ClassId) -> bool {
        let info = classes::info(self.db, ClassRef { file: self.file, class });
        matches!(info.kind, ClassKind::TypedDict { .. }) || info.unknown_base.is_some()
    }

    /// `Self` among the bases of a class.
    pub(crate) fn check_base_self(&mut self, expr: ExprId) {
        let index = self.index;
        match &index.exprs[expr] {
            Expr::Subscript { index: args, .. } => self.check_base_self(*args),
            Expr::Tuple(parts) => parts.iter().for_each(|part| self.check_base_self(*part)),
            Expr::Binary { left, right, .. } => {
                self.check_base_self(*left);
                self.check_base_self(*right);
            }
            _ if self.quietly(expr) == Type::Special(SpecialForm::SelfType) => self.misplaced(expr, BadPlace::SelfBase),
            _ => {}
        }
    }

    /// `Self` stands in a class, and not where no object or class is bound, nor in a metaclass (PEP 673).
    fn check_self(&mut self, expr: ExprId) {
        let index = self.index;
        let at = index.spans[expr].start();
        let Some(class) = index.classes_around.of(at).next() else {
            self.misplaced(expr, BadPlace::SelfOutside);
            return;
        };
        let record = &index.classes[class];
        let nearest = index.functions_around.of(at).next().map(|id| (id, &index.functions[id]));
        let method = nearest.filter(|(_, function)| record.range.contains_range(function.range));
        let is_static = method.is_some_and(|(id, function)| {
            let binding = crate::outline::functions::binding(self.db, self.index, id);
            // `__new__` is handed the class all the same.
            function.class.is_some() && binding == Binding::Static && function.name != known::NEW
        });
        let is_annotated = method.is_some_and(|(_, function)| {
            let first = function.params.first().filter(|_| function.class.is_some());
            first.and_then(|first| first.annotation).is_some_and(|annotation| {
                let own = self.speculate(|infer| infer.annotation(annotation));
                let inner = match own {
                    Type::SubclassOf(id) => *self.db.store().single(id),
                    own => own,
                };
                let is_self =
                    |ty| matches!(ty, Type::Var(var) if self.db.store().variable(var).kind == VarKind::SelfType);
                !own.is_dynamic() && !is_self(inner) && !index.spans[annotation].contains(at)
            })
        });
        let info = classes::info(self.db, ClassRef { file: self.file, class });
        let is_type = |base: &crate::types::InstanceId| {
            crate::resolve::is_builtin(self.db, self.db.store().instance(*base).class, known::TYPE)
        };
        if is_static {
            self.misplaced(expr, BadPlace::SelfStatic);
        } else if is_annotated {
            self.misplaced(expr, BadPlace::SelfAnnotated);
        } else if info.mro.iter().any(is_type) {
            self.misplaced(expr, BadPlace::SelfMeta);
        }
    }

    fn check_subscript(&mut self, expr: ExprId, head: ExprId, args: ExprId, site: Site) {
        let items = self.items(args);
        match self.quietly(head) {
            Type::Special(special) => self.check_special(expr, special, &items, site),
            Type::Class(id) => {
                let instance = self.db.store().instance(id);
                let class = instance.class;
                let is = |name| crate::resolve::is_builtin(self.db, class, name);
                if is(known::TUPLE) {
                    self.check_tuple(&items);
                } else if is(known::TYPE) {
                    self.check_one(expr, SpecialForm::Type, &items, Site::Inner);
                } else if !instance.args.is_empty() {
                    // An alias of a generic class, whose variables may be of any kind.
                    items.iter().for_each(|item| self.check_form(*item, Site::Argument));
                    self.check_alias_arguments(expr, head, Type::Instance(id), &items);
                } else if let Some(site) = self.argument_site(class) {
                    items.iter().for_each(|item| self.check_form(*item, site));
                } else if self.takes_no_arguments(class) {
                    let kind = ProblemKind::GenericArguments { class, takes: 0, given: items.len() };
                    self.problem(expr, kind);
                }
            }
            Type::Form(id) => {
                items.iter().for_each(|item| self.check_form(*item, Site::Argument));
                let ty = *self.db.store().single(id);
                self.check_alias_arguments(expr, head, ty, &items);
            }
            _ => {}
        }
    }

    /// Whether a class is generic in nothing, and takes no arguments as the program runs either.
    fn takes_no_arguments(&self, class: ClassRef) -> bool {
        let db = self.db;
        let info = classes::info(db, class);
        let this = crate::resolve::instance_of(db, class, &[]);
        let has = |of, name: &str| classes::members::find(db, of, db.names().intern(name), None).is_some();
        let of_metaclass = info.metaclass.is_some_and(|metaclass| {
            let metaclass_info = classes::info(db, metaclass);
            metaclass_info.unknown_base.is_some() || has(crate::resolve::instance_of(db, metaclass, &[]), "__getitem__")
        });
        info.params.is_empty()
            && info.unknown_base.is_none()
            && !class.file.origin(db).is_untyped_source()
            && !of_metaclass
            && !has(this, "__class_getitem__")
            && !self.is_made_generic(class)
    }

    /// Whether our own stub may leave out that a class is generic: all but that of the builtins, where slices alone are written
    /// with arguments.
    fn is_made_generic(&self, class: ClassRef) -> bool {
        class.file.origin(self.db) == leitmotiv_project::resolve::Origin::Bundled
            && (class.file.module(self.db) != known::BUILTINS || classes::shown(self.db, class) == "slice")
    }

    /// What a class takes as its arguments; `None` where it takes them as the program runs only.
    fn argument_site(&self, class: ClassRef) -> Option<Site> {
        let info = classes::info(self.db, class);
        let takes = |kind| info.params.iter().any(|var| self.db.store().variable(*var).kind == kind);
        match info.params.as_slice() {
            [] => None,
            _ if takes(VarKind::Params) => Some(Site::Argument),
            _ if takes(VarKind::Tuple) => Some(Site::Unpacking),
            _ => Some(Site::Inner),
        }
    }

    /// A form that takes one argument.
    fn check_one(&mut self, expr: ExprId, special: SpecialForm, items: &[ExprId], inner: Site) {
        if let [item] = items {
            self.check_form(*item, inner);
        } else {
            self.malformed(expr, BadForm::One(special, items.len()));
        }
    }

    fn check_special(&mut self, expr: ExprId, special: SpecialForm, items: &[ExprId], site: Site) {
        match special {
            SpecialForm::Optional | SpecialForm::TypeForm => self.check_one(expr, special, items, Site::Inner),
            SpecialForm::TypeGuard | SpecialForm::TypeIs => self.check_one(expr, special, items, Site::Inner),
            SpecialForm::Type => self.check_one(expr, special, items, Site::Inner),
            SpecialForm::Union => items.iter().for_each(|item| self.check_form(*item, Site::Inner)),
            SpecialForm::Tuple => self.check_tuple(items),
            SpecialForm::Callable => self.check_callable(expr, items),
            SpecialForm::Concatenate => {
                if !matches!(site, Site::Parameters | Site::Argument) {
                    self.misplaced(expr, BadPlace::Parameters);
                }
                self.check_concatenate(expr, items);
            }
            SpecialForm::Literal => items.iter().for_each(|item| self.check_literal(*item)),
            SpecialForm::Annotated => {
                if items.len() < 2 {
                    self.malformed(expr, BadForm::Annotated);
                }
                if let Some(first) = items.first() {
                    self.check_form(*first, site);
                }
            }
            SpecialForm::ClassVar
            | SpecialForm::Final
            | SpecialForm::Required
            | SpecialForm::NotRequired
            | SpecialForm::ReadOnly => {
                self.check_qualifier(expr, special, site);
                // What is wrong with the place has been told.
                let takes_another = matches!(site, Site::Class(_)) && !self.repeats(special, items);
                self.check_one(expr, special, items, if takes_another { site } else { Site::Inner });
                if special == SpecialForm::ClassVar {
                    self.check_class_variable(expr, items);
                }
            }
            SpecialForm::Any
            | SpecialForm::NoReturn
            | SpecialForm::Never
            | SpecialForm::SelfType
            | SpecialForm::LiteralString
            | SpecialForm::TypeAlias => self.malformed(expr, BadForm::NoArguments(special)),
            SpecialForm::Unpack => {
                let may_unpack = matches!(site, Site::Unpacking | Site::Argument | Site::Places | Site::Keywords);
                if !may_unpack {
                    self.misplaced(expr, BadPlace::Star);
                }
                match items {
                    [item] if site != Site::Keywords => self.check_unpacked(*item),
                    [item] => self.check_items_unpacked(*item),
                    items => self.malformed(expr, BadForm::One(special, items.len())),
                }
            }
            SpecialForm::Generic | SpecialForm::Protocol => self.misplaced(expr, BadPlace::Base(special)),
            SpecialForm::DefaultDict
            | SpecialForm::OrderedDict
            | SpecialForm::Counter
            | SpecialForm::ChainMap
            | SpecialForm::Deque => {
                items.iter().for_each(|item| self.check_form(*item, Site::Inner));
            }
            _ => {}
        }
    }

    /// Whether a qualifier stands in itself, or `Required` in `NotRequired`.
    fn repeats(&mut self, outer: SpecialForm, items: &[ExprId]) -> bool {
        let [Expr::Subscript { value, .. }] = items.iter().map(|item| &self.index.exprs[*item]).collect::<Vec<_>>()[..]
        else {
            return false;
        };
        let Type::Special(inner) = self.quietly(*value) else { return false };
        let is_presence = |form| matches!(form, SpecialForm::Required | SpecialForm::NotRequired);
        inner == outer || is_presence(inner) && is_presence(outer)
    }

    /// There is one class variable whatever the class's own variables stand for (typing specification, "ClassVar").
    fn check_class_variable(&mut self, expr: ExprId, items: &[ExprId]) {
        let store = self.db.store();
        let [item] = items else { return };
        let ty = self.speculate(|infer| infer.annotation(*item));
        let open = variables(store, ty).into_iter().find(|var| store.variable(*var).kind != VarKind::SelfType);
        if let Some(var) = open {
            self.misplaced(expr, BadPlace::ClassVarOpen(var));
        }
    }

    /// What stands behind `**`: a typed dictionary (PEP 692).
    fn check_items_unpacked(&mut self, item: ExprId) {
        let ty = self.speculate(|infer| infer.annotation(item));
        let is_typed = match ty {
            Type::Instance(id) => {
                let info = classes::info(self.db, self.db.store().instance(id).class);
                matches!(info.kind, ClassKind::TypedDict { .. }) || info.unknown_base.is_some()
            }
            // One that is bound to a typed dictionary.
            Type::Var(_) => true,
            ty => ty.is_dynamic(),
        };
        if !is_typed {
            self.malformed(item, BadForm::NoItems(ty));
        }
    }

    /// What stands behind a star.
    fn check_unpacked(&mut self, item: ExprId) {
        match self.quietly(item) {
            Type::Var(var) if self.db.store().variable(var).kind == VarKind::Tuple => {}
            Type::Var(_) => self.malformed(item, BadForm::Unpacked),
            _ => self.check_form(item, Site::Inner),
        }
    }

    fn check_tuple(&mut self, items: &[ExprId]) {
        let exprs = &self.index.exprs;
        if let [only] = items
            && matches!(&exprs[*only], Expr::Tuple(parts) if parts.is_empty())
        {
            return;
        }
        let mut open = 0;
        for (place, item) in items.iter().enumerate() {
            if self.index.exprs[*item] == Expr::Ellipsis {
                let is_starred = place == 1 && matches!(self.index.exprs[items[0]], Expr::Starred(_));
                if place != 1 || items.len() != 2 || is_starred {
                    self.malformed(*item, BadForm::Dots);
                    return;
                }
                continue;
            }
            if self.is_of_any_length(*item) {
                open += 1;
                if open == 2 {
                    self.malformed(*item, BadForm::TwoOpen);
                }
            }
            self.check_form(*item, Site::Unpacking);
        }
    }

    /// Whether an item stands for a number of types that is open.
    fn is_of_any_length(&mut self, item: ExprId) -> bool {
        let Some(inner) = self.unpacked(item) else { return false };
        match self.speculate(|infer| infer.annotation(inner)) {
            Type::Tuple(id) => self.db.store().tuple(id).rest.is_some(),
            Type::Var(var) => self.db.store().variable(var).kind == VarKind::Tuple,
            _ => false,
        }
    }

    fn check_callable(&mut self, expr: ExprId, items: &[ExprId]) {
        let [params, returns] = items else {
            self.malformed(expr, BadForm::Callable);
            return;
        };
        self.check_form(*returns, Site::Inner);
        match self.index.exprs[*params] {
            Expr::List(_) => self.check_form(*params, Site::Parameters),
            Expr::Ellipsis => {}
            _ if self.is_concatenate(*params) => self.check_form(*params, Site::Parameters),
            _ => match self.quietly(*params) {
                Type::Var(var) if self.db.store().variable(var).kind == VarKind::Params => {}
                ty if ty.is_dynamic() => {}
                _ => self.malformed(*params, BadForm::Callable),
            },
        }
    }

    fn is_concatenate(&mut self, expr: ExprId) -> bool {
        matches!(self.index.exprs[expr], Expr::Subscript { value, .. }
            if self.quietly(value) == Type::Special(SpecialForm::Concatenate))
    }

    /// `Concatenate` ends in a variable for parameters, or in dots.
    fn check_concatenate(&mut self, expr: ExprId, items: &[ExprId]) {
        let Some((last, first)) = items.split_last() else { return };
        let ends_well = self.index.exprs[*last] == Expr::Ellipsis
            || self.parameter_variable(*last).is_some()
            || self.quietly(*last).is_dynamic();
        if !ends_well || first.is_empty() {
            self.malformed(expr, BadForm::Concatenate);
            return;
        }
        first.iter().for_each(|item| self.check_form(*item, Site::Unpacking));
    }

    /// What `Literal` takes: texts, bytes, whole numbers, truth values, None, members of enumerations, and other literals
    /// (PEP 586).
    fn check_literal(&mut self, item: ExprId) {
        let is_fine = match self.index.exprs[item] {
            Expr::Str(_) | Expr::Bytes(_) | Expr::Int(_) | Expr::Bool(_) | Expr::None => true,
            Expr::Unary { op: UnaryOp::Neg | UnaryOp::Pos, operand } => {
                matches!(self.index.exprs[operand], Expr::Int(_))
            }
            Expr::Subscript { .. } => {
                self.check_form(item, Site::Inner);
                true
            }
            Expr::Name(..) | Expr::Attribute { .. } => match self.quietly(item) {
                Type::Literal(id) => matches!(self.db.store().literal(id), crate::types::Literal::Enum(..)),
                Type::Form(_) => true,
                ty => ty.is_dynamic(),
            },
            _ => false,
        };
        if !is_fine {
            self.malformed(item, BadForm::Literal);
        }
    }
}
