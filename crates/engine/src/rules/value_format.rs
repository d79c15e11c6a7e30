use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{BadFormat, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "value.format",
    summary: "a text that is formatted gets values that do not go with it",
    severity: Severity::Error,
    page: Page {
        means: "The text asks for another number of values, for one by a name that is not given, or for a number where something else is given (library reference, \"printf-style String Formatting\" and \"Format String Syntax\").",
        example: "def line(berth: str) -> str:\n    return \"berth %d\" % berth\n",
        at_run_time: "TypeError, IndexError, KeyError or ValueError, whenever the line runs.",
        ways: &[
            Way {
                id: "text",
                title: "ask for what is given",
                price: "one place changes",
                example: "def line(berth: str) -> str:\n    return \"berth %s\" % berth\n",
            },
            Way {
                id: "values",
                title: "give what is asked for",
                price: "one place changes",
                example: "def line(berth: str) -> str:\n    return \"berth %d\" % int(berth)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Format { why } = &problem.kind else { return None };
        let count = |count: usize| match count {
            1 => "1 value".to_owned(),
            count => format!("{count} values"),
        };
        let message = match why {
            BadFormat::Count { wanted, given } => format!("the text takes {}, {given} given", count(*wanted)),
            BadFormat::Name(name) => format!("the text takes a value `{name}`, which is not given"),
            BadFormat::NotMapping(object) => {
                format!("the text takes values by name, and {} has no names", context.quoted(*object))
            }
            BadFormat::Value { code, wanted, given } => {
                format!("`{code}` takes {wanted}, and not {}", context.quoted(*given))
            }
        };
        Some(Worded::plain(message, RULE.page.ways))
    },
};
