//! Each choice to stay quiet does what its entry says: its one text is quiet, the other is still told.

use std::fmt::Write as _;

use leitmotiv_engine::policy::entries::{Effect, all};
use leitmotiv_project::settings::Severity;

use crate::fixture::run;

#[test]
fn each_choice_is_quiet_where_it_says_and_told_next_to_it() {
    let mut failures = String::new();
    for policy in all() {
        // What is softened is there, as notes; those of imports need no marks.
        let is_noted = policy.effect == Effect::Softens && policy.quiet.contains("#! ");
        let marked = policy.quiet.split("#! ").skip(1).filter_map(|mark| mark.split_whitespace().next());
        for rule in marked {
            let severity = leitmotiv_engine::rules::by_slug(rule).map(|rule| rule.severity);
            assert_eq!(severity, Some(Severity::Note), "{}: {rule} is more than a note", policy.id);
        }
        let quiet = if is_noted { policy.quiet.to_owned() } else { format!("#- quiet\n{}", policy.quiet) };
        if let Err(wrong) = run(&quiet) {
            let _ = writeln!(failures, "==== {} is to be quiet\n{}", policy.id, wrong.told);
        }
        if let Err(wrong) = run(policy.told) {
            let _ = writeln!(failures, "==== {} is to be told\n{}", policy.id, wrong.told);
        }
    }
    assert!(failures.is_empty(), "{failures}");
}
