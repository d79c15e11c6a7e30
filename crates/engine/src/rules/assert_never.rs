use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "assert.never",
    summary: "an `assert_never` can be reached",
    severity: Severity::Error,
    page: Page {
        means: "`assert_never(x)` says that all that `x` can be was handled before. Something is left.",
        example: "from typing import assert_never\n\ndef deck(vessel: int | str) -> int:\n    if isinstance(vessel, int):\n        return vessel\n    assert_never(vessel)\n",
        at_run_time: "AssertionError, as soon as such a value comes along.",
        ways: &[
            Way {
                id: "handle",
                title: "handle what is left, before",
                price: "one branch more",
                example: "from typing import assert_never\n\ndef deck(vessel: int | str) -> int:\n    if isinstance(vessel, int):\n        return vessel\n    if isinstance(vessel, str):\n        return len(vessel)\n    assert_never(vessel)\n",
            },
            Way {
                id: "narrow",
                title: "declare that less comes in",
                price: "callers must give less",
                example: "from typing import assert_never\n\ndef deck(vessel: int) -> int:\n    if isinstance(vessel, int):\n        return vessel\n    assert_never(vessel)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::AssertNever { given } = problem.kind else { return None };
        let message = format!("{} is left here", context.quoted(given));
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(expr) = problem.expr {
            worded.evidence = evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, given));
        }
        Some(worded)
    },
};
