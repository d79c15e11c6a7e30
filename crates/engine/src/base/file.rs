//! Files: their texts as inputs, and what they are from the first to the last.

use std::any::Any;
use std::path::{Path, PathBuf};
use std::sync::{Arc, OnceLock};

use leitmotiv_index::tree::ClassId;
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::Name;

use super::asked::{Ask, saw};
use super::assumed::Assumed;
use super::db::Db;

/// A source file or stub.
#[salsa::input]
pub struct File {
    /// Its text, as [`File::text`] gives it.
    #[returns(ref)]
    pub content: Arc<str>,
    /// Why it could not be read, if it could not.
    #[returns(ref)]
    pub unreadable: Option<String>,
    /// What is taken for granted of its functions; read by [`super::assumed`] alone.
    #[default]
    #[returns(ref)]
    pub assumed: Option<Arc<Assumed>>,
}

/// What a file is from the first to the last. It lies beside the database's own tables: it is asked for all the time, never
/// changes, and so need not be noted as something that a query read.
#[derive(Debug)]
pub struct Facts {
    /// How the file is shown: relative to the project with `/`, or `<bundle>/…` for our own stubs.
    pub path: String,
    /// The dotted name it is imported by.
    pub module: Name,
    /// Where it comes from.
    pub origin: Origin,
    /// Whether it is a stub.
    pub is_stub: bool,
    /// Whether it is a package's `__init__`.
    pub is_package: bool,
    /// Where it lies on disk, if it does.
    pub disk: Option<PathBuf>,
    /// The folder that it is imported from, where it lies on disk.
    pub root: Option<PathBuf>,
    /// The same as a text.
    pub(crate) root_name: Option<Name>,
    /// What another run has found of the same text.
    pub(crate) known: Option<Known>,
    /// What is kept of a text that never changes, as the room that keeps it says ([`crate::outline`]).
    pub(crate) kept: Kept,
}

/// What a file adds to what all files of the project do ([`crate::resolve`]): names are in no order.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Known {
    /// The attributes that it assigns on other objects.
    pub patched: Box<[Name]>,
    /// The names that its classes have, and its texts.
    pub provided: Box<[Name]>,
    /// The names that it calls.
    pub called: Box<[Name]>,
    /// Its classes.
    pub classes: Box<[ClassId]>,
    /// What these derive from, by module and name.
    pub bases: Box<[((Name, Name), ClassId)]>,
}

/// Something that is kept, of whatever type.
#[derive(Debug, Default)]
pub struct Kept(OnceLock<Box<dyn Any + Send + Sync>>);

impl Kept {
    /// What is kept, made at first. Whoever asks must ask for one type always; of another one nothing is kept.
    pub(crate) fn get<T: Any + Send + Sync>(&self, make: impl FnOnce() -> T) -> Option<&T> {
        self.0.get_or_init(|| Box::new(make())).downcast_ref()
    }
}

impl File {
    /// Its text; empty where it could not be read.
    pub fn text(self, db: &dyn Db) -> &Arc<str> {
        saw(db, self, Ask::Text);
        self.content(db)
    }

    /// How the file is shown: relative to the project with `/`, or `<bundle>/…` for our own stubs.
    pub fn path(self, db: &dyn Db) -> &str {
        &db.facts(self).path
    }

    /// The dotted name it is imported by.
    pub fn module(self, db: &dyn Db) -> Name {
        db.facts(self).module
    }

    /// Where it comes from.
    pub fn origin(self, db: &dyn Db) -> Origin {
        db.facts(self).origin
    }

    /// Whether it is a stub.
    pub fn is_stub(self, db: &dyn Db) -> bool {
        db.facts(self).is_stub
    }

    /// Whether it is a package's `__init__`.
    pub fn is_package(self, db: &dyn Db) -> bool {
        db.facts(self).is_package
    }

    /// Where it lies on disk, if it does. What is shown is no way to the file.
    pub fn disk(self, db: &dyn Db) -> Option<&Path> {
        db.facts(self).disk.as_deref()
    }

    /// The folder that it is imported from, where it lies on disk.
    pub fn root(self, db: &dyn Db) -> &Option<PathBuf> {
        &db.facts(self).root
    }
}

/// Facts by file. The numbers of files lie close together, in runs.
pub(super) struct FactTable {
    runs: Box<[OnceLock<Run>]>,
}

type Run = Box<[OnceLock<Facts>]>;

impl FactTable {
    /// How many files are in a run.
    const RUN: usize = 1 << 10;
    /// How many runs there may be.
    const RUNS: usize = 1 << 16;

    pub(super) fn new() -> FactTable {
        FactTable { runs: (0..Self::RUNS).map(|_| OnceLock::new()).collect() }
    }

    pub(super) fn slot(&self, file: File) -> &OnceLock<Facts> {
        use salsa::plumbing::AsId;
        let number = file.as_id().index() as usize;
        let run = self.runs[number / Self::RUN].get_or_init(|| (0..Self::RUN).map(|_| OnceLock::new()).collect());
        &run[number % Self::RUN]
    }
}
