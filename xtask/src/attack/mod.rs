//! Attacks that take long, want system calls traced, or want packages: `cargo xtask attack [WHAT]`.
//!
//! What fits into the tests is there (`crates/cli/tests/hostile.rs`, `written.rs`, `ledger.rs`); these ask the same of large
//! inputs, of many interruptions, and of real packages. Each prints what it found; it fails where something is not as it
//! should be.

mod interrupt;
mod packages;
mod scale;
mod trace;
#[path = "../../../crates/cli/tests/hostile/world.rs"]
#[allow(dead_code)] // The tests ask more of it.
mod world;

use std::path::{Path, PathBuf};
use std::process::Command;

/// Runs the attacks named; all but `packages` where none is.
pub fn run(words: &[&str]) -> Result<(), String> {
    let program = built()?;
    match words {
        [] => {
            trace::run(&program)?;
            interrupt::run(&program, 200)?;
            scale::run(&program, &[])
        }
        ["trace"] => trace::run(&program),
        ["interrupt"] => interrupt::run(&program, 200),
        ["interrupt", number] => interrupt::run(&program, number.parse().map_err(|_| "how often is a number")?),
        ["scale", names @ ..] => scale::run(&program, names),
        ["packages", names @ ..] if !names.is_empty() => packages::run(&program, names),
        ["library"] => packages::library(&program),
        _ => Err("attack trace | interrupt [N] | scale [NAME…] | packages NAME… | library".to_owned()),
    }
}

/// The release build of the program.
fn built() -> Result<PathBuf, String> {
    let done = Command::new("cargo").args(["build", "--release", "-p", "leitmotiv"]).status();
    if !done.is_ok_and(|status| status.success()) {
        return Err("the release build failed".to_owned());
    }
    Ok(Path::new(env!("CARGO_MANIFEST_DIR")).join("../target/release/leitmotiv"))
}
