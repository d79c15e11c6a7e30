//! What the kinds of evidence claim a parameter to be, each as a whole.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::builtin_instance;
use leitmotiv_engine::types::{Type, union};
use leitmotiv_engine::view::handled::{Parameter, Subject, UseKind};
use leitmotiv_index::tree::Expr;
use leitmotiv_syntax::names::known as known_names;

use super::duck::Members;
use super::evidence::{Evidence, Source, Strength, Why};
use super::generalise::together;
use super::known::Known;
use super::sources::{bases, calls, defaults, docstrings, fixtures, options, special, uses};
use super::weigh::{mixed, open};

/// How likely a claim is right by itself: the higher, the likelier, as it was measured (docs/measurements.md, "Annotations recovered").
pub(super) mod rank {
    /// The language itself calls the method with it.
    pub const LANGUAGE: u32 = 95;
    /// A docstring says so.
    pub const DOCSTRING: u32 = 90;
    /// A base declares it so. From here on somebody has said it.
    pub const DECLARED_BASE: u32 = 85;
    /// All that calls of the package pass is known.
    pub const CALLS: u32 = 60;
    /// A default that says what it is for.
    pub const PLAIN_DEFAULT: u32 = 58;
    /// Recorded calls of the project pass one type.
    pub const TRACES: u32 = 57;
    /// The getter of a property gives it.
    pub const GETTER: u32 = 56;
    /// Something is done with it that hardly anything else allows. From here on a claim stands by itself.
    pub const STRONG_USE: u32 = 52;
    /// Some calls pass what is not known.
    pub const SOME_CALLS: u32 = 50;
    /// What a base's parameter was concluded to be.
    pub const BASE: u32 = 45;
    /// The function asks for it before it goes on.
    pub const GUARD: u32 = 44;
    /// Something is done with it that this allows, and other things would.
    pub const USE: u32 = 43;
    /// A default that may be one of several.
    pub const DEFAULT: u32 = 42;
    /// Recorded calls of tests pass one type.
    pub const TEST_TRACES: u32 = 46;
    /// What methods that override this one were concluded to take.
    pub const OVERRIDING: u32 = 41;
    /// What tests pass. From here on a claim speaks for another one.
    pub const TESTS: u32 = 40;
    /// What calls pass leaves parts open.
    pub const OPEN_CALLS: u32 = 35;
    /// Others of that name in the class.
    pub const NAME_IN_CLASS: u32 = 30;
    /// What tests pass leaves parts open.
    pub const OPEN_TESTS: u32 = 25;
    /// Recorded calls pass several types, or leave parts open.
    pub const OPEN_TRACES: u32 = 28;
    /// A default that may stand for anything like it.
    pub const WEAK_DEFAULT: u32 = 24;
    /// A use that says little. From here on a claim speaks at all for another one.
    pub const WEAK_USE: u32 = 20;
    /// The most that a claim counts which may only echo another one.
    pub const ECHO: u32 = 19;
    /// Others of that name in the project.
    pub const NAME: u32 = 15;
}

/// What one kind of evidence says as a whole.
pub(super) struct Claim {
    pub(super) ty: Type,
    /// How likely it is right by itself.
    pub(super) rank: u32,
    /// At least one.
    pub(super) evidence: Vec<Evidence>,
}

impl Claim {
    fn of(evidence: Evidence, rank: u32) -> Claim {
        Claim { ty: evidence.ty, rank, evidence: vec![evidence] }
    }

    /// What kind of evidence it is.
    pub(super) fn source(&self) -> Source {
        self.evidence[0].source
    }

    /// Whether it may only say again what another one says.
    pub(super) fn is_echo(&self) -> bool {
        self.evidence.iter().all(|one| one.passed_on)
    }
}

/// All that is claimed of a parameter.
pub(super) struct Claims {
    pub(super) all: Vec<Claim>,
    /// Its default.
    pub(super) default: Option<Evidence>,
    /// Whether it may be None.
    pub(super) is_optional: bool,
    /// The evidence for that, the default apart.
    pub(super) none: Vec<Evidence>,
}

/// What is claimed of a parameter by the kinds of evidence that are asked for.
pub(super) fn of(
    db: &Database,
    infer: &Infer<'_>,
    known: &Known,
    members: &Members,
    parameter: Parameter,
    sources: &[Source],
) -> Claims {
    let Parameter { file, function, place } = parameter;
    let index = module_index(db, file);
    let record = &index.functions[function];
    let param = &record.params[place as usize];
    let named = db.names().text(param.name);
    let default = defaults::of(db, parameter);
    let mut all = said(db, parameter);
    all.extend(fixtures::of(db, known, parameter).map(|evidence| Claim::of(evidence, rank::CALLS)));
    let of_base = bases::parameter(db, known, parameter).map(|evidence| {
        let rank = if evidence.strength == Strength::Strong { rank::DECLARED_BASE } else { rank::BASE };
        Claim { ty: plain_index(db, evidence.ty), ..Claim::of(evidence, rank) }
    });
    all.extend(of_base);
    all.extend(bases::accessor(db, parameter).map(|evidence| Claim::of(evidence, rank::GETTER)));
    all.extend(bases::overriding_parameter(db, known, parameter).map(|evidence| Claim::of(evidence, rank::OVERRIDING)));
    let by_name = known.by_name.of(db, known, parameter).map(|evidence| {
        let rank = if evidence.strength == Strength::Medium { rank::NAME_IN_CLASS } else { rank::NAME };
        Claim::of(evidence, rank)
    });
    all.extend(by_name);
    let mut none = arriving(db, infer, known, parameter, default.as_ref(), &mut all);
    none.extend(recorded(db, infer, known, parameter, default.as_ref(), &mut all));
    for evidence in uses::of(db, known, members, Subject::Parameter(parameter), named) {
        let rank = match (evidence.source, evidence.strength) {
            (Source::Guards, _) => rank::GUARD,
            (_, Strength::Strong) => rank::STRONG_USE,
            (_, Strength::Medium) => rank::USE,
            (_, Strength::Weak) => rank::WEAK_USE,
        };
        let ty = union::without(db.store(), evidence.ty, Type::None);
        all.push(Claim { ty, ..Claim::of(evidence, rank) });
    }
    // Evidence that nobody asked for; what a call passes goes with the default.
    all.retain(|claim| sources.contains(&claim.source()));
    all.retain(|claim| !claim.ty.is_dynamic() && claim.ty != Type::Never && claim.ty != Type::None);
    // That something is an object says nothing where more is done with it than with any.
    let object = builtin_instance(db, known_names::OBJECT, &[]);
    let is_object = |ty: Type| infer.is_assignable(object, ty);
    let is_used = |claim: &Claim| claim.rank >= rank::TESTS && claim.source() == Source::Uses && !is_object(claim.ty);
    if all.iter().any(is_used) {
        all.retain(|claim| !is_object(claim.ty));
    }
    let is_default = param.default.is_some_and(|default| matches!(index.exprs[default], Expr::None));
    let is_optional = is_default || !none.is_empty() || may_be_none(known, parameter);
    Claims { all, default, is_optional, none }
}

/// What somebody has said: the language, a docstring.
fn said(db: &Database, parameter: Parameter) -> Vec<Claim> {
    let Parameter { file, function, place } = parameter;
    let record = &module_index(db, file).functions[function];
    let param = &record.params[place as usize];
    let mut all = Vec::new();
    if let Some(docs) = docstrings::of(db, file, function)
        && let Some(evidence) = docs.parameter(db, db.names().text(param.name))
    {
        all.push(Claim::of(evidence, rank::DOCSTRING));
    }
    all.extend(options::parameter(db, parameter).map(|evidence| Claim::of(evidence, rank::DECLARED_BASE)));
    if record.class.is_some()
        && let Some(ty) = special::parameter(db, db.names().text(record.name), place)
    {
        let (source, strength, range) = (Source::Bases, Strength::Strong, param.name_range);
        let why = Why::Special(db.names().text(record.name).to_owned());
        all.push(Claim::of(Evidence { source, ty, strength, file, range, why, passed_on: false }, rank::LANGUAGE));
    }
    all
}

/// Adds what arrives: what calls pass, and the default, which goes together with that as one more value. Gives the calls that pass None.
fn arriving(
    db: &Database,
    infer: &Infer<'_>,
    known: &Known,
    parameter: Parameter,
    default: Option<&Evidence>,
    all: &mut Vec<Claim>,
) -> Vec<Evidence> {
    let calls = calls::of(db, known, parameter);
    let (none, own): (Vec<Evidence>, Vec<Evidence>) = calls.own.into_iter().partition(|one| one.ty == Type::None);
    let tests: Vec<Evidence> = calls.tests.into_iter().filter(|one| one.ty != Type::None).collect();
    let default = default.filter(|default| default.ty != Type::None);
    for (mut evidence, is_test) in [(own, false), (tests, true)] {
        if evidence.is_empty() {
            continue;
        }
        evidence.extend(default.cloned());
        let ty = together(db, infer, evidence.iter().map(|evidence| evidence.ty));
        let rank = match (is_test, open(db, ty)) {
            (false, false) if calls.unknown == 0 => rank::CALLS,
            (false, false) => rank::SOME_CALLS,
            (false, true) => rank::OPEN_CALLS,
            (true, false) => rank::TESTS,
            (true, true) => rank::OPEN_TESTS,
        };
        all.push(Claim { ty, rank, evidence });
    }
    if let Some(evidence) = default {
        let rank = match evidence.strength {
            Strength::Strong => rank::PLAIN_DEFAULT,
            Strength::Medium => rank::DEFAULT,
            Strength::Weak => rank::WEAK_DEFAULT,
        };
        all.push(Claim { ty: together(db, infer, [evidence.ty]), ..Claim::of(evidence.clone(), rank) });
    }
    none
}

/// Adds what recorded calls passed, which the default goes together with as well. Gives those that passed None.
fn recorded(
    db: &Database,
    infer: &Infer<'_>,
    known: &Known,
    parameter: Parameter,
    default: Option<&Evidence>,
    all: &mut Vec<Claim>,
) -> Option<Evidence> {
    let recorded = known.traces.parameter(parameter)?;
    let (none, mut passed): (Vec<Evidence>, Vec<Evidence>) =
        recorded.all.iter().cloned().partition(|one| one.ty == Type::None);
    if !passed.is_empty() {
        passed.extend(default.filter(|default| default.ty != Type::None).cloned());
        let ty = together(db, infer, passed.iter().map(|evidence| evidence.ty));
        let is_one = !matches!(ty, Type::Union(_)) && !open(db, ty) && !mixed(db, ty) && !recorded.is_open;
        let rank = match (is_one, recorded.is_own) {
            (false, _) => rank::OPEN_TRACES,
            (true, true) => rank::TRACES,
            (true, false) => rank::TEST_TRACES,
        };
        all.push(Claim { ty, rank, evidence: passed });
    }
    // What only tests leave out is mostly meant to be given.
    none.into_iter().next().filter(|_| recorded.is_own)
}

/// Whether the function reckons with None: it compares with it. That it passes the parameter on to where None is taken says little: what may be
/// left out there is mostly meant to be given here.
fn may_be_none(known: &Known, parameter: Parameter) -> bool {
    let uses = known.uses.get(&Subject::Parameter(parameter)).into_iter().flatten();
    uses.filter(|(_, one)| !one.on_element).any(|(_, one)| one.kind == UseKind::ComparedWithNone)
}

/// `int` for `SupportsIndex`, as those write it who override what a stub of the library has, and so within unions.
fn plain_index(db: &Database, ty: Type) -> Type {
    let store = db.store();
    let int = builtin_instance(db, known_names::INT, &[]);
    union::map(store, ty, |part| match part {
        Type::Instance(id) if classes::shown(db, store.instance(id).class) == "SupportsIndex" => int,
        part => part,
    })
}
