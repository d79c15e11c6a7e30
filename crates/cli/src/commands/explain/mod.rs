//! `leitmotiv explain`
//!
//! - this file: rules, demands, and what stands at a place
//! - `story`: how a finding came to be, and its ways out
//! - `known`: what is known where nothing is found

mod known;
mod seen;
mod story;

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::demands::{self, Demand};
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::rules::{self, Rule};
use leitmotiv_migrate::causes::{Cause, attempted, causes};
use leitmotiv_migrate::session::{Asked, Report, Reported, known_rule};
use leitmotiv_migrate::ways::Ways;
use leitmotiv_report::document::Entry;
use leitmotiv_report::groups::of_causes;
use leitmotiv_report::place;
use leitmotiv_syntax::TextRange;

use super::{Context, check, print};
use crate::failure::Failure;
use crate::look;

/// Explain a rule, a demand, or what is found and known at a place.
#[derive(Debug, Args)]
pub struct Explain {
    /// A rule as in `none.member`, a demand as in `none-handled`, or a place as in `ferry/berths.py:41` or `…:41:12`.
    #[arg(value_name = "RULE|FILE:LINE[:COL]")]
    pub subject: String,
}

/// Runs the command.
pub fn run(context: &Context, command: &Explain) -> Result<ExitCode, Failure> {
    let subject = command.subject.as_str();
    if let Some(rule) = rules::by_slug(subject) {
        print(&page(rule))?;
        return Ok(ExitCode::SUCCESS);
    }
    if let Some(demand) = demands::by_slug(subject) {
        print(&demand_page(demand))?;
        return Ok(ExitCode::SUCCESS);
    }
    let Some(place) = Place::parse(subject) else {
        known_rule(subject)?;
        return Err(Failure::unusable(format!("`{subject}` is neither a rule nor a place")));
    };
    at_place(context, &place)
}

/// A place as it is typed.
pub struct Place {
    /// The file.
    pub path: PathBuf,
    /// 1-based.
    pub line: u32,
    /// 1-based, in code points.
    pub column: Option<u32>,
}

impl Place {
    /// Reads `FILE:LINE` or `FILE:LINE:COL`.
    pub fn parse(text: &str) -> Option<Place> {
        let (head, last) = text.rsplit_once(':')?;
        let last: u32 = last.parse().ok().filter(|number| *number > 0)?;
        if let Some((path, line)) = head.rsplit_once(':')
            && let Ok(line) = line.parse::<u32>()
            && line > 0
        {
            return Some(Place { path: path.into(), line, column: Some(last) });
        }
        (!head.is_empty()).then(|| Place { path: head.into(), line: last, column: None })
    }

    /// Whether a stretch of a file begins or ends on the line, or goes over it; with a column, whether it is around that.
    pub fn is_in(&self, db: &Database, file: File, range: TextRange) -> bool {
        let (start, end) = place::positions(db, file, range);
        start.line <= self.line
            && self.line <= end.line
            && self
                .column
                .is_none_or(|column| start.line < self.line || (start.column <= column && column <= end.column))
    }
}

/// So many findings of one place are told with their ways out tried.
const MOST_TRIED: usize = 4;

fn at_place(context: &Context, place: &Place) -> Result<ExitCode, Failure> {
    let mut session = context.session_with_ledger()?;
    let paths = context.paths(std::slice::from_ref(&place.path));
    let asked = Asked::default();
    let mut report = session.check(&[], &asked)?;
    let files = session.files(&paths)?;
    if files.iter().any(|file| !report.files.contains(file)) {
        report = session.check(&paths, &asked)?;
    }
    let db = &session.db;
    let (here, others) = here_and_caused(db, &report, place, &files);
    let all: Vec<Finding> = report.findings.iter().map(|reported| reported.finding.clone()).collect();
    let all: Vec<&Finding> = all.iter().collect();
    let cause = others.first().and_then(|first| {
        let is_of = |cause: &Cause| cause.findings.iter().any(|number| *all[*number] == first.finding);
        causes(db, &all, &[]).into_iter().find(is_of)
    });
    let width = look::width();
    if here.is_empty() && others.is_empty() {
        let [file] = files.as_slice() else {
            return Err(Failure::unusable(format!("`{}` is not a file", place.path.display())));
        };
        print(&known::known(context, &session, *file, place)?)?;
        return Ok(ExitCode::SUCCESS);
    }
    let mut ways = Ways::new(db, report.findings.iter().map(|reported| &reported.finding));
    let entries: Vec<Entry> = here.iter().map(|reported| Entry::new(db, reported, &mut ways)).collect();
    let others: Vec<Entry> = others.iter().map(|reported| Entry::new(db, reported, &mut ways)).collect();
    let of_each: Vec<_> = here.iter().take(MOST_TRIED).map(|reported| ways.of(&reported.finding)).collect();
    let mut files = report.files.clone();
    files.sort_by_key(|file| file.path(db));
    files.dedup();
    let mut out = String::new();
    let mut next = None;
    let records = super::recorded(session.project());
    for ((reported, entry), ways) in here.iter().zip(&entries).zip(of_each) {
        let tried = story::tried(&mut session.db, &files, &reported.finding, ways);
        next = next.or_else(|| story::next(&tried, &super::argument(&entry.place.subject())));
        out.push_str(&story::story(entry, &tried, &seen::seen(entry, &records, width), width, context.verbose));
        out.push('\n');
    }
    if let Some(rest) = entries.get(MOST_TRIED..).filter(|rest| !rest.is_empty()) {
        let heading = look::count(rest.len(), "more finding stands here", "more findings stand here");
        out.push_str(&listed(&heading, rest, width));
    }
    if !others.is_empty() {
        let heading = look::count(others.len(), "finding has its", "findings have their");
        out.push_str(&listed(&format!("{heading} cause here"), &others, width));
        let what = cause.filter(|cause| cause.findings.len() > 1 && !cause.change.is_empty());
        if let Some(mut cause) = what {
            let group = of_causes(vec![cause.clone()], attempted(&mut session.db, &files, &all, &[cause.clone()]));
            let outcome = group.first().and_then(|group| Some(check::outcome(group, group.cause.as_ref()?)));
            cause.change.push_str(&outcome.map_or(String::new(), |outcome| format!(": {outcome}")));
            let _ = writeln!(out, "{}\n", look::fold(&cause.change, width, "way out: ", "  "));
        }
    }
    if !context.quiet {
        let next = match (next, others.first()) {
            (Some(next), _) => next,
            (None, Some(first)) if here.is_empty() => {
                format!("leitmotiv explain {}", super::argument(&first.place.subject()))
            }
            _ => format!("mend it, then leitmotiv check {}", super::argument(&place.path.to_string_lossy())),
        };
        let _ = writeln!(out, "Next: {next}");
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

/// Findings under a heading, a line each.
fn listed(heading: &str, entries: &[Entry], width: usize) -> String {
    let mut out = format!("{}\n", look::heading(heading));
    for line in leitmotiv_report::line::lines(entries).lines() {
        let _ = writeln!(out, "{}", look::fold(line, width, "  ", "      "));
    }
    out.push('\n');
    out
}

/// The findings at a place, and those that stand elsewhere and have their cause there.
fn here_and_caused(db: &Database, report: &Report, place: &Place, files: &[File]) -> (Vec<Reported>, Vec<Reported>) {
    let (mut here, mut others) = (Vec::new(), Vec::new());
    for reported in &report.findings {
        let finding = &reported.finding;
        if files.contains(&finding.file) && place.is_in(db, finding.file, finding.range) {
            here.push(reported.clone());
        }
    }
    let packages: Vec<&str> = here.iter().filter_map(|reported| reported.finding.package.as_deref()).collect();
    for reported in report.findings.iter().filter(|reported| !here.contains(reported)) {
        let is_caused = match reported.finding.package.as_deref() {
            Some(name) => packages.contains(&name),
            None => {
                let (file, range) = reported.finding.cause(db);
                files.contains(&file) && place::positions(db, file, range).0.line == place.line
            }
        };
        if is_caused {
            others.push(reported.clone());
        }
    }
    (here, others)
}

/// A rule's page.
fn page(rule: &Rule) -> String {
    let width = look::width();
    let mut out = String::new();
    let title = look::fold(&format!("{}  {}", rule.slug, rule.summary), width, "", "    ");
    let _ = writeln!(out, "{}", title.replacen(rule.slug, &look::heading(rule.slug), 1));
    let _ = writeln!(out, "severity: {}\n", rule.severity.name());
    let _ = writeln!(out, "{}\n", look::fold(rule.page.means, width, "", ""));
    if !rule.page.example.is_empty() {
        let _ = writeln!(out, "{}", look::heading("An example"));
        out.push_str(&indented(rule.page.example));
        out.push('\n');
    }
    let _ = writeln!(out, "{}", look::heading("At run time"));
    let _ = writeln!(out, "{}\n", look::fold(rule.page.at_run_time, width, "  ", "  "));
    let _ = writeln!(out, "{}", look::heading("Ways out"));
    for way in rule.page.ways {
        let _ = writeln!(out, "{}", look::fold(way.title, width, "  - ", "    "));
        let _ = writeln!(out, "{}", look::fold(&format!("price: {}", way.price), width, "    ", "    "));
        if !way.example.is_empty() {
            out.push_str(
                &indented(way.example)
                    .lines()
                    .map(|line| format!("    {line}").trim_end().to_owned() + "\n")
                    .collect::<String>(),
            );
        }
    }
    let silence = format!("Silence it on a line with `# leitmotiv: allow({}) reason`, or set its severity.", rule.slug);
    let _ = writeln!(out, "\n{}", look::fold(&silence, width, "", ""));
    out
}

/// A demand's page.
fn demand_page(demand: &Demand) -> String {
    let width = look::width();
    let mut out = String::new();
    let title = look::fold(&format!("{}  {}", demand.slug, demand.asks), width, "", "    ");
    let _ = writeln!(out, "{}\n", title.replacen(demand.slug, &look::heading(demand.slug), 1));
    let _ = writeln!(out, "{}\n", look::fold(demand.page.means, width, "", ""));
    for (head, words) in [("What one has of it", demand.page.gives), ("What it costs", demand.page.costs)] {
        let _ = writeln!(out, "{}", look::heading(head));
        let _ = writeln!(out, "{}\n", look::fold(words, width, "  ", "  "));
    }
    for (head, example) in [("Not met", demand.page.fails), ("Met", demand.page.holds)] {
        let _ = writeln!(out, "{}", look::heading(head));
        out.push_str(&indented(example));
        out.push('\n');
    }
    let rules: Vec<String> = demand.rules.iter().map(|rule| format!("`{rule}`")).collect();
    let words = format!("Where it is held, findings of {} are errors.", rules.join(", "));
    let _ = writeln!(out, "{}", look::fold(&words, width, "", ""));
    let _ = writeln!(out, "Next: leitmotiv tighten {}", demand.slug);
    out
}

fn indented(code: &str) -> String {
    code.lines().map(|line| if line.is_empty() { "\n".to_owned() } else { format!("    {line}\n") }).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn places_are_read_with_and_without_column() {
        let place = Place::parse("a/b.py:3").unwrap();
        assert_eq!((place.path.to_str().unwrap(), place.line, place.column), ("a/b.py", 3, None));
        let place = Place::parse("a.py:3:14").unwrap();
        assert_eq!((place.line, place.column), (3, Some(14)));
        assert!(Place::parse("none.member").is_none() && Place::parse("a.py:0").is_none());
    }
}
