//! `leitmotiv.ledger`: which files are held to which demands, and which findings are owed.
//!
//! A debt is known by its rule, the symbol around it, and a fingerprint of its code, so that neither edits elsewhere nor a
//! renaming disturb it, and none stands for another one. The file is a text of sorted lines; docs/ledger.md tells its format.
//!
//! - [`text`]: the ledger as text, and back
//! - [`settle`]: which findings are owed
//! - [`broken`]: promises that are not kept because nobody looks any more

pub mod broken;
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
    files: BTreeMap<String, Promises>,
    /// The bytes that it was read from; `None` where there was no file.
    read_from: Option<Vec<u8>>,
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
        Ok(Ledger { files: text::parse(text)?, read_from: Some(bytes) })
    }

    /// The ledger's text.
    #[must_use]
    pub fn text(&self) -> String {
        text::write(&self.files)
    }

    /// Whether the file was there when it was read.
    #[must_use]
    pub fn is_there(&self) -> bool {
        self.read_from.is_some()
    }

    /// Writes the ledger into a project's folder, if the file there is still the one that was read.
    ///
    /// # Errors
    /// [`WriteError`]
    pub fn write(&self, root: &Path, writer: &Writer) -> Result<(), WriteError> {
        let file =
            NewFile { path: root.join(FILE), before: self.read_from.clone(), after: Some(self.text().into_bytes()) };
        writer.write("tighten", &[file], false)
    }

    /// What a file promises, if anything.
    #[must_use]
    pub fn of(&self, path: &str) -> Option<&Promises> {
        self.files.get(path)
    }

    /// What a file promises, to be changed.
    pub fn of_mut(&mut self, path: &str) -> &mut Promises {
        self.files.entry(path.to_owned()).or_default()
    }

    /// All files with what they promise, by path.
    pub fn files(&self) -> impl Iterator<Item = (&str, &Promises)> {
        self.files.iter().map(|(path, promises)| (path.as_str(), promises))
    }

    /// Drops what a file promises, and gives it.
    pub fn drop(&mut self, path: &str) -> Option<Promises> {
        self.files.remove(path)
    }

    /// Drops files that promise nothing.
    pub fn prune(&mut self) {
        self.files.retain(|_, promises| !promises.holds.is_empty() || !promises.debts.is_empty());
    }

    /// All demands that files are held to or owe something under; one may come several times.
    pub fn demands(&self) -> impl Iterator<Item = &str> {
        self.files.values().flat_map(|promises| {
            let owed = promises.debts.keys().map(|debt| debt.demand.as_str());
            promises.holds.iter().map(String::as_str).chain(owed)
        })
    }

    /// The demands that a file is held to.
    pub fn held(&self, path: &str) -> impl Iterator<Item = &str> {
        self.files.get(path).into_iter().flat_map(|promises| promises.holds.iter().map(String::as_str))
    }

    /// Whether a file is held to a demand.
    #[must_use]
    pub fn holds(&self, demand: &str, path: &str) -> bool {
        self.files.get(path).is_some_and(|promises| promises.holds.contains(demand))
    }

    /// How many holds and debts there are.
    #[must_use]
    pub fn size(&self) -> (usize, usize) {
        let holds = self.files.values().map(|promises| promises.holds.len()).sum();
        let debts = self
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
