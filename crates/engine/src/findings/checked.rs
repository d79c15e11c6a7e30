//! What checking a file gives.

use leitmotiv_index::tree::BodyId;
use rustc_hash::FxHashMap;

use super::finding::Finding;
use super::suppress::Suppression;
use crate::types::CauseId;

/// What checking one file gives.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Checked {
    /// The findings that no comment hides, by position, then rule.
    pub findings: Vec<Finding>,
    /// Number of lines.
    pub lines: usize,
    /// How many expressions there are that could have been known.
    pub expressions: usize,
    /// Those whose type is unknown, with the cause and how many there are of it, in the order of first appearance.
    pub unknown: Vec<(CauseId, usize)>,
    /// How many expressions are `Any`, which somebody wrote, here or in a library.
    pub any: usize,
    /// The comments that hide findings, or are meant to, in the order of the text.
    pub suppressions: Vec<Suppression>,
    /// What is known in each body, in the order of the bodies.
    pub bodies: Vec<Counted>,
    /// Whether the check itself failed.
    pub fault: bool,
    /// Where in `unknown` a cause stands.
    pub(crate) unknown_at: FxHashMap<CauseId, usize>,
}

/// What is known of one body's expressions.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Counted {
    /// The body.
    pub body: BodyId,
    /// How many expressions there are.
    pub expressions: usize,
    /// Those of them that are unknown, or `Any`.
    pub open: usize,
}

impl Checked {
    /// How many expressions are unknown, or `Any`.
    #[must_use]
    pub fn open(&self) -> usize {
        self.any + self.unknown.iter().map(|(_, count)| count).sum::<usize>()
    }

    /// How many expressions are known, and not `Any`.
    #[must_use]
    pub fn known(&self) -> usize {
        self.expressions.saturating_sub(self.open())
    }

    /// Adds what was counted in a body.
    pub(crate) fn add(&mut self, other: Checked) {
        self.expressions += other.expressions;
        self.any += other.any;
        for (cause, count) in other.unknown {
            self.add_unknown(cause, count);
        }
    }

    pub(crate) fn add_unknown(&mut self, cause: CauseId, count: usize) {
        match self.unknown_at.get(&cause) {
            Some(at) => self.unknown[*at].1 += count,
            None => {
                self.unknown_at.insert(cause, self.unknown.len());
                self.unknown.push((cause, count));
            }
        }
    }
}
