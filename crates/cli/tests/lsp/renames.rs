//! New names: what they change, and why they are refused.

use serde_json::{Value, json};

use super::Editor;
use crate::folder::Folder;

const FERRY: &str = "\
import tides

__all__ = [\"Ferry\", \"load\"]


class Ferry:
    def __init__(self, seats: int):
        self.seats = seats

    def board(self, people: int) -> bool:
        return people <= self.seats


    @staticmethod
    def fits(length: int) -> bool:
        return length < 40


class CarFerry(Ferry):
    @staticmethod
    def fits(length: int) -> bool:
        return length < 80

    def board(self, people: int) -> bool:
        lanes = people + 1
        return super().board(people=lanes)


def load(ferry: Ferry, people: int = 1) -> str:
    return f\"{ferry.board(people)} of {ferry.seats}\"


def strange(thing):
    return thing.depth, getattr(thing, \"draught\")


class Hull:
    depth = 3
    draught = 4
";

const DESK: &str = "\
from ferry import CarFerry, load
from ferry import load as stow
import ferry as boats

total = 3
print(load(CarFerry(3), people=total), stow(CarFerry(4)), boats.load(boats.CarFerry(seats=5)))


def count() -> int:
    return total
";

fn editor() -> Editor {
    let mut editor = Editor::new(Folder::new(&[("ferry.py", FERRY), ("desk.py", DESK), ("tides.py", "high = 3\n")]));
    editor.open("ferry.py");
    editor.open("desk.py");
    editor
}

/// What a new name gives: the two texts, or the reason against it.
fn renamed(editor: &mut Editor, path: &str, piece: &str, moved: usize, new: &str) -> Result<(String, String), String> {
    let text = if path == "ferry.py" { FERRY } else { DESK };
    let mut params = editor.at(path, text, piece, moved);
    let words = |error: Value| error["message"].as_str().unwrap().to_owned();
    editor.probe.request("textDocument/prepareRename", params.clone()).map_err(words)?;
    params["newName"] = json!(new);
    let edit = editor.probe.request("textDocument/rename", params).map_err(words)?;
    Ok((editor.changed("ferry.py", FERRY, &edit), editor.changed("desk.py", DESK, &edit)))
}

#[test]
fn a_function_gets_its_name_wherever_it_is_mentioned() {
    let mut editor = editor();
    let (ferry, desk) = renamed(&mut editor, "ferry.py", "load(ferry", 0, "embark").unwrap();
    assert!(ferry.contains("__all__ = [\"Ferry\", \"embark\"]") && ferry.contains("def embark("), "{ferry}");
    assert!(desk.starts_with("from ferry import CarFerry, embark\nfrom ferry import embark as stow\n"), "{desk}");
    assert!(desk.contains("print(embark(CarFerry(3), people=total), stow(CarFerry(4)), boats.embark("), "{desk}");
}

#[test]
fn methods_that_stand_in_for_each_other_go_together_and_so_do_their_parameters() {
    let mut editor = editor();
    let (ferry, _) = renamed(&mut editor, "ferry.py", "board(self", 0, "enter").unwrap();
    assert_eq!(ferry.matches("enter").count(), 4, "{ferry}");
    assert!(!ferry.contains("board"), "{ferry}");
    let (ferry, desk) = renamed(&mut editor, "ferry.py", "people: int) -> bool", 0, "guests").unwrap();
    assert!(ferry.contains("super().board(guests=lanes)"), "{ferry}");
    assert!(ferry.contains("lanes = guests + 1"), "{ferry}");
    assert!(ferry.contains("def load(ferry: Ferry, people: int = 1)"), "{ferry}");
    assert_eq!(desk, DESK);
    let (ferry, _) = renamed(&mut editor, "ferry.py", "length: int", 0, "metres").unwrap();
    assert_eq!((ferry.matches("metres").count(), ferry.matches("length").count()), (4, 0), "{ferry}");
}

#[test]
fn attributes_parameters_aliases_and_local_names_are_told_apart() {
    let mut editor = editor();
    let (ferry, desk) = renamed(&mut editor, "ferry.py", "self.seats = ", 5, "places").unwrap();
    assert!(ferry.contains("self.places = seats") && ferry.contains("{ferry.places}"), "{ferry}");
    assert!(desk.contains("CarFerry(seats=5)"), "{desk}");
    let (_, desk) = renamed(&mut editor, "ferry.py", "seats: int", 0, "places").unwrap();
    assert!(desk.contains("CarFerry(places=5)"), "{desk}");
    let (ferry, desk) = renamed(&mut editor, "desk.py", "stow\n", 0, "pack").unwrap();
    assert_eq!(ferry, FERRY);
    assert!(desk.contains("import load as pack\n") && desk.contains("pack(CarFerry(4))"), "{desk}");
    let (_, desk) = renamed(&mut editor, "desk.py", "total = 3", 0, "sum_of_all").unwrap();
    assert_eq!(desk.matches("sum_of_all").count(), 3, "{desk}");
}

#[test]
fn what_is_not_safe_is_refused_with_the_reason() {
    let mut editor = editor();
    let mut refused =
        |path: &str, piece: &str, moved: usize, new: &str| match renamed(&mut editor, path, piece, moved, new) {
            Ok(_) => panic!("`{piece}` was renamed"),
            Err(words) => words,
        };
    let told = |words: &str, part: &str| assert!(words.contains(part), "{words}");
    told(&refused("ferry.py", "load(ferry", 0, "for"), "is not a name that Python allows");
    told(&refused("ferry.py", "load(ferry", 0, "Ferry"), "`Ferry` is bound at ferry.py:6 already");
    told(&refused("ferry.py", "load(ferry", 0, "CarFerry"), "already");
    told(&refused("ferry.py", "tides\n", 0, "ebbs"), "is a module");
    told(&refused("ferry.py", "__init__", 0, "begin"), "has a meaning of its own");
    told(
        &refused("ferry.py", "super()", 0, "base"),
        "`super` is defined in `builtins`, which is not the project's own",
    );
    told(
        &refused("ferry.py", "depth = 3", 0, "deep"),
        "ferry.py:34 may mean this or something else: `return thing.depth",
    );
    told(&refused("ferry.py", "draught = 4", 0, "deep"), "ferry.py:34 asks for `draught` by a text");
    told(&refused("ferry.py", "thing.depth", 6, "deep"), "cannot be told");
    told(&refused("ferry.py", "self.seats = ", 5, "board"), "`CarFerry` has a member `board` already");
    // What would be caught by the new name.
    told(&refused("desk.py", "total = 3", 0, "print"), "`print` at desk.py:6 would mean this then");
    told(&refused("ferry.py", "lanes = people", 0, "people"), "`people` is bound at ferry.py:24 already");
}

#[test]
fn what_is_read_without_being_mentioned_stands_in_the_way() {
    let mut editor = editor();
    let text = "from unittest import mock\n\nfrom harbour.ferry import load as stow\n\n\ndef show(tide):\n    return \"%(tide)s\" % locals()\n";
    editor.open_with("more.py", text);
    let mut params = editor.at("more.py", text, "tide", 0);
    params["newName"] = json!("ebb");
    let refused = editor.probe.request("textDocument/rename", params).unwrap_err();
    assert_eq!(refused["message"], "more.py:7 may read `tide` without mentioning it");
    let error = renamed(&mut editor, "ferry.py", "load(ferry", 0, "embark").unwrap_err();
    assert_eq!(error, "more.py:3 may mean this or something else: `from harbour.ferry import load as stow`");
    let path = editor.path("more.py");
    editor.probe.write(&path, 2, "patched = [\"ferry.load\"]\n");
    let error = renamed(&mut editor, "ferry.py", "load(ferry", 0, "embark").unwrap_err();
    assert_eq!(error, "more.py:1 names `load` in a text");
}

#[test]
fn a_file_that_does_not_parse_stands_in_the_way() {
    let mut editor = editor();
    editor.open_with("broken.py", "from ferry import load\ndef (\n");
    let error = renamed(&mut editor, "ferry.py", "load(ferry", 0, "embark").unwrap_err();
    assert_eq!(error, "`broken.py` does not parse, and mentions `load`");
}
