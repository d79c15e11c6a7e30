//! `leitmotiv completions`

use std::process::ExitCode;

use clap::{Args, CommandFactory};
use clap_complete::Shell;

use super::print;
use crate::arguments::Arguments;
use crate::failure::Failure;

/// Print what a shell needs to complete commands and options.
#[derive(Debug, Args)]
pub struct Completions {
    /// The shell.
    pub shell: Shell,
}

/// Runs the command.
pub fn run(command: &Completions) -> Result<ExitCode, Failure> {
    let mut text = Vec::new();
    clap_complete::generate(command.shell, &mut Arguments::command(), "leitmotiv", &mut text);
    print(&String::from_utf8_lossy(&text))?;
    Ok(ExitCode::SUCCESS)
}
