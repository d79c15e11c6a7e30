use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "class.order",
    summary: "no order of resolution goes with a class's bases",
    severity: Severity::Error,
    page: Page {
        means: "One base wants to come before another, and the others want it the other way round.",
        example: "class Vessel:\n    pass\n\nclass Ferry(Vessel):\n    pass\n\nclass Barge(Vessel, Ferry):\n    pass\n",
        at_run_time: "TypeError when the class statement runs: a consistent order cannot be made.",
        ways: &[Way {
            id: "reorder",
            title: "put derived bases before those that they derive from",
            price: "methods may be found in another class than before",
            example: "class Vessel:\n    pass\n\nclass Ferry(Vessel):\n    pass\n\nclass Barge(Ferry, Vessel):\n    pass\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::ClassOrder { bases } = &problem.kind else { return None };
        let bases: Vec<String> = bases.iter().map(|base| context.quoted(*base)).collect();
        let message = format!("the bases {} cannot be brought into one order", bases.join(", "));
        Some(Worded::plain(message, RULE.page.ways))
    },
};
