//! `leitmotiv check --watch`: the check kept up to date as files are saved.
//!
//! Files are looked at by their times and sizes: that works wherever files lie, and an editor may write in place, to another name that it
//! renames, or in any other way. While files keep changing, as when a branch is switched, it waits.

use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use std::time::{Duration, Instant, SystemTime};

use leitmotiv_engine::base::database::FileChange;
use leitmotiv_migrate::remembered::{Moved, Remembered, Seen};
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_project::sources;
use leitmotiv_report::document::Document;

use super::check::{Check, since_last, totals};
use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// How long to wait between two looks, at least; a look that takes long is not taken more often than it can bear.
const PAUSE: Duration = Duration::from_millis(200);

/// Files that keep changing are waited for no longer than that.
const LONGEST: Duration = Duration::from_secs(3);

/// So often the same is to be seen where a file is gone.
const LOOKS_IF_GONE: usize = 8;

/// So many of the findings that came are shown.
const MOST_SHOWN: usize = 10;

/// When a file was written, and how long it is; `None` of one that cannot be read.
type Stamp = Option<(SystemTime, u64)>;

/// All files that a check depends on.
type Stamps = BTreeMap<PathBuf, Stamp>;

/// Runs until somebody ends it.
pub fn run(context: &Context, command: &Check, session: &mut Session, first: String) -> Result<ExitCode, Failure> {
    let asked = Asked { severity: command.set.clone(), demands: command.demand.clone() };
    let paths = context.paths(&command.paths);
    let mut known = stamps(session);
    let report = session.check(&paths, &asked)?;
    let mut before = Remembered::new(session.project(), &Seen::new(&session.db, &report), true, None);
    print(&format!("{first}Watching; Ctrl-C ends it.\n"))?;
    loop {
        let began = Instant::now();
        let now = stamps(session);
        if now == known {
            std::thread::sleep(PAUSE.max(began.elapsed() * 10));
            continue;
        }
        let now = settled(session, &known, now);
        let changed: Vec<PathBuf> = now
            .keys()
            .chain(known.keys())
            .filter(|path| now.get(*path) != known.get(*path))
            .cloned()
            .collect::<std::collections::BTreeSet<_>>()
            .into_iter()
            .collect();
        known = now;
        let changes: Vec<FileChange> = changed.iter().map(|path| FileChange::OnDisk { path: path.clone() }).collect();
        let mut out = format!("\n{}\n", look::heading(&named(session, &changed)));
        // A configuration, ledger or path that cannot be used for now is told, and what was there before goes on to count.
        let done = session.apply(&changes);
        match done.and_then(|()| session.check(&paths, &asked)) {
            Err(error) => {
                let _ = writeln!(out, "{}", look::fold(&error.to_string(), look::width(), "", "  "));
            }
            Ok(report) => {
                let seen = Seen::new(&session.db, &report);
                let moved = before.until(session.project(), &seen);
                before = Remembered::new(session.project(), &seen, true, Some(&before));
                let document = Document::new(&session.db, &report, command.owed);
                out.push_str(&came(&document, &moved));
                out.push_str(&since_last(&moved));
                let _ = writeln!(out, "{}", totals(&document));
            }
        }
        print(&out)?;
    }
}

/// What came, in few lines each.
fn came(document: &Document, moved: &Moved) -> String {
    let width = look::width();
    let mut out = String::new();
    let is_new = |path: &str, line: u32, rule: &str| {
        moved.came.iter().any(|came| came.0 == path && u32::try_from(came.1) == Ok(line) && came.2 == rule)
    };
    let new = document.entries.iter().filter(|entry| is_new(&entry.place.path, entry.place.start.line, entry.rule));
    for entry in new.take(MOST_SHOWN) {
        let _ = writeln!(out, "{}", look::brief(entry, width));
    }
    out
}

/// What changed, by name where that is little.
fn named(session: &Session, changed: &[PathBuf]) -> String {
    match changed {
        [only] => format!("{} changed", session.project().relative(only)),
        all => format!("{} changed", look::count(all.len(), "file", "files")),
    }
}

/// The stamps once nothing has changed for a while: for longer where a file is gone, as who replaces it may take it away first.
fn settled(session: &Session, known: &Stamps, mut last: Stamps) -> Stamps {
    let began = Instant::now();
    let mut same = 0;
    while began.elapsed() < LONGEST {
        std::thread::sleep(PAUSE / 2);
        let now = stamps(session);
        same = if now == last { same + 1 } else { 0 };
        last = now;
        let is_gone = known.iter().any(|(path, stamp)| stamp.is_some() && last.get(path).copied().flatten().is_none());
        if same >= if is_gone { LOOKS_IF_GONE } else { 1 } {
            break;
        }
    }
    last
}

/// All sources, stubs, configuration and ledger as they are now.
fn stamps(session: &Session) -> Stamps {
    let project = session.project();
    let stubs: Vec<PathBuf> = project.settings.stubs.iter().map(PathBuf::from).collect();
    let stubs: Vec<PathBuf> = stubs.into_iter().filter(|path| project.root.join(path).is_dir()).collect();
    let mut files = sources::list(project, &[]).unwrap_or_default();
    if !stubs.is_empty() {
        files.extend(sources::list(project, &stubs).unwrap_or_default());
    }
    for name in ["leitmotiv.toml", "pyproject.toml", leitmotiv_migrate::ledger::FILE] {
        files.push(project.root.join(name));
    }
    files.extend(project.settings_file.clone());
    files.into_iter().map(|path| (path.clone(), stamp(&path))).collect()
}

fn stamp(path: &Path) -> Stamp {
    let metadata = path.metadata().ok()?;
    Some((metadata.modified().ok()?, metadata.len()))
}
