//! Arguments behind `*` and `**` (language reference, "Calls").

use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId};
use leitmotiv_syntax::names::known;

use super::bind::{Argument, ArgumentKind};
use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::problems::{ProblemKind, Unusable};
use crate::types::{Literal, Type};

/// What stands behind `*`.
pub(crate) enum Spread {
    /// So many values, one by one.
    Items(Vec<Argument>),
    /// Any number of values of a type; whether somebody said that type.
    Many(Type, bool),
}

impl Infer<'_> {
    /// What an argument behind `*` gives.
    pub(crate) fn spread(&mut self, argument: Argument) -> Spread {
        let index = self.index;
        if let Some(expr) = argument.expr
            && let Expr::Tuple(parts) | Expr::List(parts) = &index.exprs[expr]
            && !parts.iter().any(|part| matches!(index.exprs[*part], Expr::Starred(_)))
        {
            return Spread::Items(parts.iter().map(|part| Argument::of_expr(*part)).collect());
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
        is_known && argument.expr.is_some_and(|expr| self.is_said(expr) && self.says_items(expr))
    }

    /// What an argument behind `**` gives name by name, and whether each is surely there; `None` where the names cannot be
    /// told.
    pub(crate) fn spread_names(&mut self, argument: Argument) -> Option<Vec<(Argument, bool)>> {
        let index = self.index;
        let expr = argument.expr?;
        if let Expr::Dict(items) = &index.exprs[expr] {
            let named = items.iter().map(|(key, value)| match key.map(|key| &index.exprs[key]) {
                Some(Expr::Str(Some(name))) => {
                    Some((Argument { kind: ArgumentKind::Keyword(*name), ..Argument::of_expr(*value) }, true))
                }
                _ => None,
            });
            return named.collect();
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
    pub(crate) fn spread_values(&mut self, argument: Argument) -> Option<Type> {
        let ty = self.argument_type(argument);
        let (_, value) = self.mapping_parts(ty);
        self.is_sure(argument, value).then_some(value)
    }

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
        let is_none = parts.iter().all(|part| {
            self.member(*part, known::GETITEM).is_none() || self.member(*part, self.db.names().intern("keys")).is_none()
        });
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
