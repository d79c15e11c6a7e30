//! Which files have changes that are not committed, asked of git.

use std::collections::BTreeMap;
use std::ffi::OsStr;
use std::path::PathBuf;

use leitmotiv_project::Project;

use crate::git::Git;

/// How many paths are asked for at once: a command line has an end.
pub(crate) const AT_ONCE: usize = 500;

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
