//! A cold check of the whole corpus against the interpreter compiling a fresh copy of the same files, in one run.

use std::path::Path;
use std::process::Command;
use std::time::Instant;

use crate::corpus::{PACKAGES, folder, lines, program, python_files, root};

/// How often each is timed; the median counts.
const ROUNDS: usize = 3;

pub fn run() -> Result<(), String> {
    let program = program()?;
    let work = root().join("corpora/speed");
    let _ = std::fs::remove_dir_all(&work);
    let checked = work.join("checked");
    let mut wanted = 0;
    // All packages side by side, then once more under another name, until there are enough lines.
    for copy in 0.. {
        for package in PACKAGES {
            let from = folder(package);
            if !from.exists() {
                return Err("run `cargo xtask corpus` first".to_owned());
            }
            copy_python(&from, &checked.join(format!("copy{copy}/{}", package.name)))?;
        }
        wanted = lines(&python_files(&checked));
        if wanted >= 500_000 {
            break;
        }
    }
    let files = python_files(&checked).len();
    if files == 0 {
        return Err("the corpus is empty".to_owned());
    }
    println!("{files} files, {wanted} lines");
    let mut ratios = Vec::new();
    for round in 1..=ROUNDS {
        let start = Instant::now();
        let output = Command::new("/usr/bin/env")
            .args(["sh", "-c", "\"$0\" --project \"$1\" check --format json --fail-on never > \"$1.json\" & pid=$!; peak=0; while kill -0 $pid 2>/dev/null; do now=$(sed -n 's/^VmHWM:[^0-9]*\\([0-9]*\\).*/\\1/p' /proc/$pid/status 2>/dev/null); [ -n \"$now\" ] && peak=$now; sleep 0.02; done; wait $pid; echo $? $peak"])
            .arg(&program)
            .arg(&checked)
            .output()
            .map_err(|error| error.to_string())?;
        let check = start.elapsed().as_secs_f64();
        let text = String::from_utf8_lossy(&output.stdout).into_owned();
        let mut words = text.split_whitespace();
        let status = words.next().unwrap_or("?").to_owned();
        let peak: u64 = words.next().and_then(|peak| peak.parse().ok()).unwrap_or(0);
        if status != "0" {
            return Err(format!("the check ended with status {status}"));
        }
        let fresh = work.join(format!("compiled{round}"));
        copy_python(&checked, &fresh)?;
        let start = Instant::now();
        let status = Command::new("python3")
            .args(["-m", "compileall", "-q", "-j", "2"])
            .arg(&fresh)
            .stdout(std::process::Stdio::null())
            .stderr(std::process::Stdio::null())
            .status()
            .map_err(|error| error.to_string())?;
        let compile = start.elapsed().as_secs_f64();
        // Some files of the corpus are templates that do not compile; that is the same work up to there.
        let _ = status;
        let _ = std::fs::remove_dir_all(&fresh);
        ratios.push(check / compile);
        println!(
            "round {round}: check {check:.2} s ({:.0} lines/s, peak {} MB), compile {compile:.2} s, ratio {:.2}",
            wanted as f64 / check,
            peak / 1024,
            check / compile
        );
    }
    ratios.sort_by(f64::total_cmp);
    println!("median ratio {:.2}", ratios[ratios.len() / 2]);
    let _ = std::fs::remove_dir_all(&work);
    Ok(())
}

fn copy_python(from: &Path, to: &Path) -> Result<(), String> {
    for file in python_files(from) {
        let target = to.join(file.strip_prefix(from).unwrap_or(&file));
        if let Some(folder) = target.parent() {
            std::fs::create_dir_all(folder).map_err(|error| error.to_string())?;
        }
        std::fs::copy(&file, &target).map_err(|error| format!("{}: {error}", file.display()))?;
    }
    Ok(())
}
