use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way};
use crate::problems::{Problem, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "none.correlated",
    summary: "something that is None unless two conditions go together",
    severity: Severity::Note,
    page: Page {
        means: "A name is None at first and given a value under one condition; it is used under another. Or an attribute is None until another method gives it a value, and most methods that read it do not ask. Where the two always go together all is well, and nobody can tell from the text.",
        example: "def announce(is_late: bool, has_speaker: bool) -> str:\n    reason = None\n    if is_late:\n        reason = \"fog\"\n    if has_speaker:\n        return reason.upper()\n    return \"\"\n",
        at_run_time: "Nothing where the conditions go together; else what the use of None gives, mostly AttributeError or TypeError.",
        ways: &[
            Way {
                id: "ask",
                title: "ask about the value itself in place of the other condition",
                price: "nothing, where the conditions go together",
                example: "def announce(is_late: bool, has_speaker: bool) -> str:\n    reason = None\n    if is_late:\n        reason = \"fog\"\n    if reason is not None:\n        return reason.upper()\n    return \"\"\n",
            },
            Way {
                id: "assert",
                title: "assert that it is there",
                price: "an AssertionError where the conditions do not go together",
                example: "def announce(is_late: bool, has_speaker: bool) -> str:\n    reason = None\n    if is_late:\n        reason = \"fog\"\n    if has_speaker:\n        assert reason is not None\n        return reason.upper()\n    return \"\"\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Correlated { kind, given, is_later } = &problem.kind else { return None };
        let inner = Problem { kind: (**kind).clone(), ..problem.clone() };
        if !inner.kind.is_of_none() {
            return None;
        }
        let (_, mut worded) = super::word(context, &inner)?;
        let (file, range) = (given.file, given.range(context.db()));
        let place = match file == context.infer.file {
            true => format!("in line {}", context.line_of(range)),
            false => format!("in `{}`", context.db().names().text(file.module(context.db()))),
        };
        worded.message.push_str(&match is_later {
            true => format!("; another method gives it a value, {place}, and few of the class ask"),
            false => format!("; what it is given {place} is under another condition"),
        });
        let text = "a value is given here";
        worded.evidence.push(crate::findings::evidence::Evidence::new("assigned", file, range, text.to_owned()));
        worded.remedies = RULE.page.ways.iter().map(Way::remedy).collect();
        Some(worded)
    },
};
