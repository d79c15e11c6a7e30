//! Answers of another run, for files that nothing reaches which has changed since: what they answered they answer still.

use std::sync::{Arc, Mutex, OnceLock};

use leitmotiv_index::anchor::Anchor;
use rustc_hash::FxHashMap;
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};

use super::asked::Ask;
use super::database::Database;
use super::db::Db;
use super::file::File;
use super::said::{Table, speak};
use crate::types::Type;

/// An answer that takes long to find.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub enum Answer {
    /// To [`Ask::OpenReturnType`] and its kin.
    Type(Type),
    /// To [`Ask::Starred`] and its kin.
    Maybe(Option<Type>),
    /// To [`Ask::NamedMember`]: the parts of a member.
    Member(Option<(Type, bool, bool, Anchor)>),
    /// To [`Ask::NeverReturns`].
    Is(bool),
}

/// What another run found that a file answers, where it answers that still.
macro_rules! known {
    ($($(#[$doc:meta])* $name:ident: $kind:ident($ty:ty);)*) => {$(
        $(#[$doc])*
        pub(crate) fn $name(db: &dyn Db, file: File, ask: Ask) -> Option<$ty> {
            match db.stored(file, ask) {
                Some(Answer::$kind(known)) => Some(known),
                _ => None,
            }
        }
    )*};
}

known! {
    /// A type, as another run found it.
    known_type: Type(Type);
    /// A type that there may be, as another run found it.
    known_maybe: Maybe(Option<Type>);
    /// The parts of a member that there may be, as another run found it.
    known_member: Member(Option<(Type, bool, bool, Anchor)>);
    /// Whether something is so, as another run found it.
    known_is: Is(bool);
}

/// The answers of one file.
#[derive(Debug)]
pub struct Answers {
    /// What was asked, and what was answered where that takes long, each written one behind the other.
    written: (Vec<u8>, Vec<u8>),
    files: Arc<Mutex<Table>>,
    read: OnceLock<FxHashMap<Ask, Answer>>,
}

impl Answers {
    /// Answers as they were written, by a table of files.
    #[must_use]
    pub fn new(asks: Vec<u8>, answers: Vec<u8>, files: Arc<Mutex<Table>>) -> Answers {
        Answers { written: (asks, answers), files, read: OnceLock::new() }
    }

    /// What was answered.
    pub(super) fn to(&self, db: &Database, ask: Ask) -> Option<Answer> {
        self.read.get_or_init(|| self.read_by(db).unwrap_or_default()).get(&ask).copied()
    }

    fn read_by(&self, db: &Database) -> Option<FxHashMap<Ask, Answer>> {
        let _speaking = speak(db, self.files.clone());
        let asks: Vec<Ask> = read_all(&self.written.0)?;
        let answers: Vec<Option<Answer>> = read_all(&self.written.1)?;
        let known = asks.into_iter().zip(answers).filter_map(|(ask, answer)| Some((ask, answer?)));
        Some(known.collect())
    }
}

/// Things that were written one behind the other.
pub(crate) fn read_all<T: DeserializeOwned>(mut bytes: &[u8]) -> Option<Vec<T>> {
    let mut all = Vec::new();
    while !bytes.is_empty() {
        let (one, rest) = postcard::take_from_bytes(bytes).ok()?;
        all.push(one);
        bytes = rest;
    }
    Some(all)
}
