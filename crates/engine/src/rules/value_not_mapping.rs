use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.not-mapping",
    summary: "`**` stands before something whose items cannot be arguments",
    severity: Severity::Error,
    page: Page {
        means: "What `**` unpacks into a call must be a mapping (it has `keys` and `__getitem__`), and its keys must be texts: they are the arguments' names.",
        example: "def fares(**prices: float) -> None:\n    print(prices)\n\ndef show(by_zone: dict[int, float]) -> None:\n    fares(**by_zone)\n",
        at_run_time: "TypeError: … must be a mapping, or: keywords must be strings.",
        ways: &[
            Way {
                id: "pass",
                title: "pass it as one argument",
                price: "the function must take it so",
                example: "def fares(prices: dict[int, float]) -> None:\n    print(prices)\n\ndef show(by_zone: dict[int, float]) -> None:\n    fares(by_zone)\n",
            },
            Way {
                id: "name",
                title: "make texts of its keys",
                price: "one more dictionary each time",
                example: "def fares(**prices: float) -> None:\n    print(prices)\n\ndef show(by_zone: dict[int, float]) -> None:\n    fares(**{f\"zone{zone}\": price for zone, price in by_zone.items()})\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::NotMapping { key } } = &problem.kind else { return None };
        let named = context.named(problem.expr);
        let message = match key {
            Some(key) => format!("the keys of {named} are {}, and names of arguments are `str`", context.quoted(*key)),
            None => format!("{named} is {} here, which is no mapping", context.quoted(*object)),
        };
        let expr = problem.expr?;
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
