use leitmotiv_project::settings::Severity;

use super::{Context, Page, Rule, Way, Worded};
use crate::findings::evidence::Evidence;
use crate::problems::{Callee, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "call.keyword",
    summary: "a call names a parameter that there is not",
    severity: Severity::Error,
    page: Page {
        means: "The keyword of an argument is no parameter's name, and the function does not take keywords of all names.",
        example: "def assign(vessel):\n    return vessel\n\nassign(vesel=\"Gannet\")\n",
        at_run_time: "TypeError when the call runs, before the function's first line.",
        ways: &[
            Way {
                id: "rename",
                title: "correct the keyword",
                price: "one place changes",
                example: "def assign(vessel):\n    return vessel\n\nassign(vessel=\"Gannet\")\n",
            },
            Way {
                id: "take",
                title: "let the function take it",
                price: "every override of the function must take it too",
                example: "def assign(vesel):\n    return vesel\n\nassign(vesel=\"Gannet\")\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallKeyword { callee, name, near } = &problem.kind else { return None };
        let mut message = format!("`{}` has no parameter `{}`", callee.shown, context.db().names().text(*name));
        let mut worded = Worded::plain(String::new(), RULE.page.ways);
        if let Some(near) = near {
            message.push_str(&format!(" (is `{near}` meant?)"));
            worded.remedies[0].title = format!("write `{near}=`");
            worded.remedies[0].price = "nothing";
        }
        worded.message = message;
        worded.evidence.extend(parameters(context, callee));
        Some(worded)
    },
};

/// Where what is called lists its parameters.
pub(super) fn parameters(context: &Context<'_, '_>, callee: &Callee) -> Option<Evidence> {
    Some(context.said_at(callee.at?, format!("`{}` takes these parameters", callee.shown)))
}
