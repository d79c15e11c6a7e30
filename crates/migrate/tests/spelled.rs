//! A type that is written for a file is read there as the same type.

use std::fmt::Write as _;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::resolve::scope_type;
use leitmotiv_engine::types::display::show;
use leitmotiv_index::tree::ScopeId;
use leitmotiv_migrate::spell::{Style, spell};
use leitmotiv_project::{Project, Surroundings};

const HEAD: &str = "from collections.abc import Callable, Iterable, Sequence
from typing import Generic, TypeVar

T = TypeVar('T')

class Vessel: ...
class Berth(Generic[T]):
    holds: T
";

/// Literal types are apart: they are written as their classes.
const PLAIN: [&str; 7] = ["int", "str", "None", "object", "Vessel", "bool", "type[Vessel]"];

/// Types made of one.
fn made_of(inner: &str) -> Vec<String> {
    [
        "list[?]",
        "dict[str, ?]",
        "tuple[?, ...]",
        "tuple[?, int]",
        "? | bytes",
        "Berth[?]",
        "Sequence[?]",
        "Callable[[?], str]",
        "Callable[[int], ?]",
        "Callable[..., ?]",
    ]
    .map(|form| form.replace('?', inner))
    .into()
}

/// What annotations mean, in a stub with them: as they are shown, and as they are written anew.
fn read(annotations: &[String]) -> Vec<(String, Option<String>)> {
    let folder = tempfile::tempdir().unwrap();
    let mut text = HEAD.to_owned();
    for (place, annotation) in annotations.iter().enumerate() {
        let _ = writeln!(text, "x{place}: {annotation}");
    }
    let path = folder.path().canonicalize().unwrap().join("main.pyi");
    std::fs::write(&path, text).unwrap();
    let db = Database::new(Project::open(folder.path(), None, &Surroundings::default()).unwrap());
    let file = db.source(&path);
    let of = |place: usize| {
        let ty = scope_type(&db, file, ScopeId(0), db.names().intern(&format!("x{place}")));
        (show(&db, ty), spell(&db, file, ty, Style::STUB).map(|spelled| spelled.text))
    };
    (0..annotations.len()).map(of).collect()
}

#[test]
fn what_is_spelled_means_the_same() {
    let one = PLAIN.iter().flat_map(|inner| made_of(inner));
    let two = PLAIN[..5].iter().flat_map(|inner| made_of(inner)).flat_map(|inner| made_of(&inner));
    let annotations: Vec<String> = PLAIN.iter().map(|plain| (*plain).to_owned()).chain(one).chain(two).collect();
    let meant = read(&annotations);
    let spelled: Vec<String> = annotations
        .iter()
        .zip(&meant)
        .map(|(annotation, (_, spelled))| spelled.clone().unwrap_or_else(|| panic!("{annotation} cannot be written")))
        .collect();
    for ((annotation, (one, _)), (other, _)) in annotations.iter().zip(&meant).zip(read(&spelled)) {
        assert_eq!(*one, other, "{annotation}");
    }
}
