use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;
use crate::types::Type;

pub static RULE: Rule = Rule {
    slug: "flow.missing-return",
    summary: "a function may end without the value it declares",
    severity: Severity::Error,
    page: Page {
        means: "On some way through the function its end is reached without a `return`, and then it gives None, which the return annotation does not allow.",
        example: "def berth(name: str) -> int:\n    if name == \"Tern\":\n        return 3\n",
        at_run_time: "None comes back where callers rely on a value.",
        ways: &[
            Way {
                id: "return",
                title: "return a value on every way",
                price: "something must be said for the case that was left out",
                example: "def berth(name: str) -> int:\n    if name == \"Tern\":\n        return 3\n    return 0\n",
            },
            Way {
                id: "raise",
                title: "raise an exception on that way",
                price: "callers must be ready for it",
                example: "def berth(name: str) -> int:\n    if name == \"Tern\":\n        return 3\n    raise KeyError(name)\n",
            },
            Way {
                id: "annotate",
                title: "say that it may be None",
                price: "every caller must handle None",
                example: "from typing import Optional\n\ndef berth(name: str) -> Optional[int]:\n    if name == \"Tern\":\n        return 3\n    return None\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::MissingReturn { declared, function } = &problem.kind else { return None };
        let shown = crate::definitions::functions::shown(context.db(), context.infer.file, *function);
        let message = match declared {
            Type::Never => format!("`{shown}` may end, and declares that it never does"),
            _ => format!("`{shown}` may end without a `return`, and declares to return {}", context.quoted(*declared)),
        };
        let mut worded = Worded::plain(message, if *declared == Type::Never { &[] } else { RULE.page.ways });
        if let Some(returns) = context.infer.index.functions[*function].returns {
            let range = context.infer.index.spans[returns];
            let text = format!("declared to return {}", context.quoted(*declared));
            worded.evidence.push(crate::findings::evidence::Evidence::asking(context.infer.file, range, text));
        }
        Some(worded)
    },
};
