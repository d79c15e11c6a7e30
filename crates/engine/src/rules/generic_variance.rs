use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "generic.variance",
    summary: "a class takes what it says it only gives, or gives what it says it only takes",
    severity: Severity::Error,
    page: Page {
        means: "A class that is covariant in a variable says: I only give such values, so `Timetable[Ferry]` can stand for \
                `Timetable[Vessel]`. If one of its methods takes such a value, a `Vessel` that is no ferry could be put into it. \
                Contravariant is the same the other way round (PEP 484).",
        example: "from typing import Generic, TypeVar\n\nT_co = TypeVar(\"T_co\", covariant=True)\n\nclass Timetable(Generic[T_co]):\n    def add(self, vessel: T_co) -> None:\n        pass\n",
        at_run_time: "Nothing by itself: values of the wrong type get in through the wider view.",
        ways: &[
            Way {
                id: "invariant",
                title: "use a variable that is neither covariant nor contravariant",
                price: "an object with a narrower argument no longer stands for one with a wider",
                example: "from typing import Generic, TypeVar\n\nT = TypeVar(\"T\")\n\nclass Timetable(Generic[T]):\n    def add(self, vessel: T) -> None:\n        pass\n",
            },
            Way {
                id: "split",
                title: "move the method into a class of its own, which is not covariant",
                price: "one class more",
                example: "from typing import Generic, TypeVar\n\nT_co = TypeVar(\"T_co\", covariant=True)\n\nclass Timetable(Generic[T_co]):\n    def first(self) -> T_co:\n        raise LookupError\n",
            },
        ],
    },
    word: |context, problem| {
        let db = context.db();
        if let ProblemKind::BaseVariance { var, base } = problem.kind {
            let variable = db.store().variable(var);
            let said = match variable.variance {
                crate::types::Variance::Covariant => "covariant",
                _ => "contravariant",
            };
            let name = db.names().text(variable.name);
            let base = crate::definitions::classes::shown(db, base);
            let message = format!("`{name}` is {said}, and `{base}` is not in what it is given here");
            let mut worded = Worded::plain(message, &RULE.page.ways[..1]);
            let site = Site { file: variable.file, at: variable.at };
            worded.evidence.push(context.said_at(site, format!("`{name}` is defined here")));
            return Some(worded);
        }
        let ProblemKind::GenericVariance { var, taken } = problem.kind else { return None };
        let variable = db.store().variable(var);
        let name = db.names().text(variable.name).to_owned();
        let site = Site { file: variable.file, at: variable.at };
        let (what, said) =
            if taken { ("taken", "covariant: only given") } else { ("given", "contravariant: only taken") };
        let mut worded = Worded::plain(format!("`{name}` is {what} here, and it is {said}"), RULE.page.ways);
        worded.evidence.push(context.said_at(site, format!("`{name}` is defined here")));
        Some(worded)
    },
};
