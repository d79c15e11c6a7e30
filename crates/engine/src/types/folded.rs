//! Types that grow by themselves, as that of a list that is put into itself does: what is inside again is unknown.
//!
//! Where definitions go in circles, each round finds `list[Berth]`, `list[Berth | list[Berth]]` and so on, and how far that has gone when it
//! is ended depends on which of them was asked first. Folded, all of them are `list[Berth | unknown]`, whoever asks.

use super::store::Store;
use super::union::{join, parts};
use super::{CauseKind, Instance, Tuple, Type, deeper_than, holds};

/// A container in which one of its own kind is unknown that has nothing which it has not itself, where circles left something unknown in
/// it; and a union without those of its parts that have nothing which another one has not, where something is unknown in that.
#[must_use]
pub(crate) fn folded(store: &Store, ty: Type) -> Type {
    if let Type::Union(id) = ty {
        return without_parts_of_others(store, store.union_parts(id)).unwrap_or(ty);
    }
    match of_circle(store, ty) {
        Some(unknown) if deeper_than(store, ty, 1) => {
            within(store, ty, &|inner| is_covered(store, inner, ty).then_some(unknown))
        }
        _ => ty,
    }
}

/// `None` where nothing goes.
fn without_parts_of_others(store: &Store, parts: &[Type]) -> Option<Type> {
    let is_open = |ty: Type| !ty.is_unknown() && holds(store, ty, &Type::is_unknown);
    let open: Vec<(usize, Type)> = parts.iter().copied().enumerate().filter(|(_, part)| is_open(*part)).collect();
    if open.is_empty() {
        return None;
    }
    let is_in_other = |(place, part): &(usize, Type)| {
        open.iter().any(|(other, outer)| {
            // Of two that say the same the first stays.
            let stays = || place < other && is_open(*part) && says_no_more(store, *outer, *part);
            other != place && says_no_more(store, *part, *outer) && !stays()
        })
    };
    let left: Vec<Type> =
        parts.iter().copied().enumerate().filter(|part| !is_in_other(part)).map(|(_, part)| part).collect();
    (left.len() < parts.len()).then(|| join(store, left))
}

/// A type in which what it was in the round before is unknown, where containers hold that of their own kind now; `None` where none does.
#[must_use]
pub(crate) fn without_itself(store: &Store, now: Type, before: Type, unknown: Type) -> Option<Type> {
    let before = parts(store, &before);
    let cut = |outer: Type| {
        within(store, outer, &|inner| {
            let was_it = || before.iter().any(|before| is_covered(store, inner, *before));
            (is_alike(store, inner, outer) && was_it()).then_some(unknown)
        })
    };
    let cut = join(store, parts(store, &now).iter().map(|part| cut(*part)));
    (cut != now).then_some(cut)
}

/// Both what a type was in the round before and what it is now, without what has only become more since.
#[must_use]
pub(crate) fn grown(store: &Store, before: Type, now: Type) -> Type {
    let has_become_more = |part: Type| parts(store, &now).iter().any(|now| says_no_more(store, part, *now));
    let stays = parts(store, &before).iter().copied().filter(|part| !has_become_more(*part));
    join(store, stays.chain([now]))
}

/// Whether both are containers of one kind.
fn is_alike(store: &Store, one: Type, other: Type) -> bool {
    match (one, other) {
        (Type::Instance(one), Type::Instance(other)) => {
            let (one, other) = (store.instance(one), store.instance(other));
            one.class == other.class && !one.args.is_empty()
        }
        (Type::Tuple(_), Type::Tuple(_)) => true,
        _ => false,
    }
}

fn is_of_circle(store: &Store, ty: Type) -> bool {
    matches!(ty, Type::Unknown(cause) if store.cause(cause).kind == CauseKind::Cycle)
}

/// The unknown that a circle left in a type.
fn of_circle(store: &Store, ty: Type) -> Option<Type> {
    let inside = |types: &[Type]| types.iter().find_map(|ty| of_circle(store, *ty));
    match ty {
        Type::Unknown(_) => is_of_circle(store, ty).then_some(ty),
        Type::Union(id) => inside(store.union_parts(id)),
        Type::Instance(id) => inside(&store.instance(id).args),
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            inside(&tuple.prefix).or_else(|| inside(tuple.rest.as_slice())).or_else(|| inside(&tuple.suffix))
        }
        _ => None,
    }
}

/// Whether a container is of the kind of another one, which has all that it has, but for what circles left unknown.
fn is_covered(store: &Store, inner: Type, outer: Type) -> bool {
    Cover { store, whole: outer, skips_unknown: true }.covers(inner, outer)
}

/// The same; what is unknown in it must be so in the other one too.
fn says_no_more(store: &Store, inner: Type, outer: Type) -> bool {
    Cover { store, whole: outer, skips_unknown: false }.covers(inner, outer)
}

/// Looks whether a container has all that another one has.
struct Cover<'a> {
    store: &'a Store,
    /// What an unknown that a circle left stands for.
    whole: Type,
    /// Whether such an unknown need not be in the other one.
    skips_unknown: bool,
}

impl Cover<'_> {
    fn covers(&self, inner: Type, outer: Type) -> bool {
        let store = self.store;
        let each = |inner: &[Type], outer: &[Type]| {
            let mut pairs = inner.iter().zip(outer);
            inner.len() == outer.len() && pairs.all(|(inner, outer)| self.has_all(*inner, *outer))
        };
        match (inner, outer) {
            (Type::Instance(inner), Type::Instance(outer)) => {
                let (inner, outer) = (store.instance(inner), store.instance(outer));
                inner.class == outer.class && each(&inner.args, &outer.args)
            }
            (Type::Tuple(inner), Type::Tuple(outer)) => {
                let (inner, outer) = (store.tuple(inner), store.tuple(outer));
                each(&inner.prefix, &outer.prefix)
                    && each(inner.rest.as_slice(), outer.rest.as_slice())
                    && each(&inner.suffix, &outer.suffix)
            }
            _ => false,
        }
    }

    fn has_all(&self, inner: Type, outer: Type) -> bool {
        let store = self.store;
        let outer = parts(store, &outer);
        let goes_round = outer.iter().any(|part| is_of_circle(store, *part));
        parts(store, &inner).iter().all(|part| {
            *part == Type::Never
                || is_of_circle(store, *part) && (goes_round || self.skips_unknown)
                || outer.contains(part)
                || outer.iter().any(|outer| self.covers(*part, *outer))
                || goes_round && self.covers(*part, self.whole)
        })
    }
}

/// A type that is unknown from so many containers inside each other on.
#[must_use]
pub(crate) fn shallow(store: &Store, ty: Type, limit: u32, unknown: Type) -> Type {
    if !deeper_than(store, ty, limit) {
        return ty;
    }
    let cut = |part: Type| match part {
        Type::Instance(_) | Type::Tuple(_) if limit > 0 => {
            within(store, part, &|inner| Some(shallow(store, inner, limit - 1, unknown)))
        }
        part if deeper_than(store, part, limit) => unknown,
        part => part,
    };
    join(store, parts(store, &ty).to_vec().into_iter().map(cut))
}

/// A type with something else for what is inside it, wherever `replaced` gives something.
fn within(store: &Store, ty: Type, replaced: &dyn Fn(Type) -> Option<Type>) -> Type {
    let inside = |types: &[Type]| -> Box<[Type]> {
        let parts = |ty: Type| parts(store, &ty).to_vec();
        let one = |part: Type| replaced(part).unwrap_or_else(|| within(store, part, replaced));
        types.iter().map(|ty| join(store, parts(*ty).into_iter().map(one))).collect()
    };
    match ty {
        Type::Union(id) => {
            join(store, store.union_parts(id).to_vec().into_iter().map(|part| within(store, part, replaced)))
        }
        Type::Instance(id) => {
            let instance = store.instance(id);
            if instance.args.is_empty() {
                return ty;
            }
            Type::Instance(store.intern_instance(Instance { class: instance.class, args: inside(&instance.args) }))
        }
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            Type::Tuple(store.intern_tuple(Tuple {
                prefix: inside(&tuple.prefix),
                rest: tuple.rest.map(|rest| inside(&[rest])[0]),
                suffix: inside(&tuple.suffix),
            }))
        }
        ty => ty,
    }
}
