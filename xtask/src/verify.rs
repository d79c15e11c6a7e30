//! The stubs of the standard library against interpreters.

use std::path::{Path, PathBuf};
use std::process::Command;

use crate::corpus::program;

/// The versions of the language that are looked for where no interpreter is named.
const MINORS: std::ops::RangeInclusive<u8> = 8..=13;

/// Compares the stubs with what each interpreter has; by default with those that are found on the search path.
pub fn run(interpreters: &[&str]) -> Result<(), String> {
    let program = program()?;
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    let empty = root.join("target/verify");
    std::fs::create_dir_all(&empty).map_err(|error| error.to_string())?;
    let found = if interpreters.is_empty() { on_path() } else { interpreters.iter().map(PathBuf::from).collect() };
    let mut failed = 0;
    for interpreter in found {
        println!("{}", interpreter.display());
        let status = Command::new(&program)
            .current_dir(&empty)
            .arg("--interpreter")
            .arg(&interpreter)
            .args(["stub", "verify", "--library", "--reviewed"])
            .arg(root.join("crates/stdlib/reviewed.txt"))
            .status()
            .map_err(|error| error.to_string())?;
        failed += usize::from(!status.success());
    }
    if failed > 0 { Err(format!("{failed} of the interpreters differ from the stubs")) } else { Ok(()) }
}

fn on_path() -> Vec<PathBuf> {
    let path = std::env::var_os("PATH").unwrap_or_default();
    let folders: Vec<PathBuf> = std::env::split_paths(&path).collect();
    MINORS
        .filter_map(|minor| {
            folders.iter().map(|folder| folder.join(format!("python3.{minor}"))).find(|path| path.is_file())
        })
        .collect()
}
