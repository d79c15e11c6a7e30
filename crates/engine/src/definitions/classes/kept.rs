//! Decorators that give a class back as it is.

use leitmotiv_index::tree::{Expr, ExprId, FunctionId};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::types::Type;

/// Whether a decorator gives back the class that it is given: it is annotated so (`type[T] -> type[T]`, `T -> T`), or each of its
/// results is its parameter. What it may do to the class besides cannot be seen, and is not asked.
pub(super) fn gives_back(db: &dyn Db, file: File, decorator: ExprId) -> bool {
    let index = module_index(db, file);
    let body = index.functions_around.of(index.spans[decorator].start()).next();
    let body = body.map_or(leitmotiv_index::tree::BodyId(0), |function| index.functions[function].body);
    let mut infer = Infer::new(db, file, body);
    let (head, is_called) = match index.exprs[decorator] {
        Expr::Call { callee, .. } => (callee, true),
        _ => (decorator, false),
    };
    // What is not plainly a function is not followed.
    if !matches!(index.exprs[head], Expr::Name(..) | Expr::Attribute { .. }) {
        return false;
    }
    let Type::Function(id) = infer.quietly(head) else { return false };
    let function = *db.store().function(id);
    let overloads = &crate::outline::function(db, function.file, function.function).signatures;
    overloads.iter().all(|one| match is_called {
        false => gives_its_first(db, function.file, *one),
        true => {
            let declared = functions::declared(db, function.file, *one);
            matches!(declared.returns, Some(Type::Callable(inner)) if {
                let inner = db.store().signature(inner);
                inner.params.first().is_some_and(|param| is_same_class(db, param.ty, inner.returns))
            })
        }
    })
}

pub(crate) fn gives_its_first(db: &dyn Db, file: File, function: FunctionId) -> bool {
    saw(db, file, Ask::GivesItsFirst(function));
    gives_its_first_query(db, file, function)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| false)]
fn gives_its_first_query(db: &dyn Db, file: File, function: FunctionId) -> bool {
    let _reading = reading(db, file);
    let declared = functions::declared(db, file, function);
    let Some(first) = declared.params.first() else { return false };
    match declared.returns {
        Some(returns) => is_same_class(db, first.ty, returns),
        None => {
            let index = module_index(db, file);
            let record = &index.functions[function];
            let body = &index.bodies[record.body];
            let is_first = |value: Option<ExprId>| {
                value.is_some_and(|value| matches!(index.exprs[value], Expr::Name(name, _) if name == first.name))
            };
            // One that writes to objects, in whatever function of its own, may change the class.
            let writes = index.patched.values().flatten().any(|patch| {
                let inner = index.bodies[patch.body].function;
                inner.is_some_and(|inner| record.range.contains_range(index.functions[inner].range))
            });
            !writes && !body.returns.is_empty() && body.returns.iter().all(|statement| is_first(statement.value))
        }
    }
}

/// Whether a parameter and a result are the same variable, or the same variable's class.
fn is_same_class(db: &dyn Db, takes: Type, gives: Type) -> bool {
    let is_open = match takes {
        Type::Var(_) => true,
        Type::SubclassOf(inner) => matches!(*db.store().single(inner), Type::Var(_)),
        _ => false,
    };
    is_open && takes == gives
}
