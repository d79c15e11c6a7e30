//! Aliases: what they are given, and whether they come back to themselves (typing specification, "Type aliases"; PEP 695).

use leitmotiv_index::tree::{BinaryOp, DefId, DefKind, Expr, ExprId, Value};
use leitmotiv_syntax::names::Name;

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

    /// The one `type` statement of this file that a name stands for.
    pub(crate) fn alias_named(&self, name: Name, value: leitmotiv_index::tree::ValueId) -> Option<DefId> {
        let only = match self.index.values[value] {
            Value::Def(def) => Some(def),
            _ => self.only_definition(name, value),
        };
        only.filter(|def| self.is_alias(*def))
    }

    /// The one definition of a name that is looked up in the scopes around it, and not by the flow.
    fn only_definition(&self, name: Name, value: leitmotiv_index::tree::ValueId) -> Option<DefId> {
        let mut next = match self.index.values[value] {
            Value::Deferred { scope, .. } => Some(scope),
            Value::Global(_) => Some(leitmotiv_index::tree::ScopeId(0)),
            _ => None,
        };
        while let Some(current) = next {
            let record = &self.index.scopes[current];
            if let Some(symbol) = record.symbols.get(&name) {
                let [only] = symbol.defs.as_slice() else { return None };
                return Some(*only);
            }
            next = record.parent;
        }
        None
    }

    /// The name of an alias where it stands in what the alias is defined by, itself or by way of others: it means the alias as it is, and no
    /// circle is gone through to find out.
    pub(crate) fn alias_in_itself(
        &self,
        expr: ExprId,
        name: Name,
        value: leitmotiv_index::tree::ValueId,
    ) -> Option<Type> {
        let def = self.alias_defined(name, value)?;
        let at = self.index.spans[expr].start();
        let written = self.alias_value(def)?;
        let is_in_itself = self.index.spans[written].contains(at) || self.leads_to(written, at, &mut vec![def]);
        // As a whole, or a part of a union, it says nothing; that is told.
        if !is_in_itself || self.has_variables_of_its_own(def) || self.is_bare_part(written, expr) {
            return None;
        }
        let variable = crate::types::TypeVariable {
            name,
            file: self.file,
            at: self.index.anchor_of_def(def),
            kind: VarKind::Alias,
            variance: crate::types::Variance::Invariant,
            origin: VarOrigin::Definition,
        };
        Some(Type::Var(self.db.store().intern_variable(variable)))
    }

    /// Whether an alias lists variables: what it is given within itself is looked at no further.
    fn has_variables_of_its_own(&self, def: DefId) -> bool {
        let DefKind::TypeAlias { value } = self.index.defs[def].kind else { return false };
        let start = self.index.spans[value].start();
        let text = self.file.text(self.db);
        let name_end = usize::from(self.index.defs[def].range.end());
        text[name_end..usize::from(start)].contains('[')
    }

    /// Whether an expression is the value itself, or a part of the union that the value is.
    fn is_bare_part(&self, value: ExprId, part: ExprId) -> bool {
        value == part
            || matches!(self.index.exprs[value], Expr::Binary { op: BinaryOp::BitOr, left, right }
                if self.is_bare_part(left, part) || self.is_bare_part(right, part))
    }

    /// Whether some alias that a type speaks of, or one that such an alias speaks of, is defined by what stands at a place.
    fn leads_to(&self, value: ExprId, at: leitmotiv_syntax::TextSize, seen: &mut Vec<DefId>) -> bool {
        let index = self.index;
        match &index.exprs[value] {
            Expr::Binary { left, right, .. } => self.leads_to(*left, at, seen) || self.leads_to(*right, at, seen),
            Expr::Subscript { value, index: args, .. } => {
                self.leads_to(*value, at, seen) || self.leads_to(*args, at, seen)
            }
            Expr::Tuple(parts) | Expr::List(parts) => parts.iter().any(|part| self.leads_to(*part, at, seen)),
            Expr::Starred(inner) => self.leads_to(*inner, at, seen),
            Expr::Name(name, id) => {
                let Some(other) = self.alias_defined(*name, *id).filter(|other| !seen.contains(other)) else {
                    return false;
                };
                seen.push(other);
                let Some(written) = self.alias_value(other) else { return false };
                index.spans[written].contains(at) || self.leads_to(written, at, seen)
            }
            _ => false,
        }
    }

    /// The one definition of an alias that says it is one, by `type` or by `TypeAlias`.
    fn alias_defined(&self, name: Name, value: leitmotiv_index::tree::ValueId) -> Option<DefId> {
        self.only_definition(name, value).filter(|def| self.alias_value(*def).is_some())
    }

    fn alias_value(&self, def: DefId) -> Option<ExprId> {
        match self.index.defs[def].kind {
            DefKind::TypeAlias { value } => Some(value),
            DefKind::Annotated { annotation, value: Some(value) } => {
                let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = self.index.exprs[annotation] else {
                    return None;
                };
                (self.text(name) == "TypeAlias").then_some(value)
            }
            _ => None,
        }
    }

    fn is_alias(&self, def: DefId) -> bool {
        matches!(self.index.defs[def].kind, DefKind::TypeAlias { .. })
    }

    /// Whether a variable is made by a call, and not listed in brackets.
    pub(crate) fn is_called_variable(&self, var: VarId) -> bool {
        let variable = self.db.store().variable(var);
        variable.origin == VarOrigin::Definition
            && variable.kind != VarKind::SelfType
            && bound_at(self.db, variable.file, variable.at) != Bound::TypeParameter
    }
}
