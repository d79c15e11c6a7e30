//! What values say, apart from the numbers that things have in one database: as sums that are the same in another run, and written out so
//! that another run can read them.
//!
//! Names, files and types are numbers. While a database is spoken on a thread ([`speak`]), what they print and write is what they stand for.

use std::any::TypeId;
use std::cell::RefCell;
use std::fmt::{self, Debug, Write as _};
use std::hash::{DefaultHasher, Hasher};
use std::path::PathBuf;
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::Spoken;
use rustc_hash::FxHashMap;
use serde::de::Error as _;
use serde::ser::Error as _;
use serde::{Deserialize, Deserializer, Serialize, Serializer};

use super::database::Database;
use super::db::Db;
use super::file::File;

/// What is wrong where something is written or read and no database is spoken.
pub(crate) const SILENT: &str = "no database is spoken on this thread";

/// What is spoken on a thread.
struct Voice {
    db: Database,
    sums: RefCell<FxHashMap<(TypeId, u32), u64>>,
    files: Arc<Mutex<Table>>,
}

thread_local! {
    static VOICE: RefCell<Option<Voice>> = const { RefCell::new(None) };
}

/// The files that are written by their numbers in a table.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Table {
    all: Vec<Address>,
    /// The numbers of those that nobody asked for yet.
    unmet: FxHashMap<Address, u32>,
    numbers: FxHashMap<File, u32>,
    known: Vec<Option<File>>,
}

/// A file as another run finds it again.
#[derive(Debug, Clone, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum Address {
    /// On the disk; within the project relative to it. With the name of its module.
    Disk(PathBuf, String, Origin),
    /// A bundled stub, with the name of its module.
    Bundled(String, String),
    /// A module of machine code.
    Compiled(String),
}

impl Table {
    /// A table that was written.
    #[must_use]
    pub fn of(all: Vec<Address>) -> Table {
        let unmet = all.iter().cloned().zip(0..).collect();
        Table { known: vec![None; all.len()], numbers: FxHashMap::default(), unmet, all }
    }

    /// What is to be written of it.
    #[must_use]
    pub fn addresses(&self) -> &[Address] {
        &self.all
    }

    /// The number of a file, which is put into it where it is not there.
    pub fn number(&mut self, db: &Database, file: File) -> u32 {
        if let Some(number) = self.numbers.get(&file) {
            return *number;
        }
        let address = db.address(file);
        let number = match self.unmet.remove(&address) {
            Some(number) => {
                self.known[number as usize] = Some(file);
                number
            }
            None => {
                self.all.push(address);
                self.known.push(Some(file));
                u32::try_from(self.all.len() - 1).unwrap_or(u32::MAX)
            }
        };
        self.numbers.insert(file, number);
        number
    }

    /// The file of a number.
    pub fn file(&mut self, db: &Database, number: u32) -> Option<File> {
        let place = number as usize;
        if let Some(known) = *self.known.get(place)? {
            return Some(known);
        }
        let address = self.all.get(place)?;
        let file = db.file_at(address);
        self.unmet.remove(address);
        self.known[place] = Some(file);
        self.numbers.entry(file).or_insert(number);
        Some(file)
    }
}

/// How long a database is spoken on a thread.
#[must_use]
pub struct Speaking {
    before: Option<Voice>,
    _names: Spoken,
}

impl Drop for Speaking {
    fn drop(&mut self) {
        VOICE.set(self.before.take());
    }
}

/// Speaks a database on this thread until what is given back is dropped: files by their numbers in a table.
pub fn speak(db: &Database, files: Arc<Mutex<Table>>) -> Speaking {
    let names = db.names().speak();
    let voice = Voice { db: db.clone(), sums: RefCell::default(), files };
    Speaking { before: VOICE.replace(Some(voice)), _names: names }
}

/// Does something with the database that is spoken.
pub(crate) fn with<T>(work: impl FnOnce(&Database) -> T) -> Option<T> {
    VOICE.with_borrow(|voice| voice.as_ref().map(|voice| work(&voice.db)))
}

/// The table, whatever became of those who had it before.
pub(crate) fn locked(files: &Mutex<Table>) -> MutexGuard<'_, Table> {
    files.lock().unwrap_or_else(PoisonError::into_inner)
}

/// A sum of what is printed.
struct Sum(DefaultHasher);

impl fmt::Write for Sum {
    fn write_str(&mut self, text: &str) -> fmt::Result {
        self.0.write(text.as_bytes());
        Ok(())
    }
}

/// The sum of what a value prints: the same for the same value in another run, where a database is spoken.
#[must_use]
pub fn sum(value: &dyn Debug) -> u64 {
    let mut sum = Sum(DefaultHasher::new());
    // A sum takes whatever is written.
    let _ = write!(sum, "{value:?}");
    sum.0.finish()
}

/// The sum of what a number of one kind stands for; `None` where no database is spoken.
pub(crate) fn sum_of<'v, K: 'static>(number: u32, of: impl FnOnce(&Database) -> &(dyn Debug + 'v)) -> Option<u64> {
    VOICE.with_borrow(|voice| {
        let voice = voice.as_ref()?;
        let key = (TypeId::of::<K>(), number);
        if let Some(known) = voice.sums.borrow().get(&key) {
            return Some(*known);
        }
        let sum = sum(&of(&voice.db));
        voice.sums.borrow_mut().insert(key, sum);
        Some(sum)
    })
}

impl Debug for File {
    fn fmt(&self, to: &mut fmt::Formatter<'_>) -> fmt::Result {
        match with(|db| to.write_str(self.path(db))) {
            Some(done) => done,
            None => write!(to, "File({})", salsa::plumbing::AsId::as_id(self).index()),
        }
    }
}

/// By its number in the table that is spoken.
impl Serialize for File {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        let number =
            VOICE.with_borrow(|voice| voice.as_ref().map(|voice| locked(&voice.files).number(&voice.db, *self)));
        number.ok_or_else(|| S::Error::custom(SILENT))?.serialize(to)
    }
}

impl<'de> Deserialize<'de> for File {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<File, D::Error> {
        let number = u32::deserialize(from)?;
        let file =
            VOICE.with_borrow(|voice| voice.as_ref().and_then(|voice| locked(&voice.files).file(&voice.db, number)));
        file.ok_or_else(|| D::Error::custom(SILENT))
    }
}
