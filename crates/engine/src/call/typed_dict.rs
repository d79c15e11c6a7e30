//! Methods of typed dictionaries, whose results depend on the key (typing specification, "Typed dictionaries").

use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId};

use crate::infer::Infer;
use crate::types::Type;

impl Infer<'_> {
    /// `fare.get("child")`, `fare.get("child", 0.0)`, `fare.setdefault("child", 0.0)`, `fare.pop("child")`.
    pub(super) fn typed_dict_call(&mut self, callee: ExprId, args: &[Arg]) -> Option<Type> {
        let Expr::Attribute { value, name, .. } = self.index.exprs[callee] else { return None };
        let (key, default) = match args {
            [key] => (key, None),
            [key, default] => (key, Some(default)),
            _ => return None,
        };
        let are_placed = args.iter().all(|arg| arg.kind == ArgKind::Positional);
        if !are_placed || !matches!(self.index.exprs[key.value], Expr::Str(Some(_))) {
            return None;
        }
        let method = self.text(name);
        let may_be_absent = match method {
            "get" => true,
            "pop" | "setdefault" => false,
            _ => return None,
        };
        let object = self.expr(value);
        let (item, optional) = self.typed_dict_field(object, key.value)?;
        // The method itself must still be looked at, for what may be wrong with it.
        self.expr(callee);
        self.expr(key.value);
        let default = default.map(|default| {
            if self.fits(default.value, item) {
                return item;
            }
            let ty = self.expr(default.value);
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

    /// What a typed dictionary holds at a key, and whether the key may be absent.
    pub(crate) fn typed_dict_field(&self, object: Type, key: ExprId) -> Option<(Type, bool)> {
        let Type::Instance(id) = object else { return None };
        let Expr::Str(Some(key)) = self.index.exprs[key] else { return None };
        let class = self.db.store().instance(id).class;
        let kind = crate::classes::info(self.db, class).kind;
        if !matches!(kind, crate::classes::ClassKind::TypedDict { .. }) {
            return None;
        }
        let given = crate::classes::class_arguments(self.db, id);
        let fields = crate::classes::dataclass::all_fields(self.db, class);
        let field = fields.iter().find(|field| field.name == key)?;
        Some((given.apply(self.db.store(), field.ty), field.optional))
    }
}
