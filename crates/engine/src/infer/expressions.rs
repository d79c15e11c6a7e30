//! One match over expressions.

use leitmotiv_index::tree::{Expr, ExprId, LambdaId, ParamKind, ScopeId, ScopeKind, Slice, Value, ValueId};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use crate::context::TypeContext;
use crate::problems::ProblemKind;
use crate::types::{CauseKind, Literal, Signature, SignatureParam, Type};

/// Names of builtins that only version 2 of the language had.
const OF_OLD: &[&str] = &[
    "apply",
    "basestring",
    "buffer",
    "cmp",
    "coerce",
    "execfile",
    "file",
    "intern",
    "long",
    "raw_input",
    "reduce",
    "reload",
    "unichr",
    "unicode",
    "xrange",
];

impl TypeContext<'_> {
    /// What `await` gives; `None` where the type cannot be awaited.
    pub(crate) fn awaited(&mut self, ty: Type) -> Option<Type> {
        let store = self.db.store();
        if ty.is_dynamic() || ty == Type::Never {
            return Some(ty);
        }
        let parts = crate::types::union::parts(store, &ty).to_vec();
        let mut results = Vec::with_capacity(parts.len());
        for part in parts {
            if part.is_dynamic() {
                results.push(part);
                continue;
            }
            if matches!(part, Type::Function(_) | Type::Method(_)) {
                return None;
            }
            let method = self.member(part, known::AWAIT)?;
            let generator = self.result_of(method);
            results.push(self.generator_result(generator));
        }
        Some(self.join(results))
    }
}

impl Infer<'_> {
    /// How `isinstance(x, C)` comes out, where what is known of `x` leaves but one answer.
    fn outcome(&mut self, test: ExprId) -> Option<bool> {
        let Expr::Call { callee, args } = &self.index.exprs[test] else { return None };
        let [object, _] = args.as_ref() else { return None };
        if !matches!(self.index.exprs[*callee], Expr::Name(known::ISINSTANCE, _)) || !self.is_said(object.value) {
            return None;
        }
        let ty = self.expr(object.value);
        if ty == Type::Never || crate::types::union::parts(self.db.store(), &ty).iter().any(|part| part.is_dynamic()) {
            return None;
        }
        match (self.narrow(ty, test, object.value, true), self.narrow(ty, test, object.value, false)) {
            (Type::Never, _) => Some(false),
            (_, Type::Never) => Some(true),
            _ => None,
        }
    }

    pub(crate) fn expression(&mut self, expr: ExprId) -> Type {
        let index = self.index;
        let store = self.db.store();
        match &index.exprs[expr] {
            Expr::Invalid => self.unknown(CauseKind::Reported, expr),
            Expr::None => Type::None,
            Expr::Bool(value) => Type::Literal(store.intern_literal(Literal::Bool(*value))),
            Expr::Ellipsis => self.ellipsis(),
            Expr::Int(Some(value)) => Type::Literal(store.intern_literal(Literal::Int(*value))),
            Expr::Int(None) => self.builtin(known::INT),
            Expr::Float => self.builtin(known::FLOAT),
            Expr::Complex => self.builtin(known::COMPLEX),
            Expr::Str(Some(text)) => Type::Literal(store.intern_literal(Literal::Str(*text))),
            Expr::Str(None) => self.builtin(known::STR),
            Expr::Bytes(Some(text)) => Type::Literal(store.intern_literal(Literal::Bytes(*text))),
            Expr::Bytes(None) => self.builtin(known::BYTES),
            Expr::FString(parts) => {
                for part in parts {
                    self.expr(*part);
                }
                self.builtin(known::STR)
            }
            // A template (PEP 750).
            Expr::TString(parts) => {
                for part in parts {
                    self.expr(*part);
                }
                let names = self.db.names();
                crate::resolve::standard_instance(
                    self.db,
                    names.intern("string.templatelib"),
                    names.intern("Template"),
                    &[],
                )
            }
            Expr::Name(name, value) => {
                let ty = self.name(expr, *name, *value);
                self.check_deprecated(expr, ty);
                ty
            }
            Expr::Attribute { value, name, place } => {
                let ty = self.attribute(expr, *value, *name, *place);
                self.check_deprecated(expr, ty);
                if self.checking {
                    let object = self.expr(*value);
                    self.check_deprecated_property(expr, object, *name);
                }
                ty
            }
            Expr::Subscript { value, index, place } => self.subscript(expr, *value, *index, *place),
            Expr::Slice(slice) => {
                let Slice { lower, upper, step } = **slice;
                for part in [lower, upper, step].into_iter().flatten() {
                    self.expr(part);
                }
                self.builtin(known::SLICE)
            }
            Expr::Call { callee, args } => {
                let natural = self.call(expr, *callee, args);
                match index.looked_up.get(&expr) {
                    Some(value) => self.looked_up(natural, *value),
                    None => natural,
                }
            }
            Expr::Binary { op, left, right } => self.binary(expr, *op, *left, *right),
            Expr::Unary { op, operand } => self.unary(expr, *op, *operand),
            Expr::BoolOp { and, operands } => self.bool_op(*and, operands),
            Expr::Compare { left, rest } => self.compare(expr, *left, rest),
            Expr::Conditional { test, then, otherwise } => {
                self.expr(*test);
                let index = self.index;
                let is_out = [*then, *otherwise].map(|part| self.is_excluded(index.spans[part]));
                let (then, otherwise) = (self.expr(*then), self.expr(*otherwise));
                let decided = match is_out {
                    [true, false] => Some(false),
                    [false, true] => Some(true),
                    _ => self.outcome(*test),
                };
                match decided {
                    Some(true) => then,
                    Some(false) => otherwise,
                    None => self.join([then, otherwise]),
                }
            }
            Expr::Lambda(lambda) => {
                let expected = self.expected_of_lambda(*lambda);
                self.lambda(*lambda, &expected)
            }
            Expr::Comprehension(comprehension) => self.comprehension(*comprehension),
            Expr::List(parts) => self.list(expr, parts),
            Expr::Tuple(parts) => self.tuple(parts),
            Expr::Set(parts) => self.set(expr, parts),
            Expr::Dict(parts) => self.dict(expr, parts),
            Expr::Starred(inner) => self.expr(*inner),
            Expr::Await(inner) => {
                let ty = self.expr(*inner);
                let given = self.awaited(ty);
                if given.is_none() {
                    self.check_awaitable(*inner, ty);
                }
                given.unwrap_or_else(|| self.unknown(CauseKind::Reported, expr))
            }
            Expr::Yield(value) => {
                if let Some(value) = value {
                    self.expr(*value);
                }
                self.check_yield(expr, *value);
                self.sent(expr)
            }
            Expr::YieldFrom(value) => {
                let ty = self.expr(*value);
                self.check_yield_from(expr, *value, ty);
                // A coroutine of the old kind awaits so.
                if self.member(ty, known::AWAIT).is_none() {
                    self.check_iterated(*value, ty);
                }
                self.generator_result(ty)
            }
            Expr::Named { def, .. } => {
                self.check_final_rebinding(expr, *def);
                self.definition(*def)
            }
        }
    }

    fn name(&mut self, expr: ExprId, name: Name, value: ValueId) -> Type {
        let ty = self.value(value);
        if self.checking {
            self.check_bound(expr, name, value);
        }
        if ty != Type::Never {
            return ty;
        }
        match self.index.values[value] {
            seen @ (Value::Global(_) | Value::Deferred { .. }) if !self.is_bound_outside(seen, name) => {
                self.undefined(expr, name);
                Type::Unknown(self.cause_named(CauseKind::Undefined, expr, name))
            }
            // Bound, but nothing is known of it (yet): a cycle that is being worked out, or a name that is only bound in
            // places not reached.
            Value::Unbound if self.is_bound_for_others_only(ScopeId(0), name) && self.names_builtin(name) => {
                self.global(name).unwrap_or(Type::Never)
            }
            Value::Unbound => Type::Unknown(self.cause_named(CauseKind::Undefined, expr, name)),
            _ => Type::Never,
        }
    }

    /// Whether a name is bound in a scope that is seen from where it is read (language reference, "Resolution of names"), the module's and
    /// the built-in one among them: what is worked out in a circle has no type yet, and is bound all the same.
    fn is_bound_outside(&self, seen: Value, name: Name) -> bool {
        let mut next = match seen {
            Value::Deferred { scope, .. } => Some(scope),
            _ => Some(ScopeId(0)),
        };
        let mut first = true;
        while let Some(current) = next {
            let record = &self.index.scopes[current];
            let is_seen = first || !matches!(record.kind, ScopeKind::Class(_));
            if is_seen && record.symbols.contains_key(&name) {
                return true;
            }
            first = false;
            next = record.parent;
        }
        crate::resolve::own_name(self.db, self.file, name).is_some() || self.global(name).is_some()
    }

    /// `try: chr = unichr` and a handler for anything: the language of old, asked for.
    pub(crate) fn asks_for_old(&self, expr: ExprId, name: Name) -> bool {
        let at = self.index.spans[expr];
        OF_OLD.contains(&self.text(name)) && self.index.guarded_none.iter().any(|guarded| guarded.contains_range(at))
    }

    fn undefined(&mut self, expr: ExprId, name: Name) {
        if !self.checking || self.index.makes_names || self.index.made_names.contains(&name) {
            return;
        }
        if self.asks_for_old(expr, name) {
            return;
        }
        let mut near = None;
        // What the typing module has is meant, and not imported.
        let is_of_typing = crate::resolve::standard_module(self.db, known::TYPING)
            .is_some_and(|typing| crate::resolve::own_name(self.db, typing, name).is_some());
        if !is_of_typing && self.seeks_nearest() {
            let scope = self.scope_at(expr);
            near = self.nearest(self.db.names().text(name), self.visible_names(scope)).map(str::to_owned);
        }
        self.problem(expr, ProblemKind::NameUndefined { name, near });
    }

    /// The innermost function, class or module scope that an expression stands in.
    pub(crate) fn scope_at(&self, expr: ExprId) -> leitmotiv_index::tree::ScopeId {
        let at = self.index.spans[expr].start();
        let function = self.index.bodies[self.body].function;
        let base = function.map_or(leitmotiv_index::tree::ScopeId(0), |function| self.index.functions[function].scope);
        let mut around = self.index.classes_around.of(at).map(|class| &self.index.classes[class]);
        around.find(|class| class.body == self.body).map_or(base, |class| class.scope)
    }

    /// A lambda, with what is known of its parameters.
    pub(crate) fn lambda(&mut self, id: LambdaId, expected: &[Type]) -> Type {
        let index = self.index;
        let lambda = &index.lambdas[id];
        for (param, ty) in lambda.params.iter().zip(expected) {
            if matches!(param.kind, ParamKind::Normal | ParamKind::PositionalOnly) {
                self.given_params.insert(param.def, *ty);
            }
        }
        let returns = self.expr(lambda.body);
        let returns = self.widen(returns);
        let params = lambda
            .params
            .iter()
            .map(|param| SignatureParam {
                name: param.name,
                kind: param.kind,
                ty: self.given_params.get(&param.def).copied().unwrap_or(Type::Any),
                optional: param.default.is_some(),
            })
            .collect();
        Type::Callable(self.db.store().intern_signature(Signature { params, returns }))
    }
}
