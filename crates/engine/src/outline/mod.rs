//! What files say of themselves, and what of it other files may see.
//!
//! A file's [`module_index`] changes with every edit of its text, in numbers and places if in nothing else. So only queries of
//! that file read it: those that are given the file, and a thing in it, and answer with types or with an outline. What another
//! file wants to know it asks by these queries, whose answers hold no ranges and no numbers of expressions; where an answer is
//! the same after an edit, nobody who asked works anything out again.
//!
//! - [`functions`]: functions, and how they are bound and overloaded
//! - [`classes`]: classes, and the names that they have
//! - [`names`]: the names of a module
//! - [`places`]: where something stands, and what stands there
//! - [`bundled`]: outlines of bundled stubs, which never change
//!
//! Debug builds hold everybody to it, see [`reading`].

mod bundled;
pub mod classes;
pub mod functions;
pub mod names;
pub mod places;

use leitmotiv_index::lower::{Target, index_module};
use leitmotiv_index::tree::ModuleIndex;

pub use self::classes::{ClassOutline, class, class_name};
pub use self::functions::{FunctionOutline, function};
pub use self::names::{ModuleName, module_name};
pub use self::places::{Site, range_of};
use crate::base::asked::{Ask, Frame, frame, saw, telling};
use crate::base::db::{Config, Db};
use crate::base::file::File;

/// What a module's text says about itself. For queries of that file, see [`reading`], and for those that ask from outside of all
/// queries.
#[cfg_attr(debug_assertions, track_caller)]
pub fn module_index(db: &dyn Db, file: File) -> &ModuleIndex {
    #[cfg(debug_assertions)]
    discipline::check(db, file);
    saw(db, file, Ask::Text);
    indexed(db, file)
}

#[salsa::tracked(returns(ref), no_eq)]
fn indexed(db: &dyn Db, file: File) -> ModuleIndex {
    let target = Config::get(db).target(db);
    let target = Target { is_stub: file.is_stub(db), ..target.clone() };
    index_module(file.text(db), db.names(), &target)
}

/// Says that the query that runs is one of a file: until what is given back is dropped, only that file's index may be read, and those of
/// bundled stubs, which never change; and what is asked of others is written down as asked by that file, where that is done.
pub(crate) fn reading(db: &dyn Db, file: File) -> Reading {
    #[cfg(debug_assertions)]
    {
        assert!(crate::base::asked::is_said(db, file), "nobody said that something is asked of {}", file.path(db));
        discipline::enter(Some(file));
    }
    Reading(frame(db, file))
}

/// As [`reading`], for queries that only what is told of the file hangs on.
pub(crate) fn reading_to_tell(db: &dyn Db, file: File) -> Reading {
    #[cfg(debug_assertions)]
    discipline::enter(Some(file));
    Reading(telling(db, file))
}

/// Says that the query that runs tells what is found in a file, and may read the index of any other: it is asked again after every edit of
/// those that it reads.
pub(crate) fn reading_all(db: &dyn Db, file: File) -> Reading {
    #[cfg(debug_assertions)]
    discipline::enter(None);
    Reading(telling(db, file))
}

/// How long it holds what [`reading`] says.
#[must_use]
pub(crate) struct Reading(#[allow(dead_code, reason = "kept until it is dropped")] Frame);

#[cfg(debug_assertions)]
impl Drop for Reading {
    fn drop(&mut self) {
        discipline::leave();
    }
}

#[cfg(debug_assertions)]
mod discipline {
    use std::cell::RefCell;

    use leitmotiv_project::resolve::Origin;

    use super::{Db, File};

    thread_local! {
        /// Whose queries are running on this thread, the innermost last; `None` for one that may read all.
        static OPEN: RefCell<Vec<Option<File>>> = const { RefCell::new(Vec::new()) };
    }

    pub(super) fn enter(file: Option<File>) {
        OPEN.with_borrow_mut(|open| open.push(file));
    }

    pub(super) fn leave() {
        OPEN.with_borrow_mut(|open| open.pop());
    }

    #[track_caller]
    pub(super) fn check(db: &dyn Db, file: File) {
        let running = OPEN.with_borrow(|open| open.last().copied().flatten());
        let may = running.is_none_or(|running| running == file) || file.origin(db) == Origin::Bundled;
        assert!(may, "a query of another file reads the index of {}", file.path(db));
    }
}
