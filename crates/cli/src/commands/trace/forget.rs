//! `leitmotiv trace forget`

use std::process::ExitCode;

use clap::Args;
use leitmotiv_trace::records::Records;
use leitmotiv_trace::store::{self, Store};
use rustc_hash::FxHashSet;

use super::{Context, Subject, print, unknown};
use crate::age;
use crate::failure::Failure;
use crate::look;

/// Forget what was recorded.
#[derive(Debug, Args)]
pub struct Forget {
    /// Functions, by name or dotted name, or files and folders.
    #[arg(value_name = "FUNC|PATH")]
    pub subjects: Vec<String>,
    /// What was last seen more than so many days ago.
    #[arg(long, value_name = "DAYS", conflicts_with = "subjects")]
    pub older_than: Option<u32>,
    /// Everything; a store that cannot be read goes as well.
    #[arg(long, conflicts_with_all = ["subjects", "older_than"])]
    pub all: bool,
}

/// Runs the command.
pub fn run(context: &Context, command: &Forget) -> Result<ExitCode, Failure> {
    let project = context.project()?;
    if command.all {
        let is_gone = store::remove(&project.root)?;
        print(if is_gone { "Forgot all that was recorded.\n" } else { "There is nothing to forget.\n" })?;
        return Ok(ExitCode::SUCCESS);
    }
    if command.subjects.is_empty() && command.older_than.is_none() {
        return Err(Failure::unusable("say what to forget: functions, files, `--older-than DAYS`, or `--all`"));
    }
    if Store::read(&project.root)?.is_none() {
        print("There is nothing to forget.\n")?;
        return Ok(ExitCode::SUCCESS);
    }
    if let Some(days) = command.older_than {
        let before = (age::today() - i64::from(days)) * 24 * 60 * 60;
        let gone = Store::open(&project.root)?.forget_older(before)?;
        print(&format!("Forgot {}.\n", look::count(gone, "kind of call", "kinds of calls")))?;
        return Ok(ExitCode::SUCCESS);
    }
    let records = Records::of(&project.root)?.unwrap_or_default();
    let mut functions: FxHashSet<(String, String)> = FxHashSet::default();
    let mut subjects = Vec::new();
    for word in &command.subjects {
        let subject = Subject::of(context, &project, word);
        let found = records.functions.iter().filter(|function| subject.is_it(function));
        let found: Vec<(String, String)> = found.map(|one| (one.path.clone(), one.name.clone())).collect();
        if found.is_empty() {
            return Err(unknown(&records, word));
        }
        functions.extend(found);
        subjects.push(subject);
    }
    let is_gone = |path: &str, name: &str| functions.contains(&(path.to_owned(), name.to_owned()));
    let is_file_gone = |path: &str| subjects.iter().any(|subject| subject.is_file(path));
    Store::open(&project.root)?.forget(is_gone, is_file_gone)?;
    print(&format!("Forgot {}.\n", look::count(functions.len(), "function", "functions")))?;
    Ok(ExitCode::SUCCESS)
}
