//! Which files have changes that are not committed, asked of git.
//!
//! A repository's own settings could make git run programs: a file system monitor, hooks, filters of contents. All of these are
//! switched off for the one call, so that asking runs git and nothing else (docs/security.md).

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::Duration;

use leitmotiv_project::Project;
use leitmotiv_project::programs::{self, Limits};

/// How long git may take, and how much it may print.
const LIMITS: Limits = Limits { time: Duration::from_secs(60), bytes: 64 << 20 };

/// How many paths are asked for at once: a command line has an end.
const AT_ONCE: usize = 500;

/// The first of some files (paths relative to the project's folder) that should not be written to, and what stands against
/// it; `None` where all are as they were committed.
#[must_use]
pub fn first_unclean(project: &Project, paths: &[PathBuf]) -> Option<(PathBuf, &'static str)> {
    const OUTSIDE: &str = "is not under version control";
    let first = paths.first()?.clone();
    let outside = || Some((first.clone(), OUTSIDE));
    let Some(git) = programs::on_path("git", &project.surroundings, &project.root) else { return outside() };
    let Some(silence) = silence(&git, &project.root) else { return outside() };
    let Some(prefix) = prefix(&git, &project.root, &silence) else { return outside() };
    let mut states: BTreeMap<Vec<u8>, &'static str> = BTreeMap::new();
    let mut folders: Vec<(Vec<u8>, &'static str)> = Vec::new();
    for some in paths.chunks(AT_ONCE) {
        let mut command = git_in(&git, &project.root, &silence);
        // By zeros: no name is quoted.
        command.args(["status", "--porcelain=v1", "-z", "--ignored", "--no-renames", "--ignore-submodules=all"]);
        command.args(["--untracked-files=all", "--"]).args(some);
        let output = programs::output(&mut command, LIMITS).ok().filter(|output| output.status.success());
        let Some(output) = output else { return outside() };
        for entry in output.stdout.split(|byte| *byte == 0).filter(|entry| entry.len() > 3) {
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

/// The text that a file (relative to the project's folder) had when version control last knew it; `None` where it never did.
#[must_use]
pub fn last_text(project: &Project, path: &Path) -> Option<String> {
    let git = programs::on_path("git", &project.surroundings, &project.root)?;
    let silence = silence(&git, &project.root)?;
    let ask = |words: &[&str]| {
        let mut command = git_in(&git, &project.root, &silence);
        let output = programs::output(command.args(words), LIMITS).ok().filter(|output| output.status.success())?;
        String::from_utf8(output.stdout).ok()
    };
    let path = path.to_str()?;
    if let Some(text) = ask(&["cat-file", "blob", &format!("HEAD:./{path}")]) {
        return Some(text);
    }
    let removed = ask(&["log", "-1", "--diff-filter=D", "--no-renames", "--format=%H", "--", path])?;
    let removed = removed.trim();
    if removed.is_empty() {
        return None;
    }
    ask(&["cat-file", "blob", &format!("{removed}^:./{path}")])
}

/// The way from the repository's folder to the project's; empty, or ending in `/`. `None` where there is no repository.
fn prefix(git: &Path, root: &Path, silence: &[(String, String)]) -> Option<Vec<u8>> {
    let mut command = git_in(git, root, silence);
    command.args(["rev-parse", "--show-prefix"]);
    let output = programs::output(&mut command, LIMITS).ok().filter(|output| output.status.success())?;
    Some(output.stdout.strip_suffix(b"\n").unwrap_or(&output.stdout).to_vec())
}

/// Settings that keep git from running anything, those for the filters that are configured among them.
fn silence(git: &Path, root: &Path) -> Option<Vec<(String, String)>> {
    let mut silence: Vec<(String, String)> = [
        ("core.fsmonitor", "false"),
        ("core.hooksPath", "/dev/null"),
        ("core.sshCommand", "false"),
        ("core.pager", "cat"),
        ("core.untrackedCache", "false"),
        ("submodule.recurse", "false"),
    ]
    .into_iter()
    .map(|(key, value)| (key.to_owned(), value.to_owned()))
    .collect();
    let mut command = git_in(git, root, &silence);
    command.args(["config", "--null", "--name-only", "--list"]);
    let output = programs::output(&mut command, LIMITS).ok().filter(|output| output.status.success())?;
    for key in output.stdout.split(|byte| *byte == 0) {
        // One that is not text cannot be switched off, and so nothing is asked.
        let key = std::str::from_utf8(key).ok()?;
        let lower = key.to_lowercase();
        let Some(end) = key.rfind('.').filter(|_| lower.starts_with("filter.")) else { continue };
        let value = match &lower[end + 1..] {
            "clean" | "smudge" | "process" => "",
            "required" => "false",
            _ => continue,
        };
        silence.push((key.to_owned(), value.to_owned()));
    }
    Some(silence)
}

/// Git in a folder, under settings that win over the repository's; of the environment only what git needs to find its own
/// files and the user's settings.
fn git_in(git: &Path, root: &Path, silence: &[(String, String)]) -> Command {
    let mut command = Command::new(git);
    command.arg("--no-pager").arg("-C").arg(root);
    for name in ["GIT_EXTERNAL_DIFF", "GIT_PAGER", "GIT_CONFIG_PARAMETERS", "GIT_SSH", "GIT_SSH_COMMAND", "GIT_TRACE"] {
        command.env_remove(name);
    }
    command.env("GIT_OPTIONAL_LOCKS", "0").env("GIT_TERMINAL_PROMPT", "0");
    command.env("GIT_CONFIG_COUNT", silence.len().to_string());
    for (at, (key, value)) in silence.iter().enumerate() {
        command.env(format!("GIT_CONFIG_KEY_{at}"), key).env(format!("GIT_CONFIG_VALUE_{at}"), value);
    }
    command
}

#[cfg(test)]
mod tests {
    use super::*;
    use leitmotiv_project::Surroundings;

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
