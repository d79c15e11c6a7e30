//! `leitmotiv.ledger`: which files are held to which demands, and which findings are owed.
//!
//! A text file of sorted lines, so that it merges well:
//!
//! ```text
//! hold none-handled skerry/fleet.py
//! debt none-handled skerry/report.py none.member skerry.report.render 2
//! ```
//!
//! A debt counts findings by rule and by the function around them, so that edits elsewhere do not disturb it.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

use leitmotiv_project::write::{WriteError, write_all};
use thiserror::Error;

/// The file's name.
pub const FILE: &str = "leitmotiv.ledger";

const HEAD: &str = "# Written by `leitmotiv tighten`; commit it, and let the tool change it.\n";

/// Holds and debts.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Ledger {
    /// Demand and path.
    holds: BTreeSet<(String, String)>,
    /// Demand, path, rule and symbol, to how many.
    debts: BTreeMap<(String, String, String, String), usize>,
}

/// A ledger that cannot be read.
#[derive(Debug, Error)]
pub enum LedgerError {
    /// The file cannot be read.
    #[error("cannot read `{FILE}`: {0}")]
    Unreadable(std::io::Error),
    /// A line that is none of ours.
    #[error(
        "`{FILE}` line {0} is not understood: it is written by `leitmotiv tighten`, see git for its last good state"
    )]
    Line(usize),
}

/// The debts of one file, taken one by one.
#[derive(Debug, Default)]
pub struct Debts<'a> {
    left: BTreeMap<(&'a str, &'a str), usize>,
}

impl Debts<'_> {
    /// Takes one debt, if there is one left.
    pub fn take(&mut self, rule: &str, symbol: &str) -> bool {
        match self.left.iter_mut().find(|((own_rule, own_symbol), _)| *own_rule == rule && *own_symbol == symbol) {
            Some((_, left)) if *left > 0 => {
                *left -= 1;
                true
            }
            _ => false,
        }
    }
}

impl Ledger {
    /// Reads a project's ledger; an absent one is empty.
    ///
    /// # Errors
    /// [`LedgerError`]
    pub fn read(root: &Path) -> Result<Ledger, LedgerError> {
        let text = match std::fs::read_to_string(root.join(FILE)) {
            Ok(text) => text,
            Err(error) if error.kind() == std::io::ErrorKind::NotFound => return Ok(Ledger::default()),
            Err(error) => return Err(LedgerError::Unreadable(error)),
        };
        Ledger::parse(&text)
    }

    fn parse(text: &str) -> Result<Ledger, LedgerError> {
        let mut ledger = Ledger::default();
        for (number, line) in text.lines().enumerate() {
            if line.trim().is_empty() || line.starts_with('#') {
                continue;
            }
            let bad = || LedgerError::Line(number + 1);
            let (kind, rest) = line.split_once(' ').ok_or_else(bad)?;
            let (demand, rest) = rest.split_once(' ').ok_or_else(bad)?;
            match kind {
                "hold" => ledger.hold(demand, rest),
                "debt" => {
                    // Paths may hold spaces; rule, symbol and count do not.
                    let mut fields = rest.rsplitn(4, ' ');
                    let count: usize = fields.next().and_then(|count| count.parse().ok()).ok_or_else(bad)?;
                    let (Some(symbol), Some(rule), Some(path)) = (fields.next(), fields.next(), fields.next()) else {
                        return Err(bad());
                    };
                    ledger.debts.insert((demand.into(), path.into(), rule.into(), symbol.into()), count);
                }
                _ => return Err(bad()),
            }
        }
        Ok(ledger)
    }

    /// The ledger's text.
    #[must_use]
    pub fn text(&self) -> String {
        let mut text = String::from(HEAD);
        for (demand, path) in &self.holds {
            text.push_str(&format!("hold {demand} {path}\n"));
        }
        for ((demand, path, rule, symbol), count) in &self.debts {
            text.push_str(&format!("debt {demand} {path} {rule} {symbol} {count}\n"));
        }
        text
    }

    /// Writes the ledger into a project's folder.
    ///
    /// # Errors
    /// [`WriteError`]
    pub fn write(&self, root: &Path) -> Result<(), WriteError> {
        let path: PathBuf = root.join(FILE);
        write_all(&[(path, self.text())])
    }

    /// Holds a file to a demand.
    pub fn hold(&mut self, demand: &str, path: &str) {
        self.holds.insert((demand.to_owned(), path.to_owned()));
    }

    /// Sets what a held file owes.
    pub fn owe(&mut self, demand: &str, path: &str, rule: &str, symbol: &str, count: usize) {
        let key = (demand.to_owned(), path.to_owned(), rule.to_owned(), symbol.to_owned());
        if count == 0 {
            self.debts.remove(&key);
        } else {
            self.debts.insert(key, count);
        }
    }

    /// The demands that a file is held to.
    #[must_use]
    pub fn held(&self, path: &str) -> Vec<&str> {
        self.holds.iter().filter(|(_, held)| held == path).map(|(demand, _)| demand.as_str()).collect()
    }

    /// Whether a file is held to a demand.
    #[must_use]
    pub fn holds(&self, demand: &str, path: &str) -> bool {
        self.holds.contains(&(demand.to_owned(), path.to_owned()))
    }

    /// The debts of a file.
    #[must_use]
    pub fn debts_of(&self, path: &str) -> Debts<'_> {
        let mut debts = Debts::default();
        for ((_, own, rule, symbol), count) in &self.debts {
            if own == path {
                *debts.left.entry((rule.as_str(), symbol.as_str())).or_default() += count;
            }
        }
        debts
    }

    /// What a file owes under a demand: rule and symbol, and how many.
    #[must_use]
    pub fn owed_under(&self, demand: &str, path: &str) -> Vec<(String, String, usize)> {
        self.debts
            .iter()
            .filter(|((own_demand, own_path, _, _), _)| own_demand == demand && own_path == path)
            .map(|((_, _, rule, symbol), count)| (rule.clone(), symbol.clone(), *count))
            .collect()
    }

    /// How many holds and debts there are.
    #[must_use]
    pub fn size(&self) -> (usize, usize) {
        (self.holds.len(), self.debts.values().sum())
    }

    /// Drops holds and debts of files that are no longer there.
    pub fn forget_missing(&mut self, root: &Path) {
        self.holds.retain(|(_, path)| root.join(path).exists());
        self.debts.retain(|(_, path, _, _), _| root.join(path).exists());
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn text_and_back() {
        let mut ledger = Ledger::default();
        ledger.hold("none-handled", "skerry/the fleet.py");
        ledger.owe("none-handled", "skerry/the fleet.py", "none.member", "skerry.fleet.find", 2);
        assert_eq!(Ledger::parse(&ledger.text()).unwrap(), ledger);
    }

    #[test]
    fn debts_are_taken_one_by_one() {
        let mut ledger = Ledger::default();
        ledger.owe("none-handled", "a.py", "none.member", "a.f", 1);
        let mut debts = ledger.debts_of("a.py");
        assert!(debts.take("none.member", "a.f"));
        assert!(!debts.take("none.member", "a.f"));
        assert!(!ledger.debts_of("b.py").take("none.member", "a.f"));
    }

    #[test]
    fn a_broken_line_is_told_by_its_number() {
        let error = Ledger::parse("# x\nhold a b\nfoo\n").unwrap_err();
        assert!(error.to_string().contains("line 3"), "{error}");
    }
}
