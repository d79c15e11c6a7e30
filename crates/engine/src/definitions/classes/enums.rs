//! Enumerations: which names of the body are members, and which are other names for a member (typing specification,
//! "Enumerations").

use std::sync::Arc;

use leitmotiv_index::tree::{ClassId, DefId, DefKind, Expr, ExprId, ModuleIndex};
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::FxHashMap;

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::types::{ClassRef, Type};

/// The members of an enumeration.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Members {
    /// In the order of the text, without aliases.
    pub names: Vec<Name>,
    /// Further names of members, with the member that each stands for.
    pub aliases: FxHashMap<Name, Name>,
}

/// What a value is, where that can be compared without inference.
#[derive(PartialEq, Eq, Hash)]
enum Constant {
    Int(i64),
    Str(Name),
}

/// The members of a class, which is taken to be an enumeration.
pub fn of_class(db: &dyn Db, file: File, class: ClassId) -> Arc<Members> {
    saw(db, file, Ask::EnumMembers(class));
    of_class_query(db, file, class)
}

#[salsa::tracked(returns(clone))]
fn of_class_query(db: &dyn Db, file: File, class: ClassId) -> Arc<Members> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let scope = &index.scopes[index.classes[class].scope];
    let mut found: Vec<(DefId, Name)> = Vec::new();
    for (name, symbol) in &scope.symbols {
        if let Some(def) = symbol.defs.first()
            && is_member(db, index, *name, *def)
        {
            found.push((*def, *name));
        }
    }
    found.sort_by_key(|(def, _)| *def);
    let mut members = Members::default();
    let mut by_value: FxHashMap<Constant, Name> = FxHashMap::default();
    for (def, name) in found {
        let DefKind::Assign { value, unpack: None, .. } = index.defs[def].kind else {
            members.names.push(name);
            continue;
        };
        let same = match index.exprs[value] {
            Expr::Name(other, _) => {
                let other = members.aliases.get(&other).copied().unwrap_or(other);
                members.names.contains(&other).then_some(other)
            }
            _ => constant(index, value).and_then(|constant| match by_value.entry(constant) {
                std::collections::hash_map::Entry::Occupied(entry) => Some(*entry.get()),
                std::collections::hash_map::Entry::Vacant(entry) => {
                    entry.insert(name);
                    None
                }
            }),
        };
        match same {
            Some(member) => {
                members.aliases.insert(name, member);
            }
            None => members.names.push(name),
        }
    }
    Arc::new(members)
}

/// Whether a name is that of a member of an enumeration, or another one for a member.
pub fn has_member(db: &dyn Db, class: ClassRef, name: Name) -> bool {
    let members = of_class(db, class.file, class.class);
    members.names.contains(&name) || members.aliases.contains_key(&name)
}

/// What a member of an enumeration is given in the class's body.
pub(crate) fn value_of(db: &dyn Db, file: File, class: ClassId, member: Name) -> Option<Type> {
    saw(db, file, Ask::ValueOf(class, member));
    value_of_query(db, file, class, member)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Some(Type::Never))]
fn value_of_query(db: &dyn Db, file: File, class: ClassId, member: Name) -> Option<Type> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.classes[class];
    let def = *index.scopes[record.scope].symbols.get(&member)?.defs.first()?;
    Some(Infer::new(db, file, record.body).definition(def))
}

/// The member that a name of an enumeration stands for: itself, or that of which it is an alias.
pub fn member_behind(db: &dyn Db, class: ClassRef, name: Name) -> Name {
    of_class(db, class.file, class.class).aliases.get(&name).copied().unwrap_or(name)
}

fn constant(index: &ModuleIndex, value: ExprId) -> Option<Constant> {
    match index.exprs[value] {
        Expr::Int(Some(number)) => Some(Constant::Int(number)),
        Expr::Str(Some(text)) => Some(Constant::Str(text)),
        _ => None,
    }
}

/// Whether a name of an enumeration's body is a member.
pub fn is_member(db: &dyn Db, index: &ModuleIndex, name: Name, def: DefId) -> bool {
    let text = db.names().text(name);
    if text.starts_with("__") || name == known::IGNORE {
        return false;
    }
    match &index.defs[def].kind {
        DefKind::Assign { value, .. } => !is_function_like(index, *value),
        // In stubs, an annotation alone once declared members; with the final specification it declares an attribute.
        _ => false,
    }
}

fn is_function_like(index: &ModuleIndex, value: ExprId) -> bool {
    match &index.exprs[value] {
        Expr::Lambda(_) => true,
        Expr::Call { callee, .. } => {
            matches!(
                index.exprs[*callee],
                Expr::Name(known::STATICMETHOD | known::CLASSMETHOD | known::PROPERTY | known::NONMEMBER, _)
                    | Expr::Attribute { name: known::NONMEMBER, .. }
            )
        }
        _ => false,
    }
}
