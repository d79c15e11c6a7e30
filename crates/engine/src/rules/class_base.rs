use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{BadBase, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.base",
    summary: "what stands among a class's bases cannot be one",
    severity: Severity::Error,
    page: Page {
        means: "A base is no class, stands there twice, or is a class that nothing can derive from.",
        example: "class Route(3):\n    pass\n",
        at_run_time: "TypeError when the class statement runs, mostly while the module is imported.",
        ways: &[Way {
            id: "remove",
            title: "take it out of the bases, or put the class there that is meant",
            price: "one place changes",
            example: "class Route(int):\n    pass\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::ClassBase { base, why } = &problem.kind else { return None };
        let base = context.quoted(*base);
        let message = match why {
            BadBase::NotClass => format!("{base} is no class, and cannot be a base"),
            BadBase::Repeated => format!("{base} stands among the bases twice"),
            BadBase::Closed => format!("no class can derive from {base}"),
            BadBase::Members => format!("{base} is an enumeration with members, from which no class can derive"),
        };
        Some(Worded::plain(message, RULE.page.ways))
    },
};
