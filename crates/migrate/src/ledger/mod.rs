//! `leitmotiv.ledger`: which files are held to which demands, and which findings are owed.
//!
//! A debt is known by its rule, the symbol around it, and a fingerprint of its code, so that neither edits elsewhere nor a
//! renaming disturb it, and none stands for another one. The file is a text of sorted lines; docs/ledger.md tells its format.
//!
//! - [`text`]: the ledger as text, and back
//! - [`settle`]: which findings are owed
//! - [`broken`]: promises that are not kept because nobody looks any more
//! - [`moves`]: files that have another name now

pub mod broken;
pub mod moves;
pub mod settle;
pub mod text;

use std::collections::{BTreeMap, BTreeSet};
use std::path::Path;

use leitmotiv_project::read;
use leitmotiv_project::write::{NewFile, WriteError, Writer};

pub use text::LedgerError;

/// The file's name.
pub const FILE: &str = "leitmotiv.ledger";

/// What stands in a demand's place for files whose findings, of whatever rule, were recorded as they were found.
pub const AS_IT_IS: &str = "as-it-is";

/// The fingerprint of debts that were recorded before there were fingerprints: it fits any.
pub const ANY: &str = "*";

/// Holds and debts, by path relative to the project with `/`.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Ledger {
    contents: Contents,
    /// The bytes that it was read from; `None` where there was no file.
    read_from: Option<Vec<u8>>,
}

/// What the ledger's text says.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
struct Contents {
    files: BTreeMap<String, Promises>,
    /// Folders (with `/` at their ends) in which all files were held to a demand when it was written: what is added there is as well.
    folders: BTreeMap<String, BTreeSet<String>>,
    /// Lines, from 1, that say what another line says already, each behind that one.
    doubles: Vec<(usize, usize)>,
}

/// The line by which git keeps the lines of both sides when it merges the ledger.
pub const MERGE: &str = "leitmotiv.ledger merge=union";

/// The project's `.gitattributes` with [`MERGE`]; `None` where it says something of the ledger already, or cannot be read.
#[must_use]
pub fn attributes(root: &Path) -> Option<NewFile> {
    let path = root.join(".gitattributes");
    let before = match read::bytes(&path) {
        Ok(bytes) => Some(bytes),
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => None,
        Err(_) => return None,
    };
    let mut text = String::from_utf8(before.clone().unwrap_or_default()).ok()?;
    if text.lines().any(|line| line.trim_start().starts_with(FILE)) {
        return None;
    }
    let end = if text.contains("\r\n") { "\r\n" } else { "\n" };
    if !text.is_empty() && !text.ends_with('\n') {
        text.push_str(end);
    }
    text.push_str(MERGE);
    text.push_str(end);
    Some(NewFile { path, before, after: Some(text.into_bytes()) })
}

/// The folder that a file lies in, as the ledger names it: with `/` at its end, `./` for that of the project.
#[must_use]
pub fn folder_of(path: &str) -> &str {
    path.rfind('/').map_or("./", |end| &path[..=end])
}

/// What one file is held to, and what it owes.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Promises {
    /// The demands that it is held to.
    pub holds: BTreeSet<String>,
    /// How often each debt is owed.
    pub debts: BTreeMap<Debt, usize>,
    /// How many imports of the file could not be found when its debts were last looked at: with more of them, types are
    /// missing, and a finding that is gone need not be mended.
    pub lost: usize,
}

/// What is owed, but for the file and how often.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct Debt {
    /// The demand under which it was recorded.
    pub demand: String,
    /// The rule.
    pub rule: String,
    /// The dotted name of the function or module around it; `-` where that does not matter, as for imports.
    pub symbol: String,
    /// The fingerprint of its code, or [`ANY`].
    pub fingerprint: String,
}

impl Ledger {
    /// What it says of some files.
    #[must_use]
    pub fn only(&self, is_meant: &dyn Fn(&str) -> bool) -> Ledger {
        let mut ledger = self.clone();
        ledger.contents.files.retain(|path, _| is_meant(path));
        ledger
    }

    /// Reads a project's ledger; an absent one is empty.
    ///
    /// # Errors
    /// [`LedgerError`]
    pub fn read(root: &Path) -> Result<Ledger, LedgerError> {
        let bytes = match read::bytes(&root.join(FILE)) {
            Ok(bytes) => bytes,
            Err(error) if error.kind() == std::io::ErrorKind::NotFound => return Ok(Ledger::default()),
            Err(error) => return Err(LedgerError::Unreadable(error)),
        };
        let text = std::str::from_utf8(&bytes).map_err(|error| {
            let before = &bytes[..error.valid_up_to()];
            LedgerError::Line(before.iter().filter(|byte| **byte == b'\n').count() + 1)
        })?;
        Ok(Ledger { contents: text::parse(text)?, read_from: Some(bytes) })
    }

    /// A ledger that is not the project's own, as it was at another time.
    ///
    /// # Errors
    /// [`LedgerError`]
    pub fn of_text(text: &str) -> Result<Ledger, LedgerError> {
        Ok(Ledger { contents: text::parse(text)?, read_from: None })
    }

    /// The ledger's text.
    #[must_use]
    pub fn text(&self) -> String {
        text::write(&self.contents)
    }

    /// Whether the file was there when it was read.
    #[must_use]
    pub fn is_there(&self) -> bool {
        self.read_from.is_some()
    }

    /// Writes the ledger into a project's folder, if the file there is still the one that was read; with it a line by which git merges it
    /// without asking, where that is wanted (see [`attributes`]).
    ///
    /// # Errors
    /// [`WriteError`]
    pub fn write(&self, root: &Path, writer: &Writer, attributes: Option<NewFile>) -> Result<(), WriteError> {
        let file =
            NewFile { path: root.join(FILE), before: self.read_from.clone(), after: Some(self.text().into_bytes()) };
        let files: Vec<NewFile> = std::iter::once(file).chain(attributes).collect();
        writer.write("tighten", &files, false)
    }

    /// What a file promises, if anything.
    #[must_use]
    pub fn of(&self, path: &str) -> Option<&Promises> {
        self.contents.files.get(path)
    }

    /// What a file promises, to be changed.
    pub fn of_mut(&mut self, path: &str) -> &mut Promises {
        self.contents.files.entry(path.to_owned()).or_default()
    }

    /// All files with what they promise, by path.
    pub fn files(&self) -> impl Iterator<Item = (&str, &Promises)> {
        self.contents.files.iter().map(|(path, promises)| (path.as_str(), promises))
    }

    /// Drops what a file promises, and gives it.
    pub fn drop(&mut self, path: &str) -> Option<Promises> {
        self.contents.files.remove(path)
    }

    /// Drops files and folders that promise nothing.
    pub fn prune(&mut self) {
        self.contents.files.retain(|_, promises| !promises.holds.is_empty() || !promises.debts.is_empty());
        self.contents.folders.retain(|_, demands| !demands.is_empty());
    }

    /// Says to which demands all files of a folder are held.
    pub fn set_whole(&mut self, folder: &str, demands: BTreeSet<String>) {
        self.contents.folders.insert(folder.to_owned(), demands);
    }

    /// The demands that a folder holds whole, so that new files in it are held to them.
    pub fn whole(&self, folder: &str) -> impl Iterator<Item = &str> {
        self.contents.folders.get(folder).into_iter().flatten().map(String::as_str)
    }

    /// The folders that hold a demand whole.
    pub fn folders(&self) -> impl Iterator<Item = &str> {
        self.contents.folders.keys().map(String::as_str)
    }

    /// Lines, from 1, that say what an earlier line says already: that line, and the later one.
    #[must_use]
    pub fn doubles(&self) -> &[(usize, usize)] {
        &self.contents.doubles
    }

    /// Whether two ledgers say the same, however they were written.
    #[must_use]
    pub fn says_as(&self, other: &Ledger) -> bool {
        self.contents.files == other.contents.files && self.contents.folders == other.contents.folders
    }

    /// All demands that files are held to or owe something under; one may come several times.
    pub fn demands(&self) -> impl Iterator<Item = &str> {
        let files = self.contents.files.values().flat_map(|promises| {
            let owed = promises.debts.keys().map(|debt| debt.demand.as_str());
            promises.holds.iter().map(String::as_str).chain(owed)
        });
        files.chain(self.contents.folders.values().flatten().map(String::as_str))
    }

    /// The demands that a file is held to: by itself, or because its folder holds them whole.
    pub fn held(&self, path: &str) -> impl Iterator<Item = &str> {
        let own = self.contents.files.get(path).map(|promises| &promises.holds);
        let by_folder = self.whole(folder_of(path)).filter(move |demand| own.is_none_or(|own| !own.contains(*demand)));
        own.into_iter().flatten().map(String::as_str).chain(by_folder)
    }

    /// Whether a file is held to a demand by itself.
    #[must_use]
    pub fn holds(&self, demand: &str, path: &str) -> bool {
        self.contents.files.get(path).is_some_and(|promises| promises.holds.contains(demand))
    }

    /// How many holds and debts there are.
    #[must_use]
    pub fn size(&self) -> (usize, usize) {
        let holds = self.contents.files.values().map(|promises| promises.holds.len()).sum();
        let debts = self
            .contents
            .files
            .values()
            .flat_map(|promises| promises.debts.values())
            .fold(0, |all: usize, count| all.saturating_add(*count));
        (holds, debts)
    }
}

impl Promises {
    /// How much a file owes under a demand.
    #[must_use]
    pub fn owed_under(&self, demand: &str) -> usize {
        let own = self.debts.iter().filter(|(debt, _)| debt.demand == demand);
        own.fold(0, |all: usize, (_, count)| all.saturating_add(*count))
    }
}
