//! Whether somebody said what a value's type is, by an annotation somewhere, or whether it was only concluded.
//!
//! What was concluded from one use need not hold for the next: a list that starts with numbers may be meant to take text
//! as well. What was said must hold.

use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId, ScopeId, Value, ValueId};

use super::Infer;
use crate::classes;
use crate::functions;
use crate::types::Type;

/// How many definitions are followed.
const FARTHEST: u32 = 8;

impl Infer<'_> {
    /// Whether the type of an expression rests on annotations. Displays and literals rest on none.
    pub(crate) fn is_said(&mut self, expr: ExprId) -> bool {
        self.said_expr(expr, 0)
    }

    /// Whether an expression is an element of a container whose elements nobody said the type of: which of the types that
    /// were put in comes out here, the container does not know.
    pub(crate) fn is_loose_element(&mut self, expr: ExprId) -> bool {
        self.loose_element(expr, 0)
    }

    fn loose_element(&mut self, expr: ExprId, depth: u32) -> bool {
        if depth > FARTHEST {
            return false;
        }
        let index = self.index;
        match index.exprs[expr] {
            Expr::Subscript { value, .. } => {
                // The items of a tuple are told apart.
                let container = self.quietly(value);
                !matches!(container, Type::Tuple(_)) && !self.is_said(value)
            }
            Expr::Name(_, value) => match index.values[index.unnarrowed(value)] {
                Value::Def(def) => match index.defs[def].kind {
                    DefKind::Assign { value, .. } | DefKind::Named { value } => self.loose_element(value, depth + 1),
                    DefKind::For { iterable, .. } => !self.is_said(iterable),
                    _ => false,
                },
                _ => false,
            },
            Expr::Call { callee, .. } => match index.exprs[callee] {
                Expr::Attribute { value, name, .. } => {
                    matches!(self.db.names().text(name), "get" | "pop" | "setdefault" | "popleft") && !self.is_said(value)
                }
                _ => false,
            },
            _ => false,
        }
    }

    fn said_expr(&mut self, expr: ExprId, depth: u32) -> bool {
        if depth > FARTHEST {
            return false;
        }
        let depth = depth + 1;
        match self.index.exprs[expr] {
            Expr::Name(_, value) => self.said_value(value, depth),
            Expr::Attribute { value, name, .. } => {
                let object = self.quietly(value);
                self.said_attribute(object, name)
            }
            Expr::Call { callee, .. } => {
                let callee = self.quietly(callee);
                self.says_what_it_gives(callee)
            }
            Expr::Subscript { value, .. } | Expr::Await(value) | Expr::Starred(value) => self.said_expr(value, depth),
            Expr::Named { value, .. } => self.said_expr(value, depth),
            Expr::Conditional { then, otherwise, .. } => {
                self.said_expr(then, depth) && self.said_expr(otherwise, depth)
            }
            _ => false,
        }
    }

    fn said_value(&mut self, value: ValueId, depth: u32) -> bool {
        let root = self.index.unnarrowed(value);
        match self.index.values[root] {
            Value::Def(def) => self.said_def(def, depth),
            Value::Global(name) => {
                let index = self.index;
                let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else { return true };
                self.declared_symbol(ScopeId(0), name).is_some()
                    || symbol.defs.iter().chain(&symbol.foreign).all(|def| {
                        index.defs[*def].body == self.body && self.said_def(*def, depth)
                            || matches!(index.defs[*def].kind, DefKind::Class(_) | DefKind::Function(_))
                    })
            }
            Value::Closure { scope, name } | Value::Deferred { scope, name } => {
                self.declared_symbol(scope, name).is_some()
            }
            Value::Phi { start, len, .. } if depth <= FARTHEST => {
                self.index.phi(start, len).iter().all(|(_, arg)| *arg != root && self.said_value(*arg, depth + 1))
            }
            _ => false,
        }
    }

    fn said_def(&mut self, def: DefId, depth: u32) -> bool {
        let index = self.index;
        match &index.defs[def].kind {
            DefKind::Annotated { .. } | DefKind::Class(_) | DefKind::Function(_) => true,
            DefKind::Assign { comment: Some(_), .. } => true,
            DefKind::Assign { value, .. } => {
                self.declaration_elsewhere(def).is_some() || self.said_expr(*value, depth)
            }
            DefKind::Param { function, index: place } => {
                let record = &index.functions[*function];
                record.params.get(*place as usize).is_some_and(|param| param.annotation.is_some())
                    || (*place == 0 && record.class.is_some())
            }
            DefKind::Named { value } => self.said_expr(*value, depth),
            DefKind::For { iterable, .. } => self.said_expr(*iterable, depth),
            DefKind::With { manager, .. } => self.said_expr(*manager, depth),
            _ => false,
        }
    }

    fn said_attribute(&mut self, object: Type, name: leitmotiv_syntax::names::Name) -> bool {
        match object {
            Type::Instance(id) | Type::Class(id) => {
                classes::members::find(self.db, id, name, None).is_some_and(|found| match found.member.ty {
                    Type::Property(id) => self.is_result_said(*self.db.store().function(id)),
                    _ => found.member.declared,
                })
            }
            Type::Module(file) => {
                let scope = &crate::module::module_index(self.db, file).scopes[ScopeId(0)];
                scope.symbols.contains_key(&name)
                    && Infer::new(self.db, file, leitmotiv_index::tree::BodyId(0))
                        .declared_symbol(ScopeId(0), name)
                        .is_some()
            }
            _ => false,
        }
    }

    fn says_what_it_gives(&mut self, callee: Type) -> bool {
        let store = self.db.store();
        match callee {
            Type::Function(id) => self.is_result_said(*store.function(id)),
            Type::Method(id) => matches!(store.method(id).function, Type::Function(id)
                if self.is_result_said(*store.function(id))),
            // `list(…)` takes its elements from its argument.
            Type::Class(id) => {
                let instance = store.instance(id);
                !instance.args.is_empty() || classes::info(self.db, instance.class).params.is_empty()
            }
            _ => false,
        }
    }

    fn is_result_said(&self, function: crate::types::FunctionRef) -> bool {
        functions::declared(self.db, function.file, function.function).returns.is_some()
    }
}
