use leitmotiv_project::settings::Severity;

use super::{Page, Rule, Way, Worded};
use crate::problems::ProblemKind;

pub static RULE: Rule = Rule {
    slug: "import.unresolved",
    summary: "an import leads nowhere",
    severity: Severity::Error,
    page: Page {
        means: "No module of that name lies in the project, its stubs, the standard library or the installed packages; or \
                the module is there and has no such name. Whatever is taken from it is unknown.",
        example: "import skery_tides\n",
        at_run_time: "ModuleNotFoundError or ImportError when the line runs, unless the module is made or found in some \
                      other way by then.",
        ways: &[
            Way { id: "spell", title: "correct the name", price: "one place changes", example: "import json\n" },
            Way {
                id: "environment",
                title: "point `interpreter` at the environment that has the package, or install it there",
                price: "the configuration must be right on every machine",
                example: "",
            },
            Way {
                id: "optional",
                title: "import it in a `try` with `except ImportError`, if the program can do without",
                price: "both branches must be kept working",
                example: "try:\n    import skery_tides\nexcept ImportError:\n    skery_tides = None\n",
            },
            Way {
                id: "version",
                title: "ask for the version first: `if sys.version_info >= …`",
                price: "both branches must be kept working",
                example: "import sys\n\nif sys.version_info >= (3, 99):\n    import skery_tides\n",
            },
        ],
    },
    word: |context, problem| {
        let names = context.db().names();
        let (message, near) = match &problem.kind {
            ProblemKind::ImportUnresolved { module, near } => {
                (format!("there is no module `{}`", names.text(*module)), near)
            }
            ProblemKind::ImportName { module, file, name, near } => {
                let stub = file.filter(|file| file.is_stub(context.db())).map(|file| context.module_words(file));
                let module = stub.unwrap_or_else(|| format!("module `{}`", names.text(*module)));
                (format!("{module} has no `{}`", names.text(*name)), near)
            }
            _ => return None,
        };
        let mut worded = Worded::plain(message, RULE.page.ways);
        let version = match &problem.kind {
            ProblemKind::ImportUnresolved { module, .. } => {
                let version = context.version();
                leitmotiv_stdlib::lacks_module(names.text(*module), version).then_some(version)
            }
            ProblemKind::ImportName { file: Some(file), name, .. } => context.lacking_version(*file, *name),
            _ => None,
        };
        if let Some((major, minor)) = version {
            worded.message.push_str(&format!(" in Python {major}.{minor}"));
            worded.remedies.retain(|remedy| matches!(remedy.id, "version" | "optional"));
            worded.remedies.rotate_left(1);
            return Some(worded);
        }
        worded.remedies.retain(|remedy| remedy.id != "version");
        if let Some(near) = near {
            worded.message.push_str(&format!(" (is `{near}` meant?)"));
            worded.remedies[0].title = format!("write `{near}`");
            worded.remedies[0].price = "nothing";
        } else if let ProblemKind::ImportUnresolved { module, .. } = &problem.kind {
            // A name like no other that is there is mostly that of a package which is not installed.
            let package = names.text(*module).split('.').next().unwrap_or_default();
            worded.remedies.rotate_left(1);
            worded.remedies[0].title =
                format!("install `{package}`, or point `interpreter` at the environment that has it");
        } else {
            // The module is there.
            worded.remedies.retain(|remedy| remedy.id != "environment");
        }
        Some(worded)
    },
};
