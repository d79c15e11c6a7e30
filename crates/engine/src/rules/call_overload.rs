use leitmotiv_project::settings::Severity;

use super::{Context, Page, Rule, Way, Worded};
use crate::problems::{Mismatch, ProblemKind};

/// As many signatures are told of as a reader may want to go through.
const MOST: usize = 4;

pub static RULE: Rule = Rule {
    slug: "call.overload",
    summary: "none of several signatures takes a call's arguments",
    severity: Severity::Error,
    page: Page {
        means: "What is called has several signatures, and each refuses these arguments for a reason of its own.",
        example: "from typing import overload\n\n@overload\ndef berth_of(vessel: str) -> int: ...\n@overload\ndef berth_of(vessel: int, tide: int) -> str: ...\ndef berth_of(vessel, tide=0):\n    return vessel\n\nberth_of(2.5)\n",
        at_run_time: "Mostly a TypeError or a wrong result, somewhere inside the function.",
        ways: &[
            Way {
                id: "convert",
                title: "give what one of the signatures takes",
                price: "one place changes",
                example: "from typing import overload\n\n@overload\ndef berth_of(vessel: str) -> int: ...\n@overload\ndef berth_of(vessel: int, tide: int) -> str: ...\ndef berth_of(vessel, tide=0):\n    return vessel\n\nberth_of(2, 5)\n",
            },
            Way {
                id: "form",
                title: "add a signature for these arguments",
                price: "the implementation must handle one more case",
                example: "from typing import overload\n\n@overload\ndef berth_of(vessel: str) -> int: ...\n@overload\ndef berth_of(vessel: float) -> float: ...\ndef berth_of(vessel, tide=0):\n    return vessel\n\nberth_of(2.5)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::CallOverload { callee, forms } = &problem.kind else { return None };
        let message = format!("none of the {} signatures of `{}` takes these arguments", forms.len(), callee.shown);
        let mut worded = Worded::plain(message, RULE.page.ways);
        // The first few say enough; `lookup` lists them all.
        for form in forms.iter().take(MOST) {
            let Some(site) = form.at else { continue };
            let reason = reason(context, &form.why);
            worded.evidence.push(context.said_at(site, reason));
        }
        Some(worded)
    },
};

/// Why a signature does not take the arguments.
fn reason(context: &Context<'_, '_>, why: &Mismatch) -> String {
    let text = |name| context.db().names().text(name);
    match why {
        Mismatch::Missing(names) => {
            let names: Vec<String> = names.iter().map(|name| format!("`{}`", text(*name))).collect();
            format!("this one needs {}", names.join(", "))
        }
        Mismatch::Surplus { taken, given } => format!("this one takes {}, {given} given", positional(*taken)),
        Mismatch::Keyword(name, _) => format!("this one has no parameter `{}`", text(*name)),
        Mismatch::Repeated(name) => format!("this one gets `{}` twice", text(*name)),
        Mismatch::Argument { name, place, expected, given } => {
            let (given, expected) = context.two(*given, *expected);
            let which =
                if text(*name).is_empty() { format!("argument {}", place + 1) } else { format!("`{}`", text(*name)) };
            format!("for {which} this one takes {expected}, not {given}")
        }
    }
}

/// So many positional arguments, in words.
pub(super) fn positional(taken: usize) -> String {
    match taken {
        0 => "no positional arguments".to_owned(),
        1 => "1 positional argument".to_owned(),
        taken => format!("{taken} positional arguments"),
    }
}
