//! Python text: decoding, positions, parsing, comments and edits.
//!
//! This crate answers *what is written*; what it means is left to the rooms above. In reading order:
//!
//! - [`decode`]: bytes of a file to text (PEP 263, byte-order marks)
//! - [`positions`]: offsets in bytes to 1-based lines and columns, and back
//! - [`names`]: identifiers as small numbers, shared by all rooms
//! - [`newer`]: syntax that only later versions of the language read
//! - [`parse`]: text to tree and comments; the only place that names the parser
//! - [`comments`]: suppressions and type comments
//! - [`mentions`]: where names are mentioned
//! - [`structure`]: what folds, and what a selection grows to
//! - [`same`]: whether two texts are the same program but for annotations
//! - [`shown`]: text that is safe to show
//! - [`edits`]: changes to a text, all or nothing
//!
//! The entry is [`parse::parse`].

pub mod comments;
pub mod decode;
pub mod edits;
pub mod mentions;
pub mod names;
pub mod newer;
pub mod parse;
pub mod positions;
pub mod same;
pub mod shown;
pub mod structure;

pub use ruff_python_ast as ast;
pub use ruff_text_size::{Ranged, TextLen, TextRange, TextSize};
