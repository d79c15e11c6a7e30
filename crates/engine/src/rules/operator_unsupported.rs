use leitmotiv_index::tree::Expr;
use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::findings::evidence;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "operator.unsupported",
    summary: "an operator does not go with these operands",
    severity: Severity::Error,
    page: Page {
        means: "Neither operand's class says what the operator does with the other.",
        example: "def label(berth: int) -> str:\n    return \"berth \" + berth\n",
        at_run_time: "TypeError: unsupported operand type(s), when the line runs.",
        ways: &[
            Way {
                id: "convert",
                title: "convert one operand",
                price: "one place changes",
                example: "def label(berth: int) -> str:\n    return \"berth \" + str(berth)\n",
            },
            Way {
                id: "check",
                title: "check the operand before use",
                price: "one branch more, and something to do in it",
                example: "def label(berth: int | str) -> str:\n    if isinstance(berth, int):\n        return \"berth\"\n    return \"berth \" + berth\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::OperatorUnsupported { operator, left, right } = &problem.kind else { return None };
        let sign = operator.sign();
        // What the literal is does not matter here, only its class.
        let (left_wide, right_wide) = (context.infer.widen(*left), right.map(|right| context.infer.widen(right)));
        let message = match right_wide {
            Some(right_wide) => {
                let (left_shown, right_shown) = context.two(left_wide, right_wide);
                format!("`{sign}` does not go with {left_shown} and {right_shown}")
            }
            None => format!("`{sign}` does not go with {}", context.quoted(left_wide)),
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        // Where an operand's type came from, if it is not plain to see.
        let operands = match problem.expr.map(|expr| &context.infer.index.exprs[expr]) {
            Some(Expr::Binary { left, right, .. }) => vec![*left, *right],
            Some(Expr::Compare { left, rest }) => {
                std::iter::once(*left).chain(rest.iter().map(|(_, right)| *right)).collect()
            }
            Some(Expr::Unary { operand, .. }) => vec![*operand],
            Some(_) => problem.expr.into_iter().collect(),
            None => Vec::new(),
        };
        for (operand, bad) in operands.into_iter().zip([Some(*left), *right]) {
            if let Some(bad) = bad {
                let found = evidence::of(context.infer, operand, &mut |infer, ty| infer.holds_part(ty, bad));
                worded.evidence.extend(found);
            }
        }
        Some(worded)
    },
};
