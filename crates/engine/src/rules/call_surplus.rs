use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::evidence::Evidence;
use crate::problems::{ProblemKind, Surplus};

pub static RULE: Rule = Rule {
    slug: "call.surplus",
    summary: "a call gives an argument that no parameter takes",
    severity: Severity::Error,
    page: Page {
        means: "There are more positional arguments than parameters, or a keyword that is no parameter's name.",
        example: "def assign(vessel):\n    return vessel\n\nassign(\"Gannet\", 3)\n",
        at_run_time: "TypeError when the call runs, before the function's first line.",
        ways: &[
            Way {
                id: "leave-out",
                title: "leave the argument out, or correct its keyword",
                price: "nothing",
                example: "def assign(vessel):\n    return vessel\n\nassign(\"Gannet\")\n",
            },
            Way {
                id: "take",
                title: "let the function take it",
                price: "every override of the function must take it too",
                example: "def assign(vessel, berth):\n    return vessel, berth\n\nassign(\"Gannet\", 3)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallSurplus { callee, surplus } = &problem.kind else { return None };
        let mut near_title = None;
        let message = match surplus {
            Surplus::Positional { taken, given } => {
                let taken = match taken {
                    0 => "no positional arguments".to_owned(),
                    1 => "1 positional argument".to_owned(),
                    taken => format!("{taken} positional arguments"),
                };
                format!("`{}` takes {taken}, {given} given", callee.shown)
            }
            Surplus::Keyword { name, near } => {
                let name = context.db().names().text(*name);
                let mut message = format!("`{}` has no parameter `{name}`", callee.shown);
                if let Some(near) = near {
                    message.push_str(&format!(" (is `{near}` meant?)"));
                    near_title = Some(format!("write `{near}=`"));
                }
                message
            }
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(title) = near_title {
            worded.remedies[0].title = title;
        }
        if let Some((file, range)) = callee.at {
            worded.evidence.push(Evidence::new(
                "declared",
                file,
                range,
                format!("`{}` takes these parameters", callee.shown),
            ));
        }
        Some(worded)
    },
};
