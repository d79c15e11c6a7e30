use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "none.argument",
    summary: "an argument may be None where None is not taken",
    severity: Severity::Warning,
    page: Page {
        means: "On some path the argument is None, and the parameter does not take None. But for that, it fits.",
        example: "def assign(berth: int) -> int:\n    return berth\n\ndef moor(berths: dict[str, int], name: str) -> int:\n    return assign(berths.get(name))\n",
        at_run_time: "Whatever the function does with None: often an AttributeError or TypeError further in, far from the cause.",
        ways: &[
            Way {
                id: "default",
                title: "give a default where the None comes from",
                price: "the default must make sense to everyone who sees it",
                example: "def assign(berth: int) -> int:\n    return berth\n\ndef moor(berths: dict[str, int], name: str) -> int:\n    return assign(berths.get(name, 1))\n",
            },
            Way {
                id: "check",
                title: "check for None before use",
                price: "one branch more, and something to do in it",
                example: "def assign(berth: int) -> int:\n    return berth\n\ndef moor(berths: dict[str, int], name: str) -> int:\n    berth = berths.get(name)\n    if berth is None:\n        return 0\n    return assign(berth)\n",
            },
            Way {
                id: "parameter",
                title: "let the parameter accept None, and handle it",
                price: "the function must handle None for all its callers",
                example: "from typing import Optional\n\ndef assign(berth: Optional[int]) -> int:\n    return berth or 0\n\ndef moor(berths: dict[str, int], name: str) -> int:\n    return assign(berths.get(name))\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NoneArgument { callee, param, place, expected, object } = &problem.kind else { return None };
        let taker = if *param == leitmotiv_syntax::names::known::EMPTY {
            format!("argument {} of `{}`", place + 1, callee.shown)
        } else {
            format!("`{}` of `{}`", context.db().names().text(*param), callee.shown)
        };
        let verb = format!("does not fit {taker}, which takes {}", context.quoted(*expected));
        let mut worded = context.none_words(problem.expr?, *object, &verb, RULE.page.ways);
        if let Some(site) = callee.param {
            let text = format!("`{}` takes {}", context.db().names().text(*param), context.quoted(*expected));
            worded.evidence.push(context.said_at(site, text));
        }
        Some(worded)
    },
};
