//! Running other programs: which may be run at all, and never without limits.
//!
//! What is run when is told in docs/security.md; `crates/cli/tests/hostile.rs` holds the page.

use std::io::{self, Read};
use std::path::{Path, PathBuf};
use std::process::{Command, ExitStatus, Stdio};
use std::sync::mpsc;
use std::time::{Duration, Instant};

use crate::Surroundings;

/// How much a program may take and say.
#[derive(Debug, Clone, Copy)]
pub struct Limits {
    /// How long it may run.
    pub time: Duration,
    /// How many bytes it may print.
    pub bytes: usize,
}

/// What a program printed, and how it ended.
#[derive(Debug)]
pub struct Output {
    /// How it ended.
    pub status: ExitStatus,
    /// Its standard output.
    pub stdout: Vec<u8>,
}

/// The program of that name that the search path leads to. Parts of the path that are empty, relative, or lie in the folder
/// `root` do not count: what comes with a project is not run because a folder happens to be searched.
#[must_use]
pub fn on_path(name: &str, surroundings: &Surroundings, root: &Path) -> Option<PathBuf> {
    candidates(name, surroundings).find(|path| !lies_in(path, root))
}

/// All files of that name on the search path, in its order; relative parts of the path do not count.
pub fn candidates<'a>(name: &'a str, surroundings: &'a Surroundings) -> impl Iterator<Item = PathBuf> + 'a {
    let folders = surroundings.path.iter().filter(|folder| folder.is_absolute());
    folders.map(move |folder| folder.join(name)).filter(|path| path.is_file())
}

/// Whether a file lies in a folder: itself as named, or what it is a link to.
#[must_use]
pub fn lies_in(path: &Path, root: &Path) -> bool {
    let inside = |path: io::Result<PathBuf>| path.is_ok_and(|path| path.starts_with(root));
    let folder = path.parent().unwrap_or(path);
    path.starts_with(root) || inside(folder.canonicalize()) || inside(path.canonicalize())
}

/// Runs a program without input and errors, and gives what it prints; at its limits it is ended, with all that it started.
///
/// # Errors
/// What the system says, or [`io::ErrorKind::TimedOut`] where it was ended.
pub fn output(command: &mut Command, limits: Limits) -> io::Result<Output> {
    command.stdin(Stdio::null()).stdout(Stdio::piped()).stderr(Stdio::null());
    #[cfg(unix)]
    {
        use std::os::unix::process::CommandExt;
        // A group of its own, so that what it starts can be ended with it.
        command.process_group(0);
    }
    let mut child = command.spawn()?;
    let pipe = child.stdout.take();
    let (sender, receiver) = mpsc::channel();
    std::thread::spawn(move || {
        let mut bytes = Vec::new();
        let read = pipe.map_or(Ok(0), |pipe| pipe.take(limits.bytes as u64 + 1).read_to_end(&mut bytes));
        // Where nobody waits any more, it was too late.
        let _ = sender.send(read.map(|_| bytes));
    });
    let began = Instant::now();
    let late = || io::Error::new(io::ErrorKind::TimedOut, format!("it took longer than {} s", limits.time.as_secs()));
    let read = receiver.recv_timeout(limits.time);
    let bytes = match read {
        Ok(Ok(bytes)) if bytes.len() <= limits.bytes => bytes,
        Ok(Ok(_)) => {
            end(&mut child);
            return Err(io::Error::new(io::ErrorKind::FileTooLarge, "it printed too much"));
        }
        Ok(Err(error)) => {
            end(&mut child);
            return Err(error);
        }
        Err(_) => {
            end(&mut child);
            return Err(late());
        }
    };
    // Its output is closed; it ends now or never.
    loop {
        if let Some(status) = child.try_wait()? {
            return Ok(Output { status, stdout: bytes });
        }
        if began.elapsed() > limits.time {
            end(&mut child);
            return Err(late());
        }
        std::thread::sleep(Duration::from_millis(2));
    }
}

/// Runs a program with our own input and output until it ends by itself, however long that takes. Whenever `asks_to_end` says so, it is asked
/// to end (SIGTERM, where there are signals), once.
///
/// # Errors
/// What the system says.
pub fn attend(command: &mut Command, asks_to_end: impl Fn() -> bool) -> io::Result<ExitStatus> {
    let mut child = command.spawn()?;
    let mut was_asked = false;
    let mut pause = Duration::from_millis(1);
    loop {
        if let Some(status) = child.try_wait()? {
            return Ok(status);
        }
        if !was_asked && asks_to_end() {
            was_asked = true;
            #[cfg(unix)]
            if let Some(process) = i32::try_from(child.id()).ok().and_then(rustix::process::Pid::from_raw) {
                let _ = rustix::process::kill_process(process, rustix::process::Signal::TERM);
            }
        }
        std::thread::sleep(pause);
        pause = (pause * 2).min(Duration::from_millis(10));
    }
}

/// Ends a program and what it started.
fn end(child: &mut std::process::Child) {
    #[cfg(unix)]
    if let Some(group) = i32::try_from(child.id()).ok().and_then(rustix::process::Pid::from_raw) {
        let _ = rustix::process::kill_process_group(group, rustix::process::Signal::KILL);
    }
    let _ = child.kill();
    let _ = child.wait();
}

#[cfg(all(test, unix))]
mod tests {
    use super::*;

    const LIMITS: Limits = Limits { time: Duration::from_secs(2), bytes: 1_000 };

    #[test]
    fn what_hangs_or_floods_is_ended() {
        let slow = output(Command::new("sleep").arg("1000"), LIMITS).unwrap_err();
        assert_eq!(slow.kind(), io::ErrorKind::TimedOut);
        let flood = output(&mut Command::new("yes"), LIMITS).unwrap_err();
        assert_eq!(flood.to_string(), "it printed too much");
        let fine = output(Command::new("echo").arg("tide"), LIMITS).unwrap();
        assert_eq!((fine.status.success(), fine.stdout.as_slice()), (true, b"tide\n".as_slice()));
    }

    #[test]
    fn relative_parts_of_the_path_and_the_project_do_not_count() {
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path().canonicalize().unwrap();
        std::fs::create_dir(root.join("bin")).unwrap();
        std::fs::write(root.join("bin/git"), "").unwrap();
        let path = vec![PathBuf::new(), PathBuf::from("."), root.join("bin")];
        let surroundings = Surroundings { path, ..Surroundings::default() };
        assert_eq!(on_path("git", &surroundings, &root), None);
        assert_eq!(on_path("git", &surroundings, Path::new("/elsewhere")), Some(root.join("bin/git")));
    }
}
