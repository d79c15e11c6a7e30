//! Classes of the standard library that the engine asks for by name, and instances of classes.

use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::{Name, known};

use super::module_file;
use crate::base::db::Db;
use crate::base::file::File;
use crate::outline::{class_name, module_name};
use crate::types::{ClassRef, Instance, InstanceId, Type};

/// A module of the standard library by its full name: our stub, whatever a project calls its modules.
pub fn standard_module(db: &dyn Db, name: Name) -> Option<File> {
    db.bundled(name).or_else(|| module_file(db, name, None))
}

/// A class of a standard module.
pub fn standard_class(db: &dyn Db, module: Name, name: Name) -> Option<ClassRef> {
    if let Some(class) = db.remembered_class(module, name) {
        return Some(class);
    }
    let file = standard_module(db, module)?;
    let class = class_in(db, file, name)?;
    if file.origin(db) == Origin::Bundled {
        db.remember_class(module, name, class);
    }
    Some(class)
}

/// The class that a module's name was last bound to by a `class` statement.
pub fn class_in(db: &dyn Db, file: File, name: Name) -> Option<ClassRef> {
    module_name(db, file, name).class
}

/// A built-in class.
pub fn builtin(db: &dyn Db, name: Name) -> Option<ClassRef> {
    standard_class(db, known::BUILTINS, name)
}

/// An instance of a built-in class with arguments; an unknown if the bundle should lack it.
pub fn builtin_instance(db: &dyn Db, name: Name, args: &[Type]) -> Type {
    standard_instance(db, known::BUILTINS, name, args)
}

/// An instance of a class of a standard module.
pub fn standard_instance(db: &dyn Db, module: Name, name: Name, args: &[Type]) -> Type {
    match standard_class(db, module, name) {
        Some(class) => Type::Instance(instance_of(db, class, args)),
        None => Type::Any,
    }
}

/// The handle for a class with arguments.
pub fn instance_of(db: &dyn Db, class: ClassRef, args: &[Type]) -> InstanceId {
    db.store().intern_instance(Instance { class, args: args.into() })
}

/// Whether a class is the one of that name in a standard module.
pub fn is_standard(db: &dyn Db, class: ClassRef, module: Name, name: Name) -> bool {
    class.file.module(db) == module && class_name(db, class) == name
}

/// Whether a class is the built-in of that name.
pub fn is_builtin(db: &dyn Db, class: ClassRef, name: Name) -> bool {
    is_standard(db, class, known::BUILTINS, name)
}
