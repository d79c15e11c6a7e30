use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{BadField, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.field",
    summary: "a class cannot have a field like this",
    severity: Severity::Error,
    page: Page {
        means: "In a dataclass or named tuple, a field without a default stands behind one that has a default, or the default is a container that all instances would share; or `__post_init__` does not take what the `InitVar` fields pass on to it. A typed dictionary has annotated items only, which agree with those of its bases; members of enumerations have no annotation.",
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
            BadField::NoItem => {
                format!("a typed dictionary has nothing but annotated items, and `{name}` is something else")
            }
            BadField::Retyped(theirs, mine) => {
                let (theirs, mine) = context.two(*theirs, *mine);
                format!("`{name}` holds {mine}, and {theirs} in a base; what takes the base may put that in")
            }
            BadField::Presence { required: true } => format!("`{name}` must be there by a base, and need not here"),
            BadField::Presence { required: false } => {
                format!("`{name}` must be there, and need not by a base; what takes the base may take it away")
            }
            BadField::ReadOnly => format!("`{name}` is only read, and may be changed by a base"),
            BadField::Differs(one, other) => {
                let shown = |class| crate::definitions::classes::shown(context.db(), class);
                format!("`{name}` is one thing in `{}` and another in `{}`", shown(*one), shown(*other))
            }
            BadField::Ordered => format!("`order=True` makes `{name}`, which the class has already"),
            BadField::SecondMark => "fields are by keyword only from the first `KW_ONLY` on; this is a second".into(),
            BadField::Underscore => {
                format!("a field of a named tuple cannot begin with an underscore, as `{name}` does")
            }
            BadField::AnnotatedMember => {
                format!("`{name}` is a member, which has no annotation: its type is the enumeration")
            }
            BadField::Asked => format!("`__post_init__` asks for `{name}`, which no field passes on"),
        };
        let is_passing = matches!(why, BadField::NotPassed | BadField::PassedAs(..) | BadField::Asked);
        let (plain, passing) = RULE.page.ways.split_at(2);
        let is_of_order = matches!(why, BadField::Order(_) | BadField::Shared);
        let mut worded = match (is_passing, is_of_order) {
            (true, _) => Worded::plain(message, passing),
            (false, true) => Worded::plain(message, plain),
            (false, false) => Worded::plain(message, &[]),
        };
        if *why == BadField::Shared {
            worded.remedies.truncate(1);
            worded.remedies[0].title = "make the default by a factory: `field(default_factory=…)`".into();
            worded.remedies[0].price = "nothing";
        }
        if let Some(site) = at {
            let words = match is_passing {
                true => "this is called with the fields of `InitVar`",
                false if is_of_order => "this field has a default",
                false => "the other one is here",
            };
            worded.evidence.push(context.said_at(*site, words.into()));
        }
        Some(worded)
    },
};
