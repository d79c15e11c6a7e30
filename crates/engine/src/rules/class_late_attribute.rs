use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "class.late-attribute",
    summary: "an attribute is only made by a method that runs later",
    severity: Severity::Off,
    page: Page {
        means: "A method gives its object an attribute that is neither declared in the class body (or that of a base) nor set by `__init__`. Until that method has run, the object does not have it. Off unless the demand `declared-attributes` asks for it. What `__new__`, `__post_init__` or the `setUp` of a test case sets counts as set in time, and so does what `__slots__` names.",
        example: "class Ferry:\n    def __init__(self, name: str) -> None:\n        self.name = name\n\n    def depart(self, minute: int) -> None:\n        self.left_at = minute\n",
        at_run_time: "AttributeError, where the attribute is read before that method was called.",
        ways: &[
            Way {
                id: "set",
                title: "set it in `__init__`",
                price: "a value for the time before must be found, or None and a check for it",
                example: "class Ferry:\n    def __init__(self, name: str) -> None:\n        self.name = name\n        self.left_at: int | None = None\n\n    def depart(self, minute: int) -> None:\n        self.left_at = minute\n",
            },
            Way {
                id: "declare",
                title: "declare it in the class body",
                price: "it is said to be there before it is",
                example: "class Ferry:\n    left_at: int\n\n    def __init__(self, name: str) -> None:\n        self.name = name\n\n    def depart(self, minute: int) -> None:\n        self.left_at = minute\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::AttributeLate { class, name } = problem.kind else { return None };
        let class = context.db().names().text(context.infer.index.classes[class].name);
        let name = context.db().names().text(name);
        let message = format!("`{name}` of `{class}` is neither declared in the class nor set in `__init__`");
        Some(Worded::plain(message, RULE.page.ways))
    },
};
