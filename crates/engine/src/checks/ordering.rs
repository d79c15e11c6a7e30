//! Values that are put in order though they do not go together (language reference, "Value comparisons"): by `sorted`, `min` and
//! `max`.

use leitmotiv_index::tree::{Arg, ArgKind, CompareOp, Expr, ExprId};
use leitmotiv_syntax::names::known;

use crate::infer::Infer;
use crate::problems::{Operator, ProblemKind};
use crate::types::{Literal, Type};

/// Classes of the language whose values are ordered among themselves only.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Order {
    Number,
    Text,
    Bytes,
    None,
}

impl Infer<'_> {
    /// Looks at a call that puts values in order.
    pub(crate) fn check_ordered(&mut self, args: &[Arg]) {
        let has_key = args.iter().any(|arg| matches!(arg.kind, ArgKind::Keyword(key) if self.text(key) == "key"));
        if !self.checking || has_key || args.iter().any(|arg| matches!(arg.kind, ArgKind::Star | ArgKind::DoubleStar)) {
            return;
        }
        let index = self.index;
        let placed: Vec<ExprId> =
            args.iter().filter(|arg| arg.kind == ArgKind::Positional).map(|arg| arg.value).collect();
        let values: Vec<(ExprId, Type)> = match placed.as_slice() {
            [only] => match &index.exprs[*only] {
                Expr::List(parts) | Expr::Tuple(parts) | Expr::Set(parts) => {
                    parts.iter().map(|part| (*part, self.expr(*part))).collect()
                }
                _ if self.is_said(*only) && self.says_items(*only) => {
                    let ty = self.expr(*only);
                    let Some(element) = self.element(ty, false) else { return };
                    let parts = crate::types::union::parts(self.db.store(), &element).to_vec();
                    parts.into_iter().map(|part| (*only, part)).collect()
                }
                _ => return,
            },
            several => several.iter().map(|value| (*value, self.expr(*value))).collect(),
        };
        let known: Option<Vec<(ExprId, Type, Order)>> =
            values.into_iter().map(|(at, ty)| Some((at, ty, self.order_of(ty)?))).collect();
        let Some(known) = known else { return };
        let Some((_, left, first)) = known.first().copied() else { return };
        if let Some((at, right, _)) = known.into_iter().find(|(_, _, order)| *order != first) {
            let operator = Operator::Compare(CompareOp::Lt);
            self.problem(at, ProblemKind::OperatorUnsupported { operator, left, right: Some(right) });
        }
    }

    fn order_of(&self, ty: Type) -> Option<Order> {
        let store = self.db.store();
        match ty {
            Type::None => Some(Order::None),
            Type::Literal(id) => match store.literal(id) {
                Literal::Int(_) | Literal::Bool(_) => Some(Order::Number),
                Literal::Str(_) => Some(Order::Text),
                Literal::Bytes(_) => Some(Order::Bytes),
                Literal::Enum(..) => None,
            },
            Type::Instance(id) => {
                let class = store.instance(id).class;
                let is = |name| crate::resolve::is_builtin(self.db, class, name);
                if is(known::STR) {
                    Some(Order::Text)
                } else if is(known::BYTES) {
                    Some(Order::Bytes)
                } else if is(known::INT) || is(known::FLOAT) || is(known::BOOL_CLASS) {
                    Some(Order::Number)
                } else {
                    None
                }
            }
            _ => None,
        }
    }
}
