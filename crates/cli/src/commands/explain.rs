//! `leitmotiv explain`

use std::fmt::Write as _;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_engine::demands;
use leitmotiv_engine::rules::{self, Rule};
use leitmotiv_migrate::session::{Asked, known_rule};
use leitmotiv_report::document::{Document, Entry};

use super::{Context, print};
use crate::failure::Failure;
use crate::look;

/// Explain a rule, or the findings at a place.
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
        let rules: Vec<String> = demand.rules.iter().map(|rule| format!("`{rule}`")).collect();
        print(&format!(
            "{}: {}\n\nWhere it holds, findings of {} are errors.\nNext: leitmotiv tighten {}\n",
            look::heading(demand.slug),
            demand.asks,
            rules.join(" and "),
            demand.slug
        ))?;
        return Ok(ExitCode::SUCCESS);
    }
    let Some(place) = Place::parse(subject) else {
        known_rule(subject)?;
        return Err(Failure::unusable(format!("`{subject}` is neither a rule nor a place")));
    };
    story(context, &place)
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
}

fn story(context: &Context, place: &Place) -> Result<ExitCode, Failure> {
    let mut session = context.session_with_ledger()?;
    let paths = context.paths(std::slice::from_ref(&place.path));
    let asked = Asked::default();
    let report = session.check(&paths, &asked)?;
    let whole = session.check(&[], &asked)?;
    let document = Document::new(&session.db, &report, true);
    let here: Vec<&Entry> = document.entries.iter().filter(|entry| entry.is_around(place.line, place.column)).collect();
    let paths: Vec<&str> = report.files.iter().map(|file| file.path(&session.db)).collect();
    let others = caused(Document::new(&session.db, &whole, true), place, &paths, &here);
    if here.is_empty() && others.is_empty() {
        return Err(Failure::unusable(format!(
            "nothing is found at {}:{}; `leitmotiv check {}` lists what is",
            place.path.display(),
            place.line,
            place.path.display()
        )));
    }
    let width = look::width();
    let mut out = String::new();
    let mut told: Vec<&str> = Vec::new();
    for entry in &here {
        out.push_str(&look::finding_alone(entry, width));
        if let Some(rule) = rules::by_slug(entry.rule) {
            if !told.contains(&rule.slug) {
                told.push(rule.slug);
                let _ = writeln!(out, "\n{} ({})", look::heading("What it means"), rule.slug);
                let _ = writeln!(out, "{}", look::fold(rule.page.means, width, "  ", "  "));
                let _ = writeln!(out, "\n{}", look::heading("What could go wrong at run time"));
                let _ = writeln!(out, "{}", look::fold(rule.page.at_run_time, width, "  ", "  "));
            }
            let _ = writeln!(out, "\n{}", look::heading("Ways out and their price"));
            for way in &entry.ways {
                let _ = writeln!(out, "{}", look::fold(&way.title, width, "  - ", "    "));
                let _ = writeln!(out, "{}", look::fold(&format!("price: {}", way.price), width, "    ", "    "));
            }
            let allow = format!("suppress it on the line: # leitmotiv: allow({}) and the reason", rule.slug);
            let _ = writeln!(out, "{}", look::fold(&allow, width, "  - ", "    "));
            let _ = writeln!(out, "    price: nothing is checked there by this rule any more");
        }
        out.push('\n');
    }
    if !others.is_empty() {
        let number = look::count(others.len(), "finding has its", "findings have their");
        let _ = writeln!(out, "{}", look::heading(&format!("{number} cause here")));
        for line in leitmotiv_report::line::lines(&others).lines() {
            let _ = writeln!(out, "{}", look::fold(line, width, "  ", "      "));
        }
        out.push('\n');
    }
    if !context.quiet {
        let next = match others.first() {
            Some(first) if here.is_empty() => {
                format!("leitmotiv explain {}", super::argument(&first.place.subject()))
            }
            _ => format!("mend it, then leitmotiv check {}", super::argument(&place.path.to_string_lossy())),
        };
        let _ = writeln!(out, "Next: {next}");
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

/// The findings of the project whose cause is at a place, without those that stand there themselves.
fn caused(whole: Document, place: &Place, paths: &[&str], here: &[&Entry]) -> Vec<Entry> {
    let packages: Vec<&str> = here.iter().filter_map(|entry| entry.package.as_deref()).collect();
    let is_here = |entry: &Entry| {
        here.iter()
            .any(|known| (known.rule, &known.place, &known.message) == (entry.rule, &entry.place, &entry.message))
    };
    let is_caused = |entry: &Entry| {
        if let Some(name) = entry.package.as_deref() {
            return packages.contains(&name);
        }
        entry.cause.place.start.line == place.line && paths.contains(&entry.cause.place.path.as_str())
    };
    whole.entries.into_iter().filter(|entry| !is_here(entry) && is_caused(entry)).collect()
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
