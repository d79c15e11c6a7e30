use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "annotation.any",
    summary: "an annotation says `Any`",
    severity: Severity::Off,
    page: Page {
        means: "`Any` goes with everything, both ways: what it stands for is not checked, and neither is what is made of it. Off unless the demand `no-any` asks for it; then it is told of every `Any` that the project itself writes where a type is expected.",
        example: "from typing import Any\n\ndef label(berth: Any) -> str:\n    return f\"berth {berth}\"\n",
        at_run_time: "Nothing: but a mistake with the value is only seen there.",
        ways: &[
            Way {
                id: "object",
                title: "annotate with `object` what really may be anything",
                price: "the body must check before it uses it",
                example: "def label(berth: object) -> str:\n    return f\"berth {berth}\"\n",
            },
            Way {
                id: "name",
                title: "name the type that is meant: a union, a protocol, a type variable",
                price: "one annotation changes; what does not fit it is told then",
                example: "def label(berth: int | str) -> str:\n    return f\"berth {berth}\"\n",
            },
        ],
    },
    word: |_, problem| {
        let ProblemKind::AnnotationAny = problem.kind else { return None };
        Some(Worded::plain("`Any` here keeps what it stands for from being checked".to_owned(), RULE.page.ways))
    },
};
