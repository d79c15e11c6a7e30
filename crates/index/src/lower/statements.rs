//! Statements and control flow.

use leitmotiv_syntax::ast::{self, Expr as Ast, Stmt};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{Ranged, TextRange};
use smallvec::SmallVec;

use super::Lower;
use crate::bindings::Bindings;
use crate::flow::{Place, join_reaches};
use crate::tree::*;

impl<'a> Lower<'a> {
    pub(super) fn block(&mut self, body: &'a [Stmt]) {
        for statement in body {
            self.one(statement);
        }
    }

    fn one(&mut self, statement: &'a Stmt) {
        let range = statement.range();
        match statement {
            Stmt::FunctionDef(statement) => self.function(statement),
            Stmt::ClassDef(statement) => self.class(statement),
            Stmt::TypeAlias(statement) => self.type_alias(statement),
            Stmt::Return(statement) => {
                let value = statement.value.as_ref().map(|value| self.expr(value));
                let reach = self.flow.reach;
                let returns = &mut self.index.bodies[self.body].returns;
                returns.push(Return { value, reach, range });
                let number = returns.len() - 1;
                self.statement(StatementKind::Return(number), range);
                self.flow.stop();
            }
            Stmt::Raise(statement) => {
                let exception = statement.exc.as_ref().map(|part| self.expr(part));
                let cause = statement.cause.as_ref().map(|part| self.expr(part));
                self.statement(StatementKind::Raise { exception, cause }, range);
                self.flow.stop();
            }
            Stmt::Expr(statement) => {
                let expr = self.expr(&statement.value);
                self.statement(StatementKind::Expr(expr), range);
                self.after_call(expr);
                self.note_exports_call(expr);
            }
            Stmt::Assign(statement) => self.assign(statement),
            Stmt::AnnAssign(statement) => self.annotated(statement),
            Stmt::AugAssign(statement) => self.augmented(statement),
            Stmt::If(statement) => self.if_statement(statement),
            Stmt::While(statement) => self.while_statement(statement),
            Stmt::For(statement) => self.for_statement(statement),
            Stmt::With(statement) => self.with_statement(statement),
            Stmt::Match(statement) => self.match_statement(statement),
            Stmt::Try(statement) => self.try_statement(statement),
            Stmt::Assert(statement) => {
                let branches = self.condition(&statement.test);
                let mark = self.flow.mark();
                self.flow.resume(&branches.no);
                let message = statement.msg.as_ref().map(|message| self.expr(message));
                self.flow.take(mark);
                self.statement(StatementKind::Assert { test: branches.expr, message }, range);
                self.flow.resume(&branches.yes);
            }
            Stmt::Delete(statement) => {
                let targets = statement.targets.iter().map(|target| self.delete(target)).collect();
                self.statement(StatementKind::Delete(targets), range);
            }
            Stmt::Import(statement) => {
                let mut defs = Vec::with_capacity(statement.names.len());
                for alias in &statement.names {
                    self.flow.may_raise();
                    let module = self.names.get(alias.name.as_str());
                    let (bound, at, is_alias) = match &alias.asname {
                        Some(name) => (self.names.get(name.as_str()), name.range(), true),
                        None => {
                            let root = alias.name.as_str().split('.').next().unwrap_or_default();
                            (self.names.get(root), alias.name.range(), false)
                        }
                    };
                    defs.push(self.define(bound, at, DefKind::Import { module, alias: is_alias }));
                }
                self.statement(StatementKind::Import(defs.into_boxed_slice()), range);
            }
            Stmt::ImportFrom(statement) => self.import_from(statement),
            Stmt::Break(_) => self.jump(true),
            Stmt::Continue(_) => self.jump(false),
            Stmt::Global(_) | Stmt::Nonlocal(_) | Stmt::Pass(_) | Stmt::IpyEscapeCommand(_) => {}
        }
    }

    fn import_from(&mut self, statement: &'a ast::StmtImportFrom) {
        let module = self.names.get(statement.module.as_ref().map_or("", |module| module.as_str()));
        let level = statement.level;
        let mut defs = Vec::with_capacity(statement.names.len());
        self.flow.may_raise();
        for alias in &statement.names {
            let name = self.names.get(alias.name.as_str());
            if alias.name.as_str() == "*" {
                let scope = self.scope();
                let kind = DefKind::Star { module, level };
                let (body, reach) = (self.body, self.flow.reach);
                let def = self.index.defs.push(Def { kind, name, range: alias.range(), body, scope, reach });
                self.index.scopes[scope].stars.push(def);
                defs.push(def);
                continue;
            }
            let (bound, at) = match &alias.asname {
                Some(as_name) => (self.names.get(as_name.as_str()), as_name.range()),
                None => (name, alias.name.range()),
            };
            let kind = DefKind::ImportFrom { module, level, name, alias: alias.asname.is_some() };
            defs.push(self.define(bound, at, kind));
        }
        self.statement(StatementKind::Import(defs.into_boxed_slice()), statement.range());
    }

    /// A call on its own may not return.
    fn after_call(&mut self, expr: ExprId) {
        let inner = match self.index.exprs[expr] {
            Expr::Await(inner) => inner,
            _ => expr,
        };
        if matches!(self.index.exprs[inner], Expr::Call { .. }) && !self.flow.reach.is_never() {
            self.flow.reach = self.index.reaches.push(Reach::AfterCall { of: self.flow.reach, call: expr });
        }
    }

    fn assign(&mut self, statement: &'a ast::StmtAssign) {
        if let ([Ast::Name(target)], Ast::Call(call)) = (statement.targets.as_slice(), &*statement.value) {
            let name = self.names.get(target.id.as_str());
            if let Some(class) = self.functional_class(call, name, target.range()) {
                let def = self.define(name, target.range(), DefKind::Class(class));
                self.index.classes[class].def = def;
                self.statement(StatementKind::Class(class), statement.range());
                return;
            }
        }
        let is_module = self.scope() == ScopeId(0);
        // In stubs an alias may name what comes later.
        let before = self.in_annotation;
        // The strings of `__slots__` and its kin are names, not types.
        let is_special =
            matches!(statement.targets.as_slice(), [Ast::Name(name)] if name.id.as_str().starts_with("__"));
        // A string alone is a value, as that of an enumeration's member.
        let is_text = matches!(&*statement.value, Ast::StringLiteral(_));
        self.in_annotation = self.target.is_stub && !is_special && !is_text;
        let value = self.expr(&statement.value);
        self.in_annotation = before;
        let comment = self.comment_at(statement.range().end());
        self.note_kept_setter(&statement.value);
        let mut targets = SmallVec::new();
        for target in &statement.targets {
            if is_module && matches!(target, Ast::Name(name) if name.id.as_str() == "__all__") {
                self.index.exported = self.string_list(value);
            }
            if is_module && let Ast::Name(name) = target {
                let name = self.names.get(name.id.as_str());
                self.note_constant(name, value);
            }
            let kind = |lower: &Self, unpack: Option<Box<[UnpackStep]>>| match unpack {
                Some(unpack) => lower.commented(comment, Some(&unpack)).unwrap_or(DefKind::Assign {
                    value,
                    unpack: Some(unpack),
                    comment: None,
                }),
                None => DefKind::Assign { value, unpack, comment },
            };
            targets.push(self.target(target, &mut SmallVec::new(), &kind));
        }
        self.statement(StatementKind::Assign { targets, value }, statement.range());
    }

    fn annotated(&mut self, statement: &'a ast::StmtAnnAssign) {
        let annotation = self.annotation(&statement.annotation);
        let value = statement.value.as_ref().map(|value| {
            let text = &self.text[statement.annotation.range()];
            let before = self.in_annotation;
            let is_text = matches!(&**value, Ast::StringLiteral(_));
            self.in_annotation = text.ends_with("TypeAlias") || self.target.is_stub && !is_text;
            let value = self.expr(value);
            self.in_annotation = before;
            value
        });
        let range = statement.target.range();
        let kind = DefKind::Annotated { annotation, value };
        let target = match &*statement.target {
            Ast::Name(name) => {
                let name = self.names.get(name.id.as_str());
                let before = self.flow.get(Place::Name(self.binding_scope(name), name));
                self.define(name, range, kind);
                let place = Place::Name(self.binding_scope(name), name);
                // A bare declaration gives no value; in class bodies and stubs it stands for one.
                let is_class = matches!(self.index.scopes[self.scope()].kind, ScopeKind::Class(_));
                if statement.value.is_none() && !is_class && !self.target.is_stub && self.scope() != ScopeId(0) {
                    self.flow.set(place, before);
                }
                let id = self.flow.get(place).unwrap_or(ValueId::UNBOUND);
                self.push(Expr::Name(name, id), range)
            }
            Ast::Attribute(attribute) => {
                let object = self.expr(&attribute.value);
                let name = self.names.get(attribute.attr.as_str());
                let id = self.push(Expr::Attribute { value: object, name, place: ValueId::NONE }, range);
                self.define_attribute(id, object, name, attribute.attr.range(), kind);
                id
            }
            other => self.expr(other),
        };
        if statement.value.is_some()
            && matches!(&*statement.target, Ast::Name(name) if name.id.as_str() == "__all__")
            && let Some(value) = value
        {
            self.index.exported = self.string_list(value);
        }
        let class = match self.index.scopes[self.scope()].kind {
            ScopeKind::Class(class) => Some(class),
            _ => None,
        };
        self.statement(StatementKind::Annotated { target, annotation, value, class }, statement.range());
    }

    fn augmented(&mut self, statement: &'a ast::StmtAugAssign) {
        let target = self.expr(&statement.target);
        let value = self.expr(&statement.value);
        let op = super::operators::binary_op(statement.op);
        let kind = DefKind::Augmented { target, op, value };
        match &*statement.target {
            Ast::Name(name) => {
                let name = self.names.get(name.id.as_str());
                if op == BinaryOp::Add {
                    self.fill(target, FillKind::All, value);
                    if name == known::DUNDER_ALL && self.scope() == ScopeId(0) {
                        let more = self.string_list(value);
                        self.extend_exports(more);
                    }
                }
                self.define(name, statement.target.range(), kind);
            }
            Ast::Attribute(attribute) => {
                if let Expr::Attribute { value: object, name, .. } = self.index.exprs[target] {
                    self.define_attribute(target, object, name, attribute.attr.range(), kind);
                }
            }
            _ => {}
        }
        self.statement(StatementKind::Augmented { target, op, value }, statement.range());
    }

    fn delete(&mut self, target: &'a Ast) -> ExprId {
        let id = self.expr(target);
        match target {
            Ast::Name(name) => {
                let name = self.names.get(name.id.as_str());
                let scope = self.binding_scope(name);
                self.flow.set(Place::Name(scope, name), Some(ValueId::UNBOUND));
            }
            Ast::Attribute(_) => {
                if let Some(chain) = self.make_chain(id) {
                    self.flow.forget_below(chain);
                    self.flow.set(Place::Chain(chain), None);
                }
            }
            Ast::Subscript(_) => self.write_item(id, None),
            Ast::Tuple(tuple) => {
                for part in &tuple.elts {
                    self.delete(part);
                }
            }
            _ => {}
        }
        id
    }

    fn if_statement(&mut self, statement: &'a ast::StmtIf) {
        let mark = self.flow.mark();
        let mut exits = Vec::with_capacity(statement.elif_else_clauses.len() + 2);
        let mut clauses = vec![(Some(&*statement.test), statement.body.as_slice(), statement.range())];
        for clause in &statement.elif_else_clauses {
            clauses.push((clause.test.as_ref(), clause.body.as_slice(), clause.range()));
        }
        let mut tests = Vec::new();
        let mut all_leave = true;
        for (test, body, range) in clauses {
            let mut clause_at = None;
            if let (Some(first), Some(last)) = (body.first(), body.last()) {
                let body = TextRange::new(first.start(), last.end());
                let is_pair = statement.elif_else_clauses.len() == 1;
                let statement_at = statement.start();
                let of = |test: TextRange, positive: bool| Clause {
                    test,
                    body,
                    positive,
                    statement: statement_at,
                    leaves: false,
                };
                let clause = match test {
                    Some(test) => Some(of(test.range(), true)),
                    None => is_pair.then(|| of(statement.test.range(), false)),
                };
                clause_at = clause.map(|_| self.index.clauses.len());
                self.index.clauses.extend(clause);
            }
            let Some(test) = test else {
                self.block(body);
                exits.push(self.flow.take(mark));
                self.flow.stop();
                break;
            };
            let branches = self.condition(test);
            let is_checking = matches!(
                self.index.exprs[branches.expr],
                Expr::Name(known::TYPE_CHECKING, _) | Expr::Attribute { name: known::TYPE_CHECKING, .. }
            );
            if let (true, Some(first), Some(last)) = (is_checking, body.first(), body.last()) {
                self.index.checking_only.push(TextRange::new(first.start(), last.end()));
            }
            // `if "berths" in sys.modules: import berths`
            if let (true, Some(first), Some(last)) = (asks_what_is_loaded(test), body.first(), body.last()) {
                self.index.guarded.push(TextRange::new(first.start(), last.end()));
            }
            let header = TextRange::new(range.start(), test.range().end());
            self.statement(StatementKind::Test(branches.expr), header);
            tests.push(branches.expr);
            let so_far = self.flow.take(mark);
            self.flow.resume(&so_far);
            self.flow.resume(&branches.yes);
            self.block(body);
            let leaves = self.flow.reach.is_never();
            all_leave &= leaves;
            if let Some(clause) = clause_at.filter(|_| leaves) {
                self.index.clauses[clause].leaves = true;
            }
            exits.push(self.flow.take(mark));
            self.flow.resume(&so_far);
            self.flow.resume(&branches.no);
        }
        if statement.elif_else_clauses.last().is_none_or(|clause| clause.test.is_some()) {
            if tests.len() > 1 {
                let range = statement.test.range();
                // Behind branches that all leave stands what is done with the rest.
                let subject = self.subject_of(&tests).filter(|_| !all_leave);
                let rest = subject.and_then(|subject| Some((subject, self.narrowable(subject)?.1)));
                self.statement(StatementKind::Chain { tests: tests.into_boxed_slice(), rest }, range);
            }
            exits.push(self.flow.take(mark));
        } else {
            self.flow.take(mark);
        }
        self.flow.join(&mut self.index, &exits);
    }

    /// The one name or attribute that all tests of a chain ask about, as the first of them has it: `sea is Sea.CALM`, `isinstance(sea, Wave)`.
    fn subject_of(&self, tests: &[ExprId]) -> Option<ExprId> {
        let exprs = &self.index.exprs;
        let subject = |test: ExprId| match &exprs[test] {
            Expr::Compare { left, rest } => {
                let [(CompareOp::Is | CompareOp::Eq | CompareOp::In, _)] = rest.as_ref() else { return None };
                Some(*left)
            }
            Expr::Call { callee, args } => {
                let is_asked = matches!(exprs[*callee], Expr::Name(known::ISINSTANCE, _)) && args.len() == 2;
                is_asked.then(|| args[0].value)
            }
            _ => None,
        };
        let first = subject(*tests.first()?)?;
        let mut all = tests.iter().map(|test| subject(*test));
        all.all(|one| one.is_some_and(|one| self.is_same_place(first, one))).then_some(first)
    }

    /// Whether two expressions are the same name, or the same attribute of one.
    fn is_same_place(&self, one: ExprId, other: ExprId) -> bool {
        match (&self.index.exprs[one], &self.index.exprs[other]) {
            (Expr::Name(one, _), Expr::Name(other, _)) => one == other,
            (Expr::Attribute { value: one, name, .. }, Expr::Attribute { value: other, name: same, .. }) => {
                name == same && self.is_same_place(*one, *other)
            }
            _ => false,
        }
    }

    /// Prepares a loop's head: names that the loop assigns may come from before or from an earlier round.
    pub(super) fn walrus_of(&mut self, test: &'a Ast, bindings: &mut Bindings) {
        if let Ast::Named(named) = test {
            bindings.target(&named.target, &mut self.names);
        }
        // Other places are found by the statement's own walk over its parts.
        match test {
            Ast::Compare(compare) => {
                self.walrus_of(&compare.left, bindings);
                compare.comparators.iter().for_each(|part| self.walrus_of(part, bindings));
            }
            Ast::BoolOp(bool_op) => bool_op.values.iter().for_each(|part| self.walrus_of(part, bindings)),
            Ast::UnaryOp(unary) => self.walrus_of(&unary.operand, bindings),
            Ast::Call(call) => call.arguments.args.iter().for_each(|part| self.walrus_of(part, bindings)),
            _ => {}
        }
    }

    fn with_statement(&mut self, statement: &'a ast::StmtWith) {
        let is_async = statement.is_async;
        let mut managers = Vec::new();
        for item in &statement.items {
            let manager = self.expr(&item.context_expr);
            managers.push(manager);
            let target = item.optional_vars.as_ref().map(|target| {
                let comment = self.comment_at(target.range().end());
                let kind = |lower: &Self, unpack: Option<Box<[UnpackStep]>>| {
                    lower.commented(comment, unpack.as_deref()).unwrap_or(DefKind::With { manager, unpack, is_async })
                };
                self.target(target, &mut SmallVec::new(), &kind)
            });
            self.statement(StatementKind::With { manager, target, is_async }, item.range());
        }
        if let (true, Some(first), Some(last)) = (
            statement.items.iter().any(super::expectations::expects_exception),
            statement.body.first(),
            statement.body.last(),
        ) {
            self.index.failing.push(TextRange::new(first.start(), last.end()));
        }
        // `with suppress(ImportError):` is as good as a handler.
        if let (Some(first), Some(last)) = (statement.body.first(), statement.body.last()) {
            let range = TextRange::new(first.start(), last.end());
            let swallows = |names: &[&str]| {
                statement.items.iter().any(|item| match &item.context_expr {
                    Ast::Call(call) => {
                        self.meant(&call.func) == Some("suppress")
                            && call.arguments.args.iter().any(|arg| names_one(arg, names))
                    }
                    _ => false,
                })
            };
            let (imports, members) = (
                swallows(&["ImportError", "ModuleNotFoundError", "Exception"]),
                swallows(&["AttributeError", "NameError"]),
            );
            if imports {
                self.index.guarded.push(range);
            }
            if members {
                self.index.guarded_members.push(range);
            }
        }
        let mark = self.flow.mark();
        let start = self.flow.reach;
        self.flow.start_recording();
        self.block(&statement.body);
        let normal = self.flow.take(mark);
        let mut swallowed = self.flow.stop_recording(&mut self.index, start);
        if start.is_never() {
            self.flow.resume(&normal);
            return;
        }
        let ways: Vec<ReachId> = managers
            .into_iter()
            .map(|manager| self.index.reaches.push(Reach::Swallowed { of: start, manager, is_async }))
            .collect();
        swallowed.reach = join_reaches(&mut self.index, &ways);
        self.flow.join_keeping(&mut self.index, &[normal, swallowed], true);
    }

    fn try_statement(&mut self, statement: &'a ast::StmtTry) {
        let has_finally = !statement.finalbody.is_empty();
        if let (Some(first), Some(last)) = (statement.body.first(), statement.body.last()) {
            let range = TextRange::new(first.start(), last.end());
            let imports = ["ImportError", "ModuleNotFoundError", "Exception", "BaseException"];
            if statement.handlers.iter().any(|handler| handles(handler, &imports, true)) {
                self.index.guarded.push(range);
                for handler in &statement.handlers {
                    if handles(handler, &["ImportError", "ModuleNotFoundError"], false) {
                        self.index.fallbacks.push(handler.range());
                    }
                }
            }
            if statement
                .handlers
                .iter()
                .any(|handler| handles(handler, &["AttributeError", "NameError", "UnboundLocalError"], false))
            {
                self.index.guarded_members.push(range);
            }
            if statement.handlers.iter().any(|handler| handles(handler, &["IndexError", "LookupError"], false)) {
                self.index.guarded_items.push(range);
            }
            if statement.handlers.iter().any(|handler| handles(handler, &["Exception", "BaseException"], true)) {
                self.index.guarded_none.push(range);
            }
            // A call that fails by its arguments is caught, and tried again with others.
            for handler in &statement.handlers {
                if handles(handler, &["TypeError"], false) {
                    self.index.guarded_calls.extend([range, handler.range()]);
                }
            }
        }
        // What cannot fail is done before anything that can.
        let sure = statement.body.iter().take_while(|statement| cannot_fail(statement)).count();
        let (sure, body) = statement.body.split_at(sure);
        self.block(sure);
        let mark = self.flow.mark();
        let start = self.flow.reach;
        if has_finally {
            self.flow.start_recording();
        }
        self.flow.start_recording();
        self.block(body);
        let body = self.flow.take(mark);
        let raised = self.flow.stop_recording(&mut self.index, start);
        let mut exits = Vec::with_capacity(statement.handlers.len() + 1);
        self.flow.resume(&body);
        self.block(&statement.orelse);
        exits.push(self.flow.take(mark));
        for handler in &statement.handlers {
            let ast::ExceptHandler::ExceptHandler(handler) = handler;
            self.flow.resume(&raised);
            let exception = handler.type_.as_ref().map(|exception| self.expr(exception));
            if let Some(exception) = exception {
                self.statement(StatementKind::Except(exception), self.index.spans[exception]);
            }
            let bound = handler.name.as_ref().map(|name| {
                let id = self.names.get(name.as_str());
                self.define(id, name.range(), DefKind::Except { exception, star: statement.is_star });
                id
            });
            self.block(&handler.body);
            if let Some(bound) = bound {
                // The name is deleted at the handler's end (language reference, "The try statement").
                let scope = self.binding_scope(bound);
                self.flow.set(Place::Name(scope, bound), Some(ValueId::UNBOUND));
            }
            exits.push(self.flow.take(mark));
        }
        if !has_finally {
            self.flow.join(&mut self.index, &exits);
            return;
        }
        let mut raised = self.flow.stop_recording(&mut self.index, start);
        raised.reach = start;
        self.flow.join(&mut self.index, &exits);
        let normal = self.flow.take(mark);
        // The block runs after both; code behind it only after the former.
        self.flow.join(&mut self.index, &[normal.clone(), raised]);
        let inside = self.flow.mark();
        self.block(&statement.finalbody);
        let finally = self.flow.take(inside);
        self.flow.take(mark);
        self.flow.resume(&normal);
        for (place, value) in finally.places() {
            self.flow.set(place, value);
        }
        if finally.reach.is_never() {
            self.flow.stop();
        }
    }

    /// The strings of a list or tuple display, or of sums of them; `None` where it is anything else.
    fn string_list(&self, expr: ExprId) -> Option<Vec<leitmotiv_syntax::names::Name>> {
        match &self.index.exprs[expr] {
            Expr::List(parts) | Expr::Tuple(parts) => parts
                .iter()
                .map(|part| if let Expr::Str(Some(text)) = self.index.exprs[*part] { Some(text) } else { None })
                .collect(),
            Expr::Binary { op: BinaryOp::Add, left, right } => {
                let mut all = self.string_list(*left)?;
                all.extend(self.string_list(*right)?);
                Some(all)
            }
            _ => None,
        }
    }

    fn extend_exports(&mut self, more: Option<Vec<leitmotiv_syntax::names::Name>>) {
        match (&mut self.index.exported, more) {
            (Some(all), Some(more)) => all.extend(more),
            // What cannot be read makes the whole list unknown.
            (exported, None) => *exported = None,
            (None, Some(_)) => {}
        }
    }

    /// `__all__.append("x")`, `__all__.extend(["x"])` (typing specification, "Library interface").
    fn note_exports_call(&mut self, expr: ExprId) {
        let Expr::Call { callee, args } = &self.index.exprs[expr] else { return };
        let Expr::Attribute { value, name, .. } = self.index.exprs[*callee] else { return };
        let [arg] = args.as_ref() else { return };
        if !matches!(self.index.exprs[value], Expr::Name(known::DUNDER_ALL, _)) {
            return;
        }
        let arg = arg.value;
        let more = match (name, &self.index.exprs[arg]) {
            (known::APPEND, Expr::Str(Some(text))) => Some(vec![*text]),
            (known::EXTEND, _) => self.string_list(arg),
            _ => return,
        };
        self.extend_exports(more);
    }
}

/// Whether a condition asks which modules are loaded: `"berths" in sys.modules`.
fn asks_what_is_loaded(test: &Ast) -> bool {
    match test {
        Ast::Compare(compare) => {
            matches!(&*compare.ops, [ast::CmpOp::In])
                && matches!(&*compare.comparators, [Ast::Attribute(attribute)] if attribute.attr.as_str() == "modules")
        }
        Ast::BoolOp(bool_op) if bool_op.op == ast::BoolOp::And => bool_op.values.iter().any(asks_what_is_loaded),
        _ => false,
    }
}

/// Whether a statement cannot raise an exception: a name is given a value that stands there.
fn cannot_fail(statement: &Stmt) -> bool {
    let is_plain = |value: &Ast| match value {
        Ast::List(list) => list.elts.is_empty(),
        Ast::Dict(dict) => dict.items.is_empty(),
        Ast::Tuple(tuple) => tuple.elts.is_empty(),
        value => value.is_literal_expr(),
    };
    match statement {
        Stmt::Assign(assign) => assign.targets.iter().all(Ast::is_name_expr) && is_plain(&assign.value),
        Stmt::Pass(_) => true,
        _ => false,
    }
}

/// Whether a handler names one of the exceptions; `bare` says what a handler without a type counts as.
fn handles(handler: &ast::ExceptHandler, exceptions: &[&str], bare: bool) -> bool {
    let ast::ExceptHandler::ExceptHandler(handler) = handler;
    handler.type_.as_deref().map_or(bare, |exception| names_one(exception, exceptions))
}

/// Whether an expression is one of some exceptions, or a tuple with one.
fn names_one(expr: &Ast, exceptions: &[&str]) -> bool {
    match expr {
        Ast::Name(name) => exceptions.contains(&name.id.as_str()),
        Ast::Tuple(tuple) => tuple.elts.iter().any(|part| names_one(part, exceptions)),
        _ => false,
    }
}
