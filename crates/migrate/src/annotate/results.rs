//! What functions give.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::{classes, functions};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{is_standard, standard_instance};
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{Type, union};
use leitmotiv_engine::view::given::{self, Given, How};
use leitmotiv_index::tree::{BodyShape, Expr, FunctionId, ModuleIndex};
use leitmotiv_syntax::names::known;

use super::evidence::{Conclusion, Evidence, Source, Strength, Sureness, Weight, Why};
use super::generalise::together;
use super::known::Known;
use super::sources::{bases, docstrings, special};
use super::weigh::{MOST_PARTS, mixed, open};

/// What is concluded of a function's result; `None` where nothing is known of it.
pub(super) fn conclude(
    db: &Database,
    known: &Known,
    (file, function): (File, FunctionId),
    self_types: bool,
) -> Option<Conclusion> {
    let index = module_index(db, file);
    let record = &index.functions[function];
    if record.returns.is_some() || has_strange_decorator(index, function) {
        return None;
    }
    let name = db.names().text(record.name);
    let evidence = |source: Source, ty: Type, why: Why| {
        let strength = Strength::Strong;
        Evidence { source, ty, strength, file, range: record.name_range, why, passed_on: false }
    };
    let one = |ty: Type, sureness: Sureness, evidence: Evidence| {
        Some(Conclusion { ty, sureness, evidence: vec![evidence], conflicts: Vec::new(), weight: Weight::default() })
    };
    if record.name == known::INIT {
        return one(Type::None, Sureness::Sure, evidence(Source::Returns, Type::None, Why::Init));
    }
    let docs = docstrings::of(db, file, function).and_then(|docs| docs.result(db));
    let mut base = bases::result(db, file, function);
    // A coroutine's annotation is what awaiting it gives.
    let is_coroutine = record.is_async && index.bodies[record.body].yields.is_empty();
    let awaited = |ty: Type| match ty {
        Type::Instance(id) if is_coroutine => db.store().instance(id).args.get(2).copied().unwrap_or(ty),
        ty => ty,
    };
    if let Some(base) = &mut base {
        base.ty = awaited(base.ty);
    }
    let ty = awaited(match self_types {
        true => functions::open_return_type(db, file, function),
        false => functions::return_type(db, file, function),
    });
    let infer = Infer::new(db, file, record.body);
    let given = returned(db, file, function);
    // Of what cannot be told, the form of the expression tells something.
    let by_form = union::parts(db.store(), &ty).iter().any(|part| part.is_dynamic());
    let by_form = by_form && !(record.class.is_some() && overridable(index, function));
    let ty = if by_form && index.bodies[record.body].yields.is_empty() && !given.is_empty() {
        let told: Vec<Type> = given.iter().map(|one| one.ty).collect();
        union::join(db.store(), told)
    } else {
        ty
    };
    let is_pattern = record.class.is_some() && overridable(index, function);
    let is_special = record.class.is_some() && special::result(db, name).is_some();
    if ty == Type::Never && !is_pattern && !is_special && base.is_none() && record.shape == BodyShape::Code {
        let below = bases::overriding(db, known, file, function);
        if below.iter().all(|(_, theirs)| *theirs == Type::Never) && given.is_empty() {
            let sureness = if record.class.is_some() { Sureness::Low } else { Sureness::Fair };
            return one(ty, sureness, evidence(Source::Returns, ty, Why::Said("always raises".to_owned())));
        }
    }
    if ty.is_dynamic() || ty == Type::Never {
        if let Some(ty) = special::result(db, name).filter(|_| record.class.is_some()) {
            return one(ty, Sureness::Sure, evidence(Source::Bases, ty, Why::Special(name.to_owned())));
        }
        if let Some(docs) = docs {
            return one(docs.ty, Sureness::Fair, docs);
        }
        if let Some(base) = base {
            return one(base.ty, Sureness::Fair, base);
        }
        if let Some(recorded) = recorded(db, known, (file, function), &infer) {
            return Some(recorded);
        }
        // What subclasses give, where all that is known of them is of one kind.
        let below = bases::overriding(db, known, file, function);
        let told: Vec<Type> = below.iter().map(|(_, ty)| awaited(*ty)).filter(|ty| !open(db, *ty)).collect();
        if overridable(index, function) && !told.is_empty() {
            let ty = together(db, &infer, told);
            let why = Why::Said(format!("`{}` gives {}", classes::shown(db, below[0].0), show(db, ty)));
            return one(ty, Sureness::Low, evidence(Source::Bases, ty, why));
        }
        return None;
    }
    let ty = iterated(db, ty);
    let ty = together(db, &infer, [ty]);
    if union::parts(db.store(), &ty).len() > MOST_PARTS {
        return None;
    }
    // What is not known among what is, is mostly of the same kind.
    let is_partly_known = union::parts(db.store(), &ty).iter().any(|part| part.is_dynamic());
    let ty = union::filter(db.store(), ty, |part| !part.is_dynamic());
    if is_partly_known && (ty == Type::None || ty == Type::Never) {
        let Some(other) = docs.or(base) else { return recorded(db, known, (file, function), &infer) };
        return one(other.ty, Sureness::Fair, other);
    }
    // What the docstring says all that is given is of.
    let ty = match &docs {
        Some(docs) if infer.is_assignable(ty, docs.ty) => docs.ty,
        _ => ty,
    };
    let mut conclusion =
        Conclusion { ty, sureness: Sureness::Fair, evidence: given, conflicts: Vec::new(), weight: Weight::default() };
    if is_partly_known {
        conclusion.sureness = Sureness::Low;
    }
    if is_partly_known || open(db, ty) {
        // What the docstring says, or the base, says more.
        if let Some(other) = docs.clone().or(base.clone()) {
            return one(other.ty, Sureness::Fair, other);
        }
        // So does a run, where what is known is some of what was seen.
        if let Some(mut seen) = recorded(db, known, (file, function), &infer)
            && seen.sureness >= Sureness::Fair
            && infer.is_assignable(ty, seen.ty)
        {
            seen.evidence.splice(0..0, conclusion.evidence);
            return Some(seen);
        }
    }
    // A method may be meant to give more than this one does.
    if is_pattern {
        conclusion.sureness = Sureness::Low;
    }
    for other in docs.into_iter().chain(base) {
        if infer.is_assignable(ty, other.ty) || other.ty == ty {
            // A base says what all of them give; this one gives just this.
            if conclusion.sureness == Sureness::Fair {
                conclusion.sureness = Sureness::Sure;
            }
            conclusion.evidence.push(other);
        } else {
            conclusion.sureness = conclusion.sureness.min(Sureness::Fair);
            conclusion.conflicts.push(other);
        }
    }
    if gives_constants(index, function) && record.class.is_some() {
        for (class, theirs) in bases::overriding(db, known, file, function) {
            let theirs = awaited(theirs);
            if !theirs.is_dynamic() && theirs != Type::Never && !infer.is_assignable(theirs, ty) {
                let why = Why::Said(format!("`{}` gives {}", classes::shown(db, class), show(db, infer.widen(theirs))));
                conclusion.conflicts.push(evidence(Source::Bases, theirs, why));
                conclusion.sureness = Sureness::Low;
                break;
            }
        }
    }
    if ty == Type::None && conclusion.sureness == Sureness::Fair {
        conclusion.sureness = Sureness::Sure;
    }
    for seen in known.traces.result(db, (file, function)).into_iter().flat_map(|recorded| recorded.all) {
        let fits = infer.is_assignable(seen.ty, ty) || open(db, seen.ty);
        if fits { conclusion.evidence.push(seen) } else { conclusion.conflicts.push(seen) }
    }
    Some(conclusion)
}

/// What recorded calls gave, where that is few kinds of things.
fn recorded(db: &Database, known: &Known, key: (File, FunctionId), infer: &Infer<'_>) -> Option<Conclusion> {
    let recorded = known.traces.result(db, key)?;
    let ty = together(db, infer, recorded.all.iter().map(|one| one.ty));
    let plain = union::without(db.store(), ty, Type::None);
    if ty.is_dynamic() || plain == Type::Never && recorded.is_open || union::parts(db.store(), &ty).len() > MOST_PARTS {
        return None;
    }
    let is_sure_enough = !recorded.is_open
        && !open(db, ty)
        && !mixed(db, ty)
        && !matches!(plain, Type::Union(_))
        && plain != Type::Never;
    let sureness = if is_sure_enough { Sureness::Fair } else { Sureness::Low };
    let weight = Weight { best: u32::try_from(recorded.count).unwrap_or(u32::MAX), ..Weight::default() };
    Some(Conclusion { ty, sureness, evidence: recorded.all, conflicts: Vec::new(), weight })
}

/// A generator that nothing is sent to is an iterator to its callers.
pub(super) fn iterated(db: &Database, ty: Type) -> Type {
    let store = db.store();
    let Type::Instance(id) = ty else { return ty };
    let instance = store.instance(id);
    let module = db.names().intern("collections.abc");
    let is = |name: &str| is_standard(db, instance.class, module, db.names().intern(name));
    match &*instance.args {
        [yielded, sent, Type::None] if sent.is_dynamic() && is("Generator") => {
            standard_instance(db, module, db.names().intern("Iterator"), &[*yielded])
        }
        [yielded, sent] if sent.is_dynamic() && is("AsyncGenerator") => {
            standard_instance(db, module, db.names().intern("AsyncIterator"), &[*yielded])
        }
        _ => ty,
    }
}

/// Each way in which a function gives something back.
fn returned(db: &Database, file: File, function: FunctionId) -> Vec<Evidence> {
    let evidence = |given: &Given| {
        let why = match given.how {
            How::Returned => Why::Returned,
            How::Yielded => Why::Yielded,
            How::Ends => Why::Ends,
        };
        let (source, strength) = (Source::Returns, Strength::Medium);
        Evidence { source, ty: given.ty, strength, file, range: given.range, why, passed_on: false }
    };
    given::of(db, file, function).iter().map(evidence).collect()
}

/// Whether a method only stands for those of subclasses.
fn overridable(index: &ModuleIndex, function: FunctionId) -> bool {
    let record = &index.functions[function];
    record.shape != BodyShape::Code
        || record.decorators.iter().any(|decorator| index.decorator_name(*decorator) == Some(known::ABSTRACTMETHOD))
}

/// Decorators that take the return apart: then what the function returns is not what callers see.
pub(super) fn has_strange_decorator(index: &ModuleIndex, function: FunctionId) -> bool {
    index.functions[function].decorators.iter().any(|decorator| {
        matches!(index.exprs[*decorator], Expr::Attribute { name: known::SETTER | known::DELETER, .. })
            || index.decorator_name(*decorator) == Some(known::OVERLOAD)
    })
}

/// Whether a function gives nothing but constants, or only raises.
fn gives_constants(index: &ModuleIndex, function: FunctionId) -> bool {
    let body = &index.bodies[index.functions[function].body];
    body.yields.is_empty()
        && body.returns.iter().all(|statement| match statement.value.map(|value| &index.exprs[value]) {
            None | Some(Expr::None | Expr::Bool(_) | Expr::Int(_) | Expr::Float | Expr::Str(_) | Expr::Bytes(_)) => {
                true
            }
            Some(Expr::Tuple(parts) | Expr::List(parts)) => parts.is_empty(),
            Some(Expr::Dict(parts)) => parts.is_empty(),
            _ => false,
        })
}
