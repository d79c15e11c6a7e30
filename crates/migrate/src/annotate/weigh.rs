//! From evidence to a conclusion.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes::{self, ClassKind};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::builtin_instance;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{Type, holds, union};
use leitmotiv_engine::view::handled::{Parameter, Subject, UseKind};
use leitmotiv_index::tree::{BodyId, Expr, ParamKind};
use leitmotiv_syntax::names::known as known_names;

use super::duck::Members;
use super::evidence::{Conclusion, Evidence, Source, Strength, Sureness, Weight, Why};
use super::generalise::together;
use super::known::Known;
use super::sources::{bases, calls, defaults, docstrings, fixtures, special, uses};

/// What one kind of evidence says as a whole.
struct Claim {
    ty: Type,
    /// The higher, the more likely it is right by itself.
    rank: u32,
    evidence: Vec<Evidence>,
}

/// More parts than this nobody writes in a union.
const MOST_PARTS: usize = 4;

/// What is concluded for a parameter; `None` where nothing says anything.
pub(super) fn parameter(
    db: &Database,
    known: &Known,
    members: &Members,
    parameter: Parameter,
    sources: &[Source],
) -> Option<Conclusion> {
    let Parameter { file, function, place } = parameter;
    let store = db.store();
    let index = module_index(db, file);
    let record = &index.functions[function];
    let param = &record.params[place as usize];
    let named = db.names().text(param.name);
    let infer = Infer::new(db, file, BodyId(0));
    let mut claims: Vec<Claim> = Vec::new();
    let mut is_optional = param.default.is_some_and(|default| matches!(index.exprs[default], Expr::None));
    let mut none: Vec<Evidence> = Vec::new();

    let default = defaults::of(db, parameter);
    if let Some(docs) = docstrings::of(db, file, function)
        && let Some(evidence) = docs.parameter(db, named)
    {
        claims.push(Claim { ty: evidence.ty, rank: 90, evidence: vec![evidence] });
    }
    let method = db.names().text(record.name);
    if record.class.is_some()
        && let Some(ty) = special::parameter(db, method, place)
    {
        let evidence = Evidence {
            source: Source::Bases,
            ty,
            strength: Strength::Strong,
            file,
            range: param.name_range,
            why: super::evidence::Why::Special(special_name(method)),
            passed_on: false,
        };
        claims.push(Claim { ty, rank: 95, evidence: vec![evidence] });
    }
    if let Some(evidence) = bases::parameter(db, known, parameter) {
        let rank = if evidence.strength == Strength::Strong { 85 } else { 45 };
        // What a stub of the library asks for by a protocol is a number to those who write it.
        let ty = plain_index(db, evidence.ty);
        claims.push(Claim { ty, rank, evidence: vec![evidence] });
    }
    for evidence in bases::accessor(db, parameter).into_iter().chain(bases::overriding_parameter(db, known, parameter)) {
        let rank = if evidence.strength == Strength::Strong { 56 } else { 41 };
        claims.push(Claim { ty: evidence.ty, rank, evidence: vec![evidence] });
    }
    if let Some(evidence) = fixtures::of(db, parameter) {
        claims.push(Claim { ty: evidence.ty, rank: 60, evidence: vec![evidence] });
    }
    if let Some(evidence) = known.by_name.of(db, known, parameter) {
        let rank = if evidence.strength == Strength::Medium { 30 } else { 15 };
        claims.push(Claim { ty: evidence.ty, rank, evidence: vec![evidence] });
    }
    let calls = calls::of(db, known, parameter);
    let split = |all: Vec<Evidence>| -> (Vec<Evidence>, Vec<Evidence>) {
        all.into_iter().partition(|evidence| evidence.ty != Type::None)
    };
    let (own, own_none) = split(calls.own);
    let (tests, _) = split(calls.tests);
    is_optional |= !own_none.is_empty();
    none.extend(own_none);
    let from_default = default.clone().filter(|default| default.ty != Type::None);
    // What a default says goes together with what calls pass: it is one more value that arrives.
    let arrives = |list: &[Evidence]| together(db, &infer, list.iter().map(|evidence| evidence.ty));
    if !own.is_empty() {
        let mut evidence = own.clone();
        evidence.extend(from_default.clone());
        let ty = arrives(&evidence);
        let rank = match (calls.unknown, open(db, ty)) {
            (0, false) => 60,
            (_, false) => 50,
            _ => 35,
        };
        claims.push(Claim { ty, rank, evidence });
    }
    if !tests.is_empty() {
        let mut evidence = tests.clone();
        evidence.extend(from_default.clone());
        let ty = arrives(&evidence);
        let rank = if open(db, ty) { 25 } else { 40 };
        claims.push(Claim { ty, rank, evidence });
    }
    if let Some(evidence) = from_default {
        let rank = match evidence.strength {
            Strength::Strong => 58,
            Strength::Medium => 42,
            Strength::Weak => 24,
        };
        claims.push(Claim { ty: together(db, &infer, [evidence.ty]), rank, evidence: vec![evidence] });
    }
    for evidence in uses::of(db, known, members, Subject::Parameter(parameter), named) {
        let rank = match (evidence.source, evidence.strength) {
            (Source::Guards, _) => 44,
            (_, Strength::Strong) => 52,
            (_, Strength::Medium) => 43,
            (_, Strength::Weak) => 20,
        };
        claims.push(Claim { ty: union::without(store, evidence.ty, Type::None), rank, evidence: vec![evidence] });
    }
    let handled: Vec<UseKind> = known
        .uses
        .get(&Subject::Parameter(parameter))
        .into_iter()
        .flatten()
        .filter(|(_, one)| !one.on_element)
        .map(|(_, one)| one.kind)
        .collect();
    let is_asked = handled.iter().any(|one| *one == UseKind::ComparedWithNone);
    is_optional |= is_asked || takes_none(db, known, &handled);
    // Evidence that nobody asked for; what a call passes goes with the default.
    claims.retain(|claim| sources.contains(&claim.evidence[0].source));
    claims.retain(|claim| !claim.ty.is_dynamic() && claim.ty != Type::Never && claim.ty != Type::None);
    // That something is an object says nothing where more is done with it than with any.
    let is_object = |ty: Type| infer.is_assignable(builtin_instance(db, known_names::OBJECT, &[]), ty);
    if claims.iter().any(|claim| claim.rank >= 40 && claim.evidence[0].source == Source::Uses && !is_object(claim.ty)) {
        claims.retain(|claim| !is_object(claim.ty));
    }
    let best = claims.iter().enumerate().max_by_key(|(place, claim)| (claim.rank, std::cmp::Reverse(*place)))?.0;
    let best = claims.remove(best);
    let mut ty = best.ty;
    let mut evidence = best.evidence;
    let mut conflicts = Vec::new();
    let mut agreeing = 0;
    let mut against = 0;
    let arrives = matches!(evidence[0].source, Source::Calls | Source::Defaults);
    for claim in claims {
        let is_same_kind = claim.evidence[0].source == evidence[0].source && claim.evidence.len() == 1
            && evidence.contains(&claim.evidence[0]);
        if agree(db, &infer, ty, claim.ty) {
            // What it is passed on as was concluded from what is passed, as like as not.
            let is_echo = claim.evidence.iter().all(|one| one.passed_on);
            if !is_same_kind {
                agreeing = agreeing.max(if is_echo { claim.rank.min(19) } else { claim.rank });
            }
            let is_use = matches!(claim.evidence[0].source, Source::Uses | Source::Attributes | Source::Guards);
            // One that knows what the other leaves open.
            if open(db, ty) && !open(db, claim.ty) && same_class(db, ty, claim.ty) {
                ty = claim.ty;
            // What overrides a method takes all that the method takes.
            } else if arrives && claim.evidence[0].source == Source::Bases && is_narrower(db, &infer, ty, claim.ty) {
                ty = claim.ty;
            // What is done with it goes for more than what arrives.
            } else if arrives && is_use && is_nominal(db, claim.ty) && is_narrower(db, &infer, ty, claim.ty) {
                ty = claim.ty;
            } else if is_use && is_echo && is_narrower(db, &infer, ty, claim.ty) && widens(db, ty, claim.ty) {
                ty = claim.ty;
            }
            evidence.extend(claim.evidence.into_iter().filter(|one| !evidence.contains(one)).collect::<Vec<_>>());
        } else if let Some(part) = part_that_fits(db, &infer, ty, &claim, arrives) {
            // What is done with it would fail with the rest of what arrives: those ways are not meant, or not taken.
            ty = part;
            agreeing = agreeing.max(claim.rank);
            let (with, without): (Vec<Evidence>, Vec<Evidence>) =
                evidence.into_iter().partition(|one| infer.is_assignable(one.ty, part));
            evidence = with;
            conflicts.extend(without);
            evidence.extend(claim.evidence);
        } else {
            against = against.max(claim.rank);
            conflicts.extend(claim.evidence);
        }
    }
    // Other classes are asked for than those that are known to come.
    let mut asks_for_more = false;
    if best.rank < 85 && sources.contains(&Source::Guards) {
        for (file, one) in known.uses.get(&Subject::Parameter(parameter)).into_iter().flatten() {
            let UseKind::Classed { instance, is_required: false } = one.kind else { continue };
            if one.on_element || one.is_narrowed || instance.is_dynamic() {
                continue;
            }
            asks_for_more = true;
            let whole = together(db, &infer, [ty, instance]);
            let why = Why::Said(format!("is asked whether it is {}", show(db, instance)));
            let (source, strength, range) = (Source::Guards, Strength::Weak, one.range);
            ty = whole;
            evidence.push(Evidence { source, ty: instance, strength, file: *file, range, why, passed_on: false });
        }
        // One class that is asked for, and nothing else is known to come.
        asks_for_more &= !matches!(union::without(store, ty, Type::None), Type::Union(_));
    }
    // Whatever it is, its default is one.
    if let Some(default) = default.as_ref().filter(|default| default.ty != Type::None)
        && !infer.is_assignable(default.ty, ty)
    {
        ty = together(db, &infer, [ty, default.ty]);
        evidence.push(default.clone());
    }
    let is_wide = union::parts(store, &ty).len() > MOST_PARTS;
    if is_wide {
        return None;
    }
    if is_optional {
        ty = union::join(store, [ty, Type::None]);
        evidence.extend(none);
        evidence.extend(default.filter(|default| default.ty == Type::None));
    }
    let sureness = sureness(db, ty, &best.rank, (agreeing, against), asks_for_more, &evidence, record.name, param.kind);
    let weight = Weight { best: best.rank, agreeing, against, asks_for_more };
    Some(Conclusion { ty, sureness, evidence, conflicts, weight })
}

/// How sure a conclusion is, as it was measured: of annotations taken off packages whose authors wrote them, so many were concluded right
/// again (docs/measurements.md, "Annotations recovered").
#[allow(clippy::too_many_arguments)]
fn sureness(
    db: &Database,
    ty: Type,
    best: &u32,
    (agreeing, against): (u32, u32),
    asks_for_more: bool,
    evidence: &[Evidence],
    function: leitmotiv_syntax::names::Name,
    kind: ParamKind,
) -> Sureness {
    let store = db.store();
    let best = *best;
    let plain = union::without(store, ty, Type::None);
    let is_optional = plain != ty;
    let is_union = matches!(plain, Type::Union(_));
    let is_special = db.names().text(function).starts_with("__") && db.names().text(function) != "__init__";
    let has = |source: Source| evidence.iter().any(|one| one.source == source);
    let is_builtin = |name: &str| plain == builtin_instance(db, db.names().intern(name), &[]);
    if matches!(kind, ParamKind::VarArgs | ParamKind::KwArgs) || asks_for_more || against >= 40 {
        return Sureness::Low;
    }
    // Somebody has said it.
    if best >= 85 {
        return match best {
            95 => Sureness::Sure,
            90 if agreeing >= 40 && !is_union => Sureness::Sure,
            _ if best == 85 && is_special => Sureness::Low,
            _ => Sureness::Fair,
        };
    }
    if is_union || has(Source::Guards) || is_special && best < 52 {
        return Sureness::Low;
    }
    if is_builtin("bool") && best >= 52 {
        return if is_optional { Sureness::Fair } else { Sureness::Sure };
    }
    let is_own = matches!(plain, Type::Instance(id)
        if store.instance(id).class.file.origin(db) != leitmotiv_project::resolve::Origin::Bundled);
    match best {
        _ if best >= 52 && is_optional => if agreeing >= 20 { Sureness::Fair } else { Sureness::Low },
        _ if best >= 52 => Sureness::Fair,
        _ if is_own && agreeing < 40 => Sureness::Low,
        40.. if against == 0 => Sureness::Fair,
        _ => Sureness::Low,
    }
}

/// Whether a type is one class that somebody named, and no protocol or container's abstract form.
fn is_nominal(db: &Database, ty: Type) -> bool {
    let store = db.store();
    union::parts(store, &ty).iter().all(|part| match part {
        Type::Instance(id) => {
            let class = store.instance(*id).class;
            let module = db.names().text(class.file.module(db));
            classes::info(db, class).kind != ClassKind::Protocol && !matches!(module, "collections.abc" | "typing")
        }
        Type::None => true,
        _ => false,
    })
}

/// Of a union of what arrives, the part that a strong use asks for.
fn part_that_fits(db: &Database, infer: &Infer<'_>, ty: Type, claim: &Claim, arrives: bool) -> Option<Type> {
    let is_strong = claim.rank >= 52 && claim.evidence[0].source == Source::Uses && is_nominal(db, claim.ty);
    if !arrives || !is_strong || !matches!(ty, Type::Union(_)) {
        return None;
    }
    let part = union::filter(db.store(), ty, |part| infer.is_assignable(part, claim.ty));
    (part != Type::Never).then_some(part)
}

/// Whether a type is a union of classes in which another one stands, None apart.
fn widens(db: &Database, ty: Type, whole: Type) -> bool {
    let store = db.store();
    let parts = union::parts(store, &whole);
    parts.len() > 1 && is_nominal(db, whole) && union::parts(store, &ty).iter().all(|part| parts.contains(part))
}

/// Whether all of a type is of another one, and not the other way round.
fn is_narrower(db: &Database, infer: &Infer<'_>, one: Type, other: Type) -> bool {
    let _ = db;
    infer.is_assignable(one, other) && !infer.is_assignable(other, one)
}

/// `int` for `SupportsIndex`, and so within unions.
fn plain_index(db: &Database, ty: Type) -> Type {
    let store = db.store();
    let int = builtin_instance(db, known_names::INT, &[]);
    union::map(store, ty, |part| match part {
        Type::Instance(id) if classes::shown(db, store.instance(id).class) == "SupportsIndex" => int,
        part => part,
    })
}

/// Whether something is only passed on, and to nothing that does not take None.
fn takes_none(db: &Database, known: &Known, handled: &[UseKind]) -> bool {
    let store = db.store();
    let mut is_passed = false;
    for one in handled {
        match one {
            UseKind::PassedOn { to, expected, .. } => {
                let ty = match to {
                    Some(to) if expected.is_unknown() => known.concluded.get(to).copied(),
                    _ => Some(*expected),
                };
                if !ty.is_some_and(|ty| union::parts(store, &ty).contains(&Type::None)) {
                    return false;
                }
                is_passed = true;
            }
            UseKind::Tested | UseKind::ComparedWithNone => {}
            _ => return false,
        }
    }
    is_passed
}

fn special_name(method: &str) -> &'static str {
    ["__eq__", "__ne__", "__contains__", "__getattr__", "__setattr__", "__delattr__", "__exit__", "__aexit__"]
        .into_iter()
        .find(|name| *name == method)
        .unwrap_or("__format__")
}

/// Whether a type leaves something open.
pub(super) fn open(db: &Database, ty: Type) -> bool {
    holds(db.store(), ty, &|part| part.is_dynamic())
}

fn same_class(db: &Database, one: Type, other: Type) -> bool {
    let store = db.store();
    match (one, other) {
        (Type::Instance(a), Type::Instance(b)) => {
            let (a, b) = (store.instance(a).class, store.instance(b).class);
            a == b || classes::derives(db, b, a) == Some(true)
        }
        (Type::Tuple(_), Type::Tuple(_)) | (Type::Callable(_), Type::Callable(_)) => true,
        _ => false,
    }
}

/// Whether two claims may both be right.
fn agree(db: &Database, infer: &Infer<'_>, one: Type, other: Type) -> bool {
    let store = db.store();
    let (one, other) = (union::without(store, one, Type::None), union::without(store, other, Type::None));
    one == other || same_class(db, one, other) || infer.is_assignable(one, other) || infer.is_assignable(other, one)
}
