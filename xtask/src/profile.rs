//! Where the time of a check goes: how often queries run and keys are made, and, where Linux's `perf` is there, which functions and which
//! rooms cost most.

use std::collections::HashMap;
use std::path::Path;
use std::process::{Command, Stdio};

use crate::corpus::root;

/// How many rows each table has.
const ROWS: usize = 30;

pub fn run(folder: &str) -> Result<(), String> {
    let folder = Path::new(folder).canonicalize().map_err(|error| format!("{folder}: {error}"))?;
    // Frames can be followed without a table of them, at a little cost.
    let target = root().join("target/profile");
    let build = |arguments: &[&str]| -> Result<(), String> {
        let status = Command::new("cargo")
            .current_dir(root())
            .env("RUSTFLAGS", "-C force-frame-pointers=yes")
            .args(["build", "-q", "--profile", "quick", "--target-dir"])
            .arg(&target)
            .args(arguments)
            .status()
            .map_err(|error| error.to_string())?;
        if status.success() { Ok(()) } else { Err("the build failed".to_owned()) }
    };
    build(&["-p", "leitmotiv-engine", "--example", "counts"])?;
    build(&["-p", "leitmotiv"])?;
    let status =
        Command::new(target.join("quick/examples/counts")).arg(&folder).status().map_err(|error| error.to_string())?;
    if !status.success() {
        return Err("the counts failed".to_owned());
    }
    let work = tempfile::tempdir().map_err(|error| error.to_string())?;
    let data = work.path().join("perf.data");
    let recorded = Command::new("perf")
        .args(["record", "-q", "-F", "499", "-e", "cpu-clock", "--call-graph", "fp", "-o"])
        .arg(&data)
        .arg(target.join("quick/leitmotiv"))
        .arg("--project")
        .arg(&folder)
        .args(["check", "--no-cache", "--format", "json", "--fail-on", "never"])
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .status();
    if !recorded.is_ok_and(|status| status.success()) {
        println!("no profile: `perf` (of Linux) is not there, or may not look");
        return Ok(());
    }
    let script = Command::new("perf")
        .args(["script", "-F", "ip,sym", "-i"])
        .arg(&data)
        .output()
        .map_err(|error| error.to_string())?;
    tell(&String::from_utf8_lossy(&script.stdout));
    Ok(())
}

/// Costs by the innermost of our own functions, with what it calls outside of our code; and by its room.
fn tell(script: &str) {
    let mut functions: HashMap<String, usize> = HashMap::new();
    let mut rooms: HashMap<String, usize> = HashMap::new();
    let mut all = 0;
    for sample in script.split("\n\n").filter(|sample| !sample.trim().is_empty()) {
        all += 1;
        let own = sample.lines().find(|line| line.contains("leitmotiv_") || line.contains("leitmotiv::"));
        let frame = own.and_then(|line| line.trim().split_once(' ')).map_or("elsewhere", |(_, frame)| frame);
        *functions.entry(frame.to_owned()).or_default() += 1;
        *rooms.entry(room(frame)).or_default() += 1;
    }
    for (title, counts) in [("by function", functions), ("by room", rooms)] {
        println!("\n{title} (% of {all} samples)");
        let mut counts: Vec<(String, usize)> = counts.into_iter().collect();
        counts.sort_by(|one, other| other.1.cmp(&one.1).then_with(|| one.0.cmp(&other.0)));
        for (name, count) in counts.iter().take(ROWS) {
            println!("{:6.2}  {name}", 100.0 * *count as f64 / f64::from(all));
        }
    }
}

/// The crate and the module below it: `engine::call`.
fn room(frame: &str) -> String {
    let Some(at) = frame.find("leitmotiv_") else { return "elsewhere".to_owned() };
    let parts = frame[at + "leitmotiv_".len()..].split("::").take(2);
    parts.map(|part| part.trim_end_matches(|char: char| !char.is_alphanumeric())).collect::<Vec<_>>().join("::")
}
