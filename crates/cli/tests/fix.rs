use crate::folder::Folder;

const MODULE: &str = "\
x: int = None


def moor(berth: \"int\") -> str:
    if berth:
        return \"x\" * berth
    return None


def call(port: str) -> None:
    print(port.upper())


def log(port: str, tide: \"int\" = 3) -> None:
    print(port, tide)


call(None)
log(None, tide=None)
log(3)
y = 3  # leitmotiv: allow(value.assign) once needed
# leitmotiv: allow(call.argument) nothing
z: str = 4  # leitmotiv: allow(value.assign) needed


def ferries(names: Iterable[str], find: Callable[[str], int]) -> Sequence[int]:
    return [find(name) for name in names]


print(moor(3).upper())
";

const FIXED: &str = "\
from collections.abc import Callable, Iterable, Sequence

x: int | None = None


def moor(berth: \"int\") -> str:
    if berth:
        return \"x\" * berth
    return None


def call(port: str) -> None:
    print(port.upper())


def log(port: str | None, tide: \"int | None\" = 3) -> None:
    print(port, tide)


call(None)
log(None, tide=None)
log(3)
y = 3
z: str = 4  # leitmotiv: allow(value.assign) needed


def ferries(names: Iterable[str], find: Callable[[str], int]) -> Sequence[int]:
    return [find(name) for name in names]


print(moor(3).upper())
";

#[test]
fn what_changes_nothing_at_run_time_is_written_and_proved() {
    let folder = Folder::new(&[("ferry.py", MODULE)]);
    let shown = folder.run(&["fix"]);
    assert_eq!(shown.status, 0, "{}", shown.err);
    assert!(
        shown.out.contains("\n-x: int = None\n") && shown.out.contains("Not written: 8 fixes in 1 file."),
        "{}",
        shown.out
    );
    assert_eq!(folder.read("ferry.py"), MODULE, "nothing is written unasked");
    let listed = folder.run(&["fix", "--list"]).out;
    // What would bring another finding is left out, and says which.
    let left_out = "ferry.py:7  value.return\n  declare `str | None` in place of `str` (line 4)\n  left out: ferry.py:30 `moor(3)` may be None here";
    assert!(listed.contains(left_out), "{listed}");
    let written = folder.run(&["fix", "--write", "--dirty"]);
    assert_eq!(written.status, 0, "{}", written.err);
    assert_eq!(folder.read("ferry.py"), FIXED);
    let again = folder.run(&["fix", "--write", "--dirty"]);
    assert!(again.out.starts_with("no fix. "), "{}", again.out);
    assert_eq!(folder.run(&["fix", "--undo"]).status, 0);
    assert_eq!(folder.read("ferry.py"), MODULE);
}

#[test]
fn tests_ask_nothing_of_what_they_test() {
    let ferry = "import typing as t\n\n\ndef log(port: str) -> None:\n    print(port)\n";
    let folder = Folder::new(&[("ferry.py", ferry), ("tests/test_ferry.py", "from ferry import log\n\nlog(None)\n")]);
    folder.write("leitmotiv.toml", "python = '3.9'\n");
    assert!(folder.run(&["fix"]).out.starts_with("no fix. 1 finding needs a person."));
    folder.write("desk.py", "from ferry import log\n\nlog(None)\n");
    let run = folder.run(&["fix"]);
    assert!(run.out.contains("+def log(port: t.Optional[str]) -> None:\n"), "{}", run.out);
}

#[test]
fn some_rules_or_files_alone_and_old_versions() {
    let folder = Folder::new(&[
        ("ferry.py", MODULE),
        ("crew.py", "x: int = None\r\ny = 1  # leitmotiv: allow(value.assign) x\r\n"),
    ]);
    folder.write("leitmotiv.toml", "python = '3.9'\n");
    let run = folder.run(&["fix", "crew.py", "--rule", "value.*", "--write", "--dirty"]);
    assert_eq!(run.status, 0, "{}", run.err);
    let expected =
        "from typing import Optional\r\n\r\nx: Optional[int] = None\r\ny = 1  # leitmotiv: allow(value.assign) x\r\n";
    assert_eq!(folder.read("crew.py"), expected);
    assert_eq!(folder.read("ferry.py"), MODULE);
    folder.run(&["fix", "--rule", "tide.*"]).refused("there is no rule or family `tide.*`");
    folder.run(&["fix", "--write", "--undo"]).refused("cannot be used with");
    folder.run(&["fix", "--write"]).refused("is not under version control");
}
