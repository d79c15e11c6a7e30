//! What the project's calls pass to a function.

use leitmotiv_index::tree::FunctionId;
use leitmotiv_syntax::names::known;

use super::handled::{self, Passed};
use crate::base::db::Db;
use crate::base::file::File;
use crate::outline::{class_name, module_index};
use crate::resolve::everywhere::calls_by_name;
use crate::types::ClassRef;

/// The calls of so many files are looked at: whoever asks has seen enough then.
const MOST_FILES: usize = 24;

/// What calls pass to the parameters of a function, with the files that they stand in, in the order of the files and their texts.
#[must_use]
pub fn to(db: &dyn Db, file: File, function: FunctionId) -> Vec<(File, Passed)> {
    let record = &module_index(db, file).functions[function];
    let class = record.class.filter(|_| matches!(record.name, known::INIT | known::NEW));
    let name = class.map_or(record.name, |class| class_name(db, ClassRef { file, class }));
    let mut found = Vec::new();
    for caller in calls_by_name(db, name).into_iter().take(MOST_FILES) {
        let all = handled::of(db, caller);
        let own = all.passed.iter().filter(|passed| passed.to.file == file && passed.to.function == function);
        found.extend(own.map(|passed| (caller, *passed)));
    }
    found
}
