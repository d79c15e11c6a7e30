//! Operators (data model, "Emulating numeric types").

use leitmotiv_index::tree::{BinaryOp, CompareOp, Expr, ExprId, UnaryOp};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use crate::context::TypeContext;
use crate::problems::{Operator, ProblemKind};
use crate::types::{CauseKind, Literal, Tuple, Type};

impl TypeContext<'_> {
    /// Whether some part of a type is unknown or `Any`: then the others may never be there.
    pub(crate) fn is_part_dynamic(&self, ty: Type) -> bool {
        crate::types::union::parts(self.db.store(), &ty).iter().any(|part| part.is_dynamic())
    }

    /// `int ** int`: not negative gives `int`, else `float` is possible.
    fn power(&mut self, left: Type, right: Type) -> Option<Type> {
        let store = self.db.store();
        let is = |infer: &Self, ty: Type, name: Name| {
            matches!(infer.literal_fallback(ty), Type::Instance(id)
                if crate::resolve::is_builtin(infer.db, store.instance(id).class, name))
        };
        let int_like = |infer: &Self, ty: Type| is(infer, ty, known::INT) || is(infer, ty, known::BOOL_CLASS);
        if int_like(self, left) && int_like(self, right) {
            return Some(match right {
                Type::Literal(id) if matches!(store.literal(id), Literal::Int(value) if *value >= 0) => {
                    self.builtin(known::INT)
                }
                Type::Literal(_) => self.builtin(known::FLOAT),
                _ => Type::Any,
            });
        }
        let float_like = |infer: &Self, ty: Type| int_like(infer, ty) || is(infer, ty, known::FLOAT);
        (float_like(self, left) && float_like(self, right)).then(|| self.builtin(known::FLOAT))
    }

    /// `int | None` as a value.
    /// Whether `left | right` is a type: a variable for types beside another type, or beside None, is the variable itself, and not a
    /// value of the type that it stands for.
    fn names_type(&self, left: Type, right: Type) -> bool {
        let is_variable = |ty: Type| matches!(ty, Type::Var(_));
        let is_type = |ty: Type| matches!(ty, Type::Class(_) | Type::Form(_) | Type::Special(_));
        !(is_variable(left) || is_variable(right))
            || is_type(left)
            || is_type(right)
            || left == Type::None
            || right == Type::None
    }

    fn type_union(&mut self, left: Type, right: Type) -> Type {
        let store = self.db.store();
        let as_type = |ty: Type| match ty {
            Type::Class(id) => Some(Type::Instance(id)),
            Type::Form(id) => Some(*store.single(id)),
            Type::None | Type::Var(_) | Type::Any => Some(ty),
            Type::Special(crate::types::SpecialForm::Any) => Some(Type::Any),
            _ => None,
        };
        match (as_type(left), as_type(right)) {
            (Some(left), Some(right)) => {
                let union = self.join([left, right]);
                Type::Form(store.intern_type(union))
            }
            _ => Type::Any,
        }
    }

    /// What an operation gives; `None` where it is not supported. For unions, all parts must support it.
    pub(crate) fn binary_result(&mut self, op: BinaryOp, left: Type, right: Type, in_place: bool) -> Option<Type> {
        let store = self.db.store();
        if left.is_dynamic() || left == Type::Never {
            return Some(left);
        }
        if right.is_dynamic() || right == Type::Never {
            // What the left side makes of anything; where that depends, the right side's cause stands.
            return Some(right);
        }
        if let Type::Union(id) = left {
            let parts = store.union_parts(id).to_vec();
            let results: Option<Vec<Type>> =
                parts.into_iter().map(|part| self.binary_result(op, part, right, in_place)).collect();
            return results.map(|results| self.join(results));
        }
        if let Type::Union(id) = right {
            let parts = store.union_parts(id).to_vec();
            let results: Option<Vec<Type>> =
                parts.into_iter().map(|part| self.binary_result(op, left, part, in_place)).collect();
            return results.map(|results| self.join(results));
        }
        if op == BinaryOp::BitOr && is_type_value(left) && is_type_value(right) && self.names_type(left, right) {
            return Some(self.type_union(left, right));
        }
        if matches!(left, Type::Var(_)) || matches!(right, Type::Var(_)) {
            // Constraints and bounds are tried one by one by a later reading; what fails here may hold there.
            let (upper_left, upper_right) = (self.upper_bound(left), self.upper_bound(right));
            if (upper_left, upper_right) != (left, right) {
                let result = self.binary_result(op, upper_left, upper_right, in_place);
                // Of constraints, each is meant alone; what stands for several types or parameters is no operand.
                let is_tried = |infer: &Self, ty: Type| match ty {
                    Type::Var(var) => {
                        let kind = infer.db.store().variable(var).kind;
                        matches!(kind, crate::types::VarKind::Tuple | crate::types::VarKind::Params)
                            || !crate::definitions::type_variables::limits(infer.db, var).constraints.is_empty()
                    }
                    _ => false,
                };
                return match is_tried(self, left) || is_tried(self, right) {
                    true => Some(result.unwrap_or(Type::Any)),
                    false => result,
                };
            }
        }
        if let (BinaryOp::Add, Type::Tuple(one), Type::Tuple(other)) = (op, left, right) {
            let (one, other) = (store.tuple(one), store.tuple(other));
            if one.rest.is_none() && other.rest.is_none() {
                let prefix = one.prefix.iter().chain(&other.prefix).copied().collect();
                return Some(Type::Tuple(store.intern_tuple(Tuple { prefix, rest: None, suffix: [].into() })));
            }
        }
        if op == BinaryOp::Pow
            && let Some(result) = self.power(left, right)
        {
            return Some(result);
        }
        let (plain, reflected, augmented) = method_names(op);
        let names = self.db.names();
        if in_place && let Some(result) = self.try_operator(left, names.intern(augmented), right) {
            return Some(result);
        }
        // A subclass's reflected method comes first (data model); for types it makes no difference but in rare cases.
        if let Some(result) = self.try_operator(left, names.intern(plain), right) {
            return Some(result);
        }
        self.try_operator(right, names.intern(reflected), left)
    }

    /// Calls an operator's method, if the type has it and it takes the argument.
    fn try_operator(&mut self, object: Type, method: Name, argument: Type) -> Option<Type> {
        // Operators are looked up on the class, past the instance.
        let class_level = match object {
            Type::Class(_) => self.nominal(object).map(Type::Instance)?,
            Type::SubclassOf(inner) => match *self.db.store().single(inner) {
                Type::Instance(id) => self.nominal(Type::Class(id)).map(Type::Instance)?,
                _ => object,
            },
            other => other,
        };
        let method = self.member(class_level, method)?;
        let method = match (object, method) {
            (Type::Class(_) | Type::SubclassOf(_), Type::Method(id)) => {
                let mut bound = *self.db.store().method(id);
                bound.receiver = object;
                Type::Method(self.db.store().intern_method(bound))
            }
            (_, method) => method,
        };
        if method.is_dynamic() {
            return Some(method);
        }
        self.try_call(method, &[argument])
    }
}

impl Infer<'_> {
    pub(crate) fn binary(&mut self, expr: ExprId, op: BinaryOp, left: ExprId, right: ExprId) -> Type {
        // Long sums lean to the left: go down without recursion.
        let mut chain = vec![(expr, op, right)];
        let mut first = left;
        while self.known_expr(first).is_none()
            && let Expr::Binary { op, left, right } = self.index.exprs[first]
        {
            chain.push((first, op, right));
            first = left;
        }
        let mut ty = self.expr(first);
        while let Some((at, op, right)) = chain.pop() {
            let right_type = self.expr(right);
            if op == BinaryOp::Mod
                && let Some(text) = left_of(self.index, at)
            {
                self.check_percent(text, right);
            }
            let typed = if op == BinaryOp::BitOr { self.typed_dict_with(ty, right) } else { None };
            if self.checking {
                let method = self.db.names().intern(method_names(op).0);
                self.check_deprecated_operator(at, ty, method);
            }
            ty = match typed.or_else(|| self.binary_result(op, ty, right_type, false)) {
                Some(result) => result,
                // A part that may be None is not this rule's.
                None if self.is_part_dynamic(ty) || self.is_part_dynamic(right_type) => {
                    self.unknown(CauseKind::Reported, at)
                }
                None if self.fails_for_none_only(op, ty, right_type) => {
                    self.none_operand(
                        at,
                        Operator::Binary(op, false),
                        (left_of(self.index, at), ty),
                        (right, right_type),
                    );
                    let without = |ty| crate::types::union::filter(self.db.store(), ty, |part| part != Type::None);
                    let (left, right) = (without(ty), without(right_type));
                    self.binary_result(op, left, right, false).unwrap_or_else(|| self.unknown(CauseKind::Reported, at))
                }
                None if self.may_go_together(op, (first, ty), (right, right_type)) => {
                    self.unknown(CauseKind::Dynamic, at)
                }
                None => {
                    let operator = Operator::Binary(op, false);
                    let (left_bad, right_bad) = self.unsupported_parts(op, ty, right_type);
                    let kind = ProblemKind::OperatorUnsupported { operator, left: left_bad, right: Some(right_bad) };
                    self.problem(at, kind);
                    self.unknown(CauseKind::Reported, at)
                }
            };
            if at != expr {
                self.exprs.insert(at, ty);
                self.journal.push(super::Entry::Expr(at));
            }
        }
        ty
    }

    /// Reports an operand that may be None, if nobody has told that of it yet.
    pub(crate) fn none_operand(
        &mut self,
        at: ExprId,
        operator: Operator,
        left: (Option<ExprId>, Type),
        right: (ExprId, Type),
    ) {
        let store = self.db.store();
        let may_be_none = |ty: Type| crate::types::union::may_be_none(store, ty);
        let (holder, object) = match left {
            (Some(holder), object) if may_be_none(object) => (holder, object),
            _ if may_be_none(right.1) => right,
            _ => return,
        };
        if !self.is_unreliable_none(holder) && self.is_first_none(holder, at) {
            self.problem(at, ProblemKind::NoneOperand { holder, object, operator });
        }
    }

    /// Whether the operation is supported once None is taken out of unions.
    pub(crate) fn fails_for_none_only(&mut self, op: BinaryOp, left: Type, right: Type) -> bool {
        let store = self.db.store();
        let without = |ty: Type| match ty {
            Type::Union(_) => crate::types::union::filter(store, ty, |part| part != Type::None),
            ty => ty,
        };
        let (left_rest, right_rest) = (without(left), without(right));
        (left_rest != left || right_rest != right) && self.binary_result(op, left_rest, right_rest, false).is_some()
    }

    /// Whether operands that are elements of containers nobody declared go together for some of the types they may have.
    pub(crate) fn may_go_together(&mut self, op: BinaryOp, left: (ExprId, Type), right: (ExprId, Type)) -> bool {
        let store = self.db.store();
        let is_ambiguous =
            |infer: &mut Self, (expr, ty): (ExprId, Type)| matches!(ty, Type::Union(_)) && infer.is_ambiguous(expr);
        if !is_ambiguous(self, left) && !is_ambiguous(self, right) {
            return false;
        }
        let lefts = crate::types::union::parts(store, &left.1).to_vec();
        let rights = crate::types::union::parts(store, &right.1).to_vec();
        lefts.iter().any(|one| rights.iter().any(|other| self.binary_result(op, *one, *other, false).is_some()))
    }

    /// The parts of both operands that do not go together, for the message.
    fn unsupported_parts(&mut self, op: BinaryOp, left: Type, right: Type) -> (Type, Type) {
        let store = self.db.store();
        let lefts = crate::types::union::parts(store, &left).to_vec();
        let rights = crate::types::union::parts(store, &right).to_vec();
        for part in &lefts {
            for other in &rights {
                if self.binary_result(op, *part, *other, false).is_none() {
                    return (*part, *other);
                }
            }
        }
        (left, right)
    }

    pub(crate) fn unary(&mut self, expr: ExprId, op: UnaryOp, operand: ExprId) -> Type {
        let ty = self.expr(operand);
        if op == UnaryOp::Not {
            return self.builtin(known::BOOL_CLASS);
        }
        let store = self.db.store();
        if let Type::Literal(id) = ty
            && let Literal::Int(value) = *store.literal(id)
            && let Some(signed) = match op {
                UnaryOp::Neg => value.checked_neg(),
                UnaryOp::Pos => Some(value),
                _ => None,
            }
        {
            return Type::Literal(store.intern_literal(Literal::Int(signed)));
        }
        let name = match op {
            UnaryOp::Neg => known::NEG,
            UnaryOp::Pos => known::POS,
            UnaryOp::Invert | UnaryOp::Not => known::INVERT,
        };
        let parts = crate::types::union::parts(store, &ty).to_vec();
        let mut results = Vec::with_capacity(parts.len());
        for part in parts {
            if part.is_dynamic() {
                results.push(part);
                continue;
            }
            match self.member(part, name) {
                Some(method) => results.push(self.result_of(method)),
                None => {
                    self.problem(
                        expr,
                        ProblemKind::OperatorUnsupported { operator: Operator::Unary(op), left: part, right: None },
                    );
                    return self.unknown(CauseKind::Reported, expr);
                }
            }
        }
        self.join(results)
    }

    pub(crate) fn bool_op(&mut self, and: bool, operands: &[ExprId]) -> Type {
        let mut parts = Vec::with_capacity(operands.len());
        for (number, operand) in operands.iter().enumerate() {
            let ty = self.expr(*operand);
            if self.is_excluded(self.index.spans[*operand]) {
                continue;
            }
            if number + 1 == operands.len() {
                parts.push(ty);
            } else {
                // `a or b` gives `a` only where it is true.
                parts.push(self.chosen(*operand, ty, !and));
            }
        }
        self.join(parts)
    }

    /// What an operand gives where it is true, or false: `a and b` is true only by `b`, `a or b` false only by `b`.
    fn chosen(&mut self, operand: ExprId, ty: Type, truthy: bool) -> Type {
        let index = self.index;
        match &index.exprs[operand] {
            Expr::BoolOp { and, operands } if *and == truthy && !operands.is_empty() => {
                let last = operands[operands.len() - 1];
                let ty = self.expr(last);
                self.chosen(last, ty, truthy)
            }
            _ => self.truthy_part(ty, truthy),
        }
    }

    pub(crate) fn compare(&mut self, expr: ExprId, left: ExprId, rest: &[(CompareOp, ExprId)]) -> Type {
        let mut before = (left, self.expr(left));
        let mut result = Type::Never;
        for (op, right) in rest {
            let right = (*right, self.expr(*right));
            result = self.compare_one(expr, *op, before, right);
            before = right;
        }
        if rest.len() > 1 { self.builtin(known::BOOL_CLASS) } else { result }
    }

    fn compare_one(
        &mut self,
        expr: ExprId,
        op: CompareOp,
        (holder, left): (ExprId, Type),
        (other_holder, right): (ExprId, Type),
    ) -> Type {
        let bool_type = self.builtin(known::BOOL_CLASS);
        let (plain, reflected) = match op {
            CompareOp::Lt => ("__lt__", "__gt__"),
            CompareOp::LtE => ("__le__", "__ge__"),
            CompareOp::Gt => ("__gt__", "__lt__"),
            CompareOp::GtE => ("__ge__", "__le__"),
            CompareOp::Eq | CompareOp::NotEq => {
                // Always answered; only classes that answer with something of their own matter.
                let name = if op == CompareOp::Eq { known::EQ } else { self.db.names().intern("__ne__") };
                let parts = crate::types::union::parts(self.db.store(), &left);
                if !right.is_dynamic() && parts.iter().all(|part| matches!(part, Type::Literal(_))) {
                    return bool_type;
                }
                let answers: Vec<Type> = parts
                    .iter()
                    .copied()
                    .map(|part| match part {
                        // Arrays and expressions answer with something of their own.
                        part if part.is_dynamic() => part,
                        _ if right.is_dynamic() => right,
                        Type::Instance(_) | Type::Var(_) => {
                            self.try_operator(part, name, right).filter(|ty| !ty.is_dynamic()).unwrap_or(bool_type)
                        }
                        _ => bool_type,
                    })
                    .collect();
                return self.join(answers);
            }
            CompareOp::Is | CompareOp::IsNot => return bool_type,
            CompareOp::In | CompareOp::NotIn => return self.membership(expr, op, (holder, left), right),
        };
        let store = self.db.store();
        let lefts = crate::types::union::parts(store, &left).to_vec();
        let rights = crate::types::union::parts(store, &right).to_vec();
        let mut results = Vec::new();
        for one in &lefts {
            for other in &rights {
                let may_be_none = (*one == Type::None && lefts.len() > 1) || (*other == Type::None && rights.len() > 1);
                if may_be_none {
                    if !lefts.iter().chain(&rights).any(|part| part.is_dynamic()) {
                        // In a chain, each of its comparisons is a place of its own.
                        let is_chain = matches!(&self.index.exprs[expr], Expr::Compare { rest, .. } if rest.len() > 1);
                        let at = if is_chain { other_holder } else { expr };
                        self.none_operand(at, Operator::Compare(op), (Some(holder), left), (other_holder, right));
                    }
                    results.push(bool_type);
                    continue;
                }
                if let Some(dynamic) = [*one, *other].into_iter().find(|part| part.is_dynamic()) {
                    results.push(dynamic);
                    continue;
                }
                let names = self.db.names();
                let found = self
                    .try_operator(*one, names.intern(plain), *other)
                    .or_else(|| self.try_operator(*other, names.intern(reflected), *one));
                match found {
                    Some(ty) => results.push(ty),
                    None if self.is_one_of_several(&lefts, &rights, expr) => results.push(bool_type),
                    None => {
                        let kind = ProblemKind::OperatorUnsupported {
                            operator: Operator::Compare(op),
                            left: *one,
                            right: Some(*other),
                        };
                        self.problem(expr, kind);
                        return bool_type;
                    }
                }
            }
        }
        self.join(results)
    }

    /// Whether `__contains__` takes nothing of what is asked for.
    fn is_asked_wrongly(&mut self, method: Type, holder: ExprId, left: Type) -> bool {
        let parts = crate::types::union::parts(self.db.store(), &left).to_vec();
        let is_open = left == Type::Never
            || parts.iter().any(|part| part.is_dynamic() || *part == Type::None || *part == Type::Never);
        // What a container that nobody declared holds, its first elements do not say.
        let is_generic = self.candidates(method).iter().any(|candidate| {
            candidate
                .signature
                .params
                .iter()
                .any(|param| crate::types::substitute::has_variables(self.db.store(), param.ty))
                || candidate.start != crate::types::substitute::Substitution::new()
        });
        !is_open
            && !is_generic
            && !self.is_ambiguous(holder)
            && parts.into_iter().all(|part| self.try_call(method, &[part]).is_none())
    }

    /// Whether an operand of a comparison is one of several types that a container nobody declared may hold.
    fn is_one_of_several(&mut self, lefts: &[Type], rights: &[Type], expr: ExprId) -> bool {
        let Expr::Compare { left, rest } = &self.index.exprs[expr] else { return false };
        (lefts.len() > 1 && self.is_ambiguous(*left))
            || (rights.len() > 1 && rest.iter().any(|(_, right)| self.is_ambiguous(*right)))
    }

    /// Whether what is known of a name comes of a condition, and it is something unknown otherwise.
    fn is_narrowed_unknown(&mut self, expr: ExprId) -> bool {
        let Expr::Name(_, value) = self.index.exprs[expr] else { return false };
        let whole = self.index.unnarrowed(value);
        whole != value && self.value(whole).is_dynamic()
    }

    fn membership(&mut self, expr: ExprId, op: CompareOp, (holder, left): (ExprId, Type), right: Type) -> Type {
        let bool_type = self.builtin(known::BOOL_CLASS);
        let parts = crate::types::union::parts(self.db.store(), &right).to_vec();
        let several = parts.len() > 1;
        if parts.iter().any(|part| part.is_dynamic()) {
            return bool_type;
        }
        // What a condition tells of something unknown may be a subclass that is a container as well.
        if let Expr::Compare { rest, .. } = &self.index.exprs[expr]
            && rest.iter().any(|(_, right)| self.is_narrowed_unknown(*right))
        {
            return bool_type;
        }
        if several
            && let Expr::Compare { rest, .. } = &self.index.exprs[expr]
            && rest.iter().any(|(_, right)| self.is_ambiguous(*right))
        {
            return bool_type;
        }
        for part in parts {
            if part.is_dynamic() || (several && part == Type::None) {
                continue;
            }
            let contains = self.member(part, known::CONTAINS);
            let is_refused = match contains {
                Some(method) => self.is_asked_wrongly(method, holder, left),
                None => self.element(part, false).is_none(),
            };
            if is_refused {
                let kind =
                    ProblemKind::OperatorUnsupported { operator: Operator::Compare(op), left, right: Some(part) };
                self.problem(expr, kind);
                break;
            }
        }
        bool_type
    }
}

/// The left operand of a binary operation.
fn left_of(index: &leitmotiv_index::tree::ModuleIndex, expr: ExprId) -> Option<ExprId> {
    match index.exprs[expr] {
        Expr::Binary { left, .. } => Some(left),
        _ => None,
    }
}

/// Whether a value stands for a type in `int | None`.
fn is_type_value(ty: Type) -> bool {
    matches!(ty, Type::Class(_) | Type::Form(_) | Type::None | Type::Special(_) | Type::Var(_))
}

/// The methods behind an operator: plain, reflected, in place.
pub(crate) fn method_names(op: BinaryOp) -> (&'static str, &'static str, &'static str) {
    match op {
        BinaryOp::Add => ("__add__", "__radd__", "__iadd__"),
        BinaryOp::Sub => ("__sub__", "__rsub__", "__isub__"),
        BinaryOp::Mul => ("__mul__", "__rmul__", "__imul__"),
        BinaryOp::MatMul => ("__matmul__", "__rmatmul__", "__imatmul__"),
        BinaryOp::Div => ("__truediv__", "__rtruediv__", "__itruediv__"),
        BinaryOp::Mod => ("__mod__", "__rmod__", "__imod__"),
        BinaryOp::Pow => ("__pow__", "__rpow__", "__ipow__"),
        BinaryOp::LShift => ("__lshift__", "__rlshift__", "__ilshift__"),
        BinaryOp::RShift => ("__rshift__", "__rrshift__", "__irshift__"),
        BinaryOp::BitOr => ("__or__", "__ror__", "__ior__"),
        BinaryOp::BitXor => ("__xor__", "__rxor__", "__ixor__"),
        BinaryOp::BitAnd => ("__and__", "__rand__", "__iand__"),
        BinaryOp::FloorDiv => ("__floordiv__", "__rfloordiv__", "__ifloordiv__"),
    }
}
