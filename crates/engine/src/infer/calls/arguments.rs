//! Arguments that are written: what they are may depend on what is expected of them.

use leitmotiv_index::tree::{Expr, ExprId, ParamKind};

use crate::call::{Argument, ArgumentKind, Caller};
use crate::context::candidates::Candidate;
use crate::context::{Mark, TypeContext};
use crate::infer::Infer;
use crate::types::{Binding, CauseKind, FunctionRef, Type};

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

    fn notes(&self, candidate: &Candidate) -> bool {
        let is_open = |function: FunctionRef| {
            let file = function.file;
            file.origin(self.db).is_own()
                && !file.is_stub(self.db)
                && crate::outline::function(self.db, file, function.function)
                    .params
                    .iter()
                    .skip(usize::from(function.owner.is_some() && function.binding != Binding::Static))
                    .any(|param| !param.is_annotated)
        };
        // What nobody annotated is not known: most signatures are told apart by that.
        let may_be_open = || candidate.signature.params.iter().any(|param| param.ty.is_unknown());
        self.passed.is_some() && (!self.notes_open_only || may_be_open() && candidate.function.is_some_and(is_open))
    }

    fn notes_expected(&self) -> bool {
        !self.notes_open_only
    }

    fn note(&mut self, candidate: &Candidate, param: usize, given: &Argument, expected: Type) {
        let Some(signature) = candidate.signature.params.get(param) else { return };
        let given = match given.expr {
            Some(expr) => Given::Expr(expr),
            None => Given::Type(given.ty),
        };
        let passed = Passed {
            function: candidate.function,
            place: u32::try_from(param + candidate.skipped).unwrap_or(u32::MAX),
            kind: signature.kind,
            expected,
            given,
            call: self.calling,
        };
        if let Some(all) = &mut self.passed {
            all.push(passed);
        }
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

/// That a parameter is given something by a call.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Passed {
    /// The function whose parameter it is, where it is one's.
    pub(crate) function: Option<FunctionRef>,
    /// The parameter's place among the function's, 0-based.
    pub(crate) place: u32,
    /// How the parameter is reached.
    pub(crate) kind: ParamKind,
    /// What it takes, as far as that is known.
    pub(crate) expected: Type,
    /// What it is given.
    pub(crate) given: Given,
    /// The call.
    pub(crate) call: Option<ExprId>,
}

/// What a parameter is given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Given {
    /// What an expression is.
    Expr(ExprId),
    /// Something of a type: a part of what is written behind a star.
    Type(Type),
}

impl Infer<'_> {
    fn is_partly_unknown(&mut self, expr: ExprId) -> bool {
        let ty = self.expr(expr);
        crate::types::union::parts(self.db.store(), &ty).iter().any(|part| part.is_dynamic())
    }
}
