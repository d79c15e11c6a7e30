//! Writes that are interrupted at random moments: afterwards all files are written, or none, and nothing is left over.

use std::collections::BTreeMap;
use std::path::Path;
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

/// How many files a write is over.
const FILES: usize = 400;

const BEFORE: &str = "def fare(adults=1):\n    return 4\n\n\ndef berth(number=2):\n    return 'north'\n";

/// How a run ended.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Ended {
    Nothing,
    All,
    Part,
}

/// Interrupts `times` writes with each of three signals, spread over the time that a write takes.
pub fn run(program: &Path, times: usize) -> Result<(), String> {
    let folder = tempfile::tempdir().map_err(|error| error.to_string())?;
    let mut lengths = Vec::new();
    for _ in 0..5 {
        fill(folder.path());
        let began = Instant::now();
        annotate(program, folder.path(), "--write").status().map_err(|error| error.to_string())?;
        lengths.push(began.elapsed());
    }
    lengths.sort();
    let length = lengths[2];
    println!("{FILES} files, a write takes {} ms", length.as_millis());
    let mut is_sound = true;
    for signal in ["INT", "TERM", "KILL"] {
        let mut at_once: BTreeMap<Ended, usize> = BTreeMap::new();
        let mut afterwards: BTreeMap<Ended, usize> = BTreeMap::new();
        let (mut repaired, mut litter, mut not_undone) = (0, 0, 0);
        for number in 0..times {
            fill(folder.path());
            let mut child = annotate(program, folder.path(), "--write").spawn().map_err(|error| error.to_string())?;
            // Spread over the run, three of four close around its end, where files change places.
            let share = number as f64 / times as f64;
            let moment = if number % 4 == 0 { share } else { 0.85 + share * 0.25 };
            std::thread::sleep(Duration::from_secs_f64(length.as_secs_f64() * moment));
            let _ = Command::new("kill").args(["-s", signal, &child.id().to_string()]).stderr(Stdio::null()).status();
            let _ = child.wait();
            *at_once.entry(state(folder.path())).or_default() += 1;
            // Any command puts it in order.
            let check =
                Command::new(program).arg("--project").arg(folder.path()).args(["lookup", "int", "-q"]).output();
            let said = check.map(|output| String::from_utf8_lossy(&output.stderr).into_owned()).unwrap_or_default();
            repaired += usize::from(said.contains("interrupted"));
            let ended = state(folder.path());
            *afterwards.entry(ended).or_default() += 1;
            litter += usize::from(is_littered(folder.path(), ended));
            if ended == Ended::All {
                let undone = annotate(program, folder.path(), "--undo").status();
                let is_back = undone.is_ok_and(|status| status.success()) && state(folder.path()) == Ended::Nothing;
                not_undone += usize::from(!is_back);
            }
        }
        println!(
            "{signal}: right after {at_once:?}; after the next command {afterwards:?}, {repaired} told as put in order, \
             {litter} with something left over, {not_undone} not taken back"
        );
        let is_whole = |found: &BTreeMap<Ended, usize>| !found.contains_key(&Ended::Part);
        is_sound &= is_whole(&afterwards) && litter == 0 && not_undone == 0;
        // Only what cannot be held off may be seen half done at all.
        is_sound &= signal == "KILL" || is_whole(&at_once);
    }
    if is_sound { Ok(()) } else { Err("something was left half done".to_owned()) }
}

fn annotate(program: &Path, folder: &Path, what: &str) -> Command {
    let mut command = Command::new(program);
    command.arg("--project").arg(folder).args(["annotate", what]).stdout(Stdio::null()).stderr(Stdio::null());
    if what == "--write" {
        command.arg("--dirty");
    }
    command
}

fn fill(folder: &Path) {
    let _ = std::fs::remove_dir_all(folder.join(".leitmotiv"));
    for number in 0..FILES {
        // A folder that can be made can be written to.
        let _ = std::fs::write(folder.join(format!("m{number}.py")), BEFORE);
    }
}

fn state(folder: &Path) -> Ended {
    let written = (0..FILES)
        .filter(|number| {
            std::fs::read_to_string(folder.join(format!("m{number}.py"))).is_ok_and(|text| text.contains("-> int"))
        })
        .count();
    match written {
        0 => Ended::Nothing,
        FILES => Ended::All,
        _ => Ended::Part,
    }
}

/// Whether anything is there that is neither a source nor what is remembered of a finished run.
fn is_littered(folder: &Path, ended: Ended) -> bool {
    let names = |folder: &Path| -> Vec<String> {
        let entries = std::fs::read_dir(folder).into_iter().flatten().flatten();
        entries.map(|entry| entry.file_name().to_string_lossy().into_owned()).collect()
    };
    let strange = names(folder).into_iter().any(|name| name != ".leitmotiv" && !name.starts_with('m'));
    let runs = names(&folder.join(".leitmotiv/runs"));
    let remembered = usize::from(ended == Ended::All);
    let inside = runs.first().map(|run| names(&folder.join(".leitmotiv/runs").join(run))).unwrap_or_default();
    strange || runs.len() != remembered || inside.iter().any(|name| name != "run.json" && name != "before.bin")
}
