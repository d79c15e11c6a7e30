use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "call.unawaited",
    summary: "a coroutine is made and never awaited",
    severity: Severity::Error,
    page: Page {
        means: "Calling an `async` function only makes a coroutine; its body runs when that is awaited.",
        example: "async def depart() -> int:\n    return 3\n\nasync def day() -> None:\n    depart()\n",
        at_run_time: "Nothing happens, but for a RuntimeWarning that the coroutine was never awaited.",
        ways: &[
            Way {
                id: "await",
                title: "await it",
                price: "the caller waits for it",
                example: "async def depart() -> int:\n    return 3\n\nasync def day() -> None:\n    await depart()\n",
            },
            Way {
                id: "task",
                title: "run it beside the rest with `asyncio.create_task`",
                price: "someone must look at its result and its errors",
                example: "",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallUnawaited { .. } = problem.kind else { return None };
        let named = context.named(problem.expr);
        Some(Worded::plain(format!("{named} makes a coroutine that nobody awaits"), RULE.page.ways))
    },
};
