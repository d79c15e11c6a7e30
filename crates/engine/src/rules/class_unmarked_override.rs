use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "class.unmarked-override",
    summary: "a method stands in for that of a base and does not say so",
    severity: Severity::Off,
    page: Page {
        means: "Where each method that stands in for another says so (`@override`, PEP 698), the renaming of the other one is told at once, and so is a method that does it by accident. Off unless the demand `marked-overrides` asks for it. Constructors, names with two leading underscores and what only `object` has need no mark.",
        example: "class Vessel:\n    def length(self) -> int:\n        return 10\n\nclass Barge(Vessel):\n    def length(self) -> int:\n        return 30\n",
        at_run_time: "Nothing: but once the method of the base is called otherwise, this one is never called again.",
        ways: &[
            Way {
                id: "mark",
                title: "mark it with `@override`",
                price: "an import, and a decorator that does nothing at run time",
                example: "from typing import override\n\nclass Vessel:\n    def length(self) -> int:\n        return 10\n\nclass Barge(Vessel):\n    @override\n    def length(self) -> int:\n        return 30\n",
            },
            Way {
                id: "rename",
                title: "give it another name, if it is not meant to stand in",
                price: "callers of the base do not reach it any more",
                example: "class Vessel:\n    def length(self) -> int:\n        return 10\n\nclass Barge(Vessel):\n    def deck_length(self) -> int:\n        return 30\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::OverrideUnmarked { function, owner, at } = problem.kind else { return None };
        let db = context.db();
        let own = crate::definitions::functions::shown(db, context.infer.file, function);
        let name = db.names().text(context.infer.index.functions[function].name);
        let base = crate::definitions::classes::shown(db, owner);
        let message = format!("`{own}` stands in for `{base}.{name}` and is not marked with `@override`");
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence.push(context.said_at(at, format!("`{base}.{name}` as the base has it")));
        Some(worded)
    },
};
