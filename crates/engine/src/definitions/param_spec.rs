//! Parameter lists as types: what a `ParamSpec` stands for (PEP 612; typing specification, "Generics").
//!
//! A list is held as a callable that gives `Never`. In a signature, a variable for parameters stands as `*args` and `**kwargs`
//! that both have it as their type; putting a list in its place puts the list's parameters there.

use leitmotiv_index::tree::{Expr, ExprId, ParamKind};
use leitmotiv_syntax::names::known;

use crate::context::TypeContext;
use crate::infer::Infer;
use crate::types::{Signature, SignatureParam, SpecialForm, Type, VarId, VarKind};

/// The pair of parameters that stands for a variable.
#[must_use]
pub fn pair(var: Type) -> [SignatureParam; 2] {
    [ParamKind::VarArgs, ParamKind::KwArgs].map(|kind| SignatureParam {
        name: known::EMPTY,
        kind,
        ty: var,
        optional: true,
    })
}

impl TypeContext<'_> {
    /// The variable that ends a signature's parameters, and how many stand before it.
    pub(crate) fn open_end(&self, signature: &Signature) -> Option<(VarId, usize)> {
        let [.., first, second] = signature.params.as_ref() else { return None };
        match (first.kind, second.kind, first.ty) {
            (ParamKind::VarArgs, ParamKind::KwArgs, Type::Var(var))
                if first.ty == second.ty && self.db.store().variable(var).kind == VarKind::Params =>
            {
                Some((var, signature.params.len() - 2))
            }
            _ => None,
        }
    }
}

impl Infer<'_> {
    /// The variable for parameters that an expression names.
    pub(crate) fn parameter_variable(&mut self, expr: ExprId) -> Option<Type> {
        match self.quietly(expr) {
            var @ Type::Var(id) if self.db.store().variable(id).kind == VarKind::Params => Some(var),
            _ => None,
        }
    }

    /// A parameter list: `[int, str]`, `...`, `P`, `Concatenate[int, P]`; `None` where an expression is none.
    pub(crate) fn parameter_list(&mut self, expr: ExprId) -> Option<Type> {
        let store = self.db.store();
        let params: Vec<SignatureParam> = match &self.index.exprs[expr] {
            Expr::List(parts) => parts.iter().map(|part| SignatureParam::placed(self.annotation(*part))).collect(),
            Expr::Ellipsis => return Some(crate::definitions::functions::any_callable(store, Type::Never)),
            Expr::Subscript { value, index, .. } => {
                if self.quietly(*value) != Type::Special(SpecialForm::Concatenate) {
                    return None;
                }
                let items = self.items(*index);
                let (last, first) = items.split_last()?;
                let mut params: Vec<SignatureParam> =
                    first.iter().map(|part| SignatureParam::placed(self.annotation(*part))).collect();
                match self.parameter_list(*last)? {
                    Type::Callable(id) => params.extend(store.signature(id).params.iter().cloned()),
                    _ => return None,
                }
                params
            }
            _ => pair(self.parameter_variable(expr)?).into(),
        };
        Some(Type::Callable(store.intern_signature(Signature { params: params.into(), returns: Type::Never })))
    }

    /// The arguments of a class that has variables for parameters. Where that is its only variable, the brackets around the list may be
    /// left out.
    pub(crate) fn arguments_with_lists(&mut self, kinds: &[VarKind], args: ExprId, items: &[ExprId]) -> Vec<Type> {
        let store = self.db.store();
        if let [VarKind::Params] = kinds {
            let is_list = items.len() == 1 && self.parameter_list(items[0]).is_some();
            if !is_list && !matches!(self.index.exprs[args], Expr::List(_)) {
                let params = items.iter().map(|item| SignatureParam::placed(self.annotation(*item))).collect();
                return vec![Type::Callable(store.intern_signature(Signature { params, returns: Type::Never }))];
            }
        }
        let mut types = Vec::with_capacity(items.len());
        for (place, item) in items.iter().enumerate() {
            types.push(match kinds.get(place) {
                Some(VarKind::Params) => match self.parameter_list(*item) {
                    Some(list) => list,
                    None => match self.annotation(*item) {
                        ty if ty.is_dynamic() => crate::definitions::functions::any_callable(store, Type::Never),
                        ty => ty,
                    },
                },
                _ => self.annotation(*item),
            });
        }
        types
    }
}
