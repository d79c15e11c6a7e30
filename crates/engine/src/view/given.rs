//! What functions give, way by way: each `return` and `yield` that is reached, and the end.

use leitmotiv_index::tree::{Expr, ExprId, FunctionId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::types::Type;
use crate::types::union::parts;

/// How something is given.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum How {
    /// By `return`.
    Returned,
    /// By `yield`, or one by one by `yield from`.
    Yielded,
    /// By the end of the function: None.
    Ends,
}

/// One way in which a function gives something.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Given {
    /// How.
    pub how: How,
    /// What is given; where that is not known, what the expression's form says.
    pub ty: Type,
    /// Where, in bytes; of the end, the function's name.
    pub range: TextRange,
}

/// Each way in which a function gives something, `return`s first, in the order of the text.
pub fn of(db: &dyn Db, file: File, function: FunctionId) -> &Vec<Given> {
    saw(db, file, Ask::Whole);
    of_query(db, file, function)
}

#[salsa::tracked(returns(ref))]
fn of_query(db: &dyn Db, file: File, function: FunctionId) -> Vec<Given> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.functions[function];
    let mut infer = Infer::new(db, file, record.body);
    let body = &index.bodies[record.body];
    let mut found = Vec::new();
    let mut add = |infer: &Infer<'_>, how, ty, range| found.push(Given { how, ty: infer.widen(ty), range });
    for statement in &body.returns {
        if infer.reachable(statement.reach) {
            let ty = statement.value.map_or(Type::None, |value| told(&mut infer, value));
            add(&infer, How::Returned, ty, statement.range);
        }
    }
    for expr in &body.yields {
        let ty = match index.exprs[*expr] {
            Expr::Yield(value) => value.map_or(Type::None, |value| infer.expr(value)),
            Expr::YieldFrom(value) => {
                let ty = infer.expr(value);
                infer.element(ty, false).unwrap_or(Type::Any)
            }
            _ => continue,
        };
        add(&infer, How::Yielded, ty, index.spans[*expr]);
    }
    if infer.reachable(body.end) && body.yields.is_empty() {
        add(&infer, How::Ends, Type::None, record.name_range);
    }
    found
}

/// The type of an expression; where that is not known, what its form says: a comparison gives a bool, as a rule.
fn told(infer: &mut Infer<'_>, expr: ExprId) -> Type {
    let ty = infer.expr(expr);
    if !parts(infer.db.store(), &ty).iter().any(|part| part.is_dynamic()) {
        return ty;
    }
    let index = infer.index;
    match &index.exprs[expr] {
        Expr::Compare { .. } => infer.builtin(known::BOOL_CLASS),
        Expr::BoolOp { operands, .. } => {
            let parts: Vec<Type> = operands.iter().map(|operand| told(infer, *operand)).collect();
            infer.join(parts)
        }
        Expr::Conditional { then, otherwise, .. } => {
            let parts: Vec<Type> = [*then, *otherwise].map(|part| told(infer, part)).into();
            infer.join(parts)
        }
        _ => ty,
    }
}
