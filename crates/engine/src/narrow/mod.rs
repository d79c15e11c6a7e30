//! What conditions and patterns say of types (typing specification, "Type narrowing").
//!
//! A narrowing knows the condition as a whole, the part of it that reads the place, and how the condition came out. What
//! it cannot read leaves the type as it was.

mod isinstance;
pub(crate) mod patterns;
mod truth;

use leitmotiv_index::tree::{Arg, ArgKind, CompareOp, DefId, DefKind, Expr, ExprId, Value};
use leitmotiv_syntax::names::{Name, known};

use crate::call::Bind;
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::types::union::{filter, join, may_be_none, parts, without};
use crate::types::{CauseKind, Literal, Type};

impl TypeContext<'_> {
    /// A type with its variables replaced by what they are constrained to, or by a bound that is a union.
    fn opened(&self, ty: Type) -> Type {
        let store = self.db.store();
        if !parts(store, &ty).iter().any(|part| matches!(part, Type::Var(_))) {
            return ty;
        }
        crate::types::union::map(store, ty, |part| match (part, self.upper_bound(part)) {
            (Type::Var(id), upper) => {
                let is_open = !crate::definitions::type_variables::limits(self.db, id).constraints.is_empty();
                if is_open || matches!(upper, Type::Union(_)) { upper } else { part }
            }
            _ => part,
        })
    }

    /// The parts of a type that do not surely have a member; something unknown where none would be left.
    fn without_member(&self, ty: Type, name: leitmotiv_syntax::names::Name) -> Type {
        let left = filter(self.db.store(), ty, |part| match part {
            Type::Instance(id) => classes::members::find(self.db, id, name, None).is_none(),
            _ => true,
        });
        if left == Type::Never { Type::Unknown(self.dynamic_cause()) } else { left }
    }

    /// Whether a name sounds like a question: `is_port`, `has_berths`.
    fn is_question(&self, name: Name) -> bool {
        let name = self.text(name).trim_start_matches('_');
        name.starts_with("is") || name.starts_with("has")
    }

    /// The member of an enumeration that has but one, as sentinels do.
    fn only_member(&self, ty: Type) -> Type {
        let Type::Instance(id) = ty else { return ty };
        let class = self.db.store().instance(id).class;
        if classes::info(self.db, class).kind != ClassKind::Enum {
            return ty;
        }
        match classes::enum_members(self.db, class).as_slice() {
            [only] => Type::Literal(self.db.store().intern_literal(Literal::Enum(class, *only))),
            _ => ty,
        }
    }

    /// Closed sets as the unions of their members: `bool`, enumerations.
    pub(crate) fn expand(&mut self, ty: Type) -> Type {
        let store = self.db.store();
        let db = self.db;
        if !parts(store, &ty).iter().any(|part| matches!(part, Type::Instance(_))) {
            return ty;
        }
        crate::types::union::map(store, ty, |part| {
            let Type::Instance(id) = part else { return part };
            let class = store.instance(id).class;
            if crate::resolve::is_builtin(db, class, known::BOOL_CLASS) {
                return join(
                    store,
                    [true, false].map(|value| Type::Literal(store.intern_literal(Literal::Bool(value)))),
                );
            }
            let info = classes::info(db, class);
            let is_flag = info.mro.iter().any(|entry| {
                let names = db.names();
                crate::resolve::is_standard(
                    db,
                    store.instance(*entry).class,
                    names.intern("enum"),
                    names.intern("Flag"),
                )
            });
            if info.kind == ClassKind::Enum && !is_flag {
                let members = classes::enum_members(db, class);
                if !members.is_empty() && members.len() <= 60 {
                    let literals =
                        members.into_iter().map(|name| Type::Literal(store.intern_literal(Literal::Enum(class, name))));
                    return join(store, literals);
                }
            }
            part
        })
    }
}

impl Infer<'_> {
    /// Narrows the type of a place by a condition.
    pub(crate) fn narrow(&mut self, ty: Type, condition: ExprId, subject: ExprId, positive: bool) -> Type {
        if ty == Type::Never {
            return ty;
        }
        // A type variable is looked at as what it may stand for; where that says nothing new, it stays.
        let opened = self.opened(ty);
        let narrowed = self.narrow_opened(opened, condition, subject, positive);
        if narrowed == opened {
            return ty;
        }
        // Where only None went, the variable stays.
        let rest = without(self.db.store(), ty, Type::None);
        if opened != ty && narrowed == self.opened(rest) { rest } else { narrowed }
    }

    fn narrow_opened(&mut self, ty: Type, condition: ExprId, subject: ExprId, positive: bool) -> Type {
        let index = self.index;
        if condition == subject {
            return match self.decided_by_last(subject, positive) {
                Some(last) => self.truthy_part(last, positive),
                None => self.truthy_part(ty, positive),
            };
        }
        match &index.exprs[condition] {
            // `if vessel.berth:` says of `vessel` only that it has one.
            Expr::Attribute { .. } | Expr::Subscript { .. } => ty,
            Expr::Compare { left, rest } => {
                if let [(op, right)] = rest.as_ref() {
                    return self.narrow_comparison(ty, *left, *op, *right, subject, positive);
                }
                if positive { self.narrow_chain(ty, *left, rest, subject) } else { ty }
            }
            Expr::Call { callee, args } => {
                let Some(first) = args.first() else { return ty };
                if first.value != subject && !self.is_named(first.value, subject) {
                    return self.narrow_by_item(ty, *callee, args, subject, positive);
                }
                let second = args.get(1).filter(|arg| arg.kind == ArgKind::Positional).map(|arg| arg.value);
                self.narrow_call(ty, *callee, (args, second), subject, positive)
            }
            Expr::Named { .. } => self.truthy_part(ty, positive),
            _ => ty,
        }
    }

    /// What a name holds that was given `a and b`, where it is true, or `a or b`, where it is false: `b`. Then each operand
    /// before the last was so too, and is not what is left.
    fn decided_by_last(&mut self, subject: ExprId, positive: bool) -> Option<Type> {
        let Expr::Name(_, value) = self.index.exprs[subject] else { return None };
        match self.index.values[value] {
            Value::Def(def) => self.last_of(def, positive),
            // `if link is None: link = links and links[0]`: on one of the ways.
            Value::Phi { start, len, is_loop: false } => {
                let ways: Vec<_> = self.index.phi(start, len).to_vec();
                let mut parts = Vec::with_capacity(ways.len());
                let mut is_decided = false;
                for (reach, way) in ways {
                    if !self.reachable(reach) {
                        continue;
                    }
                    let last = match self.index.values[way] {
                        Value::Def(def) => self.last_of(def, positive),
                        _ => None,
                    };
                    is_decided |= last.is_some();
                    let part = last.unwrap_or_else(|| self.value(way));
                    parts.push(part);
                }
                is_decided.then(|| self.join(parts))
            }
            _ => None,
        }
    }

    /// The last operand of what a definition assigns, where that decides.
    fn last_of(&mut self, def: DefId, positive: bool) -> Option<Type> {
        let DefKind::Assign { value, unpack: None, .. } = self.index.defs[def].kind else { return None };
        let Expr::BoolOp { and, operands } = &self.index.exprs[value] else { return None };
        let last = *operands.last().filter(|_| *and == positive)?;
        if self.declared_symbol(self.index.defs[def].scope, self.index.defs[def].name).is_some() {
            return None;
        }
        Some(self.expr(last))
    }

    fn is_named(&self, expr: ExprId, subject: ExprId) -> bool {
        matches!(self.index.exprs[expr], Expr::Named { value, .. } if value == subject)
    }

    fn narrow_call(
        &mut self,
        ty: Type,
        callee: ExprId,
        (args, second): (&[Arg], Option<ExprId>),
        subject: ExprId,
        positive: bool,
    ) -> Type {
        match (&self.index.exprs[callee], second) {
            (Expr::Name(known::ISINSTANCE, _), Some(class)) => self.narrow_isinstance(ty, class, positive, false),
            (Expr::Name(known::ISSUBCLASS, _), Some(class)) => self.narrow_isinstance(ty, class, positive, true),
            (Expr::Name(known::CALLABLE, _), None) => self.narrow_callable(ty, subject, positive),
            (Expr::Name(known::BOOL_CLASS, _), None) => self.truthy_part(ty, positive),
            (Expr::Name(known::HASATTR, _), Some(name)) => {
                let Expr::Str(Some(name)) = self.index.exprs[name] else { return ty };
                if !positive {
                    return self.without_member(ty, name);
                }
                // Where the attribute is not known, the object is one that cannot be known by its class.
                let all: Vec<Type> = parts(self.db.store(), &ty).to_vec();
                let with: Vec<Type> = all.iter().copied().filter(|part| self.member(*part, name).is_some()).collect();
                if with.is_empty() { self.unknown(CauseKind::Dynamic, subject) } else { self.join(with) }
            }
            _ => self.narrow_guard(ty, callee, args, positive),
        }
    }

    /// `TypeGuard` and `TypeIs` functions (PEP 647, PEP 742).
    fn narrow_guard(&mut self, ty: Type, callee: ExprId, args: &[Arg], positive: bool) -> Type {
        let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = self.index.exprs[callee] else { return ty };
        let callee = self.speculate(|infer| infer.expr(callee));
        let store = self.db.store();
        if let Type::Callable(id) = callee
            && let Some((guarded, both)) = self.guarded_by(store.signature(id).returns)
        {
            return match (both, positive) {
                (true, true) => self.intersect(ty, guarded),
                (false, true) => guarded,
                (true, false) => filter(store, ty, |part| part.is_dynamic() || !self.is_assignable(part, guarded)),
                (false, false) => ty,
            };
        }
        let function = match callee {
            Type::Function(id) => *store.function(id),
            Type::Method(id) => match store.method(id).function {
                Type::Function(id) => *store.function(id),
                _ => return ty,
            },
            // What it tells is not kept with the type of a callable; that it tells something, its name says.
            Type::Callable(_) if positive && matches!(ty, Type::Union(_)) && self.is_question(name) => {
                return Type::Unknown(self.dynamic_cause());
            }
            _ => return ty,
        };
        let mut declared = crate::definitions::functions::declared(self.db, function.file, function.function);
        let candidates = self.candidates(callee);
        if candidates.len() > 1 {
            // The first signature that takes the arguments says what it tells.
            let given = crate::infer::calls::given(args);
            let chosen = candidates
                .iter()
                .find(|candidate| self.speculate(|infer| infer.bind_arguments(candidate, &given).is_ok()));
            if let Some(chosen) = chosen.and_then(|candidate| candidate.function) {
                declared = crate::definitions::functions::declared(self.db, chosen.file, chosen.function);
            }
        }
        // `is_port(berth)`: an unannotated question about one of several types may tell which it is.
        if declared.returns.is_none()
            && matches!(ty, Type::Union(_))
            && self.is_question(crate::outline::function(self.db, function.file, function.function).name)
        {
            return Type::Unknown(self.dynamic_cause());
        }
        let guard = declared.guard.map(|(guarded, both)| {
            let is_open = crate::types::substitute::has_variables(store, guarded);
            (if is_open { self.solved_guard(guarded, callee, args) } else { guarded }, both)
        });
        match (guard, positive) {
            (Some((guarded, true)), true) => self.intersect(ty, guarded),
            (Some((guarded, false)), true) => guarded,
            (Some((guarded, true)), false) => {
                filter(store, ty, |part| part.is_dynamic() || !self.is_assignable(part, guarded))
            }
            _ => ty,
        }
    }

    /// What a guard's type is for the arguments of a call, where it speaks of type variables.
    fn solved_guard(&mut self, guarded: Type, callee: Type, args: &[Arg]) -> Type {
        let candidates = self.candidates(callee);
        match self.speculate(|infer| infer.choose(&candidates, &crate::infer::calls::given(args)).ok()) {
            Some((_, solution)) => {
                let ty = solution.apply(self.db.store(), guarded);
                self.solved(ty)
            }
            None => guarded,
        }
    }

    /// `a is b is not None`: where it holds, each of its comparisons does, and what is said of one of several that are equal
    /// holds for the others.
    fn narrow_chain(&mut self, ty: Type, left: ExprId, rest: &[(CompareOp, ExprId)], subject: ExprId) -> Type {
        let operands: Vec<ExprId> = std::iter::once(left).chain(rest.iter().map(|(_, right)| *right)).collect();
        let own = |infer: &Self, operand: ExprId| operand == subject || infer.is_named(operand, subject);
        let Some(place) = operands.iter().position(|operand| own(self, *operand)) else { return ty };
        let is_same = |op: CompareOp| matches!(op, CompareOp::Is | CompareOp::Eq);
        let before = rest[..place].iter().rev().take_while(|(op, _)| is_same(*op)).count();
        let after = rest[place..].iter().take_while(|(op, _)| is_same(*op)).count();
        let same = place - before..=place + after;
        let mut ty = ty;
        for (number, (op, right)) in rest.iter().enumerate() {
            let is_order = matches!(op, CompareOp::Lt | CompareOp::LtE | CompareOp::Gt | CompareOp::GtE);
            for side in [number, number + 1] {
                if same.contains(&side) && !is_order {
                    ty = self.narrow_comparison(ty, operands[number], *op, *right, operands[side], true);
                }
            }
        }
        ty
    }

    fn narrow_comparison(
        &mut self,
        ty: Type,
        left: ExprId,
        op: CompareOp,
        right: ExprId,
        subject: ExprId,
        positive: bool,
    ) -> Type {
        let on_left = left == subject || self.is_named(left, subject);
        let other = if on_left {
            right
        } else if right == subject || self.is_named(right, subject) {
            left
        } else {
            return self.narrow_nested(ty, left, op, right, subject, positive);
        };
        match op {
            CompareOp::Is | CompareOp::IsNot | CompareOp::Eq | CompareOp::NotEq => {
                let same = matches!(op, CompareOp::Is | CompareOp::Eq) == positive;
                let identity = matches!(op, CompareOp::Is | CompareOp::IsNot);
                let other = self.quietly(other);
                self.narrow_equal(ty, other, same, identity)
            }
            CompareOp::In | CompareOp::NotIn if on_left => {
                let inside = (op == CompareOp::In) == positive;
                self.narrow_in(ty, other, inside)
            }
            CompareOp::In | CompareOp::NotIn => {
                let inside = (op == CompareOp::In) == positive;
                self.narrow_holding(ty, left, inside)
            }
            _ => ty,
        }
    }

    /// The type of a part of the condition, without reporting: its turn comes where it stands.
    pub(crate) fn quietly(&mut self, expr: ExprId) -> Type {
        match self.known_expr(expr) {
            Some(ty) => ty,
            None => self.speculate(|infer| infer.expr(expr)),
        }
    }

    /// `x is None`, `x == "north"`, `x is Berth.NORTH`
    pub(crate) fn narrow_equal(&mut self, ty: Type, other: Type, same: bool, identity: bool) -> Type {
        let store = self.db.store();
        let other = self.only_member(other);
        match other {
            Type::None => {
                let all = parts(store, &ty).to_vec();
                let kept = all.into_iter().filter_map(|part| match part {
                    Type::None => same.then_some(part),
                    part if part.is_dynamic() || !same => Some(part),
                    // What a variable stands for stays what it is, where nothing else may be None.
                    Type::Var(_) => (!may_be_none(store, ty)).then_some(part),
                    // An `object` may be None; a protocol's instance too.
                    part => self.may_be(part, Type::None).then_some(Type::None),
                });
                join(store, kept)
            }
            Type::Literal(id) => {
                let literal = *store.literal(id);
                let expanded = self.expand(ty);
                if !same {
                    return without(store, expanded, other);
                }
                let kept = filter(store, expanded, |part| match part {
                    Type::Literal(own) if own == id => true,
                    // Different literals of one kind differ; others may still be equal (`True == 1`).
                    Type::Literal(own) => {
                        std::mem::discriminant(store.literal(own)) != std::mem::discriminant(&literal)
                    }
                    part => part != Type::None,
                });
                crate::types::union::map(store, kept, |part| match part {
                    Type::Instance(_) if self.literal_fallback(other) == part => other,
                    part => part,
                })
            }
            Type::Class(class) if identity || same => {
                // `kind is Vessel` for a `type[…]`.
                filter(store, ty, |part| match part {
                    Type::Class(own) => (own == class) == same,
                    _ => true,
                })
            }
            _ => ty,
        }
    }

    /// `x in ("north", "south")`
    fn narrow_in(&mut self, ty: Type, container: ExprId, inside: bool) -> Type {
        let store = self.db.store();
        let parts_of = match &self.index.exprs[container] {
            Expr::Tuple(parts) | Expr::List(parts) | Expr::Set(parts) => parts.to_vec(),
            _ => {
                // Whatever is in a container without None is not None.
                if !inside {
                    return ty;
                }
                let container = self.quietly(container);
                let Some(element) = self.element(container, false) else { return ty };
                let may = parts(store, &element)
                    .iter()
                    .any(|part| *part == Type::None || part.is_dynamic() || self.may_be(*part, Type::None));
                return if may { ty } else { filter(store, ty, |part| part != Type::None) };
            }
        };
        let candidates: Vec<Type> = parts_of.iter().map(|part| self.quietly(*part)).collect();
        if inside {
            if !candidates.iter().all(|candidate| matches!(candidate, Type::Literal(_) | Type::None)) {
                return ty;
            }
            let kept: Vec<Type> =
                candidates.iter().map(|candidate| self.narrow_equal(ty, *candidate, true, false)).collect();
            return self.join(kept);
        }
        candidates.iter().fold(ty, |ty, candidate| match candidate {
            Type::Literal(_) | Type::None => self.narrow_equal(ty, *candidate, false, false),
            _ => ty,
        })
    }

    /// `"child" in fare`: of several typed dictionaries, those that have the key, or need not have it.
    fn narrow_holding(&mut self, ty: Type, key: ExprId, inside: bool) -> Type {
        let Some(key) = self.text_literal(key) else { return ty };
        filter(self.db.store(), ty, |part| {
            let Some(fields) = self.typed_dict_fields(part) else { return true };
            match fields.iter().find(|field| field.name == key) {
                Some(field) => inside || field.optional,
                None => !inside,
            }
        })
    }

    /// `type(x) is C`, `len(x) == 2`, `shape.kind == "round"`
    fn narrow_nested(
        &mut self,
        ty: Type,
        left: ExprId,
        op: CompareOp,
        right: ExprId,
        subject: ExprId,
        positive: bool,
    ) -> Type {
        let equal = match op {
            CompareOp::Is | CompareOp::Eq => positive,
            CompareOp::IsNot | CompareOp::NotEq => !positive,
            CompareOp::Lt | CompareOp::LtE | CompareOp::Gt | CompareOp::GtE => {
                return match self.index.exprs[left] {
                    Expr::Call { callee, .. } if self.names_len(callee) => self.narrow_longer(ty, op, right, positive),
                    _ => ty,
                };
            }
            _ => return ty,
        };
        match self.index.exprs[left] {
            // What the right side is read from is not what the call asks about.
            Expr::Call { ref args, .. } if !matches!(args.as_ref(), [arg] if arg.value == subject || self.is_named(arg.value, subject)) => {
                ty
            }
            Expr::Call { callee, .. } => match self.index.exprs[callee] {
                Expr::Name(known::TYPE, _) if equal => self.narrow_isinstance(ty, right, true, false),
                // What is of a final class is of that very class.
                Expr::Name(known::TYPE, _) => {
                    let class = self.quietly(right);
                    filter(self.db.store(), ty, |part| match (part, class) {
                        (Type::Instance(own), Type::Class(asked)) => {
                            let store = self.db.store();
                            let is_same = store.instance(own).class == store.instance(asked).class;
                            !(is_same && self.is_sealed(part))
                        }
                        _ => true,
                    })
                }
                Expr::Name(..) if self.names_len(callee) => self.narrow_length(ty, right, equal),
                _ => ty,
            },
            Expr::Attribute { value, name: known::DUNDER_CLASS, .. } if value == subject => {
                if equal {
                    self.narrow_isinstance(ty, right, true, false)
                } else {
                    ty
                }
            }
            Expr::Attribute { value, name, .. } if value == subject => {
                let other = self.quietly(right);
                self.narrow_by_tag(ty, other, equal, |infer, part| infer.member(part, name))
            }
            Expr::Subscript { value, index, .. } if value == subject => {
                let other = self.quietly(right);
                self.narrow_by_tag(ty, other, equal, |infer, part| {
                    Some(infer.speculate(|infer| infer.subscript_of(left, part, index)))
                })
            }
            _ => ty,
        }
    }

    /// `isinstance(pair[0], int)`: of several tuples, those whose item may be such.
    fn narrow_by_item(&mut self, ty: Type, callee: ExprId, args: &[Arg], subject: ExprId, positive: bool) -> Type {
        let [first, class] = args else { return ty };
        let Expr::Subscript { value, index, .. } = self.index.exprs[first.value] else { return ty };
        let is_asked = matches!(self.index.exprs[callee], Expr::Name(known::ISINSTANCE, _));
        if !is_asked || !matches!(ty, Type::Union(_)) || value != subject && !self.is_named(value, subject) {
            return ty;
        }
        let all: Vec<Type> = parts(self.db.store(), &ty).to_vec();
        let kept: Vec<Type> = all
            .into_iter()
            .filter(|part| {
                if !matches!(part, Type::Tuple(_)) {
                    return true;
                }
                let item = self.speculate(|infer| infer.subscript_of(first.value, *part, index));
                item == Type::Never || self.narrow_isinstance(item, class.value, positive, false) != Type::Never
            })
            .collect();
        self.join(kept)
    }

    /// Keeps the parts of a union whose tag may be (or may not be) the literal.
    fn narrow_by_tag(
        &mut self,
        ty: Type,
        tag: Type,
        equal: bool,
        mut read: impl FnMut(&mut Self, Type) -> Option<Type>,
    ) -> Type {
        let store = self.db.store();
        if !matches!(ty, Type::Union(_)) || !matches!(tag, Type::Literal(_) | Type::None) {
            return ty;
        }
        let all: Vec<Type> = parts(store, &ty).to_vec();
        let kept: Vec<Type> = all
            .into_iter()
            .filter(|part| {
                if *part == Type::None {
                    return true;
                }
                match read(self, *part) {
                    Some(own) => self.narrow_equal(own, tag, equal, false) != Type::Never,
                    None => true,
                }
            })
            .collect();
        self.join(kept)
    }

    fn names_len(&self, callee: ExprId) -> bool {
        matches!(self.index.exprs[callee], Expr::Name(name, _) if self.text(name) == "len")
    }

    /// `len(x) > 2`: tuples of another length are not meant.
    fn narrow_longer(&mut self, ty: Type, op: CompareOp, length: ExprId, positive: bool) -> Type {
        let store = self.db.store();
        let Expr::Int(Some(length)) = self.index.exprs[length] else { return ty };
        let holds = |own: usize| {
            let own = i64::try_from(own).unwrap_or(i64::MAX);
            let holds = match op {
                CompareOp::Lt => own < length,
                CompareOp::LtE => own <= length,
                CompareOp::Gt => own > length,
                _ => own >= length,
            };
            holds == positive
        };
        filter(store, ty, |part| match part {
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                tuple.rest.is_some() || holds(tuple.prefix.len())
            }
            _ => true,
        })
    }

    fn narrow_length(&mut self, ty: Type, length: ExprId, equal: bool) -> Type {
        let store = self.db.store();
        let Expr::Int(Some(length)) = self.index.exprs[length] else { return ty };
        let Ok(length) = usize::try_from(length) else { return ty };
        filter(store, ty, |part| match part {
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                let least = tuple.prefix.len() + tuple.suffix.len();
                match (tuple.rest.is_some(), equal) {
                    (false, equal) => (least == length) == equal,
                    (true, true) => least <= length,
                    (true, false) => true,
                }
            }
            _ => true,
        })
    }

    /// Whether a value of the type may be of the other: an `object` may be anything.
    fn may_be(&self, ty: Type, other: Type) -> bool {
        match ty {
            Type::Instance(id) => {
                let class = self.db.store().instance(id).class;
                let info = classes::info(self.db, class);
                let is_object = crate::resolve::is_builtin(self.db, class, known::OBJECT);
                other == Type::None
                    && (is_object || (info.kind == ClassKind::Protocol && self.is_assignable(Type::None, ty)))
            }
            Type::Var(_) => true,
            _ => false,
        }
    }
}
