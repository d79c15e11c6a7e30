use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "flow.incomplete-match",
    summary: "branches over a closed set leave some of it out",
    severity: Severity::Note,
    page: Page {
        means: "The branches tell the members of a closed set apart, and there is neither a branch for each nor one for the rest. For what is left out nothing happens.",
        example: "from enum import Enum\n\nclass Sea(Enum):\n    CALM = 1\n    ROUGH = 2\n    STORM = 3\n\ndef advice(sea: Sea) -> str:\n    text = \"\"\n    if sea is Sea.CALM:\n        text = \"sail\"\n    elif sea is Sea.ROUGH:\n        text = \"wait\"\n    return text\n",
        at_run_time: "For the member that was forgotten the code runs on as if nothing had been asked; often a None or an old value comes out.",
        ways: &[
            Way {
                id: "branch",
                title: "add a branch for each member that is left out",
                price: "one place changes",
                example: "from enum import Enum\n\nclass Sea(Enum):\n    CALM = 1\n    ROUGH = 2\n    STORM = 3\n\ndef advice(sea: Sea) -> str:\n    text = \"\"\n    if sea is Sea.CALM:\n        text = \"sail\"\n    elif sea is Sea.ROUGH:\n        text = \"wait\"\n    elif sea is Sea.STORM:\n        text = \"stay\"\n    return text\n",
            },
            Way {
                id: "rest",
                title: "add an `else` for the rest",
                price: "members added later fall into it silently",
                example: "from enum import Enum\n\nclass Sea(Enum):\n    CALM = 1\n    ROUGH = 2\n    STORM = 3\n\ndef advice(sea: Sea) -> str:\n    text = \"\"\n    if sea is Sea.CALM:\n        text = \"sail\"\n    elif sea is Sea.ROUGH:\n        text = \"wait\"\n    else:\n        text = \"stay\"\n    return text\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::IncompleteMatch { rest } = &problem.kind else { return None };
        let message = format!("{} is left out here", context.quoted(*rest));
        Some(Worded::plain(message, RULE.page.ways))
    },
};
