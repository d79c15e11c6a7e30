//! A project in a temporary folder, and the program run on it.

use std::path::{Path, PathBuf};

use assert_cmd::Command;

/// A project in a temporary folder.
pub struct Folder {
    folder: tempfile::TempDir,
}

/// What a run gave.
pub struct Run {
    /// The exit status.
    pub status: i32,
    /// Standard output.
    pub out: String,
    /// Standard error.
    pub err: String,
}

impl Folder {
    /// A folder with these files.
    pub fn new(files: &[(&str, &str)]) -> Folder {
        let folder = Folder { folder: tempfile::tempdir().unwrap() };
        for (path, text) in files {
            folder.write(path, text);
        }
        folder
    }

    /// The demo project.
    pub fn demo() -> Folder {
        let from = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/project");
        let folder = Folder { folder: tempfile::tempdir().unwrap() };
        copy(&from, folder.folder.path());
        folder
    }

    /// Writes a file.
    pub fn write(&self, path: &str, text: &str) {
        let path = self.path(path);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(path, text).unwrap();
    }

    /// A file's text.
    pub fn read(&self, path: &str) -> String {
        std::fs::read_to_string(self.path(path)).unwrap()
    }

    /// Runs git in the folder, on some day (as `2026-03-09`, or today), and gives what it prints.
    #[track_caller]
    pub fn git(&self, words: &[&str], day: Option<&str>) -> String {
        let mut command = std::process::Command::new("git");
        command.current_dir(self.folder.path());
        command.args(["-c", "user.name=Isla Skerry", "-c", "user.email=office@skerry.invalid"]).args(words);
        if let Some(day) = day {
            let time = format!("{day}T12:00:00Z");
            command.env("GIT_AUTHOR_DATE", &time).env("GIT_COMMITTER_DATE", &time);
        }
        let output = command.output().unwrap();
        let told = String::from_utf8_lossy(&output.stdout).into_owned();
        assert!(output.status.success(), "{words:?}: {told}{}", String::from_utf8_lossy(&output.stderr));
        told
    }

    /// A path in the folder.
    pub fn path(&self, path: &str) -> PathBuf {
        self.folder.path().join(path)
    }

    /// Runs the program in the folder: no terminal, no colours, nothing of the environment but the search path.
    #[track_caller]
    pub fn run(&self, words: &[&str]) -> Run {
        self.run_with(&[], words)
    }

    /// The same in a folder below.
    #[track_caller]
    pub fn run_in(&self, below: &str, words: &[&str]) -> Run {
        self.run_there(&self.path(below), &[], words)
    }

    /// The same with some variables in the environment.
    #[track_caller]
    pub fn run_with(&self, variables: &[(&str, &str)], words: &[&str]) -> Run {
        self.run_there(self.folder.path(), variables, words)
    }

    #[track_caller]
    fn run_there(&self, there: &Path, variables: &[(&str, &str)], words: &[&str]) -> Run {
        let output = Command::cargo_bin("leitmotiv")
            .unwrap()
            .args(words)
            .current_dir(there)
            .env_clear()
            .env("PATH", "/usr/bin:/bin")
            .envs(variables.iter().copied())
            .output()
            .unwrap();
        Run {
            status: output.status.code().unwrap(),
            out: String::from_utf8(output.stdout).unwrap(),
            err: String::from_utf8(output.stderr).unwrap(),
        }
    }
}

impl Run {
    /// The run, which had nothing to complain about.
    #[track_caller]
    pub fn ok(self) -> Run {
        assert_eq!(self.status, 0, "{}{}", self.out, self.err);
        self
    }

    /// Standard output has these words.
    #[track_caller]
    pub fn says(&self, words: &str) {
        assert!(self.out.contains(words), "{}", self.out);
    }

    /// The run was refused with status 2 and one sentence, and printed nothing else.
    #[track_caller]
    pub fn refused(&self, words: &str) {
        assert_eq!(self.status, 2, "{}{}", self.out, self.err);
        assert_eq!(self.err.lines().count(), 1, "{}", self.err);
        assert!(self.err.starts_with("leitmotiv: ") && self.err.contains(words), "{}", self.err);
        assert_eq!(self.out, "");
    }
}

/// Copies a folder's files into another, which is made where it is not there.
pub fn copy(from: &Path, to: &Path) {
    std::fs::create_dir_all(to).unwrap();
    for entry in std::fs::read_dir(from).unwrap() {
        let entry = entry.unwrap();
        let target = to.join(entry.file_name());
        if entry.file_type().unwrap().is_dir() {
            copy(&entry.path(), &target);
        } else {
            std::fs::copy(entry.path(), target).unwrap();
        }
    }
}
