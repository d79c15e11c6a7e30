//! Every command on a hostile project, with its system calls traced: which programs it starts, and where it writes.

use std::path::Path;

use super::world::{COMMANDS, SETTINGS, World};

/// Calls that change the disk, and those that start programs.
const CALLS: &str = "trace=execve,openat,open,creat,rename,renameat,renameat2,unlink,unlinkat,mkdir,mkdirat,rmdir,symlink,symlinkat,link,linkat,truncate,chmod,fchmodat,chown,fchownat";

/// Runs all commands under all configurations.
pub fn run(program: &Path) -> Result<(), String> {
    let strace = Path::new("/usr/bin/strace");
    if !strace.exists() {
        return Err("strace is not installed".to_owned());
    }
    let mut bad = Vec::new();
    let (mut runs, mut started, mut written) = (0, 0, 0);
    for settings in SETTINGS {
        let world = World::new(*settings);
        let before = world.around();
        let log = tempfile::NamedTempFile::new().map_err(|error| error.to_string())?;
        for words in COMMANDS {
            let mut all = vec!["-f", "-qq", "-y", "-e", CALLS, "-o"];
            let log_path = log.path().to_string_lossy().into_owned();
            all.push(&log_path);
            let program = program.to_string_lossy().into_owned();
            all.push(&program);
            all.extend(*words);
            world.run(strace, &all);
            runs += 1;
            let text = std::fs::read_to_string(log.path()).unwrap_or_default();
            let project = world.path("p");
            for line in text.lines().filter(|line| !line.contains(" = -1 ") && !line.contains("+++")) {
                if let Some(path) = starts(line) {
                    let is_own = path == program || path.ends_with("/git") || path.ends_with("/python3");
                    let is_shell = ["/bin/sh", "/usr/bin/sh"].contains(&path.as_str());
                    started += 1;
                    // Git has parts of its own; the wrappers of the search path are scripts.
                    let is_gits = path.contains("/git-core/");
                    if path.starts_with(&*project.to_string_lossy()) || !(is_own || is_shell || is_gits) {
                        bad.push(format!("{settings:?} {words:?} starts {path}"));
                    }
                }
                if let Some(path) = writes(line) {
                    written += 1;
                    let is_inside = path.starts_with(&*project.to_string_lossy()) || !path.starts_with('/');
                    let is_apart = ["/dev/", "/proc/"].iter().any(|start| path.starts_with(start));
                    if !is_inside && !is_apart && !path.ends_with("ran.log") {
                        bad.push(format!("{settings:?} {words:?} writes {path}"));
                    }
                }
            }
            if world.around() != before {
                bad.push(format!("{settings:?} {words:?} changed what lies around the project"));
            }
        }
        if world.path("PWNED").exists() {
            bad.push(format!("{settings:?}: something of the project was run"));
        }
    }
    println!("{runs} commands traced: {started} starts of programs, {written} calls that write, {} wrong", bad.len());
    bad.iter().take(20).for_each(|line| println!("  {line}"));
    if bad.is_empty() { Ok(()) } else { Err("see above".to_owned()) }
}

/// The program that a traced call starts.
fn starts(line: &str) -> Option<String> {
    let rest = line.split_once("execve(\"")?.1;
    Some(rest.split_once('"')?.0.to_owned())
}

/// The path that a traced call changes; of two, the second.
fn writes(line: &str) -> Option<String> {
    let call = line.split_once(' ')?.1.trim_start();
    let name = call.split('(').next()?;
    let quoted: Vec<&str> = call.split('"').skip(1).step_by(2).collect();
    match name {
        "openat" | "open" => {
            let flags = ["O_WRONLY", "O_RDWR", "O_CREAT", "O_TRUNC"];
            flags.iter().any(|flag| call.contains(flag)).then(|| quoted.first().map(|path| (*path).to_owned()))?
        }
        "execve" => None,
        _ => quoted.last().map(|path| (*path).to_owned()),
    }
}
