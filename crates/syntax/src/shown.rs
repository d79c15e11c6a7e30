//! Text that is safe to show: no character in it moves a cursor, changes colours, hides or reorders what is read.

use std::borrow::Cow;
use std::fmt::Write;

/// Whether a character cannot be seen for what it is: controls (C0, C1, delete), line and paragraph separators, and those that
/// change the direction of text (Unicode Standard Annex 9); and noncharacters, which programs use for marks of their own.
#[must_use]
pub fn is_hidden(char: char) -> bool {
    char.is_control()
        || matches!(char, '\u{61c}' | '\u{200e}' | '\u{200f}' | '\u{2028}'..='\u{202e}' | '\u{2066}'..='\u{2069}' | '\u{fdd0}'..='\u{fdef}')
}

/// A text with its hidden characters written as in Python's literals (`\x1b`, `\u202e`); line ends and tabs stay.
#[must_use]
pub fn escaped(text: &str) -> Cow<'_, str> {
    escaped_but(text, |char| matches!(char, '\n' | '\t'))
}

/// The same for a text of one line, such as a name or a path: line ends and tabs are written too.
#[must_use]
pub fn escaped_line(text: &str) -> Cow<'_, str> {
    escaped_but(text, |_| false)
}

/// A line of code: tabs become spaces, one for one, and other hidden characters are written out.
#[must_use]
pub fn escaped_code(line: &str) -> Cow<'_, str> {
    if line.contains('\t') {
        Cow::Owned(escaped_line(&line.replace('\t', " ")).into_owned())
    } else {
        escaped_line(line)
    }
}

fn escaped_but(text: &str, stays: impl Fn(char) -> bool) -> Cow<'_, str> {
    // Nearly all text is plain.
    if text.bytes().all(|byte| (0x20..0x7f).contains(&byte) || byte == b'\n' && stays('\n')) {
        return Cow::Borrowed(text);
    }
    let (ends_stay, tabs_stay) = (stays('\n'), stays('\t'));
    let is_plain =
        |byte: &u8| (0x20..0x7f).contains(byte) || *byte == b'\n' && ends_stay || *byte == b'\t' && tabs_stay;
    let mut out = String::with_capacity(text.len() + 8);
    let mut rest = text;
    loop {
        let plain = rest.bytes().position(|byte| !is_plain(&byte)).unwrap_or(rest.len());
        out.push_str(&rest[..plain]);
        rest = &rest[plain..];
        let Some(char) = rest.chars().next() else { break };
        rest = &rest[char.len_utf8()..];
        let is_line_end = char == '\r' && ends_stay && rest.starts_with('\n');
        if !is_hidden(char) || stays(char) || is_line_end {
            out.push(char);
            continue;
        }
        let code = u32::from(char);
        // Writing to a string cannot fail.
        let _ = match char {
            '\n' => write!(out, "\\n"),
            '\r' => write!(out, "\\r"),
            '\t' => write!(out, "\\t"),
            _ if code < 0x100 => write!(out, "\\x{code:02x}"),
            _ => write!(out, "\\u{code:04x}"),
        };
    }
    Cow::Owned(out)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn hidden_characters_are_written_out() {
        assert_eq!(escaped("a\tb\r\nc"), "a\tb\r\nc");
        assert_eq!(escaped("\u{1b}[2J\u{9b}m\u{7f}\r"), "\\x1b[2J\\x9bm\\x7f\\r");
        assert_eq!(escaped("x\u{202e}y\u{2066}"), "x\\u202ey\\u2066");
        assert_eq!(escaped("héllo ⟶ 船"), "héllo ⟶ 船");
        assert_eq!(escaped_line("a\nb\t.py"), "a\\nb\\t.py");
        assert_eq!(escaped_code("\tx = '\u{1b}'"), " x = '\\x1b'");
    }
}
