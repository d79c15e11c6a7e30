use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::{BadDefinition, ProblemKind};

pub static RULE: Rule = Rule {
    slug: "generic.definition",
    summary: "the definition of a type variable contradicts itself",
    severity: Severity::Error,
    page: Page {
        means: "A type variable has the name that it is assigned to; it has a bound, or at least two constraints, or neither, and \
                says one thing of its variance. `Generic` and `Protocol` take such variables, each once, those with a default \
                behind those without (typing specification, \"Generics\").",
        example: "from typing import TypeVar\n\nDepthT = TypeVar(\"BerthT\")\n",
        at_run_time: "Some of these raise TypeError while the module is imported, others go unnoticed and mislead whoever reads \
                      or prints the types.",
        ways: &[
            Way {
                id: "correct",
                title: "say one thing",
                price: "nothing",
                example: "from typing import TypeVar\n\nDepthT = TypeVar(\"DepthT\")\n",
            },
            Way {
                id: "parameters",
                title: "name the variables where they are used: `def sound[DepthT](…)` (Python 3.12)",
                price: "older versions of Python cannot read it",
                example: "def sound[DepthT](depths: list[DepthT]) -> DepthT:\n    return depths[0]\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::GenericDefinition { why } = problem.kind else { return None };
        let db = context.db();
        let text = |name| db.names().text(name);
        let name_of = |var| text(db.store().variable(var).name).to_owned();
        let message = match why {
            BadDefinition::Name { bound, written } => {
                format!("the variable is called `{}` here and says that it is `{}`", text(bound), text(written))
            }
            BadDefinition::OneConstraint => "one constraint alone leaves nothing to choose; is `bound=` meant?".into(),
            BadDefinition::Both => "a type variable has a bound or constraints, not both".into(),
            BadDefinition::BothVariances => "a type variable is covariant or contravariant, not both".into(),
            BadDefinition::Open(var) => {
                format!("what a type variable is limited to cannot depend on another one, `{}`", name_of(var))
            }
            BadDefinition::Default(given, limit) => {
                let (given, limit) = context.two(given, limit);
                format!("its default {given} is not within its limit {limit}")
            }
            BadDefinition::NotVariable => "type variables stand here, and this is none".into(),
            BadDefinition::Twice(var) => format!("`{}` stands here twice", name_of(var)),
            BadDefinition::Order(var, before) => {
                format!("`{}` has no default and stands behind `{}`, which has one", name_of(var), name_of(before))
            }
            BadDefinition::TwoOpen(first, second) => {
                format!("`{}` and `{}` stand for any number of types both; one may", name_of(first), name_of(second))
            }
            BadDefinition::Listed(special) => {
                let special = crate::types::display::show(db, crate::types::Type::Special(special));
                format!("the class lists its variables behind its name; `{special}` has nothing to add to that")
            }
            BadDefinition::Mixed(var) => {
                format!(
                    "`{}` is made by a call, and cannot stand beside variables that are listed in brackets",
                    name_of(var)
                )
            }
            BadDefinition::Unlisted(var) => {
                format!("`{}` is used in a base, and not among the variables that are listed", name_of(var))
            }
        };
        let mut worded = Worded::plain(message, &RULE.page.ways[..1]);
        if let BadDefinition::Order(_, var) | BadDefinition::Unlisted(var) | BadDefinition::Mixed(var) = why {
            let variable = db.store().variable(var);
            let site = Site { file: variable.file, at: variable.at };
            worded.evidence.push(context.said_at(site, format!("`{}` is defined here", name_of(var))));
        }
        Some(worded)
    },
};
