use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{Ended, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.final",
    summary: "something that is marked as final is changed",
    severity: Severity::Error,
    page: Page {
        means: "A class is derived from, a method overridden, or a name given another value, although it is marked as final; or the mark stands where it says nothing, as by a name that never gets a value (PEP 591).",
        example: "from typing import final\n\n@final\nclass Tide:\n    pass\n\nclass SpringTide(Tide):\n    pass\n",
        at_run_time: "Nothing by itself; whoever relied on it not changing (for speed, for safety) is wrong from now on.",
        ways: &[
            Way {
                id: "other",
                title: "leave it as it is: hold an object of the class instead of deriving, use another name",
                price: "a little more code",
                example: "from typing import final\n\n@final\nclass Tide:\n    pass\n\nclass SpringTide:\n    def __init__(self, tide: Tide) -> None:\n        self.tide = tide\n",
            },
            Way {
                id: "open",
                title: "take the mark away, if it is yours",
                price: "it may be changed anywhere from now on",
                example: "class Tide:\n    pass\n\nclass SpringTide(Tide):\n    pass\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ClassFinal { what, at } = &problem.kind else { return None };
        let message = match what {
            Ended::Class(class) => format!("{} is final: no class may derive from it", context.quoted(*class)),
            Ended::Method(function) => {
                let shown = crate::definitions::functions::shown(context.db(), function.file, function.function);
                format!("`{shown}` is final: no class may override it")
            }
            Ended::Name(name) => {
                format!("`{}` is final: it may not get another value", context.db().names().text(*name))
            }
            Ended::Unset(name) => format!("`{}` is final, and never gets a value", context.db().names().text(*name)),
            Ended::Late(name) => format!(
                "`{}` is declared as final in a method: that is done in the class's body or in `__init__`",
                context.db().names().text(*name)
            ),
            Ended::Function(name) => format!(
                "`{}` is no method, and nothing could override it: `@final` says nothing here",
                context.db().names().text(*name)
            ),
        };
        if matches!(what, Ended::Unset(_) | Ended::Late(_) | Ended::Function(_)) {
            return Some(Worded::plain(message, &[]));
        }
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.remedies[0].title = match what {
            Ended::Class(_) => "hold an object of the class instead of deriving from it".into(),
            Ended::Method(_) => "give the method another name".into(),
            _ => "give the other value another name".into(),
        };
        worded.evidence.push(context.said_at(*at, "marked as final here".into()));
        Some(worded)
    },
};
