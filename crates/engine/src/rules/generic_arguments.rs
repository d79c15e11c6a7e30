use leitmotiv_index::anchor::Anchor;
use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "generic.arguments",
    summary: "a class or an alias is given more or fewer type arguments than it takes",
    severity: Severity::Error,
    page: Page {
        means: "In brackets behind a generic class or alias stand the types that its variables are to be, as many as it has variables; what is not generic takes none (PEP 484, PEP 695).",
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
        let (name, takes, given, class) = match problem.kind {
            ProblemKind::GenericArguments { class, takes, given } => {
                (crate::definitions::classes::shown(context.db(), class), takes, given, Some(class))
            }
            ProblemKind::AliasArguments { name, takes, given } => (context.db().names().text(name), takes, given, None),
            _ => return None,
        };
        let takes = match takes {
            0 => "no type arguments".to_owned(),
            1 => "1 type argument".to_owned(),
            takes => format!("{takes} type arguments"),
        };
        let message = format!("`{name}` takes {takes}, {given} given");
        let mut worded = Worded::plain(message, RULE.page.ways);
        let Some(class) = class else { return Some(worded) };
        let site = Site { file: class.file, at: Anchor::Class(class.class) };
        worded.evidence.push(context.said_at(site, format!("`{name}` is declared here")));
        Some(worded)
    },
};
