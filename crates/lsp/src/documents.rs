//! Documents that the client holds open, as it tells of them.

use std::path::PathBuf;

use leitmotiv_syntax::positions::Lines;
use lsp_types::{TextDocumentContentChangeEvent, Uri};

use crate::encoding::{Encoding, Text};

/// A document that the client holds open.
#[derive(Debug, Clone)]
pub struct Document {
    /// What the client calls it.
    pub uri: Uri,
    /// Its version, as the client counts.
    pub version: i32,
    /// Its text.
    pub text: String,
    /// Where it lies, with links followed; `None` where it is no file.
    pub path: Option<PathBuf>,
    /// Whether it is Python.
    pub is_python: bool,
}

impl Document {
    /// Takes changes, each made to what the one before left.
    pub fn change(&mut self, encoding: Encoding, changes: Vec<TextDocumentContentChangeEvent>) {
        for change in changes {
            let Some(range) = change.range else {
                self.text = change.text;
                continue;
            };
            let lines = Lines::new(&self.text);
            let bytes = Text { text: &self.text, lines: &lines, encoding }.bytes(range);
            self.text.replace_range(usize::from(bytes.start())..usize::from(bytes.end()), &change.text);
        }
    }
}

#[cfg(test)]
mod tests {
    use std::str::FromStr;

    use lsp_types::{Position, Range};

    use super::*;

    #[test]
    fn changes_are_made_one_after_the_other() {
        let uri = Uri::from_str("file:///a.py").unwrap();
        let mut document = Document { uri, version: 1, text: "a𝔉b\n".to_owned(), path: None, is_python: true };
        let change = |start: (u32, u32), end: (u32, u32), text: &str| TextDocumentContentChangeEvent {
            range: Some(Range::new(Position::new(start.0, start.1), Position::new(end.0, end.1))),
            range_length: None,
            text: text.to_owned(),
        };
        document.change(Encoding::Utf16, vec![change((0, 3), (0, 4), "c"), change((1, 0), (1, 0), "d\n")]);
        assert_eq!(document.text, "a𝔉c\nd\n");
        document.change(Encoding::Utf16, vec![change((9, 0), (0, 0), "e")]);
        assert_eq!(document.text, "a𝔉c\nd\ne");
        document.change(
            Encoding::Utf16,
            vec![TextDocumentContentChangeEvent { range: None, range_length: None, text: "f".to_owned() }],
        );
        assert_eq!(document.text, "f");
    }
}
