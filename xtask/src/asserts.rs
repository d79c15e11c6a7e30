//! How many of the `assert_type` lines hold that packages ship as their typing tests (typing specification, "Directives"). A
//! line whose expression is wholly unknown counts as holding: nothing is said of it.

use std::path::{Path, PathBuf};
use std::process::Command;

use serde_json::Value;

use crate::corpus::{GENERIC, folder, generic_environment, program};

pub fn run() -> Result<(), String> {
    let program = program()?;
    println!("{:<24}{:>9}{:>9}{:>9}", "package", "lines", "hold", "share");
    let (mut all, mut all_hold) = (0, 0);
    for package in GENERIC {
        let folder = folder(package);
        if !folder.exists() {
            return Err("run `cargo xtask corpus` first".to_owned());
        }
        let asserted = assertions(&folder);
        if asserted == 0 {
            continue;
        }
        let output = Command::new(&program)
            .env("VIRTUAL_ENV", generic_environment())
            .arg("--project")
            .arg(&folder)
            .args(["check", "--format", "json"])
            .output()
            .map_err(|error| error.to_string())?;
        let report: Value = serde_json::from_slice(&output.stdout).map_err(|error| error.to_string())?;
        let findings = report["findings"].as_array().map(Vec::as_slice).unwrap_or_default();
        let broken = findings.iter().filter(|finding| finding["rule"] == "assert.type").count();
        let hold = asserted.saturating_sub(broken);
        println!(
            "{:<24}{asserted:>9}{hold:>9}{:>8.1}%",
            format!("{} {}", package.name, package.version),
            share(hold, asserted)
        );
        all += asserted;
        all_hold += hold;
    }
    println!("{:<24}{all:>9}{all_hold:>9}{:>8.1}%", "all", share(all_hold, all));
    Ok(())
}

fn share(part: usize, of: usize) -> f64 {
    100.0 * part as f64 / of.max(1) as f64
}

/// Statements that begin with `assert_type(` in the Python files and stubs below a folder.
fn assertions(folder: &Path) -> usize {
    let mut number = 0;
    let mut waiting: Vec<PathBuf> = vec![folder.to_owned()];
    while let Some(folder) = waiting.pop() {
        for path in std::fs::read_dir(&folder).into_iter().flatten().flatten().map(|entry| entry.path()) {
            if path.is_dir() {
                waiting.push(path);
            } else if path.extension().is_some_and(|extension| extension == "py" || extension == "pyi") {
                let text = std::fs::read_to_string(&path).unwrap_or_default();
                number += text.lines().filter(|line| line.trim_start().starts_with("assert_type(")).count();
            }
        }
    }
    number
}
