//! Checks in parts: put together they print what one run prints.

use crate::folder::{Folder, Run};

/// Checks in so many parts, and puts them together with some words more.
#[track_caller]
fn in_parts(folder: &Folder, of: usize, both: &[&str], more: &[&str]) -> Run {
    let mut files = Vec::new();
    for part in 1..=of {
        let (place, file) = (format!("{part}/{of}"), format!("part{part}"));
        let words: Vec<&str> =
            ["check"].iter().chain(both).copied().chain(["--part", &place, "--output", &file]).collect();
        let run = folder.run(&words);
        assert_eq!((run.status, run.out.as_str(), run.err.as_str()), (0, "", ""));
        files.push(file);
    }
    // In whatever order.
    files.reverse();
    let files = files.iter().map(String::as_str);
    let words: Vec<&str> = ["check"]
        .into_iter()
        .chain(both.iter().copied())
        .chain(more.iter().copied())
        .chain(["--merge"])
        .chain(files)
        .collect();
    folder.run(&words)
}

#[track_caller]
fn agree(folder: &Folder, of: usize, both: &[&str], more: &[&str]) {
    let words: Vec<&str> = ["check", "--no-cache"].iter().chain(both).chain(more).copied().collect();
    let whole = folder.run(&words);
    let merged = in_parts(folder, of, both, more);
    assert_eq!(
        (merged.out, merged.err, merged.status),
        (whole.out, whole.err, whole.status),
        "{of} parts, {both:?} {more:?}"
    );
}

#[test]
fn parts_put_together_print_what_one_run_prints() {
    let folder = Folder::demo();
    for of in [1, 2, 3, 7, 100] {
        agree(&folder, of, &[], &["--format", "json"]);
    }
    for more in
        [&["--format", "sarif"][..], &["--format", "junit"], &["--format", "line"], &["--by", "file"], &["--digest"]]
    {
        agree(&folder, 3, &[], more);
    }
    agree(&folder, 2, &["--set", "none.*=off", "--demand", "full-signatures"], &["--format", "json"]);
    agree(&folder, 2, &["--owed"], &["--format", "json"]);
}

#[test]
fn debts_are_settled_over_all_parts() {
    let folder = Folder::demo();
    assert_eq!(folder.run(&["tighten", "--write"]).status, 0);
    agree(&folder, 4, &[], &["--format", "json"]);
    agree(&folder, 4, &["--owed"], &["--format", "json"]);
    // What moves to another file is owed there.
    let text = folder.read("skerry/__main__.py");
    folder.write("skerry/moved.py", &text);
    std::fs::remove_file(folder.path("skerry/__main__.py")).unwrap();
    agree(&folder, 4, &[], &["--format", "json"]);
}

#[test]
fn files_are_divided_by_what_they_cost() {
    let folder = Folder::demo();
    in_parts(&folder, 2, &[], &["--costs", "costs.json"]);
    let costs = folder.read("costs.json");
    assert!(costs.contains("leitmotiv.costs/1") && costs.contains("\"skerry/__main__.py\""), "{costs}");
    let whole = folder.run(&["check", "--no-cache", "--format", "json"]);
    let merged = in_parts(&folder, 3, &["--costs", "costs.json"], &["--format", "json"]);
    assert_eq!(merged.out, whole.out);
    folder.write("costs.json", "{}");
    folder.run(&["check", "--part", "1/2", "--costs", "costs.json", "--output", "p"]).refused("says no costs of files");
}

#[test]
fn what_is_not_all_of_one_check_is_refused() {
    let folder = Folder::demo();
    for part in ["1/2", "2/2"] {
        folder.run(&["check", "--part", part, "--output", &part.replace('/', "-")]);
    }
    folder.run(&["check", "--merge", "1-2"]).refused("part 2 of 2 is missing");
    folder.run(&["check", "--merge", "1-2", "2-2", "2-2"]).refused("are the same part (2 of 2)");
    folder.run(&["check", "--merge", "1-2", "absent"]).refused("cannot read `absent`");
    folder.run(&["check", "--merge", "1-2", "skerry/store.py"]).refused("is no part of a check by this version");
    folder.run(&["check", "--owed", "--merge", "1-2", "2-2"]).refused("or with other settings, options");
    // Another state of the files.
    folder.write("skerry/new.py", "x: int = ''\n");
    folder.run(&["check", "--part", "2/2", "--output", "other"]);
    folder.run(&["check", "--merge", "1-2", "other"]).refused("was made of other files");
    folder.run(&["check", "--merge", "other", "--by", "cause"]).refused("leave out `--by cause`");
    for wrong in ["0/2", "3/2", "1/0", "x", "1/10001"] {
        folder.run(&["check", "--part", wrong, "--output", "p"]).refused("write it as K/N");
    }
    folder.run(&["check", "--costs", "costs.json"]).refused("`--costs` is about parts");
}
