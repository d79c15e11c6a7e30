//! Checks in parts: put together they print what one run prints.

use crate::folder::{Folder, Run};

/// Checks in so many parts, and puts them together with some words more. What `both` says is said to all, `part` to each part.
#[track_caller]
fn in_parts(folder: &Folder, of: usize, both: &[&str], part: &[&str], more: &[&str]) -> Run {
    let mut files = Vec::new();
    for number in 1..=of {
        let (place, file) = (format!("{number}/{of}"), format!("part{number}"));
        let words = [&["check", "--part", &place, "--output", &file], both, part].concat();
        let run = folder.run(&words);
        assert_eq!((run.status, run.out.as_str(), run.err.as_str()), (0, "", ""));
        files.push(file);
    }
    // In whatever order.
    files.reverse();
    let files: Vec<&str> = files.iter().map(String::as_str).collect();
    folder.run(&[&["check"], both, more, &["--merge"], &files].concat())
}

#[track_caller]
fn agree(folder: &Folder, of: usize, both: &[&str], more: &[&str]) {
    agree_kept(folder, of, both, &["--no-cache"], more);
}

/// The same where parts begin with what is kept.
#[track_caller]
fn agree_kept(folder: &Folder, of: usize, both: &[&str], part: &[&str], more: &[&str]) {
    let whole = folder.run(&[&["check", "--no-cache"], both, more].concat());
    let merged = in_parts(folder, of, both, part, more);
    assert_eq!(
        (merged.out, merged.err, merged.status),
        (whole.out, whole.err, whole.status),
        "{of} parts, {both:?} {part:?} {more:?}"
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

/// What a part found is there for the next one of the same, and of other texts only what the edit reaches is looked at.
#[test]
fn parts_begin_with_what_is_kept() {
    let folder = Folder::demo();
    assert_eq!(folder.run(&["tighten", "--write"]).status, 0);
    let json = &["--format", "json"];
    let (cache, store) = (tempfile::tempdir().unwrap(), tempfile::tempdir().unwrap());
    let (cache, store) = (cache.path().to_string_lossy(), format!("file://{}/kept", store.path().display()));
    let near = ["--cache", &cache];
    let mut edits: Vec<(&str, String)> = Vec::new();
    // Nothing, a body, a result that others see, a name that is gone, and what divides the files otherwise.
    let text = folder.read("skerry/store.py");
    let body = text.replacen("):\n", "):\n    edited = 1\n", 1);
    edits.extend([("skerry/store.py", text.clone()), ("skerry/store.py", format!("{body}\n"))]);
    edits.push(("skerry/store.py", text.replace("return ", "return None or ")));
    edits.push(("skerry/store.py", text.replacen("def ", "def other_", 1)));
    edits.push((
        "skerry/__main__.py",
        format!("{}\n{}", folder.read("skerry/__main__.py"), "late: int = ''\n".repeat(200)),
    ));
    edits.push(("skerry/store.py", text));
    for (path, text) in edits {
        folder.write(path, &text);
        agree_kept(&folder, 3, &[], &near, json);
        assert!(
            std::fs::read_dir(&*cache).unwrap().count() >= 6,
            "what came out of each part, and what it begins with"
        );
        // Of another machine.
        let fresh = tempfile::tempdir().unwrap();
        let fresh = fresh.path().to_string_lossy();
        let far = ["--cache", &fresh, "--store", &store, "--store-wait", "60"];
        agree_kept(&folder, 3, &[], &far, json);
    }
    // Files that come and go.
    folder.write("skerry/new.py", "from skerry import store\nlate: int = ''\n");
    agree_kept(&folder, 3, &[], &near, json);
    std::fs::remove_file(folder.path("skerry/new.py")).unwrap();
    agree_kept(&folder, 3, &[], &near, json);
    // Damaged, what is kept is as good as nothing.
    for entry in std::fs::read_dir(&*cache).unwrap().flatten() {
        std::fs::write(entry.path(), "nothing").unwrap();
    }
    agree_kept(&folder, 3, &[], &near, json);
}

/// A merge tells what is found on changed lines alone, as one run does.
#[test]
fn a_merge_tells_of_changed_lines() {
    let folder = Folder::demo();
    folder.git(&["init", "-q"], None);
    folder.git(&["add", "."], None);
    folder.git(&["commit", "-q", "-m", "Timetable"], None);
    folder.write("skerry/store.py", &format!("{}\nlate: int = ''\n", folder.read("skerry/store.py")));
    let whole = folder.run(&["check", "--no-cache", "--since", "HEAD", "--format", "line"]);
    assert_eq!(whole.out.lines().count(), 1, "{}", whole.out);
    let merged = in_parts(&folder, 2, &[], &["--no-cache"], &["--since", "HEAD", "--format", "line"]);
    assert_eq!((merged.out, merged.status), (whole.out, whole.status));
}

#[test]
fn files_are_divided_by_what_they_cost() {
    let folder = Folder::demo();
    in_parts(&folder, 2, &[], &["--no-cache"], &["--costs", "costs.json"]);
    let costs = folder.read("costs.json");
    assert!(costs.contains("leitmotiv.costs/1") && costs.contains("\"skerry/__main__.py\""), "{costs}");
    let whole = folder.run(&["check", "--no-cache", "--format", "json"]);
    let merged = in_parts(&folder, 3, &["--costs", "costs.json"], &["--no-cache"], &["--format", "json"]);
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
