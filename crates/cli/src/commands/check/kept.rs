//! Checks that are kept: where all that a check would see was seen before, what came out then is printed.
//!
//! A check is known again by the program, what was asked for, the settings, the interpreter, the ledger and the texts of the files that are
//! checked; with it is kept what else it saw of the disk, and that is looked at again.

use std::fmt::Write as _;
use std::path::{Path, PathBuf};

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::observed::{said_by, text_sum};
use leitmotiv_migrate::ledger;
use leitmotiv_migrate::remembered::Seen;
use leitmotiv_migrate::session::{Report, Session};
use leitmotiv_project::cache::{Cache, Sum, sum};
use leitmotiv_project::settings::CacheFolder;
use leitmotiv_project::sources::module_of;
use leitmotiv_report::document::Document;
use leitmotiv_report::stored::Stored;
use rayon::prelude::*;

use super::{By, Check};

/// Where a check is kept, and what it is known by beside the texts of its files.
pub(super) struct Kept {
    cache: Cache,
    root: PathBuf,
    asked: String,
    files: Vec<PathBuf>,
}

/// What is told of one file that is checked.
type Told = (PathBuf, PathBuf, String, Sum);

impl Kept {
    /// Where a check of some paths would be kept; `None` where it is not to be, or what comes out hangs on more than is looked at.
    pub(super) fn of(command: &Check, session: &Session, paths: &[PathBuf]) -> Option<Kept> {
        let hangs_on_more = command.since.is_some() || command.watch || command.r#try || command.by == Some(By::Cause);
        if hangs_on_more || !session.moved.is_empty() {
            return None;
        }
        let project = session.project();
        // What became of files that are gone, version control is asked.
        if session.ledger.files().any(|(path, _)| !project.root.join(path).exists()) {
            return None;
        }
        let folder = folder(command, session)?;
        let files = session.db.sources(paths).ok()?;
        let sources = if paths.is_empty() { files.clone() } else { session.db.sources(&[]).unwrap_or_default() };
        let recorded = leitmotiv_project::read::bytes(&project.root.join(ledger::FILE)).unwrap_or_default();
        let mut asked = format!("{} {}\n", env!("CARGO_PKG_VERSION"), env!("LEITMOTIV_BUILD"));
        let within = |path: &Path| path.strip_prefix(&project.root).unwrap_or(path).to_owned();
        let all_within = |paths: &[PathBuf]| paths.iter().map(|path| within(path)).collect::<Vec<_>>();
        let _ = writeln!(asked, "{:?} {:?}", project.settings_file.as_deref().map(within), project.settings);
        let _ = writeln!(asked, "{:?}", project.python);
        if let Some(interpreter) = &project.interpreter {
            let folders = (all_within(&interpreter.packages), interpreter.library.as_deref().map(within));
            let _ = writeln!(asked, "{:?} {:?} {folders:?}", within(&interpreter.name), interpreter.version);
        }
        let _ = writeln!(asked, "{}", session.db.roots());
        let options = (&command.set, &command.demand, command.owed, command.exact);
        let _ = writeln!(asked, "{:?} {options:?}", all_within(paths));
        let _ = writeln!(asked, "{:?}\n{:?}", sum(&recorded), all_within(&sources));
        Some(Kept { cache: Cache::at(folder), root: project.root.clone(), asked, files })
    }

    /// What came out of it, where all is as it was.
    pub(super) fn find(&self) -> Option<Stored> {
        let of = |path: &PathBuf| {
            let (root, module) = module_of(path);
            (self.within(path), self.within(&root), module, said_by(path))
        };
        let told: Vec<Told> = self.files.par_iter().map(of).collect();
        let stored = Stored::of(&self.cache.get(&self.name(&told))?)?;
        stored.observed.holds(&self.root).then_some(stored)
    }

    /// Keeps what came out: known by what was read while it was worked out.
    pub(super) fn keep(&self, session: &Session, report: &Report, document: &Document, seen: &Seen) {
        let db = &session.db;
        let of = |file: &leitmotiv_engine::base::file::File| {
            let path = self.within(file.disk(db)?);
            let module = db.names().text(file.module(db)).to_owned();
            Some((
                path,
                self.within(file.root(db).as_deref()?),
                module,
                text_sum(file.text(db), file.unreadable(db).as_deref()),
            ))
        };
        let Some(told) = report.files.iter().map(of).collect::<Option<Vec<Told>>>() else { return };
        let files: Vec<PathBuf> = self.files.iter().map(|path| self.within(path)).collect();
        if report.fault || !told.iter().map(|(path, ..)| path).eq(&files) {
            return;
        }
        let mut observed = db.observed();
        observed.without(&files);
        let stored = Stored { observed, document: document.clone(), seen: seen.clone() };
        if let Some(bytes) = stored.bytes() {
            self.cache.put(&self.name(&told), &bytes);
        }
    }

    /// A path as it is told: the project may lie elsewhere the next time.
    fn within(&self, path: &Path) -> PathBuf {
        path.strip_prefix(&self.root).unwrap_or(path).to_owned()
    }

    fn name(&self, told: &[Told]) -> Sum {
        let mut text = self.asked.clone();
        for (path, root, module, said) in told {
            let _ = writeln!(text, "{path:?} {root:?} {module} {said:?}");
        }
        sum(text.as_bytes())
    }
}

/// The folder of what is kept: that of the command, of the project, or the user's own.
fn folder(command: &Check, session: &Session) -> Option<PathBuf> {
    let project = session.project();
    if command.no_cache {
        return None;
    }
    if let Some(named) = &command.cache {
        return Some(named.clone());
    }
    match &project.settings.cache {
        CacheFolder::None => None,
        CacheFolder::In(named) => {
            let folder = project.root.join(named);
            // A link may lead out of the project.
            let there = folder.ancestors().find_map(|above| above.canonicalize().ok())?;
            there.starts_with(project.root.canonicalize().ok()?).then_some(folder)
        }
        CacheFolder::Users => Cache::users_folder(&|name| std::env::var_os(name)),
    }
}
