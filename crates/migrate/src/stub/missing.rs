//! The imports of a project that have no types, and its stubs that are no longer needed.

use std::collections::BTreeSet;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_project::resolve::Origin;
use serde::Serialize;

use super::local;
use crate::session::Report;
use crate::survey;

/// Where a module's types are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "lowercase")]
pub enum State {
    /// There is source, and no types in it.
    Untyped,
    /// There is only machine code.
    Compiled,
    /// The module is not there.
    Missing,
    /// It is a module of the standard library that is only there on another platform.
    Elsewhere,
    /// The project has a stub, and the installed package has types by now.
    Superseded,
}

impl State {
    /// In words.
    #[must_use]
    pub fn words(self) -> &'static str {
        match self {
            State::Untyped => "untyped",
            State::Compiled => "machine code",
            State::Missing => "not installed",
            State::Elsewhere => "on other platforms",
            State::Superseded => "typed by now",
        }
    }
}

/// One module.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Entry {
    /// The top-level module.
    pub module: String,
    /// Where its types are.
    pub state: State,
    /// How many modules of the project import it.
    pub importers: usize,
    /// How many expressions are unknown because of it.
    pub unknown: usize,
}

/// The modules without types that checked files import, those that most is unknown of first; then the stubs that are no longer
/// needed.
#[must_use]
pub fn list(db: &Database, report: &Report) -> Vec<Entry> {
    let mut entries: Vec<Entry> = survey::survey(db, report)
        .untyped
        .into_iter()
        .map(|untyped| {
            let name = db.names().intern(&untyped.module);
            let has_source = db.source_of(name).is_some() || !db.submodules(&untyped.module).is_empty();
            let state = match untyped.state {
                "missing" => State::Missing,
                _ if is_elsewhere(db, &untyped.module) => State::Elsewhere,
                _ if has_source => State::Untyped,
                _ => State::Compiled,
            };
            Entry { module: untyped.module, state, importers: untyped.importers, unknown: untyped.gain }
        })
        .collect();
    let own: BTreeSet<String> =
        local(db).into_iter().filter_map(|(module, _)| Some(module.split('.').next()?.to_owned())).collect();
    for module in own {
        let typed = db.installed_origin(&module);
        if matches!(typed, Some(Origin::Typed | Origin::StubPackage)) {
            entries.push(Entry { module, state: State::Superseded, importers: 0, unknown: 0 });
        }
    }
    entries
}

/// Modules of the standard library that are only there on Windows, and those that are not there (library reference,
/// "Availability").
const WINDOWS: &[&str] = &["_msi", "_overlapped", "_winapi", "msilib", "msvcrt", "nt", "winreg", "winsound"];
const UNIX: &[&str] = &[
    "_posixsubprocess",
    "crypt",
    "curses",
    "fcntl",
    "grp",
    "nis",
    "posix",
    "pty",
    "pwd",
    "readline",
    "resource",
    "spwd",
    "syslog",
    "termios",
    "tty",
];

fn is_elsewhere(db: &Database, module: &str) -> bool {
    match db.project().settings.platform.as_str() {
        "win32" => UNIX.contains(&module),
        _ => WINDOWS.contains(&module),
    }
}
