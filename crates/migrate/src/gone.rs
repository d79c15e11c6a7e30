//! Files that are not there any more: what they were, and what they are called now, asked of git.

use std::collections::BTreeSet;

use leitmotiv_project::Project;

use crate::clean::AT_ONCE;
use crate::git::Git;

/// Which of some paths (relative to the project's folder) version control has; `None` where there is none.
#[must_use]
pub fn tracked(project: &Project, paths: &[String]) -> Option<BTreeSet<String>> {
    let git = Git::of(project)?;
    git.prefix()?;
    let mut all = BTreeSet::new();
    for some in paths.chunks(AT_ONCE) {
        let words = ["ls-files", "-z", "--"].into_iter().chain(some.iter().map(String::as_str));
        let output = git.ask(words)?;
        let names = output.split(|byte| *byte == 0).filter(|name| !name.is_empty());
        all.extend(names.map(|name| String::from_utf8_lossy(name).into_owned()));
    }
    Some(all)
}

/// What version control knows of a file (relative to the project's folder) that is gone.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Gone {
    /// Its last text; `None` where it never had one.
    pub text: Option<String>,
    /// The name that the commit gave it which took it away, and what that was called later, up to the last one; `None` where none did.
    pub renamed: Option<String>,
}

/// Renames that are followed one behind the other.
const MOST_RENAMES: usize = 10;

/// What version control knows of a file that is gone.
#[must_use]
pub fn gone(project: &Project, path: &str) -> Gone {
    let Some(git) = Git::of(project) else { return Gone::default() };
    let text = |words: &[&str]| String::from_utf8(git.ask(words)?).ok();
    if let Some(text) = text(&["cat-file", "blob", &format!("HEAD:./{path}")]) {
        return Gone { text: Some(text), renamed: None };
    }
    let removed = |path: &str| -> Option<String> {
        let commit = text(&["log", "-1", "--diff-filter=D", "--no-renames", "--format=%H", "--", path])?;
        Some(commit.trim().to_owned()).filter(|commit| !commit.is_empty())
    };
    let Some(commit) = removed(path) else { return Gone::default() };
    let last = text(&["cat-file", "blob", &format!("{commit}^:./{path}")]);
    let (mut name, mut commit) = (path.to_owned(), Some(commit));
    for _ in 0..MOST_RENAMES {
        let words = ["diff-tree", "-r", "-M", "--name-status", "--no-commit-id", "--relative", "-z"];
        let Some(changes) = commit.as_deref().and_then(|commit| text(&[&words[..], &[commit]].concat())) else { break };
        let fields: Vec<&str> = changes.split('\0').collect();
        let renamed = fields.windows(3).find(|three| three[0].starts_with('R') && three[1] == name);
        let Some(renamed) = renamed else { break };
        renamed[2].clone_into(&mut name);
        if project.root.join(&name).exists() {
            return Gone { text: last, renamed: Some(name) };
        }
        commit = removed(&name);
    }
    Gone { text: last, renamed: None }
}
