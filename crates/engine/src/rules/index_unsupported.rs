use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{Access, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "index.unsupported",
    summary: "an item is read from something that has no such items",
    severity: Severity::Error,
    page: Page {
        means: "The object has no `__getitem__`, so that brackets behind it mean nothing; or it takes no key of this type.",
        example: "class Vessel:\n    name = \"Tern\"\n\nVessel()[0]\n",
        at_run_time: "TypeError: … object is not subscriptable, whenever the line runs.",
        ways: &[
            Way {
                id: "narrow",
                title: "check that it is of a class that has items",
                price: "AssertionError where it is of another one",
                example: "class Vessel:\n    pass\n\nclass Ferry(Vessel):\n    def __getitem__(self, deck: int) -> str:\n        return \"Tern\"\n\ndef order(vessel: Vessel) -> str:\n    assert isinstance(vessel, Ferry)\n    return vessel[0]\n",
            },
            Way {
                id: "attribute",
                title: "read an attribute instead",
                price: "one place changes",
                example: "class Vessel:\n    name = \"Tern\"\n\nVessel().name\n",
            },
            Way {
                id: "define",
                title: "give the class a `__getitem__`",
                price: "its objects now look like containers",
                example: "class Vessel:\n    def __getitem__(self, deck: int) -> str:\n        return \"Tern\"\n\nVessel()[0]\n",
            },
            Way {
                id: "key",
                title: "convert or correct the key",
                price: "one place changes",
                example: "fares: dict[str, int] = {\"1\": 4}\nfares[str(1)]\n",
            },
        ],
    },
    word: |context, problem| {
        let holder = context.object_of(problem.expr);
        if let ProblemKind::IndexKey { object, expected, given } = problem.kind {
            let (expected, given) = context.two(expected, given);
            let message = format!("{} takes {expected} in brackets, not {given}", context.quoted(object));
            let mut worded = Worded::plain(message, &RULE.page.ways[KEY..]);
            if let Some(holder) = holder {
                worded.evidence =
                    crate::findings::evidence::of(context.infer, holder, &mut |infer, ty| infer.holds_part(ty, object));
            }
            return Some(worded);
        }
        if let ProblemKind::KeyOpen { object, given } = problem.kind {
            let (object, given) = context.two(object, given);
            let message = format!("{object} takes its keys written out, and this may be any {given}");
            return Some(Worded::plain(message, &RULE.page.ways[KEY..]));
        }
        let ProblemKind::IndexUnsupported { object, access } = &problem.kind else { return None };
        let what = match access {
            Access::Read => "has no items",
            Access::Write => "has no items that could be assigned",
            Access::Delete => "has no items that could be deleted",
        };
        let message = format!("{} {what}", context.quoted(*object));
        let mut worded = Worded::plain(message, &RULE.page.ways[..KEY]);
        worded.evidence =
            crate::findings::evidence::of(context.infer, holder?, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};

/// Where the ways out of a key that does not fit begin.
const KEY: usize = 3;
