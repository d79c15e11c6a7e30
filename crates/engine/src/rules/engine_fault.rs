use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "engine.fault",
    summary: "a fault of Leitmotiv itself, or a file that cannot be read",
    severity: Severity::Error,
    page: Page {
        means: "The file could not be checked: it cannot be read or decoded, or the check itself failed. Other files are \
                reported all the same.",
        example: "",
        at_run_time: "Nothing is known of this file.",
        ways: &[Way {
            id: "report",
            title: "make the file readable as UTF-8 (or with its declared encoding); else report the fault",
            price: "nothing",
            example: "",
        }],
    },
    word: |_, problem| {
        let ProblemKind::Fault { message } = &problem.kind else { return None };
        Some(Worded::plain(message.clone(), RULE.page.ways))
    },
};
