use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{Fixed, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "member.readonly",
    summary: "an attribute or item that cannot be assigned, or deleted, is",
    severity: Severity::Error,
    page: Page {
        means: "The attribute is a property without a setter, a field of a frozen dataclass or of a named tuple, declared as final, a variable of the class that is assigned on an object, or a member of an enumeration; or the item of a typed dictionary is declared to be only read (PEP 705), or must be there and is deleted.",
        example: "class Vessel:\n    @property\n    def length(self) -> int:\n        return 30\n\nVessel().length = 40\n",
        at_run_time: "AttributeError when the line runs; of what is only declared as final, others see a value that was said never to change.",
        ways: &[
            Way {
                id: "setter",
                title: "give the property a setter",
                price: "the class must know what to do with the value",
                example: "class Vessel:\n    def __init__(self) -> None:\n        self._length = 30\n\n    @property\n    def length(self) -> int:\n        return self._length\n\n    @length.setter\n    def length(self, length: int) -> None:\n        self._length = length\n\nVessel().length = 40\n",
            },
            Way {
                id: "new",
                title: "make another object with the other value",
                price: "those who hold the old object do not see the new value",
                example: "class Vessel:\n    def __init__(self, length: int) -> None:\n        self._length = length\n\n    @property\n    def length(self) -> int:\n        return self._length\n\nVessel(40)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::MemberReadonly { object, name, why, at, is_deleted } = &problem.kind else { return None };
        let reason = match why {
            Fixed::Property if *is_deleted => "a property without a deleter",
            Fixed::Property => "a property without a setter",
            Fixed::Kept => "a property without a deleter",
            Fixed::Frozen => "a field of a frozen dataclass",
            Fixed::Tuple => "a field of a named tuple",
            Fixed::Final => "declared as final",
            Fixed::ClassVariable => "a variable of the class, by `ClassVar`",
            Fixed::Member => "a member of an enumeration",
            Fixed::Item => "declared to be only read",
            Fixed::Required => "an item that must be there",
        };
        let done = match (why, is_deleted) {
            (Fixed::ClassVariable, false) => "assigned on an object",
            (Fixed::Required, _) | (_, true) => "deleted",
            _ => "assigned",
        };
        let name = context.db().names().text(*name);
        let message = format!("`{name}` of {} cannot be {done}: it is {reason}", context.quoted(*object));
        let ways = if *why == Fixed::Property { RULE.page.ways } else { &RULE.page.ways[1..] };
        let mut worded = Worded::plain(message, ways);
        worded.evidence.push(context.said_at(*at, format!("`{name}` is {reason}")));
        Some(worded)
    },
};
