//! Changes to a text, as replacements over the original bytes, so that whatever is not replaced stays as it was.

use ruff_text_size::{TextRange, TextSize};
use thiserror::Error;

/// One replacement; an insertion has an empty range.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub struct Edit {
    /// Start of what is replaced, in bytes of the original.
    pub start: TextSize,
    /// End of what is replaced, in bytes of the original.
    pub end: TextSize,
    /// What stands there afterwards.
    pub text: String,
}

impl Edit {
    /// Puts `text` before the byte at `offset`.
    #[must_use]
    pub fn insert(offset: TextSize, text: impl Into<String>) -> Edit {
        Edit { start: offset, end: offset, text: text.into() }
    }

    /// Puts `text` in the place of `range`.
    #[must_use]
    pub fn replace(range: TextRange, text: impl Into<String>) -> Edit {
        Edit { start: range.start(), end: range.end(), text: text.into() }
    }
}

/// Edits that cannot be applied together.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum EditError {
    /// Two edits replace the same bytes.
    #[error("two edits overlap at byte {0}")]
    Overlap(u32),
    /// An edit lies outside of the text or inside a character.
    #[error("an edit lies outside of the text at byte {0}")]
    Outside(u32),
}

/// Applies `edits` to `text`. Insertions at one place keep the order in which they were given.
///
/// # Errors
/// [`EditError`] when edits overlap or do not fit the text; nothing is applied then.
pub fn apply(text: &str, edits: &[Edit]) -> Result<String, EditError> {
    let mut sorted: Vec<&Edit> = edits.iter().collect();
    sorted.sort_by_key(|edit| (edit.start, edit.end));
    let mut result = String::with_capacity(text.len() + edits.len() * 16);
    let mut done = TextSize::new(0);
    for edit in sorted {
        if edit.start < done {
            return Err(EditError::Overlap(edit.start.into()));
        }
        let range = usize::from(done)..usize::from(edit.start);
        let kept = text.get(range).ok_or(EditError::Outside(edit.start.into()))?;
        if !text.is_char_boundary(usize::from(edit.end)) {
            return Err(EditError::Outside(edit.end.into()));
        }
        result.push_str(kept);
        result.push_str(&edit.text);
        done = edit.end;
    }
    result.push_str(&text[usize::from(done)..]);
    Ok(result)
}

/// The line end that a text uses: that of its first line.
#[must_use]
pub fn line_end(text: &str) -> &'static str {
    match text.find(['\n', '\r']) {
        Some(at) if text[at..].starts_with("\r\n") => "\r\n",
        Some(at) if text[at..].starts_with('\r') => "\r",
        _ => "\n",
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn at(offset: u32) -> TextSize {
        TextSize::new(offset)
    }

    #[test]
    fn untouched_bytes_stay() {
        let edits = [Edit::insert(at(8), " -> int"), Edit::insert(at(7), ": int")];
        assert_eq!(apply("def f(a):\r\n\x0c", &edits).unwrap(), "def f(a: int) -> int:\r\n\x0c");
    }

    #[test]
    fn overlapping_edits_are_refused() {
        let range = TextRange::new(at(0), at(3));
        let edits = [Edit::replace(range, "x"), Edit::insert(at(1), "y")];
        assert_eq!(apply("abc", &edits), Err(EditError::Overlap(1)));
    }

    #[test]
    fn an_edit_past_the_end_is_refused() {
        assert_eq!(apply("abc", &[Edit::insert(at(9), "x")]), Err(EditError::Outside(9)));
    }
}
