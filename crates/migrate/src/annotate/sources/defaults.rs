//! What a parameter's default says.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::functions::enclosing_body;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{Tuple, Type};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::Expr;

use super::super::evidence::{Evidence, Source, Strength, Why};

/// What a default says; None says only that it may be left out.
pub(crate) fn of(db: &Database, parameter: Parameter) -> Option<Evidence> {
    let index = module_index(db, parameter.file);
    let param = &index.functions[parameter.function].params[parameter.place as usize];
    let default = param.default?;
    let mut infer = Infer::new(db, parameter.file, enclosing_body(db, parameter.file, parameter.function));
    let ty = infer.expr(default);
    let ty = infer.widen(ty);
    if ty.is_dynamic() {
        return None;
    }
    let strength = match &index.exprs[default] {
        Expr::Bool(_) | Expr::Str(_) | Expr::Bytes(_) | Expr::Float => Strength::Strong,
        Expr::Int(_) | Expr::None => Strength::Medium,
        // An empty display stands for any number of things: what they are, it does not say.
        Expr::Tuple(parts) | Expr::List(parts) | Expr::Set(parts) if parts.is_empty() => return None,
        Expr::Dict(items) if items.is_empty() => return None,
        // A tuple may be meant as any sequence, a call as anything that its class derives from.
        Expr::Name(..) if matches!(ty, Type::Instance(_)) => Strength::Medium,
        _ => Strength::Weak,
    };
    // Of an object that stands for "not given" nothing else is of the class.
    if is_marker(db, ty) {
        return None;
    }
    let range = index.spans[default];
    Some(Evidence {
        source: Source::Defaults,
        ty,
        strength,
        file: parameter.file,
        range,
        why: Why::Default,
        passed_on: false,
    })
}

/// The type of a default that is an empty tuple.
pub(crate) fn empty_tuple(db: &Database, parameter: Parameter) -> Option<Type> {
    let index = module_index(db, parameter.file);
    let default = index.functions[parameter.function].params[parameter.place as usize].default?;
    let is_empty = matches!(&index.exprs[default], Expr::Tuple(parts) if parts.is_empty());
    is_empty.then(|| Type::Tuple(db.store().intern_tuple(Tuple { prefix: [].into(), rest: None, suffix: [].into() })))
}

/// Whether a type is that of plain objects, which only stand for that nothing was given.
fn is_marker(db: &Database, ty: Type) -> bool {
    matches!(ty, Type::Instance(id) if classes::shown(db, db.store().instance(id).class) == "object")
}
