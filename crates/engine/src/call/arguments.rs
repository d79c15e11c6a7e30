//! Arguments of calls: written ones, whose types depend on what is expected of them, and bare types.

use std::ops::{Deref, DerefMut};

use leitmotiv_index::tree::ExprId;
use leitmotiv_syntax::names::Name;

use crate::context::Mark;
use crate::context::TypeContext;
use crate::context::candidates::Candidate;
use crate::types::Type;

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

/// Who calls: what binding asks of the arguments, beside what it asks of types. [`crate::infer::Infer`] knows the expressions; [`Bare`] has only
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

    /// Whether it is noted what parameters of a candidate are given.
    fn notes(&self, _candidate: &Candidate) -> bool {
        false
    }

    /// Whether it is noted what they take.
    fn notes_expected(&self) -> bool {
        false
    }

    /// Notes that a parameter, by its place in the candidate's signature, is given an argument.
    fn note(&mut self, _candidate: &Candidate, _param: usize, _given: &Argument, _expected: Type) {}

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
