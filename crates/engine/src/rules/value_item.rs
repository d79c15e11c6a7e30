use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "value.item",
    summary: "a value does not fit the container that it is put into",
    severity: Severity::Error,
    page: Page {
        means: "An item is assigned, and the container is said to hold items, or to have keys, of another type.",
        example: "def price(fares: dict[str, int]) -> None:\n    fares[\"child\"] = \"three\"\n",
        at_run_time: "Nothing at the assignment; every later reader of the container trusts what is said of it and gets something else.",
        ways: &[
            Way {
                id: "convert",
                title: "convert or correct the value",
                price: "one place changes",
                example: "def price(fares: dict[str, int]) -> None:\n    fares[\"child\"] = 3\n",
            },
            Way {
                id: "widen",
                title: "widen what is said of the container",
                price: "every reader must handle one type more",
                example: "def price(fares: dict[str, int | str]) -> None:\n    fares[\"child\"] = \"three\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ValueItem { object, expected, given, is_key } = &problem.kind else { return None };
        let (given_shown, expected_shown) = context.two(*given, *expected);
        let (what, verb) = if *is_key { ("as a key ", "has keys of") } else { ("", "holds") };
        let object = context.quoted(*object);
        let message = format!("{given_shown} does not fit {what}into {object}, which {verb} {expected_shown}");
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(expr) = problem.expr {
            let wanted = *expected;
            worded.evidence = evidence::of(context.infer, expr, &mut |infer, ty| !infer.is_assignable(ty, wanted));
        }
        Some(worded)
    },
};
