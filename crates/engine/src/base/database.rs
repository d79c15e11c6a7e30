//! The one database of a session, and the tables that lie beside its queries.

use std::path::{Path, PathBuf};
use std::sync::{Arc, OnceLock};

use dashmap::DashMap;
use leitmotiv_index::lower::Target;
use leitmotiv_index::tree::{Expr, Patch};
use leitmotiv_project::Project;
use leitmotiv_project::resolve::{Located, Origin, Place, Resolver};
use leitmotiv_syntax::decode;
use leitmotiv_syntax::names::{Name, Names};
use rustc_hash::{FxHashMap, FxHashSet};

use crate::types::ClassRef;
use crate::types::store::Store;

use super::db::{Config, Db};
use super::file::{FactTable, Facts, File};

/// The one database of a session. Cloning it gives a handle for another thread.
#[salsa::db]
#[derive(Clone)]
pub struct Database {
    storage: salsa::Storage<Self>,
    shared: Arc<Shared>,
}

struct Shared {
    names: Names,
    store: Store,
    resolver: Resolver,
    project: Project,
    files: DashMap<FileKey, File>,
    facts: FactTable,
    modules: DashMap<(Name, Option<Name>), Option<Found>, std::hash::BuildHasherDefault<rustc_hash::FxHasher>>,
    classes: DashMap<(Name, Name), ClassRef, std::hash::BuildHasherDefault<rustc_hash::FxHasher>>,
    /// Asked for only where an attribute seems to be absent: it takes the whole project's indexes.
    patched: OnceLock<FxHashMap<Name, Vec<(File, Patch)>>>,
    /// The same of methods that an object seems to lack.
    provided: OnceLock<FxHashSet<Name>>,
    /// The same of what is called.
    called: OnceLock<FxHashSet<Name>>,
    /// The files of the project, and the classes in them.
    own_files: OnceLock<Vec<File>>,
    own_classes: OnceLock<Vec<ClassRef>>,
}

#[derive(Debug, Clone, PartialEq, Eq, Hash)]
enum FileKey {
    Disk(PathBuf),
    Bundled(String),
    Compiled(Name),
}

#[derive(Debug, Clone, Copy)]
enum Found {
    File(File),
    Namespace,
}

#[salsa::db]
impl salsa::Database for Database {}

#[salsa::db]
impl Db for Database {
    fn facts(&self, file: File) -> &Facts {
        // Files are only made by `make`, which sets their facts before anybody else knows of them.
        self.shared.facts.slot(file).get().unwrap_or_else(|| unreachable!("a file without facts"))
    }

    fn names(&self) -> &Names {
        &self.shared.names
    }

    fn store(&self) -> &Store {
        &self.shared.store
    }

    fn module_file(&self, name: Name, importer: Option<File>) -> Option<File> {
        match self.find(name, importer)? {
            Found::File(file) => Some(file),
            Found::Namespace => None,
        }
    }

    fn is_namespace(&self, name: Name) -> bool {
        matches!(self.find(name, None), Some(Found::Namespace))
    }

    fn is_standard_name(&self, name: &str) -> bool {
        self.shared.resolver.is_standard_name(name)
    }

    fn module_names(&self) -> Vec<String> {
        self.shared.resolver.own_modules()
    }

    fn remembered_class(&self, module: Name, name: Name) -> Option<ClassRef> {
        self.shared.classes.get(&(module, name)).map(|class| *class)
    }

    fn has_source(&self, shown: &Path) -> bool {
        self.shared.project.root.join(shown).is_file()
    }

    fn patches(&self, name: Name) -> Vec<(File, Patch)> {
        let patched = self.shared.patched.get_or_init(|| {
            let mut all: FxHashMap<Name, Vec<(File, Patch)>> = FxHashMap::default();
            for file in self.own_files().iter().copied() {
                for (name, patches) in &crate::resolve::module_index(self, file).patched {
                    all.entry(*name).or_default().extend(patches.iter().map(|patch| (file, *patch)));
                }
            }
            all
        });
        patched.get(&name).cloned().unwrap_or_default()
    }

    fn is_provided(&self, name: Name) -> bool {
        let provided = self.shared.provided.get_or_init(|| {
            let mut all = FxHashSet::default();
            for file in self.own_files().iter().copied() {
                let index = crate::resolve::module_index(self, file);
                for (_, class) in index.classes.iter() {
                    all.extend(index.scopes[class.scope].symbols.keys().copied());
                    all.extend(class.attributes.keys().copied());
                }
                all.extend(index.patched.keys().copied());
                all.extend(index.exprs.iter().filter_map(|(_, expr)| match expr {
                    Expr::Str(text) => *text,
                    _ => None,
                }));
            }
            all
        });
        provided.contains(&name)
    }

    fn is_called(&self, name: Name) -> bool {
        let called = self.shared.called.get_or_init(|| {
            let mut all = FxHashSet::default();
            for file in self.own_files().iter().copied() {
                let index = crate::resolve::module_index(self, file);
                all.extend(index.exprs.iter().filter_map(|(_, expr)| match expr {
                    Expr::Call { callee, .. } => match index.exprs[*callee] {
                        Expr::Name(name, _) | Expr::Attribute { name, .. } => Some(name),
                        _ => None,
                    },
                    _ => None,
                }));
            }
            all
        });
        called.contains(&name)
    }

    fn own_classes(&self) -> &[ClassRef] {
        self.shared.own_classes.get_or_init(|| {
            let classes = |file: &File| {
                let file = *file;
                let index = crate::resolve::module_index(self, file);
                index.classes.iter().map(move |(class, _)| ClassRef { file, class })
            };
            self.own_files().iter().flat_map(classes).collect()
        })
    }

    fn remember_class(&self, module: Name, name: Name, class: ClassRef) {
        self.shared.classes.insert((module, name), class);
    }
}

impl Database {
    /// The files of the project.
    fn own_files(&self) -> &[File] {
        self.shared.own_files.get_or_init(|| {
            let files = leitmotiv_project::sources::list(&self.shared.project, &[]).unwrap_or_default();
            files.iter().map(|path| self.source(path)).collect()
        })
    }

    /// A database for a project.
    #[must_use]
    pub fn new(project: Project) -> Database {
        let shared = Shared {
            names: Names::new(),
            store: Store::new(),
            resolver: Resolver::new(&project, leitmotiv_stdlib::exists_in),
            files: DashMap::new(),
            facts: FactTable::new(),
            modules: DashMap::default(),
            classes: DashMap::default(),
            patched: OnceLock::new(),
            provided: OnceLock::new(),
            called: OnceLock::new(),
            own_files: OnceLock::new(),
            own_classes: OnceLock::new(),
            project,
        };
        let db = Database { storage: salsa::Storage::default(), shared: Arc::new(shared) };
        let project = &db.shared.project;
        let target = Target { version: project.python, platform: project.settings.platform.clone(), is_stub: false };
        Config::new(&db, target);
        db
    }

    /// The project.
    #[must_use]
    pub fn project(&self) -> &Project {
        &self.shared.project
    }

    /// The input for a file of the project.
    #[must_use]
    pub fn source(&self, path: &Path) -> File {
        self.disk_file(path, None, Origin::Project)
    }

    /// Makes the input for a file with another text than it has on disk, to try a change out. Only for a database that has
    /// not met the file yet; else the file stays as it is known.
    #[must_use]
    pub fn trial(&self, path: &Path, text: String) -> File {
        self.file_with(path, None, Origin::Project, || (text, None))
    }

    /// Whether a file of the project has the name of a module of the standard library, or lies in a package that does: the
    /// library may be importing it.
    #[must_use]
    pub fn is_library_name(&self, file: File) -> bool {
        let name = self.shared.names.text(file.module(self));
        self.shared.resolver.is_library_name(name.split('.').next().unwrap_or(name))
    }

    /// A module's own source, whatever stubs there are of it.
    #[must_use]
    pub fn source_of(&self, name: Name) -> Option<File> {
        let located = self.shared.resolver.source(self.shared.names.text(name))?;
        let Place::File(path) = located.place else { return None };
        Some(self.disk_file(&path, Some(name), located.origin))
    }

    /// Where the types of an installed module come from, whatever stubs the project has of it.
    #[must_use]
    pub fn installed_origin(&self, name: &str) -> Option<Origin> {
        self.shared.resolver.installed(name).map(|located| located.origin)
    }

    /// The names of the modules and packages right below a package, from source or machine code, sorted; those that are only
    /// there to be run left out.
    #[must_use]
    pub fn submodules(&self, name: &str) -> Vec<String> {
        self.shared.resolver.submodules(name)
    }

    fn disk_file(&self, path: &Path, name: Option<Name>, origin: Origin) -> File {
        self.file_with(path, name, origin, || match leitmotiv_project::read::bytes(path) {
            Err(error) => (String::new(), Some(error.to_string())),
            Ok(bytes) => match decode::decode(bytes) {
                Ok(text) => (text, None),
                Err(error) => (String::new(), Some(error.to_string())),
            },
        })
    }

    /// The input for a file; `read` gives its text, or why it cannot be read.
    fn file_with(
        &self,
        path: &Path,
        name: Option<Name>,
        origin: Origin,
        read: impl FnOnce() -> (String, Option<String>),
    ) -> File {
        let key = FileKey::Disk(path.to_owned());
        if let Some(file) = self.shared.files.get(&key) {
            return *file;
        }
        let (text, unreadable) = read();
        let (root, module) = leitmotiv_project::sources::module_of(path);
        let module = name.unwrap_or_else(|| self.shared.names.intern(&module));
        let is_package = path.file_stem().is_some_and(|stem| stem == "__init__");
        let is_stub = path.extension().is_some_and(|extension| extension == "pyi");
        let shown = self.shared.project.relative(path);
        *self.shared.files.entry(key).or_insert_with(|| {
            let root_name = Some(self.shared.names.intern(&root.to_string_lossy()));
            let disk = Some(path.to_owned());
            let facts = Facts { path: shown, module, origin, is_stub, is_package, disk, root: Some(root), root_name };
            self.make(Arc::from(text), unreadable, facts)
        })
    }

    fn make(&self, text: Arc<str>, unreadable: Option<String>, facts: Facts) -> File {
        let file = File::new(self, text, unreadable);
        let _ = self.shared.facts.slot(file).set(facts);
        file
    }

    fn bundled_file(&self, path: &str, module: Name) -> File {
        let key = FileKey::Bundled(path.to_owned());
        if let Some(file) = self.shared.files.get(&key) {
            return *file;
        }
        let text = leitmotiv_stdlib::text(path).unwrap_or_default();
        let is_package = path.ends_with("__init__.pyi");
        *self.shared.files.entry(key).or_insert_with(|| {
            let shown = format!("<bundle>/{path}");
            let origin = Origin::Bundled;
            let (disk, root, root_name) = (None, None, None);
            let facts = Facts { path: shown, module, origin, is_stub: true, is_package, disk, root, root_name };
            self.make(Arc::from(text), None, facts)
        })
    }

    /// What stands for a module of machine code: a stub that has every name, of unknown type.
    fn compiled_file(&self, module: Name) -> File {
        let key = FileKey::Compiled(module);
        if let Some(file) = self.shared.files.get(&key) {
            return *file;
        }
        let shown = format!("<compiled>/{}", self.shared.names.text(module));
        let text = Arc::from("def __getattr__(name): ...\n");
        *self.shared.files.entry(key).or_insert_with(|| {
            let facts = Facts {
                path: shown,
                module,
                origin: Origin::Untyped,
                is_stub: true,
                is_package: false,
                disk: None,
                root: None,
                root_name: None,
            };
            self.make(text, None, facts)
        })
    }

    fn find(&self, name: Name, importer: Option<File>) -> Option<Found> {
        let importer = importer.filter(|file| file.origin(self).is_own()).map(|file| self.facts(file));
        // Folders are told apart by their texts, interned.
        let key = (name, importer.and_then(|facts| facts.root_name));
        if let Some(found) = self.shared.modules.get(&key) {
            return *found;
        }
        let root = importer.and_then(|facts| facts.root.as_deref());
        let located = self.shared.resolver.find(self.shared.names.text(name), root);
        let found = located.map(|Located { place, origin }| match place {
            Place::File(path) => Found::File(self.disk_file(&path, Some(name), origin)),
            Place::Bundled(path) => Found::File(self.bundled_file(&path, name)),
            Place::Namespace(_) => Found::Namespace,
            Place::Compiled => Found::File(self.compiled_file(name)),
        });
        self.shared.modules.insert(key, found);
        found
    }
}
