//! Attributes that are worth declaring: those that begin as None, or empty, and get what they are for later.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes::members;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{ClassRef, Type, union};
use leitmotiv_engine::view::handled::Subject;
use leitmotiv_index::tree::{ClassId, DefId, DefKind, Expr, FunctionId, ModuleIndex, StatementKind};
use leitmotiv_syntax::names::{Name, known};

use super::duck::Members;
use super::evidence::{Conclusion, Evidence, Source, Strength, Sureness, Weight, Why};
use super::generalise::together;
use super::known::Known;
use super::sources::uses;
use super::weigh::{MOST_PARTS, open};

/// The attributes of a class that are worth declaring, by name, with the assignment that would declare them and its function.
pub(super) fn worth_declaring(db: &Database, index: &ModuleIndex, class: ClassId) -> Vec<(Name, DefId, FunctionId)> {
    let record = &index.classes[class];
    let mut found = Vec::new();
    for (name, defs) in &record.attributes {
        let is_declared = defs.iter().any(|def| {
            matches!(index.defs[*def].kind, DefKind::Annotated { .. } | DefKind::Assign { comment: Some(_), .. })
        });
        if is_declared || index.scopes[record.scope].symbols.contains_key(name) {
            continue;
        }
        let Some(first) = defs.first().copied() else { continue };
        let DefKind::Assign { value, unpack: None, .. } = index.defs[first].kind else { continue };
        let Some(function) = index.bodies[index.defs[first].body].function else { continue };
        let is_init = index.functions[function].name == known::INIT;
        if is_init && begins(db, index, value) && stands_alone(index, first) {
            found.push((*name, first, function));
        }
    }
    found.sort_by_key(|(_, def, _)| *def);
    found
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

/// Whether an assignment has one target, so that an annotation may stand there (PEP 526).
fn stands_alone(index: &ModuleIndex, def: DefId) -> bool {
    let record = &index.defs[def];
    index.bodies[record.body].statements.iter().any(|statement| match &statement.kind {
        StatementKind::Assign { targets, .. } => {
            targets.len() == 1
                && matches!(index.exprs[targets[0]], Expr::Attribute { .. })
                && index.spans[targets[0]].end() == record.range.end()
        }
        _ => false,
    })
}

/// What is concluded of an attribute.
pub(super) fn conclude(
    db: &Database,
    known: &Known,
    members: &Members,
    (file, class): (File, ClassId),
    name: Name,
) -> Option<Conclusion> {
    let store = db.store();
    let index = module_index(db, file);
    let infer = Infer::new(db, file, leitmotiv_index::tree::BodyId(0));
    let member = members::own_member(db, file, class, name)?;
    let mut evidence: Vec<Evidence> = Vec::new();
    for def in index.classes[class].attributes.get(&name)? {
        let record = &index.defs[*def];
        let DefKind::Assign { value, unpack: None, .. } = record.kind else { continue };
        let mut there = Infer::new(db, file, record.body);
        let ty = there.expr(value);
        let (source, strength, why) = (Source::Attributes, Strength::Medium, Why::Assigned);
        evidence.push(Evidence {
            source,
            ty: infer.widen(ty),
            strength,
            file,
            range: index.spans[value],
            why,
            passed_on: false,
        });
    }
    let mut ty = together(db, &infer, [member.ty]);
    let parts = union::parts(store, &ty).to_vec();
    let is_optional = parts.contains(&Type::None) || evidence.first().is_some_and(|first| first.ty == Type::None);
    let told = union::filter(store, ty, |part| !part.is_dynamic() && part != Type::None);
    let mut sureness = Sureness::Fair;
    let mut conflicts = Vec::new();
    let used = uses::of(db, known, members, Subject::Attribute(ClassRef { file, class }, name), db.names().text(name));
    if told == Type::Never {
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
