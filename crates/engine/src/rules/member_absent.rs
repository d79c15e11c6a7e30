use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;
use crate::types::Type;

pub static RULE: Rule = Rule {
    slug: "member.absent",
    summary: "an object or module has no such attribute",
    severity: Severity::Error,
    page: Page {
        means: "Neither the class nor any of its bases, nor any method that assigns attributes, gives the object this name.",
        example: "class Vessel:\n    def __init__(self, name):\n        self.name = name\n\nprint(Vessel(\"Gannet\").nam)\n",
        at_run_time: "AttributeError when the line runs, unless something sets the attribute from outside first.",
        ways: &[
            Way {
                id: "spell",
                title: "correct the name",
                price: "one place changes",
                example: "class Vessel:\n    def __init__(self, name):\n        self.name = name\n\nprint(Vessel(\"Gannet\").name)\n",
            },
            Way {
                id: "narrow",
                title: "check that it is of a class that has it",
                price: "AssertionError where it is of another one",
                example: "class Vessel:\n    pass\n\nclass Ferry(Vessel):\n    cafe = True\n\ndef order(vessel: Vessel) -> bool:\n    assert isinstance(vessel, Ferry)\n    return vessel.cafe\n",
            },
            Way {
                id: "declare",
                title: "declare the attribute in the class, if something else sets it",
                price: "whoever makes an instance must really set it",
                example: "class Vessel:\n    nam: str\n    def __init__(self, name):\n        self.name = name\n\nprint(Vessel(\"Gannet\").nam)\n",
            },
            Way {
                id: "version",
                title: "ask for the version first: `if sys.version_info >= …`",
                price: "both branches must be kept working",
                example: "import math\nimport sys\n\nif sys.version_info >= (3, 99):\n    math.tide(3.0)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::MemberAbsent { object, name, near, rest } = &problem.kind else { return None };
        let version = match *object {
            Type::Module(file) => context.lacking_version(file, *name),
            _ => None,
        };
        let name = context.db().names().text(*name);
        let subject = match *object {
            Type::Module(file) => context.module_words(file),
            object => context.quoted(object),
        };
        let mut message = format!("{subject} has no attribute `{name}`");
        if let Some(rest) = rest {
            let holder = context.object_of(problem.expr);
            message = format!(
                "{} may be {subject}, which has no attribute `{name}` (it is {})",
                context.named(holder),
                context.quoted(*rest)
            );
        }
        if let Some((major, minor)) = version {
            let mut worded = Worded::plain(format!("{message} in Python {major}.{minor}"), RULE.page.ways);
            worded.remedies.retain(|remedy| remedy.id == "version");
            return Some(worded);
        }
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.remedies.retain(|remedy| remedy.id != "version");
        if let Some(near) = near {
            worded.message.push_str(&format!(" (is `{near}` meant?)"));
            worded.remedies[0].title = format!("write `{near}`");
            worded.remedies[0].price = "nothing";
        }
        if matches!(object, Type::Module(_)) {
            worded.remedies.truncate(1);
        }
        if !matches!(object, Type::Module(_) | Type::Class(_))
            && let Some(holder) = context.object_of(problem.expr)
        {
            let bad = *object;
            worded.evidence = evidence::of(context.infer, holder, &mut |infer, ty| infer.holds_part(ty, bad));
        }
        Some(worded)
    },
};
