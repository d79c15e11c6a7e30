use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence::Evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "value.default",
    summary: "a default does not fit its parameter",
    severity: Severity::Error,
    page: Page {
        means: "The default of a parameter is not of the type that the parameter is annotated with.",
        example: "def assign(berth: int = \"three\") -> int:\n    return berth\n",
        at_run_time: "Whenever the argument is left out, the function works with a value of the wrong type.",
        ways: &[
            Way {
                id: "correct",
                title: "correct the default",
                price: "one place changes",
                example: "def assign(berth: int = 3) -> int:\n    return berth\n",
            },
            Way {
                id: "annotate",
                title: "widen the annotation",
                price: "the function must handle one type more",
                example: "def assign(berth: int | str = \"three\") -> int | str:\n    return berth\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ValueDefault { declared, given, name, annotation } = &problem.kind else { return None };
        let because = context.because(problem.expr, *declared);
        let (given, declared) = context.two(*given, *declared);
        let name = context.db().names().text(*name);
        let message = format!("the default {given} does not fit `{name}`, which is annotated {declared}{because}");
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence.push(Evidence::asking(context.infer.file, *annotation, format!("annotated {declared}")));
        Some(worded)
    },
};
