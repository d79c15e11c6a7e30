//! `leitmotiv demo`

use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::process::{Command, ExitCode, Stdio};

use clap::Args;
use include_dir::{Dir, include_dir};
use leitmotiv_project::programs;
use leitmotiv_project::write::NewFile;

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

static PROJECT: Dir<'_> = include_dir!("$CARGO_MANIFEST_DIR/../../demo/project");

/// Walk the whole journey on a demo project.
#[derive(Debug, Args)]
pub struct Demo {
    /// Where to put the demo project: a folder that is not there yet. By default a temporary one, removed in the end.
    #[arg(value_name = "DIR")]
    pub folder: Option<PathBuf>,
}

/// One step: the words of the command, and what it shows.
struct Step {
    words: &'static [&'static str],
    shows: &'static str,
}

/// The journey, in the order of the work. Each step is run by this same program.
static STEPS: &[Step] = &[
    Step {
        words: &["init"],
        shows: "Set up: what was found, what was decided, and why. One file is written, and only because there was none.",
    },
    Step {
        words: &["survey"],
        shows: "Take stock before touching anything: which module, once annotated, makes most of the rest known.",
    },
    Step { words: &["check", "--by", "rule"], shows: "The first check is a flood; counted by rule, it has a shape." },
    Step {
        words: &["check", "--by", "cause"],
        shows: "The same findings by the place at their root: mend one, and all of its findings go.",
    },
    Step {
        words: &["check", "skerry/desk"],
        shows: "Part of the project in full: what is wrong, where it comes from, and a way out.",
    },
    Step {
        words: &["explain", "skerry/desk/manifest.py:28"],
        shows: "One finding's whole story: how it comes to be, what happens at run time, and each way out with its price, tried.",
    },
    Step {
        words: &["explain", "call.missing"],
        shows: "A rule's page: any finding names its rule, and this reads it.",
    },
    Step {
        words: &["lookup", "skerry.vessels.CarFerry"],
        shows: "What is known of a name, and which class each member comes from.",
    },
    Step { words: &["lookup", "str.split"], shows: "The standard library answers in the same way." },
    Step {
        words: &["console"],
        shows: "At a prompt, each input's type is shown before it runs; what has a type error is told, and not run.",
    },
    Step {
        words: &["fix"],
        shows: "Ways out that cannot change what the program does, proved on a copy; with --write they are written.",
    },
    Step {
        words: &["annotate", "skerry/fleet.py", "--why"],
        shows: "Annotations are proposed from evidence, and the evidence can be seen.",
    },
    Step { words: &["annotate", "skerry/clock.py"], shows: "Nothing is written unasked: this is the diff." },
    Step {
        words: &["annotate", "skerry/clock.py", "skerry/desk/fares.py", "--write"],
        shows: "Now it is written, all files or none, and only because the project is committed.",
    },
    Step { words: &["annotate", "--undo"], shows: "And taken back." },
    Step {
        words: &["trace", "run", "--", "python", "-m", "unittest", "-q"],
        shows: "The project's own tests know which types arrive and leave: they are run, and that is recorded.",
    },
    Step {
        words: &["trace", "show", "cancel"],
        shows: "One function was called with two types of numbers. Which one is meant?",
    },
    Step {
        words: &["trace", "callers", "cancel", "--type", "str"],
        shows: "The odd caller is one question away: it passes text, which is the number of no booking.",
    },
    Step { words: &["stub", "list"], shows: "Which imports have no types, and what to do about each." },
    Step {
        words: &["stub", "write", "tidelib"],
        shows: "The one package without types gets a stub, inferred from its source, in the project's own folder.",
    },
    Step {
        words: &["stub", "verify", "tidelib"],
        shows: "The stub is compared with the module as the interpreter imports it.",
    },
    Step { words: &["check", "skerry/ops/tides.py"], shows: "The note on the untyped import is gone." },
    Step { words: &["tighten"], shows: "What each demand would cost, package by package, before it is asked." },
    Step { words: &["tighten", "--write"], shows: "What is free is promised: these files are held from now on." },
    Step {
        words: &["tighten", "none-handled", "--in", "skerry/desk", "--write"],
        shows: "One package is held to a demand that it does not meet yet; what stands against it is recorded as debt.",
    },
    Step {
        words: &["check", "--fail-on", "error", "skerry/desk"],
        shows: "Debts are counted and tolerated; anything new of the kind would fail.",
    },
    Step { words: &["tighten", "--owed"], shows: "What is owed can be asked for, with its age." },
    Step {
        words: &["report", "--out", "types.html"],
        shows: "And where the project stands is one page, for the team.",
    },
];

/// What is typed at the prompt.
const TYPED: &str = "\
from skerry.desk import fares
price = fares.vehicle_fare(5.5)
fares.format_price(price)
\"fare \" + price
";

/// Runs the command.
pub fn run(context: &Context, command: &Demo) -> Result<ExitCode, Failure> {
    let temporary;
    let folder = match &command.folder {
        Some(folder) => {
            if folder.exists() {
                return Err(Failure::unusable(format!(
                    "`{}` is there already; name a folder that is not",
                    folder.display()
                )));
            }
            folder.clone()
        }
        None => {
            temporary = tempfile::tempdir()?;
            temporary.path().join("skerry-lines")
        }
    };
    unpack(context, &PROJECT, &folder)?;
    commit(context, &folder);
    if !context.quiet {
        print(&look::fold(
            "Skerry Lines, a made-up island ferry operator, has some thousand lines of Python without types. \
             This walks the whole way with them; every output below is made by the command above it.",
            look::width(),
            "",
            "",
        ))?;
        print("\n\n")?;
    }
    let program = std::env::current_exe()?;
    let mut worst = 0;
    for (number, step) in STEPS.iter().enumerate() {
        print(&format!("{}\n", look::fold(step.shows, look::width(), &format!("{}. ", number + 1), "   ")))?;
        print(&format!("{}\n\n", look::heading(&format!("$ leitmotiv {}", step.words.join(" ")))))?;
        let status = one(&program, &folder, step)?;
        worst = worst.max(if status > 1 { status } else { 0 });
        print("\n")?;
    }
    if !context.quiet {
        match &command.folder {
            Some(folder) => {
                print(&format!("The demo project is in {}. Next: leitmotiv survey, on your own\n", folder.display()))?
            }
            None => print("Next: leitmotiv survey, on your own project; `leitmotiv demo DIR` keeps this one\n")?,
        }
    }
    Ok(ExitCode::from(worst))
}

/// Runs one step; findings (status 1) are what a demo is for.
fn one(program: &Path, folder: &Path, step: &Step) -> Result<u8, Failure> {
    let mut command = Command::new(program);
    command.args(step.words).current_dir(folder).env_remove("VIRTUAL_ENV");
    let is_prompt = step.words == ["console"];
    command.stdin(if is_prompt { Stdio::piped() } else { Stdio::null() });
    // On a terminal the step prints to it; elsewhere its output goes through, so that nothing is out of order.
    let mut child = command.spawn()?;
    if let Some(mut input) = child.stdin.take() {
        input.write_all(TYPED.as_bytes())?;
    }
    let status = child.wait()?;
    std::io::stdout().flush()?;
    Ok(status.code().and_then(|code| u8::try_from(code).ok()).unwrap_or(3))
}

fn unpack(context: &Context, dir: &Dir<'_>, folder: &Path) -> Result<(), Failure> {
    let mut files = Vec::new();
    std::fs::create_dir_all(folder)?;
    let folder = folder.canonicalize()?;
    collect(dir, &folder, &mut files);
    let writer = context.writer_at(&folder)?;
    writer.write("demo", &files, false)?;
    Ok(())
}

fn collect(dir: &Dir<'_>, folder: &Path, files: &mut Vec<NewFile>) {
    for file in dir.files() {
        let name = file.path().file_name().unwrap_or_default().to_string_lossy();
        if name.ends_with(".pyc") {
            continue;
        }
        let path = folder.join(file.path());
        files.push(NewFile { path, before: None, after: Some(file.contents().to_vec()) });
    }
    dir.dirs().for_each(|dir| collect(dir, folder, files));
}

/// Puts the demo project under version control, as a real one would be; without git, the steps that write say so.
fn commit(context: &Context, folder: &Path) {
    let Some(git) = programs::on_path("git", &context.surroundings(), folder) else { return };
    let git = |words: &[&str]| {
        Command::new(&git)
            .arg("-C")
            .arg(folder)
            .args(["-c", "user.name=Skerry Lines", "-c", "user.email=office@skerry.invalid"])
            .args(words)
            .stdin(Stdio::null())
            .stdout(Stdio::null())
            .stderr(Stdio::null())
            .status()
    };
    for words in [&["init", "-q"][..], &["add", "-A"], &["commit", "-q", "-m", "As it was"]] {
        // Only `--write` needs it.
        let _ = git(words);
    }
}
