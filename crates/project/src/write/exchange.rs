//! Two files changing places, so that nothing that stood there is lost before it was looked at.

use std::io;
use std::path::Path;

use crate::read;

/// How it went.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Exchanged {
    /// The new file stands in its place.
    Done,
    /// Something else than expected stood there, and stands there still.
    Differs,
}

/// Puts what is staged into the place of `target`, if that holds `before` (or is not there, for `None`); with `after` being
/// `None`, moves the target away instead. The staged path then holds what stood there.
pub(super) fn exchange(
    staged: &Path,
    target: &Path,
    before: Option<&[u8]>,
    after: Option<&[u8]>,
) -> io::Result<Exchanged> {
    match (before, after) {
        (None, None) => Ok(Exchanged::Done),
        (None, Some(_)) => match place_new(staged, target) {
            Err(error) if error.kind() == io::ErrorKind::AlreadyExists => Ok(Exchanged::Differs),
            result => result.map(|()| Exchanged::Done),
        },
        (Some(before), None) => {
            if !holds(target, before) {
                return Ok(Exchanged::Differs);
            }
            std::fs::rename(target, staged)?;
            if holds(staged, before) {
                return Ok(Exchanged::Done);
            }
            place_new(staged, target)?;
            Ok(Exchanged::Differs)
        }
        (Some(before), Some(_)) => {
            if !holds(target, before) {
                return Ok(Exchanged::Differs);
            }
            match swap(staged, target) {
                Ok(()) if holds(staged, before) => Ok(Exchanged::Done),
                Ok(()) => {
                    // It was changed between the look and the exchange.
                    swap(staged, target)?;
                    Ok(Exchanged::Differs)
                }
                // The file system cannot exchange: then the look before must do.
                Err(error) if is_unsupported(&error) => {
                    std::fs::rename(staged, target)?;
                    std::fs::write(staged, before)?;
                    Ok(Exchanged::Done)
                }
                Err(error) => Err(error),
            }
        }
    }
}

fn holds(path: &Path, bytes: &[u8]) -> bool {
    read::bytes(path).is_ok_and(|now| now == bytes)
}

fn is_unsupported(error: &io::Error) -> bool {
    matches!(error.kind(), io::ErrorKind::Unsupported | io::ErrorKind::InvalidInput)
}

/// Exchanges two files in one step.
#[cfg(any(target_os = "linux", target_os = "macos"))]
fn swap(one: &Path, other: &Path) -> io::Result<()> {
    use rustix::fs::{CWD, RenameFlags, renameat_with};
    match renameat_with(CWD, one, CWD, other, RenameFlags::EXCHANGE) {
        Err(rustix::io::Errno::NOSYS | rustix::io::Errno::INVAL | rustix::io::Errno::NOTSUP) => {
            Err(io::ErrorKind::Unsupported.into())
        }
        result => Ok(result?),
    }
}

#[cfg(not(any(target_os = "linux", target_os = "macos")))]
fn swap(_one: &Path, _other: &Path) -> io::Result<()> {
    Err(io::ErrorKind::Unsupported.into())
}

/// Moves a file to where there must be none.
#[cfg(any(target_os = "linux", target_os = "macos"))]
fn place_new(staged: &Path, target: &Path) -> io::Result<()> {
    use rustix::fs::{CWD, RenameFlags, renameat_with};
    match renameat_with(CWD, staged, CWD, target, RenameFlags::NOREPLACE) {
        Err(rustix::io::Errno::NOSYS | rustix::io::Errno::INVAL | rustix::io::Errno::NOTSUP) => {
            place_by_link(staged, target)
        }
        result => Ok(result?),
    }
}

#[cfg(not(any(target_os = "linux", target_os = "macos")))]
fn place_new(staged: &Path, target: &Path) -> io::Result<()> {
    place_by_link(staged, target)
}

/// A second name never replaces a file.
fn place_by_link(staged: &Path, target: &Path) -> io::Result<()> {
    std::fs::hard_link(staged, target)?;
    std::fs::remove_file(staged)
}
