//! One order for the parts of a union that was inferred.
//!
//! Where definitions depend on each other in a circle, the order in which parts are found depends on which of them was asked
//! first, and so on threads and the order of files. What one file concludes for others therefore has its unions in the
//! order of the parts' names. Declared unions stay as they are written.

use std::cmp::Ordering;

use super::folded::folded;
use super::{ClassRef, FunctionRef, Instance, Literal, Tuple, Type};
use crate::base::db::Db;
use crate::outline::class_name;

/// A type with its unions in order, and folded where it holds itself ([`super::folded`]).
#[must_use]
pub fn canonical(db: &dyn Db, ty: Type) -> Type {
    let store = db.store();
    match ty {
        Type::Union(id) => {
            let mut parts: Vec<Type> = store.union_parts(id).iter().map(|part| canonical(db, *part)).collect();
            parts.sort_by(|left, right| compare(db, *left, *right));
            ordered(db, super::union::join(store, parts))
        }
        Type::Instance(id) => {
            let instance = store.instance(id);
            if instance.args.is_empty() {
                return ty;
            }
            let args: Box<[Type]> = instance.args.iter().map(|arg| canonical(db, *arg)).collect();
            ordered(db, Type::Instance(store.intern_instance(Instance { class: instance.class, args })))
        }
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            let all = |types: &[Type]| types.iter().map(|ty| canonical(db, *ty)).collect();
            let tuple = Tuple {
                prefix: all(&tuple.prefix),
                rest: tuple.rest.map(|rest| canonical(db, rest)),
                suffix: all(&tuple.suffix),
            };
            ordered(db, Type::Tuple(store.intern_tuple(tuple)))
        }
        ty => ty,
    }
}

/// Folded, and in order again where that changed anything.
fn ordered(db: &dyn Db, ty: Type) -> Type {
    let folded = folded(db.store(), ty);
    if folded == ty { ty } else { canonical(db, folded) }
}

/// Compares two parts: by kind, then by name and module, then by their own parts. What is alike in all that stays as it stood.
fn compare(db: &dyn Db, left: Type, right: Type) -> Ordering {
    let store = db.store();
    rank(left).cmp(&rank(right)).then_with(|| match (left, right) {
        (Type::Instance(left), Type::Instance(right)) | (Type::Class(left), Type::Class(right)) => {
            let (left, right) = (store.instance(left), store.instance(right));
            by_class(db, left.class, right.class).then_with(|| each(db, &left.args, &right.args))
        }
        (Type::Tuple(left), Type::Tuple(right)) => {
            let (left, right) = (store.tuple(left), store.tuple(right));
            each(db, &left.prefix, &right.prefix).then_with(|| match (left.rest, right.rest) {
                (Some(left), Some(right)) => compare(db, left, right),
                (left, right) => left.is_some().cmp(&right.is_some()),
            })
        }
        (Type::Literal(left), Type::Literal(right)) => match (store.literal(left), store.literal(right)) {
            (Literal::Int(left), Literal::Int(right)) => left.cmp(right),
            (Literal::Str(left), Literal::Str(right)) | (Literal::Bytes(left), Literal::Bytes(right)) => {
                db.names().text(*left).cmp(db.names().text(*right))
            }
            (Literal::Enum(one, left), Literal::Enum(other, right)) => {
                by_class(db, *one, *other).then_with(|| db.names().text(*left).cmp(db.names().text(*right)))
            }
            (left, right) => kind_of(left).cmp(&kind_of(right)),
        },
        (Type::SubclassOf(left), Type::SubclassOf(right)) => compare(db, *store.single(left), *store.single(right)),
        (Type::Function(left), Type::Function(right)) => {
            let (left, right) = (store.function(left), store.function(right));
            let key = |of: &FunctionRef| {
                let name = crate::outline::function(db, of.file, of.function).name;
                (of.file.path(db), db.names().text(name), of.function)
            };
            key(left).cmp(&key(right))
        }
        (Type::Method(left), Type::Method(right)) => {
            let (left, right) = (store.method(left), store.method(right));
            compare(db, left.function, right.function).then_with(|| compare(db, left.receiver, right.receiver))
        }
        (Type::Callable(left), Type::Callable(right)) => {
            let (left, right) = (store.signature(left), store.signature(right));
            left.params.len().cmp(&right.params.len()).then_with(|| compare(db, left.returns, right.returns)).then_with(
                || {
                    let mut pairs = left.params.iter().zip(&right.params);
                    pairs
                        .find_map(|(left, right)| Some(compare(db, left.ty, right.ty)).filter(|order| order.is_ne()))
                        .unwrap_or(Ordering::Equal)
                },
            )
        }
        _ => Ordering::Equal,
    })
}

fn each(db: &dyn Db, left: &[Type], right: &[Type]) -> Ordering {
    let mut pairs = left.iter().zip(right).map(|(left, right)| compare(db, *left, *right));
    pairs.find(|order| order.is_ne()).unwrap_or_else(|| left.len().cmp(&right.len()))
}

fn by_class(db: &dyn Db, left: ClassRef, right: ClassRef) -> Ordering {
    let key = |class: ClassRef| (db.names().text(class_name(db, class)), class.file.path(db), class.class);
    key(left).cmp(&key(right))
}

/// Kinds in the order in which people write them: what is not known behind what is, None last. Only what is of one rank is
/// compared further, so that the order is total.
fn rank(ty: Type) -> u8 {
    match ty {
        Type::Instance(_) => 1,
        Type::Tuple(_) => 2,
        Type::Class(_) => 3,
        Type::SubclassOf(_) => 4,
        Type::Literal(_) => 5,
        Type::Function(_) => 6,
        Type::Method(_) => 7,
        Type::Callable(_) => 8,
        Type::Property(_) => 9,
        Type::Module(_) | Type::Namespace(_) | Type::Union(_) => 10,
        Type::Var(_) => 11,
        Type::Special(_) | Type::Form(_) | Type::Super(_) => 12,
        Type::Unknown(_) | Type::Any | Type::Never => 13,
        Type::None => 14,
    }
}

fn kind_of(literal: &Literal) -> u8 {
    match literal {
        Literal::Bool(false) => 0,
        Literal::Bool(true) => 1,
        Literal::Int(_) => 2,
        Literal::Str(_) => 3,
        Literal::Bytes(_) => 4,
        Literal::Enum(..) => 5,
    }
}
