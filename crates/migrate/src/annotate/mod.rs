//! Annotations from evidence: so far from defaults and from what functions return.
//!
//! - this file: proposals, with their evidence
//! - [`edit`]: proposals as changes to files, each proved to be the same program
//! - `hooks`: methods that subclasses are to write
//! - `imports`: the imports that written annotations need
//! - [`vet`]: proposals tried out together, round by round, until nothing is left to propose

pub mod edit;
mod hooks;
mod imports;
pub mod vet;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_index::tree::{DefKind, Expr, Function, FunctionId, ModuleIndex, ParamKind, ScopeKind};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{TextRange, TextSize};
use rayon::prelude::*;

use crate::spell::{Evaluated, Spelled, Style, makes_names, spell};

/// A kind of evidence.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Source {
    /// A parameter's default.
    Defaults,
    /// What a function returns.
    Returns,
}

/// How sure a proposal is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Sureness {
    /// Other values are likely to be meant as well.
    Low,
    /// What is written covers what can be seen.
    Fair,
    /// Nothing else is possible.
    Sure,
}

impl Sureness {
    /// Its name.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Sureness::Low => "low",
            Sureness::Fair => "fair",
            Sureness::Sure => "sure",
        }
    }
}

/// A proposed annotation.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Proposal {
    /// The file.
    pub file: File,
    /// The dotted name of the function.
    pub function: String,
    /// The parameter's name, or `None` for the return.
    pub param: Option<String>,
    /// Where the annotation goes.
    pub at: TextSize,
    /// Where the parameter's default begins.
    pub default: Option<TextSize>,
    /// Where the statement begins that the function's outermost scope stands in: what the annotation names must be bound by
    /// then.
    pub before: TextSize,
    /// What is written.
    pub spelled: Spelled,
    /// What kind of evidence it comes from.
    pub source: Source,
    /// The evidence in words, and where it lies.
    pub evidence: Vec<(TextRange, String)>,
    /// How sure it is.
    pub sureness: Sureness,
}

/// What is asked for.
#[derive(Debug, Clone)]
pub struct Wanted {
    /// Kinds of evidence to use.
    pub sources: Vec<Source>,
    /// The least sure that is wanted.
    pub at_least: Sureness,
    /// Functions by name or dotted name; all where empty.
    pub functions: Vec<String>,
}

impl Default for Wanted {
    fn default() -> Wanted {
        Wanted { sources: vec![Source::Defaults, Source::Returns], at_least: Sureness::Fair, functions: Vec::new() }
    }
}

/// Proposals for files, in the order of files and text.
#[must_use]
pub fn propose(db: &Database, files: &[File], wanted: &Wanted) -> Vec<Proposal> {
    let methods = hooks::Methods::default();
    let each: Vec<Vec<Proposal>> =
        files.par_iter().map_with(db.clone(), |db, file| in_file(db, *file, wanted, &methods)).collect();
    each.into_iter().flatten().collect()
}

fn in_file(db: &Database, file: File, wanted: &Wanted, methods: &hooks::Methods) -> Vec<Proposal> {
    let index = module_index(db, file);
    if file.is_stub(db) || !index.faults.is_empty() {
        return Vec::new();
    }
    let in_file = InFile {
        postpones: postpones(db, file),
        makes_names: makes_names(db, file),
        // What the library itself needs to make `typing` cannot import from it.
        no_imports: db.is_library_name(file),
    };
    let mut proposals = Vec::new();
    for (function, record) in index.functions.iter() {
        let dotted = functions::qualified(db, file, Some(function));
        let name = db.names().text(record.name);
        let asked = wanted.functions.is_empty()
            || wanted
                .functions
                .iter()
                .any(|asked| asked == name || dotted == *asked || dotted.ends_with(&format!(".{asked}")));
        if !asked {
            continue;
        }
        let style = Style {
            bars: db.project().python >= (3, 10) || in_file.postpones,
            bare: false,
            evaluated: evaluated(db, in_file.postpones, index, record),
            subscripts: db.project().python >= (3, 9),
            scope: record.parent,
            self_types: db.project().python >= (3, 11),
            makes_names: in_file.makes_names,
        };
        if wanted.sources.contains(&Source::Defaults) {
            defaults(db, file, index, function, &dotted, style, &mut proposals);
        }
        if wanted.sources.contains(&Source::Returns) {
            proposals.extend(returns(db, (file, index, function), &dotted, style, methods));
        }
    }
    proposals.retain(|proposal| {
        let needs_import = !proposal.spelled.imports.is_empty();
        proposal.sureness >= wanted.at_least && !(in_file.no_imports && needs_import)
    });
    proposals.sort_by_key(|proposal| proposal.at);
    proposals
}

/// What holds for all annotations of a file.
struct InFile {
    postpones: bool,
    makes_names: bool,
    no_imports: bool,
}

/// Whether annotations of a file are left as they are until someone asks (PEP 563).
fn postpones(db: &Database, file: File) -> bool {
    let names = db.names();
    module_index(db, file).defs.iter().any(|(_, def)| match def.kind {
        DefKind::ImportFrom { module, level: 0, name, .. } => {
            names.text(module) == "__future__" && names.text(name) == "annotations"
        }
        _ => false,
    })
}

fn evaluated(db: &Database, postpones: bool, index: &ModuleIndex, record: &Function) -> Evaluated {
    if db.project().python >= (3, 14) || postpones {
        return Evaluated::Never;
    }
    match index.bodies[index.defs[record.def].body].function {
        Some(_) => Evaluated::WhenCalled,
        None => Evaluated::At(record.def_start),
    }
}

fn defaults(
    db: &Database,
    file: File,
    index: &ModuleIndex,
    function: FunctionId,
    dotted: &str,
    style: Style,
    proposals: &mut Vec<Proposal>,
) {
    let record = &index.functions[function];
    let mut infer = Infer::new(db, file, leitmotiv_engine::outline::functions::enclosing_body(db, file, function));
    for param in &record.params {
        let (None, Some(default)) = (param.annotation, param.default) else { continue };
        if matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) {
            continue;
        }
        // None as a default says that something else is usual; what, it does not say.
        let ty = infer.expr(default);
        let ty = infer.widen(ty);
        if ty == Type::None {
            continue;
        }
        // An empty tuple stands for any number of things: what they are, it does not say either.
        if matches!(&index.exprs[default], Expr::Tuple(parts) if parts.is_empty()) {
            continue;
        }
        let Some(spelled) = spell(db, file, ty, style) else { continue };
        let is_plain = matches!(index.exprs[default], Expr::Bool(_) | Expr::Str(_) | Expr::Int(_) | Expr::Float);
        let words =
            format!("the default is {}", leitmotiv_engine::findings::source::excerpt(db, file, index.spans[default]));
        proposals.push(Proposal {
            file,
            function: dotted.to_owned(),
            param: Some(db.names().text(param.name).to_owned()),
            at: param.name_range.end(),
            default: Some(index.spans[default].start()),
            before: outermost(index, function),
            spelled,
            source: Source::Defaults,
            evidence: vec![(index.spans[default], words)],
            // A tuple may be meant as any sequence, a call as anything that its class derives from.
            sureness: if is_plain { Sureness::Fair } else { Sureness::Low },
        });
    }
}

fn returns(
    db: &Database,
    (file, index, function): (File, &ModuleIndex, FunctionId),
    dotted: &str,
    style: Style,
    methods: &hooks::Methods,
) -> Option<Proposal> {
    let record = &index.functions[function];
    if record.returns.is_some() || has_strange_decorator(index, function) {
        return None;
    }
    let mut evidence = Vec::new();
    let (ty, sureness) = if record.name == known::INIT {
        evidence.push((record.name_range, "`__init__` always gives None".to_owned()));
        (Type::None, Sureness::Sure)
    } else {
        let ty = match style.self_types {
            true => functions::open_return_type(db, file, function),
            false => functions::return_type(db, file, function),
        };
        let mut infer = Infer::new(db, file, record.body);
        let body = &index.bodies[record.body];
        for statement in &body.returns {
            if infer.reachable(statement.reach) {
                let ty = statement.value.map_or(Type::None, |value| infer.expr(value));
                let shown = leitmotiv_engine::types::display::show(db, infer.widen(ty));
                evidence.push((statement.range, format!("returns {shown}")));
            }
        }
        if infer.reachable(body.end) && body.yields.is_empty() {
            evidence.push((record.name_range, "ends without a return".to_owned()));
        }
        // A method may be meant to give more than this one does.
        let sureness = match (record.class, overridable(index, function)) {
            (Some(_), true) => Sureness::Low,
            _ => Sureness::Fair,
        };
        (ty, if ty == Type::None && sureness == Sureness::Fair { Sureness::Sure } else { sureness })
    };
    // A coroutine's annotation is what awaiting it gives.
    let ty = match ty {
        Type::Instance(id) if record.is_async && index.bodies[record.body].yields.is_empty() => {
            *db.store().instance(id).args.get(2)?
        }
        ty => ty,
    };
    let spelled = spell(db, file, ty, style)?;
    let mut sureness = sureness;
    if let Some(contradiction) = methods.contradiction(db, file, function, (ty, &spelled.text)) {
        evidence.push(contradiction);
        sureness = Sureness::Low;
    }
    Some(Proposal {
        file,
        function: dotted.to_owned(),
        param: None,
        at: record.params_end,
        default: None,
        before: outermost(index, function),
        spelled,
        source: Source::Returns,
        evidence,
        sureness,
    })
}

/// Whether a method only stands for those of subclasses.
fn overridable(index: &ModuleIndex, function: FunctionId) -> bool {
    let record = &index.functions[function];
    record.shape != leitmotiv_index::tree::BodyShape::Code
        || record.decorators.iter().any(|decorator| index.decorator_name(*decorator) == Some(known::ABSTRACTMETHOD))
}

/// Decorators that take the return apart: then what the function returns is not what callers see.
fn has_strange_decorator(index: &ModuleIndex, function: FunctionId) -> bool {
    index.functions[function].decorators.iter().any(|decorator| {
        matches!(index.exprs[*decorator], Expr::Attribute { name: known::SETTER | known::DELETER, .. })
            || index.decorator_name(*decorator) == Some(known::OVERLOAD)
    })
}

/// Where the outermost definition around a function begins, decorators included.
fn outermost(index: &ModuleIndex, function: FunctionId) -> TextSize {
    let mut start = index.functions[function].range.start();
    let mut scope = Some(index.functions[function].parent);
    while let Some(id) = scope {
        match index.scopes[id].kind {
            ScopeKind::Class(class) => start = start.min(index.classes[class].range.start()),
            ScopeKind::Function(outer) => start = start.min(index.functions[outer].range.start()),
            _ => {}
        }
        scope = index.scopes[id].parent;
    }
    start
}
