//! Displays, comprehensions, iteration, context managers, subscripts.

use leitmotiv_index::tree::{BinaryOp, ComprehensionId, ComprehensionKind, Expr, ExprId};
use leitmotiv_syntax::names::known;

use super::Infer;
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind};
use crate::types::{CauseKind, Literal, Tuple, TupleId, Type};

/// Displays longer than this take their type from their first elements. Said in docs/architecture.md.
const MOST_ELEMENTS: usize = 256;

impl TypeContext<'_> {
    /// Keys and values of a mapping.
    pub(crate) fn mapping_parts(&mut self, ty: Type) -> (Type, Type) {
        let abc = self.db.names().intern("collections.abc");
        if let Type::Instance(id) = ty
            && let Some(class) = crate::resolve::standard_class(self.db, abc, self.db.names().intern("Mapping"))
            && let Some(base) = classes::as_base(self.db, id, class)
            && let [key, value] = self.db.store().instance(base).args.as_ref()
        {
            return (*key, *value);
        }
        if ty.is_dynamic() { (ty, ty) } else { (Type::Any, Type::Any) }
    }

    /// What all elements of a tuple are together.
    pub fn tuple_element(&self, id: TupleId) -> Type {
        let tuple = self.db.store().tuple(id);
        // What a tuple of variables stands for may be anything.
        let rest = tuple.rest.map(|rest| {
            let is_open = crate::types::substitute::is_variadic(self.db.store(), rest);
            if is_open { self.builtin(known::OBJECT) } else { rest }
        });
        self.join(tuple.prefix.iter().chain(&rest).chain(&tuple.suffix).copied())
    }

    /// The shape of a tuple, also of a class that derives from one.
    pub(crate) fn tuple_shape(&mut self, ty: Type) -> Option<TupleId> {
        match ty {
            Type::Tuple(id) => Some(id),
            Type::Instance(id) => {
                let class = self.db.store().instance(id).class;
                let info = classes::info(self.db, class);
                if let Some(shape) = info.shape {
                    let given = classes::class_arguments(self.db, id);
                    return match given.apply(self.db.store(), shape) {
                        Type::Tuple(id) => Some(id),
                        _ => None,
                    };
                }
                if info.kind != ClassKind::NamedTuple {
                    return None;
                }
                let fields = classes::dataclass::fields_of(self.db, id);
                let prefix: Box<[Type]> = fields.iter().map(|field| field.ty).collect();
                (!prefix.is_empty())
                    .then(|| self.db.store().intern_tuple(Tuple { prefix, rest: None, suffix: [].into() }))
            }
            _ => None,
        }
    }

    /// Whether a class that derives from a tuple has a `__getitem__` of its own: then there may be other items.
    pub(super) fn gives_items_itself(&self, object: Type) -> bool {
        let Type::Instance(id) = object else { return false };
        classes::members::find(self.db, id, known::GETITEM, None).is_some_and(|found| {
            !crate::resolve::is_builtin(self.db, self.db.store().instance(found.owner).class, known::TUPLE)
        })
    }

    /// The items of a typed dictionary; `None` of anything else.
    pub(crate) fn typed_dict_fields(&self, object: Type) -> Option<Vec<classes::dataclass::Field>> {
        let Type::Instance(id) = object else { return None };
        let class = self.db.store().instance(id).class;
        matches!(classes::info(self.db, class).kind, ClassKind::TypedDict { .. })
            .then(|| classes::dataclass::fields_of(self.db, id))
    }

    /// The arguments that a container of `class` must have to be the expected type: `list` for `Sequence[int]` gives `int`.
    pub(crate) fn expected_args(
        &mut self,
        class: crate::types::ClassRef,
        expected: Type,
        count: usize,
    ) -> Option<Vec<Type>> {
        let found = self.said_args(class, expected, count)?;
        Some(found.into_iter().map(|arg| arg.unwrap_or(Type::Any)).collect())
    }

    /// The same; `None` for an argument of which the expected type says nothing.
    fn said_args(&mut self, class: crate::types::ClassRef, expected: Type, count: usize) -> Option<Vec<Option<Type>>> {
        let store = self.db.store();
        let Type::Instance(id) = expected else { return None };
        let wanted = store.instance(id);
        let info = classes::info(self.db, class);
        let own: Vec<Type> = info.params.iter().map(|var| Type::Var(*var)).collect();
        let base = classes::as_base(self.db, crate::resolve::instance_of(self.db, class, &own), wanted.class)?;
        let base = store.instance(base);
        let mut found = vec![None; count];
        for (have, want) in base.args.iter().zip(&wanted.args) {
            if let Type::Var(var) = have
                && let Some(place) = info.params.iter().position(|param| param == var)
                && place < count
            {
                found[place] = Some(*want);
            }
        }
        Some(found)
    }

    /// What iterating gives; `None` where a type cannot be iterated.
    pub fn element(&mut self, ty: Type, is_async: bool) -> Option<Type> {
        let store = self.db.store();
        match ty {
            Type::Never | Type::Any | Type::Unknown(_) => return Some(ty),
            Type::Union(id) => {
                let parts = store.union_parts(id).to_vec();
                let mut found = Vec::with_capacity(parts.len());
                for part in parts {
                    // What is no iterable among the parts is for rules to say, not for the element's type.
                    if let Some(element) = self.element(part, is_async) {
                        found.push(element);
                    }
                }
                return if found.is_empty() { None } else { Some(self.join(found)) };
            }
            Type::Tuple(id) if !is_async => {
                let tuple = store.tuple(id);
                if tuple.prefix.is_empty() && tuple.rest.is_none() {
                    return Some(Type::Never);
                }
                return Some(self.tuple_element(id));
            }
            Type::Literal(id) if matches!(store.literal(id), Literal::Str(_)) && !is_async => {
                return Some(self.builtin(known::STR));
            }
            Type::Class(id) if classes::info(self.db, store.instance(id).class).kind == ClassKind::Enum => {
                return Some(Type::Instance(id));
            }
            Type::None | Type::Function(_) => return None,
            _ => {}
        }
        // A named tuple gives its fields, whatever its class's `__iter__` says of them all.
        if !is_async
            && let Type::Instance(id) = ty
            && let Some(shape) = self.tuple_shape(ty)
            && classes::members::find(self.db, id, known::ITER, None).is_some_and(|found| {
                crate::resolve::is_builtin(self.db, store.instance(found.owner).class, known::TUPLE)
            })
        {
            return Some(self.tuple_element(shape));
        }
        let (iter, next) = if is_async { (known::AITER, known::ANEXT) } else { (known::ITER, known::NEXT) };
        if let Some(method) = self.member(ty, iter) {
            let iterator = self.result_of(method);
            if iterator.is_dynamic() {
                return Some(iterator);
            }
            let method = self.member(iterator, next)?;
            let result = self.result_of(method);
            return if is_async { self.awaited(result) } else { Some(result) };
        }
        if is_async {
            return None;
        }
        // The old protocol: `__getitem__` with numbers from 0 on.
        let method = self.member(ty, known::GETITEM)?;
        let int = self.builtin(known::INT);
        Some(self.call_with(method, &[int]))
    }
}

impl Infer<'_> {
    pub(crate) fn list(&mut self, expr: ExprId, parts: &[ExprId]) -> Type {
        let element = self.elements(expr, parts);
        self.container(known::LIST, &[element])
    }

    pub(crate) fn set(&mut self, expr: ExprId, parts: &[ExprId]) -> Type {
        let element = self.elements(expr, parts);
        for part in parts {
            self.check_hashable(*part);
        }
        self.container(known::SET_CLASS, &[element])
    }

    fn elements(&mut self, expr: ExprId, parts: &[ExprId]) -> Type {
        if parts.is_empty() {
            return self.unknown(CauseKind::Empty, expr);
        }
        let mut types = Vec::with_capacity(parts.len().min(MOST_ELEMENTS));
        for (number, part) in parts.iter().enumerate() {
            if number >= MOST_ELEMENTS && !self.checking {
                break;
            }
            let ty = match self.index.exprs[*part] {
                Expr::Starred(inner) => {
                    let ty = self.expr(inner);
                    self.check_iterated(inner, ty);
                    self.element(ty, false).unwrap_or(Type::Any)
                }
                _ => self.expr(*part),
            };
            if number < MOST_ELEMENTS {
                types.push(self.widen(ty));
            }
        }
        self.join(types)
    }

    pub(crate) fn tuple(&mut self, parts: &[ExprId]) -> Type {
        let mut prefix = Vec::with_capacity(parts.len());
        let mut rest: Option<Type> = None;
        let mut suffix = Vec::new();
        for part in parts {
            if let Expr::Starred(inner) = self.index.exprs[*part] {
                let ty = self.expr(inner);
                self.check_iterated(inner, ty);
                if let Some(id) = self.tuple_shape(ty)
                    && self.db.store().tuple(id).rest.is_none()
                {
                    let items = self.db.store().tuple(id).prefix.clone();
                    if rest.is_some() {
                        suffix.extend(items)
                    } else {
                        prefix.extend(items)
                    }
                    continue;
                }
                let element = self.element(ty, false).unwrap_or(Type::Any);
                // Two parts of unknown length are one.
                let behind = self.join(suffix.drain(..));
                rest = Some(match rest {
                    Some(rest) => self.join([rest, behind, element]),
                    None => element,
                });
                continue;
            }
            let ty = self.expr(*part);
            if rest.is_some() { suffix.push(ty) } else { prefix.push(ty) }
        }
        for part in prefix.iter_mut().chain(&mut rest).chain(&mut suffix) {
            *part = self.limit_depth(*part);
        }
        let tuple = Tuple { prefix: prefix.into(), rest, suffix: suffix.into() };
        Type::Tuple(self.db.store().intern_tuple(tuple))
    }

    pub(crate) fn dict(&mut self, expr: ExprId, parts: &[(Option<ExprId>, ExprId)]) -> Type {
        if parts.is_empty() {
            let unknown = self.unknown(CauseKind::Empty, expr);
            return self.container(known::DICT, &[unknown, unknown]);
        }
        let (mut keys, mut values) = (Vec::new(), Vec::new());
        for (number, (key, value)) in parts.iter().enumerate() {
            if number >= MOST_ELEMENTS && !self.checking {
                break;
            }
            let value_type = self.expr(*value);
            let (key, value) = match key {
                Some(key) => {
                    self.check_hashable(*key);
                    (self.expr(*key), value_type)
                }
                None => self.mapping_parts(value_type),
            };
            if number < MOST_ELEMENTS {
                keys.push(self.widen(key));
                values.push(self.widen(value));
            }
        }
        let (key, value) = (self.join(keys), self.join(values));
        self.container(known::DICT, &[key, value])
    }

    pub(crate) fn comprehension(&mut self, id: ComprehensionId) -> Type {
        let index = self.index;
        let comprehension = &index.comprehensions[id];
        for iterable in &comprehension.iterables {
            let ty = self.expr(*iterable);
            self.check_iterable(*iterable, ty, comprehension.is_async);
        }
        for condition in &comprehension.conditions {
            self.expr(*condition);
        }
        let element = self.comprehended(comprehension.element);
        match comprehension.kind {
            ComprehensionKind::List => self.container(known::LIST, &[element]),
            ComprehensionKind::Set => self.container(known::SET_CLASS, &[element]),
            ComprehensionKind::Dict => {
                let key = comprehension.key.map_or(Type::Any, |key| self.comprehended(key));
                self.container(known::DICT, &[key, element])
            }
            ComprehensionKind::Generator => {
                let abc = self.db.names().intern("collections.abc");
                if comprehension.is_async {
                    return crate::resolve::standard_instance(
                        self.db,
                        abc,
                        known::ASYNC_GENERATOR,
                        &[element, Type::None],
                    );
                }
                crate::resolve::standard_instance(self.db, abc, known::GENERATOR, &[element, Type::None, Type::None])
            }
        }
    }

    /// An element that a comprehension makes: a literal stands for its class, but where it was declared.
    fn comprehended(&mut self, element: ExprId) -> Type {
        let ty = self.expr(element);
        let wide = self.widen(ty);
        if wide != ty && self.is_said(element) { ty } else { wide }
    }

    /// Looks at what is iterated: it may be None, or something that cannot be.
    pub(crate) fn check_iterable(&mut self, expr: ExprId, ty: Type, is_async: bool) {
        let found = self.element(ty, is_async);
        if found.is_none() {
            self.check_not_iterable(expr, ty, is_async);
        } else if crate::types::union::may_be_none(self.db.store(), ty)
            && !self.is_unreliable_none(expr)
            && self.is_first_none(expr, expr)
        {
            self.problem(expr, crate::problems::ProblemKind::NoneIteration { object: ty });
        }
    }

    /// What `with manager as x` gives to `x`; `None` where it is no context manager.
    pub(crate) fn entered(&mut self, ty: Type, is_async: bool) -> Option<Type> {
        let name = if is_async { known::AENTER } else { known::ENTER };
        let parts = crate::types::union::parts(self.db.store(), &ty).to_vec();
        let mut found = Vec::with_capacity(parts.len());
        for part in parts {
            let method = self.member(part, name)?;
            let mut result = self.result_of(method);
            if is_async {
                result = self.awaited(result)?;
            }
            found.push(result);
        }
        Some(self.join(found))
    }

    /// Whether an expression is a display, which can take the type that is expected of it.
    pub(crate) fn is_display(&self, expr: ExprId) -> bool {
        match &self.index.exprs[expr] {
            Expr::List(_) | Expr::Dict(_) | Expr::Set(_) | Expr::Lambda(_) | Expr::Comprehension(_) => true,
            Expr::Tuple(parts) => parts.iter().any(|part| self.is_display(*part)),
            Expr::Conditional { then, otherwise, .. } => self.is_display(*then) || self.is_display(*otherwise),
            Expr::BoolOp { operands, .. } => operands.last().is_some_and(|last| self.is_display(*last)),
            Expr::Binary { op: BinaryOp::Add | BinaryOp::Mul, left, right } => {
                self.is_display(*left) || self.is_display(*right)
            }
            _ => false,
        }
    }

    /// Whether an expression fits a type. Displays are compared element by element: nobody else holds them, so they may
    /// become what is expected (typing specification, "Bidirectional inference").
    pub(crate) fn fits(&mut self, expr: ExprId, expected: Type) -> bool {
        let expected = self.unfolded(expected);
        let store = self.db.store();
        let index = self.index;
        if let Expr::Conditional { then, otherwise, .. } = index.exprs[expr] {
            self.expr(expr);
            return self.fits(then, expected) && self.fits(otherwise, expected);
        }
        // `ports or []`: what is tested counts only as far as it may come out.
        if let Expr::BoolOp { and, operands } = &index.exprs[expr]
            && self.is_display(expr)
            && let Some((last, tested)) = operands.split_last()
        {
            self.expr(expr);
            return tested.iter().all(|operand| {
                let ty = self.expr(*operand);
                let left = self.truthy_part(ty, !and);
                self.is_assignable(left, expected)
            }) && self.fits(*last, expected);
        }
        if let Type::Union(id) = expected
            && self.is_display(expr)
        {
            let parts = store.union_parts(id).to_vec();
            return parts.into_iter().any(|part| self.fits(expr, part));
        }
        match (&index.exprs[expr], expected) {
            (Expr::List(parts) | Expr::Set(parts), Type::Instance(_)) => {
                let given = self.expr(expr);
                if self.is_assignable(given, expected) {
                    return true;
                }
                let Type::Instance(own) = given else { return false };
                let own_class = store.instance(own).class;
                let Some(element) = self.expected_args(own_class, expected, 1) else { return false };
                parts.iter().all(|part| match index.exprs[*part] {
                    Expr::Starred(_) => true,
                    _ => self.fits(*part, element[0]),
                })
            }
            (Expr::Binary { op: op @ (BinaryOp::Add | BinaryOp::Mul), left, right }, Type::Instance(_)) => {
                let given = self.expr(expr);
                self.is_assignable(given, expected)
                    || self.new_list_fits(expr, *op, (*left, *right), expected)
                    || self.is_put_together(expr, expected)
            }
            (Expr::Dict(parts), Type::Instance(id)) => {
                let given = self.expr(expr);
                if self.is_assignable(given, expected) {
                    return true;
                }
                let class = store.instance(id).class;
                if matches!(classes::info(self.db, class).kind, ClassKind::TypedDict { .. }) {
                    return self.item_flaw(id, parts).is_none();
                }
                let Type::Instance(own) = given else { return false };
                let own_class = store.instance(own).class;
                let Some(args) = self.expected_args(own_class, expected, 2) else { return false };
                parts.iter().all(|(key, value)| match key {
                    Some(key) => self.fits(*key, args[0]) && self.fits(*value, args[1]),
                    None => true,
                })
            }
            (Expr::Comprehension(id), Type::Instance(_)) => {
                let given = self.expr(expr);
                if self.is_assignable(given, expected) {
                    return true;
                }
                let Type::Instance(own) = given else { return false };
                let comprehension = &index.comprehensions[*id];
                let own_class = store.instance(own).class;
                let wanted = if comprehension.key.is_some() { 2 } else { 1 };
                let Some(args) = self.expected_args(own_class, expected, wanted) else { return false };
                let key = comprehension.key.is_none_or(|key| self.fits(key, args[0]));
                key && self.fits(comprehension.element, args[wanted - 1])
            }
            (Expr::Tuple(parts), Type::Tuple(id)) => {
                let tuple = store.tuple(id).clone();
                match tuple.rest {
                    None if tuple.prefix.len() == parts.len() => {
                        parts.iter().zip(&tuple.prefix).all(|(part, ty)| self.fits(*part, *ty))
                    }
                    Some(rest) if tuple.prefix.is_empty() && tuple.suffix.is_empty() => {
                        parts.iter().all(|part| self.fits(*part, rest))
                    }
                    _ => {
                        let given = self.expr(expr);
                        self.is_assignable(given, expected)
                    }
                }
            }
            (Expr::Call { .. }, _) => {
                let given = self.expr(expr);
                self.is_assignable(given, expected)
                    || self.call_fits(expr, expected)
                    || self.is_put_together(expr, expected)
            }
            // What it gives may be a display that becomes what is expected.
            (Expr::Lambda(lambda), Type::Callable(want)) => {
                let given = self.expr(expr);
                let wanted = store.signature(want).returns;
                self.is_assignable(given, expected)
                    || match given {
                        Type::Callable(have) if self.is_display(index.lambdas[*lambda].body) => {
                            let have = crate::types::Signature { returns: wanted, ..store.signature(have).clone() };
                            self.fits(index.lambdas[*lambda].body, wanted)
                                && self.is_assignable(Type::Callable(store.intern_signature(have)), expected)
                        }
                        _ => false,
                    }
            }
            _ => {
                let given = self.expr(expr);
                self.is_assignable(given, expected) || self.is_put_together(expr, expected)
            }
        }
    }

    /// Whether a list that lists and displays are put together to fits: `[None] * 3`, `[0] + depths`. Nobody else holds
    /// it, so only its elements count.
    fn new_list_fits(&mut self, expr: ExprId, op: BinaryOp, operands: (ExprId, ExprId), expected: Type) -> bool {
        if !self.is_display(expr) || self.list_element(expr).is_none() {
            return false;
        }
        let mut lists = vec![];
        for operand in [operands.0, operands.1] {
            match self.list_element(operand) {
                Some((class, element)) => lists.push((operand, class, element)),
                None if op == BinaryOp::Mul => {}
                None => return false,
            }
        }
        lists.into_iter().all(|(operand, class, element)| {
            let wanted = self.expected_args(class, expected, 1);
            let goes_in = wanted.is_some_and(|args| self.is_assignable(element, args[0]));
            goes_in || self.is_display(operand) && self.fits(operand, expected)
        })
    }

    /// What the list that an expression gives has as elements, and its class.
    fn list_element(&mut self, expr: ExprId) -> Option<(crate::types::ClassRef, Type)> {
        let Type::Instance(id) = self.expr(expr) else { return None };
        let instance = self.db.store().instance(id);
        let is_list = crate::resolve::is_builtin(self.db, instance.class, known::LIST);
        is_list.then(|| instance.args.first().map(|element| (instance.class, *element))).flatten()
    }

    /// What a display is that fits an expected type: `[]` for `Sequence[int]` is a `list[int]`.
    pub(crate) fn display_as(&mut self, expr: ExprId, expected: Type) -> Option<Type> {
        let store = self.db.store();
        let Type::Instance(own) = self.expr(expr) else { return None };
        let own = store.instance(own).clone();
        for part in crate::types::union::parts(store, &expected).to_vec() {
            let Some(args) = self.said_args(own.class, part, own.args.len()) else { continue };
            if !self.fits(expr, part) {
                continue;
            }
            let args: Vec<Type> = args.iter().zip(&own.args).map(|(want, have)| want.unwrap_or(*have)).collect();
            return Some(Type::Instance(crate::resolve::instance_of(self.db, own.class, &args)));
        }
        None
    }
}
