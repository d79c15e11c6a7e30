//! A package's own tests, run and recorded.

use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use leitmotiv_project::{Project, Surroundings, sources};
use leitmotiv_trace::run::Recording;

/// Runs the tests of an unpacked source distribution with the environment's interpreter, and records them; gives what came of it in a line.
pub fn record(root: &Path, environment: &Path, seconds: u64) -> Result<String, String> {
    let project = Project::open(root, None, &Surroundings::default()).map_err(|error| error.to_string())?;
    let files: Vec<PathBuf> = sources::list(&project, &[]).map_err(|error| error.to_string())?;
    let environment = std::path::absolute(environment).map_err(|error| error.to_string())?;
    // Options that the packages want may be those of plugins that are not there.
    let (mut told, mut was_refused) = tests(root, &environment, &files, seconds, &[])?;
    if was_refused {
        (told, was_refused) = tests(root, &environment, &files, seconds, &["-o", "addopts="])?;
    }
    Ok(if was_refused { format!("{told} (refused)") } else { told })
}

/// Runs them once; gives the line, and whether the test runner did not understand its options.
fn tests(
    root: &Path,
    environment: &Path,
    files: &[PathBuf],
    seconds: u64,
    options: &[&str],
) -> Result<(String, bool), String> {
    let recording = Recording::prepare(root, files, 1.0).map_err(|error| error.to_string())?;
    let mut tests = Command::new(environment.join("bin/python"));
    let words = ["-m", "pytest", "-q", "-p", "no:cacheprovider", "-o", "filterwarnings="];
    tests.args(words).args(options).current_dir(root).stdin(Stdio::null()).stderr(Stdio::null());
    recording.dress(&mut tests);
    let hook = tests.get_envs().find(|(name, _)| *name == "PYTHONPATH").and_then(|(_, value)| value);
    let own = [root.join("src"), root.to_owned()];
    let path = hook.iter().flat_map(std::env::split_paths).chain(own);
    let path = std::env::join_paths(path).map_err(|error| error.to_string())?;
    tests.env("PYTHONPATH", path);
    let told = tempfile::tempfile().map_err(|error| error.to_string())?;
    let out = told.try_clone().map_err(|error| error.to_string())?;
    std::os::unix::process::CommandExt::process_group(&mut tests, 0);
    let began = Instant::now();
    let mut child = tests.stdout(out).spawn().map_err(|error| error.to_string())?;
    let status = loop {
        if let Some(status) = child.try_wait().map_err(|error| error.to_string())? {
            break status;
        }
        if began.elapsed() > Duration::from_secs(seconds) {
            // With all that they started.
            let group = format!("-{}", child.id());
            let _ = Command::new("kill").args(["-KILL", "--", &group]).status();
        }
        std::thread::sleep(Duration::from_millis(50));
    };
    let summary = recording.finish("pytest").map_err(|error| error.to_string())?;
    let last = last_line(told).unwrap_or_default();
    // pytest's status where its command line is wrong.
    let was_refused = status.code() == Some(4);
    Ok((format!("{} functions, {} calls; {last}", summary.functions, summary.calls), was_refused))
}

fn last_line(mut file: std::fs::File) -> Option<String> {
    use std::io::{Read, Seek};
    let mut text = String::new();
    file.rewind().ok()?;
    file.read_to_string(&mut text).ok()?;
    Some(text.trim_end().lines().last()?.to_owned())
}
