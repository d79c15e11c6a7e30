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
    assert!(run.out.contains("package  a\nferry/   1\n"), "{}", run.out);
    assert!(run.out.contains("a  none-handled  1 cheap (1 finding in 1 file)"), "{}", run.out);
    assert!(run.out.contains("1. Hold what is free: 2 promises are kept already, in 1 package."), "{}", run.out);
    assert!(run.out.lines().all(|line| line.chars().count() <= 80), "{}", run.out);
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

#[test]
fn what_is_nearest_works_as_printed() {
    let text = "class Vessel:\n    def length(self) -> int:\n        return 10\n\n\nclass Barge(Vessel):\n    def length(self) -> int:\n        return 30\n";
    let folder = Folder::new(&[("ferry/barge.py", text), ("leitmotiv.toml", "python = '3.12'\n")]);
    let mut seen = Vec::new();
    for _ in 0..6 {
        let run = folder.run(&["tighten"]);
        let Some((_, next)) = run.out.split_once("Next: leitmotiv ") else { panic!("{}", run.out) };
        let mut words: Vec<&str> = next.lines().next().unwrap().split(' ').collect();
        seen.push(words.join(" "));
        if words == ["check", "--exact"] {
            break;
        }
        if words[0] == "fix" {
            words.push("--dirty");
        }
        let run = folder.run(&words);
        assert_eq!(run.status, 0, "{words:?} {}{}", run.out, run.err);
    }
    let fix = "fix ferry/ --demand marked-overrides --write";
    assert_eq!(seen, ["tighten --write", fix, "tighten --write", "check --exact"]);
    assert_eq!(folder.run(&["check", "--exact"]).status, 0);
    assert!(folder.read("ferry/barge.py").contains("    @override\n    def length"));
}

#[test]
fn debts_are_listed_with_their_age_and_who_touched_the_code() {
    let folder = folder();
    folder.git(&["init", "-q"], None);
    folder.run(&["tighten", "none-handled", "--write"]);
    folder.git(&["add", "-A"], None);
    folder.git(&["commit", "-q", "-m", "x"], Some("2019-03-01"));
    let run = folder.run(&["tighten", "--owed"]);
    assert!(run.out.contains("ferry/  1 debt") && run.out.contains("ferry/bad.py:6"), "{}", run.out);
    assert!(run.out.contains("years") && run.out.contains("Isla"), "{}", run.out);
    let run = folder.run(&["tighten", "--owed", "--format", "json"]);
    assert!(run.out.contains("\"since\": 17956") && run.out.contains("\"demand\": \"none-handled\""), "{}", run.out);
}
