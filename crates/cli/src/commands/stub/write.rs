//! `leitmotiv stub write`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_migrate::change::{self, Change};
use leitmotiv_migrate::stub::plan::{self, From, Plan, Planned, Request};
use leitmotiv_project::write::Writer;

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// How many names that were added to a stub are named.
const MOST_NAMES: usize = 6;

/// Write the stubs of modules or packages.
///
/// A stub that is there already keeps all that stands in it; names that it does not have are added.
#[derive(Debug, Args)]
pub struct Write {
    /// Modules or packages by name; of packages, all their modules.
    #[arg(required_unless_present = "undo", value_name = "MODULE")]
    pub modules: Vec<String>,
    /// What to write from; by default the source, and of machine code the module as the interpreter imports it.
    #[arg(long, value_name = "WHAT")]
    pub from: Option<Origin>,
    /// Only the names that this project uses, with types from its calls.
    #[arg(long)]
    pub used: bool,
    /// The stubs' folder; by default the first one configured.
    #[arg(long, value_name = "DIR")]
    pub out: Option<PathBuf>,
    /// Write stub packages that can be published, `NAME-stubs`, with their `py.typed`.
    #[arg(long)]
    pub package: bool,
    /// Write stubs that are there already anew.
    #[arg(long)]
    pub overwrite: bool,
    /// Print the stubs, and write nothing.
    #[arg(long)]
    pub show: bool,
    /// Take the last run back that was not taken back yet.
    #[arg(long, conflicts_with_all = ["modules", "show", "overwrite"])]
    pub undo: bool,
}

/// The command's name in what is remembered of its runs.
const NAME: &str = "stub write";

/// What a stub is written from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Origin {
    /// The module's source.
    Source,
    /// The module as the interpreter imports it.
    Running,
    /// Its source, and what is only there once it is imported.
    Both,
}

/// Runs the command.
pub fn run(context: &Context, command: &Write) -> Result<ExitCode, Failure> {
    if command.undo {
        let taken = change::undo(&writer(context, command)?, NAME)?;
        let count = look::count(taken.len(), "file", "files");
        print(&format!("Took back the last stubs that were written, in {count}. Next: leitmotiv stub list\n"))?;
        return Ok(ExitCode::SUCCESS);
    }
    let session = context.session()?;
    let root = session.project().root.clone();
    let shown = match &command.out {
        // A folder as typed is relative to the current folder.
        Some(folder) => std::path::absolute(folder)?,
        None => PathBuf::from(session.project().settings.stubs.first().map_or("stubs", String::as_str)),
    };
    let files = if command.used { Some(session.files(&[])?) } else { None };
    let request = Request {
        modules: &command.modules,
        from: command.from.map(|from| match from {
            Origin::Source => From::Source,
            Origin::Running => From::Running,
            Origin::Both => From::Both,
        }),
        used_by: files.as_deref(),
        overwrite: command.overwrite,
        folder: &root.join(&shown),
        package: command.package,
    };
    let plan = plan::plan(&session.db, &request).map_err(|error| Failure::unusable(error.to_string()))?;
    let folder = root.join(&shown);
    let path = |inside: &PathBuf| session.project().relative(&folder.join(inside));
    if command.show {
        let mut out = String::new();
        for stub in &plan.stubs {
            let _ = writeln!(out, "{}", look::heading(&format!("# {}", path(&stub.path))));
            let _ = writeln!(out, "{}", stub.after);
        }
        print(&out)?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut changes: Vec<Change> = plan
        .stubs
        .iter()
        .filter(|stub| stub.before.as_ref() != Some(&stub.after))
        .map(|stub| Change {
            path: folder.join(&stub.path),
            shown: path(&stub.path),
            before: stub.before.clone(),
            after: stub.after.clone(),
        })
        .collect();
    let written = changes.len();
    for (marker, text) in &plan.markers {
        let before = leitmotiv_project::read::text(&folder.join(marker)).ok();
        if before.as_ref() != Some(text) {
            changes.push(Change { path: folder.join(marker), shown: path(marker), before, after: text.clone() });
        }
    }
    if !changes.is_empty() {
        change::write(session.project(), &writer(context, command)?, NAME, &changes, true)?;
    }
    let next = match context.quiet {
        true => None,
        false => Some(format!(
            "Next: leitmotiv stub verify{}, to compare them with the modules",
            super::interpreter_flag(session.project())
        )),
    };
    print(&told(&plan, written, &path, next.as_deref()))?;
    Ok(ExitCode::SUCCESS)
}

/// What writes the stubs: below the project's folder, or below a folder elsewhere that the command line names.
fn writer(context: &Context, command: &Write) -> Result<Writer, Failure> {
    let root = context.folder.canonicalize().unwrap_or_else(|_| context.folder.clone());
    let Some(out) = &command.out else { return context.writer_at(&context.folder) };
    let out = std::path::absolute(out)?;
    let near = out.ancestors().find_map(|folder| folder.canonicalize().ok()).unwrap_or_default();
    if near.starts_with(&root) {
        return context.writer_at(&context.folder);
    }
    std::fs::create_dir_all(&out)?;
    context.writer_at(&out)
}

/// What was written, a line for each stub.
fn told(plan: &Plan, written: usize, path: &dyn Fn(&PathBuf) -> String, next: Option<&str>) -> String {
    let width = look::width();
    let mut out = String::new();
    for stub in &plan.stubs {
        let line = format!("{}  {}", path(&stub.path), what(stub));
        let _ = writeln!(out, "{}", look::fold(&line, width, "", "    "));
    }
    for (module, reason) in &plan.failed {
        let line = format!("{module}  was not imported: {reason}");
        let _ = writeln!(out, "{}", look::fold(&line, width, "", "    "));
    }
    if let Some(next) = next {
        let count = look::count(written, "stub", "stubs");
        let _ = writeln!(out, "{}", look::fold(&format!("Wrote {count}. {next}"), width, "", ""));
    }
    out
}

fn what(stub: &Planned) -> String {
    let lines = look::count(stub.after.lines().count(), "line", "lines");
    match &stub.before {
        Some(before) if *before == stub.after => "stays as it is: it has every name".to_owned(),
        Some(_) if !stub.added.is_empty() => {
            let named: Vec<&str> = stub.added.iter().take(MOST_NAMES).map(String::as_str).collect();
            let more = stub.added.len().saturating_sub(MOST_NAMES);
            let more = if more > 0 { format!(" and {more} more") } else { String::new() };
            format!("{} added: {}{more}", look::count(stub.added.len(), "name", "names"), named.join(", "))
        }
        _ => {
            let open = stub.after.matches("Any").count().saturating_sub(stub.after.matches("import Any").count());
            let open = match open {
                0 => String::new(),
                1 => ", `Any` once for what could not be told".to_owned(),
                open => format!(", `Any` {open} times for what could not be told"),
            };
            format!("{lines}{open}")
        }
    }
}
