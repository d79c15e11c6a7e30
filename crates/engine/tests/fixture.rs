//! A fixture is Python text with marks as trailing comments, so that column 1 can be marked and the text still runs.
//!
//! | mark | on a line | meaning |
//! | --- | --- | --- |
//! | `#! rule` or `#! rule "words"` | of code | this rule is found on this line, with these words in its message |
//! | `#= type` | of code | the type of the line's target, or of its expression, printed as messages print it |
//! | `#- path/to/file.py` | of its own | what follows is that file (`.pyi` too); before the first one, the file is `main.py` |
//! | `#- python 3.9` | of its own | the language version |
//! | `#- quiet` | of its own | the text has no marks and nothing may be found |
//!
//! Strict both ways: a finding without a mark fails, a mark without a finding fails, a text without marks must say that
//! it is quiet. Rules that are off, and notes about imports and suppressions, need no marks.

use std::fmt::Write as _;
use std::path::Path;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::check;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::resolve::module_index;
use leitmotiv_engine::types::display::show;
use leitmotiv_index::tree::StatementKind;
use leitmotiv_project::settings::Severity;
use leitmotiv_project::{Project, Surroundings};

/// A file of a fixture.
pub struct Source {
    /// Relative to the project.
    pub path: String,
    /// Its text.
    pub text: String,
}

/// Takes a fixture apart into its files; also whether it says it is quiet.
pub fn split(text: &str) -> (Vec<Source>, bool, Option<String>) {
    let mut files = vec![Source { path: "main.py".into(), text: String::new() }];
    let mut quiet = false;
    let mut version = None;
    for line in text.lines() {
        if let Some(rest) = line.strip_prefix("#- ") {
            let rest = rest.trim();
            if rest == "quiet" {
                quiet = true;
                continue;
            }
            if let Some(named) = rest.strip_prefix("python ") {
                version = Some(named.to_owned());
                continue;
            }
            files.push(Source { path: rest.to_owned(), text: String::new() });
            continue;
        }
        if let Some(file) = files.last_mut() {
            file.text.push_str(line);
            file.text.push('\n');
        }
    }
    files.retain(|file| file.path != "main.py" || !file.text.trim().is_empty());
    (files, quiet, version)
}

/// A database on files in a temporary folder.
pub fn database(files: &[Source], version: Option<&str>) -> (tempfile::TempDir, Database) {
    let folder = tempfile::tempdir().unwrap();
    for file in files {
        let path = folder.path().join(&file.path);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(path, &file.text).unwrap();
    }
    let version = version.unwrap_or("3.12");
    std::fs::write(folder.path().join("leitmotiv.toml"), format!("python = \"{version}\"\n")).unwrap();
    let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
    (folder, Database::new(project))
}

/// Runs a fixture; the error is the whole text with what was found in place of the marks.
pub fn run(text: &str) -> Result<(), String> {
    let (sources, quiet, version) = split(text);
    let (folder, db) = database(&sources, version.as_deref());
    let root = folder.path().canonicalize().unwrap();
    let mut wrong = false;
    let mut marks = 0;
    let mut told = String::new();
    for source in &sources {
        let file = db.source(&root.join(&source.path));
        let _ = writeln!(told, "#- {}", source.path);
        let (ok, number) = one(&db, file, &source.text, &mut told);
        wrong |= !ok;
        marks += number;
    }
    if marks == 0 && !quiet {
        return Err("the fixture has no marks; say `#- quiet` if nothing is to be found".into());
    }
    if marks > 0 && quiet {
        return Err("the fixture says that it is quiet, but has marks".into());
    }
    if wrong { Err(told) } else { Ok(()) }
}

fn one(db: &Database, file: File, text: &str, told: &mut String) -> (bool, usize) {
    let checked = check(db, &[file]);
    let lines = &module_index(db, file).lines.0;
    let mut ok = true;
    let mut marks = 0;
    for (number, line) in text.lines().enumerate() {
        let here: Vec<_> = checked[0]
            .findings
            .iter()
            .filter(|finding| lines.index_of(finding.range.start()) == number)
            .filter(|finding| {
                finding.severity > Severity::Note
                    || finding.severity == Severity::Note
                        && !finding.rule.starts_with("import.")
                        && finding.rule != "suppression.blanket"
            })
            .collect();
        let (code, wanted) = marks_of(line);
        marks += wanted.len();
        let rules: Vec<&Mark> = wanted.iter().filter(|mark| matches!(mark, Mark::Rule(..))).collect();
        let mut fits = rules.len() == here.len();
        for mark in &wanted {
            match mark {
                Mark::Rule(rule, words) => {
                    fits &= here.iter().any(|finding| {
                        finding.rule == rule
                            && words.as_ref().is_none_or(|words| finding.message.contains(words.as_str()))
                    });
                }
                Mark::Type(expected) => {
                    let found = type_at(db, file, number);
                    fits &= found.as_ref() == Some(expected);
                }
            }
        }
        if fits {
            let _ = writeln!(told, "{line}");
            continue;
        }
        ok = false;
        let _ = write!(told, "{}", code.trim_end());
        for finding in here {
            let _ = write!(told, "  #! {} \"{}\"", finding.rule, finding.message);
        }
        if wanted.iter().any(|mark| matches!(mark, Mark::Type(_))) {
            let _ = write!(told, "  #= {}", type_at(db, file, number).unwrap_or_else(|| "nothing".into()));
        }
        let _ = writeln!(told, "   <-- the mark was: {}", line[code.len()..].trim());
    }
    (ok, marks)
}

enum Mark {
    Rule(String, Option<String>),
    Type(String),
}

/// A line's code, and its marks.
fn marks_of(line: &str) -> (&str, Vec<Mark>) {
    let start = [line.find("#! "), line.find("#= ")].into_iter().flatten().min();
    let Some(start) = start else { return (line, Vec::new()) };
    let mut marks = Vec::new();
    let mut rest = &line[start..];
    while !rest.is_empty() {
        let end = [rest[2..].find("#! "), rest[2..].find("#= ")]
            .into_iter()
            .flatten()
            .min()
            .map_or(rest.len(), |end| end + 2);
        let (mark, more) = rest.split_at(end);
        let body = mark[3..].trim();
        if mark.starts_with("#=") {
            marks.push(Mark::Type(body.to_owned()));
        } else {
            let (rule, words) = body.split_once(' ').unwrap_or((body, ""));
            let words = words.trim().strip_prefix('"').and_then(|words| words.strip_suffix('"'));
            marks.push(Mark::Rule(rule.to_owned(), words.map(str::to_owned)));
        }
        rest = more;
    }
    (&line[..start], marks)
}

/// The type of the target or expression of the statement that begins on a line.
fn type_at(db: &Database, file: File, number: usize) -> Option<String> {
    let index = module_index(db, file);
    for (id, body) in index.bodies.iter() {
        for statement in &body.statements {
            if index.lines.0.index_of(statement.range.start()) != number {
                continue;
            }
            let expr = match &statement.kind {
                StatementKind::Expr(expr) => *expr,
                StatementKind::Assign { targets, .. } => targets[0],
                StatementKind::Annotated { target, .. }
                | StatementKind::Augmented { target, .. }
                | StatementKind::For { target, .. } => *target,
                StatementKind::With { target: Some(target), .. } => *target,
                StatementKind::Return(place) => body.returns[*place].value?,
                _ => continue,
            };
            let mut infer = Infer::new(db, file, id);
            infer.check();
            return Some(show(db, infer.expr(expr)));
        }
    }
    None
}

/// Runs all fixtures of a folder; each failure is told with its file.
#[track_caller]
pub fn run_folder(folder: &Path) {
    let mut failures = String::new();
    let mut number = 0;
    let mut paths: Vec<_> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    paths.sort();
    for path in paths {
        number += 1;
        let text = std::fs::read_to_string(&path).unwrap();
        if let Err(told) = run(&text) {
            let _ = writeln!(failures, "==== {}\n{told}", path.display());
        }
    }
    assert!(number > 0, "{} is empty", folder.display());
    assert!(failures.is_empty(), "{failures}");
}

#[test]
fn a_mark_without_a_finding_fails_and_a_finding_without_a_mark_too() {
    assert!(run("x = 1  #! call.missing\n").is_err());
    assert!(run("undefined_name\n#- quiet\n").is_err());
    assert!(run("x = 1\n").is_err());
    assert_eq!(run("x = 1  #= Literal[1]\n"), Ok(()));
    assert!(run("x = 1  #= str\n").is_err());
}
