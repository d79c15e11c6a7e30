//! What is nearest, in words, with the commands for it.

use leitmotiv_migrate::tighten::cost::Cost;
use leitmotiv_migrate::tighten::steps::Step;

use crate::words::{argument, count};

/// A step in words, and the commands for it.
#[must_use]
pub fn proposed(step: &Step) -> (String, Vec<String>) {
    match step {
        Step::Free { promises, packages } => {
            let promises = count(*promises, "promise is", "promises are");
            let packages = count(*packages, "package", "packages");
            let words = format!("Hold what is free: {promises} kept already, in {packages}.");
            (words, vec!["leitmotiv tighten --write".to_owned()])
        }
        Step::Safe(cost) => {
            let findings = count(cost.findings, "finding", "findings");
            let words = format!(
                "{} in {}: what stands against it has fixes that cannot change what the program does ({findings} in {}).",
                cost.demand,
                place_words(cost),
                count(cost.in_files, "file", "files"),
            );
            let fix = format!("leitmotiv fix{} --demand {} --write", place(cost, ""), cost.demand);
            (words, vec![fix, format!("leitmotiv tighten {}{} --write", cost.demand, place(cost, " --in"))])
        }
        Step::Mend(cost) => {
            let held = count(cost.files, "file", "files");
            let lines = count(cost.lines, "line", "lines");
            let words = format!(
                "{} in {}: {} in {} would hold {held} with {lines}.",
                cost.demand,
                place_words(cost),
                count(cost.findings, "finding", "findings"),
                count(cost.in_files, "file", "files"),
            );
            let shown = match cost.demand {
                "full-signatures" | "filled-generics" => format!("leitmotiv annotate{}", place(cost, "")),
                demand => format!("leitmotiv check{} --demand {demand}", place(cost, "")),
            };
            (words, vec![shown, format!("leitmotiv tighten {}{} --write", cost.demand, place(cost, " --in"))])
        }
    }
}

/// Where, in words.
fn place_words(cost: &Cost) -> String {
    if cost.package == "./" { "the whole project".to_owned() } else { format!("`{}`", cost.package) }
}

/// Where, as a command takes it, behind an option; nothing for the whole project.
fn place(cost: &Cost, option: &str) -> String {
    if cost.package == "./" { String::new() } else { format!("{option} {}", argument(&cost.package)) }
}
