use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "annotation.missing",
    summary: "a function is not fully annotated",
    severity: Severity::Off,
    page: Page {
        means: "A parameter or the return type has no annotation. Off unless the demand `full-signatures` asks for it.",
        example: "def fare(distance: float):\n    return distance * 2\n",
        at_run_time: "Nothing: but inside the function the parameter is unknown, and mistakes with it are not seen.",
        ways: &[
            Way {
                id: "annotate",
                title: "let `leitmotiv annotate` write what there is evidence for",
                price: "read the diff: evidence shows what happens, not what is meant",
                example: "def fare(distance: float) -> float:\n    return distance * 2\n",
            },
            Way {
                id: "object",
                title: "annotate with `object` what really takes anything",
                price: "the body must check before it uses it",
                example: "def fare(distance: object) -> str:\n    return str(distance)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::AnnotationMissing { function, params, returns } = &problem.kind else { return None };
        let name = crate::definitions::functions::shown(context.db(), context.infer.file, *function);
        let names: Vec<String> =
            params.iter().map(|param| format!("`{}`", context.db().names().text(*param))).collect();
        let what = match (names.len(), returns) {
            (0, _) => "no return annotation".to_owned(),
            (_, false) => format!("no annotation for {}", names.join(", ")),
            (_, true) => format!("no annotation for {} and its return", names.join(", ")),
        };
        Some(Worded::plain(format!("`{name}` has {what}"), RULE.page.ways))
    },
};
