//! Rule pages cannot rot: the example of each gives just that rule, and each way out that is shown is quiet.

use leitmotiv_engine::check::check;
use leitmotiv_engine::rules::{self, Rule};
use leitmotiv_project::settings::Severity;

use crate::fixture::{Source, database};

/// The rules found in a text, notes and what is off by default left out unless it is the rule asked for.
fn found(text: &str, rule: &Rule) -> Vec<&'static str> {
    let (folder, db) = database(&[Source { path: "main.py".into(), text: text.into() }], None);
    let file = db.source(&folder.path().canonicalize().unwrap().join("main.py"));
    let mut found: Vec<&'static str> = check(&db, &[file])[0]
        .findings
        .iter()
        .filter(|finding| finding.severity > Severity::Note || finding.rule == rule.slug)
        .map(|finding| finding.rule)
        .collect();
    found.dedup();
    found
}

#[test]
fn each_example_gives_just_its_rule() {
    for rule in rules::ALL {
        if !rule.page.example.is_empty() {
            assert_eq!(found(rule.page.example, rule), [rule.slug], "{}:\n{}", rule.slug, rule.page.example);
        }
    }
}

#[test]
fn each_way_out_that_is_shown_is_quiet() {
    for rule in rules::ALL {
        for way in rule.page.ways.iter().filter(|way| !way.example.is_empty()) {
            let found = found(way.example, rule);
            assert!(found.is_empty(), "{} {}: {found:?}\n{}", rule.slug, way.id, way.example);
        }
    }
}

#[test]
fn each_page_has_its_parts() {
    for rule in rules::ALL {
        assert!(!rule.summary.is_empty() && !rule.page.means.is_empty(), "{}", rule.slug);
        assert!(!rule.page.at_run_time.is_empty() && !rule.page.ways.is_empty(), "{}", rule.slug);
        for way in rule.page.ways {
            assert!(!way.id.is_empty() && !way.title.is_empty() && !way.price.is_empty(), "{}", rule.slug);
        }
    }
}

#[test]
fn the_reference_of_rules_is_made_from_their_pages() {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/rules.md");
    let page = leitmotiv_engine::rules::documentation();
    if std::fs::read_to_string(path).unwrap_or_default() != page {
        std::fs::write(path, page).unwrap();
        panic!("docs/rules.md was stale; it has been written anew, commit it");
    }
}
