//! Runs that were interrupted: finished where all files have their places, else taken back.

use std::io;
use std::path::{Path, PathBuf};

use super::journal::{self, Entry, Home};
use super::place;
use crate::read;

/// What became of an interrupted run.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Recovered {
    /// The command that had been interrupted.
    pub command: String,
    /// How it stands now.
    pub outcome: Outcome,
    /// How many files the run was to write.
    pub files: usize,
    /// Files that somebody changed since, which were left alone; relative to the project.
    pub left: Vec<String>,
}

/// How an interrupted run ended.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Outcome {
    /// All files had been written.
    Finished,
    /// The files are as they were before.
    TakenBack,
    /// Some file could not be put back; the next command tries again.
    Stuck,
    /// It is not one that was made here, or it cannot be read: it was left alone.
    NotOurs,
}

/// Ends the runs below `base` that were interrupted, and removes what they left behind; nothing where another process is
/// writing just now.
#[must_use]
pub fn recover(base: &Path) -> Vec<Recovered> {
    let Some(home) = Home::known(base) else { return Vec::new() };
    let all = home.runs();
    let open: Vec<&PathBuf> = all.iter().filter(|run| !run.join("run.json").exists()).collect();
    // The last run that was done may not have come to tidying up.
    let untidy = all.last().filter(|run| run.join("run.json").exists()).map(|run| leftovers(run)).unwrap_or_default();
    if open.is_empty() && untidy.is_empty() {
        return Vec::new();
    }
    let Some(_lock) = home.lock() else { return Vec::new() };
    for left in untidy {
        let _ = std::fs::remove_file(left);
    }
    let mut recovered = Vec::new();
    for run in open {
        if run.join("run.json").exists() || !run.exists() {
            continue;
        }
        if !run.join("pending.json").exists() {
            // Interrupted before anything was decided.
            journal::remove(run);
            continue;
        }
        recovered.push(one(base, run));
    }
    recovered
}

/// The files of a finished run that are not what is remembered of it.
fn leftovers(run: &Path) -> Vec<PathBuf> {
    let entries = std::fs::read_dir(run).into_iter().flatten().flatten();
    let is_kept = |name: &std::ffi::OsStr| name == "run.json" || name == "before.bin";
    entries.filter(|entry| !is_kept(&entry.file_name())).map(|entry| entry.path()).collect()
}

fn one(base: &Path, run: &Path) -> Recovered {
    let not_ours = || Recovered { command: String::new(), outcome: Outcome::NotOurs, files: 0, left: Vec::new() };
    let Some(written) = journal::read(run, "pending.json").filter(|written| journal::is_own(run, written)) else {
        return not_ours();
    };
    let Some(targets) = targets(base, &written.files) else { return not_ours() };
    let Some(befores) = journal::befores(run, &written.files) else { return not_ours() };
    let now: Vec<Option<String>> = targets.iter().map(|path| held(path)).collect();
    let mut told = Recovered {
        command: written.command.clone(),
        outcome: Outcome::Finished,
        files: written.files.len(),
        left: Vec::new(),
    };
    let mistaken = |at: usize| mistaken(run, base, &written.files[at], at);
    let is_done = |at: usize| now[at] == written.files[at].after && mistaken(at).is_none();
    if (0..written.files.len()).all(is_done) {
        if let Some(back) = &written.takes_back {
            forget(base, back);
            journal::remove(run);
        } else {
            // Should that fail, the next command tries again.
            let _ = journal::finish(run, base, &written.files);
        }
        return told;
    }
    told.outcome = Outcome::TakenBack;
    let mut is_whole = true;
    for (at, entry) in written.files.iter().enumerate() {
        let staged = journal::staged(run, base, entry, at);
        if let Some(theirs) = mistaken(at) {
            // The exchange had taken out what somebody wrote meanwhile; it goes back.
            let _ = std::fs::rename(theirs, &targets[at]);
            told.left.push(entry.path.clone());
        } else if now[at] == entry.before {
            let _ = std::fs::remove_file(&staged);
        } else if now[at] == entry.after {
            is_whole &= put_back(&staged, &targets[at], befores[at].as_deref(), entry).is_ok();
        } else {
            told.left.push(entry.path.clone());
        }
    }
    // What could not be put back is tried again by the next command.
    if is_whole {
        journal::remove_folders(base, &written.files);
        journal::remove(run);
    } else {
        told.outcome = Outcome::Stuck;
    }
    told
}

/// Where a run's files lie; `None` if one of them may not be written.
fn targets(base: &Path, entries: &[Entry]) -> Option<Vec<PathBuf>> {
    entries
        .iter()
        .map(|entry| {
            let path = place::read_back(base, &entry.path)?;
            place::target(base, &path).ok().filter(|target| *target == path)
        })
        .collect()
}

/// The SHA-256 of what a file holds; `None` where it is not there.
pub(super) fn held(path: &Path) -> Option<String> {
    read::bytes(path).ok().map(|bytes| journal::digest(&bytes))
}

/// The waiting place of an entry, if it holds neither what stood in the file nor what is to stand there.
fn mistaken(run: &Path, base: &Path, entry: &Entry, at: usize) -> Option<PathBuf> {
    let staged = journal::staged(run, base, entry, at);
    let now = held(&staged);
    let is_strange = now.is_some() && now != entry.before && now != entry.after;
    let target = place::read_back(base, &entry.path)?;
    (is_strange && held(&target) == entry.after && entry.after.is_some()).then_some(staged)
}

fn put_back(staged: &Path, target: &Path, before: Option<&[u8]>, entry: &Entry) -> io::Result<()> {
    // Mostly the file that stood there waits where it was exchanged to, and is put back itself.
    let is_there = held(staged) == entry.before && entry.before.is_some();
    match (before, is_there) {
        (_, true) => std::fs::rename(staged, target),
        (None, false) => std::fs::remove_file(target),
        (Some(before), false) => {
            let _ = std::fs::remove_file(staged);
            let original = target.exists().then_some(target);
            match super::stage::stage(staged, before, original) {
                Ok(()) => std::fs::rename(staged, target),
                Err(_) => std::fs::write(target, before),
            }
        }
    }
}

/// Forgets a run by its name.
pub(super) fn forget(base: &Path, name: &str) {
    let is_plain = place::read_back(base, name).is_some() && !name.contains('/');
    if let (true, Some(home)) = (is_plain, Home::known(base)) {
        journal::remove(&home.folder().join("runs").join(name));
    }
}
