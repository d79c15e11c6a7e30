//! Findings as they are told: a rule, a place, words, evidence, ways out.

use leitmotiv_project::resolve::Origin;
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;

use crate::base::db::Db;
use crate::base::file::File;
use crate::findings::evidence::Evidence;
use crate::findings::fingerprint::fingerprint;
use crate::outline::module_index;
use crate::problems::{Problem, ProblemKind};
use crate::rules::{self, Remedy, Rule};

/// Something to tell.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Finding {
    /// The rule's slug.
    pub rule: &'static str,
    /// The rule's own severity; settings may say otherwise.
    pub severity: Severity,
    /// The file.
    pub file: File,
    /// Where in there, in bytes.
    pub range: TextRange,
    /// What is wrong here.
    pub message: String,
    /// The dotted name of the function, class or module around it.
    pub symbol: String,
    /// The way of the type, oldest first.
    pub evidence: Vec<Evidence>,
    /// Ways out.
    pub remedies: Vec<Remedy>,
    /// What happens when this code runs, in its own names; `None` where no more can be said than on the rule's page.
    pub at_run_time: Option<String>,
    /// What tells this finding from others of its rule: eight hexadecimal digits made of the code concerned, without its
    /// layout. It stays the same when lines move and names around it change.
    pub fingerprint: String,
    /// The package at its root: the part that is missing of an import that leads nowhere, or the package that says nothing of its types.
    pub package: Option<String>,
    /// How many things that are wrong are told in one: imports of one missing package, parts of a signature.
    pub weight: usize,
}

impl Finding {
    /// The place of the project at the root of the finding: the first of its evidence that is no library's, else its own.
    #[must_use]
    pub fn cause(&self, db: &dyn Db) -> (File, TextRange) {
        self.first_step(db).map_or((self.file, self.range), |first| (first.file, first.range))
    }

    /// What happens at that place, in words.
    #[must_use]
    pub fn cause_text(&self, db: &dyn Db) -> &str {
        self.first_step(db).map_or(self.message.as_str(), |first| first.text.as_str())
    }

    fn first_step(&self, db: &dyn Db) -> Option<&Evidence> {
        let is_ours = |step: &&Evidence| matches!(step.file.origin(db), Origin::Project | Origin::LocalStub);
        self.evidence.iter().find(is_ours)
    }
}

pub(crate) fn finding(
    db: &dyn Db,
    rule: &'static Rule,
    file: File,
    problem: &Problem,
    worded: rules::Worded,
    symbol: String,
) -> Finding {
    let (fingerprint, weight) = match &problem.kind {
        ProblemKind::AnnotationMissing { function, params, returns } => {
            // All parameters, so that it stays the same while they are annotated one by one.
            let index = module_index(db, file);
            let all: Vec<&str> =
                index.functions[*function].params.iter().map(|param| db.names().text(param.name)).collect();
            (fingerprint(&all.join(" ")), params.len() + usize::from(*returns))
        }
        // What it is unknown by, so that it stays the same whichever use comes first.
        ProblemKind::UnknownValue { cause, uses } => {
            let cause = db.store().cause(*cause);
            let at = || usize_range(crate::outline::places::range_of(db, cause.file, cause.at));
            let code = match db.names().text(cause.name) {
                "" => cause.file.text(db).get(at()).unwrap_or_default(),
                name => name,
            };
            (fingerprint(code), *uses)
        }
        // However often the method assigns it.
        ProblemKind::AttributeLate { name, .. } => (fingerprint(db.names().text(*name)), 1),
        _ => (fingerprint(file.text(db).get(usize_range(problem.range)).unwrap_or_default()), 1),
    };
    let mut remedies = worded.remedies;
    // What the standard library or an installed package gives is not for the project to change: ways out at its own end come first.
    if worded.evidence.first().is_some_and(|origin| !origin.file.origin(db).is_own()) {
        remedies.sort_by_key(|remedy| remedy.id == "default");
    }
    let package = match &problem.kind {
        ProblemKind::ImportUntyped { module } => db.names().text(*module).split('.').next().map(str::to_owned),
        _ => None,
    };
    Finding {
        fingerprint,
        package,
        weight,
        rule: rule.slug,
        severity: rule.severity,
        file,
        range: problem.range,
        message: worded.message,
        symbol,
        evidence: worded.evidence,
        remedies,
        at_run_time: worded.at_run_time,
    }
}

fn usize_range(range: TextRange) -> std::ops::Range<usize> {
    usize::from(range.start())..usize::from(range.end())
}

pub(crate) fn fault(file: File, message: String) -> Finding {
    Finding {
        rule: "engine.fault",
        severity: Severity::Error,
        file,
        range: TextRange::default(),
        message,
        symbol: String::new(),
        evidence: Vec::new(),
        remedies: Vec::new(),
        at_run_time: None,
        fingerprint: String::new(),
        package: None,
        weight: 1,
    }
}

pub(crate) fn sort(findings: &mut [Finding]) {
    findings.sort_by(|one, other| {
        (one.range.start(), one.range.end(), one.rule, &one.message).cmp(&(
            other.range.start(),
            other.range.end(),
            other.rule,
            &other.message,
        ))
    });
}
