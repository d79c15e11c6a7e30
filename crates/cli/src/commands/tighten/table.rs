//! Demands by packages, what each would cost, and what is nearest.

use std::collections::BTreeSet;
use std::fmt::Write as _;

use leitmotiv_engine::demands::Demand;
use leitmotiv_migrate::tighten::cost::{Cost, Standing, grouped};
use leitmotiv_migrate::tighten::steps::steps;
use leitmotiv_report::nearest::proposed;
use unicode_width::UnicodeWidthStr;

use crate::look;

/// So many packages have a row; those that lie deeper are put together.
const MOST_ROWS: usize = 14;

/// So many steps are proposed.
const MOST_STEPS: usize = 3;

/// The letters that stand for demands at the heads of columns.
const LETTERS: &str = "abcdefghijklmnopqrstuvwxyz";

/// The table and the steps as text.
pub(super) fn text(costs: &[Cost], demands: &[&'static Demand], is_quiet: bool) -> String {
    let width = look::width();
    let mut out = String::new();
    let rows = grouped(costs, MOST_ROWS);
    let packages: BTreeSet<&str> = rows.iter().map(|cost| cost.package.as_str()).collect();
    let letters: Vec<&str> = (0..demands.len()).map(|at| LETTERS.get(at..=at).unwrap_or("?")).collect();
    let heads: Vec<&str> = std::iter::once("package").chain(letters.iter().copied()).collect();
    let right: Vec<bool> = (0..heads.len()).map(|at| at > 0).collect();
    let table: Vec<Vec<String>> = packages
        .iter()
        .map(|package| {
            let cells = demands.iter().map(|demand| {
                let cost = rows.iter().find(|cost| cost.demand == demand.slug && cost.package == *package);
                cost.map_or_else(String::new, cell)
            });
            std::iter::once(fitted(package, width.saturating_sub(6 * demands.len()))).chain(cells).collect()
        })
        .collect();
    out.push_str(&look::table(&heads, &right, &table, width));
    let words = "held: all files are; -3: held, and 3 are owed; free: could be held now; 12: so many findings stand against it; \
                 –: it asks nothing yet.";
    let _ = writeln!(out, "{}\n", look::faint(&look::fold(words, width, "", "")));
    let legend: Vec<Vec<String>> = demands
        .iter()
        .zip(&letters)
        .map(|(demand, letter)| vec![(*letter).to_owned(), demand.slug.to_owned(), sums(costs, demand)])
        .collect();
    out.push_str(&look::table(&["", "demand", "packages"], &[false, false, false], &legend, width));
    if is_quiet {
        return out;
    }
    let steps = steps(costs, MOST_STEPS);
    if steps.is_empty() {
        let _ = writeln!(out, "\nAll that is asked here is held. Next: leitmotiv check --exact");
        return out;
    }
    let _ = writeln!(out, "\n{}", look::heading("What is nearest"));
    for (at, step) in steps.iter().enumerate() {
        let (words, commands) = proposed(step);
        let _ = writeln!(out, "{}", look::fold(&format!("{}. {words}", at + 1), width, "", "   "));
        for command in commands {
            let _ = writeln!(out, "     {command}");
        }
    }
    let next = proposed(&steps[0]).1.into_iter().next().unwrap_or_default();
    let _ = writeln!(out, "\nMeasured, nothing changed. Next: {next}");
    out
}

/// A package's name in so many letters, its end being what tells it apart.
fn fitted(package: &str, room: usize) -> String {
    let mut rest = package;
    while rest.width() + 2 > room.max(12) && rest != package || rest.width() > room.max(12) {
        match rest[..rest.len() - 1].find('/') {
            Some(end) => rest = &rest[end + 1..],
            None => break,
        }
    }
    if rest == package { package.to_owned() } else { format!("…/{rest}") }
}

/// How a package stands to a demand, in five letters.
fn cell(cost: &Cost) -> String {
    match cost.standing() {
        Standing::Held => "held".to_owned(),
        Standing::Owing => format!("-{}", short(cost.owed)),
        Standing::Free => "free".to_owned(),
        Standing::Cheap | Standing::Dear => short(cost.findings),
        Standing::Idle => "–".to_owned(),
        Standing::Untold => "?".to_owned(),
    }
}

/// A number in four letters.
fn short(number: usize) -> String {
    match number {
        0..1_000 => number.to_string(),
        1_000..10_000 => format!("{}.{}k", number / 1_000, number % 1_000 / 100),
        10_000..1_000_000 => format!("{}k", number / 1_000),
        _ => format!("{}M", number / 1_000_000),
    }
}

/// How many packages stand how to a demand.
fn sums(costs: &[Cost], demand: &Demand) -> String {
    let own: Vec<&Cost> = costs.iter().filter(|cost| cost.demand == demand.slug).collect();
    let of = |standing: Standing| own.iter().copied().filter(move |cost| cost.standing() == standing);
    let mut parts = Vec::new();
    let held = of(Standing::Held).count() + of(Standing::Owing).count();
    if held > 0 {
        let owed: usize = own.iter().map(|cost| cost.owed).sum();
        let owed = if owed > 0 { format!(" ({} owed)", look::thousands(owed)) } else { String::new() };
        parts.push(format!("{held} held{owed}"));
    }
    let free = of(Standing::Free).count();
    if free > 0 {
        parts.push(format!("{free} free"));
    }
    for (standing, word) in [(Standing::Cheap, "cheap"), (Standing::Dear, "dear")] {
        let packages = of(standing).count();
        if packages > 0 {
            let sum = |part: fn(&Cost) -> usize| of(standing).map(part).sum::<usize>();
            let findings = look::count(sum(|cost| cost.findings), "finding", "findings");
            let files = look::count(sum(|cost| cost.in_files), "file", "files");
            let safe = match sum(|cost| cost.safe) {
                0 => String::new(),
                safe => format!(", {} with a safe fix", look::thousands(safe)),
            };
            parts.push(format!("{packages} {word} ({findings} in {files}{safe})"));
        }
    }
    for (standing, word) in [(Standing::Idle, "without anything to ask"), (Standing::Untold, "unreadable")] {
        let packages = of(standing).count();
        if packages > 0 {
            parts.push(format!("{packages} {word}"));
        }
    }
    parts.join(", ")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn packages_are_told_by_their_ends() {
        assert_eq!(fitted("skerry/desk/", 14), "skerry/desk/");
        assert_eq!(fitted("skerry/desk/forms/", 14), "…/desk/forms/");
        assert_eq!(fitted("harbour_offices/", 14), "harbour_offices/");
    }

    #[test]
    fn numbers_have_four_letters_at_most() {
        for (number, text) in
            [(0, "0"), (999, "999"), (1_000, "1.0k"), (9_999, "9.9k"), (12_345, "12k"), (2_000_000, "2M")]
        {
            assert_eq!(short(number), text);
        }
    }
}
