//! `leitmotiv trace`
//!
//! - this file: the subcommands, and how functions are named to them
//! - `run`: a program run and recorded
//! - `show`: what is known per function
//! - `callers`: who passed what
//! - `merge`: what was recorded elsewhere
//! - `forget`: what is no longer wanted

mod callers;
mod forget;
mod merge;
mod run;
mod show;

use std::path::{Path, PathBuf};
use std::process::ExitCode;

use clap::{Args, Subcommand};
use leitmotiv_project::Project;
use leitmotiv_project::settings::nearest;
use leitmotiv_trace::records::{Function, Records};
use leitmotiv_trace::run::gather;

use super::{Context, json, print};
use crate::failure::Failure;

/// Record the types that pass while a program runs, and ask for them.
#[derive(Debug, Args)]
pub struct Trace {
    /// What to do.
    #[command(subcommand)]
    pub command: TraceCommand,
}

/// What to do with recorded runs.
#[derive(Debug, Subcommand)]
pub enum TraceCommand {
    /// Run a program, and record the types that pass through the project's functions.
    Run(run::Run),
    /// Show what was seen per function.
    Show(show::Show),
    /// Show the call sites that passed a type, and where they have it from.
    Callers(callers::Callers),
    /// Add what was recorded on other machines, or by a run that was cut off.
    Merge(merge::Merge),
    /// Forget what was recorded.
    Forget(forget::Forget),
}

/// Runs the command.
pub fn run(context: &Context, command: &Trace) -> Result<ExitCode, Failure> {
    match &command.command {
        TraceCommand::Run(command) => run::run(context, command),
        TraceCommand::Show(command) => show::run(context, command),
        TraceCommand::Callers(command) => callers::run(context, command),
        TraceCommand::Merge(command) => merge::run(context, command),
        TraceCommand::Forget(command) => forget::run(context, command),
    }
}

/// What was recorded of a project, what was cut off included.
fn records(project: &Project) -> Result<Records, Failure> {
    // Where it cannot be put into the store, it stays for another time.
    let _ = gather(&project.root);
    let nothing =
        || Failure::unusable("nothing has been recorded yet; `leitmotiv trace run -- COMMAND` records a program");
    // A store without a run is one that nothing has come of yet.
    Records::of(&project.root)?.filter(|records| !records.runs.is_empty()).ok_or_else(nothing)
}

/// What a word names: a file or folder of the project, relative to it, or a function.
enum Subject {
    /// Below this path; everything where it is empty.
    Below(String),
    /// Functions of that name.
    Named(String),
}

impl Subject {
    fn of(context: &Context, project: &Project, word: &str) -> Subject {
        let path = PathBuf::from(word);
        let is_path = path.exists() || project.root.join(&path).exists();
        if !is_path || !word.contains('/') && !word.contains('.') && !project.root.join(&path).exists() {
            return Subject::Named(word.to_owned());
        }
        let path = context.paths(&[path]).remove(0);
        let absolute = project.root.join(&path).canonicalize().unwrap_or(path);
        let relative = project.relative(&absolute);
        Subject::Below(if Path::new(&relative) == project.root { String::new() } else { relative })
    }

    fn is_file(&self, path: &str) -> bool {
        match self {
            Subject::Below(folder) => {
                folder.is_empty()
                    || path == folder
                    || path.strip_prefix(folder.as_str()).is_some_and(|rest| rest.starts_with('/'))
            }
            Subject::Named(_) => false,
        }
    }

    fn is_it(&self, function: &Function) -> bool {
        match self {
            Subject::Below(_) => self.is_file(&function.path),
            Subject::Named(name) => function.is_named(name),
        }
    }
}

/// Why nothing answers to a word.
fn unknown(records: &Records, word: &str) -> Failure {
    let names = records.functions.iter().map(|function| function.name.as_str());
    let names = names.flat_map(|name| [name, name.rsplit('.').next().unwrap_or(name)]);
    let meant = nearest(word, names).map(|near| format!("; is `{near}` meant?")).unwrap_or_default();
    Failure::unusable(format!("no call of `{word}` has been recorded{meant}"))
}
