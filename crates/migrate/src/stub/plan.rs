//! Which stubs are to be written for modules and packages, and what they say.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::absolute_name;
use leitmotiv_index::tree::DefKind;
use leitmotiv_project::read;
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::decode;
use thiserror::Error;

use super::annotated::Annotated;
use super::draft::from_running;
use super::merge::merge;
use super::running::{self, Described, RunningError};
use super::source::from_source;
use super::used;

/// Where a stub is written from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum From {
    /// The module's source.
    Source,
    /// The module as the interpreter imports it.
    Running,
    /// Its source, and what is only there once it is imported.
    Both,
}

/// What is asked for.
#[derive(Debug, Clone)]
pub struct Request<'a> {
    /// Modules and packages by name; of packages, all their modules.
    pub modules: &'a [String],
    /// Where from; by default the source where there is one, and the running module where there is none.
    pub from: Option<From>,
    /// The files whose uses are all that is to be written, if only those.
    pub used_by: Option<&'a [File]>,
    /// Whether stubs that are there are written anew.
    pub overwrite: bool,
    /// The folder of stubs; absolute.
    pub folder: &'a Path,
    /// Whether to write stub packages that can be published: `NAME-stubs`, with their marker.
    pub package: bool,
}

/// A stub to be written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Planned {
    /// The module's dotted name.
    pub module: String,
    /// The path below the folder of stubs.
    pub path: PathBuf,
    /// The stub that is there.
    pub before: Option<String>,
    /// The stub as it is to be.
    pub after: String,
    /// Names that are added to the one that is there.
    pub added: Vec<String>,
}

/// The stubs to be written, and what could not be.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Plan {
    /// The stubs, in the order of the modules.
    pub stubs: Vec<Planned>,
    /// Modules of packages that could not be imported, with the reason.
    pub failed: Vec<(String, String)>,
    /// Markers of stub packages (PEP 561): path below the folder, and text.
    pub markers: Vec<(PathBuf, String)>,
}

/// Why there is nothing to write.
#[derive(Debug, Error)]
pub enum PlanError {
    /// There is no such module.
    #[error("there is no module `{0}` to write a stub of")]
    NoModule(String),
    /// Its types come from elsewhere.
    #[error(
        "`{module}` has a stub already, `{path}`; nothing was written (--from writes one from the module all the same)"
    )]
    HasStub {
        /// The module.
        module: String,
        /// Its stub.
        path: String,
    },
    /// The stub that is there cannot be read, and so cannot be kept.
    #[error("`{path}` is there and cannot be read ({reason}); nothing was written")]
    UnreadableStub {
        /// The stub.
        path: String,
        /// Why.
        reason: String,
    },
    /// The stub that is there is not valid.
    #[error("`{path}` is there and is not valid Python ({message}); mend it, or write it anew with --overwrite")]
    FaultyStub {
        /// The stub.
        path: String,
        /// What is wrong.
        message: String,
    },
    /// A name that no module has.
    #[error("`{0}` is not a module's name")]
    NotAName(String),
    /// Its source cannot be parsed.
    #[error("`{path}` is not valid Python: {message}")]
    Faulty {
        /// The file.
        path: String,
        /// What is wrong.
        message: String,
    },
    /// It has no source.
    #[error("`{0}` has no source; --from running writes the stub from the module as it is imported")]
    NoSource(String),
    /// It cannot be imported.
    #[error("`{module}` cannot be imported: {reason}")]
    Import {
        /// The module.
        module: String,
        /// Why.
        reason: String,
    },
    /// Nothing can be imported.
    #[error(transparent)]
    Running(#[from] RunningError),
}

/// One module, as it is found.
struct Found {
    name: String,
    source: Option<File>,
    is_package: bool,
    is_asked: bool,
}

/// Plans stubs.
///
/// # Errors
/// [`PlanError`]; a module within a package that cannot be imported is no error, but told in the plan.
pub fn plan(db: &Database, request: &Request<'_>) -> Result<Plan, PlanError> {
    let mut found: Vec<Found> = Vec::new();
    for name in request.modules {
        // A name becomes a path: nothing that leads elsewhere is one.
        if !name.split('.').all(is_identifier) {
            return Err(PlanError::NotAName(name.clone()));
        }
        let answering = leitmotiv_engine::resolve::module_file(db, db.names().intern(name), None);
        if let Some(file) = answering
            && request.from.is_none()
            && matches!(file.origin(db), Origin::Bundled | Origin::StubPackage)
        {
            return Err(PlanError::HasStub { module: name.clone(), path: file.path(db).to_owned() });
        }
        let before = found.len();
        collect(db, name, true, &mut found);
        if found.len() == before || answering.is_none() && found[before].source.is_none() {
            return Err(PlanError::NoModule(name.clone()));
        }
    }
    if let Some(files) = request.used_by {
        let used = imported(db, files);
        let is_needed = |module: &Found| {
            let inside = format!("{}.", module.name);
            module.is_asked || used.contains(&module.name) || used.iter().any(|name| name.starts_with(&inside))
        };
        found.retain(is_needed);
    }
    let described = describe(db, request, &found)?;
    let sources: Vec<File> = found.iter().filter_map(|module| module.source).collect();
    let annotated = (request.from != Some(From::Running)).then(|| Annotated::new(db, &sources));
    let mut plan = Plan::default();
    for module in &found {
        let Some(text) = text_of(db, request, module, (annotated.as_ref(), &described), &mut plan)? else { continue };
        let path = path_of(request, module);
        let target = request.folder.join(&path);
        let shown = || db.project().relative(&target);
        let before = match read_stub(&target) {
            Ok(before) => before,
            Err(reason) => return Err(PlanError::UnreadableStub { path: shown(), reason }),
        };
        let (after, added) = match &before {
            Some(existing) if !request.overwrite => {
                if let Some(fault) = leitmotiv_syntax::parse::parse(existing).faults.first() {
                    return Err(PlanError::FaultyStub { path: shown(), message: fault.message.clone() });
                }
                let merged = merge(existing, &text);
                (merged.text, merged.added)
            }
            _ => (text, Vec::new()),
        };
        plan.stubs.push(Planned { module: module.name.clone(), path, before, after, added });
    }
    if request.package {
        markers(request, &mut plan);
    }
    Ok(plan)
}

/// The text of a stub that is there; `None` where there is none. Only what is not there counts as absent.
fn read_stub(path: &Path) -> Result<Option<String>, String> {
    match read::bytes(path) {
        Ok(bytes) => decode::decode(bytes).map(Some).map_err(|error| error.to_string()),
        Err(error) if error.kind() == std::io::ErrorKind::NotFound => Ok(None),
        Err(error) => Err(error.to_string()),
    }
}

/// The names of all modules that files import, in whatever way.
fn imported(db: &Database, files: &[File]) -> BTreeSet<String> {
    let mut all = BTreeSet::new();
    for file in files {
        for (_, def) in module_index(db, *file).defs.iter() {
            match def.kind {
                DefKind::Import { module, .. } => {
                    all.insert(db.names().text(module).to_owned());
                }
                DefKind::ImportFrom { module, level, name, .. } => {
                    let Some(module) = absolute_name(db, *file, module, level) else { continue };
                    let module = db.names().text(module);
                    all.insert(format!("{module}.{}", db.names().text(name)));
                    all.insert(module.to_owned());
                }
                DefKind::Star { module, level } => {
                    all.extend(absolute_name(db, *file, module, level).map(|name| db.names().text(name).to_owned()));
                }
                _ => {}
            }
        }
    }
    all
}

fn is_identifier(part: &str) -> bool {
    let mut chars = part.chars();
    chars.next().is_some_and(|first| first == '_' || first.is_alphabetic())
        && chars.all(|char| char == '_' || char.is_alphanumeric())
}

/// A module and, of a package, all that is below it.
fn collect(db: &Database, name: &str, is_asked: bool, found: &mut Vec<Found>) {
    let source = db.source_of(db.names().intern(name));
    let inside = if source.is_none_or(|file| file.is_package(db)) { db.submodules(name) } else { Vec::new() };
    let is_package = source.map_or(!inside.is_empty(), |file| file.is_package(db));
    found.push(Found { name: name.to_owned(), source, is_package, is_asked });
    for part in inside {
        collect(db, &format!("{name}.{part}"), false, found);
    }
}

/// What the interpreter says of the modules that have no source, or of all where that is asked for.
fn describe(db: &Database, request: &Request<'_>, found: &[Found]) -> Result<BTreeMap<String, Described>, PlanError> {
    let names: Vec<String> = found
        .iter()
        .filter(|module| match request.from {
            Some(From::Source) => false,
            Some(From::Running | From::Both) => true,
            None => module.source.is_none(),
        })
        .map(|module| module.name.clone())
        .collect();
    if names.is_empty() {
        return Ok(BTreeMap::new());
    }
    let described = running::describe(db.project(), &names, running::LIMIT)?;
    Ok(names.into_iter().zip(described).collect())
}

/// The text of a module's stub; `None` where it is told in the plan why there is none.
fn text_of(
    db: &Database,
    request: &Request<'_>,
    module: &Found,
    (annotated, described): (Option<&Annotated>, &BTreeMap<String, Described>),
    plan: &mut Plan,
) -> Result<Option<String>, PlanError> {
    let source = module.source.filter(|_| request.from != Some(From::Running));
    if let Some(file) = source
        && let Some(fault) = module_index(db, file).faults.first()
    {
        return Err(PlanError::Faulty { path: file.path(db).to_owned(), message: fault.message.clone() });
    }
    let running = match described.get(&module.name) {
        Some(Described { error: Some(reason), .. }) => {
            if module.is_asked && source.is_none() {
                return Err(PlanError::Import { module: module.name.clone(), reason: reason.clone() });
            }
            plan.failed.push((module.name.clone(), reason.clone()));
            None
        }
        other => other.map(from_running),
    };
    let of_source = |file: File| {
        let known = file.disk(db).zip(annotated).and_then(|(path, annotated)| annotated.module(path));
        known.map_or_else(|| from_source(db, file), |(db, file)| from_source(db, file))
    };
    let text = match (source.map(of_source), running) {
        (Some(source), Some(running)) => merge(&source, &running).text,
        (Some(text), None) | (None, Some(text)) => text,
        (None, None) if request.from == Some(From::Source) && module.is_asked => {
            return Err(PlanError::NoSource(module.name.clone()));
        }
        (None, None) => return Ok(None),
    };
    let text = match request.used_by {
        Some(files) => used::only(db, files, &module.name, module.source, &text),
        None => text,
    };
    Ok(Some(text))
}

fn path_of(request: &Request<'_>, module: &Found) -> PathBuf {
    let mut parts: Vec<String> = module.name.split('.').map(str::to_owned).collect();
    if request.package
        && let Some(first) = parts.first_mut()
    {
        first.push_str("-stubs");
        // Even a single module is a package then (PEP 561).
        if parts.len() == 1 && !module.is_package {
            parts.push("__init__".to_owned());
        }
    }
    if module.is_package {
        parts.push("__init__".to_owned());
    }
    let path: PathBuf = parts.iter().collect();
    // Names hold no dots, so that nothing is taken for an extension.
    path.with_extension("pyi")
}

/// The markers of stub packages: partial where not all of the package is in them (PEP 561).
fn markers(request: &Request<'_>, plan: &mut Plan) {
    let mut packages: Vec<String> = request
        .modules
        .iter()
        .filter_map(|module| module.split('.').next())
        .map(|first| format!("{first}-stubs"))
        .collect();
    packages.sort();
    packages.dedup();
    let is_partial = request.used_by.is_some()
        || !plan.failed.is_empty()
        || request.modules.iter().any(|module| module.contains('.'));
    for package in packages {
        let text = if is_partial { "partial\n" } else { "" };
        plan.markers.push((Path::new(&package).join("py.typed"), text.to_owned()));
    }
}
