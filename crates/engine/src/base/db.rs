//! What queries may ask for: what all modules are checked for, which files there are, and the database as queries see it.

use std::sync::Arc;

use leitmotiv_index::lower::Target;
use leitmotiv_syntax::names::{Name, Names};

use super::asked::{Ask, Recorder};
use super::file::{Facts, File};
use super::stored::Answer;
use crate::types::ClassRef;
use crate::types::store::Store;

/// What all modules are checked for.
#[salsa::input(singleton, debug)]
pub struct Config {
    /// Version and platform.
    #[returns(ref)]
    pub target: Target,
}

/// Which files there are: in the project, and in the folders that imports look into.
///
/// The folders themselves are no inputs. Queries that look into them, those of [`crate::resolve::layout`], read the revision, which
/// rises whenever a file may have come or gone, and give the same answer again where it concerns them not.
#[salsa::input(singleton, debug)]
pub struct Layout {
    /// How often files came or went.
    pub revision: u32,
}

/// Which rules nobody asks for: their problems are dropped before there are words for them.
#[salsa::input(singleton, debug)]
pub struct Unasked {
    /// Their slugs, sorted.
    #[returns(ref)]
    pub rules: Vec<&'static str>,
}

/// Where a module's name leads.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Located {
    /// To a file.
    File(File),
    /// To a namespace package (PEP 420).
    Namespace,
}

/// What queries may ask of the database beside its inputs.
///
/// Nothing here changes while the database lives, but for what is *read from the disk*: only the queries of
/// [`crate::resolve::layout`] ask for that, after [`Layout::revision`].
#[salsa::db]
pub trait Db: salsa::Database {
    /// What a file is.
    fn facts(&self, file: File) -> &Facts;
    /// What writes down which answers hang on which, where somebody asked for that.
    fn recorder(&self) -> Option<&Recorder>;
    /// What another run found that a file answers, where it answers that still.
    fn stored(&self, file: File, ask: Ask) -> Option<Answer>;
    /// Identifiers.
    fn names(&self) -> &Names;
    /// Interned types.
    fn store(&self) -> &Store;
    /// Whether the standard library has a top-level module of that name that others are meant to import.
    fn is_standard_name(&self, name: &str) -> bool;
    /// A class of a bundled module that was asked for before: these are asked for all the time, and never change.
    fn remembered_class(&self, module: Name, name: Name) -> Option<ClassRef>;
    /// Remembers a class of a bundled module.
    fn remember_class(&self, module: Name, name: Name, class: ClassRef);
    /// The bundled stub of a module of the standard library.
    fn bundled(&self, name: Name) -> Option<File>;
    /// Where a module's name leads from a file whose own imports begin in a folder; *read from the disk*.
    fn locate(&self, name: Name, root: Option<Name>) -> Option<Located>;
    /// The files of the project, by path; *read from the disk*.
    fn list_project(&self) -> Arc<[File]>;
    /// Names of importable top-level modules, for near misses; *read from the disk*.
    fn list_modules(&self) -> Arc<[String]>;
    /// Whether anything may be taken for granted in it ([`super::assumed`]).
    fn assumes(&self) -> bool;
    /// The source that a stub stands beside; *read from the disk*.
    fn source_beside(&self, stub: File) -> Option<File>;
}
