use crate::folder::Folder;

const BAD: &str = "def find(name: str) -> str | None:\n    return name or None\n\n\ndef shout(name: str) -> str:\n    return find(name).upper()\n";

fn folder() -> Folder {
    Folder::new(&[
        ("ferry/__init__.py", ""),
        ("ferry/good.py", "def f() -> int:\n    return 1\n"),
        ("ferry/bad.py", BAD),
    ])
}

#[test]
fn costs_are_shown_before_anything_is_asked() {
    let folder = folder();
    let run = folder.run(&["tighten", "none-handled"]);
    assert_eq!(run.status, 0, "{}", run.err);
    assert!(run.out.contains("ferry/       3     0         2        1     0"), "{}", run.out);
    assert!(!folder.path("leitmotiv.ledger").exists());
}

#[test]
fn free_holds_are_recorded_and_enforced() {
    let folder = folder();
    folder.run(&["tighten", "--write"]);
    let ledger = folder.read("leitmotiv.ledger");
    assert!(
        ledger.contains("hold none-handled ferry/good.py") && !ledger.contains("hold none-handled ferry/bad.py"),
        "{ledger}"
    );
    assert_eq!(folder.run(&["check"]).status, 0);
    folder.write("ferry/good.py", BAD);
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 1);
    assert!(run.out.contains("error, held to none-handled"), "{}", run.out);
}

#[test]
fn debts_are_tolerated_counted_and_struck_when_paid() {
    let folder = folder();
    let run = folder.run(&["tighten", "none-handled", "--write"]);
    assert!(run.out.contains("1 debt new"), "{}", run.out);
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 0, "{}", run.out);
    assert!(run.out.contains("1 owed") && !run.out.contains("none.member"), "{}", run.out);
    assert!(folder.run(&["check", "--owed"]).out.contains("error, held to none-handled, owed"));
    // One more of the kind is new.
    folder.write("ferry/bad.py", &format!("{BAD}\n\ndef again(name: str) -> str:\n    return find(name).upper()\n"));
    assert_eq!(folder.run(&["check"]).status, 1);
    folder.write("ferry/bad.py", "def find(name: str) -> str:\n    return name\n");
    let run = folder.run(&["tighten", "--write"]);
    assert!(run.out.contains("1 paid"), "{}", run.out);
    assert!(!folder.read("leitmotiv.ledger").contains("debt"));
}
