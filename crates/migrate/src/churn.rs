//! How often files were changed in the last year, asked of git.

use std::collections::HashMap;

use leitmotiv_project::Project;

use crate::git::Git;

/// How many commits of the last year changed each file (relative to the project's folder); `None` where there is no history.
#[must_use]
pub fn changes(project: &Project) -> Option<HashMap<String, usize>> {
    let git = Git::of(project)?;
    git.prefix()?;
    let words = [
        "log",
        "--since=1.year",
        "--no-merges",
        "--no-renames",
        "--format=",
        "--name-only",
        "--relative",
        "-z",
        "--",
        ".",
    ];
    let output = git.ask(words)?;
    let mut changes: HashMap<String, usize> = HashMap::new();
    for name in output.split(|byte| matches!(byte, 0 | b'\n')).filter(|name| !name.is_empty()) {
        *changes.entry(String::from_utf8_lossy(name).into_owned()).or_default() += 1;
    }
    Some(changes)
}
