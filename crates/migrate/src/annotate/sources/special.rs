//! Methods that the language calls by itself: what they are given and give (data model, "Special method names").

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::resolve::{builtin, builtin_instance, instance_of, standard_instance};
use leitmotiv_engine::types::{Type, union};

/// What a parameter of a special method is given, by the method's name and the parameter's place, 0-based, the object itself included.
pub(crate) fn parameter(db: &Database, method: &str, place: u32) -> Option<Type> {
    let names = db.names();
    let of = |name: &str| builtin_instance(db, names.intern(name), &[]);
    let or_none = |ty: Type| union::join(db.store(), [ty, Type::None]);
    let exception = || builtin(db, names.intern("BaseException")).map(|class| instance_of(db, class, &[]));
    Some(match (method, place) {
        ("__eq__" | "__ne__" | "__contains__", 1) => of("object"),
        ("__getattr__" | "__getattribute__" | "__setattr__" | "__delattr__" | "__format__", 1) => of("str"),
        ("__set_name__", 2) => of("str"),
        ("__exit__" | "__aexit__", 1) => {
            let class = db.store().intern_type(Type::Instance(exception()?));
            or_none(Type::SubclassOf(class))
        }
        ("__exit__" | "__aexit__", 2) => or_none(Type::Instance(exception()?)),
        ("__exit__" | "__aexit__", 3) => {
            or_none(standard_instance(db, names.intern("types"), names.intern("TracebackType"), &[]))
        }
        _ => return None,
    })
}

/// What a special method gives.
pub(crate) fn result(db: &Database, method: &str) -> Option<Type> {
    let of = |name: &str| Some(builtin_instance(db, db.names().intern(name), &[]));
    match method {
        "__init__" | "__init_subclass__" | "__set_name__" | "__setattr__" | "__delattr__" | "__setitem__"
        | "__delitem__" | "__del__" | "__post_init__" => Some(Type::None),
        "__eq__" | "__ne__" | "__lt__" | "__le__" | "__gt__" | "__ge__" | "__contains__" | "__bool__"
        | "__instancecheck__" | "__subclasscheck__" => of("bool"),
        "__repr__" | "__str__" | "__format__" => of("str"),
        "__bytes__" => of("bytes"),
        "__hash__" | "__len__" | "__int__" | "__index__" | "__length_hint__" => of("int"),
        "__float__" => of("float"),
        _ => None,
    }
}
