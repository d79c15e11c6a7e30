//! A type as it was seen: what `type()` says, and of the interpreter's own containers what they held.

use std::fmt;

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};

/// A type as it was seen. As JSON it is the form that the store keeps (docs/traces.md).
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "lowercase")]
pub enum Seen {
    /// None.
    None,
    /// A `bool`; which one, where that was looked at.
    Bool(Option<bool>),
    /// A `str` that the function itself names.
    Word(String),
    /// An instance of a class: the class's module and qualified name.
    Class(String, String),
    /// A class itself.
    Type(Box<Seen>),
    /// A tuple, item by item.
    Tuple(Vec<Seen>),
    /// A container of one kind of items: its name (`list`, `set`, `frozenset`, `deque`; `tuple` for a long one), and what it held.
    Items(String, Vec<Seen>),
    /// A mapping: its name (`dict`, `defaultdict`, `OrderedDict`), and what keys and values it held.
    Mapping(String, Vec<Seen>, Vec<Seen>),
}

impl Seen {
    /// The same without what told single values apart: which bool it was, which word.
    #[must_use]
    pub fn plain(&self) -> Seen {
        let all = |parts: &[Seen]| joined(parts.iter().map(Seen::plain));
        match self {
            Seen::Bool(_) => Seen::Bool(None),
            Seen::Word(_) => Seen::Class("builtins".to_owned(), "str".to_owned()),
            Seen::Type(of) => Seen::Type(Box::new(of.plain())),
            Seen::Tuple(items) => Seen::Tuple(items.iter().map(Seen::plain).collect()),
            Seen::Items(name, items) => Seen::Items(name.clone(), all(items)),
            Seen::Mapping(name, keys, values) => Seen::Mapping(name.clone(), all(keys), all(values)),
            other => other.clone(),
        }
    }

    /// What a parameter of that name was given: of `*more` and `**rest` each item.
    #[must_use]
    pub fn unpacked(&self, param: &str) -> Vec<Seen> {
        match (self, param.len() - param.trim_start_matches('*').len()) {
            (Seen::Tuple(items) | Seen::Items(_, items), 1) => items.clone(),
            (Seen::Mapping(_, _, values), 2) => values.clone(),
            (seen, 0) => vec![seen.clone()],
            _ => Vec::new(),
        }
    }

    /// Whether a name as people type it means this type: as it is shown, without its arguments, or by its qualified or dotted name.
    #[must_use]
    pub fn is_named(&self, name: &str) -> bool {
        let plain = self.plain();
        let shown = plain.to_string();
        let head = |text: &str| text.split('[').next() == Some(name);
        shown == name
            || head(&shown)
            || match &plain {
                Seen::None => name == "NoneType",
                Seen::Class(module, class) => {
                    class.rsplit('.').next() == Some(name) || format!("{module}.{class}") == name
                }
                _ => false,
            }
    }
}

/// Types in their order, each once.
pub(crate) fn joined(all: impl IntoIterator<Item = Seen>) -> Vec<Seen> {
    let mut all: Vec<Seen> = all.into_iter().collect();
    all.sort();
    all.dedup();
    all
}

/// What classes derive from, nearest first, `object` left out.
pub type Bases = FxHashMap<Seen, Vec<Seen>>;

/// From so many classes on, a base that all of them have says more than their names.
const MANY: usize = 3;

/// Types as few parts, as people write them: containers of one kind as one, empty ones within filled ones, a `bool` within an `int`, both
/// within a `float` (typing specification, "Special cases for float and complex"), classes within those that they derive from, and many
/// with one base as that.
#[must_use]
pub fn together(all: &[Seen], bases: &Bases) -> Vec<Seen> {
    few(all, bases, MANY)
}

fn few(all: &[Seen], bases: &Bases, many: usize) -> Vec<Seen> {
    let mut merged: Vec<Seen> = Vec::new();
    for one in all.iter().map(|seen| inside(seen.plain(), bases)) {
        match merged.iter_mut().find_map(|known| Some((merge(known, &one, bases)?, known))) {
            Some((both, known)) => *known = both,
            None => merged.push(one),
        }
    }
    let builtin = |name: &str| Seen::Class("builtins".to_owned(), name.to_owned());
    let has = |merged: &[Seen], name: &str| merged.contains(&builtin(name));
    let (int, float) = (has(&merged, "int"), has(&merged, "float"));
    merged.retain(|one| match one {
        Seen::Bool(_) => !int && !float,
        one => !(float && *one == builtin("int")),
    });
    let above = |one: &Seen| bases.get(one).map_or(&[][..], Vec::as_slice);
    let known = merged.clone();
    merged.retain(|one| !above(one).iter().any(|base| known.contains(base)));
    let classes: Vec<Seen> = merged.iter().filter(|one| matches!(one, Seen::Class(..))).cloned().collect();
    if classes.len() >= many.max(2) {
        // What says nothing, or no more than that it is a class.
        let is_vague = |base: &Seen| matches!(base, Seen::Class(module, _) if matches!(module.as_str(), "builtins" | "abc" | "typing"));
        let common = above(&classes[0])
            .iter()
            .find(|base| !is_vague(base) && classes.iter().all(|one| above(one).contains(base)));
        if let Some(common) = common {
            merged.retain(|one| !matches!(one, Seen::Class(..)));
            merged.push(common.clone());
        }
    }
    // Classes themselves likewise.
    let types = |one: &Seen| match one {
        Seen::Type(of) => Some((**of).clone()),
        _ => None,
    };
    let of: Vec<Seen> = merged.iter().filter_map(types).collect();
    if of.len() > 1 {
        merged.retain(|one| !matches!(one, Seen::Type(_)));
        merged.extend(few(&of, bases, many).into_iter().map(|one| Seen::Type(Box::new(one))));
    }
    joined(merged)
}

/// A container whose items are few.
fn inside(seen: Seen, bases: &Bases) -> Seen {
    match seen {
        Seen::Items(name, items) => Seen::Items(name, together(&items, bases)),
        Seen::Mapping(name, keys, values) => Seen::Mapping(name, together(&keys, bases), together(&values, bases)),
        other => other,
    }
}

/// Two types as one, where they are of one kind.
fn merge(one: &Seen, other: &Seen, bases: &Bases) -> Option<Seen> {
    let both = |one: &[Seen], other: &[Seen]| together(&[one, other].concat(), bases);
    Some(match (one, other) {
        (one, other) if one == other => one.clone(),
        (Seen::Items(name, items), Seen::Items(other, more)) if name == other => {
            Seen::Items(name.clone(), both(items, more))
        }
        (Seen::Mapping(name, keys, values), Seen::Mapping(other, more_keys, more)) if name == other => {
            Seen::Mapping(name.clone(), both(keys, more_keys), both(values, more))
        }
        (Seen::Tuple(items), Seen::Tuple(more)) if items.len() == more.len() => {
            let each: Option<Vec<Seen>> = items
                .iter()
                .zip(more)
                .map(|(one, other)| match few(&[one.clone(), other.clone()], bases, 2).as_slice() {
                    [both] => Some(both.clone()),
                    _ => None,
                })
                .collect();
            return each.map(Seen::Tuple).or_else(|| long(items, more, bases));
        }
        (Seen::Tuple(items), Seen::Tuple(more)) => return long(items, more, bases),
        (Seen::Tuple(items), Seen::Items(name, more)) | (Seen::Items(name, more), Seen::Tuple(items))
            if name == "tuple" =>
        {
            return long(items, more, bases);
        }
        _ => return None,
    })
}

/// Tuples of several lengths as a tuple of any length, where they hold one kind of items.
fn long(items: &[Seen], more: &[Seen], bases: &Bases) -> Option<Seen> {
    let all = together(&[items, more].concat(), bases);
    (all.len() == 1).then(|| Seen::Items("tuple".to_owned(), all))
}

/// A union as it is shown, None last.
#[must_use]
pub fn union(all: &[Seen]) -> String {
    let mut parts: Vec<String> = all.iter().filter(|one| **one != Seen::None).map(ToString::to_string).collect();
    parts.dedup();
    if all.contains(&Seen::None) {
        parts.push("None".to_owned());
    }
    parts.join(" | ")
}

impl fmt::Display for Seen {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Seen::None => f.write_str("None"),
            Seen::Bool(_) => f.write_str("bool"),
            Seen::Word(word) => write!(f, "Literal[{word:?}]"),
            Seen::Class(_, name) => f.write_str(name.rsplit("<locals>.").next().unwrap_or(name)),
            Seen::Type(of) => write!(f, "type[{of}]"),
            Seen::Tuple(items) if items.is_empty() => f.write_str("tuple[()]"),
            Seen::Tuple(items) => {
                let items: Vec<String> = items.iter().map(ToString::to_string).collect();
                write!(f, "tuple[{}]", items.join(", "))
            }
            Seen::Items(name, items) if items.is_empty() => f.write_str(name),
            Seen::Items(name, items) => {
                let more = if name == "tuple" { ", ..." } else { "" };
                write!(f, "{name}[{}{more}]", union(items))
            }
            Seen::Mapping(name, keys, _) if keys.is_empty() => f.write_str(name),
            Seen::Mapping(name, keys, values) => write!(f, "{name}[{}, {}]", union(keys), union(values)),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn class(name: &str) -> Seen {
        Seen::Class("skerry.fleet".to_owned(), name.to_owned())
    }

    #[test]
    fn types_are_shown_as_people_write_them() {
        let int = Seen::Class("builtins".to_owned(), "int".to_owned());
        let list = Seen::Items("list".to_owned(), vec![Seen::None, class("Vessel")]);
        for (seen, shown) in [
            (list.clone(), "list[Vessel | None]"),
            (Seen::Tuple(vec![int.clone(), list]), "tuple[int, list[Vessel | None]]"),
            (Seen::Items("tuple".to_owned(), vec![int.clone()]), "tuple[int, ...]"),
            (
                Seen::Mapping("dict".to_owned(), vec![Seen::Word("berth".to_owned()).plain()], vec![int]),
                "dict[str, int]",
            ),
            (Seen::Mapping("dict".to_owned(), vec![], vec![]), "dict"),
            (Seen::Type(Box::new(class("make.<locals>.Tug"))), "type[Tug]"),
            (Seen::Word("rb".to_owned()), "Literal[\"rb\"]"),
        ] {
            assert_eq!(seen.to_string(), shown);
        }
    }

    #[test]
    fn many_become_few() {
        let builtin = |name: &str| Seen::Class("builtins".to_owned(), name.to_owned());
        let list = |items: &[Seen]| Seen::Items("list".to_owned(), items.to_vec());
        let shown = |all: &[Seen]| union(&together(all, &Bases::default()));
        assert_eq!(
            shown(&[list(&[]), list(&[builtin("int")]), list(&[Seen::Bool(Some(true))]), Seen::None]),
            "list[int] | None"
        );
        assert_eq!(shown(&[builtin("int"), builtin("float"), Seen::Bool(None)]), "float");
        let pair = |one: &str, other: &str| Seen::Tuple(vec![builtin(one), builtin(other)]);
        assert_eq!(shown(&[pair("int", "str"), pair("float", "str")]), "tuple[float, str]");
        assert_eq!(shown(&[Seen::Tuple(vec![]), pair("str", "str")]), "tuple[str, ...]");
        assert_eq!(shown(&[Seen::Word("rb".to_owned()), builtin("str")]), "str");
        let bases: Bases =
            ["Tug", "Ferry", "Pilot"].into_iter().map(|name| (class(name), vec![class("Vessel")])).collect();
        let shown = |all: &[Seen]| union(&together(all, &bases));
        assert_eq!(shown(&[class("Tug"), class("Ferry")]), "Ferry | Tug");
        assert_eq!(shown(&[class("Tug"), class("Ferry"), Seen::None, class("Pilot")]), "Vessel | None");
        assert_eq!(shown(&[class("Tug"), class("Vessel")]), "Vessel");
        let type_of = |name: &str| Seen::Type(Box::new(class(name)));
        assert_eq!(shown(&[type_of("Tug"), type_of("Ferry"), type_of("Pilot")]), "type[Vessel]");
        let with = |name: &str| Seen::Tuple(vec![builtin("int"), class(name)]);
        assert_eq!(shown(&[with("Tug"), with("Ferry")]), "tuple[int, Vessel]");
    }

    #[test]
    fn types_are_found_by_what_people_call_them() {
        let vessel = class("Fleet.Vessel");
        for name in ["Vessel", "Fleet.Vessel", "skerry.fleet.Fleet.Vessel"] {
            assert!(vessel.is_named(name), "{name}");
        }
        assert!(!vessel.is_named("fleet"));
        assert!(Seen::Items("list".to_owned(), vec![vessel]).is_named("list"));
        assert!(Seen::Word("rb".to_owned()).is_named("str"));
        assert!(Seen::None.is_named("None") && Seen::None.is_named("NoneType"));
    }
}
