//! `console`, with a script in place of a terminal, and the project's interpreter behind it.

use std::io::Write as _;
use std::process::{Command, Stdio};

use crate::folder::{Folder, Run};

const TIDES: &str = "def high(day: int) -> float:\n    return day * 1.5\n";

/// Runs a script in a project.
#[track_caller]
fn console(folder: &Folder, script: &str) -> Run {
    let mut child = Command::new(env!("CARGO_BIN_EXE_leitmotiv"))
        .arg("console")
        .current_dir(folder.path(""))
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    child.stdin.take().unwrap().write_all(script.as_bytes()).unwrap();
    let output = child.wait_with_output().unwrap();
    Run {
        status: output.status.code().unwrap(),
        out: String::from_utf8(output.stdout).unwrap(),
        err: String::from_utf8(output.stderr).unwrap(),
    }
}

fn project() -> Folder {
    Folder::new(&[("tides.py", TIDES)])
}

#[test]
fn the_type_of_each_input_is_shown_before_its_value() {
    let run = console(&project(), "import tides\nx = [1, 2]\nx\ntides.high(x[0])\nx = 'a'\nprint(x)\n").ok();
    let expected = "> import tides\n> x = [1, 2]\n  x: list[int]\n> x\n  : list[int]\n[1, 2]\n> tides.high(x[0])\n  : float\n1.5\n\
                    > x = 'a'\n  x: str  (was list[int])\n> print(x)\na\n";
    assert_eq!(run.out, expected);
    assert_eq!(run.err, "");
}

#[test]
fn what_has_a_type_error_is_told_and_not_run_unless_it_is_forced() {
    let run = console(&project(), "x = 3\nx.upper()\n!x.upper()\nx + 1\n");
    assert_eq!(run.status, 1);
    let told: Vec<&str> = run.out.lines().collect();
    assert_eq!(told[2], "> x.upper()");
    assert!(told[3].starts_with("input 2:1:1  error  member.absent"), "{}", run.out);
    assert!(run.out.contains("  ○ input 1:1: `x` gets `int`\n"), "{}", run.out);
    assert!(run.out.contains("  not run; with ! in front it runs all the same\n"), "{}", run.out);
    // Once, by the one that was forced.
    assert_eq!(run.out.matches("AttributeError: 'int' object has no attribute 'upper'").count(), 1, "{}", run.out);
    assert!(run.out.contains("File \"<input 2>\", line 1"), "{}", run.out);
    assert!(!run.out.contains("<string>"), "{}", run.out);
    assert!(run.out.ends_with("> x + 1\n  : int\n4\n"), "{}", run.out);
}

#[test]
fn only_what_ran_to_its_end_is_known_after_it() {
    let run = console(&project(), "a = 1; b = int('x'); c = 3\na\nc\n");
    assert!(run.out.contains("ValueError"), "{}", run.out);
    assert!(run.out.contains("> a\n  : int\n1\n"), "{}", run.out);
    assert!(run.out.contains("error  name.undefined"), "{}", run.out);
}

#[test]
fn blocks_and_brackets_of_several_lines_are_one_input() {
    let script = "def fare(age: int) -> int:\n    if age < 14:\n        return 3\n    return 6\n\nfor age in [3, 30]:\n    fare(age)\n\nfares = [\n    fare(3),\n]\n_ = 3\n";
    let run = console(&project(), script).ok();
    assert!(run.out.contains("> def fare(age: int) -> int:\n|     if age < 14:\n"), "{}", run.out);
    assert!(run.out.contains("  fare(age: int) -> int\n"), "{}", run.out);
    assert!(run.out.contains("|     fare(age)\n  age: int\n3\n6\n"), "{}", run.out);
    assert!(run.out.contains("  fares: list[int]\n"), "{}", run.out);
}

#[test]
fn commands_ask_without_running() {
    let script = "import tides\nx = 3\n:type tides.high(x)\n:type tides.high('a')\n:lookup tides.high\n:lookup x\n:names\n:sail\n:type\n:help\n:quit\nprint(3)\n";
    let run = console(&project(), script);
    run.says("> :type tides.high(x)\n  : float\n");
    run.says("call.argument");
    run.says("defined at tides.py:1");
    run.says("> :lookup x\n  x: int\n");
    run.says("> :names\n  x: int\n");
    run.says("there is no command `:sail`; :help lists them");
    run.says(":type wants an expression");
    run.says(":reload MODULE");
    assert!(run.out.ends_with("> :quit\n"), "{}", run.out);
    assert_eq!(run.status, 0);
}

#[test]
fn a_module_is_read_and_imported_anew() {
    let folder = project();
    let script = "import tides, pathlib\ntides.high(2)\n_ = pathlib.Path('tides.py').write_text('def high(day: int) -> str:\\n    return str(day)\\n')\n:reload tides\ntides.high(2)\n:reload ebbs\n";
    let run = console(&folder, script);
    assert!(run.out.contains("> tides.high(2)\n  : float\n3.0\n"), "{}", run.out);
    assert!(run.out.contains("> :reload tides\n> tides.high(2)\n  : str\n'2'\n"), "{}", run.out);
    run.says("there is no module `ebbs` that could be read anew");
}

#[test]
fn an_interpreter_that_ends_is_followed_by_another_one() {
    let run = console(&project(), "x = 3\nimport os\nos._exit(7)\nx\nprint('on')\n");
    run.says("The interpreter ended with status 7. Another one is started; what was bound here is gone.");
    run.says("error  name.undefined");
    assert!(run.out.ends_with("> print('on')\non\n"), "{}", run.out);
    let run = console(&project(), "import os\nos.abort()\nprint('on')\n");
    run.says("The interpreter ended by signal 6");
    assert!(run.out.ends_with("> print('on')\non\n"), "{}", run.out);
    let run = console(&project(), "import sys\nsys.exit(4)\nprint('on')\n");
    assert_eq!((run.status, run.out.ends_with("> sys.exit(4)\n")), (4, true), "{}", run.out);
}

#[test]
fn a_script_that_does_not_parse_is_told() {
    let run = console(&project(), "x = 3\ny = (\n");
    assert_eq!(run.status, 1);
    run.says("syntax.error");
    run.says("> x = 3\n  x: int\n");
}

#[test]
fn a_program_that_the_project_brings_is_not_run() {
    let folder = project();
    folder.write("venv/pyvenv.cfg", "home = /usr/bin\nversion = 3.12.1\n");
    folder.write("venv/bin/python3", "#!/bin/sh\necho sunk\n");
    #[cfg(unix)]
    {
        use std::os::unix::fs::PermissionsExt;
        let path = folder.path("venv/bin/python3");
        std::fs::set_permissions(path, std::fs::Permissions::from_mode(0o755)).unwrap();
    }
    let run = console(&folder, "print(3)\n");
    assert_eq!(run.status, 2, "{}", run.out);
    assert!(run.err.contains("which the project brings; if you trust it, name it"), "{}", run.err);
}
