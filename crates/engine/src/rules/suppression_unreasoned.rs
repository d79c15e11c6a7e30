use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "suppression.unreasoned",
    summary: "a suppression gives no reason",
    severity: Severity::Off,
    page: Page {
        means: "A comment hides findings and does not say why: nobody can tell later whether it is still needed. Off unless the demand `reasoned-suppressions` asks for it. In our own form the reason stands behind the parenthesis; behind `# type: ignore[…]` it is a comment of its own. What other tools are told to leave alone is for them.",
        example: "berth: int = \"three\"  # leitmotiv: allow(value.assign)\n",
        at_run_time: "Nothing.",
        ways: &[
            Way {
                id: "reason",
                title: "write the reason behind it",
                price: "somebody has to know it",
                example: "berth: int = \"three\"  # leitmotiv: allow(value.assign) the harbour names its berths\n",
            },
            Way {
                id: "remove",
                title: "take the comment out and mend what it hides",
                price: "what it hides is told then",
                example: "berth: int = 3\n",
            },
        ],
    },
    word: |_, problem| {
        let ProblemKind::SuppressionUnreasoned { what } = problem.kind else { return None };
        Some(Worded::plain(format!("{what} gives no reason"), RULE.page.ways))
    },
};
