//! Where the ledger says more than is so: debts that are paid and not struck, files that are gone or have another name, lines that stand
//! twice. What hides nothing may still hide what comes.

use std::collections::{BTreeMap, HashSet};

use crate::ledger::Debt;
use crate::ledger::broken::Broken;
use crate::ledger::settle::Left;
use crate::ledger::text::escape;
use crate::session::{Session, settling};
use crate::tighten::Silent;

/// What the ledger says too much, for some files. `leitmotiv tighten --write` mends it; for files that version control still has, with
/// `--forget`. `left` gives what is left of debts under a demand.
#[must_use]
pub fn inexact(session: &Session, silent: &Silent<'_>, left: &dyn Fn(&str) -> Left) -> Vec<Broken> {
    let mut found: Vec<Broken> = Vec::new();
    let mut tell_at = |path: &str, fields: Vec<String>, words: String| {
        found.push(Broken { path: path.to_owned(), fields, words, is_gone: false });
    };
    let mut tell = |path: &str, words: String| tell_at(path, Vec::new(), words);
    for one in &session.moved {
        tell(&one.from, format!("`{}` is `{}` now", one.from, one.to));
    }
    for (first, second) in session.ledger.doubles() {
        tell("", format!("line {second} says what line {first} says already"));
    }
    let moved: HashSet<&str> = session.moved.iter().map(|one| one.to.as_str()).collect();
    for (path, promises) in session.ledger.files() {
        if !promises.holds.is_empty() && !session.project().root.join(path).exists() {
            tell(path, format!("`{path}` is not there any more"));
        }
    }
    for slug in settling() {
        let mut paid: BTreeMap<(String, String, String), usize> = BTreeMap::new();
        for ((path, Debt { rule, symbol, .. }), count) in left(slug) {
            let is_known = silent.may_strike(&path, &rule) && !moved.contains(path.as_str());
            if is_known {
                *paid.entry((path, rule, symbol)).or_default() += count;
            }
        }
        for ((path, rule, symbol), count) in paid {
            let within = if symbol == "-" { String::new() } else { format!(" in `{symbol}`") };
            let what = format!("`{rule}`{within}");
            let words = match count {
                1 => format!("a debt of {what} under {slug} is paid and not struck"),
                count => format!("{count} debts of {what} under {slug} are paid and not struck"),
            };
            tell_at(&path, vec![slug.to_owned(), rule, escape(&symbol)], words);
        }
    }
    found
}
