//! Where a project stands, as numbers: what the page shows, and programs read.

use std::collections::BTreeMap;

use leitmotiv_engine::demands;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_migrate::causes::causes;
use leitmotiv_migrate::history::{CheckedAt, LedgerAt};
use leitmotiv_migrate::session::{Report, Session};
use leitmotiv_migrate::survey::parts::{By, parts};
use leitmotiv_migrate::survey::{Survey, plan};
use leitmotiv_migrate::tighten::cost::Cost;
use leitmotiv_migrate::tighten::steps::{Step, steps};
use leitmotiv_project::settings::Severity;
use serde::Serialize;

use crate::nearest::proposed;

/// Where a project stands.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Overview {
    /// The schema of this form.
    pub schema: &'static str,
    /// The project's name: that of its folder.
    pub name: String,
    /// Lines.
    pub lines: usize,
    /// Modules.
    pub modules: usize,
    /// Parameters and results that can be annotated.
    pub slots: usize,
    /// Those that are.
    pub annotated: usize,
    /// Expressions.
    pub expressions: usize,
    /// Those whose type is known, and is not `Any`.
    pub known: usize,
    /// Findings that are not owed, by severity.
    pub errors: usize,
    /// Warnings.
    pub warnings: usize,
    /// Notes.
    pub notes: usize,
    /// Findings that are owed.
    pub owed: usize,
    /// Promises of the ledger: a file and a demand each.
    pub promises: usize,
    /// Its debts.
    pub debts: usize,
    /// Packages, by name.
    pub packages: Vec<Package>,
    /// The demands there are, in the order of the columns.
    pub demands: Vec<&'static str>,
    /// What each demand costs in each package.
    pub costs: Vec<Cost>,
    /// What the ledger held, oldest first.
    pub ledger: Vec<LedgerAt>,
    /// Earlier revisions as a check finds them, oldest first, where that was asked for.
    pub history: Vec<CheckedAt>,
    /// What explains most findings and unknown values.
    pub causes: Vec<Cause>,
    /// Modules to annotate first.
    pub begin: Vec<plan::Step>,
    /// What is nearest of the demands: words, and the commands for it.
    pub nearest: Vec<(String, Vec<String>)>,
    /// Layers of modules, lowest first, with their circles.
    pub layers: Vec<Vec<Vec<String>>>,
}

/// A folder of modules.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Package {
    /// The folder, with `/` at its end.
    pub name: String,
    /// Lines.
    pub lines: usize,
    /// Parameters and results that can be annotated.
    pub slots: usize,
    /// Those that are.
    pub annotated: usize,
    /// Expressions.
    pub expressions: usize,
    /// Those whose type is known, and is not `Any`.
    pub known: usize,
    /// Findings at or above a warning.
    pub findings: usize,
}

/// What explains findings and unknown values.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Cause {
    /// A place as `path:line`, or a package.
    pub place: String,
    /// What happens there.
    pub text: String,
    /// How many findings it explains.
    pub findings: usize,
    /// How many expressions are unknown by it.
    pub unknown: usize,
    /// What would settle it, in a few words.
    pub change: String,
}

/// So many causes are shown.
const MOST_CAUSES: usize = 10;

/// So many steps.
const MOST_STEPS: usize = 3;

impl Overview {
    /// Where a project stands by a check without further demands, a survey with its steps, and what demands cost.
    #[must_use]
    pub fn new(
        session: &Session,
        report: &Report,
        survey: &Survey,
        costs: Vec<Cost>,
        (ledger, history): (Vec<LedgerAt>, Vec<CheckedAt>),
    ) -> Overview {
        let db = &session.db;
        let findings: Vec<&Finding> = report.findings.iter().map(|reported| &reported.finding).collect();
        let checked: Vec<_> = report.files.iter().copied().zip(report.checked.iter().cloned()).collect();
        let causes = causes(db, &findings, &checked).into_iter().take(MOST_CAUSES).map(|cause| Cause {
            place: cause.key,
            text: cause.text,
            findings: cause.findings.len(),
            unknown: cause.unknown,
            change: cause.change,
        });
        let mut lines: BTreeMap<&str, usize> = BTreeMap::new();
        for (file, checked) in report.files.iter().zip(&report.checked) {
            *lines.entry(leitmotiv_migrate::ledger::folder_of(file.path(db))).or_default() += checked.lines;
        }
        let mut packages: Vec<Package> = parts(db, report, By::Package)
            .into_iter()
            .map(|part| Package {
                lines: lines.get(part.name.as_str()).copied().unwrap_or(0),
                name: part.name,
                slots: part.slots,
                annotated: part.annotated,
                expressions: part.expressions,
                known: part.known_expressions,
                findings: part.findings,
            })
            .collect();
        packages.sort_by(|one, other| one.name.cmp(&other.name));
        let nearest: Vec<Step> = steps(&costs, MOST_STEPS);
        let (promises, debts) = session.ledger.size();
        let name = session.project().root.file_name().map(|name| name.to_string_lossy().into_owned());
        Overview {
            schema: "leitmotiv.overview/1",
            name: name.unwrap_or_default(),
            lines: survey.lines,
            modules: survey.modules.len(),
            slots: survey.slots,
            annotated: survey.annotated,
            expressions: survey.expressions,
            known: survey.known_expressions,
            errors: report.count(Severity::Error),
            warnings: report.count(Severity::Warning),
            notes: report.count(Severity::Note),
            owed: report.owed(),
            promises,
            debts,
            packages,
            demands: demands::ALL.iter().map(|demand| demand.slug).collect(),
            costs,
            ledger,
            history,
            causes: causes.collect(),
            begin: survey.steps.clone(),
            nearest: nearest.iter().map(proposed).collect(),
            layers: survey.layers.clone(),
        }
    }
}
