//! Random edits of the corpora: a database that is told of them must say what a new one says. And damaged texts of them: these are to be
//! checked without a fault.

use std::process::Command;
use std::time::{SystemTime, UNIX_EPOCH};

use crate::corpus::{PACKAGES, folder, lines, python_files, root};

/// How many edits there are to each package.
const EDITS: usize = 25;

/// Packages of more lines than this would take hours, as each edit is followed by a check from nothing.
const MOST_LINES: usize = 60_000;

/// How many damaged texts there are of each package.
const TEXTS: usize = 300;

/// Random edits, one after the other.
pub fn run(seed: Option<&str>) -> Result<(), String> {
    each(seed, "LEITMOTIV_EDITS", EDITS, "many_random_edits_of_a_corpus")
}

/// Damaged texts.
pub fn fuzz(seed: Option<&str>) -> Result<(), String> {
    each(seed, "LEITMOTIV_FUZZ", TEXTS, "many_damaged_texts_of_a_corpus")
}

/// How many edits there are between runs.
const RUNS: usize = 150;

/// Random edits between runs of the program on a project, the demo's where none is named: with a cache they print what they print without.
pub fn runs(words: &[&str]) -> Result<(), String> {
    let now = || SystemTime::now().duration_since(UNIX_EPOCH).map_or(1, |since| since.as_secs());
    let (seed, folder) = match words {
        [] => (now(), ""),
        [seed] => (seed.parse().map_err(|_| format!("a seed is a number, not {seed}"))?, ""),
        [seed, folder, ..] => (seed.parse().map_err(|_| format!("a seed is a number, not {seed}"))?, *folder),
    };
    println!("seed {seed}");
    let status = Command::new("cargo")
        .current_dir(root())
        .env("LEITMOTIV_RUNS", format!("{folder}:{RUNS}:{seed}"))
        .args(["test", "-q", "-p", "leitmotiv", "--test", "main", "--", "--ignored", "many_random_edits_between_runs"])
        .status()
        .map_err(|error| error.to_string())?;
    if status.success() { Ok(()) } else { Err("a run with a cache printed something else".to_owned()) }
}

/// Runs a long test of the engine on each package.
fn each(seed: Option<&str>, variable: &str, number: usize, test: &str) -> Result<(), String> {
    let now = || SystemTime::now().duration_since(UNIX_EPOCH).map_or(1, |since| since.as_secs());
    let seed = match seed {
        Some(seed) => seed.parse().map_err(|_| format!("a seed is a number, not {seed}"))?,
        None => now(),
    };
    println!("seed {seed}");
    let mut differing = Vec::new();
    for package in PACKAGES {
        let folder = folder(package);
        if !folder.exists() {
            return Err("run `cargo xtask corpus` first".to_owned());
        }
        if lines(&python_files(&folder)) > MOST_LINES {
            continue;
        }
        let status = Command::new("cargo")
            .current_dir(root())
            .env(variable, format!("{}:{number}:{seed}", folder.display()))
            .args(["test", "-q", "-p", "leitmotiv-engine", "--test", "main", "--"])
            .args(["--ignored", test])
            .status()
            .map_err(|error| error.to_string())?;
        println!("{:<24}{}", package.name, if status.success() { "as it is to be" } else { "WRONG" });
        if !status.success() {
            differing.push(package.name);
        }
    }
    if differing.is_empty() { Ok(()) } else { Err(format!("wrong: {}", differing.join(", "))) }
}
