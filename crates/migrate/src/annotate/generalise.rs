//! Types that people would write, from types that were seen.

use leitmotiv_engine::base::assumed;
use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::{classes, functions};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::resolve::{builtin, instance_of, is_builtin, standard_instance};
use leitmotiv_engine::types::{ClassRef, Signature, SignatureParam, Tuple, Type, union};
use leitmotiv_syntax::names::known;
use rustc_hash::FxHashSet;

/// From so many classes on, a base that all of them have says more than their names.
const MANY: usize = 2;

/// One type for all that was seen: classes that derive from others of them go into those, containers of one class into one, integers into
/// floats, and many classes of one base into the base.
pub(super) fn together(db: &Database, infer: &Infer<'_>, seen: impl IntoIterator<Item = Type>) -> Type {
    let store = db.store();
    nearest(db, union::join(store, seen.into_iter().map(|ty| plain(db, infer.widen(ty))).collect::<Vec<Type>>()))
}

/// The parts of a union as few classes: those of one kind together, derived ones in what they derive from, many of one base as the base.
fn nearest(db: &Database, ty: Type) -> Type {
    let store = db.store();
    let mut merged: Vec<Type> = Vec::new();
    for part in union::parts(store, &ty).to_vec() {
        match merged.iter_mut().find_map(|known| Some((merge(db, *known, part)?, known))) {
            Some((both, known)) => *known = both,
            None => merged.push(part),
        }
    }
    // What derives from another one of them is said by that.
    let all: FxHashSet<ClassRef> = merged.iter().filter_map(|part| class_of(db, *part)).collect();
    let kept: Vec<Type> = merged.iter().copied().filter(|part| !is_below_any(db, *part, &all)).collect();
    let classes: Vec<ClassRef> = kept
        .iter()
        .filter_map(|part| match part {
            Type::Instance(id) => Some(store.instance(*id).class),
            _ => None,
        })
        .collect();
    let rest: Vec<Type> = kept.iter().copied().filter(|part| !matches!(part, Type::Instance(_))).collect();
    if classes.len() >= MANY
        && let Some(base) = common_base(db, &classes)
    {
        let params = classes::info(db, base).params.len();
        let base = Type::Instance(instance_of(db, base, &vec![Type::Any; params]));
        return union::join(store, rest.into_iter().chain([base]));
    }
    union::join(store, kept)
}

/// Functions, classes and modules as what an annotation calls them.
fn plain(db: &Database, ty: Type) -> Type {
    let store = db.store();
    union::map(store, ty, |part| match part {
        Type::Function(_) | Type::Method(_) => callable(db, part),
        Type::Instance(id) if !store.instance(id).args.is_empty() => {
            let instance = store.instance(id).clone();
            // Of what holds nothing so far it is open what it may hold.
            let held = |arg: &Type| if *arg == Type::Never { Type::Any } else { nearest(db, plain(db, *arg)) };
            let args: Vec<Type> = instance.args.iter().map(held).collect();
            Type::Instance(instance_of(db, instance.class, &args))
        }
        Type::Tuple(id) => {
            let tuple = store.tuple(id).clone();
            let all = |parts: &[Type]| parts.iter().map(|part| nearest(db, plain(db, *part))).collect();
            let rest = tuple.rest.map(|rest| nearest(db, plain(db, rest)));
            Type::Tuple(store.intern_tuple(Tuple { prefix: all(&tuple.prefix), rest, suffix: all(&tuple.suffix) }))
        }
        Type::Module(_) | Type::Namespace(_) => {
            standard_instance(db, known::TYPES, db.names().intern("ModuleType"), &[])
        }
        part => part,
    })
}

/// A function as what calls of it take and give.
fn callable(db: &Database, ty: Type) -> Type {
    let store = db.store();
    let (function, skipped) = match ty {
        Type::Method(id) => (store.method(id).function, 1),
        ty => (ty, 0),
    };
    let any = || functions::any_callable(store, Type::Any);
    let Type::Function(id) = function else { return any() };
    let function = *store.function(id);
    let declared = functions::declared(db, function.file, function.function);
    let returns = declared.returns.unwrap_or_else(|| functions::return_type(db, function.file, function.function));
    let returns = if returns.is_unknown() { Type::Any } else { returns };
    let known = |(place, param): (usize, &SignatureParam)| {
        let place = u32::try_from(place).unwrap_or(u32::MAX);
        let ty = assumed::parameter(db, function.file, function.function, place);
        SignatureParam { ty: ty.filter(|_| param.ty.is_unknown()).unwrap_or(param.ty), ..param.clone() }
    };
    let params: Vec<SignatureParam> = declared.params.iter().enumerate().skip(skipped).map(known).collect();
    let is_plain = params.iter().all(|param| {
        !param.ty.is_dynamic()
            && !param.optional
            && matches!(
                param.kind,
                leitmotiv_index::tree::ParamKind::Normal | leitmotiv_index::tree::ParamKind::PositionalOnly
            )
    });
    if !is_plain {
        return functions::any_callable(store, returns);
    }
    let params: Vec<SignatureParam> = params.into_iter().map(|param| SignatureParam::placed(param.ty)).collect();
    Type::Callable(store.intern_signature(Signature { params: params.into(), returns }))
}

/// Two parts as one, where they are of one kind.
fn merge(db: &Database, one: Type, other: Type) -> Option<Type> {
    let store = db.store();
    let join = |one: Type, other: Type| {
        if one.is_dynamic() {
            return other;
        }
        if other.is_dynamic() {
            return one;
        }
        if let Some(merged) = merge(db, one, other) {
            return merged;
        }
        let joined = union::join(store, [one, other]);
        // An integer among floats is one as well (typing specification, "Special cases for float and complex").
        let of = |ty: Type, name: &str| matches!(ty, Type::Instance(id) if is_builtin(db, store.instance(id).class, db.names().intern(name)));
        match union::parts(store, &joined) {
            [a, b] if of(*a, "int") && of(*b, "float") => *b,
            [a, b] if of(*a, "float") && of(*b, "int") => *a,
            _ => joined,
        }
    };
    match (one, other) {
        (Type::Instance(a), Type::Instance(b)) => {
            let (a, b) = (store.instance(a), store.instance(b));
            if a.class == b.class && a.args.len() == b.args.len() && !a.args.is_empty() {
                let args: Vec<Type> = a.args.iter().zip(&b.args).map(|(a, b)| join(*a, *b)).collect();
                return Some(Type::Instance(instance_of(db, a.class, &args)));
            }
            None
        }
        (Type::Tuple(a), Type::Tuple(b)) => {
            let (a, b) = (store.tuple(a).clone(), store.tuple(b).clone());
            if a.rest.is_none() && b.rest.is_none() && a.prefix.len() == b.prefix.len() {
                let prefix = a.prefix.iter().zip(&b.prefix).map(|(a, b)| join(*a, *b)).collect();
                return Some(Type::Tuple(store.intern_tuple(Tuple { prefix, rest: None, suffix: [].into() })));
            }
            let parts = |tuple: &Tuple| {
                tuple.prefix.iter().chain(&tuple.rest).chain(&tuple.suffix).copied().collect::<Vec<Type>>()
            };
            let element = parts(&a).into_iter().chain(parts(&b)).reduce(join)?;
            Some(Type::Tuple(store.intern_tuple(Tuple { prefix: [].into(), rest: Some(element), suffix: [].into() })))
        }
        (Type::Callable(a), Type::Callable(b)) => {
            let (a, b) = (store.signature(a).clone(), store.signature(b).clone());
            let returns = join(a.returns, b.returns);
            Some(if a.params == b.params {
                Type::Callable(store.intern_signature(Signature { params: a.params, returns }))
            } else {
                functions::any_callable(store, returns)
            })
        }
        (Type::Class(a), Type::Class(b)) => {
            let both = [store.instance(a).class, store.instance(b).class];
            let base = common_base(db, &both)?;
            let base = instance_of(db, base, &[]);
            Some(Type::SubclassOf(store.intern_type(Type::Instance(base))))
        }
        (Type::SubclassOf(a), Type::Class(b)) => {
            let Type::Instance(known) = *store.single(a) else { return None };
            let both = [store.instance(known).class, store.instance(b).class];
            let base = instance_of(db, common_base(db, &both)?, &[]);
            Some(Type::SubclassOf(store.intern_type(Type::Instance(base))))
        }
        _ => None,
    }
}

fn class_of(db: &Database, ty: Type) -> Option<ClassRef> {
    match ty {
        Type::Instance(id) => Some(db.store().instance(id).class),
        _ => None,
    }
}

/// Whether all values of a type are of another one of some classes as well, whatever the arguments of those.
fn is_below_any(db: &Database, ty: Type, all: &FxHashSet<ClassRef>) -> bool {
    let has = |name: &str| builtin(db, db.names().intern(name)).is_some_and(|class| all.contains(&class));
    if let Type::Tuple(_) = ty {
        return has("tuple");
    }
    let Some(class) = class_of(db, ty) else { return false };
    let mut bases = classes::info(db, class).mro.iter().map(|base| db.store().instance(*base).class);
    is_builtin(db, class, known::INT) && has("float") || bases.any(|base| base != class && all.contains(&base))
}

/// The nearest class of the project, or of a package, that all of some classes derive from.
fn common_base(db: &Database, all: &[ClassRef]) -> Option<ClassRef> {
    let store = db.store();
    let first = classes::info(db, *all.first()?);
    let has_text = all.iter().any(|class| is_builtin(db, *class, known::STR) || is_builtin(db, *class, known::BYTES));
    first.mro.iter().map(|base| store.instance(*base).class).find(|base| {
        // Nobody writes `Sequence` for a text and bytes.
        let is_abstract = || matches!(db.names().text(base.file.module(db)), "typing" | "collections.abc");
        let is_vague =
            matches!(classes::shown(db, *base), "object" | "Generic" | "Protocol" | "ABC") || has_text && is_abstract();
        let is_telling = base.file.origin(db) != leitmotiv_project::resolve::Origin::Bundled || !is_vague;
        is_telling && all.iter().all(|class| classes::derives(db, *class, *base) == Some(true))
    })
}
