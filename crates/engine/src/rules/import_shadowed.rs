use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence::Evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "import.shadowed",
    summary: "a module of the project hides one of the standard library",
    severity: Severity::Warning,
    page: Page {
        means: "The project has a module of the same name as one of the standard library. Folders of the project are searched \
                first, so that the import leads to the project's own; and so do the imports of that name in the standard \
                library and in installed packages, once the program runs.",
        example: "",
        at_run_time: "AttributeError or ImportError, often far away: in a package that wanted the standard module. A script of \
                      that name imports itself.",
        ways: &[
            Way {
                id: "rename",
                title: "give the module another name",
                price: "those who import it must be changed",
                example: "",
            },
            Way {
                id: "package",
                title: "move the module into a package, and import it from there",
                price: "those who import it must be changed",
                example: "",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ImportShadowed { module, file } = problem.kind else { return None };
        let db = context.db();
        let module = db.names().text(module);
        let path = file.path(db);
        let message = format!("`{module}` is `{path}` here, which hides the standard library's `{module}`");
        let mut worded = Worded::plain(message, RULE.page.ways);
        let place = TextRange::default();
        worded.evidence.push(Evidence::new("declared", file, place, "this module is found first".into()));
        Some(worded)
    },
};
