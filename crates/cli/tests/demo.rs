use crate::folder::Folder;

#[test]
fn the_journey_runs_to_its_end_and_can_be_kept() {
    let folder = Folder::new(&[]);
    let run = folder.run(&["demo", "kept"]);
    assert_eq!(run.status, 0, "{}\n{}", run.out, run.err);
    // Test runners speak on standard error.
    assert!(run.err.contains("OK") && run.err.lines().last().unwrap().starts_with("leitmotiv: saw "), "{}", run.err);
    assert_eq!(run.err.matches("leitmotiv: ").count(), 1, "{}", run.err);
    for words in [
        "$ leitmotiv survey",
        "int · 2 calls, from 2 places",
        "passed `str`",
        "$ leitmotiv annotate --undo",
        "$ leitmotiv tighten --write",
        "2 owed",
    ] {
        assert!(run.out.contains(words), "{words}\n{}", run.out);
    }
    assert!(folder.path("kept/leitmotiv.ledger").exists() && folder.path("kept/stubs/tidelib/__init__.pyi").exists());
}

#[test]
fn the_demo_project_runs_and_passes_its_own_tests() {
    let folder = Folder::demo();
    let python = |words: &[&str]| {
        std::process::Command::new("python3").args(words).current_dir(folder.path(".")).output().unwrap()
    };
    let timetable = python(&["-B", "-m", "skerry", "timetable"]);
    assert!(String::from_utf8_lossy(&timetable.stdout).contains("07:45 North Pier - Jetty"), "{timetable:?}");
    let tests = python(&["-B", "-m", "unittest", "-q"]);
    assert!(tests.status.success(), "{}", String::from_utf8_lossy(&tests.stderr));
}
