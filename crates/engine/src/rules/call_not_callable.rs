use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "call.not-callable",
    summary: "something that cannot be called is called",
    severity: Severity::Error,
    page: Page {
        means: "What stands before the parentheses is no function, no class, and has no `__call__`.",
        example: "capacity = 40\ncapacity()\n",
        at_run_time: "TypeError: … object is not callable, whenever the line runs.",
        ways: &[
            Way {
                id: "drop",
                title: "leave out the parentheses",
                price: "one place changes",
                example: "capacity = 40\ncapacity\n",
            },
            Way {
                id: "define",
                title: "give the class a `__call__`",
                price: "its objects now look like functions",
                example: "class Capacity:\n    def __call__(self) -> int:\n        return 40\n\ncapacity = Capacity()\ncapacity()\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallNotCallable { object } = &problem.kind else { return None };
        let callee = problem.expr?;
        let message =
            format!("{} is {} here, which cannot be called", context.named(Some(callee)), context.quoted(*object));
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, callee, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
