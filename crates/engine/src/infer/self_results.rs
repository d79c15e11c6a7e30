//! What methods give back of themselves.

use leitmotiv_index::tree::{Arg, ArgKind, DefKind, Expr, ExprId, Value};
use leitmotiv_syntax::names::known;

use super::Infer;
use crate::definitions::functions;
use crate::types::Type;

/// Through this many names and calls the method's own object is followed. Said in docs/architecture.md.
const LONGEST: u32 = 6;

impl Infer<'_> {
    /// What a function gives back: `Self` for its own object as it was passed, a copy of it, or another of its own class.
    pub(crate) fn given_back(&mut self, value: ExprId) -> Type {
        let ty = self.expr(value);
        let is_method = self.index.bodies[self.body]
            .function
            .is_some_and(|function| self.index.functions[function].class.is_some());
        let is_own = is_method
            && matches!(ty, Type::Instance(_))
            && ty == self.own_instance(value)
            && self.is_own_object(value, LONGEST);
        if is_own {
            return self.self_variable(value);
        }
        // `self.__class__` is the class of whatever it is asked of.
        let is_own_class =
            is_method && matches!(ty, Type::Class(_) | Type::SubclassOf(_)) && self.is_receiver_class(value);
        match self.self_variable(value) {
            own @ Type::Var(_) if is_own_class => Type::SubclassOf(self.db.store().intern_type(own)),
            _ => ty,
        }
    }

    /// Whether an expression is the method's own object, or one that is of the same class whatever subclass that is.
    fn is_own_object(&mut self, expr: ExprId, left: u32) -> bool {
        let Some(left) = left.checked_sub(1) else { return false };
        match &self.index.exprs[expr] {
            Expr::Name(_, id) => match self.index.values[self.index.unnarrowed(*id)] {
                Value::Def(def) => match &self.index.defs[def].kind {
                    DefKind::Assign { value, unpack: None, .. } => {
                        self.index.defs[def].body == self.body && self.is_own_object(*value, left)
                    }
                    _ => self.is_receiver(expr) && matches!(self.index.values[*id], Value::Def(_)),
                },
                _ => false,
            },
            Expr::Call { callee, args } => {
                self.is_receiver_class(*callee) || self.gives_own_object(*callee, args, left)
            }
            _ => false,
        }
    }

    /// Whether an expression is the class of the method's own object: `cls`, `self.__class__`, `type(self)`.
    fn is_receiver_class(&mut self, expr: ExprId) -> bool {
        match &self.index.exprs[expr] {
            Expr::Name(..) => self.is_receiver(expr) && matches!(self.quietly(expr), Type::Class(_)),
            Expr::Attribute { value, name: known::DUNDER_CLASS, .. } => self.is_receiver(*value),
            Expr::Call { callee, args } => {
                matches!(&self.index.exprs[*callee], Expr::Name(known::TYPE, _))
                    && matches!(&args[..], [only] if only.kind == ArgKind::Positional && self.is_receiver(only.value))
            }
            _ => false,
        }
    }

    /// Whether a call gives the method's own object, or one like it: `self.copy()`, `super().copy()`, `copy.copy(self)`,
    /// `cls.__new__(cls)`.
    fn gives_own_object(&mut self, callee: ExprId, args: &[Arg], left: u32) -> bool {
        let first = match args {
            [first, ..] if first.kind == ArgKind::Positional => Some(first.value),
            _ => None,
        };
        if let Expr::Attribute { value: object, name, .. } = self.index.exprs[callee] {
            if name == known::NEW {
                return first.is_some_and(|first| self.is_receiver_class(first));
            }
            let is_super = matches!(self.quietly(object), Type::Super(_));
            if is_super || self.is_own_object(object, left) {
                return self.gives_self(callee);
            }
        }
        let Some(first) = first else { return false };
        let function = self.quietly(callee);
        if !matches!(function, Type::Function(_)) {
            return false;
        }
        // A function that gives what it takes.
        let [candidate] = &self.candidates(function)[..] else { return false };
        let passes = matches!(candidate.signature.returns, Type::Var(_))
            && candidate.signature.params.first().is_some_and(|param| param.ty == candidate.signature.returns);
        passes && self.is_own_object(first, left)
    }

    /// Whether a method gives an object of its receiver's class.
    fn gives_self(&mut self, callee: ExprId) -> bool {
        let store = self.db.store();
        let Type::Method(id) = self.quietly(callee) else { return false };
        let Type::Function(id) = store.method(id).function else { return false };
        let function = *store.function(id);
        let outline = crate::outline::function(self.db, function.file, function.function);
        let given = match outline.is_annotated {
            true => match &self.candidates(Type::Function(id))[..] {
                [candidate] => candidate.signature.returns,
                _ => return false,
            },
            false if outline.decorators.is_empty() => {
                functions::open_return_type(self.db, function.file, function.function)
            }
            false => return false,
        };
        matches!(given, Type::Var(var) if functions::is_self(store, var))
    }

    /// An instance of the class around, in terms of its own parameters.
    fn own_instance(&mut self, at: ExprId) -> Type {
        match self.self_variable(at) {
            Type::Var(id) => crate::definitions::type_variables::bound(self.db, id).unwrap_or(Type::Never),
            ty => ty,
        }
    }
}
