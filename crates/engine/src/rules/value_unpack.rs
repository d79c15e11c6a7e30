use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{ProblemKind, Unusable};

pub static RULE: Rule = Rule {
    slug: "value.unpack",
    summary: "a value is unpacked into another number of names than it has values",
    severity: Severity::Error,
    page: Page {
        means: "The names on the left are more or fewer than the values on the right.",
        example: "port, berth, side = (\"north\", 3)\n",
        at_run_time: "ValueError: not enough values to unpack, or too many, whenever the line runs.",
        ways: &[
            Way {
                id: "names",
                title: "name as many as there are",
                price: "one place changes",
                example: "port, berth = (\"north\", 3)\n",
            },
            Way {
                id: "star",
                title: "gather the rest by a star",
                price: "a list, where there was one value",
                example: "port, berth, *sides = (\"north\", 3)\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::Unusable { object, why: Unusable::Unpacked { given, wanted, has_star } } = &problem.kind
        else {
            return None;
        };
        let values = if *given == 1 { "1 value".to_owned() } else { format!("{given} values") };
        let names = match (*has_star, *wanted) {
            (true, 1) => "at least 1 name".to_owned(),
            (true, wanted) => format!("at least {wanted} names"),
            (false, 1) => "1 name".to_owned(),
            (false, wanted) => format!("{wanted} names"),
        };
        let message = format!("{} has {values}, for {names}", context.quoted(*object));
        let expr = problem.expr?;
        let mut worded = Worded::plain(message, RULE.page.ways);
        worded.evidence =
            crate::findings::evidence::of(context.infer, expr, &mut |infer, ty| infer.holds_part(ty, *object));
        Some(worded)
    },
};
