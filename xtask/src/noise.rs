//! How much is reported on packages that their authors keep type-clean, and how much of them is known.

use std::collections::BTreeMap;
use std::path::Path;
use std::process::Command;

use serde_json::Value;

use crate::corpus::{GENERIC, PACKAGES, Package, environment_folder, folder, generic_environment, program};

/// Of the annotated packages of the corpus.
pub fn run() -> Result<(), String> {
    let packages: Vec<&Package> = PACKAGES.iter().filter(|package| package.typed).collect();
    measure(&packages, &environment_folder())
}

/// Of the heavily generic ones.
pub fn generic() -> Result<(), String> {
    measure(&GENERIC.iter().collect::<Vec<_>>(), &generic_environment())
}

fn measure(packages: &[&Package], environment: &Path) -> Result<(), String> {
    let program = program()?;
    let mut rules: BTreeMap<String, usize> = BTreeMap::new();
    let (mut all_lines, mut all_errors, mut all_known, mut all_exprs) = (0, 0, 0, 0);
    println!("{:<24}{:>9}{:>9}{:>10}{:>9}", "package", "lines", "errors", "per 1,000", "known");
    for package in packages {
        let folder = folder(package);
        if !folder.exists() {
            return Err("run `cargo xtask corpus` first".to_owned());
        }
        let run = |words: &[&str]| -> Result<Value, String> {
            let output = Command::new(&program)
                .env("VIRTUAL_ENV", environment)
                .arg("--project")
                .arg(&folder)
                .args(words)
                .args(["--format", "json"])
                .output()
                .map_err(|error| error.to_string())?;
            serde_json::from_slice(&output.stdout).map_err(|error| format!("{}: {error}", package.name))
        };
        let report = run(&["check"])?;
        let survey = run(&["survey"])?;
        let lines = report["summary"]["lines"].as_u64().unwrap_or(0);
        let errors = report["summary"]["error"].as_u64().unwrap_or(0);
        for finding in report["findings"].as_array().into_iter().flatten() {
            let severity = finding["severity"].as_str().unwrap_or_default();
            let rule = finding["rule"].as_str().unwrap_or_default();
            *rules.entry(format!("{severity} {rule}")).or_default() += 1;
        }
        // What is `Any` counts as said here, as it did in earlier figures.
        let known = survey["known_expressions"].as_u64().unwrap_or(0) + survey["any_expressions"].as_u64().unwrap_or(0);
        let exprs = survey["expressions"].as_u64().unwrap_or(0);
        println!(
            "{:<24}{lines:>9}{errors:>9}{:>10.2}{:>8.1}%",
            format!("{} {}", package.name, package.version),
            per_thousand(errors, lines),
            100.0 * known as f64 / exprs.max(1) as f64
        );
        all_lines += lines;
        all_errors += errors;
        all_known += known;
        all_exprs += exprs;
    }
    println!(
        "{:<24}{all_lines:>9}{all_errors:>9}{:>10.2}{:>8.1}%",
        "all",
        per_thousand(all_errors, all_lines),
        100.0 * all_known as f64 / all_exprs.max(1) as f64
    );
    for (rule, number) in rules {
        println!("{number:>7}  {rule}");
    }
    Ok(())
}

fn per_thousand(number: u64, lines: u64) -> f64 {
    1000.0 * number as f64 / lines.max(1) as f64
}
