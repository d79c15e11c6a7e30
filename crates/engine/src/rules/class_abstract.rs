use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "class.abstract",
    summary: "an object is made of a class with abstract methods",
    severity: Severity::Error,
    page: Page {
        means: "The class leaves methods open that are marked as abstract, in it or in a base.",
        example: "from abc import ABC, abstractmethod\n\nclass Vessel(ABC):\n    @abstractmethod\n    def load(self) -> int: ...\n\nVessel()\n",
        at_run_time: "TypeError: Can't instantiate abstract class, whenever the line runs.",
        ways: &[
            Way {
                id: "subclass",
                title: "make an object of a subclass that has the methods",
                price: "one place changes",
                example: "from abc import ABC, abstractmethod\n\nclass Vessel(ABC):\n    @abstractmethod\n    def load(self) -> int: ...\n\nclass Barge(Vessel):\n    def load(self) -> int:\n        return 3\n\nBarge()\n",
            },
            Way {
                id: "define",
                title: "define the methods in the class",
                price: "they must make sense for every subclass",
                example: "from abc import ABC\n\nclass Vessel(ABC):\n    def load(self) -> int:\n        return 0\n\nVessel()\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ClassAbstract { class, missing, at } = &problem.kind else { return None };
        let names: Vec<String> = missing.iter().map(|name| format!("`{}`", context.db().names().text(*name))).collect();
        let (message, said) = match names.is_empty() {
            true => {
                (format!("{} is a protocol, of which no objects are made", context.quoted(*class)), "declared here")
            }
            false => {
                (format!("{} leaves {} open", context.quoted(*class), names.join(", ")), "marked as abstract here")
            }
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence.push(context.said_at(*at, said.into()));
        Some(worded)
    },
};
