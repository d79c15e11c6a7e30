//! What is imported from outside and says nothing of its types: packages to install or to write stubs for, and those that nobody need mind.

use std::collections::{BTreeMap, BTreeSet};

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{Imported, absolute_name, import_target, submodule};
use leitmotiv_engine::types::Type;
use leitmotiv_index::tree::{BodyId, DefKind};
use leitmotiv_project::resolve::Origin;
use serde::Serialize;

/// A package without types.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Untyped {
    /// The top-level module.
    pub module: String,
    /// How many modules import it.
    pub importers: usize,
    /// `untyped`: it is there, without types. `missing`: it is not there. `optional`: it is not there, and all who import it go on without it.
    /// `elsewhere`: it is not there, and is only imported for another platform or version.
    pub state: &'static str,
    /// How many expressions are unknown because of it.
    pub gain: usize,
}

/// A module that a file imports.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Target {
    /// The module.
    pub file: File,
    /// Whether it is imported as the file itself is: not later, in a function, nor for type checkers alone.
    pub at_start: bool,
}

/// How an import that leads nowhere is meant, the strongest first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Need {
    Plain,
    Optional,
    Elsewhere,
}

/// What files import from outside of the project.
#[derive(Debug, Default)]
pub(super) struct Outside {
    untyped: BTreeMap<String, BTreeSet<String>>,
    missing: BTreeMap<String, (Need, BTreeSet<String>)>,
}

impl Outside {
    /// The modules that a file imports, each once; what lies outside and has no types is taken down.
    pub(super) fn imports(&mut self, db: &Database, file: File) -> Vec<Target> {
        let index = module_index(db, file);
        let mut seen: Vec<Target> = Vec::new();
        for (_, def) in index.defs.iter() {
            let (module, level, name) = match def.kind {
                DefKind::Import { module, .. } => (module, 0, None),
                DefKind::ImportFrom { module, level, name, .. } => (module, level, Some(name)),
                DefKind::Star { module, level } => (module, level, None),
                _ => continue,
            };
            match import_target(db, file, module, level) {
                Some(Imported::File(target)) => {
                    // `from package import module` imports the module.
                    let target = match name.and_then(|name| submodule(db, target, name)) {
                        Some(Type::Module(submodule)) => submodule,
                        _ => target,
                    };
                    if target.origin(db) == Origin::Untyped {
                        let module = top(db, db.names().text(target.module(db)));
                        self.untyped.entry(module).or_default().insert(file.path(db).to_owned());
                    }
                    let is_for_checkers = index.checking_only.iter().any(|block| block.contains_range(def.range));
                    let at_start = def.body == BodyId(0) && !is_for_checkers;
                    match seen.iter_mut().find(|known| known.file == target) {
                        Some(known) => known.at_start |= at_start,
                        None if target != file => seen.push(Target { file: target, at_start }),
                        None => {}
                    }
                }
                Some(Imported::Namespace(_)) => {}
                None => {
                    let Some(full) = absolute_name(db, file, module, level) else { continue };
                    let module = top(db, db.names().text(full));
                    let mut guards = index.guarded.iter().chain(&index.fallbacks);
                    let need = match () {
                        () if !Infer::new(db, file, def.body).reachable(def.reach) => Need::Elsewhere,
                        () if guards.any(|guard| guard.contains_range(def.range)) => Need::Optional,
                        () => Need::Plain,
                    };
                    let known = self.missing.entry(module).or_insert((need, BTreeSet::new()));
                    known.0 = known.0.min(need);
                    known.1.insert(file.path(db).to_owned());
                }
            }
        }
        seen
    }

    /// The packages, most gain first; `gains` says how many expressions are unknown because of each.
    pub(super) fn packages(self, gains: &BTreeMap<String, usize>) -> Vec<Untyped> {
        let untyped = self.untyped.into_iter().map(|(module, importers)| (module, "untyped", importers));
        let missing = self.missing.into_iter().map(|(module, (need, importers))| {
            let state = match need {
                Need::Plain => "missing",
                Need::Optional => "optional",
                Need::Elsewhere => "elsewhere",
            };
            (module, state, importers)
        });
        let mut all: Vec<Untyped> = untyped
            .chain(missing)
            .map(|(module, state, importers)| {
                let gain = gains.get(&module).copied().unwrap_or(0);
                Untyped { gain, importers: importers.len(), module, state }
            })
            .collect();
        // What asks for something to be done comes first.
        let is_idle = |package: &Untyped| matches!(package.state, "optional" | "elsewhere");
        all.sort_by(|one, other| {
            is_idle(one)
                .cmp(&is_idle(other))
                .then(other.gain.cmp(&one.gain))
                .then_with(|| one.module.cmp(&other.module))
        });
        all
    }
}

/// The package that a module belongs to: its first name, or of a namespace package (PEP 420), which has nothing of its own, the
/// names up to the part that has.
pub(super) fn top(db: &Database, module: &str) -> String {
    let ends = module.match_indices('.').map(|(end, _)| end).chain([module.len()]);
    let is_namespace = |part: &str| db.source_of(db.names().intern(part)).is_none() && !db.submodules(part).is_empty();
    let part = ends.map(|end| &module[..end]).find(|part| !is_namespace(part));
    part.unwrap_or(module).to_owned()
}
