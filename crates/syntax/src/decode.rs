//! Bytes of a source file to text.

use thiserror::Error;

/// Why the bytes of a file are not Python text.
#[derive(Debug, Error, Clone, PartialEq, Eq)]
pub enum DecodeError {
    /// The bytes are not valid in the encoding that the file is in.
    #[error("not valid {encoding} (byte {offset})")]
    Invalid {
        /// The encoding that was tried.
        encoding: &'static str,
        /// 0-based offset of the first byte that does not fit.
        offset: usize,
    },
    /// The file declares an encoding that is not read (PEP 263).
    #[error("its encoding `{0}` is not supported")]
    Unsupported(String),
}

/// Decodes a file as the interpreter would: UTF-8 with or without a byte-order mark, or the encoding
/// declared in the first two lines (PEP 263), of which UTF-8, ASCII and Latin-1 are read.
///
/// A byte-order mark stays in the text (as U+FEFF), so that offsets agree with the file.
///
/// # Errors
/// [`DecodeError`] when the bytes do not fit the encoding or the encoding is not supported.
pub fn decode(bytes: Vec<u8>) -> Result<String, DecodeError> {
    match declared_encoding(&bytes).as_deref() {
        None | Some("utf-8" | "utf8" | "ascii" | "us-ascii" | "utf-8-sig") => String::from_utf8(bytes)
            .map_err(|error| DecodeError::Invalid { encoding: "UTF-8", offset: error.utf8_error().valid_up_to() }),
        Some("latin-1" | "latin1" | "iso-8859-1" | "iso8859-1" | "iso-latin-1" | "l1") => {
            Ok(bytes.into_iter().map(char::from).collect())
        }
        Some(other) => Err(DecodeError::Unsupported(other.to_owned())),
    }
}

/// The bytes of a text in the encoding that it declares: what [`decode`] reads as that text again. `None` where there are none,
/// as of a character that the encoding does not have.
#[must_use]
pub fn encode(text: &str) -> Option<Vec<u8>> {
    let bytes = match declared_encoding(text.as_bytes()).as_deref() {
        Some("latin-1" | "latin1" | "iso-8859-1" | "iso8859-1" | "iso-latin-1" | "l1") => {
            text.chars().map(|char| u8::try_from(u32::from(char)).ok()).collect::<Option<Vec<u8>>>()?
        }
        _ => text.as_bytes().to_vec(),
    };
    // An edit could have moved or changed the declaration itself.
    decode(bytes.clone()).is_ok_and(|again| again == text).then_some(bytes)
}

/// The encoding named by a comment in the first two lines, in lower case with `_` as `-`.
fn declared_encoding(bytes: &[u8]) -> Option<String> {
    for line in bytes.split(|byte| *byte == b'\n').take(2) {
        let line = line.strip_prefix(b"\xef\xbb\xbf").unwrap_or(line).trim_ascii_start();
        if line.is_empty() {
            continue;
        }
        // Only a comment may precede the declaration's line.
        let comment = line.strip_prefix(b"#")?;
        let Some(at) = comment.windows(6).position(|window| window == b"coding") else { continue };
        let rest = &comment[at + 6..];
        let Some(rest) = rest.strip_prefix(b":").or_else(|| rest.strip_prefix(b"=")) else { continue };
        let name: String = rest
            .trim_ascii_start()
            .iter()
            .take_while(|byte| byte.is_ascii_alphanumeric() || b"-_.".contains(byte))
            .map(|byte| char::from(byte.to_ascii_lowercase()))
            .map(|char| if char == '_' { '-' } else { char })
            .collect();
        if !name.is_empty() {
            return Some(name);
        }
    }
    None
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn utf8_is_the_default() {
        assert_eq!(decode("x = 'é'".as_bytes().to_vec()), Ok("x = 'é'".to_owned()));
    }

    #[test]
    fn an_invalid_byte_is_told_with_its_offset() {
        assert_eq!(decode(b"ab\xff".to_vec()), Err(DecodeError::Invalid { encoding: "UTF-8", offset: 2 }));
    }

    #[test]
    fn a_declared_latin_1_file_is_read() {
        assert_eq!(
            decode(b"# -*- coding: latin-1 -*-\nx='\xe9'".to_vec()).unwrap(),
            "# -*- coding: latin-1 -*-\nx='é'"
        );
    }

    #[test]
    fn a_text_becomes_the_bytes_that_it_came_from() {
        let heads =
            ["", "# coding: utf-8\n", "# -*- coding: latin-1 -*-\n", "#!/x\r\n# vim: fileencoding=iso_8859_1\r\n"];
        for head in heads {
            let mut bytes = head.as_bytes().to_vec();
            bytes.extend(if head.contains("1") { &b"x = '\xe9'\r\n"[..] } else { "x = 'é'\n".as_bytes() });
            let text = decode(bytes.clone()).unwrap();
            assert_eq!(encode(&text), Some(bytes), "{head}");
        }
        assert_eq!(encode("# coding: latin-1\nx = '\u{20ac}'\n"), None);
        assert_eq!(encode("# coding: koi8-r\nx = 1\n"), None);
    }

    #[test]
    fn a_declaration_after_code_does_not_count() {
        assert!(decode(b"x = 1\n# coding: koi8-r\n".to_vec()).is_ok());
        assert_eq!(decode(b"\n# coding: koi8_r\n".to_vec()), Err(DecodeError::Unsupported("koi8-r".into())));
    }
}
