//! What a run is about to do, or has done.
//!
//! ```text
//! .leitmotiv/                   never committed: it holds a `.gitignore` that hides it
//!   lock                        held while a run is under way
//!   runs/000012-1f0c…/          a run; its name is its number and something nobody can guess
//!     pending.json              until all files have their places; then renamed to
//!     run.json
//!     before.bin                what the files held, one behind the other
//!     0 1 2 …                   the new files, by number, until they have their places
//! ```

use std::fs::{File, OpenOptions};
use std::io::{self, Write};
use std::path::{Path, PathBuf};

use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};

use super::{NewFile, place};
use crate::read;

/// From how many files on the whole file system is synchronised.
#[cfg(target_os = "linux")]
const MANY: usize = 200;

/// How many finished runs are kept.
const KEPT: usize = 20;

/// The folder of a project that Leitmotiv keeps its own files in.
#[must_use]
pub fn folder(base: &Path) -> PathBuf {
    base.join(place::OWN_FOLDER)
}

/// The folder, made and safe to use.
#[derive(Debug)]
pub(super) struct Home {
    folder: PathBuf,
    is_new: bool,
}

/// The lock; given back when dropped, or when the process ends in whatever way.
pub(super) struct Lock {
    file: File,
}

impl Drop for Lock {
    /// Closing alone would not do: a process that another thread is starting just now still holds a copy of the handle.
    fn drop(&mut self) {
        let _ = self.file.unlock();
    }
}

impl Home {
    /// Makes the folder as needed.
    pub(super) fn open(base: &Path) -> io::Result<Home> {
        let folder = folder(base);
        let is_new = make(&folder)?;
        make(&folder.join("runs"))?;
        match OpenOptions::new().write(true).create_new(true).open(folder.join(".gitignore")) {
            Ok(mut file) => file.write_all(b"*\n")?,
            Err(error) if error.kind() == io::ErrorKind::AlreadyExists => {}
            Err(error) => return Err(error),
        }
        Ok(Home { folder, is_new })
    }

    /// The folder that is there already; `None` where there is none that could be used.
    pub(super) fn known(base: &Path) -> Option<Home> {
        let folder = folder(base);
        let is_folder = |path: &Path| path.symlink_metadata().is_ok_and(|metadata| metadata.is_dir());
        (is_folder(&folder) && is_folder(&folder.join("runs"))).then_some(Home { folder, is_new: false })
    }

    pub(super) fn folder(&self) -> &Path {
        &self.folder
    }

    /// The lock, if no other process holds it.
    pub(super) fn lock(&self) -> Option<Lock> {
        let path = self.folder.join("lock");
        if path.symlink_metadata().is_ok_and(|metadata| !metadata.is_file()) {
            return None;
        }
        let file = OpenOptions::new().write(true).create(true).truncate(false).open(path).ok()?;
        file.try_lock().ok()?;
        Some(Lock { file })
    }

    /// The folders of runs, oldest first.
    pub(super) fn runs(&self) -> Vec<PathBuf> {
        let entries = std::fs::read_dir(self.folder.join("runs")).into_iter().flatten().flatten();
        let mut runs: Vec<PathBuf> = entries
            .filter(|entry| entry.file_type().is_ok_and(|kind| kind.is_dir()))
            .map(|entry| entry.path())
            .collect();
        runs.sort();
        runs
    }

    /// Takes away what nobody needs: the folder, where this run made it and nothing is remembered.
    pub(super) fn tidy(&self) {
        if self.is_new && self.runs().is_empty() {
            let _ = std::fs::remove_dir(self.folder.join("runs"));
            let _ = std::fs::remove_file(self.folder.join(".gitignore"));
            let _ = std::fs::remove_file(self.folder.join("lock"));
            let _ = std::fs::remove_dir(&self.folder);
        }
    }
}

/// Makes a folder that is no link; whether it was not there.
fn make(folder: &Path) -> io::Result<bool> {
    match std::fs::create_dir(folder) {
        Ok(()) => Ok(true),
        Err(error) if error.kind() == io::ErrorKind::AlreadyExists => {
            if folder.symlink_metadata()?.is_dir() {
                Ok(false)
            } else {
                Err(io::Error::new(io::ErrorKind::NotADirectory, "it must be a folder, and no link to one"))
            }
        }
        Err(error) => Err(error),
    }
}

/// One file of a run, as it is written down.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub(super) struct Entry {
    /// The file, relative to the base with `/`.
    pub path: String,
    /// Where the new file waits, relative to the base with `/`, if not in the run's own folder: on another file system.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub staged: Option<String>,
    /// The SHA-256 of what it held, in hexadecimal; `None` where it was not there.
    pub before: Option<String>,
    /// How many bytes it held.
    #[serde(default)]
    pub length: u64,
    /// The SHA-256 of what it is to hold; `None` where it is removed.
    pub after: Option<String>,
    /// Folders made for it, outermost first, relative to the base.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub folders: Vec<String>,
}

impl Entry {
    pub(super) fn new(
        base: &Path,
        target: &Path,
        staged: Option<&Path>,
        file: &NewFile,
        folders: Vec<String>,
    ) -> Entry {
        Entry {
            // What may be written has a name that can be.
            path: place::written(base, target).unwrap_or_default(),
            staged: staged.and_then(|staged| place::written(base, staged)),
            before: file.before.as_deref().map(digest),
            length: file.before.as_ref().map_or(0, |before| before.len() as u64),
            after: file.after.as_deref().map(digest),
            folders,
        }
    }
}

/// The SHA-256 of bytes, in hexadecimal.
pub(super) fn digest(bytes: &[u8]) -> String {
    Sha256::digest(bytes).iter().fold(String::with_capacity(64), |mut text, byte| {
        use std::fmt::Write as _;
        let _ = write!(text, "{byte:02x}");
        text
    })
}

/// What is written down of a run.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub(super) struct Written {
    /// The format's version.
    schema: u32,
    /// The command that ran.
    pub command: String,
    /// The run that this one takes back, if it does.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub takes_back: Option<String>,
    /// The run's folder as the file system numbers it: a copy, such as one that a repository brings, is none of ours.
    #[serde(default)]
    home: (u64, u64),
    /// The files.
    pub files: Vec<Entry>,
}

const SCHEMA: u32 = 1;

/// A run under way.
#[derive(Debug)]
pub(super) struct Run {
    folder: PathBuf,
    command: String,
    takes_back: Option<String>,
    device: u64,
    pub entries: Vec<Entry>,
}

impl Run {
    pub(super) fn begin(home: &Home, command: &str, takes_back: Option<&str>) -> io::Result<Run> {
        let last = home.runs().last().and_then(|run| number(run)).unwrap_or(0);
        let folder = home.folder.join("runs").join(format!("{:06}-{}", last + 1, random()?));
        std::fs::create_dir(&folder)?;
        #[cfg(unix)]
        {
            use std::os::unix::fs::PermissionsExt;
            std::fs::set_permissions(&folder, std::fs::Permissions::from_mode(0o700))?;
        }
        let device = identity(&folder).0;
        Ok(Run {
            folder,
            command: command.to_owned(),
            takes_back: takes_back.map(str::to_owned),
            device,
            entries: Vec::new(),
        })
    }

    /// Where a new file waits, if it cannot be in the run's folder because its place is on another file system.
    pub(super) fn stage_path(&self, target: &Path) -> Option<PathBuf> {
        let folder = target.ancestors().skip(1).find(|folder| folder.exists())?;
        if identity(folder).0 == self.device {
            return None;
        }
        Some(target.with_file_name(format!(".leitmotiv-{}", random().ok()?)))
    }

    /// Where the new file of an entry waits.
    pub(super) fn staged(&self, base: &Path, at: usize) -> PathBuf {
        staged(&self.folder, base, &self.entries[at], at)
    }

    /// Writes down what is about to be done, and what the files hold.
    pub(super) fn write_pending<'a>(
        &self,
        base: &Path,
        befores: impl Iterator<Item = Option<&'a [u8]>>,
    ) -> io::Result<()> {
        debug_assert!(self.folder.starts_with(base));
        let mut file = OpenOptions::new().write(true).create_new(true).open(self.folder.join("before.bin"))?;
        for before in befores.flatten() {
            file.write_all(before)?;
        }
        file.sync_all()?;
        let written = Written {
            schema: SCHEMA,
            command: self.command.clone(),
            takes_back: self.takes_back.clone(),
            home: identity(&self.folder),
            files: self.entries.clone(),
        };
        // Under another name first: what is there is whole.
        let draft = self.folder.join("draft.json");
        let mut file = OpenOptions::new().write(true).create_new(true).open(&draft)?;
        serde_json::to_writer(&mut file, &written)?;
        file.sync_all()?;
        std::fs::rename(draft, self.folder.join("pending.json"))?;
        sync_folder(&self.folder)
    }

    /// Makes sure that the new files are on the disk before any takes its place.
    pub(super) fn sync(&self, base: &Path) -> io::Result<()> {
        // Of very many, one call for the whole file system is quicker, though others may have much to write there.
        #[cfg(target_os = "linux")]
        if self.entries.len() > MANY {
            return Ok(rustix::fs::syncfs(File::open(&self.folder)?)?);
        }
        for (at, entry) in self.entries.iter().enumerate().filter(|(_, entry)| entry.after.is_some()) {
            File::open(staged(&self.folder, base, entry, at))?.sync_all()?;
        }
        Ok(())
    }

    /// Remembers the run as done, and forgets those long past.
    pub(super) fn finish(self, base: &Path) -> io::Result<()> {
        finish(&self.folder, base, &self.entries)?;
        if let Some(home) = Home::known(base) {
            let done: Vec<PathBuf> = home.runs().into_iter().filter(|run| run.join("run.json").exists()).collect();
            for old in done.iter().take(done.len().saturating_sub(KEPT)) {
                let _ = std::fs::remove_dir_all(old);
            }
        }
        Ok(())
    }

    /// Takes the run away; its files are as they were.
    pub(super) fn discard(self, base: &Path) {
        for at in 0..self.entries.len() {
            let _ = std::fs::remove_file(self.staged(base, at));
        }
        remove_folders(base, &self.entries);
        remove(&self.folder);
    }

    /// Takes the run away; its files are as they are to be, and nobody will want to take that back.
    pub(super) fn discard_done(self, base: &Path) {
        for (at, entry) in self.entries.iter().enumerate() {
            if entry.staged.is_some() {
                let _ = std::fs::remove_file(staged(&self.folder, base, entry, at));
            }
        }
        remove(&self.folder);
    }
}

/// Takes a run's folder away. The name goes first, so that what is left after an interruption is no run.
pub(super) fn remove(run: &Path) {
    let _ = std::fs::remove_file(run.join("pending.json"));
    let _ = std::fs::remove_file(run.join("run.json"));
    let _ = std::fs::remove_dir_all(run);
}

/// Marks a run as done.
pub(super) fn finish(run: &Path, base: &Path, entries: &[Entry]) -> io::Result<()> {
    std::fs::rename(run.join("pending.json"), run.join("run.json"))?;
    for (at, entry) in entries.iter().enumerate() {
        // What stood there is in `before.bin` as well.
        let _ = std::fs::remove_file(staged(run, base, entry, at));
    }
    sync_folder(run)
}

/// Removes the folders that a run made, where nothing is in them.
pub(super) fn remove_folders(base: &Path, entries: &[Entry]) {
    let folders = entries.iter().flat_map(|entry| entry.folders.iter().rev());
    for folder in folders.filter_map(|folder| place::read_back(base, folder)) {
        let _ = std::fs::remove_dir(folder);
    }
}

/// Where the new file of an entry waits.
pub(super) fn staged(run: &Path, base: &Path, entry: &Entry, at: usize) -> PathBuf {
    let elsewhere = entry.staged.as_ref().and_then(|path| place::read_back(base, path));
    // No other name than those given by `stage_path` is believed.
    let elsewhere =
        elsewhere.filter(|path| path.file_name().is_some_and(|name| name.to_string_lossy().starts_with(".leitmotiv-")));
    elsewhere.unwrap_or_else(|| run.join(at.to_string()))
}

/// Reads what is written down of a run; `None` for what is not understood.
pub(super) fn read(run: &Path, name: &str) -> Option<Written> {
    let written: Written = serde_json::from_slice(&read::bytes(&run.join(name)).ok()?).ok()?;
    (written.schema == SCHEMA).then_some(written)
}

/// What the files of a run held, by their places in it; `None` where that is not whole.
pub(super) fn befores(run: &Path, entries: &[Entry]) -> Option<Vec<Option<Vec<u8>>>> {
    // All files together may be larger than any one.
    let path = run.join("before.bin");
    if !path.symlink_metadata().ok()?.is_file() {
        return None;
    }
    let bytes = std::fs::read(path).ok()?;
    let mut rest = bytes.as_slice();
    let mut all = Vec::with_capacity(entries.len());
    for entry in entries {
        let Some(before) = &entry.before else {
            all.push(None);
            continue;
        };
        let (own, after) = rest.split_at_checked(usize::try_from(entry.length).ok()?)?;
        if digest(own) != *before {
            return None;
        }
        all.push(Some(own.to_vec()));
        rest = after;
    }
    Some(all)
}

/// Whether a run was made in this very folder, and is no copy.
pub(super) fn is_own(run: &Path, written: &Written) -> bool {
    written.home == identity(run)
}

fn number(run: &Path) -> Option<u64> {
    run.file_name()?.to_str()?.split('-').next()?.parse().ok()
}

/// Sixteen hexadecimal digits that nobody can guess.
pub(crate) fn random() -> io::Result<String> {
    let mut bytes = [0_u8; 8];
    getrandom::fill(&mut bytes).map_err(|error| io::Error::other(error.to_string()))?;
    Ok(format!("{:016x}", u64::from_le_bytes(bytes)))
}

/// A folder as the file system numbers it.
#[cfg(unix)]
fn identity(folder: &Path) -> (u64, u64) {
    use std::os::unix::fs::MetadataExt;
    folder.metadata().map_or((0, 0), |metadata| (metadata.dev(), metadata.ino()))
}

#[cfg(not(unix))]
fn identity(_folder: &Path) -> (u64, u64) {
    (0, 0)
}

#[cfg(unix)]
fn sync_folder(folder: &Path) -> io::Result<()> {
    File::open(folder)?.sync_all()
}

#[cfg(not(unix))]
fn sync_folder(_folder: &Path) -> io::Result<()> {
    Ok(())
}
