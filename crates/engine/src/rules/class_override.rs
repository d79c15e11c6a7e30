use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "class.override",
    summary: "a member cannot stand in for that of a base",
    severity: Severity::Warning,
    page: Page {
        means: "Wherever an object of the base is expected, one of the subclass may come; then the method is called as the base declares it. Parameters that the base takes must be taken, none may be asked for in addition, and the result must fit; of attributes and properties, the type must. What is marked with `override` must have something to stand in for (PEP 698).",
        example: "class Vessel:\n    def severity(self, scale: int = 1) -> int:\n        return scale\n\nclass Barge(Vessel):\n    def severity(self) -> int:\n        return 10\n",
        at_run_time: "TypeError, or a result of another type, where the call was written for the base.",
        ways: &[
            Way {
                id: "accept",
                title: "take what the base takes",
                price: "a parameter that may go unused",
                example: "class Vessel:\n    def severity(self, scale: int = 1) -> int:\n        return scale\n\nclass Barge(Vessel):\n    def severity(self, scale: int = 1) -> int:\n        return 10\n",
            },
            Way {
                id: "rename",
                title: "give the method another name",
                price: "callers of the base do not reach it any more",
                example: "class Vessel:\n    def severity(self, scale: int = 1) -> int:\n        return scale\n\nclass Barge(Vessel):\n    def own_severity(self) -> int:\n        return 10\n",
            },
            Way {
                id: "unmark",
                title: "take the mark off, or write the name as the base has it",
                price: "without the mark, nothing tells when the base's method is renamed",
                example: "class Vessel:\n    def severity(self, scale: int = 1) -> int:\n        return scale\n\nclass Barge(Vessel):\n    def length(self) -> int:\n        return 10\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ClassOverride { own, hidden, why } = &problem.kind else { return None };
        let Some(hidden) = hidden else {
            let message = format!("`{own}` is marked with `override`, and no base has such a method");
            return Some(Worded::plain(message, &RULE.page.ways[UNMARK..]));
        };
        let what = context.clash_words(why);
        let message = format!("`{own}` cannot stand in for `{}`: {what}", hidden.shown);
        let mut worded = Worded::plain(message, &RULE.page.ways[..UNMARK]);
        worded.evidence.push(context.said_at(hidden.at, format!("`{}` as the base has it", hidden.shown)));
        Some(worded)
    },
};

/// Where the way out of a mark with nothing to stand in for begins.
const UNMARK: usize = 2;
