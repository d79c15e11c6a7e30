//! What `del` takes away: items, attributes (data model, `__delitem__`, `__delattr__`; language reference, "The del statement").

use leitmotiv_index::tree::{Expr, ExprId};
use leitmotiv_syntax::names::{Name, known};

use crate::call::{Argument, Bind};
use crate::definitions::classes::members;
use crate::infer::Infer;
use crate::problems::{Access, Fixed, ProblemKind};
use crate::types::Type;

impl Infer<'_> {
    /// Looks at what is deleted.
    pub(crate) fn check_deleted(&mut self, target: ExprId) {
        match self.index.exprs[target] {
            Expr::Subscript { value, index, .. } => self.check_deleted_item(target, value, index),
            Expr::Attribute { value, name, .. } => {
                let ty = self.expr(value);
                if !self.check_kept(target, value, ty, name) {
                    self.expr(target);
                }
            }
            _ => {
                self.expr(target);
            }
        }
    }

    fn check_deleted_item(&mut self, target: ExprId, value: ExprId, index: ExprId) {
        let ty = self.expr(value);
        self.expr(index);
        if self.typed_dict_fields(ty).is_some() {
            if self.typed_dict_item(ty, index).is_some() {
                self.check_item_stays(ty, index, true);
            }
            return;
        }
        let delete = known::DELITEM;
        let parts = crate::types::union::parts(self.db.store(), &ty).to_vec();
        if parts.contains(&Type::None) || self.is_receiver(value) || self.is_ambiguous(value) {
            // What only lets its items be deleted is not asked to give them.
            if self.member(ty, known::GETITEM).is_none() && self.member(ty, delete).is_some() {
                return;
            }
            self.subscript_of(target, ty, index);
            return;
        }
        for part in parts {
            if part.is_dynamic() || part == Type::Never {
                return;
            }
            let Some(method) = self.member(part, delete) else {
                self.problem(target, ProblemKind::IndexUnsupported { object: part, access: Access::Delete });
                return;
            };
            let candidates = self.candidates(method);
            let Err(refusals) = self.choose(&candidates, &[Argument::of_expr(index)]) else { continue };
            let is_generic = self.nominal(part).is_some_and(|id| {
                let class = self.db.store().instance(id).class;
                !crate::definitions::classes::info(self.db, class).params.is_empty()
            });
            // What was only concluded of a container from its first keys need not hold for all.
            if is_generic && !self.is_declared_place(value) || self.is_ambiguous(index) {
                continue;
            }
            if self.refuse_key(target, part, index, &refusals) {
                return;
            }
        }
    }

    /// Reports an attribute that cannot be deleted; whether it did.
    fn check_kept(&mut self, target: ExprId, object: ExprId, ty: Type, name: Name) -> bool {
        let Type::Instance(id) = ty else { return false };
        if self.has_hook(id, known::DELATTR) || self.text(name).starts_with("__") {
            return false;
        }
        let has_deleter = members::find(self.db, id, name, None).is_some_and(|found| {
            let owner = self.db.store().instance(found.owner).class;
            crate::outline::class(self.db, owner).get(name).has_deleter
        });
        let fixed =
            self.fixed(target, object, id, name, false).filter(|(why, _)| *why != Fixed::Property || !has_deleter);
        let Some((why, at)) = fixed.or_else(|| self.kept_property(id, name)) else { return false };
        self.problem(target, ProblemKind::MemberReadonly { object: ty, name, why, at, is_deleted: true });
        true
    }

    /// A property that has a setter and no deleter.
    fn kept_property(&self, id: crate::types::InstanceId, name: Name) -> Option<(Fixed, crate::outline::Site)> {
        let found = members::find(self.db, id, name, None)?;
        let Type::Property(_) = found.member.ty else { return None };
        let owner = self.db.store().instance(found.owner).class;
        let outline = crate::outline::class(self.db, owner).get(name);
        let is_kept = outline.has_setter && !outline.has_deleter;
        is_kept.then(|| (Fixed::Kept, Infer::member_site(self.db, found)))
    }
}
