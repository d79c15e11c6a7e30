//! Commands, one file each: an argument struct whose doc comments are the help, and `run`.

pub mod annotate;
pub mod check;
pub mod completions;
pub mod console;
pub mod demo;
pub mod explain;
pub mod fix;
pub mod init;
pub mod lookup;
pub mod lsp;
pub mod manual;
pub mod report;
pub mod stub;
pub mod survey;
pub mod tighten;
pub mod trace;
mod watch;

use std::io::Write;
use std::mem::ManuallyDrop;
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use std::sync::Arc;

use leitmotiv_migrate::session::Session;
use leitmotiv_project::write::recover::{Outcome, Recovered, recover};
use leitmotiv_project::write::{Interrupts, Writer};
use leitmotiv_project::{Project, Surroundings};
use leitmotiv_trace::records::Records;

use clap::Subcommand;

pub use leitmotiv_report::words::argument;

use crate::failure::Failure;
use crate::globals::Globals;
use crate::look;
use crate::output::Color;

/// The commands, in the order of the work.
#[derive(Debug, Subcommand)]
pub enum Command {
    /// Take stock: what is annotated, what is known, where to begin.
    Survey(survey::Survey),
    /// Write a first `leitmotiv.toml` from what is found.
    Init(init::Init),
    /// Check types.
    Check(check::Check),
    /// Explain a rule, or the findings at a place.
    Explain(explain::Explain),
    /// Apply ways out that cannot change what the program does.
    Fix(fix::Fixes),
    /// Say what is known of a name or a place.
    Lookup(lookup::Lookup),
    /// Write annotations from evidence.
    Annotate(annotate::Annotate),
    /// Record the types that pass while a program runs, and ask for them.
    Trace(trace::Trace),
    /// Write stubs, and compare them with the modules as they are.
    Stub(stub::Stub),
    /// Measure what demands would cost, and hold what is reached.
    Tighten(tighten::Tighten),
    Report(report::Reports),
    Lsp(lsp::Lsp),
    Console(console::Prompt),
    /// Walk the whole journey on a demo project.
    Demo(demo::Demo),
    Completions(completions::Completions),
    Manual(manual::Manual),
}

/// What every command is given.
pub struct Context {
    /// The project's folder, as named or found.
    pub folder: PathBuf,
    /// Whether it was found above the current folder.
    pub is_above: bool,
    /// The configuration file, as named.
    pub config: Option<PathBuf>,
    /// The interpreter, as named.
    pub interpreter: Option<String>,
    /// Whether closing lines and hints are left out.
    pub quiet: bool,
    /// Whether all of what is long is shown.
    pub verbose: bool,
    /// How signals are held off while files are written.
    pub interrupts: Interrupts,
}

/// Carries out a command.
pub fn run(globals: Globals, command: Command, interrupts: Interrupts) -> Result<ExitCode, Failure> {
    let choice = match globals.color {
        Color::Auto => anstream::ColorChoice::Auto,
        Color::Always => anstream::ColorChoice::Always,
        Color::Never => anstream::ColorChoice::Never,
    };
    choice.write_global();
    let above = if globals.project.is_none() { around() } else { None };
    let is_above = above.is_some();
    let folder = above.or(globals.project).unwrap_or_else(|| PathBuf::from("."));
    let context = Context {
        folder,
        is_above,
        config: globals.config,
        interpreter: globals.interpreter,
        quiet: globals.quiet,
        verbose: globals.verbose,
        interrupts,
    };
    match command {
        Command::Survey(command) => survey::run(&context, &command),
        Command::Init(command) => init::run(&context, &command),
        Command::Check(command) => check::run(&context, &command),
        Command::Explain(command) => explain::run(&context, &command),
        Command::Fix(command) => fix::run(&context, &command),
        Command::Lookup(command) => lookup::run(&context, &command),
        Command::Annotate(command) => annotate::run(&context, &command),
        Command::Trace(command) => trace::run(&context, &command),
        Command::Stub(command) => stub::run(&context, &command),
        Command::Tighten(command) => tighten::run(&context, &command),
        Command::Report(command) => report::run(&context, &command),
        Command::Lsp(command) => lsp::run(&context, &command),
        Command::Console(command) => console::run(&context, &command),
        Command::Demo(command) => demo::run(&context, &command),
        Command::Completions(command) => completions::run(&command),
        Command::Manual(command) => manual::run(&command),
    }
}

/// The nearest folder above the current one that is a project's, with a configuration or a ledger, in the same repository: what
/// lies above that, or where there is none, may be anybody's. Not where the current one is such a folder itself.
fn around() -> Option<PathBuf> {
    let current = std::env::current_dir().ok()?;
    let is_project = |folder: &Path| {
        let configured = || {
            leitmotiv_project::read::text(&folder.join("pyproject.toml"))
                .is_ok_and(|text| text.lines().any(|line| line.trim_start().starts_with("[tool.leitmotiv")))
        };
        folder.join("leitmotiv.toml").exists() || folder.join("leitmotiv.ledger").exists() || configured()
    };
    let is_repository = |folder: &Path| folder.join(".git").exists();
    let repository = current.ancestors().find(|folder| is_repository(folder))?;
    if is_project(&current) {
        return None;
    }
    let above = current.ancestors().skip(1).take_while(|folder| folder.starts_with(repository));
    above.into_iter().find(|folder| is_project(folder)).map(Path::to_owned)
}

impl Context {
    /// Opens the project that the arguments name, after what an interrupted run left was put in order.
    pub fn project(&self) -> Result<Project, Failure> {
        if let Ok(root) = self.folder.canonicalize() {
            put_in_order(&root);
        }
        Ok(Project::open(&self.folder, self.config.as_deref(), &self.surroundings())?)
    }

    /// What writes below the project's folder.
    pub fn writer(&self, project: &Project) -> Writer {
        Writer::new(&project.root, self.interrupts.clone())
    }

    /// What writes below a folder that the command line names, after what an interrupted run left was put in order.
    pub fn writer_at(&self, folder: &Path) -> Result<Writer, Failure> {
        let missing = || Failure::unusable(format!("there is no folder `{}`", folder.display()));
        let root = folder.canonicalize().map_err(|_| missing())?;
        if !root.is_dir() {
            return Err(missing());
        }
        put_in_order(&root);
        Ok(Writer::new(&root, self.interrupts.clone()))
    }

    /// Opens a session with the project's ledger.
    pub fn session_with_ledger(&self) -> Result<ManuallyDrop<Session>, Failure> {
        Ok(ManuallyDrop::new(Session::open(self.project()?)?.with_ledger()?))
    }

    /// The session with the ledger, where that can be read: for commands that only look at what is held.
    ///
    /// # Errors
    /// [`Failure`] where the project cannot be opened.
    pub fn session_with_readable_ledger(&self) -> Result<ManuallyDrop<Session>, Failure> {
        self.session_with_ledger().or_else(|_| self.session())
    }

    /// Opens a session on it. It is never dropped: the process ends with the command, and taking millions of small things apart
    /// before that is time that somebody waits for.
    pub fn session(&self) -> Result<ManuallyDrop<Session>, Failure> {
        Ok(ManuallyDrop::new(Session::open(self.project()?)?))
    }

    /// The parts of the environment that the project room wants to know.
    pub fn surroundings(&self) -> Surroundings {
        // A path as typed is relative to the current folder.
        let interpreter = self.interpreter.as_ref().map(|named| match std::path::absolute(named) {
            Ok(path) if path.exists() => path.to_string_lossy().into_owned(),
            _ => named.clone(),
        });
        Surroundings {
            virtual_env: std::env::var_os("VIRTUAL_ENV").map(PathBuf::from),
            path: std::env::var_os("PATH").map(|path| std::env::split_paths(&path).collect()).unwrap_or_default(),
            interpreter,
            by_editor: false,
        }
    }

    /// Paths as typed are relative to the current folder; the project wants them relative to itself or absolute.
    pub fn paths(&self, paths: &[PathBuf]) -> Vec<PathBuf> {
        paths
            .iter()
            .map(|path| match path.canonicalize() {
                // A path that is there below the current folder is meant, even when another folder is the project's.
                Ok(absolute) if self.is_above || self.folder == Path::new(".") || !self.folder.join(path).exists() => {
                    absolute
                }
                _ => path.clone(),
            })
            .collect()
    }
}

/// Ends runs that were interrupted, and says so.
fn put_in_order(root: &Path) {
    for recovered in recover(root) {
        let mut out = anstream::stderr();
        // Where standard error is gone, nobody can be told.
        let _ = writeln!(out, "leitmotiv: {}", look::shown(&told(&recovered)));
    }
}

/// What became of an interrupted run, in a sentence.
fn told(recovered: &Recovered) -> String {
    let Recovered { command, outcome, files, left } = recovered;
    let files = look::count(*files, "file", "files");
    let mut sentence = match outcome {
        Outcome::Finished => format!("an interrupted `leitmotiv {command}` had written all of its {files}; it is done"),
        Outcome::TakenBack => {
            format!("an interrupted `leitmotiv {command}` was taken back: its {files} are as they were before")
        }
        Outcome::Stuck => format!(
            "an interrupted `leitmotiv {command}` cannot be taken back yet, as some file cannot be written; \
             the next command tries again"
        ),
        Outcome::NotOurs => {
            "in `.leitmotiv/runs` lies an unfinished run that was not made here; it is left alone".to_owned()
        }
    };
    if !left.is_empty() {
        sentence.push_str(&format!(", but for `{}`, changed since", left.join("`, `")));
    }
    sentence
}

/// What was recorded of a project's runs; where that cannot be read, it is said, and the rest goes on without it.
pub fn recorded(project: &Project) -> Arc<Records> {
    match Records::of(&project.root) {
        Ok(records) => Arc::new(records.unwrap_or_default()),
        Err(error) => {
            // Where standard error is gone, nobody can be told.
            let _ = writeln!(anstream::stderr(), "leitmotiv: {}", look::shown(&error.to_string()));
            Arc::default()
        }
    }
}

/// Prints bytes that are not for people.
///
/// # Errors
/// [`Failure`] where they cannot be printed.
pub fn print_bytes(bytes: &[u8]) -> Result<(), Failure> {
    let mut out = std::io::stdout().lock();
    let written = out.write_all(bytes).and_then(|()| out.flush());
    written.map_err(|error| Failure::unusable(format!("cannot print: {error}")))
}

/// Prints text, hidden characters in it written out; a closed pipe ends quietly.
pub fn print(text: &str) -> Result<(), Failure> {
    let text = look::shown(text);
    // What has no escape sequences needs none taken off.
    let written = if text.as_bytes().contains(&0x1b) {
        let mut out = anstream::stdout().lock();
        out.write_all(text.as_bytes()).and_then(|()| out.flush())
    } else {
        let mut out = std::io::stdout().lock();
        out.write_all(text.as_bytes()).and_then(|()| out.flush())
    };
    match written {
        Err(error) if error.kind() != std::io::ErrorKind::BrokenPipe => Err(error.into()),
        _ => Ok(()),
    }
}

/// Something as JSON for programs, with a line's end.
pub fn json<T: serde::Serialize>(what: &T) -> String {
    let mut text = serde_json::to_string_pretty(what).unwrap_or_default();
    text.push('\n');
    text
}

/// Prints text into a file in place of standard output, without colour: under another name, and then renamed. Only what is a file already, or not
/// there, is replaced.
pub fn print_to(path: &Path, text: &str) -> Result<(), Failure> {
    print_bytes_to(path, anstream::adapter::strip_str(&look::shown(text)).to_string().as_bytes())
}

/// Writes bytes to a file, which is replaced whole.
///
/// # Errors
/// [`Failure`] where it cannot be written.
pub fn print_bytes_to(path: &Path, bytes: &[u8]) -> Result<(), Failure> {
    let refused = |reason: &str| Failure::unusable(format!("cannot write `{}`: {reason}", path.display()));
    if path.symlink_metadata().is_ok_and(|metadata| !metadata.is_file()) {
        return Err(refused("it is not a regular file"));
    }
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or(Path::new("."));
    let write = || {
        let mut file = tempfile::NamedTempFile::new_in(folder)?;
        file.write_all(bytes)?;
        file.flush()?;
        #[cfg(unix)]
        {
            // What others may read of a report is what they may read of any new file.
            use std::os::unix::fs::PermissionsExt;
            let mode = path.metadata().map_or(0o644, |metadata| metadata.permissions().mode());
            file.as_file().set_permissions(std::fs::Permissions::from_mode(mode))?;
        }
        file.persist(path).map_err(|error| error.error)
    };
    write().map(|_| ()).map_err(|error| refused(&error.to_string()))
}
