use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "index.range",
    summary: "an item is asked for that is not there",
    severity: Severity::Error,
    page: Page {
        means: "The tuple is shorter than the number in brackets says, or the typed dictionary has no such key.",
        example: "leg = (\"Skua\", \"Tern\")\nleg[2]\n",
        at_run_time: "IndexError or KeyError, whenever the line runs.",
        ways: &[Way {
            id: "correct",
            title: "correct the number or the key",
            price: "one place changes",
            example: "leg = (\"Skua\", \"Tern\")\nleg[1]\n",
        }],
    },
    word: |context, problem| {
        let message = match &problem.kind {
            ProblemKind::IndexRange { object, at } => format!("there is no item {at} in {}", context.quoted(*object)),
            ProblemKind::KeyAbsent { object, key, near } => {
                let near = near.as_ref().map(|near| format!(" (is `{near}` meant?)")).unwrap_or_default();
                let key = context.db().names().text(*key);
                format!("{} has no key `{key}`{near}", context.quoted(*object))
            }
            _ => return None,
        };
        Some(Worded::plain(message, RULE.page.ways))
    },
};
