//! Class patterns: how many of their parts are given by position (language reference, "Class patterns").

use leitmotiv_index::tree::ExprId;
use leitmotiv_syntax::names::known;

use crate::definitions::classes::{self, ClassKind, dataclass, members};
use crate::infer::Infer;
use crate::problems::{Callee, ProblemKind};
use crate::types::{InstanceId, Type};

/// Built-in classes whose one position is the object itself.
const OF_THEMSELVES: &[&str] =
    &["bool", "bytearray", "bytes", "dict", "float", "frozenset", "int", "list", "set", "str", "tuple"];

impl Infer<'_> {
    /// Looks at how many parts of a class pattern are given by position.
    pub(crate) fn check_positions(&mut self, at: ExprId, class: Type, given: usize) {
        let Type::Class(id) = class else { return };
        if given == 0 {
            return;
        }
        let Some(taken) = self.positions_of(id) else { return };
        if given > taken {
            let shown = classes::shown(self.db, self.db.store().instance(id).class).to_owned();
            let callee = Callee { shown, at: None, param: None };
            self.problem(at, ProblemKind::CallSurplus { callee, taken, given });
        }
    }

    /// How many parts of an object a pattern may give by position; `None` where that cannot be told.
    fn positions_of(&self, id: InstanceId) -> Option<usize> {
        let db = self.db;
        let store = db.store();
        let class = store.instance(id).class;
        let info = classes::info(db, class);
        if info.unknown_base.is_some()
            || info.kind == ClassKind::Protocol
            || classes::is_remade(db, class.file, class.class)
        {
            return None;
        }
        let name = db.names().intern("__match_args__");
        for entry in &info.mro {
            let of = store.instance(*entry).class;
            if crate::resolve::is_builtin(db, of, known::OBJECT) {
                return Some(0);
            }
            if OF_THEMSELVES.iter().any(|name| crate::resolve::is_builtin(db, of, db.names().intern(name))) {
                return Some(1);
            }
            if let Some(member) = members::own_member(db, of.file, of.class, name) {
                let Type::Tuple(tuple) = member.ty else { return None };
                let tuple = store.tuple(tuple);
                return tuple.rest.is_none().then_some(tuple.prefix.len());
            }
            let info = classes::info(db, of);
            if info.kind == ClassKind::NamedTuple {
                return Some(dataclass::all_fields(db, of).len());
            }
            if let Some(options) = info.dataclass {
                if options.transform.is_some() {
                    return None;
                }
                if options.match_args {
                    let fields = dataclass::all_fields(db, of);
                    return Some(
                        fields.iter().filter(|field| field.init && !field.kw_only && !field.is_passed_on).count(),
                    );
                }
            }
            // What our stubs say of `__match_args__` is not all.
            if of.file.is_stub(db) && of.file.module(db) != known::TYPING {
                return None;
            }
        }
        None
    }
}
