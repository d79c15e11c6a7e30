//! Where a function is called.

use leitmotiv_index::tree::{Expr, ExprId, FunctionId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::{Name, known};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::{class_name, module_index, reading};
use crate::resolve::everywhere::calls_by_name;
use crate::types::{ClassRef, Type};

/// How many calls of the name of a function are looked at: whoever counts has seen enough then.
const MOST_LOOKS: usize = 1000;

/// The calls of a function in the project's own files, of a class's `__init__` those that make objects of it, by the places of what is called.
#[must_use]
pub fn of(db: &dyn Db, file: File, function: FunctionId) -> Vec<(File, TextRange)> {
    let mut found = Vec::new();
    let mut looks = 0;
    for caller in calls_by_name(db, name_of(db, file, function)).iter().copied() {
        if looks > MOST_LOOKS {
            break;
        }
        let seen = seen_in(db, caller, file, function);
        looks += seen.looks;
        found.extend(seen.found.iter().map(|range| (caller, *range)));
    }
    found
}

/// How many there are, and in how many files.
#[must_use]
pub fn count(db: &dyn Db, file: File, function: FunctionId) -> (usize, usize) {
    let (mut calls, mut files, mut looks) = (0, 0, 0);
    for caller in calls_by_name(db, name_of(db, file, function)).iter().copied() {
        if looks > MOST_LOOKS {
            break;
        }
        let (own, found) = count_in(db, caller, file, function);
        looks += own;
        calls += found;
        files += usize::from(found > 0);
    }
    (calls, files)
}

/// The name that a function is called by, or the class that it makes objects of.
fn name_of(db: &dyn Db, file: File, function: FunctionId) -> Name {
    let outline = crate::outline::function(db, file, function);
    let class = outline.class.filter(|_| outline.name == known::INIT);
    class.map_or(outline.name, |class| class_name(db, ClassRef { file, class }))
}

/// The calls of a function in one file.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
struct Seen {
    /// How many calls of its name were looked at.
    looks: usize,
    /// Where those are called that are calls of it, in bytes.
    found: Box<[TextRange]>,
}

/// How many calls of the name of a function there are in a file, and how many of the function.
pub(crate) fn count_in(db: &dyn Db, caller: File, file: File, function: FunctionId) -> (usize, usize) {
    saw(db, caller, Ask::CallsOf(file, function));
    let seen = seen_in_query(db, caller, file, function);
    (seen.looks, seen.found.len())
}

fn seen_in(db: &dyn Db, caller: File, file: File, function: FunctionId) -> &Seen {
    saw(db, caller, Ask::Whole);
    seen_in_query(db, caller, file, function)
}

#[salsa::tracked(returns(ref))]
fn seen_in_query(db: &dyn Db, caller: File, file: File, function: FunctionId) -> Seen {
    let _reading = reading(db, caller);
    let outline = crate::outline::function(db, file, function);
    let of_class = outline.class.filter(|_| outline.name == known::INIT).map(|class| ClassRef { file, class });
    let name = name_of(db, file, function);
    let index = module_index(db, caller);
    let mut found = Vec::new();
    let mut looks = 0;
    for (body, record) in index.bodies.iter() {
        let mut infer = Infer::new(db, caller, body);
        for number in record.exprs.clone() {
            let Expr::Call { callee, .. } = index.exprs[ExprId(number)] else { continue };
            if !matches!(index.exprs[callee], Expr::Name(own, _) | Expr::Attribute { name: own, .. } if own == name) {
                continue;
            }
            looks += 1;
            if is_of(db, infer.quietly(callee), (file, function), of_class) {
                found.push(index.spans[callee]);
            }
        }
    }
    Seen { looks, found: found.into() }
}

fn is_of(db: &dyn Db, callee: Type, function: (File, FunctionId), class: Option<ClassRef>) -> bool {
    let store = db.store();
    match callee {
        Type::Function(id) => {
            let called = store.function(id);
            (called.file, called.function) == function
        }
        Type::Method(id) => is_of(db, store.method(id).function, function, class),
        Type::Class(id) => class == Some(store.instance(id).class),
        Type::Union(id) => store.union_parts(id).iter().any(|part| is_of(db, *part, function, class)),
        _ => false,
    }
}
