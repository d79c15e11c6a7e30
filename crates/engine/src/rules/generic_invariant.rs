use leitmotiv_project::settings::Severity;

use super::{Context, Page, Rule, Way};
use crate::definitions::classes;
use crate::problems::Reason;
use crate::types::union::{filter, parts};
use crate::types::{ClassRef, Type};

pub static RULE: Rule = Rule {
    slug: "generic.invariant",
    summary: "a container does not fit because more could be put into it",
    severity: Severity::Error,
    page: Page {
        means: "What can be changed through one name is seen through all. If a `list[int]` could stand as a `list[float]`, whoever has it under that name might put a `2.5` in, and who still holds the list of `int` would find it there. So the elements of a container that can be written to must be just the same; of one that is only read, they need but fit.",
        example: "def total(prices: list[float]) -> float:\n    return sum(prices)\n\ndef sell(prices: list[int]) -> float:\n    return total(prices)\n",
        at_run_time: "Nothing at this line; later, an element of a type that the first owner of the container does not expect.",
        ways: &[
            Way {
                id: "base",
                title: "ask for the base that is only read: `Sequence`, `Collection`, `Mapping`",
                price: "the code behind can only read it",
                example: "from collections.abc import Sequence\n\ndef total(prices: Sequence[float]) -> float:\n    return sum(prices)\n\ndef sell(prices: list[int]) -> float:\n    return total(prices)\n",
            },
            Way {
                id: "exact",
                title: "declare the container with just these elements where it is made",
                price: "all who read it must handle the wider type",
                example: "def total(prices: list[float]) -> float:\n    return sum(prices)\n\ndef sell(prices: list[float]) -> float:\n    return total(prices)\n",
            },
            Way {
                id: "copy",
                title: "pass a copy",
                price: "the time and memory of a copy, and changes do not reach the original",
                example: "def total(prices: list[float]) -> float:\n    return sum(prices)\n\ndef sell(prices: list[int]) -> float:\n    return total(list(prices))\n",
            },
        ],
    },
    word: |context, problem| {
        let (mut worded, Reason::Invariant { class, have, want }) = context.inner_words(problem)? else { return None };
        let more = sample(context, have, want);
        let held = context.quoted(have);
        worded.message = format!("{}; {more} could then be put among its {held}", worded.message);
        worded.remedies = RULE.page.ways.iter().map(Way::remedy).collect();
        match read_base(context, class, want) {
            Some(base) => worded.remedies[0].title = format!("ask for `{base}`, which is only read"),
            // Other classes have no such base that we know of.
            None => {
                worded.remedies.remove(0);
                worded.remedies.retain(|remedy| remedy.id != "copy");
            }
        }
        Some(worded)
    },
};

/// Something that fits what is asked for and not what is held.
fn sample(context: &Context<'_, '_>, have: Type, want: Type) -> String {
    let store = context.db().store();
    let more = filter(store, want, |part| !context.infer.is_assignable(part, have));
    let part = parts(store, &more).first().copied().unwrap_or(want);
    match part {
        Type::None => "None".to_owned(),
        Type::Instance(id) => match classes::shown(context.db(), store.instance(id).class) {
            "int" => "`3`".to_owned(),
            "float" => "`2.5`".to_owned(),
            "str" => "`\"north\"`".to_owned(),
            _ => format!("any {}", context.quoted(part)),
        },
        _ => format!("any {}", context.quoted(part)),
    }
}

/// The base of a built-in container that is only read, with the elements that are asked for.
fn read_base(context: &Context<'_, '_>, class: ClassRef, want: Type) -> Option<String> {
    let db = context.db();
    let base = base_of(context, class)?;
    let shown = crate::types::display::show(db, want);
    Some(if base == "Mapping" { format!("{base}[…, {shown}]") } else { format!("{base}[{shown}]") })
}

/// The base of a built-in container that is only read: a name of `collections.abc`.
pub(super) fn base_of(context: &Context<'_, '_>, class: ClassRef) -> Option<&'static str> {
    let db = context.db();
    let is_own = class.file.origin(db).is_own();
    match classes::shown(db, class) {
        "list" | "MutableSequence" | "deque" if !is_own => Some("Sequence"),
        "set" | "MutableSet" if !is_own => Some("Set"),
        "dict" | "MutableMapping" | "defaultdict" | "OrderedDict" if !is_own => Some("Mapping"),
        _ => None,
    }
}
