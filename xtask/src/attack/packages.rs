//! `annotate --write --at-least low` on real packages and on the standard library: every file compiles with the same tree but
//! for annotations and imports, what imported before imports after, a second run finds nothing, and `--undo` gives the bytes.

use std::path::Path;
use std::process::Command;

/// The comparison itself is Python's: it compiles, imports and compares trees with the interpreter that users have.
const PROGRAM: &str = include_str!("packages.py");

/// Packages from PyPI by name, with what they depend on so that they can be imported.
pub fn run(program: &Path, names: &[&str]) -> Result<(), String> {
    let folder = tempfile::tempdir().map_err(|error| error.to_string())?;
    let mut is_sound = true;
    for name in names {
        let (own, all) = (folder.path().join(name), folder.path().join(format!("{name}-all")));
        let install = |target: &Path, more: &[&str]| {
            let mut pip = Command::new("python3");
            pip.args(["-m", "pip", "install", "-q", "--no-compile", "--target"]).arg(target).args(more).arg(name);
            pip.status().is_ok_and(|status| status.success())
        };
        if !install(&own, &["--no-deps"]) || !install(&all, &[]) {
            println!("{name}: cannot be fetched");
            continue;
        }
        is_sound &= compare(program, &own, Some(&all))?;
    }
    if is_sound { Ok(()) } else { Err("see above".to_owned()) }
}

/// A copy of the standard library of the Python that is found.
pub fn library(program: &Path) -> Result<(), String> {
    let question = "import sysconfig; print(sysconfig.get_paths()['stdlib'])";
    let output = Command::new("python3").args(["-c", question]).output().map_err(|error| error.to_string())?;
    let library = String::from_utf8_lossy(&output.stdout).trim().to_owned();
    let folder = tempfile::tempdir().map_err(|error| error.to_string())?;
    let copy = folder.path().join("library");
    let mut tar = Command::new("sh");
    let apart = "--exclude=site-packages --exclude=dist-packages --exclude=test --exclude=tests --exclude=__pycache__ --exclude=idlelib --exclude=lib2to3 --exclude=turtledemo --exclude='config-*'";
    tar.arg("-c").arg(format!("mkdir {0} && cd {library} && tar cf - {apart} . | tar xf - -C {0}", copy.display()));
    if !tar.status().is_ok_and(|status| status.success()) {
        return Err("the library cannot be copied".to_owned());
    }
    if compare(program, &copy, None)? { Ok(()) } else { Err("see above".to_owned()) }
}

fn compare(program: &Path, own: &Path, all: Option<&Path>) -> Result<bool, String> {
    let mut python = Command::new("python3");
    python.arg("-c").arg(PROGRAM).arg(program).arg(own);
    if let Some(all) = all {
        python.arg(all);
    }
    let status = python.status().map_err(|error| error.to_string())?;
    Ok(status.success())
}
