//! How much of what packages use of the standard library is known.

use std::collections::BTreeMap;
use std::process::Command;

use serde_json::Value;

use crate::corpus::{PACKAGES, environment_folder, folder, program};

/// How many packages are looked at, the annotated ones first.
const PACKAGES_ASKED: usize = 25;

/// How many names are listed.
const MOST_ROWS: usize = 60;

pub fn run() -> Result<(), String> {
    let program = program()?;
    let mut names: BTreeMap<String, (u64, u64)> = BTreeMap::new();
    for package in PACKAGES.iter().take(PACKAGES_ASKED) {
        let folder = folder(package);
        if !folder.exists() {
            return Err("run `cargo xtask corpus` first".to_owned());
        }
        let output = Command::new(&program)
            .env("VIRTUAL_ENV", environment_folder())
            .arg("--project")
            .arg(&folder)
            .args(["survey", "--library", "--format", "json"])
            .output()
            .map_err(|error| error.to_string())?;
        let survey: Value =
            serde_json::from_slice(&output.stdout).map_err(|error| format!("{}: {error}", package.name))?;
        for name in survey["library"].as_array().into_iter().flatten() {
            let full = format!(
                "{}.{}",
                name["module"].as_str().unwrap_or_default(),
                name["name"].as_str().unwrap_or_default()
            );
            let sum = names.entry(full).or_default();
            sum.0 += name["uses"].as_u64().unwrap_or(0);
            sum.1 += name["known"].as_u64().unwrap_or(0);
        }
    }
    let all: u64 = names.values().map(|(uses, _)| uses).sum();
    let known: u64 = names.values().map(|(_, known)| known).sum();
    println!("{all} uses of {} names, {:.2}% known", names.len(), 100.0 * known as f64 / all.max(1) as f64);
    let mut rows: Vec<(String, u64)> = names
        .into_iter()
        .map(|(name, (uses, known))| (name, uses - known))
        .filter(|(_, unknown)| *unknown > 0)
        .collect();
    rows.sort_by_key(|(_, unknown)| std::cmp::Reverse(*unknown));
    for (name, unknown) in rows.into_iter().take(MOST_ROWS) {
        println!("{unknown:>7}  {name}");
    }
    Ok(())
}
