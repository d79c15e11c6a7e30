//! Changes that would settle causes, made one by one on a copy in memory.

use std::collections::BTreeMap;
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::{Checked, check};
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::edits::{Edit, apply};

use super::Cause;
use crate::annotate::vet::{Key, key};
use crate::trial::Trial;
use crate::ways::Way;

/// What comes of a change.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Outcome {
    /// How many of the findings that it was to settle go.
    pub went: usize,
    /// How many go beside these.
    pub others: usize,
    /// Errors and warnings that come, each as a place and what is wrong there.
    pub came: Vec<(String, String)>,
}

/// A finding by its rule, the function around it, and its words.
type Told = (Key, String);

/// Makes the change of each cause that has one, of some findings of the project whose files are `files`; the database is left as it was.
/// `None` for those that have none, or whose change cannot be written.
#[must_use]
pub fn attempted(db: &mut Database, files: &[File], findings: &[&Finding], causes: &[Cause]) -> Vec<Option<Outcome>> {
    let before = counted(db, &check(db, files));
    let mut trial = Trial::new(db);
    causes
        .iter()
        .map(|cause| {
            let written = texts(trial.db(), cause.way.as_ref()?)?;
            let db = trial.db();
            let originals: Vec<(File, Arc<str>)> =
                written.iter().map(|(file, _)| (*file, file.text(db).clone())).collect();
            let mut promised: BTreeMap<Told, usize> = BTreeMap::new();
            for number in &cause.findings {
                *promised.entry(told(db, findings[*number])).or_default() += 1;
            }
            trial.write(written);
            let db = trial.db();
            let checked = check(db, files);
            let now = counted(db, &checked);
            let less = |told: &Told| {
                let (before, now) = (before.get(told).copied().unwrap_or(0), now.get(told).copied().unwrap_or(0));
                before.saturating_sub(now)
            };
            let went = promised.iter().map(|(told, count)| less(told).min(*count)).sum();
            let gone: usize = before.keys().map(less).sum();
            let mut came = Vec::new();
            let mut left = before.clone();
            for finding in checked.iter().flat_map(|checked| &checked.findings) {
                if finding.severity <= Severity::Note {
                    continue;
                }
                match left.get_mut(&told(db, finding)) {
                    Some(count) if *count > 0 => *count -= 1,
                    _ => came.push((super::place(db, finding.file, finding.range.start()), finding.message.clone())),
                }
            }
            let outcome = Outcome { went, others: gone.saturating_sub(went), came };
            trial.write(originals);
            Some(outcome)
        })
        .collect()
}

fn told(db: &Database, finding: &Finding) -> Told {
    (key(db, finding), finding.message.clone())
}

fn counted(db: &Database, checked: &[Arc<Checked>]) -> BTreeMap<Told, usize> {
    let mut all = BTreeMap::new();
    for finding in checked.iter().flat_map(|checked| &checked.findings) {
        *all.entry(told(db, finding)).or_default() += 1;
    }
    all
}

/// The texts of the files that a way changes.
fn texts(db: &Database, way: &Way) -> Option<Vec<(File, Arc<str>)>> {
    let mut by_file: Vec<(File, Vec<Edit>)> = Vec::new();
    for (file, edit) in way.written(db)? {
        match by_file.iter_mut().find(|(known, _)| *known == file) {
            Some((_, edits)) => edits.push(edit),
            None => by_file.push((file, vec![edit])),
        }
    }
    by_file
        .into_iter()
        .map(|(file, edits)| {
            let text = apply(file.text(db), &edits).ok()?;
            Some((file, Arc::from(text)))
        })
        .collect()
}
