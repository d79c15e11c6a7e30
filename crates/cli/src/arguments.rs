//! All arguments, and how they are refused.

use std::io::Write;
use std::process::ExitCode;

use clap::Parser;

use crate::commands::Command;
use crate::globals::Globals;

/// Brings types into a Python codebase, step by step.
#[derive(Debug, Parser)]
#[command(name = "leitmotiv", version, max_term_width = 100, disable_help_subcommand = true)]
pub struct Arguments {
    /// What holds for every command.
    #[command(flatten)]
    pub globals: Globals,
    /// What to do.
    #[command(subcommand)]
    pub command: Command,
}

/// Prints clap's refusal as one sentence, or the help that was asked for.
pub fn refuse(error: &clap::Error) -> ExitCode {
    use clap::error::ErrorKind;
    let is_help = matches!(
        error.kind(),
        ErrorKind::DisplayHelp | ErrorKind::DisplayVersion | ErrorKind::DisplayHelpOnMissingArgumentOrSubcommand
    );
    if is_help {
        // A closed pipe is no failure.
        let _ = error.print();
        return if error.kind() == ErrorKind::DisplayHelpOnMissingArgumentOrSubcommand {
            ExitCode::from(2)
        } else {
            ExitCode::SUCCESS
        };
    }
    let text = error.to_string();
    let first = text.lines().next().unwrap_or_default().trim_start_matches("error: ");
    // Missing arguments stand in the lines below the first.
    let more: Vec<&str> = text.lines().skip(1).take_while(|line| !line.is_empty()).map(str::trim).collect();
    let sentence = if more.is_empty() { first.to_owned() } else { format!("{first} {}", more.join(" ")) };
    let _ = writeln!(anstream::stderr(), "leitmotiv: {sentence}; `leitmotiv --help` lists what there is");
    ExitCode::from(2)
}
