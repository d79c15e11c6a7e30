//! Displays that are to become typed dictionaries, item by item (typing specification, "Typed dictionaries").

use leitmotiv_index::tree::{Expr, ExprId};
use leitmotiv_syntax::names::Name;

use super::Infer;
use crate::definitions::classes::{self, ClassKind, dataclass};
use crate::types::{InstanceId, Literal, Type};

/// Why a display is not the typed dictionary that it is to be.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ItemFlaw {
    /// A key that must be there is not.
    Lacks(Name),
    /// A key that the typed dictionary does not have.
    Surplus(Name),
    /// A key that is no constant text.
    Key,
    /// A value that does not fit: its key, what the item holds, the value.
    Value { key: Name, expected: Type, value: ExprId },
}

impl Infer<'_> {
    /// What keeps a display from being a typed dictionary; `None` where nothing does.
    pub(crate) fn item_flaw(&mut self, want: InstanceId, parts: &[(Option<ExprId>, ExprId)]) -> Option<ItemFlaw> {
        let fields = dataclass::fields_of(self.db, want);
        let mut seen: Vec<Name> = Vec::with_capacity(parts.len());
        for (key, value) in parts {
            // `**other` may bring any of them.
            let key = (*key)?;
            let Type::Literal(literal) = self.expr(key) else { return None };
            let Literal::Str(key) = *self.db.store().literal(literal) else { return Some(ItemFlaw::Key) };
            let Some(field) = fields.iter().find(|field| field.name == key) else {
                return Some(ItemFlaw::Surplus(key));
            };
            if !self.fits(*value, field.ty) {
                return Some(ItemFlaw::Value { key, expected: field.ty, value: *value });
            }
            seen.push(key);
        }
        let lacking = fields.iter().find(|field| !field.optional && !seen.contains(&field.name))?;
        Some(ItemFlaw::Lacks(lacking.name))
    }

    /// The same for an expression that is to be of some type; `None` where it is no display or that no typed dictionary.
    pub(crate) fn flaw_of(&mut self, expr: ExprId, expected: Type) -> Option<ItemFlaw> {
        let Expr::Dict(parts) = &self.index.exprs[expr] else { return None };
        let Type::Instance(id) = expected else { return None };
        let class = self.db.store().instance(id).class;
        if !matches!(classes::info(self.db, class).kind, ClassKind::TypedDict { .. }) {
            return None;
        }
        self.item_flaw(id, parts)
    }
}
