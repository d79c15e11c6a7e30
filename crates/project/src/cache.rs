//! A folder of entries that may be lost: each is written whole or not at all, damaged ones are as good as none, and the oldest go when they
//! are too many.
//!
//! An entry's name is 64 hexadecimal digits; what it holds is up to who wrote it. Several processes may use one folder at once.

use std::fs::{File, OpenOptions};
use std::io::{self, Read, Write};
use std::path::{Path, PathBuf};
use std::time::{Duration, SystemTime};

/// What every entry begins with.
const MAGIC: &[u8; 8] = b"LMCACHE1";

/// How long a check sum is, in bytes.
const SUM: usize = 32;

/// What entries end with.
const EXTENSION: &str = "entry";

/// What names of files that are being written end with.
const DRAFT: &str = "draft";

/// So many bytes are kept. Said in docs/configuration.md.
pub const MOST_BYTES: u64 = 1 << 30;

/// What was being written so long ago was given up.
const GIVEN_UP: Duration = Duration::from_secs(3600);

/// A check sum of bytes, as an entry's name or a part of one.
pub type Sum = [u8; SUM];

/// The check sum of some bytes (BLAKE3).
#[must_use]
pub fn sum(bytes: &[u8]) -> Sum {
    blake3::hash(bytes).into()
}

/// A folder of entries.
#[derive(Debug, Clone)]
pub struct Cache {
    folder: PathBuf,
}

impl Cache {
    /// The entries in a folder, which need not be there.
    #[must_use]
    pub fn at(folder: PathBuf) -> Cache {
        Cache { folder }
    }

    /// The user's own folder for such things, as the environment says (`variable` gives its variables); `None` where it says none.
    #[must_use]
    pub fn users_folder(variable: &dyn Fn(&str) -> Option<std::ffi::OsString>) -> Option<PathBuf> {
        let named = |name: &str| variable(name).map(PathBuf::from).filter(|path| path.is_absolute());
        let base = named("XDG_CACHE_HOME").or_else(|| match std::env::consts::OS {
            "windows" => named("LOCALAPPDATA"),
            "macos" => named("HOME").map(|home| home.join("Library/Caches")),
            _ => named("HOME").map(|home| home.join(".cache")),
        });
        base.map(|base| base.join("leitmotiv"))
    }

    /// What an entry holds; `None` where it is not there, cannot be read or is damaged.
    #[must_use]
    pub fn get(&self, name: &Sum) -> Option<Vec<u8>> {
        let path = self.path(name);
        let metadata = path.symlink_metadata().ok().filter(std::fs::Metadata::is_file)?;
        let mut file = File::open(&path).ok()?;
        let mut bytes = Vec::with_capacity(usize::try_from(metadata.len()).ok()?);
        file.read_to_end(&mut bytes).ok()?;
        let rest = bytes.strip_prefix(MAGIC)?;
        let (said, held) = rest.split_at_checked(SUM)?;
        if sum(held) != said {
            return None;
        }
        // What is used is not old. Where that cannot be said, it goes earlier.
        let _ = file.set_modified(SystemTime::now()).or_else(|_| touch(&path));
        bytes.drain(..MAGIC.len() + SUM);
        Some(bytes)
    }

    /// Keeps an entry. Nothing is kept where that cannot be done: on a full disk, in a folder that cannot be written.
    pub fn put(&self, name: &Sum, bytes: &[u8]) {
        if u64::try_from(bytes.len()).is_ok_and(|length| length <= MOST_BYTES / 4) {
            let _ = self.write(name, bytes);
        }
    }

    fn write(&self, name: &Sum, bytes: &[u8]) -> io::Result<()> {
        std::fs::create_dir_all(&self.folder)?;
        self.mark();
        let draft = self.folder.join(format!("{}.{DRAFT}", crate::write::journal::random()?));
        let written = OpenOptions::new()
            .write(true)
            .create_new(true)
            .open(&draft)
            .and_then(|mut file| {
                file.write_all(MAGIC)?;
                file.write_all(&sum(bytes))?;
                file.write_all(bytes)
            })
            .and_then(|()| std::fs::rename(&draft, self.path(name)));
        if written.is_err() {
            let _ = std::fs::remove_file(&draft);
        }
        self.prune(MOST_BYTES);
        written
    }

    /// Tells programs that make copies of what cannot be made again to leave the folder out (Cache Directory Tagging Specification).
    fn mark(&self) {
        let tag = self.folder.join("CACHEDIR.TAG");
        if let Ok(mut file) = OpenOptions::new().write(true).create_new(true).open(tag) {
            let _ =
                file.write_all(b"Signature: 8a477f597d28d172789f06886806bc55\n# What leitmotiv can work out again.\n");
        }
    }

    /// Takes out the oldest entries until no more than so many bytes are left, and what was never finished.
    pub fn prune(&self, most: u64) {
        let mut all: Vec<(SystemTime, u64, PathBuf)> = Vec::new();
        for entry in std::fs::read_dir(&self.folder).into_iter().flatten().flatten() {
            let path = entry.path();
            let Ok(metadata) = entry.metadata() else { continue };
            let (Ok(used), true) = (metadata.modified(), metadata.is_file()) else { continue };
            let is_given_up = || used.elapsed().is_ok_and(|age| age > GIVEN_UP);
            if is_ours(&path, DRAFT) && is_given_up() {
                let _ = std::fs::remove_file(&path);
            } else if is_ours(&path, EXTENSION) {
                all.push((used, metadata.len(), path));
            }
        }
        let mut bytes: u64 = all.iter().map(|(_, length, _)| length).sum();
        all.sort_unstable();
        for (_, length, path) in all {
            if bytes <= most {
                break;
            }
            if std::fs::remove_file(path).is_ok() {
                bytes -= length;
            }
        }
    }

    fn path(&self, name: &Sum) -> PathBuf {
        self.folder.join(format!("{}.{EXTENSION}", hexadecimal(name)))
    }
}

/// Whether a file is one of those that are made here: nothing else in the folder is ever touched.
fn is_ours(path: &Path, extension: &str) -> bool {
    path.extension().is_some_and(|found| found == extension)
        && path.file_stem().and_then(std::ffi::OsStr::to_str).is_some_and(|stem| {
            stem.len() >= 16 && stem.bytes().all(|byte| byte.is_ascii_digit() || (b'a'..=b'f').contains(&byte))
        })
}

fn touch(path: &Path) -> io::Result<()> {
    OpenOptions::new().append(true).open(path)?.set_modified(SystemTime::now())
}

fn hexadecimal(sum: &Sum) -> String {
    use std::fmt::Write as _;
    sum.iter().fold(String::with_capacity(SUM * 2), |mut text, byte| {
        let _ = write!(text, "{byte:02x}");
        text
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_kept_comes_back_and_what_is_damaged_is_none() {
        let folder = tempfile::tempdir().unwrap();
        let cache = Cache::at(folder.path().join("new"));
        let name = sum(b"name");
        assert_eq!(cache.get(&name), None);
        cache.put(&name, b"what was found");
        assert_eq!(cache.get(&name).as_deref(), Some(&b"what was found"[..]));
        let path = cache.path(&name);
        let whole = std::fs::read(&path).unwrap();
        for cut in [0, 7, 20, whole.len() - 1] {
            std::fs::write(&path, &whole[..cut]).unwrap();
            assert_eq!(cache.get(&name), None, "cut at {cut}");
        }
        for at in [3, 12, whole.len() - 1] {
            let mut other = whole.clone();
            other[at] ^= 1;
            std::fs::write(&path, other).unwrap();
            assert_eq!(cache.get(&name), None, "another byte at {at}");
        }
        cache.put(&name, b"again");
        assert_eq!(cache.get(&name).as_deref(), Some(&b"again"[..]));
    }

    #[test]
    fn the_oldest_go_first_and_nothing_else_does() {
        let folder = tempfile::tempdir().unwrap();
        let cache = Cache::at(folder.path().to_owned());
        let names: Vec<Sum> = (0..4_u8).map(|number| sum(&[number])).collect();
        for (age, name) in names.iter().enumerate() {
            cache.put(name, &[0; 1000]);
            let used = SystemTime::now() - Duration::from_secs(100 - 10 * age as u64);
            File::options().append(true).open(cache.path(name)).unwrap().set_modified(used).unwrap();
        }
        let beside = folder.path().join("mine.entry");
        std::fs::write(&beside, [0; 5000]).unwrap();
        assert!(cache.get(&names[0]).is_some(), "what is used is not old any more");
        cache.prune(2200);
        let left: Vec<bool> = names.iter().map(|name| cache.get(name).is_some()).collect();
        assert_eq!(left, [true, false, false, true]);
        assert!(beside.exists());
    }

    #[test]
    fn where_nothing_can_be_written_nothing_is_kept() {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("file");
        std::fs::write(&file, "").unwrap();
        let cache = Cache::at(file.join("below"));
        cache.put(&sum(b"name"), b"bytes");
        assert_eq!(cache.get(&sum(b"name")), None);
    }
}
