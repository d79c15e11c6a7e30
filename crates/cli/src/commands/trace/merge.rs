//! `leitmotiv trace merge`

use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_trace::run::{gather, merge_store};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// Add what was recorded on other machines, or by a run that was cut off.
#[derive(Debug, Args)]
pub struct Merge {
    /// Stores from elsewhere (`traces.sqlite`); none to add only what runs left that were cut off.
    #[arg(value_name = "FILE")]
    pub files: Vec<PathBuf>,
}

/// Runs the command.
pub fn run(context: &Context, command: &Merge) -> Result<ExitCode, Failure> {
    let project = context.project()?;
    for file in &command.files {
        if !file.exists() {
            return Err(Failure::unusable(format!("there is no file `{}`", file.display())));
        }
    }
    let mut out = String::new();
    let cut = gather(&project.root)?;
    if cut > 0 {
        out.push_str(&format!(
            "Added {} that {} cut off.\n",
            look::count(cut, "run", "runs"),
            if cut == 1 { "was" } else { "were" }
        ));
    }
    for file in &command.files {
        let file = std::path::absolute(file).unwrap_or_else(|_| file.clone());
        let (functions, is_new) = merge_store(&project.root, &file)?;
        let functions = look::count(functions, "function", "functions");
        let shown = project.relative(&file);
        out.push_str(&if is_new {
            format!("Added what `{shown}` knows of {functions}.\n")
        } else {
            format!("`{shown}` was added before; nothing is new.\n")
        });
    }
    if out.is_empty() {
        out.push_str("There is nothing to add.\n");
    } else if !context.quiet {
        out.push_str("Next: leitmotiv trace show\n");
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}
