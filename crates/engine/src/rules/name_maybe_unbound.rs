use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "name.maybe-unbound",
    summary: "a name is read that is not bound on every way",
    severity: Severity::Warning,
    page: Page {
        means: "On some way that leads here nothing has been bound to the name: the branch was not taken, or the loop did not run once.",
        example: "def flag(speed: int) -> str:\n    if speed > 20:\n        colour = \"red\"\n    return colour\n",
        at_run_time: "UnboundLocalError or NameError, on just that way.",
        ways: &[
            Way {
                id: "start",
                title: "bind a value before the branch or loop",
                price: "it must make sense where nothing else is bound",
                example: "def flag(speed: int) -> str:\n    colour = \"green\"\n    if speed > 20:\n        colour = \"red\"\n    return colour\n",
            },
            Way {
                id: "else",
                title: "bind it on the other way as well",
                price: "something must be said for that way",
                example: "def flag(speed: int) -> str:\n    if speed > 20:\n        colour = \"red\"\n    else:\n        colour = \"green\"\n    return colour\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NameUnbound { name, always: false } = &problem.kind else { return None };
        let name = context.db().names().text(*name);
        let mut worded = Worded::plain(format!("`{name}` is not bound on every way here"), RULE.page.ways);
        if let Some(range) = context.infer.first_binding(problem.expr?) {
            let file = context.infer.file;
            let text = format!("`{name}` is bound here, on one way only");
            worded.evidence.push(crate::findings::evidence::Evidence::new("assigned", file, range, text));
        }
        Some(worded)
    },
};
