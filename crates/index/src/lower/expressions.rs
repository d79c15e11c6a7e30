//! Expressions and conditions.

use leitmotiv_syntax::ast::{self, Expr as Ast, Number, StringFlags};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{Ranged, TextRange, parse};
use smallvec::SmallVec;

use super::{Lower, fill_kind};
use crate::bindings::Bindings;
use crate::flow::{ChainId, Exit, Link, Place};
use crate::tree::*;

/// Texts up to this many bytes are kept as literals.
const LITERAL_LIMIT: usize = 120;

/// What lowering a condition gives: its expression and where it leads.
pub(super) struct Branches {
    pub(super) expr: ExprId,
    pub(super) yes: Exit,
    pub(super) no: Exit,
}

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
                let value = self.expr(&attribute.value);
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
                Expr::Str((text.len() <= LITERAL_LIMIT).then(|| self.names.intern(text)))
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
                Expr::FString(parts.into_boxed_slice())
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
                    .map(|(op, right)| (compare_op(*op), self.expr(right)))
                    .collect();
                Expr::Compare { left, rest }
            }
            Ast::If(conditional) => {
                let mark = self.flow.mark();
                let branches = self.condition(&conditional.test);
                self.flow.resume(&branches.yes);
                let then = self.expr(&conditional.body);
                let yes = self.flow.take(mark);
                self.flow.resume(&branches.no);
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
                self.index.bodies[self.body].yields.push(id);
                return id;
            }
            Ast::YieldFrom(inner) => {
                let value = self.expr(&inner.value);
                let id = self.push(Expr::YieldFrom(value), range);
                self.index.bodies[self.body].yields.push(id);
                return id;
            }
            Ast::Slice(slice) => {
                let mut part = |part: &'a Option<Box<Ast>>| part.as_ref().map(|part| self.expr(part));
                let (lower, upper, step) = (part(&slice.lower), part(&slice.upper), part(&slice.step));
                Expr::Slice { lower, upper, step }
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
        let inner = TextRange::new(
            part.range().start() + part.flags.opener_len(),
            part.range().end() - part.flags.closer_len(),
        );
        self.annotation_text(inner).unwrap_or_else(|| self.push(Expr::Invalid, range))
    }

    /// Lowers the annotation that stands in the text at `range`, in a string or a comment.
    pub(super) fn annotation_text(&mut self, range: TextRange) -> Option<ExprId> {
        let parsed = parse::parse_expression(self.text, range).ok()?;
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
                let before = self.in_annotation;
                self.in_annotation = !ends_in(&subscript.value, "Literal");
                let index = self.annotation_tree(&subscript.slice);
                self.in_annotation = before;
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
                Expr::Binary { op: binary_op(binary.op), left, right }
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
            left = self.push(Expr::Binary { op: binary_op(binary.op), left, right }, binary.range());
        }
        left
    }

    fn subscript(&mut self, subscript: &'a ast::ExprSubscript) -> ExprId {
        let value = self.expr(&subscript.value);
        let before = self.in_annotation;
        let is_literal = ends_in(&subscript.value, "Literal");
        if is_literal {
            self.in_annotation = false;
        }
        let index = match &*subscript.slice {
            // Only the first argument of `Annotated` is a type.
            Ast::Tuple(tuple) if before && ends_in(&subscript.value, "Annotated") => {
                let parts = tuple
                    .elts
                    .iter()
                    .enumerate()
                    .map(|(number, part)| {
                        self.in_annotation = number == 0;
                        self.expr(part)
                    })
                    .collect();
                self.push(Expr::Tuple(parts), tuple.range())
            }
            slice => self.expr(slice),
        };
        self.in_annotation = before;
        let place = match self.constant_step(index) {
            Some(step) => self.chain_value(value, step),
            None => ValueId::NONE,
        };
        self.push(Expr::Subscript { value, index, place }, subscript.range())
    }

    fn call(&mut self, call: &'a ast::ExprCall) -> ExprId {
        let callee = self.expr(&call.func);
        let mut args = Vec::with_capacity(call.arguments.len());
        // Strings among a call's arguments are strings, also where the call stands for a type, as `TypeVar("T")` in a stub.
        let in_annotation = std::mem::replace(&mut self.in_annotation, false);
        let casts = ends_in(&call.func, "cast") && call.arguments.args.len() == 2;
        let asserts = ends_in(&call.func, "assert_type");
        for (number, arg) in call.arguments.args.iter().enumerate() {
            let arg = match arg {
                Ast::Starred(starred) => Arg { kind: ArgKind::Star, value: self.expr(&starred.value) },
                // A type is expected here (typing specification, `cast` and `assert_type`).
                arg if (casts && number == 0) || (asserts && number == 1) => {
                    Arg { kind: ArgKind::Positional, value: self.annotation(arg) }
                }
                arg => Arg { kind: ArgKind::Positional, value: self.expr(arg) },
            };
            args.push(arg);
        }
        for keyword in &call.arguments.keywords {
            let kind = match &keyword.arg {
                Some(name) => ArgKind::Keyword(self.names.get(name.as_str())),
                None => ArgKind::DoubleStar,
            };
            let value = if keyword.arg.as_ref().is_some_and(|name| name.as_str() == "bound") {
                self.annotation(&keyword.value)
            } else {
                self.expr(&keyword.value)
            };
            args.push(Arg { kind, value });
        }
        self.in_annotation = in_annotation;
        if ends_in(&call.func, "setattr")
            && let Some(object) = args.first()
            && !self.note_made_attributes(object.value)
        {
            // Any attribute of any object may be made here.
            self.index.patched.insert(known::DUNDER_CLASS);
        }
        self.note_fill(callee, &args);
        self.push(Expr::Call { callee, args: args.into_boxed_slice() }, call.range())
    }

    /// Notes that the class of the method around makes attributes whose names cannot be read, if `object` is the method's
    /// own; says whether it is.
    fn note_made_attributes(&mut self, object: ExprId) -> bool {
        if let Expr::Name(object, _) = self.index.exprs[object]
            && let Some((first, class, _)) = self.class_first_params.last().copied()
            && first == object
        {
            self.index.classes[class].makes_attributes = true;
            return true;
        }
        false
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
                bindings.names.insert(self.names.get(param.name().as_str()));
            }
        }
        let id = LambdaId(u32::try_from(self.index.lambdas.len()).unwrap_or(u32::MAX));
        // Reserved, so that lambdas inside get other ids.
        self.index.lambdas.push(Lambda { params: Box::new([]), body: ExprId(0) });
        let defaults = self.defaults(lambda.parameters.as_deref());
        let scope = self.open_scope(ScopeKind::Lambda, Some(self.scope()), bindings);
        let mark = self.flow.mark();
        self.scopes.push(scope);
        let params = self
            .params(lambda.parameters.as_deref(), &defaults, &[], |index| DefKind::LambdaParam { lambda: id, index });
        let body = self.expr(&lambda.body);
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
            iterables.push(self.expr(&first.iter));
        }
        let scope = self.open_scope(ScopeKind::Comprehension, Some(self.scope()), bindings);
        let mark = self.flow.mark();
        self.scopes.push(scope);
        for (number, generator) in generators.iter().enumerate() {
            let iterable = match iterables.get(number) {
                Some(first) => *first,
                None => {
                    let iterable = self.expr(&generator.iter);
                    iterables.push(iterable);
                    iterable
                }
            };
            let is_async = generator.is_async;
            let target = self.target(&generator.target, &mut SmallVec::new(), &|unpack| DefKind::For {
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

    /// Lowers a condition. The current state stays as it was; the exits say what holds where it came out true or false.
    pub(super) fn condition(&mut self, expr: &'a Ast) -> Branches {
        match expr {
            Ast::UnaryOp(unary) if unary.op == ast::UnaryOp::Not => {
                let inner = self.condition(&unary.operand);
                let not = self.push(Expr::Unary { op: UnaryOp::Not, operand: inner.expr }, unary.range());
                Branches { expr: not, yes: inner.no, no: inner.yes }
            }
            Ast::BoolOp(bool_op) => self.bool_op(bool_op),
            atom => self.atom(atom),
        }
    }

    fn bool_op(&mut self, bool_op: &'a ast::ExprBoolOp) -> Branches {
        let and = bool_op.op == ast::BoolOp::And;
        let mark = self.flow.mark();
        let mut operands = Vec::with_capacity(bool_op.values.len());
        let mut early = Vec::with_capacity(bool_op.values.len());
        for operand in &bool_op.values {
            let branches = self.condition(operand);
            operands.push(branches.expr);
            // `and` is left early when an operand is false, `or` when one is true.
            let (on, out) = if and { (branches.yes, branches.no) } else { (branches.no, branches.yes) };
            let so_far = self.flow.take(mark);
            self.flow.resume(&so_far);
            self.flow.resume(&out);
            early.push(self.flow.take(mark));
            self.flow.resume(&so_far);
            self.flow.resume(&on);
        }
        let through = self.flow.take(mark);
        self.flow.join(&mut self.index, &early);
        let early = self.flow.take(mark);
        let expr = self.push(Expr::BoolOp { and, operands: operands.into_boxed_slice() }, bool_op.range());
        if and { Branches { expr, yes: through, no: early } } else { Branches { expr, yes: early, no: through } }
    }

    fn atom(&mut self, atom: &'a Ast) -> Branches {
        let mark = self.flow.mark();
        let expr = self.expr(atom);
        let outcome = self.static_outcome(expr);
        let mut subjects: SmallVec<[ExprId; 3]> = SmallVec::new();
        self.subjects(expr, &mut subjects);
        let state = self.flow.take(mark);
        let yes = self.branch(mark, &state, expr, &subjects, true, outcome);
        let no = self.branch(mark, &state, expr, &subjects, false, outcome);
        Branches { expr, yes, no }
    }

    fn branch(
        &mut self,
        mark: crate::flow::Mark,
        state: &Exit,
        condition: ExprId,
        subjects: &[ExprId],
        positive: bool,
        outcome: Option<bool>,
    ) -> Exit {
        self.flow.resume(state);
        let decisive = !positive && self.may_exhaust(condition);
        for subject in subjects {
            let Some((place, of)) = self.narrowable(*subject) else { continue };
            let value = self.index.values.push(Value::Narrow { of, condition, subject: *subject, positive });
            self.flow.narrow(place, value);
            if decisive && matches!(place, Place::Name(..)) {
                self.flow.reach = self.index.reaches.push(Reach::WhileAny { of: self.flow.reach, value });
            }
        }
        if outcome.is_some_and(|outcome| outcome != positive) {
            self.flow.reach = ReachId::NEVER;
        }
        self.flow.take(mark)
    }

    /// Whether the condition's failing can leave nothing of a value, as in the last of a chain of `isinstance`.
    fn may_exhaust(&self, condition: ExprId) -> bool {
        match &self.index.exprs[condition] {
            Expr::Call { callee, .. } => {
                matches!(self.index.exprs[*callee], Expr::Name(known::ISINSTANCE | known::ISSUBCLASS, _))
            }
            Expr::Compare { rest, .. } => matches!(rest.as_ref(), [(CompareOp::Is | CompareOp::Eq | CompareOp::In, _)]),
            _ => false,
        }
    }

    /// The parts of an atomic condition whose types its outcome may narrow.
    fn subjects(&self, condition: ExprId, subjects: &mut SmallVec<[ExprId; 3]>) {
        match &self.index.exprs[condition] {
            Expr::Name(..) | Expr::Named { .. } | Expr::Attribute { .. } | Expr::Subscript { .. } => {
                subjects.push(condition);
            }
            Expr::Compare { left, rest } => {
                if let [(op, right)] = rest.as_ref() {
                    self.operand_subjects(*left, subjects);
                    // `3 in x` says something about `x` too; `x < y` about neither.
                    if !matches!(op, CompareOp::Lt | CompareOp::LtE | CompareOp::Gt | CompareOp::GtE) {
                        self.operand_subjects(*right, subjects);
                    }
                }
            }
            Expr::Call { args, .. } => {
                if let Some(Arg { kind: ArgKind::Positional, value }) = args.first() {
                    self.operand_subjects(*value, subjects);
                }
            }
            _ => {}
        }
        subjects.retain(|subject| {
            matches!(
                self.index.exprs[*subject],
                Expr::Name(..) | Expr::Attribute { .. } | Expr::Subscript { .. } | Expr::Named { .. }
            )
        });
    }

    fn operand_subjects(&self, operand: ExprId, subjects: &mut SmallVec<[ExprId; 3]>) {
        match &self.index.exprs[operand] {
            Expr::Name(..) => subjects.push(operand),
            Expr::Named { value, .. } => {
                subjects.push(*value);
                subjects.push(operand);
            }
            // Tags: `shape.kind == "round"` narrows `shape` as well.
            Expr::Attribute { value, .. } | Expr::Subscript { value, .. } => {
                subjects.push(*value);
                subjects.push(operand);
            }
            // `type(x) is C`, `len(x) == 2`
            Expr::Call { args, .. } => {
                if let [Arg { kind: ArgKind::Positional, value }] = args.as_ref() {
                    subjects.push(*value);
                }
            }
            _ => {}
        }
    }

    /// The place that an expression denotes and its value here, if conditions may narrow it.
    pub(super) fn narrowable(&mut self, expr: ExprId) -> Option<(Place, ValueId)> {
        match self.index.exprs[expr] {
            Expr::Name(name, value) => {
                let owner = self.owner(name).unwrap_or(ScopeId(0));
                let place = Place::Name(owner, name);
                // An earlier part of the same condition may have narrowed it already.
                Some((place, self.flow.get(place).unwrap_or(value)))
            }
            Expr::Named { def, .. } => {
                let name = self.index.defs[def].name;
                let place = Place::Name(self.index.defs[def].scope, name);
                self.flow.get(place).map(|value| (place, value))
            }
            Expr::Attribute { .. } | Expr::Subscript { .. } => {
                let chain = self.make_chain(expr)?;
                let place = Place::Chain(chain);
                let value = match self.flow.get(place) {
                    Some(value) => value,
                    None => self.index.values.push(Value::Natural(expr)),
                };
                Some((place, value))
            }
            _ => None,
        }
    }

    /// What a condition always comes out as on the target version and platform (typing specification, "Version and
    /// platform checking").
    fn static_outcome(&self, expr: ExprId) -> Option<bool> {
        match &self.index.exprs[expr] {
            Expr::Bool(value) => Some(*value),
            Expr::Int(Some(value)) => Some(*value != 0),
            Expr::Name(known::TYPE_CHECKING, _) | Expr::Attribute { name: known::TYPE_CHECKING, .. } => Some(true),
            Expr::Compare { left, rest } => {
                let [(op, right)] = rest.as_ref() else { return None };
                self.static_comparison(*left, *op, *right)
            }
            Expr::Call { callee, args } => {
                // sys.platform.startswith("win")
                let Expr::Attribute { value, name, .. } = self.index.exprs[*callee] else { return None };
                let [Arg { value: arg, .. }] = args.as_ref() else { return None };
                if !self.is_sys(value, known::PLATFORM) || self.name_text(name) != "startswith" {
                    return None;
                }
                let Expr::Str(Some(prefix)) = self.index.exprs[*arg] else { return None };
                Some(self.target.platform.starts_with(self.name_text(prefix)))
            }
            _ => None,
        }
    }

    fn static_comparison(&self, left: ExprId, op: CompareOp, right: ExprId) -> Option<bool> {
        if self.is_sys(left, known::PLATFORM) {
            let Expr::Str(Some(text)) = self.index.exprs[right] else { return None };
            let equal = self.target.platform == self.name_text(text);
            return match op {
                CompareOp::Eq => Some(equal),
                CompareOp::NotEq => Some(!equal),
                _ => None,
            };
        }
        let (major, minor) = (i64::from(self.target.version.0), i64::from(self.target.version.1));
        let ordering = if self.is_sys(left, known::VERSION_INFO) {
            let Expr::Tuple(parts) = &self.index.exprs[right] else { return None };
            let numbers: Vec<i64> = parts
                .iter()
                .map(|part| if let Expr::Int(Some(number)) = self.index.exprs[*part] { Some(number) } else { None })
                .collect::<Option<_>>()?;
            // The patch level is taken as higher than any that is asked for.
            [major, minor, i64::MAX].as_slice().cmp(numbers.as_slice())
        } else if let Expr::Subscript { value, index, .. } = self.index.exprs[left]
            && self.is_sys(value, known::VERSION_INFO)
            && self.index.exprs[index] == Expr::Int(Some(0))
        {
            let Expr::Int(Some(number)) = self.index.exprs[right] else { return None };
            major.cmp(&number)
        } else {
            return None;
        };
        match op {
            CompareOp::Lt => Some(ordering.is_lt()),
            CompareOp::LtE => Some(ordering.is_le()),
            CompareOp::Gt => Some(ordering.is_gt()),
            CompareOp::GtE => Some(ordering.is_ge()),
            CompareOp::Eq => Some(ordering.is_eq()),
            CompareOp::NotEq => Some(ordering.is_ne()),
            _ => None,
        }
    }

    fn is_sys(&self, expr: ExprId, attribute: Name) -> bool {
        matches!(self.index.exprs[expr], Expr::Attribute { value, name, .. }
            if name == attribute && matches!(self.index.exprs[value], Expr::Name(known::SYS, _)))
    }

    /// What the flow knows of an attribute or item of `base`.
    fn chain_value(&mut self, base: ExprId, step: Step) -> ValueId {
        if !self.flow.has_chains() {
            return ValueId::NONE;
        }
        let Some(chain) = self.find_chain(base) else { return ValueId::NONE };
        let Some(chain) = self.flow.find_chain(step.link(chain)) else { return ValueId::NONE };
        self.flow.get(Place::Chain(chain)).unwrap_or(ValueId::NONE)
    }

    fn find_chain(&self, expr: ExprId) -> Option<ChainId> {
        match self.index.exprs[expr] {
            Expr::Name(_, value) => self.flow.find_chain(Link::Root(self.index.unnarrowed(value))),
            Expr::Attribute { value, name, .. } => self.flow.find_chain(Link::Attribute(self.find_chain(value)?, name)),
            Expr::Subscript { value, index, .. } => {
                let step = self.constant_step(index)?;
                self.flow.find_chain(step.link(self.find_chain(value)?))
            }
            _ => None,
        }
    }

    /// The chain that an expression denotes, made if need be; `None` where it is no chain over a name.
    pub(super) fn make_chain(&mut self, expr: ExprId) -> Option<ChainId> {
        match self.index.exprs[expr] {
            Expr::Name(_, value) if value != ValueId::UNBOUND => {
                let root = Link::Root(self.index.unnarrowed(value));
                Some(self.flow.chain(root))
            }
            Expr::Attribute { value, name, .. } => {
                let base = self.make_chain(value)?;
                Some(self.flow.chain(Link::Attribute(base, name)))
            }
            Expr::Subscript { value, index, .. } => {
                let step = self.constant_step(index)?;
                let base = self.make_chain(value)?;
                Some(self.flow.chain(step.link(base)))
            }
            _ => None,
        }
    }

    fn constant_step(&self, index: ExprId) -> Option<Step> {
        match self.index.exprs[index] {
            Expr::Int(Some(number)) => Some(Step::Index(number)),
            Expr::Str(Some(text)) => Some(Step::Key(text)),
            Expr::Unary { op: UnaryOp::Neg, operand } => match self.index.exprs[operand] {
                Expr::Int(Some(number)) => Some(Step::Index(-number)),
                _ => None,
            },
            _ => None,
        }
    }
}

/// One step of a chain, before its base is known.
#[derive(Clone, Copy)]
enum Step {
    Attribute(Name),
    Index(i64),
    Key(Name),
}

impl Step {
    fn link(self, base: ChainId) -> Link {
        match self {
            Step::Attribute(name) => Link::Attribute(base, name),
            Step::Index(number) => Link::Index(base, number),
            Step::Key(name) => Link::Key(base, name),
        }
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

pub(super) fn binary_op(op: ast::Operator) -> BinaryOp {
    match op {
        ast::Operator::Add => BinaryOp::Add,
        ast::Operator::Sub => BinaryOp::Sub,
        ast::Operator::Mult => BinaryOp::Mul,
        ast::Operator::MatMult => BinaryOp::MatMul,
        ast::Operator::Div => BinaryOp::Div,
        ast::Operator::Mod => BinaryOp::Mod,
        ast::Operator::Pow => BinaryOp::Pow,
        ast::Operator::LShift => BinaryOp::LShift,
        ast::Operator::RShift => BinaryOp::RShift,
        ast::Operator::BitOr => BinaryOp::BitOr,
        ast::Operator::BitXor => BinaryOp::BitXor,
        ast::Operator::BitAnd => BinaryOp::BitAnd,
        ast::Operator::FloorDiv => BinaryOp::FloorDiv,
    }
}

fn compare_op(op: ast::CmpOp) -> CompareOp {
    match op {
        ast::CmpOp::Eq => CompareOp::Eq,
        ast::CmpOp::NotEq => CompareOp::NotEq,
        ast::CmpOp::Lt => CompareOp::Lt,
        ast::CmpOp::LtE => CompareOp::LtE,
        ast::CmpOp::Gt => CompareOp::Gt,
        ast::CmpOp::GtE => CompareOp::GtE,
        ast::CmpOp::Is => CompareOp::Is,
        ast::CmpOp::IsNot => CompareOp::IsNot,
        ast::CmpOp::In => CompareOp::In,
        ast::CmpOp::NotIn => CompareOp::NotIn,
    }
}
