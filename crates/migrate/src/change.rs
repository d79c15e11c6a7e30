//! Changes to files: shown as diffs, written all or nothing, taken back.

use std::path::PathBuf;

use leitmotiv_project::write::undo::UndoError;
use leitmotiv_project::write::{NewFile, WriteError, Writer};
use leitmotiv_project::{Project, read};
use leitmotiv_syntax::decode;
use leitmotiv_syntax::shown::escaped_line;
use thiserror::Error;

use crate::clean;
use crate::diff::unified;

/// A file before and after.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Change {
    /// Where it lies; absolute.
    pub path: PathBuf,
    /// How it is shown: relative to the project.
    pub shown: String,
    /// Its text before; `None` where the file is new.
    pub before: Option<String>,
    /// Its text after.
    pub after: String,
}

/// Why changes were not written; nothing was, then.
#[derive(Debug, Error)]
pub enum ChangeError {
    /// A file has changes that are not committed, or is not under version control.
    #[error("`{path}` {state}; commit it first, or give --dirty")]
    Dirty {
        /// The file.
        path: String,
        /// What it is.
        state: &'static str,
    },
    /// A file cannot be written in the encoding that it declares.
    #[error("`{0}` declares an encoding that the new text does not fit; nothing was written")]
    Encoding(String),
    /// A file cannot be read.
    #[error("cannot read `{path}`: {source}; nothing was written")]
    Unreadable {
        /// The file.
        path: String,
        /// Why.
        source: std::io::Error,
    },
    /// A file was changed between its reading and its writing.
    #[error("`{0}` was changed while this ran; nothing was written")]
    ChangedMeanwhile(String),
    /// A file cannot be written.
    #[error(transparent)]
    Write(#[from] WriteError),
    /// A run cannot be taken back.
    #[error(transparent)]
    Undo(#[from] UndoError),
}

/// All changes as one unified diff.
#[must_use]
pub fn diff(changes: &[Change]) -> String {
    let mut out = String::new();
    for change in changes {
        let before = change.before.as_deref().unwrap_or_default();
        let shown = escaped_line(&change.shown);
        let old = if change.before.is_some() { format!("a/{shown}") } else { "/dev/null".to_owned() };
        let new = format!("b/{shown}");
        out.push_str(&unified(before, &change.after, &old, &new));
    }
    out
}

/// Writes changes as a run of `command` and remembers them for [`undo`]. Files that were not committed are refused unless
/// `dirty` is set.
///
/// # Errors
/// [`ChangeError`]; nothing was written then.
pub fn write(
    project: &Project,
    writer: &Writer,
    command: &str,
    changes: &[Change],
    dirty: bool,
) -> Result<(), ChangeError> {
    if !dirty {
        let there = changes.iter().filter(|change| change.before.is_some());
        let paths: Vec<PathBuf> =
            there.map(|change| change.path.strip_prefix(&project.root).unwrap_or(&change.path).to_owned()).collect();
        if let Some((path, state)) = clean::first_unclean(project, &paths) {
            return Err(ChangeError::Dirty { path: project.relative(&project.root.join(path)), state });
        }
    }
    let files: Result<Vec<NewFile>, ChangeError> = changes.iter().map(new_file).collect();
    writer.write(command, &files?, true)?;
    Ok(())
}

/// A change in bytes, if the file still holds what the change begins with.
fn new_file(change: &Change) -> Result<NewFile, ChangeError> {
    let encoded = |text: &str| decode::encode(text).ok_or_else(|| ChangeError::Encoding(change.shown.clone()));
    let before = match &change.before {
        None => None,
        Some(text) => {
            let bytes = read::bytes(&change.path)
                .map_err(|source| ChangeError::Unreadable { path: change.shown.clone(), source })?;
            // Only what comes back byte by byte can be edited.
            if decode::decode(bytes.clone()).as_deref() != Ok(text) {
                return Err(ChangeError::ChangedMeanwhile(change.shown.clone()));
            }
            if encoded(text)? != bytes {
                return Err(ChangeError::Encoding(change.shown.clone()));
            }
            Some(bytes)
        }
    };
    Ok(NewFile { path: change.path.clone(), before, after: Some(encoded(&change.after)?) })
}

/// Takes back the last run of a command. Gives the files concerned.
///
/// # Errors
/// [`ChangeError::Undo`] where there was none, or a file was changed since.
pub fn undo(writer: &Writer, command: &str) -> Result<Vec<String>, ChangeError> {
    Ok(writer.undo(command)?)
}

#[cfg(test)]
mod tests {
    use super::*;
    use leitmotiv_project::Surroundings;
    use leitmotiv_project::write::Interrupts;

    struct Place {
        _folder: tempfile::TempDir,
        project: Project,
        writer: Writer,
    }

    fn place(path: &str, bytes: &[u8]) -> Place {
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join(path), bytes).unwrap();
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        let writer = Writer::new(&project.root, Interrupts::default());
        Place { _folder: folder, project, writer }
    }

    impl Place {
        fn change(&self, path: &str, before: Option<&str>, after: &str) -> Change {
            let file = self.project.root.join(path);
            Change { path: file, shown: path.into(), before: before.map(str::to_owned), after: after.into() }
        }

        fn read(&self, path: &str) -> Vec<u8> {
            std::fs::read(self.project.root.join(path)).unwrap()
        }
    }

    #[test]
    fn a_latin_1_file_stays_one_and_comes_back() {
        let bytes = b"# -*- coding: latin-1 -*-\nx = '\xe9'\n";
        let place = place("a.py", bytes);
        let text = decode::decode(bytes.to_vec()).unwrap();
        let change = place.change("a.py", Some(&text), &text.replace("x =", "x: str ="));
        write(&place.project, &place.writer, "annotate", &[change], true).unwrap();
        assert_eq!(place.read("a.py"), b"# -*- coding: latin-1 -*-\nx: str = '\xe9'\n");
        undo(&place.writer, "annotate").unwrap();
        assert_eq!(place.read("a.py"), bytes);
        let change = place.change("a.py", Some(&text), &text.replace('é', "\u{20ac}"));
        let error = write(&place.project, &place.writer, "annotate", &[change], true).unwrap_err();
        assert!(matches!(error, ChangeError::Encoding(_)));
    }

    #[test]
    fn what_was_changed_meanwhile_is_not_written_over() {
        let place = place("a.py", b"x = 3\n");
        let change = place.change("a.py", Some("x = 1\n"), "x = 2\n");
        let error = write(&place.project, &place.writer, "annotate", &[change], true).unwrap_err();
        assert_eq!(error.to_string(), "`a.py` was changed while this ran; nothing was written");
        assert_eq!(place.read("a.py"), b"x = 3\n");
    }

    #[test]
    fn files_outside_of_version_control_are_refused() {
        let place = place("a.py", b"x = 1\n");
        let change = place.change("a.py", Some("x = 1\n"), "x = 2\n");
        let error = write(&place.project, &place.writer, "annotate", &[change], false).unwrap_err();
        assert!(error.to_string().contains("not under version control"), "{error}");
        assert_eq!(place.read("a.py"), b"x = 1\n");
    }

    #[test]
    fn diffs_name_both_sides() {
        let place = place("a.py", b"x\n");
        let text = diff(&[place.change("a.py", Some("x\n"), "y\n")]);
        assert_eq!(text, "--- a/a.py\n+++ b/a.py\n@@ -1 +1 @@\n-x\n+y\n");
    }
}
