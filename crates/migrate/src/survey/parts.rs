//! The stock by packages, classes and functions.

use std::collections::BTreeMap;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::definitions::functions::qualified;
use leitmotiv_engine::outline::module_index;
use leitmotiv_project::settings::Severity;
use serde::Serialize;

use super::slots_of;
use crate::ledger::folder_of;
use crate::session::Report;

/// By what the stock is taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum By {
    /// Folders.
    Package,
    /// Classes, with the functions in them; functions outside of classes are left out.
    Class,
    /// Functions.
    Function,
}

/// The stock of a package, class or function.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize)]
pub struct Part {
    /// Its name: a folder, or a dotted name.
    pub name: String,
    /// Where it stands, as `path:line` with the line from 1; a folder as it is.
    pub place: String,
    /// Functions in it.
    pub functions: usize,
    /// Parameters and results that can be annotated.
    pub slots: usize,
    /// Those that are.
    pub annotated: usize,
    /// Expressions checked.
    pub expressions: usize,
    /// Those whose type is known, and is not `Any`.
    pub known_expressions: usize,
    /// Findings at or above a warning.
    pub findings: usize,
}

/// The stock by parts, those with most unknown expressions first.
#[must_use]
pub fn parts(db: &Database, report: &Report, by: By) -> Vec<Part> {
    let mut all: BTreeMap<String, Part> = BTreeMap::new();
    let mut found: BTreeMap<(String, String), usize> = BTreeMap::new();
    for reported in report.findings.iter().filter(|reported| reported.severity >= Severity::Warning) {
        let finding = &reported.finding;
        *found.entry((finding.file.path(db).to_owned(), finding.symbol.clone())).or_default() += 1;
    }
    for (file, checked) in report.files.iter().zip(&report.checked) {
        let index = module_index(db, *file);
        let path = file.path(db);
        for counted in &checked.bodies {
            let function = index.bodies[counted.body].function;
            let record = function.map(|function| &index.functions[function]);
            let class = record.and_then(|record| record.class).map(|class| &index.classes[class]);
            let symbol = qualified(db, *file, function);
            let line = |at| index.lines.0.index_of(at) + 1;
            let (name, place) = match (by, record, class) {
                (By::Package, ..) => (folder_of(path).to_owned(), folder_of(path).to_owned()),
                (By::Class, Some(_), Some(class)) => {
                    let name = symbol.rsplit_once('.').map_or(symbol.as_str(), |(class, _)| class).to_owned();
                    (name, format!("{path}:{}", line(class.name_range.start())))
                }
                (By::Function, Some(record), _) => {
                    (symbol.clone(), format!("{path}:{}", line(record.name_range.start())))
                }
                _ => continue,
            };
            let part = all.entry(format!("{name} {place}")).or_insert_with(|| Part { name, place, ..Part::default() });
            if let Some(function) = function {
                let (slots, annotated) = slots_of(db, *file, index, function);
                part.functions += 1;
                part.slots += slots;
                part.annotated += annotated;
            }
            part.expressions += counted.expressions;
            part.known_expressions += counted.expressions - counted.open;
            part.findings += found.remove(&(path.to_owned(), symbol)).unwrap_or(0);
        }
    }
    let mut all: Vec<Part> = all.into_values().collect();
    all.sort_by(|one, other| {
        let open = |part: &Part| part.expressions - part.known_expressions;
        open(other).cmp(&open(one)).then_with(|| one.name.cmp(&other.name)).then_with(|| one.place.cmp(&other.place))
    });
    all
}
