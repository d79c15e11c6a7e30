//! Modules, imports, and what the names of a module mean to others.
//!
//! - [`layout`]: which files there are
//! - [`everywhere`]: what all of the project's files do
//! - [`imports`]: where imports lead
//! - [`symbols`]: what the names of a module mean
//! - [`standard`]: classes of the standard library by name

pub(crate) mod everywhere;
mod imports;
mod layout;
mod standard;
mod symbols;

pub(crate) use self::everywhere::classes_of;
pub use self::everywhere::{is_called, is_provided, own_classes, patching_files};
pub use self::imports::*;
pub use self::layout::{is_namespace, module_file, module_names, project_files, source_beside};
pub use self::standard::*;
pub use self::symbols::*;
