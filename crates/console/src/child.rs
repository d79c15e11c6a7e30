//! The project's interpreter as a child: it runs statements, and what becomes of it leaves the console alive.

use std::io::{BufRead, BufReader, Write};
use std::path::PathBuf;
use std::process::{Child as Process, Command, ExitStatus, Stdio};
use std::sync::mpsc::{Receiver, RecvTimeoutError, channel};
use std::time::Duration;

use leitmotiv_migrate::stub::running::{self, RunningError};
use leitmotiv_project::Project;
use serde::Deserialize;
use serde_json::json;

/// The program that the child runs.
const PROGRAM: &str = include_str!("child.py");

/// How often it is looked whether somebody wants to interrupt.
const LOOK: Duration = Duration::from_millis(50);

/// A running interpreter.
pub struct Child {
    process: Process,
    input: Option<std::process::ChildStdin>,
    answers: Receiver<String>,
}

/// What became of statements.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Ran {
    /// So many were run to their ends; the next one, if there is one, raised an exception of that name, which is printed already.
    Done {
        /// How many.
        done: usize,
        /// The exception.
        error: Option<String>,
    },
    /// One of them asked to leave.
    Left(i32),
    /// The interpreter ended.
    Ended(String),
}

#[derive(Debug, Deserialize)]
struct Answer {
    #[serde(default)]
    done: usize,
    error: Option<String>,
    exit: Option<i32>,
}

impl Child {
    /// Starts the project's interpreter. What it prints goes to standard output; what it reads comes from the terminal, if there is one.
    ///
    /// # Errors
    /// [`RunningError`] where there is none that may be run.
    pub fn start(project: &Project, has_terminal: bool) -> Result<Child, RunningError> {
        let (executable, packages) = running::interpreter(project)?;
        let unrunnable = |source| RunningError::Unrunnable { path: executable.clone(), source };
        let mut process = Command::new(&executable)
            .args(["-c", PROGRAM])
            .current_dir(&project.root)
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(std::io::stdout())
            .spawn()
            .map_err(unrunnable)?;
        let (sender, answers) = channel();
        if let Some(output) = process.stdout.take() {
            std::thread::spawn(move || {
                for line in BufReader::new(output).lines().map_while(Result::ok) {
                    if sender.send(line).is_err() {
                        return;
                    }
                }
            });
        }
        let input = process.stdin.take();
        let mut child = Child { process, input, answers };
        let paths: Vec<PathBuf> = running::import_paths(project).into_iter().chain(packages).collect();
        child.send(&json!({"terminal": has_terminal, "paths": paths}));
        // It says when it is ready; until then, signals would end it.
        let _ = child.answers.recv_timeout(Duration::from_secs(30));
        Ok(child)
    }

    fn send(&mut self, message: &serde_json::Value) {
        if let Some(input) = &mut self.input {
            // What has ended takes nothing; that is met when its answer is waited for.
            let _ = writeln!(input, "{message}").and_then(|()| input.flush());
        }
    }

    /// Runs statements. While it does, `interrupted` is asked whether somebody wants to interrupt: the first time the interpreter itself
    /// may be left to it, the second time it is ended.
    pub fn run(&mut self, source: &str, name: &str, interrupted: &mut dyn FnMut() -> bool) -> Ran {
        self.send(&json!({"run": source, "name": name}));
        self.answer(interrupted)
    }

    /// Imports a module anew.
    pub fn reload(&mut self, module: &str, interrupted: &mut dyn FnMut() -> bool) -> Ran {
        self.send(&json!({"reload": module}));
        self.answer(interrupted)
    }

    fn answer(&mut self, interrupted: &mut dyn FnMut() -> bool) -> Ran {
        let mut interrupts = 0;
        loop {
            match self.answers.recv_timeout(LOOK) {
                Ok(line) => {
                    let Ok(answer) = serde_json::from_str::<Answer>(&line) else { continue };
                    return match answer.exit {
                        Some(status) => Ran::Left(status),
                        None => Ran::Done { done: answer.done, error: answer.error },
                    };
                }
                Err(RecvTimeoutError::Timeout) => {
                    interrupts += usize::from(interrupted());
                    if interrupts > 1 {
                        let _ = self.process.kill();
                    }
                }
                Err(RecvTimeoutError::Disconnected) => {
                    let status = self.process.wait();
                    return Ran::Ended(match interrupts {
                        0 | 1 => status.map_or_else(|error| error.to_string(), ended),
                        _ => "was ended".to_owned(),
                    });
                }
            }
        }
    }
}

impl Drop for Child {
    fn drop(&mut self) {
        // It ends when nothing comes any more; what does not is ended.
        self.input = None;
        for _ in 0..20 {
            if matches!(self.process.try_wait(), Ok(Some(_)) | Err(_)) {
                return;
            }
            std::thread::sleep(Duration::from_millis(10));
        }
        let _ = self.process.kill();
        let _ = self.process.wait();
    }
}

fn ended(status: ExitStatus) -> String {
    #[cfg(unix)]
    {
        use std::os::unix::process::ExitStatusExt;
        if let Some(signal) = status.signal() {
            return format!("ended by signal {signal}");
        }
    }
    match status.code() {
        Some(code) => format!("ended with status {code}"),
        None => "ended".to_owned(),
    }
}
