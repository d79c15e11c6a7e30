//! Which lines changed since a revision, asked of git: what is committed, what is not, and what git does not know yet.

use std::collections::{BTreeMap, BTreeSet};

use leitmotiv_project::Project;
use thiserror::Error;

use crate::git::Git;

/// What changed.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Changed {
    /// By path, relative to the project with `/`: the lines that are new or other now, from 1, both ends included.
    lines: BTreeMap<String, Vec<(u32, u32)>>,
    /// Files that git does not know.
    whole: BTreeSet<String>,
}

/// Why git cannot tell.
#[derive(Debug, Error)]
pub enum SinceError {
    /// There is no git, or no repository.
    #[error("what changed is asked of git, and this folder is in no repository that git can be asked about")]
    Outside,
    /// The revision is not there, and the history is cut.
    #[error("git knows no revision `{0}` here, as this is a shallow clone; fetch it first")]
    Shallow(String),
    /// The revision is not there.
    #[error("git knows no revision `{0}` here")]
    Unknown(String),
}

impl Changed {
    /// What changed since a revision; where that is on another branch, since the two went apart.
    ///
    /// # Errors
    /// [`SinceError`]
    pub fn since(project: &Project, revision: &str) -> Result<Changed, SinceError> {
        let git = Git::of(project).filter(|git| git.prefix().is_some()).ok_or(SinceError::Outside)?;
        let text = |words: &[&str]| String::from_utf8(git.ask(words)?).ok();
        let commit = format!("{revision}^{{commit}}");
        let Some(found) = text(&["rev-parse", "--verify", "--quiet", "--end-of-options", &commit]) else {
            let is_shallow = text(&["rev-parse", "--is-shallow-repository"]).is_some_and(|text| text.trim() == "true");
            let revision = revision.to_owned();
            return Err(if is_shallow { SinceError::Shallow(revision) } else { SinceError::Unknown(revision) });
        };
        let found = found.trim();
        let base = text(&["merge-base", found, "HEAD"]).map(|base| base.trim().to_owned());
        let base = base.filter(|base| !base.is_empty()).unwrap_or_else(|| found.to_owned());
        let diff = git
            .ask([
                "-c",
                "core.quotePath=false",
                "diff",
                "--no-ext-diff",
                "--no-textconv",
                "--no-color",
                "--unified=0",
                "--find-renames",
                "--diff-filter=d",
                "--ignore-submodules=all",
                "--src-prefix=a/",
                "--dst-prefix=b/",
                "--relative",
                &base,
                "--",
                ".",
            ])
            .ok_or(SinceError::Outside)?;
        let others = git.ask(["ls-files", "--others", "--exclude-standard", "-z", "--", "."]);
        let others = others.ok_or(SinceError::Outside)?;
        let names = others.split(|byte| *byte == 0).filter(|name| !name.is_empty());
        Ok(Changed {
            lines: lines(&String::from_utf8_lossy(&diff)),
            whole: names.map(|name| String::from_utf8_lossy(name).into_owned()).collect(),
        })
    }

    /// Whether any of some lines of a file changed, from 1, both ends included.
    #[must_use]
    pub fn touches(&self, path: &str, (first, last): (u32, u32)) -> bool {
        let is_in = |&(start, end): &(u32, u32)| start <= last && first <= end;
        self.whole.contains(path) || self.lines.get(path).is_some_and(|lines| lines.iter().any(is_in))
    }
}

/// The lines that a diff without context adds, by file.
fn lines(diff: &str) -> BTreeMap<String, Vec<(u32, u32)>> {
    let mut found: BTreeMap<String, Vec<(u32, u32)>> = BTreeMap::new();
    let mut path = None;
    // So many lines of old and new text are still to come: none of them is a header.
    let mut rest = 0;
    for line in diff.split('\n') {
        if rest > 0 && line.starts_with(['+', '-']) {
            rest -= 1;
        } else if let Some(name) = line.strip_prefix("+++ ") {
            path = unquoted(name).strip_prefix("b/").map(str::to_owned);
        } else if let Some((old, new)) = line.strip_prefix("@@ -").and_then(hunk) {
            rest = old + new.1;
            if let Some(path) = path.as_ref().filter(|_| new.1 > 0) {
                found.entry(path.clone()).or_default().push((new.0, new.0 + new.1 - 1));
            }
        }
    }
    found
}

/// How many lines a hunk takes away, and where and how many it adds: `3,2 +4 @@`.
fn hunk(text: &str) -> Option<(u32, (u32, u32))> {
    let (old, rest) = text.split_once(" +")?;
    let (new, _) = rest.split_once(" @@")?;
    let read = |text: &str| -> Option<(u32, u32)> {
        match text.split_once(',') {
            Some((start, count)) => Some((start.parse().ok()?, count.parse().ok()?)),
            None => Some((text.parse().ok()?, 1)),
        }
    };
    Some((read(old)?.1, read(new)?))
}

/// A name as git writes it: names with odd characters stand in quotes, as in C.
fn unquoted(name: &str) -> String {
    // Behind a name with spaces git puts a tab.
    let name = name.strip_suffix('\t').unwrap_or(name);
    let Some(inner) = name.strip_prefix('"').and_then(|name| name.strip_suffix('"')) else { return name.to_owned() };
    let mut bytes = Vec::new();
    let mut rest = inner.bytes().peekable();
    while let Some(byte) = rest.next() {
        if byte != b'\\' {
            bytes.push(byte);
            continue;
        }
        match rest.next() {
            Some(digit @ b'0'..=b'3') => {
                let mut value = u32::from(digit - b'0');
                for _ in 0..2 {
                    if let Some(next) = rest.next_if(|next| (b'0'..=b'7').contains(next)) {
                        value = value * 8 + u32::from(next - b'0');
                    }
                }
                bytes.push(u8::try_from(value).unwrap_or(b'?'));
            }
            Some(b'n') => bytes.push(b'\n'),
            Some(b't') => bytes.push(b'\t'),
            Some(b'r') => bytes.push(b'\r'),
            Some(other) => bytes.push(other),
            None => {}
        }
    }
    String::from_utf8_lossy(&bytes).into_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn diffs_are_read() {
        let diff = "diff --git a/old.py b/ferry.py\nrename to ferry.py\n--- a/old.py\n+++ b/ferry.py\n@@ -1,0 +2,3 @@ def f():\n+++ b/no.py\n+@@ -1 +9,9 @@\n+x\n@@ -7,2 +10,0 @@\n-a\n-b\n@@ -20 +21 @@\n-a\n+b\n--- a/a b.py\n+++ b/a b.py\t\n@@ -0,0 +1 @@\n+x\n--- a/x\n+++ \"b/caf\\303\\251.py\"\n@@ -0,0 +1,2 @@\n+x\n+y\n";
        let expected = [("a b.py", vec![(1, 1)]), ("café.py", vec![(1, 2)]), ("ferry.py", vec![(2, 4), (21, 21)])];
        let expected: BTreeMap<String, Vec<(u32, u32)>> =
            expected.into_iter().map(|(path, lines)| (path.to_owned(), lines)).collect();
        assert_eq!(lines(diff), expected);
        let changed = Changed { lines: expected, whole: BTreeSet::from(["new.py".to_owned()]) };
        assert!(changed.touches("ferry.py", (4, 9)) && changed.touches("ferry.py", (1, 30)));
        assert!(!changed.touches("ferry.py", (5, 20)) && !changed.touches("old.py", (2, 2)));
        assert!(changed.touches("new.py", (3, 3)));
    }
}
