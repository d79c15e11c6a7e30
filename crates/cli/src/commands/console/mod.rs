//! `leitmotiv console`
//!
//! - this file: inputs and commands, typed, told and run
//! - `line`: the line that is edited at a terminal

mod line;

use std::fmt::Write as _;
use std::io::IsTerminal as _;
use std::mem::ManuallyDrop;
use std::process::ExitCode;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

use clap::Args;
use leitmotiv_console::child::{Child, Ran};
use leitmotiv_console::{Console, Shown, Typed, input};
use leitmotiv_migrate::ways::Ways;
use leitmotiv_report::document::{Entry, Place};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// A prompt at which each input is typed before it runs.
///
/// The type of each input is shown first; what has a type error is told, and not run. Commands begin with a colon, `:help` lists them. Where
/// standard input is no terminal, it is read as a script, and the same is printed.
#[derive(Debug, Args)]
pub struct Prompt {}

/// What commands there are, and what they do.
const COMMANDS: &[(&str, &str)] = &[
    (":type EXPRESSION", "its type, without running it"),
    (":lookup NAME", "what is known of a name, of an object or of a module"),
    (":names", "the names that were bound here, with their types"),
    (":reload MODULE", "read a module anew, and import it again"),
    (":restart", "another interpreter, in which nothing was run yet"),
    (":quit", "leave; so does Ctrl-D"),
    ("!INPUT", "run an input whatever is wrong with it"),
];

/// How an input begins, and how its further lines do.
const BEGIN: &str = "> ";
const MORE: &str = "| ";

/// Runs the command.
pub fn run(context: &Context, _: &Prompt) -> Result<ExitCode, Failure> {
    let project = context.project()?;
    let has_terminal = std::io::stdin().is_terminal();
    let unusable = |error: leitmotiv_migrate::stub::running::RunningError| Failure::unusable(error.to_string());
    let child = Child::start(&project, has_terminal).map_err(unusable)?;
    // It is told of every input, so no other handle may be left of it.
    let console = Console::open(ManuallyDrop::into_inner(context.session()?))?;
    // What the terminal sends reaches the interpreter as well: it decides what to do about it.
    context.interrupts.may_end.store(false, Ordering::SeqCst);
    let mut talk = Talk { console, child, has_terminal, came: context.interrupts.came.clone(), quiet: context.quiet };
    match has_terminal {
        true => line::converse(&mut talk),
        false => talk.script(),
    }
}

/// A console with its interpreter.
struct Talk {
    console: Console,
    child: Child,
    has_terminal: bool,
    /// Whether somebody interrupted.
    came: Arc<AtomicBool>,
    quiet: bool,
}

impl Talk {
    /// Reads standard input as a script.
    fn script(&mut self) -> Result<ExitCode, Failure> {
        let text = std::io::read_to_string(std::io::stdin())?;
        let mut status = 0;
        for input in input::script(&text) {
            let mut out = String::new();
            for (number, line) in input.lines().enumerate() {
                let mark = if number == 0 { BEGIN } else { MORE };
                let _ = writeln!(out, "{}{line}", look::faint(mark));
            }
            print(&out)?;
            match self.take(&input)? {
                Taken::On => {}
                Taken::Failed => status = 1,
                Taken::Left(own) => return Ok(ExitCode::from(own)),
            }
            if self.came.load(Ordering::SeqCst) {
                return Ok(ExitCode::from(130));
            }
        }
        Ok(ExitCode::from(status))
    }

    /// Takes one input: a command, or statements.
    fn take(&mut self, input: &str) -> Result<Taken, Failure> {
        let input = input.trim_end();
        if input.trim().is_empty() {
            return Ok(Taken::On);
        }
        if let Some(command) = input.strip_prefix(':') {
            return self.command(command);
        }
        let (input, is_forced) = match input.strip_prefix('!') {
            Some(rest) => (rest, true),
            None => (input, false),
        };
        let typed = self.console.typed(input);
        print(&self.told(&typed))?;
        if typed.is_wrong && !is_forced {
            self.console.drop_input();
            if !self.quiet {
                print(&format!("{}\n", look::faint("  not run; with ! in front it runs all the same")))?;
            }
            return Ok(Taken::Failed);
        }
        let name = format!("<input {}>", self.console.number());
        self.came.store(false, Ordering::SeqCst);
        let came = self.came.clone();
        let ran = self.child.run(input, &name, &mut || came.swap(false, Ordering::SeqCst));
        self.came.store(false, Ordering::SeqCst);
        match ran {
            Ran::Done { done, error } => {
                self.console.keep(input, done);
                Ok(if error.is_some() { Taken::Failed } else { Taken::On })
            }
            Ran::Left(status) => Ok(Taken::Left(u8::try_from(status & 0xff).unwrap_or(1))),
            Ran::Ended(how) => {
                print(&format!("The interpreter {how}. Another one is started; what was bound here is gone.\n"))?;
                self.restart()?;
                Ok(Taken::Failed)
            }
        }
    }

    fn restart(&mut self) -> Result<(), Failure> {
        let project = self.console.session.project().clone();
        self.child = Child::start(&project, self.has_terminal).map_err(|error| Failure::unusable(error.to_string()))?;
        self.console.begin_anew();
        Ok(())
    }

    fn command(&mut self, command: &str) -> Result<Taken, Failure> {
        let (name, rest) = command.split_once(char::is_whitespace).unwrap_or((command, ""));
        let rest = rest.trim();
        let needs = |what: &str| print(&format!("  :{name} wants {what}\n")).map(|()| Taken::Failed);
        match name {
            "quit" => return Ok(Taken::Left(0)),
            "help" => {
                let mut out = String::new();
                for (command, what) in COMMANDS {
                    let _ = writeln!(out, "  {command:18}{what}");
                }
                print(&out)?;
            }
            "type" if rest.is_empty() => return needs("an expression"),
            "type" => {
                let typed = self.console.type_of(rest);
                print(&self.told(&typed))?;
                if typed.is_wrong {
                    return Ok(Taken::Failed);
                }
            }
            "lookup" if rest.is_empty() => return needs("a name"),
            "lookup" => return self.lookup(rest),
            "names" => {
                let mut out = String::new();
                for (name, ty) in self.console.names() {
                    let _ = writeln!(out, "{}", look::fold_type(&typed_name(name, ty), look::width(), "  ", "      "));
                }
                print(if out.is_empty() { "  nothing was bound yet\n" } else { &out })?;
            }
            "reload" if rest.is_empty() => return needs("a module"),
            "reload" => return self.reload(rest),
            "restart" => self.restart()?,
            _ => {
                print(&format!("  there is no command `:{name}`; :help lists them\n"))?;
                return Ok(Taken::Failed);
            }
        }
        Ok(Taken::On)
    }

    fn lookup(&mut self, name: &str) -> Result<Taken, Failure> {
        // What was bound here lies in no file that anybody could open.
        if let Some(ty) = self.console.names().get(name) {
            print(&format!("{}\n", look::fold_type(&typed_name(name, ty), look::width(), "  ", "      ")))?;
            return Ok(Taken::On);
        }
        let Some(answer) = self.console.lookup(name) else {
            print(&format!("  nothing is known by the name `{name}`\n"))?;
            return Ok(Taken::Failed);
        };
        print(&super::lookup::shown(&self.console.session, &answer, true))?;
        Ok(Taken::On)
    }

    fn reload(&mut self, module: &str) -> Result<Taken, Failure> {
        if !self.console.reload(module)? {
            print(&format!("  there is no module `{module}` that could be read anew\n"))?;
            return Ok(Taken::Failed);
        }
        let came = self.came.clone();
        match self.child.reload(module, &mut || came.swap(false, Ordering::SeqCst)) {
            Ran::Done { error: None, .. } => Ok(Taken::On),
            Ran::Done { .. } => Ok(Taken::Failed),
            Ran::Left(status) => Ok(Taken::Left(u8::try_from(status & 0xff).unwrap_or(1))),
            Ran::Ended(how) => {
                print(&format!("The interpreter {how}. Another one is started; what was bound here is gone.\n"))?;
                self.restart()?;
                Ok(Taken::Failed)
            }
        }
    }

    /// What is known of an input before it runs: what is wrong with it, and its types.
    fn told(&self, typed: &Typed) -> String {
        let db = &self.console.session.db;
        let width = look::width();
        let mut out = String::new();
        let mut ways = Ways::new(db, typed.report.findings.iter().map(|reported| &reported.finding));
        for reported in &typed.report.findings {
            let mut entry = Entry::new(db, reported, &mut ways);
            let path = entry.place.path.clone();
            self.renumber(&path, &mut entry.place);
            self.renumber(&path, &mut entry.cause.place);
            entry.steps.iter_mut().for_each(|step| self.renumber(&path, &mut step.place));
            out.push_str(&look::brief(&entry, width));
        }
        if typed.is_wrong {
            return out;
        }
        for Shown { name, ty, before } in &typed.shown {
            let mut line = typed_name(name.as_deref().unwrap_or_default(), ty);
            if let Some(before) = before {
                let _ = write!(line, "  (was {before})");
            }
            for line in look::fold_type(&line, width, "  ", "      ").lines() {
                let _ = writeln!(out, "{}", look::paint(look::Paint::Cyan, line));
            }
        }
        out
    }

    /// A place among the inputs, by the number of its input.
    fn renumber(&self, path: &str, place: &mut Place) {
        if place.path == path {
            let (number, line) = self.console.input_at(place.start.line as usize);
            place.path = format!("input {number}");
            place.start.line = u32::try_from(line).unwrap_or(u32::MAX);
        }
    }
}

/// A name with its type, as it is declared; of functions and classes, as these are.
fn typed_name(name: &str, ty: &str) -> String {
    match ty {
        ty if ty.starts_with('(') => format!("{name}{ty}"),
        ty if ty.starts_with("class ") => ty.to_owned(),
        ty => format!("{name}: {ty}"),
    }
}

/// What became of an input.
enum Taken {
    /// It was carried out.
    On,
    /// It was not, or raised an exception.
    Failed,
    /// It asked to leave.
    Left(u8),
}
