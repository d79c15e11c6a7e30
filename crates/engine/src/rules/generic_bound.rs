use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "generic.bound",
    summary: "a type argument is not what the type variable may be",
    severity: Severity::Error,
    page: Page {
        means: "A type variable may be bound to a type, and then only what fits that type can stand for it; or it may be \
                constrained to a few types, and then it is one of these, just as written (PEP 484).",
        example: "from typing import Generic, TypeVar\n\nDepthT = TypeVar(\"DepthT\", bound=float)\n\nclass Soundings(Generic[DepthT]):\n    pass\n\ndef chart(soundings: Soundings[str]) -> None:\n    pass\n",
        at_run_time: "Nothing by itself: but code inside the class relies on the bound.",
        ways: &[
            Way {
                id: "argument",
                title: "give a type that the variable may be",
                price: "nothing",
                example: "from typing import Generic, TypeVar\n\nDepthT = TypeVar(\"DepthT\", bound=float)\n\nclass Soundings(Generic[DepthT]):\n    pass\n\ndef chart(soundings: Soundings[int]) -> None:\n    pass\n",
            },
            Way {
                id: "loosen",
                title: "let the variable be more",
                price: "the class can rely on less",
                example: "from typing import Generic, TypeVar\n\nDepthT = TypeVar(\"DepthT\", bound=float | str)\n\nclass Soundings(Generic[DepthT]):\n    pass\n\ndef chart(soundings: Soundings[str]) -> None:\n    pass\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::GenericBound { var, given } = problem.kind else { return None };
        let db = context.db();
        let limits = crate::definitions::type_variables::limits(db, var);
        let variable = db.store().variable(var);
        let name = db.names().text(variable.name).to_owned();
        let site = Site { file: variable.file, at: variable.at };
        let given = context.quoted(given);
        let wanted = match limits.bound {
            Some(bound) => format!("must fit {}", context.quoted(bound)),
            None => {
                let all: Vec<String> = limits.constraints.iter().map(|one| context.quoted(*one)).collect();
                format!("can only be {}", all.join(" or "))
            }
        };
        let mut worded = Worded::plain(format!("{given} cannot stand for `{name}`, which {wanted}"), RULE.page.ways);
        worded.evidence.push(context.said_at(site, format!("`{name}` {wanted}")));
        Some(worded)
    },
};
