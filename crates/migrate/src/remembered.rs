//! What the last check of a project found, kept in its own folder, and what went and came since.
//!
//! A finding is known again by its rule, the function around it and the code concerned: lines may move.

use std::collections::BTreeMap;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::outline::module_index;
use leitmotiv_project::Project;
use leitmotiv_project::write::note;
use rustc_hash::FxHashSet;
use serde::{Deserialize, Serialize};

use crate::session::Report;

/// The file's name in the project's own folder.
const NAME: &str = "last-check.json";

/// What it says of itself; another version is as good as none.
const SCHEMA: &str = "leitmotiv.last-check/1";

/// What a check found, by file as it is shown: how often each thing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Remembered {
    schema: String,
    /// Whether the whole project was checked once: then a file that is not known is new.
    whole: bool,
    files: BTreeMap<String, BTreeMap<String, usize>>,
}

/// What went and came since the last check, in the files that both are of.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Moved {
    /// How many findings went, by file; of files that are gone, all.
    pub went: BTreeMap<String, usize>,
    /// Those that came: the file, the line from 1, the rule.
    pub came: Vec<(String, usize, String)>,
}

impl Moved {
    /// Whether all is as it was.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.went.is_empty() && self.came.is_empty()
    }
}

/// What a check found, as far as others are compared with it.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Seen {
    /// The files checked, in order, as they are shown.
    pub files: Vec<String>,
    /// What was found, in order.
    pub found: Vec<Found>,
}

/// A finding, as far as others are compared with it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Found {
    path: String,
    /// From 1.
    line: usize,
    rule: String,
    key: String,
}

impl Found {
    /// One in a file, as it is shown, on a line from 1.
    #[must_use]
    pub fn new(path: &str, line: usize, rule: &str, symbol: &str, fingerprint: &str) -> Found {
        Found { path: path.to_owned(), line, rule: rule.to_owned(), key: format!("{rule} {symbol} {fingerprint}") }
    }
}

impl Seen {
    /// What a report says.
    #[must_use]
    pub fn new(db: &Database, report: &Report) -> Seen {
        let found = report.findings.iter().map(|reported| {
            let finding = &reported.finding;
            let line = module_index(db, finding.file).lines.0.index_of(finding.range.start()) + 1;
            Found::new(finding.file.path(db), line, finding.rule, &finding.symbol, &finding.fingerprint)
        });
        Seen { files: report.files.iter().map(|file| file.path(db).to_owned()).collect(), found: found.collect() }
    }
}

/// A key without the function, whose module is called otherwise where the file is.
fn loose(key: &str) -> String {
    let (rule, rest) = key.split_once(' ').unwrap_or((key, ""));
    format!("{rule} {}", rest.rsplit(' ').next().unwrap_or_default())
}

impl Remembered {
    /// What the last check of a project found; `None` where there was none, or what is there cannot be read.
    #[must_use]
    pub fn of(project: &Project) -> Option<Remembered> {
        let bytes = note::read(&project.root, NAME)?;
        serde_json::from_slice(&bytes).ok().filter(|known: &Remembered| known.schema == SCHEMA)
    }

    /// What a check found, of the whole project or of a part, together with what is known of files that it was not of and that are there still.
    #[must_use]
    pub fn new(project: &Project, seen: &Seen, is_whole: bool, before: Option<&Remembered>) -> Remembered {
        let whole = is_whole || before.is_some_and(|before| before.whole);
        let mut files = before.map(|before| before.files.clone()).unwrap_or_default();
        let checked: FxHashSet<&str> = seen.files.iter().map(String::as_str).collect();
        files.retain(|path, _| checked.contains(path.as_str()) || project.root.join(path).is_file());
        for path in &seen.files {
            files.insert(path.clone(), BTreeMap::new());
        }
        for found in &seen.found {
            *files.entry(found.path.clone()).or_default().entry(found.key.clone()).or_default() += 1;
        }
        Remembered { schema: SCHEMA.to_owned(), whole, files }
    }

    /// Keeps it for the next check. Where the folder cannot be written, nothing is remembered.
    pub fn keep(&self, project: &Project) {
        if let Ok(bytes) = serde_json::to_vec(self) {
            let _ = note::write(&project.root, NAME, &bytes);
        }
    }

    /// What went and came between this check and a later one.
    #[must_use]
    pub fn until(&self, project: &Project, seen: &Seen) -> Moved {
        let mut moved = Moved::default();
        let mut left = self.files.clone();
        let checked: FxHashSet<&str> = seen.files.iter().map(String::as_str).collect();
        left.retain(|path, _| checked.contains(path.as_str()) || !project.root.join(path).is_file());
        let renamed = self.renamed(project, seen);
        for (new, old) in &renamed {
            let known = left.remove(*old).unwrap_or_default();
            let known_as = left.entry((*new).to_owned()).or_default();
            for (key, count) in known {
                *known_as.entry(loose(&key)).or_default() += count;
            }
        }
        for found in &seen.found {
            let path = found.path.as_str();
            let known = left.get_mut(path);
            // Of a file that was there and not looked at before, nothing has come.
            if known.is_none() && !self.whole {
                continue;
            }
            let key = if renamed.contains_key(path) { loose(&found.key) } else { found.key.clone() };
            match known.and_then(|known| known.get_mut(&key)).filter(|count| **count > 0) {
                Some(count) => *count -= 1,
                None => moved.came.push((path.to_owned(), found.line, found.rule.clone())),
            }
        }
        let went = left.into_iter().map(|(path, rest)| (path, rest.values().sum::<usize>()));
        moved.went = went.filter(|(_, count)| *count > 0).collect();
        moved
    }

    /// Files that were not there before, with those of the files that are gone which they have most findings in common with: at least half.
    fn renamed<'a>(&'a self, project: &Project, seen: &'a Seen) -> BTreeMap<&'a str, &'a str> {
        let root = &project.root;
        let gone: Vec<(&str, &BTreeMap<String, usize>)> = self
            .files
            .iter()
            .filter(|(path, known)| !known.is_empty() && !root.join(path).is_file())
            .map(|(path, known)| (path.as_str(), known))
            .collect();
        let mut new: BTreeMap<&str, Vec<String>> = BTreeMap::new();
        for found in seen.found.iter().filter(|_| !gone.is_empty()) {
            if !self.files.contains_key(&found.path) {
                new.entry(&found.path).or_default().push(loose(&found.key));
            }
        }
        let mut renamed: BTreeMap<&str, &str> = BTreeMap::new();
        for (path, keys) in new {
            let common = |known: &BTreeMap<String, usize>| {
                let known: FxHashSet<String> = known.keys().map(|key| loose(key)).collect();
                let both = keys.iter().filter(|key| known.contains(*key)).count();
                (both * 2 >= keys.len().max(known.len())).then_some(both)
            };
            let taken: FxHashSet<&str> = renamed.values().copied().collect();
            let free = gone.iter().filter(|(old, _)| !taken.contains(old));
            if let Some((_, old)) = free.filter_map(|(old, known)| Some((common(known)?, *old))).max() {
                renamed.insert(path, old);
            }
        }
        renamed
    }
}
