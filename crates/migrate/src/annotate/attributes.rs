//! Attributes and variables that are worth declaring: those that begin as None, or empty, and get what they are for later.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes::{self, ClassKind, members};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve;
use leitmotiv_engine::types::{ClassRef, Type, union};
use leitmotiv_engine::view::handled::Subject;
use leitmotiv_index::tree::{ClassForm, ClassId, DefId, DefKind, Expr, ModuleIndex, ScopeId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::{Name, known};

use super::duck::Members;
use super::evidence::{Conclusion, Evidence, Source, Strength, Sureness, Weight, Why};
use super::generalise::together;
use super::known::Known;
use super::sources::uses;
use super::weigh::{MOST_PARTS, open};

/// A name that is worth declaring.
#[derive(Debug, Clone, Copy)]
pub(super) struct Declarable {
    /// The class that it is an attribute of; `None` of a variable of the module.
    pub(super) class: Option<ClassId>,
    /// The name.
    pub(super) name: Name,
    /// The assignment that would declare it.
    pub(super) def: DefId,
}

/// The names of a file that are worth declaring: attributes by `__init__` or in class bodies, variables of the module.
pub(super) fn worth_declaring(db: &Database, file: File) -> Vec<Declarable> {
    let index = module_index(db, file);
    let mut found = Vec::new();
    for (class, record) in index.classes.iter() {
        let symbols = &index.scopes[record.scope].symbols;
        for (name, defs) in record.attributes.iter().filter(|(name, _)| !symbols.contains_key(name)) {
            let is_init = |def: DefId| {
                let function = index.bodies[index.defs[def].body].function;
                function.is_some_and(|function| index.functions[function].name == known::INIT)
            };
            found.extend(first_of(db, file, defs).filter(|first| is_init(*first)).map(|def| (Some(class), *name, def)));
        }
        if annotations_are_plain(db, ClassRef { file, class }) {
            let with_methods = |name: &Name| record.attributes.get(name).into_iter().flatten().copied();
            // What `__init__` always sets is no more what it begins as.
            let begin = symbols.iter().filter(|(name, _)| !record.set_by_init.contains(name));
            found.extend(begin.filter_map(|(name, symbol)| {
                let defs: Vec<DefId> = symbol.defs.iter().copied().chain(with_methods(name)).collect();
                first_of(db, file, &defs).map(|def| (Some(class), *name, def))
            }));
        }
    }
    found.extend(index.scopes[ScopeId(0)].symbols.iter().filter_map(|(name, symbol)| {
        let defs: Vec<DefId> = symbol.defs.iter().chain(&symbol.foreign).copied().collect();
        first_of(db, file, &defs).map(|def| (None, *name, def))
    }));
    found.sort_by_key(|(.., def)| *def);
    found.into_iter().map(|(class, name, def)| Declarable { class, name, def }).collect()
}

/// The first of a name's assignments, if it is one that would declare the name, and if the name is given its values in no other way.
fn first_of(db: &Database, file: File, defs: &[DefId]) -> Option<DefId> {
    let (index, text) = (module_index(db, file), file.text(db));
    let first = *defs.first()?;
    let is_given = |def: &DefId| {
        matches!(index.defs[*def].kind, DefKind::Assign { comment: None, .. } | DefKind::Augmented { .. })
    };
    let DefKind::Assign { value, unpack: None, .. } = index.defs[first].kind else { return None };
    let name = db.names().text(index.defs[first].name);
    let is_special = name.starts_with("__") && name.ends_with("__");
    let is_worth = !is_special
        && defs.iter().all(is_given)
        && begins(db, index, value)
        && stands_alone(text, index.defs[first].range, index.spans[value]);
    is_worth.then_some(first)
}

/// Whether annotations in a class's body mean nothing but what its attributes hold: no decorator, metaclass or base reads them.
fn annotations_are_plain(db: &Database, class: ClassRef) -> bool {
    let record = &module_index(db, class.file).classes[class.class];
    let info = classes::info(db, class);
    record.decorators.is_empty()
        && record.form == ClassForm::Statement
        && info.kind == ClassKind::Plain
        && info.dataclass.is_none()
        && info.unknown_base.is_none()
}

/// Whether a value is one that something begins as: None, an empty container.
fn begins(db: &Database, index: &ModuleIndex, value: leitmotiv_index::tree::ExprId) -> bool {
    match &index.exprs[value] {
        Expr::None => true,
        Expr::List(parts) | Expr::Set(parts) => parts.is_empty(),
        Expr::Dict(items) => items.is_empty(),
        Expr::Call { callee, args } => {
            let Expr::Name(name, _) = index.exprs[*callee] else { return false };
            args.is_empty()
                && matches!(
                    db.names().text(name),
                    "list" | "dict" | "set" | "deque" | "OrderedDict" | "defaultdict" | "Counter"
                )
                || !args.is_empty() && matches!(db.names().text(name), "defaultdict" | "deque")
        }
        _ => false,
    }
}

/// Whether an assignment has one target, which begins its line, so that an annotation may stand there (PEP 526).
fn stands_alone(text: &str, target: TextRange, value: TextRange) -> bool {
    let before = &text[..usize::from(target.start())];
    let line = before.rsplit(['\n', '\r']).next().unwrap_or(before).trim_start();
    let owner = line.strip_suffix('.').unwrap_or(line);
    let is_name = owner.chars().all(|char| char == '_' || char.is_alphanumeric());
    let is_first = line.is_empty() || owner.len() < line.len() && is_name;
    let between = text.get(usize::from(target.end())..usize::from(value.start())).unwrap_or_default();
    is_first && between.trim_matches([' ', '\t', '(', '\\', '\r', '\n']) == "="
}

/// What is concluded of a name that is worth declaring.
pub(super) fn conclude(
    db: &Database,
    known: &Known,
    members: &Members,
    file: File,
    declarable: Declarable,
) -> Option<Conclusion> {
    let Declarable { class, name, .. } = declarable;
    let store = db.store();
    let index = module_index(db, file);
    let infer = Infer::new(db, file, leitmotiv_index::tree::BodyId(0));
    let (scope, assigned) = match class {
        Some(class) => (index.classes[class].scope, index.classes[class].attributes.get(&name)),
        None => (ScopeId(0), None),
    };
    let bound = index.scopes[scope].symbols.get(&name);
    let defs = bound.into_iter().flat_map(|symbol| symbol.defs.iter().chain(&symbol.foreign));
    let mut evidence: Vec<Evidence> = Vec::new();
    for def in defs.chain(assigned.into_iter().flatten()) {
        let record = &index.defs[*def];
        let DefKind::Assign { value, unpack: None, .. } = record.kind else { continue };
        let mut there = Infer::new(db, file, record.body);
        let ty = infer.widen(there.expr(value));
        let (source, strength, why) = (Source::Attributes, Strength::Medium, Why::Assigned);
        let range = index.spans[value];
        evidence.push(Evidence { source, ty, strength, file, range, why, passed_on: false });
    }
    let held = match class {
        Some(class) => members::own_member(db, file, class, name)?.ty,
        None => resolve::own_name(db, file, name)?,
    };
    for (other, ty, range) in
        class.map_or(Some(Vec::new()), |class| known.redefining(db, ClassRef { file, class }, name))?
    {
        let (source, strength, why) = (Source::Bases, Strength::Medium, Why::Base(other));
        evidence.push(Evidence {
            source,
            ty: infer.widen(ty),
            strength,
            file: other.file,
            range,
            why,
            passed_on: false,
        });
    }
    let below: Vec<Type> = evidence.iter().filter(|one| one.source == Source::Bases).map(|one| one.ty).collect();
    // Where the class has nothing but None, its subclasses say what it is for.
    let is_told = union::parts(store, &held).iter().any(|part| !part.is_dynamic() && *part != Type::None);
    let held = if is_told || below.is_empty() { held } else { Type::None };
    let mut ty = together(db, &infer, std::iter::once(held).chain(below));
    let parts = union::parts(store, &ty).to_vec();
    let is_optional = parts.contains(&Type::None) || evidence.first().is_some_and(|first| first.ty == Type::None);
    let told = union::filter(store, ty, |part| !part.is_dynamic() && part != Type::None);
    let mut sureness = Sureness::Fair;
    let mut conflicts = Vec::new();
    let used = class.map_or(Vec::new(), |class| {
        let subject = Subject::Attribute(ClassRef { file, class }, name);
        uses::of(db, known, members, subject, db.names().text(name))
    });
    let recorded = match class {
        Some(class) => known.traces.attribute(ClassRef { file, class }, name),
        None => known.traces.variable(file, name),
    };
    // What it held before it was given anything says nothing.
    let recorded = recorded.filter(|recorded| !recorded.is_open);
    let recorded = recorded.into_iter().flat_map(|recorded| &recorded.all).filter(|one| one.ty != Type::None);
    let recorded: Vec<Evidence> = recorded.cloned().collect();
    let seen = together(db, &infer, recorded.iter().map(|one| one.ty));
    let is_seen = !recorded.is_empty() && !open(db, seen) && !matches!(seen, Type::Union(_));
    if is_seen && (told == Type::Never || open(db, told) && infer.is_assignable(told, seen)) {
        ty = seen;
        evidence.extend(recorded);
    } else if told == Type::Never {
        // Nothing that is known is ever assigned: what is done with it.
        let best = uses::strongest(&used)?.clone();
        sureness = if best.strength == Strength::Strong { Sureness::Fair } else { Sureness::Low };
        ty = best.ty;
        evidence.push(best);
    } else {
        if parts.iter().any(|part| part.is_dynamic()) {
            sureness = Sureness::Low;
        }
        ty = told;
        for one in used {
            if infer.is_assignable(ty, one.ty) {
                evidence.push(one);
            } else if one.strength == Strength::Strong {
                conflicts.push(one);
            }
        }
        let (with, against): (Vec<Evidence>, Vec<Evidence>) =
            recorded.into_iter().partition(|one| infer.is_assignable(one.ty, ty) || open(db, one.ty));
        evidence.extend(with);
        conflicts.extend(against);
    }
    if is_optional {
        ty = union::join(store, [ty, Type::None]);
    }
    if open(db, ty) {
        sureness = Sureness::Low;
    }
    if union::parts(store, &ty).len() > MOST_PARTS || ty == Type::Never {
        return None;
    }
    Some(Conclusion { ty, sureness, evidence, conflicts, weight: Weight::default() })
}
