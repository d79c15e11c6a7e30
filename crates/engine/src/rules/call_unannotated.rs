use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "call.unannotated",
    summary: "annotated code calls a function without annotations",
    severity: Severity::Off,
    page: Page {
        means: "A function of the project that has annotations calls one that has none: arguments are not held against anything, and what comes back is only what can be concluded. Off unless the demand `typed-callees` asks for it.",
        example: "def fare(distance, rate):\n    return distance * rate\n\ndef price(distance: float) -> float:\n    return fare(distance, 2.5) + 1\n",
        at_run_time: "Nothing: but an argument of the wrong type is only seen inside of the function that is called.",
        ways: &[Way {
            id: "annotate",
            title: "annotate the function that is called",
            price: "one signature changes; calls that do not fit it are told then",
            example: "def fare(distance: float, rate: float) -> float:\n    return distance * rate\n\ndef price(distance: float) -> float:\n    return fare(distance, 2.5) + 1\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::CallUnannotated { function } = problem.kind else { return None };
        let name = crate::definitions::functions::shown(context.db(), function.file, function.function);
        let mut worded =
            Worded::plain(format!("`{name}` has no annotations, and annotated code calls it"), RULE.page.ways);
        let at = Site::of_function(function.file, function.function);
        worded.evidence.push(context.said_at(at, format!("`{name}` is defined here, without annotations")));
        Some(worded)
    },
};
