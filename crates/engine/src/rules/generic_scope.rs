use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::{BadScope, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "generic.scope",
    summary: "a type variable stands where nothing says what it is",
    severity: Severity::Error,
    page: Page {
        means: "A type variable gets its meaning from a call's arguments, or from the type arguments of an object's class. In a \
                variable's annotation outside of both it means nothing; in a class within a class that is generic in it, it \
                would mean two things (PEP 484, \"Scoping rules for type variables\").",
        example: "from typing import TypeVar\n\nT = TypeVar(\"T\")\nlast_seen: list[T] = []\n",
        at_run_time: "Nothing.",
        ways: &[
            Way {
                id: "concrete",
                title: "write the type that is meant",
                price: "nothing, if it is always the same",
                example: "last_seen: list[str] = []\n",
            },
            Way {
                id: "object",
                title: "say `object` where anything may be",
                price: "readers must find out what it is",
                example: "last_seen: list[object] = []\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::GenericScope { var, why } = problem.kind else { return None };
        let db = context.db();
        let variable = db.store().variable(var);
        let name = db.names().text(variable.name).to_owned();
        let site = Site { file: variable.file, at: variable.at };
        let message = match why {
            BadScope::Unbound => {
                format!("`{name}` means nothing here: neither a function nor a class around is generic in it")
            }
            BadScope::Outer(outer) => {
                format!(
                    "`{name}` already means something in `{}` around",
                    crate::definitions::classes::shown(db, outer)
                )
            }
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence.push(context.said_at(site, format!("`{name}` is defined here")));
        Some(worded)
    },
};
