//! Arguments behind `*` and `**` (language reference, "Calls").

use super::arguments::{Argument, ArgumentKind, Caller};
use crate::definitions::classes::{self, ClassKind};
use crate::types::Type;

/// What stands behind `*`.
pub(crate) enum Spread {
    /// So many values, one by one.
    Items(Vec<Argument>),
    /// Any number of values of a type; whether somebody said that type.
    Many(Type, bool),
}

/// What stands behind `*` and `**`, whoever calls.
pub(crate) trait Spreads<'db>: Caller<'db> {
    /// What an argument behind `*` gives.
    fn spread(&mut self, argument: Argument) -> Spread {
        if let Some(parts) = self.displayed(&argument) {
            return Spread::Items(parts);
        }
        let ty = self.argument_type(argument);
        // A tuple's elements are as good as written out.
        if let Some(id) = self.tuple_shape(ty)
            && self.db.store().tuple(id).rest.is_none()
        {
            return Spread::Items(self.db.store().tuple(id).prefix.iter().map(|ty| Argument::of_type(*ty)).collect());
        }
        match self.open_places(ty) {
            Some(all) => Spread::Many(all, false),
            None => {
                let element = self.element(ty, false).unwrap_or(Type::Any);
                Spread::Many(element, self.is_sure(argument, element))
            }
        }
    }

    /// Whether somebody said what a container's elements are, and all of that is known.
    fn is_sure(&mut self, argument: Argument, element: Type) -> bool {
        let parts = crate::types::union::parts(self.db.store(), &element);
        let is_known = !parts.is_empty() && !parts.iter().any(|part| part.is_dynamic() || matches!(part, Type::Var(_)));
        is_known && self.says(&argument) && self.says_items_of(&argument)
    }

    /// What an argument behind `**` gives name by name, and whether each is surely there; `None` where the names cannot be
    /// told.
    fn spread_names(&mut self, argument: Argument) -> Option<Vec<(Argument, bool)>> {
        argument.expr?;
        if let Some(named) = self.displayed_by_name(&argument) {
            return named.map(|items| items.into_iter().map(|item| (item, true)).collect());
        }
        let Type::Instance(id) = self.argument_type(argument) else { return None };
        let class = self.db.store().instance(id).class;
        if !matches!(classes::info(self.db, class).kind, ClassKind::TypedDict { .. }) {
            return None;
        }
        let fields = classes::dataclass::fields_of(self.db, id).into_iter();
        Some(
            fields
                .map(|field| {
                    let kind = ArgumentKind::Keyword(field.name);
                    (Argument { kind, ..Argument::of_type(field.ty) }, !field.optional)
                })
                .collect(),
        )
    }

    /// The type of the values of a mapping behind `**`, where somebody said it.
    fn spread_values(&mut self, argument: Argument) -> Option<Type> {
        let ty = self.argument_type(argument);
        let (_, value) = self.mapping_parts(ty);
        self.is_sure(argument, value).then_some(value)
    }
}

impl<'db, C: Caller<'db>> Spreads<'db> for C {}
