//! A project that tries to be run, and to be written elsewhere, in every way that we know of.

use std::os::unix::ffi::OsStrExt;
use std::os::unix::fs::{PermissionsExt, symlink};
use std::path::{Path, PathBuf};
use std::process::{Command, Output};

/// The hostile project, and what lies around it.
pub struct World {
    folder: tempfile::TempDir,
}

/// Every command, as somebody would try it on a project that was just cloned.
pub const COMMANDS: &[&[&str]] = &[
    &["survey"],
    &["survey", "--library"],
    &["survey", "--suppressions"],
    &["survey", "--by", "function"],
    &["survey", "--layers"],
    &["report", "--format", "json"],
    &["manual"],
    &["completions", "zsh"],
    &["init", "--dry-run"],
    &["init"],
    &["check"],
    &["check", "--by", "cause"],
    &["check", "--format", "json"],
    &["explain", "call.argument"],
    &["explain", "m.py:2"],
    &["lookup", "int"],
    &["lsp"],
    &["console"],
    &["trace", "show"],
    &["trace", "callers", "f"],
    &["trace", "merge"],
    &["trace", "forget", "--all"],
    &["lookup", "m.py:2:1"],
    &["fix"],
    &["fix", "--write"],
    &["fix", "--write", "--dirty"],
    &["fix", "--undo"],
    &["annotate"],
    &["annotate", "--why"],
    &["annotate", "--write"],
    &["annotate", "--write", "--dirty"],
    &["check", "--since", "HEAD"],
    &["annotate", "--undo"],
    &["tighten"],
    &["tighten", "--write"],
    &["tighten", "--write", "--forget"],
    &["stub", "list"],
    &["stub", "write", "m", "--from", "source"],
    &["stub", "write", "m", "--from", "source", "--show"],
    &["stub", "write", "m", "--from", "running"],
    &["stub", "write", "--undo"],
    &["stub", "verify"],
    &["stub", "verify", "m"],
];

/// Configurations that lead astray.
pub const SETTINGS: &[Option<&str>] = &[
    None,
    Some("interpreter = \"evil\"\n"),
    Some("interpreter = \"venv/bin/python3\"\nsources = [\"../outside\", \".\"]\nstubs = [\"../outside\"]\n"),
    Some("interpreter = \"python3\"\nstubs = [\"stubs\"]\n"),
];

impl World {
    /// Makes it; with a configuration, if one is given.
    pub fn new(settings: Option<&str>) -> World {
        let world = World { folder: tempfile::tempdir().unwrap() };
        let (root, bin) = (world.path("p"), world.path("bin"));
        std::fs::create_dir_all(&root).unwrap();
        std::fs::create_dir_all(&bin).unwrap();
        std::fs::write(world.path("victim.txt"), "precious\n").unwrap();
        std::fs::create_dir(world.path("outside")).unwrap();
        // What the search path has notes that it was run, and does its work.
        for name in ["git", "python3"] {
            let real = ["/usr/bin", "/usr/local/bin", "/bin"].iter().map(|folder| Path::new(folder).join(name));
            let Some(real) = real.into_iter().find(|path| path.exists()) else { continue };
            let log = world.path("ran.log");
            world.program(
                "bin",
                name,
                &format!("echo \"{name} $1 $2\" >> {}\nexec {} \"$@\"", log.display(), real.display()),
            );
        }
        // What the project brings marks that it was run.
        for path in [".venv", "evil", "bin/python3", "bin/git", "python3", "git", "hook.sh", "filter.sh"] {
            world.program("p", path, &format!("echo {path} >> {}", world.path("PWNED").display()));
        }
        let mark = format!("open({:?}, 'a').write('python\\n')\n", world.path("PWNED"));
        for path in ["sitecustomize.py", "usercustomize.py", "conftest.py", "setup.py", "typing.py", "json.py"] {
            std::fs::write(root.join(path), &mark).unwrap();
        }
        std::fs::write(root.join("m.py"), format!("{mark}def f(a=1):\n    return 1\nf('x')\n")).unwrap();
        std::fs::create_dir_all(root.join("venv/lib/python3.11/site-packages")).unwrap();
        std::fs::create_dir_all(root.join("venv/bin")).unwrap();
        std::fs::write(root.join("venv/pyvenv.cfg"), "home = ../bin\nversion = 3.11.2\n").unwrap();
        std::fs::write(root.join("venv/lib/python3.11/site-packages/a.pth"), format!("import os; {mark}")).unwrap();
        world.program("p", "venv/bin/python3", &format!("echo venv >> {}", world.path("PWNED").display()));
        // Names that lead elsewhere, and names that are none.
        std::fs::write(root.join("x\\..\\..\\escaped.py"), "def f(a=1):\n    return 1\n").unwrap();
        std::fs::write(root.join(["\\tmp", "\\leitmotiv-absolute.py"].concat()), "def f(a=1):\n    return 1\n")
            .unwrap();
        std::fs::write(root.join(std::ffi::OsStr::from_bytes(b"caf\xe9.py")), "x = 1\n").unwrap();
        std::fs::write(root.join("new\nline.py"), "x: int = 'y'\n").unwrap();
        std::fs::write(root.join("\u{1b}[2J\u{9b}m\u{202e}.py"), "x: int = '\u{1b}]0;owned\u{7}\u{202e}'\n").unwrap();
        // Links out of the project.
        symlink(world.path("outside"), root.join("stubs")).unwrap();
        symlink(world.path("victim.txt"), root.join("leitmotiv.ledger")).unwrap();
        for number in 1..40 {
            symlink("../victim.txt", root.join(format!(".m.py.leitmotiv-{number}"))).unwrap();
        }
        // Remembered runs that were never made here.
        let home = root.join(".leitmotiv/runs/000001-0000000000000000");
        std::fs::create_dir_all(&home).unwrap();
        let digest = "d2bb5c9bc1b4e6ef5ec47f1cbbd3bbd6b0a5ab2b3f5e5a3b1c6a8d0a6a8e2c11";
        let run = format!(
            r#"{{"schema":1,"command":"annotate","home":[1,1],"files":[{{"path":"../victim.txt","before":"{digest}","length":5,"after":"{digest}"}}]}}"#
        );
        std::fs::write(home.join("before.bin"), "EVIL\n").unwrap();
        std::fs::write(home.join("run.json"), &run).unwrap();
        let open = root.join(".leitmotiv/runs/000002-0000000000000000");
        std::fs::create_dir_all(&open).unwrap();
        std::fs::write(open.join("before.bin"), "EVIL\n").unwrap();
        std::fs::write(open.join("pending.json"), &run).unwrap();
        std::fs::write(
            root.join(".leitmotiv/last-run.json"),
            r#"[{"path":"../victim.txt","before":"EVIL\n","after":"precious\n"}]"#,
        )
        .unwrap();
        // A recorded run that was never made here.
        let run = root.join(".leitmotiv/traces/run-evil");
        std::fs::create_dir_all(&run).unwrap();
        std::fs::write(run.join("settings"), "1\n1\n").unwrap();
        let file = root.join("m.py");
        let lines = format!(
            "H\t1\t3.\u{1b}[2J\t1\t1\nP\t1\t{}\t1\t1\nP\t2\t/etc/passwd\t1\t1\nF\t3\t1\t2\tf\ta\u{1b}]0;owned\u{7}\nC\t4\t2\t1\t\n\
            T\t5\tclass\t../victim\t\u{202e}\u{9b}m\t\nR\t3\t4\t5\tr\t5\t18446744073709551615\nF\t9\t2\t1\troot\t\nR\t9\t4\t\tr\t5\t1\n",
            file.display()
        );
        std::fs::write(run.join("1-1.calls"), lines).unwrap();
        symlink(world.path("outside"), root.join(".leitmotiv/traces/run-link")).unwrap();
        if let Some(settings) = settings {
            std::fs::write(root.join("leitmotiv.toml"), settings).unwrap();
        }
        world.repository();
        world
    }

    /// A repository whose settings would run programs, and one committed file.
    fn repository(&self) {
        let git = |words: &[&str]| {
            let mut command = Command::new("/usr/bin/git");
            command.arg("-C").arg(self.path("p")).args(["-c", "user.name=x", "-c", "user.email=x@skerry.invalid"]);
            let _ = command.args(words).output();
        };
        git(&["init", "-q"]);
        std::fs::write(self.path("p/.gitattributes"), "*.py filter=bad diff=bad\nleitmotiv.ledger diff=bad\n").unwrap();
        git(&["add", "m.py"]);
        git(&["commit", "-q", "-m", "x"]);
        let hook = self.path("p/hook.sh").display().to_string();
        let filter = self.path("p/filter.sh").display().to_string();
        for (key, value) in [
            ("core.fsmonitor", &hook),
            ("core.pager", &hook),
            ("core.sshCommand", &hook),
            ("filter.bad.clean", &filter),
            ("filter.bad.process", &filter),
            ("filter.bad.smudge", &filter),
            ("diff.bad.textconv", &filter),
            ("diff.bad.command", &hook),
            ("log.showSignature", &"true".to_owned()),
            ("gpg.program", &hook),
            ("tar.tar.command", &hook),
            ("diff.external", &hook),
            ("core.hooksPath", &self.path("p").display().to_string()),
        ] {
            git(&["config", key, value]);
        }
    }

    /// Commits files, with what the repository's settings would run switched off.
    pub fn commit(&self, paths: &[&str]) {
        let silent = ["core.fsmonitor=false", "core.hooksPath=/dev/null", "filter.bad.process=", "filter.bad.clean="];
        for words in [&[&["add"], paths].concat()[..], &["commit", "-q", "-m", "x"]] {
            let mut command = Command::new("/usr/bin/git");
            command.arg("-C").arg(self.path("p")).args(["-c", "user.name=x", "-c", "user.email=x@skerry.invalid"]);
            for setting in silent {
                command.args(["-c", setting]);
            }
            let output = command.args(words).output().unwrap();
            assert!(output.status.success(), "{words:?}: {output:?}");
        }
    }

    fn program(&self, base: &str, name: &str, body: &str) {
        let path = self.path(base).join(name);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(&path, format!("#!/bin/sh\n{body}\n")).unwrap();
        std::fs::set_permissions(&path, std::fs::Permissions::from_mode(0o755)).unwrap();
    }

    /// A path in the folder that holds the project `p` and what lies around it.
    pub fn path(&self, path: &str) -> PathBuf {
        self.folder.path().canonicalize().unwrap().join(path)
    }

    /// Runs a program on the project, in an environment that leads astray as well.
    pub fn run(&self, program: &Path, words: &[&str]) -> Output {
        let _ = std::fs::remove_file(self.path("ran.log"));
        // Parts of the path that lie in the project, or wherever one happens to be, come first.
        let path = format!(":.:{}:{}:/usr/bin:/bin", self.path("p/bin").display(), self.path("bin").display());
        Command::new(program)
            .args(words)
            .current_dir(self.path("p"))
            .env_clear()
            .env("PATH", path)
            .env("VIRTUAL_ENV", self.path("p/venv"))
            .env("PYTHONSTARTUP", self.path("p/setup.py"))
            .env("PYTHONPATH", self.path("p"))
            .output()
            .unwrap()
    }

    /// The programs of the search path that the last run has run, with their first two arguments.
    pub fn ran(&self) -> Vec<String> {
        let ran = std::fs::read_to_string(self.path("ran.log")).unwrap_or_default();
        ran.lines().map(str::to_owned).collect()
    }

    /// All files around the project, with what they hold.
    pub fn around(&self) -> Vec<(PathBuf, Vec<u8>)> {
        let mut found = Vec::new();
        for name in ["victim.txt", "outside"] {
            collect(&self.path(name), &mut found);
        }
        let top = std::fs::read_dir(self.folder.path()).unwrap().flatten().map(|entry| (entry.path(), Vec::new()));
        found.extend(top.filter(|(path, _)| !path.ends_with("ran.log")));
        found.sort();
        found
    }
}

fn collect(path: &Path, found: &mut Vec<(PathBuf, Vec<u8>)>) {
    if path.is_dir() {
        std::fs::read_dir(path).unwrap().flatten().for_each(|entry| collect(&entry.path(), found));
    } else {
        found.push((path.to_owned(), std::fs::read(path).unwrap_or_default()));
    }
}
