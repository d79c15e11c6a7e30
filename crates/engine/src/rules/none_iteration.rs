use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "none.iteration",
    summary: "something that may be None is iterated",
    severity: Severity::Warning,
    page: Page {
        means: "On some path what a loop, a comprehension or an unpacking goes through is None.",
        example: "from typing import Optional\n\ndef count(stops: Optional[list[str]]) -> int:\n    number = 0\n    for stop in stops:\n        number += len(stop)\n    return number\n",
        at_run_time: "TypeError: 'NoneType' object is not iterable, on just the path where it is None.",
        ways: &[
            Way {
                id: "default",
                title: "give a default where the None comes from",
                price: "the default must make sense to everyone who sees it",
                example: "from typing import Optional\n\ndef count(stops: Optional[list[str]]) -> int:\n    number = 0\n    for stop in stops or []:\n        number += len(stop)\n    return number\n",
            },
            Way {
                id: "check",
                title: "check for None before use",
                price: "one branch more, and something to do in it",
                example: "from typing import Optional\n\ndef count(stops: Optional[list[str]]) -> int:\n    number = 0\n    if stops is not None:\n        for stop in stops:\n            number += len(stop)\n    return number\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NoneIteration { object } = &problem.kind else { return None };
        Some(context.none_words(problem.expr?, *object, "cannot be iterated", RULE.page.ways))
    },
};
