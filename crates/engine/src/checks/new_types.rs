//! What `NewType` is called with (typing specification, "Type aliases": NewType).

use leitmotiv_index::tree::{ClassForm, ClassId};

use super::annotations::Site;
use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::problems::{BadBase, BadScope, ProblemKind};
use crate::types::substitute::variables;
use crate::types::{InstanceId, Type};

impl Infer<'_> {
    /// Looks at the class that a new type is made of: one that objects are made of, with its arguments given.
    pub(crate) fn check_new_type(&mut self, class: ClassId) {
        let record = &self.index.classes[class];
        let [base] = record.args.as_ref() else { return };
        let at = base.value;
        self.check_form(at, Site::Inner);
        let ty = self.annotation(at);
        let is_made = match ty {
            Type::Instance(id) => {
                let info = classes::info(self.db, self.db.store().instance(id).class);
                !matches!(info.kind, ClassKind::Protocol | ClassKind::TypedDict { .. })
            }
            Type::Tuple(_) | Type::Unknown(_) => true,
            _ => false,
        };
        if !is_made {
            self.problem(at, ProblemKind::ClassBase { base: ty, why: BadBase::NotBelow });
        } else if let Some(var) = variables(self.db.store(), ty).first() {
            self.problem(at, ProblemKind::GenericScope { var: *var, why: BadScope::Unbound });
        }
    }

    /// Whether a class is made by `NewType`, and is none as the program runs.
    pub(crate) fn is_new_type(&self, id: InstanceId) -> bool {
        let class = self.db.store().instance(id).class;
        crate::outline::class(self.db, class).form == ClassForm::NewType
    }
}
