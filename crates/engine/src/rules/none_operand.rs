use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "none.operand",
    summary: "an operand may be None",
    severity: Severity::Warning,
    page: Page {
        means: "On some path one of the operands is None, and the operator does not take None. Where the None comes from is often far from where it is used: look at the first place of the thread.",
        example: "def total(fares: dict[str, int], name: str) -> int:\n    return fares.get(name) + 1\n",
        at_run_time: "TypeError: unsupported operand type(s), on just the path where the value is None.",
        ways: &[
            Way {
                id: "default",
                title: "give a default where the None comes from",
                price: "the default must make sense to everyone who sees it",
                example: "def total(fares: dict[str, int], name: str) -> int:\n    return fares.get(name, 0) + 1\n",
            },
            Way {
                id: "check",
                title: "check for None before use",
                price: "one branch more, and something to do in it",
                example: "def total(fares: dict[str, int], name: str) -> int:\n    fare = fares.get(name)\n    if fare is None:\n        return 0\n    return fare + 1\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NoneOperand { holder, object, operator } = &problem.kind else { return None };
        let verb = format!("does not go with `{}`", operator.sign());
        Some(context.none_words(*holder, *object, &verb, RULE.page.ways))
    },
};
