use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "value.yield",
    summary: "a yielded value does not fit what the function declares",
    severity: Severity::Error,
    page: Page {
        means: "The function declares what its generator gives, and a `yield` gives something else.",
        example: "from typing import Iterator\n\ndef berths(count: int) -> Iterator[int]:\n    for berth in range(count):\n        yield str(berth)\n",
        at_run_time: "Nothing in the generator; whoever goes through it trusts the declaration and gets something else.",
        ways: &[
            Way {
                id: "convert",
                title: "yield what is declared",
                price: "one place changes",
                example: "from typing import Iterator\n\ndef berths(count: int) -> Iterator[int]:\n    for berth in range(count):\n        yield berth\n",
            },
            Way {
                id: "declare",
                title: "declare what is really yielded",
                price: "every caller must handle one type more",
                example: "from typing import Iterator\n\ndef berths(count: int) -> Iterator[str]:\n    for berth in range(count):\n        yield str(berth)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ValueYield { declared, given, function } = &problem.kind else { return None };
        let name = crate::definitions::functions::shown(context.db(), context.infer.file, *function);
        let (given_shown, declared_shown) = context.two(*given, *declared);
        let message = format!("{given_shown} does not fit what `{name}` declares to yield, {declared_shown}");
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(expr) = problem.expr {
            let wanted = *declared;
            worded.evidence = evidence::of(context.infer, expr, &mut |infer, ty| !infer.is_assignable(ty, wanted));
        }
        let declared = context.declared_result(*function, format!("declared to yield {declared_shown}"));
        worded.evidence.splice(0..0, declared);
        Some(worded)
    },
};
