use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{BadForm, ProblemKind};
use crate::types::Type;
use crate::types::display::show;

pub static RULE: Rule = Rule {
    slug: "annotation.form",
    summary: "a form of the typing module is given what it does not take",
    severity: Severity::Error,
    page: Page {
        means: "Each form takes its own arguments: `Optional` one type, `Callable` a list of parameters and a result, `Literal` \
                values that are written out, `Annotated` a type and what is said of it, a tuple dots behind its only type \
                (typing specification, \"Special types in annotations\" and the form's own chapter).",
        example: "from typing import Optional\n\ndef berth(vessel: Optional[int, str]) -> int:\n    return 3\n",
        at_run_time: "Some forms raise TypeError as soon as the module is imported, others take anything; what is meant is lost \
                      either way, and what has such a type is not checked.",
        ways: &[
            Way {
                id: "correct",
                title: "give the form what it takes",
                price: "nothing",
                example: "from typing import Optional\n\ndef berth(vessel: Optional[int]) -> int:\n    return 3\n",
            },
            Way {
                id: "union",
                title: "write several types with `|` between them",
                price: "where Python is older than 3.10, the module needs `from __future__ import annotations`",
                example: "def berth(vessel: int | str | None) -> int:\n    return 3\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::AnnotationForm { why } = problem.kind else { return None };
        let db = context.db();
        let name = |special| show(db, Type::Special(special));
        let message = match why {
            BadForm::Bare(special) => format!("`{}` says nothing without its arguments", name(special)),
            BadForm::One(special, given) => format!("`{}` takes one argument, not {given}", name(special)),
            BadForm::Annotated => "`Annotated` takes a type and at least one thing that is said of it".into(),
            BadForm::Callable => {
                "`Callable` takes a list of parameters (or `...`) and a result: `Callable[[int], str]`".into()
            }
            BadForm::Concatenate => {
                "`Concatenate` takes types and behind them a variable for parameters, or `...`".into()
            }
            BadForm::Literal => {
                "`Literal` takes what is written out: texts, whole numbers, truth values, None, members of enumerations"
                    .into()
            }
            BadForm::Dots => "dots stand in a tuple only behind its one type: `tuple[int, ...]`".into(),
            BadForm::TwoOpen => "a tuple has one part of any length at most".into(),
            BadForm::Unpacked => "only tuples, and variables for tuples, can be unpacked".into(),
            BadForm::NoArguments(special) => format!("`{}` takes no arguments", name(special)),
            BadForm::Twice(key) => {
                format!("`{}` is a parameter and a key of what is unpacked here", db.names().text(key))
            }
            BadForm::NoItems(ty) => {
                format!("behind `**` only a typed dictionary can be unpacked, not {}", context.quoted(ty))
            }
            BadForm::QuotedPart => {
                "a text beside `|` fails as the annotation is evaluated: quote the whole of it".into()
            }
            BadForm::Apart(named, param) => {
                let (named, param) = context.two(named, param);
                format!("`TypeIs` says that a {param} is a {named}, which it cannot be")
            }
            BadForm::Choice => "`or` and `and` choose one of the two here; is `|` meant?".into(),
        };
        let ways = match why {
            BadForm::One(..) | BadForm::Choice => RULE.page.ways,
            _ => &RULE.page.ways[..1],
        };
        Some(Worded::plain(message, ways))
    },
};
