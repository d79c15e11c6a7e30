//! Places in the client's terms: lines from 0, and columns in the units that were agreed upon (LSP 3.17, "Position").

use leitmotiv_syntax::positions::Lines;
use leitmotiv_syntax::{TextRange, TextSize};
use lsp_types::{Position, PositionEncodingKind, Range};

/// The units of columns.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Encoding {
    /// Bytes.
    Utf8,
    /// What every client speaks: characters above U+FFFF count for two.
    Utf16,
    /// Code points.
    Utf32,
}

impl Encoding {
    /// The one to use with a client that takes some: bytes are cheapest.
    #[must_use]
    pub fn choose(offered: Option<&[PositionEncodingKind]>) -> Encoding {
        let has = |kind: &PositionEncodingKind| offered.is_some_and(|offered| offered.contains(kind));
        if has(&PositionEncodingKind::UTF8) {
            Encoding::Utf8
        } else if has(&PositionEncodingKind::UTF32) {
            Encoding::Utf32
        } else {
            Encoding::Utf16
        }
    }

    /// Its name in the protocol.
    #[must_use]
    pub fn kind(self) -> PositionEncodingKind {
        match self {
            Encoding::Utf8 => PositionEncodingKind::UTF8,
            Encoding::Utf16 => PositionEncodingKind::UTF16,
            Encoding::Utf32 => PositionEncodingKind::UTF32,
        }
    }

    /// How many units a text has.
    #[must_use]
    pub fn length(self, text: &str) -> u32 {
        let length = match self {
            Encoding::Utf8 => text.len(),
            Encoding::Utf16 => text.chars().map(char::len_utf16).sum(),
            Encoding::Utf32 => text.chars().count(),
        };
        u32::try_from(length).unwrap_or(u32::MAX)
    }

    fn of(self, char: char) -> usize {
        match self {
            Encoding::Utf8 => char.len_utf8(),
            Encoding::Utf16 => char.len_utf16(),
            Encoding::Utf32 => 1,
        }
    }
}

/// A text with its lines, in the client's terms.
#[derive(Debug, Clone, Copy)]
pub struct Text<'a> {
    /// The text.
    pub text: &'a str,
    /// Its lines.
    pub lines: &'a Lines,
    /// The units of columns.
    pub encoding: Encoding,
}

/// What editors take off before they show a text.
const MARK: char = '\u{feff}';

impl Text<'_> {
    /// The position of a byte.
    #[must_use]
    pub fn position(&self, offset: TextSize) -> Position {
        let offset = self.text.floor_char_boundary(usize::from(offset).min(self.text.len()));
        let offset = TextSize::try_from(offset).unwrap_or_default();
        let line = self.lines.index_of(offset);
        let start = self.lines.line_range(self.text, line).map_or(TextSize::default(), TextRange::start);
        let before = self.text[TextRange::new(start.min(offset), offset)].trim_start_matches(MARK);
        Position::new(u32::try_from(line).unwrap_or(u32::MAX), self.encoding.length(before))
    }

    /// The byte at a position; beyond the line's end its end, beyond the last line the end of the text, within a character its start.
    #[must_use]
    pub fn offset(&self, position: Position) -> TextSize {
        let Some(range) = self.lines.line_range(self.text, position.line as usize) else {
            return TextSize::of(self.text);
        };
        let mut at = range.start();
        let mut left = position.character as usize;
        for char in self.text[range].chars() {
            let units = if char == MARK && at == TextSize::default() { 0 } else { self.encoding.of(char) };
            if left < units || left == 0 && char != MARK {
                break;
            }
            left -= units;
            at += TextSize::of(char);
        }
        at
    }

    /// A stretch in the client's terms.
    #[must_use]
    pub fn range(&self, range: TextRange) -> Range {
        Range::new(self.position(range.start()), self.position(range.end()))
    }

    /// A stretch in bytes; one that ends before it begins is empty.
    #[must_use]
    pub fn bytes(&self, range: Range) -> TextRange {
        let (start, end) = (self.offset(range.start), self.offset(range.end));
        TextRange::new(start, end.max(start))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn columns_are_counted_in_the_units_agreed_upon_there_and_back() {
        let text = "é𝔉x\r\n\tß = '𝔉'\rlast";
        let lines = Lines::new(text);
        for encoding in [Encoding::Utf8, Encoding::Utf16, Encoding::Utf32] {
            let text = Text { text, lines: &lines, encoding };
            for (at, _) in text.text.char_indices().filter(|(_, char)| !matches!(char, '\r' | '\n')) {
                let at = TextSize::try_from(at).unwrap();
                assert_eq!(text.offset(text.position(at)), at, "{encoding:?}");
            }
        }
        let at = |encoding| {
            Text { text, lines: &lines, encoding }.position(TextSize::try_from(text.find('x').unwrap()).unwrap())
        };
        assert_eq!(at(Encoding::Utf8), Position::new(0, 6));
        assert_eq!(at(Encoding::Utf16), Position::new(0, 3));
        assert_eq!(at(Encoding::Utf32), Position::new(0, 2));
    }

    #[test]
    fn places_outside_of_the_text_are_moved_into_it() {
        let text = "ab\ncd";
        let lines = Lines::new(text);
        let text = Text { text, lines: &lines, encoding: Encoding::Utf16 };
        assert_eq!(text.offset(Position::new(0, 99)), TextSize::new(2));
        assert_eq!(text.offset(Position::new(99, 0)), TextSize::new(5));
        let split = Lines::new("𝔉");
        let half = Text { text: "𝔉", lines: &split, encoding: Encoding::Utf16 };
        assert_eq!(half.offset(Position::new(0, 1)), TextSize::new(0));
    }

    #[test]
    fn a_byte_order_mark_is_in_no_column() {
        let lines = Lines::new("\u{feff}ab");
        let text = Text { text: "\u{feff}ab", lines: &lines, encoding: Encoding::Utf16 };
        assert_eq!(text.position(TextSize::new(3)), Position::new(0, 0));
        assert_eq!(text.position(TextSize::new(4)), Position::new(0, 1));
        assert_eq!(text.offset(Position::new(0, 1)), TextSize::new(4));
        assert_eq!(text.offset(Position::new(0, 0)), TextSize::new(3));
    }
}
