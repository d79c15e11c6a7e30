use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "call.surplus",
    summary: "a call gives more positional arguments than are taken",
    severity: Severity::Error,
    page: Page {
        means: "There are more positional arguments than parameters that take one.",
        example: "def assign(vessel):\n    return vessel\n\nassign(\"Gannet\", 3)\n",
        at_run_time: "TypeError when the call runs, before the function's first line.",
        ways: &[
            Way {
                id: "leave-out",
                title: "leave the argument out",
                price: "one place changes",
                example: "def assign(vessel):\n    return vessel\n\nassign(\"Gannet\")\n",
            },
            Way {
                id: "take",
                title: "let the function take it",
                price: "every override of the function must take it too",
                example: "def assign(vessel, berth):\n    return vessel, berth\n\nassign(\"Gannet\", 3)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallSurplus { callee, taken, given } = &problem.kind else { return None };
        let message = format!("`{}` takes {}, {given} given", callee.shown, super::call_overload::positional(*taken));
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence.extend(super::call_keyword::parameters(context, callee));
        Some(worded)
    },
};
