//! A stub compared with the module as it is once imported.

mod classes;
pub mod reviewed;
mod signatures;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::context::TypeContext;
use leitmotiv_engine::definitions::classes::members;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{builtin_instance, instance_of, own_name};
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{Literal, Type};
use leitmotiv_engine::view::lookup;
use leitmotiv_index::tree::{BodyId, DefKind, ScopeId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;
use serde::Serialize;

use super::running::{Described, Item, Named, SourcePlace};

/// How a stub and a module differ.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "lowercase")]
pub enum Kind {
    /// The module has a name that the stub has not.
    Missing,
    /// The stub has a name that the module has not.
    Extra,
    /// A name is of one form in the stub and of another in the module: a class and a function, say.
    Form,
    /// A parameter has another name or is of another kind, is missing or too many.
    Parameter,
    /// A parameter has a default in one only, or another one.
    Default,
    /// A class derives from something else.
    Base,
    /// A value is of another type, or another value.
    Value,
}

impl Kind {
    /// All kinds, in the order they are told.
    pub const ALL: [Kind; 7] =
        [Kind::Missing, Kind::Extra, Kind::Form, Kind::Parameter, Kind::Default, Kind::Base, Kind::Value];

    /// The kind's name.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Kind::Missing => "missing",
            Kind::Extra => "extra",
            Kind::Form => "form",
            Kind::Parameter => "parameter",
            Kind::Default => "default",
            Kind::Base => "base",
            Kind::Value => "value",
        }
    }
}

/// One difference.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Difference {
    /// The dotted name concerned, module included.
    pub name: String,
    /// What kind it is.
    pub kind: Kind,
    /// What it is, in words.
    pub words: String,
    /// Where the stub says what it says.
    pub stub: Option<(File, TextRange)>,
    /// Where the module does, as far as the interpreter tells.
    pub module: Option<SourcePlace>,
}

/// What the comparison of one stub gave.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Verified {
    /// The differences, in the order of the module.
    pub differences: Vec<Difference>,
    /// How many names were compared, members of classes included.
    pub names: usize,
    /// How many signatures could be compared.
    pub signatures: usize,
    /// Names of the module that the stub leaves to its `__getattr__`.
    pub left: Vec<String>,
}

/// Compares what the stub in `file` says with a module as it is. Of a module that cannot be imported nothing is said.
#[must_use]
pub fn verify(db: &Database, file: File, module: &Described) -> Verified {
    let mut comparison = Comparison { db, file, module: &module.module, result: Verified::default(), open: Vec::new() };
    if module.is_absent() {
        let words = "a module with a stub that the interpreter does not have".to_owned();
        let stub = Some((file, TextRange::default()));
        let name = module.module.clone();
        comparison.result.differences.push(Difference { name, kind: Kind::Extra, words, stub, module: None });
    } else if module.error.is_none() {
        comparison.names(module);
    }
    comparison.result
}

struct Comparison<'a> {
    db: &'a Database,
    file: File,
    module: &'a str,
    result: Verified,
    /// Classes that are being compared, so that none is within itself.
    open: Vec<String>,
}

/// What a stub has of one name, and where.
#[derive(Clone, Copy)]
struct Said {
    ty: Type,
    place: Option<(File, TextRange)>,
}

impl Comparison<'_> {
    fn names(&mut self, module: &Described) {
        let index = module_index(self.db, self.file);
        let is_open = index.scopes[ScopeId(0)].symbols.contains_key(&known::GETATTR);
        for (name, item) in module.public() {
            let full = format!("{}.{name}", self.module);
            match self.said(name) {
                Some(said) => self.item(&full, said, item),
                // A module of the package's own, with a stub of its own.
                None if module.inside.contains(name) && self.has_module(&full) => {}
                None if is_open => self.result.left.push(full),
                None => {
                    let what = words_of(item);
                    self.differ(
                        &full,
                        Kind::Missing,
                        format!("{what} of the module that the stub does not have"),
                        None,
                        item,
                    );
                }
            }
        }
        // What `__all__` names need not be bound by then: it may be a module of the package's own.
        for name in module.all.iter().flatten() {
            let full = format!("{}.{name}", self.module);
            let is_inside = module.get(name).is_none() && module.inside.contains(name);
            if is_inside && self.said(name).is_none() && !self.has_module(&full) {
                self.result.left.push(full);
            }
        }
        for (name, range) in self.own_names() {
            let is_there = module.get(&name).is_some() || module.inside.contains(&name);
            if !is_there && !name.starts_with('_') {
                let full = format!("{}.{name}", self.module);
                self.result.differences.push(Difference {
                    name: full,
                    kind: Kind::Extra,
                    words: "a name of the stub that the module does not have".to_owned(),
                    stub: Some((self.file, range)),
                    module: None,
                });
            }
        }
    }

    fn has_module(&self, full: &str) -> bool {
        leitmotiv_engine::resolve::module_file(self.db, self.db.names().intern(full), Some(self.file)).is_some()
    }

    /// What the stub gives others by a name: what is imported into a stub is given on only under `as`, by a star, or in
    /// `__all__` (typing specification, "Import conventions").
    fn said(&self, name: &str) -> Option<Said> {
        let name = self.db.names().intern(name);
        let index = module_index(self.db, self.file);
        if let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) {
            let is_listed = index.exported.as_ref().is_some_and(|all| all.contains(&name));
            let def = symbol.defs.iter().map(|def| &index.defs[*def]).find(|def| {
                let is_private =
                    matches!(def.kind, DefKind::Import { alias: false, .. } | DefKind::ImportFrom { alias: false, .. });
                !def.reach.is_never() && (!is_private || is_listed)
            })?;
            let ty = own_name(self.db, self.file, name)?;
            return Some(Said { ty, place: Some((self.file, def.range)) });
        }
        let ty = own_name(self.db, self.file, name)?;
        Some(Said { ty, place: lookup::definition_of(self.db, ty) })
    }

    /// The names that the stub itself makes, with their places; type variables and what is only imported left out.
    fn own_names(&self) -> Vec<(String, TextRange)> {
        let index = module_index(self.db, self.file);
        let mut found = Vec::new();
        for (name, symbol) in &index.scopes[ScopeId(0)].symbols {
            let def = symbol.defs.iter().map(|def| &index.defs[*def]).find(|def| !def.reach.is_never());
            let Some(def) = def else { continue };
            let is_import =
                matches!(def.kind, DefKind::Import { .. } | DefKind::ImportFrom { .. } | DefKind::Star { .. });
            // What is there only for checkers is not there as the program runs.
            if index.checking_only.iter().any(|body| body.contains_range(def.range)) {
                continue;
            }
            if is_import || matches!(own_name(self.db, self.file, *name), Some(Type::Var(_)) | None) {
                continue;
            }
            found.push((self.db.names().text(*name).to_owned(), def.range));
        }
        found.sort_by_key(|(_, range)| range.start());
        found
    }

    fn item(&mut self, full: &str, said: Said, item: &Item) {
        self.result.names += 1;
        match item {
            Item::Class(class) => match said.ty {
                Type::Class(id) => self.class(full, id, class),
                Type::Function(_) | Type::Method(_) | Type::Callable(_) => {
                    self.form(full, "a function", "a class", said, item);
                }
                Type::Module(_) => self.form(full, "a module", "a class", said, item),
                _ => {}
            },
            Item::Function(function) | Item::Decorated(function) => match said.ty {
                Type::Function(_) | Type::Callable(_) => {
                    self.signatures(full, said, function, false);
                }
                Type::Class(_) if !function.is_native => self.form(full, "a class", "a function", said, item),
                Type::Module(_) => self.form(full, "a module", "a function", said, item),
                _ => {}
            },
            Item::Value { ty, text, params, .. } => match said.ty {
                Type::Function(_) if params.is_none() => {
                    let module = format!("a value of type `{}`", ty.name.as_deref().unwrap_or("?"));
                    self.form(full, "a function", &module, said, item);
                }
                Type::Function(_) | Type::Class(_) | Type::Special(_) | Type::Form(_) | Type::Module(_) => {}
                declared => self.value(full, declared, ty, text.as_deref(), said, item),
            },
            _ => {}
        }
    }

    fn form(&mut self, full: &str, stub: &str, module: &str, said: Said, item: &Item) {
        let words = format!("{stub} in the stub, {module} in the module");
        self.differ(full, Kind::Form, words, said.place, item);
    }

    fn value(&mut self, full: &str, declared: Type, ty: &Named, text: Option<&str>, said: Said, item: &Item) {
        let Some(actual) = self.type_of(ty, text) else { return };
        // Which member of its enumeration a value is, the interpreter's word for it does not say.
        if let Type::Literal(id) = declared
            && let Literal::Enum(class, _) = *self.db.store().literal(id)
            && actual == Type::Instance(instance_of(self.db, class, &[]))
        {
            return;
        }
        if declared.is_dynamic() || TypeContext::new(self.db, self.file, BodyId(0)).is_assignable(actual, declared) {
            return;
        }
        let shown = text.map_or_else(|| format!("a `{}`", show(self.db, actual)), |text| format!("`{text}`"));
        let words = format!("`{}` in the stub, {shown} in the module", show(self.db, declared));
        self.differ(full, Kind::Value, words, said.place, item);
    }

    /// The type of a value by its class's name, or of a simple constant.
    fn type_of(&self, ty: &Named, text: Option<&str>) -> Option<Type> {
        let db = self.db;
        let store = db.store();
        let (module, name) = (ty.module.as_deref()?, ty.name.as_deref()?);
        if (module, name) == ("builtins", "NoneType") {
            return Some(Type::None);
        }
        match (name, text) {
            ("bool", Some(text)) => return Some(Type::Literal(store.intern_literal(Literal::Bool(text == "True")))),
            ("int", Some(text)) if text.parse::<i64>().is_ok() => {
                return text.parse().ok().map(|value| Type::Literal(store.intern_literal(Literal::Int(value))));
            }
            ("str", Some(text)) if module == "builtins" => {
                if let Some(text) = unquoted(text) {
                    return Some(Type::Literal(store.intern_literal(Literal::Str(db.names().intern(text)))));
                }
            }
            _ => {}
        }
        if name.contains('.') || name.contains('<') {
            return None;
        }
        if module == "builtins" && name == "tuple" {
            return Some(builtin_instance(db, db.names().intern(name), &[]));
        }
        match lookup::named(db, &format!("{module}.{name}"))?.ty {
            Type::Class(id) => Some(Type::Instance(instance_of(db, store.instance(id).class, &[]))),
            _ => None,
        }
    }

    fn differ(&mut self, full: &str, kind: Kind, words: String, stub: Option<(File, TextRange)>, item: &Item) {
        self.result.differences.push(Difference {
            name: full.to_owned(),
            kind,
            words,
            stub,
            module: place_of(item).cloned(),
        });
    }
}

/// The text within the quotes of a plain string.
fn unquoted(text: &str) -> Option<&str> {
    let inner = text.strip_prefix(['\'', '"'])?.strip_suffix(['\'', '"'])?;
    (!inner.contains('\\')).then_some(inner)
}

fn place_of(item: &Item) -> Option<&SourcePlace> {
    match item {
        Item::Function(function)
        | Item::Decorated(function)
        | Item::Method(function)
        | Item::Static(function)
        | Item::ClassMethod(function)
        | Item::BoundClassMethod(function) => function.place.as_ref(),
        Item::Class(class) => class.place.as_ref(),
        _ => None,
    }
}

fn words_of(item: &Item) -> &'static str {
    match item {
        Item::Module { .. } => "a module",
        Item::Class(_) => "a class",
        Item::Alias { .. } => "a name",
        Item::Function(_) | Item::Decorated(_) => "a function",
        Item::Method(_) => "a method",
        Item::Static(_) => "a static method",
        Item::ClassMethod(_) | Item::BoundClassMethod(_) => "a class method",
        Item::Property { .. } => "an attribute",
        Item::EnumMember { .. } => "a member",
        Item::Value { .. } => "a value",
    }
}

/// What a class of the stub has by a name.
fn member_of(db: &Database, class: leitmotiv_engine::types::InstanceId, name: &str) -> Option<members::Found> {
    members::find(db, class, db.names().find(name)?, None)
}
