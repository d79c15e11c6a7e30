//! Protocols (PEP 544): a class fits if it has all members. Their types are compared where they are methods without
//! variables; everything finer is left to a later reading, and fits.

use leitmotiv_syntax::names::{Name, known};

use crate::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::types::{InstanceId, Type};

impl Infer<'_> {
    pub(super) fn fits_protocol(&self, given: Type, expected: InstanceId, depth: u32) -> bool {
        let db = self.db;
        let store = db.store();
        let mut infer = Infer::new(db, self.file, self.body);
        for name in protocol_members(self, expected) {
            if name == known::HASH {
                // Nearly everything can be hashed; what cannot says so by `None`.
                continue;
            }
            if name == known::ITER
                && infer.member(given, name).is_none()
                && infer.member(given, known::GETITEM).is_some()
            {
                // Iteration by index, as it was before there were iterators, still works (language reference, "__iter__").
                continue;
            }
            let Some(member) = infer.member(given, name) else { return false };
            if member == Type::None {
                return false;
            }
        }
        // Elements, where both sides say what they are.
        let want = store.instance(expected);
        if let [wanted] = want.args.as_ref()
            && matches!(
                classes::shown(db, want.class),
                "Iterable" | "Iterator" | "Collection" | "Reversible" | "Container"
            )
            && let Some(element) = infer.element(given, false)
        {
            return self.fits_within(element, *wanted, depth);
        }
        true
    }

    /// What stands for a protocol's variables when a type is used as that protocol.
    pub(crate) fn protocol_arguments(&mut self, given: Type, protocol: InstanceId) -> Vec<(Type, Type)> {
        let db = self.db;
        let store = db.store();
        let class = store.instance(protocol).class;
        let info = classes::info(db, class);
        let vars: Vec<Type> = info.params.iter().map(|var| Type::Var(*var)).collect();
        let generic = crate::module::instance_of(db, class, &vars);
        let mut pairs = Vec::new();
        for name in protocol_members(self, generic) {
            let Some(have) = self.member(given, name) else { continue };
            let Some(want) = self.member(Type::Instance(generic), name) else { continue };
            let (have, want) = (self.result_of(have), self.open_result_of(want));
            pairs.push((want, have));
        }
        pairs
    }
}

/// The members that a protocol asks for, its bases' included.
fn protocol_members(infer: &Infer<'_>, protocol: InstanceId) -> Vec<Name> {
    let db = infer.db;
    let store = db.store();
    let mut all = Vec::new();
    for entry in &classes::info(db, store.instance(protocol).class).mro {
        let class = store.instance(*entry).class;
        if classes::info(db, class).kind != ClassKind::Protocol {
            continue;
        }
        let index = crate::module::module_index(db, class.file);
        let scope = &index.scopes[index.classes[class.class].scope];
        let mut own: Vec<(leitmotiv_index::tree::DefId, Name)> =
            scope.symbols.iter().filter_map(|(name, symbol)| symbol.defs.first().map(|def| (*def, *name))).collect();
        own.sort_by_key(|(def, _)| *def);
        for (_, name) in own {
            let text = db.names().text(name);
            if !all.contains(&name) && !matches!(text, "__slots__" | "__doc__" | "__module__" | "__class_getitem__") {
                all.push(name);
            }
        }
    }
    all
}
