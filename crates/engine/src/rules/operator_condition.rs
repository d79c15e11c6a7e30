use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "operator.condition",
    summary: "a function is tested for truth",
    severity: Severity::Error,
    page: Page {
        means: "What is tested is the function itself, which is always true; mostly its call is meant.",
        example: "class Vessel:\n    def is_full(self) -> bool:\n        return True\n\ndef board(vessel: Vessel) -> int:\n    if vessel.is_full:\n        return 0\n    return 1\n",
        at_run_time: "The branch is always taken.",
        ways: &[
            Way {
                id: "call",
                title: "call it",
                price: "one place changes",
                example: "class Vessel:\n    def is_full(self) -> bool:\n        return True\n\ndef board(vessel: Vessel) -> int:\n    if vessel.is_full():\n        return 0\n    return 1\n",
            },
            Way {
                id: "compare",
                title: "compare with None, if that is what is asked",
                price: "one place changes",
                example: "class Vessel:\n    def is_full(self) -> bool:\n        return True\n\ndef board(vessel: Vessel) -> int:\n    if vessel.is_full is not None:\n        return 0\n    return 1\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::OperatorCondition { .. } = problem.kind else { return None };
        let named = context.named(problem.expr);
        Some(Worded::plain(format!("{named} is a function, and so always true here"), RULE.page.ways))
    },
};
