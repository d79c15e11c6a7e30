//! `match` (PEP 634).

use leitmotiv_syntax::Ranged;
use leitmotiv_syntax::ast::{self, Pattern as Ast, Singleton};

use super::Lower;
use crate::flow::{Link, Place};
use crate::tree::*;

impl<'a> Lower<'a> {
    pub(super) fn match_statement(&mut self, statement: &'a ast::StmtMatch) {
        let subject = self.expr(&statement.subject);
        self.statement(StatementKind::Match(subject), statement.subject.range());
        let written_out = self.written_out(subject);
        let mark = self.flow.mark();
        let mut exits = Vec::with_capacity(statement.cases.len() + 1);
        for case in &statement.cases {
            let start = self.flow.mark();
            let before = self.subject(subject, written_out);
            let value = before.map_or(ValueId::NONE, |(_, value)| value);
            let pattern = self.pattern(&case.pattern, subject, value);
            self.index.cases.push(pattern);
            self.statement(StatementKind::Case(pattern), case.pattern.range());
            let matched = self.flow.take(start);
            // Where the pattern did not match.
            let irrefutable = case.pattern.is_irrefutable();
            let missed = {
                self.narrow_subject(before, pattern, false);
                if irrefutable {
                    self.flow.stop();
                }
                self.flow.take(start)
            };
            self.flow.resume(&matched);
            self.narrow_subject(before, pattern, true);
            let parts = self.narrow_parts(subject, pattern);
            let mut on = vec![missed];
            if let Some(guard) = &case.guard {
                let inner = self.flow.mark();
                let branches = self.condition(guard);
                self.statement(StatementKind::Test(branches.expr), guard.range());
                self.flow.resume(&branches.no);
                // A failed guard leaves the subject as it was before the case.
                for (place, value) in before.into_iter().chain(parts) {
                    self.flow.narrow(place, value);
                }
                let failed_inner = self.flow.take(inner);
                let so_far = self.flow.take(start);
                self.flow.resume(&so_far);
                self.flow.resume(&failed_inner);
                on.push(self.flow.take(start));
                self.flow.resume(&so_far);
                self.flow.resume(&branches.yes);
            }
            self.block(&case.body);
            let body_exit = self.flow.take(start);
            // Each case's exit is taken from the match's start, so that all of them can be joined there.
            let to_here = self.flow.take(mark);
            self.flow.resume(&to_here);
            self.flow.resume(&body_exit);
            exits.push(self.flow.take(mark));
            self.flow.resume(&to_here);
            self.flow.join(&mut self.index, &on);
        }
        if !statement.cases.last().is_some_and(|case| case.pattern.is_irrefutable() && case.guard.is_none())
            && let Some((_, rest)) = self.subject(subject, written_out)
        {
            self.statement(StatementKind::Unmatched { subject, rest }, statement.subject.range());
        }
        exits.push(self.flow.take(mark));
        self.flow.join(&mut self.index, &exits);
    }

    /// The place and the first value of a subject that is written out, `match kind, berth:`: nothing but its patterns reads it.
    fn written_out(&mut self, subject: ExprId) -> Option<(Place, ValueId)> {
        let Expr::Tuple(_) = self.index.exprs[subject] else { return None };
        let value = self.index.values.push(Value::Natural(subject));
        Some((Place::Chain(self.flow.chain(Link::Root(value))), value))
    }

    /// The place that the patterns of a `match` narrow, and what it is by now.
    fn subject(&mut self, subject: ExprId, written_out: Option<(Place, ValueId)>) -> Option<(Place, ValueId)> {
        match written_out {
            Some((place, first)) => Some((place, self.flow.get(place).unwrap_or(first))),
            None => self.narrowable(subject),
        }
    }

    /// Narrows the parts of a subject that is written out, `match kind, berth:`, where a sequence of patterns matched. Gives what
    /// each was before.
    fn narrow_parts(&mut self, subject: ExprId, pattern: PatternId) -> Vec<(Place, ValueId)> {
        let Expr::Tuple(parts) = &self.index.exprs[subject] else { return Vec::new() };
        let mut pattern = pattern;
        while let PatternKind::As { pattern: Some(inner) } = self.index.patterns[pattern].kind {
            pattern = inner;
        }
        let PatternKind::Sequence { patterns, star } = &self.index.patterns[pattern].kind else { return Vec::new() };
        let before_star = star.map_or(patterns.len(), |star| star as usize);
        let behind_star = patterns.len().saturating_sub(before_star + 1);
        if parts.len() < before_star + behind_star || star.is_none() && parts.len() != patterns.len() {
            return Vec::new();
        }
        let front = parts.iter().zip(&patterns[..before_star]);
        let back = parts.iter().rev().zip(patterns.iter().rev()).take(behind_star);
        let pairs: Vec<(ExprId, PatternId)> = front.chain(back).map(|(part, pattern)| (*part, *pattern)).collect();
        let mut narrowed = Vec::with_capacity(pairs.len());
        for (part, pattern) in pairs {
            let Some((place, of)) = self.narrowable(part) else { continue };
            let value = self.index.narrowing(Value::Matched { of, pattern, positive: true });
            self.flow.narrow(place, value);
            narrowed.push((place, of));
        }
        narrowed
    }

    fn narrow_subject(&mut self, subject: Option<(Place, ValueId)>, pattern: PatternId, positive: bool) {
        let Some((place, of)) = subject else { return };
        let value = self.index.narrowing(Value::Matched { of, pattern, positive });
        self.flow.narrow(place, value);
        if !positive {
            self.flow.reach = self.index.reaches.push(Reach::WhileAny { of: self.flow.reach, value });
        }
    }

    fn pattern(&mut self, pattern: &'a Ast, subject: ExprId, value: ValueId) -> PatternId {
        let kind = match pattern {
            Ast::MatchValue(part) => PatternKind::Value(self.expr(&part.value)),
            Ast::MatchSingleton(part) => PatternKind::Singleton(match part.value {
                Singleton::None => None,
                Singleton::True => Some(true),
                Singleton::False => Some(false),
            }),
            Ast::MatchSequence(part) => {
                let star = part.patterns.iter().position(Ast::is_match_star);
                let patterns = part.patterns.iter().map(|part| self.pattern(part, subject, value)).collect();
                PatternKind::Sequence { patterns, star: star.and_then(|star| u32::try_from(star).ok()) }
            }
            Ast::MatchMapping(part) => {
                let keys = self.exprs(&part.keys);
                let patterns = part.patterns.iter().map(|part| self.pattern(part, subject, value)).collect();
                let id = self
                    .index
                    .patterns
                    .push(Pattern { kind: PatternKind::Mapping { keys, patterns }, range: part.range });
                if let Some(rest) = &part.rest {
                    self.capture(rest, subject, value, id);
                }
                return id;
            }
            Ast::MatchClass(part) => {
                let class = self.expr(&part.cls);
                let positional =
                    part.arguments.patterns.iter().map(|part| self.pattern(part, subject, value)).collect();
                let keywords = part
                    .arguments
                    .keywords
                    .iter()
                    .map(|keyword| {
                        let name = self.names.get(keyword.attr.as_str());
                        (name, self.pattern(&keyword.pattern, subject, value))
                    })
                    .collect();
                PatternKind::Class { class, positional, keywords }
            }
            Ast::MatchStar(part) => {
                let id = self.index.patterns.push(Pattern { kind: PatternKind::Star, range: part.range });
                if let Some(name) = &part.name {
                    self.capture(name, subject, value, id);
                }
                return id;
            }
            Ast::MatchAs(part) => {
                let inner = part.pattern.as_ref().map(|inner| self.pattern(inner, subject, value));
                let kind = PatternKind::As { pattern: inner };
                let id = self.index.patterns.push(Pattern { kind, range: part.range });
                if let Some(name) = &part.name {
                    self.capture(name, subject, value, id);
                }
                return id;
            }
            Ast::MatchOr(part) => {
                PatternKind::Or(part.patterns.iter().map(|part| self.pattern(part, subject, value)).collect())
            }
        };
        self.index.patterns.push(Pattern { kind, range: pattern.range() })
    }

    fn capture(&mut self, name: &'a ast::Identifier, subject: ExprId, value: ValueId, pattern: PatternId) {
        let id = self.names.get(name.as_str());
        self.define(id, name.range(), DefKind::Capture { subject, value, pattern });
    }
}
