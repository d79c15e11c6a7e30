//! What overridden methods have, and what overriding ones do.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes::{self, members};
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::{self, module_index};
use leitmotiv_engine::types::{ClassRef, FunctionRef, Type, union};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::{DefKind, Expr, FunctionId, ParamKind};
use leitmotiv_syntax::names::known;

use super::super::evidence::{Evidence, Source, Strength, Why};
use super::super::known::Known;

/// The method of a base that a method overrides, nearest first, with the class that has it.
fn overridden(db: &Database, file: File, function: FunctionId) -> Vec<(ClassRef, FunctionRef)> {
    let store = db.store();
    let record = outline::function(db, file, function);
    let Some(class) = record.class else { return Vec::new() };
    if matches!(db.names().text(record.name), "__init__" | "__new__" | "__init_subclass__") {
        return Vec::new();
    }
    let info = classes::info(db, ClassRef { file, class });
    let mut found = Vec::new();
    for (base, names) in info.mro.iter().zip(&info.names).skip(1) {
        if !names.has(record.name) {
            continue;
        }
        let class = store.instance(*base).class;
        let Some(member) = members::own_member(db, class.file, class.class, record.name) else { continue };
        if let Type::Function(id) | Type::Property(id) = member.ty {
            found.push((class, *store.function(id)));
        }
    }
    found
}

/// What the parameter of an overridden method is declared, or was concluded, to be.
pub(crate) fn parameter(db: &Database, known: &Known, parameter: Parameter) -> Option<Evidence> {
    let Parameter { file, function, place } = parameter;
    let index = module_index(db, file);
    let record = &index.functions[function];
    let own = &record.params[place as usize];
    overridden(db, file, function).into_iter().find_map(|(class, base)| {
        let outline = outline::function(db, base.file, base.function);
        // By its name, or where names do not matter by its place.
        let by_name = outline.params.iter().position(|param| param.name == own.name && param.kind == own.kind);
        let by_place = outline.params.get(place as usize).filter(|param| param.kind == ParamKind::PositionalOnly);
        let there = by_name.or(by_place.map(|_| place as usize))?;
        let declared = functions::declared(db, base.file, base.function);
        let other =
            Parameter { file: base.file, function: base.function, place: u32::try_from(there).unwrap_or(u32::MAX) };
        let (ty, strength) = if outline.params[there].is_annotated {
            (declared.params[there].ty, Strength::Strong)
        } else {
            (*known.concluded.get(&other)?, Strength::Medium)
        };
        is_plain(db, ty).then_some(Evidence {
            source: Source::Bases,
            ty,
            strength,
            file,
            range: own.name_range,
            why: Why::Base(class),
            passed_on: false,
        })
    })
}

/// What the parameter of methods was concluded to be that override a method, where all say the same.
pub(crate) fn overriding_parameter(db: &Database, known: &Known, parameter: Parameter) -> Option<Evidence> {
    let Parameter { file, function, place } = parameter;
    let record = &module_index(db, file).functions[function];
    let class = ClassRef { file, class: record.class? };
    let own = &record.params[place as usize];
    let mut found: Option<(ClassRef, Type)> = None;
    for (other, method) in known.overriding(db, class, record.name) {
        let params = &outline::function(db, other.file, method).params;
        let Some(there) = params.iter().position(|param| param.name == own.name) else { continue };
        let ty = if params[there].is_annotated {
            functions::declared(db, other.file, method).params[there].ty
        } else {
            let place = u32::try_from(there).unwrap_or(u32::MAX);
            let other = Parameter { file: other.file, function: method, place };
            let Some(ty) = known.concluded.get(&other) else { continue };
            *ty
        };
        if !is_plain(db, ty) {
            continue;
        }
        match found {
            Some((_, before)) if before != ty => return None,
            _ => found = Some((other, ty)),
        }
    }
    let (class, ty) = found?;
    let (source, strength, range) = (Source::Bases, Strength::Medium, own.name_range);
    Some(Evidence { source, ty, strength, file, range, why: Why::Base(class), passed_on: false })
}

/// What the getter of a property gives, for the value that its setter takes.
pub(crate) fn accessor(db: &Database, parameter: Parameter) -> Option<Evidence> {
    let Parameter { file, function, place } = parameter;
    let index = module_index(db, file);
    let record = &index.functions[function];
    let class = record.class?;
    let is_setter = record
        .decorators
        .iter()
        .any(|decorator| matches!(index.exprs[*decorator], Expr::Attribute { name: known::SETTER, .. }));
    if place != 1 || !is_setter {
        return None;
    }
    let symbol = index.scopes[index.classes[class].scope].symbols.get(&record.name)?;
    let getter = symbol.defs.iter().find_map(|def| match index.defs[*def].kind {
        DefKind::Function(getter) if getter != function => Some(getter),
        _ => None,
    })?;
    let ty = functions::declared(db, file, getter).returns;
    let ty = ty.unwrap_or_else(|| functions::return_type(db, file, getter));
    // What is not known of it may be what the setter takes.
    let ty = union::filter(db.store(), ty, |part| !part.is_dynamic());
    if ty == Type::Never {
        return None;
    }
    is_plain(db, ty).then_some(Evidence {
        source: Source::Bases,
        ty,
        strength: Strength::Strong,
        file,
        range: index.functions[getter].name_range,
        why: Why::Said("the property gives it".to_owned()),
        passed_on: false,
    })
}

/// What an overridden method is declared to give.
pub(crate) fn result(db: &Database, file: File, function: FunctionId) -> Option<Evidence> {
    let record = &module_index(db, file).functions[function];
    overridden(db, file, function).into_iter().find_map(|(class, base)| {
        let ty = functions::declared(db, base.file, base.function).returns?;
        is_plain(db, ty).then_some(Evidence {
            source: Source::Bases,
            ty,
            strength: Strength::Strong,
            file,
            range: record.name_range,
            why: Why::Base(class),
            passed_on: false,
        })
    })
}

/// What methods of subclasses give that override a method, each with its class.
pub(crate) fn overriding(db: &Database, known: &Known, file: File, function: FunctionId) -> Vec<(ClassRef, Type)> {
    let record = &module_index(db, file).functions[function];
    let Some(class) = record.class.map(|class| ClassRef { file, class }) else { return Vec::new() };
    let below = known.overriding(db, class, record.name);
    below
        .map(|(other, method)| {
            let declared = functions::declared(db, other.file, method).returns;
            (other, declared.unwrap_or_else(|| functions::return_type(db, other.file, method)))
        })
        .collect()
}

/// Whether a type says something, in no variables of its class or function.
fn is_plain(db: &Database, ty: Type) -> bool {
    !ty.is_dynamic() && !leitmotiv_engine::types::substitute::has_variables(db.store(), ty)
}
