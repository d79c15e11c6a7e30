//! `leitmotiv fix`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::{demands, rules};
use leitmotiv_migrate::change;
use leitmotiv_migrate::fix::{self, Fix, Fixed};
use leitmotiv_migrate::session::Asked;

use super::explain::Place;
use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// The command's name in what is remembered of its runs.
const NAME: &str = "fix";

/// Apply ways out that cannot change what the program does.
#[derive(Debug, Args)]
pub struct Fixes {
    /// Files, folders, or places (`ferry/berths.py:41`) whose findings are meant; by default the configured sources.
    pub paths: Vec<PathBuf>,
    /// Apply the fixes, in place of showing them as a diff.
    #[arg(long, conflicts_with = "undo")]
    pub write: bool,
    /// Take the last run back that was not taken back yet.
    #[arg(long)]
    pub undo: bool,
    /// Only findings of these rules or families, as in `value.default` or `none.*`.
    #[arg(long, value_name = "RULES", value_delimiter = ',')]
    pub rule: Vec<String>,
    /// Only what these demands ask, whether or not they are held.
    #[arg(long, value_name = "NAMES", value_delimiter = ',', conflicts_with = "undo")]
    pub demand: Vec<String>,
    /// Take this way out wherever it can be written, as `check` or `assert`, in place of those that cannot change what the program does. You
    /// answer for what the program does then; `leitmotiv explain FILE:LINE` lists the ways out of a finding by name.
    #[arg(long, value_name = "ID", conflicts_with = "undo")]
    pub way: Option<String>,
    /// List the fixes, and what was left out, in place of a diff.
    #[arg(long, conflicts_with_all = ["write", "undo"])]
    pub list: bool,
    /// Write to files that have uncommitted changes or are not under version control, too.
    #[arg(long)]
    pub dirty: bool,
}

/// Runs the command.
pub fn run(context: &Context, command: &Fixes) -> Result<ExitCode, Failure> {
    if command.undo {
        let taken = change::undo(&context.writer_at(&context.folder)?, NAME)?;
        let taken = look::count(taken.len(), "file", "files");
        print(&format!("Took back the last run in {taken}. Next: leitmotiv check\n"))?;
        return Ok(ExitCode::SUCCESS);
    }
    if let Some(unknown) = command.rule.iter().find(|rule| !rules::exists(rule)) {
        return Err(Failure::unusable(format!("there is no rule or family `{unknown}`; docs/rules.md lists them")));
    }
    if let Some(way) = command.way.as_deref().filter(|way| !rules::has_way(way)) {
        return Err(Failure::unusable(format!(
            "no rule has a way out `{way}`; `leitmotiv explain FILE:LINE` lists those of a finding"
        )));
    }
    let mut session = context.session_with_ledger()?;
    // A place is a file with a line, where no file is called like that.
    let place = |path: &PathBuf| {
        let place = Place::parse(path.to_str()?)?;
        (!context.folder.join(path).exists()).then_some(place)
    };
    let places: Vec<Place> = command.paths.iter().filter_map(place).collect();
    let plain = command.paths.iter().filter(|path| place(path).is_none()).cloned();
    let paths: Vec<PathBuf> = plain.chain(places.iter().map(|place| place.path.clone())).collect();
    let report =
        session.check(&context.paths(&paths), &Asked { demands: command.demand.clone(), ..Asked::default() })?;
    let mut of_places = Vec::new();
    for place in &places {
        let files = session.files(&context.paths(std::slice::from_ref(&place.path)))?;
        of_places.push((files, place));
    }
    let has_others = places.len() < command.paths.len();
    let is_meant = |finding: &Finding| {
        let is_at = |(files, place): &(Vec<File>, &Place)| {
            files.contains(&finding.file) && place.is_in(&session.db, finding.file, finding.range)
        };
        of_places.is_empty() || has_others || of_places.iter().any(is_at)
    };
    let demanded: Vec<&str> = command
        .demand
        .iter()
        .filter_map(|name| demands::by_slug(name))
        .flat_map(|demand| demand.rules)
        .copied()
        .collect();
    let is_asked = |rule: &str| {
        (command.rule.is_empty() || command.rule.iter().any(|asked| rules::fits(asked, rule)))
            && (command.demand.is_empty() || demanded.contains(&rule))
    };
    let findings: Vec<Finding> = report
        .findings
        .iter()
        .map(|reported| &reported.finding)
        .filter(|finding| is_asked(finding.rule) && is_meant(finding))
        .cloned()
        .collect();
    let mut all = session.files(&[])?;
    all.extend(report.files.iter().copied());
    all.sort_by_key(|file| file.path(&session.db));
    all.dedup();
    let fixed = fix::fixed(&mut session.db, &all, &findings.iter().collect::<Vec<_>>(), command.way.as_deref());
    let said = said(&fixed);
    let words = command.words();
    if fixed.done.is_empty() {
        let list = if command.list { listed(&fixed) } else { String::new() };
        let next = if fixed.withdrawn.is_empty() || command.list { "check" } else { "fix --list" };
        let text = format!("{said} Next: leitmotiv {next}{}", if next == "check" { "" } else { &words });
        print(&format!("{list}{}\n", look::fold(&text, look::width(), "", "")))?;
        return Ok(ExitCode::SUCCESS);
    }
    if command.write {
        let project = session.project();
        change::write(project, &context.writer(project), NAME, &fixed.changes, command.dirty)?;
        let text = format!("Wrote {said} Take it back with leitmotiv fix --undo. Next: leitmotiv check");
        print(&format!("{}\n", look::fold(&text, look::width(), "", "")))?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut out = if command.list { listed(&fixed) } else { change::diff(&fixed.changes) };
    if !context.quiet {
        let text = format!("Not written: {said} Next: leitmotiv fix{words} --write");
        if !out.ends_with("\n\n") {
            out.push('\n');
        }
        let _ = writeln!(out, "{}", look::fold(&text, look::width(), "", ""));
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

/// How many fixes there are, were left out, and are not known.
fn said(fixed: &Fixed) -> String {
    let mut said = match fixed.done.len() {
        0 => "no fix.".to_owned(),
        done => {
            let files = look::count(fixed.changes.len(), "file", "files");
            format!("{} in {files}.", look::count(done, "fix", "fixes"))
        }
    };
    if !fixed.withdrawn.is_empty() {
        let _ = write!(said, " {} left out, as other code stands against it.", fixed.withdrawn.len());
    }
    if fixed.rest > 0 {
        let rest = look::count(fixed.rest, "finding needs", "findings need");
        let _ = write!(said, " {rest} a person.");
    }
    said
}

/// Each fix, and what was left out, with what stands against it.
fn listed(fixed: &Fixed) -> String {
    let width = look::width();
    let mut out = String::new();
    let mut line = |fix: &Fix, against: Option<&String>| {
        let place = format!("{}:{}", fix.path, fix.line);
        let _ = writeln!(out, "{}  {}", look::heading(&place), look::faint(fix.rule));
        let _ = writeln!(out, "{}", look::fold(&fix.words, width, "  ", "    "));
        if let Some(against) = against {
            let _ = writeln!(out, "{}", look::fold(&format!("left out: {against}"), width, "  ", "    "));
        }
    };
    fixed.done.iter().for_each(|fix| line(fix, None));
    fixed.withdrawn.iter().for_each(|(fix, against)| line(fix, Some(against)));
    out.push('\n');
    out
}

impl Fixes {
    /// What was asked for, as it is typed, so that the next step is about the same.
    fn words(&self) -> String {
        let mut words = String::new();
        for path in &self.paths {
            let _ = write!(words, " {}", super::argument(&path.to_string_lossy()));
        }
        if !self.rule.is_empty() {
            let _ = write!(words, " --rule {}", super::argument(&self.rule.join(",")));
        }
        if !self.demand.is_empty() {
            let _ = write!(words, " --demand {}", super::argument(&self.demand.join(",")));
        }
        if let Some(way) = &self.way {
            let _ = write!(words, " --way {}", super::argument(way));
        }
        words
    }
}
