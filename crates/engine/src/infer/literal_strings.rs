//! `LiteralString`: texts that are written in the source, and what is put together from nothing but such (PEP 675; typing specification,
//! "Literals").
//!
//! What puts texts together gives `str`, as everywhere. Where a `LiteralString` is asked for, the expression is followed to where its parts
//! come from.

use leitmotiv_index::tree::{BinaryOp, DefKind, Expr, ExprId, Value, ValueId};
use leitmotiv_syntax::names::known;

use super::Infer;
use crate::context::TypeContext;
use crate::types::{InstanceId, Literal, Type};

/// Names and calls are followed through so many steps. Said in docs/architecture.md.
const FARTHEST: u32 = 16;

/// Methods of texts that give a text, or several, put together from the text and what they are passed (library reference, "str").
const KEPT_BY: &[&str] = &[
    "capitalize",
    "casefold",
    "center",
    "expandtabs",
    "format",
    "join",
    "ljust",
    "lower",
    "lstrip",
    "partition",
    "removeprefix",
    "removesuffix",
    "replace",
    "rjust",
    "rpartition",
    "rsplit",
    "rstrip",
    "split",
    "splitlines",
    "strip",
    "swapcase",
    "title",
    "upper",
    "zfill",
];

impl TypeContext<'_> {
    /// Whether an instance's class is that of `LiteralString`.
    pub(crate) fn is_literal_string(&self, id: InstanceId) -> bool {
        let class = self.db.store().instance(id).class;
        class.file.module(self.db) == known::TYPING
            && crate::definitions::classes::shown(self.db, class) == "_LiteralString"
    }

    fn is_such_text(&self, ty: Type) -> bool {
        let store = self.db.store();
        crate::types::union::parts(store, &ty).iter().all(|part| match part {
            Type::Literal(id) => matches!(store.literal(*id), Literal::Str(_)),
            Type::Instance(id) => self.is_literal_string(*id),
            part => part.is_dynamic(),
        })
    }

    /// Whether a type is `str`, and nothing more is known of it.
    fn is_any_text(&self, ty: Type) -> bool {
        matches!(ty, Type::Instance(id) if crate::resolve::is_builtin(self.db, self.db.store().instance(id).class, known::STR))
    }
}

impl Infer<'_> {
    /// Whether an expression that gives a `str` gives a `LiteralString` where that is expected.
    pub(crate) fn is_put_together(&mut self, expr: ExprId, expected: Type) -> bool {
        let store = self.db.store();
        let asks = crate::types::union::parts(store, &expected)
            .iter()
            .any(|part| matches!(part, Type::Instance(id) if self.is_literal_string(*id)));
        asks && {
            let given = self.expr(expr);
            self.is_any_text(given) && self.is_of_literals(expr, 0)
        }
    }

    fn is_of_literals(&mut self, expr: ExprId, depth: u32) -> bool {
        if depth > FARTHEST {
            return false;
        }
        let depth = depth + 1;
        let index = self.index;
        match &index.exprs[expr] {
            Expr::Str(_) => true,
            Expr::FString(parts) => parts.iter().all(|part| self.is_of_literals(*part, depth)),
            Expr::Binary { op: BinaryOp::Add, left, right } => {
                self.is_of_literals(*left, depth) && self.is_of_literals(*right, depth)
            }
            Expr::Binary { op: BinaryOp::Mul, left, right } => {
                let is_number = |infer: &mut Self, operand: ExprId| {
                    let ty = infer.expr(operand);
                    let int = infer.builtin(known::INT);
                    infer.is_assignable(ty, int)
                };
                self.is_of_literals(*left, depth) && is_number(self, *right)
                    || self.is_of_literals(*right, depth) && is_number(self, *left)
            }
            Expr::Binary { op: BinaryOp::Mod, left, right } => {
                self.is_of_literals(*left, depth)
                    && match &index.exprs[*right] {
                        Expr::Tuple(parts) => parts.iter().all(|part| self.is_of_literals(*part, depth)),
                        _ => self.is_of_literals(*right, depth),
                    }
            }
            Expr::Conditional { then, otherwise, .. } => {
                self.is_of_literals(*then, depth) && self.is_of_literals(*otherwise, depth)
            }
            Expr::BoolOp { operands, .. } => operands.iter().all(|operand| self.is_of_literals(*operand, depth)),
            Expr::Named { value, .. } => self.is_of_literals(*value, depth),
            Expr::Subscript { value, .. } => {
                let ty = self.expr(*value);
                (self.is_any_text(ty) || self.is_such_text(ty)) && self.is_of_literals(*value, depth)
                    || self.gives_such(expr)
            }
            Expr::Call { callee, args } => {
                if let Expr::Attribute { value, name, .. } = index.exprs[*callee]
                    && KEPT_BY.binary_search(&self.text(name)).is_ok()
                    && self.is_of_literals(value, depth)
                {
                    return args.iter().all(|arg| self.is_passed_literally(arg.value, depth));
                }
                self.gives_such(expr)
            }
            Expr::Name(_, value) => self.gives_such(expr) || self.is_bound_to_literals(*value, depth),
            _ => self.gives_such(expr),
        }
    }

    /// What a method of a text is passed: a text of the kind, a container of such, or a number.
    fn is_passed_literally(&mut self, expr: ExprId, depth: u32) -> bool {
        match &self.index.exprs[expr] {
            Expr::List(parts) | Expr::Tuple(parts) | Expr::Set(parts) => {
                parts.iter().all(|part| self.is_of_literals(*part, depth))
            }
            Expr::Comprehension(id) => {
                let element = self.index.comprehensions[*id].element;
                self.is_of_literals(element, depth)
            }
            Expr::Int(_) | Expr::None | Expr::Bool(_) => true,
            _ => {
                let ty = self.expr(expr);
                if self.is_any_text(ty) || self.is_such_text(ty) {
                    return self.is_of_literals(expr, depth);
                }
                match self.element(ty, false) {
                    Some(element) if !matches!(ty, Type::Literal(_)) => self.is_such_text(element),
                    _ => {
                        let int = self.builtin(known::INT);
                        self.is_assignable(ty, int)
                    }
                }
            }
        }
    }

    fn gives_such(&mut self, expr: ExprId) -> bool {
        let ty = self.expr(expr);
        self.is_such_text(ty)
    }

    fn is_bound_to_literals(&mut self, value: ValueId, depth: u32) -> bool {
        let index = self.index;
        match index.values[index.unnarrowed(value)] {
            Value::Def(def) => match index.defs[def].kind {
                DefKind::Assign { value, unpack: None, comment: None } => {
                    self.declaration_elsewhere(def).is_none() && self.is_of_literals(value, depth)
                }
                DefKind::Augmented { target, op: BinaryOp::Add, value } => {
                    self.is_of_literals(target, depth) && self.is_of_literals(value, depth)
                }
                _ => false,
            },
            Value::Phi { start, len, .. } => {
                let ways: Vec<_> = index.phi(start, len).to_vec();
                ways.into_iter().all(|(_, way)| way == value || self.is_bound_to_literals(way, depth + 1))
            }
            _ => false,
        }
    }
}

#[cfg(test)]
mod tests {
    #[test]
    fn methods_are_sorted() {
        assert!(super::KEPT_BY.is_sorted());
    }
}
