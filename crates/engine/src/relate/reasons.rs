//! Why a type does not fit where more can be said than that it is another one.

use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind, as_base};
use crate::problems::{ProblemKind, Reason};
use crate::types::union::parts;
use crate::types::{Type, Variance};

impl TypeContext<'_> {
    /// A problem with the reason for it, where a type does not fit because a container's elements must be just the same, or
    /// because a protocol asks for something else.
    pub(crate) fn with_reason(&self, kind: ProblemKind) -> ProblemKind {
        let (given, expected) = match &kind {
            ProblemKind::ValueAssign { given, declared, .. }
            | ProblemKind::ValueReturn { given, declared, .. }
            | ProblemKind::ValueYield { given, declared, .. }
            | ProblemKind::ValueDefault { given, declared, .. } => (*given, *declared),
            ProblemKind::CallArgument { given, expected, .. } | ProblemKind::ValueItem { given, expected, .. } => {
                (*given, *expected)
            }
            _ => return kind,
        };
        match self.reason(given, expected) {
            Some(reason) => ProblemKind::Explained { inner: Box::new(kind), reason },
            None => kind,
        }
    }

    fn reason(&self, given: Type, expected: Type) -> Option<Reason> {
        let store = self.db.store();
        let Type::Instance(_) = given else { return self.protocol_reason(given, expected) };
        let own = self.nominal(given)?;
        for part in parts(store, &expected) {
            let Type::Instance(want) = *part else { continue };
            let want_class = store.instance(want).class;
            let Some(base) = as_base(self.db, own, want_class) else { continue };
            let info = classes::info(self.db, want_class);
            let (have, want) = (store.instance(base).args.clone(), store.instance(want).args.clone());
            let differing = info.params.iter().zip(have.iter().zip(want.iter())).find(|(var, (have, want))| {
                crate::definitions::variance::of(self.db, want_class, **var) == Variance::Invariant
                    && self.is_assignable(**have, **want)
                    && !self.is_assignable(**want, **have)
            });
            if let Some((_, (have, want))) = differing {
                return Some(Reason::Invariant { class: want_class, have: *have, want: *want });
            }
        }
        self.protocol_reason(given, expected)
    }

    fn protocol_reason(&self, given: Type, expected: Type) -> Option<Reason> {
        let Type::Instance(want) = expected else { return None };
        let class = self.db.store().instance(want).class;
        if classes::info(self.db, class).kind != ClassKind::Protocol || matches!(given, Type::Union(_) | Type::None) {
            return None;
        }
        // What derives from it has its members; then it is the arguments that differ.
        if self.nominal(given).is_some_and(|own| as_base(self.db, own, class).is_some()) {
            return None;
        }
        let (member, clash) = self.protocol_flaw(given, want, 0)?;
        Some(Reason::Protocol { class, member, clash: clash.map(Box::new) })
    }
}
