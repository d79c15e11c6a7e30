use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "name.correlated",
    summary: "a name that is not bound unless two conditions go together",
    severity: Severity::Note,
    page: Page {
        means: "A name is bound under one condition and read under another. Where the two always go together all is well, and nobody can tell from the text.",
        example: "def flag(speed: int, is_shown: bool) -> str:\n    if speed > 20:\n        colour = \"red\"\n    if is_shown:\n        return colour\n    return \"\"\n",
        at_run_time: "Nothing where the conditions go together; else UnboundLocalError or NameError.",
        ways: &[
            Way {
                id: "start",
                title: "bind a value before the conditions",
                price: "it must make sense where nothing else is bound",
                example: "def flag(speed: int, is_shown: bool) -> str:\n    colour = \"green\"\n    if speed > 20:\n        colour = \"red\"\n    if is_shown:\n        return colour\n    return \"\"\n",
            },
            Way {
                id: "same",
                title: "ask the same condition",
                price: "nothing, where the conditions go together",
                example: "def flag(speed: int, is_shown: bool) -> str:\n    if speed > 20:\n        colour = \"red\"\n    if speed > 20:\n        return colour\n    return \"\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Correlated { kind, given, .. } = &problem.kind else { return None };
        let ProblemKind::NameUnbound { name, .. } = &**kind else { return None };
        let name = context.db().names().text(*name);
        let range = given.range(context.db());
        let line = context.line_of(range);
        let message = format!("`{name}` is bound in line {line} under another condition than it is read under here");
        let mut worded = Worded::plain(message, RULE.page.ways);
        let text = format!("`{name}` is bound here");
        worded.evidence.push(crate::findings::evidence::Evidence::new("assigned", given.file, range, text));
        Some(worded)
    },
};
