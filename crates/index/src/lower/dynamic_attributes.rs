//! Attributes that are made as the program runs, by `setattr` or by way of `__dict__`: their names cannot be read.

use leitmotiv_syntax::ast::{self, Expr as Ast};
use leitmotiv_syntax::names::{Name, known};

use super::Lower;
use crate::tree::{ClassId, Expr, ExprId, Patch};

/// Whether an expression is the `__dict__` of something.
fn is_namespace(expr: &Ast) -> bool {
    matches!(expr, Ast::Attribute(attribute) if attribute.attr.as_str() == "__dict__")
}

/// `globals()`, or the same of a function's module: `call.__globals__`
pub(super) fn is_globals(expr: &Ast) -> bool {
    match expr {
        Ast::Call(call) => matches!(&*call.func, Ast::Name(name) if name.id.as_str() == "globals"),
        Ast::Attribute(attribute) => attribute.attr.as_str() == "__globals__",
        _ => false,
    }
}

/// Whether what is called only looks at what it is given: some functions of the language, and `other.__dict__.update`.
pub(super) fn only_reads(function: &Ast) -> bool {
    is_update(function)
        || matches!(function, Ast::Name(name) if matches!(name.id.as_str(),
            "all" | "any" | "bool" | "dict" | "enumerate" | "eval" | "frozenset" | "iter" | "len" | "list" | "repr" | "set"
            | "sorted" | "str" | "tuple"))
}

fn is_update(function: &Ast) -> bool {
    matches!(function, Ast::Attribute(attribute)
        if attribute.attr.as_str() == "update" && is_namespace(&attribute.value))
}

impl<'a> Lower<'a> {
    /// Notes that the class of the method around makes attributes whose names cannot be read, if `object` is the method's
    /// own; says whether it is.
    pub(super) fn note_made_attributes(&mut self, object: ExprId) -> bool {
        let class = self.class_of_own(object);
        if let Some(class) = class {
            self.index.classes[class].makes_attributes = true;
        }
        class.is_some()
    }

    /// `put = super().__setattr__`: what is put by it cannot be read.
    pub(super) fn note_kept_setter(&mut self, value: &'a Ast) {
        if let (Ast::Attribute(attribute), Some((_, class, _))) = (value, self.class_first_params.last())
            && attribute.attr.as_str() == "__setattr__"
        {
            self.index.classes[*class].makes_attributes = true;
        }
    }

    /// The class of the method around, if `object` is the method's own.
    fn class_of_own(&self, object: ExprId) -> Option<ClassId> {
        let Expr::Name(name, _) = self.index.exprs[object] else { return None };
        self.class_first_params.last().filter(|(first, ..)| *first == name).map(|(_, class, _)| *class)
    }

    /// Lowers an expression whose namespace, if it is one, is only read: `self.__dict__.get(…)`, `name in self.__dict__`.
    pub(super) fn namespace_read(&mut self, expr: &'a Ast) -> ExprId {
        if is_namespace(expr) { self.making_none(expr) } else { self.expr(expr) }
    }

    /// Lowers what is called. `copy.__dict__.update(self.__dict__)`, and `self.__dict__.update(state)` where an object is
    /// made from its state (data model, `__setstate__`), bring attributes back that the class gives its objects elsewhere.
    pub(super) fn restored(&mut self, call: &'a ast::ExprCall) -> ExprId {
        let from_another = || call.arguments.args.iter().any(holds_namespace);
        let restores = is_update(&call.func) && (self.is_made_from_state() || from_another());
        if restores { self.making_none(&call.func) } else { self.expr(&call.func) }
    }

    /// Whether an object is made from its state here (data model, `__setstate__`).
    fn is_made_from_state(&self) -> bool {
        self.class_first_params.last().is_some_and(|(.., function)| {
            let name = self.index.functions[*function].name;
            self.name_text(name) == "__setstate__"
        })
    }

    /// `namespace["berths"] = …` in a metaclass's `__new__`, which gets the namespace as a parameter (data model, "Metaclasses").
    pub(super) fn note_rewritten(&mut self, container: ExprId, key: ExprId) {
        let Some((_, class, function)) = self.class_first_params.last().copied() else { return };
        // By a name that cannot be read, it may be any.
        let key = if let Expr::Str(Some(key)) = self.index.exprs[key] { key } else { known::EMPTY };
        let Expr::Name(name, _) = self.index.exprs[container] else { return };
        let record = &self.index.functions[function];
        let is_namespace = record.params.iter().skip(1).any(|param| param.name == name);
        if record.name == known::NEW && is_namespace {
            self.index.classes[class].rewrites.insert(key);
        }
    }

    /// An attribute that is assigned on an object.
    pub(super) fn note_patched(&mut self, name: Name, object: ExprId) {
        let body = self.body;
        self.index.patched.entry(name).or_default().push(Patch { body, object });
    }

    /// `setattr(object, name, …)`
    pub(super) fn note_set_attribute(&mut self, object: ExprId, name: ExprId) {
        match self.index.exprs[name] {
            Expr::Str(Some(name)) => {
                self.note_patched(name, object);
            }
            _ if self.is_made_from_state() && self.class_of_own(object).is_some() => {}
            _ => {
                if !self.note_made_attributes(object) {
                    // Any attribute of any object may be made here.
                    self.note_patched(known::DUNDER_CLASS, object);
                }
            }
        }
    }

    /// `self.__dict__["vessel"] = …`: one attribute is made, and its name can be read.
    pub(super) fn namespace_item(&mut self, subscript: &'a ast::ExprSubscript) -> ExprId {
        match &*subscript.slice {
            Ast::StringLiteral(name) if is_namespace(&subscript.value) => {
                let name = self.names.intern(name.value.to_str());
                let namespace = self.making_none(&subscript.value);
                if let Expr::Attribute { value: object, .. } = self.index.exprs[namespace] {
                    self.note_patched(name, object);
                }
                namespace
            }
            _ => self.expr(&subscript.value),
        }
    }

    /// `globals()["tide"] = …`
    pub(super) fn note_made_name(&mut self, subscript: &'a ast::ExprSubscript) {
        match &*subscript.slice {
            _ if !is_globals(&subscript.value) => {}
            Ast::StringLiteral(name) => {
                let name = self.names.intern(name.value.to_str());
                self.index.made_names.insert(name);
            }
            _ => self.index.makes_names = true,
        }
    }

    /// Lowers an expression in which no attribute is made.
    fn making_none(&mut self, expr: &'a Ast) -> ExprId {
        let class = self.class_first_params.last().map(|(_, class, _)| *class);
        let before = class.map(|class| self.index.classes[class].makes_attributes);
        let lowered = self.expr(expr);
        if let (Some(class), Some(before)) = (class, before) {
            self.index.classes[class].makes_attributes = before;
        }
        lowered
    }
}

/// Whether the attributes of another object are what is passed: `other.__dict__`, a copy of it, or items chosen from it.
fn holds_namespace(expr: &Ast) -> bool {
    match expr {
        Ast::Call(call) => holds_namespace(&call.func) || call.arguments.args.iter().any(holds_namespace),
        Ast::Attribute(attribute) => is_namespace(expr) || holds_namespace(&attribute.value),
        Ast::DictComp(comprehension) => {
            comprehension.generators.iter().any(|generator| holds_namespace(&generator.iter))
        }
        _ => false,
    }
}
