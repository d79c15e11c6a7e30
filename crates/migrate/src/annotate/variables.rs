//! Type variables where what a function gives back follows what it is passed: decorators that give back the function or class that they got,
//! or one around it that passes everything on (PEP 612), and functions that give back an argument.

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions::any_callable;
use leitmotiv_engine::resolve::is_builtin;
use leitmotiv_engine::types::{Type, union};
use leitmotiv_engine::view::given::{self, How};
use leitmotiv_engine::view::handled::{Parameter, Subject, UseKind};
use leitmotiv_index::tree::{
    Arg, ArgKind, BodyShape, DefId, DefKind, Expr, ExprId, Function, FunctionId, ModuleIndex, ParamKind, ScopeKind,
    Value, ValueId,
};
use leitmotiv_syntax::TextSize;
use leitmotiv_syntax::names::known;

use super::evidence::{Conclusion, Evidence, Source, Strength, Sureness, Weight, Why};
use super::rounds::Concluded;
use super::{Part, Place, Proposal, Writer, outermost};
use crate::spell::{Evaluated, Spelled, library_names, spell};

/// The type variables of some annotations, which are of use only all together.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Variables {
    /// The function whose result follows its parameter, by its dotted name: what has the same goes together.
    pub of: String,
    /// How many annotations go together.
    pub count: usize,
    /// How the variables are made.
    pub made: Made,
}

/// How type variables are made.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Made {
    /// By statements on the module's own level, behind its imports (PEP 484).
    ByStatements(Vec<String>),
    /// By type parameters, which go in here (PEP 695).
    ByParameters(TextSize, String),
}

/// How many values are followed from a name to its definition.
const MOST_VALUES: usize = 8;

/// How what a function gives back follows what it is passed.
#[derive(Debug, Clone, Copy)]
enum Follows {
    /// It is the argument itself.
    Itself(Bound),
    /// It is a function that passes all that it gets on to the argument.
    Around(FunctionId),
}

/// What is known of everything that is passed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Bound {
    Anything,
    Callables,
    Classes,
}

/// Proposals for a function whose result follows one of its parameters, and for the functions around and inside it that this says something of;
/// none for other functions. With them, the function around it whose result cannot be said, by its dotted name: with type parameters there is
/// no way to say that the variables are those of the function that it gives back.
pub(super) fn proposals(
    writer: &Writer<'_>,
    index: &ModuleIndex,
    concluded: &Concluded,
    function: FunctionId,
) -> Option<(Vec<Proposal>, Option<String>)> {
    let (db, file) = (writer.db, writer.file);
    let (place, follows) = followed(db, file, index, concluded, function)?;
    let record = &index.functions[function];
    let dotted = |function| leitmotiv_engine::definitions::functions::qualified(db, file, Some(function));
    let maker = maker(index, function);
    let around = maker.filter(|_| db.project().python < (3, 12));
    let names = Names::new(writer, index, record, follows, around.is_some())?;
    let mut slots = vec![
        (function, Part::Parameter(db.names().text(record.params[place].name).to_owned()), names.given.clone()),
        (function, Part::Return, names.given.clone()),
    ];
    if let Follows::Around(inner) = follows {
        for param in &index.functions[inner].params {
            let mark = if param.kind == ParamKind::VarArgs { "args" } else { "kwargs" };
            let part = Part::Parameter(db.names().text(param.name).to_owned());
            slots.push((inner, part, format!("{}.{mark}", names.parameters)));
        }
        slots.push((inner, Part::Return, names.result.clone()));
    }
    if let Some(around) = around {
        slots.push((around, Part::Return, format!("{}[[{}], {}]", names.callable, names.given, names.given)));
    }
    let variables = Variables { of: dotted(function), count: slots.len(), made: names.made.clone() };
    let all = slots.into_iter().map(|(of, part, text)| {
        let (owner, record) = (dotted(of), &index.functions[of]);
        let param = record.params.iter().find(|param| part == Part::Parameter(db.names().text(param.name).to_owned()));
        let place = Place {
            owner: &owner,
            part,
            at: param.map_or(record.params_end, |param| param.name_range.end()),
            default: None,
            before: outermost(index, record.parent, record.range.start()),
        };
        let spelled = Spelled { text, ..names.spelled.clone() };
        let proposal = writer.written(&conclusion(index, file, function, follows), place, spelled)?;
        Some(Proposal { is_open: false, variables: Some(Arc::new(variables.clone())), ..proposal })
    });
    let all = all.collect::<Option<Vec<Proposal>>>()?;
    Some((all, maker.filter(|_| around.is_none()).map(dotted)))
}

/// What is concluded: that the two are of one type. It is none that could be said without a variable.
fn conclusion(index: &ModuleIndex, file: File, function: FunctionId, follows: Follows) -> Conclusion {
    let record = &index.functions[function];
    let words = match follows {
        Follows::Itself(_) => "what is passed is given back",
        Follows::Around(_) => "what is given back takes what the one that is passed takes, and gives what that gives",
    };
    let returned = index.bodies[record.body].returns.first().map_or(record.name_range, |returned| returned.range);
    let (source, strength, why) = (Source::Returns, Strength::Strong, Why::Said(words.to_owned()));
    let evidence = vec![Evidence { source, ty: Type::Any, strength, file, range: returned, why, passed_on: false }];
    let (sureness, conflicts, weight) = (Sureness::Fair, Vec::new(), Weight { best: u32::MAX, ..Weight::default() });
    Conclusion { ty: Type::Any, sureness, evidence, conflicts, weight }
}

/// The parameter that a function's result follows, by its place, and how.
fn followed(
    db: &Database,
    file: File,
    index: &ModuleIndex,
    concluded: &Concluded,
    function: FunctionId,
) -> Option<(usize, Follows)> {
    let record = &index.functions[function];
    let is_plain = record.class.is_none()
        && record.returns.is_none()
        && record.decorators.is_empty()
        && record.type_params.is_empty()
        && record.shape == BodyShape::Code
        && is_plain_code(index, record);
    if !is_plain || given::of(db, file, function).iter().any(|given| given.how != How::Returned) {
        return None;
    }
    let returned: Vec<DefId> = values(index, record).collect::<Option<_>>()?;
    let first = *returned.first()?;
    if returned.iter().any(|def| *def != first) {
        return None;
    }
    let open = |place: usize| {
        let param = &record.params[place];
        let is_one = matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal | ParamKind::KeywordOnly);
        param.annotation.is_none() && param.default.is_none() && is_one
    };
    match index.defs[first].kind {
        DefKind::Param { function: of, index: place } if of == function && open(place as usize) => {
            let bound = bound(db, concluded, Parameter { file, function, place })?;
            Some((place as usize, Follows::Itself(bound)))
        }
        DefKind::Function(inner) => {
            let place = passes_on(index, function, inner).filter(|place| open(*place))?;
            Some((place, Follows::Around(inner)))
        }
        _ => None,
    }
}

/// Neither a coroutine nor a generator.
fn is_plain_code(index: &ModuleIndex, record: &Function) -> bool {
    !record.is_async && index.bodies[record.body].yields.is_empty()
}

/// The definitions of the names that a function returns; `None` for what is no name, or may be several things.
fn values(index: &ModuleIndex, record: &Function) -> impl Iterator<Item = Option<DefId>> {
    let returns = index.bodies[record.body].returns.iter().filter(|returned| !returned.reach.is_never());
    returns.map(|returned| defined(index, returned.value?))
}

/// The definition of the value that a name has.
fn defined(index: &ModuleIndex, expr: ExprId) -> Option<DefId> {
    let Expr::Name(_, value) = index.exprs[expr] else { return None };
    let mut value: ValueId = value;
    for _ in 0..MOST_VALUES {
        match index.values[index.unnarrowed(value)] {
            Value::Def(def) => return Some(def),
            Value::Captured { value: outer, .. } => value = outer,
            // What a loop that is not gone through leaves unbound is not given back.
            Value::Phi { start, len, .. } => {
                let ways = &index.phi_args[start as usize..(start + len) as usize];
                let mut bound =
                    ways.iter().map(|(_, way)| *way).filter(|way| *way != ValueId::UNBOUND && *way != value);
                let first = bound.next()?;
                if bound.any(|way| way != first) {
                    return None;
                }
                value = first;
            }
            _ => return None,
        }
    }
    None
}

/// What is known of everything that is passed to a parameter which is given back; `None` where a plain type says as much as a variable.
fn bound(db: &Database, concluded: &Concluded, parameter: Parameter) -> Option<Bound> {
    let store = db.store();
    let takes_all =
        |ty: Type| matches!(ty, Type::Instance(id) if is_builtin(db, store.instance(id).class, known::OBJECT));
    let uses = concluded.known.uses.get(&Subject::Parameter(parameter)).into_iter().flatten();
    let asks = |kind: &UseKind| {
        !matches!(
            kind,
            UseKind::Returned
                | UseKind::Tested
                | UseKind::Equal(_)
                | UseKind::SoughtIn(_)
                | UseKind::ComparedWithNone
                | UseKind::Formatted
                | UseKind::Kept { .. }
                | UseKind::Classed { .. }
                | UseKind::AskedCallable
        ) && !matches!(kind, UseKind::PassedOn { expected, .. } if takes_all(*expected))
    };
    let is_asked = uses.clone().any(|(_, one)| !one.is_narrowed && asks(&one.kind));
    let Some(conclusion) = concluded.parameters.get(&parameter) else {
        return (!is_asked).then_some(Bound::Anything);
    };
    let parts = union::parts(store, &conclusion.ty);
    let is_callable = |part: &Type| matches!(part, Type::Callable(_) | Type::Function(_) | Type::Method(_));
    let is_class = |part: &Type| match part {
        Type::Class(_) | Type::SubclassOf(_) => true,
        Type::Instance(id) => is_builtin(db, store.instance(*id).class, known::TYPE),
        _ => false,
    };
    if parts.iter().all(is_callable) {
        return Some(Bound::Callables);
    }
    if parts.iter().all(is_class) {
        return Some(Bound::Classes);
    }
    let is_several = parts.iter().filter(|part| **part != Type::None).count() > 1;
    (is_several && !parts.contains(&Type::None) && !is_asked).then_some(Bound::Anything)
}

/// The place of the parameter of `function` that `inner`, defined in it, passes all that it gets on to, and whose result it gives back.
fn passes_on(index: &ModuleIndex, function: FunctionId, inner: FunctionId) -> Option<usize> {
    let (outer, record) = (&index.functions[function], &index.functions[inner]);
    let [args, kwargs] = record.params.as_ref() else { return None };
    let is_open = record.returns.is_none() && record.params.iter().all(|param| param.annotation.is_none());
    let kinds = (args.kind, kwargs.kind) == (ParamKind::VarArgs, ParamKind::KwArgs);
    let keeps = |decorator: &ExprId| {
        let head = match &index.exprs[*decorator] {
            Expr::Call { callee, .. } => *callee,
            _ => *decorator,
        };
        matches!(index.exprs[head], Expr::Name(known::WRAPS, _) | Expr::Attribute { name: known::WRAPS, .. })
    };
    let is_own = record.class.is_none() && record.parent == outer.scope && is_plain_code(index, record);
    if !(is_open && kinds && is_own && record.decorators.iter().all(keeps)) {
        return None;
    }
    let body = &index.bodies[record.body];
    let mut found = None;
    for returned in body.returns.iter().filter(|returned| !returned.reach.is_never()) {
        let value = returned.value?;
        let call = match defined(index, value).map(|def| &index.defs[def].kind) {
            Some(DefKind::Assign { value, unpack: None, .. }) => *value,
            _ => value,
        };
        let Expr::Call { callee, args: given } = &index.exprs[call] else { return None };
        let [Arg { kind: ArgKind::Star, value: first, .. }, Arg { kind: ArgKind::DoubleStar, value: second, .. }] =
            given.as_ref()
        else {
            return None;
        };
        let is_passed = defined(index, *first) == Some(args.def) && defined(index, *second) == Some(kwargs.def);
        let DefKind::Param { function: of, index: place } = index.defs[defined(index, *callee)?].kind else {
            return None;
        };
        if !is_passed || of != function || found.is_some_and(|found| found != place) {
            return None;
        }
        found = Some(place);
    }
    // Where it ends without a `return`, it gives something else.
    body.end.is_never().then_some(found? as usize)
}

/// The function around one, if that does nothing but give it back: it makes decorators.
fn maker(index: &ModuleIndex, function: FunctionId) -> Option<FunctionId> {
    let ScopeKind::Function(around) = index.scopes[index.functions[function].parent].kind else { return None };
    let record = &index.functions[around];
    let is_it = |def: Option<DefId>| def.is_some_and(|def| index.defs[def].kind == DefKind::Function(function));
    let is_maker = record.returns.is_none()
        && record.decorators.is_empty()
        && record.class.is_none()
        && is_plain_code(index, record)
        && index.bodies[record.body].end.is_never()
        && values(index, record).all(is_it)
        && values(index, record).next().is_some();
    is_maker.then_some(around)
}

/// What the variables of one function are called, and what is written with them.
struct Names {
    /// The parameter and the result.
    given: String,
    /// What stands for all parameters.
    parameters: String,
    /// What stands for a result.
    result: String,
    callable: String,
    made: Made,
    /// The imports that all of it needs.
    spelled: Spelled,
}

impl Names {
    fn new(
        writer: &Writer<'_>,
        index: &ModuleIndex,
        record: &Function,
        follows: Follows,
        is_made: bool,
    ) -> Option<Names> {
        let (db, file) = (writer.db, writer.file);
        let python = db.project().python;
        let has_parameters = python >= (3, 12);
        // `Callable[…]` can be evaluated since 3.9 (PEP 585), and there are variables for parameters since 3.10 (PEP 612).
        let least = match follows {
            Follows::Itself(Bound::Anything | Bound::Classes) if !is_made => (3, 5),
            Follows::Itself(_) => (3, 9),
            Follows::Around(_) => (3, 10),
        };
        if writer.makes_names || python < least {
            return None;
        }
        let style = writer.style(record.parent, Evaluated::At(record.def_start));
        let callable = spell(db, file, any_callable(db.store(), Type::Any), style)?;
        let any = callable.text.as_str();
        let name = any.split('[').next()?;
        let mut spelled = Spelled::default();
        let is_of_callable = |import: &&(String, String)| import.1 == "Callable";
        if is_made || matches!(follows, Follows::Around(_)) {
            spelled.imports.extend(callable.imports.iter().filter(is_of_callable).cloned());
        }
        let text = file.text(db);
        let is_used = |name: &str| {
            let name = db.names().intern(name);
            let is_read = |expr: &Expr| matches!(expr, Expr::Name(read, _) if *read == name);
            index.defs.iter().any(|(_, def)| def.name == name) || index.exprs.iter().any(|(_, expr)| is_read(expr))
        };
        let mut statements: Vec<String> = Vec::new();
        let mut made: Vec<String> = Vec::new();
        // The first name that is free, or that is this very variable already.
        let mut variable = |base: &str, kind: &str, bound: Option<&str>| {
            let names = (1..9).map(|number| match (has_parameters, number) {
                (true, 1) => base.to_owned(),
                (true, _) => format!("{base}{number}"),
                (false, 1) => format!("_{base}"),
                (false, _) => format!("_{base}{number}"),
            });
            for name in names {
                let bounds = bound.map_or(String::new(), |bound| format!(", bound={bound}"));
                let statement = format!("{name} = {kind}(\"{name}\"{bounds})");
                let is_there = !has_parameters && text.lines().any(|line| line == statement);
                if is_there || !is_used(&name) {
                    statements.extend((!is_there).then_some(statement));
                    let mark = if kind == "ParamSpec" { "**" } else { "" };
                    made.push(format!("{mark}{name}{}", bound.map_or(String::new(), |bound| format!(": {bound}"))));
                    return Some(name);
                }
            }
            None
        };
        let (given, parameters, result, kinds) = match follows {
            Follows::Itself(bound) => {
                let (base, bound) = match bound {
                    Bound::Anything => ("T", None),
                    Bound::Callables => ("F", Some(any)),
                    Bound::Classes => ("C", Some("type")),
                };
                if base == "F" {
                    spelled.imports.extend(callable.imports.iter().cloned());
                }
                (variable(base, "TypeVar", bound)?, String::new(), String::new(), vec!["TypeVar"])
            }
            Follows::Around(_) => {
                let parameters = variable("P", "ParamSpec", None)?;
                let result = variable("R", "TypeVar", None)?;
                (format!("{name}[{parameters}, {result}]"), parameters, result, vec!["ParamSpec", "TypeVar"])
            }
        };
        let made = if has_parameters {
            Made::ByParameters(record.name_range.end(), format!("[{}]", made.join(", ")))
        } else {
            let names: Vec<(&str, &str)> = kinds.into_iter().map(|kind| ("typing", kind)).collect();
            spelled.imports.extend(library_names(db, file, &names, style)?);
            Made::ByStatements(statements)
        };
        let is_evaluated = !any.starts_with('"');
        is_evaluated.then(|| Names { given, parameters, result, callable: name.to_owned(), made, spelled })
    }
}
