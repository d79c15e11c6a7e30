//! `leitmotiv annotate`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_migrate::annotate::{self, Proposal, Source, Sureness, Wanted};
use leitmotiv_migrate::change::{self, ChangeError};
use leitmotiv_report::place;

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// Write annotations from evidence.
#[derive(Debug, Args)]
pub struct Annotate {
    /// Files and folders; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// Apply the annotations, in place of showing them as a diff.
    #[arg(long, conflicts_with = "undo")]
    pub write: bool,
    /// Take the last run back.
    #[arg(long)]
    pub undo: bool,
    /// Which evidence to use.
    #[arg(long, value_name = "KINDS", value_delimiter = ',', default_value = "defaults,returns")]
    pub from: Vec<From>,
    /// The least sure that is wanted.
    #[arg(long, value_name = "HOW", default_value = "fair")]
    pub at_least: AtLeast,
    /// Only these functions, by name or dotted name.
    #[arg(long, value_name = "NAME", num_args = 1..)]
    pub functions: Vec<String>,
    /// Show the evidence for each annotation, in place of a diff.
    #[arg(long)]
    pub why: bool,
    /// Write to files that have uncommitted changes or are not under version control, too.
    #[arg(long)]
    pub dirty: bool,
}

/// Kinds of evidence.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum From {
    /// Defaults of parameters.
    Defaults,
    /// What functions return.
    Returns,
}

/// How sure an annotation must be.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum AtLeast {
    /// Other values are likely to be meant as well.
    Low,
    /// It covers what can be seen.
    Fair,
    /// Nothing else is possible.
    Sure,
}

/// Runs the command.
pub fn run(context: &Context, command: &Annotate) -> Result<ExitCode, Failure> {
    let session = context.session()?;
    let root = session.project().root.clone();
    if command.undo {
        let taken = change::undo(&root).map_err(failure)?;
        print(&format!("Took back the last run in {}. Next: leitmotiv annotate --why\n", files(taken.len())))?;
        return Ok(ExitCode::SUCCESS);
    }
    let list = session.files(&context.paths(&command.paths))?;
    let wanted = Wanted {
        sources: command
            .from
            .iter()
            .map(|from| match from {
                From::Defaults => Source::Defaults,
                From::Returns => Source::Returns,
            })
            .collect(),
        at_least: match command.at_least {
            AtLeast::Low => Sureness::Low,
            AtLeast::Fair => Sureness::Fair,
            AtLeast::Sure => Sureness::Sure,
        },
        functions: command.functions.clone(),
    };
    let proposals = annotate::propose(&session.db, &list, &wanted);
    let unfit = |error: leitmotiv_syntax::edits::EditError| Failure::fault(error.to_string());
    let (proposals, dropped) = annotate::vetted(&session.db, &list, proposals).map_err(unfit)?;
    if proposals.is_empty() {
        print("There is no evidence for any annotation that is missing here. Next: leitmotiv survey\n")?;
        return Ok(ExitCode::SUCCESS);
    }
    let changes = annotate::changes(&session.db, &proposals).map_err(unfit)?;
    let apart = match dropped {
        0 => String::new(),
        dropped => format!(" ({dropped} left out, because other code contradicts them)"),
    };
    let number = look::count(proposals.len(), "annotation", "annotations");
    let said = format!("{number} in {}{apart}", files(changes.len()));
    if command.write {
        change::write(&root, &changes, command.dirty).map_err(failure)?;
        print(&format!("Wrote {said}. Take it back with leitmotiv annotate --undo. Next: leitmotiv check\n"))?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut out = if command.why { reasons(&session.db, &proposals) } else { change::diff(&changes) };
    if !context.quiet {
        let _ = writeln!(out, "{said}, not written. Next: leitmotiv annotate --write");
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

/// Says what stands against writing.
pub fn failure(error: ChangeError) -> Failure {
    Failure::unusable(error.to_string())
}

fn files(number: usize) -> String {
    look::count(number, "file", "files")
}

fn reasons(db: &leitmotiv_engine::db::Database, proposals: &[Proposal]) -> String {
    let width = look::width();
    let mut out = String::new();
    for proposal in proposals {
        let slot = match &proposal.param {
            Some(param) => format!("{}({param}: {})", proposal.function, proposal.spelled.text),
            None => format!("{}() -> {}", proposal.function, proposal.spelled.text),
        };
        let _ = writeln!(out, "{}  {}", look::heading(&slot), look::faint(proposal.sureness.name()));
        for (range, words) in &proposal.evidence {
            let line = place::positions(db, proposal.file, *range).0.line;
            let text = format!("{}:{line}  {words}", proposal.file.path(db));
            let _ = writeln!(out, "{}", look::fold(&text, width, "    ", "        "));
        }
    }
    out.push('\n');
    out
}
