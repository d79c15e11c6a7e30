//! Asking git.
//!
//! A repository's own settings could make git run programs: a file system monitor, hooks, filters of contents. All of these are
//! switched off for each call, so that asking runs git and nothing else (docs/security.md).

use std::ffi::OsStr;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::Duration;

use leitmotiv_project::Project;
use leitmotiv_project::programs::{self, Limits};

/// How long git may take, and how much it may print.
const LIMITS: Limits = Limits { time: Duration::from_secs(60), bytes: 64 << 20 };

/// Git, in a project's folder.
pub(crate) struct Git<'p> {
    program: PathBuf,
    root: &'p Path,
    silence: Vec<(String, String)>,
}

impl<'p> Git<'p> {
    /// The git that is on the search path; `None` where there is none, or where what it is set to run cannot be switched off.
    pub(crate) fn of(project: &'p Project) -> Option<Git<'p>> {
        let program = programs::on_path("git", &project.surroundings, &project.root)?;
        let silence = silence(&program, &project.root)?;
        Some(Git { program, root: &project.root, silence })
    }

    /// What git prints; `None` where it fails.
    pub(crate) fn ask(&self, words: impl IntoIterator<Item = impl AsRef<OsStr>>) -> Option<Vec<u8>> {
        let mut command = git_in(&self.program, self.root, &self.silence);
        let output = programs::output(command.args(words), LIMITS).ok()?;
        output.status.success().then_some(output.stdout)
    }

    /// The way from the repository's folder to the project's; empty, or ending in `/`. `None` where there is no repository.
    pub(crate) fn prefix(&self) -> Option<Vec<u8>> {
        let output = self.ask(["rev-parse", "--show-prefix"])?;
        Some(output.strip_suffix(b"\n").unwrap_or(&output).to_vec())
    }
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
        ("log.showSignature", "false"),
        ("gpg.program", "false"),
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
    // A file may be called like a pattern.
    command.env("GIT_LITERAL_PATHSPECS", "1");
    command.env("GIT_OPTIONAL_LOCKS", "0").env("GIT_TERMINAL_PROMPT", "0");
    command.env("GIT_CONFIG_COUNT", silence.len().to_string());
    for (at, (key, value)) in silence.iter().enumerate() {
        command.env(format!("GIT_CONFIG_KEY_{at}"), key).env(format!("GIT_CONFIG_VALUE_{at}"), value);
    }
    command
}
