//! A project opened: its files, its findings, and what settings, demands and ledger make of them.

use std::path::PathBuf;
use std::sync::Arc;

use leitmotiv_engine::check::{Checked, Finding, check};
use leitmotiv_engine::db::{Database, File};
use leitmotiv_engine::{demands, rules};
use leitmotiv_project::area::{Areas, PatternError};
use leitmotiv_project::settings::{Severity, nearest};
use leitmotiv_project::sources::SourcesError;
use leitmotiv_project::{Project, sources};
use thiserror::Error;

use crate::ledger::{Ledger, LedgerError};

/// Why a session cannot be opened or a check not begun.
#[derive(Debug, Error)]
pub enum SessionError {
    /// Files cannot be listed.
    #[error(transparent)]
    Sources(#[from] SourcesError),
    /// A pattern in an area is none.
    #[error("in `area`: {0}")]
    Pattern(#[from] PatternError),
    /// The ledger cannot be read.
    #[error(transparent)]
    Ledger(#[from] LedgerError),
    /// A rule that does not exist.
    #[error("there is no rule `{name}`{}", near(.nearest.as_deref()))]
    UnknownRule {
        /// As written.
        name: String,
        /// The nearest that exists.
        nearest: Option<String>,
    },
    /// A demand that does not exist.
    #[error("there is no demand `{name}`{}", near(.nearest.as_deref()))]
    UnknownDemand {
        /// As written.
        name: String,
        /// The nearest that exists.
        nearest: Option<String>,
    },
}

fn near(nearest: Option<&str>) -> String {
    nearest.map(|nearest| format!(" (is `{nearest}` meant?)")).unwrap_or_default()
}

/// A project opened.
pub struct Session {
    /// The engine's database.
    pub db: Database,
    areas: Areas,
    /// Holds and debts.
    pub ledger: Ledger,
}

/// What one check is to do beside what is configured.
#[derive(Debug, Clone, Default)]
pub struct Asked {
    /// Severities on top of the configuration.
    pub severity: Vec<(String, Severity)>,
    /// Demands to try.
    pub demands: Vec<String>,
}

/// A finding with what the project makes of it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Reported {
    /// The finding.
    pub finding: Finding,
    /// Its severity here.
    pub severity: Severity,
    /// Whether it is a debt.
    pub owed: bool,
    /// The demand that made it an error, if one did.
    pub demand: Option<&'static str>,
}

/// The result of a check.
#[derive(Debug, Default)]
pub struct Report {
    /// The files checked, in order.
    pub files: Vec<File>,
    /// What checking each file gave, in the same order.
    pub checked: Vec<Arc<Checked>>,
    /// The findings at or above `note`, by path, position and rule.
    pub findings: Vec<Reported>,
    /// Lines checked.
    pub lines: usize,
    /// Whether the check of some file failed.
    pub fault: bool,
}

impl Session {
    /// Opens a session on a project.
    ///
    /// # Errors
    /// [`SessionError`] where the configuration names what does not exist, or the ledger cannot be read.
    pub fn open(project: Project) -> Result<Session, SessionError> {
        let settings = &project.settings;
        for (rule, _) in settings.severity.iter().chain(settings.areas.iter().flat_map(|area| &area.severity)) {
            known_rule(rule)?;
        }
        let in_areas = settings.areas.iter().filter_map(|area| area.demands.as_ref()).flatten();
        for demand in settings.demands.iter().chain(in_areas) {
            known_demand(demand)?;
        }
        let areas = Areas::new(settings)?;
        let ledger = Ledger::read(&project.root)?;
        Ok(Session { db: Database::new(project), areas, ledger })
    }

    /// The project.
    #[must_use]
    pub fn project(&self) -> &Project {
        self.db.project()
    }

    /// The files below some paths, or the configured sources.
    ///
    /// # Errors
    /// [`SessionError::Sources`]
    pub fn files(&self, paths: &[PathBuf]) -> Result<Vec<File>, SessionError> {
        Ok(sources::list(self.project(), paths)?.iter().map(|path| self.db.source(path)).collect())
    }

    /// Checks the files below some paths.
    ///
    /// # Errors
    /// [`SessionError`] for paths, rules or demands that do not exist.
    pub fn check(&self, paths: &[PathBuf], asked: &Asked) -> Result<Report, SessionError> {
        for (rule, _) in &asked.severity {
            known_rule(rule)?;
        }
        for demand in &asked.demands {
            known_demand(demand)?;
        }
        let files = self.files(paths)?;
        let checked = check(&self.db, &files);
        let mut report = Report { fault: checked.iter().any(|checked| checked.fault), ..Report::default() };
        for (file, checked) in files.iter().zip(&checked) {
            report.lines += checked.lines;
            let path = file.path(&self.db);
            let local = self.areas.local(path);
            let mut debts = self.ledger.debts_of(path);
            let held = self.ledger.held(path);
            for finding in &checked.findings {
                let set = asked.severity.iter().rev().find(|(pattern, _)| fits(pattern, finding.rule));
                let mut severity = match set {
                    Some((_, severity)) => *severity,
                    None => local.severity(finding.rule).unwrap_or(finding.severity),
                };
                let mut by_demand = None;
                for name in local.demands.iter().chain(&asked.demands).map(String::as_str).chain(held.iter().copied()) {
                    if let Some(demand) = demands::by_slug(name)
                        && demand.rules.contains(&finding.rule)
                    {
                        severity = Severity::Error;
                        by_demand = Some(demand.slug);
                        break;
                    }
                }
                if severity == Severity::Off {
                    continue;
                }
                let owed = debts.take(finding.rule, &finding.symbol);
                report.findings.push(Reported { finding: finding.clone(), severity, owed, demand: by_demand });
            }
        }
        report.files = files;
        report.checked = checked;
        Ok(report)
    }
}

fn fits(pattern: &str, rule: &str) -> bool {
    pattern == rule
        || pattern == "*"
        || pattern.strip_suffix(".*").is_some_and(|family| rule.split('.').next() == Some(family))
}

/// Whether a rule or family exists.
///
/// # Errors
/// [`SessionError::UnknownRule`] with the nearest name.
pub fn known_rule(name: &str) -> Result<(), SessionError> {
    if rules::exists(name) {
        return Ok(());
    }
    let nearest = nearest(name, rules::ALL.iter().map(|rule| rule.slug)).map(str::to_owned);
    Err(SessionError::UnknownRule { name: name.to_owned(), nearest })
}

/// Whether a demand exists.
///
/// # Errors
/// [`SessionError::UnknownDemand`] with the nearest name.
pub fn known_demand(name: &str) -> Result<(), SessionError> {
    if demands::by_slug(name).is_some() {
        return Ok(());
    }
    let nearest = nearest(name, demands::ALL.iter().map(|demand| demand.slug)).map(str::to_owned);
    Err(SessionError::UnknownDemand { name: name.to_owned(), nearest })
}

impl Report {
    /// How many findings there are of a severity that are not owed.
    #[must_use]
    pub fn count(&self, severity: Severity) -> usize {
        self.findings.iter().filter(|reported| !reported.owed && reported.severity == severity).count()
    }

    /// How many findings are owed.
    #[must_use]
    pub fn owed(&self) -> usize {
        self.findings.iter().filter(|reported| reported.owed).count()
    }
}
