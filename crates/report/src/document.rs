//! What a check has found, with all that output needs resolved once: paths, lines and columns, causes, code. No form of output looks
//! anything up after that.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::source;
use leitmotiv_migrate::session::{Report, Reported};
use leitmotiv_migrate::ways::{Way, Ways};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::positions::Position;
use serde::{Deserialize, Serialize};

use crate::place;
use crate::stored::{Lasting, known, maybe_known};
use crate::told::told;

/// Findings, and what was checked.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Document {
    /// The findings that are shown, by path, position and rule.
    pub entries: Vec<Entry>,
    /// What was checked and found in all.
    pub summary: Summary,
}

/// Numbers of a check.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct Summary {
    /// Files checked.
    pub files: usize,
    /// Their lines.
    pub lines: usize,
    /// Errors that are not owed.
    pub errors: usize,
    /// The same of warnings.
    pub warnings: usize,
    /// The same of notes.
    pub notes: usize,
    /// Findings that are owed.
    pub owed: usize,
}

/// A stretch of a file.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Place {
    /// The file, as it is shown: relative to the project, with `/`.
    pub path: String,
    /// Where it begins: line and column from 1, columns in code points.
    #[serde(with = "crate::stored::PositionAs")]
    pub start: Position,
    /// Behind its end.
    #[serde(with = "crate::stored::PositionAs")]
    pub end: Position,
}

impl Place {
    /// `path:line`, as `leitmotiv explain` takes it.
    #[must_use]
    pub fn subject(&self) -> String {
        format!("{}:{}", self.path, self.start.line)
    }
}

/// One finding.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Entry {
    /// The rule's slug.
    #[serde(deserialize_with = "known")]
    pub rule: Lasting,
    /// Its severity here.
    pub severity: Severity,
    /// Whether it is a debt.
    pub owed: bool,
    /// The demand that made it an error, if one did.
    #[serde(deserialize_with = "maybe_known")]
    pub demand: Option<Lasting>,
    /// Where it stands.
    pub place: Place,
    /// What is wrong.
    pub message: String,
    /// The dotted name of the function, class or module around it.
    pub symbol: String,
    /// What tells it from others of its rule in that function: the code concerned, without its layout, in eight hexadecimal digits.
    pub fingerprint: String,
    /// The place at its root.
    pub cause: Cause,
    /// The way of the type, oldest first.
    pub steps: Vec<Step>,
    /// Ways out: first what settles most and costs least.
    pub ways: Vec<WayOut>,
    /// What happens when this code runs, in its own names; `None` where no more can be said than on the rule's page.
    pub at_run_time: Option<String>,
    /// The package at its root: one that is missing, or that says nothing of its types.
    pub package: Option<String>,
    /// The line of code that it begins in, and where in it, in code points from 0; of a long line, the part around it.
    pub code: (String, usize),
}

/// The place of the project at the root of a finding.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Cause {
    /// Where it is.
    pub place: Place,
    /// What happens there.
    pub text: String,
}

/// One way out of a finding.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct WayOut {
    /// Its name.
    #[serde(deserialize_with = "known")]
    pub id: Lasting,
    /// What to do.
    pub title: String,
    /// What it costs.
    pub price: String,
    /// Whether it cannot change what the program does.
    pub safe: bool,
    /// How many findings have the cause that it changes; 1 where it settles the finding alone.
    pub settles: usize,
    /// What would be written: what stands in the place becomes the text. Empty where that cannot be told.
    pub edits: Vec<(Place, String)>,
}

/// One place on a type's way.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Step {
    /// `declared`, `assigned`, `returned`, `imported`, `iterated`.
    #[serde(deserialize_with = "known")]
    pub kind: Lasting,
    /// Where it is.
    pub place: Place,
    /// A few words.
    pub text: String,
    /// The code there, on one line.
    pub code: String,
    /// Whether it tells what is asked for, and not how what is given came to be.
    pub asks: bool,
}

impl Document {
    /// A report as a document. Debts are in it where `with_owed` is set.
    #[must_use]
    pub fn new(db: &Database, report: &Report, with_owed: bool) -> Document {
        let all: Vec<&Reported> = report.findings.iter().collect();
        let told = told(db, &all, &|reported| reported.owed && !with_owed);
        Document::of(told, report.files.len(), report.lines, with_owed)
    }
}

impl Entry {
    /// A finding with all that is shown of it.
    #[must_use]
    pub fn new(db: &Database, reported: &Reported, ways: &mut Ways<'_>) -> Entry {
        Entry::with(db, reported, ways.of(&reported.finding))
    }

    pub(crate) fn with(db: &Database, reported: &Reported, ways: Vec<Way>) -> Entry {
        let finding = &reported.finding;
        let (file, range) = finding.cause(db);
        let (line, from, _) = place::line(db, finding.file, finding.range);
        Entry {
            rule: finding.rule,
            severity: reported.severity,
            owed: reported.owed,
            demand: reported.demand,
            place: at(db, finding.file, finding.range),
            message: finding.message.clone(),
            symbol: finding.symbol.clone(),
            fingerprint: finding.fingerprint.clone(),
            cause: Cause { place: at(db, file, range), text: finding.cause_text(db).to_owned() },
            steps: finding
                .evidence
                .iter()
                .map(|step| {
                    let code = source::line_of(db, step.file, step.range);
                    let code = if code.is_empty() { source::excerpt(db, step.file, step.range) } else { code };
                    let place = at(db, step.file, step.range);
                    Step { kind: step.kind, place, text: step.text.clone(), code, asks: step.asks }
                })
                .collect(),
            ways: ways.into_iter().map(|way| WayOut::new(db, way)).collect(),
            at_run_time: finding.at_run_time.clone(),
            package: finding.package.clone(),
            code: (line, from),
        }
    }
}

impl WayOut {
    fn new(db: &Database, way: Way) -> WayOut {
        let edits = way.written(db).unwrap_or_default();
        let shown = |(file, edit): (File, Edit)| (at(db, file, TextRange::new(edit.start, edit.end)), edit.text);
        WayOut {
            id: way.id,
            safe: way.safe,
            settles: way.settles,
            edits: edits.into_iter().map(shown).collect(),
            title: way.title,
            price: way.price,
        }
    }
}

pub(crate) fn at(db: &Database, file: File, range: TextRange) -> Place {
    let (start, end) = place::positions(db, file, range);
    Place { path: file.path(db).to_owned(), start, end }
}
