//! Arguments of calls: written ones, whose types depend on what is expected of them, and bare types.

use std::ops::{Deref, DerefMut};

use leitmotiv_index::tree::{Expr, ExprId};
use leitmotiv_syntax::names::Name;

use crate::context::TypeContext;
use crate::infer::{Infer, Mark};
use crate::types::{CauseKind, Type};

/// An argument.
#[derive(Debug, Clone, Copy)]
pub struct Argument {
    /// How it is given.
    pub kind: ArgumentKind,
    /// The expression, where it is one.
    pub expr: Option<ExprId>,
    /// The type, where it is none.
    pub ty: Type,
}

/// How an argument is given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ArgumentKind {
    /// By position.
    Positional,
    /// By keyword.
    Keyword(Name),
    /// `*args`
    Star,
    /// `**kwargs`
    DoubleStar,
}

impl Argument {
    /// An argument by its expression.
    #[must_use]
    pub fn of_expr(expr: ExprId) -> Argument {
        Argument { kind: ArgumentKind::Positional, expr: Some(expr), ty: Type::Never }
    }

    /// An argument by its type.
    #[must_use]
    pub fn of_type(ty: Type) -> Argument {
        Argument { kind: ArgumentKind::Positional, expr: None, ty }
    }
}

/// Who calls: what binding asks of the arguments, beside what it asks of types. [`Infer`] knows the expressions; [`Bare`] has only
/// types, as in the calls that the interpreter makes itself.
pub(crate) trait Caller<'db>: DerefMut<Target = TypeContext<'db>> {
    /// An argument's type.
    fn argument_type(&mut self, given: Argument) -> Type {
        given.ty
    }

    /// Whether an argument is a lambda: what it takes may be said by the other arguments.
    fn is_lambda(&self, _given: &Argument) -> bool {
        false
    }

    /// Works a lambda out that takes these types, unless that was done.
    fn take_lambda(&mut self, _given: &Argument, _params: &dyn Fn(&TypeContext<'db>) -> Vec<Type>) {}

    /// Whether somebody said what an argument is.
    fn says(&mut self, _given: &Argument) -> bool {
        false
    }

    /// Whether somebody said what the items of an argument are.
    fn says_items_of(&mut self, _given: &Argument) -> bool {
        false
    }

    /// Whether an argument is an expression that may be what is expected, as a display may.
    fn may_become(&mut self, _given: &Argument, _expected: Type) -> bool {
        false
    }

    /// Whether a parameter of a type takes an argument.
    fn is_taken(&mut self, given: &Argument, expected: Type) -> bool {
        self.is_assignable(given.ty, expected)
    }

    /// Whether an argument is one of several types, and nobody can tell which.
    fn is_any_of_several(&mut self, _given: &Argument) -> bool {
        false
    }

    /// The literal that an argument is written as.
    fn literal(&mut self, _given: &Argument) -> Option<Type> {
        None
    }

    /// The arguments that a tuple or list stands for which is written behind `*`.
    fn displayed(&self, _given: &Argument) -> Option<Vec<Argument>> {
        None
    }

    /// The same of a dictionary behind `**`; the inner is `None` where one of its keys cannot be told.
    fn displayed_by_name(&self, _given: &Argument) -> Option<Option<Vec<Argument>>> {
        None
    }

    /// An unknown with its cause at an argument that is an expression.
    fn unknown_at(&self, _given: &Argument) -> Option<Type> {
        None
    }

    /// The point up to which something is remembered and reported.
    fn point(&self) -> Mark {
        Mark::default()
    }

    /// Whether something was reported since a point.
    fn has_reported_since(&self, _point: Mark) -> bool {
        false
    }

    /// Forgets what was remembered and reported since a point.
    fn go_back(&mut self, _point: Mark) {}
}

/// A call whose arguments are types.
pub(crate) struct Bare<'a, 'db>(pub(crate) &'a mut TypeContext<'db>);

impl<'db> Deref for Bare<'_, 'db> {
    type Target = TypeContext<'db>;

    fn deref(&self) -> &TypeContext<'db> {
        self.0
    }
}

impl DerefMut for Bare<'_, '_> {
    fn deref_mut(&mut self) -> &mut Self::Target {
        self.0
    }
}

impl<'db> Caller<'db> for Bare<'_, 'db> {}

impl<'db> Caller<'db> for Infer<'db> {
    fn argument_type(&mut self, given: Argument) -> Type {
        match given.expr {
            Some(expr) => self.expr(expr),
            None => given.ty,
        }
    }

    fn is_lambda(&self, given: &Argument) -> bool {
        given.expr.is_some_and(|expr| matches!(self.index.exprs[expr], Expr::Lambda(_)))
    }

    fn take_lambda(&mut self, given: &Argument, params: &dyn Fn(&TypeContext<'db>) -> Vec<Type>) {
        let Some(expr) = given.expr else { return };
        if let Expr::Lambda(lambda) = self.index.exprs[expr]
            && self.known_expr(expr).is_none()
        {
            let ty = self.lambda(lambda, &params(self));
            self.exprs_insert(expr, ty);
        }
    }

    fn says(&mut self, given: &Argument) -> bool {
        given.expr.is_some_and(|expr| self.is_said(expr))
    }

    fn says_items_of(&mut self, given: &Argument) -> bool {
        given.expr.is_some_and(|expr| self.says_items(expr))
    }

    fn may_become(&mut self, given: &Argument, expected: Type) -> bool {
        given.expr.is_some_and(|expr| self.fits(expr, expected))
    }

    fn is_taken(&mut self, given: &Argument, expected: Type) -> bool {
        match given.expr {
            // What is partly unknown may never be the part that does not fit.
            Some(expr) if self.is_partly_unknown(expr) => true,
            Some(expr) if self.strict => self.fits(expr, expected),
            Some(expr) => self.is_assignable_leniently(expr, expected),
            None => self.is_assignable(given.ty, expected),
        }
    }

    fn is_any_of_several(&mut self, given: &Argument) -> bool {
        given.expr.is_some_and(|expr| matches!(self.expr(expr), Type::Union(_)) && self.is_ambiguous(expr))
    }

    fn literal(&mut self, given: &Argument) -> Option<Type> {
        let expr = given.expr?;
        if !matches!(self.index.exprs[expr], Expr::Int(_) | Expr::Str(_) | Expr::Bytes(_) | Expr::Bool(_)) {
            return None;
        }
        Some(self.expr(expr)).filter(|ty| matches!(ty, Type::Literal(_)))
    }

    fn displayed(&self, given: &Argument) -> Option<Vec<Argument>> {
        let index = self.index;
        let (Expr::Tuple(parts) | Expr::List(parts)) = &index.exprs[given.expr?] else { return None };
        let is_open = parts.iter().any(|part| matches!(index.exprs[*part], Expr::Starred(_)));
        (!is_open).then(|| parts.iter().map(|part| Argument::of_expr(*part)).collect())
    }

    fn displayed_by_name(&self, given: &Argument) -> Option<Option<Vec<Argument>>> {
        let index = self.index;
        let Expr::Dict(items) = &index.exprs[given.expr?] else { return None };
        let named = items.iter().map(|(key, value)| match key.map(|key| &index.exprs[key]) {
            Some(Expr::Str(Some(name))) => {
                Some(Argument { kind: ArgumentKind::Keyword(*name), ..Argument::of_expr(*value) })
            }
            _ => None,
        });
        Some(named.collect())
    }

    fn unknown_at(&self, given: &Argument) -> Option<Type> {
        given.expr.map(|expr| self.unknown(CauseKind::Dynamic, expr))
    }

    fn point(&self) -> Mark {
        self.mark()
    }

    fn has_reported_since(&self, point: Mark) -> bool {
        self.problems.len() != point.problems
    }

    fn go_back(&mut self, point: Mark) {
        self.roll_back(point);
    }
}

impl Infer<'_> {
    fn is_partly_unknown(&mut self, expr: ExprId) -> bool {
        let ty = self.expr(expr);
        crate::types::union::parts(self.db.store(), &ty).iter().any(|part| part.is_dynamic())
    }
}
