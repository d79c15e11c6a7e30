use crate::folder::Folder;

#[test]
fn names_and_places_are_answered() {
    let folder = Folder::new(&[(
        "a.py",
        "class Vessel:\n    depth = 3\n\n    def moor(self, berth: int) -> str:\n        return ''\n\n\nv = Vessel()\nv.moor(3)\n",
    )]);
    let run = folder.run(&["lookup", "a.Vessel"]);
    assert!(run.out.contains("type: type[Vessel]") && run.out.contains("defined at a.py:1"), "{}", run.out);
    assert!(run.out.contains("depth   Vessel  int"), "{}", run.out);
    let run = folder.run(&["lookup", "a.py:9:3"]);
    assert!(
        run.out.contains("(berth: int) -> str") || run.out.contains("(self: Vessel, berth: int) -> str"),
        "{}",
        run.out
    );
    let run = folder.run(&["lookup", "a.py:8:1"]);
    assert!(run.out.contains("Vessel"), "{}", run.out);
    let run = folder.run(&["lookup", "dict.get"]);
    assert_eq!(run.out.lines().filter(|line| line.contains("->")).count(), 4, "{}", run.out);
    folder.run(&["lookup", "a.py:99:1"]).refused("has no line 99");
}

#[test]
fn aliases_are_opened_step_by_step_and_parameters_listed() {
    let folder = Folder::new(&[
        ("fleet/__init__.py", "from .hulls import Hull as Vessel\n\nFlagship = Vessel\n"),
        (
            "fleet/hulls.py",
            "class Hull: ...\n\ndef moor(hull: Hull, /, at: int = 3, *rest: str, safe: bool = True) -> None: ...\n",
        ),
    ]);
    let run = folder.run(&["lookup", "fleet.Flagship"]);
    let expected = "\
fleet.Flagship
  type: type[Hull]
  fleet/__init__.py:3: another name for `Vessel`
  fleet/__init__.py:1: `Hull` of `fleet.hulls`, under another name
  defined at fleet/hulls.py:1
    class Hull: ...
  in the project's own source, found before anything that is installed
Next: leitmotiv lookup FILE:LINE:COL asks about any expression
";
    assert_eq!(run.out, expected);
    let run = folder.run(&["lookup", "fleet.hulls.moor"]);
    let expected = "\
parameter  type  default  given
hull       Hull           by position
at         int   3        by position or name
*rest      str            any more by position
safe       bool  True     by name
";
    assert!(run.out.ends_with(expected), "{}", run.out);
}

#[test]
fn what_two_classes_have_in_common_is_told() {
    let folder = Folder::new(&[(
        "fleet.py",
        "class Vessel: ...\nclass Ferry(Vessel):\n    def __len__(self) -> int: ...\nclass Tender(Vessel):\n    def __len__(self) -> int: ...\nLIMIT = 3\n",
    )]);
    let run = folder.run(&["lookup", "--common", "fleet.Ferry", "fleet.Tender"]);
    assert_eq!(
        run.out, "fleet.Ferry and fleet.Tender\n  both are: Vessel, fleet.py:1\n  both fit: Sized\n",
        "{}",
        run.err
    );
    let run = folder.run(&["lookup", "--common", "bool", "int"]);
    assert!(run.out.starts_with("bool and int\n  both are: int, <bundle>/builtins.pyi:"), "{}", run.out);
    folder.run(&["lookup", "--common", "fleet.Ferry", "fleet.LIMIT"]).refused("`fleet.LIMIT` is no class");
    folder.run(&["lookup", "--common", "fleet.Ferry"]).refused("2 values required");
}

#[test]
fn what_nobody_annotated_is_told_with_its_evidence() {
    let folder = Folder::new(&[(
        "ferry.py",
        "def label(name, berth: int):\n    return name.upper()\n\n\nlabel(\"Gannet\", 3)\n",
    )]);
    let run = folder.run(&["lookup", "ferry.label"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(run.out.contains("What evidence says\n  label(name: str)  fair\n"), "{}", run.out);
    assert!(run.out.contains("    ferry.py:5  \"Gannet\" is passed: str\n"), "{}", run.out);
    assert!(run.out.contains("  label() -> str  fair\n") && !run.out.contains("label(berth"), "{}", run.out);
    assert!(run.out.ends_with("Next: leitmotiv annotate ferry.py --functions ferry.label\n"), "{}", run.out);
    assert!(
        folder
            .run(&["annotate", "ferry.py", "--functions", "ferry.label"])
            .out
            .contains("+def label(name: str, berth: int) -> str:")
    );
    // The name of a parameter where it is bound: its own evidence, and none where it is annotated.
    let run = folder.run(&["lookup", "ferry.py:1:11"]);
    assert!(run.out.starts_with("name\n") && run.out.contains("label(name: str)"), "{}", run.out);
    assert!(!run.out.contains("-> str"), "{}", run.out);
    let run = folder.run(&["lookup", "ferry.py:1:17"]);
    assert!(run.out.starts_with("berth\n  type: int\n") && !run.out.contains("evidence"), "{}", run.out);
}
