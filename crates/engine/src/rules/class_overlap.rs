use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence::Evidence;
use crate::problems::{BadOverload, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.overlap",
    summary: "two signatures take the same, and give other things",
    severity: Severity::Note,
    page: Page {
        means: "Everything that the first signature takes, the second takes as well, and what the first gives does not fit what \
                the second gives. Which one is chosen depends on how much is known of an argument: who holds a berth as an \
                `object` is promised something else than who holds it as an `int` (typing specification, \"Overload \
                definition\").",
        example: "from typing import overload\n\n@overload\ndef label(berth: int) -> int: ...\n@overload\ndef label(berth: object) -> str: ...\ndef label(berth: object) -> int | str:\n    return berth if isinstance(berth, int) else str(berth)\n",
        at_run_time: "`label(berth)` gives an int where its caller, who knows only that the berth is an object, counts on a str.",
        ways: &[
            Way {
                id: "widen-result",
                title: "let the second signature say that it may give what the first gives",
                price: "its callers must handle both",
                example: "from typing import overload\n\n@overload\ndef label(berth: int) -> int: ...\n@overload\ndef label(berth: object) -> int | str: ...\ndef label(berth: object) -> int | str:\n    return berth if isinstance(berth, int) else str(berth)\n",
            },
            Way {
                id: "narrow",
                title: "let the second signature take only what the first does not",
                price: "callers who know less cannot call it",
                example: "from typing import overload\n\n@overload\ndef label(berth: int) -> int: ...\n@overload\ndef label(berth: str) -> str: ...\ndef label(berth: int | str) -> int | str:\n    return berth\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Overloads { name, why: BadOverload::Overlap(gives, other), at } = &problem.kind else {
            return None;
        };
        let name = context.db().names().text(*name);
        let (gives, other) = context.two(*gives, *other);
        let message =
            format!("this signature of `{name}` gives {gives}; one below takes the same and more, and gives {other}");
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(range) = at {
            let words = "this one takes the same and more".to_owned();
            worded.evidence.push(Evidence::new("declared", context.infer.file, *range, words));
        }
        Some(worded)
    },
};
