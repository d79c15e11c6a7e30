//! Comments that hide findings.

use std::fmt::Write as _;

use leitmotiv_migrate::suppressions::Listed;

use crate::{age, look};

/// The list as text: those that hide nothing first, then those that give no reason.
pub(super) fn text(all: &[Listed], is_quiet: bool) -> String {
    let width = look::width();
    let today = age::today();
    let (foreign, own): (Vec<&Listed>, Vec<&Listed>) = all.iter().partition(|one| one.form == "foreign");
    let idle: Vec<&Listed> = own.iter().copied().filter(|one| one.hides == 0).collect();
    let (told, silent): (Vec<&Listed>, Vec<&Listed>) =
        own.iter().copied().filter(|one| one.hides > 0).partition(|one| !one.reason.is_empty());
    let mut out = String::new();
    let parts = [
        ("Hide nothing of what is found here", &idle),
        ("Give no reason", &silent),
        ("Give a reason", &told),
        ("For other tools", &foreign),
    ];
    for (words, part) in parts.into_iter().filter(|(_, part)| !part.is_empty()) {
        let _ = writeln!(out, "{}  {}", look::heading(words), look::thousands(part.len()));
        let rows: Vec<Vec<String>> = part.iter().map(|one| row(one, today)).collect();
        let heads = ["place", "hides", "written by", "what, and why"];
        out.push_str(&look::table(&heads, &[false, true, false, false], &rows, width));
        out.push('\n');
    }
    if !is_quiet {
        let hidden: usize = all.iter().map(|one| one.hides).sum();
        // What names no rule of ours may hide what another tool finds.
        let is_ours = |one: &&&Listed| one.form == "own" || !one.names.is_empty();
        let next = match (idle.iter().find(is_ours), silent.is_empty() && idle.is_empty()) {
            (Some(_), _) => "leitmotiv fix --rule suppression.unused",
            (None, false) => "leitmotiv check --demand reasoned-suppressions",
            (None, true) => "leitmotiv tighten reasoned-suppressions",
        };
        let _ = writeln!(
            out,
            "{}",
            look::fold(
                &format!(
                    "{} {} {}. Next: {next}",
                    look::count(all.len(), "comment", "comments"),
                    if all.len() == 1 { "hides" } else { "hide" },
                    look::count(hidden, "finding", "findings")
                ),
                width,
                "",
                ""
            )
        );
    }
    out
}

fn row(one: &Listed, today: i64) -> Vec<String> {
    let written = match &one.written {
        Some((author, day)) => age::touched(author, today - day),
        None => "–".to_owned(),
    };
    let names = match (one.names.is_empty(), one.whole_file) {
        (true, true) => "all of the file".to_owned(),
        (true, false) => "all of the line".to_owned(),
        (false, true) => format!("{} in the file", one.names.join(", ")),
        (false, false) => one.names.join(", "),
    };
    let why = if one.reason.is_empty() { String::new() } else { format!(": {}", one.reason) };
    vec![format!("{}:{}", one.path, one.line), look::thousands(one.hides), written, format!("{names}{why}")]
}
