use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.not-context-manager",
    summary: "something is entered by `with` that is no context manager",
    severity: Severity::Error,
    page: Page {
        means: "A context manager has `__enter__` and `__exit__`; for `async with`, `__aenter__` and `__aexit__`.",
        example: "def moor(rope: str) -> None:\n    with rope:\n        pass\n",
        at_run_time: "TypeError: … object does not support the context manager protocol, whenever the line runs.",
        ways: &[
            Way {
                id: "other",
                title: "enter something that is one",
                price: "one place changes",
                example: "def moor(rope: str) -> None:\n    with open(rope):\n        pass\n",
            },
            Way {
                id: "define",
                title: "give the class both methods",
                price: "whoever enters it must leave it, too",
                example: "",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::NotManager { is_async, lacks, other } } = &problem.kind
        else {
            return None;
        };
        let lacks = context.db().names().text(*lacks);
        let hint = match (*is_async, *other) {
            (_, false) => "",
            (false, true) => "; it can be entered by `async with`",
            (true, true) => "; it can be entered by a plain `with`",
        };
        let message = format!(
            "{} is {} here, which has no `{lacks}`{hint}",
            context.named(problem.expr),
            context.quoted(*object)
        );
        let expr = problem.expr?;
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
