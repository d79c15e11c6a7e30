//! Whether what `survey` promises comes: its first step is really taken, on a copy, and again, and what is known then is counted by the program
//! itself.

use std::path::{Path, PathBuf};
use std::process::Command;

use serde_json::Value;

use crate::corpus::copied;

/// So many steps are taken of each package.
const STEPS: usize = 5;

/// How to call it.
pub const USAGE: &str = "cargo xtask gain [--interpreter PYTHON] PROGRAM FOLDER…";

/// Takes the steps that `survey` proposes for copies of packages.
pub fn run(words: &[&str]) -> Result<(), String> {
    let mut words = words.iter().copied().peekable();
    let mut interpreter = None;
    if words.peek() == Some(&"--interpreter") {
        words.next();
        interpreter = words.next();
    }
    let program = words.next().ok_or_else(|| format!("name the program: {USAGE}"))?;
    let program = Path::new(program).canonicalize().map_err(|error| format!("{program}: {error}"))?;
    let folders: Vec<PathBuf> = words.map(PathBuf::from).collect();
    let (mut promised_in_all, mut came_in_all, mut near, mut all) = (0, 0, 0, 0);
    println!("{:<44}{:>9}{:>9}{:>7}", "step", "promised", "came", "share");
    for folder in &folders {
        let copy = tempfile::tempdir().map_err(|error| error.to_string())?;
        copied(folder, copy.path()).map_err(|error| format!("{}: {error}", folder.display()))?;
        let name = folder.file_name().unwrap_or_default().to_string_lossy().into_owned();
        let program = Program { program: &program, folder: copy.path(), interpreter };
        let (mut promised_here, mut came_here) = (0, 0);
        for _ in 0..STEPS {
            let before = program.survey()?;
            let Some(step) = before["steps"].get(0) else { break };
            let path = step["path"].as_str().unwrap_or_default().to_owned();
            let promised = number(&step["gain"]);
            program.run(&["annotate", &path, "--write", "--dirty"])?;
            let after = program.survey()?;
            let came = open(&before).saturating_sub(open(&after));
            let share = 100.0 * came as f64 / promised.max(1) as f64;
            println!("{:<44}{promised:>9}{came:>9}{share:>6.0}%", format!("{name} {path}"));
            promised_here += promised;
            came_here += came;
            all += 1;
            near += usize::from(came * 5 >= promised * 4 && came * 5 <= promised * 6);
        }
        let share = 100.0 * came_here as f64 / promised_here.max(1) as f64;
        println!("{:<44}{promised_here:>9}{came_here:>9}{share:>6.0}%", name);
        promised_in_all += promised_here;
        came_in_all += came_here;
    }
    println!(
        "{came_in_all} of {promised_in_all} promised values became known ({:.1}%); {near} of {all} steps within a fifth of what they promised",
        100.0 * came_in_all as f64 / f64::from(u32::try_from(promised_in_all.max(1)).unwrap_or(u32::MAX))
    );
    Ok(())
}

/// The program on a copy.
struct Program<'a> {
    program: &'a Path,
    folder: &'a Path,
    interpreter: Option<&'a str>,
}

impl Program<'_> {
    fn run(&self, words: &[&str]) -> Result<String, String> {
        let mut command = Command::new(self.program);
        command.arg("--project").arg(self.folder);
        if let Some(interpreter) = self.interpreter {
            command.args(["--interpreter", interpreter]);
        }
        let output = command.args(words).output().map_err(|error| error.to_string())?;
        match output.status.code() {
            Some(0 | 1) => Ok(String::from_utf8_lossy(&output.stdout).into_owned()),
            _ => Err(format!("{words:?}: {}", String::from_utf8_lossy(&output.stderr))),
        }
    }

    fn survey(&self) -> Result<Value, String> {
        serde_json::from_str(&self.run(&["survey", "--format", "json"])?).map_err(|error| error.to_string())
    }
}

fn number(value: &Value) -> usize {
    usize::try_from(value.as_u64().unwrap_or(0)).unwrap_or(0)
}

/// Expressions that are not known, `Any` among them.
fn open(survey: &Value) -> usize {
    number(&survey["expressions"]).saturating_sub(number(&survey["known_expressions"]))
}
