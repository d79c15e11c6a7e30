use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "name.undefined",
    summary: "a name is not defined anywhere it could be seen from",
    severity: Severity::Error,
    page: Page {
        means: "No enclosing function, the module itself, or the built-in names bind this name, on any path.",
        example: "def fare(distance):\n    return distence * 2\n",
        at_run_time: "NameError when the line runs.",
        ways: &[
            Way {
                id: "spell",
                title: "correct the spelling",
                price: "one place changes",
                example: "def fare(distance):\n    return distance * 2\n",
            },
            Way {
                id: "define",
                title: "define or import the name",
                price: "one more name in the module",
                example: "distence = 3\n\ndef fare(distance):\n    return distence * 2\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NameUndefined { name, near } = &problem.kind else { return None };
        let name = context.db().names().text(*name);
        let mut worded = Worded::plain(format!("`{name}` is not defined"), RULE.page.ways);
        if let Some(near) = near {
            worded.message.push_str(&format!(" (is `{near}` meant?)"));
            worded.remedies[0].title = format!("write `{near}`");
            worded.remedies[0].price = "nothing";
        }
        Some(worded)
    },
};
