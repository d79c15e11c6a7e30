//! Answers of another run, for files that nothing reaches which has changed since: what they answered they answer still.

use std::sync::{Arc, Mutex, OnceLock};

use leitmotiv_index::anchor::Anchor;
use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};

use super::asked::Ask;
use super::database::Database;
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
        let (mut asks, mut answers) = (self.written.0.as_slice(), self.written.1.as_slice());
        let mut all = FxHashMap::default();
        while !asks.is_empty() {
            let (ask, rest) = postcard::take_from_bytes::<Ask>(asks).ok()?;
            asks = rest;
            let (answer, rest) = postcard::take_from_bytes::<Option<Answer>>(answers).ok()?;
            answers = rest;
            all.extend(answer.map(|answer| (ask, answer)));
        }
        Some(all)
    }
}
