//! Paths and `file:` URIs (RFC 8089; characters written as RFC 3986 asks).

use std::path::{Path, PathBuf};
use std::str::FromStr;

use lsp_types::Uri;

/// A path as a URI; `None` of one that is not absolute.
#[must_use]
pub fn of_path(path: &Path) -> Option<Uri> {
    if !path.is_absolute() {
        return None;
    }
    let mut text = String::from("file://");
    for byte in bytes(path) {
        match byte {
            b'\\' if cfg!(windows) => text.push('/'),
            b'a'..=b'z' | b'A'..=b'Z' | b'0'..=b'9' | b'-' | b'_' | b'.' | b'~' | b'/' => text.push(char::from(byte)),
            other => text.push_str(&format!("%{other:02X}")),
        }
    }
    if cfg!(windows) {
        text.insert("file://".len(), '/');
    }
    Uri::from_str(&text).ok()
}

/// The path of a URI; `None` of one that is no file's.
#[must_use]
pub fn to_path(uri: &Uri) -> Option<PathBuf> {
    let rest = uri.as_str().strip_prefix("file:")?;
    // A host may be named, which is this one.
    let rest = match rest.strip_prefix("//") {
        Some(rest) => &rest[rest.find('/')?..],
        None => rest,
    };
    let rest = rest.split(['?', '#']).next().unwrap_or(rest);
    let mut bytes = Vec::with_capacity(rest.len());
    let mut left = rest.bytes();
    while let Some(byte) = left.next() {
        if byte != b'%' {
            bytes.push(byte);
            continue;
        }
        let mut digit = || char::from(left.next()?).to_digit(16).and_then(|digit| u8::try_from(digit).ok());
        bytes.push(digit()? * 16 + digit()?);
    }
    path(bytes)
}

#[cfg(unix)]
fn bytes(path: &Path) -> Vec<u8> {
    use std::os::unix::ffi::OsStrExt;
    path.as_os_str().as_bytes().to_vec()
}

#[cfg(unix)]
fn path(bytes: Vec<u8>) -> Option<PathBuf> {
    use std::os::unix::ffi::OsStringExt;
    let path = PathBuf::from(std::ffi::OsString::from_vec(bytes));
    path.is_absolute().then_some(path)
}

#[cfg(not(unix))]
fn bytes(path: &Path) -> Vec<u8> {
    path.to_string_lossy().into_owned().into_bytes()
}

#[cfg(not(unix))]
fn path(bytes: Vec<u8>) -> Option<PathBuf> {
    let text = String::from_utf8(bytes).ok()?;
    let text = text.strip_prefix('/').filter(|rest| rest.as_bytes().get(1) == Some(&b':')).unwrap_or(&text);
    Some(PathBuf::from(text))
}

/// The path with links followed, as the session knows it; of what is not there, its folder's.
#[must_use]
pub fn real(path: &Path) -> PathBuf {
    if let Ok(real) = path.canonicalize() {
        return real;
    }
    match (path.parent(), path.file_name()) {
        (Some(parent), Some(name)) if parent != path => real(parent).join(name),
        _ => path.to_owned(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_path_comes_back_whatever_is_in_it() {
        for path in ["/ferry/berths.py", "/a b/é#?%/x:y.py", "/"] {
            let uri = of_path(Path::new(path)).unwrap();
            assert_eq!(to_path(&uri).unwrap(), Path::new(path), "{}", uri.as_str());
        }
        assert_eq!(of_path(Path::new("a.py")), None);
        let told = |text: &str| Uri::from_str(text).ok().and_then(|uri| to_path(&uri));
        assert_eq!(told("file://localhost/a.py").unwrap(), Path::new("/a.py"));
        assert_eq!(told("file:/a.py").unwrap(), Path::new("/a.py"));
        assert_eq!(told("untitled:one"), None);
        assert_eq!(told("file:///%2"), None);
    }
}
