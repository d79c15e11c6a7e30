//! Aliases: what they are given, and whether they come back to themselves (typing specification, "Type aliases"; PEP 695).

use leitmotiv_index::tree::{BinaryOp, DefId, DefKind, Expr, ExprId};

use crate::infer::Infer;
use crate::outline::places::{Bound, bound_at};
use crate::problems::{BadDefinition, ProblemKind};
use crate::types::substitute::variables;
use crate::types::{SpecialForm, Type, VarId, VarKind, VarOrigin};

impl Infer<'_> {
    /// An alias takes as many arguments as it has variables, within their limits (typing specification, "Type aliases").
    pub(crate) fn check_alias_arguments(&mut self, expr: ExprId, head: ExprId, ty: Type, items: &[ExprId]) {
        let store = self.db.store();
        let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = self.index.exprs[head] else { return };
        if ty.is_dynamic() {
            return;
        }
        let vars = self.alias_variables(ty);
        let kinds: Vec<VarKind> = vars.iter().map(|var| store.variable(*var).kind).collect();
        let least = vars
            .iter()
            .zip(&kinds)
            .filter(|(var, kind)| {
                **kind != VarKind::Tuple && crate::definitions::type_variables::limits(self.db, **var).default.is_none()
            })
            .count();
        // `Sends[int, str]` of an alias with nothing but parameters: all of them are the list.
        let is_one_list = matches!(kinds.as_slice(), [VarKind::Params]);
        let has_tuple = kinds.contains(&VarKind::Tuple);
        let is_unpacked = items.iter().any(|item| self.unpacked(*item).is_some());
        let (takes, given) = (vars.len(), items.len());
        if is_one_list || is_unpacked || kinds.contains(&VarKind::SelfType) {
            return;
        }
        if given < least || (given > takes && !has_tuple) {
            self.problem(expr, ProblemKind::AliasArguments { name, takes, given });
            return;
        }
        if has_tuple {
            return;
        }
        for (item, var) in items.iter().zip(&vars) {
            if store.variable(*var).kind == VarKind::Type {
                let given = self.speculate(|infer| infer.annotation(*item));
                self.check_limits(*item, *var, given);
            }
        }
    }

    /// Looks at a `type` statement: it may not be defined by itself alone, and takes no variables that a call makes.
    pub(crate) fn check_alias(&mut self, def: DefId, ty: Type) {
        let DefKind::TypeAlias { value } = self.index.defs[def].kind else { return };
        self.annotation(value);
        if self.comes_back(value, def, &mut Vec::new()) {
            let reason = "the alias is defined by itself, and says nothing".into();
            self.problem(value, ProblemKind::AnnotationInvalid { reason });
        }
        if let Some(var) = variables(self.db.store(), ty).into_iter().find(|var| self.is_called_variable(*var)) {
            self.problem(value, ProblemKind::GenericDefinition { why: BadDefinition::Mixed(var) });
        }
    }

    /// Whether an alias means itself as a whole, or as a part of a union: within the arguments of a class it may.
    fn comes_back(&mut self, value: ExprId, def: DefId, seen: &mut Vec<DefId>) -> bool {
        let index = self.index;
        match &index.exprs[value] {
            Expr::Binary { op: BinaryOp::BitOr, left, right } => {
                self.comes_back(*left, def, seen) || self.comes_back(*right, def, seen)
            }
            Expr::Subscript { value: head, index: args, .. } => match index.exprs[*head] {
                Expr::Name(name, id) if self.alias_named(name, id).is_some() => self.comes_back(*head, def, seen),
                _ if matches!(
                    self.quietly(*head),
                    Type::Special(SpecialForm::Union | SpecialForm::Optional | SpecialForm::Annotated)
                ) =>
                {
                    self.items(*args).into_iter().any(|item| self.comes_back(item, def, seen))
                }
                _ => false,
            },
            Expr::Name(name, id) => {
                let Some(other) = self.alias_named(*name, *id) else { return false };
                if other == def {
                    return true;
                }
                let DefKind::TypeAlias { value } = index.defs[other].kind else { return false };
                if seen.contains(&other) {
                    return false;
                }
                seen.push(other);
                self.comes_back(value, def, seen)
            }
            _ => false,
        }
    }

    /// Whether a variable is made by a call, and not listed in brackets.
    pub(crate) fn is_called_variable(&self, var: VarId) -> bool {
        let variable = self.db.store().variable(var);
        variable.origin == VarOrigin::Definition
            && variable.kind != VarKind::SelfType
            && bound_at(self.db, variable.file, variable.at) != Bound::TypeParameter
    }
}
