//! Where a function is called.

use leitmotiv_index::tree::{Expr, ExprId, FunctionId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;

use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::{class_name, module_index};
use crate::resolve::everywhere::calls_by_name;
use crate::types::{ClassRef, Type};

/// How many calls of the name of a function are looked at: whoever counts has seen enough then.
const MOST_LOOKS: usize = 1000;

/// The calls of a function in the project's own files, of a class's `__init__` those that make objects of it, by the places of what is called.
#[must_use]
pub fn of(db: &dyn Db, file: File, function: FunctionId) -> Vec<(File, TextRange)> {
    let record = &module_index(db, file).functions[function];
    let class = record.class.map(|class| ClassRef { file, class });
    let function = (file, function);
    let of_class = class.filter(|_| record.name == known::INIT);
    let name = of_class.map_or(record.name, |class| class_name(db, class));
    let mut found = Vec::new();
    let mut looks = 0;
    for file in calls_by_name(db, name).iter().copied() {
        let index = module_index(db, file);
        for (body, record) in index.bodies.iter() {
            let mut infer = Infer::new(db, file, body);
            for number in record.exprs.clone() {
                let Expr::Call { callee, .. } = index.exprs[ExprId(number)] else { continue };
                if !matches!(index.exprs[callee], Expr::Name(own, _) | Expr::Attribute { name: own, .. } if own == name)
                {
                    continue;
                }
                looks += 1;
                if looks > MOST_LOOKS {
                    return found;
                }
                if is_of(db, infer.quietly(callee), function, of_class) {
                    found.push((file, index.spans[callee]));
                }
            }
        }
    }
    found
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
