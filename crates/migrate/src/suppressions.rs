//! All comments that hide findings, or are meant to: whether they still do, why, and since when.

use leitmotiv_engine::findings::suppress::{Form, Suppression};
use leitmotiv_engine::outline::module_index;
use rayon::prelude::*;
use serde::Serialize;

use crate::blame::blame;
use crate::session::{Report, Session};

/// A comment that hides findings, or is meant to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Listed {
    /// The file.
    pub path: String,
    /// Its line, from 1.
    pub line: usize,
    /// `own` for our form, `ignore` for that of PEP 484, `foreign` where it speaks to other tools.
    pub form: &'static str,
    /// Whether it speaks for the whole file.
    pub whole_file: bool,
    /// The rules or codes that it names.
    pub names: Vec<String>,
    /// Why, as it is written; empty where it does not say.
    pub reason: String,
    /// How many findings it hides.
    pub hides: usize,
    /// Who wrote the line, and when, as days since 1970; `None` where version control does not say.
    pub written: Option<(String, i64)>,
}

/// The suppressions of a report's files, by path and line.
#[must_use]
pub fn list(session: &Session, report: &Report) -> Vec<Listed> {
    let db = &session.db;
    let project = session.project();
    let of_files = report.files.iter().zip(&report.checked).filter(|(_, checked)| !checked.suppressions.is_empty());
    let of_files: Vec<(&str, Vec<usize>, &[Suppression])> = of_files
        .map(|(file, checked)| {
            let lines = &module_index(db, *file).lines.0;
            let own = checked.suppressions.iter().map(|one| lines.index_of(one.range.start()) + 1);
            (file.path(db), own.collect(), checked.suppressions.as_slice())
        })
        .collect();
    let listed = of_files.par_iter().map(|(path, lines, suppressions)| {
        let blamed = blame(project, path);
        let each = lines.iter().zip(*suppressions).map(|(line, suppression)| {
            let written = blamed.as_ref().and_then(|lines| lines.get(line - 1));
            Listed {
                path: (*path).to_owned(),
                line: *line,
                form: match suppression.form {
                    Form::Own => "own",
                    Form::Ignore => "ignore",
                    Form::Foreign => "foreign",
                },
                whole_file: suppression.whole_file,
                names: suppression.names.clone(),
                reason: suppression.reason.clone(),
                hides: suppression.hides,
                written: written.map(|line| (line.author.clone(), line.day)),
            }
        });
        each.collect::<Vec<Listed>>()
    });
    listed.flatten().collect()
}
