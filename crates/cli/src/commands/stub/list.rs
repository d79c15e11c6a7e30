//! `leitmotiv stub list`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_migrate::session::Asked;
use leitmotiv_migrate::stub::missing::{self, Entry, State};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;
use crate::output::Format;

/// List the imports that have no types, and the stubs that are no longer needed.
#[derive(Debug, Args)]
pub struct List {
    /// Files and folders; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Format,
}

/// Runs the command.
pub fn run(context: &Context, command: &List) -> Result<ExitCode, Failure> {
    let mut session = context.session()?;
    let report = session.check(&context.paths(&command.paths), &Asked::default())?;
    let entries = missing::list(&session.db, &report);
    if command.format == Format::Json {
        let mut text = serde_json::to_string_pretty(&entries).unwrap_or_default();
        text.push('\n');
        print(&text)?;
        return Ok(ExitCode::SUCCESS);
    }
    print(&text(&entries, context.quiet, &super::interpreter_flag(session.project())))?;
    Ok(ExitCode::SUCCESS)
}

fn text(entries: &[Entry], quiet: bool, flag: &str) -> String {
    let width = look::width();
    let mut out = String::new();
    if entries.is_empty() {
        return "Every import has types.\n".to_owned();
    }
    let rows: Vec<Vec<String>> = entries
        .iter()
        .map(|entry| {
            vec![
                entry.module.clone(),
                entry.state.words().to_owned(),
                look::thousands(entry.importers),
                look::thousands(entry.unknown),
                what_to_do(entry),
            ]
        })
        .collect();
    let heads = ["module", "state", "imported by", "unknown", "what to do"];
    out.push_str(&look::table(&heads, &[false, false, true, true, false], &rows, width));
    let lacking = entries.iter().filter(|entry| entry.state != State::Superseded).count();
    let unknown: usize = entries.iter().map(|entry| entry.unknown).sum();
    let count = look::count(lacking, "module lacks", "modules lack");
    let values = look::count(unknown, "value is", "values are");
    let mut last = format!("{count} types; {values} unknown because of that.");
    let first = entries.iter().find(|entry| matches!(entry.state, State::Untyped | State::Compiled));
    if let Some(entry) = first.filter(|_| !quiet) {
        // Machine code is imported to see what is in it.
        let flag = if entry.state == State::Compiled { flag } else { " --used" };
        let _ = write!(last, " Next: leitmotiv stub write {}{flag}", entry.module);
    }
    let _ = writeln!(out, "\n{}", look::fold(&last, width, "", "  "));
    out
}

fn what_to_do(entry: &Entry) -> String {
    match entry.state {
        State::Untyped => format!("stub write {} --used", entry.module),
        State::Compiled => format!("stub write {}", entry.module),
        State::Missing => "install it, or set `interpreter`".to_owned(),
        State::Elsewhere => "nothing here: its stub is written where it is".to_owned(),
        State::Superseded => "remove its stub".to_owned(),
    }
}
