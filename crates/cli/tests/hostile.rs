//! A project that tries to be run, and to be written elsewhere, by every command: docs/security.md says what runs when, and
//! this holds it. Programs that the project brings leave a mark if they are run; those on the search path note that they were.

mod world;

use std::path::Path;

use world::{COMMANDS, SETTINGS, World};

/// What any command may run of what the search path has: an interpreter that does not tell by its place what it is, isolated.
const ASKED: &str = "python3 -I -S";

/// What some run besides: `annotate --write` without `--dirty` asks git what is committed, following files that are gone asks it for what they
/// held, `check --since` what changed, and `survey` how often and by whom.
const RUNS: &[(&str, &str)] = &[
    ("annotate --write", "git "),
    ("tighten --write", "git "),
    ("tighten --write --forget", "git "),
    ("check --since HEAD", "git "),
    ("survey", "git "),
    ("survey --library", "git "),
    ("survey --suppressions", "git "),
    ("survey --layers", "git "),
];

/// Runs a command; what it printed.
fn run(world: &World, words: &[&str]) -> String {
    let output = world.run(Path::new(env!("CARGO_BIN_EXE_leitmotiv")), words);
    assert!(output.status.code().is_some_and(|code| code < 3), "{words:?}: {output:?}");
    String::from_utf8_lossy(&[output.stdout, output.stderr].concat()).into_owned()
}

#[test]
fn nothing_of_the_project_is_run_and_nothing_else_is_written() {
    for settings in SETTINGS {
        let world = World::new(*settings);
        let before = world.around();
        for words in COMMANDS {
            let (said, ran) = (run(&world, words), world.ran());
            assert!(!world.path("PWNED").exists(), "{settings:?} {words:?} ran something: {said}");
            assert_eq!(world.around(), before, "{settings:?} {words:?}: {said}");
            let more = RUNS.iter().find(|(command, _)| words.join(" ") == **command).map(|(_, program)| *program);
            let is_expected = |line: &String| line == ASKED || more.is_some_and(|more| line.starts_with(more));
            assert!(ran.iter().all(is_expected), "{settings:?} {words:?} ran {ran:?}");
            // On one line or another, but never raw: no control character but line ends and tabs, and nothing that turns text.
            let hidden = |char: &char| leitmotiv_syntax::shown::is_hidden(*char) && !matches!(char, '\n' | '\t');
            assert_eq!(said.chars().find(hidden), None, "{settings:?} {words:?}: {said:?}");
        }
        assert!(!Path::new("/tmp/leitmotiv-absolute.py").exists());
    }
}

#[test]
fn what_git_is_asked_of_a_project_with_a_ledger_runs_nothing_of_it() {
    let world = World::new(None);
    std::fs::remove_file(world.path("p/leitmotiv.ledger")).unwrap();
    let said = run(&world, &["tighten", "none-handled", "full-signatures", "--in", "m.py", "--write"]);
    assert!(world.path("p/leitmotiv.ledger").exists(), "{said}");
    world.commit(&["leitmotiv.ledger"]);
    std::fs::remove_file(world.path("PWNED")).ok();
    let renamed = std::fs::read_to_string(world.path("p/m.py")).unwrap();
    std::fs::write(world.path("p/n.py"), renamed).unwrap();
    std::fs::remove_file(world.path("p/m.py")).unwrap();
    let asked: [&[&str]; 6] = [
        &["check", "n.py"],
        &["check", "n.py", "--exact"],
        &["tighten", "--in", "n.py", "--owed"],
        &["survey", "--suppressions"],
        &["report", "n.py", "--history", "2", "--format", "json"],
        &["tighten", "--in", "n.py", "--write"],
    ];
    for words in asked {
        let said = run(&world, words);
        let pwned = std::fs::read_to_string(world.path("PWNED")).unwrap_or_default();
        assert_eq!(pwned, "", "{words:?}: {said}");
        assert!(world.ran().iter().any(|line| line.starts_with("git ")), "{words:?} asked git nothing: {said}");
    }
    assert!(std::fs::read_to_string(world.path("p/leitmotiv.ledger")).unwrap().contains(" n.py"));
}

#[test]
fn importing_runs_what_the_command_line_names_and_says_so_else() {
    let world = World::new(None);
    let said = run(&world, &["stub", "write", "m", "--from", "running"]);
    assert!(said.contains("--interpreter venv/bin/python3"), "{said}");
    assert!(!world.path("PWNED").exists());
    run(&world, &["stub", "write", "m", "--from", "running", "--interpreter", "venv/bin/python3"]);
    assert_eq!(std::fs::read_to_string(world.path("PWNED")).unwrap(), "venv\n");
}
