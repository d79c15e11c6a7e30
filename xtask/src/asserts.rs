//! How many of the `assert_type` lines hold that packages ship as their typing tests (typing specification, "Directives"), and how many of the
//! errors are found that their comments say are there.
//!
//! A line whose expression is wholly unknown counts as holding: nothing is said of it. So each is asserted to be of another type as well, in a copy:
//! what is noticed then was known.

use std::path::{Path, PathBuf};

use leitmotiv_engine::findings::suppress::{Form, Suppression};
use leitmotiv_migrate::session::{Asked, Report, Session};
use leitmotiv_project::{Project, Surroundings};

use crate::corpus::{GENERIC, copied, folder, generic_environment};

/// How to call it.
pub const USAGE: &str = "cargo xtask asserts [--interpreter PYTHON] [--show] [FOLDER…]";

/// What no line asserts.
const WRONG: &str = "SystemExit";

/// Counts the lines of packages, of those of the corpus that are heavily generic where none are named.
pub fn run(words: &[&str]) -> Result<(), String> {
    crate::in_pool(|| counted(words))
}

fn counted(words: &[&str]) -> Result<(), String> {
    let mut folders: Vec<PathBuf> = Vec::new();
    let (mut interpreter, mut shows) = (None, false);
    let mut words = words.iter();
    while let Some(word) = words.next() {
        match *word {
            "--interpreter" => {
                interpreter = Some((*words.next().ok_or("give `--interpreter` a path")?).to_owned());
            }
            "--show" => shows = true,
            word => folders.push(std::path::absolute(word).map_err(|error| format!("{word}: {error}"))?),
        }
    }
    if folders.is_empty() {
        folders = GENERIC.iter().map(folder).collect();
        interpreter = Some(generic_environment().join("bin/python").to_string_lossy().into_owned());
    }
    println!(
        "{:<28}{:>7}{:>7}{:>8}{:>9}{:>8}{:>10}{:>7}{:>8}{:>7}{:>8}",
        "package", "lines", "hold", "share", "noticed", "share", "expected", "found", "share", "plain", "share"
    );
    let mut all = Count::default();
    for folder in &folders {
        if !folder.exists() {
            return Err(format!("{} is not there; `cargo xtask corpus` fetches the pinned packages", folder.display()));
        }
        let count = count(folder, interpreter.as_deref(), shows)?;
        if count.lines > 0 {
            let name = folder.file_name().unwrap_or_default().to_string_lossy();
            count.print(&name);
            all.add(&count);
        }
    }
    all.print("all");
    Ok(())
}

#[derive(Default)]
struct Count {
    lines: usize,
    broken: usize,
    noticed: usize,
    expected: usize,
    found: usize,
    /// Found where no block says that it is to raise: what does so is left alone by choice.
    plain: usize,
}

impl Count {
    fn add(&mut self, other: &Count) {
        self.lines += other.lines;
        self.broken += other.broken;
        self.noticed += other.noticed;
        self.expected += other.expected;
        self.found += other.found;
        self.plain += other.plain;
    }

    fn print(&self, name: &str) {
        let share = |part: usize, of: usize| 100.0 * part as f64 / of.max(1) as f64;
        let hold = self.lines.saturating_sub(self.broken);
        println!(
            "{name:<28}{:>7}{hold:>7}{:>7.1}%{:>9}{:>7.1}%{:>10}{:>7}{:>7.1}%{:>7}{:>7.1}%",
            self.lines,
            share(hold, self.lines),
            self.noticed,
            share(self.noticed, self.lines),
            self.expected,
            self.found,
            share(self.found, self.expected),
            self.plain,
            share(self.plain, self.expected)
        );
    }
}

fn count(folder: &Path, interpreter: Option<&str>, shows: bool) -> Result<Count, String> {
    let said = |error: &dyn std::fmt::Display| format!("{}: {error}", folder.display());
    let mut files: Vec<(PathBuf, String)> = Vec::new();
    read(folder, &mut files);
    files.retain(|(_, text)| !assertions(text).is_empty());
    let mut count = Count { lines: files.iter().map(|(_, text)| assertions(text).len()).sum(), ..Count::default() };
    if count.lines == 0 {
        return Ok(count);
    }
    let paths: Vec<PathBuf> = files.iter().map(|(path, _)| path.clone()).collect();
    let (session, report) = checked(folder, &paths, interpreter).map_err(|error| said(&error))?;
    for reported in report.findings.iter().filter(|reported| reported.finding.rule == "assert.type") {
        count.broken += 1;
        if shows {
            println!(
                "  {}:{} {}",
                reported.finding.file.path(&session.db),
                line(&session, reported.finding.file, reported.finding.range.start().into()),
                reported.finding.message
            );
        }
    }
    for (place, is_found) in expected(&session, &report) {
        count.expected += 1;
        count.found += usize::from(is_found);
        if shows && !is_found {
            println!("  {place} nothing found");
        }
    }
    let copy = tempfile::tempdir().map_err(|error| said(&error))?;
    copied(folder, copy.path()).map_err(|error| said(&error))?;
    let rewritten = |rewrite: &dyn Fn(&str) -> String| -> Result<Vec<PathBuf>, String> {
        let mut paths = Vec::new();
        for (path, text) in &files {
            let path = copy.path().join(path.strip_prefix(folder).map_err(|error| said(&error))?);
            std::fs::write(&path, rewrite(text)).map_err(|error| said(&error))?;
            paths.push(path);
        }
        Ok(paths)
    };
    let plain = rewritten(&|text| text.replace("raises(", "warns("))?;
    let (session, report) = checked(copy.path(), &plain, interpreter).map_err(|error| said(&error))?;
    count.plain = expected(&session, &report).iter().filter(|(_, is_found)| *is_found).count();
    let wrong = rewritten(&|text| made_wrong(text))?;
    let (session, report) = checked(copy.path(), &wrong, interpreter).map_err(|error| said(&error))?;
    let noticed = report.findings.iter().filter(|reported| reported.finding.rule == "assert.type");
    let noticed: std::collections::HashSet<(PathBuf, usize)> = noticed
        .map(|reported| {
            let file = reported.finding.file;
            (PathBuf::from(file.path(&session.db)), line(&session, file, reported.finding.range.start().into()))
        })
        .collect();
    count.noticed = noticed.len().min(count.lines);
    if shows {
        for (path, text) in &files {
            let shown = path.strip_prefix(folder).unwrap_or(path);
            for (start, ..) in assertions(text) {
                let number = 1 + text[..start].matches('\n').count();
                if !noticed.contains(&(shown.to_owned(), number)) {
                    println!("  {}:{number} not noticed", shown.display());
                }
            }
        }
    }
    Ok(count)
}

/// Where a comment says that something is to fail (PEP 484), in code that is there to be checked, and whether something was found there; what is
/// said to one tool alone is its own.
fn expected(session: &Session, report: &Report) -> Vec<(String, bool)> {
    let mut all = Vec::new();
    for (file, checked) in report.files.iter().zip(&report.checked) {
        let text = file.text(&session.db);
        let is_for_all = |comment: &&Suppression| {
            let words = text[comment.range].trim_start_matches(['#', ' ']);
            !comment.whole_file && comment.form != Form::Own && words.starts_with("type:")
        };
        all.extend(checked.suppressions.iter().filter(is_for_all).map(|comment| {
            let line = line(session, *file, comment.range.start().into());
            (format!("{}:{line}", file.path(&session.db)), comment.hides > 0)
        }));
    }
    all
}

fn line(session: &Session, file: leitmotiv_engine::base::file::File, at: usize) -> usize {
    1 + file.text(&session.db)[..at].matches('\n').count()
}

fn checked(folder: &Path, paths: &[PathBuf], interpreter: Option<&str>) -> Result<(Session, Report), String> {
    let surroundings = Surroundings { interpreter: interpreter.map(str::to_owned), ..Surroundings::default() };
    let project = Project::open(folder, None, &surroundings).map_err(|error| error.to_string())?;
    let mut session = Session::open(project).map_err(|error| error.to_string())?;
    let report = session.check(paths, &Asked::default()).map_err(|error| error.to_string())?;
    Ok((session, report))
}

fn read(folder: &Path, files: &mut Vec<(PathBuf, String)>) {
    for path in std::fs::read_dir(folder).into_iter().flatten().flatten().map(|entry| entry.path()) {
        if path.is_dir() {
            read(&path, files);
        } else if path.extension().is_some_and(|extension| extension == "py" || extension == "pyi") {
            files.push((path.clone(), std::fs::read_to_string(&path).unwrap_or_default()));
        }
    }
}

/// Statements that begin with `assert_type(`, in bytes: where each begins, and the stretch of the type that it asserts.
fn assertions(text: &str) -> Vec<(usize, std::ops::Range<usize>)> {
    let mut found = Vec::new();
    let mut at = 0;
    for line in text.split_inclusive('\n') {
        let code = line.trim_start();
        if let Some(rest) = code.strip_prefix("assert_type(") {
            let start = at + line.len() - code.len();
            let inside = start + code.len() - rest.len();
            found.extend(last_argument(text, inside).map(|stretch| (start, stretch)));
        }
        at += line.len();
    }
    found
}

/// The last argument of a call whose arguments begin at an offset.
fn last_argument(text: &str, inside: usize) -> Option<std::ops::Range<usize>> {
    let (mut depth, mut quote, mut last) = (0_usize, None, None);
    let mut is_escaped = false;
    let mut is_comment = false;
    for (at, char) in text[inside..].char_indices() {
        let at = at + inside;
        if is_comment {
            is_comment = char != '\n';
            continue;
        }
        match (quote, char) {
            (Some(_), _) if is_escaped => is_escaped = false,
            (Some(_), '\\') => is_escaped = true,
            (Some(open), char) if open == char => quote = None,
            (Some(_), _) => {}
            (None, '#') => is_comment = true,
            (None, '"' | '\'') => quote = Some(char),
            (None, '(' | '[' | '{') => depth += 1,
            (None, ')') if depth == 0 => {
                let start = last?;
                return Some(start..at);
            }
            (None, ')' | ']' | '}') => depth -= 1,
            // A comma with nothing behind it ends the last one.
            (None, ',') if depth == 0 => match last {
                Some(start) => return Some(start..at),
                None => last = Some(at + 1),
            },
            _ => {}
        }
    }
    None
}

/// The same, each asserting what is wrong.
fn made_wrong(text: &str) -> String {
    let mut out = String::new();
    let mut at = 0;
    for (_, stretch) in assertions(text) {
        out.push_str(&text[at..stretch.start]);
        out.push(' ');
        out.push_str(WRONG);
        // The lines stay where they are.
        out.extend(text[stretch.clone()].chars().filter(|char| *char == '\n'));
        at = stretch.end;
        // A comment may hide what is found there.
        let rest = text[at..].split('\n').next().unwrap_or_default();
        if let Some(comment) = rest.find('#') {
            out.push_str(&rest[..comment]);
            at += rest.len();
        }
    }
    out.push_str(&text[at..]);
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_asserted_is_made_wrong_and_the_lines_stay() {
        let text =
            "assert_type(f(1, [2]), \n  dict[str, int],\n)\nassert_type(x, \"a, b\")\nassert_type(y,int) # a, b)\n";
        let wrong =
            "assert_type(f(1, [2]), SystemExit\n,\n)\nassert_type(x, SystemExit)\nassert_type(y, SystemExit) \n";
        assert_eq!(made_wrong(text), wrong);
    }
}
