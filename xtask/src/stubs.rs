//! Stubs written of packages without types and of machine code: whether `stub verify` accepts them, and whether the imports of a
//! program that uses them all have types then.

use std::path::PathBuf;
use std::process::{Command, Output};

use serde_json::Value;

use crate::corpus::{PACKAGES_WITHOUT_TYPES, program, untyped_environment};

/// A module, and an expression that uses it.
const USES: &[(&str, &str)] = &[
    ("bottle", "bottle.Bottle()"),
    ("crcmod", "crcmod.mkCrcFun(0x11021)"),
    ("docutils.core", "docutils.core.publish_string('tide')"),
    ("lxml.etree", "lxml.etree.fromstring('<tide/>')"),
    ("msgpack", "msgpack.packb({'tide': 1})"),
    ("psycopg2", "psycopg2.connect('tide')"),
    ("yaml", "yaml.safe_load('tide: 1')"),
    ("regex", "regex.compile('tide')"),
    ("setproctitle", "setproctitle.setproctitle('tide')"),
    ("simplejson", "simplejson.dumps(1)"),
    ("sortedcontainers", "sortedcontainers.SortedList([1])"),
    ("tabulate", "tabulate.tabulate([[1]])"),
    ("xlrd", "xlrd.open_workbook('tide')"),
];

pub fn run() -> Result<(), String> {
    let folder = untyped_environment();
    if !folder.exists() {
        return Err(format!("run `cargo xtask corpus` first; it installs {} packages", PACKAGES_WITHOUT_TYPES.len()));
    }
    let project = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("../target/stubs");
    // What an earlier run wrote would only be added to.
    let _ = std::fs::remove_dir_all(&project);
    std::fs::create_dir_all(&project).map_err(|error| error.to_string())?;
    let mut text = String::new();
    USES.iter().for_each(|(module, _)| text.push_str(&format!("import {module}\n")));
    USES.iter().for_each(|(_, expression)| text.push_str(&format!("print({expression})\n")));
    std::fs::write(project.join("main.py"), text).map_err(|error| error.to_string())?;
    let program = program()?;
    let leitmotiv = |words: &[&str]| -> Result<Output, String> {
        let mut command = Command::new(&program);
        command.current_dir(&project).arg("--interpreter").arg(&folder).args(words);
        command.output().map_err(|error| error.to_string())
    };
    let untyped = |output: &Output| -> Result<usize, String> {
        let found: Value = serde_json::from_slice(&output.stdout).map_err(|error| error.to_string())?;
        let findings = found["findings"].as_array().into_iter().flatten();
        Ok(findings.filter(|finding| finding["rule"] == "import.untyped").count())
    };
    let before = untyped(&leitmotiv(&["check", "main.py", "--format", "json"])?)?;
    let mut accepted = 0;
    for (module, _) in USES {
        let package = module.split('.').next().unwrap_or(module);
        let written = leitmotiv(&["stub", "write", package, "--from", "both"])?;
        if !written.status.success() {
            return Err(String::from_utf8_lossy(&written.stderr).into_owned());
        }
        let verified = leitmotiv(&["stub", "verify", package, "--format", "json"])?;
        let rows: Value = serde_json::from_slice(&verified.stdout).map_err(|error| error.to_string())?;
        let rows: Vec<&Value> = rows.as_array().into_iter().flatten().collect();
        let count = |key: &str| -> u64 { rows.iter().filter_map(|row| row[key].as_u64()).sum() };
        let differences: usize = rows.iter().filter_map(|row| Some(row["differences"].as_array()?.len())).sum();
        let failed = rows.iter().filter(|row| !row["error"].is_null()).count();
        accepted += usize::from(differences == 0);
        println!(
            "{package:<18} {:>4} stubs {:>6} names {:>6} signatures {differences:>3} differences {failed:>3} not importable",
            rows.len(),
            count("names"),
            count("signatures"),
        );
    }
    let after = untyped(&leitmotiv(&["check", "main.py", "--format", "json"])?)?;
    println!("{accepted} of {} packages accepted; import.untyped: {before} before, {after} after", USES.len());
    Ok(())
}
