//! What a call is told for whose arguments no signature takes.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyShape, Expr, ExprId};
use leitmotiv_syntax::names::known;

use crate::call::{Candidate, Refusal, Why};
use crate::context::TypeContext;
use crate::infer::Infer;
use crate::outline::Site;
use crate::problems::{Form, Mismatch, ProblemKind};
use crate::types::Type;

impl TypeContext<'_> {
    /// The parameter whose argument does not fit.
    fn parameter_of(&self, candidate: &Candidate, why: &Why) -> Option<Site> {
        let Why::Argument { param, .. } = why else { return None };
        let function = candidate.function?;
        let params = &crate::outline::function(self.db, function.file, function.function).params;
        let place = param.checked_add(candidate.skipped)?;
        let at = Anchor::Param(function.function, u32::try_from(place).ok()?);
        params.get(place).map(|_| Site { file: function.file, at })
    }
}

impl Infer<'_> {
    /// Whether what a method's parameter takes rests on nothing but a conclusion about its object, as `append` does on the
    /// first elements that a list was seen with.
    fn is_concluded(&mut self, expr: ExprId, candidate: &Candidate, param: usize) -> bool {
        let Some(function) = candidate.function else { return self.is_concluded_there(expr, param) };
        let Some(owner) = function.owner else { return false };
        let declared = crate::definitions::functions::declared(self.db, function.file, function.function);
        let Some(param) = param.checked_add(candidate.skipped).and_then(|place| declared.params.get(place)) else {
            return false;
        };
        let info = crate::definitions::classes::info(self.db, self.db.store().instance(owner).class);
        let mut of_object = false;
        crate::types::substitute::rewrite(self.db.store(), param.ty, &mut |var| {
            of_object |= info.params.contains(&var);
            None
        });
        if !of_object {
            return false;
        }
        let Expr::Call { callee, .. } = self.index.exprs[expr] else { return false };
        let Expr::Attribute { value, .. } = self.index.exprs[callee] else { return false };
        // A class that is reached through its module is no object whose type was concluded.
        !matches!(self.quietly(value), Type::Module(_)) && !self.is_said(value)
    }

    /// The same of a method whose decorator leaves but a signature.
    fn is_concluded_there(&mut self, expr: ExprId, param: usize) -> bool {
        let store = self.db.store();
        let Expr::Call { callee, .. } = self.index.exprs[expr] else { return false };
        let Expr::Attribute { value, name, .. } = self.index.exprs[callee] else { return false };
        let Type::Instance(object) = self.quietly(value) else { return false };
        let Some(found) = crate::definitions::classes::members::find(self.db, object, name, None) else { return false };
        let Type::Callable(signature) = found.member.ty else { return false };
        let info = crate::definitions::classes::info(self.db, store.instance(found.owner).class);
        // The object itself comes first.
        let Some(param) = param.checked_add(1).and_then(|place| store.signature(signature).params.get(place)) else {
            return false;
        };
        let mut variables = crate::types::substitute::variables(store, param.ty).into_iter();
        variables.any(|var| info.params.contains(&var)) && !self.is_said(value)
    }

    /// Whether a method that is called through the method's own object only says that subclasses give it, with other parameters
    /// perhaps: `raise NotImplementedError` is all there is in it, and nobody annotated it.
    fn is_hook_of_receiver(&self, expr: ExprId, candidate: &Candidate) -> bool {
        let Some(function) = candidate.function else { return false };
        let Expr::Call { callee, .. } = self.index.exprs[expr] else { return false };
        let Expr::Attribute { value, .. } = self.index.exprs[callee] else { return false };
        let outline = crate::outline::function(self.db, function.file, function.function);
        outline.shape == BodyShape::NotImplemented
            && !outline.is_annotated
            && outline.params.iter().all(|param| !param.is_annotated)
            && self.is_receiver(value)
    }

    /// Reports the refusal that came furthest: most calls are meant to be the one that was nearly right.
    pub(crate) fn report(&mut self, expr: ExprId, candidates: &[Candidate], refusals: Vec<(usize, Refusal)>) {
        let furthest = refusals.iter().map(|(_, refusal)| refusal.reached).max();
        let Some((number, nearest)) = refusals.iter().find(|(_, refusal)| Some(refusal.reached) == furthest) else {
            return;
        };
        let (candidate, at) = (&candidates[*number], nearest.at);
        if self.is_hook_of_receiver(expr, candidate) {
            return;
        }
        if let Why::Argument { param, .. } = nearest.why
            && self.is_concluded(expr, candidate, param)
        {
            return;
        }
        let mut callee = self.callee(candidate);
        if candidate.function.is_none()
            && candidate.name.is_none()
            && let Some(called) = self.callee_of(expr)
        {
            let text = crate::findings::source::excerpt(self.db, self.file, self.index.spans[called]);
            if text.chars().count() <= 40 {
                callee.shown = text;
            }
        }
        let nearly = mismatch(candidate, &nearest.why);
        if let Mismatch::Argument { name: param, place, expected, given } = nearly {
            let rest = crate::types::union::filter(self.db.store(), given, |part| part != Type::None);
            if rest != given && rest != Type::Never && self.is_assignable(rest, expected) {
                if at.is_none_or(|at| self.is_first_none(at, at)) {
                    callee.param = self.parameter_of(candidate, &nearest.why);
                    let kind = ProblemKind::NoneArgument { callee, param, place, expected, object: given };
                    self.problem(at.unwrap_or(expr), kind);
                }
                return;
            }
        }
        let kind = if refusals.len() > 1 {
            let forms = refusals.iter().map(|(number, refusal)| {
                let candidate = &candidates[*number];
                Form { at: self.callee(candidate).at, why: mismatch(candidate, &refusal.why) }
            });
            ProblemKind::CallOverload { callee, forms: forms.collect() }
        } else {
            match nearly {
                Mismatch::Missing(params) => ProblemKind::CallMissing { callee, params },
                Mismatch::Surplus { taken, given } => ProblemKind::CallSurplus { callee, taken, given },
                Mismatch::Keyword(name, near) => ProblemKind::CallKeyword { callee, name, near },
                Mismatch::Repeated(param) => ProblemKind::CallRepeated { callee, param },
                Mismatch::Argument { name: param, place, expected, given } => {
                    callee.param = self.parameter_of(candidate, &nearest.why);
                    ProblemKind::CallArgument { callee, param, place, expected, given }
                }
            }
        };
        self.problem(at.unwrap_or(expr), kind);
    }
}

/// Why a candidate does not take the arguments, in terms that outlive it.
fn mismatch(candidate: &Candidate, why: &Why) -> Mismatch {
    match why {
        Why::Missing(names) => Mismatch::Missing(names.clone()),
        Why::Surplus { taken, given } => Mismatch::Surplus { taken: *taken, given: *given },
        Why::Keyword(name, near) => Mismatch::Keyword(*name, near.clone()),
        Why::Repeated(name) => Mismatch::Repeated(*name),
        Why::Argument { param, place, expected, given } => Mismatch::Argument {
            name: candidate.signature.params.get(*param).map_or(known::EMPTY, |param| param.name),
            place: *place,
            expected: *expected,
            given: *given,
        },
    }
}
