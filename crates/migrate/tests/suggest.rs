//! What is suggested beside annotations: each kind on code that asks for it and on code beside it that does not.

use leitmotiv_engine::base::database::Database;
use leitmotiv_migrate::annotate::suggest::{Kind, Suggestion, suggestions};
use leitmotiv_project::{Project, Surroundings};

fn found(text: &str, kind: Kind) -> Vec<Suggestion> {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().canonicalize().unwrap().join("ferry.py");
    std::fs::write(&path, text).unwrap();
    let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
    let db = Database::new(project);
    let files = [db.source(&path)];
    suggestions(&db, &files, &files, &[kind])
}

fn codes(text: &str, kind: Kind) -> Vec<String> {
    found(text, kind).into_iter().map(|one| one.code).collect()
}

const IDS: &str = "\
def assign(vessel_id, berth_id):
    return vessel_id * 100 + berth_id


def sail(vessel_id):
    return assign(vessel_id, 3)


def close(berth_id, vessel_id=3):
    return assign(vessel_id, berth_id)


class Log:
    def __init__(self, vessel_id: int, berth_id: int):
        self.vessel_id = vessel_id
        self.berth_id = berth_id

    def again(self):
        return assign(self.vessel_id, self.berth_id)


sail(3)
close(4)
";

#[test]
fn ids_that_never_meet_get_types_of_their_own() {
    let all = found(IDS, Kind::Distinct);
    let codes: Vec<&str> = all.iter().map(|one| one.code.as_str()).collect();
    assert_eq!(codes, ["VesselId = NewType(\"VesselId\", int)\n", "BerthId = NewType(\"BerthId\", int)\n"]);
    let places: Vec<usize> = all[1].places.iter().map(|(_, line, _)| *line).collect();
    assert_eq!(places, [1, 9, 14]);
    assert!(all[0].words.contains("beside `berth_id`"), "{}", all[0].words);
}

#[test]
fn ids_that_are_passed_for_each_other_get_none() {
    let mixed = IDS.replace("assign(vessel_id, 3)", "assign(3, vessel_id)");
    assert_eq!(codes(&mixed, Kind::Distinct), Vec::<String>::new());
    // Nothing that it could be taken for.
    let alone = IDS.replace("berth_id", "name");
    assert_eq!(codes(&alone, Kind::Distinct), Vec::<String>::new());
}

#[test]
fn results_that_follow_what_is_passed_are_overloads() {
    let by_flag = "def fares(raw=False):\n    if raw:\n        return '3,4'\n    return [3, 4]\n";
    let expected = "@overload\ndef fares(raw: Literal[True]) -> str: ...\n@overload\ndef fares(raw: Literal[False] = ...) -> list[int]: ...\n";
    assert_eq!(codes(by_flag, Kind::Overloads), [expected]);
    let by_class = "def parse(value):\n    if isinstance(value, str):\n        return [value]\n    else:\n        return value + 1\n\n\nparse('a')\nparse(3)\n";
    let expected = "@overload\ndef parse(value: str) -> list[str]: ...\n@overload\ndef parse(value: int) -> int: ...\n";
    assert_eq!(codes(by_class, Kind::Overloads), [expected]);
    let by_none = "def berth(at=None, *, deep=True):\n    if at is None:\n        return 'any'\n    elif deep:\n        return 3\n    return 4\n\n\nberth(3)\n";
    let expected = "@overload\ndef berth(at: int, *, deep: bool = ...) -> int: ...\n@overload\ndef berth(at: None = ..., *, deep: bool = ...) -> str: ...\n";
    assert_eq!(codes(by_none, Kind::Overloads), [expected]);
}

#[test]
fn results_that_follow_something_else_are_none() {
    let by_value = "import random\n\n\ndef fares(raw=False):\n    print(raw)\n    if random.random() > 1:\n        return '3,4'\n    return [3, 4]\n";
    assert_eq!(codes(by_value, Kind::Overloads), Vec::<String>::new());
    let later = "def fares(raw=False):\n    found = '3'\n    if raw:\n        found = [3]\n    return found\n";
    assert_eq!(codes(later, Kind::Overloads), Vec::<String>::new());
}

const CRAFT: &str = "\
class Ferry:
    def moor(self, berth: int, *, fast=False) -> str:
        return 'ferry'


class Buoy:
    def moor(self, berth: int) -> str:
        return 'buoy'


def arrive(craft, berth):
    if craft:
        return craft.moor(berth)
    return ''


arrive(Ferry(), 3)
arrive(Buoy(), 4)
";

#[test]
fn what_unrelated_classes_have_in_common_is_a_protocol() {
    let all = found(CRAFT, Kind::Protocols);
    assert_eq!(all.len(), 1);
    assert_eq!(
        all[0].code,
        "class SupportsMoor(Protocol):\n    def moor(self, berth: int, *, fast: bool = ...) -> str: ...\n"
    );
    assert_eq!(all[0].places.iter().map(|(_, line, _)| *line).collect::<Vec<_>>(), [17, 18]);
}

#[test]
fn a_common_base_needs_no_protocol() {
    let related = CRAFT.replace("class Buoy:", "class Buoy(Ferry):");
    assert_eq!(codes(&related, Kind::Protocols), Vec::<String>::new());
    let asks_for_more = CRAFT.replace("return ''", "return craft + ''");
    assert_eq!(codes(&asks_for_more, Kind::Protocols), Vec::<String>::new());
}

#[test]
fn dictionaries_with_the_same_keys_are_records() {
    let text = "\
def get_sailing(port: str):
    return {'port': port, 'berth': 3, 'late': False}


def timetable():
    rows = []
    for port in ['Gannet', 'Skua']:
        rows.append({'late': None, 'port': port, 'berth': 4})
    return rows
";
    let all = found(text, Kind::Records);
    assert_eq!(all.len(), 1);
    assert_eq!(all[0].code, "class Sailing(TypedDict):\n    port: str\n    berth: int\n    late: bool | None\n");
    assert_eq!(all[0].places.iter().map(|(_, line, _)| *line).collect::<Vec<_>>(), [2, 8]);
}

#[test]
fn tables_and_options_are_no_records() {
    let table = "FARES = {'adult': 3, 'child': 2}\nOTHER = {'adult': 4, 'child': 3}\n";
    assert_eq!(codes(table, Kind::Records), Vec::<String>::new());
    let once = "def sail():\n    options = {'port': 'Gannet', 'berth': 3, 'late': True}\n    return len(options)\n";
    assert_eq!(codes(once, Kind::Records), Vec::<String>::new());
    let computed = "def sail(port: str):\n    return {port: 3, 'late': True, 'berth': 4}\n";
    assert_eq!(codes(computed, Kind::Records), Vec::<String>::new());
}
