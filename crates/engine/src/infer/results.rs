//! What methods give back of themselves.

use leitmotiv_index::tree::{Expr, ExprId, Value};

use super::Infer;
use crate::types::Type;

impl Infer<'_> {
    /// What a function gives back: `Self` for its own object as it was passed, and for an instance of its own class.
    pub(crate) fn given_back(&mut self, value: ExprId) -> Type {
        let ty = self.expr(value);
        let is_own = match self.index.exprs[value] {
            Expr::Name(_, id) => {
                self.is_receiver(value)
                    && matches!(self.index.values[id], Value::Def(_))
                    && matches!(ty, Type::Instance(_))
            }
            Expr::Call { callee, .. } => self.is_receiver(callee) && matches!(self.quietly(callee), Type::Class(_)),
            _ => false,
        };
        let is_method = self.index.bodies[self.body]
            .function
            .is_some_and(|function| self.index.functions[function].class.is_some());
        if is_own && is_method && ty == self.own_instance(value) { self.self_variable(value) } else { ty }
    }

    /// An instance of the class around, in terms of its own parameters.
    fn own_instance(&mut self, at: ExprId) -> Type {
        match self.self_variable(at) {
            Type::Var(id) => crate::variables::bound(self.db, id).unwrap_or(Type::Never),
            ty => ty,
        }
    }
}
