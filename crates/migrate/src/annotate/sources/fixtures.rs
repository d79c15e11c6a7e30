//! What a test runner passes to tests: fixtures by name, and the values that a test is repeated with.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::functions::enclosing_body;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId, FunctionId, ModuleIndex};
use leitmotiv_syntax::names::Name;

use super::super::evidence::{Evidence, Source, Strength, Why};
use super::super::generalise::together;
use super::super::known::Known;

/// What a test runner passes to a parameter of a test or a fixture.
pub(crate) fn of(db: &Database, known: &Known, parameter: Parameter) -> Option<Evidence> {
    let Parameter { file, function, place } = parameter;
    let index = module_index(db, file);
    let record = &index.functions[function];
    let is_run = db.names().text(record.name).starts_with("test") || is_fixture(db, index, function);
    if !is_run {
        return None;
    }
    let name = record.params[place as usize].name;
    repeated(db, (file, index, function), name).or_else(|| fixture(db, known, (file, function), name))
}

/// The name of what a decorator is, with or without arguments.
fn decorator(index: &ModuleIndex, expr: ExprId) -> Option<(Name, &[Arg])> {
    match &index.exprs[expr] {
        Expr::Call { callee, args } => Some((index.decorator_name(*callee)?, args)),
        _ => Some((index.decorator_name(expr)?, &[])),
    }
}

fn is_fixture(db: &Database, index: &ModuleIndex, function: FunctionId) -> bool {
    let named = |expr: &ExprId| decorator(index, *expr).is_some_and(|(name, _)| db.names().text(name) == "fixture");
    index.functions[function].decorators.iter().any(named)
}

/// The fixture of a name, in the file or in a `conftest.py` of its folder or one above.
fn fixture(db: &Database, known: &Known, (file, own): (File, FunctionId), name: Name) -> Option<Evidence> {
    let path = file.path(db);
    let folder = |path: &str| path.rsplit_once('/').map_or(String::new(), |(folder, _)| format!("{folder}/"));
    let mut shared: Vec<File> = known.shared_fixtures(db).to_vec();
    shared.retain(|other| folder(path).starts_with(&folder(other.path(db))));
    // The nearest first.
    shared.sort_by_key(|other| std::cmp::Reverse(other.path(db).len()));
    let (there, found) = std::iter::once(file).chain(shared).find_map(|there| {
        let index = module_index(db, there);
        let is_it = |(id, record): &(FunctionId, &leitmotiv_index::tree::Function)| {
            record.name == name && (there, *id) != (file, own) && is_fixture(db, index, *id)
        };
        index.functions.iter().find(is_it).map(|(id, _)| (there, id))
    })?;
    let record = &module_index(db, there).functions[found];
    let given = functions::declared(db, there, found).returns;
    let given = given.unwrap_or_else(|| functions::return_type(db, there, found));
    let is_generator = !module_index(db, there).bodies[record.body].yields.is_empty();
    let ty = match given {
        // What is yielded, or what awaiting gives, is what arrives.
        Type::Instance(id) if is_generator => *db.store().instance(id).args.first()?,
        Type::Instance(id) if record.is_async => *db.store().instance(id).args.get(2)?,
        given => given,
    };
    (!ty.is_dynamic() && ty != Type::Never).then(|| Evidence {
        source: Source::Calls,
        ty,
        strength: Strength::Strong,
        file: there,
        range: record.name_range,
        why: Why::Said(format!("the fixture `{}` gives it", db.names().text(name))),
        passed_on: false,
    })
}

/// The values that a test is repeated with, as a decorator `parametrize("tide, berth", [(1, "north"), …])` lists them.
fn repeated(db: &Database, (file, index, function): (File, &ModuleIndex, FunctionId), name: Name) -> Option<Evidence> {
    let record = &index.functions[function];
    for expr in &record.decorators {
        let Some((kind, args)) = decorator(index, *expr) else { continue };
        let [names, values, ..] = args else { continue };
        if db.names().text(kind) != "parametrize" || values.kind != ArgKind::Positional {
            continue;
        }
        let text = |expr: ExprId| match index.exprs[expr] {
            Expr::Str(Some(text)) => Some(db.names().text(text)),
            _ => None,
        };
        let listed: Vec<&str> = match &index.exprs[names.value] {
            Expr::Str(Some(text)) => db.names().text(*text).split(',').map(str::trim).collect(),
            Expr::List(parts) | Expr::Tuple(parts) => parts.iter().filter_map(|part| text(*part)).collect(),
            _ => continue,
        };
        let Some(at) = listed.iter().position(|listed| *listed == db.names().text(name)) else { continue };
        let (Expr::List(rows) | Expr::Tuple(rows)) = &index.exprs[values.value] else { return None };
        let mut infer = Infer::new(db, file, enclosing_body(db, file, function));
        let mut seen = Vec::new();
        for row in rows {
            let value = match &index.exprs[*row] {
                Expr::Call { callee, args }
                    if index.decorator_name(*callee).is_some_and(|name| db.names().text(name) == "param") =>
                {
                    args.get(at).map(|arg| arg.value)
                }
                _ if listed.len() == 1 => Some(*row),
                Expr::Tuple(parts) | Expr::List(parts) => parts.get(at).copied(),
                _ => None,
            };
            let ty = infer.expr(value?);
            if ty.is_dynamic() {
                return None;
            }
            seen.push(infer.widen(ty));
        }
        let ty = together(db, &infer, seen);
        let why = Why::Said("the test is repeated with it".to_owned());
        let (source, strength) = (Source::Calls, Strength::Medium);
        return (ty != Type::Never).then(|| Evidence {
            source,
            ty,
            strength,
            file,
            range: index.spans[values.value],
            why,
            passed_on: false,
        });
    }
    None
}
