use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "value.return",
    summary: "a returned value does not fit the declared return type",
    severity: Severity::Error,
    page: Page {
        means: "The function declares what it returns, and this statement returns something that does not fit.",
        example: "def capacity(vessel: str) -> int:\n    return \"120\"\n",
        at_run_time: "Nothing here; every caller trusts the declaration and goes wrong later.",
        ways: &[
            Way {
                id: "convert",
                title: "return what is declared",
                price: "one place changes",
                example: "def capacity(vessel: str) -> int:\n    return int(\"120\")\n",
            },
            Way {
                id: "widen",
                title: "declare what is really returned",
                price: "every caller must handle one type more",
                example: "def capacity(vessel: str) -> int | str:\n    return \"120\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ValueReturn { declared, given, function } = &problem.kind else { return None };
        let (given_shown, declared_shown) = context.two(*given, *declared);
        let name = crate::definitions::functions::shown(context.db(), context.infer.file, *function);
        let because = context.because(problem.expr, *declared);
        let message = format!("{given_shown} does not fit what `{name}` declares to return, {declared_shown}{because}");
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(expr) = problem.expr {
            let wanted = *declared;
            worded.evidence = evidence::of(context.infer, expr, &mut |infer, ty| !infer.is_assignable(ty, wanted));
        }
        let declared = context.declared_result(*function, format!("declared to return {declared_shown}"));
        worded.evidence.splice(0..0, declared);
        Some(worded)
    },
};
