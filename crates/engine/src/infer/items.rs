//! What stands in brackets behind an object: items of containers, tuples and typed dictionaries, and arguments of classes (language
//! reference, "Subscriptions").

use leitmotiv_index::tree::{Expr, ExprId, Slice, UnaryOp, ValueId};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use crate::call::{Argument, Bind, Why};
use crate::definitions::classes::{self, ClassKind};
use crate::types::{CauseKind, Literal, Tuple, TupleId, Type};

impl Infer<'_> {
    pub(crate) fn subscript(&mut self, expr: ExprId, value: ExprId, index: ExprId, place: ValueId) -> Type {
        let object = self.expr(value);
        self.expr(index);
        if let Some(place) = place.known()
            && (!self.is_written(place) || self.keeps_items(object))
        {
            let ty = if self.is_lost(place) { Type::Never } else { self.value(place) };
            if ty != Type::Never || self.is_exhausted(place) {
                return ty;
            }
        }
        self.subscript_of(expr, object, index)
    }

    /// Whether an item read back is what was written: so it is for the containers of the standard library, but for those that
    /// take more than they give, and so make something of it.
    fn keeps_items(&mut self, object: Type) -> bool {
        let Some(id) = self.nominal(object) else { return object.is_dynamic() || matches!(object, Type::Union(_)) };
        let store = self.db.store();
        let Some(found) = classes::members::find(self.db, id, known::SETITEM, None) else { return true };
        if store.instance(found.owner).class.file.origin(self.db) != leitmotiv_project::resolve::Origin::Bundled {
            return false;
        }
        let (Some(set), Some(get)) = (self.member(object, known::SETITEM), self.member(object, known::GETITEM)) else {
            return true;
        };
        let (sets, gets) = (self.candidates(set), self.candidates(get));
        let (Some(set), Some(get)) = (sets.first(), gets.first()) else { return true };
        let Some(value) = set.signature.params.last() else { return true };
        // Whose method itself says that an item may be anything makes something else of some.
        if get.signature.returns == Type::Any {
            return false;
        }
        let takes = set.start.apply(store, value.ty);
        let gives = self.candidate_result(get, &get.start);
        self.is_assignable(takes, gives)
    }

    /// Whether arguments of a class are made as the program runs: `Box[type(value)]`.
    fn is_computed(&self, index: ExprId) -> bool {
        match &self.index.exprs[index] {
            Expr::Call { .. } => true,
            Expr::Tuple(parts) => parts.iter().any(|part| self.is_computed(*part)),
            _ => false,
        }
    }

    /// What an item of an object is.
    pub(crate) fn subscript_of(&mut self, expr: ExprId, object: Type, index: ExprId) -> Type {
        let store = self.db.store();
        match object {
            Type::Never | Type::Any | Type::Unknown(_) => return object,
            Type::Union(id) => {
                let parts = store.union_parts(id).to_vec();
                if let Expr::Subscript { value, .. } = self.index.exprs[expr]
                    && self.checking
                    && parts.contains(&Type::None)
                    && !self.is_unreliable_none(value)
                    && self.is_first_none(value, expr)
                {
                    self.problem(expr, crate::problems::ProblemKind::NoneIndex { object });
                }
                let is_open = parts.iter().any(|part| part.is_dynamic());
                let before = self.problems.len();
                let mut all_fail = !parts.contains(&Type::None);
                let mut found = Vec::with_capacity(parts.len());
                for part in parts.into_iter().filter(|part| *part != Type::None) {
                    let so_far = self.problems.len();
                    found.push(self.subscript_of(expr, part, index));
                    all_fail &= self.problems.len() > so_far;
                }
                // Where nobody can tell which it is, one that has items is enough; so is one of several typed dictionaries that
                // has the key, as other conditions tell which it is.
                let lack_keys = self.problems[before..]
                    .iter()
                    .all(|problem| matches!(problem.kind, crate::problems::ProblemKind::KeyAbsent { .. }));
                // Where it may be something unknown, a tuple that is too short may be what it never is there.
                let lack_items = is_open
                    && self.problems[before..]
                        .iter()
                        .all(|problem| matches!(problem.kind, crate::problems::ProblemKind::IndexRange { .. }));
                if self.problems.len() > before
                    && !all_fail
                    && let Expr::Subscript { value, .. } = self.index.exprs[expr]
                    && ((lack_keys || lack_items) && !self.is_declared_place(value) || self.is_ambiguous(value))
                {
                    self.problems.truncate(before);
                }
                return self.join(found);
            }
            Type::SubclassOf(inner) if let Type::Instance(id) = *store.single(inner) => {
                let class = store.instance(id).class;
                let info = classes::info(self.db, class);
                let by_metaclass =
                    info.metaclass.and_then(|metaclass| self.metaclass_member(id, metaclass, known::GETITEM));
                if by_metaclass.is_some() {
                    return self.subscript_of(expr, Type::Class(id), index);
                }
                // Of which subclass the arguments are nobody knows.
                if !info.params.is_empty() || classes::members::find(self.db, id, known::CLASS_GETITEM, None).is_some()
                {
                    self.expr(index);
                    return self.unknown(CauseKind::Dynamic, expr);
                }
            }
            Type::Class(_) | Type::Special(_) | Type::Form(_) => {
                // Type arguments: the type as a value.
                if let Type::Class(id) = object {
                    let class = store.instance(id).class;
                    if classes::info(self.db, class).kind == ClassKind::Enum {
                        let (given, text) = (self.expr(index), self.builtin(known::STR));
                        if !self.is_part_dynamic(given) && !self.is_assignable(given, text) {
                            let kind = crate::problems::ProblemKind::IndexKey { object, expected: text, given };
                            self.problem(expr, kind);
                        }
                        return Type::Instance(id);
                    }
                    let info = classes::info(self.db, class);
                    if let Some(metaclass) = info.metaclass
                        && let Some(method) = self.metaclass_member(id, metaclass, known::GETITEM)
                    {
                        let key = self.expr(index);
                        if let Some(item) = self.try_call(method, &[key]) {
                            return item;
                        }
                        if let Expr::Subscript { value, .. } = self.index.exprs[expr] {
                            self.check_key(expr, value, (object, method), index);
                        }
                        return self.call_with(method, &[key]);
                    }
                    let is_generic = !info.params.is_empty()
                        || classes::derives_builtin(self.db, class, known::TUPLE)
                        || crate::resolve::is_builtin(self.db, class, known::TYPE);
                    if !is_generic {
                        return self.unknown(CauseKind::Dynamic, expr);
                    }
                }
                // `Fleet[Ferry]()`: as much is asked of the arguments as in an annotation.
                let is_own = matches!(object, Type::Class(id) if !store.instance(id).class.file.is_stub(self.db));
                let ty = match is_own && self.checking && !self.is_computed(index) {
                    true => self.annotation(expr),
                    false => self.speculate(|infer| infer.annotation(expr)),
                };
                return self.form(ty);
            }
            _ => {}
        }
        if let Some(id) = self.tuple_shape(object)
            && !self.gives_items_itself(object)
            && let Some(ty) = self.tuple_item(id, index)
        {
            return ty;
        }
        if let Some(ty) = self.typed_dict_item(object, index) {
            return ty;
        }
        let Some(method) = self.member(object, known::GETITEM) else {
            if let Expr::Subscript { value, .. } = self.index.exprs[expr]
                && !self.is_receiver(value)
                && !self.is_ambiguous_element(value)
            {
                let kind = match object {
                    Type::None => crate::problems::ProblemKind::NoneIndex { object },
                    _ => {
                        crate::problems::ProblemKind::IndexUnsupported { object, access: crate::problems::Access::Read }
                    }
                };
                self.problem(expr, kind);
            }
            return self.unknown(CauseKind::Reported, expr);
        };
        let key = self.expr(index);
        if let Some(item) = self.try_call(method, &[key]) {
            return item;
        }
        let is_told = match self.index.exprs[expr] {
            Expr::Subscript { value, .. } => self.check_key(expr, value, (object, method), index),
            _ => false,
        };
        self.unknown(if is_told { CauseKind::Reported } else { CauseKind::Dynamic }, expr)
    }

    /// Reports a key of a type that an object does not take; whether it did.
    fn check_key(&mut self, expr: ExprId, holder: ExprId, (object, method): (Type, Type), index: ExprId) -> bool {
        let is_tuple = matches!(self.index.exprs[index], Expr::Tuple(_));
        let is_open = !is_tuple && self.is_ambiguous(index);
        if !self.checking || self.is_receiver(holder) || self.is_ambiguous_element(holder) || is_open {
            return false;
        }
        // What was only concluded of a container from its first keys need not hold for all.
        let is_by_argument = self.candidates(method).iter().any(|candidate| {
            candidate.function.is_some_and(|function| {
                let declared = crate::definitions::functions::declared(self.db, function.file, function.function);
                let mut params = declared.params.iter().skip(candidate.skipped);
                params.any(|param| crate::types::substitute::has_variables(self.db.store(), param.ty))
            })
        });
        if is_by_argument && !self.is_said(holder) && !self.is_declared_place(holder) {
            return false;
        }
        let candidates = self.candidates(method);
        // A tuple of keys is no display that could still become another: each of them is meant.
        let given = match self.index.exprs[index] {
            Expr::Tuple(_) => Argument::of_type(self.expr(index)),
            _ => Argument::of_expr(index),
        };
        let Err(refusals) = self.choose(&candidates, &[given]) else { return false };
        self.refuse_key(expr, object, index, &refusals)
    }

    /// Reports a key that no signature takes, with what they take; whether any of them says so.
    pub(crate) fn refuse_key(
        &mut self,
        at: ExprId,
        object: Type,
        index: ExprId,
        refusals: &[(usize, crate::call::Refusal)],
    ) -> bool {
        let wanted: Vec<Type> = refusals
            .iter()
            .filter_map(|(_, refusal)| match refusal.why {
                Why::Argument { expected, .. } => Some(expected),
                _ => None,
            })
            .collect();
        if wanted.is_empty() {
            return false;
        }
        let given = self.expr(index);
        let expected = self.join(wanted);
        self.problem(at, crate::problems::ProblemKind::IndexKey { object, expected, given });
        true
    }

    fn constant_index(&self, index: ExprId) -> Option<i64> {
        match self.index.exprs[index] {
            Expr::Int(Some(value)) => Some(value),
            Expr::Unary { op: UnaryOp::Neg, operand } => match self.index.exprs[operand] {
                Expr::Int(Some(value)) => Some(-value),
                _ => None,
            },
            _ => None,
        }
    }

    /// An index as it is written, or as the constant that stands there says.
    fn known_index(&mut self, index: ExprId) -> Option<i64> {
        self.constant_index(index).or_else(|| match self.index.exprs[index] {
            Expr::Name(..) | Expr::Attribute { .. } => match self.expr(index) {
                Type::Literal(id) => match self.db.store().literal(id) {
                    Literal::Int(value) => Some(*value),
                    _ => None,
                },
                _ => None,
            },
            _ => None,
        })
    }

    fn tuple_item(&mut self, id: TupleId, index: ExprId) -> Option<Type> {
        let tuple = self.db.store().tuple(id).clone();
        if let Some(found) = self.item_at_several(&tuple, index) {
            return Some(found);
        }
        if let Some(at) = self.known_index(index) {
            let from_front = usize::try_from(at).ok();
            let from_back = usize::try_from(-at).ok();
            let Some(rest) = tuple.rest else {
                let len = tuple.prefix.len();
                let place = from_front.or_else(|| len.checked_sub(from_back?)).filter(|place| *place < len);
                let Some(place) = place else {
                    let object = Type::Tuple(id);
                    self.problem(index, crate::problems::ProblemKind::IndexRange { object, at });
                    return Some(self.unknown(CauseKind::Reported, index));
                };
                return Some(tuple.prefix[place]);
            };
            if let Some(ty) = from_front.and_then(|at| tuple.prefix.get(at)) {
                return Some(*ty);
            }
            if let Some(ty) = from_back.and_then(|back| tuple.suffix.get(tuple.suffix.len().checked_sub(back)?)) {
                return Some(*ty);
            }
            let all = self.tuple_element(id);
            // Behind those that are counted off come the others.
            let is_behind = from_front.is_some() && tuple.suffix.is_empty();
            let is_before = from_back.is_some_and(|back| back > tuple.suffix.len()) && tuple.prefix.is_empty();
            return Some(if is_behind || is_before { rest } else { all });
        }
        if let Expr::Slice(slice) = &self.index.exprs[index]
            && let Slice { lower: None, upper: None, step: Some(step) } = **slice
            && tuple.rest.is_none()
            && self.constant_index(step) == Some(-1)
        {
            let prefix = tuple.prefix.iter().rev().copied().collect();
            let turned = Tuple { prefix, rest: None, suffix: [].into() };
            return Some(Type::Tuple(self.db.store().intern_tuple(turned)));
        }
        if let Expr::Slice(slice) = &self.index.exprs[index]
            && let Slice { lower, upper, step: None } = **slice
            && tuple.rest.is_none()
        {
            let len = i64::try_from(tuple.prefix.len()).ok()?;
            let bound = |infer: &Self, part: Option<ExprId>, default: i64| -> Option<i64> {
                let at = match part {
                    Some(part) => infer.constant_index(part)?,
                    None => default,
                };
                Some(if at < 0 { (at + len).max(0) } else { at.min(len) })
            };
            let (from, to) = (bound(self, lower, 0)?, bound(self, upper, len)?);
            let items = tuple.prefix.get(usize::try_from(from).ok()?..usize::try_from(to.max(from)).ok()?)?;
            let part = Tuple { prefix: items.into(), rest: None, suffix: [].into() };
            return Some(Type::Tuple(self.db.store().intern_tuple(part)));
        }
        None
    }

    /// What is at one of several places that are counted off.
    fn item_at_several(&mut self, tuple: &Tuple, index: ExprId) -> Option<Type> {
        if !matches!(self.index.exprs[index], Expr::Name(..) | Expr::Attribute { .. }) || tuple.rest.is_some() {
            return None;
        }
        let Type::Union(union) = self.expr(index) else { return None };
        let store = self.db.store();
        let places = store.union_parts(union).to_vec().into_iter().map(|part| match part {
            Type::Literal(id) => match store.literal(id) {
                Literal::Int(at) if *at >= 0 => usize::try_from(*at).ok(),
                Literal::Int(at) => tuple.prefix.len().checked_sub(usize::try_from(-*at).ok()?),
                _ => None,
            },
            _ => None,
        });
        let found: Option<Vec<Type>> = places.map(|place| tuple.prefix.get(place?).copied()).collect();
        found.map(|found| self.join(found))
    }

    /// What a typed dictionary holds at a key; reports a key that it does not have.
    pub(crate) fn typed_dict_item(&mut self, object: Type, index: ExprId) -> Option<Type> {
        let fields = self.typed_dict_fields(object)?;
        let Some(key) = self.text_literal(index) else { return Some(self.item_of_key(object, &fields, index)) };
        if let Some(field) = fields.iter().find(|field| field.name == key) {
            return Some(field.ty);
        }
        let names = fields.iter().map(|field| self.text(field.name));
        let near = super::attributes::nearest(self.text(key), names).map(str::to_owned);
        self.problem(index, crate::problems::ProblemKind::KeyAbsent { object, key, near });
        Some(self.unknown(CauseKind::Reported, index))
    }

    /// What a typed dictionary holds at a key that is no single text: at one of several, what these hold together.
    fn item_of_key(&mut self, object: Type, fields: &[classes::dataclass::Field], index: ExprId) -> Type {
        use crate::problems::ProblemKind;
        let given = self.expr(index);
        if given.is_dynamic() || given == Type::Never {
            return Type::Any;
        }
        let parts = crate::types::union::parts(self.db.store(), &given).to_vec();
        let mut found = Vec::with_capacity(parts.len());
        for part in &parts {
            let Type::Literal(id) = *part else { break };
            let Literal::Str(key) = *self.db.store().literal(id) else { break };
            match fields.iter().find(|field| field.name == key) {
                Some(field) => found.push(field.ty),
                None => {
                    self.problem(index, ProblemKind::KeyAbsent { object, key, near: None });
                    return self.unknown(CauseKind::Reported, index);
                }
            }
        }
        if found.len() == parts.len() {
            return self.join(found);
        }
        let text = self.builtin(known::STR);
        if !parts.iter().any(|part| part.is_dynamic() || self.is_assignable(*part, text)) {
            self.problem(index, ProblemKind::IndexKey { object, expected: text, given });
        } else if self.is_said(index) && parts.iter().all(|part| matches!(part, Type::Instance(_))) {
            self.problem(index, ProblemKind::KeyOpen { object, given });
        }
        Type::Any
    }

    /// The text that an expression is known to be.
    pub(crate) fn text_literal(&mut self, expr: ExprId) -> Option<Name> {
        let Type::Literal(id) = self.quietly(expr) else { return None };
        match *self.db.store().literal(id) {
            crate::types::Literal::Str(text) => Some(text),
            _ => None,
        }
    }
}
