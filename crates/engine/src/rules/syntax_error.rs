use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "syntax.error",
    summary: "the text is not valid Python",
    severity: Severity::Error,
    page: Page {
        means: "The interpreter would refuse this file. The rest of it is still checked as far as it can be read, but what \
                stands near the fault may be read wrongly. Where the text is Python of a later version than the project's, the \
                finding says which.",
        example: "def board(passenger:\n    return passenger\n",
        at_run_time: "Importing the module raises SyntaxError before a single line of it runs.",
        ways: &[Way {
            id: "mend",
            title: "mend the text",
            price: "nothing",
            example: "def board(passenger):\n    return passenger\n",
        }],
    },
    word: |_, problem| {
        let mut message = match &problem.kind {
            ProblemKind::Syntax { message } => message.clone(),
            ProblemKind::SyntaxNewer { what, since: (major, minor), version } => {
                let message = format!(
                    "{what} needs Python {major}.{minor}, and this project is checked for {}.{}",
                    version.0, version.1
                );
                let mut worded = Worded::plain(message, RULE.page.ways);
                worded.remedies[0].title = format!(
                    "write it as Python {}.{} reads it, or set `python` to a later version",
                    version.0, version.1
                );
                worded.remedies[0].price = "one place changes, or the older version is no longer served";
                return Some(worded);
            }
            _ => return None,
        };
        if let Some(first) = message.get(..1) {
            message = format!("not valid Python: {}{}", first.to_lowercase(), &message[1..]);
        }
        Some(Worded::plain(message, RULE.page.ways))
    },
};
