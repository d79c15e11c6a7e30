//! How a project came here, by git: what its ledger held at each change of it, and what earlier revisions give when they are checked now.

use std::io::Read as _;
use std::path::{Path, PathBuf};

use leitmotiv_project::{Project, Surroundings};
use serde::Serialize;
use thiserror::Error;

use crate::git::Git;
use crate::ledger::{FILE, Ledger};
use crate::session::{Asked, Session, SessionError};
use crate::survey::{Survey, survey};

/// The ledger at one time.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct LedgerAt {
    /// The day, counted from 1970.
    pub day: i64,
    /// Promises: a file and a demand each.
    pub promises: usize,
    /// Debts.
    pub debts: usize,
}

/// A revision as a check finds it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct CheckedAt {
    /// The day, counted from 1970.
    pub day: i64,
    /// The revision, in short.
    pub revision: String,
    /// Lines.
    pub lines: usize,
    /// Parameters and results that can be annotated.
    pub slots: usize,
    /// Those that are.
    pub annotated: usize,
    /// Expressions.
    pub expressions: usize,
    /// Those whose type is known, and is not `Any`.
    pub known: usize,
    /// Findings at or above a warning.
    pub findings: usize,
}

/// Why earlier revisions cannot be checked.
#[derive(Debug, Error)]
pub enum HistoryError {
    /// There is no history.
    #[error("earlier revisions are asked of git, and this folder is in no repository that git can be asked about")]
    Outside,
    /// A revision cannot be put down.
    #[error("revision {0} cannot be put down in a temporary folder: {1}")]
    Unpacked(String, std::io::Error),
    /// A revision cannot be checked.
    #[error("revision {0} cannot be checked: {1}")]
    Unchecked(String, SessionError),
}

/// So many versions of the ledger are read; of more, some evenly spread.
const MOST_LEDGERS: usize = 200;

/// What the ledger held, oldest first; empty where git does not say.
#[must_use]
pub fn of_ledger(project: &Project) -> Vec<LedgerAt> {
    let Some(git) = Git::of(project).filter(|git| git.prefix().is_some()) else { return Vec::new() };
    let log = git.ask(["log", "--first-parent", "--reverse", "--format=%H %ct", "--", FILE]).unwrap_or_default();
    let commits = commits(&String::from_utf8_lossy(&log));
    let at = spread(&commits, MOST_LEDGERS).into_iter().filter_map(|(commit, day)| {
        let bytes = git.ask(["cat-file", "blob", &format!("{commit}:./{FILE}")])?;
        // One that was damaged then says nothing.
        let (promises, debts) = Ledger::of_text(std::str::from_utf8(&bytes).ok()?).ok()?.size();
        Some(LedgerAt { day: *day, promises, debts })
    });
    at.collect()
}

/// Checks so many revisions, evenly spread over the history of what is checked out, oldest first, the present one among them as it is
/// committed.
///
/// # Errors
/// [`HistoryError`]
pub fn rechecked(project: &Project, most: usize) -> Result<Vec<CheckedAt>, HistoryError> {
    let git = Git::of(project).filter(|git| git.prefix().is_some()).ok_or(HistoryError::Outside)?;
    let log = git.ask(["log", "--first-parent", "--reverse", "--format=%H %ct", "HEAD"]);
    let log = log.ok_or(HistoryError::Outside)?;
    let commits = commits(&String::from_utf8_lossy(&log));
    // An environment in the project is read as it is now, as a folder of packages: only what the command line names may be run.
    let interpreter = project.surroundings.interpreter.clone().or_else(|| {
        let named = project.settings.interpreter.as_ref()?;
        packages_in(&project.root.join(named)).map(|folder| folder.to_string_lossy().into_owned())
    });
    // What lies in the project is not run, though the revisions lie elsewhere.
    let is_outside = |folder: &PathBuf| {
        let real = folder.canonicalize().ok();
        folder.is_absolute() && real.is_none_or(|real| !real.starts_with(&project.root))
    };
    let path = project.surroundings.path.iter().filter(|folder| is_outside(folder)).cloned().collect();
    let surroundings = Surroundings { interpreter, path, ..project.surroundings.clone() };
    let mut all = Vec::new();
    for (commit, day) in spread(&commits, most) {
        let revision = commit.get(..10).unwrap_or(commit).to_owned();
        let folder = tempfile::tempdir().map_err(|error| HistoryError::Unpacked(revision.clone(), error))?;
        let Some(archive) = git.ask(["archive", "--format=tar", &format!("{commit}:./")]) else { continue };
        unpack(&archive, folder.path()).map_err(|error| HistoryError::Unpacked(revision.clone(), error))?;
        // What could not be opened then, or has no sources yet, says nothing.
        let Ok(project) = Project::open(folder.path(), None, &surroundings) else { continue };
        let unchecked = |error| HistoryError::Unchecked(revision.clone(), error);
        let mut session = Session::open(project).map_err(unchecked)?;
        let Ok(report) = session.check(&[], &Asked::default()) else { continue };
        let Survey { lines, slots, annotated, expressions, known_expressions, modules, .. } =
            survey(&session.db, &report);
        let findings = modules.iter().map(|module| module.findings).sum();
        all.push(CheckedAt {
            day: *day,
            revision,
            lines,
            slots,
            annotated,
            expressions,
            known: known_expressions,
            findings,
        });
    }
    Ok(all)
}

/// The folder of packages of an environment, by its layout.
fn packages_in(environment: &Path) -> Option<PathBuf> {
    let versions = std::fs::read_dir(environment.join("lib")).ok()?.flatten();
    let mut found: Vec<PathBuf> =
        versions.map(|version| version.path().join("site-packages")).filter(|folder| folder.is_dir()).collect();
    found.push(environment.join("Lib/site-packages"));
    found.sort();
    found.into_iter().find(|folder| folder.is_dir())
}

/// Commits and their days, as `%H %ct` writes them.
fn commits(log: &str) -> Vec<(String, i64)> {
    let line = |line: &str| {
        let (commit, time) = line.split_once(' ')?;
        Some((commit.to_owned(), time.parse::<i64>().ok()?.div_euclid(24 * 60 * 60)))
    };
    log.lines().filter_map(line).collect()
}

/// So many of some things, evenly spread, the first and the last among them.
fn spread<T>(all: &[T], most: usize) -> Vec<&T> {
    match (all.len(), most) {
        (_, 0) | (0, _) => Vec::new(),
        (_, 1) => all.last().into_iter().collect(),
        (count, most) if count <= most => all.iter().collect(),
        (count, most) => (0..most).map(|at| &all[at * (count - 1) / (most - 1)]).collect(),
    }
}

/// Puts down what a check reads: sources, stubs and settings. Nothing is written outside of the folder, and no links are made.
fn unpack(archive: &[u8], folder: &Path) -> std::io::Result<()> {
    const READ: [&str; 7] = ["py", "pyi", "toml", "cfg", "typed", "gitignore", "ledger"];
    for entry in tar::Archive::new(archive).entries()? {
        let mut entry = entry?;
        let path = entry.path()?.into_owned();
        let is_plain = path.components().all(|part| matches!(part, std::path::Component::Normal(_)));
        let end = path.extension().or(path.file_name()).and_then(|end| end.to_str()).unwrap_or_default();
        if !is_plain || !entry.header().entry_type().is_file() || !READ.contains(&end.trim_start_matches('.')) {
            continue;
        }
        let target = folder.join(path);
        if let Some(around) = target.parent() {
            std::fs::create_dir_all(around)?;
        }
        let mut bytes = Vec::new();
        entry.read_to_end(&mut bytes)?;
        std::fs::write(target, bytes)?;
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn revisions_are_spread_evenly_with_both_ends() {
        let all: Vec<usize> = (0..10).collect();
        assert_eq!(spread(&all, 4), [&0, &3, &6, &9]);
        assert_eq!(spread(&all, 1), [&9]);
        assert_eq!(spread(&all, 20).len(), 10);
        assert!(spread::<usize>(&[], 3).is_empty() && spread(&all, 0).is_empty());
    }

    #[test]
    fn commits_are_read_with_their_days() {
        assert_eq!(commits("1f0c 172800\nnonsense\n2a 0\n"), [("1f0c".to_owned(), 2), ("2a".to_owned(), 0)]);
    }
}
