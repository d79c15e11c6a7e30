use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "assert.type",
    summary: "an `assert_type` does not hold",
    severity: Severity::Error,
    page: Page {
        means: "`assert_type(x, T)` says that the type of `x` is just `T`; it is another one.",
        example: "from typing import assert_type\n\nassert_type(len(\"Gannet\"), str)\n",
        at_run_time: "Nothing: the call returns its first argument.",
        ways: &[Way {
            id: "correct",
            title: "correct the assertion, or what it is about",
            price: "nothing",
            example: "from typing import assert_type\n\nassert_type(len(\"Gannet\"), int)\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::AssertType { expected, given } = problem.kind else { return None };
        let (given_shown, expected_shown) = context.two(given, expected);
        let message = format!("the type is {given_shown}, asserted is {expected_shown}");
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(expr) = problem.expr
            && let leitmotiv_index::tree::Expr::Call { args, .. } = &context.infer.index.exprs[expr]
            && let Some(arg) = args.first()
        {
            worded.evidence = evidence::of(context.infer, arg.value, &mut |_, _| true);
        }
        Some(worded)
    },
};
