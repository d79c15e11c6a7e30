//! The findings of files.

use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;

use leitmotiv_index::tree::ModuleIndex;
use leitmotiv_project::resolve::Origin;
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::{Name, known};
use rayon::prelude::*;
use rustc_hash::FxHashMap;

use crate::base::database::Database;
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::circles;
use crate::definitions::functions;
use crate::findings::evidence::Evidence;
use crate::findings::fingerprint::fingerprint;
use crate::findings::suppress;
use crate::infer::Infer;
use crate::problems::{Problem, ProblemKind};
use crate::resolve::module_index;
use crate::rules::{self, Context, Remedy, Rule};
use crate::types::{CauseId, Type};

/// Something to tell.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Finding {
    /// The rule's slug.
    pub rule: &'static str,
    /// The rule's own severity; settings may say otherwise.
    pub severity: Severity,
    /// The file.
    pub file: File,
    /// Where in there, in bytes.
    pub range: TextRange,
    /// What is wrong here.
    pub message: String,
    /// The dotted name of the function, class or module around it.
    pub symbol: String,
    /// The way of the type, oldest first.
    pub evidence: Vec<Evidence>,
    /// Ways out.
    pub remedies: Vec<Remedy>,
    /// What tells this finding from others of its rule: eight hexadecimal digits made of the code concerned, without its
    /// layout. It stays the same when lines move and names around it change.
    pub fingerprint: String,
    /// The name of the module that is missing, of an import that leads nowhere.
    pub missing: Option<String>,
    /// How many things that are wrong are told in one: imports of one missing package, parts of a signature.
    pub weight: usize,
}

impl Finding {
    /// The place of the project at the root of the finding: the first of its evidence that is no library's, else its own.
    #[must_use]
    pub fn cause(&self, db: &dyn Db) -> (File, TextRange) {
        self.first_step(db).map_or((self.file, self.range), |first| (first.file, first.range))
    }

    /// What happens at that place, in words.
    #[must_use]
    pub fn cause_text(&self, db: &dyn Db) -> &str {
        self.first_step(db).map_or(self.message.as_str(), |first| first.text.as_str())
    }

    fn first_step(&self, db: &dyn Db) -> Option<&Evidence> {
        let is_ours = |step: &&Evidence| matches!(step.file.origin(db), Origin::Project | Origin::LocalStub);
        self.evidence.iter().find(is_ours)
    }
}

/// What checking one file gives.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct Checked {
    /// The findings that no comment hides, by position, then rule.
    pub findings: Vec<Finding>,
    /// Number of lines.
    pub lines: usize,
    /// How many expressions there are that could have been known.
    pub expressions: usize,
    /// Those whose type is unknown, with the cause and how many there are of it, in the order of first appearance.
    pub unknown: Vec<(CauseId, usize)>,
    /// How many expressions are `Any`, which somebody wrote, here or in a library.
    pub any: usize,
    /// Whether the check itself failed.
    pub fault: bool,
    /// Where in `unknown` a cause stands.
    unknown_at: FxHashMap<CauseId, usize>,
}

impl Checked {
    /// Adds what was counted in a body.
    fn add(&mut self, other: Checked) {
        self.expressions += other.expressions;
        self.any += other.any;
        for (cause, count) in other.unknown {
            self.add_unknown(cause, count);
        }
    }

    fn add_unknown(&mut self, cause: CauseId, count: usize) {
        match self.unknown_at.get(&cause) {
            Some(at) => self.unknown[*at].1 += count,
            None => {
                self.unknown_at.insert(cause, self.unknown.len());
                self.unknown.push((cause, count));
            }
        }
    }
}

/// Checks one file.
#[salsa::tracked(returns(clone))]
pub fn check_file(db: &dyn Db, file: File) -> Arc<Checked> {
    Arc::new(run(db, file))
}

fn run(db: &dyn Db, file: File) -> Checked {
    if let Some(reason) = file.unreadable(db) {
        let message = format!("the file cannot be read: {reason}");
        return Checked { findings: vec![fault(file, message)], ..Checked::default() };
    }
    let index = module_index(db, file);
    let mut findings: Vec<Finding> = Vec::new();
    let mut missing = FxHashMap::default();
    let mut checked = Checked { lines: index.line_count, ..Checked::default() };
    let syntax = |fault: &leitmotiv_syntax::parse::SyntaxFault| {
        let kind = ProblemKind::Syntax { message: fault.message.clone() };
        Problem { range: fault.range, expr: None, kind }
    };
    let mut faults: Vec<Problem> = index.faults.iter().map(syntax).collect();
    let skip = unchecked(db, index);
    let mut nears = 0;
    for (body, record) in index.bodies.iter() {
        if record.function.is_some_and(|function| skip.contains(&function)) {
            continue;
        }
        let faults = std::mem::take(&mut faults);
        let mut own = Checked::default();
        // A fault of the program stays with the body that it happens in: the rest of the file is told.
        let result = guarded(|| {
            let mut told = Vec::new();
            if record.function.is_some_and(|function| !is_defined(db, file, index, function)) {
                return told;
            }
            let mut infer = Infer::new(db, file, body);
            infer.problems = faults;
            infer.nears = nears;
            infer.check();
            nears = infer.nears;
            count(&infer, &mut own);
            let problems = std::mem::take(&mut infer.problems);
            for problem in problems {
                if let Some((rule, worded)) = rules::word(&mut Context { infer: &mut infer }, &problem) {
                    told.push((rule, worded, problem));
                }
            }
            told
        });
        let Some(told) = result else {
            let around = functions::qualified(db, file, record.function);
            let range = record.function.map_or(TextRange::default(), |function| index.functions[function].name_range);
            let message = format!("Leitmotiv failed while checking `{around}`; the rest is reported");
            findings.push(Finding { range, symbol: around, ..fault(file, message) });
            checked.fault = true;
            continue;
        };
        checked.add(own);
        for (rule, worded, problem) in told {
            if let ProblemKind::ImportUnresolved { module, .. } = problem.kind {
                let part = missing_part(db, file, module);
                missing.insert(problem.range, (part, db.names().text(part).to_owned()));
            }
            let around = match &problem.kind {
                ProblemKind::AnnotationMissing { function, .. } => Some(*function),
                _ => record.function,
            };
            findings.push(finding(db, rule, file, &problem, worded, functions::qualified(db, file, around)));
        }
    }
    // A file that does not parse is read in part only: what is said of names in it may be wrong.
    if !index.faults.is_empty() {
        findings.retain(|finding| finding.rule == "syntax.error");
    }
    sort(&mut findings);
    findings.dedup();
    checked.findings = suppress::suppress(db, file, index, findings);
    fold_imports(&mut checked.findings, &missing);
    checked
}

/// Carries out some work; `None` where it panics. A query that is given up because something changed is no fault, and goes on
/// up.
fn guarded<T>(work: impl FnOnce() -> T) -> Option<T> {
    catch_unwind(AssertUnwindSafe(work))
        .map_err(|payload| {
            if payload.is::<salsa::Cancelled>() {
                std::panic::resume_unwind(payload);
            }
        })
        .ok()
}

/// What is missing of a module that cannot be found: its name up to the first part that is not there.
fn missing_part(db: &dyn Db, file: File, module: Name) -> Name {
    let text = db.names().text(module);
    let ends = text.match_indices('.').map(|(end, _)| end).chain([text.len()]);
    let mut parts = ends.map(|end| db.names().intern(&text[..end]));
    parts.find(|part| crate::resolve::module_value(db, *part, Some(file)).is_none()).unwrap_or(module)
}

/// One thing that is missing is told once in a file: where it is first imported, with the number of the other imports.
fn fold_imports(findings: &mut Vec<Finding>, missing: &FxHashMap<TextRange, (Name, String)>) {
    let mut others: FxHashMap<Name, usize> = FxHashMap::default();
    let part_of = |finding: &Finding| missing.get(&finding.range).filter(|_| finding.rule == "import.unresolved");
    findings.retain(|finding| {
        let Some((part, _)) = part_of(finding) else { return true };
        let count = others.entry(*part).or_default();
        *count += 1;
        *count == 1
    });
    for finding in findings {
        let Some((part, name)) = part_of(finding) else { continue };
        finding.weight = others[part];
        finding.fingerprint = fingerprint(name);
        finding.missing = Some(name.clone());
        match others[part] - 1 {
            0 => {}
            1 => finding.message.push_str(&format!("; another import below needs `{name}` as well")),
            more => finding.message.push_str(&format!("; {more} more imports below need `{name}` as well")),
        }
    }
}

/// Whether a function's definition, and those it stands in, can be reached.
fn is_defined(db: &dyn Db, file: File, index: &ModuleIndex, function: leitmotiv_index::tree::FunctionId) -> bool {
    use leitmotiv_index::tree::ReachId;
    let mut next = Some(function);
    while let Some(function) = next {
        let def = &index.defs[index.functions[function].def];
        let is_reached = match def.reach {
            ReachId::ALWAYS => true,
            reach if reach.is_never() => false,
            reach => Infer::new(db, file, def.body).reachable(reach),
        };
        if !is_reached {
            return false;
        }
        next = index.bodies[def.body].function;
    }
    true
}

pub(crate) fn finding(
    db: &dyn Db,
    rule: &'static Rule,
    file: File,
    problem: &Problem,
    worded: rules::Worded,
    symbol: String,
) -> Finding {
    let (fingerprint, weight) = match &problem.kind {
        ProblemKind::AnnotationMissing { function, params, returns } => {
            // All parameters, so that it stays the same while they are annotated one by one.
            let index = module_index(db, file);
            let all: Vec<&str> =
                index.functions[*function].params.iter().map(|param| db.names().text(param.name)).collect();
            (fingerprint(&all.join(" ")), params.len() + usize::from(*returns))
        }
        _ => {
            let range = usize::from(problem.range.start())..usize::from(problem.range.end());
            (fingerprint(file.text(db).get(range).unwrap_or_default()), 1)
        }
    };
    Finding {
        fingerprint,
        missing: None,
        weight,
        rule: rule.slug,
        severity: rule.severity,
        file,
        range: problem.range,
        message: worded.message,
        symbol,
        evidence: worded.evidence,
        remedies: worded.remedies,
    }
}

fn fault(file: File, message: String) -> Finding {
    Finding {
        rule: "engine.fault",
        severity: Severity::Error,
        file,
        range: TextRange::default(),
        message,
        symbol: String::new(),
        evidence: Vec::new(),
        remedies: Vec::new(),
        fingerprint: String::new(),
        missing: None,
        weight: 1,
    }
}

pub(crate) fn sort(findings: &mut [Finding]) {
    findings.sort_by(|one, other| {
        (one.range.start(), one.range.end(), one.rule, &one.message).cmp(&(
            other.range.start(),
            other.range.end(),
            other.rule,
            &other.message,
        ))
    });
}

/// Functions under `@no_type_check` (PEP 484), with those inside of them.
fn unchecked(db: &dyn Db, index: &ModuleIndex) -> Vec<leitmotiv_index::tree::FunctionId> {
    if db.names().find("no_type_check").is_none() {
        return Vec::new();
    }
    let marked: Vec<TextRange> = index
        .functions
        .iter()
        .filter(|(_, function)| {
            let mut names = function.decorators.iter().map(|decorator| index.decorator_name(*decorator));
            names.any(|name| name == Some(known::NO_TYPE_CHECK))
        })
        .map(|(_, function)| function.range)
        .collect();
    if marked.is_empty() {
        return Vec::new();
    }
    index
        .functions
        .iter()
        .filter(|(_, function)| marked.iter().any(|range| range.contains_range(function.range)))
        .map(|(id, _)| id)
        .collect()
}

/// Counts what is known of a body's expressions.
fn count(infer: &Infer<'_>, checked: &mut Checked) {
    let mut all: Vec<_> = infer.known_exprs().collect();
    all.sort_by_key(|(expr, _)| *expr);
    let store = infer.db.store();
    for (_, ty) in all {
        checked.expressions += 1;
        let unknown = match ty {
            Type::Unknown(cause) => Some(cause),
            Type::Union(id) => store.union_parts(id).iter().find_map(|part| match part {
                Type::Unknown(cause) => Some(*cause),
                _ => None,
            }),
            _ => None,
        };
        if let Some(cause) = unknown {
            checked.add_unknown(cause, 1);
        } else if crate::types::union::parts(store, &ty).contains(&Type::Any) {
            checked.any += 1;
        }
    }
}

/// Checks files in parallel; the results are in the order of the files. A panic stays with the body that it happens in.
#[must_use]
pub fn check(db: &Database, files: &[File]) -> Vec<Arc<Checked>> {
    // What the files say by themselves depends on nothing else, and so is worked out side by side without any waiting.
    files.par_iter().for_each_with(db.clone(), |db, file| {
        let _ = catch_unwind(AssertUnwindSafe(|| module_index(db, *file)));
    });
    // Results at the end of long chains of calls are worked out from the ground up, with little stack.
    files.par_iter().for_each_with(db.clone(), |db, file| {
        let calls = catch_unwind(AssertUnwindSafe(|| circles::calls(db, *file))).unwrap_or_default();
        for function in &calls.on_the_way {
            let _ = catch_unwind(AssertUnwindSafe(|| functions::open_return_type(db, *file, *function)));
        }
    });
    files
        .par_iter()
        .map_with(db.clone(), |db, file| {
            guarded(|| check_file(db, *file)).unwrap_or_else(|| {
                let message = "Leitmotiv failed while checking this file; the other files are reported".to_owned();
                Arc::new(Checked { findings: vec![fault(*file, message)], fault: true, ..Checked::default() })
            })
        })
        .collect()
}
