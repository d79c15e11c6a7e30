//! Branches over closed sets: whether all members are handled (typing specification, "Enumerations: exhaustiveness
//! checking").

use leitmotiv_index::tree::{CompareOp, Expr, ExprId, ValueId};

use crate::definitions::classes::enum_members;
use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::types::union::parts;
use crate::types::{Literal, Type};

impl Infer<'_> {
    /// Looks at what a `match` leaves of its subject, where that is of literals, members of enumerations or None, or said to
    /// be one of several.
    pub(crate) fn check_unmatched(&mut self, subject: ExprId, rest: ValueId) {
        let whole = self.expr(subject);
        let whole = self.expand(whole);
        let all = parts(self.db.store(), &whole).to_vec();
        let is_set = all.iter().all(|part| matches!(part, Type::Literal(_) | Type::None));
        // A union that was said is closed as well; one that was concluded need not be.
        let is_union = all.len() > 1 && !all.iter().any(|part| part.is_dynamic()) && self.is_declared_place(subject);
        if !is_set && !is_union {
            return;
        }
        let rest = self.value(rest);
        let rest = self.expand(rest);
        if rest != Type::Never && (is_set || rest != whole) {
            self.problem(subject, ProblemKind::IncompleteMatch { rest });
        }
    }

    /// Looks at `if x is A.ONE: … elif x is A.TWO: …` without an `else`; whether it is such a chain.
    pub(crate) fn check_chain(&mut self, tests: &[ExprId]) -> bool {
        let store = self.db.store();
        let mut subject = None;
        let mut class = None;
        let mut handled = Vec::new();
        for test in tests {
            let Expr::Compare { left, rest } = &self.index.exprs[*test] else { return false };
            let [(CompareOp::Is | CompareOp::Eq | CompareOp::In, right)] = rest.as_ref() else { return false };
            let Expr::Name(name, _) = self.index.exprs[*left] else { return false };
            if subject.is_some_and(|(known, _)| known != name) {
                return false;
            }
            subject = subject.or(Some((name, *left)));
            let values = match &self.index.exprs[*right] {
                Expr::Tuple(parts) | Expr::List(parts) | Expr::Set(parts) => parts.to_vec(),
                _ => vec![*right],
            };
            for value in values {
                let Type::Literal(id) = self.expr(value) else { return false };
                let Literal::Enum(of, member) = *store.literal(id) else { return false };
                if class.is_some_and(|known| known != of) {
                    return false;
                }
                class = Some(of);
                handled.push(member);
            }
        }
        let (Some((_, subject)), Some(class)) = (subject, class) else { return false };
        // A number that is compared with some of the library's members is not one of them all.
        let is_own = class.file.origin(self.db).is_own();
        let asked = self.quietly(subject);
        let may_be = |part: &Type| match part {
            Type::Instance(id) => store.instance(*id).class == class,
            Type::Literal(id) => matches!(store.literal(*id), Literal::Enum(of, _) if *of == class),
            part => part.is_dynamic() && is_own,
        };
        if !crate::types::union::parts(store, &asked).iter().any(may_be) {
            return true;
        }
        let left = enum_members(self.db, class).into_iter().filter(|member| !handled.contains(member));
        let left: Vec<Type> =
            left.map(|member| Type::Literal(store.intern_literal(Literal::Enum(class, member)))).collect();
        if !left.is_empty() {
            let rest = self.join(left);
            self.problem(subject, ProblemKind::IncompleteMatch { rest });
        }
        true
    }
}
