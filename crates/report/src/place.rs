//! Byte ranges to the lines and columns that people and programs are shown.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::positions::Position;

/// Start and end of a range: 1-based lines and columns in code points.
#[must_use]
pub fn positions(db: &Database, file: File, range: TextRange) -> (Position, Position) {
    let lines = &module_index(db, file).lines.0;
    let text = file.text(db);
    (lines.position(text, range.start()), lines.position(text, range.end()))
}

/// How much of a long line is looked at around a place, in bytes before and behind its start.
const AROUND: (usize, usize) = (400, 1_600);

/// The text of the line that a range begins in, and the range's 0-based columns in it, in code points. Of a long line, the part
/// around the range.
#[must_use]
pub fn line(db: &Database, file: File, range: TextRange) -> (String, usize, usize) {
    let text = file.text(db);
    let lines = &module_index(db, file).lines.0;
    let Some(whole) = lines.line_range(text, lines.index_of(range.start())) else { return (String::new(), 0, 0) };
    let (first, end) = (usize::from(whole.start()), usize::from(whole.end()));
    let at = usize::from(range.start()).clamp(first, end);
    let from = text.ceil_char_boundary(at.saturating_sub(AROUND.0).max(first));
    let to = text.floor_char_boundary((at + AROUND.1).min(end));
    let columns = |to: usize| text.get(from..to).map_or(0, |before| before.chars().count());
    let behind = usize::from(range.end()).clamp(at, to);
    (text[from..to].to_owned(), columns(at), columns(behind))
}
