//! Classes that describe others: what their base makes of the statement is no class but a description of what objects
//! offer, with methods that have no place for an instance.

use leitmotiv_index::tree::{ArgKind, ClassId, Expr, ModuleIndex, ParamKind};

use super::ClassInfo;
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::outline::{module_index, reading};

/// Whether a class whose base is unknown, or one of its bases, describes what other objects offer. No object derives from
/// a description, so that neither its methods' signatures nor its place among the bases say what fits it.
pub(super) fn is_description(db: &dyn Db, info: &ClassInfo) -> bool {
    info.mro.iter().any(|entry| {
        let class = db.store().instance(*entry).class;
        describes(db, class.file, class.class)
    })
}

/// Whether a class itself is written as a description.
pub(crate) fn describes(db: &dyn Db, file: File, class: ClassId) -> bool {
    saw(db, file, Ask::Describes(class));
    describes_query(db, file, class)
}

#[salsa::tracked(returns(copy))]
fn describes_query(db: &dyn Db, file: File, class: ClassId) -> bool {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    has_methods_without_instance(db, index, class) || has_base_of_descriptions(db, index, class)
}

/// Whether a class without methods has the base that makes descriptions of others in its module.
fn has_base_of_descriptions(db: &dyn Db, index: &ModuleIndex, class: ClassId) -> bool {
    let base = |class: ClassId| match index.classes[class].args.first() {
        Some(arg) if arg.kind == ArgKind::Positional => match index.exprs[arg.value] {
            Expr::Name(name, _) | Expr::Attribute { name, .. } => Some(name),
            _ => None,
        },
        _ => None,
    };
    let Some(own) = base(class).filter(|_| index.classes[class].methods.is_empty()) else { return false };
    index.classes.iter().any(|(other, _)| base(other) == Some(own) && has_methods_without_instance(db, index, other))
}

/// Whether a class has methods, and none of them has a parameter for the instance.
fn has_methods_without_instance(db: &dyn Db, index: &ModuleIndex, class: ClassId) -> bool {
    let mut plain = index.classes[class]
        .methods
        .iter()
        .map(|function| &index.functions[*function])
        .filter(|method| method.decorators.is_empty())
        .peekable();
    plain.peek().is_some()
        && plain.all(|method| {
            let first =
                method.params.first().filter(|param| !matches!(param.kind, ParamKind::KeywordOnly | ParamKind::KwArgs));
            first.is_none_or(|first| first.kind != ParamKind::VarArgs && !names_instance(db.names().text(first.name)))
        })
}

/// Whether a parameter's name is one that methods have for the instance or the class.
fn names_instance(name: &str) -> bool {
    let name = name.trim_matches('_');
    name.len() <= 1
        || ["self", "cls", "slf", "class", "klass", "mcs", "meta", "this", "inst", "zelf"]
            .iter()
            .any(|word| name.starts_with(word) || name.ends_with(word))
}

#[cfg(test)]
mod tests {
    use super::names_instance;

    #[test]
    fn names_of_the_instance_are_known() {
        for name in ["self", "__self", "_", "cls", "s", "klass", "mcs", "self_", "this"] {
            assert!(names_instance(name), "{name}");
        }
        for name in ["berth", "tide", "vessel", "callable"] {
            assert!(!names_instance(name), "{name}");
        }
    }
}
