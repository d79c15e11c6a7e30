//! From what is claimed of a parameter to a conclusion.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes::{self, ClassKind};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::builtin_instance;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{Type, holds, union};
use leitmotiv_engine::view::handled::{Parameter, Subject, UseKind};
use leitmotiv_index::tree::{BodyId, ParamKind};
use leitmotiv_project::resolve::Origin;

use super::claims::{self, Claim, Claims, rank};
use super::duck::Members;
use super::evidence::{Conclusion, Evidence, Source, Strength, Sureness, Weight, Why};
use super::generalise::together;
use super::known::Known;
use super::sources::defaults;

/// Of more kinds of things than this in a container nobody means just those that were seen.
const MOST_KINDS: usize = 2;

/// More parts than this nobody writes in a union.
pub(super) const MOST_PARTS: usize = 4;

/// What is concluded for a parameter from the kinds of evidence that are asked for; `None` where nothing says anything.
pub(super) fn parameter(
    db: &Database,
    known: &Known,
    members: &Members,
    parameter: Parameter,
    sources: &[Source],
) -> Option<Conclusion> {
    let store = db.store();
    let infer = Infer::new(db, parameter.file, BodyId(0));
    let Claims { all, default, is_optional, none } = claims::of(db, &infer, known, members, parameter, sources);
    let mut scales = Scales::begin(db, &infer, all)?;
    if scales.best < rank::DECLARED_BASE && sources.contains(&Source::Guards) {
        scales.asks_for_more(known, parameter);
    }
    // Whatever it is, its default is one.
    if let Some(default) = default.as_ref().filter(|default| default.ty != Type::None)
        && !infer.is_assignable(default.ty, scales.ty)
    {
        scales.ty = together(db, &infer, [scales.ty, default.ty]);
        scales.evidence.push(default.clone());
    }
    // An empty tuple does not say of what it is, but that others may be as long as they like.
    if let Some(empty) = defaults::empty_tuple(db, parameter)
        && union::parts(store, &scales.ty).iter().any(|part| matches!(part, Type::Tuple(_)))
        && !infer.is_assignable(empty, scales.ty)
    {
        scales.ty = together(db, &infer, [scales.ty, empty]);
    }
    if union::parts(store, &scales.ty).len() > MOST_PARTS {
        return None;
    }
    if is_optional {
        scales.ty = union::join(store, [scales.ty, Type::None]);
        scales.evidence.extend(none);
        scales.evidence.extend(default.filter(|default| default.ty == Type::None));
    }
    let sureness = scales.sureness(parameter);
    let Scales { ty, evidence, conflicts, best, agreeing, against, asks_for_more, .. } = scales;
    let weight = Weight { best, agreeing, against, asks_for_more };
    Some(Conclusion { ty, sureness, evidence, conflicts, weight })
}

/// The likeliest claim, and what the others add to it.
struct Scales<'a, 'db> {
    db: &'db Database,
    infer: &'a Infer<'db>,
    ty: Type,
    evidence: Vec<Evidence>,
    conflicts: Vec<Evidence>,
    /// How likely the claim is by itself.
    best: u32,
    /// The likeliest that agrees.
    agreeing: u32,
    /// The likeliest that does not.
    against: u32,
    /// Whether the claim is of what arrives.
    arrives: bool,
    /// Whether the code asks for other classes than are known to come.
    asks_for_more: bool,
}

impl<'a, 'db> Scales<'a, 'db> {
    /// The likeliest claim, the first of several, weighed against the others.
    fn begin(db: &'db Database, infer: &'a Infer<'db>, mut all: Vec<Claim>) -> Option<Scales<'a, 'db>> {
        let likeliest = all.iter().enumerate().max_by_key(|(place, claim)| (claim.rank, std::cmp::Reverse(*place)));
        let first = all.remove(likeliest?.0);
        let mut scales = Scales {
            db,
            infer,
            ty: first.ty,
            best: first.rank,
            arrives: matches!(first.source(), Source::Calls | Source::Traces | Source::Defaults),
            evidence: first.evidence,
            conflicts: Vec::new(),
            agreeing: 0,
            against: 0,
            asks_for_more: false,
        };
        for claim in all {
            scales.put(claim);
        }
        Some(scales)
    }

    fn put(&mut self, mut claim: Claim) {
        // What happened is no more than what is said: what of it does not fit stands against it.
        if claim.source() == Source::Traces && self.best >= rank::DECLARED_BASE {
            let (infer, ty) = (self.infer, self.ty);
            let (with, without): (Vec<Evidence>, Vec<Evidence>) =
                claim.evidence.into_iter().partition(|one| infer.is_assignable(one.ty, ty) || open(self.db, one.ty));
            self.conflicts.extend(without);
            if with.is_empty() {
                return;
            }
            claim.ty = together(self.db, infer, with.iter().map(|one| one.ty));
            claim.evidence = with;
        }
        if self.agrees(claim.ty) {
            // What it is passed on as was concluded from what is passed, as like as not.
            let rank = if claim.is_echo() { claim.rank.min(rank::ECHO) } else { claim.rank };
            let is_new = claim.evidence.iter().any(|one| !self.evidence.contains(one));
            if is_new {
                self.agreeing = self.agreeing.max(rank);
            }
            if self.is_said_better(&claim) {
                self.ty = claim.ty;
            }
            for one in claim.evidence {
                if !self.evidence.contains(&one) {
                    self.evidence.push(one);
                }
            }
        } else if let Some(part) = self.part_that_fits(&claim) {
            // What is done with it would fail with the rest of what arrives: those ways are not meant, or not taken.
            self.ty = part;
            self.agreeing = self.agreeing.max(claim.rank);
            let infer = self.infer;
            let fits = |one: &Evidence| infer.is_assignable(one.ty, part);
            let (with, without): (Vec<Evidence>, Vec<Evidence>) = self.evidence.drain(..).partition(fits);
            self.evidence = with;
            self.conflicts.extend(without);
            self.evidence.extend(claim.evidence);
        } else {
            self.against = self.against.max(claim.rank);
            self.conflicts.extend(claim.evidence);
        }
    }

    /// Whether another claim may be right as well.
    fn agrees(&self, other: Type) -> bool {
        let store = self.db.store();
        let (one, other) = (union::without(store, self.ty, Type::None), union::without(store, other, Type::None));
        one == other
            || same_class(self.db, one, other)
            || self.infer.is_assignable(one, other)
            || self.infer.is_assignable(other, one)
    }

    /// Whether a claim that agrees says better what people would write.
    fn is_said_better(&self, claim: &Claim) -> bool {
        let (db, ty) = (self.db, self.ty);
        // It knows what the other leaves open.
        let happened = claim.source() == Source::Traces && mixed(db, claim.ty);
        if open(db, ty) && !open(db, claim.ty) && same_class(db, ty, claim.ty) && !happened {
            return true;
        }
        let is_narrower = self.infer.is_assignable(ty, claim.ty) && !self.infer.is_assignable(claim.ty, ty);
        if !is_narrower {
            return false;
        }
        match claim.source() {
            // What overrides a method takes all that the method takes.
            Source::Bases => self.arrives,
            // What is done with it goes for more than what arrives.
            Source::Uses | Source::Attributes | Source::Guards => {
                self.arrives && is_nominal(db, claim.ty) || claim.is_echo() && widens(db, ty, claim.ty)
            }
            _ => false,
        }
    }

    /// Of a union of what arrives, the part that a strong use asks for.
    fn part_that_fits(&self, claim: &Claim) -> Option<Type> {
        let is_strong = claim.rank >= rank::STRONG_USE && claim.source() == Source::Uses;
        if !self.arrives || !is_strong || !is_nominal(self.db, claim.ty) || !matches!(self.ty, Type::Union(_)) {
            return None;
        }
        let part = union::filter(self.db.store(), self.ty, |part| self.infer.is_assignable(part, claim.ty));
        (part != Type::Never).then_some(part)
    }

    /// Adds the classes that the function asks for without needing them.
    fn asks_for_more(&mut self, known: &Known, parameter: Parameter) {
        for (file, one) in known.uses.get(&Subject::Parameter(parameter)).into_iter().flatten() {
            let UseKind::Classed { instance, is_required: false } = one.kind else { continue };
            if one.on_element || one.is_narrowed || instance.is_dynamic() {
                continue;
            }
            self.asks_for_more = true;
            self.ty = together(self.db, self.infer, [self.ty, instance]);
            let why = Why::Said(format!("is asked whether it is {}", show(self.db, instance)));
            let (source, strength, range) = (Source::Guards, Strength::Weak, one.range);
            let evidence = Evidence { source, ty: instance, strength, file: *file, range, why, passed_on: false };
            self.evidence.push(evidence);
        }
        // One class that is asked for, and nothing else is known to come.
        self.asks_for_more &= !matches!(union::without(self.db.store(), self.ty, Type::None), Type::Union(_));
    }

    /// How sure the conclusion is, as it was measured: of annotations taken off packages whose authors wrote them, so many were concluded
    /// right again (docs/measurements.md, "Annotations recovered").
    fn sureness(&self, parameter: Parameter) -> Sureness {
        let (db, best) = (self.db, self.best);
        let store = db.store();
        let record = &module_index(db, parameter.file).functions[parameter.function];
        let kind = record.params[parameter.place as usize].kind;
        let plain = union::without(store, self.ty, Type::None);
        let is_optional = plain != self.ty;
        let is_union = matches!(plain, Type::Union(_));
        let name = db.names().text(record.name);
        let is_special = name.starts_with("__") && name != "__init__";
        let is_list = matches!(kind, ParamKind::VarArgs | ParamKind::KwArgs);
        if is_list || self.asks_for_more || self.against >= rank::TESTS {
            return Sureness::Low;
        }
        // Somebody has said it.
        if best >= rank::DECLARED_BASE {
            return match best {
                rank::LANGUAGE => Sureness::Sure,
                rank::DECLARED_BASE if is_special => Sureness::Low,
                _ => Sureness::Fair,
            };
        }
        let has_guard = self.evidence.iter().any(|one| one.source == Source::Guards);
        if is_union || has_guard || is_special && best < rank::STRONG_USE {
            return Sureness::Low;
        }
        if best >= rank::STRONG_USE {
            let is_flag = plain == builtin_instance(db, leitmotiv_syntax::names::known::BOOL_CLASS, &[]);
            let is_alone = is_optional && !is_flag && self.agreeing < rank::WEAK_USE;
            return if is_alone { Sureness::Low } else { Sureness::Fair };
        }
        // What tests alone passed, and nothing else speaks for.
        if best == rank::TEST_TRACES && self.agreeing == 0 {
            return Sureness::Low;
        }
        let is_own = matches!(plain, Type::Instance(id)
            if store.instance(id).class.file.origin(db) != Origin::Bundled);
        if is_own && self.agreeing < rank::TESTS || best < rank::TESTS || self.against > 0 {
            return Sureness::Low;
        }
        Sureness::Fair
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

/// Whether a type is a union of classes in which another one stands, None apart.
fn widens(db: &Database, ty: Type, whole: Type) -> bool {
    let store = db.store();
    let parts = union::parts(store, &whole);
    parts.len() > 1 && is_nominal(db, whole) && union::parts(store, &ty).iter().all(|part| parts.contains(part))
}

/// Whether a type leaves something open.
pub(super) fn open(db: &Database, ty: Type) -> bool {
    holds(db.store(), ty, &|part| part.is_dynamic())
}

/// Whether a container in a type holds so many kinds of things that nobody means just those.
pub(super) fn mixed(db: &Database, ty: Type) -> bool {
    let store = db.store();
    holds(store, ty, &|part| {
        matches!(part, Type::Union(_))
            && union::parts(store, &part).iter().filter(|part| **part != Type::None).count() > MOST_KINDS
    })
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
