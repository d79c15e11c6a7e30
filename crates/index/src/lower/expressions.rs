//! Expressions and conditions.

use leitmotiv_syntax::ast::{self, Expr as Ast, Number, StringFlags};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{Ranged, TextLen, TextRange, parse};
use smallvec::SmallVec;

use super::chains::Step;
use super::{Lower, fill_kind};
use crate::bindings::Bindings;
use crate::flow::Place;
use crate::tree::*;

/// Texts up to this many bytes are kept as literals.
const LITERAL_LIMIT: usize = 120;

impl<'a> Lower<'a> {
    /// Lowers an expression in the current state, which it may change (`:=`).
    pub(super) fn expr(&mut self, expr: &'a Ast) -> ExprId {
        let range = expr.range();
        let lowered = match expr {
            Ast::Name(name) => {
                let name = self.names.get(name.id.as_str());
                let value = self.read_name(name);
                Expr::Name(name, value)
            }
            Ast::Attribute(attribute) => {
                let value = match attribute.attr.as_str() {
                    "get" | "copy" | "keys" | "values" | "items" | "pop" => self.namespace_read(&attribute.value),
                    _ => self.expr(&attribute.value),
                };
                let name = self.names.get(attribute.attr.as_str());
                let place = self.chain_value(value, Step::Attribute(name));
                if name == known::DUNDER_DICT {
                    let _ = self.note_made_attributes(value);
                }
                Expr::Attribute { value, name, place }
            }
            Ast::Subscript(subscript) => return self.subscript(subscript),
            Ast::Call(call) => return self.call(call),
            Ast::StringLiteral(string) => {
                if self.in_annotation {
                    return self.quoted(string);
                }
                let text = string.value.to_str();
                let lowered = Expr::Str((text.len() <= LITERAL_LIMIT).then(|| self.names.intern(text)));
                if self.in_type_argument && text.contains(['[', '.', '|']) {
                    let written = self.quoted(string);
                    let id = self.push(lowered, range);
                    self.index.quoted.insert(id, written);
                    return id;
                }
                lowered
            }
            Ast::NumberLiteral(number) => match &number.value {
                Number::Int(int) => Expr::Int(int.as_i64()),
                Number::Float(_) => Expr::Float,
                Number::Complex { .. } => Expr::Complex,
            },
            Ast::BytesLiteral(bytes) => {
                let text: String = bytes.value.bytes().map(char::from).collect();
                Expr::Bytes((text.len() <= LITERAL_LIMIT).then(|| self.names.intern(&text)))
            }
            Ast::BooleanLiteral(literal) => Expr::Bool(literal.value),
            Ast::NoneLiteral(_) => Expr::None,
            Ast::EllipsisLiteral(_) => Expr::Ellipsis,
            Ast::FString(string) => {
                let mut parts = Vec::new();
                for element in string.value.elements() {
                    self.interpolation(element, &mut parts);
                }
                Expr::FString(parts.into_boxed_slice())
            }
            Ast::TString(string) => {
                let mut parts = Vec::new();
                for element in string.value.elements() {
                    self.interpolation(element, &mut parts);
                }
                Expr::TString(parts.into_boxed_slice())
            }
            Ast::BinOp(_) => return self.binary(expr),
            Ast::UnaryOp(unary) => {
                let operand = self.expr(&unary.operand);
                let op = match unary.op {
                    ast::UnaryOp::Not => UnaryOp::Not,
                    ast::UnaryOp::USub => UnaryOp::Neg,
                    ast::UnaryOp::UAdd => UnaryOp::Pos,
                    ast::UnaryOp::Invert => UnaryOp::Invert,
                };
                Expr::Unary { op, operand }
            }
            Ast::BoolOp(_) => {
                let branches = self.condition(expr);
                self.flow.join(&mut self.index, &[branches.yes, branches.no]);
                return branches.expr;
            }
            Ast::Compare(compare) => {
                let left = self.expr(&compare.left);
                let rest = compare
                    .ops
                    .iter()
                    .zip(&compare.comparators)
                    .map(|(op, right)| (super::operators::compare_op(*op), self.namespace_read(right)))
                    .collect();
                let question = self.push(Expr::Compare { left, rest }, compare.range());
                self.note_tested(question);
                return question;
            }
            Ast::If(conditional) => {
                let mark = self.flow.mark();
                let is_live = !self.flow.reach.is_never();
                let branches = self.condition(&conditional.test);
                self.flow.resume(&branches.yes);
                self.note_excluded(&conditional.body, is_live);
                let then = self.expr(&conditional.body);
                let yes = self.flow.take(mark);
                self.flow.resume(&branches.no);
                self.note_excluded(&conditional.orelse, is_live);
                let otherwise = self.expr(&conditional.orelse);
                let no = self.flow.take(mark);
                self.flow.join(&mut self.index, &[yes, no]);
                Expr::Conditional { test: branches.expr, then, otherwise }
            }
            Ast::Named(named) => {
                let value = self.expr(&named.value);
                let Ast::Name(target) = &*named.target else { return self.push(Expr::Invalid, range) };
                let name = self.names.get(target.id.as_str());
                let def = self.define(name, target.range(), DefKind::Named { value });
                Expr::Named { def, value }
            }
            Ast::Lambda(lambda) => return self.lambda(lambda),
            Ast::ListComp(comp) => {
                return self.comprehension(ComprehensionKind::List, None, &comp.elt, &comp.generators, range);
            }
            Ast::SetComp(comp) => {
                return self.comprehension(ComprehensionKind::Set, None, &comp.elt, &comp.generators, range);
            }
            Ast::Generator(comp) => {
                return self.comprehension(ComprehensionKind::Generator, None, &comp.elt, &comp.generators, range);
            }
            Ast::DictComp(comp) => {
                return self.comprehension(
                    ComprehensionKind::Dict,
                    comp.key.as_deref(),
                    &comp.value,
                    &comp.generators,
                    range,
                );
            }
            Ast::List(list) => Expr::List(self.exprs(&list.elts)),
            Ast::Tuple(tuple) => Expr::Tuple(self.exprs(&tuple.elts)),
            Ast::Set(set) => Expr::Set(self.exprs(&set.elts)),
            Ast::Dict(dict) => Expr::Dict(
                dict.items
                    .iter()
                    .map(|item| {
                        let key = item.key.as_ref().map(|key| self.expr(key));
                        (key, self.expr(&item.value))
                    })
                    .collect(),
            ),
            Ast::Starred(starred) => Expr::Starred(self.expr(&starred.value)),
            Ast::Await(inner) => Expr::Await(self.expr(&inner.value)),
            Ast::Yield(inner) => {
                let value = inner.value.as_ref().map(|value| self.expr(value));
                let id = self.push(Expr::Yield(value), range);
                // In a lambda, it is the lambda that becomes a generator.
                if self.lambda.is_none() {
                    self.index.bodies[self.body].yields.push(id);
                }
                return id;
            }
            Ast::YieldFrom(inner) => {
                let value = self.expr(&inner.value);
                let id = self.push(Expr::YieldFrom(value), range);
                // In a lambda, it is the lambda that becomes a generator.
                if self.lambda.is_none() {
                    self.index.bodies[self.body].yields.push(id);
                }
                return id;
            }
            Ast::Slice(slice) => {
                let mut part = |part: &'a Option<Box<Ast>>| part.as_ref().map(|part| self.expr(part));
                let (lower, upper, step) = (part(&slice.lower), part(&slice.upper), part(&slice.step));
                Expr::Slice(Box::new(Slice { lower, upper, step }))
            }
            Ast::IpyEscapeCommand(_) => Expr::Invalid,
        };
        self.push(lowered, range)
    }

    pub(super) fn exprs(&mut self, exprs: &'a [Ast]) -> Box<[ExprId]> {
        exprs.iter().map(|expr| self.expr(expr)).collect()
    }

    /// Lowers what an annotation consists of: quoted parts are parsed, and names are resolved late where the language does.
    pub(super) fn annotation(&mut self, expr: &'a Ast) -> ExprId {
        let before = std::mem::replace(&mut self.in_annotation, true);
        let id = self.expr(expr);
        self.in_annotation = before;
        id
    }

    /// A quoted annotation (PEP 484, forward references).
    fn quoted(&mut self, string: &'a ast::ExprStringLiteral) -> ExprId {
        let range = string.range();
        let [part] = string.value.as_slice() else { return self.push(Expr::Str(None), range) };
        if self.text[range].contains('\\') {
            // What the string says is not what stands in the text; then all of it stands at the string.
            let said = string.value.to_str();
            let start = self.index.exprs.next_id();
            let whole = TextRange::up_to(said.text_len());
            let id = self.annotation_in(said, whole).unwrap_or_else(|| self.push(Expr::Invalid, range));
            for span in start.0..self.index.exprs.next_id().0 {
                self.index.spans[ExprId(span)] = range;
            }
            return id;
        }
        let inner = TextRange::new(
            part.range().start() + part.flags.opener_len(),
            part.range().end() - part.flags.closer_len(),
        );
        self.annotation_text(inner).unwrap_or_else(|| self.push(Expr::Invalid, range))
    }

    /// Lowers the annotation that stands in the text at `range`, in a string or a comment.
    pub(super) fn annotation_text(&mut self, range: TextRange) -> Option<ExprId> {
        self.annotation_in(self.text, range)
    }

    fn annotation_in(&mut self, text: &str, range: TextRange) -> Option<ExprId> {
        let parsed = parse::parse_expression(text, range).ok()?;
        // The tree of the quoted text does not live as long as the module's; its names are interned by text.
        let before = (self.in_annotation, self.postponed);
        (self.in_annotation, self.postponed) = (true, true);
        let id = self.annotation_tree(&parsed);
        (self.in_annotation, self.postponed) = before;
        Some(id)
    }

    /// The forms that make sense in a quoted annotation.
    fn annotation_tree(&mut self, expr: &Ast) -> ExprId {
        let range = expr.range();
        let lowered = match expr {
            Ast::Name(name) => {
                let name = self.names.intern(name.id.as_str());
                let value = self.read_name(name);
                Expr::Name(name, value)
            }
            Ast::Attribute(attribute) => {
                let value = self.annotation_tree(&attribute.value);
                let name = self.names.intern(attribute.attr.as_str());
                Expr::Attribute { value, name, place: ValueId::NONE }
            }
            Ast::Subscript(subscript) => {
                let value = self.annotation_tree(&subscript.value);
                let before = (self.in_annotation, self.in_annotation_value);
                self.in_annotation = self.meant(&subscript.value) != Some("Literal");
                self.in_annotation_value = before.0 && !self.in_annotation;
                let index = self.annotation_tree(&subscript.slice);
                (self.in_annotation, self.in_annotation_value) = before;
                Expr::Subscript { value, index, place: ValueId::NONE }
            }
            Ast::StringLiteral(string) if self.in_annotation => {
                let [part] = string.value.as_slice() else { return self.push(Expr::Str(None), range) };
                let start = part.range().start() + part.flags.opener_len();
                let inner = TextRange::new(start, part.range().end() - part.flags.closer_len());
                return self.annotation_text(inner).unwrap_or_else(|| self.push(Expr::Invalid, range));
            }
            Ast::StringLiteral(string) => Expr::Str(Some(self.names.intern(string.value.to_str()))),
            Ast::NumberLiteral(number) => match &number.value {
                Number::Int(int) => Expr::Int(int.as_i64()),
                Number::Float(_) => Expr::Float,
                Number::Complex { .. } => Expr::Complex,
            },
            Ast::UnaryOp(unary) if unary.op == ast::UnaryOp::USub => {
                Expr::Unary { op: UnaryOp::Neg, operand: self.annotation_tree(&unary.operand) }
            }
            Ast::BooleanLiteral(literal) => Expr::Bool(literal.value),
            Ast::NoneLiteral(_) => Expr::None,
            Ast::EllipsisLiteral(_) => Expr::Ellipsis,
            Ast::BinOp(binary) => {
                let left = self.annotation_tree(&binary.left);
                let right = self.annotation_tree(&binary.right);
                Expr::Binary { op: super::operators::binary_op(binary.op), left, right }
            }
            Ast::List(list) => Expr::List(list.elts.iter().map(|part| self.annotation_tree(part)).collect()),
            Ast::Tuple(tuple) => Expr::Tuple(tuple.elts.iter().map(|part| self.annotation_tree(part)).collect()),
            Ast::Starred(starred) => Expr::Starred(self.annotation_tree(&starred.value)),
            _ => Expr::Invalid,
        };
        self.push(lowered, range)
    }

    fn interpolation(&mut self, element: &'a ast::InterpolatedStringElement, parts: &mut Vec<ExprId>) {
        if let ast::InterpolatedStringElement::Interpolation(element) = element {
            parts.push(self.expr(&element.expression));
            if let Some(spec) = &element.format_spec {
                for element in &spec.elements {
                    self.interpolation(element, parts);
                }
            }
        }
    }

    /// Binary operations, without recursion on the left: `a + b + …` may have thousands of terms.
    fn binary(&mut self, expr: &'a Ast) -> ExprId {
        let mut chain: Vec<&'a ast::ExprBinOp> = Vec::new();
        let mut first = expr;
        while let Ast::BinOp(binary) = first {
            chain.push(binary);
            first = &binary.left;
        }
        let mut left = self.expr(first);
        for binary in chain.into_iter().rev() {
            let right = self.expr(&binary.right);
            left = self.push(Expr::Binary { op: super::operators::binary_op(binary.op), left, right }, binary.range());
        }
        left
    }

    fn subscript(&mut self, subscript: &'a ast::ExprSubscript) -> ExprId {
        let value = self.namespace_read(&subscript.value);
        let before = self.in_annotation;
        let meant = self.meant(&subscript.value);
        let is_literal = meant == Some("Literal");
        let is_annotated = before && meant == Some("Annotated");
        let outer_value = self.in_annotation_value;
        if is_literal {
            self.in_annotation = false;
            self.in_annotation_value |= before;
        }
        // Outside of functions, what stands in brackets may be an argument of a type that is named there.
        let is_argument = !before && !is_literal && self.body == BodyId(0);
        let outer = std::mem::replace(&mut self.in_type_argument, is_argument);
        let index = match &*subscript.slice {
            // Only the first argument of `Annotated` is a type.
            Ast::Tuple(tuple) if is_annotated => {
                let parts = tuple
                    .elts
                    .iter()
                    .enumerate()
                    .map(|(number, part)| {
                        self.in_annotation = number == 0;
                        self.in_annotation_value = number > 0;
                        self.expr(part)
                    })
                    .collect();
                self.push(Expr::Tuple(parts), tuple.range())
            }
            slice => self.expr(slice),
        };
        (self.in_annotation, self.in_annotation_value) = (before, outer_value);
        self.in_type_argument = outer;
        let place = match self.constant_step(index) {
            Some(step) => self.chain_value(value, step),
            None => ValueId::NONE,
        };
        self.push(Expr::Subscript { value, index, place }, subscript.range())
    }

    fn call(&mut self, call: &'a ast::ExprCall) -> ExprId {
        let callee = self.restored(call);
        let mut args = Vec::with_capacity(call.arguments.len());
        // Strings among a call's arguments are strings, also where the call stands for a type, as `TypeVar("T")` in a stub.
        let in_annotation = std::mem::replace(&mut self.in_annotation, false);
        let in_type_argument = std::mem::replace(&mut self.in_type_argument, false);
        let is_variable = matches!(self.meant(&call.func), Some("TypeVar" | "ParamSpec" | "TypeVarTuple"));
        let casts = call.arguments.args.len() == 2 && self.is_from_typing(&call.func, "cast");
        let asserts = self.is_from_typing(&call.func, "assert_type");
        let reads = super::dynamic_attributes::only_reads(&call.func);
        for (number, arg) in call.arguments.args.iter().enumerate() {
            let arg = match arg {
                // The constraints of a type variable.
                arg if is_variable && number > 0 => Arg { kind: ArgKind::Positional, value: self.annotation(arg) },
                Ast::Starred(starred) => Arg { kind: ArgKind::Star, value: self.expr(&starred.value) },
                // A type is expected here (typing specification, `cast` and `assert_type`).
                arg if (casts && number == 0) || (asserts && number == 1) => {
                    Arg { kind: ArgKind::Positional, value: self.annotation(arg) }
                }
                arg if reads => Arg { kind: ArgKind::Positional, value: self.namespace_read(arg) },
                arg => Arg { kind: ArgKind::Positional, value: self.expr(arg) },
            };
            args.push(arg);
        }
        for keyword in &call.arguments.keywords {
            let kind = match &keyword.arg {
                Some(name) => ArgKind::Keyword(self.names.get(name.as_str())),
                None => ArgKind::DoubleStar,
            };
            let is_limit = is_variable && matches!(&kind, ArgKind::Keyword(known::BOUND | known::DEFAULT));
            let value = match &keyword.arg {
                Some(_) if is_limit => self.annotation(&keyword.value),
                Some(_) => self.expr(&keyword.value),
                None => self.namespace_read(&keyword.value),
            };
            args.push(Arg { kind, value });
        }
        self.in_annotation = in_annotation;
        self.in_type_argument = in_type_argument;
        // `raises(TypeError, lambda: …)`: what is passed is to fail.
        if call.arguments.args.len() > 1 && super::expectations::names_an_expectation(&call.func) {
            self.index.failing.push(call.arguments.range());
        }
        if call.arguments.args.iter().any(super::dynamic_attributes::is_globals)
            && !super::dynamic_attributes::only_reads(&call.func)
            || is_update_of_globals(&call.func)
            || ends_in(&call.func, "setattr") && call.arguments.args.first().is_some_and(is_own_module)
        {
            self.index.makes_names = true;
        }
        if ends_in(&call.func, "setattr")
            && let [object, name, ..] = args.as_slice()
        {
            self.note_set_attribute(object.value, name.value);
        }
        self.note_fill(callee, &args);
        self.note_own_call(callee);
        let expr = self.push(Expr::Call { callee, args: args.into_boxed_slice() }, call.range());
        self.note_look_up(expr);
        expr
    }

    /// The last part of a dotted name; of a name that an import gives to something, what it is called where it comes from.
    pub(super) fn meant<'e>(&'e self, expr: &'e Ast) -> Option<&'e str> {
        match expr {
            Ast::Name(written) => {
                let name = self.names.intern(written.id.as_str());
                let symbol = self.index.scopes[ScopeId(0)].symbols.get(&name);
                let imported = symbol.and_then(|symbol| {
                    symbol.defs.iter().find_map(|def| match self.index.defs[*def].kind {
                        DefKind::ImportFrom { name: imported, alias: true, .. } => Some(self.name_text(imported)),
                        _ => None,
                    })
                });
                Some(imported.unwrap_or(written.id.as_str()))
            }
            Ast::Attribute(expr) => Some(expr.attr.as_str()),
            _ => None,
        }
    }

    /// Whether an expression names a function of the typing module, by what the module imports.
    fn is_from_typing(&mut self, expr: &Ast, name: &str) -> bool {
        let (bound, is_module) = match expr {
            Ast::Name(expr) if expr.id.as_str() == name => (expr.id.as_str(), false),
            Ast::Attribute(expr) if expr.attr.as_str() == name => match &*expr.value {
                Ast::Name(module) => (module.id.as_str(), true),
                _ => return false,
            },
            _ => return false,
        };
        let bound = self.names.intern(bound);
        let Some(symbol) = self.index.scopes[ScopeId(0)].symbols.get(&bound) else {
            // By a star import, perhaps.
            return !is_module && !self.index.scopes[ScopeId(0)].stars.is_empty();
        };
        symbol.defs.iter().any(|def| match self.index.defs[*def].kind {
            DefKind::Import { module, .. } => is_module && self.name_text(module).starts_with("typing"),
            DefKind::ImportFrom { module, .. } => !is_module && self.name_text(module).starts_with("typing"),
            _ => false,
        })
    }

    /// `a.append(x)` and its kin: what the container is filled with.
    fn note_fill(&mut self, callee: ExprId, args: &[Arg]) {
        let Expr::Attribute { value: container, name: method, .. } = self.index.exprs[callee] else { return };
        let (kind, value) = match (method, args) {
            (known::INSERT, [_, arg]) if arg.kind == ArgKind::Positional => (FillKind::Element, arg.value),
            (known::SETDEFAULT, [key, arg]) if arg.kind == ArgKind::Positional => {
                (FillKind::Item { key: key.value }, arg.value)
            }
            (method, [arg]) if arg.kind == ArgKind::Positional => match fill_kind(method) {
                Some(kind) => (kind, arg.value),
                None => return,
            },
            _ => return,
        };
        self.fill(container, kind, value);
    }

    /// Notes that `container` receives `value`, if it is a place whose creation can be told.
    pub(super) fn fill(&mut self, container: ExprId, kind: FillKind, value: ExprId) {
        if let Expr::Subscript { value: outer, .. } = self.index.exprs[container] {
            if kind != FillKind::Inner {
                self.fill(outer, FillKind::Inner, value);
            }
            return;
        }
        let target = match self.index.exprs[container] {
            Expr::Name(name, id) => match self.index.values[self.index.unnarrowed(id)] {
                Value::Def(def) => Filled::Def(def),
                Value::Global(_) => Filled::Global(name),
                _ => return,
            },
            Expr::Attribute { value: object, name, .. } => {
                let Expr::Name(object, _) = self.index.exprs[object] else { return };
                match self.class_first_params.last() {
                    Some((first, class, _)) if *first == object => Filled::Attribute(*class, name),
                    _ => return,
                }
            }
            _ => return,
        };
        let body = self.body;
        self.index.fills.entry(target).or_default().push(Fill { kind, body, value });
    }

    fn lambda(&mut self, lambda: &'a ast::ExprLambda) -> ExprId {
        let mut bindings = Bindings::default();
        if let Some(params) = &lambda.parameters {
            for param in params.iter() {
                bindings.insert(self.names.get(param.name().as_str()), param.range());
            }
        }
        // `:=` binds in the nearest function around, which a lambda is (PEP 572).
        bindings.walrus(&lambda.body, &mut self.names);
        let id = LambdaId(u32::try_from(self.index.lambdas.len()).unwrap_or(u32::MAX));
        // Reserved, so that lambdas inside get other ids.
        self.index.lambdas.push(Lambda { params: Box::new([]), body: ExprId(0) });
        let defaults = self.defaults(lambda.parameters.as_deref());
        let scope = self.open_scope(ScopeKind::Lambda, Some(self.scope()), bindings);
        let mark = self.flow.mark();
        self.scopes.push(scope);
        let params = self
            .params(lambda.parameters.as_deref(), &defaults, &[], |index| DefKind::LambdaParam { lambda: id, index });
        let outer = self.lambda;
        self.lambda = outer.or(Some(super::Later { end: lambda.range().end(), values: self.index.values.next_id() }));
        let body = self.expr(&lambda.body);
        self.lambda = outer;
        self.record_exits(scope);
        self.scopes.pop();
        self.flow.take(mark);
        self.index.lambdas[id] = Lambda { params, body };
        self.push(Expr::Lambda(id), lambda.range())
    }

    fn comprehension(
        &mut self,
        kind: ComprehensionKind,
        key: Option<&'a Ast>,
        element: &'a Ast,
        generators: &'a [ast::Comprehension],
        range: TextRange,
    ) -> ExprId {
        let mut bindings = Bindings::default();
        for generator in generators {
            bindings.target(&generator.target, &mut self.names);
        }
        let mut iterables = Vec::with_capacity(generators.len());
        let mut targets = Vec::with_capacity(generators.len());
        let mut conditions = Vec::new();
        // The first iterable is evaluated outside (language reference, "Displays for lists, sets and dictionaries").
        if let Some(first) = generators.first() {
            iterables.push(self.namespace_read(&first.iter));
        }
        let scope = self.open_scope(ScopeKind::Comprehension, Some(self.scope()), bindings);
        let mark = self.flow.mark();
        self.scopes.push(scope);
        for (number, generator) in generators.iter().enumerate() {
            let iterable = match iterables.get(number) {
                Some(first) => *first,
                None => {
                    let iterable = self.namespace_read(&generator.iter);
                    iterables.push(iterable);
                    iterable
                }
            };
            let is_async = generator.is_async;
            let target = self.target(&generator.target, &mut SmallVec::new(), &|_, unpack| DefKind::For {
                iterable,
                unpack,
                is_async,
            });
            targets.push(target);
            for condition in &generator.ifs {
                let branches = self.condition(condition);
                conditions.push(branches.expr);
                self.flow.resume(&branches.yes);
            }
        }
        let key = key.map(|key| self.expr(key));
        let element = self.expr(element);
        self.record_exits(scope);
        self.scopes.pop();
        let own: Vec<(Place, Option<ValueId>)> = self.flow.take(mark).places().collect();
        // What `:=` bound inside stays; the comprehension's own names and narrowings do not.
        for (place, value) in own {
            if let (Place::Name(owner, _), Some(value)) = (place, value)
                && owner != scope
                && let value = self.index.unnarrowed(value)
                && matches!(self.index.values[value], Value::Def(_))
            {
                self.flow.set(place, Some(value));
            }
        }
        let comprehension = Comprehension {
            kind,
            element,
            key,
            iterables: iterables.into_boxed_slice(),
            targets: targets.into_boxed_slice(),
            conditions: conditions.into_boxed_slice(),
            is_async: generators.iter().any(|generator| generator.is_async),
        };
        let id = self.index.comprehensions.push(comprehension);
        self.push(Expr::Comprehension(id), range)
    }
}

/// Whether an expression is `name` or `….name`.
fn ends_in(expr: &Ast, name: &str) -> bool {
    match expr {
        Ast::Name(expr) => expr.id.as_str() == name,
        Ast::Attribute(expr) => expr.attr.as_str() == name,
        _ => false,
    }
}

/// `globals().update`
fn is_update_of_globals(callee: &Ast) -> bool {
    matches!(callee, Ast::Attribute(attribute)
        if matches!(attribute.attr.as_str(), "update" | "setdefault") && super::dynamic_attributes::is_globals(&attribute.value))
}

/// `sys.modules[__name__]`
fn is_own_module(expr: &Ast) -> bool {
    matches!(expr, Ast::Subscript(subscript)
        if matches!(&*subscript.value, Ast::Attribute(attribute) if attribute.attr.as_str() == "modules")
            && matches!(&*subscript.slice, Ast::Name(name) if name.id.as_str() == "__name__"))
}
