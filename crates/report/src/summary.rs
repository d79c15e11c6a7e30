//! Where a project stands, as Markdown: for the page of a job, or a comment.

use std::fmt::Write as _;

use leitmotiv_migrate::tighten::cost::Standing;

use crate::overview::Overview;
use crate::words::{count, percent, thousands};

/// The Markdown, ending in a line end.
#[must_use]
pub fn markdown(overview: &Overview) -> String {
    let mut out = format!("## Types in {}\n\n", overview.name.replace('|', "\\|"));
    let _ = writeln!(out, "| | |\n| --- | ---: |");
    let rows = [
        ("values with a known type", percent(overview.known, overview.expressions)),
        ("parameters and results annotated", percent(overview.annotated, overview.slots)),
        ("errors", thousands(overview.errors)),
        ("warnings", thousands(overview.warnings)),
        ("promises held", thousands(overview.promises)),
        ("findings owed", thousands(overview.owed)),
    ];
    for (words, value) in rows {
        let _ = writeln!(out, "| {words} | {value} |");
    }
    let _ = writeln!(out, "\n| demand | held | free | to mend |\n| --- | ---: | ---: | ---: |");
    for demand in &overview.demands {
        let own = || overview.costs.iter().filter(|cost| cost.demand == *demand);
        let held = own().filter(|cost| matches!(cost.standing(), Standing::Held | Standing::Owing)).count();
        let free: usize = own().map(|cost| cost.free).sum();
        let findings: usize = own().map(|cost| cost.findings).sum();
        let _ = writeln!(
            out,
            "| `{demand}` | {} | {} | {} |",
            count(held, "package", "packages"),
            count(free, "file", "files"),
            count(findings, "finding", "findings")
        );
    }
    if !overview.nearest.is_empty() {
        let _ = writeln!(out, "\nNearest:\n");
        for (words, commands) in &overview.nearest {
            let _ = writeln!(out, "- {words} `{}`", commands.join("`, `"));
        }
    }
    out
}
