use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "suppression.blanket",
    summary: "a suppression does not say what it hides",
    severity: Severity::Off,
    page: Page {
        means: "A bare `# type: ignore` hides every finding of its line, those that come later included. Off unless you ask for it.",
        example: "count = 3  # type: ignore\n",
        at_run_time: "Nothing: but the next mistake on the line stays hidden.",
        ways: &[Way {
            id: "name",
            title: "name the rules that are hidden, and why",
            price: "it must be kept true",
            example: "count = 3\n",
        }],
    },
    word: |_, problem| {
        let ProblemKind::SuppressionBlanket = problem.kind else { return None };
        Some(Worded::plain("this hides every finding of the line, whatever it is".to_owned(), RULE.page.ways))
    },
};
