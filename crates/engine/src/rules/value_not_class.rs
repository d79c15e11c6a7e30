use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{NotClass, ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.not-class",
    summary: "`isinstance` or `issubclass` is asked about something that is no class it can ask about",
    severity: Severity::Error,
    page: Page {
        means: "What stands second must be a class, a union of classes, or a tuple of such. It cannot be a class with arguments, a `NewType` or a typed dictionary, which leave nothing to ask at run time; nor a protocol without `@runtime_checkable` (typing specification, \"Protocols\").",
        example: "def is_name(value: object) -> bool:\n    return isinstance(value, \"str\")\n",
        at_run_time: "TypeError, whenever the line runs.",
        ways: &[
            Way {
                id: "class",
                title: "name the class itself",
                price: "nothing; what its arguments would be is not asked",
                example: "def is_name(value: object) -> bool:\n    return isinstance(value, str)\n",
            },
            Way {
                id: "mark",
                title: "mark the protocol with `@runtime_checkable`",
                price: "only that the members are there is asked, and that is slow",
                example: "",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::NotClass { function, why } } = &problem.kind else {
            return None;
        };
        let named = context.named(problem.expr);
        let function = context.db().names().text(*function);
        let what = match why {
            NotClass::Value => format!("{named} is {} here, which is no class", context.quoted(*object)),
            NotClass::Arguments => format!("{named} has arguments, and `{function}` cannot ask about those"),
            NotClass::Alias => format!("{named} is named by a `type` statement, which makes no class"),
            NotClass::NewType => format!("{named} is a `NewType`, which is no class at run time"),
            NotClass::TypedDict => format!("{named} is a typed dictionary, and `{function}` cannot ask about those"),
            NotClass::Unmarked => format!("{named} is a protocol that is not marked with `@runtime_checkable`"),
            NotClass::Data(member) => {
                format!("{named} is a protocol with `{}`, which is no method", context.db().names().text(*member))
            }
        };
        let ways = match why {
            NotClass::Unmarked => &RULE.page.ways[1..],
            _ => &RULE.page.ways[..1],
        };
        Some(Worded::plain(what, ways))
    },
};
