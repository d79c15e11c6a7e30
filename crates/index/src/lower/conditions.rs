//! Conditions: where they lead, and what they may narrow.

use leitmotiv_syntax::ast::{self, Expr as Ast};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{Ranged, TextRange};
use smallvec::SmallVec;

use super::Lower;
use crate::flow::{Exit, Place};
use crate::tree::*;

/// Joins within joins are looked into only this deep.
const DEEPEST: u32 = 4;

/// What lowering a condition gives: its expression and where it leads.
pub(super) struct Branches {
    pub(super) expr: ExprId,
    pub(super) yes: Exit,
    pub(super) no: Exit,
}

impl<'a> Lower<'a> {
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
        let is_live = !self.flow.reach.is_never();
        let mut operands = Vec::with_capacity(bool_op.values.len());
        let mut early = Vec::with_capacity(bool_op.values.len());
        if let ([first, second, ..], Some(last), true) = (&*bool_op.values, bool_op.values.last(), and) {
            let body = TextRange::new(second.range().start(), last.range().end());
            self.index.clauses.push(Clause {
                test: first.range(),
                body,
                positive: true,
                statement: first.start(),
                leaves: false,
            });
        }
        for operand in &bool_op.values {
            self.note_excluded(operand, is_live);
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

    /// Notes a part of an expression that is not reached here, though the whole is.
    pub(super) fn note_excluded(&mut self, part: &Ast, is_live: bool) {
        if is_live && self.flow.reach.is_never() {
            self.index.excluded.push(part.range());
        }
    }

    fn atom(&mut self, atom: &'a Ast) -> Branches {
        let mark = self.flow.mark();
        let expr = self.expr(atom);
        let outcome = self.static_outcome(expr);
        let mut subjects: SmallVec<[ExprId; 3]> = SmallVec::new();
        self.subjects(expr, &mut subjects);
        self.note_tested(expr);
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
            let value = self.index.narrowing(Value::Narrow { of, condition, subject: *subject, positive });
            self.flow.narrow(place, value);
            // What was assigned to an attribute or item may have been changed from elsewhere.
            let is_natural =
                matches!(self.index.values[self.index.unnarrowed(value)], Value::Natural(_) | Value::Given(_));
            if decisive && (is_natural || matches!(place, Place::Name(..))) {
                self.flow.reach = self.index.reaches.push(Reach::WhileAny { of: self.flow.reach, value });
            }
        }
        for (condition, subject, positive) in self.kept_conditions(condition, positive) {
            let Some((place, of)) = self.narrowable(subject) else { continue };
            // Only where it is still what was asked about.
            let now = self.index.unnarrowed(of);
            let is_same = match self.read_by(subject) {
                Some(read) => self.index.unnarrowed(read) == now,
                None => self.is_as_found(now, 0),
            };
            if is_same {
                let value = self.index.narrowing(Value::Narrow { of, condition, subject, positive });
                self.flow.narrow(place, value);
            }
        }
        self.note_presence(condition, positive);
        if outcome.is_some_and(|outcome| outcome != positive) {
            if !self.flow.reach.is_never() {
                self.flow.reach = ReachId::EXCLUDED;
            }
        } else if let Some((import, attribute)) = self.imported_constant(condition) {
            let of = self.flow.reach;
            self.flow.reach = self.index.reaches.push(Reach::Constant { of, import, attribute, positive });
        }
        self.flow.take(mark)
    }

    /// What a name tells that was given a condition: `is_docked = vessel.berth is not None`, then `if is_docked:`. The
    /// conditions, what each speaks of, and how each came out.
    fn kept_conditions(&self, name: ExprId, positive: bool) -> SmallVec<[(ExprId, ExprId, bool); 4]> {
        let mut found = SmallVec::new();
        if let Expr::Name(_, value) = self.index.exprs[name]
            && let Value::Def(def) = self.index.values[self.index.unnarrowed(value)]
            && let DefKind::Assign { value, unpack: None, comment: None } = self.index.defs[def].kind
            && self.index.defs[def].body == self.body
        {
            self.parts_of_condition(value, positive, &mut found);
        }
        found
    }

    fn parts_of_condition(&self, expr: ExprId, positive: bool, found: &mut SmallVec<[(ExprId, ExprId, bool); 4]>) {
        match &self.index.exprs[expr] {
            Expr::Unary { op: UnaryOp::Not, operand } => self.parts_of_condition(*operand, !positive, found),
            Expr::BoolOp { and, operands } if *and == positive => {
                operands.iter().for_each(|operand| match self.index.exprs[*operand] {
                    Expr::Name(..) | Expr::Attribute { .. } => found.push((*operand, *operand, positive)),
                    _ => self.parts_of_condition(*operand, positive, found),
                });
            }
            Expr::Compare { .. } | Expr::Call { .. } => {
                let mut subjects = SmallVec::new();
                self.subjects(expr, &mut subjects);
                let is_place = |subject: &ExprId| {
                    matches!(self.index.exprs[*subject], Expr::Name(..) | Expr::Attribute { .. }) && *subject != expr
                };
                found.extend(subjects.into_iter().filter(is_place).map(|subject| (expr, subject, positive)));
            }
            _ => {}
        }
    }

    /// Whether nothing was assigned that a value comes from, on any way.
    fn is_as_found(&self, value: ValueId, depth: u32) -> bool {
        match self.index.values[self.index.unnarrowed(value)] {
            Value::Natural(_) => true,
            Value::Phi { start, len, is_loop: false } if depth < DEEPEST => {
                self.index.phi(start, len).iter().all(|(_, way)| self.is_as_found(*way, depth + 1))
            }
            _ => false,
        }
    }

    /// The value that a name or an attribute had where it was read.
    fn read_by(&self, expr: ExprId) -> Option<ValueId> {
        match self.index.exprs[expr] {
            Expr::Name(_, value) => Some(value),
            Expr::Attribute { place, .. } => place.known(),
            _ => None,
        }
    }

    /// Notes an attribute that is asked whether it is there: `if vessel.berth`, `vessel.berth is None`.
    pub(super) fn note_tested(&mut self, question: ExprId) {
        let asked = match &self.index.exprs[question] {
            Expr::Compare { left, rest } => match rest.as_ref() {
                [(CompareOp::Is | CompareOp::IsNot | CompareOp::Eq | CompareOp::NotEq, right)]
                    if self.index.exprs[*right] == Expr::None =>
                {
                    *left
                }
                _ => return,
            },
            Expr::Call { args, .. } => match args.first() {
                Some(first) => first.value,
                None => return,
            },
            _ => question,
        };
        let bodies = match self.index.exprs[asked] {
            Expr::Attribute { name, .. } => self.index.tested.entry(name).or_default(),
            Expr::Name(name, value) if matches!(self.index.values[value], Value::Global(_)) => {
                self.index.tested_globals.entry(name).or_default()
            }
            _ => return,
        };
        if bodies.last() != Some(&self.body) {
            bodies.push(self.body);
        }
    }

    /// Where `key in container` holds, `container.get(key)` is what is there.
    fn note_presence(&mut self, condition: ExprId, positive: bool) {
        let Expr::Compare { left, rest } = &self.index.exprs[condition] else { return };
        let (key, container) = match (rest.as_ref(), positive) {
            ([(CompareOp::In, right)], true) | ([(CompareOp::NotIn, right)], false) => (*left, *right),
            _ => return,
        };
        if let Some(step) = self.constant_step(key)
            && let Some(chain) = self.make_look_up(container, step)
        {
            let value = self.index.values.push(Value::Item { condition });
            self.flow.narrow(Place::Chain(chain), value);
        }
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
            Expr::Compare { left, rest } if rest.len() > 1 => {
                // `a is b is not None` says something of each, where it holds.
                self.operand_subjects(*left, subjects);
                rest.iter().for_each(|(_, operand)| self.operand_subjects(*operand, subjects));
            }
            Expr::Compare { left, rest } => {
                if let [(op, right)] = rest.as_ref() {
                    self.operand_subjects(*left, subjects);
                    // `3 in x` says something about `x` too; `x < y` about neither. Beside a place on the left, an attribute on
                    // the right is what that is compared with, as a member of an enumeration.
                    let is_order = matches!(op, CompareOp::Lt | CompareOp::LtE | CompareOp::Gt | CompareOp::GtE);
                    let is_measure = !subjects.is_empty()
                        && matches!(op, CompareOp::Is | CompareOp::IsNot | CompareOp::Eq | CompareOp::NotEq)
                        && matches!(self.index.exprs[*right], Expr::Attribute { .. });
                    if !is_order && !is_measure {
                        self.operand_subjects(*right, subjects);
                    }
                }
            }
            Expr::Call { .. } if self.look_up(condition).is_some() => subjects.push(condition),
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
                Expr::Name(..)
                    | Expr::Attribute { .. }
                    | Expr::Subscript { .. }
                    | Expr::Named { .. }
                    | Expr::Call { .. }
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
            Expr::Call { .. } if self.look_up(operand).is_some() => subjects.push(operand),
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
            Expr::Attribute { .. } | Expr::Subscript { .. } | Expr::Call { .. } => {
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
}
