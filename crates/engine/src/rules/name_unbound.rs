use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "name.unbound",
    summary: "a name is read before anything is bound to it",
    severity: Severity::Error,
    page: Page {
        means: "The name belongs to this function or module, because it is bound somewhere in it; but on no way that leads here.",
        example: "def board() -> int:\n    number = count\n    count = 3\n    return number + count\n",
        at_run_time: "UnboundLocalError or NameError, whenever the line runs.",
        ways: &[Way {
            id: "order",
            title: "bind the name first",
            price: "one place changes",
            example: "def board() -> int:\n    count = 3\n    number = count\n    return number + count\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::NameUnbound { name, always: true } = &problem.kind else { return None };
        let message = format!("nothing is bound to `{}` on any way here", context.db().names().text(*name));
        Some(Worded::plain(message, RULE.page.ways))
    },
};
