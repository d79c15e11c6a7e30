//! Which findings are owed.
//!
//! A debt stands for the finding with the same rule, symbol and fingerprint in its file. Where the symbol is no longer there, as
//! after a renaming, it stands for one with the same fingerprint elsewhere in the file; where the file or the symbol has moved,
//! for one in another file. It never stands for other code, and never for more than was recorded.

use std::collections::{BTreeMap, HashMap};

use super::text::is_counted;
use super::{ANY, Debt, Ledger};

/// A finding that stands against a demand.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Claim<'a> {
    /// The file, relative to the project.
    pub path: &'a str,
    /// The rule.
    pub rule: &'a str,
    /// The symbol around it.
    pub symbol: &'a str,
    /// The fingerprint of its code.
    pub fingerprint: &'a str,
    /// How many it counts for.
    pub weight: usize,
}

impl Claim<'_> {
    /// The claim as a debt.
    #[must_use]
    pub fn debt(&self, demand: &str) -> Debt {
        Debt {
            demand: demand.to_owned(),
            rule: self.rule.to_owned(),
            symbol: self.symbol().to_owned(),
            fingerprint: self.fingerprint.to_owned(),
        }
    }

    /// Where an import stands in its file does not matter.
    fn symbol(&self) -> &str {
        if self.rule.starts_with("import.") { "-" } else { self.symbol }
    }
}

/// What is left of debts, by path: how many of each.
pub type Left = BTreeMap<(String, Debt), usize>;

/// What became of claims and debts under one demand.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Settlement {
    /// For each claim, in order, whether it is owed.
    pub owed: Vec<bool>,
    /// Debts that nothing was found for any more.
    pub left: Left,
}

/// Settles claims against a ledger's debts under a demand. `is_gone` says whether a symbol (or, for `-`, a file) is no longer
/// where it was recorded.
#[must_use]
pub fn settle(
    ledger: &Ledger,
    demand: &str,
    claims: &[Claim<'_>],
    is_gone: &mut dyn FnMut(&str, &str) -> bool,
) -> Settlement {
    let mut left = Left::new();
    for (path, promises) in ledger.files() {
        // A debt belongs to a promise.
        if promises.holds.contains(demand) {
            let own = promises.debts.iter().filter(|(debt, _)| debt.demand == demand);
            left.extend(own.map(|(debt, count)| ((path.to_owned(), debt.clone()), *count)));
        }
    }
    let mut owed = vec![false; claims.len()];
    if left.is_empty() {
        return Settlement { owed, left };
    }
    let take = |key: &(String, Debt), weight: usize, left: &mut Left| match left.get_mut(key) {
        Some(count) if *count >= weight => {
            *count -= weight;
            true
        }
        _ => false,
    };
    for (at, claim) in claims.iter().enumerate() {
        let exact = (claim.path.to_owned(), claim.debt(demand));
        owed[at] = take(&exact, claim.weight, &mut left);
        if !owed[at] {
            let mut any = (exact.0, Debt { fingerprint: ANY.to_owned(), ..exact.1 });
            owed[at] = take(&any, claim.weight, &mut left);
            if !owed[at] && any.1.symbol == "-" {
                // Before there were fingerprints, imports had symbols too.
                any.1.symbol = claim.symbol.to_owned();
                owed[at] = take(&any, claim.weight, &mut left);
            }
        }
    }
    // Of rules that count several things in one finding, what is left of the same function is taken for what is told of it otherwise: a
    // parameter was added with its annotation, or a value is unknown for another reason than before.
    for (at, claim) in claims.iter().enumerate().filter(|(_, claim)| is_counted(claim.rule)) {
        if owed[at] || claim.rule.starts_with("import.") {
            continue;
        }
        let is_near = |path: &str, debt: &Debt| {
            path == claim.path && debt.rule == claim.rule && debt.symbol == claim.symbol && debt.fingerprint != ANY
        };
        let near: Vec<(String, Debt)> = left
            .iter()
            .filter(|((path, debt), count)| **count > 0 && is_near(path, debt))
            .map(|(key, _)| key.clone())
            .collect();
        let sum: usize = near.iter().filter_map(|key| left.get(key)).sum();
        if sum >= claim.weight {
            let mut rest = claim.weight;
            for key in near {
                let Some(count) = left.get_mut(&key) else { continue };
                let taken = rest.min(*count);
                *count -= taken;
                rest -= taken;
            }
            owed[at] = true;
        }
    }
    // By rule and fingerprint, what may have moved.
    let mut moved: HashMap<(String, String), Vec<(String, Debt)>> = HashMap::new();
    for (path, debt) in left.iter().filter(|(_, count)| **count > 0).map(|(key, _)| key) {
        if debt.fingerprint != ANY && is_gone(path, &debt.symbol) {
            let key = (debt.rule.clone(), debt.fingerprint.clone());
            moved.entry(key).or_default().push((path.clone(), debt.clone()));
        }
    }
    for near in [true, false] {
        for (at, claim) in claims.iter().enumerate().filter(|_| !moved.is_empty()) {
            let Some(debts) = moved.get(&(claim.rule.to_owned(), claim.fingerprint.to_owned())) else { continue };
            let mut fitting = debts.iter().filter(|(path, _)| (path == claim.path) == near);
            owed[at] = owed[at] || fitting.any(|key| take(key, claim.weight, &mut left));
        }
    }
    left.retain(|_, count| *count > 0);
    Settlement { owed, left }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn claim(path: &'static str, symbol: &'static str, fingerprint: &'static str) -> Claim<'static> {
        Claim { path, rule: "none.member", symbol, fingerprint, weight: 1 }
    }

    fn ledger(claims: &[(Claim<'_>, usize)]) -> Ledger {
        let mut ledger = Ledger::default();
        for (claim, count) in claims {
            let promises = ledger.of_mut(claim.path);
            promises.holds.insert("none-handled".into());
            promises.debts.insert(claim.debt("none-handled"), *count);
        }
        ledger
    }

    fn settled(ledger: &Ledger, claims: &[Claim<'_>], gone: &[(&str, &str)]) -> (Vec<bool>, usize) {
        let mut is_gone = |path: &str, symbol: &str| gone.contains(&(path, symbol));
        let settlement = settle(ledger, "none-handled", claims, &mut is_gone);
        (settlement.owed, settlement.left.values().sum())
    }

    #[test]
    fn a_debt_stands_for_its_own_code_and_no_more_often_than_recorded() {
        let own = claim("a.py", "a.f", "1");
        let ledger = ledger(&[(own, 1)]);
        assert_eq!(settled(&ledger, &[own, own], &[]), (vec![true, false], 0));
        assert_eq!(settled(&ledger, &[claim("a.py", "a.f", "2")], &[]), (vec![false], 1));
        assert_eq!(settled(&ledger, &[claim("a.py", "a.g", "1")], &[]), (vec![false], 1));
    }

    #[test]
    fn a_debt_follows_what_is_renamed_or_moved() {
        let ledger = ledger(&[(claim("a.py", "a.f", "1"), 1)]);
        assert_eq!(settled(&ledger, &[claim("a.py", "a.g", "1")], &[("a.py", "a.f")]), (vec![true], 0));
        assert_eq!(settled(&ledger, &[claim("b.py", "b.f", "1")], &[("a.py", "a.f")]), (vec![true], 0));
        assert_eq!(settled(&ledger, &[claim("b.py", "b.f", "2")], &[("a.py", "a.f")]), (vec![false], 1));
    }

    #[test]
    fn more_imports_of_what_is_missing_are_more_than_is_owed() {
        let own = Claim { rule: "import.unresolved", weight: 2, ..claim("a.py", "a.f", "1") };
        let ledger = ledger(&[(own, 2)]);
        assert_eq!(settled(&ledger, &[Claim { symbol: "a", weight: 1, ..own }], &[]), (vec![true], 1));
        assert_eq!(settled(&ledger, &[Claim { weight: 3, ..own }], &[]), (vec![false], 2));
    }

    #[test]
    fn what_counts_several_things_may_be_told_otherwise_and_not_more_of_it() {
        let old = Claim { rule: "annotation.missing", ..claim("a.py", "a.f", "1") };
        let ledger = ledger(&[(old, 3)]);
        let new = Claim { fingerprint: "2", weight: 3, ..old };
        assert_eq!(settled(&ledger, &[new], &[]), (vec![true], 0));
        assert_eq!(settled(&ledger, &[Claim { weight: 2, ..new }], &[]), (vec![true], 1));
        assert_eq!(settled(&ledger, &[Claim { weight: 4, ..new }], &[]), (vec![false], 3));
        assert_eq!(settled(&ledger, &[Claim { symbol: "a.g", ..new }], &[]), (vec![false], 3));
    }

    #[test]
    fn a_debt_without_a_promise_stands_for_nothing() {
        let own = claim("a.py", "a.f", "1");
        let mut ledger = ledger(&[(own, 1)]);
        ledger.of_mut("a.py").holds.clear();
        assert_eq!(settled(&ledger, &[own], &[]), (vec![false], 0));
    }

    #[test]
    fn debts_without_fingerprints_are_counted() {
        let own = claim("a.py", "a.f", ANY);
        let ledger = ledger(&[(own, 1)]);
        let found = [claim("a.py", "a.f", "1"), claim("a.py", "a.f", "2")];
        assert_eq!(settled(&ledger, &found, &[]), (vec![true, false], 0));
    }
}
