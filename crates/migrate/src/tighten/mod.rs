//! What demands would cost, and recording what is held.
//!
//! - this file: checking under demands, and recording
//! - [`cost`]: what each demand costs in each package
//! - [`steps`]: what is nearest
//! - [`owed`]: debts with their age

pub mod cost;
pub mod owed;
pub mod steps;

use std::collections::{BTreeMap, BTreeSet, HashMap, HashSet};

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::Checked;
use leitmotiv_engine::demands::{self, Demand};
use leitmotiv_engine::outline::module_index;

use crate::ledger::settle::{Left, Settlement};
use crate::ledger::{AS_IT_IS, Ledger, Promises, folder_of};
use crate::session::{Asked, Report, Session, SessionError};

/// All demands, or those named.
///
/// # Errors
/// [`SessionError::UnknownDemand`]
pub fn chosen(names: &[String]) -> Result<Vec<&'static Demand>, SessionError> {
    if names.is_empty() {
        return Ok(demands::ALL.to_vec());
    }
    for name in names {
        crate::session::known_demand(name)?;
    }
    Ok(demands::ALL.iter().copied().filter(|demand| names.iter().any(|name| name == demand.slug)).collect())
}

/// Checks under all the demands named.
///
/// # Errors
/// [`SessionError`]
pub fn measure(
    session: &mut Session,
    paths: &[std::path::PathBuf],
    demands: &[&'static Demand],
) -> Result<Report, SessionError> {
    let asked = Asked { demands: demands.iter().map(|demand| demand.slug.to_owned()).collect(), ..Asked::default() };
    session.check(paths, &asked)
}

/// How a demand stands in the files of a report.
struct Standing<'a> {
    /// The places of findings against it in the report, with whether each is owed, by path.
    against: BTreeMap<&'a str, Vec<(usize, bool)>>,
    settlement: Settlement,
}

fn standing<'a>(session: &'a Session, report: &'a Report, demand: &str) -> Standing<'a> {
    let (at, settlement) = session.settled(report, demand);
    let mut against: BTreeMap<&str, Vec<(usize, bool)>> =
        report.files.iter().map(|file| (file.path(&session.db), Vec::new())).collect();
    for (at, owed) in at.into_iter().zip(&settlement.owed) {
        let path = report.findings[at].finding.file.path(&session.db);
        against.entry(path).or_default().push((at, *owed));
    }
    Standing { against, settlement }
}

/// Whether nothing can be told of a demand in a file: it cannot be read in whole, or a comment hides all that is found in it.
#[must_use]
pub fn is_untold(session: &Session, file: File, checked: &Checked) -> bool {
    let is_broken = |rule: &str| matches!(rule, "syntax.error" | "engine.fault");
    checked.fault || checked.findings.iter().any(|finding| is_broken(finding.rule)) || session.is_silenced(file)
}

/// How many imports of a file lead nowhere.
#[must_use]
pub fn lost(checked: &Checked) -> usize {
    checked.findings.iter().filter(|finding| finding.rule == "import.unresolved").map(|finding| finding.weight).sum()
}

/// The files of a report of which a demand asks nothing as they stand.
fn idle<'a>(session: &'a Session, report: &Report, demand: &str) -> HashSet<&'a str> {
    let Some(demand) = demands::by_slug(demand) else { return HashSet::new() };
    let is_idle = |file: &&File| !(demand.asks_of)(module_index(&session.db, **file));
    report.files.iter().filter(is_idle).map(|file| file.path(&session.db)).collect()
}

/// What is to be recorded.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Recording {
    /// Whether demands are named: then files are held that do not meet them yet, with what stands against them as debt.
    pub named: bool,
    /// Whether all that is found now is recorded as debt, whatever its rule.
    pub as_it_is: bool,
    /// Whether the promises of files that are gone or left alone are dropped.
    pub forget: bool,
}

/// What recording changed.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Recorded {
    /// Promises newly made: a file and a demand each.
    pub held: usize,
    /// Debts newly recorded.
    pub owed: usize,
    /// Debts struck because they are paid.
    pub paid: usize,
    /// Files whose promises went to a new name: old and new path.
    pub followed: Vec<(String, String)>,
    /// Files whose promises were dropped.
    pub forgotten: Vec<String>,
    /// Files that are held and not looked at any more, whose promises stay.
    pub missing: Vec<String>,
    /// Files that were left as they are because they cannot be read in whole or are silenced.
    pub untold: Vec<String>,
    /// Files in which more imports cannot be found than before, so that no debt was struck.
    pub lost: Vec<String>,
}

/// Checked files of which less can be told than before, so that a debt for which nothing is found there need not be paid.
pub struct Silent<'a> {
    checked: HashSet<&'a str>,
    untold: HashSet<&'a str>,
    lost: HashMap<&'a str, usize>,
    session: &'a Session,
}

impl<'a> Silent<'a> {
    /// Those of a report.
    #[must_use]
    pub fn of(session: &'a Session, report: &Report) -> Silent<'a> {
        let files = report
            .files
            .iter()
            .zip(&report.checked)
            .map(|(file, checked)| (file.path(&session.db), is_untold(session, *file, checked), lost(checked)));
        Silent::among(session, files)
    }

    /// Those of some files, of which is known whether nothing can be told of them, and how many imports lead nowhere.
    pub fn among(session: &'a Session, files: impl Iterator<Item = (&'a str, bool, usize)>) -> Silent<'a> {
        let mut silent = Silent { checked: HashSet::new(), untold: HashSet::new(), lost: HashMap::new(), session };
        for (path, is_untold, lost) in files {
            silent.checked.insert(path);
            if is_untold {
                silent.untold.insert(path);
            }
            if lost > 0 {
                silent.lost.insert(path, lost);
            }
        }
        silent
    }

    /// Whether more imports of a file lead nowhere than when its debts were looked at.
    fn is_worse(&self, path: &str) -> bool {
        let before = self.session.ledger.of(path).map_or(0, |promises| promises.lost);
        self.lost.get(path).copied().unwrap_or(0) > before
    }

    /// Whether a debt of a rule is paid where nothing is found for it in a file.
    #[must_use]
    pub fn may_strike(&self, path: &str, rule: &str) -> bool {
        let is_told = self.checked.contains(path) && !self.untold.contains(path);
        // An import that is not found is told in any case.
        is_told && (rule.starts_with("import.") || !self.is_worse(path))
    }
}

/// Records holds: every one that is free, or, where demands are named, those demands for all files checked, with what stands
/// against them as debt. Paid debts are struck; renamed files keep their promises. `plain` is what a check without further
/// demands finds.
#[must_use]
pub fn record(
    session: &Session,
    report: &Report,
    plain: &Report,
    demands: &[&'static Demand],
    recording: Recording,
) -> (Ledger, Recorded) {
    let mut recorded = Recorded::default();
    let silent = Silent::of(session, report);
    let untold = &silent.untold;
    let mut ledger = Ledger::clone(&session.ledger);
    let slugs = demands.iter().map(|demand| (demand.slug, report)).chain([(AS_IT_IS, plain)]);
    for (slug, report) in slugs {
        let standing = standing(session, report, slug);
        let idle = idle(session, report, slug);
        // What is left of debts is paid where all can be told of the file; elsewhere it stays.
        let mut debts = Left::new();
        for ((path, debt), count) in standing.settlement.left {
            if silent.may_strike(&path, &debt.rule) {
                recorded.paid += count;
            } else {
                debts.insert((path, debt), count);
            }
        }
        // What is held to a demand now is owed under that one.
        let is_demanded = |ledger: &Ledger, path: &str, rule: &str| {
            slug == AS_IT_IS
                && ledger.held(path).filter_map(demands::by_slug).any(|demand| demand.rules.contains(&rule))
        };
        debts.retain(|(path, debt), _| !is_demanded(&ledger, path, &debt.rule));
        for (path, findings) in &standing.against {
            let is_held = session.ledger.holds(slug, path);
            let is_free = findings.iter().all(|(_, owed)| *owed) && !idle.contains(path);
            let is_wanted = match slug {
                AS_IT_IS => recording.as_it_is && !findings.is_empty(),
                _ => is_free || recording.named,
            };
            let is_new = !is_held && !untold.contains(path) && is_wanted;
            // Once more as it is: what came since is taken up as well.
            let is_new = is_new || slug == AS_IT_IS && recording.as_it_is && is_held && !untold.contains(path);
            for (at, owed) in findings {
                let finding = &report.findings[*at].finding;
                if is_demanded(&ledger, path, finding.rule) {
                    continue;
                }
                if is_new || *owed && is_held {
                    let debt = session.claim(finding).debt(slug);
                    *debts.entry(((*path).to_owned(), debt)).or_default() += finding.weight;
                    recorded.owed += if *owed { 0 } else { finding.weight };
                }
            }
            if is_new && ledger.of_mut(path).holds.insert(slug.to_owned()) {
                recorded.held += 1;
            }
        }
        let paths: Vec<String> = ledger.files().map(|(path, _)| path.to_owned()).collect();
        for path in paths {
            ledger.of_mut(&path).debts.retain(|debt, _| debt.demand != slug);
        }
        for ((path, debt), count) in debts {
            ledger.of_mut(&path).debts.insert(debt, count);
        }
        if slug == AS_IT_IS {
            // All paid: nothing is left to be said of the file.
            let is_paid = |promises: &Promises| promises.owed_under(AS_IT_IS) == 0;
            let paid: Vec<String> =
                ledger.files().filter(|(_, promises)| is_paid(promises)).map(|(path, _)| path.to_owned()).collect();
            paid.iter().for_each(|path| {
                ledger.of_mut(path).holds.remove(AS_IT_IS);
            });
        }
    }
    for path in report.files.iter().map(|file| file.path(&session.db)) {
        if ledger.of(path).is_none() {
            continue;
        }
        if untold.contains(path) {
            recorded.untold.push(path.to_owned());
        } else if silent.is_worse(path) && !ledger.of_mut(path).debts.is_empty() && session.ledger.of(path).is_some() {
            recorded.lost.push(path.to_owned());
        } else {
            ledger.of_mut(path).lost = silent.lost.get(path).copied().unwrap_or(0);
        }
    }
    missing(session, report, recording, &mut ledger, &mut recorded);
    whole(session, &mut ledger);
    ledger.prune();
    (ledger, recorded)
}

/// Says of each folder which demands all of its files are held to; new files are held to these as well. Where the project's files cannot be
/// listed, what was said stays.
fn whole(session: &Session, ledger: &mut Ledger) {
    let Ok(files) = session.files(&[]) else { return };
    let mut folders: BTreeMap<&str, Vec<File>> = BTreeMap::new();
    for file in files {
        folders.entry(folder_of(file.path(&session.db))).or_default().push(file);
    }
    let known: Vec<String> = ledger.folders().map(str::to_owned).collect();
    for folder in known.iter().map(String::as_str).filter(|folder| !folders.contains_key(folder)) {
        ledger.set_whole(folder, BTreeSet::new());
    }
    for (folder, files) in folders {
        // A folder in which there is nothing to ask about promises nothing for what comes.
        let has_code = |file: &File| file.text(&session.db).lines().any(|line| line.trim_start().starts_with("def "));
        if !files.iter().any(has_code) {
            continue;
        }
        let mut demands: Option<BTreeSet<String>> = None;
        for file in files {
            let own: BTreeSet<String> = match ledger.of(file.path(&session.db)) {
                Some(promises) => promises.holds.iter().filter(|demand| *demand != AS_IT_IS).cloned().collect(),
                None => BTreeSet::new(),
            };
            demands = Some(match demands {
                None => own,
                Some(all) => all.intersection(&own).cloned().collect(),
            });
        }
        // A file that came since, and does not meet them yet, gives no leave to the next one.
        let mut demands = demands.unwrap_or_default();
        demands.extend(session.ledger.whole(folder).map(str::to_owned));
        ledger.set_whole(folder, demands);
    }
}

/// Tells which held files have another name now, and drops the promises of those that are gone, or left alone where that is asked for.
fn missing(session: &Session, report: &Report, recording: Recording, ledger: &mut Ledger, recorded: &mut Recorded) {
    let root = &session.project().root;
    let checked: BTreeSet<&str> = report.files.iter().map(|file| file.path(&session.db)).collect();
    recorded.followed = session.moved.iter().map(|one| (one.from.clone(), one.to.clone())).collect();
    let held = session.ledger.files().filter(|(_, promises)| !promises.holds.is_empty());
    let gone: Vec<String> = held.map(|(path, _)| path.to_owned()).filter(|path| !root.join(path).exists()).collect();
    let tracked = crate::gone::tracked(session.project(), &gone);
    for path in gone {
        // What version control still has may only be missing here.
        let is_gone_for_good = tracked.as_ref().is_some_and(|tracked| !tracked.contains(&path));
        if recording.forget || is_gone_for_good {
            ledger.drop(&path);
            recorded.forgotten.push(path);
        } else {
            recorded.missing.push(path);
        }
    }
    // Left alone: there, but not among all that is checked; where that cannot be listed, nothing is known to be.
    if recording.forget
        && let Ok(files) = session.files(&[])
    {
        let all: BTreeSet<String> = files.iter().map(|file| file.path(&session.db).to_owned()).collect();
        let left: Vec<String> = ledger.files().map(|(path, _)| path.to_owned()).collect();
        for path in left.into_iter().filter(|path| !all.contains(path) && !checked.contains(path.as_str())) {
            ledger.drop(&path);
            recorded.forgotten.push(path);
        }
    }
}
