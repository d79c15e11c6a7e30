//! What may be said to every command. Doc comments here are the help.

use std::path::PathBuf;

use clap::Args;

use crate::output::Color;

/// The options of every command.
#[derive(Debug, Args)]
pub struct Globals {
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
    /// Say more: all places of a long way, and of a fault of the program, where it happened.
    #[arg(short, long, global = true, conflicts_with = "quiet")]
    pub verbose: bool,
}
