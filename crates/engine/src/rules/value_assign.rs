use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "value.assign",
    summary: "a value does not fit the declared type of what it is assigned to",
    severity: Severity::Error,
    page: Page {
        means: "The variable, attribute or parameter is declared with a type, and the value's type does not fit it.",
        example: "capacity: int = \"120\"\n",
        at_run_time: "Nothing at the assignment; every later reader trusts the declaration and gets something else.",
        ways: &[
            Way {
                id: "convert",
                title: "convert or correct the value",
                price: "one place changes",
                example: "capacity: int = int(\"120\")\n",
            },
            Way {
                id: "widen",
                title: "widen the declaration",
                price: "every reader must handle one type more",
                example: "capacity: int | str = \"120\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ValueAssign { declared, given, name, def } = &problem.kind else { return None };
        let name = context.db().names().text(*name);
        let (given_shown, declared_shown) = context.two(*given, *declared);
        let target = if name.is_empty() { "the target".to_owned() } else { format!("`{name}`") };
        let because = context.because(problem.expr, *declared);
        let message = format!("{given_shown} does not fit {target}, which is declared as {declared_shown}{because}");
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(expr) = problem.expr {
            let wanted = *declared;
            worded.evidence = evidence::of(context.infer, expr, &mut |infer, ty| !infer.is_assignable(ty, wanted));
        }
        if let Some(site) = def {
            worded.evidence.push(context.said_at(*site, format!("declared as {declared_shown}")));
        }
        Some(worded)
    },
};
