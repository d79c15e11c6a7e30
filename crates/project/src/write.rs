//! Writing files so that nothing is ever half-written.

use std::io::{self, Write};
use std::path::{Path, PathBuf};

use thiserror::Error;

/// A file that could not be written; nothing was changed.
#[derive(Debug, Error)]
#[error("cannot write `{}`: {source}", .path.display())]
pub struct WriteError {
    /// The file.
    pub path: PathBuf,
    /// Why.
    pub source: io::Error,
}

/// Writes all files, or none: each under a temporary name beside its place first, then all are renamed. Folders are made
/// as needed; permissions of replaced files are kept.
///
/// # Errors
/// [`WriteError`] for the first file that cannot be written; temporary files are removed, and files already renamed are
/// put back.
pub fn write_all(files: &[(PathBuf, String)]) -> Result<(), WriteError> {
    let mut staged: Vec<(PathBuf, &Path)> = Vec::new();
    let clean = |staged: &[(PathBuf, &Path)]| {
        for (temporary, _) in staged {
            // Nothing better can be done about a temporary file that cannot be removed.
            let _ = std::fs::remove_file(temporary);
        }
    };
    for (path, text) in files {
        let temporary = temporary_name(path);
        if let Err(source) = stage(&temporary, path, text) {
            let _ = std::fs::remove_file(&temporary);
            clean(&staged);
            return Err(WriteError { path: path.clone(), source });
        }
        staged.push((temporary, path));
    }
    let mut done: Vec<(&Path, Option<Vec<u8>>)> = Vec::new();
    for (index, (temporary, path)) in staged.iter().enumerate() {
        let before = std::fs::read(path).ok();
        if let Err(source) = std::fs::rename(temporary, path) {
            for (path, before) in done {
                let _ = match before {
                    Some(bytes) => std::fs::write(path, bytes),
                    None => std::fs::remove_file(path),
                };
            }
            clean(&staged[index..]);
            return Err(WriteError { path: (*path).to_owned(), source });
        }
        done.push((path, before));
    }
    Ok(())
}

fn stage(temporary: &Path, path: &Path, text: &str) -> io::Result<()> {
    if let Some(folder) = path.parent() {
        std::fs::create_dir_all(folder)?;
    }
    let permissions = std::fs::metadata(path).map(|metadata| metadata.permissions()).ok();
    if permissions.as_ref().is_some_and(std::fs::Permissions::readonly) {
        return Err(io::Error::new(io::ErrorKind::PermissionDenied, "it is read-only"));
    }
    let mut file = std::fs::File::create(temporary)?;
    file.write_all(text.as_bytes())?;
    if let Some(permissions) = permissions {
        file.set_permissions(permissions)?;
    }
    Ok(())
}

fn temporary_name(path: &Path) -> PathBuf {
    let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    path.with_file_name(format!(".{name}.leitmotiv-{}", std::process::id()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn one_failure_leaves_everything_as_it_was() {
        let folder = tempfile::tempdir().unwrap();
        let good = folder.path().join("good.py");
        std::fs::write(&good, "before").unwrap();
        // A file stands where a folder is needed.
        let bad = good.join("inside.py");
        let error = write_all(&[(good.clone(), "after".into()), (bad, "x".into())]).unwrap_err();
        assert!(error.to_string().starts_with("cannot write `"));
        assert_eq!(std::fs::read_to_string(&good).unwrap(), "before");
        assert_eq!(std::fs::read_dir(folder.path()).unwrap().count(), 1);
    }

    #[test]
    fn a_read_only_file_is_refused() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("kept.py");
        std::fs::write(&path, "before").unwrap();
        let mut permissions = std::fs::metadata(&path).unwrap().permissions();
        permissions.set_readonly(true);
        std::fs::set_permissions(&path, permissions).unwrap();
        assert!(write_all(&[(path.clone(), "after".into())]).unwrap_err().to_string().contains("read-only"));
        assert_eq!(std::fs::read_to_string(&path).unwrap(), "before");
    }

    #[test]
    fn folders_are_made() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("a/b/c.pyi");
        write_all(&[(path.clone(), "x".into())]).unwrap();
        assert_eq!(std::fs::read_to_string(path).unwrap(), "x");
    }
}
