//! What recording costs a test suite, and whether it changes what comes of it: suites of packages from PyPI, plainly and recorded in turns.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::Instant;

use leitmotiv_project::{Project, Surroundings, sources};
use leitmotiv_trace::run::Recording;

use crate::corpus::root;

pub const USAGE: &str = "cargo xtask suites [--rounds N] PYTHON… [-- PACKAGE…]";

/// A package with its tests.
struct Suite {
    name: &'static str,
    version: &'static str,
    /// Where its source is, and its tests.
    source: &'static str,
    tests: &'static str,
    /// Whether it says anything of its types.
    typed: bool,
}

const fn suite(
    name: &'static str,
    version: &'static str,
    source: &'static str,
    tests: &'static str,
    typed: bool,
) -> Suite {
    Suite { name, version, source, tests, typed }
}

/// Suites whose packages have tests in their source distributions.
const SUITES: &[Suite] = &[
    suite("sqlparse", "0.5.1", ".", "tests", false),
    suite("toolz", "0.12.1", ".", "toolz", false),
    suite("boltons", "26.2.0", ".", "tests", false),
    suite("mako", "1.3.5", ".", "test", false),
    suite("cachetools", "5.5.0", "src", "tests", false),
    suite("wtforms", "3.1.2", "src", "tests", false),
    suite("humanize", "4.11.0", "src", "tests", true),
    suite("attrs", "24.2.0", "src", "tests", true),
];

/// What the tests import beside their own package.
const BESIDE: &[&str] = &[
    "pytest",
    "pytest-xdist",
    "pytest-cov",
    "hypothesis",
    "markupsafe",
    "jinja2",
    "babel",
    "email-validator",
    "cloudpickle",
    "freezegun",
];

/// How a suite is run.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Under {
    Nothing,
    Coverage,
    Parallel,
}

/// Runs every suite with every interpreter.
pub fn run(words: &[&str]) -> Result<(), String> {
    let (words, packages) = match words.iter().position(|word| *word == "--") {
        Some(at) => (&words[..at], &words[at + 1..]),
        None => (words, &[][..]),
    };
    let (rounds, pythons) = match words {
        ["--rounds", number, rest @ ..] => (number.parse().map_err(|_| USAGE.to_owned())?, rest),
        rest => (3, rest),
    };
    if pythons.is_empty() {
        return Err(USAGE.to_owned());
    }
    for python in pythons {
        let mut factors = Vec::new();
        let (environment, version) = environment(Path::new(python))?;
        println!("Python {version}");
        for suite in SUITES.iter().filter(|suite| packages.is_empty() || packages.contains(&suite.name)) {
            let folder = fetch(suite)?;
            factors.extend(one(suite, &folder, &environment, rounds)?);
        }
        println!("median factor {:.2}", median(&mut factors));
    }
    Ok(())
}

fn one(suite: &Suite, folder: &Path, environment: &Path, rounds: usize) -> Result<Option<f64>, String> {
    let (mut plain, mut traced) = (Vec::new(), Vec::new());
    let mut told = Vec::new();
    for _ in 0..rounds {
        let before = tests(suite, folder, environment, Under::Nothing, false)?;
        let after = tests(suite, folder, environment, Under::Nothing, true)?;
        plain.push(before.seconds);
        traced.push(after.seconds);
        told.push(difference(&before, &after));
    }
    for under in [Under::Coverage, Under::Parallel] {
        let before = tests(suite, folder, environment, under, false)?;
        let after = tests(suite, folder, environment, under, true)?;
        let what = difference(&before, &after);
        told.push(if what.is_empty() { what } else { format!("under {under:?}: {what}") });
    }
    told.retain(|what| !what.is_empty());
    told.dedup();
    let sample = tests(suite, folder, environment, Under::Nothing, false)?;
    let (plain, traced) = (median(&mut plain), median(&mut traced));
    let factor = traced / plain;
    let count = |what: &str| sample.outcomes.values().filter(|outcome| *outcome == what).count();
    println!(
        "  {:<12}{:<8} {:>6} passed {:>4} failed {:>4} skipped  plain {plain:>6.2} s  recorded {traced:>6.2} s  {factor:>5.2}×  {}",
        suite.name,
        if suite.typed { "typed" } else { "untyped" },
        count("passed"),
        count("failed"),
        count("skipped"),
        if told.is_empty() { "same outcomes".to_owned() } else { told.join("; ") },
    );
    Ok((!sample.outcomes.is_empty()).then_some(factor))
}

/// What a run gave.
struct Ran {
    seconds: f64,
    status: Option<i32>,
    /// What came of each test.
    outcomes: BTreeMap<String, String>,
    /// What it printed, times and paths of the run left out.
    said: Vec<String>,
}

fn tests(suite: &Suite, folder: &Path, environment: &Path, under: Under, is_traced: bool) -> Result<Ran, String> {
    let text = |error: std::io::Error| error.to_string();
    let notes = tempfile::tempdir().map_err(text)?;
    let notes_file = notes.path().join("outcomes.xml");
    let mut command = Command::new(environment.join("bin/python"));
    command.args(["-m", "pytest", "-q", "-p", "no:cacheprovider", "-p", "no:randomly", suite.tests]);
    command.arg(format!("--junitxml={}", notes_file.display()));
    match under {
        Under::Nothing => {}
        Under::Coverage => {
            command.args(["--cov=.", "--cov-report="]).env("COVERAGE_FILE", notes.path().join("coverage"));
        }
        Under::Parallel => {
            command.args(["-n", "2"]);
        }
    }
    command.current_dir(folder).stdin(Stdio::null());
    let own = folder.join(suite.source);
    let mut path = vec![own];
    let recording = match is_traced {
        true => {
            let project = Project::open(folder, None, &Surroundings::default()).map_err(|error| error.to_string())?;
            let files = sources::list(&project, &[]).map_err(|error| error.to_string())?;
            let recording = Recording::prepare(&project.root, &files, 1.0).map_err(text)?;
            recording.dress(&mut command);
            let hook = command.get_envs().find(|(name, _)| *name == "PYTHONPATH").and_then(|(_, value)| value);
            path.splice(0..0, hook.iter().flat_map(std::env::split_paths).collect::<Vec<PathBuf>>());
            Some(recording)
        }
        false => None,
    };
    command.env("PYTHONPATH", std::env::join_paths(path).map_err(|error| error.to_string())?);
    let began = Instant::now();
    let output = command.output().map_err(text)?;
    let seconds = began.elapsed().as_secs_f64();
    if let Some(recording) = recording {
        recording.finish("pytest").map_err(|error| error.to_string())?;
    }
    let outcomes = outcomes(&std::fs::read_to_string(&notes_file).unwrap_or_default());
    let printed = [output.stdout, output.stderr].concat();
    let printed = String::from_utf8_lossy(&printed).into_owned();
    let place = notes.path().to_string_lossy().into_owned();
    // The order in which workers finish, and how long it took.
    let is_told = |line: &&str| !line.contains(" in ") || !line.contains("passed");
    let mut said: Vec<String> =
        printed.lines().filter(is_told).map(|line| without_addresses(&line.replace(&place, ""))).collect();
    if under == Under::Parallel {
        said.clear();
    }
    Ok(Ran { seconds, status: output.status.code(), outcomes, said })
}

/// A line without addresses of objects and times.
fn without_addresses(line: &str) -> String {
    let words = line
        .split(' ')
        .map(|word| if word.contains("0x") || word.ends_with('s') && word.contains('.') { "…" } else { word });
    words.collect::<Vec<&str>>().join(" ")
}

/// What came of each test, as pytest's notes for other programs say.
fn outcomes(text: &str) -> BTreeMap<String, String> {
    let mut all = BTreeMap::new();
    for case in text.split("<testcase ").skip(1) {
        let (head, rest) = case.split_once('>').unwrap_or((case, ""));
        let field = |name: &str| {
            let from = head
                .find(&format!(" {name}=\""))
                .map(|at| at + 1)
                .or_else(|| head.starts_with(&format!("{name}=")).then_some(0))?
                + name.len()
                + 2;
            Some(head[from..].split('"').next()?.to_owned())
        };
        let name = format!("{} {}", field("classname").unwrap_or_default(), field("name").unwrap_or_default());
        let body = if head.ends_with('/') { "" } else { rest.split("</testcase>").next().unwrap_or_default() };
        let outcome = match body {
            body if body.contains("<failure") || body.contains("<error") => "failed",
            body if body.contains("<skipped") => "skipped",
            _ => "passed",
        };
        all.insert(name, outcome.to_owned());
    }
    all
}

/// What is different in two runs; empty where nothing is.
fn difference(plain: &Ran, traced: &Ran) -> String {
    let changed = |name: &&String| plain.outcomes.get(*name) != traced.outcomes.get(*name);
    let mut names: Vec<&String> = plain.outcomes.keys().chain(traced.outcomes.keys()).filter(changed).collect();
    names.dedup();
    if let Some(first) = names.first() {
        return format!("{} tests end otherwise, `{first}` the first", names.len());
    }
    if plain.status != traced.status {
        return format!("status {:?} and {:?}", plain.status, traced.status);
    }
    let differs = plain.said.iter().zip(&traced.said).find(|(one, other)| one != other);
    match differs {
        Some((one, other)) => format!("output `{one}` and `{other}`"),
        None if plain.said.len() != traced.said.len() => "output of other length".to_owned(),
        None => String::new(),
    }
}

fn median(all: &mut [f64]) -> f64 {
    all.sort_by(f64::total_cmp);
    all.get(all.len() / 2).copied().unwrap_or(f64::NAN)
}

fn environment(python: &Path) -> Result<(PathBuf, String), String> {
    let asked = Command::new(python).args(["-c", "import sys; print('%d.%d.%d' % sys.version_info[:3])"]).output();
    let asked = asked.map_err(|error| format!("{} cannot be run: {error}", python.display()))?;
    let version = String::from_utf8_lossy(&asked.stdout).trim().to_owned();
    let folder = root().join(format!("corpora/suites/environment-{version}"));
    if !folder.exists() {
        let partial = folder.with_extension("partial");
        words(python, &["-m", "venv", &partial.to_string_lossy()])?;
        let mut install = vec!["-m", "pip", "install", "--quiet", "--disable-pip-version-check"];
        install.extend(BESIDE);
        words(&partial.join("bin/python"), &install)?;
        std::fs::rename(&partial, &folder).map_err(|error| error.to_string())?;
    }
    Ok((folder, version))
}

fn fetch(suite: &Suite) -> Result<PathBuf, String> {
    let folder = root().join(format!("corpora/suites/{}-{}", suite.name, suite.version));
    if folder.exists() {
        return Ok(folder);
    }
    let fetched = tempfile::tempdir().map_err(|error| error.to_string())?;
    let wanted = format!("{}=={}", suite.name, suite.version);
    let into = fetched.path().to_string_lossy().into_owned();
    words(
        Path::new("python3"),
        &[
            "-m",
            "pip",
            "download",
            "--quiet",
            "--no-deps",
            "--no-binary",
            ":all:",
            "--disable-pip-version-check",
            "--dest",
            &into,
            &wanted,
        ],
    )?;
    let archive = std::fs::read_dir(fetched.path()).map_err(|error| error.to_string())?.flatten().next();
    let archive = archive.ok_or_else(|| format!("there is no source distribution of {wanted}"))?.path();
    std::fs::create_dir_all(&folder).map_err(|error| error.to_string())?;
    let (archive, to) = (archive.to_string_lossy().into_owned(), folder.to_string_lossy().into_owned());
    words(Path::new("tar"), &["xzf", &archive, "-C", &to, "--strip-components=1"])?;
    Ok(folder)
}

fn words(program: &Path, words: &[&str]) -> Result<(), String> {
    let status = Command::new(program).args(words).status();
    match status.map_err(|error| format!("{} cannot be run: {error}", program.display()))?.success() {
        true => Ok(()),
        false => Err(format!("{} {} failed", program.display(), words.join(" "))),
    }
}
