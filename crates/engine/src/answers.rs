//! What is asked of files, answered as sums: the same in another run where the answer is.

use std::fmt::Debug;
use std::panic::{AssertUnwindSafe, catch_unwind};

use leitmotiv_index::anchor::{Anchor, ScopeKey};
use leitmotiv_index::tree::ScopeId;
use rustc_hash::FxHashSet;

use crate::base::asked::Ask;
use crate::base::database::Database;
use crate::base::db::Db;
use crate::base::file::File;
use crate::base::said::sum;
use crate::base::stored::Answer;
use crate::definitions::classes::members;
use crate::outline::{self, module_index, names, places};
use crate::types::{ClassRef, Literal, TupleId, Type};
use crate::{call, checks, definitions, infer, narrow, policy, resolve, unfit, view};

/// What is told in place of an answer where what is asked of is not there.
const ABSENT: u64 = 0;

/// What is told in place of an answer where the query failed: it counts as another one each time.
pub(crate) const FAILED: u64 = 1;

/// The answer to what is asked of a file, where the database is spoken on this thread ([`crate::base::said::speak`]); `None` for
/// [`Ask::Text`] and [`Ask::Whole`], which no query answers. What stood in some files when it was asked may not be there any more.
#[must_use]
pub(crate) fn answer(db: &Database, file: File, ask: Ask, edited: &FxHashSet<File>) -> Option<u64> {
    if matches!(ask, Ask::Text | Ask::Whole) {
        return None;
    }
    if !is_there(db, file, ask, edited) {
        return Some(ABSENT);
    }
    Some(caught(|| answered(db, file, ask)).unwrap_or(FAILED))
}

/// Nothing is given up because something changed while this runs: what another thread gave up failed there.
fn caught<T>(work: impl FnOnce() -> T) -> Option<T> {
    catch_unwind(AssertUnwindSafe(work)).ok()
}

/// Whether a file has what is asked of.
fn is_there(db: &dyn Db, file: File, ask: Ask, edited: &FxHashSet<File>) -> bool {
    let index = module_index(db, file);
    let has_function = |function| index.functions.get(function).is_some();
    let has_class = |class| index.classes.get(class).is_some();
    let has_scope = |scope| match scope {
        ScopeKey::Module => true,
        ScopeKey::Class(class) => has_class(class),
        ScopeKey::Function(function) => has_function(function),
        ScopeKey::Other(function, _) => function.is_none_or(has_function),
    };
    let has_place = |at| match at {
        Anchor::Module => true,
        Anchor::Expr(function, _) | Anchor::Def(function, _) => function.is_none_or(has_function),
        Anchor::Name(scope, ..) => has_scope(scope),
        Anchor::Attribute(class, ..) | Anchor::Class(class) => has_class(class),
        Anchor::Function(function) | Anchor::Param(function, _) => has_function(function),
    };
    match ask {
        Ask::BoundAt(at)
        | Ask::DecoratorAt(at, _)
        | Ask::Deprecation(at)
        | Ask::Defaults(at)
        | Ask::Specifiers(at)
        | Ask::Qualifiers(at)
        | Ask::DeclaredLimits(at)
        | Ask::ParametersBeside(at) => has_place(at),
        Ask::FunctionOutline(function)
        | Ask::ManyOverloads(function)
        | Ask::Declared(function)
        | Ask::Value(function)
        | Ask::OpenReturnType(function)
        | Ask::NeverReturns(function)
        | Ask::GivesItsFirst(function)
        | Ask::MadeBy(function)
        | Ask::AskedForNone(function)
        | Ask::GivenSomething(function)
        | Ask::SizeOf(function)
        | Ask::OwnCalls(function) => has_function(function),
        Ask::GivenBackFor(function, given) => has_function(function) && is_whole(db, Type::Tuple(given), edited),
        Ask::ClassOutline(class)
        | Ask::ClassInfo(class)
        | Ask::NamedMember(class, _)
        | Ask::PutByMethods(class, _)
        | Ask::ValueInBody(class, _)
        | Ask::WrittenMatchArgs(class)
        | Ask::AttributeGivenLater(class, _)
        | Ask::EnumMembers(class)
        | Ask::ValueOf(class, _)
        | Ask::IsRemade(class)
        | Ask::DeclaredFields(class, _)
        | Ask::IsGivenByParameters(class, _)
        | Ask::IsGivenByDeclared(class, _)
        | Ask::Describes(class) => has_class(class),
        Ask::InferredUses(class, var) => has_class(class) && is_whole(db, Type::Var(var), edited),
        Ask::PassedTo(to, function) | Ask::CallsOf(to, function) => {
            !edited.contains(&to) || module_index(db, to).functions.get(function).is_some()
        }
        _ => true,
    }
}

/// Whether all that a type speaks of is there.
fn is_whole(db: &dyn Db, ty: Type, edited: &FxHashSet<File>) -> bool {
    let store = db.store();
    let all = |types: &[Type]| types.iter().all(|ty| is_whole(db, *ty, edited));
    let has_class = |class: ClassRef| {
        !edited.contains(&class.file) || module_index(db, class.file).classes.get(class.class).is_some()
    };
    match ty {
        Type::Instance(id) | Type::Class(id) => {
            let instance = store.instance(id);
            has_class(instance.class) && all(&instance.args)
        }
        Type::Tuple(id) => {
            let tuple = store.tuple(id);
            all(&tuple.prefix) && all(tuple.rest.as_slice()) && all(&tuple.suffix)
        }
        Type::Literal(id) => !matches!(store.literal(id), Literal::Enum(class, _) if !has_class(*class)),
        Type::SubclassOf(id) | Type::Form(id) => is_whole(db, *store.single(id), edited),
        Type::Function(id) | Type::Property(id) => {
            let function = store.function(id);
            let is_there = !edited.contains(&function.file)
                || module_index(db, function.file).functions.get(function.function).is_some();
            is_there && function.owner.is_none_or(|owner| is_whole(db, Type::Instance(owner), edited))
        }
        Type::Method(id) | Type::Super(id) => {
            let method = store.method(id);
            is_whole(db, method.function, edited) && is_whole(db, method.receiver, edited)
        }
        Type::Callable(id) => {
            let signature = store.signature(id);
            is_whole(db, signature.returns, edited)
                && signature.params.iter().all(|param| is_whole(db, param.ty, edited))
        }
        Type::Union(id) => all(store.union_parts(id)),
        // Where it stands, and what it is limited to, may be anything by now.
        Type::Var(id) => !edited.contains(&store.variable(id).file),
        Type::Never
        | Type::Any
        | Type::Unknown(_)
        | Type::None
        | Type::Module(_)
        | Type::Namespace(_)
        | Type::Special(_) => true,
    }
}

fn answered(db: &Database, file: File, ask: Ask) -> u64 {
    let of = |value: &dyn Debug| sum(value);
    match ask {
        Ask::ModuleName(name) => of(&names::module_name(db, file, name)),
        Ask::ModuleNames => in_any_order(names::module_names(db, file)),
        Ask::Exported => names::exported(db, file).map_or(0, in_any_order),
        Ask::TestedAttributes => in_any_order(names::tested_attributes(db, file)),
        Ask::NamesForOthers => in_any_order(names::names_for_others(db, file)),
        Ask::HasStars => of(&names::has_stars(db, file)),
        Ask::SetsComputedNames => of(&names::sets_computed_names(db, file)),
        Ask::ImportsBelow(full) => of(&names::imports_below(db, file, full)),
        Ask::ImportsSubmodule(name) => of(&resolve::imports_submodule(db, file, name)),
        Ask::ImportedFiles => of(&resolve::imported_files(db, file)),
        Ask::ScopeType(name) => of(&resolve::scope_type(db, file, ScopeId(0), name)),
        Ask::Starred(name) => of(&resolve::starred(db, file, name)),
        Ask::Constant(name) => of(&resolve::constant(db, file, name)),
        Ask::PatchedObjects(name) => of(&policy::patched::patched_objects(db, file, name)),
        Ask::Comes(name) => of(&policy::provenance::comes(db, file, name)),
        Ask::IsDeclaredName(name) => of(&policy::provenance::is_declared_name(db, file, name)),
        Ask::DeclarationIn(name) => of(&policy::provenance::declaration_in(db, file, name)),
        Ask::IsSaidName(name, depth) => of(&policy::provenance::is_said_name(db, file, name, depth)),
        Ask::BoundAt(at) => of(&places::bound_at(db, file, at)),
        Ask::DecoratorAt(at, place) => of(&places::decorator_at(db, file, at, place)),
        Ask::Deprecation(at) => of(&checks::deprecated::deprecation(db, file, at)),
        Ask::Defaults(at) => of(&definitions::classes::transform::defaults(db, file, at)),
        Ask::Specifiers(at) => of(&definitions::classes::transform::specifiers(db, file, at)),
        Ask::Qualifiers(at) => of(&definitions::classes::members::qualifiers(db, file, at)),
        Ask::DeclaredLimits(at) => of(&definitions::type_variables::declared_limits(db, file, at)),
        Ask::ParametersBeside(at) => of(&infer::aliases::parameters_beside(db, file, at)),
        Ask::FunctionOutline(function) => of(outline::function(db, file, function)),
        Ask::ManyOverloads(first) => of(&outline::functions::many_overloads(db, file, first)),
        Ask::Declared(function) => of(definitions::functions::declared(db, file, function)),
        Ask::Value(function) => of(&definitions::functions::value(db, file, function)),
        Ask::OpenReturnType(function) => of(&definitions::functions::open_return_type(db, file, function)),
        Ask::NeverReturns(function) => of(&definitions::functions::never_returns(db, file, function)),
        Ask::GivesItsFirst(function) => of(&definitions::classes::kept::gives_its_first(db, file, function)),
        Ask::MadeBy(new) => of(&call::construct::made_by(db, file, new)),
        Ask::AskedForNone(function) => of(&call::given_none::asked_for_none(db, file, function)),
        Ask::GivenSomething(function) => of(&call::given_none::given_something(db, file, function)),
        Ask::SizeOf(function) => of(&call::result::size_of(db, file, function)),
        Ask::OwnCalls(function) => of(&call::result::own_calls(db, file, function)),
        Ask::GivenBackFor(function, given) => {
            of(&call::result::given_back_for(db, file, function, given_in(db, given)))
        }
        Ask::PassedTo(to, function) => of(&unfit::passed_by(db, file, to, function)),
        Ask::ClassOutline(class) => of(outline::class(db, ClassRef { file, class })),
        Ask::ClassInfo(class) => of(definitions::classes::class_info(db, file, class)),
        Ask::NamedMember(class, name) => of(&definitions::classes::members::named_member(db, file, class, name)),
        Ask::PutByMethods(class, name) => of(&definitions::classes::members::put_by_methods(db, file, class, name)),
        Ask::ValueInBody(class, name) => of(&definitions::classes::members::value_in_body(db, file, class, name)),
        Ask::WrittenMatchArgs(class) => of(&narrow::patterns::written_match_args(db, file, class)),
        Ask::AttributeGivenLater(class, name) => of(&policy::given_later::attribute_given_later(db, file, class, name)),
        Ask::InferredUses(class, var) => of(&definitions::variance::inferred_uses(db, file, class, var)),
        Ask::EnumMembers(class) => {
            let members = definitions::classes::enums::of_class(db, file, class);
            let aliases: Vec<_> = members.aliases.iter().collect();
            of(&(&members.names, in_any_order(&aliases)))
        }
        Ask::ValueOf(class, member) => of(&definitions::classes::enums::value_of(db, file, class, member)),
        Ask::IsRemade(class) => of(&definitions::classes::is_remade(db, file, class)),
        Ask::DeclaredFields(class, all_kw_only) => {
            of(&definitions::classes::dataclass::declared_fields(db, file, class, all_kw_only))
        }
        Ask::IsGivenByParameters(class, name) => {
            of(&definitions::classes::open_members::is_given_by_parameters(db, file, class, name))
        }
        Ask::IsGivenByDeclared(class, name) => {
            of(&definitions::classes::open_members::is_given_by_declared(db, file, class, name))
        }
        Ask::Describes(class) => of(&definitions::classes::described::describes(db, file, class)),
        Ask::CallsOf(to, function) => of(&view::calls::count_in(db, file, to, function)),
        Ask::Text | Ask::Whole => 0,
    }
}

/// The sum of some things in whatever order: lists of names are sorted by numbers, which are others in another run.
fn in_any_order(all: &[impl Debug]) -> u64 {
    let mut sums: Vec<u64> = all.iter().map(|one| sum(one)).collect();
    sums.sort_unstable();
    sum(&sums)
}

/// Places and types, as [`Ask::GivenBackFor`] has them.
fn given_in(db: &dyn Db, given: TupleId) -> Vec<(u32, Type)> {
    let store = db.store();
    let place = |ty| match ty {
        Type::Literal(id) => match store.literal(id) {
            Literal::Int(place) => u32::try_from(*place).ok(),
            _ => None,
        },
        _ => None,
    };
    let pairs = store.tuple(given).prefix.chunks_exact(2);
    pairs.filter_map(|pair| Some((place(pair[0])?, pair[1]))).collect()
}

/// The answer itself, where it takes long to find.
#[must_use]
pub(crate) fn long(db: &Database, file: File, ask: Ask, edited: &FxHashSet<File>) -> Option<Answer> {
    if !is_there(db, file, ask, edited) {
        return None;
    }
    caught(|| match ask {
        Ask::ScopeType(name) => Some(Answer::Type(resolve::scope_type(db, file, ScopeId(0), name))),
        Ask::Starred(name) => Some(Answer::Maybe(resolve::starred(db, file, name))),
        Ask::OpenReturnType(function) => {
            Some(Answer::Type(definitions::functions::open_return_type(db, file, function)))
        }
        Ask::Value(function) => Some(Answer::Type(definitions::functions::value(db, file, function))),
        Ask::NeverReturns(function) => Some(Answer::Is(definitions::functions::never_returns(db, file, function))),
        Ask::PutByMethods(class, name) => Some(Answer::Type(members::put_by_methods(db, file, class, name))),
        Ask::ValueInBody(class, name) => Some(Answer::Maybe(members::value_in_body(db, file, class, name))),
        Ask::NamedMember(class, name) => {
            let member = members::named_member(db, file, class, name);
            Some(Answer::Member(member.map(|member| (member.ty, member.declared, member.in_class, member.at))))
        }
        Ask::GivenSomething(function) => Some(Answer::Type(call::given_none::given_something(db, file, function))),
        Ask::GivenBackFor(function, given) => {
            Some(Answer::Type(call::result::given_back_for(db, file, function, given_in(db, given))))
        }
        _ => None,
    })
    .flatten()
}
