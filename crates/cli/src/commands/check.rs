//! `leitmotiv check`

use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_engine::db::Database;
use leitmotiv_migrate::session::{Asked, Report, Reported};
use leitmotiv_project::settings::Severity;
use leitmotiv_report::{json, place};

use super::{Context, print};
use crate::arguments::Format;
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
    pub format: Format,
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
    let session = context.session_with_ledger()?;
    let asked = Asked { severity: command.set.clone(), demands: command.demand.clone() };
    let report = session.check(&context.paths(&command.paths), &asked)?;
    let text = match command.format {
        Format::Json => json::findings(&session.db, &report, command.owed),
        Format::Text => {
            let shown: Vec<&Reported> =
                report.findings.iter().filter(|reported| command.owed || !reported.owed).collect();
            let mut text = match command.by {
                None => listed(&session.db, &shown),
                Some(by) => grouped(&session.db, &shown, by),
            };
            if !context.quiet {
                text.push_str(&closing(&report, command.by));
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
fn grouped(db: &Database, shown: &[&Reported], by: By) -> String {
    let mut groups: BTreeMap<String, Vec<&Reported>> = BTreeMap::new();
    for reported in shown {
        let finding = &reported.finding;
        let key = match by {
            By::File => finding.file.path(db).to_owned(),
            By::Rule => finding.rule.to_owned(),
            By::Cause => {
                let (file, range) = finding.cause();
                format!("{}:{}", file.path(db), place::positions(db, file, range).0.line)
            }
        };
        groups.entry(key).or_default().push(reported);
    }
    let mut groups: Vec<(String, Vec<&Reported>)> = groups.into_iter().collect();
    groups.sort_by(|one, other| other.1.len().cmp(&one.1.len()).then_with(|| one.0.cmp(&other.0)));
    let rows: Vec<Vec<String>> = groups
        .iter()
        .map(|(key, findings)| {
            let first = &findings[0].finding;
            let about = match by {
                By::File => {
                    let mut rules: Vec<&str> = findings.iter().map(|reported| reported.finding.rule).collect();
                    rules.sort_unstable();
                    rules.dedup();
                    rules.join(", ")
                }
                By::Rule => leitmotiv_engine::rules::by_slug(key).map_or("", |rule| rule.summary).to_owned(),
                By::Cause => first.evidence.first().map_or(first.message.clone(), |step| step.text.clone()),
            };
            vec![findings.len().to_string(), key.clone(), about]
        })
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
fn closing(report: &Report, by: Option<By>) -> String {
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
    let next = match (by, report.findings.len()) {
        (None, number) if number > 5 => "leitmotiv check --by cause",
        (Some(By::Cause), _) => "leitmotiv explain FILE:LINE, for the first of them",
        _ => "leitmotiv explain FILE:LINE",
    };
    format!("{checked}: {}. Next: {next}\n", parts.join(", "))
}
