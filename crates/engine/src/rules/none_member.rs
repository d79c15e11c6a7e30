use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::evidence;
use crate::problems::ProblemKind;
use crate::types::Type;

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
        let name = context.db().names().text(*name);
        let holder = context.object_of(problem.expr);
        let named = context.named(holder);
        let message = if *object == Type::None {
            format!("{named} is None here, and None has no attribute `{name}`")
        } else {
            let rest = crate::types::union::filter(context.db().store(), *object, |part| part != Type::None);
            let whole = if rest.is_dynamic() { String::new() } else { format!(" ({})", context.quoted(*object)) };
            format!("{named} may be None here{whole}, and None has no attribute `{name}`")
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        if let Some(holder) = holder {
            worded.evidence = evidence::of(context.infer, holder, &mut |infer, ty| infer.holds_part(ty, Type::None));
        }
        worded.remedies[1].title = format!("check {named} for None before use");
        Some(worded)
    },
};
