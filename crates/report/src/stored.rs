//! What a check printed of, kept for the next one that sees the same: bytes that only this version of the program reads.

use std::collections::HashSet;
use std::path::{Path, PathBuf};
use std::sync::{LazyLock, Mutex, PoisonError};

use leitmotiv_engine::base::observed::Observed;
use leitmotiv_engine::past::Past;
use leitmotiv_migrate::remembered::Seen;
use leitmotiv_syntax::positions::Position;
use serde::{Deserialize, Deserializer, Serialize};

use crate::again::Looked;
use crate::document::Document;
use crate::parts::Part;
use crate::told::OfFile;

/// A check as it is kept.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Stored {
    /// What was seen of the disk beside the files that were checked.
    pub observed: Observed,
    /// What is printed.
    pub document: Document,
    /// What later checks are compared with.
    pub seen: Seen,
}

impl Stored {
    /// Such a check as bytes; `None` where that cannot be done.
    #[must_use]
    pub fn bytes(observed: &Observed, document: &Document, seen: &Seen) -> Option<Vec<u8>> {
        // Fields stand one behind the other, as in a tuple.
        postcard::to_stdvec(&(observed, document, seen)).ok()
    }

    /// From bytes; `None` where they are none of a check.
    #[must_use]
    pub fn of(bytes: &[u8]) -> Option<Stored> {
        postcard::from_bytes(bytes).ok()
    }
}

/// A check as it is kept for one that comes after edits.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Earlier {
    /// The files of the check: with the folder that they are imported from, and the module.
    pub told: Vec<(PathBuf, PathBuf, String)>,
    /// All that was seen of the disk.
    pub observed: Observed,
    /// Who asked what of whom.
    pub past: Past,
    /// What was found in each file.
    pub files: Vec<OfFile>,
    /// What each took, in millionths of a second.
    pub took: Vec<u64>,
}

impl Earlier {
    /// Such a check as bytes; `None` where that cannot be done.
    #[must_use]
    pub fn bytes(told: &[(&Path, &Path, &str)], observed: &Observed, past: &Past, looked: &Looked) -> Option<Vec<u8>> {
        // Fields stand one behind the other, as in a tuple.
        postcard::to_stdvec(&(told, observed, past, &looked.files, &looked.took)).ok()
    }

    /// From bytes; `None` where they are none of a check.
    #[must_use]
    pub fn of(bytes: &[u8]) -> Option<Earlier> {
        postcard::from_bytes(bytes).ok().filter(|earlier: &Earlier| earlier.files.len() == earlier.took.len())
    }
}

/// A part of a check as it is kept for one of the same.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct StoredPart {
    /// What was seen of the disk beside the files of the check.
    pub observed: Observed,
    /// What was printed.
    pub part: Part,
}

impl StoredPart {
    /// Such a part as bytes; `None` where that cannot be done.
    #[must_use]
    pub fn bytes(observed: &Observed, part: &Part) -> Option<Vec<u8>> {
        postcard::to_stdvec(&(observed, part)).ok()
    }

    /// From bytes; `None` where they are none of a part.
    #[must_use]
    pub fn of(bytes: &[u8]) -> Option<StoredPart> {
        postcard::from_bytes(bytes).ok()
    }
}

/// A name of a rule, a demand, a way or a kind of step.
pub type Lasting = &'static str;

/// The names of rules, demands, ways and steps are few, and live as long as the program.
fn lasting(name: String) -> &'static str {
    static NAMES: LazyLock<Mutex<HashSet<&'static str>>> = LazyLock::new(Mutex::default);
    let mut names = NAMES.lock().unwrap_or_else(PoisonError::into_inner);
    if let Some(known) = names.get(name.as_str()) {
        return known;
    }
    let name: &'static str = name.leak();
    names.insert(name);
    name
}

pub(crate) fn known<'de, D: Deserializer<'de>>(from: D) -> Result<&'static str, D::Error> {
    Ok(lasting(String::deserialize(from)?))
}

pub(crate) fn maybe_known<'de, D: Deserializer<'de>>(from: D) -> Result<Option<&'static str>, D::Error> {
    Ok(Option::<String>::deserialize(from)?.map(lasting))
}

#[derive(Serialize, Deserialize)]
#[serde(remote = "Position")]
pub(crate) struct PositionAs {
    line: u32,
    column: u32,
}
