//! Writing files so that nothing is ever half written, nothing is lost, and nothing is written elsewhere.
//!
//! A write is a *run* of a command over any number of files. It is written down as pending first, with what every file held
//! and will hold ([`journal`]); the new files are made beside it; then each is exchanged with the file that is there, and what
//! comes out is compared with what was expected, so that an edit made meanwhile is never lost. A run that is interrupted at
//! any moment is taken back or finished by the next command ([`recover`]). Finished runs are kept so that they can be taken
//! back, each command its own ([`undo`]).
//!
//! - [`place`]: which files may be written
//! - `stage`: a new file that keeps mode, owner and attributes of the one it replaces
//! - `exchange`: two files changing places
//! - [`journal`]: what a run is about to do, or has done
//! - [`recover`]: runs that were interrupted
//! - [`undo`]: runs that are taken back

mod exchange;
pub mod journal;
pub mod note;
pub mod place;
pub mod recover;
mod stage;
pub mod undo;

use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use thiserror::Error;

use crate::read;
use exchange::Exchanged;
use journal::{Entry, Home, Run};

/// A file as it is to be.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NewFile {
    /// Where; absolute.
    pub path: PathBuf,
    /// What it must hold now; `None` where it must not be there.
    pub before: Option<Vec<u8>>,
    /// What it is to hold; `None` where it is to be removed.
    pub after: Option<Vec<u8>>,
}

/// Why files were not written; nothing was changed then.
#[derive(Debug, Error)]
pub enum WriteError {
    /// The system refuses.
    #[error("cannot write `{}`: {source}", shown(.path))]
    File {
        /// The file.
        path: PathBuf,
        /// Why.
        source: std::io::Error,
    },
    /// A file may not be written.
    #[error("`{}` {reason}; nothing was written", shown(.path))]
    Refused {
        /// The file.
        path: PathBuf,
        /// What stands against it.
        reason: &'static str,
    },
    /// A file changed while the command ran.
    #[error("`{}` was changed while this ran; nothing was written", shown(.0))]
    ChangedMeanwhile(PathBuf),
    /// Another process is writing.
    #[error("another leitmotiv is writing in this project; nothing was written")]
    Busy,
    /// A signal asked the program to end.
    #[error("interrupted; nothing was written")]
    Interrupted,
}

/// A path for a message: as it is, for the face to show.
fn shown(path: &Path) -> String {
    path.to_string_lossy().into_owned()
}

impl WriteError {
    fn file(path: &Path, source: std::io::Error) -> WriteError {
        WriteError::File { path: path.to_owned(), source }
    }
}

/// How a signal that asks the program to end is held off while files change places. The face that handles signals sets
/// [`Interrupts::came`], and ends the program only while [`Interrupts::may_end`] is set.
#[derive(Debug, Clone)]
pub struct Interrupts {
    /// Whether a signal may end the program now.
    pub may_end: Arc<AtomicBool>,
    /// Whether one has come.
    pub came: Arc<AtomicBool>,
}

impl Default for Interrupts {
    fn default() -> Interrupts {
        Interrupts { may_end: Arc::new(AtomicBool::new(true)), came: Arc::new(AtomicBool::new(false)) }
    }
}

/// Writes runs below one folder.
#[derive(Debug, Clone)]
pub struct Writer {
    base: PathBuf,
    interrupts: Interrupts,
}

impl Writer {
    /// A writer for what lies below `base`: a project's folder, or one that the command line names; absolute, links resolved.
    #[must_use]
    pub fn new(base: &Path, interrupts: Interrupts) -> Writer {
        Writer { base: base.to_owned(), interrupts }
    }

    /// The folder that it writes below.
    #[must_use]
    pub fn base(&self) -> &Path {
        &self.base
    }

    /// Writes all files or none. A run that is to be `remembered` can be taken back later.
    ///
    /// # Errors
    /// [`WriteError`]; then every file is as it was.
    pub fn write(&self, command: &str, files: &[NewFile], remembered: bool) -> Result<(), WriteError> {
        self.run(command, files, remembered, None)
    }

    /// Writes one file and forgets it: the new text in place of what stands there now.
    ///
    /// # Errors
    /// [`WriteError`]
    pub fn replace(&self, command: &str, path: &Path, after: Vec<u8>) -> Result<(), WriteError> {
        let before = match read::bytes(path) {
            Ok(bytes) => Some(bytes),
            Err(error) if error.kind() == std::io::ErrorKind::NotFound => None,
            Err(source) => return Err(WriteError::file(path, source)),
        };
        let file = NewFile { path: path.to_owned(), before, after: Some(after) };
        self.write(command, &[file], false)
    }

    fn run(&self, command: &str, files: &[NewFile], remembered: bool, back: Option<&str>) -> Result<(), WriteError> {
        let mut targets = Vec::with_capacity(files.len());
        for file in files {
            targets.push(place::target(&self.base, &file.path)?);
        }
        if let Some(at) = (1..targets.len()).find(|at| targets[..*at].contains(&targets[*at])) {
            // Two names of one file, by a link.
            return Err(WriteError::Refused { path: files[at].path.clone(), reason: "is named twice" });
        }
        let home = Home::open(&self.base).map_err(|source| WriteError::file(&journal::folder(&self.base), source))?;
        let Some(_lock) = home.lock() else { return Err(WriteError::Busy) };
        // Until the last file has its place or all are back, a signal waits.
        self.interrupts.may_end.store(false, Ordering::SeqCst);
        let result = self.locked(&home, command, files, &targets, remembered, back);
        self.interrupts.may_end.store(true, Ordering::SeqCst);
        if result.is_err() || !remembered {
            home.tidy();
        }
        result
    }

    fn locked(
        &self,
        home: &Home,
        command: &str,
        files: &[NewFile],
        targets: &[PathBuf],
        remembered: bool,
        back: Option<&str>,
    ) -> Result<(), WriteError> {
        let at_home = |source| WriteError::file(home.folder(), source);
        let mut run = Run::begin(home, command, back).map_err(at_home)?;
        for (file, target) in files.iter().zip(targets) {
            let folders = place::missing_folders(&self.base, target);
            let staged = run.stage_path(target);
            run.entries.push(Entry::new(&self.base, target, staged.as_deref(), file, folders));
        }
        let befores = files.iter().map(|file| file.before.as_deref());
        let staged = run
            .write_pending(&self.base, befores)
            .map_err(at_home)
            .and_then(|()| self.stage(&run, files, targets))
            .and_then(|()| run.sync(&self.base).map_err(at_home));
        if let Err(error) = staged {
            run.discard(&self.base);
            return Err(error);
        }
        for (at, (file, target)) in files.iter().zip(targets).enumerate() {
            let staged = run.staged(&self.base, at);
            let result = exchange::exchange(&staged, target, file.before.as_deref(), file.after.as_deref());
            let error = match result {
                Ok(Exchanged::Done) => continue,
                Ok(Exchanged::Differs) => WriteError::ChangedMeanwhile(self.relative(target)),
                Err(source) => WriteError::file(&self.relative(target), source),
            };
            for before in (0..at).rev() {
                let staged = run.staged(&self.base, before);
                let file = &files[before];
                // What was changed in the moment since stays as its author left it.
                let _ = exchange::exchange(&staged, &targets[before], file.after.as_deref(), file.before.as_deref());
            }
            run.discard(&self.base);
            return Err(error);
        }
        if remembered {
            run.finish(&self.base).map_err(at_home)?
        } else {
            run.discard_done(&self.base)
        }
        Ok(())
    }

    fn stage(&self, run: &Run, files: &[NewFile], targets: &[PathBuf]) -> Result<(), WriteError> {
        for (at, (file, target)) in files.iter().zip(targets).enumerate() {
            if self.interrupts.came.load(Ordering::SeqCst) {
                return Err(WriteError::Interrupted);
            }
            let Some(after) = &file.after else { continue };
            if let Some(folder) = target.parent() {
                std::fs::create_dir_all(folder).map_err(|source| WriteError::file(&self.relative(target), source))?;
            }
            let original = if file.before.is_some() { Some(target.as_path()) } else { None };
            stage::stage(&run.staged(&self.base, at), after, original).map_err(|refusal| match refusal {
                stage::Refusal::System(source) => WriteError::file(&self.relative(target), source),
                stage::Refusal::Cannot(reason) => WriteError::Refused { path: self.relative(target), reason },
            })?;
        }
        Ok(())
    }

    fn relative(&self, path: &Path) -> PathBuf {
        path.strip_prefix(&self.base).unwrap_or(path).to_owned()
    }
}

#[cfg(test)]
mod tests;
