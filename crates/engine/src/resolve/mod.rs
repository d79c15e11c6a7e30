//! Modules, imports, and what the names of a module mean to others.
//!
//! - [`layout`]: which files there are
//! - [`everywhere`]: what all of the project's files do
//! - [`imports`]: where imports lead
//! - [`symbols`]: what the names of a module mean
//! - [`standard`]: classes of the standard library by name

mod everywhere;
mod imports;
mod layout;
mod standard;
mod symbols;

use leitmotiv_index::lower::{Target, index_module};
use leitmotiv_index::tree::ModuleIndex;

pub use self::everywhere::{is_called, is_provided, own_classes, patches};
pub use self::imports::*;
pub use self::layout::{has_source, is_namespace, module_file, module_names, project_files};
pub use self::standard::*;
pub use self::symbols::*;
use crate::base::db::Config;
use crate::base::db::Db;
use crate::base::file::File;

/// What a module's text says about itself.
#[salsa::tracked(returns(ref), no_eq)]
pub fn module_index(db: &dyn Db, file: File) -> ModuleIndex {
    let target = Config::get(db).target(db);
    let target = Target { is_stub: file.is_stub(db), ..target.clone() };
    index_module(file.text(db), db.names(), &target)
}
