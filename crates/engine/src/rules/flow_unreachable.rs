use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence::Evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "flow.unreachable",
    summary: "code is never reached",
    severity: Severity::Note,
    page: Page {
        means: "Every way to this code leaves the block before it gets here. Code for other versions and platforms does not count, nor does code that only raises an error.",
        example: "def depart(full: bool) -> str:\n    if full:\n        return \"now\"\n    return \"later\"\n    print(\"left\")\n",
        at_run_time: "Nothing: the code does not run, and nothing in it is checked.",
        ways: &[
            Way {
                id: "remove",
                title: "take the code out",
                price: "nothing",
                example: "def depart(full: bool) -> str:\n    if full:\n        return \"now\"\n    return \"later\"\n",
            },
            Way {
                id: "move",
                title: "move it to where it is meant to run",
                price: "the program does more than before",
                example: "def depart(full: bool) -> str:\n    print(\"left\")\n    if full:\n        return \"now\"\n    return \"later\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unreachable { after } = &problem.kind else { return None };
        let mut worded = Worded::plain("this is never reached".into(), RULE.page.ways);
        if let Some(range) = after {
            let file = context.infer.file;
            worded.message.push_str(": the call before it does not return");
            worded.evidence.push(Evidence::new("flow", file, *range, "this call does not return".into()));
        }
        Some(worded)
    },
};
