//! What is known of a name or a position.

use leitmotiv_index::tree::{BodyId, DefKind, Expr, ExprId, FunctionId, ParamKind, ScopeId};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{TextRange, TextSize};

use super::concluded::{self, Instead};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::{self, members};
use crate::definitions::functions;
use crate::findings::evidence::Evidence;
use crate::infer::Infer;
use crate::outline::module_index;
use crate::resolve::{self, Imported, import_target};
use crate::types::display::show;
use crate::types::{ClassRef, Type};

/// What was found.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Answer {
    /// What was asked for, as text.
    pub subject: String,
    /// Its type.
    pub ty: Type,
    /// Where it is defined, if that can be told.
    pub defined: Option<(File, TextRange)>,
    /// The function that it is, or is a parameter of, with the parameter's 0-based place.
    pub function: Option<(File, FunctionId, Option<u32>)>,
    /// The way that its type took, oldest place first.
    pub way: Vec<Evidence>,
    /// What is concluded of it from what calls pass, where it is unknown because of a parameter.
    pub instead: Option<Instead>,
}

/// The expression at an offset, innermost, or the name that is bound there, and its type.
#[must_use]
pub fn at(db: &dyn Db, file: File, offset: TextSize) -> Option<Answer> {
    let index = module_index(db, file);
    let expr = index
        .spans_iter()
        .filter(|(_, span)| span.contains_inclusive(offset))
        .min_by_key(|(expr, span)| (span.len(), std::cmp::Reverse(*expr)))
        .map(|(expr, _)| expr);
    let Some(expr) = expr else { return bound_at(db, file, offset) };
    let body = body_of(db, file, expr);
    let mut infer = Infer::new(db, file, body);
    // The whole body, so that lambdas and displays have been seen where they stand.
    infer.check();
    let ty = infer.expr(expr);
    let subject = crate::findings::source::excerpt(db, file, index.spans[expr]);
    let way = crate::findings::evidence::of(&mut infer, expr, &mut |_, _| true);
    let defined = definition_of(db, ty).or_else(|| way.first().map(|step| (step.file, step.range)));
    let instead = concluded::instead(db, (file, body), expr, ty);
    Some(Answer { subject, ty, defined, function: function_of(db, ty), way, instead })
}

/// The first expression that begins in a stretch, as a line is, and its type.
#[must_use]
pub fn first_in(db: &dyn Db, file: File, stretch: TextRange) -> Option<Answer> {
    let index = module_index(db, file);
    let begins = index.spans_iter().filter(|(_, span)| stretch.contains(span.start()));
    let (_, span) = begins.min_by_key(|(_, span)| (span.start(), std::cmp::Reverse(span.len())))?;
    // At its end stands what is done last, which gives it.
    at(db, file, span.end())
}

/// The function, class or parameter whose name is bound at an offset.
fn bound_at(db: &dyn Db, file: File, offset: TextSize) -> Option<Answer> {
    let index = module_index(db, file);
    let (def, record) = index.defs.iter().find(|(_, def)| {
        let is_named = matches!(def.kind, DefKind::Param { .. } | DefKind::Function(_) | DefKind::Class(_));
        is_named && def.range.contains_inclusive(offset)
    })?;
    let ty = Infer::new(db, file, record.body).definition(def);
    let function = match record.kind {
        DefKind::Param { function, index } => Some((file, function, Some(index))),
        _ => function_of(db, ty),
    };
    Some(Answer {
        subject: db.names().text(record.name).to_owned(),
        ty,
        defined: Some((file, record.range)),
        function,
        way: Vec::new(),
        instead: None,
    })
}

/// The function that a type is, as it is or bound to an object, and no parameter of it.
#[must_use]
pub fn function_of(db: &dyn Db, ty: Type) -> Option<(File, FunctionId, Option<u32>)> {
    match ty {
        Type::Function(id) | Type::Property(id) => {
            let function = db.store().function(id);
            Some((function.file, function.function, None))
        }
        Type::Method(id) => function_of(db, db.store().method(id).function),
        _ => None,
    }
}

fn body_of(db: &dyn Db, file: File, expr: ExprId) -> BodyId {
    let index = module_index(db, file);
    index.bodies.iter().find(|(_, body)| body.exprs.contains(&expr.0)).map_or(BodyId(0), |(id, _)| id)
}

/// What a dotted name means: a module and names in it, or a built-in name.
#[must_use]
pub fn named(db: &dyn Db, dotted: &str) -> Option<Answer> {
    let parts: Vec<&str> = dotted.split('.').collect();
    if parts.iter().any(|part| part.is_empty()) {
        return None;
    }
    for split in (0..=parts.len()).rev() {
        let (file, rest) = if split == 0 {
            (resolve::standard_module(db, known::BUILTINS)?, &parts[..])
        } else {
            let name = db.names().intern(&parts[..split].join("."));
            match resolve::module_file(db, name, None) {
                Some(file) => (file, &parts[split..]),
                None => continue,
            }
        };
        if let Some(answer) = within(db, file, dotted, rest) {
            return Some(answer);
        }
    }
    None
}

fn within(db: &dyn Db, file: File, dotted: &str, parts: &[&str]) -> Option<Answer> {
    let mut ty = Type::Module(file);
    let mut defined = Some((file, TextRange::default()));
    let mut infer = Infer::new(db, file, BodyId(0));
    for part in parts {
        let name = db.names().intern(part);
        defined = place_of(db, ty, name).or(defined);
        ty = match ty {
            Type::Class(id) => match members::find(db, id, name, None) {
                // As it stands in the class, methods with their first parameter.
                Some(found) => found.member.ty,
                None => infer.class_member(ty, id, name)?,
            },
            other => infer.member(other, name)?,
        };
    }
    let function = function_of(db, ty);
    Some(Answer {
        subject: dotted.to_owned(),
        ty,
        defined: definition_of(db, ty).or(defined),
        function,
        way: Vec::new(),
        instead: None,
    })
}

fn place_of(db: &dyn Db, owner: Type, name: Name) -> Option<(File, TextRange)> {
    match owner {
        Type::Module(file) => {
            let index = module_index(db, file);
            let symbol = index.scopes[ScopeId(0)].symbols.get(&name)?;
            symbol.defs.first().map(|def| (file, index.defs[*def].range))
        }
        Type::Class(id) => members::find(db, id, name, None).map(|found| {
            let site = Infer::member_site(db, found);
            (site.file, site.range(db))
        }),
        _ => None,
    }
}

/// Where the class or function that a type is lies.
#[must_use]
pub fn definition_of(db: &dyn Db, ty: Type) -> Option<(File, TextRange)> {
    let store = db.store();
    match ty {
        Type::Class(id) => {
            let class = store.instance(id).class;
            Some((class.file, module_index(db, class.file).classes[class.class].name_range))
        }
        Type::Function(id) | Type::Property(id) => {
            let function = store.function(id);
            Some((function.file, module_index(db, function.file).functions[function.function].name_range))
        }
        Type::Method(id) => definition_of(db, store.method(id).function),
        Type::Module(file) => Some((file, TextRange::default())),
        _ => None,
    }
}

/// The signatures of a callable, one line each; overloads in order.
#[must_use]
pub fn signatures(db: &dyn Db, ty: Type) -> Vec<String> {
    let store = db.store();
    match ty {
        Type::Function(id) | Type::Property(id) => {
            let function = *store.function(id);
            crate::outline::function(db, function.file, function.function)
                .signatures
                .iter()
                .map(|overload| {
                    let one = crate::types::FunctionRef { function: *overload, ..function };
                    show(db, Type::Function(store.intern_function(one)))
                })
                .collect()
        }
        Type::Method(id) => signatures(db, store.method(id).function),
        _ => Vec::new(),
    }
}

/// A class's members: name, type, and the class that has it.
#[must_use]
pub fn class_members(db: &dyn Db, ty: Type) -> Vec<(String, String, String)> {
    let Type::Class(id) = ty else { return Vec::new() };
    let mut seen: Vec<Name> = Vec::new();
    let mut rows = Vec::new();
    for name in classes::names::names(db, id) {
        if seen.contains(&name) {
            continue;
        }
        seen.push(name);
        let Some(found) = members::find(db, id, name, None) else { continue };
        let owner = db.store().instance(found.owner).class;
        let text = db.names().text(name).to_owned();
        rows.push((text, show(db, found.member.ty), classes::shown(db, owner).to_owned()));
    }
    rows
}

/// A step on the way from a name to what it stands for.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Alias {
    /// The file.
    pub file: File,
    /// Where in there.
    pub range: TextRange,
    /// What happens there, in words.
    pub words: String,
}

/// How many aliases are followed.
const MOST_ALIASES: usize = 16;

/// The imports and assignments by which a dotted name comes to mean what it does, in order; empty where it is the name that the
/// thing was defined under.
#[must_use]
pub fn aliases(db: &dyn Db, dotted: &str) -> Vec<Alias> {
    let Some((module, name)) = dotted.rsplit_once('.') else { return Vec::new() };
    let Some(file) = resolve::module_file(db, db.names().intern(module), None) else { return Vec::new() };
    let mut at = (file, db.names().intern(name));
    let mut steps: Vec<Alias> = Vec::new();
    while steps.len() < MOST_ALIASES {
        let (file, name) = at;
        let index = module_index(db, file);
        let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else {
            let Some(next) = star_of(db, file, name) else { break };
            steps.push(next.0);
            at = next.1;
            continue;
        };
        let Some(def) = symbol.defs.iter().rev().map(|def| &index.defs[*def]).find(|def| !def.reach.is_never()) else {
            break;
        };
        let text = |name: Name| db.names().text(name);
        let next = match def.kind {
            DefKind::ImportFrom { module, level, name: imported, .. } => {
                let Some(Imported::File(target)) = import_target(db, file, module, level) else { break };
                let from = text(target.module(db));
                let words = if imported == name {
                    format!("imported from `{from}`")
                } else {
                    format!("`{}` of `{from}`, under another name", text(imported))
                };
                steps.push(Alias { file, range: def.range, words });
                Some((target, imported))
            }
            DefKind::Assign { value, unpack: None, .. }
            | DefKind::Annotated { value: Some(value), .. }
            | DefKind::TypeAlias { value } => match index.exprs[value] {
                Expr::Name(other, _) if other != name => {
                    steps.push(Alias { file, range: def.range, words: format!("another name for `{}`", text(other)) });
                    Some((file, other))
                }
                _ => {
                    if let Type::Form(_) = resolve::scope_type(db, file, ScopeId(0), name) {
                        let written = crate::findings::source::excerpt(db, file, index.spans[value]);
                        steps.push(Alias { file, range: def.range, words: format!("stands for `{written}`") });
                    }
                    None
                }
            },
            _ => None,
        };
        match next {
            Some(next) => at = next,
            None => break,
        }
    }
    steps
}

/// The star import that brings a name into a module.
fn star_of(db: &dyn Db, file: File, name: Name) -> Option<(Alias, (File, Name))> {
    let index = module_index(db, file);
    index.scopes[ScopeId(0)].stars.iter().rev().find_map(|star| {
        let DefKind::Star { module, level } = index.defs[*star].kind else { return None };
        let Imported::File(target) = import_target(db, file, module, level)? else { return None };
        resolve::own_name(db, target, name)?;
        let words = format!("all of `{}` is imported", db.names().text(target.module(db)));
        Some((Alias { file, range: index.defs[*star].range, words }, (target, name)))
    })
}

/// A parameter of a function.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Parameter {
    /// Its name, with its stars.
    pub name: String,
    /// Its type.
    pub ty: String,
    /// Its default as it is written; `None` where it must be given.
    pub default: Option<String>,
    /// How arguments reach it, in words.
    pub given: &'static str,
}

/// The parameters of a function that has one signature; none of others.
#[must_use]
pub fn parameters(db: &dyn Db, ty: Type) -> Vec<Parameter> {
    let store = db.store();
    let (id, skipped) = match ty {
        Type::Function(id) => (id, 0),
        Type::Method(id) => match store.method(id).function {
            Type::Function(id) => (id, 1),
            _ => return Vec::new(),
        },
        _ => return Vec::new(),
    };
    let function = *store.function(id);
    let all = &crate::outline::function(db, function.file, function.function).signatures;
    let [only] = all.as_ref() else { return Vec::new() };
    let declared = functions::declared(db, function.file, *only);
    let index = module_index(db, function.file);
    let record = &index.functions[*only];
    declared
        .params
        .iter()
        .zip(&record.params)
        .skip(skipped)
        .map(|(param, written)| Parameter {
            name: match param.kind {
                ParamKind::VarArgs => format!("*{}", db.names().text(param.name)),
                ParamKind::KwArgs => format!("**{}", db.names().text(param.name)),
                _ => db.names().text(param.name).to_owned(),
            },
            ty: show(db, param.ty),
            default: written
                .default
                .map(|default| crate::findings::source::excerpt(db, function.file, index.spans[default])),
            given: match param.kind {
                ParamKind::PositionalOnly => "by position",
                ParamKind::Normal => "by position or name",
                ParamKind::KeywordOnly => "by name",
                ParamKind::VarArgs => "any more by position",
                ParamKind::KwArgs => "any more by name",
            },
        })
        .collect()
}

/// What two classes have in common.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Common {
    /// The nearest classes that both are or derive from.
    pub nearest: Vec<(String, (File, TextRange))>,
    /// The protocols of the standard library that objects of both fit.
    pub fitted: Vec<String>,
}

/// The protocols that are tried, those that ask for more first.
const PROTOCOLS: &[(&str, &str)] = &[
    ("collections.abc", "MutableMapping"),
    ("collections.abc", "MutableSequence"),
    ("collections.abc", "MutableSet"),
    ("collections.abc", "Mapping"),
    ("collections.abc", "Sequence"),
    ("collections.abc", "Set"),
    ("collections.abc", "Generator"),
    ("collections.abc", "Iterator"),
    ("collections.abc", "Collection"),
    ("collections.abc", "Reversible"),
    ("collections.abc", "Iterable"),
    ("collections.abc", "Container"),
    ("collections.abc", "Sized"),
    ("collections.abc", "Awaitable"),
    ("collections.abc", "Callable"),
    ("os", "PathLike"),
    ("contextlib", "AbstractContextManager"),
    ("typing", "SupportsIndex"),
    ("typing", "SupportsInt"),
    ("typing", "SupportsFloat"),
    ("typing", "SupportsComplex"),
    ("typing", "SupportsAbs"),
    ("typing", "SupportsRound"),
    ("typing", "SupportsBytes"),
];

/// What two classes have in common; `None` where one of the types is no class.
#[must_use]
pub fn common(db: &dyn Db, one: Type, other: Type) -> Option<Common> {
    let (Type::Class(one), Type::Class(other)) = (one, other) else { return None };
    let store = db.store();
    let mro = |class: crate::types::InstanceId| -> Vec<ClassRef> {
        let info = classes::info(db, store.instance(class).class);
        info.mro.iter().map(|entry| store.instance(*entry).class).collect()
    };
    let (first, second) = (mro(one), mro(other));
    let shared: Vec<ClassRef> = first.into_iter().filter(|class| second.contains(class)).collect();
    let is_further = |class: ClassRef| {
        shared.iter().any(|nearer| *nearer != class && classes::derives(db, *nearer, class) == Some(true))
    };
    let nearest: Vec<ClassRef> = shared.iter().copied().filter(|class| !is_further(*class)).collect();
    let place = |class: &ClassRef| {
        let range = module_index(db, class.file).classes[class.class].name_range;
        (classes::shown(db, *class).to_owned(), (class.file, range))
    };
    let mut common = Common { nearest: nearest.iter().map(place).collect(), fitted: Vec::new() };
    let infer = Infer::new(db, store.instance(one).class.file, BodyId(0));
    let mut found: Vec<ClassRef> = Vec::new();
    for (module, name) in PROTOCOLS {
        let (module, own) = (db.names().intern(module), db.names().intern(name));
        let Some(class) = resolve::standard_class(db, module, own) else { continue };
        let wanted = Type::Instance(resolve::instance_of(db, class, &[]));
        let fits = [one, other].iter().all(|given| infer.is_assignable(Type::Instance(*given), wanted));
        // What one asks for that is told already need not be told again.
        let is_implied = found.iter().any(|nearer| classes::derives(db, *nearer, class) == Some(true))
            || nearest
                .iter()
                .any(|nearer| infer.is_assignable(Type::Instance(resolve::instance_of(db, *nearer, &[])), wanted));
        if fits && !is_implied {
            common.fitted.push((*name).to_owned());
        }
        if fits {
            found.push(class);
        }
    }
    Some(common)
}

/// Why a file answers for its module, in words.
#[must_use]
pub fn why(db: &dyn Db, file: File) -> &'static str {
    match file.origin(db) {
        Origin::Project => "the project's own source, found before anything that is installed",
        Origin::LocalStub => "a stub of the project's own, which comes before all else",
        Origin::Bundled => "the stub of the standard library that comes with Leitmotiv",
        Origin::StubPackage => "a stub, which comes before the package's own source",
        Origin::Typed => "an installed package that says it is typed (`py.typed`)",
        Origin::Untyped if file.path(db).starts_with('<') => {
            "machine code, of which only the names are known as they are used"
        }
        Origin::Untyped => "an installed package that says nothing of types: what is known is inferred",
        Origin::Library => "the interpreter's own source, as there is no stub: what is known is inferred",
    }
}
