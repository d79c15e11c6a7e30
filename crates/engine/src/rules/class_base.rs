use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{BadBase, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.base",
    summary: "what stands among a class's bases cannot be one",
    severity: Severity::Error,
    page: Page {
        means: "A base is no class, stands there twice, is a class that nothing can derive from, or does not go with what the class is: a protocol, a frozen dataclass, a named tuple, a typed dictionary, another metaclass.",
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
            BadBase::NewType => format!("{base} is made by `NewType`, and is no class when the program runs"),
            BadBase::NotBelow => format!("`NewType` takes a class that objects are made of, and {base} is none"),
            BadBase::Alias => format!("{base} is named by a `type` statement here, which makes no class"),
            BadBase::Metaclass => {
                format!("the metaclass of {base} does not go with that of the class, or of another base")
            }
            BadBase::NotProtocol => format!("a protocol derives from protocols only, and {base} is none"),
            BadBase::Frozen(true) => format!("{base} is a frozen dataclass, and the class is not frozen"),
            BadBase::Frozen(false) => format!("{base} is a dataclass that is not frozen, and the class is"),
            BadBase::Beside(what) => format!("a {what} has no base beside that which makes it one, as {base}"),
            BadBase::Members => format!("{base} is an enumeration with members, from which no class can derive"),
        };
        Some(Worded::plain(message, RULE.page.ways))
    },
};
