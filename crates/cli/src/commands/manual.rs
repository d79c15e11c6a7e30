//! `leitmotiv manual`

use std::process::ExitCode;

use clap::{Args, CommandFactory};
use clap_mangen::Man;

use super::print;
use crate::arguments::Arguments;
use crate::failure::Failure;

/// Print the manual page, in roff: of the program, or of one command.
#[derive(Debug, Args)]
pub struct Manual {
    /// The command; by default the program as a whole.
    pub command: Option<String>,
}

/// Runs the command.
pub fn run(asked: &Manual) -> Result<ExitCode, Failure> {
    let whole = Arguments::command();
    let page = match &asked.command {
        None => Man::new(whole),
        Some(name) => {
            let command = whole.find_subcommand(name).cloned();
            let command = command.ok_or_else(|| Failure::unusable(format!("there is no command `{name}`")))?;
            let shown = format!("leitmotiv {name}");
            Man::new(command.display_name(&shown).bin_name(&shown)).title(format!("leitmotiv-{name}"))
        }
    };
    let mut text = Vec::new();
    page.render(&mut text)?;
    print(&String::from_utf8_lossy(&text))?;
    Ok(ExitCode::SUCCESS)
}
