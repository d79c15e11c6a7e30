//! What calls pass.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::types::{Type, union};
use leitmotiv_engine::view::handled::{Parameter, Passed, Subject};

use super::super::evidence::{Evidence, Source, Strength, Why};
use super::super::known::Known;
use super::options;

/// What calls pass to a parameter.
#[derive(Debug, Clone, Default)]
pub(crate) struct Calls {
    /// Each type that is passed, where it is first.
    pub(crate) own: Vec<Evidence>,
    /// The same of tests.
    pub(crate) tests: Vec<Evidence>,
    /// How many calls of the package pass something that is not known.
    pub(crate) unknown: usize,
}

/// What calls pass to a parameter.
pub(crate) fn of(db: &Database, known: &Known, parameter: Parameter) -> Calls {
    let store = db.store();
    let mut calls = Calls::default();
    for (file, is_test, passed) in known.passed.get(&parameter).into_iter().flatten() {
        // What calls itself passes its own parameter on.
        if passed.from == Some(Subject::Parameter(parameter)) {
            continue;
        }
        for part in union::parts(store, &passed.ty) {
            if let Some(declared) = option(db, known, *file, passed).filter(|_| part.is_dynamic()) {
                if !calls.own.contains(&declared) {
                    calls.own.push(declared);
                }
                continue;
            }
            if part.is_dynamic() {
                calls.unknown += usize::from(!is_test);
                continue;
            }
            let list = if *is_test { &mut calls.tests } else { &mut calls.own };
            if *part == Type::Never || list.iter().any(|known| known.ty == *part) {
                continue;
            }
            list.push(Evidence {
                source: Source::Calls,
                ty: *part,
                strength: if *is_test { Strength::Weak } else { Strength::Medium },
                file: *file,
                range: passed.range,
                why: Why::Passed,
                passed_on: false,
            });
        }
    }
    calls
}

/// What is passed where that is kept under a name which an option declares.
fn option(db: &Database, known: &Known, file: File, passed: &Passed) -> Option<Evidence> {
    if !passed.ty.is_dynamic() {
        return None;
    }
    let name = options::read(&file.text(db)[usize::from(passed.range.start())..usize::from(passed.range.end())])?;
    let (ty, range) = *known.options(db, file).get(name)?;
    let (source, strength) = (Source::Calls, Strength::Medium);
    let why = Why::Said(format!("an option declares `{name}`, which is passed"));
    Some(Evidence { source, ty, strength, file, range, why, passed_on: false })
}
