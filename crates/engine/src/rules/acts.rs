//! What the ways out of a problem change, where the problem tells: the ways of None have theirs from
//! [`super::Context::none_words`].

use leitmotiv_index::tree::{Expr, ExprId};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{TextRange, TextSize};

use super::{Context, Worded};
use crate::definitions::classes::{self, members};
use crate::findings::act::Act;
use crate::outline::Site;
use crate::problems::{Access, Callee, Clash, Problem, ProblemKind, Reason};
use crate::resolve::{instance_of, is_builtin};
use crate::types::union::{filter, may_be_none, parts, without};
use crate::types::{ClassRef, Literal, Type};

/// So many classes are told that something may be of, and so many are looked at.
const MOST_CLASSES: usize = 4;
const MOST_LOOKS: usize = 64;

impl Context<'_, '_> {
    /// Says what the ways out of a problem change.
    pub(super) fn acts(&mut self, problem: &Problem, worded: &mut Worded) {
        let kind = match &problem.kind {
            ProblemKind::Explained { inner, .. } => inner,
            kind => kind,
        };
        let read_base = match &problem.kind {
            ProblemKind::Explained { reason: Reason::Invariant { class, .. }, .. } => {
                super::generic_invariant::base_of(self, *class)
            }
            _ => None,
        };
        let declared =
            worded.evidence.iter().find(|step| step.kind == "declared" && !step.asks).map(|step| step.place());
        for place in 0..worded.remedies.len() {
            let id = worded.remedies[place].id;
            if worded.remedies[place].act.is_some() {
                continue;
            }
            let act = match &problem.kind {
                ProblemKind::Explained { reason: Reason::Invariant { .. }, .. } => {
                    self.of_container(kind, problem.expr, id, read_base, declared)
                }
                _ => self.of(kind, problem, id),
            };
            let act = act.map(|act| match act {
                Act::Narrow { value, mut to } => {
                    to.truncate(MOST_CLASSES);
                    Act::Narrow { value, to }
                }
                act => act,
            });
            worded.remedies[place].act = act;
        }
        // Where no class has it, there is nothing to check for.
        worded.remedies.retain(|remedy| remedy.id != "narrow" || remedy.act.is_some());
    }

    fn of(&mut self, kind: &ProblemKind, problem: &Problem, id: &str) -> Option<Act> {
        let db = self.db();
        match (kind, id) {
            (ProblemKind::CallArgument { expected, given, .. }, "convert") => {
                let (expr, store) = (problem.expr?, db.store());
                // What is left of a problem with None is told as such.
                let is_of_none = may_be_none(store, *given)
                    && self.infer.is_assignable(without(store, *given, Type::None), *expected);
                if is_of_none { Some(Act::Check(self.span(expr))) } else { self.converted(expr, *given, *expected) }
            }
            (ProblemKind::CallArgument { callee, given, expected, .. }, "widen") => {
                self.widened(taker(callee)?, *given, *expected)
            }
            (ProblemKind::NoneArgument { callee, expected, .. }, "parameter") => {
                self.widened(taker(callee)?, Type::None, *expected)
            }
            (
                ProblemKind::ValueAssign { declared, given, .. } | ProblemKind::ValueReturn { declared, given, .. },
                "convert",
            ) => self.converted(problem.expr?, *given, *declared),
            (ProblemKind::ValueYield { declared, given, .. }, "convert") => {
                self.converted(problem.expr?, *given, *declared)
            }
            (ProblemKind::ValueItem { expected, given, .. }, "convert") => {
                self.converted(problem.expr?, *given, *expected)
            }
            (ProblemKind::ValueDefault { declared, given, .. }, "correct") => {
                self.converted(problem.expr?, *given, *declared)
            }
            (ProblemKind::ValueAssign { given, declared, def, .. }, "widen") => {
                self.widened((*def)?, *given, *declared)
            }
            (ProblemKind::ValueReturn { given, declared, function, .. }, "widen") => {
                self.result(*function, self.surplus(*given, *declared))
            }
            (ProblemKind::ValueDefault { given, declared, annotation, .. }, "annotate") => {
                let by = self.infer.widen(self.surplus(*given, *declared));
                Some(Act::Widen { file: self.infer.file, at: *annotation, by })
            }
            (ProblemKind::MissingReturn { function, .. }, "annotate") => self.result(*function, Type::None),
            (ProblemKind::NameUndefined { near: Some(near), .. }, "spell") => {
                Some(Act::Replace(problem.range, near.clone()))
            }
            (ProblemKind::NameUndefined { .. }, "define") => Some(Act::Import),
            (ProblemKind::SuppressionUnused { .. }, "remove") => Some(Act::Uncomment),
            (ProblemKind::OverrideUnmarked { .. }, "mark") => Some(Act::Mark),
            (ProblemKind::MemberAbsent { name, near: Some(near), .. }, "spell")
            | (ProblemKind::MemberUndeclared { name, near: Some(near), .. }, "rename") => {
                self.renamed(problem, *name, near)
            }
            (ProblemKind::ImportName { name, near: Some(near), .. }, "spell") => self.renamed(problem, *name, near),
            (ProblemKind::CallKeyword { name, near: Some(near), .. }, "rename") => self.keyword(problem, *name, near),
            (ProblemKind::MemberAbsent { object, name, rest: None, .. }, "narrow") => {
                self.narrowed(self.object_of(problem.expr)?, *object, *name)
            }
            (ProblemKind::MemberAbsent { name, rest: Some(rest), .. }, "narrow") => {
                let store = db.store();
                let holder = self.object_of(problem.expr)?;
                let has = |part: &Type| match part {
                    Type::Instance(id) => members::find(db, *id, *name, None).is_some(),
                    _ => false,
                };
                let to: Vec<ClassRef> = parts(store, rest)
                    .iter()
                    .filter(|part| has(part))
                    .filter_map(|part| match part {
                        Type::Instance(id) => Some(store.instance(*id).class),
                        _ => None,
                    })
                    .collect();
                (!to.is_empty()).then(|| Act::Narrow { value: self.span(holder), to })
            }
            (ProblemKind::IndexUnsupported { object, access }, "narrow") => {
                let name = match access {
                    Access::Read => known::GETITEM,
                    Access::Write => known::SETITEM,
                    Access::Delete => known::DELITEM,
                };
                let expr = problem.expr?;
                let act = self.narrowed(self.object_of(Some(expr))?, *object, name)?;
                if *access == Access::Read { self.with_key(expr, act) } else { Some(act) }
            }
            (ProblemKind::MemberAbsent { object: Type::Instance(id), name, .. }, "declare") => {
                let class = db.store().instance(*id).class;
                class.file.origin(db).is_own().then_some(Act::Attribute { class, name: *name })
            }
            (
                ProblemKind::CallArgument { expected: Type::Instance(want), given: Type::Instance(have), .. },
                "check",
            ) => {
                let (want, have) = (db.store().instance(*want).class, db.store().instance(*have).class);
                let is_special = want != have && classes::derives(db, want, have) == Some(true);
                let value = self.span(problem.expr?);
                is_special.then(|| Act::Narrow { value, to: vec![want] })
            }
            (ProblemKind::CallUnawaited { .. }, "await") => {
                let range = self.span(problem.expr?);
                Some(Act::Replace(TextRange::empty(range.start()), "await ".to_owned()))
            }
            (ProblemKind::OperatorUnsupported { left, right: Some(right), .. }, "convert") => {
                self.operand(problem.expr?, *left, *right)
            }
            (ProblemKind::NameUnbound { name, always: false }, "start") => self.bound(problem.expr?, *name),
            (ProblemKind::Correlated { kind, .. }, "start") => match **kind {
                ProblemKind::NameUnbound { name, .. } => self.bound(problem.expr?, name),
                _ => None,
            },
            (ProblemKind::ClassOverride { hidden: Some(hidden), why: Clash::Lacks(name), .. }, "accept") => {
                Some(Act::Take { file: hidden.at.file, at: hidden.at.range(db), name: *name })
            }
            (ProblemKind::ClassOverride { hidden: Some(_), why: Clash::Renames(to, from), .. }, "accept") => {
                Some(Act::Rename { from: *from, to: *to })
            }
            (ProblemKind::ClassOverride { hidden: Some(hidden), why: Clash::Asks(_), .. }, "accept") => {
                Some(Act::Default { file: hidden.at.file, at: hidden.at.range(db) })
            }
            (ProblemKind::CallSurplus { .. }, "leave-out") | (ProblemKind::CallRepeated { .. }, "drop") => {
                Some(Act::Remove(problem.range))
            }
            (ProblemKind::OperatorCondition { .. }, "call") => Some(Act::Append(self.span(problem.expr?), "()")),
            _ => None,
        }
    }

    fn bound(&mut self, expr: ExprId, name: Name) -> Option<Act> {
        let ty = self.infer.expr(expr);
        let ty = self.infer.widen(ty);
        Some(Act::Bind { name, first: self.infer.first_binding(expr)?, ty })
    }

    fn span(&self, expr: ExprId) -> TextRange {
        self.infer.index.spans[expr]
    }

    /// The classes of the project below that of an object which have a member that it lacks.
    fn narrowed(&self, value: ExprId, object: Type, name: Name) -> Option<Act> {
        let db = self.db();
        let Type::Instance(id) = object else { return None };
        let base = db.store().instance(id).class;
        // The method's own object is of all classes below.
        if self.infer.is_receiver(value) || is_builtin(db, base, known::OBJECT) {
            return None;
        }
        let has = |class: &ClassRef| members::find(db, instance_of(db, *class, &[]), name, None).is_some();
        let all: Vec<ClassRef> = classes::derived(db, base).filter(has).take(MOST_LOOKS).collect();
        // Those that have it of themselves, not what derives from them.
        let is_first = |class: &ClassRef| {
            !all.iter().any(|other| other != class && classes::derives(db, *class, *other) == Some(true))
        };
        let to: Vec<ClassRef> = all.iter().copied().filter(is_first).collect();
        (!to.is_empty()).then(|| Act::Narrow { value: self.span(value), to })
    }

    /// Of the classes that something may be of, those that take the key which is asked for; first those that say what they give for it.
    fn with_key(&mut self, expr: ExprId, act: Act) -> Option<Act> {
        let Expr::Subscript { index, .. } = self.infer.index.exprs[expr] else { return Some(act) };
        let Act::Narrow { value, to } = act else { return Some(act) };
        let db = self.db();
        let checking = std::mem::replace(&mut self.infer.checking, true);
        let mut found: Vec<(bool, ClassRef)> = Vec::new();
        for class in to {
            let before = self.infer.problems.len();
            let gives = self.infer.subscript_of(expr, Type::Instance(instance_of(db, class, &[])), index);
            if self.infer.problems.len() == before {
                found.push((gives.is_dynamic(), class));
            }
            self.infer.problems.truncate(before);
        }
        self.infer.checking = checking;
        found.sort_by_key(|(is_dynamic, _)| *is_dynamic);
        let to: Vec<ClassRef> = found.into_iter().map(|(_, class)| class).collect();
        (!to.is_empty()).then_some(Act::Narrow { value, to })
    }

    /// The parts of what is given that are not asked for.
    fn surplus(&self, given: Type, expected: Type) -> Type {
        filter(self.db().store(), given, |part| !self.infer.is_assignable(part, expected))
    }

    /// A declaration that takes what is given as well; in its place, where that takes in what is declared.
    fn widened(&self, site: Site, given: Type, expected: Type) -> Option<Act> {
        let (file, at) = (site.file, site.range(self.db()));
        let by = self.infer.widen(self.surplus(given, expected));
        if !file.origin(self.db()).is_own() || by == Type::Never {
            return None;
        }
        let takes_in = !by.is_dynamic() && !expected.is_dynamic() && self.infer.is_assignable(expected, by);
        Some(if takes_in { Act::Annotate { file, at, ty: by } } else { Act::Widen { file, at, by } })
    }

    fn result(&self, function: leitmotiv_index::tree::FunctionId, by: Type) -> Option<Act> {
        let returns = self.infer.index.functions[function].returns.filter(|_| by != Type::Never)?;
        Some(Act::Widen { file: self.infer.file, at: self.span(returns), by: self.infer.widen(by) })
    }

    /// The name at the end of what is concerned, written another way.
    fn renamed(&self, problem: &Problem, name: Name, near: &str) -> Option<Act> {
        let db = self.db();
        let name = db.names().text(name);
        let range = problem.expr.map_or(problem.range, |expr| self.span(expr));
        let text = &self.infer.file.text(db)[usize::from(range.start())..usize::from(range.end())];
        let length = TextSize::try_from(name.len()).ok()?;
        let at = match text.ends_with(name) {
            true => TextRange::new(range.end() - length, range.end()),
            false => TextRange::at(range.start() + TextSize::try_from(text.find(name)?).ok()?, length),
        };
        Some(Act::Replace(at, near.to_owned()))
    }

    fn keyword(&self, problem: &Problem, name: Name, near: &str) -> Option<Act> {
        let db = self.db();
        let name = db.names().text(name);
        // What is told is the argument's value.
        let text = &self.infer.file.text(db)[..usize::from(problem.range.start())];
        let before = text.trim_end().strip_suffix('=')?.trim_end();
        let start = TextSize::try_from(before.strip_suffix(name)?.len()).ok()?;
        let range = TextRange::at(start, TextSize::try_from(name.len()).ok()?);
        Some(Act::Replace(range, near.to_owned()))
    }

    /// A value made into what is asked for, where there is one usual way.
    fn converted(&self, expr: ExprId, given: Type, expected: Type) -> Option<Act> {
        let infer = &self.infer;
        let range = self.span(expr);
        let is = |name| !given.is_dynamic() && given != Type::Never && infer.is_assignable(given, infer.builtin(name));
        let takes = |name| !expected.is_dynamic() && infer.is_assignable(infer.builtin(name), expected);
        if let Type::Literal(id) = given
            && let Literal::Str(text) = self.db().store().literal(id)
            && takes(known::INT)
        {
            let number = self.db().names().text(*text).trim().parse::<i64>().ok();
            let is_written = matches!(infer.index.exprs[expr], Expr::Str(_));
            return number.filter(|_| is_written).map(|number| Act::Replace(range, number.to_string()));
        }
        let (is_text, is_bytes) = (is(known::STR), is(known::BYTES));
        if is_text && takes(known::BYTES) {
            Some(Act::Append(range, ".encode()"))
        } else if is_bytes && takes(known::STR) {
            Some(Act::Append(range, ".decode()"))
        } else if is_text && takes(known::INT) {
            Some(Act::Wrap(range, "int"))
        } else if is_text && takes(known::FLOAT) {
            Some(Act::Wrap(range, "float"))
        } else if (is(known::INT) || is(known::FLOAT)) && takes(known::STR) {
            Some(Act::Wrap(range, "str"))
        } else if is(known::FLOAT) && takes(known::INT) {
            Some(Act::Wrap(range, "int"))
        } else {
            None
        }
    }

    /// The operand of an addition that is to become text.
    fn operand(&mut self, expr: ExprId, left: Type, right: Type) -> Option<Act> {
        let Expr::Binary { left: one, right: other, .. } = self.infer.index.exprs[expr] else { return None };
        let text = self.infer.builtin(known::STR);
        let is_text = |ty: Type| !ty.is_dynamic() && ty != Type::Never && self.infer.is_assignable(ty, text);
        let is_number = |ty: Type| {
            let number = self.infer.builtin(known::FLOAT);
            !ty.is_dynamic() && ty != Type::Never && self.infer.is_assignable(ty, number)
        };
        match (is_text(left), is_text(right)) {
            (true, false) if is_number(right) => Some(Act::Wrap(self.span(other), "str")),
            (false, true) if is_number(left) => Some(Act::Wrap(self.span(one), "str")),
            _ => None,
        }
    }

    /// Ways out of a container whose elements would have to be just the same.
    fn of_container(
        &self,
        kind: &ProblemKind,
        expr: Option<ExprId>,
        id: &str,
        read_base: Option<&'static str>,
        made: Option<(crate::base::file::File, TextRange)>,
    ) -> Option<Act> {
        let (site, expected) = match kind {
            ProblemKind::CallArgument { callee, expected, .. } => (taker(callee), *expected),
            ProblemKind::ValueAssign { def, declared, .. } => (*def, *declared),
            _ => return None,
        };
        match id {
            "base" => {
                let site = site.filter(|site| site.file.origin(self.db()).is_own())?;
                Some(Act::ReadOnly { file: site.file, at: site.range(self.db()), base: read_base? })
            }
            "exact" => {
                let (file, at) = made.filter(|(file, _)| file.origin(self.db()).is_own())?;
                Some(Act::Annotate { file, at, ty: without(self.db().store(), expected, Type::None) })
            }
            "copy" => {
                let class = match read_base? {
                    "Sequence" => "list",
                    "Set" => "set",
                    _ => "dict",
                };
                Some(Act::Wrap(self.span(expr?), class))
            }
            _ => None,
        }
    }
}

/// Where the parameter is that takes an argument.
fn taker(callee: &Callee) -> Option<Site> {
    callee.param
}
