use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "name.shadowed",
    summary: "a name of the class hides the built-in that an annotation means",
    severity: Severity::Error,
    page: Page {
        means: "Annotations in a class body see the names of the class first. A method called `list` hides the class `list` from all annotations that are read once the class is complete: quoted ones, and all of them where they are postponed.",
        example: "class Harbour:\n    def list(self) -> int:\n        return 3\n\n    def names(self) -> \"list[str]\":\n        return []\n",
        at_run_time: "Nothing by itself; but whatever reads the annotation as the program runs, as dataclasses and frameworks do, finds the method.",
        ways: &[
            Way {
                id: "rename",
                title: "rename the method",
                price: "its callers must be changed",
                example: "class Harbour:\n    def count(self) -> int:\n        return 3\n\n    def names(self) -> \"list[str]\":\n        return []\n",
            },
            Way {
                id: "qualify",
                title: "name the built-in in full",
                price: "one import more",
                example: "import builtins\n\nclass Harbour:\n    def list(self) -> int:\n        return 3\n\n    def names(self) -> \"builtins.list[str]\":\n        return []\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NameShadowed { name, at } = &problem.kind else { return None };
        let name = context.db().names().text(*name);
        let message = format!("`{name}` is a function of the class here, which hides the built-in `{name}`");
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence.push(context.said_at(*at, format!("`{name}` means this function here")));
        Some(worded)
    },
};
