//! Sources that stubs are written from, with the annotations in them that there is evidence for.

use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::path::{Path, PathBuf};

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::resolve::project_files;
use leitmotiv_project::resolve::Origin;
use leitmotiv_project::settings::Settings;

use crate::annotate::edit::proved;
use crate::annotate::{Inquiry, Wanted};

/// Packages by themselves, each annotated from all of its own evidence.
pub struct Annotated {
    packages: Vec<Database>,
    /// Their modules by path, with the place of the package.
    modules: HashMap<PathBuf, (usize, File)>,
}

impl Annotated {
    /// The packages that some modules belong to. Unlike annotations of a project, these are not tried out: a stub is compared with its module
    /// instead, and packages are large.
    #[must_use]
    pub fn new(db: &Database, modules: &[File]) -> Annotated {
        let mut roots: BTreeMap<PathBuf, BTreeSet<String>> = BTreeMap::new();
        let mut own = false;
        for file in modules {
            let (Some(root), Some(path)) = (file.root(db), file.disk(db)) else { continue };
            own |= file.origin(db) == Origin::Project;
            if file.origin(db) != Origin::Project
                && let Some(top) = path.strip_prefix(root).ok().and_then(|inside| inside.iter().next())
            {
                roots.entry(root.clone()).or_default().insert(top.to_string_lossy().into_owned());
            }
        }
        let platform = &db.project().settings.platform;
        let alone = roots.into_iter().map(|(root, tops)| {
            let mut project = db.project().clone();
            project.root = root;
            let sources = tops.into_iter().collect();
            project.settings =
                Settings { sources, stubs: Vec::new(), platform: platform.clone(), ..Settings::default() };
            Database::new(project)
        });
        let mut packages: Vec<Database> = alone.collect();
        packages.extend(own.then(|| Database::new(db.project().clone())));
        packages.iter_mut().for_each(annotate);
        let mut modules = HashMap::new();
        for (place, db) in packages.iter().enumerate() {
            let own = project_files(db).iter().filter_map(|file| Some((file.disk(db)?.to_owned(), (place, *file))));
            modules.extend(own);
        }
        Annotated { packages, modules }
    }

    /// A module as it is annotated.
    #[must_use]
    pub fn module(&self, path: &Path) -> Option<(&Database, File)> {
        let (place, file) = *self.modules.get(path)?;
        Some((&self.packages[place], file))
    }
}

fn annotate(db: &mut Database) {
    let files = project_files(db).to_vec();
    let proposals = Inquiry::new(db, &files).propose(&files, &Wanted::default());
    for edited in proved(db, proposals) {
        db.try_text(edited.file, edited.change.after.into());
    }
}
