//! Checks that are kept: whatever happens between two runs, or beside one, each prints what a run without a cache prints.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::Duration;

use crate::folder::{Folder, copy};
use crate::random::Random;

/// The same project twice: one whose checks are kept, and one whose are not.
struct Twins {
    kept: PathBuf,
    plain: PathBuf,
    cache: PathBuf,
    _folder: tempfile::TempDir,
}

const FORMS: &[&[&str]] = &[
    &["check"],
    &["check", "--format", "json"],
    &["check", "--format", "junit"],
    &["check", "--by", "file"],
    &["check", "--by", "cause"],
    &["check", "--digest"],
    &["check", "--owed", "--format", "line"],
    &["check", "--set", "none.*=off", "--demand", "full-signatures"],
    &["check", "ferry"],
    &["check", "--fail-on", "warning", "--format", "sarif"],
    &["check", "--exact", "--format", "json"],
    &["check", "--since", "HEAD", "--format", "line"],
];

impl Twins {
    fn of(from: &Path) -> Twins {
        let folder = tempfile::tempdir().unwrap();
        let at = |name: &str| folder.path().join(name);
        let twins = Twins { kept: at("a/here"), plain: at("b/here"), cache: at("cache"), _folder: folder };
        copy(from, &twins.kept);
        copy(from, &twins.plain);
        twins
    }

    fn demo() -> Twins {
        let twins = Twins::of(&Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/project"));
        twins.write("deps/site-packages/buoy/__init__.py", "def depth(at: str) -> float: ...\n");
        twins.write("deps/site-packages/buoy/py.typed", "");
        twins.write("leitmotiv.toml", "interpreter = 'deps/site-packages'\npython = '3.11'\n");
        twins.write("ferry/soundings.py", "from buoy import depth\n\nshallow: int = depth('north')\n");
        twins.each(&|root| {
            let by = ["-c", "user.name=Isla Skerry", "-c", "user.email=office@skerry.invalid"];
            for words in [&["init", "-q"][..], &["add", "."], &["commit", "-q", "-m", "Timetable"]] {
                let run = Command::new("git").current_dir(root).args(by).args(words).output().unwrap();
                assert!(run.status.success(), "{}", String::from_utf8_lossy(&run.stderr));
            }
        });
        twins
    }

    fn each(&self, act: &dyn Fn(&Path)) {
        act(&self.kept);
        act(&self.plain);
    }

    fn write(&self, path: &str, text: &str) {
        self.each(&|root| {
            let path = root.join(path);
            std::fs::create_dir_all(path.parent().unwrap()).unwrap();
            std::fs::write(path, text).unwrap();
        });
    }

    fn command(&self, root: &Path, words: &[&str]) -> Command {
        let mut command = Command::new(env!("CARGO_BIN_EXE_leitmotiv"));
        command.current_dir(root).args(words).env_clear().env("PATH", "/usr/bin:/bin").stdin(Stdio::null());
        command
    }

    /// What the twin with a cache prints, and with what status, paths of its own taken out.
    fn with_cache(&self, words: &[&str]) -> (String, Option<i32>) {
        let cache = self.cache.to_string_lossy().into_owned();
        let words: Vec<&str> = words.iter().copied().chain(["--cache", &cache]).collect();
        told(self.command(&self.kept, &words), &self.kept)
    }

    fn without(&self, words: &[&str]) -> (String, Option<i32>) {
        let words: Vec<&str> = words.iter().copied().chain(["--no-cache"]).collect();
        told(self.command(&self.plain, &words), &self.plain)
    }

    #[track_caller]
    fn agree(&self, words: &[&str], after: &str) {
        let (kept, plain) = (self.with_cache(words), self.without(words));
        let differ = kept.0.lines().zip(plain.0.lines()).enumerate().filter(|(_, (one, other))| one != other);
        let first: Vec<_> = differ.take(5).collect();
        assert!(kept == plain, "{words:?} after {after}: {:?}, {:?}, {first:#?}", kept.1, plain.1);
    }

    fn entries(&self) -> Vec<PathBuf> {
        let all = std::fs::read_dir(&self.cache).into_iter().flatten().flatten().map(|entry| entry.path());
        all.filter(|path| path.extension().is_some_and(|extension| extension == "entry")).collect()
    }
}

fn told(mut command: Command, root: &Path) -> (String, Option<i32>) {
    let output = command.output().unwrap();
    let text = format!("{}{}", String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr));
    (text.replace(&*root.canonicalize().unwrap().to_string_lossy(), "HERE"), output.status.code())
}

fn sources(root: &Path, found: &mut Vec<PathBuf>, below: &Path) {
    let mut entries: Vec<PathBuf> = std::fs::read_dir(below).unwrap().flatten().map(|entry| entry.path()).collect();
    entries.sort();
    for path in entries {
        if path.is_dir() {
            sources(root, found, &path);
        } else if path.extension().is_some_and(|extension| extension == "py" || extension == "pyi") {
            found.push(path.strip_prefix(root).unwrap().to_owned());
        }
    }
}

/// One change to both; what it is, in words.
fn change(twins: &Twins, chance: &mut Random, undo: &mut Vec<(PathBuf, Vec<u8>)>) -> String {
    let mut files = Vec::new();
    sources(&twins.kept, &mut files, &twins.kept);
    let file = chance.one(&files).clone();
    let text = std::fs::read_to_string(twins.kept.join(&file)).unwrap_or_default();
    let put = |path: &Path, text: &str| twins.write(&path.to_string_lossy(), text);
    let shown = file.display();
    match chance.below(11) {
        0 => {
            let lines: Vec<&str> = text.lines().collect();
            let out = chance.below(lines.len());
            let rest: Vec<&str> =
                lines.iter().enumerate().filter(|(at, _)| *at != out).map(|(_, line)| *line).collect();
            undo.push((file.clone(), text.clone().into_bytes()));
            put(&file, &(rest.join("\n") + "\n"));
            format!("line {} went from {shown}", out + 1)
        }
        1 => {
            undo.push((file.clone(), text.clone().into_bytes()));
            put(&file, &format!("# a comment\n{text}"));
            format!("a comment in {shown}")
        }
        2 => {
            undo.push((file.clone(), text.clone().into_bytes()));
            put(&file, &text.replace("-> int", "-> str").replace("None", "0"));
            format!("other types in {shown}")
        }
        3 => {
            undo.push((file.clone(), text.into_bytes()));
            twins.each(&|root| std::fs::remove_file(root.join(&file)).unwrap());
            format!("{shown} went")
        }
        4 => {
            let path = format!("ferry/new_{}.py", chance.below(3));
            twins.write(&path, "import buoy\nfrom ferry import berths\n\nx: int = buoy.depth('x')\nberths.nothing\n");
            format!("{path} came")
        }
        5 => {
            twins.write(
                "deps/site-packages/buoy/__init__.py",
                chance.one::<&str>(&[
                    "def depth(at: str) -> float: ...\n",
                    "def depth(at: str) -> int: ...\n",
                    "def depth(at: int) -> int: ...\n",
                ]),
            );
            "the library changed".to_owned()
        }
        6 => {
            let path = "stubs/buoy.pyi";
            if twins.kept.join(path).exists() {
                twins.each(&|root| std::fs::remove_file(root.join(path)).unwrap());
                return "a stub went".to_owned();
            }
            twins.write(path, "def depth(at: bytes) -> str: ...\n");
            "a stub came".to_owned()
        }
        7 => {
            let more = *chance.one(&[
                "",
                "severity = { 'none.*' = 'warning' }\n",
                "platform = 'win32'\n",
                "leave = ['ferry/n*']\n",
            ]);
            twins.write("leitmotiv.toml", &format!("interpreter = 'deps/site-packages'\npython = '3.11'\n{more}"));
            format!("settings: {more}")
        }
        8 => {
            let Some((path, before)) = undo.pop() else { return "nothing".to_owned() };
            twins.each(&|root| std::fs::write(root.join(&path), &before).unwrap());
            format!("{} as it was", path.display())
        }
        9 => {
            let marker = twins.kept.join("deps/site-packages/buoy/py.typed");
            if marker.exists() {
                twins.each(&|root| std::fs::remove_file(root.join("deps/site-packages/buoy/py.typed")).unwrap());
                return "the library says no more that it has types".to_owned();
            }
            twins.write("deps/site-packages/buoy/py.typed", "");
            "the library says that it has types".to_owned()
        }
        _ => {
            let words = ["tighten", "--adopt", "--write"];
            let one = told(twins.command(&twins.kept, &words), &twins.kept);
            let other = told(twins.command(&twins.plain, &words), &twins.plain);
            assert_eq!(one, other);
            "debts were adopted".to_owned()
        }
    }
}

fn many(twins: &Twins, steps: usize, seed: u64) {
    let mut chance = Random(seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) | 1);
    let mut undo = Vec::new();
    let mut after = format!("the beginning (seed {seed})");
    for step in 0..steps {
        twins.agree(chance.one::<&[&str]>(FORMS), &after);
        if chance.below(3) == 0 {
            twins.agree(chance.one::<&[&str]>(FORMS), &after);
        }
        after = format!("step {step} of seed {seed}: {}", change(twins, &mut chance, &mut undo));
    }
    twins.agree(&["check", "--format", "json"], &after);
}

#[test]
fn random_edits_between_runs_change_nothing_but_time() {
    for seed in [1, 2, 3] {
        many(&Twins::demo(), 12, seed);
    }
}

/// `LEITMOTIV_RUNS=FOLDER:STEPS:SEED`, for `cargo xtask edits --runs`.
#[test]
#[ignore = "long: cargo xtask edits --runs"]
fn many_random_edits_between_runs() {
    let asked = std::env::var("LEITMOTIV_RUNS").unwrap();
    let mut parts = asked.rsplitn(3, ':');
    let seed: u64 = parts.next().unwrap().parse().unwrap();
    let steps: usize = parts.next().unwrap().parse().unwrap();
    let twins = match parts.next().unwrap() {
        "" => Twins::demo(),
        folder => Twins::of(Path::new(folder)),
    };
    many(&twins, steps, seed);
}

#[test]
fn what_was_seen_before_is_there_without_being_checked() {
    let twins = Twins::demo();
    let words = ["check", "--format", "json"];
    let first = twins.with_cache(&words);
    // What came out, and what a check after edits begins with.
    let contents = || twins.entries().iter().map(|entry| std::fs::read(entry).unwrap()).collect::<Vec<_>>();
    let kept = contents();
    assert_eq!(kept.len(), 2);
    assert_eq!(twins.with_cache(&words), first);
    // Another form of output is another way of printing the same.
    twins.with_cache(&["check", "--format", "line"]);
    assert_eq!(contents(), kept);
    // The same project elsewhere is the same.
    let elsewhere = twins.cache.with_file_name("elsewhere");
    copy(&twins.kept, &elsewhere);
    let cache = twins.cache.to_string_lossy().into_owned();
    let words_there = ["check", "--format", "json", "--cache", &cache];
    assert_eq!(told(twins.command(&elsewhere, &words_there), &elsewhere), first);
    assert_eq!(contents(), kept);
    // Another severity, another check.
    twins.with_cache(&["check", "--set", "none.*=off"]);
    assert_eq!(twins.entries().len(), 4);
}

#[test]
fn damaged_entries_and_folders_that_cannot_be_used_are_as_good_as_none() {
    let twins = Twins::demo();
    let words = ["check", "--format", "json"];
    let right = twins.without(&words);
    assert_eq!(twins.with_cache(&words), right);
    let mut chance = Random(7);
    for round in 0..8 {
        let mut entries = twins.entries();
        if round < 4 {
            entries = vec![chance.one::<PathBuf>(&entries).clone()];
        }
        for entry in &entries {
            let whole = std::fs::read(entry).unwrap();
            let mut damaged = whole.clone();
            match chance.below(3) {
                0 => damaged.truncate(chance.below(whole.len())),
                1 => damaged[chance.below(whole.len())] ^= 1 << chance.below(8),
                _ => damaged.extend_from_slice(b"more"),
            }
            std::fs::write(entry, damaged).unwrap();
        }
        assert_eq!(twins.with_cache(&words), right);
        assert_eq!(twins.entries().len(), 2, "what is damaged is made anew in its place");
    }
    std::fs::remove_dir_all(&twins.cache).unwrap();
    std::fs::write(&twins.cache, "a file").unwrap();
    assert_eq!(twins.with_cache(&words), right);
}

#[test]
fn runs_that_are_killed_or_go_side_by_side_never_leave_a_wrong_byte() {
    let twins = Twins::demo();
    let words = ["check", "--format", "json"];
    let right = twins.without(&words);
    let cache = twins.cache.to_string_lossy().into_owned();
    let start = || {
        let words: Vec<&str> = words.iter().copied().chain(["--cache", &cache]).collect();
        twins.command(&twins.kept, &words).stdout(Stdio::null()).stderr(Stdio::null()).spawn().unwrap()
    };
    let mut chance = Random(11);
    for round in 0..100 {
        let mut child = start();
        std::thread::sleep(Duration::from_millis(chance.below(120) as u64));
        let _ = child.kill();
        child.wait().unwrap();
        if round % 10 == 0 {
            assert_eq!(twins.with_cache(&words), right, "after {round} kills");
            twins.entries().iter().for_each(|entry| std::fs::remove_file(entry).unwrap());
        }
    }
    let (mut one, mut other) = (start(), start());
    one.wait().unwrap();
    other.wait().unwrap();
    assert_eq!(twins.with_cache(&words), right);
    assert_eq!(twins.entries().len(), 2);
}

#[test]
fn settings_say_where_checks_are_kept_within_the_project_only() {
    let folder = Folder::new(&[("a.py", "x: int = ''\n"), ("leitmotiv.toml", "cache = '.leitmotiv/kept'\n")]);
    folder.run(&["check"]);
    assert!(folder.path(".leitmotiv/kept/CACHEDIR.TAG").exists());
    std::fs::remove_dir_all(folder.path(".leitmotiv")).unwrap();
    folder.run(&["check", "--no-cache"]);
    assert!(!folder.path(".leitmotiv/kept").exists());
    folder.write("leitmotiv.toml", "cache = false\n");
    let home = tempfile::tempdir().unwrap();
    let named = home.path().to_string_lossy().into_owned();
    folder.run_with(&[("HOME", &named)], &["check"]);
    assert!(!home.path().join(".cache").exists());
    folder.write("leitmotiv.toml", "");
    folder.run_with(&[("HOME", &named)], &["check"]);
    assert!(home.path().join(".cache/leitmotiv/CACHEDIR.TAG").exists());
    for outside in ["'../kept'", "'/tmp/kept'", "''", "3", "true"] {
        folder.write("leitmotiv.toml", &format!("cache = {outside}\n"));
        folder.run(&["check"]).refused("`cache` must be a folder of the project, or false");
    }
}
