use leitmotiv_index::tree::Expr;
use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;
use crate::types::Type;

pub static RULE: Rule = Rule {
    slug: "annotation.invalid",
    summary: "an annotation is not a type",
    severity: Severity::Error,
    page: Page {
        means: "What stands where a type is expected is a value, a function or a module. Often a name is hidden by another: \
                in a class with a method called `list`, annotations below it that say `list` mean the method.",
        example: "def tonnage(vessel: 12) -> int:\n    return 3\n",
        at_run_time: "Mostly nothing: annotations are not checked when the program runs. Tools that read them go wrong.",
        ways: &[
            Way {
                id: "correct",
                title: "write the type that is meant",
                price: "nothing",
                example: "def tonnage(vessel: int) -> int:\n    return 3\n",
            },
            Way {
                id: "rename",
                title: "rename what hides the type, or name the type through its module (`builtins.list`)",
                price: "callers of a renamed method must follow",
                example: "import builtins\n\nclass Berths:\n    def list(self) -> int:\n        return 3\n\n    def names(self) -> \"builtins.list[str]\":\n        return []\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::AnnotationInvalid { reason } = &problem.kind else { return None };
        let mut worded = Worded::plain(format!("not a type: {reason}"), RULE.page.ways);
        // Where the name was bound to what it is.
        if let Some(expr) = problem.expr
            && let Expr::Name(name, _) = context.infer.index.exprs[expr]
            && let Type::Function(id) = context.infer.expr(expr)
        {
            let function = *context.db().store().function(id);
            let site = Site::of_function(function.file, function.function);
            let text = context.db().names().text(name);
            worded.evidence.push(context.said_at(site, format!("`{text}` means this function here")));
            worded.remedies.swap(0, 1);
        }
        Some(worded)
    },
};
