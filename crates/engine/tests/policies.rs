//! Each choice to stay quiet does what its entry says: its one text is quiet, the other is still told.

use std::fmt::Write as _;

use leitmotiv_engine::policy::entries::all;

use crate::fixture::run;

#[test]
fn each_choice_is_quiet_where_it_says_and_told_next_to_it() {
    let mut failures = String::new();
    for policy in all() {
        if let Err(wrong) = run(&format!("#- quiet\n{}", policy.quiet)) {
            let _ = writeln!(failures, "==== {} is to be quiet\n{}", policy.id, wrong.told);
        }
        if let Err(wrong) = run(policy.told) {
            let _ = writeln!(failures, "==== {} is to be told\n{}", policy.id, wrong.told);
        }
    }
    assert!(failures.is_empty(), "{failures}");
}
