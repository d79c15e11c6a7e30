//! Checks that begin with what an earlier one found, and look again at what edits reach.

use std::collections::HashMap;

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::base::observed::Edited;
use leitmotiv_engine::past::Past;
use leitmotiv_engine::resolve::project_files;
use leitmotiv_migrate::session::{Asked, Session};

use crate::told::{self, OfFile, settle_among, settle_within};

/// What is checked, and how.
#[derive(Debug, Clone, Copy)]
pub struct Meant<'a> {
    /// The files, in order.
    pub files: &'a [File],
    /// What is asked for.
    pub asked: &'a Asked,
    /// Whether debts have ways out too.
    pub with_owed: bool,
    /// Whether others are checked elsewhere, with which debts are settled when all are put together.
    pub is_part: bool,
}

/// Files that were checked, in order.
#[derive(Debug)]
pub struct Looked {
    /// What was found in each.
    pub files: Vec<OfFile>,
    /// What each took, in millionths of a second, when it was checked by itself.
    pub took: Vec<u64>,
}

impl Looked {
    /// Whether the check of some file failed.
    #[must_use]
    pub fn is_fault(&self) -> bool {
        self.files.iter().any(|of| of.fault)
    }
}

/// Checks some files, and tells of each by itself. Of findings that debts of the same file stand for there are no ways out, but where they
/// are asked for.
#[must_use]
pub fn checked(session: &Session, meant: Meant<'_>) -> Looked {
    let (mut report, took) = session.timed(meant.files.to_vec(), meant.asked);
    session.settle_within(&mut report);
    Looked { files: told::files(session, &report, meant.with_owed).0, took }
}

/// Checks again what edits reach, files by their paths as `Past::known` has them, and what was not checked before, after the
/// session was told what is known of the others; with what is written down now. `None` where it is better to begin with nothing, which
/// takes another session.
#[must_use]
pub fn again(
    session: &Session,
    past: Past,
    known: Looked,
    edited: &Edited,
    meant: Meant<'_>,
) -> Option<(Looked, Past)> {
    let db = &session.db;
    let reached = past.reached(db, &edited.files, edited.is_laid_out)?;
    let known = known.files.into_iter().zip(known.took);
    let mut known: HashMap<String, (OfFile, u64)> = known.map(|(of, took)| (of.path.clone(), (of, took))).collect();
    let look = |files: Vec<File>, known: &mut HashMap<String, (OfFile, u64)>| {
        let (report, took) = session.timed(files, meant.asked);
        let (told, _) = told::files(session, &report, true);
        for (of, took) in told.into_iter().zip(took) {
            // What it took while all was worked out counts; now others have done some of it before.
            let took = known.get(&of.path).map_or(took, |(_, took)| *took);
            known.insert(of.path.clone(), (of, took));
        }
    };
    let is_open =
        |file: &File, known: &HashMap<_, _>| reached.files.contains(file) || !known.contains_key(file.path(db));
    look(meant.files.iter().copied().filter(|file| is_open(file, &known)).collect(), &mut known);
    let all = meant.files.iter().map(|file| known.remove(file.path(db)));
    let (mut files, took): (Vec<OfFile>, Vec<u64>) = all.collect::<Option<Vec<_>>>()?.into_iter().unzip();
    if session.ledger.is_there() {
        if meant.is_part {
            settle_within(session, &mut files);
        } else {
            settle_among(session, &mut files);
        }
        // What was owed before, and is not now, is shown with its ways out.
        let is_lacking = |(file, of): (&File, &OfFile)| of.lacks_ways(meant.with_owed).then_some(*file);
        let lacking: Vec<File> = meant.files.iter().zip(&files).filter_map(is_lacking).collect();
        if !lacking.is_empty() {
            let mut known = HashMap::new();
            look(lacking, &mut known);
            for of in &mut files {
                if let Some((new, _)) = known.remove(&of.path) {
                    *of = new;
                }
            }
        }
    }
    let looked = Looked { files, took };
    if looked.is_fault() {
        return None;
    }
    let past = past.after(db, reached)?;
    Some((looked, past))
}

/// What a check that began with nothing has written down.
#[must_use]
pub fn past(session: &Session) -> Option<Past> {
    Past::of(&session.db, project_files(&session.db))
}
