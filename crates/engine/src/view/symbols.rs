//! What files define, as a tree.

use leitmotiv_index::tree::{ClassId, DefKind, FunctionId, ModuleIndex, ScopeId, ScopeKind};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;

use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes;
use crate::outline::{self, module_index};
use crate::types::ClassRef;

/// A definition, with what is defined in it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Symbol {
    /// Its name.
    pub name: String,
    /// What it is.
    pub kind: Kind,
    /// The whole of it, in bytes.
    pub range: TextRange,
    /// Its name.
    pub name_range: TextRange,
    /// Whether it should not be used any more (PEP 702).
    pub is_deprecated: bool,
    /// What is defined in it.
    pub children: Vec<Symbol>,
}

/// What a symbol is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// A class.
    Class,
    /// An enumeration.
    Enum,
    /// A member of an enumeration.
    EnumMember,
    /// A protocol.
    Protocol,
    /// A function.
    Function,
    /// A method.
    Method,
    /// `__init__`
    Constructor,
    /// A property.
    Property,
    /// An attribute of a class.
    Attribute,
    /// A name of a module in capital letters.
    Constant,
    /// Another name of a module.
    Variable,
    /// A type alias.
    Alias,
}

/// What a file defines, in the order of the text.
#[must_use]
pub fn of(db: &dyn Db, file: File) -> Vec<Symbol> {
    within(db, file, module_index(db, file), ScopeId(0))
}

fn within(db: &dyn Db, file: File, index: &ModuleIndex, scope: ScopeId) -> Vec<Symbol> {
    let mut found: Vec<Symbol> = Vec::new();
    let class = match index.scopes[scope].kind {
        ScopeKind::Class(class) => Some(class),
        _ => None,
    };
    let is_function = matches!(index.scopes[scope].kind, ScopeKind::Function(_));
    for (name, symbol) in &index.scopes[scope].symbols {
        let mut is_told = false;
        for def in &symbol.defs {
            let record = &index.defs[*def];
            match record.kind {
                DefKind::Function(function) => found.push(function_symbol(db, file, index, function)),
                DefKind::Class(class) => found.push(class_symbol(db, file, index, class)),
                DefKind::Assign { .. } | DefKind::Annotated { .. } | DefKind::TypeAlias { .. }
                    if !is_told && !is_function =>
                {
                    is_told = true;
                    let kind = match (&record.kind, class) {
                        (DefKind::TypeAlias { .. }, _) => Kind::Alias,
                        (_, Some(class)) => attribute(db, file, class, *name),
                        (_, None) if is_constant(db.names().text(*name)) => Kind::Constant,
                        (_, None) => Kind::Variable,
                    };
                    found.push(leaf(db, *name, kind, record.range));
                }
                _ => {}
            }
        }
    }
    if let Some(class) = class {
        let of_methods = outline::class(db, ClassRef { file, class }).of_methods.iter();
        for name in of_methods.filter(|name| !index.scopes[scope].symbols.contains_key(name)) {
            if let Some(def) = index.classes[class].attributes.get(name).and_then(|defs| defs.first()) {
                found.push(leaf(db, *name, Kind::Attribute, index.defs[*def].range));
            }
        }
    }
    found.sort_by_key(|symbol| (symbol.name_range.start(), symbol.name_range.end()));
    found
}

/// A definition of one name only.
fn leaf(db: &dyn Db, name: Name, kind: Kind, range: TextRange) -> Symbol {
    let name = db.names().text(name).to_owned();
    Symbol { name, kind, range, name_range: range, is_deprecated: false, children: Vec::new() }
}

fn attribute(db: &dyn Db, file: File, class: ClassId, name: Name) -> Kind {
    let class = ClassRef { file, class };
    if classes::enum_members(db, class).contains(&name) { Kind::EnumMember } else { Kind::Attribute }
}

/// Whether a name is written as those of constants are (PEP 8): in capital letters.
#[must_use]
pub fn is_constant(name: &str) -> bool {
    name.chars().any(char::is_uppercase) && !name.chars().any(char::is_lowercase)
}

fn function_symbol(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId) -> Symbol {
    let record = &index.functions[function];
    let outline = outline::function(db, file, function);
    Symbol {
        name: db.names().text(record.name).to_owned(),
        kind: kind_of(db, file, function),
        range: record.range,
        name_range: record.name_range,
        is_deprecated: is_deprecated(db, &outline.decorators),
        children: within(db, file, index, record.scope),
    }
}

/// What a function is.
#[must_use]
pub fn kind_of(db: &dyn Db, file: File, function: FunctionId) -> Kind {
    let record = &module_index(db, file).functions[function];
    let outline = outline::function(db, file, function);
    let is_property = ["property", "cached_property", "setter", "getter", "deleter"]
        .iter()
        .any(|name| outline.is_under(db.names().intern(name)));
    match record.class {
        None => Kind::Function,
        Some(_) if record.name == leitmotiv_syntax::names::known::INIT => Kind::Constructor,
        Some(_) if is_property => Kind::Property,
        Some(_) => Kind::Method,
    }
}

fn class_symbol(db: &dyn Db, file: File, index: &ModuleIndex, class: ClassId) -> Symbol {
    let record = &index.classes[class];
    let of = ClassRef { file, class };
    Symbol {
        name: db.names().text(record.name).to_owned(),
        kind: class_kind(db, of),
        range: record.range,
        name_range: record.name_range,
        is_deprecated: is_deprecated(db, &outline::class(db, of).decorators),
        children: within(db, file, index, record.scope),
    }
}

/// Whether one of some decorators says that a thing should not be used any more (PEP 702).
#[must_use]
pub fn is_deprecated(db: &dyn Db, decorators: &[outline::functions::Decorator]) -> bool {
    let deprecated = Some(db.names().intern("deprecated"));
    decorators.iter().any(|one| one.bare == deprecated || one.called == deprecated)
}

/// What a class is.
#[must_use]
pub fn class_kind(db: &dyn Db, class: ClassRef) -> Kind {
    match classes::info(db, class).kind {
        classes::ClassKind::Enum => Kind::Enum,
        classes::ClassKind::Protocol => Kind::Protocol,
        _ => Kind::Class,
    }
}
