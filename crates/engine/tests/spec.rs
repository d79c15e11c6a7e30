//! The typing specification and the language, chapter by chapter: `spec/<chapter>/*.py`; in `right` stands right code that was
//! told off once, in `told` a text for each rule whose findings are marked in full: columns, evidence, ways out.

use std::path::{Path, PathBuf};

use crate::fixture::run_folder;

fn chapters() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/spec")
}

macro_rules! chapters {
    ($($name:ident),* $(,)?) => {
        $(
            #[test]
            fn $name() {
                run_folder(&chapters().join(stringify!($name)));
            }
        )*

        #[test]
        fn no_chapter_is_forgotten() {
            let mut named = vec![$(stringify!($name).to_owned()),*];
            named.sort();
            let mut folders: Vec<String> = std::fs::read_dir(chapters())
                .unwrap()
                .map(|entry| entry.unwrap().file_name().to_string_lossy().into_owned())
                .collect();
            folders.sort();
            assert_eq!(named, folders);
        }
    };
}

chapters!(annotations, calls, classes, containers, flow, functions, imports, narrowing, right, suppressions, told);

/// The text of a rule that is marked in full.
fn text_of(slug: &str) -> PathBuf {
    chapters().join("told").join(format!("{}.py", slug.replacen('.', "_", 1).replace('-', "_")))
}

#[test]
fn each_rule_has_a_text_in_which_its_findings_are_marked_in_full() {
    let mut missing = Vec::new();
    for rule in leitmotiv_engine::rules::ALL {
        // Told of the ledger, and of faults of our own: no Python text makes them.
        if matches!(rule.slug, "config.ledger" | "engine.fault") {
            continue;
        }
        let path = text_of(rule.slug);
        if !path.exists() && crate::fixture::blesses() {
            let demand = leitmotiv_engine::demands::ALL.iter().find(|demand| demand.rules.contains(&rule.slug));
            let demand = demand.filter(|_| rule.severity == leitmotiv_project::settings::Severity::Off);
            let asked = demand.map_or(String::new(), |demand| format!("#- demand {}\n", demand.slug));
            let text = format!("#- in full\n{asked}{}", rule.page.example);
            let text = crate::fixture::run(&text).err().and_then(|wrong| wrong.blessed).unwrap_or(text);
            std::fs::write(&path, text).unwrap();
        }
        let text = std::fs::read_to_string(&path).unwrap_or_default();
        if !text.starts_with("#- in full\n") || !text.contains(&format!("#! {}@", rule.slug)) {
            missing.push(rule.slug);
        }
    }
    assert!(
        missing.is_empty(),
        "no text for {missing:?}: run this test with LEITMOTIV_BLESS=1, and read what it writes"
    );
}
