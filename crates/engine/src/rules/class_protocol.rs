use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::definitions::classes::members;
use crate::outline::Site;
use crate::problems::Reason;

pub static RULE: Rule = Rule {
    slug: "class.protocol",
    summary: "something lacks what a protocol asks for, or has it otherwise",
    severity: Severity::Error,
    page: Page {
        means: "A protocol names the members that are needed, and any object that has them will do (PEP 544). This one lacks a member, or has it with parameters, a result or a type that do not fit.",
        example: "from typing import Protocol\n\nclass Floats(Protocol):\n    def draught(self) -> float: ...\n\nclass Buoy:\n    def draught(self) -> str:\n        return \"shallow\"\n\ndef moor(vessel: Floats) -> None: ...\n\nmoor(Buoy())\n",
        at_run_time: "AttributeError or TypeError, where the member is used as the protocol has it.",
        ways: &[
            Way {
                id: "give",
                title: "give the class the member as the protocol has it",
                price: "nothing, where it is meant to be one of these",
                example: "from typing import Protocol\n\nclass Floats(Protocol):\n    def draught(self) -> float: ...\n\nclass Buoy:\n    def draught(self) -> float:\n        return 0.5\n\ndef moor(vessel: Floats) -> None: ...\n\nmoor(Buoy())\n",
            },
            Way {
                id: "ask-less",
                title: "let the protocol ask for less",
                price: "the code behind it can use less",
                example: "from typing import Protocol\n\nclass Floats(Protocol):\n    def draught(self) -> object: ...\n\nclass Buoy:\n    def draught(self) -> str:\n        return \"shallow\"\n\ndef moor(vessel: Floats) -> None: ...\n\nmoor(Buoy())\n",
            },
        ],
    },
    word: |context, problem| {
        let (mut worded, Reason::Protocol { class, member, clash }) = context.inner_words(problem)? else {
            return None;
        };
        let name = context.db().names().text(member);
        let what = match clash {
            None => format!("it has no `{name}`"),
            Some(clash) => format!("of its `{name}`, {}", context.clash_words(&clash)),
        };
        worded.message = format!("{}; {what}", worded.message);
        worded.remedies = RULE.page.ways.iter().map(Way::remedy).collect();
        if let Some(found) = members::own_member(context.db(), class.file, class.class, member) {
            let site = Site { file: class.file, at: found.at };
            worded.evidence.push(context.said_at(site, format!("the protocol asks for `{name}`")));
        }
        Some(worded)
    },
};
