//! Rule pages cannot rot: the example of each gives just that rule, and each way out that is shown is quiet.

use leitmotiv_engine::check::check;
use leitmotiv_engine::demands;
use leitmotiv_engine::rules::{self, Rule};
use leitmotiv_project::settings::Severity;

use crate::fixture::{Source, database};

/// The rules found in a text, notes and what is off by default left out unless it is the rule asked for.
fn found(text: &str, rule: &Rule) -> Vec<&'static str> {
    found_of(text, &[rule.slug])
}

/// The same for several rules that are asked for.
fn found_of(text: &str, asked: &[&str]) -> Vec<&'static str> {
    let (folder, db) = database(&[Source { path: "main.py".into(), text: text.into() }], None);
    let file = db.source(&folder.path().canonicalize().unwrap().join("main.py"));
    let mut found: Vec<&'static str> = check(&db, &[file])[0]
        .findings
        .iter()
        .filter(|finding| finding.severity > Severity::Note || asked.contains(&finding.rule))
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
fn what_does_not_meet_a_demand_breaks_no_rule_else_and_what_meets_it_is_quiet() {
    for demand in demands::ALL {
        let failing = found_of(demand.page.fails, demand.rules);
        assert!(!failing.is_empty(), "{}:\n{}", demand.slug, demand.page.fails);
        assert!(failing.iter().all(|rule| demand.rules.contains(rule)), "{}: {failing:?}", demand.slug);
        let holding = found_of(demand.page.holds, demand.rules);
        assert!(holding.is_empty(), "{}: {holding:?}\n{}", demand.slug, demand.page.holds);
    }
}

#[test]
fn the_references_are_made_from_the_pages() {
    let docs = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs");
    let pages = [("rules.md", rules::documentation()), ("demands.md", demands::documentation())];
    let mut stale = Vec::new();
    for (name, page) in pages {
        let path = format!("{docs}/{name}");
        if std::fs::read_to_string(&path).unwrap_or_default() != page {
            std::fs::write(&path, page).unwrap();
            stale.push(name);
        }
    }
    assert!(stale.is_empty(), "{stale:?} in docs/ were stale; they have been written anew, commit them");
}
