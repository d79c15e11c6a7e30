use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;
use crate::types::Type;
use crate::types::union::parts;

pub static RULE: Rule = Rule {
    slug: "unknown.value",
    summary: "a value is used whose type is not known",
    severity: Severity::Off,
    page: Page {
        means: "Nothing can be told of a value whose type is not known, and so no mistake with it is seen. Off unless the demand `known-values` asks for it. In one function it is told once for each reason, where such a value is used first, with the number of the other uses. An explicit `Any` is not unknown: somebody wrote it.",
        example: "def price(distance, rate: float) -> float:\n    return rate * distance.miles\n",
        at_run_time: "Nothing by itself: but an attribute that is not there, or an operand that does not fit, is only seen when the code runs.",
        ways: &[
            Way {
                id: "annotate",
                title: "say what it is where it comes from: by an annotation, or by a stub for a module without types",
                price: "one declaration changes; what does not fit it is told then",
                example: "class Distance:\n    miles: float = 0.0\n\ndef price(distance: Distance, rate: float) -> float:\n    return rate * distance.miles\n",
            },
            Way {
                id: "narrow",
                title: "check what it is before it is used",
                price: "one check more each time the code runs",
                example: "class Distance:\n    miles: float = 0.0\n\ndef price(distance: object, rate: float) -> float:\n    if not isinstance(distance, Distance):\n        raise TypeError(distance)\n    return rate * distance.miles\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::UnknownValue { cause, uses } = problem.kind else { return None };
        let named = context.named(problem.expr);
        let why = evidence::cause_words(context.db(), cause);
        let more = match uses {
            0 | 1 => String::new(),
            2 => "; so is one more value here".to_owned(),
            uses => format!("; so are {} more values here", uses - 1),
        };
        let mut worded =
            Worded::plain(format!("what {named} is cannot be told, because of {why}{more}"), RULE.page.ways);
        if let Some(expr) = problem.expr {
            worded.evidence = evidence::of(context.infer, expr, &mut |infer, ty| {
                parts(infer.db.store(), &ty).contains(&Type::Unknown(cause))
            });
        }
        Some(worded)
    },
};
