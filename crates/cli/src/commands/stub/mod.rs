//! `leitmotiv stub`

mod list;
mod verify;
mod write;

use std::process::ExitCode;

use clap::{Args, Subcommand};

use super::{Context, print};
use crate::failure::Failure;

/// Write stubs, and compare them with the modules as they are.
#[derive(Debug, Args)]
pub struct Stub {
    /// What to do.
    #[command(subcommand)]
    pub command: StubCommand,
}

/// What to do with stubs.
#[derive(Debug, Subcommand)]
pub enum StubCommand {
    /// Write the stubs of modules or packages.
    Write(write::Write),
    /// Compare stubs with the modules as the interpreter imports them.
    Verify(verify::Verify),
    /// List the imports that have no types, and the stubs that are no longer needed.
    List(list::List),
}

/// Runs the command.
pub fn run(context: &Context, command: &Stub) -> Result<ExitCode, Failure> {
    match &command.command {
        StubCommand::Write(command) => write::run(context, command),
        StubCommand::Verify(command) => verify::run(context, command),
        StubCommand::List(command) => list::run(context, command),
    }
}

/// What a command that imports modules must be given beside its own words, so that it may run the project's interpreter.
pub fn interpreter_flag(project: &leitmotiv_project::Project) -> String {
    match &project.interpreter {
        Some(interpreter) if !interpreter.may_run && interpreter.executable().is_some() => {
            format!(" --interpreter {}", project.relative(&interpreter.name))
        }
        _ => String::new(),
    }
}
