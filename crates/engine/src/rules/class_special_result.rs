use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "class.special-result",
    summary: "a special method gives what the interpreter does not take",
    severity: Severity::Error,
    page: Page {
        means: "The interpreter calls these methods by itself, and asks for a certain type: `__str__` must give a `str`, `__len__` an `int`, `__init__` nothing (data model, \"Special method names\").",
        example: "class Vessel:\n    def __str__(self):\n        return b\"Gannet\"\n",
        at_run_time: "TypeError, whenever it is called by the interpreter.",
        ways: &[
            Way {
                id: "give",
                title: "give what is asked for",
                price: "one place changes",
                example: "class Vessel:\n    def __str__(self):\n        return \"Gannet\"\n",
            },
            Way {
                id: "rename",
                title: "call the method something else",
                price: "the interpreter does not call it any more",
                example: "class Vessel:\n    def encoded(self):\n        return b\"Gannet\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::SpecialResult { method, gives, wanted } = &problem.kind else { return None };
        let message = format!("`{method}` gives {}, and must give {}", context.quoted(*gives), context.quoted(*wanted));
        Some(Worded::plain(message, RULE.page.ways))
    },
};
