//! What aliases stand for: which definition a name leads to, what they are given, and what they are within themselves (typing
//! specification, "Type aliases"; PEP 695).

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BinaryOp, BodyId, DefId, DefKind, Expr, ExprId, ScopeId, Value, ValueId};
use leitmotiv_syntax::TextSize;
use leitmotiv_syntax::names::Name;

use super::Infer;
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::context::TypeContext;
use crate::outline::places::{Bound, bound_at};
use crate::outline::{module_index, reading};
use crate::problems::ProblemKind;
use crate::types::substitute::variables;
use crate::types::{CauseKind, Type, VarId, VarKind, VarOrigin};

impl TypeContext<'_> {
    /// The parameters of the `type` statement that an alias was made by (PEP 695), in order; `None` where it uses none.
    pub(crate) fn alias_parameters(&self, used: &[VarId]) -> Option<&[VarId]> {
        let store = self.db.store();
        used.iter().find_map(|var| {
            let variable = store.variable(*var);
            let is_parameter = variable.origin == VarOrigin::Definition
                && bound_at(self.db, variable.file, variable.at) == Bound::TypeParameter;
            is_parameter.then(|| parameters_beside(self.db, variable.file, variable.at))
        })
    }

    /// The variables of a generic alias: those of its `type` statement, else those that it uses, in the order of their
    /// first appearance.
    pub(crate) fn alias_variables(&self, ty: Type) -> Vec<VarId> {
        let used = variables(self.db.store(), ty);
        match self.alias_parameters(&used) {
            Some(params) => params.to_vec(),
            None => used,
        }
    }
}

impl Infer<'_> {
    /// The one `type` statement of this file that a name stands for.
    pub(crate) fn alias_named(&self, name: Name, value: ValueId) -> Option<DefId> {
        let only = match self.index.values[value] {
            Value::Def(def) => Some(def),
            _ => self.only_definition(name, value),
        };
        only.filter(|def| self.is_alias(*def))
    }

    /// The one definition of a name that is looked up in the scopes around it, and not by the flow.
    fn only_definition(&self, name: Name, value: ValueId) -> Option<DefId> {
        let mut next = match self.index.values[value] {
            Value::Deferred { scope, .. } => Some(scope),
            Value::Global(_) => Some(ScopeId(0)),
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
    pub(crate) fn alias_in_itself(&self, expr: ExprId, name: Name, value: ValueId) -> Option<Type> {
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
    fn leads_to(&self, value: ExprId, at: TextSize, seen: &mut Vec<DefId>) -> bool {
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
    fn alias_defined(&self, name: Name, value: ValueId) -> Option<DefId> {
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

    /// A generic alias with its variables given; those that are left out are unknown, or their default.
    pub(super) fn alias_with(&mut self, ty: Type, items: &[ExprId]) -> Type {
        let store = self.db.store();
        let vars = self.alias_variables(ty);
        let kinds: Vec<VarKind> = vars.iter().map(|var| store.variable(*var).kind).collect();
        let args: Vec<Type> = if kinds.contains(&VarKind::Tuple) {
            self.packed(&kinds, items)
        } else {
            let given = items.iter().zip(&kinds);
            given
                .map(|(item, kind)| match kind {
                    VarKind::Params => self.parameter_list(*item).unwrap_or(Type::Any),
                    _ => self.argument(*item),
                })
                .collect()
        };
        let given = crate::types::substitute::Substitution::of(&vars, &args).apply(store, ty);
        if vars.len() > args.len() {
            self.without_variables(given, &vars[args.len()..], items.last().copied())
        } else {
            given
        }
    }

    /// A type in which variables that nothing is given for are unknown, or their default.
    pub(super) fn without_variables(&mut self, ty: Type, vars: &[VarId], at: Option<ExprId>) -> Type {
        let store = self.db.store();
        let unknown = at.map_or(Type::Any, |at| self.unknown(CauseKind::Bare, at));
        crate::types::substitute::rewrite(store, ty, &mut |var| {
            let variable = store.variable(var);
            let is_plain = vars.contains(&var) && variable.kind != VarKind::SelfType;
            is_plain.then(|| match variable.kind {
                VarKind::Params => crate::definitions::type_variables::limits(self.db, var)
                    .default
                    .unwrap_or_else(|| crate::definitions::functions::any_callable(store, Type::Never)),
                _ => crate::definitions::type_variables::limits(self.db, var).default.unwrap_or(unknown),
            })
        })
    }

    /// An alias that is used without giving its variables.
    pub(super) fn bare_alias(&mut self, expr: ExprId, ty: Type) -> Type {
        let vars = crate::types::substitute::variables(self.db.store(), ty);
        if vars.is_empty() {
            return ty;
        }
        let store = self.db.store();
        let is_open = |var: &VarId| {
            store.variable(*var).kind != VarKind::SelfType
                && crate::definitions::type_variables::limits(self.db, *var).default.is_none()
        };
        if vars.iter().any(is_open) {
            self.note_form(expr, ProblemKind::GenericBare);
        }
        self.without_variables(ty, &vars, Some(expr))
    }
}

/// The type parameters of the list that one stands in (PEP 695), in the order of the text.
pub(crate) fn parameters_beside(db: &dyn Db, file: File, at: Anchor) -> &[VarId] {
    saw(db, file, Ask::ParametersBeside(at));
    parameters_beside_query(db, file, at)
}

#[salsa::tracked(returns(deref))]
fn parameters_beside_query(db: &dyn Db, file: File, at: Anchor) -> Box<[VarId]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let Some(def) = index.def_at(at) else { return Box::default() };
    let symbols = &index.scopes[index.defs[def].scope].symbols;
    let mut defs: Vec<DefId> = symbols.values().flat_map(|symbol| symbol.defs.iter().copied()).collect();
    defs.retain(|def| matches!(index.defs[*def].kind, DefKind::TypeParam { .. }));
    defs.sort_unstable_by_key(|def| index.defs[*def].range.start());
    let infer = Infer::new(db, file, BodyId(0));
    defs.into_iter().filter_map(|def| infer.type_param(def)).collect()
}
