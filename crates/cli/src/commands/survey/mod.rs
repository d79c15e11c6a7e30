//! `leitmotiv survey`
//!
//! - this file: the command, modules and packages
//! - `suppressions`: comments that hide findings

mod suppressions;

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_migrate::session::Asked;
use leitmotiv_migrate::survey::{self, Module, Untyped};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;
use crate::output::Format;

/// How many modules and packages are listed for people.
const MOST_ROWS: usize = 15;

/// Take stock: what is annotated, what is known, where to begin.
#[derive(Debug, Args)]
pub struct Survey {
    /// Files and folders; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// Also what is used of the standard library, and what of it is not known.
    #[arg(long)]
    pub library: bool,
    /// In place of all that, the comments that hide findings: whether they still do, since when, and why.
    #[arg(long, conflicts_with = "library")]
    pub suppressions: bool,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Format,
}

/// Runs the command.
pub fn run(context: &Context, command: &Survey) -> Result<ExitCode, Failure> {
    let mut session = context.session()?;
    let report = session.check(&context.paths(&command.paths), &Asked::default())?;
    if command.suppressions {
        let all = leitmotiv_migrate::suppressions::list(&session, &report);
        let is_json = command.format == Format::Json;
        print(&if is_json { super::json(&all) } else { suppressions::text(&all, context.quiet) })?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut survey = survey::survey(&session.db, &report);
    let open = survey::weigh(&mut session.db, &report, &mut survey);
    if command.library {
        survey.library = survey::library(&session.db, &report.files);
    }
    if command.format == Format::Json {
        print(&super::json(&survey))?;
        return Ok(ExitCode::SUCCESS);
    }
    let width = look::width();
    let mut out = String::new();
    let head = format!(
        "{} in {}: {} of {} parameters and results annotated ({}), {} of what is computed is known.",
        look::count(survey.lines, "line", "lines"),
        look::count(survey.modules.len(), "module", "modules"),
        look::thousands(survey.annotated),
        look::thousands(survey.slots),
        look::percent(survey.annotated, survey.slots),
        look::percent(survey.known_expressions, survey.expressions),
    );
    let _ = writeln!(out, "{}\n", look::fold(&head, width, "", ""));
    let _ = writeln!(out, "{}", look::heading("Where to begin"));
    let rows: Vec<Vec<String>> = survey.modules.iter().take(MOST_ROWS).map(module_row).collect();
    let heads = ["module", "lines", "annotated", "known", "findings", "imported by", "gain"];
    let right = [false, true, true, true, true, true, true];
    out.push_str(&look::table(&heads, &right, &rows, width));
    if survey.modules.len() > MOST_ROWS {
        let _ = writeln!(out, "and {} more modules", survey.modules.len() - MOST_ROWS);
    }
    let note = "gain: expressions in the whole project that are unknown because of this module's unannotated parameters, and \
                known once `annotate` has written what there is evidence for. The order weighs the gain against \
                what is still open, and what many others import comes first.";
    let _ = writeln!(out, "{}", look::faint(&look::fold(note, width, "", "")));
    if !survey.untyped.is_empty() {
        let _ = writeln!(out, "\n{}", look::heading("Packages that say nothing of their types"));
        let rows: Vec<Vec<String>> = survey.untyped.iter().take(MOST_ROWS).map(untyped_row).collect();
        let heads = ["package", "state", "imported by", "unknown by it", "what to do"];
        out.push_str(&look::table(&heads, &[false, false, true, true, false], &rows, width));
    }
    if !survey.causes.is_empty() {
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
        let begin = survey::begin(&mut session.db, &report, &survey, &open);
        if let Some(module) = begin.by_hand {
            let open = look::count(module.slots - module.annotated, "place has", "places have");
            let words = format!(
                "By hand: `{}`, where {open} no annotation yet, and nothing there says what it would be.",
                module.path
            );
            let _ = writeln!(out, "\n{}", look::fold(&words, width, "", ""));
        }
        let next = match begin.annotate {
            Some(module) => format!("leitmotiv annotate {}", super::argument(&module.path)),
            None => "leitmotiv check".to_owned(),
        };
        let _ = writeln!(out, "\nStock taken, nothing changed. Next: {next}");
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

fn module_row(module: &Module) -> Vec<String> {
    vec![
        module.path.clone(),
        look::thousands(module.lines),
        look::percent(module.annotated, module.slots),
        look::percent(module.known_expressions, module.expressions),
        look::thousands(module.findings),
        look::thousands(module.fan_in),
        look::thousands(module.gain),
    ]
}

fn untyped_row(package: &Untyped) -> Vec<String> {
    let todo = match package.state {
        "untyped" => format!("leitmotiv stub write {}", package.module),
        _ => "install it, or set `interpreter`".to_owned(),
    };
    vec![
        package.module.clone(),
        package.state.to_owned(),
        look::thousands(package.importers),
        look::thousands(package.gain),
        todo,
    ]
}
