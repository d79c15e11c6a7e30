//! `leitmotiv survey`
//!
//! - this file: the command
//! - `tables`: what is printed for people
//! - `suppressions`: comments that hide findings

mod suppressions;
mod tables;

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_migrate::session::Asked;
use leitmotiv_migrate::survey::{self, parts};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;
use crate::output::Format;

/// So many modules are listed for people.
const MOST_MODULES: usize = 8;

/// So many packages and names.
const MOST_ROWS: usize = 15;

/// So many steps are proposed.
const MOST_STEPS: usize = 3;

/// With `--try` so many modules are held against all other code for each step, at most.
const MOST_PROVED: usize = 3;

/// Take stock: what is annotated, what is known, where to begin.
#[derive(Debug, Args)]
pub struct Survey {
    /// Files and folders; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// Also what is used of the standard library, and what of it is not known.
    #[arg(long)]
    pub library: bool,
    /// Annotate so many modules, in memory, with what there is evidence for and other code does not contradict, and say what comes of it.
    #[arg(long, value_name = "N", conflicts_with_all = ["library", "by", "layers", "suppressions"])]
    pub r#try: Option<usize>,
    /// In place of all that, packages, classes or functions, those with most unknown values first.
    #[arg(long, value_name = "WHAT", conflicts_with_all = ["library", "layers", "suppressions"])]
    pub by: Option<By>,
    /// In place of all that, which modules import which: as layers, with circles.
    #[arg(long, conflicts_with_all = ["library", "suppressions"])]
    pub layers: bool,
    /// In place of all that, the comments that hide findings: whether they still do, since when, and why.
    #[arg(long, conflicts_with = "library")]
    pub suppressions: bool,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Format,
}

/// By what the stock is taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum By {
    /// Folders.
    Package,
    /// Classes.
    Class,
    /// Functions and methods.
    Function,
}

impl By {
    fn of(self) -> parts::By {
        match self {
            By::Package => parts::By::Package,
            By::Class => parts::By::Class,
            By::Function => parts::By::Function,
        }
    }

    fn name(self) -> &'static str {
        match self {
            By::Package => "package",
            By::Class => "class",
            By::Function => "function",
        }
    }
}

/// Runs the command.
pub fn run(context: &Context, command: &Survey) -> Result<ExitCode, Failure> {
    let mut session = context.session_with_readable_ledger()?;
    let report = session.check(&context.paths(&command.paths), &Asked::default())?;
    if command.suppressions {
        let all = leitmotiv_migrate::suppressions::list(&session, &report);
        let is_json = command.format == Format::Json;
        print(&if is_json { super::json(&all) } else { suppressions::text(&all, context.quiet) })?;
        return Ok(ExitCode::SUCCESS);
    }
    if let Some(by) = command.by {
        let parts = survey::parts::parts(&session.db, &report, by.of());
        let is_json = command.format == Format::Json;
        print(&if is_json { super::json(&parts) } else { tables::parts(&parts, by.name(), context.quiet) })?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut survey = survey::survey(&session.db, &report);
    if command.layers {
        let is_json = command.format == Format::Json;
        let text = if is_json { super::json(&survey.layers) } else { tables::layers(&survey.layers, context.quiet) };
        print(&text)?;
        return Ok(ExitCode::SUCCESS);
    }
    survey::churn(&session.db, &mut survey);
    let held = std::sync::Arc::new(session.held(&report.files));
    let edited = survey::weigh(&mut session.db, &report, &mut survey);
    let how = command.r#try.map_or((MOST_STEPS, 1, false), |most| (most, most * MOST_PROVED, true));
    survey.steps = survey::plan::plan(&mut session.db, &report, &survey, &edited, how, &held);
    if command.library {
        survey.library = survey::library(&session.db, &report.files);
    }
    if command.format == Format::Json {
        print(&super::json(&survey))?;
        return Ok(ExitCode::SUCCESS);
    }
    let width = look::width();
    let mut out = String::new();
    let known = look::percent(survey.known_expressions, survey.expressions);
    let concluded = look::percent(survey.concluded_expressions, survey.expressions);
    let more = match known == concluded {
        true => String::new(),
        false => format!(", {concluded} with what calls and functions say of parameters that nobody annotated"),
    };
    let head = format!(
        "{} in {}: {} of {} parameters and results annotated ({}), {known} of what is computed is known{more}.",
        look::count(survey.lines, "line", "lines"),
        look::count(survey.modules.len(), "module", "modules"),
        look::thousands(survey.annotated),
        look::thousands(survey.slots),
        look::percent(survey.annotated, survey.slots),
    );
    let _ = writeln!(out, "{}\n", look::fold(&head, width, "", ""));
    if !survey.steps.is_empty() {
        let _ = writeln!(out, "{}", look::heading("Where to begin"));
        out.push_str(&tables::steps(&survey));
        out.push('\n');
    }
    if command.r#try.is_none() {
        let _ = writeln!(out, "{}", look::heading("Modules"));
        out.push_str(&tables::modules(&survey, MOST_MODULES));
    }
    if command.r#try.is_none() && !survey.untyped.is_empty() {
        let _ = writeln!(out, "\n{}", look::heading("Packages that say nothing of their types"));
        let rows: Vec<Vec<String>> = survey.untyped.iter().take(MOST_ROWS).map(tables::untyped_row).collect();
        let heads = ["package", "state", "imported by", "unknown by it", "what to do"];
        out.push_str(&look::table(&heads, &[false, false, true, true, false], &rows, width));
    }
    if command.r#try.is_none() && !survey.causes.is_empty() {
        let _ = writeln!(out, "\n{}", look::heading("Why things are unknown"));
        let rows: Vec<Vec<String>> =
            survey.causes.iter().map(|(words, number)| vec![look::thousands(*number), (*words).to_owned()]).collect();
        out.push_str(&look::table(&["number", "cause"], &[true, false], &rows, width));
    }
    if !survey.library.is_empty() {
        let all: usize = survey.library.iter().map(|name| name.uses).sum();
        let known: usize = survey.library.iter().map(|name| name.known).sum();
        let _ = writeln!(
            out,
            "\n{}: {} uses, {} known",
            look::heading("The standard library"),
            look::thousands(all),
            look::percent(known, all)
        );
        let rows: Vec<Vec<String>> = survey
            .library
            .iter()
            .filter(|name| name.known < name.uses)
            .take(MOST_ROWS)
            .map(|name| {
                vec![
                    format!("{}.{}", name.module, name.name),
                    look::thousands(name.uses),
                    look::thousands(name.uses - name.known),
                ]
            })
            .collect();
        if !rows.is_empty() {
            out.push_str(&look::table(&["name", "used", "unknown"], &[false, true, true], &rows, width));
        }
    }
    if !context.quiet {
        let by_hand = tables::by_hand(&survey);
        if let Some(module) = by_hand.filter(|_| survey.steps.is_empty()) {
            let open = look::count(module.slots - module.annotated, "place has", "places have");
            let words = format!(
                "By hand: `{}`, where {open} no annotation yet, and nothing there says what it would be.",
                module.path
            );
            let _ = writeln!(out, "\n{}", look::fold(&words, width, "", ""));
        }
        let next = match survey.steps.first() {
            Some(step) => format!("leitmotiv annotate {}", super::argument(&step.path)),
            None => "leitmotiv check".to_owned(),
        };
        let _ = writeln!(out, "\nStock taken, nothing changed. Next: {next}");
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}
