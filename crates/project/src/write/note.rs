//! Small files in the project's own folder: what is remembered from run to run and may be lost.

use std::fs::OpenOptions;
use std::io::{self, Write};
use std::path::{Path, PathBuf};

use super::journal::{Home, folder};
use crate::read;

/// A file of the project's own folder; `None` where it is not there or cannot be read.
#[must_use]
pub fn read(base: &Path, name: &str) -> Option<Vec<u8>> {
    let path = known(base)?.join(name);
    path.symlink_metadata().ok().filter(std::fs::Metadata::is_file)?;
    read::bytes(&path).ok()
}

/// Where a file of the project's own folder lies, whether it is there or not.
#[must_use]
pub fn path(base: &Path, name: &str) -> PathBuf {
    folder(base).join(name)
}

/// The project's own folder, where it is there, and no link to another one.
#[must_use]
pub fn known(base: &Path) -> Option<PathBuf> {
    let folder = folder(base);
    folder.symlink_metadata().ok().filter(std::fs::Metadata::is_dir).map(|_| folder)
}

/// The project's own folder, made where it is not there; a link or a file in its place is refused.
///
/// # Errors
/// What the system says.
pub fn home(base: &Path) -> io::Result<PathBuf> {
    Ok(Home::open(base)?.folder().to_owned())
}

/// Writes a file of the project's own folder under another name, and gives it its own.
///
/// # Errors
/// What the system says; the file is as it was then.
pub fn write(base: &Path, name: &str, bytes: &[u8]) -> io::Result<()> {
    let home = Home::open(base)?;
    let path = home.folder().join(name);
    if path.symlink_metadata().is_ok_and(|metadata| !metadata.is_file()) {
        return Err(io::ErrorKind::AlreadyExists.into());
    }
    let other = home.folder().join(format!("{name}-{}", super::journal::random()?));
    let written = OpenOptions::new()
        .write(true)
        .create_new(true)
        .open(&other)
        .and_then(|mut file| file.write_all(bytes))
        .and_then(|()| std::fs::rename(&other, &path));
    if written.is_err() {
        let _ = std::fs::remove_file(&other);
    }
    written
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_written_is_read_and_links_are_not_followed() {
        let folder = tempfile::tempdir().unwrap();
        let base = folder.path();
        assert_eq!(read(base, "tides.json"), None);
        write(base, "tides.json", b"3").unwrap();
        write(base, "tides.json", b"4").unwrap();
        assert_eq!(read(base, "tides.json").as_deref(), Some(b"4".as_slice()));
        let names = std::fs::read_dir(base.join(".leitmotiv")).unwrap().count();
        assert_eq!(names, 3, "the file, the folder of runs, and what hides all from git");
        #[cfg(unix)]
        {
            std::fs::write(base.join("other"), "x").unwrap();
            std::os::unix::fs::symlink(base.join("other"), base.join(".leitmotiv/link.json")).unwrap();
            assert_eq!(read(base, "link.json"), None);
            assert!(write(base, "link.json", b"5").is_err());
            assert_eq!(std::fs::read(base.join("other")).unwrap(), b"x");
        }
    }
}
