//! The one database of a session: its inputs, what is made of them, and how it is told of changes.

use std::hash::{Hash as _, Hasher as _};
use std::path::{Path, PathBuf};
use std::sync::{Arc, OnceLock};

use dashmap::DashMap;
use leitmotiv_index::lower::Target;
use leitmotiv_project::Project;
use leitmotiv_project::resolve::{self, Origin, Place, Resolver};
use leitmotiv_project::sources;
use leitmotiv_syntax::decode;
use leitmotiv_syntax::names::{Name, Names};
use rustc_hash::{FxHashMap, FxHashSet, FxHasher};
use salsa::{Durability, Setter};

use crate::types::ClassRef;
use crate::types::store::Store;

use super::asked::{Ask, AskAll, Recorder};
use super::assumed::Assumed;
use super::db::{Config, Db, Layout, Located, Unasked};
use super::file::{FactTable, Facts, File, Kept, Known};
use super::observed::{Observed, text_sum};
use super::runs::Runs;
use super::said::Address;
use super::stored::{Answer, Answers};

/// The one database of a session. Cloning it gives a handle for another thread.
#[salsa::db]
#[derive(Clone)]
pub struct Database {
    storage: salsa::Storage<Self>,
    shared: Arc<Shared>,
    surroundings: Arc<Surroundings>,
}

/// What only grows.
struct Shared {
    names: Names,
    store: Store,
    files: DashMap<FileKey, File>,
    facts: FactTable,
    bundled: DashMap<Name, Option<File>, std::hash::BuildHasherDefault<FxHasher>>,
    classes: DashMap<(Name, Name), ClassRef, std::hash::BuildHasherDefault<FxHasher>>,
    assumes: bool,
    recorder: OnceLock<Recorder>,
    ahead: OnceLock<Ahead>,
    stored: OnceLock<FxHashMap<File, Answers>>,
}

/// What is known of files before anybody asks for them, by their full paths.
#[derive(Debug, Default)]
pub struct Ahead {
    /// What they say, or why they cannot be read.
    pub texts: FxHashMap<PathBuf, (Arc<str>, Option<String>)>,
    /// What another run has found of the same text.
    pub known: FxHashMap<PathBuf, Known>,
}

/// What is known of the disk; made anew when files come or go.
struct Surroundings {
    project: Project,
    resolver: Resolver,
    /// Texts that count in place of those on disk, by path.
    overlay: FxHashMap<PathBuf, Arc<str>>,
}

impl Surroundings {
    fn new(project: Project, overlay: FxHashMap<PathBuf, Arc<str>>) -> Surroundings {
        let also: FxHashSet<PathBuf> = overlay.keys().filter(|path| !path.is_file()).cloned().collect();
        let resolver = Resolver::new(&project, leitmotiv_stdlib::exists_in, also);
        Surroundings { project, resolver, overlay }
    }
}

/// A change to a file, by its full path, with links followed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum FileChange {
    /// The text counts, whatever is on disk: an editor holds it.
    Held {
        /// The file.
        path: PathBuf,
        /// Its text.
        text: String,
    },
    /// What is on disk counts, and may have changed, come or gone; also of folders.
    OnDisk {
        /// The file or folder.
        path: PathBuf,
    },
}

impl FileChange {
    /// The file or folder.
    #[must_use]
    pub fn path(&self) -> &Path {
        match self {
            FileChange::Held { path, .. } | FileChange::OnDisk { path } => path,
        }
    }
}

#[derive(Debug, Clone, PartialEq, Eq, Hash)]
enum FileKey {
    Disk(PathBuf),
    Bundled(String),
    Compiled(Name),
}

#[salsa::db]
impl salsa::Database for Database {}

#[salsa::db]
impl Db for Database {
    fn facts(&self, file: File) -> &Facts {
        // Files are only made by `make`, which sets their facts before anybody else knows of them.
        self.shared.facts.slot(file).get().unwrap_or_else(|| unreachable!("a file without facts"))
    }

    fn recorder(&self) -> Option<&Recorder> {
        self.shared.recorder.get()
    }

    fn stored(&self, file: File, ask: Ask) -> Option<Answer> {
        self.shared.stored.get()?.get(&file)?.to(self, ask)
    }

    fn names(&self) -> &Names {
        &self.shared.names
    }

    fn store(&self) -> &Store {
        &self.shared.store
    }

    fn is_standard_name(&self, name: &str) -> bool {
        self.surroundings.resolver.is_standard_name(name)
    }

    fn remembered_class(&self, module: Name, name: Name) -> Option<ClassRef> {
        self.shared.classes.get(&(module, name)).map(|class| *class)
    }

    fn remember_class(&self, module: Name, name: Name, class: ClassRef) {
        self.shared.classes.insert((module, name), class);
    }

    fn bundled(&self, name: Name) -> Option<File> {
        if let Some(known) = self.shared.bundled.get(&name) {
            return *known;
        }
        let path = self.surroundings.resolver.bundled(self.shared.names.text(name));
        let file = path.map(|path| self.bundled_file(&path, name));
        self.shared.bundled.insert(name, file);
        file
    }

    fn locate(&self, name: Name, root: Option<Name>) -> Option<Located> {
        // Folders are told apart by their texts, interned.
        let root = root.map(|root| Path::new(self.shared.names.text(root)));
        let located = self.surroundings.resolver.find(self.shared.names.text(name), root);
        located.map(|resolve::Located { place, origin }| match place {
            Place::File(path) => Located::File(self.disk_file(&path, Some(name), origin)),
            Place::Bundled(path) => Located::File(self.bundled_file(&path, name)),
            Place::Namespace(_) => Located::Namespace,
            Place::Compiled => Located::File(self.compiled_file(name)),
        })
    }

    fn list_project(&self) -> Arc<[File]> {
        let files = self.sources(&[]).unwrap_or_default();
        // One by one: a query must not wait for other threads' work, which may wait for it.
        files.iter().map(|path| self.source(path)).collect()
    }

    fn list_modules(&self) -> Arc<[String]> {
        self.surroundings.resolver.own_modules().into()
    }

    fn assumes(&self) -> bool {
        self.shared.assumes
    }

    fn source_beside(&self, stub: File) -> Option<File> {
        self.path_beside(stub).map(|path| self.source(&path))
    }
}

impl Database {
    /// A database for a project.
    #[must_use]
    pub fn new(project: Project) -> Database {
        Database::with(project, salsa::Storage::default(), false)
    }

    /// A database for the same project, with what editors hold, in which nothing is known yet, and things may be taken for granted.
    #[must_use]
    pub fn anew(&self) -> Database {
        let mut db = Database::with(self.project().clone(), salsa::Storage::default(), true);
        db.hold(self.surroundings.overlay.clone());
        db
    }

    /// A database that counts which of its queries run.
    #[must_use]
    pub fn counted(project: Project, runs: &Runs) -> Database {
        Database::with(project, salsa::Storage::new(Some(runs.watch())), false)
    }

    fn with(project: Project, storage: salsa::Storage<Database>, assumes: bool) -> Database {
        let shared = Shared {
            names: Names::new(),
            store: Store::new(),
            files: DashMap::new(),
            facts: FactTable::new(),
            bundled: DashMap::default(),
            classes: DashMap::default(),
            assumes,
            recorder: OnceLock::new(),
            ahead: OnceLock::new(),
            stored: OnceLock::new(),
        };
        let target = target(&project);
        let surroundings = Arc::new(Surroundings::new(project, FxHashMap::default()));
        let db = Database { storage, shared: Arc::new(shared), surroundings };
        // How seldom something changes decides what has to be noted of it: what follows from the target and the bundled stubs alone
        // is not even recorded as having been read, and after an edit what follows from libraries is not looked through.
        let _ = Config::builder(target).durability(Durability::NEVER_CHANGE).new(&db);
        let _ = Layout::builder(0).durability(Durability::HIGH).new(&db);
        let _ = Unasked::builder(Vec::new()).durability(Durability::HIGH).new(&db);
        db
    }

    /// Tells what is known of files. To be told before anything is worked out, and once; it counts until the files change.
    pub fn know(&self, ahead: Ahead) {
        let _ = self.shared.ahead.set(ahead);
    }

    /// Tells what files answer that would answer the same now. To be told once; it counts until the files change.
    pub fn know_answers(&self, answers: FxHashMap<File, Answers>) {
        let _ = self.shared.stored.set(answers);
    }

    /// The files that anybody asked for so far, in no order.
    #[must_use]
    pub fn files_so_far(&self) -> Vec<File> {
        self.shared.files.iter().map(|file| *file).collect()
    }

    /// Writes down from now on which answers hang on which others. To be asked for before anything is worked out.
    pub fn record(&self) -> &Recorder {
        self.shared.recorder.get_or_init(Recorder::default)
    }

    /// The project.
    #[must_use]
    pub fn project(&self) -> &Project {
        &self.surroundings.project
    }

    /// Tells the database of changed files. What depends on them is worked out again when it is asked for next; queries that still
    /// run on other handles are cancelled, and this waits for these handles to be dropped.
    pub fn apply(&mut self, changes: &[FileChange]) {
        let mut overlay = self.surroundings.overlay.clone();
        let mut is_layout = false;
        for change in changes {
            let path = change.path();
            match change {
                FileChange::Held { path, text } => {
                    let before = overlay.insert(path.clone(), Arc::from(text.as_str()));
                    is_layout |= before.is_none() && !path.is_file();
                }
                FileChange::OnDisk { path } => {
                    is_layout |= overlay.remove(path).is_some() && !path.is_file();
                }
            }
            // What nobody has read may still be a name that somebody looked for.
            let Some(file) = self.shared.files.get(&FileKey::Disk(path.to_owned())).map(|file| *file) else {
                is_layout = true;
                continue;
            };
            let (text, unreadable) = match overlay.get(path) {
                Some(text) => (text.clone(), None),
                None => read(path),
            };
            // Read or not says whether it is there; else its text is all that changes.
            is_layout |= unreadable.is_some() != file.unreadable(self).is_some();
            self.set(file, text, unreadable);
        }
        if is_layout {
            self.relist(self.project().clone(), overlay, changes.iter().map(FileChange::path));
        } else if overlay != self.surroundings.overlay {
            self.hold(overlay);
        }
    }

    /// Takes other settings, for the same root. Where they are for another target, all begins anew: [`File`]s from before are then no
    /// longer of this database.
    pub fn reconfigure(&mut self, project: Project) {
        let overlay = self.surroundings.overlay.clone();
        if *Config::get(self).target(self) != target(&project) {
            *self = Database::new(project.clone());
        }
        self.relist(project, overlay, std::iter::empty());
    }

    /// Says which rules nobody asks for, sorted: of their problems no findings are made.
    pub fn set_unasked(&mut self, rules: Vec<&'static str>) {
        let unasked = Unasked::get(self);
        if *unasked.rules(self) != rules {
            unasked.set_rules(self).to(rules);
        }
    }

    /// Gives a file another text, to try a change out. Nothing else changes by it: what is held by an editor or lies on disk counts
    /// again once it is told of with [`Database::apply`], or the text from before is given back.
    pub fn try_text(&mut self, file: File, text: Arc<str>) {
        if *file.text(self) != text {
            file.set_content(self).to(text);
        }
    }

    /// Takes something for granted of a file's functions; `None` takes that back.
    ///
    /// # Panics
    ///
    /// In a database that was not made by [`Database::anew`]: what is known there does not ask what is taken for granted.
    pub fn assume(&mut self, file: File, assumed: Option<Arc<Assumed>>) {
        assert!(self.shared.assumes, "nothing can be taken for granted in this database");
        if *file.assumed(self) != assumed {
            file.set_assumed(self).to(assumed);
        }
    }

    /// Remembers which texts are held, for files that are not known yet.
    fn hold(&mut self, overlay: FxHashMap<PathBuf, Arc<str>>) {
        // No other handle is left where a text was just set; else what is known of the disk is read again.
        match Arc::get_mut(&mut self.surroundings) {
            Some(surroundings) => surroundings.overlay = overlay,
            None => self.surroundings = Arc::new(Surroundings::new(self.project().clone(), overlay)),
        }
    }

    fn set(&mut self, file: File, text: Arc<str>, unreadable: Option<String>) {
        if *file.text(self) != text {
            file.set_content(self).to(text);
        }
        if *file.unreadable(self) != unreadable {
            file.set_unreadable(self).to(unreadable);
        }
    }

    /// Looks at the disk anew.
    fn relist<'a>(
        &mut self,
        project: Project,
        overlay: FxHashMap<PathBuf, Arc<str>>,
        changed: impl Iterator<Item = &'a Path>,
    ) {
        for path in changed {
            // Files around an `__init__` that came or went are modules of other names: they are other files from now on.
            if path.file_stem().is_some_and(|stem| stem == "__init__")
                && let Some(folder) = path.parent()
            {
                self.shared.files.retain(|key, _| !matches!(key, FileKey::Disk(path) if path.starts_with(folder)));
            }
        }
        self.surroundings = Arc::new(Surroundings::new(project, overlay));
        let layout = Layout::get(self);
        let revision = *layout.revision(self);
        layout.set_revision(self).to(revision + 1);
    }

    /// The files below some paths, or the configured sources, sorted: those on disk, and for the configured sources also those that only
    /// an editor holds.
    ///
    /// # Errors
    /// [`sources::SourcesError`] for a path that is not there or a bad pattern.
    pub fn sources(&self, paths: &[PathBuf]) -> Result<Vec<PathBuf>, sources::SourcesError> {
        let mut files = sources::list(self.project(), paths)?;
        if paths.is_empty() {
            let held = self.surroundings.overlay.keys().filter(|path| !path.exists());
            let held: Vec<&PathBuf> = held.filter(|path| sources::would_list(self.project(), path)).collect();
            if !held.is_empty() {
                files.extend(held.into_iter().cloned());
                files.sort();
            }
        }
        Ok(files)
    }

    /// The folders that imports are searched in, in words; those of the project relative to it.
    #[must_use]
    pub fn roots(&self) -> String {
        self.surroundings.resolver.roots(&self.project().root)
    }

    /// What was read and looked at on disk until now.
    #[must_use]
    pub fn observed(&self) -> Observed {
        let files = self.shared.files.iter().filter_map(|entry| match entry.key() {
            FileKey::Disk(path) => Some((path.clone(), *entry.value())),
            _ => None,
        });
        let files: Vec<(PathBuf, File)> = files.collect();
        let of = |(path, file): &(PathBuf, File)| {
            (path.clone(), text_sum(file.text(self), file.unreadable(self).as_deref()))
        };
        let files = files.iter().map(of).collect();
        Observed::new(files, self.surroundings.resolver.looked_at(), &self.project().root)
    }

    /// What an answer is that hangs on which files there are, as a sum that is the same in another run, wherever the project lies; `None` for
    /// what hangs on more.
    pub(crate) fn laid(&self, ask: AskAll) -> Option<u64> {
        let mut hasher = FxHasher::default();
        match ask {
            AskAll::Located(name, root) => format!("{:?}", self.placed(name, root)).hash(&mut hasher),
            AskAll::Modules => self.surroundings.resolver.own_modules().hash(&mut hasher),
            AskAll::Beside(stub) => self.path_beside(stub).is_some().hash(&mut hasher),
            _ => return None,
        }
        Some(hasher.finish())
    }

    /// Where a name leads, and where its types come from; namespace packages are all alike. Files of the project by their paths in it.
    pub(crate) fn placed(&self, name: Name, root: Option<Name>) -> Option<(Option<Place>, Origin)> {
        let root = root.map(|root| Path::new(self.shared.names.text(root)));
        let located = self.surroundings.resolver.find(self.shared.names.text(name), root)?;
        let place = match located.place {
            Place::File(path) => Some(Place::File(path.strip_prefix(&self.project().root).unwrap_or(&path).to_owned())),
            Place::Namespace(_) => None,
            place => Some(place),
        };
        Some((place, located.origin))
    }

    fn path_beside(&self, stub: File) -> Option<PathBuf> {
        let path = self.project().root.join(Path::new(stub.path(self)).with_extension("py"));
        self.surroundings.resolver.has_file(&path).then_some(path)
    }

    /// A file that is known already, by its full path.
    #[must_use]
    pub fn known(&self, path: &Path) -> Option<File> {
        self.shared.files.get(&FileKey::Disk(path.to_owned())).map(|file| *file)
    }

    /// The input for a file of the project.
    #[must_use]
    pub fn source(&self, path: &Path) -> File {
        self.disk_file(path, None, Origin::Project)
    }

    /// Whether a file of the project has the name of a module of the standard library, or lies in a package that does: the
    /// library may be importing it.
    #[must_use]
    pub fn is_library_name(&self, file: File) -> bool {
        let name = self.shared.names.text(file.module(self));
        self.surroundings.resolver.is_library_name(name.split('.').next().unwrap_or(name))
    }

    /// A module's own source, whatever stubs there are of it.
    #[must_use]
    pub fn source_of(&self, name: Name) -> Option<File> {
        let located = self.surroundings.resolver.source(self.shared.names.text(name))?;
        let Place::File(path) = located.place else { return None };
        Some(self.disk_file(&path, Some(name), located.origin))
    }

    /// Where the types of an installed module come from, whatever stubs the project has of it.
    #[must_use]
    pub fn installed_origin(&self, name: &str) -> Option<Origin> {
        self.surroundings.resolver.installed(name).map(|located| located.origin)
    }

    /// The names of the modules and packages right below a package, from source or machine code, sorted; those that are only
    /// there to be run left out.
    #[must_use]
    pub fn submodules(&self, name: &str) -> Vec<String> {
        self.surroundings.resolver.submodules(name)
    }

    fn disk_file(&self, path: &Path, name: Option<Name>, origin: Origin) -> File {
        let key = FileKey::Disk(path.to_owned());
        if let Some(file) = self.shared.files.get(&key) {
            return *file;
        }
        let (text, unreadable) = match self.surroundings.overlay.get(path) {
            Some(text) => (text.clone(), None),
            None => match self.shared.ahead.get().and_then(|ahead| ahead.texts.get(path)) {
                Some(said) => said.clone(),
                None => read(path),
            },
        };
        let overlay = &self.surroundings.overlay;
        let is_there = |path: &Path| overlay.contains_key(path) || path.exists();
        let (root, module) = leitmotiv_project::sources::module_among(path, &is_there);
        let module = name.unwrap_or_else(|| self.shared.names.intern(&module));
        let is_package = path.file_stem().is_some_and(|stem| stem == "__init__");
        let is_stub = path.extension().is_some_and(|extension| extension == "pyi");
        let shown = self.surroundings.project.relative(path);
        *self.shared.files.entry(key).or_insert_with(|| {
            let root_name = Some(self.shared.names.intern(&root.to_string_lossy()));
            let disk = Some(path.to_owned());
            let facts = Facts {
                path: shown,
                module,
                origin,
                is_stub,
                is_package,
                disk,
                root: Some(root),
                root_name,
                known: self.shared.ahead.get().and_then(|ahead| ahead.known.get(path).cloned()),
                kept: Kept::default(),
            };
            self.make(text, unreadable, facts)
        })
    }

    /// A folder that imports begin in as another run finds it again: within the project relative to it.
    pub(crate) fn folder_text(&self, folder: Name) -> &str {
        let text = self.shared.names.text(folder);
        let within = Path::new(text).strip_prefix(&self.project().root).ok().and_then(Path::to_str);
        within.unwrap_or(text)
    }

    /// The folder that another run told of.
    pub(crate) fn folder_of_text(&self, text: &str) -> Name {
        let path = match text {
            "" => self.project().root.clone(),
            text => self.project().root.join(text),
        };
        self.shared.names.intern(&path.to_string_lossy())
    }

    /// A file as another run finds it again.
    pub(super) fn address(&self, file: File) -> Address {
        let module = self.shared.names.text(file.module(self)).to_owned();
        match (file.disk(self), file.path(self).strip_prefix("<bundle>/")) {
            (Some(path), _) => {
                let path = path.strip_prefix(&self.project().root).unwrap_or(path).to_owned();
                Address::Disk(path, module, file.origin(self))
            }
            (None, Some(path)) => Address::Bundled(path.to_owned(), module),
            (None, None) => Address::Compiled(module),
        }
    }

    /// The file that another run told of.
    pub(super) fn file_at(&self, address: &Address) -> File {
        let name = |module: &str| self.shared.names.intern(module);
        match address {
            Address::Disk(path, module, origin) => {
                self.disk_file(&self.project().root.join(path), Some(name(module)), *origin)
            }
            Address::Bundled(path, module) => self.bundled_file(path, name(module)),
            Address::Compiled(module) => self.compiled_file(name(module)),
        }
    }

    fn make(&self, text: Arc<str>, unreadable: Option<String>, facts: Facts) -> File {
        let durability = match facts.origin {
            Origin::Project | Origin::LocalStub => Durability::MEDIUM,
            _ if facts.disk.is_none() => Durability::NEVER_CHANGE,
            _ => Durability::HIGH,
        };
        let file = File::builder(text, unreadable).durability(durability).new(self);
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
            let facts = Facts {
                path: shown,
                module,
                origin,
                is_stub: true,
                is_package,
                disk,
                root,
                root_name,
                known: None,
                kept: Kept::default(),
            };
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
                known: None,
                kept: Kept::default(),
            };
            self.make(text, None, facts)
        })
    }
}

fn target(project: &Project) -> Target {
    Target { version: project.python, platform: project.settings.platform.clone(), is_stub: false }
}

/// The text of a file, or an empty one and why it cannot be read.
#[must_use]
pub fn read(path: &Path) -> (Arc<str>, Option<String>) {
    let text = leitmotiv_project::read::bytes(path)
        .map_err(|error| error.to_string())
        .and_then(|bytes| decode::decode(bytes).map_err(|error| error.to_string()));
    match text {
        Ok(text) => (Arc::from(text), None),
        Err(error) => (Arc::from(""), Some(error)),
    }
}
