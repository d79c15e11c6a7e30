//! A new file that keeps what the one it replaces is to others: mode, owner, group, attributes.

use std::fs::{File, Metadata, OpenOptions};
use std::io::{self, Write};
use std::path::Path;

/// Why a file cannot be made.
#[derive(Debug)]
pub(super) enum Refusal {
    /// The system refuses.
    System(io::Error),
    /// Something of the old file could not be kept.
    Cannot(&'static str),
}

impl From<io::Error> for Refusal {
    fn from(error: io::Error) -> Refusal {
        Refusal::System(error)
    }
}

/// Makes a file that was not there, with the bytes given; where it is to replace `original`, like that one.
pub(super) fn stage(path: &Path, bytes: &[u8], original: Option<&Path>) -> Result<(), Refusal> {
    let metadata = original.map(std::fs::metadata).transpose()?;
    if let Some(metadata) = &metadata {
        fits(metadata)?;
    }
    // Exclusively: neither a file nor a link that somebody put there is taken.
    let mut file = OpenOptions::new().write(true).create_new(true).open(path)?;
    file.write_all(bytes)?;
    if let (Some(metadata), Some(original)) = (&metadata, original) {
        keep(&file, metadata, original)?;
    }
    Ok(())
}

/// Whether a file can be replaced by another without loss.
fn fits(metadata: &Metadata) -> Result<(), Refusal> {
    if !metadata.is_file() {
        return Err(Refusal::Cannot("is not a regular file"));
    }
    if metadata.permissions().readonly() {
        return Err(Refusal::Cannot("is read-only"));
    }
    #[cfg(unix)]
    {
        use std::os::unix::fs::MetadataExt;
        if metadata.nlink() > 1 {
            return Err(Refusal::Cannot("has other names (hard links), which would keep the old text"));
        }
    }
    Ok(())
}

#[cfg(unix)]
fn keep(file: &File, metadata: &Metadata, original: &Path) -> Result<(), Refusal> {
    use std::os::unix::fs::{MetadataExt, fchown};
    let own = file.metadata()?;
    if (own.uid(), own.gid()) != (metadata.uid(), metadata.gid())
        && fchown(file, Some(metadata.uid()), Some(metadata.gid())).is_err()
    {
        return Err(Refusal::Cannot("belongs to another user or group, which could not be kept"));
    }
    attributes(file, original)?;
    // Last: giving a file away takes its special bits.
    file.set_permissions(metadata.permissions())?;
    Ok(())
}

#[cfg(not(unix))]
fn keep(file: &File, metadata: &Metadata, _original: &Path) -> Result<(), Refusal> {
    file.set_permissions(metadata.permissions())?;
    Ok(())
}

/// Copies extended attributes, access lists among them. What the system sets by itself (`security.…`) it sets again.
#[cfg(any(target_os = "linux", target_os = "android"))]
fn attributes(file: &File, original: &Path) -> Result<(), Refusal> {
    use rustix::fs::{XattrFlags, fsetxattr, getxattr, listxattr};
    let mut names = vec![0_u8; 64 << 10];
    // A file system without attributes has none to keep.
    let Ok(length) = listxattr(original, &mut names[..]) else { return Ok(()) };
    for name in names[..length].split(|byte| *byte == 0).filter(|name| !name.is_empty()) {
        let Ok(name) = std::str::from_utf8(name) else { continue };
        if name.starts_with("security.") || name.starts_with("trusted.") {
            continue;
        }
        let mut value = vec![0_u8; 64 << 10];
        let Ok(length) = getxattr(original, name, &mut value[..]) else { continue };
        if fsetxattr(file, name, &value[..length], XattrFlags::empty()).is_err() {
            return Err(Refusal::Cannot("has extended attributes that could not be kept"));
        }
    }
    Ok(())
}

#[cfg(all(unix, not(any(target_os = "linux", target_os = "android"))))]
fn attributes(_file: &File, _original: &Path) -> Result<(), Refusal> {
    Ok(())
}
