//! What `isinstance` and `issubclass` are asked about (library reference, "Built-in Functions"; typing specification, "Protocols":
//! `@runtime_checkable`).

use leitmotiv_index::tree::{BinaryOp, ClassForm, Expr, ExprId};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::Name;

use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::problems::{NotClass, ProblemKind, Unusable};
use crate::types::{InstanceId, Type};

impl Infer<'_> {
    /// Reports the second argument of `isinstance` or `issubclass` where it cannot stand there.
    pub(crate) fn check_asked(&mut self, function: Name, asked: ExprId) {
        if !self.checking {
            return;
        }
        let index = self.index;
        match &index.exprs[asked] {
            Expr::Tuple(parts) => parts.iter().for_each(|part| self.check_asked(function, *part)),
            Expr::Binary { op: BinaryOp::BitOr, left, right } => {
                self.check_asked(function, *left);
                self.check_asked(function, *right);
            }
            _ => {
                let ty = self.expr(asked);
                if let Some(why) = self.not_asked(function, asked, ty) {
                    let why = Unusable::NotClass { function, why };
                    self.problem(asked, ProblemKind::Unusable { object: ty, why });
                }
            }
        }
    }

    fn not_asked(&mut self, function: Name, asked: ExprId, ty: Type) -> Option<NotClass> {
        let store = self.db.store();
        match ty {
            Type::Literal(_) | Type::Function(_) | Type::Module(_) => Some(NotClass::Value),
            Type::Form(_) if self.is_alias_name(asked) => Some(NotClass::Alias),
            Type::Form(_) | Type::Class(_) if matches!(self.index.exprs[asked], Expr::Subscript { .. }) => {
                let Expr::Subscript { value, .. } = self.index.exprs[asked] else { return None };
                matches!(self.quietly(value), Type::Class(_)).then_some(NotClass::Arguments)
            }
            Type::Class(id) => {
                let class = store.instance(id).class;
                let info = classes::info(self.db, class);
                let outline = crate::outline::class(self.db, class);
                match info.kind {
                    _ if outline.form == ClassForm::NewType => Some(NotClass::NewType),
                    ClassKind::TypedDict { .. } => Some(NotClass::TypedDict),
                    ClassKind::Protocol if class.file.origin(self.db) != Origin::Bundled => {
                        let mut marks = outline.decorators.iter().filter_map(|mark| mark.bare);
                        if !marks.any(|mark| matches!(self.text(mark), "runtime_checkable" | "runtime")) {
                            return Some(NotClass::Unmarked);
                        }
                        let of_subclasses = self.text(function) == "issubclass";
                        self.data_member(id).filter(|_| of_subclasses).map(NotClass::Data)
                    }
                    _ => None,
                }
            }
            _ => None,
        }
    }

    /// A member of a protocol that is no method.
    fn data_member(&mut self, protocol: InstanceId) -> Option<Name> {
        crate::relate::protocol_members(self.db, protocol).into_iter().find(|name| {
            classes::members::find(self.db, protocol, *name, None)
                .is_some_and(|found| !matches!(found.member.ty, Type::Function(_) | Type::Unknown(_)))
        })
    }
}
