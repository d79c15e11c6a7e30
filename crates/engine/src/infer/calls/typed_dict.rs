//! Methods of typed dictionaries, whose results depend on the key (typing specification, "Typed dictionaries").

use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId};

use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::types::Type;

impl Infer<'_> {
    /// `fare.get("child")`, `fare.get("child", 0.0)`, `fare.setdefault("child", 0.0)`, `fare.pop("child")`.
    pub(crate) fn typed_dict_call(&mut self, callee: ExprId, args: &[Arg]) -> Option<Type> {
        let Expr::Attribute { value, name, .. } = self.index.exprs[callee] else { return None };
        let (key, default) = match args {
            [key] => (key, None),
            [key, default] => (key, Some(default)),
            _ => return None,
        };
        let are_placed = args.iter().all(|arg| arg.kind == ArgKind::Positional);
        if !are_placed {
            return None;
        }
        let method = self.db.names().text(name);
        if let ("update", None) = (method, default) {
            self.typed_dict_update(value, key.value);
            return None;
        }
        let may_be_absent = match method {
            "get" => true,
            "pop" | "setdefault" => false,
            _ => return None,
        };
        let object = self.expr(value);
        let fields = self.typed_dict_fields(object)?;
        if method == "pop" {
            self.check_item_stays(object, key.value, true);
        }
        let text = self.text_literal(key.value)?;
        if matches!(method, "pop" | "setdefault") && !fields.iter().any(|field| field.name == text) {
            self.typed_dict_item(object, key.value);
        }
        let (item, optional) =
            fields.iter().find(|field| field.name == text).map(|field| (field.ty, field.optional))?;
        // The method itself must still be looked at, for what may be wrong with it.
        self.expr(callee);
        self.expr(key.value);
        let default = default.map(|default| {
            if self.fits(default.value, item) {
                return item;
            }
            let ty = self.expr(default.value);
            if method == "setdefault" {
                let kind = ProblemKind::ValueItem { object, expected: item, given: ty, is_key: false };
                self.problem(default.value, kind);
            }
            self.widen(ty)
        });
        if let Some(default) = args.get(1) {
            self.expr(default.value);
        }
        Some(match default {
            Some(default) => self.join([item, default]),
            None if may_be_absent && optional => self.join([item, Type::None]),
            None => item,
        })
    }

    /// `fare.update({"child": 2.0})`: each item is looked at as if it were assigned.
    fn typed_dict_update(&mut self, object: ExprId, other: ExprId) {
        let object = self.expr(object);
        self.typed_dict_changed(object, other);
    }

    /// `fare | {"child": 2.0}` is such a dictionary again, where each item fits.
    pub(crate) fn typed_dict_with(&mut self, object: Type, other: ExprId) -> Option<Type> {
        let fields = self.typed_dict_fields(object)?;
        let Expr::Dict(items) = &self.index.exprs[other] else {
            let given = self.expr(other);
            return (given == object).then_some(object);
        };
        let fits = items.iter().all(|(key, value)| {
            let Some(key) = key.and_then(|key| self.text_literal(key)) else { return false };
            fields.iter().any(|field| field.name == key && self.fits(*value, field.ty))
        });
        fits.then_some(object)
    }

    /// Looks at what is put into a typed dictionary all at once: each item as if it were assigned.
    pub(crate) fn typed_dict_changed(&mut self, object: Type, other: ExprId) {
        let Expr::Dict(items) = &self.index.exprs[other] else { return };
        if self.typed_dict_fields(object).is_none() {
            return;
        }
        for (key, value) in items.iter().filter_map(|(key, value)| Some(((*key)?, *value))) {
            let Some(expected) = self.typed_dict_item(object, key) else { continue };
            if self.check_item_stays(object, key, false) {
                continue;
            }
            if !self.fits(value, expected) {
                let given = self.expr(value);
                self.problem(value, ProblemKind::ValueItem { object, expected, given, is_key: false });
            }
        }
    }
}
