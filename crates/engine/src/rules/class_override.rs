use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::evidence::Evidence;
use crate::problems::{Clash, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "class.override",
    summary: "a method cannot stand in for that of a base",
    severity: Severity::Warning,
    page: Page {
        means: "Wherever an object of the base is expected, one of the subclass may come; then the method is called as the base declares it. Parameters that the base takes must be taken, none may be asked for in addition, and the result must fit.",
        example: "class Vessel:\n    def severity(self, scale: int = 1) -> int:\n        return scale\n\nclass Barge(Vessel):\n    def severity(self) -> int:\n        return 10\n",
        at_run_time: "TypeError, or a result of another type, where the call was written for the base.",
        ways: &[
            Way {
                id: "accept",
                title: "take what the base takes",
                price: "a parameter that may go unused",
                example: "class Vessel:\n    def severity(self, scale: int = 1) -> int:\n        return scale\n\nclass Barge(Vessel):\n    def severity(self, scale: int = 1) -> int:\n        return 10\n",
            },
            Way {
                id: "rename",
                title: "give the method another name",
                price: "callers of the base do not reach it any more",
                example: "class Vessel:\n    def severity(self, scale: int = 1) -> int:\n        return scale\n\nclass Barge(Vessel):\n    def own_severity(self) -> int:\n        return 10\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::ClassOverride { function, base, why } = &problem.kind else { return None };
        let own = crate::functions::shown(context.db(), context.infer.file, *function);
        let hidden = crate::functions::shown(context.db(), base.file, base.function);
        let text = |name| context.db().names().text(name);
        let what = match why {
            Clash::Lacks(name) => format!("it does not take `{}`", text(*name)),
            Clash::Renames(theirs, mine) => format!("it calls `{}` `{}`", text(*theirs), text(*mine)),
            Clash::Asks(name) => format!("it asks for `{}`, which callers do not give", text(*name)),
            Clash::Takes(name, theirs, mine) => {
                let (theirs, mine) = context.two(*theirs, *mine);
                format!("for `{}` it takes {mine}, not {theirs}", text(*name))
            }
            Clash::Gives(theirs, mine) => {
                let (theirs, mine) = context.two(*theirs, *mine);
                format!("it gives {mine}, not {theirs}")
            }
        };
        let mut worded = Worded::plain(format!("`{own}` cannot stand in for `{hidden}`: {what}"), RULE.page.ways);
        let range = crate::module::module_index(context.db(), base.file).functions[base.function].name_range;
        worded.evidence.push(Evidence::new("declared", base.file, range, format!("`{hidden}` takes these parameters")));
        Some(worded)
    },
};
