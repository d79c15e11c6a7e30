use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "index.range",
    summary: "an item is read that a tuple does not have",
    severity: Severity::Error,
    page: Page {
        means: "The tuple is shorter than the number in brackets says.",
        example: "leg = (\"Skua\", \"Tern\")\nleg[2]\n",
        at_run_time: "IndexError: tuple index out of range, whenever the line runs.",
        ways: &[Way {
            id: "correct",
            title: "correct the number",
            price: "nothing",
            example: "leg = (\"Skua\", \"Tern\")\nleg[1]\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::IndexRange { object, at } = &problem.kind else { return None };
        let message = format!("there is no item {at} in {}", context.quoted(*object));
        Some(Worded::plain(message, RULE.page.ways))
    },
};
