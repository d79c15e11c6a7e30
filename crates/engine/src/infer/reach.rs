//! Reachability: what the flow leaves to types to decide.

use leitmotiv_index::tree::{Expr, ExprId, Reach, ReachId, Value, ValueId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;

use super::{Entry, Infer};
use crate::context::TypeContext;
use crate::definitions::functions;
use crate::types::{Literal, Type};

impl TypeContext<'_> {
    /// Whether a method that says nothing of its result gives nothing but `False` and None.
    fn only_denies(&self, method: Type) -> bool {
        let Type::Method(id) = method else { return false };
        let Type::Function(id) = self.db.store().method(id).function else { return false };
        let function = *self.db.store().function(id);
        let outline = crate::outline::function(self.db, function.file, function.function);
        !outline.is_annotated && outline.only_denies
    }
}

impl Infer<'_> {
    /// Whether a place in the body can be reached.
    pub fn reachable(&mut self, reach: ReachId) -> bool {
        // Walk down to what is known, then up again: chains of calls may be thousands long.
        let mut waiting = vec![reach];
        while let Some(next) = waiting.last().copied() {
            if self.reaches.contains_key(&next) {
                waiting.pop();
                continue;
            }
            let index = self.index;
            let known = |infer: &Self, reach: ReachId| infer.reaches.get(&reach).copied();
            let result = match index.reaches[next] {
                Reach::Always => Some(true),
                Reach::Never => Some(false),
                Reach::AfterCall { of, call } => match known(self, of) {
                    None => {
                        waiting.push(of);
                        None
                    }
                    Some(false) => Some(false),
                    Some(true) => Some(!self.call_never_returns(call)),
                },
                Reach::WhileAny { of, value } => match known(self, of) {
                    None => {
                        waiting.push(of);
                        None
                    }
                    Some(false) => Some(false),
                    Some(true) => Some(self.leaves_any(value)),
                },
                Reach::Swallowed { of, manager, is_async } => match known(self, of) {
                    None => {
                        waiting.push(of);
                        None
                    }
                    Some(false) => Some(false),
                    Some(true) => Some(self.swallows(manager, is_async)),
                },
                Reach::Constant { of, import, attribute, positive } => match known(self, of) {
                    None => {
                        waiting.push(of);
                        None
                    }
                    Some(false) => Some(false),
                    Some(true) => {
                        let outcome = crate::resolve::imported_constant(self.db, self.file, (import, attribute));
                        Some(outcome.is_none_or(|outcome| outcome == positive))
                    }
                },
                Reach::Join { start, len } => {
                    let parts = index.joined(start, len);
                    if parts.iter().any(|part| known(self, *part) == Some(true)) {
                        Some(true)
                    } else if let Some(open) = parts.iter().find(|part| known(self, **part).is_none()) {
                        waiting.push(*open);
                        None
                    } else {
                        Some(false)
                    }
                }
            };
            if let Some(result) = result {
                self.reaches.insert(next, result);
                self.journal.push(Entry::Reach(next));
                waiting.pop();
            }
        }
        self.reaches.get(&reach).copied().unwrap_or(true)
    }

    /// Whether a narrowing left anything, where something was there before.
    pub(crate) fn leaves_any(&mut self, value: ValueId) -> bool {
        if self.value(value) != Type::Never {
            return true;
        }
        let (Value::Narrow { of, .. } | Value::Matched { of, .. }) = self.index.values[value] else { return true };
        self.value(of) == Type::Never
            || matches!(self.index.values[self.index.unnarrowed(value)], Value::Natural(_) | Value::Given(_))
                && !self.is_exhausted(value)
    }

    /// Whether conditions leave nothing of what an annotation says that an attribute or item is. Nothing being left of what was
    /// assigned or concluded says less: it may have been changed from elsewhere.
    pub(crate) fn is_exhausted(&mut self, value: ValueId) -> bool {
        let index = self.index;
        match index.values[index.unnarrowed(value)] {
            Value::Natural(expr) | Value::Given(expr) => match &index.exprs[expr] {
                // What a `match` writes out is read there and then; of its parts the same holds as of places.
                Expr::Tuple(parts) => parts.iter().all(|part| {
                    !matches!(index.exprs[*part], Expr::Attribute { .. } | Expr::Subscript { .. })
                        || self.is_said(*part)
                }),
                _ => self.is_said(expr),
            },
            _ => false,
        }
    }

    pub(crate) fn call_never_returns(&mut self, call: ExprId) -> bool {
        let inner = match self.index.exprs[call] {
            Expr::Await(inner) => inner,
            _ => call,
        };
        let Expr::Call { callee, .. } = self.index.exprs[inner] else { return false };
        let checking = std::mem::replace(&mut self.checking, false);
        let mark = self.mark();
        let mut ty = self.expr(callee);
        // An object that is called: `fail: _Fail = _Fail()`.
        if let Type::Instance(_) = ty
            && let Some(method) = self.member(ty, known::CALL)
        {
            ty = method;
        }
        self.checking = checking;
        // What was worked out without reporting must be worked out again when its turn comes.
        if checking {
            self.roll_back(mark);
        }
        let store = self.db.store();
        // A metaclass may say that calling its classes never comes back.
        if let Type::Class(id) = ty
            && let Some(metaclass) = crate::definitions::classes::info(self.db, store.instance(id).class).metaclass
            && !metaclass.file.is_stub(self.db)
            && let Some(method) = self.metaclass_member(id, metaclass, known::CALL)
        {
            ty = method;
        }
        let function = match ty {
            Type::Function(id) => *store.function(id),
            Type::Method(id) => match store.method(id).function {
                Type::Function(id) => *store.function(id),
                _ => return false,
            },
            _ => return false,
        };
        let overloads = &crate::outline::function(self.db, function.file, function.function).signatures;
        overloads.iter().all(|overload| functions::never_returns(self.db, function.file, *overload))
            && !overloads.is_empty()
    }

    /// Whether leaving a `with` block by an exception may go on behind it: `__exit__` says `bool` (typing specification,
    /// "Exceptions: context managers").
    pub(crate) fn swallows(&mut self, manager: ExprId, is_async: bool) -> bool {
        let ty = self.speculate(|infer| infer.expr(manager));
        let name = if is_async { known::AEXIT } else { known::EXIT };
        let store = self.db.store();
        let Type::Instance(id) = ty else { return false };
        let Some(exit) = self.instance_member(ty, id, name) else { return false };
        if self.only_denies(exit) {
            return false;
        }
        let mut result = self.result_of(exit);
        if is_async {
            result = self.awaited(result).unwrap_or(result);
        }
        match result {
            Type::Instance(id) => crate::resolve::is_builtin(self.db, store.instance(id).class, known::BOOL_CLASS),
            Type::Literal(id) => *store.literal(id) == Literal::Bool(true),
            _ => false,
        }
    }

    /// Whether a place in a function that is worked out for a call is only for arguments of another class than the call's:
    /// `if isinstance(other, Epoch):`.
    pub(crate) fn is_ruled_out(&mut self, at: TextRange) -> bool {
        if self.calls == 0 || self.given_params.is_empty() {
            return false;
        }
        let index = self.index;
        let numbers: Vec<u32> = index.clauses_around.of(at.start()).collect();
        numbers.into_iter().map(|number| &index.clauses[number as usize]).filter(|clause| clause.positive).any(
            |clause| {
                let body = &index.bodies[self.body];
                let test =
                    body.exprs.clone().map(ExprId).find(|expr| {
                        index.spans[*expr] == clause.test && matches!(index.exprs[*expr], Expr::Call { .. })
                    });
                let Some(Expr::Call { callee, args }) = test.map(|test| &index.exprs[test]) else { return false };
                let (Expr::Name(known::ISINSTANCE, _), [asked, class]) = (&index.exprs[*callee], args.as_ref()) else {
                    return false;
                };
                let Expr::Name(_, value) = index.exprs[asked.value] else { return false };
                let Value::Def(def) = index.values[index.unnarrowed(value)] else { return false };
                let Some(given) = self.given_params.get(&def).copied() else { return false };
                self.narrow_isinstance(given, class.value, true, false) == Type::Never
            },
        )
    }
}
