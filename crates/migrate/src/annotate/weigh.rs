//! From evidence to a conclusion.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes::{self, ClassKind};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{Type, holds, union};
use leitmotiv_engine::view::handled::{Parameter, Subject, UseKind};
use leitmotiv_index::tree::{BodyId, Expr, ParamKind};

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
pub(super) fn parameter(db: &Database, known: &Known, members: &Members, parameter: Parameter) -> Option<Conclusion> {
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
        claims.push(Claim { ty: evidence.ty, rank, evidence: vec![evidence] });
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
            (Source::Guards, _) => 70,
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
    claims.retain(|claim| !claim.ty.is_dynamic() && claim.ty != Type::Never && claim.ty != Type::None);
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
            // What is done with it goes for more than what arrives.
            } else if arrives && is_use && is_nominal(db, claim.ty) && is_narrower(db, &infer, ty, claim.ty) {
                ty = claim.ty;
            } else if is_use && is_echo && is_narrower(db, &infer, ty, claim.ty) && widens(db, ty, claim.ty) {
                ty = claim.ty;
            }
            evidence.extend(claim.evidence.into_iter().filter(|one| !evidence.contains(one)).collect::<Vec<_>>());
        } else {
            against = against.max(claim.rank);
            conflicts.extend(claim.evidence);
        }
    }
    // Other classes are asked for than those that are known to come.
    let mut asks_for_more = false;
    if best.rank < 85 {
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
    let is_wide = union::parts(store, &ty).len() > MOST_PARTS;
    if is_wide {
        return None;
    }
    if is_optional {
        ty = union::join(store, [ty, Type::None]);
        evidence.extend(none);
        evidence.extend(default.filter(|default| default.ty == Type::None));
    }
    let is_union = union::parts(store, &union::without(store, ty, Type::None)).len() > 1;
    let mut sureness = match best.rank {
        85.. => Sureness::Sure,
        50..85 if agreeing >= 40 && against < 40 => Sureness::Sure,
        50.. if against < 50 => Sureness::Fair,
        40.. if agreeing >= 20 && against < 40 => Sureness::Fair,
        _ => Sureness::Low,
    };
    if open(db, ty) || is_union || is_asked && !is_optional {
        sureness = sureness.min(Sureness::Fair);
    }
    if matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) || asks_for_more && best.rank < 70 {
        sureness = sureness.min(Sureness::Low);
    }
    let weight = Weight { best: best.rank, agreeing, against, asks_for_more };
    Some(Conclusion { ty, sureness, evidence, conflicts, weight })
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
