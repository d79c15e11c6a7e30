//! `leitmotiv check`

mod causes;
mod identity;
mod kept;
mod parts;

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Args, ValueEnum};
use leitmotiv_migrate::remembered::{Moved, Remembered, Seen};
use leitmotiv_migrate::session::Asked;
use leitmotiv_migrate::since::Changed;
use leitmotiv_project::Project;
use leitmotiv_project::settings::Severity;
use leitmotiv_report::document::{Document, Entry};
use leitmotiv_report::groups::{self, Group};
use leitmotiv_report::told::Told;
use leitmotiv_report::whole::{Telling, Whole};
use leitmotiv_report::{json, junit, line, markdown, sarif};
use leitmotiv_syntax::shown::escaped_line;

use super::{Context, print, watch};
use crate::failure::Failure;
use crate::look;

use kept::{Kept, Of};

pub(super) use causes::{beside, outcome};

/// Check types.
#[derive(Debug, Args)]
pub struct Check {
    /// Files and folders to check; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// Group what is found, biggest group first, in place of listing each finding.
    #[arg(long, value_name = "WHAT")]
    pub by: Option<By>,
    /// Make the change that would settle each cause, one by one on a copy in memory, and tell what goes by it and what comes.
    #[arg(long, requires = "by")]
    pub r#try: bool,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Form,
    /// List every finding, however many there are. Without it a terminal shows a digest where they would fill more than two screens.
    #[arg(long, conflicts_with_all = ["by", "digest"])]
    pub all: bool,
    /// Show the digest: the files, causes and rules with most findings.
    #[arg(long, conflicts_with = "by")]
    pub digest: bool,
    /// Only what is found on lines that changed since a git revision: committed, not committed yet, or not known to git. Of another branch: since
    /// the two went apart.
    #[arg(long, value_name = "REV")]
    pub since: Option<String>,
    /// Go on: check again whenever a file is saved, and show what changed first.
    #[arg(long, conflicts_with_all = ["output", "since", "by", "format"])]
    pub watch: bool,
    /// Print to a file, which is replaced whole.
    #[arg(long, value_name = "FILE")]
    pub output: Option<PathBuf>,
    /// Show debts too.
    #[arg(long)]
    pub owed: bool,
    /// Fail also where the ledger says too much: debts that are paid and not struck, files that are gone. `leitmotiv tighten --write` mends
    /// it.
    #[arg(long)]
    pub exact: bool,
    /// Set a rule's or family's severity for this run, as in `none.*=error`.
    #[arg(long, value_name = "RULE=SEVERITY", value_parser = parse_set)]
    pub set: Vec<(String, Severity)>,
    /// Try a demand without recording it.
    #[arg(long, value_name = "NAME")]
    pub demand: Vec<String>,
    /// Keep checks in that folder: one that sees the same as one before is there at once.
    #[arg(long, value_name = "DIR")]
    pub cache: Option<PathBuf>,
    /// Keep no checks, and use none.
    #[arg(long, conflicts_with = "cache")]
    pub no_cache: bool,
    /// Keep checks also in a store that several machines share, and begin with what others kept there: `file:///folder`, `https://server/path`,
    /// `s3://bucket/path`. By itself the one that LEITMOTIV_STORE names.
    #[arg(long, value_name = "URL", conflicts_with = "no_cache")]
    pub store: Option<String>,
    /// Take from the store, and put nothing into it.
    #[arg(long)]
    pub store_read_only: bool,
    /// How long to wait for the store, all in all; what takes longer is done without it.
    #[arg(long, value_name = "SECONDS", default_value_t = 1.0)]
    pub store_wait: f64,
    /// Check only one of so many parts that cost about the same, and print what `--merge` needs of it: on each of several machines another one.
    #[arg(long, value_name = "K/N", value_parser = parse_part, conflicts_with_all = ["merge", "by", "all", "digest", "since", "watch", "exact", "format"])]
    pub part: Option<(usize, usize)>,
    /// Put the parts of a check together: what one run over all of it would print. Not a file is checked again.
    #[arg(long, value_name = "FILE", num_args = 1.., conflicts_with_all = ["watch", "exact", "try"])]
    pub merge: Vec<PathBuf>,
    /// What each file costs: with `--merge` it is written, as measured by the parts; with `--part` it is read where it is there. All parts must
    /// be given the same.
    #[arg(long, value_name = "FILE")]
    pub costs: Option<PathBuf>,
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
    /// SARIF 2.1.0, which forges and viewers read.
    Sarif,
    /// Results of tests as XML, which build servers read: each file is a test.
    Junit,
    /// A comment in a code review.
    Markdown,
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

fn parse_part(text: &str) -> Result<(usize, usize), String> {
    let part = text.split_once('/').and_then(|(part, of)| Some((part.parse().ok()?, of.parse().ok()?)));
    part.filter(|(part, of)| (1..=*of).contains(part) && *of <= parts::MOST).ok_or_else(|| {
        format!("write it as K/N: the K-th of N parts, `1/4` to `4/4`, and no more than {}", parts::MOST)
    })
}

/// Runs the command.
pub fn run(context: &Context, command: &Check) -> Result<ExitCode, Failure> {
    let mut session = context.session_with_ledger()?;
    let asked = Asked { severity: command.set.clone(), demands: command.demand.clone() };
    let changed = match &command.since {
        Some(revision) => {
            Some(Changed::since(session.project(), revision).map_err(|error| Failure::unusable(error.to_string()))?)
        }
        None => None,
    };
    let paths = context.paths(&command.paths);
    session.prepare(&asked)?;
    if let Some(part) = command.part {
        return parts::check(context, &mut session, command, part, &paths, &asked);
    }
    if command.costs.is_some() && command.merge.is_empty() {
        return Err(Failure::unusable("`--costs` is about parts: leitmotiv check --part K/N --costs FILE"));
    }
    let mut groups = None;
    let store = kept::store(command)?;
    let is_meant = |told: &Told| {
        let place = &told.entry.place;
        let lines = (place.start.line, place.end.line);
        changed.as_ref().is_none_or(|changed| changed.touches(&place.path, lines))
    };
    let telling = Telling { with_owed: command.owed, exact: command.exact, is_meant: &is_meant };
    let Whole { document, seen, fault: is_fault } = if !command.merge.is_empty() {
        parts::merge(&session, command, &paths, telling)?
    } else if command.by == Some(By::Cause) {
        let (whole, found) = causes::check(&mut session, command, &paths, &asked, changed.as_ref())?;
        groups = Some((By::Cause, found));
        whole
    } else {
        let (kept, ahead) = Kept::of(command, &session, &paths, store.as_ref())?;
        let of = Of { paths: &paths, places: None, asked: &asked, with_owed: command.owed };
        kept.check_whole(context, &mut session, ahead, of, telling)?
    };
    let moved = if is_fault { Moved::default() } else { moved(session.project(), command, &seen) };
    if let Some(by) = command.by.filter(|by| *by != By::Cause) {
        if command.r#try {
            return Err(Failure::unusable("`--try` is about causes: leitmotiv check --by cause --try"));
        }
        groups = Some((by, groups::groups(&document.entries, by.of())));
    }
    let text = match command.format {
        Form::Json => json::findings(&document, groups.as_ref().map(|(by, groups)| (by.of(), groups.as_slice()))),
        Form::Line => line::lines(&document.entries),
        Form::Sarif => sarif::log(&document, env!("CARGO_PKG_VERSION")),
        Form::Junit => {
            let files: Vec<&str> = seen.files.iter().map(String::as_str).collect();
            let least = match command.fail_on {
                FailOn::Error | FailOn::Never => Severity::Error,
                FailOn::Warning => Severity::Warning,
            };
            junit::suites(&document, &files, least)
        }
        Form::Markdown => markdown::comment(&document),
        Form::Text => text(context, command, &document, groups.as_ref(), &moved),
    };
    if command.watch {
        return watch::run(context, command, &mut session, text);
    }
    match &command.output {
        Some(path) => super::print_to(path, &text)?,
        None => print(&text)?,
    }
    kept::finish(store, context);
    Ok(status(&document, is_fault, command.fail_on))
}

/// What went and came since the last check, which this one is remembered in place of. What is asked for once only is not compared.
fn moved(project: &Project, command: &Check, seen: &Seen) -> Moved {
    let is_plain = command.set.is_empty() && command.demand.is_empty() && command.format == Form::Text;
    if !is_plain {
        return Moved::default();
    }
    let before = Remembered::of(project);
    let now = Remembered::new(project, seen, command.paths.is_empty(), before.as_ref());
    if before.as_ref() != Some(&now) {
        now.keep(project);
    }
    before.map(|before| before.until(project, seen)).unwrap_or_default()
}

fn text(
    context: &Context,
    command: &Check,
    document: &Document,
    groups: Option<&(By, Vec<Group>)>,
    moved: &Moved,
) -> String {
    let entries = &document.entries;
    let mut is_digest = false;
    let mut text = match groups {
        Some((By::Cause, groups)) => causes::table(groups, command.r#try),
        Some((by, groups)) => grouped(groups, *by),
        None => {
            let whole = listed(entries);
            let is_flood = look::height()
                .filter(|_| command.output.is_none())
                .is_some_and(|height| whole.lines().count() > height * SCREENS);
            is_digest = !entries.is_empty() && (command.digest || is_flood && !command.all);
            if is_digest { digest(entries) } else { whole }
        }
    };
    if is_digest && !moved.is_empty() {
        text.insert_str(0, &format!("{}\n", since_last(moved)));
    }
    if !context.quiet {
        let first = groups.and_then(|(_, groups)| groups.first()?.subject.clone());
        let next = if is_digest { Shown::Digest } else { first.map_or(Shown::List, Shown::Groups) };
        if !is_digest {
            text.push_str(&since_last(moved));
        }
        text.push_str(&closing(document, next, &command.paths));
    }
    text
}

/// So many files or findings are named of those that went or came.
const MOST_MOVED: usize = 5;

/// What went and what came since the last check.
pub(super) fn since_last(moved: &Moved) -> String {
    if moved.is_empty() {
        return String::new();
    }
    let mut parts = Vec::new();
    let list = |names: Vec<String>| {
        let more = names.len().saturating_sub(MOST_MOVED);
        let more = if more > 0 { format!(" and {more} more") } else { String::new() };
        format!("{}{more}", names[..names.len().min(MOST_MOVED)].join(", "))
    };
    let went: usize = moved.went.values().sum();
    if went > 0 {
        let files = moved.went.iter().map(|(path, count)| match count {
            1 => path.clone(),
            count => format!("{path} {count}"),
        });
        parts.push(format!("{} went ({})", look::thousands(went), list(files.collect())));
    }
    if !moved.came.is_empty() {
        let came = moved.came.iter().map(|(path, line, rule)| format!("{path}:{line} {rule}"));
        parts.push(format!("{} came ({})", look::thousands(moved.came.len()), list(came.collect())));
    }
    look::fold(&format!("Since the last check: {}.", parts.join(", ")), look::width(), "", "  ") + "\n"
}

/// What is shown.
enum Shown {
    /// Every finding.
    List,
    /// The digest.
    Digest,
    /// Groups; where `explain` shows the first.
    Groups(String),
}

/// What fills more screens than that is shown as a digest.
const SCREENS: usize = 2;

/// So many files, causes and rules are in the digest.
const MOST_IN_DIGEST: usize = 6;

/// The files, causes and rules with most findings: where to begin to read.
fn digest(entries: &[Entry]) -> String {
    let mut out = String::new();
    for by in [By::File, By::Cause, By::Rule] {
        let all = groups::groups(entries, by.of());
        // A cause of one finding says no more than that one.
        let few = all.iter().take_while(|group| by != By::Cause || group.findings.len() > 1).count();
        let shown = &all[..few.min(MOST_IN_DIGEST)];
        if shown.is_empty() {
            continue;
        }
        out.push_str(&grouped(shown, by));
        let rest: usize = all[shown.len()..].iter().map(|group| group.findings.len()).sum();
        if rest > 0 {
            let more = all.len() - shown.len();
            let more = match by {
                By::File => {
                    format!("and {} in {}", look::thousands(rest), look::count(more, "other file", "other files"))
                }
                By::Rule => {
                    format!("and {} of {}", look::thousands(rest), look::count(more, "other rule", "other rules"))
                }
                By::Cause if rest == more => format!("and {} with causes of their own", look::thousands(rest)),
                By::Cause => {
                    format!("and {} with {}", look::thousands(rest), look::count(more, "other cause", "other causes"))
                }
            };
            out.insert_str(out.len() - 1, &format!("{:>8}  {}\n", "", look::faint(&more)));
        }
    }
    out
}

fn status(document: &Document, is_fault: bool, fail_on: FailOn) -> ExitCode {
    if is_fault {
        return ExitCode::from(3);
    }
    let failing = match fail_on {
        FailOn::Error => document.summary.errors,
        FailOn::Warning => document.summary.errors + document.summary.warnings,
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
            let _ = writeln!(out, "{}", look::brief(entry, width));
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

/// What was checked and found, in one sentence.
pub(super) fn totals(document: &Document) -> String {
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
    match parts.is_empty() {
        true => format!("{checked}: nothing found."),
        false => format!("{checked}: {}.", parts.join(", ")),
    }
}

/// What happened, and what to do next.
fn closing(document: &Document, shown: Shown, paths: &[PathBuf]) -> String {
    let summary = &document.summary;
    let told = totals(document);
    let all = summary.errors + summary.warnings + summary.notes + summary.owed;
    if all == 0 {
        return format!("{told} Next: leitmotiv tighten\n");
    }
    let next = match shown {
        Shown::Groups(first) => format!("leitmotiv explain {}", super::argument(&first)),
        Shown::Digest => {
            let paths: String =
                paths.iter().map(|path| format!(" {}", super::argument(&path.to_string_lossy()))).collect();
            let text = format!(
                "{told} Read on with `leitmotiv check FILE`, `leitmotiv check --by cause`, or all of it with `leitmotiv check{paths} --all`."
            );
            let first = document.entries.iter().find(|entry| !entry.owed).map(|entry| entry.cause.place.subject());
            let next =
                groups::groups(&document.entries, groups::By::Cause).first().and_then(|group| group.subject.clone());
            let next = next.or(first).unwrap_or_default();
            let text = format!("{text} Next: leitmotiv explain {}", super::argument(&next));
            return look::fold(&text, look::width(), "", "") + "\n";
        }
        Shown::List if all > 5 => "leitmotiv check --by cause".to_owned(),
        Shown::List => match document.entries.iter().find(|entry| !entry.owed) {
            Some(entry) => format!("leitmotiv explain {}", super::argument(&entry.place.subject())),
            None => "leitmotiv tighten".to_owned(),
        },
    };
    format!("{told} Next: {next}\n")
}
