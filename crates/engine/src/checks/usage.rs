//! Values that are used as what they cannot be: iterated, unpacked, entered, awaited, raised, caught (language reference, "Simple
//! statements", "Compound statements", "Await expression"). Told only where every type that the value may have is known, and
//! none of them will do.

use leitmotiv_index::tree::{ArgKind, DefKind, Expr, ExprId, Value};
use leitmotiv_syntax::names::{Name, known};

use crate::context::TypeContext;
use crate::definitions::classes;
use crate::infer::Infer;
use crate::problems::{ProblemKind, Unusable};
use crate::types::{Tuple, Type};

impl TypeContext<'_> {
    /// Whether values of a type surely have no hash: what says so by `__hash__ = None` or makes one by comparing, and tuples of
    /// such (data model, `object.__hash__`).
    pub(crate) fn has_no_hash(&mut self, ty: Type) -> bool {
        match ty {
            Type::Tuple(id) => {
                let tuple = self.db.store().tuple(id).clone();
                tuple.prefix.iter().chain(&tuple.suffix).any(|part| self.has_no_hash(*part))
            }
            Type::Instance(id) => {
                let class = self.db.store().instance(id).class;
                let info = classes::info(self.db, class);
                let says = info.mro.iter().find_map(|entry| {
                    let entry = self.db.store().instance(*entry).class;
                    let own = classes::members::own_member(self.db, entry.file, entry.class, known::HASH);
                    let unhashed = || classes::info(self.db, entry).dataclass.is_some_and(|options| options.unhashed);
                    own.map(|member| member.ty == Type::None).or_else(|| unhashed().then_some(true))
                });
                says == Some(true)
            }
            _ => false,
        }
    }
}

impl Infer<'_> {
    /// Whether all that a value may be is known well enough to say what it lacks: a subclass of what nobody declared may have
    /// it.
    pub(crate) fn is_known_whole(&mut self, expr: ExprId, ty: Type) -> bool {
        let store = self.db.store();
        let is_said =
            (self.is_declared_name(expr) && self.is_said(expr) && !self.is_receiver(expr)) || self.is_made_here(expr);
        let parts = crate::types::union::parts(store, &ty);
        !parts.is_empty()
            && parts.iter().all(|part| match part {
                Type::Literal(_) | Type::Tuple(_) | Type::Function(_) | Type::Method(_) => true,
                Type::Instance(id) => {
                    let class = store.instance(*id).class;
                    let info = classes::info(self.db, class);
                    let is_plain = class.file.module(self.db) == known::BUILTINS;
                    (is_said || is_plain)
                        && info.description.is_none()
                        && info.unknown_base.is_none()
                        && classes::open_members::unseen(self.db, class).is_none()
                        && (is_said || !crate::resolve::is_builtin(self.db, class, known::OBJECT))
                }
                _ => false,
            })
    }

    /// Whether an expression makes an object of a class that is named, or gives what a function is declared to give.
    fn is_made_here(&mut self, expr: ExprId) -> bool {
        let Expr::Call { callee, .. } = self.index.exprs[expr] else { return false };
        match self.quietly(callee) {
            Type::Class(_) => !self.is_receiver(callee) && matches!(self.index.exprs[callee], Expr::Name(..)),
            Type::Function(_) => self.is_said(expr),
            _ => false,
        }
    }

    /// Whether an expression is a name that is declared to hold what it holds: a parameter, a variable.
    fn is_declared_name(&self, expr: ExprId) -> bool {
        let Expr::Name(_, value) = self.index.exprs[expr] else { return false };
        match self.index.values[self.index.unnarrowed(value)] {
            Value::Def(def) => {
                matches!(self.index.defs[def].kind, DefKind::Param { .. } | DefKind::Annotated { .. })
            }
            _ => false,
        }
    }

    /// A value that is iterated though it cannot be.
    pub(crate) fn check_not_iterable(&mut self, expr: ExprId, ty: Type, is_async: bool) {
        if ty == Type::None && !self.is_unreliable_none(expr) && self.is_first_none(expr, expr) {
            self.problem(expr, ProblemKind::NoneIteration { object: ty });
        } else if self.is_known_whole(expr, ty) {
            let other = self.element(ty, !is_async).is_some();
            self.problem(expr, ProblemKind::Unusable { object: ty, why: Unusable::NotIterable { is_async, other } });
        }
    }

    /// A value that is iterated by `*`, `yield from` and their kin.
    pub(crate) fn check_iterated(&mut self, expr: ExprId, ty: Type) {
        if self.element(ty, false).is_none() {
            self.check_not_iterable(expr, ty, false);
        }
    }

    /// A value that is entered by `with` though it is no context manager.
    pub(crate) fn check_manager(&mut self, expr: ExprId, ty: Type, is_async: bool) {
        if !self.is_known_whole(expr, ty) {
            return;
        }
        let names = |is_async: bool| {
            if is_async { [known::AENTER, known::AEXIT] } else { [known::ENTER, known::EXIT] }
        };
        let lacks = |infer: &mut Self, is_async: bool| -> Option<Name> {
            let parts = crate::types::union::parts(infer.db.store(), &ty).to_vec();
            names(is_async).into_iter().find(|name| parts.iter().all(|part| infer.member(*part, *name).is_none()))
        };
        if let Some(name) = lacks(self, is_async) {
            let other = lacks(self, !is_async).is_none();
            let why = Unusable::NotManager { is_async, lacks: name, other };
            self.problem(expr, ProblemKind::Unusable { object: ty, why });
        }
    }

    /// A value that is awaited though it cannot be.
    pub(crate) fn check_awaitable(&mut self, expr: ExprId, ty: Type) {
        let parts = crate::types::union::parts(self.db.store(), &ty).to_vec();
        let cannot = |infer: &mut Self, part: Type| match part {
            Type::Function(_) | Type::Method(_) => true,
            part => infer.member(part, known::AWAIT).is_none(),
        };
        if self.is_known_whole(expr, ty) && parts.iter().all(|part| cannot(self, *part)) {
            self.problem(expr, ProblemKind::Unusable { object: ty, why: Unusable::NotAwaitable });
        }
    }

    /// Keys of dictionaries and elements of sets without a hash.
    pub(crate) fn check_hashable(&mut self, expr: ExprId) {
        if !self.checking || matches!(self.index.exprs[expr], Expr::Starred(_)) {
            return;
        }
        let ty = self.expr(expr);
        let parts = crate::types::union::parts(self.db.store(), &ty).to_vec();
        if self.is_known_whole(expr, ty) && !parts.is_empty() && parts.iter().all(|part| self.has_no_hash(*part)) {
            self.problem(expr, ProblemKind::Unusable { object: ty, why: Unusable::NotHashable });
        }
    }

    /// A value that is raised though it is no exception, or caught though it is no class of exceptions.
    pub(crate) fn check_exception(&mut self, expr: ExprId, ty: Type, is_caught: bool) {
        let store = self.db.store();
        let base = self.builtin(known::BASE_EXCEPTION);
        let Type::Instance(base) = base else { return };
        let base = store.instance(base).class;
        let parts: Vec<Type> = match ty {
            Type::Tuple(id) if is_caught => {
                let tuple = store.tuple(id);
                tuple.prefix.iter().chain(&tuple.rest).chain(&tuple.suffix).copied().collect()
            }
            ty => crate::types::union::parts(store, &ty).to_vec(),
        };
        let mut is_none = |part: Type| match part {
            Type::Class(id) => classes::derives(self.db, store.instance(id).class, base) == Some(false),
            Type::Instance(id) => {
                let class = store.instance(id).class;
                let is_other = classes::derives(self.db, class, base) == Some(false);
                is_other && self.is_known_whole(expr, part) && (!is_caught || self.tuple_like(part).is_none())
            }
            Type::Literal(_) | Type::Function(_) | Type::Method(_) => true,
            Type::Tuple(_) => !is_caught,
            _ => false,
        };
        // Each item of a tuple is compared with what was raised.
        let is_wrong = match ty {
            Type::Tuple(_) if is_caught => parts.iter().any(|part| is_none(*part)),
            _ => !parts.is_empty() && parts.iter().all(|part| is_none(*part)),
        };
        if is_wrong {
            self.problem(expr, ProblemKind::Unusable { object: ty, why: Unusable::NotException { is_caught } });
        }
    }

    fn tuple_like(&self, ty: Type) -> Option<()> {
        let Type::Instance(id) = ty else { return None };
        let names = self.db.names();
        let class = self.db.store().instance(id).class;
        let tuple = crate::resolve::builtin(self.db, names.intern("tuple"))?;
        (classes::derives(self.db, class, tuple) != Some(false)).then_some(())
    }

    /// What is unpacked: whether it can be, and has as many values as there are names.
    ///
    /// `at` is where to tell it, `source` where the values come from.
    pub(crate) fn check_unpacking(&mut self, target: ExprId, ty: Type, at: ExprId, source: ExprId) {
        let index = self.index;
        // How many values come of `*args` is known to nobody.
        if matches!(&index.exprs[source], Expr::Call { args, .. } if args.iter().any(|arg| arg.kind == ArgKind::Star)) {
            return;
        }
        let Expr::Tuple(parts) = &index.exprs[target] else { return };
        let store = self.db.store();
        let all = crate::types::union::parts(store, &ty).to_vec();
        if all.is_empty() || all.iter().any(|part| part.is_dynamic()) {
            return;
        }
        let star = parts.iter().position(|part| matches!(index.exprs[*part], Expr::Starred(_)));
        let wrong = |tuple: &Tuple| match star {
            _ if tuple.rest.is_some() => tuple.prefix.len() + tuple.suffix.len() > parts.len() && star.is_none(),
            None => tuple.prefix.len() != parts.len(),
            Some(_) => tuple.prefix.len() + 1 < parts.len(),
        };
        let shapes: Vec<Option<Tuple>> =
            all.iter().map(|part| self.tuple_shape(*part).map(|id| store.tuple(id).clone())).collect();
        if shapes.iter().all(|shape| shape.as_ref().is_some_and(wrong)) {
            let counts: Vec<usize> = shapes.iter().flatten().map(|tuple| tuple.prefix.len()).collect();
            let given = counts.first().copied().unwrap_or(0);
            let wanted = if star.is_some() { parts.len() - 1 } else { parts.len() };
            let why = Unusable::Unpacked { given, wanted, has_star: star.is_some() };
            self.problem(at, ProblemKind::Unusable { object: ty, why });
            return;
        }
        if self.element(ty, false).is_none() {
            self.check_not_iterable(at, ty, false);
            return;
        }
        if crate::types::union::may_be_none(store, ty) && !self.is_unreliable_none(at) && self.is_first_none(at, at) {
            self.problem(at, ProblemKind::NoneIteration { object: ty });
            return;
        }
        // What is unpacked in turn.
        for (place, part) in parts.iter().enumerate() {
            if !matches!(index.exprs[*part], Expr::Tuple(_)) {
                continue;
            }
            let inner = match shapes.as_slice() {
                [Some(tuple)] if tuple.rest.is_none() && star.is_none_or(|star| place < star) => {
                    tuple.prefix.get(place).copied()
                }
                _ => self.element(ty, false),
            };
            if let Some(inner) = inner {
                self.check_unpacking(*part, inner, *part, source);
            }
        }
    }
}
