use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;
use crate::types::Type;

pub static RULE: Rule = Rule {
    slug: "call.argument",
    summary: "an argument does not fit its parameter",
    severity: Severity::Error,
    page: Page {
        means: "The parameter is declared with a type, and the argument's type does not fit it.",
        example: "def assign(vessel: str, berth: int) -> str:\n    return f\"{vessel}: {berth + 1}\"\n\nassign(\"Gannet\", \"3\")\n",
        at_run_time: "Nothing at the call itself; the function goes on with a value that it was not written for, and fails \
                      or goes wrong somewhere inside.",
        ways: &[
            Way {
                id: "convert",
                title: "convert or correct the value before the call",
                price: "one place changes",
                example: "def assign(vessel: str, berth: int) -> str:\n    return f\"{vessel}: {berth + 1}\"\n\nassign(\"Gannet\", int(\"3\"))\n",
            },
            Way {
                id: "widen",
                title: "let the parameter accept this type too, and handle it",
                price: "the function's body must handle one type more",
                example: "def assign(vessel: str, berth: int | str) -> str:\n    return f\"{vessel}: {int(berth) + 1}\"\n\nassign(\"Gannet\", \"3\")\n",
            },
            Way {
                id: "check",
                title: "check the value before the call",
                price: "one branch more, and something to do when it fails",
                example: "def assign(vessel: str, berth: int) -> str:\n    return f\"{vessel}: {berth + 1}\"\n\ndef move(berth: int | str) -> None:\n    if isinstance(berth, int):\n        assign(\"Gannet\", berth)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallArgument { callee, param, expected, given, place } = &problem.kind else { return None };
        let name = context.db().names().text(*param);
        let (given_shown, expected_shown) = context.two(*given, *expected);
        let which = if name.is_empty() { format!("argument {}", place + 1) } else { format!("`{name}`") };
        let because = context.because(problem.expr, *expected);
        let message =
            format!("{given_shown} does not fit {which} of `{}`, which takes {expected_shown}{because}", callee.shown);
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(expr) = problem.expr {
            let wanted = *expected;
            worded.evidence = evidence::of(context.infer, expr, &mut |infer, ty| !infer.is_assignable(ty, wanted));
        }
        if let Some(site) = callee.param.or(callee.at) {
            worded.evidence.push(context.said_at(site, format!("{which} takes {expected_shown}")));
        }
        let store = context.db().store();
        if crate::types::union::may_be_none(store, *given) && !matches!(expected, Type::Union(_)) {
            worded.remedies[0].title = "handle None before the call".into();
        }
        Some(worded)
    },
};
