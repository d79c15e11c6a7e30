//! What demands would cost, and recording what is held.

use std::collections::BTreeMap;

use leitmotiv_engine::demands::{self, Demand};

use crate::ledger::Ledger;
use crate::session::{Asked, Report, Session, SessionError};

/// What a demand costs in one package.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Cost {
    /// The demand.
    pub demand: &'static str,
    /// The package's folder, or the file, relative to the project.
    pub package: String,
    /// Files in it.
    pub files: usize,
    /// Files that are held already.
    pub held: usize,
    /// Files that meet the demand and are not held yet.
    pub free: usize,
    /// Findings that stand against it, debts included.
    pub findings: usize,
    /// Those that are debts.
    pub owed: usize,
}

/// Findings of one file that stand against one demand, by rule and symbol.
type Against = BTreeMap<(String, String), usize>;

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
    session: &Session,
    paths: &[std::path::PathBuf],
    demands: &[&'static Demand],
) -> Result<Report, SessionError> {
    let asked = Asked { demands: demands.iter().map(|demand| demand.slug.to_owned()).collect(), ..Asked::default() };
    session.check(paths, &asked)
}

fn against(session: &Session, report: &Report, demand: &Demand) -> BTreeMap<String, Against> {
    let mut found: BTreeMap<String, Against> = BTreeMap::new();
    for file in &report.files {
        found.entry(file.path(&session.db).to_owned()).or_default();
    }
    for reported in &report.findings {
        if demand.rules.contains(&reported.finding.rule) {
            let path = reported.finding.file.path(&session.db).to_owned();
            let key = (reported.finding.rule.to_owned(), reported.finding.symbol.clone());
            *found.entry(path).or_default().entry(key).or_default() += 1;
        }
    }
    found
}

/// What each demand costs, per package.
#[must_use]
pub fn costs(session: &Session, report: &Report, demands: &[&'static Demand]) -> Vec<Cost> {
    let mut costs = Vec::new();
    for demand in demands {
        let mut packages: BTreeMap<String, Cost> = BTreeMap::new();
        for (path, findings) in against(session, report, demand) {
            let package = package(&path);
            let cost = packages.entry(package.clone()).or_insert_with(|| Cost {
                demand: demand.slug,
                package,
                files: 0,
                held: 0,
                free: 0,
                findings: 0,
                owed: 0,
            });
            let number: usize = findings.values().sum();
            cost.files += 1;
            cost.findings += number;
            cost.owed += session.ledger.owed_under(demand.slug, &path).iter().map(|(_, _, count)| count).sum::<usize>();
            if session.ledger.holds(demand.slug, &path) {
                cost.held += 1;
            } else if number == 0 {
                cost.free += 1;
            }
        }
        costs.extend(packages.into_values());
    }
    costs
}

/// A file's package: its folder, or itself where it lies at the top.
fn package(path: &str) -> String {
    match path.rsplit_once('/') {
        Some((folder, _)) => format!("{folder}/"),
        None => path.to_owned(),
    }
}

/// What recording changed.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Recorded {
    /// Files newly held.
    pub held: usize,
    /// Debts newly recorded.
    pub owed: usize,
    /// Debts struck because they are paid.
    pub paid: usize,
}

/// Records holds: every one that is free, or, where `named` is set, the demands for all files checked, with what stands
/// against them as debt. Paid debts are struck.
#[must_use]
pub fn record(session: &Session, report: &Report, demands: &[&'static Demand], named: bool) -> (Ledger, Recorded) {
    let mut ledger = session.ledger.clone();
    let mut recorded = Recorded::default();
    for demand in demands {
        for (path, findings) in against(session, report, demand) {
            let held = ledger.holds(demand.slug, &path);
            let mut old: BTreeMap<(String, String), usize> = BTreeMap::new();
            for (rule, symbol, count) in ledger.owed_under(demand.slug, &path) {
                old.insert((rule, symbol), count);
            }
            // A debt never grows: what is new in a held file is a finding and not a debt.
            for ((rule, symbol), count) in &old {
                let now = findings.get(&(rule.clone(), symbol.clone())).copied().unwrap_or(0);
                if now < *count {
                    recorded.paid += count - now;
                    ledger.owe(demand.slug, &path, rule, symbol, now);
                }
            }
            if !held && (findings.is_empty() || named) {
                ledger.hold(demand.slug, &path);
                recorded.held += 1;
                for ((rule, symbol), count) in findings {
                    recorded.owed += count;
                    ledger.owe(demand.slug, &path, &rule, &symbol, count);
                }
            }
        }
    }
    ledger.forget_missing(&session.project().root);
    (ledger, recorded)
}
