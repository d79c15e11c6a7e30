//! `leitmotiv tighten`
//!
//! - this file: the command, and what recording changed
//! - `table`: demands by packages, and what is nearest
//! - `owed`: debts by package and age

mod owed;
mod table;

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_migrate::clean::is_under_git;
use leitmotiv_migrate::ledger;
use leitmotiv_migrate::session::Asked;
use leitmotiv_migrate::tighten::cost::costs;
use leitmotiv_migrate::tighten::{self, Recorded, Recording};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;
use crate::output::Format;

/// Measure what demands would cost, and hold what is reached.
#[derive(Debug, Args)]
pub struct Tighten {
    /// Demands; by default all. `leitmotiv explain DEMAND` says what each asks.
    pub demands: Vec<String>,
    /// Only below these paths.
    #[arg(long = "in", value_name = "PATHS", num_args = 1..)]
    pub paths: Vec<PathBuf>,
    /// Record every hold that is free, or the demands named with what they find as debt; strike paid debts; follow renamed files.
    #[arg(long)]
    pub write: bool,
    /// List what is owed: by package, with its age and who last touched the code.
    #[arg(long, conflicts_with = "write")]
    pub owed: bool,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text", conflicts_with = "write")]
    pub format: Format,
    /// Record all that is found now as debt, whatever its rule, so that only new findings fail.
    #[arg(long, requires = "write", conflicts_with = "demands")]
    pub as_it_is: bool,
    /// Drop the promises of files that are gone or left alone.
    #[arg(long, requires = "write")]
    pub forget: bool,
}

/// Runs the command.
pub fn run(context: &Context, command: &Tighten) -> Result<ExitCode, Failure> {
    let mut session = context.session_with_ledger()?;
    let demands = tighten::chosen(&command.demands)?;
    let report = tighten::measure(&mut session, &context.paths(&command.paths), &demands)?;
    let mut out = String::new();
    if command.write {
        let recording =
            Recording { named: !command.demands.is_empty(), as_it_is: command.as_it_is, forget: command.forget };
        let plain = session.check(&context.paths(&command.paths), &Asked::default())?;
        let (ledger, recorded) = tighten::record(&session, &report, &plain, &demands, recording);
        let root = &session.project().root;
        // With the first ledger comes what git needs to merge it.
        let is_wanted = !session.ledger.is_there() && is_under_git(session.project());
        let attributes = if is_wanted { ledger::attributes(root) } else { None };
        let has_attributes = attributes.is_some();
        ledger.write(root, &context.writer(session.project()), attributes)?;
        let (holds, debts) = ledger.size();
        let mut paragraphs = apart(&recorded);
        if has_attributes {
            paragraphs
                .push(format!("`.gitattributes` has the line `{}` now: git merges the ledger by it.", ledger::MERGE));
        }
        paragraphs.push(format!(
            "Held {} more, {} new, {} paid. The ledger holds {} and {}; commit `leitmotiv.ledger`. Next: leitmotiv check",
            look::count(recorded.held, "promise", "promises"),
            look::count(recorded.owed, "debt", "debts"),
            recorded.paid,
            look::count(holds, "promise", "promises"),
            look::count(debts, "debt", "debts"),
        ));
        for paragraph in paragraphs {
            let _ = writeln!(out, "{}", look::fold(&paragraph, look::width(), "", ""));
        }
        print(&out)?;
        return Ok(ExitCode::SUCCESS);
    }
    let is_json = command.format == Format::Json;
    if command.owed {
        let owed = tighten::owed::owed(&session, &report);
        let text = if is_json { super::json(&owed) } else { owed::text(&owed, context.quiet) };
        print(&text)?;
        return Ok(ExitCode::SUCCESS);
    }
    let costs = costs(&session, &report, &demands);
    let text = if is_json { super::json(&costs) } else { table::text(&costs, &demands, context.quiet) };
    print(&text)?;
    Ok(ExitCode::SUCCESS)
}

/// What went otherwise than one might expect, a sentence each.
fn apart(recorded: &Recorded) -> Vec<String> {
    let mut told = Vec::new();
    for (old, new) in &recorded.followed {
        told.push(format!("`{old}` is `{new}` now; its promises and debts went with it."));
    }
    for path in &recorded.forgotten {
        told.push(format!("The promises of `{path}` were dropped."));
    }
    for path in &recorded.missing {
        told.push(format!(
            "`{path}` is held and not there any more; its promises stay until `leitmotiv tighten --write --forget`."
        ));
    }
    for path in &recorded.untold {
        told.push(format!("`{path}` was left as it is: it cannot be read as a whole, or a comment hides all of it."));
    }
    for path in &recorded.lost {
        told.push(format!(
            "No debt of `{path}` was struck: more of its imports cannot be found than before, so types are missing."
        ));
    }
    told
}
