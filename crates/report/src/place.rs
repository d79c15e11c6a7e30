//! Byte ranges to the lines and columns that people and programs are shown.

use leitmotiv_engine::db::{Database, File};
use leitmotiv_engine::module::module_index;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::positions::Position;

/// Start and end of a range: 1-based lines and columns in code points.
#[must_use]
pub fn positions(db: &Database, file: File, range: TextRange) -> (Position, Position) {
    let lines = &module_index(db, file).lines.0;
    let text = file.text(db);
    (lines.position(text, range.start()), lines.position(text, range.end()))
}

/// The text of the line that a range begins in, and the range's 0-based columns in it, in code points.
#[must_use]
pub fn line(db: &Database, file: File, range: TextRange) -> (String, usize, usize) {
    let (start, end) = positions(db, file, range);
    let text = file.text(db);
    let lines = &module_index(db, file).lines.0;
    let line = lines
        .line_range(text, start.line.saturating_sub(1) as usize)
        .map(|range| text[usize::from(range.start())..usize::from(range.end())].to_owned())
        .unwrap_or_default();
    let from = start.column.saturating_sub(1) as usize;
    let to = if end.line == start.line { end.column.saturating_sub(1) as usize } else { line.chars().count() };
    (line, from, to.max(from))
}
