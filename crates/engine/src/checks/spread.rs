//! What stands behind `*` and `**` in calls (language reference, "Calls").

use leitmotiv_index::tree::{Arg, ArgKind, ExprId};
use leitmotiv_syntax::names::known;

use crate::infer::Infer;
use crate::problems::{ProblemKind, Unusable};
use crate::types::{Literal, Type};

impl Infer<'_> {
    /// Looks at what stands behind `*` and `**` in a call.
    pub(crate) fn check_spread(&mut self, args: &[Arg]) {
        if !self.checking {
            return;
        }
        for arg in args {
            match arg.kind {
                ArgKind::Star => {
                    let ty = self.expr(arg.value);
                    self.check_iterated(arg.value, ty);
                }
                ArgKind::DoubleStar => self.check_mapping(arg.value),
                ArgKind::Positional | ArgKind::Keyword(_) => {}
            }
        }
    }

    /// Reports what is unpacked by `**` in a call though it is no mapping, or has keys that are no names.
    fn check_mapping(&mut self, expr: ExprId) {
        let ty = self.expr(expr);
        let parts = crate::types::union::parts(self.db.store(), &ty).to_vec();
        if !self.is_known_whole(expr, ty) {
            return;
        }
        let keys = self.db.names().intern("keys");
        let is_none =
            parts.iter().all(|part| self.member(*part, known::GETITEM).is_none() || self.member(*part, keys).is_none());
        if is_none {
            self.problem(expr, ProblemKind::Unusable { object: ty, why: Unusable::NotMapping { key: None } });
            return;
        }
        let (key, _) = self.mapping_parts(ty);
        let text = self.builtin(known::STR);
        let keys = crate::types::union::parts(self.db.store(), &key).to_vec();
        let is_text = |infer: &Self, part: Type| match part {
            Type::Literal(id) => matches!(infer.db.store().literal(id), Literal::Str(_)),
            part => part.is_dynamic() || infer.is_assignable(text, part) || infer.is_assignable(part, text),
        };
        if self.is_said(expr) && !keys.is_empty() && !keys.iter().any(|part| is_text(self, *part)) {
            self.problem(expr, ProblemKind::Unusable { object: ty, why: Unusable::NotMapping { key: Some(key) } });
        }
    }
}
