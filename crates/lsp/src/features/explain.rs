//! A finding's whole story, as Markdown.

use std::fmt::Write as _;

use leitmotiv_engine::base::file::File;
use leitmotiv_engine::rules;
use leitmotiv_migrate::session::Asked;
use leitmotiv_migrate::ways::Ways;
use leitmotiv_syntax::TextRange;
use lsp_types::Position;

use super::markdown;
use crate::snapshot::Snapshot;

/// The story of the finding that stands at a position, of a rule where several do; `None` where there is none.
#[must_use]
pub fn story(snapshot: &Snapshot, file: File, position: Position, rule: Option<&str>) -> Option<String> {
    let db = &snapshot.session.db;
    let at = snapshot.offset(file, position);
    let report = snapshot.session.report(vec![file], &Asked::default());
    let mut here = report.findings.iter().filter(|reported| reported.finding.range.contains_inclusive(at));
    let reported = match rule {
        Some(rule) => here.find(|reported| reported.finding.rule == rule),
        None => here.next(),
    }?;
    let finding = &reported.finding;
    let page = &rules::by_slug(finding.rule)?.page;
    let mut out = format!("# {}\n\n{}\n", finding.rule, markdown::text(&finding.message));
    let line = leitmotiv_engine::findings::source::line_of(db, file, finding.range);
    let _ = writeln!(out, "\n{}\n\n{}", markdown::place(snapshot, file, finding.range), markdown::block(line.trim()));
    let (asking, coming): (Vec<_>, Vec<_>) = finding.evidence.iter().partition(|step| step.asks);
    for (heading, steps) in [("How it comes here", coming), ("What asks for it", asking)] {
        if steps.is_empty() {
            continue;
        }
        let _ = writeln!(out, "\n## {heading}\n");
        for (number, step) in steps.iter().enumerate() {
            let place = markdown::place(snapshot, step.file, step.range);
            let _ = writeln!(out, "{}. {place}: {}", number + 1, markdown::text(&step.text));
        }
    }
    let words = finding.at_run_time.as_deref().unwrap_or(page.at_run_time);
    let _ = writeln!(out, "\n## At run time\n\n{}", markdown::text(words));
    let mut ways = Ways::new(db, report.findings.iter().map(|reported| &reported.finding));
    let _ = writeln!(out, "\n## Ways out\n");
    for way in ways.of(finding) {
        let _ =
            writeln!(out, "- **{}**: {} (price: {})", way.id, markdown::text(&way.title), markdown::text(&way.price));
        for (file, edit) in way.written(db).unwrap_or_default() {
            let place = markdown::place(snapshot, file, TextRange::new(edit.start, edit.end));
            let new = edit.text.trim_end();
            if !new.trim().is_empty() {
                let block = markdown::block(new);
                let _ = writeln!(out, "\n  {place} gets\n\n  {}\n", block.replace('\n', "\n  "));
            }
        }
    }
    let _ = writeln!(
        out,
        "- **allow**: hide it on its line, with `# leitmotiv: allow({})` and the reason (price: nothing is checked there by this rule any \
         more)",
        finding.rule
    );
    let _ = writeln!(out, "\n## The rule\n\n{}", rules::page(rules::by_slug(finding.rule)?, 3));
    Some(out)
}
