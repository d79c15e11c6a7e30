//! Which files have changes that are not committed, asked of git.

use std::collections::{BTreeMap, BTreeSet};
use std::ffi::OsStr;
use std::path::PathBuf;

use leitmotiv_project::Project;

use crate::git::Git;

/// How many paths are asked for at once: a command line has an end.
const AT_ONCE: usize = 500;

/// The first of some files (paths relative to the project's folder) that should not be written to, and what stands against
/// it; `None` where all are as they were committed.
#[must_use]
pub fn first_unclean(project: &Project, paths: &[PathBuf]) -> Option<(PathBuf, &'static str)> {
    const OUTSIDE: &str = "is not under version control";
    let first = paths.first()?.clone();
    let outside = || Some((first.clone(), OUTSIDE));
    let Some(git) = Git::of(project) else { return outside() };
    let Some(prefix) = git.prefix() else { return outside() };
    let mut states: BTreeMap<Vec<u8>, &'static str> = BTreeMap::new();
    let mut folders: Vec<(Vec<u8>, &'static str)> = Vec::new();
    for some in paths.chunks(AT_ONCE) {
        // By zeros: no name is quoted.
        let words = ["status", "--porcelain=v1", "-z", "--ignored", "--no-renames", "--ignore-submodules=all"];
        let paths = some.iter().map(|path| path.as_os_str());
        let words = words.into_iter().chain(["--untracked-files=all", "--"]).map(OsStr::new);
        let Some(output) = git.ask(words.chain(paths)) else { return outside() };
        for entry in output.split(|byte| *byte == 0).filter(|entry| entry.len() > 3) {
            let state =
                if entry.starts_with(b"??") || entry.starts_with(b"!!") { OUTSIDE } else { "has uncommitted changes" };
            let name = entry[3..].to_vec();
            if name.ends_with(b"/") {
                folders.push((name, state));
            } else {
                states.insert(name, state);
            }
        }
    }
    paths.iter().find_map(|path| {
        // Git names files from the repository's folder.
        let mut name = prefix.clone();
        name.extend(path.as_os_str().as_encoded_bytes());
        let around = folders.iter().find(|(folder, _)| name.starts_with(folder));
        let state = states.get(&name).copied().or(around.map(|(_, state)| *state));
        state.map(|state| (path.clone(), state))
    })
}

/// Whether a project's folder lies in a repository.
#[must_use]
pub fn is_under_git(project: &Project) -> bool {
    Git::of(project).is_some_and(|git| git.prefix().is_some())
}

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

#[cfg(test)]
mod tests {
    use std::path::Path;
    use std::process::Command;

    use leitmotiv_project::Surroundings;

    use super::*;

    fn git(root: &Path, words: &[&str]) {
        let done = Command::new("git")
            .arg("-C")
            .arg(root)
            .args(["-c", "user.name=Skerry Lines", "-c", "user.email=office@skerry.invalid"])
            .args(words)
            .output();
        assert!(done.unwrap().status.success(), "{words:?}");
    }

    fn project(root: &Path) -> Project {
        let path = std::env::var_os("PATH").map(|path| std::env::split_paths(&path).collect()).unwrap_or_default();
        Project::open(root, None, &Surroundings { path, ..Surroundings::default() }).unwrap()
    }

    #[test]
    fn what_is_not_committed_is_told_by_name() {
        let folder = tempfile::tempdir().unwrap();
        std::fs::create_dir_all(folder.path().join("ferry")).unwrap();
        for name in ["a.py", "b.py", "ferry/c d.py"] {
            std::fs::write(folder.path().join(name), "x = 1\n").unwrap();
        }
        let paths: Vec<PathBuf> = ["a.py", "ferry/c d.py"].into_iter().map(PathBuf::from).collect();
        let told = |paths: &[PathBuf]| first_unclean(&project(folder.path()), paths);
        assert_eq!(told(&paths), Some(("a.py".into(), "is not under version control")));
        git(folder.path(), &["init", "-q"]);
        git(folder.path(), &["add", "a.py", "ferry"]);
        git(folder.path(), &["commit", "-q", "-m", "x"]);
        assert_eq!(told(&paths), None);
        assert_eq!(told(&["b.py".into()]), Some(("b.py".into(), "is not under version control")));
        std::fs::write(folder.path().join("ferry/c d.py"), "x = 2\n").unwrap();
        assert_eq!(told(&paths), Some(("ferry/c d.py".into(), "has uncommitted changes")));
        // From a folder of the repository as well.
        let inner = first_unclean(&project(&folder.path().join("ferry")), &["c d.py".into()]);
        assert_eq!(inner, Some(("c d.py".into(), "has uncommitted changes")));
    }

    #[cfg(unix)]
    #[test]
    fn a_repositorys_settings_run_nothing() {
        use std::os::unix::fs::PermissionsExt;
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path();
        std::fs::write(root.join("a.py"), "x = 1\n").unwrap();
        std::fs::write(root.join(".gitattributes"), "*.py filter=odd.name\n").unwrap();
        git(root, &["init", "-q"]);
        git(root, &["add", "-A"]);
        git(root, &["commit", "-q", "-m", "x"]);
        let program = root.join("program.sh");
        std::fs::write(&program, format!("#!/bin/sh\necho ran >> {}/RAN\ncat\n", root.display())).unwrap();
        std::fs::set_permissions(&program, std::fs::Permissions::from_mode(0o755)).unwrap();
        let shown = program.display().to_string();
        for key in ["core.fsmonitor", "filter.odd.name.clean", "filter.odd.name.process", "core.pager"] {
            git(root, &["config", key, &shown]);
        }
        git(root, &["config", "filter.odd.name.required", "true"]);
        // Another time and length, so that git must look into the file.
        std::fs::write(root.join("a.py"), "x = 12\n").unwrap();
        let told = first_unclean(&project(root), &["a.py".into()]);
        assert_eq!(told, Some(("a.py".into(), "has uncommitted changes")));
        assert!(!root.join("RAN").exists());
    }
}
