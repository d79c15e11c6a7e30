//! What `+=` and its kin put back: it must fit what is declared there (language reference, "Augmented assignment statements").

use leitmotiv_index::tree::{BinaryOp, Expr, ExprId};
use leitmotiv_syntax::TextRange;

use super::assignments::Put;
use crate::infer::Infer;
use crate::problems::{Operator, ProblemKind};

impl Infer<'_> {
    /// Looks at `target += value`.
    pub(crate) fn check_augmented(&mut self, range: TextRange, target: ExprId, op: BinaryOp, value: ExprId) {
        let left = self.expr(target);
        let right = self.expr(value);
        self.check_changed(target);
        if op == BinaryOp::BitOr && self.typed_dict_fields(left).is_some() {
            self.typed_dict_changed(left, value);
            return;
        }
        let operator = Operator::Binary(op, true);
        let Some(result) = self.binary_result(op, left, right, true) else {
            if self.is_part_dynamic(left) || self.is_part_dynamic(right) {
                return;
            }
            if self.fails_for_none_only(op, left, right) {
                // What an attribute held before it is changed is told where it is read.
                if matches!(self.index.exprs[target], Expr::Name(..)) {
                    self.none_operand(target, operator, (Some(target), left), (value, right));
                }
            } else if !self.may_go_together(op, (target, left), (value, right)) {
                let kind = ProblemKind::OperatorUnsupported { operator, left, right: Some(right) };
                self.problem_at(range, Some(target), kind);
            }
            return;
        };
        if self.holds_unknown(result) || result.is_dynamic() {
            return;
        }
        let put = Put::Type(result, value);
        match self.index.exprs[target] {
            Expr::Name(name, _) => self.check_declared_change(target, name, put),
            Expr::Attribute { value: object, name, .. } => {
                let ty = self.expr(object);
                self.check_declared_attribute(target, (object, ty), name, put);
            }
            Expr::Subscript { value: object, index, .. } => {
                let ty = self.expr(object);
                self.check_item_put(ty, (object, index), target, result);
            }
            _ => {}
        }
    }
}
