//! Members that objects may have without being seen: from bases that are not known, made as the program runs, left out by our stubs.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ClassId, DefId, DefKind, Expr, ModuleIndex};
use leitmotiv_syntax::names::{Name, known};

use super::info;
use super::members::Found;
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::{self, module_index, reading};
use crate::types::{Cause, CauseKind, ClassRef, InstanceId, Type};

/// Whether members may exist that cannot be seen: from an unknown base, or made as the program runs.
pub fn unseen(db: &dyn Db, class: ClassRef) -> Option<crate::types::CauseId> {
    let class_info = info(db, class);
    if class_info.unknown_base.is_some() {
        return class_info.unknown_base;
    }
    class_info.maker.map(|maker| {
        let name = outline::class_name(db, maker);
        let cause = Cause { kind: CauseKind::Dynamic, file: maker.file, at: Anchor::Class(maker.class), name };
        db.store().intern_cause(cause)
    })
}

/// Modules whose classes have no state of their own that a subclass could ask for.
const WITHOUT_STATE: &[&str] =
    &["abc", "builtins", "collections", "collections.abc", "enum", "typing", "typing_extensions"];

/// Whether a metaclass of the source may give its classes an attribute as they are made: it has a say in that, and special methods are
/// looked up past it.
pub(super) fn makes_members(db: &dyn Db, class: ClassRef, name: Name) -> bool {
    let Some(metaclass) = info(db, class).metaclass.filter(|metaclass| !metaclass.file.is_stub(db)) else {
        return false;
    };
    let makes = ["__new__", "__init__", "__call__", "__prepare__", "__setattr__"];
    let is_made = |entry: &InstanceId| {
        let entry = db.store().instance(*entry).class;
        let outline = outline::class(db, entry);
        !entry.file.is_stub(db)
            && (outline.makes_attributes
                || makes.iter().any(|name| db.names().find(name).is_some_and(|name| outline.get(name).in_body)))
    };
    let metaclass = info(db, metaclass);
    !super::special_names::is_special(db.names().text(name))
        && (metaclass.unknown_base.is_some() || metaclass.mro.iter().any(is_made))
}

/// A private name of a class of our stubs, which leave those out, or of one that derives from such.
pub(super) fn hidden_member(db: &dyn Db, class: ClassRef, name: Name) -> Option<Type> {
    let text = db.names().text(name);
    let is_bundled = |class: ClassRef| class.file.origin(db) == leitmotiv_project::resolve::Origin::Bundled;
    let is_hidden = text.starts_with('_')
        && !text.starts_with("__")
        && !crate::resolve::is_builtin(db, class, known::OBJECT)
        && (is_bundled(class)
            || info(db, class).mro.iter().any(|entry| {
                let base = db.store().instance(*entry).class;
                is_bundled(base) && !WITHOUT_STATE.contains(&db.names().text(base.file.module(db)))
            }));
    is_hidden.then(|| Type::Unknown(db.store().intern_cause(dynamic_cause(class, name))))
}

/// Whether the result of a function is declared, or what it is of is none.
pub(super) fn is_said(db: &dyn Db, ty: Type) -> bool {
    let Type::Function(id) = ty else { return true };
    let function = *db.store().function(id);
    crate::definitions::functions::declared(db, function.file, function.function).returns.is_some()
}

/// The cause of a member that depends on which class is meant.
pub(super) fn dynamic_cause(class: ClassRef, name: Name) -> Cause {
    Cause { kind: CauseKind::Dynamic, file: class.file, at: Anchor::Class(class.class), name }
}

/// Whether a class names an attribute in `__slots__` (data model, "__slots__").
pub fn has_slot(db: &dyn Db, instance: InstanceId, name: Name) -> bool {
    let info = info(db, db.store().instance(instance).class);
    info.has_slots
        && info.mro.iter().any(|entry| {
            let class = db.store().instance(*entry).class;
            outline::class(db, class).slots.may_have(name)
        })
}

/// Whether the objects of a class may have another value for an attribute, by `setattr(self, …)` under names that cannot be
/// read: what the body of any of its classes gives, and what methods of the class that does so give, unless that was declared.
pub(super) fn is_replaceable(db: &dyn Db, class: ClassRef, found: &Found, name: Name) -> bool {
    let owner = db.store().instance(found.owner).class;
    if info(db, class).maker.is_none() {
        return false;
    }
    let outline = outline::class(db, owner);
    if outline.makes_attributes {
        return !is_given_by_declared(db, owner.file, owner.class, name);
    }
    !outline.get(name).by_methods
}

/// Where methods give an attribute its values, if the class's body gives it none.
fn given_by_methods(index: &ModuleIndex, class: ClassId, name: Name) -> Option<&[DefId]> {
    let record = &index.classes[class];
    let is_of_body = index.scopes[record.scope].symbols.contains_key(&name);
    record.attributes.get(&name).filter(|_| !is_of_body).map(|defs| defs.as_slice())
}

/// Whether methods give an attribute nothing but parameters that are annotated, and a class's body nothing.
pub(crate) fn is_given_by_parameters(db: &dyn Db, file: File, class: ClassId, name: Name) -> bool {
    saw(db, file, Ask::IsGivenByParameters(class, name));
    is_given_by_parameters_query(db, file, class, name)
}

#[salsa::tracked(returns(copy))]
fn is_given_by_parameters_query(db: &dyn Db, file: File, class: ClassId, name: Name) -> bool {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    given_by_methods(index, class, name).is_some_and(|defs| {
        defs.iter().all(|def| {
            let DefKind::Assign { value, unpack: None, comment: None } = index.defs[*def].kind else { return false };
            let Expr::Name(_, value) = index.exprs[value] else { return false };
            let leitmotiv_index::tree::Value::Def(param) = index.values[value] else { return false };
            matches!(index.defs[param].kind, DefKind::Param { function, index: place }
                if index.functions[function].params[place as usize].annotation.is_some())
        })
    })
}

/// Whether methods give an attribute its value, each time one that was declared, and not only None.
pub(crate) fn is_given_by_declared(db: &dyn Db, file: File, class: ClassId, name: Name) -> bool {
    saw(db, file, Ask::IsGivenByDeclared(class, name));
    is_given_by_declared_query(db, file, class, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| false)]
fn is_given_by_declared_query(db: &dyn Db, file: File, class: ClassId, name: Name) -> bool {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    given_by_methods(index, class, name).is_some_and(|defs| {
        defs.iter().all(|def| match index.defs[*def].kind {
            DefKind::Assign { value, unpack: None, .. } => {
                matches!(index.exprs[value], Expr::Name(..))
                    && Infer::new(db, file, index.defs[*def].body).is_said(value)
            }
            _ => false,
        })
    })
}
