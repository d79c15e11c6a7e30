//! From a module's name to a file.
//!
//! The order is the typing specification's ("Import resolution ordering"): local stubs, the project's own files, the
//! bundled standard library, stub packages, packages with `py.typed`, other installed packages, and, for modules of the
//! standard library without a bundled stub, the interpreter's own source.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use dashmap::DashMap;
use rustc_hash::{FxHashMap, FxHashSet};

use crate::Project;
use serde::{Deserialize, Serialize};

/// Where a module's types come from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
pub enum Origin {
    /// The project's own source.
    Project,
    /// A stub of the project's own.
    LocalStub,
    /// Our stubs of the standard library.
    Bundled,
    /// A stub package (`x-stubs`, PEP 561), or a stub beside an installed module.
    StubPackage,
    /// An installed package that says it is typed (`py.typed`, PEP 561).
    Typed,
    /// An installed package without types.
    Untyped,
    /// The interpreter's own source of a standard module.
    Library,
}

impl Origin {
    /// Whether it is source that nobody wrote types for: what is known of it is inferred, and it may make names as it runs.
    #[must_use]
    pub fn is_untyped_source(self) -> bool {
        matches!(self, Origin::Untyped | Origin::Library)
    }

    /// Whether the project's authors wrote it.
    #[must_use]
    pub fn is_own(self) -> bool {
        matches!(self, Origin::Project | Origin::LocalStub)
    }
}

/// The file or folder that a module's name leads to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Located {
    /// What it is.
    pub place: Place,
    /// Where its types come from.
    pub origin: Origin,
}

/// A module's place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Place {
    /// A source file or stub.
    File(PathBuf),
    /// A bundled stub, by its path in the bundle.
    Bundled(String),
    /// A namespace package (PEP 420): a folder without `__init__`.
    Namespace(PathBuf),
    /// A module that is there only as machine code.
    Compiled,
}

/// Modules of the standard library that are compiled into the interpreter or an extension of it, on one platform or
/// another (library reference, "Python Module Index"); besides, any whose names begin with an underscore may be.
const COMPILED: &[&str] = &[
    "array",
    "atexit",
    "audioop",
    "binascii",
    "cmath",
    "errno",
    "faulthandler",
    "fcntl",
    "gc",
    "grp",
    "marshal",
    "math",
    "mmap",
    "msvcrt",
    "nis",
    "nt",
    "ossaudiodev",
    "parser",
    "posix",
    "pwd",
    "pyexpat",
    "readline",
    "resource",
    "select",
    "spwd",
    "symtable",
    "syslog",
    "termios",
    "unicodedata",
    "winreg",
    "winsound",
    "zlib",
    "_thread",
    "_winapi",
    "_ctypes",
    "_socket",
    "_ssl",
    "_io",
    "_csv",
    "_json",
    "_struct",
    "_pickle",
    "_datetime",
    "_decimal",
    "_operator",
    "_functools",
    "_collections",
    "_sre",
    "_codecs",
    "_weakref",
    "_signal",
    "_stat",
    "_string",
    "_symtable",
    "_tracemalloc",
    "_warnings",
    "_imp",
    "_asyncio",
    "_bisect",
    "_heapq",
    "_random",
    "_hashlib",
    "_sqlite3",
    "_lzma",
    "_bz2",
    "_locale",
    "_lsprof",
    "_multibytecodec",
    "_multiprocessing",
    "_opcode",
    "_overlapped",
    "_posixshmem",
    "_posixsubprocess",
    "_queue",
    "_scproxy",
    "_statistics",
    "_tkinter",
    "_uuid",
    "_xxsubinterpreters",
    "_zoneinfo",
    "_elementtree",
    "_curses",
    "_curses_panel",
    "_dbm",
    "_gdbm",
    "_abc",
    "_ast",
    "_contextvars",
    "_crypt",
];

/// The last version of the language, 3.x, that the bundle tells apart.
const NEWEST_MINOR: u8 = 15;

/// Finds modules. Listings of folders are read once.
pub struct Resolver {
    roots: Vec<(PathBuf, Root)>,
    bundled: fn(&str, (u8, u8)) -> bool,
    version: (u8, u8),
    listings: DashMap<PathBuf, Option<Arc<FxHashSet<String>>>>,
    /// Whether files were there that were asked for.
    files: DashMap<PathBuf, bool>,
    /// Files that count as there though they are not on disk, by folder.
    also: FxHashMap<PathBuf, FxHashSet<String>>,
}

/// What a resolver has looked at on disk, sorted by path: asked again, it gives the same answers as long as this is so.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct LookedAt {
    /// Folders, with the names there that could be modules; `None` where there was no folder.
    pub folders: Vec<(PathBuf, Option<Vec<String>>)>,
    /// Files, and whether they were there.
    pub files: Vec<(PathBuf, bool)>,
}

/// The names in a folder that could be those of modules, packages or what marks them, sorted; `None` where there is no folder.
#[must_use]
pub fn modules_in(folder: &Path) -> Option<Vec<String>> {
    listed(folder).map(|names| could_be_modules(names.iter()))
}

fn listed(folder: &Path) -> Option<FxHashSet<String>> {
    let entries = std::fs::read_dir(folder).ok()?;
    Some(entries.flatten().map(|entry| entry.file_name().to_string_lossy().into_owned()).collect())
}

fn could_be_modules<'a>(names: impl Iterator<Item = &'a String>) -> Vec<String> {
    let could_be = |name: &&String| match name.rsplit_once('.') {
        None => true,
        Some((_, extension)) => matches!(extension, "py" | "pyi" | "pyc" | "so" | "pyd" | "dll" | "dylib" | "typed"),
    };
    let mut names: Vec<String> = names.filter(could_be).cloned().collect();
    names.sort_unstable();
    names
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Root {
    Stubs,
    Own,
    Bundle,
    Packages,
    Library,
}

impl Resolver {
    /// A resolver for a project; `bundled` says whether a path such as `os/path.pyi` is in our bundle, of a module that a
    /// version of the language has. Some files count as there though they are not on disk.
    #[must_use]
    pub fn new(
        project: &Project,
        bundled: fn(&str, (u8, u8)) -> bool,
        also: impl IntoIterator<Item = PathBuf>,
    ) -> Resolver {
        let mut roots = Vec::new();
        let mut add = |path: PathBuf, root: Root| {
            let path = path.canonicalize().unwrap_or(path);
            if !roots.iter().any(|(known, _)| *known == path) {
                roots.push((path, root));
            }
        };
        for stubs in &project.settings.stubs {
            add(project.root.join(stubs), Root::Stubs);
        }
        for source in &project.settings.sources {
            let path = project.root.join(source);
            if path.is_dir() {
                // A package named as a source is imported from the folder it lies in.
                let (root, _) = crate::sources::module_of(&path.join("__init__.py"));
                add(if path.join("__init__.py").exists() { root } else { path }, Root::Own);
            }
        }
        add(project.root.clone(), Root::Own);
        let src = project.root.join("src");
        if src.is_dir() && !src.join("__init__.py").exists() {
            add(src, Root::Own);
        }
        add(PathBuf::from("<bundle>"), Root::Bundle);
        if let Some(interpreter) = &project.interpreter {
            for folder in &interpreter.packages {
                add(folder.clone(), Root::Packages);
            }
            if let Some(library) = &interpreter.library {
                add(library.clone(), Root::Library);
            }
        }
        let mut by_folder: FxHashMap<PathBuf, FxHashSet<String>> = FxHashMap::default();
        for path in also {
            // The folders on the way may not be there either.
            for part in path.ancestors() {
                let (Some(folder), Some(name)) = (part.parent(), part.file_name()) else { break };
                by_folder.entry(folder.to_owned()).or_default().insert(name.to_string_lossy().into_owned());
                if folder.is_dir() {
                    break;
                }
            }
        }
        Resolver {
            roots,
            bundled,
            version: project.python,
            listings: DashMap::new(),
            files: DashMap::new(),
            also: by_folder,
        }
    }

    /// Finds a module by its dotted name. `importer_root` is the folder that the importing file is imported from, tried
    /// after the project's own folders.
    #[must_use]
    pub fn find(&self, name: &str, importer_root: Option<&Path>) -> Option<Located> {
        let parts: Vec<&str> = name.split('.').collect();
        let mut namespace = None;
        for (root, kind) in &self.roots {
            if *kind == Root::Bundle {
                // Scripts beside each other import each other, though their folder is no configured source.
                if let Some(importer_root) = importer_root
                    && let Some(found) = self.find_below(importer_root, &parts, Root::Own, &mut namespace)
                {
                    return Some(found);
                }
                if let Some(path) = self.bundled_path(&parts) {
                    return Some(Located { place: Place::Bundled(path), origin: Origin::Bundled });
                }
                continue;
            }
            if *kind == Root::Packages {
                if let Some(found) = self.find_stub_package(root, &parts) {
                    return Some(found);
                }
                // What a whole package of stubs leaves out is not there for its users.
                if self.has_whole_stubs(root, &parts) {
                    return None;
                }
            }
            if *kind == Root::Library && self.is_of_another_version(&parts) {
                return None;
            }
            if let Some(found) = self.find_below(root, &parts, *kind, &mut namespace) {
                return Some(found);
            }
        }
        let compiled = || Located { place: Place::Compiled, origin: Origin::Untyped };
        namespace.or_else(|| self.is_compiled(name, &parts).then(compiled))
    }

    /// A module's own source, whatever stubs there are of it.
    #[must_use]
    pub fn source(&self, name: &str) -> Option<Located> {
        let parts: Vec<&str> = name.split('.').collect();
        let (last, packages) = parts.split_last()?;
        for (root, kind) in &self.roots {
            let origin = match kind {
                Root::Stubs | Root::Bundle => continue,
                Root::Own => Origin::Project,
                Root::Library => Origin::Library,
                Root::Packages => Origin::Untyped,
            };
            let folder = packages.iter().fold(root.clone(), |folder, package| folder.join(package));
            for path in [folder.join(last).join("__init__.py"), folder.join(format!("{last}.py"))] {
                let parent = path.parent().unwrap_or(&folder);
                let file = path.file_name().unwrap_or_default().to_string_lossy();
                if self.lists(parent, &file) && self.is_file(&path) {
                    return Some(Located { place: Place::File(path), origin });
                }
            }
        }
        None
    }

    /// Whether the standard library has a top-level module of that name that others are meant to import.
    #[must_use]
    pub fn is_standard_name(&self, name: &str) -> bool {
        // Parts of the distribution that are no library; and a package that merely comes with our stubs.
        const APART: &[&str] =
            &["antigravity", "idlelib", "lib2to3", "site", "test", "this", "turtledemo", "typing_extensions"];
        if name.starts_with('_') || APART.contains(&name) {
            return false;
        }
        let in_library = || {
            let library = self.roots.iter().find(|(_, kind)| *kind == Root::Library);
            library.is_some_and(|(root, _)| {
                self.lists(root, &format!("{name}.py"))
                    || self.lists(root, name) && self.lists(&root.join(name), "__init__.py")
            })
        };
        self.bundled_path(&[name]).is_some() || COMPILED.contains(&name) || in_library()
    }

    /// Whether the standard library has a top-level module of that name, meant for others or not.
    #[must_use]
    pub fn is_library_name(&self, name: &str) -> bool {
        // Folders beside the library's modules that nothing in it imports.
        if matches!(name, "test" | "site-packages" | "dist-packages" | "__pycache__") {
            return false;
        }
        let library = self.roots.iter().find(|(_, kind)| *kind == Root::Library);
        let in_library =
            || library.is_some_and(|(root, _)| self.lists(root, name) || self.lists(root, &format!("{name}.py")));
        self.bundled_path(&[name]).is_some() || COMPILED.contains(&name) || in_library()
    }

    /// An installed module, whatever stubs the project has of it.
    #[must_use]
    pub fn installed(&self, name: &str) -> Option<Located> {
        let parts: Vec<&str> = name.split('.').collect();
        let packages = self.roots.iter().filter(|(_, kind)| *kind == Root::Packages);
        packages.map(|(root, kind)| (root, *kind)).find_map(|(root, kind)| {
            let mut namespace = None;
            self.find_stub_package(root, &parts).or_else(|| self.find_below(root, &parts, kind, &mut namespace))
        })
    }

    /// The names right below a package, from source or machine code, sorted; `__main__` left out.
    #[must_use]
    pub fn submodules(&self, package: &str) -> Vec<String> {
        let mut found = std::collections::BTreeSet::new();
        let folders = self
            .roots
            .iter()
            .filter(|(_, kind)| !matches!(kind, Root::Stubs | Root::Bundle))
            .map(|(root, _)| package.split('.').fold(root.clone(), |folder, part| folder.join(part)));
        for folder in folders {
            let Some(listing) = self.listing(&folder) else { continue };
            for file in listing.iter() {
                let stem = file.split('.').next().unwrap_or(file);
                let is_module = file.ends_with(".py") || file.ends_with(".so") || file.ends_with(".pyd");
                let is_package = stem == file && self.lists(&folder.join(file), "__init__.py");
                let is_name = !stem.is_empty() && stem.chars().all(|part| part == '_' || part.is_alphanumeric());
                if (is_module || is_package) && is_name && stem != "__init__" && stem != "__main__" {
                    found.insert(stem.to_owned());
                }
            }
            // The first folder that is the package is the one.
            if !listing.is_empty() {
                break;
            }
        }
        found.into_iter().collect()
    }

    /// Whether a module is there as machine code.
    fn is_compiled(&self, name: &str, parts: &[&str]) -> bool {
        if COMPILED.contains(&name) {
            return true;
        }
        let Some((last, packages)) = parts.split_last() else { return false };
        self.roots.iter().filter(|(_, kind)| *kind != Root::Bundle).any(|(root, _)| {
            let folder = packages.iter().fold(root.clone(), |folder, package| folder.join(package));
            let Some(listing) = self.listing(&folder) else { return false };
            listing.iter().any(|file| {
                file.strip_prefix(last)
                    .is_some_and(|rest| rest.starts_with('.') && (rest.ends_with(".so") || rest.ends_with(".pyd")))
            })
        })
    }

    /// The bundled stub of a module, by its path in the bundle.
    #[must_use]
    pub fn bundled(&self, name: &str) -> Option<String> {
        self.bundled_path(&name.split('.').collect::<Vec<&str>>())
    }

    fn bundled_path(&self, parts: &[&str]) -> Option<String> {
        let joined = parts.join("/");
        [format!("{joined}.pyi"), format!("{joined}/__init__.pyi")]
            .into_iter()
            .find(|path| (self.bundled)(path, self.version))
    }

    /// Whether our bundle has a module for other versions of the language only.
    fn is_of_another_version(&self, parts: &[&str]) -> bool {
        let joined = parts.join("/");
        let paths = [format!("{joined}.pyi"), format!("{joined}/__init__.pyi")];
        (8..=NEWEST_MINOR).any(|minor| paths.iter().any(|path| (self.bundled)(path, (3, minor))))
    }

    fn find_stub_package(&self, root: &Path, parts: &[&str]) -> Option<Located> {
        let (first, rest) = parts.split_first()?;
        let stubs = format!("{first}-stubs");
        if !self.lists(root, &stubs) {
            return None;
        }
        let folder = root.join(&stubs);
        let place = if rest.is_empty() {
            let init = folder.join("__init__.pyi");
            self.is_file(&init).then_some(Place::File(init))
        } else {
            self.descend(&folder, rest)
        }?;
        matches!(place, Place::File(_)).then_some(Located { place, origin: Origin::StubPackage })
    }

    /// Whether a package's stubs say all that there is to say of it: they are no namespace package, and `py.typed` in them
    /// does not say `partial` (PEP 561, "Partial Stub Packages").
    fn has_whole_stubs(&self, root: &Path, parts: &[&str]) -> bool {
        let Some(first) = parts.first() else { return false };
        let stubs = format!("{first}-stubs");
        if !self.lists(root, &stubs) || !self.lists(&root.join(&stubs), "__init__.pyi") {
            return false;
        }
        let marker = crate::read::text(&root.join(&stubs).join("py.typed")).unwrap_or_default();
        !marker.lines().any(|line| line.trim() == "partial")
    }

    fn find_below(&self, root: &Path, parts: &[&str], kind: Root, namespace: &mut Option<Located>) -> Option<Located> {
        let place = self.descend(root, parts)?;
        let origin = match kind {
            Root::Stubs => Origin::LocalStub,
            Root::Own => Origin::Project,
            Root::Bundle => Origin::Bundled,
            Root::Library => Origin::Library,
            Root::Packages => self.package_origin(root, parts, &place),
        };
        let located = Located { place, origin };
        if let Place::Namespace(folder) = &located.place {
            // A folder that happens to have the name is a module only if there is something in it.
            if namespace.is_none() && self.holds_python(folder) {
                *namespace = Some(located);
            }
            return None;
        }
        Some(located)
    }

    fn package_origin(&self, root: &Path, parts: &[&str], place: &Place) -> Origin {
        let is_stub =
            matches!(place, Place::File(path) if path.extension().is_some_and(|extension| extension == "pyi"));
        if is_stub {
            return Origin::StubPackage;
        }
        let mut folder = root.to_owned();
        for part in parts {
            folder.push(part);
            if self.lists(&folder, "py.typed") {
                return Origin::Typed;
            }
        }
        Origin::Untyped
    }

    /// Follows the parts of a name down from a folder.
    fn descend(&self, root: &Path, parts: &[&str]) -> Option<Place> {
        let (last, packages) = parts.split_last()?;
        let mut folder = root.to_owned();
        for package in packages {
            if !self.lists(&folder, package) {
                return None;
            }
            folder.push(package);
        }
        let listing = self.listing(&folder)?;
        if listing.contains(*last) {
            let package = folder.join(last);
            if let Some(inside) = self.listing(&package) {
                for init in ["__init__.pyi", "__init__.py"] {
                    // A name in a folder may be anything, such as a pipe.
                    if inside.contains(init) && self.is_file(&package.join(init)) {
                        return Some(Place::File(package.join(init)));
                    }
                }
            }
        }
        for extension in ["pyi", "py"] {
            let file = format!("{last}.{extension}");
            if listing.contains(&file) && self.is_file(&folder.join(&file)) {
                return Some(Place::File(folder.join(file)));
            }
        }
        let package = folder.join(last);
        (listing.contains(*last) && self.listing(&package).is_some()).then_some(Place::Namespace(package))
    }

    fn holds_python(&self, folder: &Path) -> bool {
        let Some(listing) = self.listing(folder) else { return false };
        listing.iter().any(|name| name.ends_with(".py") || name.ends_with(".pyi"))
            || listing.iter().any(|name| {
                !name.starts_with('.')
                    && self
                        .listing(&folder.join(name))
                        .is_some_and(|inside| inside.iter().any(|name| name.ends_with(".py") || name.ends_with(".pyi")))
            })
    }

    fn lists(&self, folder: &Path, name: &str) -> bool {
        self.listing(folder).is_some_and(|listing| listing.contains(name))
    }

    fn listing(&self, folder: &Path) -> Option<Arc<FxHashSet<String>>> {
        if let Some(known) = self.listings.get(folder) {
            return known.clone();
        }
        let on_disk = listed(folder);
        let listing = match (on_disk, self.also.get(folder)) {
            (Some(mut names), Some(also)) => {
                names.extend(also.iter().cloned());
                Some(names)
            }
            (names, also) => names.or_else(|| also.cloned()),
        };
        let listing = listing.map(Arc::new);
        self.listings.insert(folder.to_owned(), listing.clone());
        listing
    }

    fn is_file(&self, path: &Path) -> bool {
        let is_also = || {
            let (Some(folder), Some(name)) = (path.parent(), path.file_name()) else { return false };
            self.also.get(folder).is_some_and(|names| names.contains(name.to_string_lossy().as_ref()))
                && !self.also.contains_key(path)
        };
        if let Some(known) = self.files.get(path) {
            return *known;
        }
        let is_file = path.is_file() || is_also();
        self.files.insert(path.to_owned(), is_file);
        is_file
    }

    /// Whether a file is there, as for a module.
    #[must_use]
    pub fn has_file(&self, path: &Path) -> bool {
        self.is_file(path)
    }

    /// The folders that are searched, in their order, in words that say which are what; those below a folder as from there.
    #[must_use]
    pub fn roots(&self, below: &Path) -> String {
        let shown = self.roots.iter().map(|(path, kind)| (path.strip_prefix(below).unwrap_or(path), *kind));
        format!("{:?} {:?}", shown.collect::<Vec<_>>(), self.version)
    }

    /// What was looked at on disk until now.
    #[must_use]
    pub fn looked_at(&self) -> LookedAt {
        let names = |names: &Option<Arc<FxHashSet<String>>>| names.as_ref().map(|names| could_be_modules(names.iter()));
        let mut folders: Vec<(PathBuf, Option<Vec<String>>)> =
            self.listings.iter().map(|entry| (entry.key().clone(), names(entry.value()))).collect();
        folders.sort_unstable();
        let mut files: Vec<(PathBuf, bool)> =
            self.files.iter().map(|entry| (entry.key().clone(), *entry.value())).collect();
        files.sort_unstable();
        LookedAt { folders, files }
    }

    /// Top-level modules that could be imported from the project's own folders, for near misses.
    #[must_use]
    pub fn own_modules(&self) -> Vec<String> {
        let mut names: Vec<String> = self
            .roots
            .iter()
            .filter(|(_, root)| matches!(root, Root::Own | Root::Packages))
            .filter_map(|(path, _)| self.listing(path))
            .flat_map(|listing| {
                listing
                    .iter()
                    .filter(|name| !name.contains('-') && !name.starts_with(['.', '_']))
                    .map(|name| name.strip_suffix(".py").unwrap_or(name).to_owned())
                    .filter(|name| !name.contains('.'))
                    .collect::<Vec<_>>()
            })
            .collect();
        names.sort();
        names.dedup();
        names
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Surroundings;

    fn resolver(files: &[&str]) -> (tempfile::TempDir, Resolver) {
        let folder = tempfile::tempdir().unwrap();
        for path in files {
            let path = folder.path().join(path);
            std::fs::create_dir_all(path.parent().unwrap()).unwrap();
            std::fs::write(path, "").unwrap();
        }
        std::fs::create_dir_all(folder.path().join("deps/site-packages")).unwrap();
        std::fs::write(folder.path().join("leitmotiv.toml"), "interpreter = 'deps/site-packages'").unwrap();
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        let resolver = Resolver::new(&project, |path, _| path == "json/__init__.pyi", []);
        (folder, resolver)
    }

    fn found(resolver: &Resolver, folder: &tempfile::TempDir, name: &str) -> Option<(String, Origin)> {
        let root = folder.path().canonicalize().unwrap();
        resolver.find(name, None).map(|located| {
            let path = match located.place {
                Place::File(path) | Place::Namespace(path) => path.strip_prefix(&root).unwrap().display().to_string(),
                Place::Bundled(path) => path,
                Place::Compiled => "compiled".into(),
            };
            (path, located.origin)
        })
    }

    #[test]
    fn the_order_is_that_of_the_specification() {
        let (folder, resolver) = resolver(&[
            "stubs/tides.pyi",
            "tides.py",
            "ferry/__init__.py",
            "deps/site-packages/ferry/__init__.py",
            "deps/site-packages/quay/__init__.py",
            "deps/site-packages/quay-stubs/__init__.pyi",
            "deps/site-packages/buoy/__init__.py",
            "deps/site-packages/buoy/py.typed",
            "deps/site-packages/buoy/light/lamp.py",
            "deps/site-packages/rope.py",
        ]);
        let found = |name| found(&resolver, &folder, name);
        assert_eq!(found("tides"), Some(("stubs/tides.pyi".into(), Origin::LocalStub)));
        assert_eq!(found("ferry"), Some(("ferry/__init__.py".into(), Origin::Project)));
        assert_eq!(found("json"), Some(("json/__init__.pyi".into(), Origin::Bundled)));
        assert_eq!(found("quay"), Some(("deps/site-packages/quay-stubs/__init__.pyi".into(), Origin::StubPackage)));
        assert_eq!(found("buoy.light.lamp"), Some(("deps/site-packages/buoy/light/lamp.py".into(), Origin::Typed)));
        assert_eq!(found("rope"), Some(("deps/site-packages/rope.py".into(), Origin::Untyped)));
        assert_eq!(found("anchor"), None);
    }

    #[test]
    fn whole_stubs_leave_nothing_to_the_package_and_partial_ones_do() {
        let (folder, resolver) = resolver(&[
            "deps/site-packages/quay/__init__.py",
            "deps/site-packages/quay/crane.py",
            "deps/site-packages/quay-stubs/__init__.pyi",
            "deps/site-packages/buoy/__init__.py",
            "deps/site-packages/buoy/light.py",
            "deps/site-packages/buoy-stubs/__init__.pyi",
            "deps/site-packages/rope/knot/bend.py",
            "deps/site-packages/rope-stubs/knot/hitch.pyi",
        ]);
        std::fs::write(folder.path().join("deps/site-packages/buoy-stubs/py.typed"), "partial\n").unwrap();
        let found = |name| found(&resolver, &folder, name);
        assert_eq!(found("quay.crane"), None);
        assert_eq!(found("buoy").unwrap().1, Origin::StubPackage);
        assert_eq!(found("buoy.light"), Some(("deps/site-packages/buoy/light.py".into(), Origin::Untyped)));
        assert_eq!(found("rope.knot.hitch").unwrap().1, Origin::StubPackage);
        assert_eq!(found("rope.knot.bend").unwrap().1, Origin::Untyped);
    }

    #[test]
    fn modules_of_machine_code_are_there_but_say_nothing() {
        let (folder, resolver) = resolver(&["deps/site-packages/sonar.cpython-312-x86_64-linux-gnu.so"]);
        assert_eq!(found(&resolver, &folder, "sonar"), Some(("compiled".into(), Origin::Untyped)));
        assert_eq!(found(&resolver, &folder, "errno"), Some(("compiled".into(), Origin::Untyped)));
        assert_eq!(found(&resolver, &folder, "sona"), None);
    }

    #[test]
    fn a_folder_without_init_is_a_namespace_package_if_it_holds_modules() {
        let (folder, resolver) = resolver(&["harbour/north/pier.py", "docs/notes.txt"]);
        assert_eq!(found(&resolver, &folder, "harbour"), Some(("harbour".into(), Origin::Project)));
        assert_eq!(found(&resolver, &folder, "harbour.north.pier").unwrap().1, Origin::Project);
        assert_eq!(found(&resolver, &folder, "docs"), None);
    }
}
