//! Conditions that go together: a name that is bound, or given something else than None, under one condition and read under
//! another. Whether these go together often nobody can tell from the text; the same condition, asked again of what has not
//! changed, surely does.

use leitmotiv_index::tree::{Clause, DefId, DefKind, Expr, ExprId, Value, ValueId};
use leitmotiv_syntax::TextRange;
use rustc_hash::FxHashSet;

use crate::infer::Infer;
use crate::outline::Site;
use crate::problems::ProblemKind;
use crate::types::Type;

/// How the conditions of a reading and of what it reads go together.
enum Together {
    /// It is the same condition.
    Same,
    /// It is another one: where what is read was given a value.
    Other(DefId),
    /// Another method gives it a value, here.
    Later(Site),
}

impl Infer<'_> {
    /// A problem of a name that holds nothing, or None, on some way: nothing where the condition that it was given a value
    /// under is asked again, another kind of problem where it is read under another condition.
    pub(crate) fn unless_together(&mut self, kind: ProblemKind, expr: ExprId) -> Option<ProblemKind> {
        let (holder, of_none) = match &kind {
            ProblemKind::NameUnbound { always: false, .. } => (expr, false),
            ProblemKind::NoneOperand { holder, object, .. } if *object != Type::None => (*holder, true),
            ProblemKind::NoneMember { object, .. } | ProblemKind::NoneIndex { object } if *object != Type::None => {
                match self.index.exprs[expr] {
                    Expr::Attribute { value, .. } | Expr::Subscript { value, .. } => (value, true),
                    _ => return Some(kind),
                }
            }
            ProblemKind::NoneCall { object }
            | ProblemKind::NoneIteration { object }
            | ProblemKind::NoneArgument { object, .. }
                if *object != Type::None =>
            {
                (expr, true)
            }
            _ => return Some(kind),
        };
        match self.together(holder, of_none) {
            None => Some(kind),
            Some(Together::Same) => None,
            Some(Together::Other(given)) => {
                Some(ProblemKind::Correlated { kind: Box::new(kind), given: self.site_of(given), is_later: false })
            }
            Some(Together::Later(given)) => {
                Some(ProblemKind::Correlated { kind: Box::new(kind), given, is_later: true })
            }
        }
    }

    /// What was about to be told at a place is not told after all: another use of the same value may be.
    pub(crate) fn untell(&mut self, expr: ExprId) {
        self.told_none.retain(|(_, at)| *at != expr);
        self.told_unbound.retain(|(_, at)| *at != expr);
    }

    /// Whether no other use of the same value has been told in this body as one under another condition.
    pub(crate) fn is_first_together(&mut self, expr: ExprId) -> bool {
        let holder = match self.index.exprs[expr] {
            Expr::Attribute { value, .. } | Expr::Subscript { value, .. } => value,
            _ => expr,
        };
        let Some(told) = self.told_by(holder) else { return true };
        match self.told_together.iter().find(|(known, _)| *known == told) {
            Some((_, at)) => *at == expr,
            None => {
                self.told_together.push((told, expr));
                true
            }
        }
    }

    fn together(&mut self, holder: ExprId, of_none: bool) -> Option<Together> {
        if of_none && (self.is_defined_where_asked(holder) || self.is_asked_by_the_same_call(holder)) {
            return Some(Together::Same);
        }
        if of_none && let Some(given) = self.given_later(holder) {
            return Some(Together::Later(given));
        }
        let Expr::Name(_, value) = self.index.exprs[holder] else { return None };
        let mut given = Vec::new();
        self.givers(value, &mut FxHashSet::default(), &mut given);
        if of_none {
            // What gives the value, and not the None.
            given.retain(|def| {
                let ty = self.definition(*def);
                ty != Type::None
            });
            // A value that may be None by itself is None whatever the conditions, unless what came with it was asked.
            let is_sure = |infer: &mut Self, def: &DefId| {
                let ty = infer.definition(*def);
                !crate::types::union::may_be_none(infer.db.store(), ty)
            };
            if !given.iter().all(|def| is_sure(self, def)) {
                return self.came_with(holder, &given).map(Together::Other);
            }
        }
        let read = self.index.spans[holder];
        let index = self.index;
        let around: Vec<&Clause> =
            index.clauses_around.of(read.start()).map(|number| &index.clauses[number as usize]).collect();
        let outside = |clause: &&&Clause| !given.iter().any(|def| clause.body.contains_range(index.defs[*def].range));
        let around: Vec<&Clause> = around.iter().filter(outside).copied().collect();
        if around.is_empty() {
            return if of_none { None } else { self.goes_with_an_exit(&given, read).map(Together::Other) };
        }
        for def in &given {
            let at = index.defs[*def].range;
            for number in index.clauses_around.of(at.start()) {
                let giving = &index.clauses[number as usize];
                let is_same = |reading: &&Clause| {
                    reading.test.start() >= giving.body.end() && self.is_same_condition(giving, reading)
                };
                if !giving.body.contains_range(read) && around.iter().any(is_same) {
                    return Some(Together::Same);
                }
            }
        }
        given.first().copied().map(Together::Other)
    }

    /// A name that is bound under a condition, where another condition on the way to the place that reads it speaks of the same
    /// things, and leaves there or binds the name itself: `if port is None: return`. Gives where it is bound.
    fn goes_with_an_exit(&self, given: &[DefId], read: TextRange) -> Option<DefId> {
        let index = self.index;
        let around = |at: TextRange| index.clauses_around.of(at.start()).map(|number| &index.clauses[number as usize]);
        let binds = |clause: &Clause| given.iter().any(|def| clause.body.contains_range(index.defs[*def].range));
        for def in given {
            let at = index.defs[*def].range;
            let function = index.functions_around.of(at.start()).next();
            for giving in around(at).filter(|giving| !giving.body.contains_range(read)) {
                let mut about = self.words(giving.test);
                let beside = index.defs.iter().filter(|(_, other)| {
                    other.name != index.defs[*def].name && giving.body.contains_range(other.range)
                });
                about.extend(beside.map(|(_, def)| self.text(def.name)));
                let goes_with = |clause: &&Clause| {
                    let is_between = clause.test.start() >= giving.test.end()
                        && clause.test.end() <= read.start()
                        && clause.statement != giving.statement
                        && !clause.body.contains_range(read)
                        && index.functions_around.of(clause.test.start()).next() == function;
                    is_between
                        && (clause.leaves || binds(clause))
                        && self.words(clause.test).iter().any(|word| about.contains(word))
                };
                if index.clauses.iter().any(|clause| goes_with(&clause)) {
                    return Some(*def);
                }
            }
        }
        None
    }

    /// The names in a condition.
    fn words(&self, test: TextRange) -> FxHashSet<&str> {
        const OF_THE_LANGUAGE: &[&str] = &["", "not", "and", "or", "is", "in", "None", "True", "False", "self", "len"];
        let words = self.source(test).split(|char: char| char != '_' && !char.is_alphanumeric());
        words
            .filter(|word| !OF_THE_LANGUAGE.contains(word) && !word.starts_with(|char: char| char.is_ascii_digit()))
            .collect()
    }

    /// Whether a name of the module is read in a function that is only defined where the name was asked: `if tides: def …`.
    fn is_defined_where_asked(&self, holder: ExprId) -> bool {
        let Expr::Name(_, value) = self.index.exprs[holder] else { return false };
        matches!(self.index.values[self.index.unnarrowed(value)], Value::Global(_)) && self.is_asked_around(holder)
    }

    /// Whether a call stands only where the same call was asked just before: `rows.next() and rows.next()[0]`.
    fn is_asked_by_the_same_call(&self, holder: ExprId) -> bool {
        matches!(self.index.exprs[holder], Expr::Call { .. }) && self.is_asked_around(holder)
    }

    /// Whether a condition around an expression asks what the same text gives.
    fn is_asked_around(&self, expr: ExprId) -> bool {
        let span = self.index.spans[expr];
        let text = self.source(span);
        self.index.clauses_around.of(span.start()).any(|number| {
            let clause = &self.index.clauses[number as usize];
            let written = self.source(clause.test).trim();
            clause.positive && (written == text || written.strip_prefix(text) == Some(" is not None"))
        })
    }

    fn source(&self, range: TextRange) -> &str {
        let range = usize::from(range.start())..usize::from(range.end());
        self.file.text(self.db).get(range).unwrap_or_default()
    }

    /// The definitions in this body that meet in a value.
    fn givers(&self, value: ValueId, seen: &mut FxHashSet<ValueId>, given: &mut Vec<DefId>) {
        if !seen.insert(value) {
            return;
        }
        match self.index.values[value] {
            Value::Def(def) => given.push(def),
            Value::Phi { start, len, .. } => {
                for (_, arg) in self.index.phi(start, len) {
                    self.givers(*arg, seen, given);
                }
            }
            Value::Narrow { .. } | Value::Matched { .. } => self.givers(self.index.unnarrowed(value), seen, given),
            _ => {}
        }
    }

    /// Whether two conditions are written alike, and nothing that they name is bound in between.
    fn is_same_condition(&self, giving: &Clause, reading: &Clause) -> bool {
        let text = self.file.text(self.db);
        let of = |clause: &Clause| {
            let range = usize::from(clause.test.start())..usize::from(clause.test.end());
            let written = text.get(range).unwrap_or_default();
            // `not a and b` is not the contrary of `a and b`.
            let is_whole = |rest: &&str| !rest.contains(" and ") && !rest.contains(" or ") && !rest.contains('\n');
            match written.strip_prefix("not ").filter(is_whole) {
                Some(rest) => (rest.trim(), !clause.positive),
                None => (written, clause.positive),
            }
        };
        let (one, other) = (of(giving), of(reading));
        if one != other || one.0.is_empty() {
            return false;
        }
        let between = TextRange::new(giving.test.end(), reading.test.start());
        let words: FxHashSet<&str> = one.0.split(|char: char| char != '_' && !char.is_alphanumeric()).collect();
        let scope = self.index.functions_around.of(reading.test.start()).next();
        let in_same_function =
            |at: TextRange| self.index.functions_around.of(at.start()).next() == scope && between.contains_range(at);
        !self.index.defs.iter().any(|(_, def)| words.contains(self.text(def.name)) && in_same_function(def.range))
    }

    /// Another name that was unpacked beside the holder's, and that a condition on the way asked about: results that go
    /// together. Gives where they were unpacked.
    fn came_with(&self, holder: ExprId, given: &[DefId]) -> Option<DefId> {
        let [only] = given else { return None };
        let index = self.index;
        let record = &index.defs[*only];
        let DefKind::Assign { value, unpack: Some(_), .. } = record.kind else { return None };
        let read = index.spans[holder];
        let text = self.file.text(self.db);
        let beside = index.defs.iter().filter(|(other, def)| {
            let is_beside = matches!(def.kind, DefKind::Assign { value: same, unpack: Some(_), .. } if same == value);
            is_beside && other != only
        });
        let names: FxHashSet<&str> = beside.map(|(_, def)| self.text(def.name)).collect();
        let asks = |clause: &Clause| {
            let between = TextRange::new(record.range.end(), read.start().max(record.range.end()));
            let range = usize::from(clause.test.start())..usize::from(clause.test.end());
            let written = text.get(range).unwrap_or_default();
            between.contains_range(clause.test)
                && written.split(|char: char| char != '_' && !char.is_alphanumeric()).any(|word| names.contains(word))
        };
        index.clauses.iter().any(asks).then_some(*only)
    }
}
