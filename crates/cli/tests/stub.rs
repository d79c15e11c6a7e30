use crate::folder::Folder;

const SOURCE: &str = "from .tables import rows\n\nDATUM = 2.1\n_private = 1\n\nclass Station(object):\n    def __init__(self, name, datum=0.0):\n        self.name = name\n        self.datum = datum\n\n    @property\n    def label(self):\n        return 'x'\n\n    def heights(self):\n        return [1.5]\n\ndef make(name, *, safe=True):\n    return Station(name)\n";

fn folder() -> Folder {
    Folder::new(&[
        ("venv/pyvenv.cfg", "version = 3.11.0\n"),
        ("venv/lib/python3.11/site-packages/tidelib/__init__.py", SOURCE),
        ("venv/lib/python3.11/site-packages/tidelib/tables.py", "def rows():\n    return [('a', 1)]\n"),
        (
            "main.py",
            "import tidelib\nfrom tidelib import rows\n\nreveal_type(tidelib.make('x').heights())\nreveal_type(rows())\n",
        ),
    ])
}

#[test]
fn a_stub_is_written_from_source_and_answers_the_import() {
    let folder = folder();
    assert!(folder.run(&["check"]).out.contains("module `tidelib` has no types"));
    let run = folder.run(&["stub", "write", "tidelib"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let expected = "\
# Stub of `tidelib`, written by Leitmotiv from its source. Yours to edit.
from typing import Any

from .tables import rows as rows
DATUM: float
class Station:
    name: Any
    datum: Any
    def __init__(self, name, datum: float = 0.0) -> None: ...
    @property
    def label(self) -> str: ...
    def heights(self) -> list[float]: ...
def make(name, *, safe: bool = True) -> Station: ...
";
    assert_eq!(folder.read("stubs/tidelib/__init__.pyi"), expected);
    let run = folder.run(&["check"]);
    assert!(!run.out.contains("import.untyped"), "{}", run.out);
    assert!(run.out.contains("`list[float]`") && run.out.contains("`list[tuple[str, int]]`"), "{}", run.out);
}

#[test]
fn an_existing_stub_is_never_overwritten() {
    let folder = folder();
    folder.write("stubs/tidelib/tables.pyi", "mine: int\n");
    folder.run(&["stub", "write", "tidelib"]).refused("nothing was written");
    assert!(!folder.path("stubs/tidelib/__init__.pyi").exists());
    assert_eq!(folder.read("stubs/tidelib/tables.pyi"), "mine: int\n");
}

#[test]
fn classes_made_by_a_call_and_defaults_of_fields_are_kept() {
    let source = "from collections import namedtuple\nfrom dataclasses import dataclass\nfrom typing import NamedTuple, NewType\n\nLeg = NamedTuple(\"Leg\", [(\"port\", str)])\nStop = namedtuple(\"Stop\", \"port berth\", defaults=(None,))\nBerth = NewType(\"Berth\", int)\n\n@dataclass\nclass Fare:\n    adult: float\n    child: float = 2.0\n";
    let folder = Folder::new(&[("ferry.py", source)]);
    let run = folder.run(&["stub", "write", "ferry", "--show"]);
    assert_eq!(run.status, 0, "{}", run.err);
    for part in [
        "class Leg(NamedTuple):\n    port: str\n",
        "class Stop(NamedTuple):\n    port: Any\n    berth: Any = ...\n",
        "Berth = NewType(\"Berth\", int)\n",
        "    adult: float\n    child: float = ...\n",
    ] {
        assert!(run.out.contains(part), "{part}\n{}", run.out);
    }
}
