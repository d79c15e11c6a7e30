//! Byte offsets to lines and columns and back.

use ruff_text_size::{TextRange, TextSize};

/// A place in a text: line and column count from 1, columns in Unicode code points.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Position {
    /// 1-based line.
    pub line: u32,
    /// 1-based column, in code points.
    pub column: u32,
}

/// The line starts of one text. Lines end at `\n`, `\r\n` or a lone `\r`, as for the interpreter.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Lines {
    starts: Vec<TextSize>,
    /// How many code points stand before each multiple of [`STEP`] bytes; empty where each byte is one. A byte-order mark is
    /// none.
    marks: Vec<u32>,
}

/// How far the marks are apart, in bytes: as far as is walked to find a column, however long the line.
const STEP: usize = 1 << 10;

fn counts(char: &char) -> bool {
    *char != '\u{feff}'
}

impl Lines {
    /// Finds the line starts of `text`.
    #[must_use]
    pub fn new(text: &str) -> Lines {
        let bytes = text.as_bytes();
        let mut starts = Vec::with_capacity(bytes.len() / 32 + 1);
        starts.push(TextSize::new(0));
        for (index, byte) in bytes.iter().enumerate() {
            if *byte == b'\n' || (*byte == b'\r' && bytes.get(index + 1) != Some(&b'\n')) {
                starts.push(TextSize::try_from(index + 1).unwrap_or_default());
            }
        }
        Lines { starts, marks: marks(text) }
    }

    /// How many lines there are; a last line without content (after a final line end) does not count.
    #[must_use]
    pub fn count(&self, text: &str) -> usize {
        let last_is_empty = self.starts.last().is_some_and(|start| usize::from(*start) >= text.len());
        self.starts.len() - usize::from(last_is_empty)
    }

    /// The 0-based index of the line that `offset` lies in.
    #[must_use]
    pub fn index_of(&self, offset: TextSize) -> usize {
        self.starts.partition_point(|start| *start <= offset).saturating_sub(1)
    }

    /// The position of a byte offset.
    #[must_use]
    pub fn position(&self, text: &str, offset: TextSize) -> Position {
        let index = self.index_of(offset);
        let start = usize::from(self.starts[index]);
        let end = usize::from(offset).min(text.len());
        let column = self.before(text, end).saturating_sub(self.before(text, start));
        Position { line: number(index) + 1, column: number(column) + 1 }
    }

    /// How many code points stand before a byte.
    fn before(&self, text: &str, offset: usize) -> usize {
        if self.marks.is_empty() {
            return offset;
        }
        let mark = (offset / STEP).min(self.marks.len() - 1);
        let from = text.ceil_char_boundary(mark * STEP);
        let rest = text.get(from..offset).unwrap_or_default();
        self.marks[mark] as usize + rest.chars().filter(counts).count()
    }

    /// The byte offset of a position, or `None` where the text has no such line. A column past the line's end gives its end.
    #[must_use]
    pub fn offset(&self, text: &str, position: Position) -> Option<TextSize> {
        let range = self.line_range(text, usize::try_from(position.line).ok()?.checked_sub(1)?)?;
        let line = &text[range];
        let mut offset = range.start();
        for char in line.chars().take(usize::try_from(position.column).ok()?.saturating_sub(1)) {
            offset += TextSize::of(char);
        }
        Some(offset)
    }

    /// The range of the line with this 0-based index, without its line end.
    #[must_use]
    pub fn line_range(&self, text: &str, index: usize) -> Option<TextRange> {
        let start = *self.starts.get(index)?;
        let end = self.starts.get(index + 1).copied().unwrap_or_else(|| TextSize::of(text));
        let line = &text[TextRange::new(start, end)];
        let trimmed = line.trim_end_matches(['\n', '\r']);
        Some(TextRange::at(start, TextSize::of(trimmed)))
    }
}

fn marks(text: &str) -> Vec<u32> {
    if text.is_ascii() {
        return Vec::new();
    }
    let mut marks = vec![0];
    let mut all = 0;
    let mut from = 0;
    for mark in 1..=text.len() / STEP {
        let to = text.ceil_char_boundary(mark * STEP);
        all += number(text[from..to].chars().filter(counts).count());
        marks.push(all);
        from = to;
    }
    marks
}

fn number(value: usize) -> u32 {
    u32::try_from(value).unwrap_or(u32::MAX)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn columns_count_code_points() {
        let text = "a\n  é = b\n";
        let lines = Lines::new(text);
        let offset = TextSize::try_from(text.find('b').unwrap()).unwrap();
        assert_eq!(lines.position(text, offset), Position { line: 2, column: 7 });
        assert_eq!(lines.offset(text, Position { line: 2, column: 7 }), Some(offset));
    }

    #[test]
    fn all_line_ends_count() {
        let text = "a\r\nb\rc\nd";
        let lines = Lines::new(text);
        assert_eq!(lines.count(text), 4);
        assert_eq!(lines.position(text, TextSize::new(5)).line, 3);
        assert_eq!(&text[lines.line_range(text, 0).unwrap()], "a");
    }

    #[test]
    fn columns_far_to_the_right_are_code_points_too() {
        let text = format!("\u{feff}a\n{}x", "é→".repeat(5_000));
        let lines = Lines::new(&text);
        let x = TextSize::try_from(text.len() - 1).unwrap();
        assert_eq!(lines.position(&text, x), Position { line: 2, column: 10_001 });
        assert_eq!(lines.position(&text, TextSize::new(3)), Position { line: 1, column: 1 });
        for (number, (at, _)) in text[5..].char_indices().enumerate() {
            let position = lines.position(&text, TextSize::try_from(5 + at).unwrap());
            assert_eq!(position.column as usize, number + 1);
        }
    }

    #[test]
    fn a_final_line_end_opens_no_line() {
        assert_eq!(Lines::new("a\n").count("a\n"), 1);
        assert_eq!(Lines::new("").count(""), 0);
    }
}
