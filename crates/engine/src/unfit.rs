//! What no call fits: what a function does on every way with a parameter that nobody annotated, and what nothing can do that calls pass to it.
//!
//! Parameters without annotations are unknown where they are checked, and so nothing is told of them. But where all calls that are seen pass what
//! the function cannot work with, either they are wrong or the function is.

use std::sync::Arc;

use leitmotiv_index::tree::{BodyId, DefKind, Expr, ExprId, FunctionId, ModuleIndex, ParamKind, StatementKind, Value};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{TextRange, TextSize};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::bodies::{self, Arguments, Call};
use crate::definitions::classes::{self, members};
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::{class_name, module_index, reading, reading_to_tell};
use crate::problems::Problem;
use crate::resolve;
use crate::types::union::parts;
use crate::types::{Binding, ClassRef, Type};

/// Calls that give other things are told apart up to so many: a function is worked out for each. Said in docs/architecture.md.
const MOST_CALLS: usize = 6;

/// What no call of a function fits.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Unfit {
    /// The function's body.
    pub(crate) body: BodyId,
    /// The parameter, by its 0-based place.
    pub(crate) place: u32,
    /// What goes wrong for each call, as it does for the first.
    pub(crate) problems: Vec<Problem>,
    /// What the first call gives the parameters, by their 0-based places.
    pub(crate) given: Arguments,
    /// The file that the first call stands in.
    pub(crate) caller: File,
    /// How many calls there are.
    pub(crate) calls: usize,
}

/// What no call of a file's functions fits, in the order of the functions.
pub(crate) fn in_file(db: &dyn Db, file: File) -> Arc<Vec<Unfit>> {
    saw(db, file, Ask::Whole);
    in_file_query(db, file)
}

#[salsa::tracked(returns(clone))]
fn in_file_query(db: &dyn Db, file: File) -> Arc<Vec<Unfit>> {
    let _reading = reading_to_tell(db, file);
    let index = module_index(db, file);
    let mut found = Vec::new();
    if file.is_stub(db) || !file.origin(db).is_own() {
        return Arc::new(found);
    }
    for (function, _) in index.functions.iter() {
        found.extend(of_function(db, file, index, function));
    }
    Arc::new(found)
}

/// What is done with a parameter.
#[derive(Debug, Clone, Copy)]
enum Done {
    Read(Name),
    Called,
    Indexed,
    Iterated,
    /// It stands beside an operator.
    Operated,
}

impl Done {
    /// What one of has what it is done with.
    fn needs(self, db: &dyn Db) -> Vec<Name> {
        let special = |names: &[&str]| names.iter().filter_map(|name| db.names().find(name)).collect();
        match self {
            Done::Read(name) => vec![name],
            Done::Called => special(&["__call__"]),
            Done::Indexed => special(&["__getitem__"]),
            Done::Iterated => special(&["__iter__", "__getitem__"]),
            Done::Operated => Vec::new(),
        }
    }
}

fn of_function(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId) -> Option<Unfit> {
    let record = &index.functions[function];
    let is_plain = record.decorators.iter().all(|decorator| {
        let name = index.decorator_name(*decorator).map(|name| db.names().text(name));
        matches!(name, Some("staticmethod" | "classmethod"))
    });
    if !is_plain {
        return None;
    }
    let mut uses = uses(db, index, function);
    if uses.is_empty() {
        return None;
    }
    let prologue = Prologue::of(db, file, index, function);
    uses.retain(|(_, _, range)| prologue.has(*range));
    if uses.is_empty() {
        return None;
    }
    let calls = calls(db, file, index, function)?;
    let mut infer = Infer::new(db, file, record.body);
    let (place, ..) = uses.iter().copied().find(|(place, done, _)| {
        calls.iter().all(|(_, given, _)| given_to(given, *place).is_some_and(|ty| fails(&mut infer, ty, *done)))
    })?;
    if is_overridden(db, file, index, function) {
        return None;
    }
    let done = |other: &&(u32, Done, TextRange)| other.0 == place;
    let types: Vec<Type> = calls.iter().filter_map(|(_, given, _)| given_to(given, place)).collect();
    if uses.iter().filter(done).any(|(_, done, _)| types.iter().any(|ty| may_be_more(db, *ty, *done))) {
        return None;
    }
    let plain = bodies::problems(db, file);
    let plain = plain.bodies.iter().find(|found| found.body == record.body);
    let mut left: Option<Vec<Problem>> = None;
    for (_, given, _) in &calls {
        let mut infer = for_call(db, file, record.body, given);
        infer.check();
        let problems = std::mem::take(&mut infer.problems);
        let is_new = |problem: &Problem| {
            let same = |other: &Problem| other.range == problem.range;
            !plain.is_some_and(|plain| plain.problems.iter().flatten().any(same))
        };
        let is_of_parameter = |problem: &Problem| {
            uses.iter().any(|(own, _, range)| *own == place && problem.range.contains_range(*range))
        };
        let own = problems.into_iter().filter(|problem| {
            prologue.has(problem.range) && is_of_parameter(problem) && is_told(problem) && is_new(problem)
        });
        let own: Vec<Problem> = own.collect();
        left = Some(match left {
            None => own,
            Some(mut left) => {
                let same = |one: &Problem, other: &Problem| {
                    one.range == other.range && std::mem::discriminant(&one.kind) == std::mem::discriminant(&other.kind)
                };
                left.retain(|one| own.iter().any(|other| same(one, other)));
                left
            }
        });
    }
    // What comes of it further on is not told again.
    let mut problems = left?;
    problems.sort_by_key(|problem| problem.range.start());
    problems.truncate(1);
    let number = calls.iter().map(|(_, _, number)| number).sum();
    let (caller, given, _) = calls.first()?.clone();
    (!problems.is_empty()).then_some(Unfit { body: record.body, place, problems, given, caller, calls: number })
}

/// A walk over a function's body where its parameters are what a call gives them.
pub(crate) fn for_call<'db>(db: &'db dyn Db, file: File, body: BodyId, given: &[(u32, Type)]) -> Infer<'db> {
    let index = module_index(db, file);
    let mut infer = Infer::new(db, file, body);
    infer.nears = usize::MAX / 2;
    let params = index.bodies[body].function.map(|function| &index.functions[function].params);
    for (place, ty) in given {
        if let Some(param) = params.and_then(|params| params.get(*place as usize))
            && param.annotation.is_none()
            && matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal | ParamKind::KeywordOnly)
        {
            infer.give(param.def, *ty);
        }
    }
    infer
}

/// Only what hardly depends on how exactly a type is known.
fn is_told(problem: &Problem) -> bool {
    matches!(
        crate::rules::rule_of(&problem.kind).slug,
        "member.absent"
            | "none.member"
            | "none.call"
            | "none.index"
            | "none.iteration"
            | "none.operand"
            | "call.not-callable"
            | "index.unsupported"
            | "operator.unsupported"
            | "value.not-iterable"
    )
}

fn given_to(given: &[(u32, Type)], place: u32) -> Option<Type> {
    given.iter().find(|(own, _)| *own == place).map(|(_, ty)| *ty)
}

/// What the calls of a function give that are seen: the files that they stand in, what is given, and how many there are of each; `None` where
/// there are none, or too many.
fn calls(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId) -> Option<Vec<(File, Arguments, usize)>> {
    let record = &index.functions[function];
    let class = record.class.filter(|_| record.name == known::INIT);
    let name = class.map_or(record.name, |class| class_name(db, ClassRef { file, class }));
    let callers = resolve::everywhere::few_calls_by_name(db, name)?;
    let mut found = Vec::new();
    for caller in callers {
        let all = passed_by(db, *caller, file, function);
        found.extend(all.iter().map(|(given, number)| (*caller, given.clone(), *number)));
    }
    (!found.is_empty() && found.len() <= MOST_CALLS).then_some(found)
}

/// What calls of a file give a function, each once with how many there are, in the order of the text.
pub(crate) fn passed_by(db: &dyn Db, caller: File, file: File, function: FunctionId) -> &[(Arguments, usize)] {
    saw(db, caller, Ask::PassedTo(file, function));
    passed_by_query(db, caller, file, function)
}

#[salsa::tracked(returns(deref))]
fn passed_by_query(db: &dyn Db, caller: File, file: File, function: FunctionId) -> Box<[(Arguments, usize)]> {
    let _reading = reading(db, caller);
    let mut all: Vec<(Arguments, usize)> = Vec::new();
    for call in bodies::problems(db, caller).calls.iter().filter(|call| call.to == (file, function)) {
        match all.iter_mut().find(|(given, _)| *given == call.given) {
            Some((_, number)) => *number += 1,
            None => all.push((call.given.clone(), 1)),
        }
    }
    all.into()
}

/// The first of a file's calls that gives a function this.
pub(crate) fn place_of(db: &dyn Db, unfit: &Unfit, file: File) -> Option<TextRange> {
    let function = module_index(db, file).bodies[unfit.body].function?;
    let is_it = |call: &&Call| call.to == (file, function) && call.given == unfit.given;
    bodies::problems(db, unfit.caller).calls.iter().find(is_it).map(|call| call.range)
}

/// Whether nothing of a type can be done that with: it is known, and none of its parts has what that needs.
fn fails(infer: &mut Infer<'_>, ty: Type, done: Done) -> bool {
    let store = infer.db.store();
    if crate::types::holds(store, ty, &Type::is_dynamic) {
        return false;
    }
    let needed = done.needs(infer.db);
    parts(store, &ty).to_vec().into_iter().all(|part| match (part, done) {
        (Type::None, Done::Read(name)) => infer.member(part, name).is_none(),
        (Type::None, _) => true,
        // Texts and containers hardly go with anything else.
        (Type::Instance(id), Done::Operated) => {
            let class = store.instance(id).class;
            let names = [known::STR, known::LIST, known::DICT, known::TUPLE, known::SET];
            names.into_iter().any(|name| resolve::is_builtin(infer.db, class, name))
        }
        (Type::Literal(_), Done::Operated) => false,
        (Type::Instance(_) | Type::Literal(_), _) => needed.iter().all(|name| infer.member(part, *name).is_none()),
        (Type::Module(_), Done::Read(name)) => infer.member(part, name).is_none(),
        _ => false,
    })
}

/// Whether an object of a type may have more than its class: a class that derives from it has it, what it is made of is left to others, or the
/// class stands in for one that is not there.
fn may_be_more(db: &dyn Db, ty: Type, done: Done) -> bool {
    let store = db.store();
    let needed = done.needs(db);
    parts(store, &ty).iter().any(|part| {
        let Type::Instance(id) = *part else { return false };
        let class = store.instance(id).class;
        let info = classes::info(db, class);
        let outline = crate::outline::class(db, class);
        let has = |other: ClassRef| {
            let instance = resolve::instance_of(db, other, &[]);
            needed.iter().any(|name| members::find(db, instance, *name, None).is_some())
        };
        info.kind == classes::ClassKind::Protocol
            || info.metaclass.is_some() && class.file.module(db) != known::BUILTINS
            || outline.of_body.is_empty() && outline.of_methods.is_empty()
            || classes::derived(db, class).any(has)
    })
}

/// Whether a class of the project that derives from a method's has its own.
fn is_overridden(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId) -> bool {
    let record = &index.functions[function];
    record.class.is_some_and(|class| {
        classes::derived(db, ClassRef { file, class })
            .any(|other| members::value_in_body(db, other.file, other.class, record.name).is_some())
    })
}

/// What a function does on every way: all before the first condition, loop, `try` or `match`.
struct Prologue {
    end: TextSize,
    /// Parts of expressions that are not always worked out.
    conditional: Vec<TextRange>,
}

impl Prologue {
    fn of(db: &dyn Db, file: File, index: &ModuleIndex, function: FunctionId) -> Prologue {
        let record = &index.functions[function];
        let body = &index.bodies[record.body];
        let ends = body.statements.iter().filter_map(|statement| match statement.kind {
            StatementKind::Test(expr) | StatementKind::Match(expr) => Some(index.spans[expr].end()),
            StatementKind::Assert { test, .. } => Some(index.spans[test].end()),
            StatementKind::For { iterable, .. } => Some(index.spans[iterable].end()),
            StatementKind::With { manager, .. } => Some(index.spans[manager].end()),
            _ => None,
        });
        let text = &file.text(db)[record.range];
        let mut at = record.range.start();
        let tries = text.split_inclusive('\n').find_map(|line| {
            let here = at;
            at += TextSize::of(line);
            line.trim_start().starts_with("try:").then_some(here)
        });
        let end = ends.chain(tries).min().unwrap_or(record.range.end());
        let mut conditional = Vec::new();
        for number in body.exprs.clone() {
            let expr = ExprId(number);
            match &index.exprs[expr] {
                Expr::BoolOp { operands, .. } => {
                    conditional.extend(operands.iter().skip(1).map(|operand| index.spans[*operand]));
                }
                Expr::Conditional { then, otherwise, .. } => {
                    conditional.extend([index.spans[*then], index.spans[*otherwise]]);
                }
                Expr::Comprehension(id) => {
                    let comprehension = &index.comprehensions[*id];
                    let parts = [comprehension.element].into_iter().chain(comprehension.key);
                    let parts = parts.chain(comprehension.conditions.iter().copied());
                    let parts = parts.chain(comprehension.iterables.iter().skip(1).copied());
                    conditional.extend(parts.map(|part| index.spans[part]));
                }
                Expr::Lambda(_) => conditional.push(index.spans[expr]),
                _ => {}
            }
        }
        Prologue { end, conditional }
    }

    /// Whether a place is reached on every way.
    fn has(&self, range: TextRange) -> bool {
        range.end() <= self.end && !self.conditional.iter().any(|part| part.contains_range(range))
    }
}

/// What a function does with its parameters that nobody annotated, by their 0-based places, and where they stand, in no order.
fn uses(db: &dyn Db, index: &ModuleIndex, function: FunctionId) -> Vec<(u32, Done, TextRange)> {
    let record = &index.functions[function];
    let mut found = Vec::new();
    if record.params.iter().all(|param| param.annotation.is_some()) {
        return found;
    }
    let is_static = crate::outline::functions::binding(db, index, function) == Binding::Static;
    // The place of the parameter that an expression names, as it was passed.
    let named = |expr: ExprId| {
        let Expr::Name(_, value) = index.exprs[expr] else { return None };
        let Value::Def(def) = index.values[index.unnarrowed(value)] else { return None };
        let DefKind::Param { function: own, index: place } = index.defs[def].kind else { return None };
        let param = record.params.get(place as usize).filter(|_| own == function)?;
        let is_bound = place == 0 && record.class.is_some() && !is_static;
        let is_single = matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal | ParamKind::KeywordOnly);
        (param.annotation.is_none() && is_single && !is_bound).then_some(place)
    };
    let mut add = |value: ExprId, done: Done| {
        found.extend(named(value).map(|place| (place, done, index.spans[value])));
    };
    let body = &index.bodies[record.body];
    for number in body.exprs.clone() {
        match &index.exprs[ExprId(number)] {
            Expr::Attribute { value, name, .. } => add(*value, Done::Read(*name)),
            Expr::Subscript { value, .. } => add(*value, Done::Indexed),
            Expr::Call { callee, .. } => add(*callee, Done::Called),
            Expr::Binary { left, right, .. } => {
                add(*left, Done::Operated);
                add(*right, Done::Operated);
            }
            Expr::Comprehension(id) => {
                index.comprehensions[*id].iterables.iter().take(1).for_each(|iterable| add(*iterable, Done::Iterated));
            }
            _ => {}
        }
    }
    for statement in &body.statements {
        if let StatementKind::For { iterable, .. } = statement.kind {
            add(iterable, Done::Iterated);
        }
    }
    found
}

/// The parameter of an unfit function, in words that say what calls pass to it.
pub(crate) fn words(db: &dyn Db, file: File, unfit: &Unfit) -> Option<String> {
    let index = module_index(db, file);
    let function = index.bodies[unfit.body].function?;
    let name = db.names().text(index.functions[function].params.get(unfit.place as usize)?.name);
    let owner = functions::shown(db, file, function);
    let ty = crate::types::display::show(db, given_to(&unfit.given, unfit.place)?);
    Some(match unfit.calls {
        1 => format!("the one call of `{owner}` that is seen passes `{ty}` to `{name}`"),
        calls => format!("no call of `{owner}` fits ({calls} are seen); the first passes `{ty}` to `{name}`"),
    })
}
