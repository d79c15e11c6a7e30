//! The ledger keeps its word: promises and debts through renaming, breaking, merging, and attempts to slip by.

use std::process::{Command, Stdio};

use crate::folder::Folder;

const OPTIONAL: &str = "from typing import Optional\ndef get() -> Optional[str]: ...\n";

/// A folder whose `m.py` is held to `none-handled` with one debt in `a`.
fn owing() -> Folder {
    let folder = Folder::new(&[("m.py", &format!("{OPTIONAL}def a():\n    return get().upper()\n"))]);
    assert_eq!(folder.run(&["tighten", "none-handled", "--write"]).status, 0);
    assert_eq!(folder.run(&["check"]).status, 0);
    folder
}

fn git(folder: &Folder, words: &[&str]) {
    folder.git(words, None);
}

fn committed(folder: &Folder) {
    git(folder, &["init", "-q"]);
    git(folder, &["add", "-A"]);
    git(folder, &["commit", "-q", "-m", "x"]);
}

#[test]
fn a_broken_file_pays_no_debts_and_promises_nothing() {
    let folder = owing();
    let whole = folder.read("m.py");
    let ledger = folder.read("leitmotiv.ledger");
    folder.write("m.py", &format!("{whole}def broken(:\n"));
    let run = folder.run(&["tighten", "--write"]);
    assert!(run.out.contains("`m.py` was left as it is") && run.out.contains("Held 0 promises"), "{}", run.out);
    assert_eq!(folder.read("leitmotiv.ledger"), ledger);
    std::fs::write(folder.path("m.py"), b"# \xff\n").unwrap();
    folder.run(&["tighten", "--write"]);
    assert_eq!(folder.read("leitmotiv.ledger"), ledger);
    folder.write("m.py", &whole);
    assert_eq!(folder.run(&["check"]).status, 0);
}

#[test]
fn a_missing_dependency_pays_no_debts() {
    let files = [
        ("m.py", "import dep\ndef a():\n    return dep.get().upper()\n"),
        ("dep.py", OPTIONAL),
        ("leitmotiv.toml", "sources = ['m.py']\n"),
    ];
    let folder = Folder::new(&files);
    folder.run(&["tighten", "none-handled", "--write"]);
    let ledger = folder.read("leitmotiv.ledger");
    assert!(ledger.contains("debt none-handled m.py none.member m.a "), "{ledger}");
    std::fs::rename(folder.path("dep.py"), folder.path("away.py")).unwrap();
    let run = folder.run(&["tighten", "--write"]);
    assert!(run.out.contains("No debt of `m.py` was struck"), "{}", run.out);
    std::fs::rename(folder.path("away.py"), folder.path("dep.py")).unwrap();
    assert_eq!(folder.run(&["check"]).status, 0);
    folder.write("m.py", "import dep\ndef a():\n    return (dep.get() or '').upper()\n");
    assert!(folder.run(&["tighten", "--write"]).out.contains("1 paid"));
}

#[test]
fn signatures_are_owed_function_by_function() {
    let folder = Folder::new(&[("m.py", "def f(x):\n    return x\ndef g(y):\n    return y\n")]);
    folder.run(&["tighten", "full-signatures", "--write"]);
    let ledger = folder.read("leitmotiv.ledger");
    assert!(ledger.contains("annotation.missing m.f ") && ledger.contains("annotation.missing m.g "), "{ledger}");
    // Half of it done is less than is owed; a new function, or a new parameter, is more.
    folder.write("m.py", "def f(x: int):\n    return x\ndef g(y):\n    return y\n");
    assert_eq!(folder.run(&["check"]).status, 0);
    folder.write("m.py", "def f(x: int) -> int:\n    return x\ndef g(y):\n    return y\ndef new(x):\n    return x\n");
    let run = folder.run(&["check"]);
    assert!(run.status == 1 && run.out.contains("`new` has no annotation"), "{}", run.out);
    folder.write("m.py", "def f(x: int) -> int:\n    return x\ndef g(y, z):\n    return y\n");
    assert_eq!(folder.run(&["check"]).status, 1);
}

#[test]
fn a_debt_hides_no_other_finding() {
    let folder = owing();
    let text = format!(
        "{OPTIONAL}def other() -> Optional[int]: ...\ndef a():\n    v = get() or ''\n    return other().bit_length()\n"
    );
    folder.write("m.py", &text);
    let run = folder.run(&["check"]);
    assert!(run.status == 1 && run.out.contains("other().bit_length()"), "{}", run.out);
    // The same expression once more is one more than is owed.
    folder.write("m.py", &format!("{OPTIONAL}def a():\n    get().upper()\n    return get().upper()\n"));
    assert_eq!(folder.run(&["check"]).status, 1);
    // Its layout does not count.
    folder.write("m.py", &format!("{OPTIONAL}\n\ndef a():\n    return (get()\n            .upper())\n"));
    assert_eq!(folder.run(&["check"]).status, 0);
}

#[test]
fn imports_of_what_is_missing_are_counted_and_named() {
    let folder = Folder::new(&[("m.py", "def f():\n    import missing.a\ndef g():\n    import missing.b\n")]);
    folder.run(&["tighten", "known-imports", "--write"]);
    assert_eq!(folder.run(&["check"]).status, 0);
    // One of two left is less than is owed, wherever it stands.
    folder.write("m.py", "def g():\n    import missing.b\n");
    assert_eq!(folder.run(&["check"]).status, 0);
    folder.write("m.py", "import missing.a\nimport missing.b\nimport missing.c\n");
    assert_eq!(folder.run(&["check"]).status, 1);
    folder.write("m.py", "import another\n");
    assert_eq!(folder.run(&["check"]).status, 1);
}

#[test]
fn debts_follow_what_is_renamed_or_moved() {
    let folder = owing();
    folder.write("m.py", &format!("{OPTIONAL}def renamed():\n    return get().upper()\n"));
    assert_eq!(folder.run(&["check"]).status, 0);
    folder.write("n.py", "from m import get\ndef a():\n    return get().upper()\n");
    folder.write("m.py", OPTIONAL);
    assert_eq!(folder.run(&["check", "--set", "none.*=error"]).status, 0);
    // Copied is not moved.
    folder.write("m.py", &format!("{OPTIONAL}def a():\n    return get().upper()\n"));
    assert_eq!(folder.run(&["check", "--set", "none.*=error"]).status, 1);
}

#[test]
fn promises_follow_a_renamed_file_and_never_vanish_without_a_word() {
    let folder = owing();
    committed(&folder);
    std::fs::rename(folder.path("m.py"), folder.path("n.py")).unwrap();
    let run = folder.run(&["check"]);
    assert!(run.status == 0 && run.out.contains("1 owed"), "{}", run.out);
    folder.write("n.py", &format!("{OPTIONAL}def a():\n    return get().lower()\n"));
    assert_eq!(folder.run(&["check"]).status, 1);
    folder.write("n.py", &format!("{OPTIONAL}def a():\n    return get().upper()\n"));
    let run = folder.run(&["check", "--exact"]);
    assert!(run.status == 1 && run.out.contains("`m.py` is `n.py` now"), "{}", run.out);
    let run = folder.run(&["tighten", "--write"]);
    assert!(run.out.contains("`m.py` is `n.py` now"), "{}", run.out);
    assert_eq!(folder.run(&["check", "--exact"]).status, 0, "{}", folder.read("leitmotiv.ledger"));
    assert_eq!(folder.run(&["check"]).status, 0, "{}", folder.read("leitmotiv.ledger"));
    folder.write("n.py", &format!("{OPTIONAL}def a():\n    return get().lower()\n"));
    assert_eq!(folder.run(&["check"]).status, 1);

    let folder = owing();
    committed(&folder);
    std::fs::remove_file(folder.path("m.py")).unwrap();
    folder.write("other.py", "x = 1\n");
    // It may only be missing here.
    let run = folder.run(&["check"]);
    assert!(run.status == 0 && run.out.contains("is not there any more"), "{}", run.out);
    let run = folder.run(&["tighten", "--write"]);
    assert!(run.out.contains("its promises stay until"), "{}", run.out);
    assert!(folder.read("leitmotiv.ledger").contains("hold none-handled m.py"));
    assert_eq!(folder.run(&["check", "--exact"]).status, 1);
    git(&folder, &["rm", "-q", "--cached", "m.py"]);
    let run = folder.run(&["tighten", "--write"]);
    assert!(run.out.contains("The promises of `m.py` were dropped"), "{}", run.out);
    assert!(!folder.read("leitmotiv.ledger").contains("m.py"));
    assert_eq!(folder.run(&["check", "--exact"]).status, 0);
}

#[test]
fn a_whole_package_that_moves_keeps_its_promises() {
    let text = format!("{OPTIONAL}def a():\n    return get().upper()\n");
    let folder = Folder::new(&[("ferry/one.py", &text), ("ferry/two.py", "def b() -> int:\n    return 1\n")]);
    folder.run(&["tighten", "none-handled", "--in", "ferry", "--write"]);
    assert!(folder.read("leitmotiv.ledger").contains("whole none-handled ferry/"));
    committed(&folder);
    std::fs::create_dir(folder.path("lines")).unwrap();
    git(&folder, &["mv", "ferry", "lines/ferries"]);
    git(&folder, &["commit", "-q", "-m", "moved"]);
    assert_eq!(folder.run(&["check"]).status, 0);
    // What is added there is held, too.
    folder.write("lines/ferries/new.py", &text);
    assert_eq!(folder.run(&["check"]).status, 1);
    std::fs::remove_file(folder.path("lines/ferries/new.py")).unwrap();
    folder.run(&["tighten", "--write"]);
    let ledger = folder.read("leitmotiv.ledger");
    assert!(ledger.contains("none.member one.a ") && !ledger.contains(" ferry/"), "{ledger}");
    assert!(ledger.contains("whole none-handled lines/ferries/"), "{ledger}");
    assert_eq!(folder.run(&["check", "--exact"]).status, 0);
}

#[test]
fn a_new_file_is_held_to_what_its_folder_holds_whole() {
    let good = "def b() -> int:\n    return 1\n";
    let bad = format!("{OPTIONAL}def a() -> str:\n    return get().upper()\n");
    let folder =
        Folder::new(&[("ferry/one.py", good), ("ferry/two.py", good), ("part/one.py", good), ("part/two.py", &bad)]);
    folder.run(&["tighten", "--write"]);
    folder.write("part/new.py", &bad);
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 0, "{}", run.out);
    folder.write("ferry/new.py", &bad);
    let run = folder.run(&["check"]);
    assert!(run.status == 1 && run.out.contains("error, held to none-handled"), "{}", run.out);
    // It owes nothing unless somebody says so.
    assert_eq!(folder.run(&["tighten", "--write"]).status, 0);
    assert_eq!(folder.run(&["check"]).status, 1);
    folder.run(&["tighten", "none-handled", "--in", "ferry/new.py", "--write"]);
    assert_eq!(folder.run(&["check"]).status, 0);
}

#[test]
fn what_is_paid_and_not_struck_is_told_where_it_is_to_be_exact() {
    let folder = owing();
    assert_eq!(folder.run(&["check", "--exact"]).status, 0);
    folder.write("m.py", &format!("{OPTIONAL}def a():\n    return (get() or '').upper()\n"));
    assert_eq!(folder.run(&["check"]).status, 0);
    let run = folder.run(&["check", "--exact"]);
    let words = "a debt of `none.member` in `m.a` under none-handled is paid and not struck";
    assert!(run.status == 1 && run.out.contains("leitmotiv.ledger:3") && run.out.contains(words), "{}", run.out);
    folder.run(&["tighten", "--write"]);
    assert_eq!(folder.run(&["check", "--exact"]).status, 0);
    // A merge may leave a line twice: that is nothing wrong, and not exact.
    let ledger = folder.read("leitmotiv.ledger");
    let last = ledger.lines().last().unwrap();
    folder.write("leitmotiv.ledger", &format!("{ledger}{last}\n"));
    assert_eq!(folder.run(&["check"]).status, 0);
    assert!(folder.run(&["check", "--exact"]).out.contains("says already"));
}

#[test]
fn git_merges_what_two_branches_pay_and_promise() {
    let text = |first: &str, second: &str| {
        format!("{OPTIONAL}def a():\n    {first}\n    {first}\n\ndef b():\n    {second}\n    {second}\n")
    };
    let folder =
        Folder::new(&[("m.py", &text("get().upper()", "get().lower()")), ("n.py", "def c():\n    return 1\n")]);
    git(&folder, &["init", "-q", "-b", "main"]);
    let run = folder.run(&["tighten", "none-handled", "--in", "m.py", "--write"]);
    assert!(run.out.contains("`.gitattributes` has the line"), "{}", run.out);
    committed(&folder);
    let commit = |words: &str| {
        git(&folder, &["add", "-A"]);
        git(&folder, &["commit", "-q", "-m", words]);
    };
    git(&folder, &["checkout", "-q", "-b", "first"]);
    folder.write("m.py", &text("get().upper()", "get().lower()").replacen("get().upper()", "get()", 1));
    folder.run(&["tighten", "--in", "m.py", "--write"]);
    commit("first");
    git(&folder, &["checkout", "-q", "-b", "second", "main"]);
    folder.write("m.py", &text("get().upper()", "get().lower()").replacen("get().lower()", "get()", 2));
    folder.run(&["tighten", "full-signatures", "--in", "n.py", "--write"]);
    commit("second");
    git(&folder, &["checkout", "-q", "main"]);
    git(&folder, &["merge", "-q", "--no-edit", "first"]);
    git(&folder, &["merge", "-q", "--no-edit", "second"]);
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 0, "{}{}", run.out, folder.read("leitmotiv.ledger"));
    folder.run(&["tighten", "--in", "m.py", "--write"]);
    let ledger = folder.read("leitmotiv.ledger");
    assert_eq!(ledger.lines().filter(|line| line.starts_with("debt none-handled")).count(), 1, "{ledger}");
    assert_eq!(ledger.lines().filter(|line| line.starts_with("debt full-signatures n.py")).count(), 1, "{ledger}");
    assert_eq!(folder.run(&["check", "--exact"]).status, 0);
}

#[test]
fn what_is_not_looked_at_any_more_is_told() {
    let told = |folder: &Folder, words: &str| {
        let run = folder.run(&["check"]);
        assert!(run.status == 1 && run.out.contains(words), "{words}: {}{}", run.out, run.err);
        assert!(run.out.contains("config.ledger"), "{}", run.out);
    };
    let folder = owing();
    folder.write("leitmotiv.toml", "leave = ['m.py']\n");
    told(&folder, "is not checked any more");
    let folder = owing();
    folder.write(".gitignore", "m.py\n");
    told(&folder, "is not checked any more");
    let folder = owing();
    folder.write("m.py", &format!("# type: ignore\n{}", folder.read("m.py")));
    told(&folder, "a comment at its head hides all");
    for (from, to) in [("none-handled m.py\n", "nune-handled m.py\n"), (" m.py\n", " ./m.py\n")] {
        let folder = owing();
        let ledger = folder.read("leitmotiv.ledger");
        folder.write("leitmotiv.ledger", &ledger.replace(from, to));
        told(&folder, "is held to");
    }
    let folder = owing();
    folder.write("leitmotiv.ledger", "");
    folder.run(&["check"]).refused("does not begin with the line");
    let folder = owing();
    folder.write("leitmotiv.ledger", &folder.read("leitmotiv.ledger").replace('\n', "\r"));
    folder.run(&["check"]).refused("does not begin with the line");
}

#[test]
fn of_runs_at_once_none_loses_what_another_has_written() {
    let folder = owing();
    let names = ["a", "b", "c", "d", "e", "f"];
    for name in names {
        folder.write(&format!("{name}/x.py"), "x = 1\n");
    }
    let spawn = |name: &&str| {
        let mut command = Command::new(env!("CARGO_BIN_EXE_leitmotiv"));
        command.args(["tighten", "--in", name, "--write"]).current_dir(folder.path("")).stdout(Stdio::null());
        (name.to_string(), command.stderr(Stdio::null()).spawn().unwrap())
    };
    let running: Vec<_> = names.iter().map(spawn).collect();
    let ended: Vec<(String, i32)> =
        running.into_iter().map(|(name, mut child)| (name, child.wait().unwrap().code().unwrap())).collect();
    let ledger = folder.read("leitmotiv.ledger");
    assert!(ended.iter().any(|(_, status)| *status == 0), "{ended:?}");
    for (name, status) in ended {
        // One that came too late says so, and has written nothing.
        let is_held = ledger.contains(&format!("hold none-handled {name}/x.py"));
        assert_eq!((status == 0, status == 2), (is_held, !is_held), "{name} {status}: {ledger}");
    }
}

#[test]
fn names_cannot_break_the_file() {
    let names = ["new\nline.py", "the fleet.py", "x\ndebt none-handled m.py none.member m.a 00000000 9.py", "100%.py"];
    let files: Vec<(&str, &str)> = names.iter().map(|name| (*name, "x = 1\n")).collect();
    let folder = Folder::new(&files);
    assert_eq!(folder.run(&["tighten", "--write"]).status, 0);
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 0, "{}{}", run.out, run.err);
    assert!(!folder.read("leitmotiv.ledger").lines().any(|line| line.starts_with("debt")));
    assert!(folder.run(&["tighten", "--write"]).out.contains("Held 0 promises more"));
}

#[test]
fn an_earlier_versions_ledger_is_read_and_becomes_the_present_one() {
    let folder = owing();
    let old = "# Written by `leitmotiv tighten`; commit it, and let the tool change it.\n\
               hold none-handled m.py\ndebt none-handled m.py none.member m.a 1\n";
    folder.write("leitmotiv.ledger", old);
    assert_eq!(folder.run(&["check"]).status, 0);
    folder.run(&["tighten", "--write"]);
    let ledger = folder.read("leitmotiv.ledger");
    assert!(ledger.starts_with("# leitmotiv.ledger 3\n") && !ledger.contains('*'), "{ledger}");
    assert_eq!(folder.run(&["check"]).status, 0);
}

#[test]
fn a_project_can_be_taken_as_it_is() {
    let text = "x: int = 'a'\nundefined\n'a' + 1\n";
    let folder = Folder::new(&[("m.py", text), ("n.py", "y = 1\n")]);
    assert_eq!(folder.run(&["check"]).status, 1);
    let run = folder.run(&["tighten", "--as-it-is", "--write"]);
    assert!(run.status == 0 && run.out.contains("3 debts new"), "{}{}", run.out, run.err);
    let run = folder.run(&["check"]);
    assert!(run.status == 0 && run.out.contains("3 owed"), "{}", run.out);
    // What is new fails, in this file and in others.
    folder.write("m.py", &format!("{text}more\n"));
    let run = folder.run(&["check"]);
    assert!(run.status == 1 && run.out.contains("`more` is not defined") && run.out.contains("1 error"), "{}", run.out);
    folder.write("m.py", "x: int = 1\nundefined\n'a' + 1\n");
    folder.write("n.py", "y: int = 'a'\n");
    assert_eq!(folder.run(&["check"]).status, 1);
    folder.write("n.py", "y = 1\n");
    assert!(folder.run(&["tighten", "--write"]).out.contains("1 paid"));
    folder.write("m.py", text);
    assert_eq!(folder.run(&["check"]).status, 1);
    folder.write("m.py", "x = 1\n");
    folder.run(&["tighten", "--write"]);
    assert!(!folder.read("leitmotiv.ledger").contains("as-it-is"));
}

#[test]
fn what_was_taken_as_it_is_stays_owed_under_another_name() {
    let folder = Folder::new(&[("m.py", "x: int = 'a'\n'a' + 1\n'a' + 1\n")]);
    folder.run(&["tighten", "--as-it-is", "--write"]);
    committed(&folder);
    std::fs::rename(folder.path("m.py"), folder.path("n.py")).unwrap();
    assert!(folder.run(&["tighten", "--write"]).out.contains("`m.py` is `n.py` now"));
    let run = folder.run(&["check"]);
    assert!(run.status == 0 && run.out.contains("3 owed"), "{}{}", run.out, folder.read("leitmotiv.ledger"));
}
