use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.not-awaitable",
    summary: "something is awaited that cannot be",
    severity: Severity::Error,
    page: Page {
        means: "What is awaited is no coroutine, no task and no future: it has no `__await__`.",
        example: "async def depth(berth: int) -> int:\n    await berth\n    return berth\n",
        at_run_time: "TypeError: object … can't be used in 'await' expression, whenever the line runs.",
        ways: &[
            Way {
                id: "drop",
                title: "leave out the `await`",
                price: "one place changes",
                example: "async def depth(berth: int) -> int:\n    return berth\n",
            },
            Way { id: "call", title: "call the coroutine function", price: "one place changes", example: "" },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::NotAwaitable } = &problem.kind else { return None };
        let message =
            format!("{} is {} here, which cannot be awaited", context.named(problem.expr), context.quoted(*object));
        let expr = problem.expr?;
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
