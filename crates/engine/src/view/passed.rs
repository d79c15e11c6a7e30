//! What the project's calls pass to a function.

use leitmotiv_index::tree::{BodyId, Expr, ExprId, FunctionId};
use leitmotiv_syntax::names::{Name, known};

use super::handled::{self, Passed};
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::outline::{class_name, module_index, reading};
use crate::resolve::everywhere::calls_by_name;
use crate::types::ClassRef;

/// The calls of so many files are looked at: whoever asks has seen enough then. Said in docs/architecture.md.
const MOST_FILES: usize = 24;

/// What calls pass to the parameters of a function, with the files that they stand in, in the order of the files and their texts. Calls of
/// classes count as those of their `__init__` or `__new__`; decorators are calls, too.
#[must_use]
pub fn to(db: &dyn Db, file: File, function: FunctionId) -> Vec<(File, Passed)> {
    let record = &module_index(db, file).functions[function];
    let class = record.class.filter(|_| matches!(record.name, known::INIT | known::NEW));
    let name = class.map_or(record.name, |class| class_name(db, ClassRef { file, class }));
    let mut found = Vec::new();
    for caller in calls_by_name(db, name).iter().copied().take(MOST_FILES) {
        let first = found.len();
        for body in calling(db, caller, name) {
            let all = handled::in_body(db, caller, *body);
            let own = all.passed.iter().filter(|passed| passed.to.file == file && passed.to.function == function);
            found.extend(own.map(|passed| (caller, *passed)));
        }
        found[first..].sort_by_key(|(_, passed)| (passed.range.start(), passed.to.place));
    }
    found
}

/// The bodies of a file in which something of that name is called, or decorates.
fn calling(db: &dyn Db, file: File, name: Name) -> &[BodyId] {
    saw(db, file, Ask::Whole);
    calling_query(db, file, name)
}

#[salsa::tracked(returns(deref))]
fn calling_query(db: &dyn Db, file: File, name: Name) -> Box<[BodyId]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let is_named = |callee: ExprId| matches!(index.exprs[callee], Expr::Name(own, _) | Expr::Attribute { name: own, .. } if own == name);
    let calls = |number: u32| matches!(index.exprs[ExprId(number)], Expr::Call { callee, .. } if is_named(callee));
    let decorates = |body: BodyId| {
        let functions = index.functions.iter().filter(|(_, function)| index.defs[function.def].body == body);
        functions.flat_map(|(_, function)| &function.decorators).any(|decorator| is_named(*decorator))
    };
    let bodies = index.bodies.iter().filter(|(body, record)| record.exprs.clone().any(calls) || decorates(*body));
    bodies.map(|(body, _)| body).collect()
}
