//! What each demand costs in each package.

use std::collections::{BTreeMap, HashMap};

use leitmotiv_engine::demands::Demand;
use leitmotiv_engine::findings::act::Act;
use leitmotiv_engine::findings::finding::Finding;
use serde::Serialize;

use super::{Silent, idle, standing};
use crate::ledger::folder_of;
use crate::session::{Report, Session};
use crate::ways::Ways;

/// What a demand costs in one package.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Cost {
    /// The demand.
    pub demand: &'static str,
    /// The package's folder, relative to the project, with `/` at its end; `./` for files at the top.
    pub package: String,
    /// Files in it.
    pub files: usize,
    /// Lines in them.
    pub lines: usize,
    /// Files that are held already.
    pub held: usize,
    /// Files that meet the demand and are not held yet.
    pub free: usize,
    /// Files of which nothing can be told: they cannot be read in whole, or a comment silences them.
    pub untold: usize,
    /// Files of which it asks nothing as they stand.
    pub idle: usize,
    /// Findings that stand against it and are not owed. What counts several things counts as many.
    pub findings: usize,
    /// In so many files.
    pub in_files: usize,
    /// So many of them have a fix that cannot change what the program does.
    pub safe: usize,
    /// Findings that are debts.
    pub owed: usize,
}

/// How a package stands to a demand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Standing {
    /// All files are held, and none owes anything.
    Held,
    /// All files are held, and some owe.
    Owing,
    /// All files that are not held could be.
    Free,
    /// Few findings stand against it: see [`Cost::is_cheap`].
    Cheap,
    /// Many do.
    Dear,
    /// Nothing is asked as the code stands.
    Idle,
    /// Nothing can be told.
    Untold,
}

/// So many findings are cheap, wherever they stand.
const FEW: usize = 5;

/// And so many for each thousand lines.
const FEW_PER_THOUSAND: usize = 5;

impl Cost {
    /// Whether what stands against it is done in an hour rather than in days: some five findings, or five for each thousand lines; those with
    /// safe fixes count for nothing.
    #[must_use]
    pub fn is_cheap(&self) -> bool {
        let by_hand = self.findings.saturating_sub(self.safe);
        by_hand <= FEW.max(self.lines * FEW_PER_THOUSAND / 1_000)
    }

    /// How the package stands.
    #[must_use]
    pub fn standing(&self) -> Standing {
        match () {
            () if self.untold == self.files => Standing::Untold,
            () if self.findings > 0 && self.is_cheap() => Standing::Cheap,
            () if self.findings > 0 => Standing::Dear,
            () if self.free > 0 => Standing::Free,
            () if self.held == 0 => Standing::Idle,
            () if self.owed > 0 => Standing::Owing,
            () => Standing::Held,
        }
    }

    fn add(&mut self, other: &Cost) {
        self.files += other.files;
        self.lines += other.lines;
        self.held += other.held;
        self.free += other.free;
        self.untold += other.untold;
        self.idle += other.idle;
        self.findings += other.findings;
        self.in_files += other.in_files;
        self.safe += other.safe;
        self.owed += other.owed;
    }
}

/// What each demand costs, by demand, then package.
#[must_use]
pub fn costs(session: &Session, report: &Report, demands: &[&'static Demand]) -> Vec<Cost> {
    let silent = Silent::of(session, report);
    let lines: HashMap<&str, usize> = report
        .files
        .iter()
        .zip(&report.checked)
        .map(|(file, checked)| (file.path(&session.db), checked.lines))
        .collect();
    let mut ways = Ways::new(&session.db, report.findings.iter().map(|found| &found.finding));
    let mut costs = Vec::new();
    for demand in demands {
        let mut packages: BTreeMap<&str, Cost> = BTreeMap::new();
        let idle = idle(session, report, demand.slug);
        for (path, findings) in standing(session, report, demand.slug).against {
            let folder = folder_of(path);
            let cost = packages.entry(folder).or_insert_with(|| Cost {
                demand: demand.slug,
                package: folder.to_owned(),
                ..Cost::default()
            });
            cost.files += 1;
            cost.lines += lines.get(path).copied().unwrap_or(0);
            let mut is_against = false;
            for (at, owed) in &findings {
                let finding = &report.findings[*at].finding;
                if *owed {
                    cost.owed += finding.weight;
                } else {
                    is_against = true;
                    cost.findings += finding.weight;
                    cost.safe += if is_safe(&mut ways, finding) { finding.weight } else { 0 };
                }
            }
            cost.in_files += usize::from(is_against);
            if session.ledger.held(path).any(|held| held == demand.slug) {
                cost.held += 1;
            } else if silent.untold.contains(path) {
                cost.untold += 1;
            } else if findings.is_empty() && !idle.contains(path) {
                cost.free += 1;
            } else if findings.is_empty() {
                cost.idle += 1;
            }
        }
        costs.extend(packages.into_values());
    }
    costs
}

/// Whether a finding has a way out that cannot change what the program does.
fn is_safe(ways: &mut Ways<'_>, finding: &Finding) -> bool {
    // Of most, the words tell already that they have none.
    let may_be = finding.remedies.iter().any(|remedy| {
        remedy.safe || matches!(remedy.act, Some(Act::Mark | Act::Uncomment | Act::Import | Act::Widen { .. }))
    });
    may_be && ways.of(finding).iter().any(|way| way.safe && (!way.edits.is_empty() || way.import.is_some()))
}

/// What each demand costs in each folder with all that lies in it, as commands take a folder.
#[must_use]
pub fn subtrees(costs: &[Cost]) -> Vec<Cost> {
    let mut all: BTreeMap<(&'static str, &str), Cost> = BTreeMap::new();
    for cost in costs {
        let ends = cost.package.match_indices('/').map(|(end, _)| &cost.package[..=end]);
        let ends = ends.filter(|folder| *folder != "./");
        for folder in std::iter::once("./").chain(ends) {
            let own = all.entry((cost.demand, folder)).or_insert_with(|| Cost {
                demand: cost.demand,
                package: folder.to_owned(),
                ..Cost::default()
            });
            own.add(cost);
        }
    }
    all.into_values().collect()
}

/// Costs with the packages that lie deepest, the smallest of them first, put together with those around them until there are no more than some
/// number of packages.
#[must_use]
pub fn grouped(costs: &[Cost], most: usize) -> Vec<Cost> {
    // The sizes of groups, and which group each package is of.
    let mut sizes: BTreeMap<String, usize> = BTreeMap::new();
    for cost in costs.iter().filter(|cost| costs.first().is_some_and(|first| first.demand == cost.demand)) {
        *sizes.entry(cost.package.clone()).or_default() += cost.lines;
    }
    let mut of: BTreeMap<&str, String> = costs.iter().map(|cost| (&*cost.package, cost.package.clone())).collect();
    let depth = |group: &str| group.matches('/').count();
    while sizes.len() > most {
        let deepest = sizes.keys().map(|group| depth(group)).max().unwrap_or(0);
        let at_depth = sizes.iter().filter(|(group, _)| depth(group) == deepest && deepest > 1);
        let Some(group) = at_depth.min_by_key(|(_, lines)| **lines).map(|(group, _)| group.clone()) else { break };
        let around = group[..group[..group.len() - 1].rfind('/').map_or(0, |end| end + 1)].to_owned();
        let lines = sizes.remove(&group).unwrap_or(0);
        *sizes.entry(around.clone()).or_default() += lines;
        of.values_mut().filter(|own| **own == group).for_each(|own| own.clone_from(&around));
    }
    let mut grouped: BTreeMap<(&'static str, &str), Cost> = BTreeMap::new();
    for cost in costs {
        let package = of[&*cost.package].as_str();
        let own = grouped.entry((cost.demand, package)).or_insert_with(|| Cost {
            demand: cost.demand,
            package: package.to_owned(),
            ..Cost::default()
        });
        own.add(cost);
    }
    grouped.into_values().collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn cost(package: &str, findings: usize, safe: usize) -> Cost {
        let package = package.to_owned();
        Cost { demand: "no-any", package, files: 2, lines: 100, findings, safe, ..Cost::default() }
    }

    #[test]
    fn packages_are_put_together_from_below() {
        let all = [cost("./", 1, 0), cost("a/", 1, 0), cost("a/b/", 2, 0), cost("a/b/c/", 3, 0), cost("d/e/", 4, 0)];
        let names = |most| -> Vec<(String, usize)> {
            grouped(&all, most).into_iter().map(|cost| (cost.package, cost.findings)).collect()
        };
        assert_eq!(names(9).len(), 5);
        let named = |pairs: &[(&str, usize)]| -> Vec<(String, usize)> {
            pairs.iter().map(|(name, count)| ((*name).to_owned(), *count)).collect()
        };
        assert_eq!(names(4), named(&[("./", 1), ("a/", 1), ("a/b/", 5), ("d/e/", 4)]));
        assert_eq!(names(3), named(&[("./", 1), ("a/", 6), ("d/", 4)]));
        assert_eq!(names(2).len(), 3);
    }

    #[test]
    fn a_folder_costs_what_all_in_it_does() {
        let all = [cost("./", 1, 0), cost("a/", 2, 1), cost("a/b/", 4, 1)];
        let all: Vec<(String, usize, usize)> =
            subtrees(&all).into_iter().map(|cost| (cost.package, cost.findings, cost.files)).collect();
        assert_eq!(all, [("./".to_owned(), 7, 6), ("a/".to_owned(), 6, 4), ("a/b/".to_owned(), 4, 2)]);
    }

    #[test]
    fn what_is_fixed_safely_costs_nothing() {
        assert_eq!(cost("a/", 5, 0).standing(), Standing::Cheap);
        assert_eq!(cost("a/", 6, 0).standing(), Standing::Dear);
        assert_eq!(cost("a/", 60, 60).standing(), Standing::Cheap);
        assert_eq!(Cost { free: 1, ..cost("a/", 0, 0) }.standing(), Standing::Free);
        assert_eq!(Cost { idle: 2, ..cost("a/", 0, 0) }.standing(), Standing::Idle);
        assert_eq!(Cost { held: 2, ..cost("a/", 0, 0) }.standing(), Standing::Held);
        assert_eq!(Cost { held: 2, owed: 1, ..cost("a/", 0, 0) }.standing(), Standing::Owing);
        assert_eq!(Cost { untold: 2, ..cost("a/", 0, 0) }.standing(), Standing::Untold);
    }
}
