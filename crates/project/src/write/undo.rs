//! Runs that are taken back, last first, each command its own.

use std::path::PathBuf;

use thiserror::Error;

use super::journal::{self, Home};
use super::{NewFile, WriteError, Writer, place, recover};

/// Why nothing was taken back.
#[derive(Debug, Error)]
pub enum UndoError {
    /// There is nothing to take back.
    #[error("there is no earlier run of `leitmotiv {0}` to take back")]
    NothingToUndo(String),
    /// What is remembered is not ours or not whole.
    #[error("what is remembered of the last run in `{0}` is not what Leitmotiv wrote; nothing was taken back")]
    NotOurs(String),
    /// A file was changed since.
    #[error("`{0}` was changed since it was written; nothing was taken back")]
    ChangedSince(String),
    /// The files cannot be written.
    #[error(transparent)]
    Write(#[from] WriteError),
}

impl Writer {
    /// Takes back the last run of a command that was not taken back yet. Gives the files concerned, relative to the base.
    ///
    /// # Errors
    /// [`UndoError`]; nothing was changed then.
    pub fn undo(&self, command: &str) -> Result<Vec<String>, UndoError> {
        let nothing = || UndoError::NothingToUndo(command.to_owned());
        let home = Home::known(self.base()).ok_or_else(nothing)?;
        let mut found: Option<PathBuf> = None;
        for run in home.runs().into_iter().rev().filter(|run| run.join("run.json").exists()) {
            match journal::read(&run, "run.json") {
                Some(written) if written.command != command => {}
                Some(_) => {
                    found = Some(run);
                    break;
                }
                None => {
                    let shown = place::written(self.base(), &run).unwrap_or_default();
                    return Err(UndoError::NotOurs(shown));
                }
            }
        }
        let run = found.ok_or_else(nothing)?;
        let shown = place::written(self.base(), &run).unwrap_or_default();
        let not_ours = || UndoError::NotOurs(shown.clone());
        let written = journal::read(&run, "run.json").ok_or_else(not_ours)?;
        let befores = journal::befores(&run, &written.files).ok_or_else(not_ours)?;
        let mut files = Vec::with_capacity(written.files.len());
        for (entry, before) in written.files.iter().zip(befores) {
            let path = place::read_back(self.base(), &entry.path).ok_or_else(not_ours)?;
            let target = place::target(self.base(), &path)?;
            let now = match crate::read::bytes(&target) {
                Ok(bytes) => Some(bytes),
                Err(error) if error.kind() == std::io::ErrorKind::NotFound => None,
                Err(_) => return Err(UndoError::ChangedSince(entry.path.clone())),
            };
            if now.as_deref().map(journal::digest) != entry.after {
                return Err(UndoError::ChangedSince(entry.path.clone()));
            }
            files.push(NewFile { path: target, before: now, after: before });
        }
        let name = run.file_name().unwrap_or_default().to_string_lossy().into_owned();
        self.run(command, &files, false, Some(&name))?;
        recover::forget(self.base(), &name);
        journal::remove_folders(self.base(), &written.files);
        Ok(written.files.into_iter().map(|entry| entry.path).collect())
    }
}
