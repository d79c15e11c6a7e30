//! What classes have in common that are passed to one parameter, where they have no base in common and little is asked of them.

use std::collections::BTreeSet;
use std::fmt::Write as _;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes::{self, members};
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::findings::source::excerpt;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{ClassRef, FunctionRef, Type, union};
use leitmotiv_engine::view::handled::{Parameter, Subject, UseKind};
use leitmotiv_index::tree::ParamKind;
use leitmotiv_syntax::names::Name;

use super::{Facts, Kind, Suggestion, camel, line, written};

/// So many members at most are asked for.
const MOST_MEMBERS: usize = 2;

/// The suggestions.
pub(super) fn of(facts: &Facts<'_>) -> Vec<Suggestion> {
    let db = facts.db;
    let mut parameters: Vec<&Parameter> = facts.concluded.known.passed.keys().collect();
    parameters.sort_by_key(|one| (one.file.path(db), one.function, one.place));
    let mut found: Vec<(usize, Suggestion)> =
        parameters.into_iter().filter_map(|parameter| suggestion(facts, *parameter)).collect();
    found.sort_by_key(|(classes, _)| std::cmp::Reverse(*classes));
    found.into_iter().map(|(_, suggestion)| suggestion).collect()
}

fn suggestion(facts: &Facts<'_>, parameter: Parameter) -> Option<(usize, Suggestion)> {
    let db = facts.db;
    let store = db.store();
    let Parameter { file, function, place } = parameter;
    let index = module_index(db, file);
    let record = &index.functions[function];
    let param = record.params.get(place as usize)?;
    if param.annotation.is_some() || file.is_stub(db) || !file.origin(db).is_own() {
        return None;
    }
    let asked = asked(facts, parameter)?;
    let mut passed: Vec<(ClassRef, String, usize, String)> = Vec::new();
    for (from, is_test, one) in facts.concluded.known.passed.get(&parameter)? {
        for part in union::parts(store, &one.ty) {
            let Type::Instance(id) = part else { if *part == Type::None || *is_test { continue } else { return None } };
            let class = store.instance(*id).class;
            if *is_test || passed.iter().any(|(known, ..)| *known == class) {
                continue;
            }
            let said = format!("{} is passed: {}", excerpt(db, *from, one.range), classes::shown(db, class));
            passed.push((class, from.path(db).to_owned(), line(db, *from, one.range.start()), said));
        }
    }
    if passed.len() < 2 || has_common_base(facts, &passed, &asked) {
        return None;
    }
    let name = protocol_name(db.names().text(*asked.first()?));
    let mut code = format!("class {name}(Protocol):\n");
    for member in &asked {
        let found = passed.iter().map(|(class, ..)| own(facts, *class, *member)).collect::<Option<Vec<Type>>>()?;
        match found[0] {
            Type::Function(id) => code.push_str(&method(facts, parameter, *store.function(id))?),
            ty => {
                let ty = match ty {
                    Type::Property(id) => {
                        functions::return_type(db, store.function(id).file, store.function(id).function)
                    }
                    ty => ty,
                };
                let _ = writeln!(code, "    {}: {}", db.names().text(*member), written(db, file, ty)?);
            }
        }
    }
    let dotted = functions::qualified(db, file, Some(function));
    let members: Vec<String> = asked.iter().map(|name| format!("`{}`", db.names().text(*name))).collect();
    let named = db.names().text(param.name);
    let classes: Vec<&str> = passed.iter().map(|(class, ..)| classes::shown(db, *class)).collect();
    let words = format!(
        "`{named}` of {dotted} gets {}, which have no base in common, and is asked for nothing but {}",
        classes.join(" and "),
        members.join(" and ")
    );
    let places = passed.iter().map(|(_, path, line, said)| (path.clone(), *line, said.clone())).collect();
    let (path, line) = (file.path(db).to_owned(), line(db, file, param.name_range.start()));
    Some((passed.len(), Suggestion { kind: Kind::Protocols, path, line, words, code, places }))
}

/// The members that a parameter is asked for, if it is asked for nothing else.
fn asked(facts: &Facts<'_>, parameter: Parameter) -> Option<Vec<Name>> {
    let mut asked: BTreeSet<Name> = BTreeSet::new();
    let mut order = Vec::new();
    for (_, one) in facts.concluded.known.uses.get(&Subject::Parameter(parameter))? {
        match one.kind {
            UseKind::Attribute { name, .. } if !one.on_element && !one.is_narrowed => {
                if asked.insert(name) {
                    order.push(name);
                }
            }
            UseKind::Tested | UseKind::ComparedWithNone => {}
            _ => return None,
        }
    }
    (!order.is_empty() && order.len() <= MOST_MEMBERS).then_some(order)
}

/// Whether some class that all derive from has what is asked for.
fn has_common_base(facts: &Facts<'_>, passed: &[(ClassRef, String, usize, String)], asked: &[Name]) -> bool {
    let db = facts.db;
    let info = classes::info(db, passed[0].0);
    let has_all = |base: ClassRef| asked.iter().all(|name| own(facts, base, *name).is_some());
    let mut bases = info.mro.iter().map(|base| db.store().instance(*base).class);
    bases
        .any(|base| has_all(base) && passed.iter().all(|(class, ..)| classes::derives(db, *class, base) != Some(false)))
}

/// A member as a class or one of its bases has it.
fn own(facts: &Facts<'_>, class: ClassRef, name: Name) -> Option<Type> {
    let db = facts.db;
    classes::info(db, class).mro.iter().find_map(|base| {
        let base = db.store().instance(*base).class;
        Some(members::own_member(db, base.file, base.class, name)?.ty)
    })
}

/// A method without its body, as the protocol has it.
fn method(facts: &Facts<'_>, asking: Parameter, function: FunctionRef) -> Option<String> {
    let db = facts.db;
    let record = &module_index(db, function.file).functions[function.function];
    let mut params: Vec<String> = Vec::new();
    let mut has_star = false;
    for (place, param) in record.params.iter().enumerate() {
        let name = db.names().text(param.name);
        if place == 0 {
            params.push(name.to_owned());
            continue;
        }
        let number = u32::try_from(place).unwrap_or(u32::MAX);
        let (file, function) = (function.file, function.function);
        let ty = facts.parameter(Parameter { file, function, place: number }).unwrap_or(Type::Any);
        let star = match param.kind {
            ParamKind::VarArgs => "*",
            ParamKind::KwArgs => "**",
            _ => "",
        };
        if param.kind == ParamKind::KeywordOnly && !has_star {
            params.push("*".to_owned());
        }
        has_star |= matches!(param.kind, ParamKind::VarArgs | ParamKind::KeywordOnly);
        let default = if param.default.is_some() { " = ..." } else { "" };
        params.push(format!("{star}{name}: {}{default}", written(db, asking.file, ty)?));
    }
    let declared = functions::declared(db, function.file, function.function).returns;
    let returns = declared.unwrap_or_else(|| functions::return_type(db, function.file, function.function));
    let returns = if returns.is_dynamic() { Type::Any } else { returns };
    let asynchronous = if record.is_async { "async " } else { "" };
    let name = db.names().text(record.name);
    let returns = written(db, asking.file, returns)?;
    Some(format!("    {asynchronous}def {name}({}) -> {returns}: ...\n", params.join(", ")))
}

/// What a protocol is called that asks for a member.
fn protocol_name(member: &str) -> String {
    format!("Supports{}", camel(member.trim_matches('_')))
}
