use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{BadField, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.field",
    summary: "a class cannot have a field like this",
    severity: Severity::Error,
    page: Page {
        means: "In a dataclass or named tuple, a field without a default stands behind one that has a default, or the default is a container that all instances would share; or `__post_init__` does not take what the `InitVar` fields pass on to it.",
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
            Way {
                id: "take",
                title: "let `__post_init__` take just what the `InitVar` fields pass on, in their order",
                price: "nothing",
                example: "from dataclasses import InitVar, dataclass\n\n@dataclass\nclass Fare:\n    price: int\n    discount: InitVar[int]\n\n    def __post_init__(self, discount: int) -> None:\n        self.price -= discount\n",
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
            BadField::NotPassed => format!("`{name}` is passed on to `__post_init__`, which does not take it"),
            BadField::PassedAs(field, param) => {
                let (field, param) = context.two(*field, *param);
                format!("`{name}` is passed on to `__post_init__` as {field}, which takes {param}")
            }
            BadField::Asked => format!("`__post_init__` asks for `{name}`, which no field passes on"),
        };
        let is_passing = matches!(why, BadField::NotPassed | BadField::PassedAs(..) | BadField::Asked);
        let (plain, passing) = RULE.page.ways.split_at(2);
        let mut worded = Worded::plain(message, if is_passing { passing } else { plain });
        if *why == BadField::Shared {
            worded.remedies.truncate(1);
            worded.remedies[0].title = "make the default by a factory: `field(default_factory=…)`".into();
            worded.remedies[0].price = "nothing";
        }
        if let Some(site) = at {
            let words =
                if is_passing { "this is called with the fields of `InitVar`" } else { "this field has a default" };
            worded.evidence.push(context.said_at(*site, words.into()));
        }
        Some(worded)
    },
};
