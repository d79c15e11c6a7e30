//! What queries may ask for: the target, and the database as they see it.

use std::path::Path;

use leitmotiv_index::lower::Target;
use leitmotiv_index::tree::Patch;
use leitmotiv_syntax::names::{Name, Names};

use super::file::{Facts, File};
use crate::types::ClassRef;
use crate::types::store::Store;

/// What all modules are checked for.
#[salsa::input(singleton, debug)]
pub struct Config {
    /// Version and platform.
    #[returns(ref)]
    pub target: Target,
}

/// What queries may ask of the database beside its inputs.
#[salsa::db]
pub trait Db: salsa::Database {
    /// What a file is.
    fn facts(&self, file: File) -> &Facts;
    /// Identifiers.
    fn names(&self) -> &Names;
    /// Interned types.
    fn store(&self) -> &Store;
    /// The file that an import leads to; `None` for namespace packages and what cannot be found.
    fn module_file(&self, name: Name, importer: Option<File>) -> Option<File>;
    /// Whether the name is that of a namespace package (PEP 420).
    fn is_namespace(&self, name: Name) -> bool;
    /// Whether the standard library has a top-level module of that name that others are meant to import.
    fn is_standard_name(&self, name: &str) -> bool;
    /// Names of importable top-level modules, for near misses.
    fn module_names(&self) -> Vec<String>;
    /// A class of a bundled module that was asked for before: these are asked for all the time, and never change.
    fn remembered_class(&self, module: Name, name: Name) -> Option<ClassRef>;
    /// Whether there is a file at a path as files of the project are shown.
    fn has_source(&self, shown: &Path) -> bool;
    /// Where files of the project assign an attribute of that name on an object that is not the method's own.
    fn patches(&self, name: Name) -> Vec<(File, Patch)>;
    /// Whether a class of the project gives its objects something of that name, or a name of that attribute is written as a text.
    fn is_provided(&self, name: Name) -> bool;
    /// Whether something of that name is called somewhere in the project, as a class is to make its objects.
    fn is_called(&self, name: Name) -> bool;
    /// The classes of the project's files.
    fn own_classes(&self) -> &[ClassRef];
    /// Remembers a class of a bundled module.
    fn remember_class(&self, module: Name, name: Name, class: ClassRef);
}
