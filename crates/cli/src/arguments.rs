//! All arguments. Doc comments here are the help.

use std::io::Write;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Parser, Subcommand, ValueEnum};

use crate::commands;

/// Brings types into a Python codebase, step by step.
#[derive(Debug, Parser)]
#[command(name = "leitmotiv", version, max_term_width = 100, disable_help_subcommand = true)]
pub struct Arguments {
    /// The project's folder; by default the current one, or the nearest around it that is configured or has a ledger.
    #[arg(long, global = true, value_name = "DIR")]
    pub project: Option<PathBuf>,
    /// The configuration file, in place of `leitmotiv.toml` or `pyproject.toml`.
    #[arg(long, global = true, value_name = "FILE")]
    pub config: Option<PathBuf>,
    /// The interpreter whose packages are read: an executable, an environment's folder, or a folder of packages.
    #[arg(long, global = true, value_name = "PATH")]
    pub interpreter: Option<String>,
    /// When to colour.
    #[arg(long, global = true, value_name = "WHEN", default_value = "auto")]
    pub color: Color,
    /// Leave out what is not asked for: closing lines and hints.
    #[arg(short, long, global = true)]
    pub quiet: bool,
    /// Say more: of a fault of the program, where it happened.
    #[arg(short, long, global = true, conflicts_with = "quiet")]
    pub verbose: bool,
    /// What to do.
    #[command(subcommand)]
    pub command: Command,
}

/// When to colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Color {
    /// On a terminal.
    Auto,
    /// Always.
    Always,
    /// Never.
    Never,
}

/// How a result is printed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Format {
    /// For people.
    Text,
    /// For programs.
    Json,
}

/// The commands, in the order of the work.
#[derive(Debug, Subcommand)]
pub enum Command {
    /// Take stock: what is annotated, what is known, where to begin.
    Survey(commands::survey::Survey),
    /// Write a first `leitmotiv.toml` from what is found.
    Init(commands::init::Init),
    /// Check types.
    Check(commands::check::Check),
    /// Explain a rule, or the findings at a place.
    Explain(commands::explain::Explain),
    /// Say what is known of a name or a place.
    Lookup(commands::lookup::Lookup),
    /// Write annotations from evidence.
    Annotate(commands::annotate::Annotate),
    /// Write stubs, and compare them with the modules as they are.
    Stub(commands::stub::Stub),
    /// Measure what demands would cost, and hold what is reached.
    Tighten(commands::tighten::Tighten),
    /// Walk the whole journey on a demo project.
    Demo(commands::demo::Demo),
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
