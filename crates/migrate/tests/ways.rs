//! Ways out as they are written: texts with findings, and beside each the ways out of all of them, with what came of those that can be written.
//!
//! `LEITMOTIV_BLESS=1 cargo test -p leitmotiv-migrate --test ways` writes what is there now; read it before it is committed.

use std::fmt::Write as _;
use std::path::Path;

use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_migrate::causes::{Attempts, attempted, causes, texts};
use leitmotiv_migrate::diff::changed;
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_migrate::ways::{Way, Ways};
use leitmotiv_project::{Project, Surroundings};
use leitmotiv_syntax::parse::parse;

fn session(folder: &Path) -> Session {
    let project = Project::open(folder, None, &Surroundings::default()).unwrap();
    Session::open(project).unwrap()
}

fn told(name: &str, text: &str, settings: &str) -> String {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join(name), text).unwrap();
    std::fs::write(folder.path().join("leitmotiv.toml"), settings).unwrap();
    let mut session = session(folder.path());
    let report = session.check(&[], &Asked::default()).unwrap();
    let findings: Vec<Finding> = report.findings.iter().map(|reported| reported.finding.clone()).collect();
    let db = &session.db;
    let mut ways = Ways::new(db, &findings);
    let all: Vec<Vec<Way>> = findings.iter().map(|finding| ways.of(finding)).collect();
    let changes: Vec<Vec<_>> = all.iter().map(|ways| ways.iter().map(|way| texts(db, way)).collect()).collect();
    let old = report.files[0].text(db).to_string();
    let heads: Vec<String> = findings
        .iter()
        .map(|finding| {
            let lines = &module_index(db, finding.file).lines.0;
            format!("{}: {}: {}", lines.index_of(finding.range.start()) + 1, finding.rule, finding.message)
        })
        .collect();
    let mut attempts = Attempts::new(&mut session.db, &report.files);
    let mut out = String::new();
    for ((finding, head), (ways, changes)) in findings.iter().zip(heads).zip(all.iter().zip(changes)) {
        let _ = writeln!(out, "{head}");
        let run_time = finding.at_run_time.as_deref().unwrap_or("-");
        let _ = writeln!(out, "  at run time: {run_time}");
        for (way, change) in ways.iter().zip(changes) {
            let safe = if way.safe { ", safe" } else { "" };
            let _ = writeln!(out, "  {}: {} ({}{safe})", way.id, way.title, way.price);
            let Some(change) = change.filter(|change| !change.is_empty()) else { continue };
            for (_, new) in change {
                assert!(parse(&new).faults.is_empty(), "{head}\n{new}");
                for part in changed(&old, &new) {
                    part.gone.iter().for_each(|line| writeln!(out, "    - {line}").unwrap());
                    part.come.iter().for_each(|line| writeln!(out, "    + {line}").unwrap());
                }
            }
            let outcome = attempts.outcome(way, std::iter::once(finding)).unwrap();
            let came: Vec<String> = outcome.came.iter().map(|(_, message)| format!("; comes: {message}")).collect();
            let goes = if outcome.went == 1 { "goes" } else { "stays" };
            let _ = writeln!(out, "    {goes}{}", came.concat());
        }
    }
    out
}

fn compared(name: &str, settings: &str) {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/ways");
    let text = std::fs::read_to_string(folder.join(format!("{name}.py"))).unwrap();
    let told = told(&format!("{name}.py"), &text, settings);
    let path = folder.join(format!("{name}.txt"));
    if std::env::var_os("LEITMOTIV_BLESS").is_some() {
        std::fs::write(&path, &told).unwrap();
    }
    let expected = std::fs::read_to_string(&path).unwrap_or_default();
    assert_eq!(told, expected, "{}: see the head of this file", path.display());
}

#[test]
fn what_may_be_none_is_checked_or_kept_from_being_it() {
    compared("none", "python = '3.12'\n");
}

#[test]
fn what_is_declared_takes_more() {
    compared("declared", "python = '3.12'\n");
}

#[test]
fn what_is_given_and_taken_becomes_something_else() {
    compared("values", "python = '3.12'\n");
}

#[test]
fn what_one_change_settles_has_one_cause() {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/project");
    let mut session = session(&root);
    let report = session.check(&[], &Asked::default()).unwrap();
    let findings: Vec<&Finding> = report.findings.iter().map(|reported| &reported.finding).collect();
    let checked: Vec<_> = report.files.iter().copied().zip(report.checked.iter().cloned()).collect();
    let all = causes(&session.db, &findings, &checked);
    let outcomes = attempted(&mut session.db, &report.files, &findings, &all);
    let (mut promised, mut tried) = (0, 0);
    for (cause, outcome) in all.iter().zip(outcomes) {
        assert!(!cause.key.starts_with('<'), "a cause is of the project: {}", cause.key);
        let Some(outcome) = outcome else { continue };
        assert_eq!(outcome.went, cause.findings.len(), "{}: {}", cause.key, cause.change);
        promised += cause.findings.len();
        tried += 1;
    }
    assert!(tried >= 15 && promised > tried, "{promised} findings of {tried} causes");
}
