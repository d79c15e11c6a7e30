use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "generic.result",
    summary: "a type variable is in a function's result only",
    severity: Severity::Warning,
    page: Page {
        means: "A type variable gets its meaning from a call's arguments. If none of the parameters has a part in it, nothing says \
                what the result is: it is unknown to callers, or whatever they wish it were.",
        example: "from typing import TypeVar\n\nT = TypeVar(\"T\")\n\ndef last_vessel() -> list[T]:\n    return []\n",
        at_run_time: "Nothing.",
        ways: &[
            Way {
                id: "concrete",
                title: "write the type that is meant",
                price: "nothing, if it is always the same",
                example: "def last_vessel() -> list[str]:\n    return []\n",
            },
            Way {
                id: "parameter",
                title: "take something that says what the variable is",
                price: "callers pass one thing more",
                example: "from typing import TypeVar\n\nT = TypeVar(\"T\")\n\ndef last_vessel(kind: type[T]) -> list[T]:\n    return []\n",
            },
            Way {
                id: "object",
                title: "say `object` where anything may be",
                price: "callers must find out what it is",
                example: "def last_vessel() -> list[object]:\n    return []\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::GenericResult { var } = problem.kind else { return None };
        let db = context.db();
        let variable = db.store().variable(var);
        let name = db.names().text(variable.name).to_owned();
        let site = Site { file: variable.file, at: variable.at };
        let message = format!("`{name}` is in the result only: no parameter says what it is");
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence.push(context.said_at(site, format!("`{name}` is defined here")));
        Some(worded)
    },
};
