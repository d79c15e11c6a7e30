//! The walk that checks a body: every statement that can be reached, every expression in it.

use leitmotiv_index::tree::{Expr, ExprId, FunctionId, StatementKind};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{TextRange, TextSize};

use super::assignments::Put;
use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::types::{SpecialForm, Type};

impl Infer<'_> {
    /// Checks the body.
    pub fn check(&mut self) {
        self.check_up_to(TextSize::new(u32::MAX));
        self.check_end();
        self.note_unknown_values();
    }

    /// Checks the statements that begin before a place.
    pub(crate) fn check_up_to(&mut self, end: TextSize) {
        self.checking = true;
        let index = self.index;
        let mut dead = false;
        for statement in index.bodies[self.body].statements.iter().take_while(|one| one.range.start() < end) {
            if self.reachable(statement.reach) {
                self.statement(&statement.kind, statement.range);
                dead = false;
            } else if !std::mem::replace(&mut dead, true) {
                self.note_unreachable(statement);
            }
        }
    }

    /// Looks at a call on its own: a coroutine that nobody awaits never runs.
    fn check_awaited(&mut self, expr: ExprId, ty: Type) {
        let Type::Instance(id) = ty else { return };
        let class = self.db.store().instance(id).class;
        let is_coroutine =
            crate::resolve::is_standard(self.db, class, self.db.names().intern("collections.abc"), known::COROUTINE);
        let Expr::Call { callee, .. } = self.index.exprs[expr] else { return };
        // What is only shown is given on.
        let is_shown = matches!(self.index.exprs[callee], Expr::Name(name, _) | Expr::Attribute { name, .. }
            if matches!(self.text(name), "reveal_type" | "assert_type"));
        if is_coroutine && !is_shown {
            self.problem(expr, ProblemKind::CallUnawaited { object: ty });
        }
    }

    /// Looks at the end of a function that declares what it returns.
    fn check_end(&mut self) {
        use leitmotiv_index::tree::BodyShape;
        let body = &self.index.bodies[self.body];
        let Some(function) = body.function else { return };
        let record = &self.index.functions[function];
        let Some(returns) = record.returns else { return };
        if record.shape != BodyShape::Code || !body.yields.is_empty() || self.file.is_stub(self.db) {
            return;
        }
        let is_pattern = record.decorators.iter().any(|decorator| {
            matches!(self.index.decorator_name(*decorator), Some(known::OVERLOAD | known::ABSTRACTMETHOD))
        });
        if is_pattern || !self.reachable(body.end) {
            return;
        }
        let enclosing = crate::outline::functions::enclosing_body(self.db, self.file, function);
        let declared = Infer::new(self.db, self.file, enclosing).annotation(returns);
        // What is not known to come back may be what never does.
        if declared == Type::Never && self.has_unknown_call() {
            return;
        }
        if !self.is_assignable(Type::None, declared) {
            let kind = ProblemKind::MissingReturn { declared, function };
            self.problem_at(record.name_range, None, kind);
        }
    }

    /// Whether some statement of the body is nothing but a call of which nothing is known.
    fn has_unknown_call(&mut self) -> bool {
        let index = self.index;
        index.bodies[self.body].statements.iter().any(|statement| match statement.kind {
            StatementKind::Expr(expr) => {
                matches!(index.exprs[expr], Expr::Call { .. } | Expr::Await(_)) && self.expr(expr).is_dynamic()
            }
            _ => false,
        })
    }

    /// Whether an attribute is the function of that name, by its own `def`.
    fn is_defined_as(&self, ty: Type, expr: ExprId) -> bool {
        let Expr::Attribute { name, .. } = self.index.exprs[expr] else { return false };
        let store = self.db.store();
        let function = match ty {
            Type::Method(id) => store.method(id).function,
            ty => ty,
        };
        matches!(function, Type::Function(id) if {
            let function = *store.function(id);
            crate::outline::function(self.db, function.file, function.function).name == name
        })
    }

    fn statement(&mut self, kind: &StatementKind, range: TextRange) {
        match kind {
            StatementKind::Expr(expr) => {
                let ty = self.expr(*expr);
                self.check_awaited(*expr, ty);
            }
            StatementKind::Test(expr) => {
                let ty = self.expr(*expr);
                // A function is always true; what is meant is mostly its call.
                // One that is put into an attribute may be replaced by another object, or by None.
                let is_put =
                    matches!(self.index.exprs[*expr], Expr::Attribute { .. }) && !self.is_defined_as(ty, *expr);
                let is_function = matches!(ty, Type::Function(_) | Type::Method(_)) && !is_put;
                if is_function && matches!(self.index.exprs[*expr], Expr::Name(..) | Expr::Attribute { .. }) {
                    self.problem(*expr, ProblemKind::OperatorCondition { object: ty });
                }
            }
            StatementKind::Match(expr) => {
                self.expr(*expr);
            }
            StatementKind::Except(expr) => {
                let ty = self.expr(*expr);
                self.check_exception(*expr, ty, true);
            }
            StatementKind::Assign { targets, value } => {
                self.expr(*value);
                if let [target] = targets.as_slice() {
                    // What is put into a table or an object is no alias, whatever it speaks of.
                    if let Expr::Name(..) = self.index.exprs[*target] {
                        self.check_alias_form(*value);
                        self.note_open_alias(*value);
                    }
                    self.check_variable(self.target_name(*target), *value);
                }
                for target in targets {
                    let ty = self.expr(*value);
                    self.check_unpacking(*target, ty, *value, *value);
                    self.check_target(*target, Some(Put::Expr(*value)));
                }
            }
            StatementKind::Annotated { target, annotation, value, class } => {
                self.check_variable_form(*target, *annotation, *class);
                self.check_final_declaration(*target, *annotation, value.is_some());
                let declared = self.declared_annotation(*annotation);
                if let Some(declared) = declared {
                    self.check_scope(*annotation, declared);
                }
                if let Some(value) = value
                    && self.quietly(*annotation) == Type::Special(SpecialForm::TypeAlias)
                {
                    self.annotation(*value);
                    self.check_form(*value, crate::checks::annotations::Site::Parameter);
                }
                if let Some(value) = value {
                    let given = self.expr(*value);
                    let is_placeholder = self.file.is_stub(self.db) || self.index.exprs[*value] == Expr::Ellipsis;
                    if let Some(declared) = declared.filter(|_| class.is_some() && self.is_field_call(*value)) {
                        let at = self.site_of_expr(*annotation);
                        self.check_field_default(*value, declared, self.target_name(*target), at);
                    }
                    if let Some(declared) = declared
                        && !is_placeholder
                        && !self.is_field_call(*value)
                        && !self.is_assignable_leniently(*value, declared)
                    {
                        let name = self.target_name(*target);
                        let at = Some(self.site_of_expr(*annotation));
                        self.problem(*value, ProblemKind::ValueAssign { declared, given, name, def: at });
                    }
                }
                if !matches!(self.index.exprs[*target], Expr::Name(..)) {
                    self.check_object(*target);
                }
                self.check_final_name(*target);
            }
            StatementKind::Augmented { target, op, value } => self.check_augmented(range, *target, *op, *value),
            StatementKind::For { target, iterable, is_async } => {
                let ty = self.expr(*iterable);
                self.check_iterable(*iterable, ty, *is_async);
                let element = self.element(ty, *is_async);
                if let Some(element) = element {
                    self.check_unpacking(*target, element, *target, *iterable);
                }
                self.check_target(*target, element.map(|element| Put::Type(element, *iterable)));
            }
            StatementKind::With { manager, target, is_async } => {
                let ty = self.expr(*manager);
                self.check_manager(*manager, ty, *is_async);
                if let Some(target) = target {
                    let entered = self.entered(ty, *is_async);
                    self.check_target(*target, entered.map(|entered| Put::Type(entered, *manager)));
                }
            }
            StatementKind::Return(number) => self.check_return(*number),
            StatementKind::Raise { exception, cause } => {
                for part in [exception, cause].into_iter().flatten() {
                    let ty = self.expr(*part);
                    self.check_exception(*part, ty, false);
                }
            }
            StatementKind::Assert { test, message } => {
                self.expr(*test);
                if let Some(message) = message {
                    self.expr(*message);
                }
            }
            StatementKind::Delete(targets) => {
                for target in targets {
                    self.check_deleted(*target);
                }
            }
            StatementKind::Function(function) => self.check_function(*function),
            StatementKind::Class(class) => {
                let record = &self.index.classes[*class];
                for decorator in &record.decorators {
                    self.expr(*decorator);
                }
                for arg in &record.args {
                    self.expr(arg.value);
                }
                self.check_class(*class);
                self.check_overrides(*class);
                self.note_unmarked_overrides(*class);
                self.note_late_attributes(*class);
            }
            StatementKind::Import(defs) => {
                for def in defs {
                    self.check_deprecated_import(*def);
                    self.check_import(*def);
                }
            }
            StatementKind::Case(pattern) => self.check_pattern(*pattern),
            StatementKind::Unmatched { subject, rest } => self.check_unmatched(*subject, *rest),
            StatementKind::Chain { tests, rest } => {
                let is_of_enum = self.check_chain(tests);
                if let Some((subject, rest)) = rest.filter(|_| !is_of_enum) {
                    self.check_unmatched(subject, rest);
                }
            }
            StatementKind::TypeAlias(def) => {
                let ty = self.definition(*def);
                if let leitmotiv_index::tree::DefKind::TypeAlias { value } = self.index.defs[*def].kind {
                    self.check_form(value, crate::checks::annotations::Site::Parameter);
                }
                self.check_alias(*def, ty);
                let used = crate::types::substitute::variables(self.db.store(), ty);
                let params = self.alias_parameters(&used).unwrap_or_default().iter();
                let params: Vec<_> = params
                    .map(|var| self.db.store().variable(*var))
                    .filter(|variable| variable.file == self.file)
                    .filter_map(|variable| self.index.def_at(variable.at))
                    .collect();
                self.check_type_parameters(&params);
            }
        }
    }

    /// `field(default=…)` stands for a default of the declared type.
    fn is_field_call(&self, value: ExprId) -> bool {
        let Expr::Call { callee, .. } = self.index.exprs[value] else { return false };
        matches!(self.index.exprs[callee], Expr::Name(known::FIELD, _) | Expr::Attribute { name: known::FIELD, .. })
    }

    fn target_name(&self, target: ExprId) -> Name {
        match self.index.exprs[target] {
            Expr::Name(name, _) | Expr::Attribute { name, .. } => name,
            _ => known::EMPTY,
        }
    }

    fn check_function(&mut self, function: FunctionId) {
        let record = &self.index.functions[function];
        self.check_decorators(function);
        // Nothing is looked at in what is marked so, its head included (typing specification, "Type checker directives").
        if record.decorators.iter().any(|decorator| self.index.decorator_name(*decorator) == Some(known::NO_TYPE_CHECK))
        {
            return;
        }
        for param in &record.params {
            if let Some(default) = param.default {
                let given = self.expr(default);
                if let Some(annotation) = param.annotation {
                    let declared = self.annotation(annotation);
                    let is_placeholder = self.index.exprs[default] == Expr::Ellipsis;
                    if !is_placeholder && !self.fits(default, declared) {
                        let (name, annotation) = (param.name, self.index.spans[annotation]);
                        self.problem(default, ProblemKind::ValueDefault { declared, given, name, annotation });
                    }
                }
            }
            if let Some(annotation) = param.annotation {
                let ty = self.annotation(annotation);
                if !record.type_params.is_empty() {
                    self.check_mixed(annotation, ty, Some(function));
                }
            }
        }
        if let Some(returns) = record.returns {
            self.annotation(returns);
            self.check_result_scope(function, returns);
        }
        self.check_special_result(function);
        self.check_final_mark(function);
        self.check_function_forms(function);
        self.check_type_parameters(&record.type_params);
        self.check_overloads(function);
        self.note_missing_annotations(function);
    }

    fn check_return(&mut self, number: usize) {
        let statement = self.index.bodies[self.body].returns[number];
        let given = match statement.value {
            Some(value) => self.expr(value),
            None => Type::None,
        };
        let Some(function) = self.index.bodies[self.body].function else { return };
        let record = &self.index.functions[function];
        let Some(returns) = record.returns else { return };
        let body = crate::outline::functions::enclosing_body(self.db, self.file, function);
        let mut declared = Infer::new(self.db, self.file, body).annotation(returns);
        declared = self.plain_result(declared);
        if !self.index.bodies[self.body].yields.is_empty() {
            let Some(result) = self.declared_result(declared) else { return };
            declared = result;
        }
        let fits = match statement.value {
            Some(value) => {
                self.is_assignable_leniently(value, declared) && !self.fills_variable_wrongly(value, declared)
            }
            None => self.is_assignable(Type::None, declared),
        };
        if !fits {
            let range = statement.value.map_or(statement.range, |value| self.index.spans[value]);
            let kind = self.with_reason(ProblemKind::ValueReturn { declared, given, function });
            self.problem_at(range, statement.value, kind);
        }
    }

    fn check_pattern(&mut self, pattern: leitmotiv_index::tree::PatternId) {
        use leitmotiv_index::tree::PatternKind;
        let index = self.index;
        match &index.patterns[pattern].kind {
            PatternKind::Value(value) => {
                self.expr(*value);
            }
            PatternKind::Sequence { patterns, .. } | PatternKind::Or(patterns) => {
                patterns.iter().for_each(|part| self.check_pattern(*part));
            }
            PatternKind::Mapping { keys, patterns } => {
                keys.iter().for_each(|key| {
                    self.expr(*key);
                });
                patterns.iter().for_each(|part| self.check_pattern(*part));
            }
            PatternKind::Class { class, positional, keywords } => {
                let ty = self.expr(*class);
                self.check_positions(*class, ty, positional.len());
                positional.iter().chain(keywords.iter().map(|(_, part)| part)).for_each(|part| {
                    self.check_pattern(*part);
                });
            }
            PatternKind::As { pattern: Some(inner) } => self.check_pattern(*inner),
            PatternKind::As { pattern: None } | PatternKind::Star | PatternKind::Singleton(_) => {}
        }
    }

    /// Remembers the type of an expression that was worked out in a special way.
    pub(crate) fn exprs_insert(&mut self, expr: ExprId, ty: Type) {
        self.exprs.insert(expr, ty);
        self.journal.push(crate::infer::Entry::Expr(expr));
    }
}
