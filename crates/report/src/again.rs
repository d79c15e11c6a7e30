//! Checks that begin with what an earlier one found, and look again at what edits reach.

use std::collections::{HashMap, HashSet};
use std::path::PathBuf;

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::past::Past;
use leitmotiv_engine::resolve::project_files;
use leitmotiv_migrate::remembered::{Found, Seen};
use leitmotiv_migrate::session::{Asked, Report, Session};

use crate::document::Document;
use crate::told::{self, OfFile, Told, settle};

/// A check whose findings were told file by file, put together.
#[derive(Debug)]
pub struct Whole {
    /// What is printed.
    pub document: Document,
    /// What later checks are compared with.
    pub seen: Seen,
    /// Whether the check of some file failed.
    pub fault: bool,
}

/// Checks some files, and tells of each by itself, with what it took in millionths of a second. Of findings
/// that debts of the same file stand for there are no ways out, but where they are asked for.
#[must_use]
pub fn checked(session: &Session, files: Vec<File>, asked: &Asked, with_owed: bool) -> (Vec<OfFile>, Vec<u64>) {
    let (mut report, took) = session.timed(files, asked);
    session.settle_within(&mut report);
    (told::files(session, &report, with_owed).0, took)
}

/// Checks again what edits of some files reach, by their paths as `Past::known` has them, after the session was told what is known
/// of the others; with what is written down now. `None` where it is better to begin with nothing, which takes another session.
#[must_use]
pub fn again(
    session: &Session,
    past: Past,
    known: Vec<OfFile>,
    edited: &[PathBuf],
    paths: &[PathBuf],
    asked: &Asked,
    with_owed: bool,
) -> Option<(Vec<OfFile>, Past)> {
    let db = &session.db;
    let files = session.files(paths).ok()?;
    let reached = past.reached(db, edited)?;
    let mut known: HashMap<String, OfFile> = known.into_iter().map(|of| (of.path.clone(), of)).collect();
    let look = |files: Vec<File>, known: &mut HashMap<String, OfFile>| {
        let report = session.unsettled(files, asked);
        let (told, _) = told::files(session, &report, true);
        known.extend(told.into_iter().map(|of| (of.path.clone(), of)));
    };
    look(files.iter().copied().filter(|file| reached.files.contains(file)).collect(), &mut known);
    let mut all: Vec<OfFile> = files.iter().map(|file| known.remove(file.path(db))).collect::<Option<_>>()?;
    if session.ledger.is_there() {
        settle_in(session, &mut all);
        // What was owed before, and is not now, is shown with its ways out.
        let is_lacking = |(file, of): (&File, &OfFile)| of.lacks_ways(with_owed).then_some(*file);
        let lacking: Vec<File> = files.iter().zip(&all).filter_map(is_lacking).collect();
        if !lacking.is_empty() {
            let mut known = HashMap::new();
            look(lacking, &mut known);
            for of in &mut all {
                if let Some(new) = known.remove(&of.path) {
                    *of = new;
                }
            }
        }
    }
    if all.iter().any(|of| of.fault) {
        return None;
    }
    let past = past.after(db, reached)?;
    Some((all, past))
}

/// What a check that began with nothing has written down.
#[must_use]
pub fn past(session: &Session) -> Option<Past> {
    Past::of(&session.db, project_files(&session.db))
}

fn settle_in(session: &Session, files: &mut [OfFile]) {
    let root = &session.project().root;
    settle(&session.ledger, files, &|path| root.join(path).exists());
}

/// Puts together what was told of the files below some paths, with what is told of the ledger. `is_meant` says which findings are.
#[must_use]
pub fn whole(
    session: &Session,
    paths: &[PathBuf],
    mut files: Vec<OfFile>,
    with_owed: bool,
    is_meant: &dyn Fn(&Told) -> bool,
) -> Whole {
    let is_held = session.ledger.is_there();
    if is_held {
        settle_in(session, &mut files);
    }
    let names: Vec<String> = files.iter().map(|of| of.path.clone()).collect();
    let lines = files.iter().map(|of| of.lines).sum();
    let fault = files.iter().any(|of| of.fault);
    let checked: HashSet<&str> = names.iter().map(String::as_str).collect();
    let silenced: HashSet<&str> = files.iter().filter(|of| of.silenced).map(|of| of.path.as_str()).collect();
    let broken = session.broken_among(paths, &checked, &silenced);
    let report = Report { findings: broken, ..Report::default() };
    let (_, of_ledger) = told::files(session, &report, true);
    drop((checked, silenced));
    let mut all: Vec<Told> = files.into_iter().flat_map(|of| of.told).chain(of_ledger).collect();
    if is_held {
        all.sort_by(|one, other| {
            let key = |told: &Told| (told.entry.place.start, told.entry.rule);
            one.entry.place.path.cmp(&other.entry.place.path).then_with(|| key(one).cmp(&key(other)))
        });
    }
    let found = all.iter().map(|told| {
        let entry = &told.entry;
        Found::new(&entry.place.path, entry.place.start.line as usize, entry.rule, &entry.symbol, &entry.fingerprint)
    });
    let seen = Seen { files: names, found: found.collect() };
    all.retain(is_meant);
    let document = Document::of(all, seen.files.len(), lines, with_owed);
    Whole { document, seen, fault }
}
