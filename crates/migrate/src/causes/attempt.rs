//! Changes that would settle findings, made one by one on a copy in memory.

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
pub(crate) type Told = (Key, String);

/// A project on which changes are tried.
pub struct Attempts<'a, 'db> {
    trial: Trial<'db>,
    files: &'a [File],
    before: BTreeMap<Told, usize>,
}

impl<'a, 'db> Attempts<'a, 'db> {
    /// Changes to a project, of which `files` are all; when this is dropped the database is as it was.
    pub fn new(db: &'db mut Database, files: &'a [File]) -> Attempts<'a, 'db> {
        let before = counted(db, &check(db, files));
        Attempts { trial: Trial::new(db), files, before }
    }

    /// What comes of a way out that is to settle some findings; `None` where it cannot be written.
    pub fn outcome<'f>(&mut self, way: &Way, promised: impl Iterator<Item = &'f Finding>) -> Option<Outcome> {
        let db = self.trial.db();
        let written = texts(db, way)?;
        let originals: Vec<(File, Arc<str>)> = written.iter().map(|(file, _)| (*file, file.text(db).clone())).collect();
        let mut asked: BTreeMap<Told, usize> = BTreeMap::new();
        for finding in promised {
            *asked.entry(told(db, finding)).or_default() += 1;
        }
        self.trial.write(written);
        let db = self.trial.db();
        let checked = check(db, self.files);
        let now = counted(db, &checked);
        let less = |told: &Told| {
            let (before, now) = (self.before.get(told).copied().unwrap_or(0), now.get(told).copied().unwrap_or(0));
            before.saturating_sub(now)
        };
        let went: usize = asked.iter().map(|(told, count)| less(told).min(*count)).sum();
        // One that stands where it stood, in other words, has neither gone nor come.
        let (keys, keys_now) = (by_key(&self.before), by_key(&now));
        let gone: usize =
            keys.iter().map(|(key, count)| count.saturating_sub(keys_now.get(key).copied().unwrap_or(0))).sum();
        let mut came = Vec::new();
        let mut left = self.before.clone();
        let mut more: BTreeMap<&Key, usize> = BTreeMap::new();
        for (key, count) in &keys_now {
            more.insert(key, count.saturating_sub(keys.get(key).copied().unwrap_or(0)));
        }
        for finding in checked.iter().flat_map(|checked| &checked.findings) {
            if finding.severity <= Severity::Note {
                continue;
            }
            let told = told(db, finding);
            match left.get_mut(&told) {
                Some(count) if *count > 0 => *count -= 1,
                _ => {
                    if let Some(more) = more.get_mut(&told.0).filter(|more| **more > 0) {
                        *more -= 1;
                        came.push((super::place(db, finding.file, finding.range.start()), finding.message.clone()));
                    }
                }
            }
        }
        self.trial.write(originals);
        Some(Outcome { went, others: gone.saturating_sub(went), came })
    }
}

/// Makes the change of each cause that has one, of some findings of the project whose files are `files`; the database is left as it was.
/// `None` for those that have none, or whose change cannot be written.
#[must_use]
pub fn attempted(db: &mut Database, files: &[File], findings: &[&Finding], causes: &[Cause]) -> Vec<Option<Outcome>> {
    let mut attempts = Attempts::new(db, files);
    let outcome = |cause: &Cause| {
        let promised = cause.findings.iter().map(|number| findings[*number]);
        attempts.outcome(cause.way.as_ref()?, promised)
    };
    causes.iter().map(outcome).collect()
}

pub(crate) fn told(db: &Database, finding: &Finding) -> Told {
    (key(db, finding), finding.message.clone())
}

/// How often each thing is found.
pub(crate) fn counted(db: &Database, checked: &[Arc<Checked>]) -> BTreeMap<Told, usize> {
    let mut all = BTreeMap::new();
    for finding in checked.iter().flat_map(|checked| &checked.findings) {
        *all.entry(told(db, finding)).or_default() += 1;
    }
    all
}

fn by_key(counted: &BTreeMap<Told, usize>) -> BTreeMap<Key, usize> {
    let mut all = BTreeMap::new();
    for ((key, _), count) in counted {
        *all.entry(key.clone()).or_default() += count;
    }
    all
}

/// The texts of the files that a way changes; `None` where it cannot be written.
#[must_use]
pub fn texts(db: &Database, way: &Way) -> Option<Vec<(File, Arc<str>)>> {
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
