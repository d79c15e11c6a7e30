//! Annotations from evidence: so far from defaults and from what functions return.

use std::collections::{BTreeMap, BTreeSet};
use std::sync::Arc;

use leitmotiv_engine::check::{Checked, Finding, check};
use leitmotiv_engine::db::{Database, Db, File};
use leitmotiv_engine::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::module::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_index::tree::{Expr, Function, FunctionId, ModuleIndex, ParamKind};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::edits::{Edit, EditError, apply};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{TextRange, TextSize};
use rayon::prelude::*;

use crate::change::Change;
use crate::imports;
use crate::spell::{Evaluated, Spelled, Style, spell};

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

/// Proposals for files, in the order of files and text.
#[must_use]
pub fn propose(db: &Database, files: &[File], wanted: &Wanted) -> Vec<Proposal> {
    let each: Vec<Vec<Proposal>> =
        files.par_iter().map_with(db.clone(), |db, file| in_file(db, *file, wanted)).collect();
    each.into_iter().flatten().collect()
}

fn in_file(db: &Database, file: File, wanted: &Wanted) -> Vec<Proposal> {
    let index = module_index(db, file);
    if file.is_stub(db) || !index.faults.is_empty() {
        return Vec::new();
    }
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
            bars: bars(db, file),
            bare: false,
            evaluated: evaluated(db, file, index, record),
            subscripts: db.project().python >= (3, 9),
            scope: record.parent,
        };
        if wanted.sources.contains(&Source::Defaults) {
            defaults(db, file, index, function, &dotted, style, &mut proposals);
        }
        if wanted.sources.contains(&Source::Returns) {
            proposals.extend(returns(db, file, index, function, &dotted, style));
        }
    }
    proposals.retain(|proposal| proposal.sureness >= wanted.at_least);
    proposals.sort_by_key(|proposal| proposal.at);
    proposals
}

/// Whether `int | None` can be written in a file: the target version has it, or annotations are not evaluated.
fn bars(db: &Database, file: File) -> bool {
    db.project().python >= (3, 10) || postpones(db, file)
}

/// Whether annotations of a file are left as they are until someone asks (PEP 563).
fn postpones(db: &Database, file: File) -> bool {
    file.text(db).contains("from __future__ import annotations")
}

fn evaluated(db: &Database, file: File, index: &ModuleIndex, record: &Function) -> Evaluated {
    if db.project().python >= (3, 14) || postpones(db, file) {
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
    let mut infer = Infer::new(db, file, functions::enclosing_body(db, file, function));
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
        let Some(spelled) = spell(db, file, ty, style) else { continue };
        let is_plain = matches!(index.exprs[default], Expr::Bool(_) | Expr::Str(_) | Expr::Int(_) | Expr::Float);
        let words = format!("the default is {}", leitmotiv_engine::rules::excerpt(db, file, index.spans[default]));
        proposals.push(Proposal {
            file,
            function: dotted.to_owned(),
            param: Some(db.names().text(param.name).to_owned()),
            at: param.name_range.end(),
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
    file: File,
    index: &ModuleIndex,
    function: FunctionId,
    dotted: &str,
    style: Style,
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
        let ty = functions::return_type(db, file, function);
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
    Some(Proposal {
        file,
        function: dotted.to_owned(),
        param: None,
        at: record.params_end,
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

/// How often proposals are tried out before the rest is taken as it is.
const MOST_TRIALS: usize = 3;

/// Leaves out the proposals that would make findings: each try checks the changed texts, and what is newly found takes
/// the proposals for the functions along its evidence with it. Gives what is left and how many were left out.
///
/// # Errors
/// [`EditError`] where proposals contradict each other.
pub fn vetted(
    db: &Database,
    files: &[File],
    mut proposals: Vec<Proposal>,
) -> Result<(Vec<Proposal>, usize), EditError> {
    let all = proposals.len();
    let before = tally(db, &check(db, files));
    for _ in 0..MOST_TRIALS {
        let trial = Database::new(db.project().clone());
        let root = &db.project().root;
        for change in changes(db, &proposals)? {
            let _ = trial.trial(&root.join(&change.path), change.after);
        }
        let tried: Vec<File> = files.iter().map(|file| trial.source(&root.join(file.path(db)))).collect();
        let checked = check(&trial, &tried);
        let after = tally(&trial, &checked);
        let mut blamed: BTreeSet<String> = BTreeSet::new();
        for finding in checked.iter().flat_map(|checked| &checked.findings) {
            let key = key(&trial, finding);
            if after.get(&key) <= before.get(&key) {
                continue;
            }
            blamed.insert(finding.symbol.clone());
            for step in &finding.evidence {
                let index = module_index(&trial, step.file);
                let around = index.functions.iter().filter(|(_, record)| record.range.contains_range(step.range));
                blamed.extend(around.map(|(id, _)| functions::qualified(&trial, step.file, Some(id))));
            }
        }
        let left = proposals.len();
        proposals.retain(|proposal| !blamed.contains(&proposal.function));
        if proposals.len() == left {
            break;
        }
    }
    let dropped = all - proposals.len();
    Ok((proposals, dropped))
}

type Key = (String, &'static str, String);

fn key(db: &Database, finding: &Finding) -> Key {
    (finding.file.path(db).to_owned(), finding.rule, finding.symbol.clone())
}

/// How many findings there are by file, rule and symbol; missing annotations apart.
fn tally(db: &Database, checked: &[Arc<Checked>]) -> BTreeMap<Key, usize> {
    let mut tally = BTreeMap::new();
    for finding in checked.iter().flat_map(|checked| &checked.findings) {
        if finding.severity > Severity::Note {
            *tally.entry(key(db, finding)).or_default() += 1;
        }
    }
    tally
}

/// The changes that proposals make.
///
/// # Errors
/// [`EditError`] where proposals contradict each other.
pub fn changes(db: &Database, proposals: &[Proposal]) -> Result<Vec<Change>, EditError> {
    let mut changes = Vec::new();
    let mut files: Vec<File> = Vec::new();
    for proposal in proposals {
        if !files.contains(&proposal.file) {
            files.push(proposal.file);
        }
    }
    for file in files {
        let text = file.text(db);
        let own: Vec<&Proposal> = proposals.iter().filter(|proposal| proposal.file == file).collect();
        let mut edits: Vec<Edit> = own.iter().map(|proposal| edit(text, proposal)).collect();
        edits.extend(imports::edits(text, module_index(db, file), own.iter().map(|proposal| &proposal.spelled)));
        let after = apply(text, &edits)?;
        changes.push(Change { path: file.path(db).to_owned(), before: Some(text.to_string()), after });
    }
    Ok(changes)
}

fn edit(text: &str, proposal: &Proposal) -> Edit {
    if proposal.param.is_none() {
        return Edit::insert(proposal.at, format!(" -> {}", proposal.spelled.text));
    }
    // `a=1` becomes `a: int = 1` (PEP 8).
    let rest = &text[usize::from(proposal.at)..];
    let equals = rest.find('=').unwrap_or(0);
    let gap = rest[equals + 1..].chars().take_while(|char| *char == ' ').count();
    let end = proposal.at + TextSize::try_from(equals + 1 + gap).unwrap_or_default();
    Edit::replace(TextRange::new(proposal.at, end), format!(": {} = ", proposal.spelled.text))
}
