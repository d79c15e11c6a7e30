//! A cold check of the whole corpus against the interpreter compiling a fresh copy of the same files, in one run.

use std::path::Path;
use std::process::Command;
use std::time::Instant;

use crate::corpus::{PACKAGES, folder, lines, program, python_files, root};

/// How often each is timed; the median counts.
const ROUNDS: usize = 5;

/// How often the program alone is timed in other circumstances; the fastest counts.
const OTHERS: usize = 3;

pub fn run() -> Result<(), String> {
    let program = program()?;
    let work = root().join("corpora/speed");
    let _ = std::fs::remove_dir_all(&work);
    let checked = work.join("checked");
    // All packages side by side.
    for package in PACKAGES {
        let from = folder(package);
        if !from.exists() {
            return Err("run `cargo xtask corpus` first".to_owned());
        }
        copy_python(&from, &checked.join(format!("copy0/{}", package.name)))?;
    }
    let files = python_files(&checked).len();
    let all = lines(&python_files(&checked));
    if files == 0 {
        return Err("the corpus is empty".to_owned());
    }
    println!("{files} files, {all} lines");
    let mut ratios = Vec::new();
    let mut peaks = Vec::new();
    for round in 1..=ROUNDS {
        let (check, peak) = timed(&program, &checked, None)?;
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
        peaks.push(peak);
        println!(
            "round {round}: check {check:.2} s ({:.0} lines/s, peak {peak} MB), compile {compile:.2} s, ratio {:.2}",
            all as f64 / check,
            check / compile
        );
    }
    ratios.sort_by(f64::total_cmp);
    peaks.sort_unstable();
    println!("median ratio {:.2}", ratios[ratios.len() / 2]);
    println!(
        "median peak {} MB, {:.0} MB per million lines",
        peaks[ROUNDS / 2],
        peaks[ROUNDS / 2] as f64 * 1e6 / all as f64
    );
    let fastest = |folder: &Path, threads: Option<&str>| -> Result<f64, String> {
        let mut best = f64::INFINITY;
        for _ in 0..OTHERS {
            best = best.min(timed(&program, folder, threads)?.0);
        }
        Ok(best)
    };
    let (one, two) = (fastest(&checked, Some("1"))?, fastest(&checked, Some("2"))?);
    println!("one thread {one:.2} s, two {two:.2} s: {:.2} times as fast", one / two);
    // The same once more beside it: twice as much to do.
    for package in PACKAGES {
        copy_python(&folder(package), &checked.join(format!("copy1/{}", package.name)))?;
    }
    let (single, double) = (fastest(&checked.join("copy0"), None)?, fastest(&checked, None)?);
    println!("once {single:.2} s, twice {double:.2} s: exponent {:.2}", (double / single).log2());
    let _ = std::fs::remove_dir_all(&work);
    Ok(())
}

/// A check from nothing: seconds, and the peak of memory in megabytes.
fn timed(program: &Path, folder: &Path, threads: Option<&str>) -> Result<(f64, u64), String> {
    let watch = "\"$0\" --project \"$1\" check --format json --fail-on never > \"$1.json\" & pid=$!; peak=0; \
                 while kill -0 $pid 2>/dev/null; do now=$(sed -n 's/^VmHWM:[^0-9]*\\([0-9]*\\).*/\\1/p' /proc/$pid/status 2>/dev/null); \
                 [ -n \"$now\" ] && peak=$now; sleep 0.02; done; wait $pid; echo $? $peak";
    let mut command = Command::new("/usr/bin/env");
    command.args(["sh", "-c", watch]).arg(program).arg(folder);
    if let Some(threads) = threads {
        command.env("RAYON_NUM_THREADS", threads);
    }
    let start = Instant::now();
    let output = command.output().map_err(|error| error.to_string())?;
    let seconds = start.elapsed().as_secs_f64();
    let text = String::from_utf8_lossy(&output.stdout).into_owned();
    let mut words = text.split_whitespace();
    let status = words.next().unwrap_or("?").to_owned();
    let peak: u64 = words.next().and_then(|peak| peak.parse().ok()).unwrap_or(0);
    if status == "0" { Ok((seconds, peak / 1024)) } else { Err(format!("the check ended with status {status}")) }
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
