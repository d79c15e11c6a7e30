use leitmotiv_index::anchor::Anchor;
use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "generic.arguments",
    summary: "a generic class is given more or fewer type arguments than it takes",
    severity: Severity::Error,
    page: Page {
        means: "In brackets behind a generic class stand the types that its variables are to be, as many as it has variables (PEP 484, PEP 695).",
        example: "fares: list[str, int] = []\n",
        at_run_time: "Nothing for most built-in classes; TypeError for classes that count, when the annotation is evaluated.",
        ways: &[
            Way {
                id: "fewer",
                title: "give as many as it takes; of elements that are of several types, their union",
                price: "nothing",
                example: "fares: list[str | int] = []\n",
            },
            Way {
                id: "other",
                title: "use the class that was meant",
                price: "nothing",
                example: "fares: dict[str, int] = {}\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::GenericArguments { class, takes, given } = problem.kind else { return None };
        let name = crate::definitions::classes::shown(context.db(), class);
        let plural = if takes == 1 { "" } else { "s" };
        let message = format!("`{name}` takes {takes} type argument{plural}, {given} given");
        let mut worded = Worded::plain(message, RULE.page.ways);
        let site = Site { file: class.file, at: Anchor::Class(class.class) };
        worded.evidence.push(context.said_at(site, format!("`{name}` is declared here")));
        Some(worded)
    },
};
