use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};

pub static RULE: Rule = Rule {
    slug: "config.ledger",
    summary: "a promise of the ledger is not kept, because nobody looks any more",
    severity: Severity::Error,
    page: Page {
        means: "`leitmotiv.ledger` holds a file to a demand, but the file is gone, left alone or silenced as a whole, or the \
                demand does not exist. Nothing of the promise would be noticed. `leitmotiv check --exact` tells also where the \
                ledger says too much: debts that are paid, files that are gone or have another name.",
        example: "",
        at_run_time: "Nothing: but what was finished can slip back without a word.",
        ways: &[
            Way {
                id: "follow",
                title: "run `leitmotiv tighten --write`: it follows files that were renamed, and strikes what is paid or gone",
                price: "nothing: the diff of the ledger shows what",
                example: "",
            },
            Way {
                id: "forget",
                title: "run `leitmotiv tighten --write --forget`: it drops the promises of files that are gone or left alone",
                price: "the promises are given up; the diff of the ledger shows which",
                example: "",
            },
        ],
    },
    // Told by whoever reads the ledger; nothing in a Python file is this.
    word: |_, _| None,
};
