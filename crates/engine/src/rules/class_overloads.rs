use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence::Evidence;
use crate::problems::{BadOverload, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.overloads",
    summary: "the signatures of an overloaded function do not go together",
    severity: Severity::Error,
    page: Page {
        means: "A function with `@overload` has at least two signatures and then, but for stubs and protocols, one definition that does the work and takes what each of them takes. A signature behind one that takes all that it takes is never chosen.",
        example: "from typing import overload\n\n@overload\ndef fare(cars: int) -> int: ...\n@overload\ndef fare(cars: str) -> str: ...\ndef fare(cars: int) -> int:\n    return cars\n",
        at_run_time: "Without a definition, NotImplementedError at each call; else what the body makes of arguments that it was not written for.",
        ways: &[
            Way {
                id: "widen",
                title: "let the definition take and give what the signatures say",
                price: "the body must tell the cases apart",
                example: "from typing import overload\n\n@overload\ndef fare(cars: int) -> int: ...\n@overload\ndef fare(cars: str) -> str: ...\ndef fare(cars: int | str) -> int | str:\n    return cars\n",
            },
            Way {
                id: "drop",
                title: "take the signatures that are of no use away",
                price: "callers see the definition's own signature",
                example: "def fare(cars: int) -> int:\n    return cars\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Overloads { name, why, at } = &problem.kind else { return None };
        let name = context.db().names().text(*name);
        let message = match why {
            BadOverload::Binding => {
                format!("signatures of `{name}` differ in what they take first: the object, the class, or neither")
            }
            BadOverload::Single => format!("`{name}` has but one signature with `overload`"),
            BadOverload::Undefined => format!("`{name}` has signatures with `overload`, and no definition behind them"),
            BadOverload::Refused => format!("the definition of `{name}` does not take what this signature takes"),
            BadOverload::Result(signature, definition) => {
                let (signature, definition) = context.two(*signature, *definition);
                format!("this signature of `{name}` gives {signature}, and the definition {definition}")
            }
            BadOverload::Hidden => {
                format!("this signature of `{name}` is never chosen: one above takes all that it takes")
            }
            BadOverload::Overlap(..) => return None,
        };
        let ways = match why {
            BadOverload::Refused | BadOverload::Result(..) => RULE.page.ways,
            BadOverload::Single | BadOverload::Hidden => &RULE.page.ways[1..],
            BadOverload::Undefined | BadOverload::Overlap(..) | BadOverload::Binding => &[],
        };
        let mut worded = Worded::plain(message, ways);
        if let Some(range) = at {
            let words = match why {
                BadOverload::Hidden => "this one is chosen before",
                BadOverload::Binding => "this one takes something else first",
                _ => "the definition",
            };
            worded.evidence.push(Evidence::new("declared", context.infer.file, *range, words.into()));
        }
        Some(worded)
    },
};
