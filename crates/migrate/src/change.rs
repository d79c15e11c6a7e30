//! Changes to files: shown as diffs, written all or nothing, taken back.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

use leitmotiv_project::write::{WriteError, write_all};
use serde::{Deserialize, Serialize};
use similar::TextDiff;
use thiserror::Error;

/// A file before and after.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Change {
    /// The file, relative to the project.
    pub path: String,
    /// Its text before; `None` where the file is new.
    pub before: Option<String>,
    /// Its text after.
    pub after: String,
}

/// Why changes were not written.
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
    /// A file cannot be written.
    #[error(transparent)]
    Write(#[from] WriteError),
    /// There is nothing to take back.
    #[error("there is no earlier run to take back")]
    NothingToUndo,
    /// A file was changed since.
    #[error("`{0}` was changed since it was written; nothing was taken back")]
    ChangedSince(String),
}

/// All changes as one unified diff.
#[must_use]
pub fn diff(changes: &[Change]) -> String {
    let mut out = String::new();
    for change in changes {
        let before = change.before.as_deref().unwrap_or_default();
        let old = if change.before.is_some() { format!("a/{}", change.path) } else { "/dev/null".to_owned() };
        let new = format!("b/{}", change.path);
        let diff = TextDiff::from_lines(before, &change.after);
        out.push_str(&diff.unified_diff().context_radius(2).header(&old, &new).to_string());
    }
    out
}

/// Writes changes and remembers them for [`undo`].
///
/// # Errors
/// [`ChangeError`]; nothing was written then.
pub fn write(root: &Path, changes: &[Change], dirty: bool) -> Result<(), ChangeError> {
    if !dirty {
        for change in changes.iter().filter(|change| change.before.is_some()) {
            if let Some(state) = unclean(root, &change.path) {
                return Err(ChangeError::Dirty { path: change.path.clone(), state });
            }
        }
    }
    let mut files: Vec<(PathBuf, String)> =
        changes.iter().map(|change| (root.join(&change.path), change.after.clone())).collect();
    files.push((memory(root), serde_json::to_string(changes).unwrap_or_default()));
    let ignore = root.join(".leitmotiv/.gitignore");
    if !ignore.exists() {
        files.push((ignore, "*\n".to_owned()));
    }
    write_all(&files)?;
    Ok(())
}

/// Takes back the last [`write`].
///
/// # Errors
/// [`ChangeError`] where there was none, or a file was changed since.
pub fn undo(root: &Path) -> Result<Vec<Change>, ChangeError> {
    let text = std::fs::read_to_string(memory(root)).map_err(|_| ChangeError::NothingToUndo)?;
    let changes: Vec<Change> = serde_json::from_str(&text).map_err(|_| ChangeError::NothingToUndo)?;
    for change in &changes {
        let now = std::fs::read_to_string(root.join(&change.path)).unwrap_or_default();
        if now != change.after {
            return Err(ChangeError::ChangedSince(change.path.clone()));
        }
    }
    let back: Vec<(PathBuf, String)> = changes
        .iter()
        .filter_map(|change| change.before.clone().map(|before| (root.join(&change.path), before)))
        .collect();
    write_all(&back)?;
    for change in changes.iter().filter(|change| change.before.is_none()) {
        // Made by the run that is taken back; if it cannot be removed, it stays as it is.
        let _ = std::fs::remove_file(root.join(&change.path));
    }
    let _ = std::fs::remove_file(memory(root));
    Ok(changes)
}

fn memory(root: &Path) -> PathBuf {
    root.join(".leitmotiv/last-run.json")
}

/// What stands against writing to a file, asked of git.
fn unclean(root: &Path, path: &str) -> Option<&'static str> {
    let output = Command::new("git")
        .arg("-C")
        .arg(root)
        .args(["status", "--porcelain", "--ignored", "--", path])
        .stdin(Stdio::null())
        .stderr(Stdio::null())
        .output();
    match output {
        Ok(output) if output.status.success() => {
            let text = String::from_utf8_lossy(&output.stdout).into_owned();
            if text.trim().is_empty() {
                None
            } else if text.starts_with("??") || text.starts_with("!!") {
                Some("is not under version control")
            } else {
                Some("has uncommitted changes")
            }
        }
        _ => Some("is not under version control"),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn change(path: &str, before: Option<&str>, after: &str) -> Change {
        Change { path: path.into(), before: before.map(str::to_owned), after: after.into() }
    }

    #[test]
    fn a_write_can_be_taken_back() {
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join("a.py"), "x = 1\n").unwrap();
        let changes = [change("a.py", Some("x = 1\n"), "x: int = 1\n"), change("s/b.pyi", None, "y: int\n")];
        write(folder.path(), &changes, true).unwrap();
        assert_eq!(std::fs::read_to_string(folder.path().join("a.py")).unwrap(), "x: int = 1\n");
        undo(folder.path()).unwrap();
        assert_eq!(std::fs::read_to_string(folder.path().join("a.py")).unwrap(), "x = 1\n");
        assert!(!folder.path().join("s/b.pyi").exists());
        assert!(matches!(undo(folder.path()), Err(ChangeError::NothingToUndo)));
    }

    #[test]
    fn what_was_changed_since_is_not_taken_back() {
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join("a.py"), "x = 1\n").unwrap();
        write(folder.path(), &[change("a.py", Some("x = 1\n"), "x = 2\n")], true).unwrap();
        std::fs::write(folder.path().join("a.py"), "x = 3\n").unwrap();
        assert!(matches!(undo(folder.path()), Err(ChangeError::ChangedSince(_))));
    }

    #[test]
    fn files_outside_of_version_control_are_refused() {
        let folder = tempfile::tempdir().unwrap();
        std::fs::write(folder.path().join("a.py"), "x = 1\n").unwrap();
        let error = write(folder.path(), &[change("a.py", Some("x = 1\n"), "x = 2\n")], false).unwrap_err();
        assert!(error.to_string().contains("not under version control"), "{error}");
        assert_eq!(std::fs::read_to_string(folder.path().join("a.py")).unwrap(), "x = 1\n");
    }

    #[test]
    fn diffs_name_both_sides() {
        let text = diff(&[change("a.py", Some("x\n"), "y\n")]);
        assert_eq!(text, "--- a/a.py\n+++ b/a.py\n@@ -1 +1 @@\n-x\n+y\n");
    }
}
