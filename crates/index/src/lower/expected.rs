//! Lambdas that stand where a type may be expected: behind a declaration, as a result, as a default.

use super::Lower;
use crate::tree::{BodyId, Expr, ExprId, Stand, StandKind, StatementKind};

impl Lower<'_> {
    /// Notes what lambdas of a statement stand for.
    pub(super) fn note_expected(&mut self, body: BodyId, kind: &StatementKind) {
        match kind {
            StatementKind::Assign { targets, value } => {
                if let [target] = targets.as_slice() {
                    self.note_lambdas(*value, *value, StandKind::Target(*target));
                }
            }
            StatementKind::Annotated { annotation, value: Some(value), .. } => {
                self.note_lambdas(*value, *value, StandKind::Annotation(*annotation));
            }
            StatementKind::Return(number) => {
                let value = self.index.bodies[body].returns.get(*number).and_then(|found| found.value);
                if let Some(value) = value {
                    self.note_lambdas(value, value, StandKind::Result);
                }
            }
            StatementKind::Function(function) => {
                let defaults: Vec<(ExprId, ExprId)> = self.index.functions[*function]
                    .params
                    .iter()
                    .filter_map(|param| Some((param.default?, param.annotation?)))
                    .collect();
                for (default, annotation) in defaults {
                    self.note_lambdas(default, default, StandKind::Annotation(annotation));
                }
            }
            _ => {}
        }
    }

    /// The lambdas in what may take a type from outside: displays and branches.
    fn note_lambdas(&mut self, expr: ExprId, root: ExprId, kind: StandKind) {
        let parts: Vec<ExprId> = match &self.index.exprs[expr] {
            Expr::Lambda(lambda) => {
                let lambda = *lambda;
                self.index.stands.insert(lambda, Stand { root, kind });
                return;
            }
            Expr::List(parts) | Expr::Tuple(parts) => parts.to_vec(),
            Expr::Dict(items) => items.iter().map(|(_, value)| *value).collect(),
            Expr::Conditional { then, otherwise, .. } => vec![*then, *otherwise],
            Expr::BoolOp { operands, .. } => operands.to_vec(),
            _ => return,
        };
        for part in parts {
            self.note_lambdas(part, root, kind);
        }
    }
}
