use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "reveal.type",
    summary: "the type of an expression, as asked by `reveal_type`",
    severity: Severity::Note,
    page: Page {
        means: "`reveal_type(x)` says what the type of `x` is there (typing specification, \"Type checker directives\").",
        example: "reveal_type(len(\"Gannet\"))\n",
        at_run_time: "NameError before Python 3.11 unless it is imported from typing_extensions; from then on it prints the \
                      run-time type.",
        ways: &[super::Way {
            id: "remove",
            title: "remove the call when you have read it",
            price: "nothing",
            example: "len(\"Gannet\")\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::RevealType { ty } = problem.kind else { return None };
        let mut worded = Worded::plain(format!("the type is {}", context.quoted(ty)), &[]);
        if let Some(expr) = problem.expr
            && let leitmotiv_index::tree::Expr::Call { args, .. } = &context.infer.index.exprs[expr]
            && let Some(arg) = args.first()
        {
            worded.evidence = evidence::of(context.infer, arg.value, &mut |_, _| true);
        }
        Some(worded)
    },
};
