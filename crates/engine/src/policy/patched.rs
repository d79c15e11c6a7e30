//! Attributes that an object may have though its class does not say so: because something assigns them from outside, or a
//! subclass gives them.

use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::{Name, known};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes;
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::resolve;
use crate::types::{ClassRef, Type};

impl Infer<'_> {
    /// Whether an attribute that a type seems to lack may be there all the same: because some file of the project, or the
    /// class's own, assigns it on an object that may be of that type, or because a stub hides the source.
    pub(crate) fn is_patched(&mut self, ty: Type, name: Name) -> bool {
        // Only what is told needs to know.
        if !self.checking || self.is_hidden_by_stub(ty, name) {
            return true;
        }
        let own = match ty {
            Type::Literal(_) | Type::Tuple(_) => return false,
            Type::Class(id) => Some(id),
            ty => self.nominal(ty),
        };
        let own = own.map(|id| self.db.store().instance(id).class);
        if matches!(ty, Type::Instance(_)) && own.is_some_and(|class| self.takes_no_attributes(class)) {
            return false;
        }
        // What is set under a computed name counts where it is done, and for the classes of that file.
        let here = [Some(self.file), own.map(|class| class.file)];
        let computed = here.into_iter().flatten().map(|file| (file, known::DUNDER_CLASS));
        let named = here.into_iter().flatten().chain(resolve::patching_files(self.db, name).iter().copied());
        let named = named.map(|file| (file, name));
        named.chain(computed).any(|(file, name)| self.may_patch(file, own, name))
    }

    /// Whether objects of a class of the language itself take no attributes of their own: those of all but its exceptions.
    fn takes_no_attributes(&self, class: ClassRef) -> bool {
        class.file.module(self.db) == known::BUILTINS
            && class.file.origin(self.db) == Origin::Bundled
            && !classes::derives_builtin(self.db, class, known::BASE_EXCEPTION)
            && !resolve::is_builtin(self.db, class, known::OBJECT)
    }

    /// Whether an assignment of a file may be to an object of a class, and gives it what it did not have: what is assigned to is of a
    /// class that one derives from the other, or nobody knows of which.
    fn may_patch(&mut self, file: File, own: Option<ClassRef>, name: Name) -> bool {
        let objects = patched_objects(self.db, file, name);
        let Some(own) = own else { return !objects.is_empty() };
        let store = self.db.store();
        objects.iter().any(|part| {
            let class = match *part {
                Type::Instance(id) | Type::Class(id) => store.instance(id).class,
                Type::None | Type::Literal(_) | Type::Tuple(_) | Type::Function(_) | Type::Method(_) => return false,
                Type::Module(_) | Type::Namespace(_) => return false,
                _ => return true,
            };
            if resolve::is_builtin(self.db, class, known::OBJECT) {
                // That object alone.
                return false;
            }
            let is_related = classes::derives(self.db, class, own) != Some(false)
                || classes::derives(self.db, own, class) != Some(false);
            is_related && (name == known::DUNDER_CLASS || self.member(*part, name).is_none())
        })
    }

    /// Whether nobody gives an object what it is asked for: not its class, none of its subclasses in the project, and no class or
    /// assignment of the project something of that name. Then even a subclass elsewhere is unlikely to.
    pub(crate) fn is_given_by_nobody(&mut self, ty: Type, name: Name) -> bool {
        if !self.checking
            || !matches!(self.file.origin(self.db), Origin::Project)
            || resolve::is_provided(self.db, name)
        {
            return false;
        }
        let Type::Instance(id) = ty else { return false };
        let class = self.db.store().instance(id).class;
        // What the project itself never makes is there for others to derive from.
        if !self.is_made(class) {
            return false;
        }
        let text = self.text(crate::outline::class_name(self.db, class)).to_lowercase();
        let mut computed = resolve::patching_files(self.db, known::DUNDER_CLASS).iter().copied();
        if computed.any(|file| self.may_patch(file, Some(class), known::DUNDER_CLASS)) {
            return false;
        }
        // Our stubs leave private names out.
        let is_private = self.text(name).starts_with('_');
        if is_private && self.derives_bundled(class) {
            return false;
        }
        // What is there to be mixed into other classes has what these have.
        !text.contains("mixin") && !text.contains("base") && !text.contains("abstract") && !self.is_derived_oddly(class)
    }

    /// Whether the project makes objects of a class, or of one that derives from it; test cases are made by what runs them.
    fn is_made(&self, class: ClassRef) -> bool {
        let named = |class: ClassRef| crate::outline::class_name(self.db, class);
        resolve::is_called(self.db, named(class))
            || self.text(named(class)).starts_with("Test")
            || classes::derived(self.db, class).any(|other| resolve::is_called(self.db, named(other)))
    }

    fn derives_bundled(&self, class: ClassRef) -> bool {
        classes::info(self.db, class).mro.iter().any(|entry| {
            let entry = self.db.store().instance(*entry).class;
            entry.file.origin(self.db) == Origin::Bundled && !resolve::is_builtin(self.db, entry, known::OBJECT)
        })
    }

    /// Whether a class of the project derives from a class and, besides, from others that are no bases of that class: what these
    /// give, all have.
    pub(crate) fn is_derived_oddly(&self, class: ClassRef) -> bool {
        let own = &classes::info(self.db, class).mro;
        classes::derived(self.db, class).any(|other| {
            let info = classes::info(self.db, other);
            info.unknown_base.is_some()
                || info.mro.iter().any(|entry| {
                    let entry = self.db.store().instance(*entry).class;
                    entry.file.origin(self.db) != Origin::Project
                        && !own.iter().any(|base| self.db.store().instance(*base).class == entry)
                })
        })
    }
}

/// What the objects are on which a file assigns an attribute of that name, part by part, where they are not a method's own.
pub(crate) fn patched_objects(db: &dyn Db, file: File, name: Name) -> &[Type] {
    saw(db, file, Ask::PatchedObjects(name));
    patched_objects_query(db, file, name)
}

#[salsa::tracked(returns(deref), cycle_initial = |_, _, _, _| Box::default())]
fn patched_objects_query(db: &dyn Db, file: File, name: Name) -> Box<[Type]> {
    let _reading = reading(db, file);
    let patches = module_index(db, file).patched.get(&name);
    let mut all: Vec<Type> = Vec::new();
    for patch in patches.into_iter().flatten() {
        let object = Infer::new(db, file, patch.body).quietly(patch.object);
        for part in crate::types::union::parts(db.store(), &object) {
            if !all.contains(part) {
                all.push(*part);
            }
        }
    }
    all.into()
}
