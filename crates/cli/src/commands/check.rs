//! `leitmotiv check`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_engine::base::database::Database;
use leitmotiv_migrate::session::{Asked, Report, Reported};
use leitmotiv_project::settings::Severity;
use leitmotiv_report::groups::{self, Group};
use leitmotiv_report::{json, line, place};

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
    let shown: Vec<&Reported> = report.findings.iter().filter(|reported| command.owed || !reported.owed).collect();
    let text = match command.format {
        Form::Json => json::findings(&session.db, &report, command.owed, command.by.map(By::of)),
        Form::Line => line::lines(&session.db, &shown),
        Form::Text => {
            let groups = command.by.map(|by| (by, groups::groups(&session.db, &shown, by.of())));
            let mut text = match &groups {
                None => listed(&session.db, &shown),
                Some((by, groups)) => grouped(groups, *by),
            };
            if !context.quiet {
                let first = groups.as_ref().and_then(|(_, groups)| groups.first()?.subject.as_deref());
                text.push_str(&closing(&session.db, &report, command.by, first));
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
fn listed(db: &Database, shown: &[&Reported]) -> String {
    let width = look::width();
    let mut out = String::new();
    let mut file = None;
    for reported in shown {
        if file != Some(reported.finding.file) {
            file = Some(reported.finding.file);
            let number = shown.iter().filter(|other| Some(other.finding.file) == file).count();
            let path = look::path(db, reported.finding.file);
            let _ = writeln!(
                out,
                "{}  {}\n",
                look::heading(&path),
                look::faint(&look::count(number, "finding", "findings"))
            );
        }
        let _ = writeln!(out, "{}", look::finding(db, reported, width));
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
fn closing(db: &Database, report: &Report, by: Option<By>, first: Option<&str>) -> String {
    let checked = format!(
        "{} checked, {}",
        look::count(report.files.len(), "file", "files"),
        look::count(report.lines, "line", "lines")
    );
    let mut parts = Vec::new();
    for (severity, one, many) in [
        (Severity::Error, "error", "errors"),
        (Severity::Warning, "warning", "warnings"),
        (Severity::Note, "note", "notes"),
    ] {
        let number = report.count(severity);
        if number > 0 {
            parts.push(look::count(number, one, many));
        }
    }
    if report.owed() > 0 {
        parts.push(format!("{} owed", report.owed()));
    }
    if parts.is_empty() {
        return format!("{checked}: nothing found. Next: leitmotiv tighten\n");
    }
    let next = match (by, first, report.findings.len()) {
        (_, Some(first), _) => format!("leitmotiv explain {}", super::argument(first)),
        (None, _, number) if number > 5 => "leitmotiv check --by cause".to_owned(),
        _ => match report.findings.iter().find(|reported| !reported.owed) {
            Some(reported) => {
                let finding = &reported.finding;
                let line = place::positions(db, finding.file, finding.range).0.line;
                format!("leitmotiv explain {}", super::argument(&format!("{}:{line}", finding.file.path(db))))
            }
            None => "leitmotiv tighten".to_owned(),
        },
    };
    format!("{checked}: {}. Next: {next}\n", parts.join(", "))
}
