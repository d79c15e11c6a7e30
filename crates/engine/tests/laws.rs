//! Laws that hold for all types: tried on types made at random, from a seed.

use std::fmt::Write as _;

use leitmotiv_engine::context::TypeContext;
use leitmotiv_engine::resolve::scope_type;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::canonical::canonical;
use leitmotiv_engine::types::display::show;
use leitmotiv_index::tree::{BodyId, ScopeId};

use leitmotiv_engine::base::db::Db;

use crate::edits::Random;
use crate::fixture::{Source, database};

/// What the types are made of beside the language's own.
const CLASSES: &str = "
from collections.abc import Callable, Iterable, Mapping, Sequence
from typing import Any, Generic, Literal, Protocol, TypeVar
import enum

T = TypeVar('T')

class Vessel: ...
class Ferry(Vessel): ...
class Barge(Vessel): ...
class Tide(enum.Enum):
    LOW = 0
    HIGH = 1
class Floats(Protocol):
    def draught(self) -> float: ...
class Hull(Ferry):
    def draught(self) -> float: ...
class Berth(Generic[T]):
    def __init__(self, holds: T) -> None:
        self.holds = holds
";

/// A type as it is written in an annotation.
fn annotation(random: &mut Random, depth: usize) -> String {
    const PLAIN: [&str; 14] = [
        "int", "str", "bytes", "bool", "float", "None", "object", "Vessel", "Ferry", "Barge", "Hull", "Floats", "Tide",
        "complex",
    ];
    if depth == 0 {
        return PLAIN[random.below(PLAIN.len())].to_owned();
    }
    let inner = |random: &mut Random| annotation(random, depth - 1);
    match random.below(13) {
        0 => format!("list[{}]", inner(random)),
        1 => format!("dict[str, {}]", inner(random)),
        2 => format!("tuple[{}, ...]", inner(random)),
        3 => format!("tuple[{}, {}]", inner(random), inner(random)),
        4 | 5 => format!("{} | {}", inner(random), inner(random)),
        6 => format!("Berth[{}]", inner(random)),
        7 => format!("Sequence[{}]", inner(random)),
        8 => format!("Callable[[{}], {}]", inner(random), inner(random)),
        9 => "type[Vessel]".to_owned(),
        10 => "Literal[3, 'north']".to_owned(),
        11 => "Literal[Tide.LOW]".to_owned(),
        _ => inner(random),
    }
}

/// Types at random, with the context in which they may be compared.
fn with_types(seed: u64, number: usize, law: impl Fn(&mut TypeContext<'_>, &[Type])) {
    let mut random = Random(seed | 1);
    let mut text = CLASSES.to_owned();
    for place in 0..number {
        let depth = random.below(4);
        let _ = writeln!(text, "x{place}: {}", annotation(&mut random, depth));
    }
    let (folder, db) = database(&[Source { path: "main.py".into(), text }], None);
    let file = db.source(&folder.path().canonicalize().unwrap().join("main.py"));
    let of = |place: usize| scope_type(&db, file, ScopeId(0), db.names().intern(&format!("x{place}")));
    let types: Vec<Type> = (0..number).map(of).collect();
    law(&mut TypeContext::new(&db, file, BodyId(0)), &types);
}

#[test]
fn nothing_fits_everything_and_everything_is_an_object() {
    with_types(11, 120, |context, types| {
        let object = context.builtin(leitmotiv_syntax::names::known::OBJECT);
        for ty in types {
            let shown = show(context.db, *ty);
            assert!(context.is_assignable(*ty, *ty), "{shown} fits itself");
            assert!(context.is_assignable(Type::Never, *ty), "Never fits {shown}");
            assert!(context.is_assignable(*ty, object), "{shown} is an object");
            assert!(context.is_equivalent(*ty, *ty), "{shown} is the same as itself");
        }
    });
}

#[test]
fn the_parts_of_a_union_fit_it_and_their_order_does_not_matter() {
    with_types(23, 60, |context, types| {
        for one in types {
            for other in types {
                let names = || format!("{} and {}", show(context.db, *one), show(context.db, *other));
                let (there, back) = (context.join([*one, *other]), context.join([*other, *one]));
                assert!(context.is_assignable(*one, there) && context.is_assignable(*other, there), "{}", names());
                assert_eq!(canonical(context.db, there), canonical(context.db, back), "{}", names());
                assert!(context.is_equivalent(there, back), "{}", names());
                assert_eq!(context.join([there, *one]), there, "{}", names());
            }
        }
    });
}

#[test]
fn joining_in_any_grouping_gives_the_same() {
    with_types(31, 24, |context, types| {
        for one in types {
            for other in types {
                for third in types {
                    let left = context.join([context.join([*one, *other]), *third]);
                    let right = context.join([*one, context.join([*other, *third])]);
                    let names = || [*one, *other, *third].map(|ty| show(context.db, ty)).join(", ");
                    assert_eq!(canonical(context.db, left), canonical(context.db, right), "{}", names());
                }
            }
        }
    });
}

#[test]
fn being_the_same_goes_both_ways_and_means_fitting_both_ways() {
    with_types(47, 80, |context, types| {
        for one in types {
            for other in types {
                let names = || format!("{} and {}", show(context.db, *one), show(context.db, *other));
                assert_eq!(context.is_equivalent(*one, *other), context.is_equivalent(*other, *one), "{}", names());
                if context.is_equivalent(*one, *other) {
                    assert!(context.is_assignable(*one, *other) && context.is_assignable(*other, *one), "{}", names());
                }
            }
        }
    });
}

#[test]
fn what_fits_a_type_fits_whatever_that_fits() {
    with_types(59, 50, |context, types| {
        for one in types {
            for other in types.iter().filter(|other| context.is_assignable(*one, **other)) {
                for third in types.iter().filter(|third| context.is_assignable(*other, **third)) {
                    let names = || [*one, *other, *third].map(|ty| show(context.db, ty)).join(" < ");
                    assert!(context.is_assignable(*one, *third), "{}", names());
                }
            }
        }
    });
}

#[test]
fn a_type_as_it_is_shown_is_read_as_the_same_type_but_for_callables() {
    let mut texts = Vec::new();
    let mut random = Random(71);
    for _ in 0..150 {
        let depth = random.below(4);
        texts.push(annotation(&mut random, depth));
    }
    // These are shown in a form that is no annotation.
    texts.retain(|text| !text.contains("Callable"));
    let write = |texts: &[String]| {
        let mut text = CLASSES.to_owned();
        for (place, annotation) in texts.iter().enumerate() {
            let _ = writeln!(text, "x{place}: {annotation}");
        }
        text
    };
    let shown = |texts: &[String]| -> Vec<String> {
        let (folder, db) = database(&[Source { path: "main.py".into(), text: write(texts) }], None);
        let file = db.source(&folder.path().canonicalize().unwrap().join("main.py"));
        let of = |place: usize| scope_type(&db, file, ScopeId(0), db.names().intern(&format!("x{place}")));
        (0..texts.len()).map(|place| show(&db, of(place))).collect()
    };
    let once = shown(&texts);
    let again = shown(&once);
    for ((text, once), again) in texts.iter().zip(&once).zip(&again) {
        assert_eq!(once, again, "{text}");
    }
}
