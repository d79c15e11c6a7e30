//! `leitmotiv stub write`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_engine::module::module_index;
use leitmotiv_migrate::change::{self, Change};
use leitmotiv_migrate::stub;

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// Write the stubs of modules or packages from their source.
#[derive(Debug, Args)]
pub struct Write {
    /// Modules or packages by name; of packages, all their modules.
    #[arg(required = true, value_name = "MODULE")]
    pub modules: Vec<String>,
    /// The stubs' folder; by default the first one configured.
    #[arg(long, value_name = "DIR")]
    pub out: Option<PathBuf>,
    /// Print the stubs, and write nothing.
    #[arg(long)]
    pub show: bool,
}

/// Runs the command.
pub fn run(context: &Context, command: &Write) -> Result<ExitCode, Failure> {
    let session = context.session()?;
    let root = session.project().root.clone();
    let folder = match &command.out {
        Some(folder) => folder.clone(),
        None => PathBuf::from(session.project().settings.stubs.first().map_or("stubs", String::as_str)),
    };
    let mut changes: Vec<Change> = Vec::new();
    for module in &command.modules {
        let targets = stub::targets(&session.db, module);
        if targets.is_empty() {
            return Err(Failure::unusable(format!("there is no module `{module}` to write a stub of")));
        }
        for target in targets {
            if target.file.is_stub(&session.db) {
                return Err(Failure::unusable(format!(
                    "`{}` has a stub already, `{}`; nothing was written",
                    target.module,
                    target.file.path(&session.db)
                )));
            }
            if let Some(fault) = module_index(&session.db, target.file).faults.first() {
                let path = target.file.path(&session.db);
                return Err(Failure::unusable(format!("`{path}` is not valid Python: {}", fault.message)));
            }
            let path = folder.join(&target.path);
            let shown = path.to_string_lossy().replace('\\', "/");
            if root.join(&path).exists() && !command.show {
                return Err(Failure::unusable(format!("`{shown}` is there already; nothing was written")));
            }
            changes.push(Change { path: shown, before: None, after: stub::from_source(&session.db, target.file) });
        }
    }
    if command.show {
        let mut out = String::new();
        for change in &changes {
            let _ = writeln!(out, "{}", look::heading(&format!("# {}", change.path)));
            let _ = writeln!(out, "{}", change.after);
        }
        print(&out)?;
        return Ok(ExitCode::SUCCESS);
    }
    change::write(&root, &changes, true).map_err(crate::commands::annotate::failure)?;
    let mut out = String::new();
    for change in &changes {
        let lines = change.after.lines().count();
        let open = change.after.matches("Any").count();
        let open = if open > 0 { format!(", {open} times `Any` for what could not be told") } else { String::new() };
        let _ = writeln!(out, "{}  {}{open}", change.path, look::count(lines, "line", "lines"));
    }
    if !context.quiet {
        let _ = writeln!(out, "Wrote {}. Next: leitmotiv check", look::count(changes.len(), "stub", "stubs"));
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}
