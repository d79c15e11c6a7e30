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
