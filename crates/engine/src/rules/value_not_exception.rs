use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.not-exception",
    summary: "something is raised or caught that is no exception",
    severity: Severity::Error,
    page: Page {
        means: "What is raised must be an exception or a class of exceptions; what is caught a class of exceptions, or a tuple of such (all derive from `BaseException`).",
        example: "def refuse(reason: str) -> None:\n    raise reason\n",
        at_run_time: "TypeError: exceptions must derive from BaseException, whenever the line runs.",
        ways: &[
            Way {
                id: "wrap",
                title: "raise an exception that says so",
                price: "callers may have to catch it",
                example: "def refuse(reason: str) -> None:\n    raise ValueError(reason)\n",
            },
            Way { id: "derive", title: "derive the class from `Exception`", price: "one place changes", example: "" },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::NotException { is_caught } } = &problem.kind else {
            return None;
        };
        let what = match (is_caught, object) {
            (true, crate::types::Type::Tuple(_)) => "holds what is no class of exceptions",
            (true, _) => "is no class of exceptions",
            (false, _) => "is no exception",
        };
        let message = format!("{} is {} here, which {what}", context.named(problem.expr), context.quoted(*object));
        let expr = problem.expr?;
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
