//! What docstrings say, as types.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{builtin, instance_of, own_name, standard_class};
use leitmotiv_engine::types::{ClassRef, Tuple, Type, union};
use leitmotiv_engine::view::lookup;
use leitmotiv_index::tree::FunctionId;
use leitmotiv_syntax::ast::{self, Expr};
use leitmotiv_syntax::{TextLen, TextRange, TextSize, parse};

use super::super::evidence::{Evidence, Source, Strength, Why};
use crate::docstrings::{self, Told};

/// What a function's docstring says, or for `__init__` that of its class.
pub(crate) struct Docs {
    told: Told,
    file: File,
    range: TextRange,
}

/// Reads the docstring of a function.
pub(crate) fn of(db: &Database, file: File, function: FunctionId) -> Option<Docs> {
    let index = module_index(db, file);
    let record = &index.functions[function];
    let read = |range: TextRange| {
        let text = file.text(db).get(std::ops::Range::<usize>::from(range))?;
        let is_class = |name: &str| class_named(db, file, name).is_some();
        let told = docstrings::types(docstrings::unquoted(text), &is_class);
        (told != Told::default()).then_some(Docs { told, file, range })
    };
    let own = record.docstring.and_then(read);
    let of_class = || {
        let class = record.class.filter(|_| db.names().text(record.name) == "__init__")?;
        // What its `Returns` says is nothing about `__init__`.
        let docs = read(index.classes[class].docstring?)?;
        Some(Docs { told: Told { returns: None, ..docs.told }, ..docs })
    };
    own.or_else(of_class)
}

impl Docs {
    /// What is said of a parameter.
    pub(crate) fn parameter(&self, db: &Database, name: &str) -> Option<Evidence> {
        self.evidence(db, self.told.params.get(name)?)
    }

    /// What is said of the result.
    pub(crate) fn result(&self, db: &Database) -> Option<Evidence> {
        self.evidence(db, self.told.returns.as_ref()?)
    }

    fn evidence(&self, db: &Database, text: &str) -> Option<Evidence> {
        let ty = read(db, self.file, text)?;
        let (source, strength, why) = (Source::Docstrings, Strength::Strong, Why::Docstring);
        Some(Evidence { source, ty, strength, file: self.file, range: self.range, why, passed_on: false })
    }
}

/// The type that a text names in a file: classes, subscripts, unions, None.
pub(crate) fn read(db: &Database, file: File, text: &str) -> Option<Type> {
    let range = TextRange::new(TextSize::new(0), text.text_len());
    let expression = parse::parse_expression(text, range).ok()?;
    meaning(db, file, &expression)
}

fn meaning(db: &Database, file: File, expression: &Expr) -> Option<Type> {
    let store = db.store();
    match expression {
        Expr::NoneLiteral(_) => Some(Type::None),
        Expr::Name(name) => {
            let class = class_named(db, file, &name.id)?;
            let params = classes::info(db, class).params.len();
            let is_tuple = name.id.as_str() == "tuple";
            if is_tuple {
                return Some(any_tuple(db, Type::Any));
            }
            Some(Type::Instance(instance_of(db, class, &vec![Type::Any; params])))
        }
        Expr::Attribute(_) => {
            let class = class_named(db, file, &docstrings::dotted(expression)?)?;
            let params = classes::info(db, class).params.len();
            Some(Type::Instance(instance_of(db, class, &vec![Type::Any; params])))
        }
        Expr::BinOp(both) if both.op == ast::Operator::BitOr => {
            let (left, right) = (meaning(db, file, &both.left)?, meaning(db, file, &both.right)?);
            Some(union::join(store, [left, right]))
        }
        Expr::Subscript(subscript) => {
            let Expr::Name(name) = &*subscript.value else { return None };
            let args: Vec<&Expr> = match &*subscript.slice {
                Expr::Tuple(tuple) => tuple.elts.iter().collect(),
                one => vec![one],
            };
            match (name.id.as_str(), args.as_slice()) {
                ("Optional", [one]) => Some(union::join(store, [meaning(db, file, one)?, Type::None])),
                ("tuple" | "Tuple", [one, Expr::EllipsisLiteral(_)]) => Some(any_tuple(db, meaning(db, file, one)?)),
                ("tuple" | "Tuple", parts) => {
                    let parts: Option<Box<[Type]>> = parts.iter().map(|part| meaning(db, file, part)).collect();
                    let tuple = Tuple { prefix: parts?, rest: None, suffix: [].into() };
                    Some(Type::Tuple(store.intern_tuple(tuple)))
                }
                (text, parts) => {
                    let class = class_named(db, file, text)?;
                    let parts: Option<Vec<Type>> = parts.iter().map(|part| meaning(db, file, part)).collect();
                    let parts = parts.filter(|parts| parts.len() == classes::info(db, class).params.len())?;
                    Some(Type::Instance(instance_of(db, class, &parts)))
                }
            }
        }
        _ => None,
    }
}

fn any_tuple(db: &Database, element: Type) -> Type {
    Type::Tuple(db.store().intern_tuple(Tuple { prefix: [].into(), rest: Some(element), suffix: [].into() }))
}

/// The class that a name, dotted or not, means in a file: its own or imported ones, built-in ones, and those that annotations are made of.
fn class_named(db: &Database, file: File, name: &str) -> Option<ClassRef> {
    if let Some((first, rest)) = name.split_once('.') {
        // From a module that the file imports, or from the top.
        if let Some(Type::Module(module)) = own_name(db, file, db.names().find(first)?) {
            return class_named(db, module, rest);
        }
        let Type::Class(id) = lookup::named(db, name)?.ty else { return None };
        return Some(db.store().instance(id).class);
    }
    let interned = db.names().find(name)?;
    if let Some(Type::Class(id)) = own_name(db, file, interned) {
        return Some(db.store().instance(id).class);
    }
    let plain = match name {
        "List" => "list",
        "Dict" => "dict",
        "Set" => "set",
        "Tuple" => "tuple",
        name => name,
    };
    let plain = db.names().intern(plain);
    builtin(db, plain).or_else(|| {
        let is_abstract = matches!(name, "Iterable" | "Iterator" | "Sequence" | "Mapping" | "Callable" | "Collection");
        let module = db.names().intern("collections.abc");
        is_abstract.then(|| standard_class(db, module, plain)).flatten()
    })
}
