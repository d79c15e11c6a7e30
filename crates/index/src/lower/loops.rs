//! Loops: what holds at their head, and whether they run at all.

use leitmotiv_syntax::Ranged;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::ast::{self, Expr as Ast, Stmt};
use leitmotiv_syntax::names::Name;
use smallvec::SmallVec;

use super::{Loop, Lower};
use crate::bindings::Bindings;
use crate::flow::{Exit, Place};
use crate::tree::*;

/// How often a `for` loop runs, as far as its iterable says.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Rounds {
    /// Any number of times, perhaps not at all.
    Any,
    /// At least once.
    Some,
    /// Until it is left.
    Endless,
}

impl<'a> Lower<'a> {
    fn open_loop(&mut self, assigned: &Bindings) -> Vec<(Place, ValueId, ReachId, Option<ValueId>)> {
        let mut heads = Vec::new();
        let mut names: Vec<_> = assigned.names.keys().copied().collect();
        // Ids must not depend on hashing.
        names.sort_by(|left, right| self.names.text(*left).cmp(self.names.text(*right)));
        for name in names {
            let place = Place::Name(self.binding_scope(name), name);
            let before = self.flow.get(place);
            let head = self.index.values.push(Value::Phi { start: 0, len: 0, is_loop: true });
            self.flow.set(place, Some(head));
            heads.push((place, head, self.flow.reach, before));
        }
        // What is known of an attribute that the loop assigns is there in its first round, and then what the rounds say.
        let attributes = self.flow.attributes_of_names(&assigned.attributes);
        let kept: Vec<_> = attributes.into_iter().filter(|(chain, _)| self.chain_exprs.contains_key(chain)).collect();
        self.flow.forget_chains(&assigned.attributes, assigned.items);
        for (chain, before) in kept {
            let place = Place::Chain(chain);
            let head = self.index.values.push(Value::Phi { start: 0, len: 0, is_loop: true });
            self.flow.set(place, Some(head));
            heads.push((place, head, self.flow.reach, Some(before)));
        }
        heads
    }

    fn close_loop(&mut self, heads: &[(Place, ValueId, ReachId, Option<ValueId>)], rounds: &[Exit]) {
        for (place, head, reach, before) in heads {
            let outer = before.unwrap_or_else(|| self.outer_before(*place));
            let mut args = vec![(*reach, outer)];
            for round in rounds {
                if round.reach.is_never() {
                    continue;
                }
                let changed = round.changed(*place).unwrap_or(Some(*head));
                let value = changed.unwrap_or_else(|| self.forgotten(*place));
                if value != *head && !args.contains(&(round.reach, value)) {
                    args.push((round.reach, value));
                }
            }
            let start = u32::try_from(self.index.phi_args.len()).unwrap_or(u32::MAX);
            let len = u32::try_from(args.len()).unwrap_or(u32::MAX);
            self.index.phi_args.extend(args);
            self.index.values[*head] = Value::Phi { start, len, is_loop: true };
        }
    }

    /// What a place holds where the flow knows nothing of it any more.
    fn forgotten(&mut self, place: Place) -> ValueId {
        match place {
            Place::Chain(chain) => match self.chain_exprs.get(&chain) {
                Some(expr) => self.index.values.push(Value::Natural(*expr)),
                None => ValueId::UNBOUND,
            },
            Place::Name(..) => ValueId::UNBOUND,
        }
    }

    /// What a name holds at a loop that assigns it, when this body has not bound it before.
    fn outer_before(&mut self, place: Place) -> ValueId {
        match place {
            Place::Name(scope, name) if self.locals[scope.0 as usize].body != self.body => {
                // `global` or `nonlocal`: the value from outside. Not a preset: the loop's head stands there now.
                let value = if scope == ScopeId(0) { Value::Global(name) } else { Value::Closure { scope, name } };
                self.index.values.push(value)
            }
            _ => ValueId::UNBOUND,
        }
    }

    pub(super) fn while_statement(&mut self, statement: &'a ast::StmtWhile) {
        let mut assigned = Bindings::of(&statement.body, &mut self.names);
        self.walrus_of(&statement.test, &mut assigned);
        let runs = self.holds_at_first(&statement.test);
        let heads = self.open_loop(&assigned);
        let mark = self.flow.mark();
        self.loops.push(Loop { mark, breaks: Vec::new(), continues: Vec::new() });
        let mut branches = self.condition(&statement.test);
        // What lies behind an endless loop is not switched off: it cannot be reached.
        if branches.no.reach == ReachId::EXCLUDED && !mark.reach().is_never() {
            branches.no.reach = ReachId::NEVER;
        }
        let header = TextRange::new(statement.range().start(), statement.test.range().end());
        self.statement(StatementKind::Test(branches.expr), header);
        self.flow.resume(&branches.yes);
        self.block(&statement.body);
        let round = self.flow.take(mark);
        self.finish_loop(&heads, round, branches.no, runs, &statement.orelse);
    }

    pub(super) fn for_statement(&mut self, statement: &'a ast::StmtFor) {
        let iterable = self.namespace_read(&statement.iter);
        let rounds = self.rounds_of(iterable);
        let mut assigned = Bindings::of(&statement.body, &mut self.names);
        assigned.target(&statement.target, &mut self.names);
        let heads = self.open_loop(&assigned);
        let mark = self.flow.mark();
        self.loops.push(Loop { mark, breaks: Vec::new(), continues: Vec::new() });
        let mut done = self.flow.take(mark);
        if rounds == Rounds::Endless {
            done.reach = ReachId::NEVER;
        }
        let is_async = statement.is_async;
        let comment = self.comment_at(statement.iter.range().end());
        let kind = |lower: &Self, unpack: Option<Box<[UnpackStep]>>| {
            lower.commented(comment, unpack.as_deref()).unwrap_or(DefKind::For { iterable, unpack, is_async })
        };
        let target = self.target(&statement.target, &mut SmallVec::new(), &kind);
        let header = TextRange::new(statement.range().start(), statement.iter.range().end());
        self.statement(StatementKind::For { target, iterable, is_async }, header);
        self.block(&statement.body);
        let round = self.flow.take(mark);
        self.finish_loop(&heads, round, done, rounds != Rounds::Any, &statement.orelse);
    }

    fn finish_loop(
        &mut self,
        heads: &[(Place, ValueId, ReachId, Option<ValueId>)],
        round: Exit,
        done: Exit,
        runs: bool,
        otherwise: &'a [Stmt],
    ) {
        let Some(finished) = self.loops.pop() else { return };
        let mut rounds = finished.continues;
        rounds.push(round);
        self.close_loop(heads, &rounds);
        let mark = finished.mark;
        self.flow.resume(&done);
        if runs && !done.reach.is_never() {
            self.bind_by_rounds(heads, &rounds);
        }
        self.block(otherwise);
        let mut exits = vec![self.flow.take(mark)];
        exits.extend(finished.breaks);
        self.flow.join(&mut self.index, &exits);
    }

    pub(super) fn jump(&mut self, is_break: bool) {
        // A `finally` on the way sees all that was written.
        self.flow.may_raise();
        let Some(target) = self.loops.last() else { return };
        // The state stays for the (unreachable) rest of the block, and for marks set since; the jump takes a copy.
        let exit = self.flow.peek(target.mark);
        self.flow.stop();
        if exit.reach.is_never() {
            return;
        }
        let Some(target) = self.loops.last_mut() else { return };
        if is_break {
            target.breaks.push(exit);
        } else {
            target.continues.push(exit);
        }
    }

    /// Of a loop that runs at least once, names that were not bound before are what its rounds bind.
    fn bind_by_rounds(&mut self, heads: &[(Place, ValueId, ReachId, Option<ValueId>)], rounds: &[Exit]) {
        let live: Vec<&Exit> = rounds.iter().filter(|round| !round.reach.is_never()).collect();
        for (place, head, _, before) in heads {
            let is_new = before.is_none_or(|before| self.index.values[before] == Value::Unbound);
            if !is_new || self.outer_before(*place) != ValueId::UNBOUND || self.flow.get(*place) != Some(*head) {
                continue;
            }
            let value_of = |round: &&Exit| (round.reach, round.changed(*place).unwrap_or(Some(*head)));
            let ways: Vec<(ReachId, Option<ValueId>)> = live.iter().map(value_of).collect();
            if let Some(value) = crate::flow::merge(&mut self.index, *place, &ways, false) {
                self.flow.set(*place, Some(value));
            }
        }
    }

    /// How often a loop over an iterable runs: a display, `range` by numbers, `itertools.count`.
    fn rounds_of(&self, iterable: ExprId) -> Rounds {
        let exprs = &self.index.exprs;
        let is_plain = |part: &ExprId| !matches!(exprs[*part], Expr::Starred(_));
        let some = |holds: bool| if holds { Rounds::Some } else { Rounds::Any };
        match &exprs[iterable] {
            Expr::List(parts) | Expr::Tuple(parts) | Expr::Set(parts) => some(parts.iter().any(is_plain)),
            Expr::Dict(items) => some(items.iter().any(|(key, _)| key.is_some())),
            Expr::Str(Some(text)) => some(!self.name_text(*text).is_empty()),
            Expr::Call { callee, args } => {
                let numbers: Option<Vec<i64>> = args
                    .iter()
                    .map(|arg| match exprs[arg.value] {
                        Expr::Int(number) if arg.kind == ArgKind::Positional => number,
                        _ => None,
                    })
                    .collect();
                match (&exprs[*callee], numbers.as_deref()) {
                    (Expr::Name(name, _), Some([end])) if self.name_text(*name) == "range" => some(*end > 0),
                    (Expr::Name(name, _), Some([start, end])) if self.name_text(*name) == "range" => some(start < end),
                    // `enumerate(…)`, `sorted(…)` and their like run as often as what they are given.
                    (Expr::Name(name, _), _)
                        if matches!(self.name_text(*name), "enumerate" | "list" | "reversed" | "sorted" | "tuple") =>
                    {
                        args.first().map_or(Rounds::Any, |first| self.rounds_of(first.value))
                    }
                    (Expr::Attribute { value, name, .. }, _)
                        if matches!(exprs[*value], Expr::Name(module, _) if self.name_text(module) == "itertools")
                            && self.name_text(*name) == "count" =>
                    {
                        Rounds::Endless
                    }
                    _ => Rounds::Any,
                }
            }
            Expr::Name(name, _) => self.constant_items(*name).map_or(Rounds::Any, |items| self.rounds_of(items)),
            _ => Rounds::Any,
        }
    }

    /// The items of a constant of the module, by its name in capitals: `UNITS = ("m", "km")`.
    fn constant_items(&self, name: Name) -> Option<ExprId> {
        let text = self.name_text(name);
        let is_constant = !text.chars().any(char::is_lowercase) && text.chars().any(char::is_alphabetic);
        let symbol = self.index.scopes[ScopeId(0)].symbols.get(&name).filter(|_| is_constant)?;
        let [def] = symbol.defs.as_slice() else { return None };
        let DefKind::Assign { value, unpack: None, .. } = self.index.defs[*def].kind else { return None };
        matches!(self.index.exprs[value], Expr::Tuple(_) | Expr::Str(Some(_))).then_some(value)
    }

    /// Whether a loop's test holds when it is first asked: what it asks about was given a value that stands there.
    fn holds_at_first(&mut self, test: &'a Ast) -> bool {
        self.first_outcome(test) == Some(true)
    }

    fn first_outcome(&mut self, test: &'a Ast) -> Option<bool> {
        match test {
            Ast::UnaryOp(unary) if unary.op == ast::UnaryOp::Not => {
                self.first_outcome(&unary.operand).map(|outcome| !outcome)
            }
            Ast::BoolOp(bool_op) => {
                let and = bool_op.op == ast::BoolOp::And;
                let outcomes: Vec<Option<bool>> =
                    bool_op.values.iter().map(|operand| self.first_outcome(operand)).collect();
                let decides = outcomes.contains(&Some(!and));
                if decides { Some(!and) } else { outcomes.iter().all(|outcome| *outcome == Some(and)).then_some(and) }
            }
            Ast::Name(_) => match self.first_value(test)? {
                Expr::Bool(value) => Some(value),
                Expr::Int(Some(number)) => Some(number != 0),
                Expr::Str(Some(text)) => Some(!self.name_text(text).is_empty()),
                Expr::None => Some(false),
                _ => None,
            },
            Ast::Compare(compare) => {
                let ([op], [right]) = (&*compare.ops, &*compare.comparators) else { return None };
                let left = self.first_value(&compare.left)?;
                match (left, op, right) {
                    (left, ast::CmpOp::Is, Ast::NoneLiteral(_)) => Some(left == Expr::None),
                    (left, ast::CmpOp::IsNot, Ast::NoneLiteral(_)) => Some(left != Expr::None),
                    (Expr::Int(Some(left)), op, Ast::NumberLiteral(number)) => {
                        let ast::Number::Int(right) = &number.value else { return None };
                        let order = left.cmp(&right.as_i64()?);
                        match op {
                            ast::CmpOp::Lt => Some(order.is_lt()),
                            ast::CmpOp::LtE => Some(order.is_le()),
                            ast::CmpOp::Gt => Some(order.is_gt()),
                            ast::CmpOp::GtE => Some(order.is_ge()),
                            ast::CmpOp::Eq => Some(order.is_eq()),
                            ast::CmpOp::NotEq => Some(order.is_ne()),
                            _ => None,
                        }
                    }
                    _ => None,
                }
            }
            _ => None,
        }
    }

    /// What a name was last given, if it was a value that stands there.
    fn first_value(&mut self, name: &'a Ast) -> Option<Expr> {
        let Ast::Name(name) = name else { return None };
        let name = self.names.get(name.id.as_str());
        let value = self.flow.get(Place::Name(self.binding_scope(name), name))?;
        let Value::Def(def) = self.index.values[value] else { return None };
        let DefKind::Assign { value, unpack: None, .. } = self.index.defs[def].kind else { return None };
        match &self.index.exprs[value] {
            Expr::Bool(value) => Some(Expr::Bool(*value)),
            Expr::Int(number) => Some(Expr::Int(*number)),
            Expr::Str(text) => Some(Expr::Str(*text)),
            Expr::None => Some(Expr::None),
            _ => None,
        }
    }
}
