use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "none.member",
    summary: "an attribute is read from something that may be None",
    severity: Severity::Warning,
    page: Page {
        means: "On some path the value is None, and None has no such attribute. Where the None comes from is often far from \
                where it is used: look at the first place of the thread.",
        example: "def find(vessels: dict[str, str], name: str) -> str:\n    return vessels.get(name).upper()\n",
        at_run_time: "AttributeError: 'NoneType' object has no attribute …, on just the path where the value is None.",
        ways: &[
            Way {
                id: "default",
                title: "give a default where the None comes from",
                price: "the default must make sense to everyone who sees it",
                example: "def find(vessels: dict[str, str], name: str) -> str:\n    return vessels.get(name, \"\").upper()\n",
            },
            Way {
                id: "check",
                title: "check for None before use",
                price: "one branch more, and something to do in it",
                example: "def find(vessels: dict[str, str], name: str) -> str:\n    vessel = vessels.get(name)\n    if vessel is None:\n        return \"\"\n    return vessel.upper()\n",
            },
            Way {
                id: "assert",
                title: "assert that it is not None, if you know better",
                price: "the protection is gone: when you are wrong, the program stops here",
                example: "def find(vessels: dict[str, str], name: str) -> str:\n    vessel = vessels.get(name)\n    assert vessel is not None\n    return vessel.upper()\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::NoneMember { object, name } = &problem.kind else { return None };
        let verb = format!("has no attribute `{}`", context.db().names().text(*name));
        Some(context.none_words(context.object_of(problem.expr)?, *object, &verb, RULE.page.ways))
    },
};
