use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "none.call",
    summary: "something that may be None is called",
    severity: Severity::Warning,
    page: Page {
        means: "On some path what is called is None, as a callback that nobody gave.",
        example: "from typing import Callable, Optional\n\ndef ring(bell: Optional[Callable[[], int]]) -> int:\n    return bell()\n",
        at_run_time: "TypeError: 'NoneType' object is not callable, on just the path where it is None.",
        ways: &[
            Way {
                id: "default",
                title: "give a default where the None comes from",
                price: "the default must make sense to everyone who sees it",
                example: "from typing import Callable\n\ndef silence() -> int:\n    return 0\n\ndef ring(bell: Callable[[], int] = silence) -> int:\n    return bell()\n",
            },
            Way {
                id: "check",
                title: "check for None before use",
                price: "one branch more, and something to do in it",
                example: "from typing import Callable, Optional\n\ndef ring(bell: Optional[Callable[[], int]]) -> int:\n    if bell is None:\n        return 0\n    return bell()\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NoneCall { object } = &problem.kind else { return None };
        Some(context.none_words(problem.expr?, *object, "cannot be called", RULE.page.ways))
    },
};
