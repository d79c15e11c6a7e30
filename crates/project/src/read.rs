//! Reading files so that nothing hangs and no file fills the memory.
//!
//! A project's folders may hold anything: pipes that never end, links to devices, files of many gigabytes. Every file that is
//! read goes through here.

use std::fs::{File, Metadata};
use std::io::{self, Read};
use std::path::Path;

/// The most that is read of one file, in bytes.
pub const MOST: u64 = 64 << 20;

/// The bytes of a regular file.
///
/// # Errors
/// What the system says; [`io::ErrorKind::InvalidInput`] for what is no regular file (a folder, a pipe, a device), and
/// [`io::ErrorKind::FileTooLarge`] for more than [`MOST`] bytes.
pub fn bytes(path: &Path) -> io::Result<Vec<u8>> {
    let (file, metadata) = regular(path)?;
    let too_large = || io::Error::new(io::ErrorKind::FileTooLarge, format!("it is larger than {} MB", MOST >> 20));
    if metadata.len() > MOST {
        return Err(too_large());
    }
    // Some systems have files that say nothing of their length.
    let mut bytes = Vec::with_capacity(usize::try_from(metadata.len()).unwrap_or(0) + 1);
    file.take(MOST + 1).read_to_end(&mut bytes)?;
    if bytes.len() as u64 > MOST {
        return Err(too_large());
    }
    Ok(bytes)
}

/// The beginning of a regular file, up to so many bytes, however long it is.
///
/// # Errors
/// What the system says; [`io::ErrorKind::InvalidInput`] for what is no regular file.
pub fn beginning(path: &Path, most: u64) -> io::Result<Vec<u8>> {
    let mut bytes = Vec::new();
    regular(path)?.0.take(most).read_to_end(&mut bytes)?;
    Ok(bytes)
}

fn regular(path: &Path) -> io::Result<(File, Metadata)> {
    let file = open(path)?;
    let metadata = file.metadata()?;
    if metadata.is_dir() {
        return Err(io::Error::new(io::ErrorKind::InvalidInput, "it is a folder"));
    }
    if !metadata.is_file() {
        return Err(io::Error::new(io::ErrorKind::InvalidInput, "it is not a regular file"));
    }
    Ok((file, metadata))
}

/// The text of a regular file in UTF-8.
///
/// # Errors
/// Those of [`bytes`], and [`io::ErrorKind::InvalidData`] for what is not UTF-8.
pub fn text(path: &Path) -> io::Result<String> {
    String::from_utf8(bytes(path)?).map_err(|_| io::Error::new(io::ErrorKind::InvalidData, "it is not valid UTF-8"))
}

/// Opens a file to read; of a pipe without a writer, at once.
#[cfg(unix)]
fn open(path: &Path) -> io::Result<File> {
    use std::os::unix::fs::OpenOptionsExt;
    let flags = rustix::fs::OFlags::NONBLOCK | rustix::fs::OFlags::NOCTTY;
    let flags = i32::try_from(flags.bits()).unwrap_or_default();
    std::fs::OpenOptions::new().read(true).custom_flags(flags).open(path)
}

#[cfg(not(unix))]
fn open(path: &Path) -> io::Result<File> {
    File::open(path)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_folder_and_a_missing_file_are_told_apart() {
        let folder = tempfile::tempdir().unwrap();
        assert_eq!(bytes(folder.path()).unwrap_err().to_string(), "it is a folder");
        assert_eq!(bytes(&folder.path().join("a.py")).unwrap_err().kind(), io::ErrorKind::NotFound);
        std::fs::write(folder.path().join("a.py"), b"x = '\xff'").unwrap();
        assert_eq!(bytes(&folder.path().join("a.py")).unwrap(), b"x = '\xff'");
        assert_eq!(text(&folder.path().join("a.py")).unwrap_err().kind(), io::ErrorKind::InvalidData);
    }

    #[cfg(unix)]
    #[test]
    fn pipes_devices_and_endless_files_are_refused_at_once() {
        let folder = tempfile::tempdir().unwrap();
        let pipe = folder.path().join("pipe.py");
        let made = std::process::Command::new("mkfifo").arg(&pipe).status();
        if made.is_ok_and(|status| status.success()) {
            assert_eq!(bytes(&pipe).unwrap_err().to_string(), "it is not a regular file");
        }
        let device = folder.path().join("zero.py");
        std::os::unix::fs::symlink("/dev/zero", &device).unwrap();
        assert_eq!(bytes(&device).unwrap_err().to_string(), "it is not a regular file");
        let sparse = folder.path().join("sparse.py");
        File::create(&sparse).unwrap().set_len(3 << 30).unwrap();
        assert_eq!(bytes(&sparse).unwrap_err().to_string(), "it is larger than 64 MB");
    }
}
