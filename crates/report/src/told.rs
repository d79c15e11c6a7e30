//! What checking each file gave, told whole: apart from the database it was found in, and from all other files.
//!
//! What hangs on other files — what the ledger's debts stand for, how many findings a way out settles, and so which of them comes first —
//! is made of it afterwards ([`settle`], [`Document::of`]), the same wherever the files were checked, and whenever.

use std::collections::{HashMap, HashSet};
use std::sync::Arc;

use leitmotiv_engine::base::asked::telling;
use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::Checked;
use leitmotiv_migrate::ledger::Ledger;
use leitmotiv_migrate::ledger::settle::{self, Claim, Left};
use leitmotiv_migrate::session::{Report, Reported, Session, is_against, settling};
use leitmotiv_migrate::tighten::{is_untold, lost};
use leitmotiv_migrate::ways::{Reach, Ways, widened};
use leitmotiv_project::settings::Severity;
use rayon::prelude::*;
use serde::{Deserialize, Serialize};

use crate::document::{Document, Entry, Place, Summary, at};

/// One file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct OfFile {
    /// As it is shown.
    pub path: String,
    /// Its lines.
    pub lines: usize,
    /// Whether the check of it failed.
    pub fault: bool,
    /// Whether a comment at its head hides all that is found in it.
    pub silenced: bool,
    /// Whether nothing can be told of a demand in it.
    pub untold: bool,
    /// How many of its imports lead nowhere.
    pub lost: usize,
    /// Symbols that debts of the file speak of, and that are not in it any more.
    pub gone: Vec<String>,
    /// What is found in it, in order.
    pub told: Vec<Told>,
}

/// One finding.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Told {
    /// As it is shown, but for its ways out, which are in no order.
    pub entry: Entry,
    /// How many things that are wrong are told in one.
    pub weight: usize,
    /// Whether its ways out were not asked for.
    is_bare: bool,
    /// What is known of each way out.
    ways: Vec<Reaching>,
    /// The declarations that would settle it if they took a type as well, with the type as it is shown.
    widened: Vec<(Place, String)>,
}

/// What a way out settles, and where it stands.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
struct Reaching {
    settles: Settles,
    ranks: (u8, u8),
}

#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
enum Settles {
    Alone,
    Cause,
    Widened(Place, String),
}

impl Told {
    /// A finding; `bare` without its ways out, which take the longest.
    fn new(db: &Database, reported: &Reported, ways: &mut Ways<'_>, bare: bool) -> Told {
        let finding = &reported.finding;
        let found = if bare { Vec::new() } else { ways.found(finding) };
        let place = |(file, range, shown)| (at(db, file, range), shown);
        let reaching = found.iter().map(|way| Reaching {
            settles: match way.reach.clone() {
                Reach::Alone => Settles::Alone,
                Reach::Cause => Settles::Cause,
                Reach::Widened(widened) => {
                    let (place, shown) = place(widened);
                    Settles::Widened(place, shown)
                }
            },
            ranks: way.ranks,
        });
        Told {
            ways: reaching.collect(),
            widened: widened(db, finding).map(place).collect(),
            weight: finding.weight,
            is_bare: bare,
            entry: Entry::with(db, reported, found),
        }
    }
}

/// Findings of a report, told; `is_bare` says of which the ways out are not asked for.
pub(crate) fn told(db: &Database, found: &[&Reported], is_bare: &(dyn Fn(&Reported) -> bool + Sync)) -> Vec<Told> {
    let of_files: Vec<&[&Reported]> = found.chunk_by(|one, other| one.finding.file == other.finding.file).collect();
    let told = of_files.par_iter().map_with(db.clone(), |db, of_file| {
        let mut ways = Ways::among(db, Arc::default());
        let _asking = of_file.first().map(|reported| telling(db, reported.finding.file));
        of_file.iter().map(|reported| Told::new(db, reported, &mut ways, is_bare(reported))).collect::<Vec<_>>()
    });
    told.collect::<Vec<_>>().into_iter().flatten().collect()
}

/// The files of a report, each with what is told of it, and what is told of other files. Findings that are owed have no ways out, but where
/// they are asked for.
#[must_use]
pub fn files(session: &Session, report: &Report, with_owed: bool) -> (Vec<OfFile>, Vec<Told>) {
    let db = &session.db;
    let all: Vec<&Reported> = report.findings.iter().collect();
    let told = told(db, &all, &|reported| reported.owed && !with_owed);
    let mut by_path: HashMap<File, Vec<Told>> = HashMap::new();
    for (told, reported) in told.into_iter().zip(&all) {
        by_path.entry(reported.finding.file).or_default().push(told);
    }
    let of = |(file, checked): (&File, &Arc<Checked>)| OfFile {
        path: file.path(db).to_owned(),
        lines: checked.lines,
        fault: checked.fault,
        silenced: session.is_silenced(*file),
        untold: is_untold(session, *file, checked),
        lost: lost(checked),
        gone: session.gone_from(*file),
        told: by_path.remove(file).unwrap_or_default(),
    };
    let files = report.files.iter().zip(&report.checked).map(of).collect();
    let rest = report.findings.iter().filter_map(|reported| by_path.remove(&reported.finding.file));
    (files, rest.flatten().collect())
}

impl OfFile {
    /// Whether a finding is to be shown of which nobody asked for the ways out.
    #[must_use]
    pub fn lacks_ways(&self, with_owed: bool) -> bool {
        self.told.iter().any(|told| told.is_bare && (with_owed || !told.entry.owed))
    }
}

/// Says which findings of all files of a check are owed, and what is left of debts under each demand.
pub(crate) fn settle_among(session: &Session, files: &mut [OfFile]) -> HashMap<&'static str, Left> {
    let gone: HashMap<String, HashSet<String>> =
        files.iter().map(|file| (file.path.clone(), file.gone.iter().cloned().collect())).collect();
    let root = &session.project().root;
    settle(&session.ledger, files, &mut |path, symbol| match gone.get(path) {
        None => !root.join(path).exists(),
        Some(gone) => gone.contains(symbol),
    })
}

/// Says which findings of some files are owed by debts of the same files alone, which stand for nothing else whatever other files there are.
pub(crate) fn settle_within(session: &Session, files: &mut [OfFile]) {
    let paths: HashSet<String> = files.iter().map(|file| file.path.clone()).collect();
    settle(&session.ledger.only(&|path| paths.contains(path)), files, &mut |_, _| false);
}

/// Says which findings of some files are owed; which symbols of a path are gone is asked.
fn settle(
    ledger: &Ledger,
    files: &mut [OfFile],
    is_gone: &mut dyn FnMut(&str, &str) -> bool,
) -> HashMap<&'static str, Left> {
    let mut left = HashMap::new();
    let mut owed: Vec<Vec<bool>> = files.iter().map(|file| vec![false; file.told.len()]).collect();
    for demand in settling() {
        let mut places = Vec::new();
        let mut claims = Vec::new();
        for (number, file) in files.iter().enumerate() {
            for (place, told) in file.told.iter().enumerate() {
                let entry = &told.entry;
                if is_against(demand, entry.rule, entry.severity, entry.demand) {
                    places.push((number, place));
                    claims.push(Claim {
                        path: &entry.place.path,
                        rule: entry.rule,
                        symbol: &entry.symbol,
                        fingerprint: &entry.fingerprint,
                        weight: told.weight,
                    });
                }
            }
        }
        let settlement = settle::settle(ledger, demand, &claims, &mut *is_gone);
        for ((number, place), is_owed) in places.into_iter().zip(settlement.owed) {
            owed[number][place] |= is_owed;
        }
        left.insert(demand, settlement.left);
    }
    for (file, owed) in files.iter_mut().zip(owed) {
        for (told, owed) in file.told.iter_mut().zip(owed) {
            told.entry.owed = owed;
        }
    }
    left
}

type Key<'a> = (&'a str, u32, u32, u32, u32);

fn key(place: &Place) -> Key<'_> {
    (&place.path, place.start.line, place.start.column, place.end.line, place.end.column)
}

impl Document {
    /// Findings that were told one by one, in order, as a document: debts are in it where `with_owed` is set.
    #[must_use]
    pub fn of(told: Vec<Told>, files: usize, lines: usize, with_owed: bool) -> Document {
        let mut summary = Summary { files, lines, errors: 0, warnings: 0, notes: 0, owed: 0 };
        for Told { entry, .. } in &told {
            match entry.severity {
                _ if entry.owed => summary.owed += 1,
                Severity::Error => summary.errors += 1,
                Severity::Warning => summary.warnings += 1,
                Severity::Note => summary.notes += 1,
                Severity::Off => {}
            }
        }
        let shown: Vec<Told> = told.into_iter().filter(|told| with_owed || !told.entry.owed).collect();
        let counts = Counts::of(&shown);
        let settled: Vec<Vec<usize>> = shown.iter().map(|told| counts.settled(told)).collect();
        let finished = shown.into_iter().zip(settled).map(|(told, settled)| told.finished(&settled));
        Document { entries: finished.collect(), summary }
    }
}

/// What some findings have in common.
struct Counts<'a> {
    causes: HashMap<Key<'a>, usize>,
    widened: HashMap<(Key<'a>, &'a str), usize>,
}

impl<'a> Counts<'a> {
    fn of(shown: &'a [Told]) -> Counts<'a> {
        let mut counts = Counts { causes: HashMap::new(), widened: HashMap::new() };
        for told in shown {
            *counts.causes.entry(key(&told.entry.cause.place)).or_default() += 1;
            for (place, shown) in &told.widened {
                *counts.widened.entry((key(place), shown)).or_default() += 1;
            }
        }
        counts
    }

    /// How many of them each way out of a finding settles.
    fn settled(&self, told: &Told) -> Vec<usize> {
        let count = |way: &Reaching| match &way.settles {
            Settles::Alone => 1,
            Settles::Cause => self.causes.get(&key(&told.entry.cause.place)).copied().unwrap_or(1),
            Settles::Widened(place, shown) => {
                self.widened.get(&(key(place), shown.as_str())).copied().unwrap_or(1).max(1)
            }
        };
        told.ways.iter().map(count).collect()
    }
}

impl Told {
    /// With its ways out in order: first what settles most and costs least.
    fn finished(self, settled: &[usize]) -> Entry {
        let mut entry = self.entry;
        let ranked = std::mem::take(&mut entry.ways).into_iter().zip(self.ways).zip(settled);
        let mut ranked: Vec<_> = ranked
            .map(|((mut way, reaching), settles)| {
                way.settles = *settles;
                (if *settles > 1 { reaching.ranks.1 } else { reaching.ranks.0 }, way)
            })
            .collect();
        ranked.sort_by_key(|(rank, _)| *rank);
        entry.ways = ranked.into_iter().map(|(_, way)| way).collect();
        entry
    }
}
