//! `leitmotiv trace run`

use std::ffi::OsString;
use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::process::{Command, ExitCode, ExitStatus};
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use clap::Args;
use leitmotiv_project::interpreter::{Interpreter, NamedBy};
use leitmotiv_project::{Project, programs, sources};
use leitmotiv_trace::run::{Recording, Summary, gather};
use leitmotiv_trace::store::Store;

use super::Context;
use crate::failure::Failure;
use crate::look;

/// The oldest version that can be recorded.
const OLDEST: (u8, u8) = (3, 8);

/// Run a program, and record the types that pass through the project's functions.
#[derive(Debug, Args)]
pub struct Run {
    /// What part of the calls to look at, above 0 and up to 1; the first call of each function is looked at in any case.
    #[arg(long, value_name = "RATE", default_value = "1", value_parser = rate)]
    pub sample: f64,
    /// The program with its arguments; `python` is the project's interpreter.
    #[arg(last = true, required = true, value_name = "COMMAND")]
    pub command: Vec<OsString>,
}

fn rate(text: &str) -> Result<f64, String> {
    let rate: f64 = text.parse().map_err(|_| "it is not a number".to_owned())?;
    if rate > 0.0 && rate <= 1.0 { Ok(rate) } else { Err("it must be above 0 and at most 1".to_owned()) }
}

/// Runs the command.
pub fn run(context: &Context, command: &Run) -> Result<ExitCode, Failure> {
    let project = context.project()?;
    let words: Vec<String> = command.command.iter().map(|word| word.to_string_lossy().into_owned()).collect();
    let program = program(&project, &command.command[0])?;
    refuse_unrecordable(&project, &program, &words)?;
    let files = sources::list(&project, &[]).map_err(|error| Failure::unusable(error.to_string()))?;
    // Before anything runs: whether what is recorded can be kept.
    Store::open(&project.root)?;
    gather(&project.root)?;
    let unusable = |error: std::io::Error| {
        Failure::unusable(format!("cannot record into `{}`: {error}", project.root.join(".leitmotiv").display()))
    };
    let recording = Recording::prepare(&project.root, &files, command.sample).map_err(unusable)?;
    let mut child = Command::new(&program);
    child.args(&command.command[1..]);
    recording.dress(&mut child);
    let ended = match attended(context, &mut child) {
        Ok(ended) => ended,
        Err(error) => {
            recording.drop_all();
            return Err(Failure::unusable(format!("cannot run `{}`: {error}", program.display())));
        }
    };
    let status = status(ended);
    let told = if recording.processes() == 0 {
        recording.drop_all();
        Err(Failure::unusable(format!(
            "nothing was recorded: `{}` started no CPython from 3.8 on that heeds PYTHONPATH",
            words.join(" ")
        )))
    } else {
        recording.finish(&words.join(" ")).map_err(Failure::from).map(|summary| closing(&summary))
    };
    match told {
        Ok(line) => {
            if !context.quiet {
                // Where standard error is gone, nobody can be told.
                let _ = writeln!(anstream::stderr(), "{}", look::shown(&line));
            }
            Ok(ExitCode::from(status))
        }
        // The program's own status says more.
        Err(failure) if status != 0 => {
            failure.report();
            Ok(ExitCode::from(status))
        }
        Err(failure) => Err(failure),
    }
}

/// The program to run. `python` and `python3` are the project's interpreter, and what lies beside that comes before what the search path has:
/// whoever says `trace run` wants the project's code to run (docs/security.md).
fn program(project: &Project, word: &OsString) -> Result<PathBuf, Failure> {
    let missing = || Failure::unusable(format!("there is no command `{}`", word.to_string_lossy()));
    let path = Path::new(word);
    if path.components().count() > 1 {
        return std::path::absolute(path).ok().filter(|path| path.is_file()).ok_or_else(missing);
    }
    let name = word.to_str().ok_or_else(missing)?;
    let interpreter = project.interpreter.as_ref().and_then(Interpreter::executable);
    if let Some(interpreter) = &interpreter
        && matches!(name, "python" | "python3")
    {
        return Ok(interpreter.clone());
    }
    // Where nobody named an interpreter and there is no `python`, `python3` is meant.
    let others = if name == "python" { vec![name, "python3"] } else { vec![name] };
    let beside = interpreter.as_ref().and_then(|interpreter| interpreter.parent()).map(|folder| folder.join(name));
    let on_path = others.into_iter().flat_map(|name| programs::candidates(name, &project.surroundings));
    beside.into_iter().filter(|path| path.is_file()).chain(on_path).next().ok_or_else(missing)
}

/// Refuses what could not be recorded, before it runs.
fn refuse_unrecordable(project: &Project, program: &Path, words: &[String]) -> Result<(), Failure> {
    let name = program.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    if !name.starts_with("python") {
        return Ok(());
    }
    // What the program's name tells, or the folder that it lies in; it is not run for that.
    let version = Interpreter::at(program, &project.root, NamedBy::Project).map(|found| found.version);
    if let Some(version) = version.filter(|version| *version < OLDEST) {
        let (major, minor) = version;
        return Err(Failure::unusable(format!(
            "`{}` is Python {major}.{minor}; 3.8 and later can be recorded",
            words[0]
        )));
    }
    let options =
        words[1..].iter().take_while(|word| word.starts_with('-') && word.len() > 1 && *word != "-m" && *word != "-c");
    for option in options.filter(|option| !option.starts_with("--")) {
        if let Some(letter) = option.chars().find(|letter| matches!(letter, 'I' | 'E' | 'S')) {
            return Err(Failure::unusable(format!(
                "with `-{letter}` an interpreter does not run what it is to start with, and nothing could be recorded"
            )));
        }
    }
    Ok(())
}

/// Runs the program to its end. Signals that come from the terminal reach it as well as us, and it decides; others are passed on.
fn attended(context: &Context, child: &mut Command) -> std::io::Result<ExitStatus> {
    let asked = Arc::new(AtomicBool::new(false));
    let mut signals = vec![signal_hook::consts::SIGTERM];
    #[cfg(unix)]
    signals.push(signal_hook::consts::SIGHUP);
    for signal in signals {
        signal_hook::flag::register(signal, asked.clone())?;
    }
    context.interrupts.may_end.store(false, Ordering::SeqCst);
    let ended = programs::attend(child, || asked.load(Ordering::SeqCst));
    // What was recorded is kept first, and then the program's own end is ours.
    ended
}

/// The exit status of the program as ours: as a shell has it, 128 and the signal's number where one ended it.
fn status(ended: ExitStatus) -> u8 {
    #[cfg(unix)]
    if let Some(signal) = std::os::unix::process::ExitStatusExt::signal(&ended) {
        return u8::try_from(128 + signal).unwrap_or(1);
    }
    ended.code().and_then(|code| u8::try_from(code & 0xff).ok()).unwrap_or(1)
}

fn closing(summary: &Summary) -> String {
    let Summary { processes, functions, calls, changed } = summary;
    let processes = look::count(*processes, "process", "processes");
    if *functions == 0 {
        return format!("leitmotiv: recorded {processes}; no function of the project was called");
    }
    let calls = look::count(usize::try_from(*calls).unwrap_or(usize::MAX), "call", "calls");
    let functions = look::count(*functions, "function", "functions");
    let changed = match changed {
        0 => String::new(),
        1 => " (1 of them was changed meanwhile)".to_owned(),
        more => format!(" ({} of them were changed meanwhile)", look::thousands(*more)),
    };
    format!("leitmotiv: saw {calls} of {functions}{changed} in {processes}. Next: leitmotiv trace show")
}
