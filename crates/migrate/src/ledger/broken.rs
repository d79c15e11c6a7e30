//! Promises that are not kept because nobody looks any more: of files that are left alone or silenced, and under demands that do not exist;
//! and those of files that are gone.

use std::collections::HashSet;

use leitmotiv_engine::demands;

use super::Ledger;

/// A promise that is not kept.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Broken {
    /// The file that it is about.
    pub path: String,
    /// What else stands on the line that it is about, as the ledger writes it.
    pub fields: Vec<String>,
    /// What is wrong, in words.
    pub words: String,
    /// Whether there is nothing left that could break it: the file is gone.
    pub is_gone: bool,
}

/// What is known of the files that promises are about.
pub struct Looked<'a> {
    /// The files that were checked, by path relative to the project.
    pub checked: &'a HashSet<&'a str>,
    /// Those among them in which a comment hides all findings.
    pub silenced: &'a HashSet<&'a str>,
    /// Whether a file is there.
    pub is_there: &'a dyn Fn(&str) -> bool,
    /// Whether a path was to be looked at.
    pub is_meant: &'a dyn Fn(&str) -> bool,
}

/// The promises that are not kept, by path.
#[must_use]
pub fn broken(ledger: &Ledger, looked: &Looked<'_>) -> Vec<Broken> {
    let mut found = Vec::new();
    for (path, promises) in ledger.files() {
        let mut tell =
            |words: String| found.push(Broken { path: path.to_owned(), fields: Vec::new(), words, is_gone: false });
        let is_known = |demand: &str| demand == super::AS_IT_IS || demands::by_slug(demand).is_some();
        for demand in promises.holds.iter().filter(|demand| !is_known(demand)) {
            let known = demands::ALL.iter().map(|demand| demand.slug);
            let near = leitmotiv_project::settings::nearest(demand, known);
            let near = near.map(|near| format!(" (is `{near}` meant?)")).unwrap_or_default();
            tell(format!("`{path}` is held to `{demand}`, and there is no such demand{near}"));
        }
        if promises.holds.is_empty() || !(looked.is_meant)(path) {
            continue;
        }
        let held: Vec<&str> = promises.holds.iter().map(String::as_str).collect();
        let held = held.join(", ");
        if looked.silenced.contains(path) {
            tell(format!("`{path}` is held to {held}, but a comment at its head hides all that is found in it"));
        } else if !looked.checked.contains(path) && (looked.is_there)(path) {
            tell(format!(
                "`{path}` is held to {held}, but is not checked any more: see `sources`, `leave` and .gitignore"
            ));
        } else if !looked.checked.contains(path) {
            let words = format!("`{path}` is held to {held}, but is not there any more");
            found.push(Broken { path: path.to_owned(), fields: Vec::new(), words, is_gone: true });
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_nobody_looks_at_is_told() {
        let mut ledger = Ledger::default();
        for path in ["a.py", "b.py", "c.py", "d.py", "elsewhere/e.py"] {
            ledger.of_mut(path).holds.insert("none-handled".into());
        }
        ledger.of_mut("d.py").holds.insert("nune-handled".into());
        let looked = Looked {
            checked: &HashSet::from(["c.py", "d.py"]),
            silenced: &HashSet::from(["c.py"]),
            is_there: &|path| path != "a.py",
            is_meant: &|path| !path.starts_with("elsewhere"),
        };
        let words: Vec<String> = broken(&ledger, &looked).into_iter().map(|broken| broken.words).collect();
        assert_eq!(
            words,
            [
                "`a.py` is held to none-handled, but is not there any more",
                "`b.py` is held to none-handled, but is not checked any more: see `sources`, `leave` and .gitignore",
                "`c.py` is held to none-handled, but a comment at its head hides all that is found in it",
                "`d.py` is held to `nune-handled`, and there is no such demand (is `none-handled` meant?)",
            ]
        );
    }
}
