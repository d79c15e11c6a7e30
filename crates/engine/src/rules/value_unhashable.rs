use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.unhashable",
    summary: "something is a key, or an element of a set, that has no hash",
    severity: Severity::Error,
    page: Page {
        means: "Keys of dictionaries and elements of sets need a hash. Lists, dictionaries and sets have none, as they can change; nor has a dataclass that compares by value and is not frozen.",
        example: "berths = {[1, 2]: \"Gannet\"}\n",
        at_run_time: "TypeError: unhashable type, whenever the line runs.",
        ways: &[
            Way {
                id: "freeze",
                title: "use a tuple, a `frozenset`, or a frozen dataclass",
                price: "it cannot be changed any more",
                example: "berths = {(1, 2): \"Gannet\"}\n",
            },
            Way {
                id: "define",
                title: "give the class a `__hash__`",
                price: "it must go with `__eq__`, and stay",
                example: "",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::NotHashable } = &problem.kind else { return None };
        let message = format!("{} is {} here, which has no hash", context.named(problem.expr), context.quoted(*object));
        let expr = problem.expr?;
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
