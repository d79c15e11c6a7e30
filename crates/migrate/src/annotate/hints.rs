//! What stands unwritten in a file: the types of slots without annotations, as far as they are known at once.
//!
//! These are shown while somebody types, so nothing is weighed or tried here: a parameter is what its default and the project's calls are, a
//! result what the function gives, a variable what it is first assigned.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{Type, holds, union};
use leitmotiv_engine::view::passed;
use leitmotiv_index::tree::{BodyShape, Def, DefKind, Expr, FunctionId, ModuleIndex, ParamKind, ScopeKind};
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::{TextRange, TextSize};

use super::generalise::together;
use super::imports::{self, Needed};
use super::rounds::open_parameters;
use super::{Evaluated, Refused, Wanted, Writer, evaluated, outermost, results};
use crate::spell::{Spelled, spell};

/// A type that stands unwritten at a place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Hint {
    /// Where its annotation would go, in bytes.
    pub at: TextSize,
    /// What of.
    pub kind: HintKind,
    /// What would be written there: `: int`, ` -> str`.
    pub text: String,
    /// What is changed to write it, imports among it; empty where there is no place for these.
    pub edits: Vec<Edit>,
    /// Where the type comes from, in a few words.
    pub why: String,
}

/// What a hint is of.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum HintKind {
    /// A parameter.
    Parameter,
    /// What a function gives.
    Return,
    /// A variable or an attribute.
    Variable,
}

/// The types that stand unwritten in a stretch of a file, in the order of the text.
#[must_use]
pub fn hints(db: &Database, file: File, stretch: TextRange) -> Vec<Hint> {
    let index = module_index(db, file);
    if file.is_stub(db) || !file.origin(db).is_own() {
        return Vec::new();
    }
    let wanted = Wanted::default();
    let refused = Refused::default();
    let writer = Writer::new(db, file, &wanted, &refused);
    let mut found = Vec::new();
    for (function, record) in index.functions.iter() {
        if !stretch.contains_inclusive(record.params_end) && stretch.intersect(record.range).is_none() {
            continue;
        }
        let style = writer.style(record.parent, evaluated(db, writer.postpones, index, record));
        let before = outermost(index, record.parent, record.range.start());
        if stretch.contains_inclusive(record.params_end) {
            parameters(&writer, index, function, style, before, &mut found);
        }
        if record.returns.is_none()
            && record.shape == BodyShape::Code
            && stretch.contains_inclusive(record.params_end)
            && !results::has_strange_decorator(index, function)
            && let Some(ty) = result(db, file, index, function)
            && let Some(spelled) = spell(db, file, ty, style)
        {
            let text = format!(" -> {}", spelled.text);
            let edits = vec![Edit::insert(record.params_end, text.clone())];
            let why = "what the function gives".to_owned();
            let hint = Hint { at: record.params_end, kind: HintKind::Return, text, edits, why };
            found.push(writer.with_imports(hint, &spelled, before));
        }
    }
    for (_, def) in index.defs.iter().filter(|(_, def)| stretch.contains_inclusive(def.range.end())) {
        found.extend(variable(&writer, index, def));
    }
    found.sort_by_key(|hint| hint.at);
    found.dedup();
    found
}

/// What awaiting or calling a function gives, where all of it is known.
fn result(db: &Database, file: File, index: &ModuleIndex, function: FunctionId) -> Option<Type> {
    let record = &index.functions[function];
    let infer = Infer::new(db, file, record.body);
    let mut ty = functions::open_return_type(db, file, function);
    if record.is_async
        && index.bodies[record.body].yields.is_empty()
        && let Type::Instance(id) = ty
    {
        ty = db.store().instance(id).args.get(2).copied().unwrap_or(ty);
    }
    let ty = together(db, &infer, [results::iterated(db, ty)]);
    is_known(db, ty).then_some(ty)
}

fn is_known(db: &Database, ty: Type) -> bool {
    ty != Type::Never && !holds(db.store(), ty, &Type::is_dynamic)
}

fn parameters(
    writer: &Writer<'_>,
    index: &ModuleIndex,
    function: FunctionId,
    style: crate::spell::Style,
    before: TextSize,
    found: &mut Vec<Hint>,
) {
    let (db, file) = (writer.db, writer.file);
    let open = open_parameters(db, file, index, function);
    if open.is_empty() {
        return;
    }
    let record = &index.functions[function];
    let passed = passed::to(db, file, function);
    let mut outside = Infer::new(db, file, index.defs[record.def].body);
    for parameter in open {
        let param = &record.params[parameter.place as usize];
        let given: Vec<Type> = passed.iter().filter(|(_, one)| one.to == parameter).map(|(_, one)| one.ty).collect();
        let default = param.default.map(|default| outside.expr(default));
        // A default of None says that there is something else as well.
        if given.is_empty() && default.is_none_or(|default| default == Type::None) {
            continue;
        }
        let ty = together(db, &outside, given.iter().copied().chain(default));
        let is_long = union::parts(db.store(), &ty).len() > MOST_PARTS;
        if is_long || !is_known(db, ty) || ty == Type::None {
            continue;
        }
        let Some(spelled) = spell(db, file, ty, style) else { continue };
        let at = param.name_range.end();
        let text = format!(": {}", spelled.text);
        let edit = match param.default {
            // `a=1` becomes `a: int = 1` (PEP 8).
            Some(default) if file.text(db)[TextRange::new(at, index.spans[default].start())].trim() == "=" => {
                Edit::replace(TextRange::new(at, index.spans[default].start()), format!("{text} = "))
            }
            _ => Edit::insert(at, text.clone()),
        };
        let why = match (given.len(), default.is_some()) {
            (0, _) => "what its default is".to_owned(),
            (1, false) => "what its one call passes".to_owned(),
            (1, true) => "what its one call passes, and its default".to_owned(),
            (calls, false) => format!("what its {calls} calls pass"),
            (calls, true) => format!("what its {calls} calls pass, and its default"),
        };
        let is_star = matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs);
        if !is_star || !given.is_empty() {
            let hint = Hint { at, kind: HintKind::Parameter, text, edits: vec![edit], why };
            found.push(writer.with_imports(hint, &spelled, before));
        }
    }
}

/// Types of more parts than that are no hint.
const MOST_PARTS: usize = 4;

/// A name that is first assigned here, and nowhere declared, where the value itself does not show its type.
fn variable(writer: &Writer<'_>, index: &ModuleIndex, def: &Def) -> Option<Hint> {
    let (db, file) = (writer.db, writer.file);
    let DefKind::Assign { value, unpack: None, comment: None } = def.kind else { return None };
    let symbol = index.scopes[def.scope].symbols.get(&def.name)?;
    let first = symbol.defs.first().map(|first| &index.defs[*first])?;
    let is_declared = symbol.defs.iter().any(|other| matches!(index.defs[*other].kind, DefKind::Annotated { .. }));
    let is_only_name = file.text(db).get(usize::from(def.range.start())..usize::from(def.range.end()))
        == Some(db.names().text(def.name));
    let is_simple = file.text(db)[usize::from(def.range.end())..].trim_start_matches([' ', '\t']).starts_with('=');
    if first.range != def.range || is_declared || !is_only_name || !is_simple || !symbol.foreign.is_empty() {
        return None;
    }
    // `self.berth = …` is of another scope than it stands in: only plain names are told.
    if index.exprs[value].shows_type()
        || !matches!(index.scopes[def.scope].kind, ScopeKind::Module | ScopeKind::Function(_))
    {
        return None;
    }
    let mut infer = Infer::new(db, file, def.body);
    let ty = infer.expr(value);
    if let (Type::Instance(id), Expr::Call { callee, .. }) = (ty, &index.exprs[value])
        && infer.expr(*callee) == Type::Class(id)
    {
        return None;
    }
    // Modules, classes and functions under another name need no annotation, and could not have one.
    if union::parts(db.store(), &ty)
        .iter()
        .any(|part| !matches!(part, Type::Instance(_) | Type::None | Type::Tuple(_) | Type::Literal(_)))
    {
        return None;
    }
    let ty = together(db, &infer, [ty]);
    if !is_known(db, ty) || ty == Type::None {
        return None;
    }
    let evaluated = match index.scopes[def.scope].kind {
        // Annotations of names in a function are not evaluated (PEP 526).
        ScopeKind::Function(_) => Evaluated::Never,
        _ if writer.postpones || db.project().python >= (3, 14) => Evaluated::Never,
        _ => Evaluated::At(def.range.start()),
    };
    let spelled = spell(db, file, ty, writer.style(def.scope, evaluated))?;
    let at = def.range.end();
    let text = format!(": {}", spelled.text);
    let edits = vec![Edit::insert(at, text.clone())];
    let before = outermost(index, def.scope, def.range.start());
    let hint = Hint { at, kind: HintKind::Variable, text, edits, why: "what it is assigned".to_owned() };
    Some(writer.with_imports(hint, &spelled, before))
}

impl Writer<'_> {
    /// A hint whose one edit needs imports beside it.
    fn with_imports(&self, hint: Hint, spelled: &Spelled, before: TextSize) -> Hint {
        let db = self.db;
        let needed =
            [Needed { imports: &spelled.imports, guarded: &spelled.guarded, before, statements: &[] }].into_iter();
        let source = self.file.text(db);
        let imports = match self.no_imports && !spelled.imports.is_empty() {
            true => None,
            false => imports::edits(source, module_index(db, self.file), needed, &|name| db.is_standard_name(name)),
        };
        match imports {
            Some(imports) => Hint { edits: hint.edits.into_iter().chain(imports).collect(), ..hint },
            None => Hint { edits: Vec::new(), ..hint },
        }
    }
}
