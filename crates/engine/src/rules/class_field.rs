use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::evidence::Evidence;
use crate::problems::{BadField, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.field",
    summary: "a class cannot have a field like this",
    severity: Severity::Error,
    page: Page {
        means: "In a dataclass or named tuple, a field without a default stands behind one that has a default, or the default is a container that all instances would share.",
        example: "from dataclasses import dataclass\n\n@dataclass\nclass Fare:\n    price: int = 3\n    ticket: str\n",
        at_run_time: "TypeError or ValueError when the class statement runs, mostly while the module is imported.",
        ways: &[
            Way {
                id: "default",
                title: "give the field a default, or a factory for one",
                price: "whoever forgets the field is not told any more",
                example: "from dataclasses import dataclass\n\n@dataclass\nclass Fare:\n    price: int = 3\n    ticket: str = \"single\"\n",
            },
            Way {
                id: "reorder",
                title: "put the fields without defaults first",
                price: "calls that give the fields by position must change",
                example: "from dataclasses import dataclass\n\n@dataclass\nclass Fare:\n    ticket: str\n    price: int = 3\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ClassField { name, why, at } = &problem.kind else { return None };
        let name = context.db().names().text(*name);
        let message = match why {
            BadField::Order(before) => {
                let before = context.db().names().text(*before);
                format!("`{name}` has no default and stands behind `{before}`, which has one")
            }
            BadField::Shared => format!("the default of `{name}` is one container for all instances"),
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        if *why == BadField::Shared {
            worded.remedies.truncate(1);
            worded.remedies[0].title = "make the default by a factory: `field(default_factory=…)`".into();
            worded.remedies[0].price = "nothing";
        }
        if let Some((file, range)) = at {
            worded.evidence.push(Evidence::new("declared", *file, *range, "this field has a default".into()));
        }
        Some(worded)
    },
};
