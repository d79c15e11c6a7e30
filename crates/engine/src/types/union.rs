//! Joining types, and taking unions apart.

use rustc_hash::FxHashSet;
use smallvec::SmallVec;

use super::Type;
use super::store::Store;

/// Unions of more parts than this (literals apart) are given up: as their unknown part if they have one, else as `Any`.
const WIDEST: usize = 24;

/// The same for literals: closed sets may be long.
const MOST_LITERALS: usize = 6_000;

/// Builds a union.
#[derive(Default)]
pub struct Union {
    parts: SmallVec<[Type; 4]>,
    has_unknown: bool,
    /// All parts once more, as soon as they are so many that looking through them would take long.
    known: Option<FxHashSet<Type>>,
}

/// From how many parts on a union is looked into by hash.
const MANY: usize = 16;

impl Union {
    /// An empty union, `Never`.
    #[must_use]
    pub fn new() -> Union {
        Union::default()
    }

    /// Adds a type, or the parts of a union.
    pub fn add(&mut self, store: &Store, ty: Type) {
        match ty {
            Type::Never => {}
            Type::Union(id) => store.union_parts(id).iter().for_each(|part| self.add(store, *part)),
            Type::Unknown(_) if self.has_unknown => {}
            ty => {
                let is_known = match &mut self.known {
                    Some(known) => !known.insert(ty),
                    None => self.parts.contains(&ty),
                };
                if !is_known {
                    self.has_unknown |= ty.is_unknown();
                    self.parts.push(ty);
                    if self.known.is_none() && self.parts.len() > MANY {
                        self.known = Some(self.parts.iter().copied().collect());
                    }
                }
            }
        }
    }

    /// The union's type.
    #[must_use]
    pub fn build(self, store: &Store) -> Type {
        match self.parts.as_slice() {
            [] => Type::Never,
            [only] => *only,
            parts => {
                if parts.contains(&Type::Any) {
                    return Type::Any;
                }
                let literals = parts.iter().filter(|part| matches!(part, Type::Literal(_))).count();
                if parts.len() - literals > WIDEST || literals > MOST_LITERALS {
                    // A cut-off, told in docs/architecture.md.
                    return parts.iter().copied().find(|part| part.is_unknown()).unwrap_or(Type::Any);
                }
                Type::Union(store.intern_union(self.parts.into_boxed_slice()))
            }
        }
    }
}

/// Why a type is unknown, or a part of it.
#[must_use]
pub fn cause_in(store: &Store, ty: Type) -> Option<super::CauseId> {
    match ty {
        Type::Unknown(cause) => Some(cause),
        Type::Union(id) => store.union_parts(id).iter().find_map(|part| match part {
            Type::Unknown(cause) => Some(*cause),
            _ => None,
        }),
        _ => None,
    }
}

/// The union of some types, in their order.
#[must_use]
pub fn join(store: &Store, types: impl IntoIterator<Item = Type>) -> Type {
    let mut types = types.into_iter().filter(|ty| *ty != Type::Never);
    let Some(first) = types.next() else { return Type::Never };
    // Often all are the same, and a long union is not built again for that.
    let Some(other) = types.find(|ty| *ty != first) else { return first };
    let mut union = Union::new();
    union.add(store, first);
    union.add(store, other);
    for ty in types {
        union.add(store, ty);
    }
    union.build(store)
}

/// The parts of a type: those of a union, or itself; none of `Never`.
#[must_use]
pub fn parts<'a>(store: &'a Store, ty: &'a Type) -> &'a [Type] {
    match ty {
        Type::Never => &[],
        Type::Union(id) => store.union_parts(*id),
        ty => std::slice::from_ref(ty),
    }
}

/// The type without the parts for which `keep` is false.
#[must_use]
pub fn filter(store: &Store, ty: Type, mut keep: impl FnMut(Type) -> bool) -> Type {
    match ty {
        Type::Union(id) => {
            let all = store.union_parts(id);
            let Some(first) = all.iter().position(|part| !keep(*part)) else { return ty };
            let mut kept = Vec::with_capacity(all.len() - 1);
            kept.extend_from_slice(&all[..first]);
            kept.extend(all[first + 1..].iter().copied().filter(|part| keep(*part)));
            // What is left of a union holds nothing twice either.
            match kept.as_slice() {
                [] => Type::Never,
                [only] => *only,
                _ => Type::Union(store.intern_union(kept.into_boxed_slice())),
            }
        }
        ty if keep(ty) => ty,
        _ => Type::Never,
    }
}

/// The type without one of its parts.
#[must_use]
pub fn without(store: &Store, ty: Type, taken: Type) -> Type {
    let all = parts(store, &ty);
    match (all.iter().position(|part| *part == taken), all) {
        (None, _) => ty,
        (Some(_), [_]) => Type::Never,
        (Some(place), [first, second]) => [*second, *first][place],
        (Some(place), _) => {
            let kept = [&all[..place], &all[place + 1..]].concat();
            Type::Union(store.intern_union(kept.into_boxed_slice()))
        }
    }
}

/// Replaces each part of a type.
#[must_use]
pub fn map(store: &Store, ty: Type, mut change: impl FnMut(Type) -> Type) -> Type {
    match ty {
        Type::Union(id) => {
            let all = store.union_parts(id);
            // Mostly nothing changes, and a long union is not built again for that.
            let changed = all.iter().enumerate().find_map(|(place, part)| {
                let new = change(*part);
                (new != *part).then_some((place, new))
            });
            match changed {
                None => ty,
                Some((place, new)) => {
                    let before = all[..place].iter().copied();
                    join(
                        store,
                        before.chain(std::iter::once(new)).chain(all[place + 1..].iter().map(|part| change(*part))),
                    )
                }
            }
        }
        ty => change(ty),
    }
}

/// Whether `None` is among the parts, beside others.
#[must_use]
pub fn may_be_none(store: &Store, ty: Type) -> bool {
    matches!(ty, Type::Union(id) if store.union_parts(id).contains(&Type::None))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::types::Literal;

    fn number(store: &Store, value: i64) -> Type {
        Type::Literal(store.intern_literal(Literal::Int(value)))
    }

    #[test]
    fn a_union_is_flat_and_holds_nothing_twice() {
        let store = Store::new();
        let (one, two, three) = (number(&store, 1), number(&store, 2), number(&store, 3));
        let inner = join(&store, [two, one]);
        let whole = join(&store, [one, inner, Type::Never, three, two]);
        assert_eq!(parts(&store, &whole), [one, two, three]);
        assert_eq!(join(&store, [one, one]), one);
        assert_eq!(join(&store, []), Type::Never);
    }

    #[test]
    fn any_takes_all() {
        let store = Store::new();
        assert_eq!(join(&store, [number(&store, 1), Type::Any, Type::None]), Type::Any);
    }

    #[test]
    fn parts_are_filtered_and_mapped() {
        let store = Store::new();
        let (one, two) = (number(&store, 1), number(&store, 2));
        let whole = join(&store, [one, Type::None, two]);
        assert!(may_be_none(&store, whole));
        assert!(!may_be_none(&store, Type::None));
        assert_eq!(filter(&store, whole, |part| part == Type::None), Type::None);
        assert_eq!(filter(&store, one, |_| false), Type::Never);
        assert_eq!(without(&store, whole, Type::None), join(&store, [one, two]));
        assert_eq!(without(&store, join(&store, [one, two]), one), two);
        assert_eq!(without(&store, join(&store, [one, two]), two), one);
        assert_eq!(without(&store, one, one), Type::Never);
        assert_eq!(without(&store, one, two), one);
        assert_eq!(map(&store, whole, |part| if part == Type::None { one } else { part }), join(&store, [one, two]));
    }

    #[test]
    fn closed_sets_may_be_long_but_not_endless() {
        let store = Store::new();
        let many = join(&store, (0..5_000).map(|value| number(&store, value)));
        assert_eq!(parts(&store, &many).len(), 5_000);
        assert_eq!(join(&store, (0..7_000).map(|value| number(&store, value))), Type::Any);
    }
}
