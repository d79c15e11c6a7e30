//! `functools.partial(function, …)`: the arguments are checked as far as they are given, and what is left is still to be
//! passed.

use leitmotiv_index::tree::{ExprId, ParamKind};

use crate::call::{Argument, ArgumentKind, Bind, Caller};
use crate::context::TypeContext;
use crate::infer::Infer;
use crate::resolve::instance_of;
use crate::types::substitute::has_variables;
use crate::types::{CauseKind, InstanceId, Signature, SignatureParam, Type};

impl TypeContext<'_> {
    fn partial_of(&self, class: crate::types::ClassRef, result: Type, list: Option<Type>) -> Type {
        let anything = || crate::definitions::functions::any_callable(self.db.store(), Type::Never);
        Type::Instance(instance_of(self.db, class, &[result, list.unwrap_or_else(anything)]))
    }
}

impl Infer<'_> {
    /// What `partial(…)` gives, where what is to be called is known.
    pub(crate) fn partial(&mut self, expr: ExprId, class: InstanceId, given: &[Argument]) -> Option<Type> {
        let store = self.db.store();
        let class = store.instance(class);
        let (first, rest) = given.split_first()?;
        if !class.args.is_empty() || first.kind != ArgumentKind::Positional {
            return None;
        }
        let function = self.argument_type(*first);
        let candidates = self.signatures_of(function)?;
        // What is not given yet may still come.
        let mut open = candidates.to_vec();
        for param in open.iter_mut().flat_map(|candidate| &mut candidate.signature.params) {
            param.optional = true;
        }
        let mut taken = Vec::new();
        for (candidate, open) in candidates.iter().zip(&open) {
            taken.extend(self.bind_arguments(open, rest).ok().map(|solution| (candidate, solution)));
        }
        let Some((candidate, solution)) = taken.first() else {
            self.call_candidates(expr, &open.into_iter().collect(), rest);
            return Some(self.partial_of(class.class, self.unknown(CauseKind::Reported, expr), None));
        };
        let result = self.candidate_result(candidate, solution);
        let is_spread = rest.iter().any(|given| matches!(given.kind, ArgumentKind::Star | ArgumentKind::DoubleStar));
        // Which of several signatures is meant, the rest of the arguments may have to say.
        let list = (taken.len() == 1 && !is_spread).then(|| {
            let params = left_of(&candidate.signature, rest).into();
            let mut replace = |var| solution.get(var);
            crate::types::substitute::signature(store, &Signature { params, returns: Type::Never }, &mut replace)
        });
        let list = list
            .filter(|list| !list.params.iter().any(|param| has_variables(store, param.ty)))
            .map(|list| Type::Callable(store.intern_signature(list)));
        Some(self.partial_of(class.class, self.solved(result), list))
    }
}

/// The parameters that arguments are still wanted for. Behind one that is given by name, all go by name.
fn left_of(signature: &Signature, given: &[Argument]) -> Vec<SignatureParam> {
    let mut placed = given.iter().filter(|given| given.kind == ArgumentKind::Positional).count();
    let mut by_name = false;
    let mut left = Vec::new();
    for param in &signature.params {
        let is_placed = matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal);
        if is_placed && placed > 0 {
            placed -= 1;
            continue;
        }
        let is_named = given.iter().any(|given| given.kind == ArgumentKind::Keyword(param.name));
        by_name |= is_named && is_placed;
        let kind = match param.kind {
            ParamKind::Normal if by_name => ParamKind::KeywordOnly,
            ParamKind::VarArgs if by_name => continue,
            kind => kind,
        };
        left.push(SignatureParam { kind, optional: param.optional || is_named, ..param.clone() });
    }
    left
}
