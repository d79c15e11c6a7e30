//! What is known of a project when slots are concluded: what its files say of parameters and attributes, its classes and their methods, and
//! what was concluded in the round before.

use std::sync::{Arc, OnceLock};

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes::{self, members};
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve;
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_engine::view::handled::{self, Parameter, Passed, Subject, Use};
use leitmotiv_index::tree::{DefKind, FunctionId, ScopeId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;
use rayon::prelude::*;
use rustc_hash::{FxHashMap, FxHashSet};

use super::sources::names::ByName;
use super::sources::options::{self, Options};
use super::sources::traces::Traces;

/// What is known of a project.
pub(super) struct Known {
    /// What calls pass, by parameter: the file of the call, whether that is a test, and what it passes.
    pub(super) passed: FxHashMap<Parameter, Vec<(File, bool, Passed)>>,
    /// What is done, by parameter and attribute.
    pub(super) uses: FxHashMap<Subject, Vec<(File, Use)>>,
    /// What passed while the program ran.
    pub(super) traces: Arc<Traces>,
    /// What was concluded in the round before.
    pub(super) concluded: FxHashMap<Parameter, Type>,
    /// The same by the parameters' names.
    pub(super) by_name: ByName,
    derived: OnceLock<FxHashMap<ClassRef, Vec<ClassRef>>>,
    classes: OnceLock<Vec<ClassRef>>,
    shared_fixtures: OnceLock<Vec<File>>,
    options: FxHashMap<File, OnceLock<Options>>,
}

impl Known {
    /// What some files say.
    pub(super) fn gather(
        db: &Database,
        files: &[File],
        concluded: FxHashMap<Parameter, Type>,
        traces: Arc<Traces>,
    ) -> Known {
        let each: Vec<_> = files
            .par_iter()
            .map_with(db.clone(), |db, file| {
                let work = || handled::of(db, *file);
                std::panic::catch_unwind(std::panic::AssertUnwindSafe(work)).unwrap_or_default()
            })
            .collect();
        let mut passed: FxHashMap<Parameter, Vec<(File, bool, Passed)>> = FxHashMap::default();
        let mut uses: FxHashMap<Subject, Vec<(File, Use)>> = FxHashMap::default();
        for (file, handled) in files.iter().zip(each) {
            let is_test = is_test(file.path(db));
            for one in &handled.passed {
                passed.entry(one.to).or_default().push((*file, is_test, *one));
            }
            for one in &handled.uses {
                uses.entry(one.of).or_default().push((*file, *one));
            }
        }
        let by_name = ByName::new(db, files, &concluded);
        let (derived, classes, shared_fixtures) = (OnceLock::new(), OnceLock::new(), OnceLock::new());
        let options = files.iter().map(|file| (*file, OnceLock::new())).collect();
        Known { passed, uses, concluded, traces, by_name, derived, classes, shared_fixtures, options }
    }

    /// What the options that a file declares are, by the names that they are kept under.
    pub(super) fn options(&self, db: &Database, file: File) -> &Options {
        static NONE: OnceLock<Options> = OnceLock::new();
        let of_file = self.options.get(&file).map(|own| own.get_or_init(|| options::of_file(db, file)));
        of_file.unwrap_or_else(|| NONE.get_or_init(Options::default))
    }

    /// The files in which test runners look for what a folder's tests share.
    pub(super) fn shared_fixtures(&self, db: &Database) -> &[File] {
        self.shared_fixtures.get_or_init(|| {
            let is_shared = |file: &File| file.path(db).rsplit('/').next() == Some("conftest.py");
            resolve::project_files(db).iter().copied().filter(is_shared).collect()
        })
    }

    /// The project's classes that derive from a class, in the order of the files.
    fn derived(&self, db: &Database, class: ClassRef) -> impl Iterator<Item = ClassRef> {
        let all = self.derived.get_or_init(|| {
            let mut all: FxHashMap<ClassRef, Vec<ClassRef>> = FxHashMap::default();
            for class in resolve::own_classes(db).iter().copied() {
                let bases = classes::info(db, class).mro.iter().map(|base| db.store().instance(*base).class);
                bases.filter(|base| *base != class).for_each(|base| all.entry(base).or_default().push(class));
            }
            all
        });
        all.get(&class).into_iter().flatten().copied()
    }

    /// The methods of a name in the project's classes that derive from a class, in the order of the files.
    pub(super) fn overriding(
        &self,
        db: &Database,
        class: ClassRef,
        name: Name,
    ) -> impl Iterator<Item = (ClassRef, FunctionId)> {
        self.derived(db, class).flat_map(move |derived| {
            let index = module_index(db, derived.file);
            let own = index.classes[derived.class].methods.iter();
            own.filter(move |method| index.functions[**method].name == name).map(move |method| (derived, *method))
        })
    }

    /// What the bodies of classes that derive from a class give an attribute of that name, and where; `None` where one has a method or
    /// property in its place.
    pub(super) fn redefining(
        &self,
        db: &Database,
        class: ClassRef,
        name: Name,
    ) -> Option<Vec<(ClassRef, Type, TextRange)>> {
        let mut found = Vec::new();
        for derived in self.derived(db, class) {
            let index = module_index(db, derived.file);
            let symbol = index.scopes[index.classes[derived.class].scope].symbols.get(&name);
            let Some(def) = symbol.and_then(|symbol| symbol.defs.first()).map(|def| &index.defs[*def]) else {
                continue;
            };
            if matches!(def.kind, DefKind::Function(_)) {
                return None;
            }
            let member = members::own_member(db, derived.file, derived.class, name)?;
            found.push((derived, member.ty, def.range));
        }
        Some(found)
    }

    /// The classes that a parameter may be meant to be of: the project's own, tests apart, and those that its modules import.
    pub(super) fn classes(&self, db: &Database) -> &[ClassRef] {
        self.classes.get_or_init(|| {
            let store = db.store();
            let mut seen: FxHashSet<ClassRef> = FxHashSet::default();
            let mut all: Vec<ClassRef> = Vec::new();
            let own = resolve::own_classes(db).iter().copied().filter(|class| !is_test(class.file.path(db)));
            all.extend(own.filter(|class| seen.insert(*class)));
            for file in resolve::project_files(db).iter().copied().filter(|file| !is_test(file.path(db))) {
                let index = module_index(db, file);
                let mut names: Vec<Name> = index.scopes[ScopeId(0)].symbols.keys().copied().collect();
                names.sort_unstable_by_key(|name| db.names().text(*name));
                for name in names {
                    if let Some(Type::Class(id)) = resolve::own_name(db, file, name) {
                        let class = store.instance(id).class;
                        if seen.insert(class) {
                            all.push(class);
                        }
                    }
                }
            }
            all.retain(|class| classes::info(db, *class).unknown_base.is_none());
            all
        })
    }
}

/// Whether a file is a test by its path: what is passed there is odd on purpose at times, and what is a class there is a stand-in.
#[must_use]
pub fn is_test(path: &str) -> bool {
    path.split('/').any(|part| {
        let stem = part.trim_end_matches(".py");
        matches!(stem, "test" | "tests" | "testing" | "conftest")
            || stem.starts_with("test_")
            || stem.ends_with("_test")
    })
}
