use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::{BadPlace, ProblemKind};
use crate::types::display::show;
use crate::types::{SpecialForm, Type};

pub static RULE: Rule = Rule {
    slug: "annotation.place",
    summary: "a form of the typing module stands where it means nothing",
    severity: Severity::Error,
    page: Page {
        means: "`ClassVar`, `Final`, `Required` and their kin say something of a variable, and stand around the whole of its \
                type; `Self` needs a class around; a variable for parameters stands where parameters are, one for several \
                types is unpacked (typing specification, \"Type qualifiers\", \"Generics\").",
        example: "from typing import Final\n\ndef berth(number: Final[int]) -> int:\n    return number\n",
        at_run_time: "Mostly nothing: annotations are not checked when the program runs. Readers expect what does not hold.",
        ways: &[
            Way {
                id: "leave-out",
                title: "write the type alone",
                price: "nothing",
                example: "def berth(number: int) -> int:\n    return number\n",
            },
            Way {
                id: "move",
                title: "say it where the variable is declared",
                price: "nothing",
                example: "from typing import Final\n\nBERTHS: Final[int] = 4\n\ndef berth(number: int) -> int:\n    return number % BERTHS\n",
            },
        ],
    },
    word: |context, problem| {
        let ProblemKind::AnnotationPlace { why } = problem.kind else { return None };
        let name = |special| show(context.db(), Type::Special(special));
        let message = match why {
            BadPlace::Qualifier(special @ SpecialForm::ClassVar) => {
                format!(
                    "`{}` stands around the whole type of a variable in a class body, and nowhere else",
                    name(special)
                )
            }
            BadPlace::Qualifier(special @ SpecialForm::Final) => {
                format!("`{}` stands around the whole type of a variable or attribute, and nowhere else", name(special))
            }
            BadPlace::Qualifier(special) => {
                format!(
                    "`{}` stands around the whole type of a typed dictionary's item, and nowhere else",
                    name(special)
                )
            }
            BadPlace::Base(special) => format!("`{}` is a base of classes, and no type", name(special)),
            BadPlace::Alias => "`TypeAlias` stands by the name of an alias, in a module or a class".into(),
            BadPlace::SelfOutside => "`Self` means the class around, and there is none".into(),
            BadPlace::SelfStatic => "`Self` means the class of the object, and a static method has none".into(),
            BadPlace::SelfBase => "`Self` means the class around, which is not there yet among its own bases".into(),
            BadPlace::SelfMeta => "`Self` in a metaclass would mean the class that is made, and is not defined".into(),
            BadPlace::Parameters => "parameters stand here where one type is expected".into(),
            BadPlace::Pair => {
                "the two halves of a variable for parameters stand together: `*args: P.args, **kwargs: P.kwargs`".into()
            }
            BadPlace::Packed => "a variable for several types is unpacked where it is used: `*Ts`, `Unpack[Ts]`".into(),
            BadPlace::ClassVarOpen(var) => {
                let name = context.db().names().text(context.db().store().variable(var).name);
                format!("`ClassVar` cannot hold `{name}`: there is one class for all that `{name}` may be")
            }
            BadPlace::SelfAnnotated => {
                "`Self` is the type of the first parameter, which has an annotation of its own here".into()
            }
            BadPlace::Guard(special) => {
                format!("`{}` tells of the first argument that is given, and there is none", name(special))
            }
            BadPlace::Star => "several types are unpacked here where one is expected".into(),
        };
        let ways = match why {
            BadPlace::Qualifier(_) => RULE.page.ways,
            _ => &[],
        };
        Some(Worded::plain(message, ways))
    },
};
