//! Generators: what is yielded, sent and returned (PEP 255, PEP 342, PEP 525).

use leitmotiv_index::tree::ExprId;
use leitmotiv_syntax::names::known;

use super::Infer;
use crate::context::TypeContext;
use crate::problems::ProblemKind;
use crate::types::{CauseKind, Type};

impl TypeContext<'_> {
    /// What a generator returns in the end.
    pub(crate) fn generator_result(&mut self, ty: Type) -> Type {
        self.declared_result(ty).unwrap_or(if ty.is_dynamic() { ty } else { Type::Any })
    }

    /// The same where the type is a `Generator`, which says it.
    pub(crate) fn declared_result(&self, ty: Type) -> Option<Type> {
        let Type::Instance(id) = ty else { return None };
        let abc = self.db.names().intern("collections.abc");
        let class = crate::resolve::standard_class(self.db, abc, known::GENERATOR)?;
        let base = crate::definitions::classes::as_base(self.db, id, class)?;
        self.db.store().instance(base).args.get(2).copied()
    }
}

impl Infer<'_> {
    /// What `yield` gives: what is sent, where the function's annotation says so.
    pub(crate) fn sent(&mut self, expr: ExprId) -> Type {
        let Some(function) = self.index.bodies[self.body].function else { return Type::Any };
        let declared = crate::definitions::functions::declared(self.db, self.file, function);
        if let Some(Type::Instance(id)) = declared.returns {
            let instance = self.db.store().instance(id);
            if instance.args.len() >= 2 {
                return instance.args[1];
            }
        }
        self.unknown(CauseKind::Dynamic, expr)
    }

    /// What the function around declares to yield; `None` where it declares nothing, or no generator.
    fn declared_yield(&mut self, expr: ExprId) -> Option<(Type, leitmotiv_index::tree::FunctionId)> {
        let function = self.index.bodies[self.body].function?;
        let record = &self.index.functions[function];
        let returns = record.returns?;
        if !self.index.bodies[self.body].yields.contains(&expr) {
            return None;
        }
        let enclosing = crate::outline::functions::enclosing_body(self.db, self.file, function);
        let declared = Infer::new(self.db, self.file, enclosing).annotation(returns);
        if declared.is_dynamic() {
            return None;
        }
        let parts = crate::types::union::parts(self.db.store(), &declared).to_vec();
        let names = self.db.names();
        let made = if record.is_async { "AsyncGenerator" } else { "Generator" };
        let is_one = |infer: &mut Self, part: Type| {
            let class = crate::resolve::standard_class(infer.db, names.intern("collections.abc"), names.intern(made));
            class.is_none_or(|class| {
                let args = vec![Type::Any; crate::definitions::classes::info(infer.db, class).params.len()];
                infer.is_assignable(Type::Instance(crate::resolve::instance_of(infer.db, class, &args)), part)
            })
        };
        let yielded: Vec<Type> = parts
            .into_iter()
            .filter_map(|part| is_one(self, part).then(|| self.element(part, record.is_async)).flatten())
            .collect();
        if yielded.is_empty() {
            // Told once, at the first.
            let is_object = matches!(declared, Type::Instance(id)
                if crate::resolve::is_builtin(self.db, self.db.store().instance(id).class, known::OBJECT));
            if !is_object && self.index.bodies[self.body].yields.first() == Some(&expr) {
                let names = self.db.names();
                let (module, class) =
                    (names.intern("collections.abc"), if record.is_async { "AsyncGenerator" } else { "Generator" });
                if let Some(class) = crate::resolve::standard_class(self.db, module, names.intern(class)) {
                    let given = Type::Instance(crate::resolve::instance_of(self.db, class, &[]));
                    // It is the annotation that is wrong.
                    let range = self.index.spans[returns];
                    self.problem_at(range, None, ProblemKind::ValueReturn { declared, given, function });
                }
            }
            return None;
        }
        Some((self.join(yielded), function))
    }

    pub(crate) fn check_yield(&mut self, expr: ExprId, value: Option<ExprId>) {
        if !self.checking {
            return;
        }
        let Some((declared, function)) = self.declared_yield(expr) else { return };
        let fits = match value {
            Some(value) => self.is_assignable_leniently(value, declared),
            None => self.is_assignable(Type::None, declared),
        };
        if !fits {
            let given = value.map_or(Type::None, |value| self.expr(value));
            self.problem(value.unwrap_or(expr), ProblemKind::ValueYield { declared, given, function });
        }
    }

    pub(crate) fn check_yield_from(&mut self, expr: ExprId, value: ExprId, ty: Type) {
        if !self.checking || ty.is_dynamic() {
            return;
        }
        let Some((declared, function)) = self.declared_yield(expr) else { return };
        let Some(given) = self.element(ty, false) else { return };
        if !self.is_assignable(given, declared) && (self.is_display(value) || !self.is_ambiguous(value)) {
            self.problem(value, ProblemKind::ValueYield { declared, given, function });
        }
    }
}
