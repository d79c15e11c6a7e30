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

#[test]
fn a_stub_that_cannot_be_read_or_parsed_is_kept() {
    let folder = Folder::new(&[("m.py", "def a(x=1):\n    return 1\n"), ("stubs/keep", "")]);
    let stub = folder.path("stubs/m.pyi");
    for (bytes, words) in [
        (&b"# \xff by hand\ndef a(x: int = ...) -> float: ...\n"[..], "cannot be read"),
        (b"# -*- coding: koi8-r -*-\n# \xff\n", "cannot be read"),
        (b"def a(:\n", "is not valid Python"),
    ] {
        std::fs::write(&stub, bytes).unwrap();
        folder.run(&["stub", "write", "m", "--from", "source"]).refused(words);
        assert_eq!(std::fs::read(&stub).unwrap(), bytes);
    }
    // One that declares Latin-1 stays in it.
    std::fs::write(&stub, b"# -*- coding: latin-1 -*-\n# \xff by hand\n").unwrap();
    assert_eq!(folder.run(&["stub", "write", "m", "--from", "source"]).status, 0);
    let after = std::fs::read(&stub).unwrap();
    assert!(after.starts_with(b"# -*- coding: latin-1 -*-\n# \xff by hand\n") && after.len() > 50);
    assert_eq!(folder.run(&["stub", "write", "--undo"]).status, 0);
    assert_eq!(std::fs::read(&stub).unwrap(), b"# -*- coding: latin-1 -*-\n# \xff by hand\n");
}

#[cfg(unix)]
#[test]
fn pipes_devices_and_endless_files_are_told_and_nothing_hangs() {
    use std::os::unix::fs::symlink;
    let pipe = |folder: &Folder, path: &str| {
        let made = std::process::Command::new("mkfifo").arg(folder.path(path)).status();
        assert!(made.is_ok_and(|status| status.success()));
    };
    let folder = Folder::new(&[("m.py", "import x\nimport pkg\n"), ("pkg/a.py", ""), (".venv/a", "")]);
    for path in ["x.py", "pkg/__init__.py", ".venv/pyvenv.cfg", ".gitignore"] {
        pipe(&folder, path);
    }
    let run = folder.run(&["check"]);
    assert!(run.status == 1 && run.out.contains("there is no module `x`"), "{}{}", run.out, run.err);
    folder.run(&["check", "x.py"]).refused("is not a regular file");
    for path in ["leitmotiv.toml", "pyproject.toml", "leitmotiv.ledger"] {
        let folder = Folder::new(&[("m.py", "x = 1\n")]);
        pipe(&folder, path);
        folder.run(&["check"]).refused("it is not a regular file");
        let folder = Folder::new(&[("m.py", "x = 1\n")]);
        symlink("/dev/zero", folder.path(path)).unwrap();
        folder.run(&["check"]).refused("it is not a regular file");
    }
    let folder = Folder::new(&[("m.py", "x = 1\n")]);
    symlink("/dev/zero", folder.path("z.py")).unwrap();
    symlink("/dev/zero", folder.path(".gitignore")).unwrap();
    assert_eq!(folder.run(&["check"]).status, 0);
    std::fs::File::create(folder.path("large.py")).unwrap().set_len(3 << 30).unwrap();
    let run = folder.run(&["check"]);
    assert!(run.status == 1 && run.out.contains("it is larger than 64 MB"), "{}", run.out);
}

#[test]
fn names_with_backslashes_are_names() {
    let folder = Folder::new(&[
        ("a\\b.py", "def f(n=1):\n    return 1\n"),
        ("a/b.py", "import os\n\n\ndef other(q):\n    return q.n\n"),
    ]);
    assert_eq!(folder.run(&["annotate", "--write", "--dirty"]).status, 0);
    assert_eq!(folder.read("a\\b.py"), "def f(n: int = 1) -> int:\n    return 1\n");
    assert_eq!(folder.read("a/b.py"), "import os\n\n\ndef other(q):\n    return q.n\n");
}
