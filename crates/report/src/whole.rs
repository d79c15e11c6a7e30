//! Checks whose files were told one by one, put together.

use std::collections::{HashMap, HashSet};
use std::path::PathBuf;

use leitmotiv_migrate::exact::inexact;
use leitmotiv_migrate::remembered::{Found, Seen};
use leitmotiv_migrate::session::{Report, Reported, Session};
use leitmotiv_migrate::tighten::Silent;

use crate::document::Document;
use crate::told::{self, OfFile, Told, settle_among};

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

/// What is told of a check.
#[derive(Clone, Copy)]
pub struct Telling<'a> {
    /// Whether debts are.
    pub with_owed: bool,
    /// Whether it is told where the ledger says too much.
    pub exact: bool,
    /// Which findings are; what the ledger says too much is told in any case.
    pub is_meant: &'a dyn Fn(&Told) -> bool,
}

/// Puts together what was told of the files below some paths, with what is told of the ledger.
#[must_use]
pub fn whole(session: &Session, paths: &[PathBuf], mut files: Vec<OfFile>, telling: Telling<'_>) -> Whole {
    let is_held = session.ledger.is_there();
    let left = if is_held { settle_among(session, &mut files) } else { HashMap::new() };
    let names: Vec<String> = files.iter().map(|of| of.path.clone()).collect();
    let lines = files.iter().map(|of| of.lines).sum();
    let fault = files.iter().any(|of| of.fault);
    let checked: HashSet<&str> = names.iter().map(String::as_str).collect();
    let silenced: HashSet<&str> = files.iter().filter(|of| of.silenced).map(|of| of.path.as_str()).collect();
    let broken = session.broken_among(paths, &checked, &silenced);
    let told_of = |found: Vec<Reported>| {
        let report = Report { findings: found, ..Report::default() };
        told::files(session, &report, true).1
    };
    let of_ledger = told_of(broken);
    let too_much = if telling.exact {
        let known = files.iter().map(|of| (of.path.as_str(), of.untold, of.lost));
        let silent = Silent::among(session, known);
        let found = inexact(session, &silent, &|slug| left.get(slug).cloned().unwrap_or_default());
        let mut report = Report::default();
        session.add(&mut report, &found);
        told_of(report.findings)
    } else {
        Vec::new()
    };
    drop((checked, silenced));
    let mut all: Vec<Told> = files.into_iter().flat_map(|of| of.told).chain(of_ledger).collect();
    if is_held {
        sort(&mut all);
    }
    let found = all.iter().map(|told| {
        let entry = &told.entry;
        Found::new(&entry.place.path, entry.place.start.line as usize, entry.rule, &entry.symbol, &entry.fingerprint)
    });
    let seen = Seen { files: names, found: found.collect() };
    all.retain(telling.is_meant);
    if !too_much.is_empty() {
        all.extend(too_much);
        sort(&mut all);
    }
    let document = Document::of(all, seen.files.len(), lines, telling.with_owed);
    Whole { document, seen, fault }
}

fn sort(all: &mut [Told]) {
    all.sort_by(|one, other| {
        let key = |told: &Told| (told.entry.place.start, told.entry.rule);
        one.entry.place.path.cmp(&other.entry.place.path).then_with(|| key(one).cmp(&key(other)))
    });
}
