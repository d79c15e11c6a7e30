//! What may be called where a callable is asked for: it takes whatever will be passed, and gives nothing else (typing
//! specification, "Callables": assignability).

use leitmotiv_index::tree::ParamKind;
use leitmotiv_syntax::names::known;

use super::protocols::{DEEPEST, PROTOCOL_STEP};
use crate::call::Candidate;
use crate::call::{Bare, Bind, Refusal, Why};
use crate::context::TypeContext;
use crate::problems::Clash;
use crate::types::substitute::has_variables;
use crate::types::{Signature, SignatureId, Type};

impl TypeContext<'_> {
    pub(super) fn fits_callable(&self, given: Type, expected: Type, depth: u32) -> bool {
        let Type::Callable(want) = expected else { return false };
        match given {
            Type::Callable(have) => {
                let store = self.db.store();
                self.signature_fits(store.signature(have), store.signature(want), depth)
            }
            Type::Function(_) | Type::Method(_) | Type::Class(_) | Type::Instance(_) => {
                self.callable_flaw(given, want, depth).is_none()
            }
            Type::Literal(_) => self.fits_callable(self.literal_fallback(given), expected, depth),
            Type::SubclassOf(_) | Type::Special(_) | Type::Form(_) | Type::Super(_) | Type::Property(_) => true,
            _ => false,
        }
    }

    /// Why a value cannot be called as is asked; the inner `None` where one reason cannot be singled out.
    pub(crate) fn callable_flaw(&self, given: Type, want: SignatureId, depth: u32) -> Option<Option<Clash>> {
        let want = self.db.store().signature(want);
        let mut infer = self.fresh();
        if matches!(given, Type::Instance(_)) && infer.member(given, known::CALL).is_none() {
            return Some(None);
        }
        let candidates = infer.signatures_of(given)?;
        infer.nesting = depth + PROTOCOL_STEP;
        // Signatures in signatures are compared only so far; what a variable stands for is the solver's to say.
        let is_open = |ty: Type| has_variables(self.db.store(), ty);
        if infer.nesting >= DEEPEST
            || candidates.is_empty()
            || is_open(want.returns)
            || want.params.iter().any(|param| is_open(param.ty))
        {
            return None;
        }
        let mut flaws = Vec::with_capacity(candidates.len());
        for candidate in candidates.iter() {
            match infer.called_as(candidate, want) {
                None => return None,
                Some(flaw) => flaws.push(flaw),
            }
        }
        match <[Option<Clash>; 1]>::try_from(flaws) {
            Ok([only]) => Some(only),
            Err(_) => Some(None),
        }
    }

    /// What keeps one signature from being called as is asked; the inner `None` where it cannot be said.
    pub(super) fn called_as(&mut self, mine: &Candidate, want: &Signature) -> Option<Option<Clash>> {
        let is_any = want.params.iter().any(|param| matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs));
        let solution = if is_any {
            mine.start.clone()
        } else {
            match Bare(self).bind_arguments(mine, &super::protocols::as_arguments(want, true)) {
                // A callback's own variables are solved by what it is given.
                Ok(solution) => solution,
                Err(refusal) => return Some(clash_of(mine, refusal)),
            }
        };
        if mine.inferred || want.returns.is_dynamic() {
            return None;
        }
        let gives = self.candidate_result(mine, &solution);
        let gives = self.solved(gives);
        // What wraps another callable, as `staticmethod` does, passes on what a lambda does not say.
        let is_wrapped = mine
            .function
            .is_none_or(|function| function.file.origin(self.db) == leitmotiv_project::resolve::Origin::Bundled);
        let wanted = if is_wrapped { self.plain_result(want.returns) } else { want.returns };
        let fits = gives.is_dynamic() || self.is_assignable_at(gives, wanted, self.nesting);
        (!fits).then_some(Some(Clash::Gives(want.returns, gives)))
    }

    fn signature_fits(&self, have: &Signature, want: &Signature, depth: u32) -> bool {
        let open = |signature: &Signature| {
            signature.params.iter().any(|param| matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs))
        };
        // What a lambda tells, its text does not say.
        let wanted = self.plain_result(want.returns);
        if !self.is_assignable_at(have.returns, wanted, depth) && want.returns != Type::None {
            return false;
        }
        if open(have) || open(want) {
            return true;
        }
        let needed = have.params.iter().filter(|param| !param.optional && param.kind != ParamKind::KeywordOnly).count();
        let taken = have.params.iter().filter(|param| param.kind != ParamKind::KeywordOnly).count();
        needed <= want.params.len()
            && want.params.len() <= taken
            && have.params.iter().zip(&want.params).all(|(have, want)| self.is_assignable_at(want.ty, have.ty, depth))
    }
}

/// A refusal of the arguments that will be passed as what differs between the signatures.
fn clash_of(mine: &Candidate, refusal: Refusal) -> Option<Clash> {
    match refusal.why {
        Why::Missing(names) => names.first().map(|name| Clash::Asks(*name)),
        Why::Surplus { taken, given } => Some(Clash::Count { taken, given }),
        Why::Argument { param, expected, given, .. } => {
            let name = mine.signature.params.get(param).map_or(known::EMPTY, |param| param.name);
            Some(Clash::Takes(name, given, expected))
        }
        Why::Keyword(name, _) => Some(Clash::Lacks(name)),
        Why::Repeated(_) => None,
    }
}
