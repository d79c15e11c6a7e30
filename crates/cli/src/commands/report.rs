//! `leitmotiv report`

use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_engine::demands;
use leitmotiv_migrate::session::Asked;
use leitmotiv_migrate::tighten::cost::costs;
use leitmotiv_migrate::{history, survey, tighten};
use leitmotiv_report::overview::Overview;
use leitmotiv_report::page::{self, Which};
use leitmotiv_report::summary;

use super::{Context, print, print_to};
use crate::failure::Failure;
use crate::look;

/// Show where the project stands: a page, charts or numbers.
#[derive(Debug, Args)]
pub struct Reports {
    /// Files and folders; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// The file to write, which is replaced whole. A page needs one; the other forms are printed without it.
    #[arg(long, value_name = "FILE")]
    pub out: Option<PathBuf>,
    /// What to make.
    #[arg(long, value_name = "FORMAT", default_value = "html")]
    pub format: Form,
    /// Which chart, for `--format svg`.
    #[arg(long, value_name = "CHART", default_value = "map")]
    pub chart: Chart,
    /// Also check so many earlier revisions, evenly spread over the history, each in a temporary folder.
    #[arg(long, value_name = "N", default_value_t = 0)]
    pub history: usize,
}

/// What is made.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Form {
    /// One page that needs nothing but itself.
    Html,
    /// One of its charts.
    Svg,
    /// Its numbers, for programs.
    Json,
    /// A summary for the page of a job, or a comment.
    Markdown,
}

/// A chart of the page.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Chart {
    /// Packages by size and known share.
    Map,
    /// Promises and debts over time; with `--history` the known share and findings, too.
    Time,
    /// Which modules import which.
    Layers,
}

/// So many steps are proposed; so many modules are held against all other code for them.
const MOST_STEPS: usize = 3;
const MOST_PROVED: usize = 1;

/// Runs the command.
pub fn run(context: &Context, command: &Reports) -> Result<ExitCode, Failure> {
    if command.format == Form::Html && command.out.is_none() {
        return Err(Failure::unusable("name the file to write: leitmotiv report --out types.html"));
    }
    let mut session = context.session_with_ledger()?;
    let paths = context.paths(&command.paths);
    let asked = tighten::measure(&mut session, &paths, demands::ALL)?;
    let costs = costs(&session, &asked, demands::ALL);
    drop(asked);
    let report = session.check(&paths, &Asked::default())?;
    let mut taken = survey::survey(&session.db, &report);
    let held = std::sync::Arc::new(session.held(&report.files));
    let edited = survey::weigh(&mut session.db, &report, &mut taken);
    taken.steps =
        survey::plan::plan(&mut session.db, &report, &taken, &edited, (MOST_STEPS, MOST_PROVED, false), &held);
    let of_ledger = history::of_ledger(session.project());
    let earlier = match command.history {
        0 => Vec::new(),
        most => history::rechecked(session.project(), most).map_err(|error| Failure::unusable(error.to_string()))?,
    };
    let overview = Overview::new(&session, &report, &taken, costs, (of_ledger, earlier));
    let text = match command.format {
        Form::Html => page::page(&overview, env!("CARGO_PKG_VERSION")),
        Form::Json => super::json(&overview),
        Form::Markdown => summary::markdown(&overview),
        Form::Svg => {
            let which = match command.chart {
                Chart::Map => Which::Map,
                Chart::Time => Which::Time,
                Chart::Layers => Which::Layers,
            };
            page::chart(&overview, which).ok_or_else(|| {
                Failure::unusable("nothing is known over time: commit `leitmotiv.ledger`, or ask for `--history 10`")
            })?
        }
    };
    match &command.out {
        None => print(&text)?,
        Some(path) => {
            print_to(path, &text)?;
            if !context.quiet {
                let words =
                    format!("Wrote `{}`, which needs nothing but itself. Next: leitmotiv tighten", path.display());
                print(&format!("{}\n", look::fold(&words, look::width(), "", "")))?;
            }
        }
    }
    Ok(ExitCode::SUCCESS)
}
