//! Outlines of bundled stubs. They never change and are asked for all the time, so that they are kept beside the database's own
//! tables: who reads them need not be noted.

use std::sync::OnceLock;

use leitmotiv_index::tree::{ClassId, FunctionId};
use leitmotiv_project::resolve::Origin;
use rustc_hash::FxHashMap;

use super::{ClassOutline, FunctionOutline, module_index};
use crate::base::db::Db;
use crate::base::file::File;

/// The outlines of one stub, each made when it is first asked for.
struct Outlines {
    classes: FxHashMap<ClassId, OnceLock<ClassOutline>>,
    functions: FxHashMap<FunctionId, OnceLock<FunctionOutline>>,
}

/// Those of a bundled stub; `None` for any other file.
fn of(db: &dyn Db, file: File) -> Option<&Outlines> {
    let facts = db.facts(file);
    if facts.origin != Origin::Bundled {
        return None;
    }
    facts.kept.get(|| {
        let index = module_index(db, file);
        Outlines {
            classes: index.classes.iter().map(|(class, _)| (class, OnceLock::new())).collect(),
            functions: index.functions.iter().map(|(function, _)| (function, OnceLock::new())).collect(),
        }
    })
}

/// The outline of a class of a bundled stub.
pub(super) fn class(
    db: &dyn Db,
    file: File,
    class: ClassId,
    make: impl FnOnce() -> ClassOutline,
) -> Option<&ClassOutline> {
    Some(of(db, file)?.classes.get(&class)?.get_or_init(make))
}

/// The outline of a function of a bundled stub.
pub(super) fn function(
    db: &dyn Db,
    file: File,
    function: FunctionId,
    make: impl FnOnce() -> FunctionOutline,
) -> Option<&FunctionOutline> {
    Some(of(db, file)?.functions.get(&function)?.get_or_init(make))
}
