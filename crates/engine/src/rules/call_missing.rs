use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "call.missing",
    summary: "a call leaves out an argument that is needed",
    severity: Severity::Error,
    page: Page {
        means: "The function has a parameter without a default, and the call gives nothing for it.",
        example: "def assign(vessel, berth):\n    return f\"{vessel} to {berth}\"\n\nassign(\"Gannet\")\n",
        at_run_time: "TypeError when the call runs, before the function's first line.",
        ways: &[
            Way {
                id: "give",
                title: "give the argument",
                price: "one place changes",
                example: "def assign(vessel, berth):\n    return f\"{vessel} to {berth}\"\n\nassign(\"Gannet\", 3)\n",
            },
            Way {
                id: "default",
                title: "give the parameter a default",
                price: "every other call may now leave it out as well",
                example: "def assign(vessel, berth=1):\n    return f\"{vessel} to {berth}\"\n\nassign(\"Gannet\")\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallMissing { callee, params } = &problem.kind else { return None };
        // The parameters of `Callable[[int], str]` have no names.
        let named: Vec<String> = params
            .iter()
            .filter(|param| **param != leitmotiv_syntax::names::known::EMPTY)
            .map(|param| format!("`{}`", context.db().names().text(*param)))
            .collect();
        let noun = if params.len() == 1 { "argument" } else { "arguments" };
        let list = if named.len() == params.len() { named.join(", ") } else { format!("{} more", params.len()) };
        let message = if named.len() == params.len() {
            format!("the call of `{}` leaves out the {noun} {list}", callee.shown)
        } else {
            format!("the call of `{}` leaves out {} {noun}", callee.shown, params.len())
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.remedies[0].title = format!("give {list}");
        if let Some(site) = callee.at {
            worded.evidence.push(context.said_at(site, format!("{list} needed here")));
        }
        Some(worded)
    },
};
