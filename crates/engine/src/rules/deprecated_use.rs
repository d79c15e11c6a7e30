use leitmotiv_index::anchor::Anchor;
use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::outline::Site;
use crate::problems::ProblemKind;
use crate::types::Type;

pub static RULE: Rule = Rule {
    slug: "deprecated.use",
    summary: "something is used that its authors want to be left",
    severity: Severity::Warning,
    page: Page {
        means: "The function or class is marked `@deprecated`, with a word on what to use instead (PEP 702). Of an overloaded \
                function, it may be just the signature that this call uses.",
        example: "from typing_extensions import deprecated\n\n@deprecated(\"ask the harbour office\")\ndef tide(hour: int) -> float:\n    return 1.5\n\nprint(tide(6))\n",
        at_run_time: "A DeprecationWarning; some day an error.",
        ways: &[Way {
            id: "replace",
            title: "use what the message names",
            price: "read what differs",
            example: "from typing_extensions import deprecated\n\n@deprecated(\"ask the harbour office\")\ndef tide(hour: int) -> float:\n    return 1.5\n\ndef office_tide(hour: int) -> float:\n    return 1.5\n\nprint(office_tide(6))\n",
        }],
    },
    word: |context, problem| {
        let ProblemKind::Deprecated { what, message } = &problem.kind else { return None };
        let db = context.db();
        let store = db.store();
        let function = |id| {
            let function: crate::types::FunctionRef = *store.function(id);
            let site = Site::of_function(function.file, function.function);
            (crate::definitions::functions::shown(db, function.file, function.function), site)
        };
        let (name, site) = match *what {
            Type::Function(id) => function(id),
            Type::Method(id) => match store.method(id).function {
                Type::Function(id) => function(id),
                _ => return None,
            },
            Type::Class(id) => {
                let class = store.instance(id).class;
                let site = Site { file: class.file, at: Anchor::Class(class.class) };
                (crate::definitions::classes::shown(db, class).to_owned(), site)
            }
            _ => return None,
        };
        let mut worded = Worded::plain(format!("`{name}` is deprecated: {message}"), RULE.page.ways);
        worded.evidence.push(context.said_at(site, format!("`{name}` is marked as deprecated here")));
        Some(worded)
    },
};
