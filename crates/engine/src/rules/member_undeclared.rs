use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "member.undeclared",
    summary: "an attribute that no class declares is assigned from outside",
    severity: Severity::Warning,
    page: Page {
        means: "The class neither declares the attribute nor assigns it in a method, and has no way to take any name.",
        example: "class Vessel:\n    def __init__(self, name: str) -> None:\n        self.name = name\n\ndef rename(vessel: Vessel) -> None:\n    vessel.nmae = \"Tern\"\n",
        at_run_time: "Nothing, unless the class has `__slots__` (then AttributeError): the object gets one attribute more, which nobody reads where the name was misspelt.",
        ways: &[
            Way {
                id: "rename",
                title: "write the attribute that is meant",
                price: "one place changes",
                example: "class Vessel:\n    def __init__(self, name: str) -> None:\n        self.name = name\n\ndef rename(vessel: Vessel) -> None:\n    vessel.name = \"Tern\"\n",
            },
            Way {
                id: "declare",
                title: "declare the attribute in the class",
                price: "whoever makes an instance should set it",
                example: "class Vessel:\n    nmae: str\n\n    def __init__(self, name: str) -> None:\n        self.name = name\n\ndef rename(vessel: Vessel) -> None:\n    vessel.nmae = \"Tern\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::MemberUndeclared { object, name, near } = &problem.kind else { return None };
        let name = context.db().names().text(*name);
        let mut message = format!("{} declares no attribute `{name}`", context.quoted(*object));
        let mut worded = Worded::plain(String::new(), RULE.page.ways);
        if let Some(near) = near {
            message.push_str(&format!(" (is `{near}` meant?)"));
            worded.remedies[0].title = format!("write `{near}`");
            worded.remedies[0].price = "nothing";
        } else {
            worded.remedies.remove(0);
        }
        worded.message = message;
        Some(worded)
    },
};
