//! Values that are put in order though they do not go together (language reference, "Value comparisons"): by `sorted`, `min` and
//! `max`.

use leitmotiv_index::tree::{Arg, ArgKind, BinaryOp, CompareOp, Expr, ExprId};
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
        let key = args.iter().find(|arg| matches!(arg.kind, ArgKind::Keyword(key) if self.text(key) == "key"));
        if !self.checking {
            return;
        }
        if let Some(key) = key.filter(|key| self.index.exprs[key.value] != Expr::None) {
            return self.check_key_ordered(args, key.value);
        }
        if args.iter().any(|arg| matches!(arg.kind, ArgKind::Star | ArgKind::DoubleStar)) {
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
        if values.len() > 1 || matches!(placed.as_slice(), [_]) {
            for (at, ty) in &values {
                if self.has_no_order(*ty) {
                    let operator = Operator::Compare(CompareOp::Lt);
                    self.problem(*at, ProblemKind::OperatorUnsupported { operator, left: *ty, right: Some(*ty) });
                    return;
                }
            }
        }
        let known: Option<Vec<(ExprId, Type, Order)>> =
            values.into_iter().map(|(at, ty)| Some((at, ty, self.order_of(ty)?))).collect();
        let Some(known) = known else { return };
        let Some((_, left, first)) = known.first().copied() else { return };
        if let Some((at, right, _)) = known.into_iter().find(|(_, _, order)| *order != first) {
            let operator = Operator::Compare(CompareOp::Lt);
            self.problem(at, ProblemKind::OperatorUnsupported { operator, left, right: Some(right) });
        }
    }

    /// What the `key` gives is what is put in order.
    fn check_key_ordered(&mut self, args: &[Arg], key: ExprId) {
        let Some(first) = args.iter().find(|arg| arg.kind == ArgKind::Positional) else { return };
        let ty = self.expr(first.value);
        let given = match self.index.exprs[key] {
            Expr::Lambda(_) => match self.expr(key) {
                Type::Callable(id) => self.db.store().signature(id).returns,
                _ => return,
            },
            _ => {
                let callee = self.expr(key);
                if !self.is_said(key) {
                    return;
                }
                let Some(element) = self.element(ty, false) else { return };
                self.call_with(callee, &[element])
            }
        };
        if self.has_no_order(given) {
            let operator = Operator::Compare(CompareOp::Lt);
            self.problem(key, ProblemKind::OperatorUnsupported { operator, left: given, right: Some(given) });
        }
    }

    /// Whether values of a type are not put in order by anything that their class has.
    fn has_no_order(&mut self, ty: Type) -> bool {
        let Type::Instance(id) = ty else { return false };
        let class = self.db.store().instance(id).class;
        let names = self.db.names();
        !class.file.is_stub(self.db)
            && ["__lt__", "__gt__"].iter().all(|name| self.member(ty, names.intern(name)).is_none())
    }

    /// `sum` begins with 0, to which what is summed up is added.
    pub(crate) fn check_summed(&mut self, args: &[Arg]) {
        let [Arg { kind: ArgKind::Positional, value }] = args else { return };
        if !self.checking {
            return;
        }
        let ty = self.expr(*value);
        let is_display = matches!(self.index.exprs[*value], Expr::List(_) | Expr::Tuple(_) | Expr::Set(_));
        if !(is_display || self.is_said(*value) && self.says_items(*value)) {
            return;
        }
        let Some(element) = self.element(ty, false) else { return };
        let zero = self.builtin(known::INT);
        for part in crate::types::union::parts(self.db.store(), &element).to_vec() {
            let is_open = part.is_dynamic() || part == Type::Never || part == Type::None;
            if !is_open && self.binary_result(BinaryOp::Add, zero, part, false).is_none() {
                let operator = Operator::Binary(BinaryOp::Add, false);
                self.problem(*value, ProblemKind::OperatorUnsupported { operator, left: zero, right: Some(part) });
                return;
            }
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
