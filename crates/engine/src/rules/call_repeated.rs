use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "call.repeated",
    summary: "an argument is given twice",
    severity: Severity::Error,
    page: Page {
        means: "A parameter gets a value by position and another one by name.",
        example: "def assign(berth, vessel):\n    return berth, vessel\n\nassign(3, berth=4)\n",
        at_run_time: "TypeError: got multiple values for argument, whenever the line runs.",
        ways: &[Way {
            id: "drop",
            title: "leave one of the two out",
            price: "one place changes",
            example: "def assign(berth, vessel):\n    return berth, vessel\n\nassign(3, vessel=\"Tern\")\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::CallRepeated { callee, param } = &problem.kind else { return None };
        let message = format!("`{}` of `{}` is given twice", context.db().names().text(*param), callee.shown);
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(site) = callee.at {
            worded.evidence.push(context.said_at(site, format!("`{}` takes it once", callee.shown)));
        }
        Some(worded)
    },
};
