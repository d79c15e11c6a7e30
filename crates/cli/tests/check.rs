use serde_json::Value;

use crate::folder::Folder;

const MODULE: &str = "def find(names, name):\n    if name in names:\n        return name.upper()\n    return None\n\n\nprint(find([], 'x').lower())\nprint(find([]))\n";

#[test]
fn findings_are_threads_from_the_cause_to_here() {
    let folder = Folder::new(&[("ferry.py", MODULE)]);
    let run = folder.run(&["check"]);
    assert_eq!(run.status, 1);
    let expected = "\
ferry.py  2 findings

ferry.py:7:7  warning  none.member
    print(find([], 'x').lower())
  `find([], 'x')` may be None here (`str | None`), and None has no attribute
  `lower`
  ○ line 4: `find` returns None here
  way out: check `found` for None first: `raise ValueError(\"nothing found\")`
    (price: one branch more; callers get an exception that says why)

ferry.py:8:7  error  call.missing
    print(find([]))
  the call of `find` leaves out the argument `name`
  ○ line 1: `name` needed here
  way out: give `name` (price: one place changes)
";
    assert!(run.out.starts_with(expected), "{}", run.out);
    assert!(
        run.out.ends_with("1 file checked, 8 lines: 1 error, 1 warning. Next: leitmotiv explain ferry.py:7\n"),
        "{}",
        run.out
    );
    assert!(run.out.lines().all(|line| line.chars().count() <= 80), "{}", run.out);
    assert!(!run.out.contains('\u{1b}'), "no colours in a pipe");
}

#[test]
fn a_digest_tells_where_to_begin_to_read() {
    let folder = Folder::new(&[
        ("ferry.py", MODULE),
        ("berths.py", "import tidelib\n"),
        ("crew.py", "import tidelib\nx: int = ''\n"),
    ]);
    let run = folder.run(&["check", "--digest"]);
    assert_eq!(run.status, 1);
    let expected = "\
findings  file       rules
       2  crew.py    import.unresolved, value.assign
       2  ferry.py   call.missing, none.member
       1  berths.py  import.unresolved

findings  cause    what happens there
       2  tidelib  there is no such module; imported in 2 files
          and 3 with causes of their own
";
    assert!(run.out.starts_with(expected), "{}", run.out);
    assert!(
        run.out.contains("Read on with") && run.out.ends_with("Next: leitmotiv explain berths.py:1\n"),
        "{}",
        run.out
    );
    assert!(run.out.lines().all(|line| line.chars().count() <= 80), "{}", run.out);
    // In a pipe everything is listed.
    assert_eq!(folder.run(&["check"]).out, folder.run(&["check", "--all"]).out);
    assert_eq!(folder.run(&["check", "--digest", "--by", "file"]).status, 2);
}

#[test]
fn what_is_unpacked_has_its_cause_where_it_was_returned() {
    let module = "class Line:\n    def read(self, number):\n        if number:\n            return 1, 'Gannet'\n        return None, None\n\n    def ask(self, number):\n        return self.read(number)\n\n    def berth(self):\n        kind, port = self.ask(3)\n        return port.upper()\n\n    def name(self):\n        (kind, port) = self.ask(4)\n        return port.lower()\n";
    let folder = Folder::new(&[("ferry.py", module)]);
    let run = folder.run(&["check", "--by", "cause"]);
    let expected = "\
findings  unknown  files  cause
       2               1  ferry.py:5  `Line.read` returns None among others here
                          way out: return a value other than None from `read`
";
    assert!(run.out.starts_with(expected), "{}", run.out);
    let told = folder.run(&["explain", "ferry.py:12"]).out;
    let lines: Vec<&str> = told.lines().filter(|line| line.contains('○')).collect();
    assert_eq!(lines.len(), 3, "{told}");
    assert!(lines[0].contains("line 5") && lines[1].contains("line 8") && lines[2].contains("line 11"), "{told}");
}

#[test]
fn what_went_and_came_since_the_last_check_is_told() {
    let folder = Folder::new(&[("ferry.py", MODULE), ("crew.py", "x: int = ''\n")]);
    let first = folder.run(&["check"]).out;
    assert!(!first.contains("Since the last check"), "{first}");
    assert_eq!(folder.run(&["check"]).out, first, "nothing has moved");
    // Lines that move are no news; one finding goes, one comes, and one is of a new file.
    folder.write("ferry.py", &format!("import os\n\n{}", MODULE.replace("find([]))", "find([], 'x').none)")));
    folder.write("berths.py", "undefined\n");
    std::fs::remove_file(folder.path("crew.py")).unwrap();
    let run = folder.run(&["check"]);
    let expected = "\
Since the last check: 2 went (crew.py, ferry.py), 3 came (berths.py:1
  name.undefined, ferry.py:10 member.absent, ferry.py:10 none.member).
";
    assert!(run.out.contains(expected), "{}", run.out);
    // A part of the project: the rest stays as it is known. JSON neither tells nor remembers.
    folder.write("berths.py", "x = 1\n");
    folder.run(&["check", "--format", "json"]);
    assert!(folder.run(&["check", "berths.py"]).out.contains("Since the last check: 1 went (berths.py).\n"));
    assert!(!folder.run(&["check"]).out.contains("Since the last check"));
    for text in ["{", "{\"schema\": \"other\"}", ""] {
        folder.write(".leitmotiv/last-check.json", text);
        assert!(!folder.run(&["check"]).out.contains("Since the last check"), "{text}");
        assert_eq!(folder.run(&["check"]).status, 1);
    }
}

#[test]
fn lines_that_changed_since_a_revision_are_told_alone() {
    let folder = Folder::new(&[("ferry.py", MODULE), ("crew.py", "x: int = ''\n")]);
    folder.run(&["check", "--since", "HEAD"]).refused("this folder is in no repository");
    let git = |words: &[&str]| {
        let mut command = std::process::Command::new("git");
        command.arg("-C").arg(folder.path("")).args([
            "-c",
            "user.name=Skerry Lines",
            "-c",
            "user.email=o@skerry.invalid",
        ]);
        assert!(command.args(words).output().unwrap().status.success(), "{words:?}");
    };
    git(&["init", "-q", "-b", "main"]);
    git(&["add", "-A"]);
    git(&["commit", "-qm", "x"]);
    folder.run(&["check", "--since", "tide"]).refused("git knows no revision `tide` here");
    let rules = |words: &[&str]| {
        let run = folder.run(&[&["check", "--format", "line"], words].concat());
        run.out.lines().filter_map(|line| line.split(':').next()).map(str::to_owned).collect::<Vec<_>>()
    };
    assert_eq!(rules(&["--since", "HEAD"]), Vec::<String>::new());
    // Renamed and changed in one line, not committed; and a file that git does not know.
    git(&["mv", "ferry.py", "fleet ä.py"]);
    folder.write("fleet ä.py", &MODULE.replace("find([]))", "find([], 3, 4))"));
    folder.write("berths.py", "undefined\n");
    assert_eq!(rules(&["--since", "main"]), ["berths.py", "fleet ä.py"]);
    assert_eq!(folder.run(&["check", "--since", "main", "crew.py"]).status, 0);
    // Another branch went on meanwhile: what it changed is not ours.
    git(&["add", "-A"]);
    git(&["commit", "-qm", "ours"]);
    git(&["checkout", "-q", "-b", "theirs", "main~1"]);
    folder.write("crew.py", "x: int = ''\ny: int = ''\n");
    git(&["commit", "-qam", "theirs"]);
    assert_eq!(rules(&["--since", "main"]), ["crew.py"]);
}

#[test]
fn json_has_the_documented_form() {
    let folder = Folder::new(&[("ferry.py", MODULE)]);
    let run = folder.run(&["check", "--format", "json"]);
    let json: Value = serde_json::from_str(&run.out).unwrap();
    assert_eq!(json["schema"], "leitmotiv.findings/1");
    let finding = &json["findings"][0];
    assert_eq!(finding["rule"], "none.member");
    assert_eq!(finding["severity"], "warning");
    assert_eq!(finding["path"], "ferry.py");
    assert_eq!(finding["range"]["start"], serde_json::json!({"line": 7, "column": 7}));
    assert_eq!(finding["symbol"], "ferry");
    assert_eq!(finding["status"], "new");
    assert_eq!(finding["cause"]["line"], 4);
    assert_eq!(finding["evidence"][0]["kind"], "returned");
    assert_eq!(finding["remedies"][0]["safe"], false);
    assert_eq!(json["summary"]["error"], 1);
    assert_eq!(folder.run(&["check", "--format", "json"]).out, run.out, "the same input gives the same bytes");
}

#[test]
fn severities_come_from_configuration_areas_and_options() {
    let folder = Folder::new(&[("ferry.py", MODULE), ("tests/t.py", "undefined\n")]);
    folder.write(
        "leitmotiv.toml",
        "severity = { 'call.missing' = 'warning' }\n[[area]]\npaths = ['tests/**']\nseverity = { 'name.*' = 'off' }\n",
    );
    assert_eq!(folder.run(&["check"]).status, 0);
    assert_eq!(folder.run(&["check", "--fail-on", "warning"]).status, 1);
    assert_eq!(folder.run(&["check", "--set", "none.*=error"]).status, 1);
    assert_eq!(folder.run(&["check", "--set", "none.*=error", "--fail-on", "never"]).status, 0);
    assert_eq!(folder.run(&["check", "--demand", "none-handled"]).status, 1);
}

#[test]
fn groups_are_counted_biggest_first() {
    let folder = Folder::new(&[("ferry.py", MODULE), ("a.py", "x\ny\n")]);
    let run = folder.run(&["check", "--by", "rule", "-q"]);
    let counts: Vec<&str> = run.out.lines().skip(1).filter_map(|line| line.split_whitespace().nth(1)).collect();
    assert_eq!(counts, ["name.undefined", "call.missing", "none.member"]);
    let run = folder.run(&["check", "--by", "file", "-q"]);
    assert!(run.out.contains("2  a.py"), "{}", run.out);
    let run = folder.run(&["check", "--by", "cause", "-q"]);
    assert!(run.out.contains("ferry.py:4"), "{}", run.out);
    // The same for programs, and one finding to a line.
    let json: Value = serde_json::from_str(&folder.run(&["check", "--by", "cause", "--format", "json"]).out).unwrap();
    let groups = json["groups"]["groups"].as_array().unwrap();
    let all: usize = groups.iter().map(|group| group["findings"].as_array().unwrap().len()).sum();
    assert_eq!((json["groups"]["by"].as_str(), all), (Some("cause"), json["findings"].as_array().unwrap().len()));
    let lines = folder.run(&["check", "--format", "line"]).out;
    assert_eq!(lines.lines().count(), all);
    let is_placed = |line: &str| {
        let mut parts = line.splitn(4, ':');
        parts.next().is_some_and(|path| path.ends_with(".py"))
            && parts.next().is_some_and(|line| line.parse::<u32>().is_ok())
            && parts.next().is_some_and(|column| column.parse::<u32>().is_ok())
            && parts.next().is_some_and(|rest| rest.starts_with(" error ") || rest.starts_with(" warning "))
    };
    assert!(lines.lines().all(is_placed), "{lines}");
}

#[test]
fn the_flaws_of_the_demo_are_found() {
    let folder = Folder::demo();
    let json: Value = serde_json::from_str(&folder.run(&["check", "--format", "json"]).out).unwrap();
    let flaws = include_str!("../../../demo/flaws.txt");
    let mut checked = 0;
    for flaw in flaws.lines().filter(|line| !line.starts_with('#')) {
        let fields: Vec<&str> = flaw.split('|').map(str::trim).collect();
        let [rule, path, line] = fields.as_slice() else { panic!("{flaw}") };
        let text = folder.read(path);
        let number =
            text.lines().position(|own| own.trim() == *line).unwrap_or_else(|| panic!("no such line: {flaw}")) + 1;
        if leitmotiv_engine::rules::by_slug(rule).is_none() {
            continue;
        }
        checked += 1;
        let found = json["findings"].as_array().unwrap().iter().any(|finding| {
            finding["rule"] == *rule && finding["path"] == *path && finding["range"]["start"]["line"] == number
        });
        assert!(found, "not found: {flaw}");
    }
    assert!(checked >= 14, "{checked}");
}

#[test]
fn the_answer_does_not_depend_on_the_number_of_threads() {
    let folder = Folder::demo();
    let run = |threads: &str| folder.run_with(&[("RAYON_NUM_THREADS", threads)], &["check", "--format", "json"]).out;
    let one = run("1");
    assert!(one.contains("none.member"));
    for threads in ["2", "4", "7"] {
        assert_eq!(run(threads), one);
    }
}

#[test]
fn older_versions_have_the_buffers_and_the_ellipsis_that_they_have() {
    let text = "import hashlib\n\nhashlib.sha1('tide')\nhashlib.sha1(b'tide')\nreveal_type(...)\n";
    let folder = Folder::new(&[("a.py", text), ("leitmotiv.toml", "python = '3.9'\n")]);
    let run = folder.run(&["check", "a.py"]);
    assert_eq!(run.status, 1, "{}", run.err);
    assert!(run.out.contains("which takes `Buffer`") && !run.out.contains("a.py:4"), "{}", run.out);
    assert!(
        run.out.contains("the type is `EllipsisType`") || run.out.contains("the type is `ellipsis`"),
        "{}",
        run.out
    );
}

#[test]
fn from_a_folder_below_the_same_configuration_and_ledger_hold() {
    let folder = Folder::new(&[
        ("leitmotiv.toml", "severity = { 'name.undefined' = 'note' }\n"),
        ("ferry/fleet.py", "from typing import Optional\ndef get() -> Optional[str]: ...\nget().upper()\nundefined\n"),
        ("fleet.py", "x = 1\n"),
        (".git/HEAD", "ref: refs/heads/main\n"),
    ]);
    folder.run(&["tighten", "none-handled", "--write"]);
    let below = |words: &[&str]| folder.run_in("ferry", words);
    let run = below(&["check", "fleet.py"]);
    assert!(run.status == 0 && run.out.contains("1 file checked") && run.out.contains("1 note, 1 owed"), "{}", run.out);
    assert!(run.out.contains("ferry/fleet.py:4:1  note"), "{}", run.out);
    assert!(below(&["check"]).out.contains("2 files checked"));
    // What lies above the repository may be anybody's.
    std::fs::create_dir(folder.path("ferry/.git")).unwrap();
    assert!(below(&["check"]).out.contains("1 file checked"));
    std::fs::remove_dir(folder.path("ferry/.git")).unwrap();
    // A folder that is named is the project, whatever lies above it.
    assert!(below(&["--project", ".", "check"]).out.contains("1 error"));
}

#[test]
fn a_file_that_is_called_otherwise_is_the_same_file() {
    let folder = Folder::new(&[("ferry.py", MODULE), ("crew.py", "x: int = ''\n")]);
    folder.run(&["check"]);
    std::fs::rename(folder.path("ferry.py"), folder.path("boats.py")).unwrap();
    let run = folder.run(&["check"]);
    assert!(!run.out.contains("Since the last check"), "{}", run.out);
    std::fs::rename(folder.path("boats.py"), folder.path("ships.py")).unwrap();
    folder.write("ships.py", &format!("{MODULE}y: int = ''\n"));
    let run = folder.run(&["check", "--digest"]);
    assert!(run.out.starts_with("Since the last check: 1 came (ships.py:9 value.assign).\n\nfindings"), "{}", run.out);
}

#[test]
fn causes_are_tried_and_what_comes_of_it_is_told() {
    let module = "FLEET = {'Gannet': 'north'}\n\n\ndef find(name):\n    if name in FLEET:\n        return FLEET[name]\n    return None\n\n\nprint(find('Gannet').upper())\nprint(find('Tern').lower())\nprint(FLEET.lenght)\n";
    let folder = Folder::new(&[("ferry.py", module)]);
    let run = folder.run(&["check", "--by", "cause", "--try"]);
    let expected = "\
findings  unknown  files  cause
       2               1  ferry.py:7  `find` returns None here
                          way out: raise an exception in `find` where it gives
                            None (ferry.py:7): all 2 go
";
    assert!(run.out.starts_with(expected), "{}", run.out);
    assert_eq!(folder.read("ferry.py"), module, "nothing is written");
    let text = folder.run(&["check", "--by", "cause", "--try", "--format", "json"]).out;
    let report: serde_json::Value = serde_json::from_str(&text).unwrap();
    let first = &report["groups"]["groups"][0];
    assert_eq!((&first["files"], &first["tried"]["went"]), (&1.into(), &2.into()), "{first}");
    assert_eq!(first["tried"]["came"].as_array().map(Vec::len), Some(0));
    let edits = &report["findings"][0]["remedies"][0]["edits"];
    assert_eq!(edits[0]["text"], "raise LookupError(\"find() has no result\")", "{edits}");
    assert_eq!(edits[0]["range"]["start"], serde_json::json!({"line": 7, "column": 5}));
    folder.run(&["check", "--by", "rule", "--try"]).refused("`--try` is about causes");
}
