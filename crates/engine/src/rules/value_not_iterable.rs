use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.not-iterable",
    summary: "something is iterated that cannot be",
    severity: Severity::Error,
    page: Page {
        means: "A loop, a comprehension or an unpacking goes through something that has no `__iter__`, or, with `async for`, no `__aiter__`.",
        example: "def count(berths: int) -> None:\n    for berth in berths:\n        print(berth)\n",
        at_run_time: "TypeError: … object is not iterable, whenever the line runs.",
        ways: &[
            Way {
                id: "convert",
                title: "iterate something that can be",
                price: "one place changes",
                example: "def count(berths: int) -> None:\n    for berth in range(berths):\n        print(berth)\n",
            },
            Way {
                id: "define",
                title: "give the class an `__iter__`",
                price: "its objects now look like containers",
                example: "",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::NotIterable { is_async, other } } = &problem.kind else {
            return None;
        };
        let (verb, hint) = match (*is_async, *other) {
            (false, true) => ("cannot be iterated", "; it can by `async for`"),
            (true, true) => ("cannot be iterated by `async for`", "; it can by a plain `for`"),
            (true, false) => ("cannot be iterated by `async for`", ""),
            (false, false) => ("cannot be iterated", ""),
        };
        let message =
            format!("{} is {} here, which {verb}{hint}", context.named(problem.expr), context.quoted(*object));
        let expr = problem.expr?;
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
