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
    assert!(run.out.contains("+from fleet import Vessel") && run.out.contains("+def pick() -> Vessel:"), "{}", run.out);
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
