//! Files of the ledger that have another name now: known by their text, as it was last, among the files that the ledger does not know.

use std::collections::{BTreeMap, BTreeSet, HashMap};

use super::{Debt, Ledger, folder_of};

/// So much of two texts must be the same, in percent of their lines, for one to be the other under another name.
const LIKE: usize = 60;

/// So many files of other names are compared with one that is gone.
const MOST_COMPARED: usize = 40;

/// A file that has another name now.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Move {
    /// The path that the ledger knows.
    pub from: String,
    /// The path now.
    pub to: String,
    /// The dotted name of the module now.
    pub module: String,
}

/// Finds files that are gone (path, last text) among others that are new (path, text): each new one is at most one of those that are gone.
/// Gives the places of both.
#[must_use]
pub fn moves(gone: &[(&str, &str)], new: &[(&str, &str)]) -> Vec<(usize, usize)> {
    let mut taken: BTreeSet<usize> = BTreeSet::new();
    let mut found: BTreeMap<usize, usize> = BTreeMap::new();
    let mut same: HashMap<&str, Vec<usize>> = HashMap::new();
    for (at, (_, text)) in new.iter().enumerate() {
        same.entry(text).or_default().push(at);
    }
    // The same text under another name; an empty one says nothing.
    for (place, (path, text)) in gone.iter().enumerate().filter(|(_, (_, text))| !text.trim().is_empty()) {
        let mut all = same.get(text).into_iter().flatten().copied().filter(|at| !taken.contains(at));
        let name = name_of(path);
        let first = all.clone().find(|at| name_of(new[*at].0) == name).or_else(|| all.next());
        if let Some(at) = first {
            taken.insert(at);
            found.insert(place, at);
        }
    }
    for (place, (path, text)) in gone.iter().enumerate() {
        if found.contains_key(&place) || text.trim().is_empty() {
            continue;
        }
        let size = |text: &str| text.len();
        let mut free: Vec<usize> = (0..new.len()).filter(|at| !taken.contains(at)).collect();
        // Those of the same name first, then those of a like size.
        free.sort_by_key(|at| (name_of(new[*at].0) != name_of(path), size(new[*at].1).abs_diff(size(text)), *at));
        let like = free.into_iter().take(MOST_COMPARED).map(|at| (likeness(text, new[at].1), std::cmp::Reverse(at)));
        if let Some((_, std::cmp::Reverse(at))) = like.filter(|(like, _)| *like >= LIKE).max() {
            taken.insert(at);
            found.insert(place, at);
        }
    }
    found.into_iter().collect()
}

fn name_of(path: &str) -> &str {
    path.rsplit('/').next().unwrap_or(path)
}

/// How much of two texts is the same, by their lines, in percent.
fn likeness(one: &str, other: &str) -> usize {
    let mut lines: HashMap<&str, usize> = HashMap::new();
    let is_told = |line: &&str| !line.is_empty();
    let mut all = 0;
    for line in one.lines().map(str::trim).filter(is_told) {
        *lines.entry(line).or_default() += 1;
        all += 1;
    }
    let mut same = 0;
    for line in other.lines().map(str::trim).filter(is_told) {
        all += 1;
        if let Some(count) = lines.get_mut(line).filter(|count| **count > 0) {
            *count -= 1;
            same += 2;
        }
    }
    (same * 100_usize).checked_div(all).unwrap_or(0)
}

impl Ledger {
    /// Gives the promises of files that have another name now to that name. What a folder held whole goes with its files, where all that the
    /// ledger knew in it went to one other folder.
    pub fn follow(&mut self, moves: &[Move]) {
        let mut folders: BTreeMap<String, BTreeSet<String>> = BTreeMap::new();
        for one in moves {
            folders.entry(folder_of(&one.from).to_owned()).or_default().insert(folder_of(&one.to).to_owned());
        }
        for Move { from, to, module } in moves {
            let Some(old) = self.drop(from) else { continue };
            let new = self.of_mut(to);
            new.holds.extend(old.holds);
            new.lost = new.lost.max(old.lost);
            for (debt, count) in old.debts {
                let symbol = renamed(from, module, &debt.symbol);
                // After a merge both names may have it.
                let known = new.debts.entry(Debt { symbol, ..debt }).or_default();
                *known = count.max(*known);
            }
        }
        for (from, to) in folders {
            let is_left = self.files().any(|(path, _)| folder_of(path) == from);
            let to: Vec<String> = to.into_iter().collect();
            if let ([to], false) = (to.as_slice(), is_left) {
                let whole: BTreeSet<String> = self.whole(&from).chain(self.whole(to)).map(str::to_owned).collect();
                if self.whole(&from).next().is_some() {
                    self.set_whole(to, whole);
                    self.set_whole(&from, BTreeSet::new());
                }
            }
        }
        self.prune();
    }
}

/// A symbol of a module that is called otherwise now: `fleet.find` of `fleet.py`, which is `ships.py`.
fn renamed(old_path: &str, module: &str, symbol: &str) -> String {
    let stem = old_path.rsplit_once('.').map_or(old_path, |(stem, _)| stem);
    let stem = stem.strip_suffix("/__init__").unwrap_or(stem);
    let dotted = stem.replace('/', ".");
    // Where the way to the module begins within the path, the symbol says.
    let starts = std::iter::once(0).chain(dotted.match_indices('.').map(|(at, _)| at + 1));
    for start in starts {
        let old = &dotted[start..];
        match symbol.strip_prefix(old) {
            Some("") => return module.to_owned(),
            Some(rest) if rest.starts_with('.') => return format!("{module}{rest}"),
            _ => {}
        }
    }
    symbol.to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn likeness_is_by_lines() {
        assert_eq!(likeness("a\nb\nc\n", "a\n  b\nc\n"), 100);
        assert_eq!(likeness("a\nb\n", "a\nc\n"), 50);
        assert_eq!(likeness("a\n", "b\n"), 0);
        assert_eq!(likeness("", ""), 0);
    }

    #[test]
    fn files_are_known_by_their_text_and_then_by_their_name() {
        let (a, b, c) = ("one\ntwo\nthree\n", "x\ny\nz\n", "one\ntwo\nthree\nfour\n");
        assert_eq!(moves(&[("p/a.py", a), ("p/b.py", b)], &[("q/b.py", b), ("q/a.py", a)]), [(0, 1), (1, 0)]);
        // Two of the same text: the one of the same name.
        assert_eq!(moves(&[("p/a.py", a)], &[("q/c.py", a), ("q/a.py", a)]), [(0, 1)]);
        assert_eq!(moves(&[("p/a.py", a)], &[("q/b.py", b), ("q/c.py", c)]), [(0, 1)]);
        assert!(moves(&[("p/a.py", a)], &[("q/a.py", b)]).is_empty());
        assert!(moves(&[("p/__init__.py", "")], &[("q/__init__.py", "")]).is_empty());
    }

    #[test]
    fn symbols_go_by_the_new_name_of_their_module() {
        assert_eq!(
            renamed("src/skerry/fleet.py", "skerry.ships", "skerry.fleet.Vessel.find"),
            "skerry.ships.Vessel.find"
        );
        assert_eq!(renamed("skerry/__init__.py", "ferries", "skerry"), "ferries");
        assert_eq!(renamed("fleet.py", "ships", "fleets.find"), "fleets.find");
        assert_eq!(renamed("fleet.py", "ships", "-"), "-");
    }

    #[test]
    fn what_a_folder_held_whole_goes_with_its_files() {
        let mut ledger = Ledger::default();
        for path in ["old/a.py", "old/b.py", "rest/c.py", "rest/d.py"] {
            ledger.of_mut(path).holds.insert("no-any".into());
        }
        for folder in ["old/", "rest/"] {
            ledger.set_whole(folder, BTreeSet::from(["no-any".to_owned()]));
        }
        let to = |from: &str, to: &str| Move { from: from.into(), to: to.into(), module: "m".into() };
        ledger.follow(&[to("old/a.py", "new/a.py"), to("old/b.py", "new/b.py"), to("rest/c.py", "new/c.py")]);
        assert!(ledger.whole("new/").eq(["no-any"]) && ledger.whole("old/").next().is_none());
        assert!(ledger.whole("rest/").eq(["no-any"]));
        assert!(ledger.holds("no-any", "new/c.py") && ledger.of("old/a.py").is_none());
    }
}
