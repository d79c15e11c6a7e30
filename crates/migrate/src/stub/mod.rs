//! Stubs: written from source and from running modules, kept, and compared with the modules as they are.
//!
//! - [`source`]: a module's stub from its source
//! - [`annotated`]: sources with the annotations that there is evidence for
//! - [`running`]: modules as the interpreter sees them once imported
//! - [`draft`]: a module's stub from that
//! - `text`: what stubs as text name and make
//! - [`merge`]: new names into a stub that is there
//! - [`used`]: no more than a project uses, with types that its uses tell
//! - [`plan`]: which stubs are to be written, and what they say
//! - [`missing`]: imports that have no types
//! - [`verify`]: a stub compared with the module as it is

pub mod annotated;
pub mod draft;
pub mod merge;
pub mod missing;
pub mod plan;
pub mod running;
pub mod source;
mod text;
pub mod used;
pub mod verify;

pub use source::from_source;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_project::resolve::Origin;

/// The stubs in the project's own folders of stubs, with their modules' names, sorted.
#[must_use]
pub fn local(db: &Database) -> Vec<(String, File)> {
    let project = db.project();
    let mut found = Vec::new();
    for folder in &project.settings.stubs {
        let folder = project.root.join(folder);
        let mut paths = Vec::new();
        below(&folder, &mut paths);
        for path in paths {
            let Ok(inside) = path.strip_prefix(&folder) else { continue };
            let mut parts: Vec<String> =
                inside.with_extension("").iter().map(|part| part.to_string_lossy().into_owned()).collect();
            if parts.last().is_some_and(|last| last == "__init__") {
                parts.pop();
            }
            let name = parts.join(".").replace("-stubs", "");
            if let Some(file) = leitmotiv_engine::resolve::module_file(db, db.names().intern(&name), None)
                && file.is_stub(db)
                && file.origin(db) == Origin::LocalStub
            {
                found.push((name, file));
            }
        }
    }
    found.sort_by(|one, other| one.0.cmp(&other.0));
    found.dedup();
    found
}

/// The stubs of the standard library that come with the program, with their modules' names, sorted; without the one of a
/// package that is no part of it (`typing_extensions`).
#[must_use]
pub fn bundled(db: &Database) -> Vec<(String, File)> {
    let modules = leitmotiv_engine::view::library_coverage::bundled_modules();
    modules
        .into_iter()
        .filter(|module| module != "typing_extensions")
        .filter_map(|module| {
            Some((leitmotiv_engine::resolve::module_file(db, db.names().intern(&module), None)?, module))
        })
        // A version may not have it, or the interpreter may have it as source alone.
        .filter(|(file, _)| file.origin(db) == leitmotiv_project::resolve::Origin::Bundled)
        .map(|(file, module)| (module, file))
        .collect()
}

fn below(folder: &std::path::Path, paths: &mut Vec<std::path::PathBuf>) {
    for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        let path = entry.path();
        if path.is_dir() {
            below(&path, paths);
        } else if path.extension().is_some_and(|extension| extension == "pyi") {
            paths.push(path);
        }
    }
}
