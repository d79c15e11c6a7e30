use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "suppression.unused",
    summary: "a suppression hides nothing",
    severity: Severity::Warning,
    page: Page {
        means: "A comment of our own form allows a rule on a line where it finds nothing, or names a rule that does not \
                exist. So does `# type: ignore[…]` whose codes are all rules of ours; with other codes, or none, it may be \
                meant for another tool and is left alone.",
        example: "capacity = 120  # leitmotiv: allow(value.assign) read from a file\n",
        at_run_time: "Nothing. But the next mistake on this line will be hidden too.",
        ways: &[Way { id: "remove", title: "remove the comment", price: "nothing", example: "capacity = 120\n" }],
    },
    word: |_, problem| {
        let ProblemKind::SuppressionUnused { what } = &problem.kind else { return None };
        let mut worded = Worded::plain(what.clone(), RULE.page.ways);
        worded.remedies[0].safe = true;
        Some(worded)
    },
};
