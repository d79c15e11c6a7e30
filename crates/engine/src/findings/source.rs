//! Pieces of source text as they are shown.

use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::shown::{escaped_code, escaped_line};

use crate::base::db::Db;
use crate::base::file::File;
use crate::outline::module_index;

/// The most that is looked at of a text to be shown, in bytes.
const MOST_SHOWN: usize = 2_000;

/// A place's text, folded to one line and cut at some 60 characters; hidden characters are written out.
#[must_use]
pub fn excerpt(db: &dyn Db, file: File, range: TextRange) -> String {
    let text = file.text(db);
    let start = usize::from(range.start());
    let end = text.floor_char_boundary(usize::from(range.end()).min(start + MOST_SHOWN));
    let part = text.get(start..end).unwrap_or_default();
    let folded = part.split_whitespace().collect::<Vec<_>>().join(" ");
    let folded = escaped_line(&folded);
    if folded.chars().count() <= 60 {
        return folded.into_owned();
    }
    let mut cut: String = folded.chars().take(59).collect();
    cut.push('…');
    cut
}

/// The line that a place begins in, without white space at its ends; of a long line the part around the place. Hidden
/// characters are written out.
#[must_use]
pub fn line_of(db: &dyn Db, file: File, range: TextRange) -> String {
    let lines = &module_index(db, file).lines.0;
    let text = file.text(db);
    let whole = lines.line_range(text, lines.index_of(range.start()));
    let part = whole.map(|whole| {
        let (first, end) = (usize::from(whole.start()), usize::from(whole.end()));
        let at = usize::from(range.start()).clamp(first, end);
        let from = text.ceil_char_boundary(at.saturating_sub(MOST_SHOWN / 4).max(first));
        &text[from..text.floor_char_boundary((at + MOST_SHOWN).min(end))]
    });
    escaped_code(part.unwrap_or_default().trim()).into_owned()
}
