//! Debts by package and age.

use std::fmt::Write as _;

use leitmotiv_migrate::tighten::owed::Owed;

use crate::{age, look};

/// So many debts of a package are listed.
const MOST_ROWS: usize = 20;

/// The debts as text.
pub(super) fn text(owed: &[Owed], is_quiet: bool) -> String {
    let today = age::today();
    let mut out = String::new();
    for debts in owed.chunk_by(|one, other| one.package == other.package) {
        let head = format!("{}  {}", debts[0].package, look::count(debts.len(), "debt", "debts"));
        let _ = writeln!(out, "{}", look::heading(&head));
        let rows: Vec<Vec<String>> = debts.iter().take(MOST_ROWS).map(|debt| row(debt, today)).collect();
        let heads = ["since", "place", "touched by", "rule"];
        out.push_str(&look::table(&heads, &[false, false, false, false], &rows, look::width()));
        if debts.len() > MOST_ROWS {
            let _ = writeln!(out, "and {} more, newer ones", look::thousands(debts.len() - MOST_ROWS));
        }
        out.push('\n');
    }
    if !is_quiet {
        let next = match owed.first() {
            Some(oldest) => {
                format!("leitmotiv explain {}", super::super::argument(&format!("{}:{}", oldest.path, oldest.line)))
            }
            None => "leitmotiv tighten".to_owned(),
        };
        let debts = if owed.is_empty() {
            "Nothing is".to_owned()
        } else {
            look::count(owed.len(), "finding is", "findings are")
        };
        let _ = writeln!(out, "{debts} owed. Next: {next}");
    }
    out
}

fn row(debt: &Owed, today: i64) -> Vec<String> {
    let touched = match &debt.touched {
        Some((author, day)) => age::touched(author, today - day),
        None => "–".to_owned(),
    };
    vec![
        debt.since.map_or_else(|| "–".to_owned(), |since| age::words(today - since)),
        format!("{}:{}", debt.path, debt.line),
        touched,
        debt.rule.to_owned(),
    ]
}
