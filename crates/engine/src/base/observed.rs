//! What a run has seen of the disk: as long as all of it is so, another run sees the same.

use std::path::{Path, PathBuf};

use leitmotiv_project::cache::{Sum, sum};
use leitmotiv_project::resolve::{LookedAt, modules_in};
use rayon::prelude::*;
use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};

use super::database::read;

/// What was read, and what was looked at to find it. Paths of the project are relative to it, so that it may lie elsewhere the next time.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Observed {
    /// Files with what they said, sorted by path.
    files: Vec<(PathBuf, Sum)>,
    /// Folders with the names of modules in them; `None` where there was none.
    folders: Vec<(PathBuf, Option<Sum>)>,
    /// Whether there were files that were asked for.
    there: Vec<(PathBuf, bool)>,
}

/// What is otherwise than it was.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Edited {
    /// The files that do not say what they said, or are gone.
    pub files: Vec<PathBuf>,
    /// Whether all that was looked for is there as it was, and nothing else.
    pub is_laid_out: bool,
}

impl Observed {
    pub(super) fn new(mut files: Vec<(PathBuf, Sum)>, looked: LookedAt, root: &Path) -> Observed {
        files.sort_unstable();
        let within = |path: PathBuf| path.strip_prefix(root).map_or_else(|_| path.clone(), Path::to_owned);
        let folders = looked.folders.into_iter().map(|(path, names)| (within(path), names_sum(names.as_deref())));
        Observed {
            files: files.into_iter().map(|(path, said)| (within(path), said)).collect(),
            folders: folders.collect(),
            there: looked.files.into_iter().map(|(path, was_there)| (within(path), was_there)).collect(),
        }
    }

    /// Leaves out what was read of some files, as they are named here: others vouch for them.
    pub fn without(&mut self, files: &[PathBuf]) {
        let left_out: rustc_hash::FxHashSet<&Path> = files.iter().map(PathBuf::as_path).collect();
        self.files.retain(|(path, _)| !left_out.contains(path.as_path()));
    }

    /// Takes in what another run has seen beside.
    pub fn add(&mut self, other: Observed) {
        fn merge<T: Ord, S>(own: &mut Vec<(T, S)>, other: Vec<(T, S)>) {
            own.extend(other);
            // Of two, the first stays.
            own.sort_by(|one, other| one.0.cmp(&other.0));
            own.dedup_by(|other, one| one.0 == other.0);
        }
        merge(&mut self.files, other.files);
        merge(&mut self.folders, other.folders);
        merge(&mut self.there, other.there);
    }

    /// What is otherwise now, for the project in a folder, by the names of files here. What some files say is told. `None` where the library of
    /// the interpreter has other modules than it had.
    #[must_use]
    pub fn edited(&self, root: &Path, library: Option<&Path>, said: &FxHashMap<PathBuf, Sum>) -> Option<Edited> {
        let is_other =
            |(path, names): &&(PathBuf, Option<Sum>)| names_sum(modules_in(&root.join(path)).as_deref()) != *names;
        let folders: Vec<&(PathBuf, Option<Sum>)> = self.folders.par_iter().filter(is_other).collect();
        let is_packages = |path: &Path| path.iter().any(|part| part == "site-packages" || part == "dist-packages");
        let is_of_library = |(path, _): &&(PathBuf, Option<Sum>)| {
            library.is_some_and(|library| root.join(path).strip_prefix(library).is_ok_and(|below| !is_packages(below)))
        };
        if folders.iter().any(is_of_library) {
            return None;
        }
        let edited = self.files.par_iter().filter(|(path, before)| match said.get(path) {
            Some(now) => now != before,
            None => said_by(&root.join(path)) != *before,
        });
        let is_laid_out = folders.is_empty() && self.has_files(root);
        Some(Edited { files: edited.map(|(path, _)| path.clone()).collect(), is_laid_out })
    }

    /// Leaves out what is otherwise now of which files there are.
    pub fn without_other_layout(&mut self, root: &Path) {
        self.folders.retain(|(path, names)| names_sum(modules_in(&root.join(path)).as_deref()) == *names);
        self.there.retain(|(path, was_there)| root.join(path).is_file() == *was_there);
    }

    fn has_files(&self, root: &Path) -> bool {
        self.there.par_iter().all(|(path, was_there)| root.join(path).is_file() == *was_there)
    }

    fn is_laid_out(&self, root: &Path) -> bool {
        self.folders.par_iter().all(|(path, names)| names_sum(modules_in(&root.join(path)).as_deref()) == *names)
            && self.has_files(root)
    }

    /// Whether all is as it was, for the project in a folder.
    #[must_use]
    pub fn holds(&self, root: &Path) -> bool {
        self.is_laid_out(root) && self.files.par_iter().all(|(path, said)| said_by(&root.join(path)) == *said)
    }
}

fn names_sum(names: Option<&[String]>) -> Option<Sum> {
    names.map(|names| sum(names.join("\0").as_bytes()))
}

/// What a file says, as a check sum of its text, or of why it cannot be read.
#[must_use]
pub fn said_by(path: &Path) -> Sum {
    let (text, unreadable) = read(path);
    text_sum(&text, unreadable.as_deref())
}

/// The check sum of a text, or of why there is none.
#[must_use]
pub fn text_sum(text: &str, unreadable: Option<&str>) -> Sum {
    match unreadable {
        None => sum(text.as_bytes()),
        Some(reason) => sum(format!("\0{reason}").as_bytes()),
    }
}
