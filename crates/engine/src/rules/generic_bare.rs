use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "generic.bare",
    summary: "an annotation does not say what a generic type holds",
    severity: Severity::Off,
    page: Page {
        means: "A generic type without its arguments leaves them open: of the elements of a bare `list`, or of what a bare `Callable` takes and gives, nothing is known. Off unless the demand `filled-generics` asks for it. What has defaults for all of its variables (PEP 696) needs no arguments.",
        example: "def longest(names: list) -> int:\n    return max(len(name) for name in names)\n",
        at_run_time: "Nothing: but a mistake with an element is only seen there.",
        ways: &[
            Way {
                id: "fill",
                title: "write the arguments",
                price: "one annotation changes; what does not fit it is told then",
                example: "def longest(names: list[str]) -> int:\n    return max(len(name) for name in names)\n",
            },
            Way {
                id: "object",
                title: "write `object` for elements that nothing is asked of",
                price: "the body must check an element before it uses it",
                example: "def count(names: list[object]) -> int:\n    return len(names)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::GenericBare = problem.kind else { return None };
        let named = context.named(problem.expr);
        Some(Worded::plain(format!("{named} does not say what it is of"), RULE.page.ways))
    },
};
