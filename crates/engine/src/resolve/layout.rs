//! What depends on which files there are. These queries alone look at the disk, after [`Layout::revision`]: when files come or go they
//! look again, and where the answer is the same nothing that asked for it is worked out anew.

use std::sync::Arc;

use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::Name;

use crate::base::asked::{AskAll, saw_of_all};
use crate::base::db::{Db, Layout, Located};
use crate::base::file::File;

/// The file that an import leads to; `None` for namespace packages and what cannot be found. Bundled stubs import each other, whatever
/// a project calls its modules.
pub fn module_file(db: &dyn Db, name: Name, importer: Option<File>) -> Option<File> {
    if importer.is_some_and(|importer| importer.origin(db) == Origin::Bundled)
        && let Some(file) = db.bundled(name)
    {
        return Some(file);
    }
    match located(db, name, importer)? {
        Located::File(file) => Some(file),
        Located::Namespace => None,
    }
}

/// Whether the name is that of a namespace package (PEP 420).
pub fn is_namespace(db: &dyn Db, name: Name) -> bool {
    matches!(located(db, name, None), Some(Located::Namespace))
}

/// Where a name leads. Own files also import what lies beside them, or what is outermost around them.
fn located(db: &dyn Db, name: Name, importer: Option<File>) -> Option<Located> {
    let facts = importer.filter(|file| file.origin(db).is_own()).map(|file| db.facts(file));
    let root = facts.and_then(|facts| facts.root_name);
    saw_of_all(db, AskAll::Located(name, root));
    located_from(db, Layout::get(db), name, root)
}

#[salsa::tracked(returns(copy))]
fn located_from(db: &dyn Db, layout: Layout, name: Name, root: Option<Name>) -> Option<Located> {
    let _ = layout.revision(db);
    db.locate(name, root)
}

/// The files of the project, by path.
pub fn project_files(db: &dyn Db) -> &[File] {
    listed_files(db, Layout::get(db))
}

#[salsa::tracked(returns(deref))]
fn listed_files(db: &dyn Db, layout: Layout) -> Arc<[File]> {
    let _ = layout.revision(db);
    db.list_project()
}

/// Names of top-level modules that could be imported, for near misses, sorted.
pub fn module_names(db: &dyn Db) -> &[String] {
    saw_of_all(db, AskAll::Modules);
    listed_modules(db, Layout::get(db))
}

#[salsa::tracked(returns(deref))]
fn listed_modules(db: &dyn Db, layout: Layout) -> Arc<[String]> {
    let _ = layout.revision(db);
    db.list_modules()
}

/// The source that a stub of the project stands beside.
pub fn source_beside(db: &dyn Db, stub: File) -> Option<File> {
    saw_of_all(db, AskAll::Beside(stub));
    source_beside_query(db, stub)
}

#[salsa::tracked(returns(copy))]
fn source_beside_query(db: &dyn Db, stub: File) -> Option<File> {
    let _ = Layout::get(db).revision(db);
    db.source_beside(stub)
}
