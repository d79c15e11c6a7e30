//! Bad input gets one clear sentence and status 2, and nothing is lost.

use crate::folder::Folder;

#[test]
fn a_missing_project_folder() {
    let folder = Folder::new(&[]);
    for words in [
        &["survey"][..],
        &["init"],
        &["check"],
        &["annotate"],
        &["tighten"],
        &["explain", "a.py:1"],
        &["lookup", "int"],
        &["stub", "write", "a"],
    ] {
        let mut all = vec!["--project", "nowhere"];
        all.extend(words);
        folder.run(&all).refused("there is no folder `nowhere`");
    }
}

#[test]
fn a_missing_path() {
    let folder = Folder::new(&[("a.py", "x = 1\n")]);
    for command in ["survey", "check", "annotate"] {
        folder.run(&[command, "b.py"]).refused("there is no file or folder `b.py`");
    }
    folder.run(&["tighten", "--in", "b"]).refused("there is no file or folder `b`");
    folder.run(&["explain", "b.py:3"]).refused("there is no file or folder `b.py`");
    folder.run(&["lookup", "b.py:3:1"]).refused("there is no file or folder `b.py`");
    folder.run(&["stub", "write", "nothing"]).refused("there is no module `nothing`");
    folder.run(&["demo", "."]).refused("is there already");
}

#[test]
fn an_unknown_key_rule_demand_or_option() {
    let folder = Folder::new(&[("a.py", "x = 1\n"), ("leitmotiv.toml", "source = ['a']\n")]);
    for command in ["survey", "check", "annotate", "tighten"] {
        folder.run(&[command]).refused("leitmotiv.toml: unknown key `source` (is `sources` meant?)");
    }
    let folder = Folder::new(&[("a.py", "x = 1\n"), ("leitmotiv.toml", "severity = { 'call.argumnt' = 'off' }\n")]);
    folder.run(&["check"]).refused("there is no rule `call.argumnt` (is `call.argument` meant?)");
    let folder = Folder::new(&[("a.py", "x = 1\n")]);
    folder.run(&["check", "--set", "nope.x=error"]).refused("there is no rule `nope.x`");
    folder.run(&["check", "--set", "nope"]).refused("RULE=SEVERITY");
    folder.run(&["check", "--demand", "none-handeled"]).refused("is `none-handled` meant?");
    folder.run(&["tighten", "none-handeled"]).refused("is `none-handled` meant?");
    folder.run(&["explain", "none.membr"]).refused("is `none.member` meant?");
    folder.run(&["check", "--nonsense"]).refused("--nonsense");
    folder.run(&["lookup", "str.splt"]).refused("is `split` meant?");
}

#[test]
fn a_file_that_is_not_utf8_is_reported_and_the_rest_is_checked() {
    let folder = Folder::new(&[("good.py", "undefined\n")]);
    std::fs::write(folder.path("bad.py"), b"x = '\xff'\n").unwrap();
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 1, "{}", run.err);
    assert!(run.out.contains("cannot be read: not valid UTF-8 (byte 5)"), "{}", run.out);
    assert!(run.out.contains("`undefined` is not defined"), "{}", run.out);
    for command in ["survey", "annotate", "tighten"] {
        assert_eq!(folder.run(&[command]).status, 0, "{command}");
    }
}

#[test]
fn a_syntax_fault_is_one_finding_and_stops_nothing() {
    let folder = Folder::new(&[("bad.py", "def f(:\n    return undefined\n"), ("good.py", "x = 1\n")]);
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 1);
    assert!(run.out.contains("not valid Python") && !run.out.contains("`undefined`"), "{}", run.out);
    assert_eq!(folder.run(&["survey"]).status, 0);
    assert_eq!(folder.run(&["annotate"]).status, 0);
    folder.run(&["stub", "write", "bad"]).refused("is not valid Python");
}

#[test]
fn a_broken_ledger_is_told_and_kept() {
    let folder = Folder::new(&[("a.py", "x = 1\n"), ("leitmotiv.ledger", "<<<<<<< ours\n")]);
    for command in ["check", "tighten"] {
        folder.run(&[command]).refused("`leitmotiv.ledger` line 1 is a conflict marker");
    }
    // What needs no ledger is not in its way.
    for words in [&["survey"][..], &["annotate"], &["lookup", "int"], &["stub", "list"]] {
        assert_eq!(folder.run(words).status, 0, "{words:?}");
    }
    assert_eq!(folder.read("leitmotiv.ledger"), "<<<<<<< ours\n");
}

#[test]
fn a_read_only_target_is_refused_and_nothing_is_half_written() {
    let folder = Folder::new(&[("a.py", "def f():\n    return 1\n"), ("b.py", "def g():\n    return 1\n")]);
    let mut permissions = std::fs::metadata(folder.path("b.py")).unwrap().permissions();
    permissions.set_readonly(true);
    std::fs::set_permissions(folder.path("b.py"), permissions).unwrap();
    folder.run(&["annotate", "--write", "--dirty"]).refused("read-only");
    assert_eq!(folder.read("a.py"), "def f():\n    return 1\n");
    assert!(!folder.path(".leitmotiv").join("last-run.json").exists());
}

#[test]
fn an_unreadable_configuration_is_told() {
    let folder = Folder::new(&[("a.py", "x = 1\n")]);
    folder.run(&["--config", "nothing.toml", "check"]).refused("cannot read `nothing.toml`");
    folder.write("leitmotiv.toml", "sources = [\n");
    folder.run(&["check"]).refused("not valid TOML");
    folder.write("leitmotiv.toml", "leave = ['[']\n");
    folder.run(&["check"]).refused("not a valid pattern");
    folder.write("leitmotiv.toml", "interpreter = 'gone'\n");
    folder.run(&["check"]).refused("there is no interpreter `gone`, which the configuration names");
}
