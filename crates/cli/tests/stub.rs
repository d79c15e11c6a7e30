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
    datum: float
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
fn a_stub_takes_all_evidence_of_its_package() {
    let folder = folder();
    folder.write(
        "venv/lib/python3.11/site-packages/buoys.py",
        "class Buoy:\n    def __init__(self, name, depth=None):\n        self.name = name\n        self.depth = depth\n\n    def sound(self):\n        return 3.5\n\n    measure = sound\n\n\ndef lay(buoy, colour):\n    if buoy.depth:\n        print(buoy.name.upper() + colour)\n\n\ndef drop():\n    lay(Buoy(\"Holm\", 3), \"red\")\n",
    );
    let run = folder.run(&["stub", "write", "buoys"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let text = folder.read("stubs/buoys.pyi");
    assert!(text.contains("def lay(buoy: Buoy, colour: str) -> None: ...\n"), "{text}");
    assert!(text.contains("    def __init__(self, name: str, depth"), "{text}");
    assert!(text.contains("    def sound(self) -> float: ...\n    measure = sound\n"), "{text}");
}

#[test]
fn properties_and_partial_functions_that_are_assigned_keep_their_results() {
    let folder = folder();
    folder.write(
        "venv/lib/python3.11/site-packages/tides.py",
        "import functools\n\n\ndef depth(port, hour=3):\n    return 3.5\n\n\nnoon = functools.partial(depth, hour=12)\n\n\nclass Table:\n    high = property(lambda self: 3)\n\n    def size(self):\n        return 'x'\n\n    length = property(size)\n",
    );
    let run = folder.run(&["stub", "write", "tides"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let text = folder.read("stubs/tides.pyi");
    let expected = "noon: partial[float]\nclass Table:\n    @property\n    def high(self) -> int: ...\n    def size(self) -> str: ...\n    @property\n    def length(self) -> str: ...\n";
    assert!(text.contains(expected), "{text}");
}

#[test]
fn an_existing_stub_keeps_what_stands_in_it() {
    let folder = folder();
    folder.write("stubs/tidelib/tables.pyi", "# Mine.\ndef rows() -> list[tuple[str, int]]: ...  # by hand\n");
    folder.write("stubs/tidelib/__init__.pyi", "class Station:\n    name: str\n");
    let run = folder.run(&["stub", "write", "tidelib"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(run.out.contains("tables.pyi  stays as it is: it has every name\n"), "{}", run.out);
    assert!(run.out.contains("__init__.pyi  7 names added: rows, "), "{}", run.out);
    let text = folder.read("stubs/tidelib/__init__.pyi");
    let expected = "\
class Station:
    name: str
    datum: float
    def __init__(self, name, datum: float = 0.0) -> None: ...
    @property
    def label(self) -> str: ...
    def heights(self) -> list[float]: ...
from .tables import rows as rows
DATUM: float
def make(name, *, safe: bool = True) -> Station: ...
";
    assert_eq!(text, expected);
    let run = folder.run(&["stub", "write", "tidelib", "--overwrite"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(!folder.read("stubs/tidelib/tables.pyi").contains("Mine"));
}

#[test]
fn only_what_is_used_may_be_written_with_types_from_calls() {
    let folder = folder();
    let run = folder.run(&["stub", "write", "tidelib", "--used"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let text = folder.read("stubs/tidelib/__init__.pyi");
    assert!(text.contains("def make(name: str, *, safe: bool = True) -> Station: ...\n"), "{text}");
    assert!(text.contains("class Station:") && !text.contains("DATUM"), "{text}");
    assert!(text.ends_with("def __getattr__(name: str) -> Any: ...\n"), "{text}");
    let run = folder.run(&["check", "stubs"]);
    assert_eq!(run.status, 0, "{}", run.out);
    // Other modules of the package are not used.
    assert!(!folder.path("stubs/tidelib/tables.pyi").exists());
}

#[test]
fn what_calls_leave_out_may_be_none() {
    let folder = Folder::new(&[
        ("tidelib.py", "def make(port, depths=(), mark=None):\n    return port\n"),
        ("desk.py", "import tidelib\n\ntidelib.make('Skerry', depths=(3, 4), mark='x')\ntidelib.make('Holm')\n"),
    ]);
    let run = folder.run(&["stub", "write", "tidelib", "--used", "--from", "source"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let text = folder.read("stubs/tidelib.pyi");
    assert!(
        text.contains("def make(port: str, depths: tuple[int, ...] = ..., mark: str | None = None) -> str: ..."),
        "{text}"
    );
}

#[test]
fn a_stub_package_can_be_published() {
    let folder = folder();
    let run = folder.run(&["stub", "write", "tidelib", "--package", "--out", "dist"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(folder.path("dist/tidelib-stubs/__init__.pyi").exists());
    assert!(folder.path("dist/tidelib-stubs/tables.pyi").exists());
    assert_eq!(folder.read("dist/tidelib-stubs/py.typed"), "");
    let run = folder.run(&["stub", "write", "tidelib", "--package", "--out", "part", "--used"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert_eq!(folder.read("part/tidelib-stubs/py.typed"), "partial\n");
}

#[test]
fn the_source_s_habits_come_out_as_stubs_say_them() {
    let source = "import re\nfrom typing import TYPE_CHECKING, TypeVar\nfrom .tables import *\nif TYPE_CHECKING:\n    from os import PathLike\n    Place = str | PathLike[str]\n\nT = TypeVar('T')\nword = re.compile('x')\n_Inner = dict[str, int]\n\nclass Tide:\n    def low(cls):\n        return 1\n    low = classmethod(low)\n    def list(self):\n        return 1\n    def all(self) -> 'list[int]':\n        return []\n\nclass _Base: pass\nclass High(_Base):\n    \"\"\"High.\"\"\"\n    def at(self, hour, mark=None):\n        \"\"\"Tells.\n\n        :param int hour: when\n        :param mark: what\n        :type mark: str\n        :rtype: float\n        \"\"\"\n        return self.of(hour)\n\nfor kind in (1, 2):\n    pass\ndel kind\n\ndef open_at(where: 'Place', gap='    ') -> 'T': ...\n\nif __name__ == '__main__':\n    arguments = 1\n";
    let folder = Folder::new(&[("ferry/__init__.py", source), ("ferry/tables.py", "def rows():\n    return 1\n")]);
    let run = folder.run(&["stub", "write", "ferry"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let expected = "\
# Stub of `ferry`, written by Leitmotiv from its source. Yours to edit.
from os import PathLike
from re import Pattern
from typing import TYPE_CHECKING, TypeVar

T = TypeVar('T')
word: Pattern[str]
class Tide:
    @classmethod
    def low(cls) -> int: ...
    def list(self) -> int: ...
    def all(self): ...
class High(_Base):
    def at(self, hour: int, mark: str | None = None) -> float: ...
def open_at(where: Place, gap: str = '    ') -> T: ...
class _Base: ...

if TYPE_CHECKING:
    Place = str | PathLike[str]
from .tables import *
";
    assert_eq!(folder.read("stubs/ferry/__init__.pyi"), expected);
    assert_eq!(folder.run(&["check", "stubs"]).status, 0);
}

/// Whether there is an interpreter to import modules with.
fn has_python() -> bool {
    std::path::Path::new("/usr/bin/python3").exists()
}

const SONAR: &str = "LIMIT = 40\n\ndef sound(depth, ping=3):\n    return depth * ping\n\nclass Echo:\n    def hear(self, at, *, loud=False): ...\n\nglobals()['made'] = 7\n";

#[test]
fn a_stub_is_verified_against_the_module_that_is_imported() {
    if !has_python() {
        return;
    }
    let stub = "LIMIT: str\ndef sound(deep: float, ping: int = 4) -> float: ...\nclass Echo:\n    def hear(self, at: float, loud: bool = ...) -> None: ...\n    def stop(self) -> None: ...\nOLD: int\n";
    let folder = Folder::new(&[("sonar.py", SONAR), ("stubs/sonar.pyi", stub)]);
    let run = folder.run(&["stub", "verify"]);
    assert_eq!(run.status, 1, "{}", run.err);
    let expected = "\
sonar
  LIMIT: `str` in the stub, `40` in the module
    stubs/sonar.pyi:1 and sonar.py
  sound: parameter 1 is `deep` in the stub, `depth` in the module
    stubs/sonar.pyi:2 and sonar.py:3
  sound: `ping` is `4` by default in the stub, `3` in the module
    stubs/sonar.pyi:2 and sonar.py:3
  Echo.hear: `loud` can be given by position in the stub, only by name in the
    module
    stubs/sonar.pyi:4 and sonar.py:7
  Echo.stop: a member of the stub's class that the module's does not have
    stubs/sonar.pyi:5 and sonar.py
  made: a value of the module that the stub does not have
    stubs/sonar.pyi and sonar.py
  OLD: a name of the stub that the module does not have
    stubs/sonar.pyi:6 and sonar.py

7 differences in 1 stub: 4 names and 2 signatures compared; 1 missing, 2 extra,
  2 parameter, 1 default, 1 value. Next: edit the stubs, or keep what is meant
  with --reviewed FILE
";
    assert_eq!(run.out, expected);
    folder.write("reviewed.txt", "extra sonar.OLD: kept for old callers\nextra sonar.Echo.*: to come\n");
    let run = folder.run(&["stub", "verify", "sonar", "--reviewed", "reviewed.txt", "--format", "json"]);
    let all: serde_json::Value = serde_json::from_str(&run.out).unwrap();
    assert_eq!(all[0]["differences"].as_array().unwrap().len(), 5);
    assert_eq!(all[0]["reviewed"], 2);
    assert_eq!(all[0]["differences"][1]["module"]["line"], 3);
    folder.write("reviewed.txt", "extra sonar.OLD\n");
    folder.run(&["stub", "verify", "sonar", "--reviewed", "reviewed.txt"]).refused("line 1 of the reviewed list");
    folder.run(&["stub", "verify", "nowhere"]).refused("there is no module `nowhere`");
}

#[test]
fn what_is_written_is_what_verify_finds() {
    if !has_python() {
        return;
    }
    let folder = Folder::new(&[("sonar.py", SONAR)]);
    folder.run(&["stub", "verify"]).refused("there are no stubs in `stubs`");
    let run = folder.run(&["stub", "write", "sonar", "--from", "both"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(folder.read("stubs/sonar.pyi").contains("made: int\n"));
    let run = folder.run(&["stub", "verify"]);
    assert_eq!((run.status, run.out.as_str()), (0, "0 differences in 1 stub: 5 names and 2 signatures compared.\n"));
}

#[test]
fn machine_code_has_its_stub_from_the_running_module() {
    if !has_python() {
        return;
    }
    let folder = Folder::new(&[("main.py", "import _bisect\n\nprint(_bisect.insort([1], 2))\n")]);
    assert!(folder.run(&["check"]).out.contains("import.untyped"));
    let run = folder.run(&["stub", "write", "_bisect"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(folder.read("stubs/_bisect.pyi").contains("def insort_left(a, x, lo: int = 0"));
    assert!(!folder.run(&["check"]).out.contains("import.untyped"));
    assert_eq!(folder.run(&["stub", "verify", "_bisect"]).status, 0);
    folder.run(&["stub", "write", "json"]).refused("`json` has a stub already");
    folder
        .run(&["--interpreter", "nothing", "check"])
        .refused("there is no interpreter `nothing`, which the command names");
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

#[test]
fn imports_without_types_are_listed_with_what_to_do() {
    let folder = folder();
    folder.write("other.py", "import nowhere\n\nprint(nowhere.x)\n");
    let run = folder.run(&["stub", "list"]);
    let expected = "\
module   state          imported by  unknown  what to do
nowhere  not installed            1        2  install it, or set `interpreter`
tidelib  untyped                  1        0  stub write tidelib --used

2 modules lack types; 2 values are unknown because of that.
  Next: leitmotiv stub write tidelib --used
";
    assert_eq!((run.status, run.out.as_str()), (0, expected), "{}", run.err);
    folder.run(&["stub", "write", "tidelib"]);
    folder.write("venv/lib/python3.11/site-packages/tidelib/py.typed", "");
    let run = folder.run(&["stub", "list", "main.py", "--format", "json"]);
    let all: serde_json::Value = serde_json::from_str(&run.out).unwrap();
    assert_eq!(all[0]["module"], "tidelib");
    assert_eq!(all[0]["state"], "superseded");
    folder.write("other.py", "");
    std::fs::remove_dir_all(folder.path("stubs")).unwrap();
    assert_eq!(folder.run(&["stub", "list"]).out, "Every import has types.\n");
}
