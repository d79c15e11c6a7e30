use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "none.index",
    summary: "an item is read from something that may be None",
    severity: Severity::Warning,
    page: Page {
        means: "On some path the value is None, and None has no items.",
        example: "import re\n\ndef number(text: str) -> str:\n    return re.match(\"([0-9]+)\", text)[1]\n",
        at_run_time: "TypeError: 'NoneType' object is not subscriptable, on just the path where it is None.",
        ways: &[
            Way {
                id: "default",
                title: "give a default where the None comes from",
                price: "the default must make sense to everyone who sees it",
                example: "def number(found: dict[str, list[str]]) -> str:\n    return found.get(\"number\", [\"\"])[0]\n",
            },
            Way {
                id: "check",
                title: "check for None before use",
                price: "one branch more, and something to do in it",
                example: "import re\n\ndef number(text: str) -> str:\n    found = re.match(\"([0-9]+)\", text)\n    if found is None:\n        return \"\"\n    return found[1]\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NoneIndex { object } = &problem.kind else { return None };
        Some(context.none_words(context.object_of(problem.expr)?, *object, "has no items", RULE.page.ways))
    },
};
