use crate::folder::Folder;

const MODULE: &str = "\"\"\"Fares.\"\"\"\r\n\r\ndef fare(minutes, rate=4, child=False):\r\n    return 3 * rate\r\n\r\n\r\nclass Desk:\r\n    def __init__(self, name):\r\n        self.name = name\r\n";

#[test]
fn a_diff_is_shown_and_nothing_written() {
    let folder = Folder::new(&[("fares.py", MODULE)]);
    let run = folder.run(&["annotate"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(run.out.contains("+def fare(minutes, rate: int = 4, child: bool = False)"), "{}", run.out);
    assert!(run.out.contains("def __init__(self, name) -> None:"), "{}", run.out);
    assert!(run.out.ends_with("in 1 file, not written. Next: leitmotiv annotate --write\n"), "{}", run.out);
    assert_eq!(folder.read("fares.py"), MODULE);
}

#[test]
fn writing_keeps_every_other_byte_and_can_be_taken_back() {
    let folder = Folder::new(&[("fares.py", MODULE)]);
    folder.run(&["annotate", "--write"]).refused("not under version control");
    let run = folder.run(&["annotate", "--write", "--dirty"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let after = folder.read("fares.py");
    assert!(after.contains("rate: int = 4, child: bool = False)"), "{after}");
    assert_eq!(after.matches("\r\n").count(), MODULE.matches("\r\n").count());
    assert_eq!(folder.run(&["annotate", "--undo"]).status, 0);
    assert_eq!(folder.read("fares.py"), MODULE);
    folder.run(&["annotate", "--undo"]).refused("no earlier run");
}

#[test]
fn the_evidence_can_be_seen_and_chosen() {
    let folder = Folder::new(&[("fares.py", MODULE)]);
    let run = folder.run(&["annotate", "--why", "--from", "defaults", "--functions", "fare"]);
    assert!(run.out.contains("fares.fare(rate: int)") && run.out.contains("the default is 4"), "{}", run.out);
    assert!(!run.out.contains("-> None"), "{}", run.out);
    let run = folder.run(&["annotate", "--at-least", "sure"]);
    assert!(run.out.contains("-> None") && !run.out.contains("rate: int"), "{}", run.out);
}

#[test]
fn imports_that_are_needed_come_along() {
    let folder = Folder::new(&[
        ("fleet.py", "class Vessel:\n    pass\n\n\ndef make():\n    return Vessel()\n"),
        ("desk.py", "import fleet\n\n\ndef pick():\n    return fleet.make()\n"),
    ]);
    let run = folder.run(&["annotate", "desk.py"]);
    assert!(run.out.contains("+def pick() -> fleet.Vessel:"), "{}", run.out);
    let folder = Folder::new(&[("desk.py", "def pick(n=2):\n    for i in range(n):\n        yield i\n")]);
    let run = folder.run(&["annotate"]);
    assert!(run.out.contains("+from collections.abc import Iterator\n"), "{}", run.out);
    assert!(run.out.contains("+def pick(n: int = 2) -> Iterator[int]:"), "{}", run.out);
}

#[test]
fn what_other_code_contradicts_is_left_out() {
    let folder = Folder::new(&[(
        "fares.py",
        "def label(price=0):\n    return str(price)\n\n\ndef count(n=1):\n    return n\n\n\nlabel(\"free\")\ncount(2)\n",
    )]);
    let run = folder.run(&["annotate", "--from", "defaults"]);
    assert!(run.out.contains("+def count(n: int = 1)") && !run.out.contains("price: int"), "{}", run.out);
    assert!(run.out.contains("1 left out, because other code contradicts"), "{}", run.out);
}

#[test]
fn names_that_are_bound_later_are_quoted_so_that_the_module_still_imports() {
    let text = "class Route:\n    def back(self):\n        return Route()\n\n    def vessel(self):\n        return Vessel()\n\n\ndef make():\n    return Vessel()\n\n\nclass Vessel:\n    def route(self):\n        return Route()\n";
    let folder = Folder::new(&[("ferry.py", text)]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    let written = folder.read("ferry.py");
    for line in [
        "def back(self) -> \"Route\":",
        "def vessel(self) -> \"Vessel\":",
        "def make() -> \"Vessel\":",
        "def route(self) -> Route:",
    ] {
        assert!(written.contains(line), "{line}\n{written}");
    }
    let python = std::process::Command::new("python3").arg(folder.path("ferry.py")).status().unwrap();
    assert!(python.success(), "{written}");
}

#[test]
fn postponed_annotations_need_no_quotes() {
    let text =
        "from __future__ import annotations\n\n\ndef make():\n    return Vessel()\n\n\nclass Vessel:\n    pass\n";
    let folder = Folder::new(&[("ferry.py", text)]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    assert!(folder.read("ferry.py").contains("def make() -> Vessel:"));
}

#[test]
fn what_is_written_can_be_evaluated_where_it_stands() {
    let text = "class Vessel:\n    pass\n\n\nclass Fleet:\n    def Vessel(self):\n        return 3\n\n    def make(self):\n        return make()\n\n    def names(self):\n        return {\"Tern\": 1}.keys()\n\n    def pairs(self):\n        return zip([1], [\"a\"])\n\n\ndef make():\n    return Vessel()\n";
    let folder = Folder::new(&[("ferry.py", text)]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    let written = folder.read("ferry.py");
    // In the class, the name means the method; of the others, one has another name, and one is no class to subscript.
    for line in [
        "def make(self):\n",
        "def names(self) -> KeysView[str]:\n",
        "def pairs(self) -> \"zip[tuple[int, str]]\":\n",
        "def make() -> Vessel:\n",
    ] {
        assert!(written.contains(line), "{line}\n{written}");
    }
    let python = std::process::Command::new("python3").arg(folder.path("ferry.py")).status().unwrap();
    assert!(python.success(), "{written}");
}

#[test]
fn classes_of_the_project_are_imported_for_the_checker_only() {
    let folder = Folder::new(&[
        ("fleet/__init__.py", ""),
        (
            "fleet/vessel.py",
            "\"\"\"Vessels.\"\"\"\n\nimport datetime\n\n\nclass Vessel:\n    pass\n\n\ndef sailing():\n    from fleet.berth import free\n    return free()\n\n\ndef today():\n    return datetime.date.today()\n",
        ),
        (
            "fleet/berth.py",
            "from fleet.vessel import Vessel\n\n\nclass Berth:\n    vessel = Vessel()\n\n\ndef free():\n    return Berth()\n",
        ),
    ]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    // Importing `Berth` for real would make a circle of imports.
    let written = folder.read("fleet/vessel.py");
    let head = "\"\"\"Vessels.\"\"\"\n\nimport datetime\nfrom typing import TYPE_CHECKING\n\nif TYPE_CHECKING:\n    from fleet.berth import Berth\n\n\nclass Vessel:";
    assert!(written.starts_with(head), "{written}");
    assert!(written.contains("def sailing() -> \"Berth\":"), "{written}");
    assert!(written.contains("def today() -> datetime.date:"), "{written}");
    let run = |code: &str| {
        let mut command = std::process::Command::new("python3");
        command.args(["-c", code]).current_dir(folder.path("")).env("PYTHONDONTWRITEBYTECODE", "1").status().unwrap()
    };
    assert!(run("import fleet.vessel, fleet.berth").success(), "{written}");
    assert!(run("import fleet.berth, fleet.vessel").success(), "{written}");
    assert_eq!(folder.run(&["check", "--quiet"]).status, 0);
}

#[test]
fn a_block_for_the_checker_that_is_there_is_used() {
    let folder = Folder::new(&[
        ("berth.py", "class Berth:\n    pass\n\n\ndef free():\n    return Berth()\n"),
        (
            "vessel.py",
            "from typing import TYPE_CHECKING\n\nimport berth as places\n\nif TYPE_CHECKING:\n    from decimal import Decimal\n\n\ndef find(fare: \"Decimal\"):\n    return places.free()\n",
        ),
    ]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    let written = folder.read("vessel.py");
    let block = "if TYPE_CHECKING:\n    from berth import Berth\n    from decimal import Decimal\n";
    assert!(written.contains(block), "{written}");
    assert!(written.contains("def find(fare: \"Decimal\") -> \"Berth\":"), "{written}");
}

#[test]
fn a_function_that_gives_itself_has_an_end() {
    let text = "def ring(call):\n    def again(other):\n        return again\n    return again\n";
    let folder = Folder::new(&[("ferry.py", text)]);
    let run = folder.run(&["annotate", "--why", "--at-least", "low"]);
    assert_eq!(run.status, 0, "{}", run.err);
}

#[test]
fn what_gives_itself_and_tuples_of_any_length_are_written_as_such() {
    let folder = Folder::new(&[
        ("leitmotiv.toml", "python = '3.11'\n"),
        (
            "fleet.py",
            "class Vessel:\n    def __enter__(self):\n        return self\n\n    def __exit__(self, *why):\n        pass\n\n\n\
             class Ferry(Vessel):\n    def load(self) -> int:\n        return 1\n\n\n\
             def loaded():\n    with Ferry() as ferry:\n        return ferry.load()\n\n\ndef row(names: list[int]):\n    return tuple(names)\n",
        ),
    ]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    let text = folder.read("fleet.py");
    assert!(text.contains("from typing import Self\n") && text.contains("def __enter__(self) -> Self:"), "{text}");
    assert!(text.contains("-> tuple[int, ...]:") && text.contains("def loaded() -> int:"), "{text}");
    assert_eq!(folder.run(&["check"]).status, 0);
}

#[test]
fn other_files_contradict_whatever_was_asked_for_and_the_hint_is_about_the_same() {
    let folder = Folder::new(&[
        ("fares.py", "def pad(always=False):\n    return 4\n\n\ndef rate():\n    return 3\n"),
        ("desk.py", "from fares import pad\npad(\"yes\")\n"),
    ]);
    let run = folder.run(&["annotate", "fares.py", "--at-least", "low"]);
    assert!(!run.out.contains("always: bool") && run.out.contains("+def rate() -> int:"), "{}", run.out);
    assert!(run.out.ends_with("Next: leitmotiv annotate fares.py --at-least low --write\n"), "{}", run.out);
}

#[test]
fn methods_for_subclasses_are_not_annotated_from_their_own_body_alone() {
    let folder = Folder::new(&[
        (
            "desk.py",
            "class Desk:\n    def title(self):\n        return None\n\n    def size(self):\n        return 3\n\n    def fee(self):\n        \"\"\"The fee.\n\n        :rtype: float\n        \"\"\"\n        return 0\n\n    def open(self):\n        raise TypeError(\"closed\")\n\n    def close(self):\n        return False\n\n    def share(self):\n        return 0\n",
        ),
        (
            "bar.py",
            "from desk import Desk\n\n\nclass Bar(Desk):\n    def title(self):\n        return \"Bar\"\n\n    def size(self):\n        return 4\n\n    def open(self):\n        return 1\n\n    def share(self):\n        return 0.5\n",
        ),
    ]);
    let run = folder.run(&["annotate", "desk.py"]);
    for method in ["size(self) -> int", "close(self) -> bool"] {
        assert!(run.out.contains(&format!("+    def {method}:")), "{}", run.out);
    }
    assert!(!run.out.contains("def title(self) ->") && !run.out.contains("def share(self) ->"), "{}", run.out);
    let run = folder.run(&["annotate", "--why", "--at-least", "low", "desk.py"]);
    assert!(run.out.contains("the docstring says float"), "{}", run.out);
    assert!(run.out.contains("`Bar` gives float"), "{}", run.out);
}

#[test]
fn reasons_come_in_the_order_of_the_text_whichever_round_found_them() {
    let run = Folder::demo().run(&["annotate", "skerry/fleet.py", "--why"]);
    let functions = run.out.lines().filter_map(|line| line.strip_prefix("skerry.fleet."));
    let mut functions: Vec<&str> = functions.filter_map(|line| line.split('(').next()).collect();
    functions.dedup();
    let all = ["load", "add", "find", "all_vessels", "in_service", "flagship", "withdraw", "total_capacity"];
    assert_eq!(functions, all, "{}", run.out);
}
