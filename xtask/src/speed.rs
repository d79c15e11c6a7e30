//! A cold check of the whole corpus against the interpreter compiling a fresh copy of the same files, in one run.

use std::collections::{HashMap, HashSet};
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::Instant;

use crate::corpus::{PACKAGES, folder, lines, python_files, root};

/// How often each is timed; the median counts.
const ROUNDS: usize = 5;

/// How often the program alone is timed in other circumstances; the fastest counts.
const OTHERS: usize = 3;

/// What is timed of checks that are kept.
const KEPT: [&str; 5] = ["cold, kept", "unchanged", "leaf edited", "hub's body edited", "a file came"];

/// How to call it.
pub const USAGE: &str = "cargo xtask speed [--program PATH] [FOLDER…]";

/// Times checks of packages, of the corpus where none are named.
pub fn run(words: &[&str]) -> Result<(), String> {
    let mut named: Vec<PathBuf> = Vec::new();
    let mut program = None;
    let mut words = words.iter();
    while let Some(word) = words.next() {
        match *word {
            "--program" => program = Some(PathBuf::from(words.next().ok_or(USAGE)?)),
            folder if !folder.starts_with('-') => named.push(folder.into()),
            _ => return Err(USAGE.to_owned()),
        }
    }
    let program = program.map_or_else(crate::corpus::program, Ok)?;
    let packages: Vec<(String, PathBuf)> = match named.as_slice() {
        [] => PACKAGES.iter().map(|package| (package.name.to_owned(), folder(package))).collect(),
        named => named.iter().enumerate().map(|(place, folder)| (format!("package{place}"), folder.clone())).collect(),
    };
    let work = root().join("corpora/speed");
    let _ = std::fs::remove_dir_all(&work);
    let checked = work.join("checked");
    // All packages side by side.
    for (name, from) in &packages {
        if !from.exists() {
            return Err(format!("{} is not there; `cargo xtask corpus` fetches the pinned packages", from.display()));
        }
        copy_python(from, &checked.join(format!("copy0/{name}")))?;
    }
    let files = python_files(&checked).len();
    let all = lines(&python_files(&checked));
    if files == 0 {
        return Err("the corpus is empty".to_owned());
    }
    println!("{files} files, {all} lines");
    let mut ratios = Vec::new();
    let mut peaks = Vec::new();
    let edits = Edits::of(&checked)?;
    println!("leaf {}, hub {}", edits.leaf.display(), edits.hub.display());
    let mut again: Vec<[f64; 5]> = Vec::new();
    let mut parts: Vec<[f64; 5]> = Vec::new();
    for round in 1..=ROUNDS {
        let (check, peak) = timed(&program, &checked, None, &["--no-cache"])?;
        let whole = std::fs::read(printed(&checked)).map_err(|error| error.to_string())?;
        again.push(edits.timed(&program, &checked, &work.join("cache"))?);
        parts.push(in_parts(&program, &checked, &work, &whole, &edits.leaf)?);
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
    for (place, what) in KEPT.iter().enumerate() {
        let mut seconds: Vec<f64> = again.iter().map(|round| round[place]).collect();
        seconds.sort_by(f64::total_cmp);
        let mut shares: Vec<f64> = again.iter().map(|round| 100.0 * round[place] / round[0]).collect();
        shares.sort_by(f64::total_cmp);
        println!("{what:<18} median {:.3} s, {:.1}% of cold", seconds[ROUNDS / 2], shares[ROUNDS / 2]);
    }
    // The first round has no measured costs to divide by.
    let of_parts = ["slowest part", "all parts", "merged", "slowest, unchanged", "slowest, leaf edited"];
    for (place, what) in of_parts.iter().enumerate() {
        let mut shares: Vec<f64> =
            parts.iter().zip(&again).skip(1).map(|(parts, cold)| 100.0 * parts[place] / cold[0]).collect();
        shares.sort_by(f64::total_cmp);
        println!("{what:<20} {:.1}% of cold ({PARTS} parts, one after the other)", shares[shares.len() / 2]);
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
            best = best.min(timed(&program, folder, threads, &["--no-cache"])?.0);
        }
        Ok(best)
    };
    let (one, two) = (fastest(&checked, Some("1"))?, fastest(&checked, Some("2"))?);
    println!("one thread {one:.2} s, two {two:.2} s: {:.2} times as fast", one / two);
    // The same once more beside it: twice as much to do.
    for (name, from) in &packages {
        copy_python(from, &checked.join(format!("copy1/{name}")))?;
    }
    // One after the other, so that a machine that is busier for a while is so for both.
    let (mut single, mut double) = (f64::INFINITY, f64::INFINITY);
    for _ in 0..OTHERS {
        single = single.min(timed(&program, &checked.join("copy0"), None, &["--no-cache"])?.0);
        double = double.min(timed(&program, &checked, None, &["--no-cache"])?.0);
    }
    println!("once {single:.2} s, twice {double:.2} s: exponent {:.2}", (double / single).log2());
    let _ = std::fs::remove_dir_all(&work);
    Ok(())
}

/// The files that are edited between runs that are kept.
struct Edits {
    leaf: PathBuf,
    hub: PathBuf,
}

impl Edits {
    /// A file whose name no import mentions, and the one that is mentioned by the most files.
    fn of(folder: &Path) -> Result<Edits, String> {
        let mut mentions: HashMap<String, usize> = HashMap::new();
        let files = python_files(folder);
        for file in &files {
            let text = std::fs::read_to_string(file).unwrap_or_default();
            let imports = text.lines().map(str::trim_start);
            let imports = imports.filter(|line| line.starts_with("import ") || line.starts_with("from "));
            let words: HashSet<&str> =
                imports.flat_map(|line| line.split(|char: char| !char.is_alphanumeric() && char != '_')).collect();
            words.into_iter().for_each(|word| *mentions.entry(word.to_owned()).or_default() += 1);
        }
        let stem = |file: &Path| file.file_stem().map(|stem| stem.to_string_lossy().into_owned()).unwrap_or_default();
        let count = |file: &Path| mentions.get(&stem(file)).copied().unwrap_or(0);
        let has_body = |file: &Path| std::fs::read_to_string(file).is_ok_and(|text| edited(&text).is_some());
        let usual = |file: &&PathBuf| stem(file) != "__init__" && stem(file).len() > 5 && has_body(file);
        let leaf = files.iter().filter(usual).find(|file| count(file) == 0).cloned();
        let hub = files.iter().filter(usual).max_by_key(|file| count(file)).cloned();
        Ok(Edits { leaf: leaf.ok_or("no file is a leaf")?, hub: hub.ok_or("no file is a hub")? })
    }

    /// Seconds of a run with nothing kept, of one of the same, and of one after each edit: of the leaf, of the hub, and of a file that comes.
    fn timed(&self, program: &Path, folder: &Path, cache: &Path) -> Result<[f64; 5], String> {
        let _ = std::fs::remove_dir_all(cache);
        let named = cache.to_string_lossy();
        let run = || Ok::<f64, String>(timed(program, folder, None, &["--cache", &named])?.0);
        let (cold, unchanged) = (run()?, run()?);
        let kept = cache.with_extension("kept");
        let read = |file: &Path| std::fs::read_to_string(file).map_err(|error| error.to_string());
        let write = |file: &Path, text: &str| std::fs::write(file, text).map_err(|error| error.to_string());
        copy_files(cache, &kept)?;
        let mut after = [0.0; 3];
        for (place, file) in [&self.leaf, &self.hub].into_iter().enumerate() {
            let text = read(file)?;
            write(file, &edited(&text).unwrap_or_default())?;
            let seconds = run();
            write(file, &text)?;
            after[place] = seconds?;
            // What was kept after another edit would be one edit away from the files as they are.
            copy_files(&kept, cache)?;
        }
        let new = self.leaf.with_file_name("that_came_later.py");
        write(&new, &read(&self.leaf)?)?;
        let seconds = run();
        std::fs::remove_file(&new).map_err(|error| error.to_string())?;
        after[2] = seconds?;
        Ok([cold, unchanged, after[0], after[1], after[2]])
    }
}

/// Copies a folder of files in place of another one.
fn copy_files(from: &Path, to: &Path) -> Result<(), String> {
    let told = |error: std::io::Error| error.to_string();
    let _ = std::fs::remove_dir_all(to);
    std::fs::create_dir_all(to).map_err(told)?;
    for entry in std::fs::read_dir(from).map_err(told)?.flatten() {
        std::fs::copy(entry.path(), to.join(entry.file_name())).map_err(told)?;
    }
    Ok(())
}

/// So many parts a check is made in.
const PARTS: usize = 4;

/// A check in parts.
struct Parts<'a> {
    program: &'a Path,
    folder: &'a Path,
    work: &'a Path,
}

impl Parts<'_> {
    /// Seconds, and what was printed. What files cost is read where it is known, and written by what puts parts together.
    fn run(&self, words: &[&str]) -> Result<(f64, Vec<u8>), String> {
        let start = Instant::now();
        let mut command = Command::new(self.program);
        let output = command.arg("--project").arg(self.folder).arg("check").args(words).output();
        let output = output.map_err(|error| error.to_string())?;
        match output.status.code() {
            Some(0) => Ok((start.elapsed().as_secs_f64(), output.stdout)),
            _ => Err(String::from_utf8_lossy(&output.stderr).into_owned()),
        }
    }

    fn file(&self, part: usize) -> String {
        self.work.join(format!("part{part}")).to_string_lossy().into_owned()
    }

    /// Seconds of the slowest part, and of all of them.
    fn made(&self, more: &[&str]) -> Result<(f64, f64), String> {
        let costs = self.work.join("costs.json").to_string_lossy().into_owned();
        let (mut slowest, mut all) = (0.0, 0.0);
        for part in 1..=PARTS {
            let (place, file) = (format!("{part}/{PARTS}"), self.file(part));
            let words = [&["--part", &place, "--output", &file, "--costs", &costs], more].concat();
            let (seconds, _) = self.run(&words)?;
            slowest = f64::max(slowest, seconds);
            all += seconds;
        }
        Ok((slowest, all))
    }

    /// Seconds of putting them together, and what was printed; what files cost is written for the next time.
    fn merged(&self) -> Result<(f64, Vec<u8>), String> {
        let files: Vec<String> = (1..=PARTS).map(|part| self.file(part)).collect();
        let written = self.work.join("costs.json").to_string_lossy().into_owned();
        let mut words = vec!["--format", "json", "--fail-on", "never", "--costs", &written, "--merge"];
        words.extend(files.iter().map(String::as_str));
        self.run(&words)
    }
}

/// Seconds of the slowest part of a check with nothing kept, of all of them, and of putting them together; and of the slowest where what
/// was kept before is the same, and after an edit of the leaf. What they cost is measured for the next time. What comes out is what one
/// run prints.
fn in_parts(program: &Path, folder: &Path, work: &Path, whole: &[u8], leaf: &Path) -> Result<[f64; 5], String> {
    let parts = Parts { program, folder, work };
    let (slowest, all) = parts.made(&["--no-cache"])?;
    let (merge, merged) = parts.merged()?;
    if merged != whole {
        println!("what the parts come to is not what one run printed ({} and {} bytes)", merged.len(), whole.len());
    }
    let cache = work.join("cache-parts");
    let _ = std::fs::remove_dir_all(&cache);
    let kept = ["--cache", &cache.to_string_lossy()];
    parts.made(&kept)?;
    let (unchanged, _) = parts.made(&kept)?;
    let text = std::fs::read_to_string(leaf).map_err(|error| error.to_string())?;
    std::fs::write(leaf, edited(&text).unwrap_or_default()).map_err(|error| error.to_string())?;
    let after = parts.made(&kept);
    std::fs::write(leaf, &text).map_err(|error| error.to_string())?;
    Ok([slowest, all, merge, unchanged, after?.0])
}

/// A text with a statement more in the body of a function; `None` where it has none with a line of its own.
fn edited(text: &str) -> Option<String> {
    let start = text.find("\n    def ")?;
    let end = start + 1 + text[start + 1..].find(":\n")?;
    Some(format!("{}:\n        _edited = 1\n{}", &text[..end], &text[end + 2..]))
}

/// Where [`timed`] puts what a check of a folder prints.
fn printed(folder: &Path) -> PathBuf {
    PathBuf::from(format!("{}.json", folder.display()))
}

/// A check: seconds, and the peak of memory in megabytes.
fn timed(program: &Path, folder: &Path, threads: Option<&str>, more: &[&str]) -> Result<(f64, u64), String> {
    let watch = "program=$0; folder=$1; shift; \
                 \"$program\" --project \"$folder\" check --format json --fail-on never \"$@\" > \"$folder.json\" & pid=$!; peak=0; \
                 while kill -0 $pid 2>/dev/null; do now=$(sed -n 's/^VmHWM:[^0-9]*\\([0-9]*\\).*/\\1/p' /proc/$pid/status 2>/dev/null); \
                 [ -n \"$now\" ] && peak=$now; sleep 0.02; done; wait $pid; echo $? $peak";
    let mut command = Command::new("/usr/bin/env");
    command.args(["sh", "-c", watch]).arg(program).arg(folder).args(more);
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
