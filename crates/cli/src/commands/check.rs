//! `leitmotiv check`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_migrate::session::{Asked, Report};
use leitmotiv_project::settings::Severity;
use leitmotiv_report::document::{Document, Entry};
use leitmotiv_report::groups::{self, Group};
use leitmotiv_report::{json, line};
use leitmotiv_syntax::shown::escaped_line;

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// Check types.
#[derive(Debug, Args)]
pub struct Check {
    /// Files and folders to check; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// Group what is found, biggest group first, in place of listing each finding.
    #[arg(long, value_name = "WHAT")]
    pub by: Option<By>,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Form,
    /// Show debts too.
    #[arg(long)]
    pub owed: bool,
    /// Set a rule's or family's severity for this run, as in `none.*=error`.
    #[arg(long, value_name = "RULE=SEVERITY", value_parser = parse_set)]
    pub set: Vec<(String, Severity)>,
    /// Try a demand without recording it.
    #[arg(long, value_name = "NAME")]
    pub demand: Vec<String>,
    /// The severity from which on the exit status is 1.
    #[arg(long, value_name = "SEVERITY", default_value = "error")]
    pub fail_on: FailOn,
}

/// How findings are printed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Form {
    /// For people.
    Text,
    /// One finding to a line, as compilers print them: for editors and forges.
    Line,
    /// For programs.
    Json,
}

/// What to group by.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum By {
    /// The file a finding stands in.
    File,
    /// The declaration or import at its root.
    Cause,
    /// Its rule.
    Rule,
}

impl By {
    fn of(self) -> groups::By {
        match self {
            By::File => groups::By::File,
            By::Cause => groups::By::Cause,
            By::Rule => groups::By::Rule,
        }
    }
}

/// From which severity on to fail.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
#[allow(missing_docs)]
pub enum FailOn {
    Error,
    Warning,
    Never,
}

fn parse_set(text: &str) -> Result<(String, Severity), String> {
    let (rule, severity) = text.split_once('=').ok_or("write it as RULE=SEVERITY")?;
    let severity =
        Severity::parse(severity).ok_or_else(|| format!("`{severity}` is none of {}", Severity::NAMES.join(", ")))?;
    Ok((rule.to_owned(), severity))
}

/// Runs the command.
pub fn run(context: &Context, command: &Check) -> Result<ExitCode, Failure> {
    let mut session = context.session_with_ledger()?;
    let asked = Asked { severity: command.set.clone(), demands: command.demand.clone() };
    let report = session.check(&context.paths(&command.paths), &asked)?;
    let document = Document::new(&session.db, &report, command.owed);
    let text = match command.format {
        Form::Json => json::findings(&document, command.by.map(By::of)),
        Form::Line => line::lines(&document.entries),
        Form::Text => {
            let groups = command.by.map(|by| (by, groups::groups(&document.entries, by.of())));
            let mut text = match &groups {
                None => listed(&document.entries),
                Some((by, groups)) => grouped(groups, *by),
            };
            if !context.quiet {
                let first = groups.as_ref().and_then(|(_, groups)| groups.first()?.subject.as_deref());
                text.push_str(&closing(&document, command.by, first));
            }
            text
        }
    };
    print(&text)?;
    Ok(status(&report, command.fail_on))
}

fn status(report: &Report, fail_on: FailOn) -> ExitCode {
    if report.fault {
        return ExitCode::from(3);
    }
    let errors = report.count(Severity::Error);
    let failing = match fail_on {
        FailOn::Error => errors,
        FailOn::Warning => errors + report.count(Severity::Warning),
        FailOn::Never => 0,
    };
    ExitCode::from(u8::from(failing > 0))
}

/// Every finding, those of one file under one heading.
fn listed(entries: &[Entry]) -> String {
    let width = look::width();
    let mut out = String::new();
    for of_file in entries.chunk_by(|one, other| one.place.path == other.place.path) {
        let path = escaped_line(&of_file[0].place.path);
        let number = look::count(of_file.len(), "finding", "findings");
        let _ = writeln!(out, "{}  {}\n", look::heading(&path), look::faint(&number));
        for entry in of_file {
            let _ = writeln!(out, "{}", look::finding(entry, width));
        }
    }
    out
}

/// Findings counted by what they have in common, most first.
fn grouped(groups: &[Group], by: By) -> String {
    let rows: Vec<Vec<String>> = groups
        .iter()
        .map(|group| vec![group.findings.len().to_string(), group.key.clone(), group.text.clone()])
        .collect();
    if rows.is_empty() {
        return String::new();
    }
    let heads = match by {
        By::File => ["findings", "file", "rules"],
        By::Rule => ["findings", "rule", "what it is"],
        By::Cause => ["findings", "cause", "what happens there"],
    };
    let mut out = look::table(&heads, &[true, false, false], &rows, look::width());
    out.push('\n');
    out
}

/// What happened, and what to do next.
fn closing(document: &Document, by: Option<By>, first: Option<&str>) -> String {
    let summary = &document.summary;
    let checked = format!(
        "{} checked, {}",
        look::count(summary.files, "file", "files"),
        look::count(summary.lines, "line", "lines")
    );
    let mut parts = Vec::new();
    for (number, one, many) in [
        (summary.errors, "error", "errors"),
        (summary.warnings, "warning", "warnings"),
        (summary.notes, "note", "notes"),
    ] {
        if number > 0 {
            parts.push(look::count(number, one, many));
        }
    }
    if summary.owed > 0 {
        parts.push(format!("{} owed", summary.owed));
    }
    if parts.is_empty() {
        return format!("{checked}: nothing found. Next: leitmotiv tighten\n");
    }
    let all = summary.errors + summary.warnings + summary.notes + summary.owed;
    let next = match (by, first) {
        (_, Some(first)) => format!("leitmotiv explain {}", super::argument(first)),
        (None, _) if all > 5 => "leitmotiv check --by cause".to_owned(),
        _ => match document.entries.iter().find(|entry| !entry.owed) {
            Some(entry) => format!("leitmotiv explain {}", super::argument(&entry.place.subject())),
            None => "leitmotiv tighten".to_owned(),
        },
    };
    format!("{checked}: {}. Next: {next}\n", parts.join(", "))
}
