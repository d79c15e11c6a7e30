use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "import.untyped",
    summary: "an imported package says nothing of its types",
    severity: Severity::Note,
    page: Page {
        means: "The package is installed but neither declares types (`py.typed`, PEP 561) nor has a stub. What can be \
                inferred from its source is used; the rest is unknown, and spreads to whatever it touches.",
        example: "",
        at_run_time: "Nothing by itself: but mistakes in the use of the package are not seen before the program runs.",
        ways: &[
            Way {
                id: "stub",
                title: "write a stub with `leitmotiv stub write`",
                price: "the stub is yours to keep in step with the package",
                example: "",
            },
            Way {
                id: "upgrade",
                title: "look for a release of the package with types, or a stub package",
                price: "another version",
                example: "",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ImportUntyped { module } = problem.kind else { return None };
        let module = context.db().names().text(module);
        let message = format!("module `{module}` has no types");
        let mut worded = Worded::plain(message, RULE.page.ways);
        let package = module.split('.').next().unwrap_or(module);
        worded.remedies[0].title = format!("write a stub: leitmotiv stub write {package}");
        Some(worded)
    },
};
