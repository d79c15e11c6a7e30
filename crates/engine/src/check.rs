//! The findings of files.

use std::panic::{AssertUnwindSafe, catch_unwind};
use std::sync::Arc;

use leitmotiv_index::tree::{BodyId, ModuleIndex};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::comments::Meaning;
use leitmotiv_syntax::names::known;
use rayon::prelude::*;

use crate::db::{Database, Db, File};
use crate::evidence::Evidence;
use crate::functions;
use crate::infer::Infer;
use crate::module::module_index;
use crate::problems::{Problem, ProblemKind};
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
}

impl Finding {
    /// The place at the root of the finding: the first of its evidence, else its own.
    #[must_use]
    pub fn cause(&self) -> (File, TextRange) {
        self.evidence.first().map_or((self.file, self.range), |first| (first.file, first.range))
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
    /// Whether the check itself failed.
    pub fault: bool,
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
    let mut found: Vec<(Finding, Option<Problem>)> = Vec::new();
    let mut checked = Checked { lines: index.line_count, ..Checked::default() };
    let mut infer = Infer::new(db, file, BodyId(0));
    for fault in &index.faults {
        let kind = ProblemKind::Syntax { message: fault.message.clone() };
        infer.problems.push(Problem { range: fault.range, expr: None, kind });
    }
    let skip = unchecked(db, index);
    for (body, record) in index.bodies.iter() {
        if record.function.is_some_and(|function| skip.contains(&function) || !is_defined(db, file, index, function)) {
            continue;
        }
        if body != BodyId(0) {
            infer = Infer::new(db, file, body);
        }
        infer.check();
        count(&infer, &mut checked);
        let problems = std::mem::take(&mut infer.problems);
        for problem in problems {
            if let Some((rule, worded)) = rules::word(&mut Context { infer: &mut infer }, &problem) {
                let symbol = functions::qualified(db, file, record.function);
                found.push((finding(rule, file, &problem, worded, symbol), Some(problem)));
            }
        }
    }
    let mut findings: Vec<Finding> = found.into_iter().map(|(finding, _)| finding).collect();
    // A file that does not parse is read in part only: what is said of names in it may be wrong.
    if !index.faults.is_empty() {
        findings.retain(|finding| finding.rule == "syntax.error");
    }
    sort(&mut findings);
    findings.dedup();
    checked.findings = suppress(db, file, index, findings);
    checked
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

fn finding(rule: &'static Rule, file: File, problem: &Problem, worded: rules::Worded, symbol: String) -> Finding {
    Finding {
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
    }
}

fn sort(findings: &mut [Finding]) {
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
            match checked.unknown.iter_mut().find(|(other, _)| *other == cause) {
                Some((_, count)) => *count += 1,
                None => checked.unknown.push((cause, 1)),
            }
        }
    }
}

/// Leaves out what comments hide, and tells which of ours hide nothing.
fn suppress(db: &dyn Db, file: File, index: &ModuleIndex, findings: Vec<Finding>) -> Vec<Finding> {
    if index.comments.is_empty() {
        return findings;
    }
    let lines = &index.lines.0;
    let text = file.text(db);
    let first_code = first_code_line(text);
    let mut used: Vec<Vec<bool>> = index
        .comments
        .iter()
        .map(|comment| match &comment.meaning {
            Some(Meaning::Allow { rules, .. }) => vec![false; rules.len()],
            _ => Vec::new(),
        })
        .collect();
    let mut kept = Vec::with_capacity(findings.len());
    for finding in findings {
        let line = lines.index_of(finding.range.start());
        let end = lines.index_of(finding.range.end());
        // What a comment says at the head of an import over several lines holds for all its names.
        let head = if finding.rule.starts_with("import.") { import_head(text, line) } else { line };
        let mut hidden = false;
        for (number, comment) in index.comments.iter().enumerate() {
            let own = lines.index_of(comment.range.start());
            let whole_file = comment.own_line && own < first_code;
            let within = line <= own && own <= end;
            let here = within || own == head || (comment.own_line && own + 1 == line);
            match &comment.meaning {
                Some(Meaning::Ignore { codes }) if (here && !comment.own_line) || whole_file => {
                    let ours: Vec<&String> = codes.iter().filter(|code| rules::exists(code)).collect();
                    let all_ours = !codes.is_empty() && ours.len() == codes.len();
                    if !all_ours || ours.iter().any(|code| matches(code, finding.rule)) {
                        hidden = true;
                    }
                }
                Some(Meaning::Allow { rules: allowed, .. }) if here || whole_file => {
                    for (slot, rule) in allowed.iter().enumerate() {
                        if matches(rule, finding.rule) {
                            used[number][slot] = true;
                            hidden = true;
                        }
                    }
                }
                _ => {}
            }
        }
        if !hidden {
            kept.push(finding);
        }
    }
    for (comment, used) in index.comments.iter().zip(used) {
        let mut tell = |what: String| {
            let problem = Problem { range: comment.range, expr: None, kind: ProblemKind::SuppressionUnused { what } };
            let mut infer = Infer::new(db, file, BodyId(0));
            if let Some((rule, worded)) = rules::word(&mut Context { infer: &mut infer }, &problem) {
                kept.push(finding(rule, file, &problem, worded, functions::qualified(db, file, None)));
            }
        };
        match &comment.meaning {
            Some(Meaning::Allow { rules: allowed, .. }) => {
                for (rule, used) in allowed.iter().zip(used) {
                    if !rules::exists(rule) {
                        let known = rules::ALL.iter().map(|rule| rule.slug);
                        let near = leitmotiv_project::settings::nearest(rule, known);
                        let near = near.map(|near| format!(" (is `{near}` meant?)")).unwrap_or_default();
                        tell(format!("there is no rule `{rule}`{near}"));
                    } else if !used && rules::by_slug(rule).is_none_or(|rule| rule.severity != Severity::Off) {
                        tell(format!("nothing of `{rule}` is found here"));
                    }
                }
            }
            Some(Meaning::Ignore { codes }) if codes.is_empty() => {
                let problem = Problem { range: comment.range, expr: None, kind: ProblemKind::SuppressionBlanket };
                let mut infer = Infer::new(db, file, BodyId(0));
                if let Some((rule, worded)) = rules::word(&mut Context { infer: &mut infer }, &problem) {
                    kept.push(finding(rule, file, &problem, worded, functions::qualified(db, file, None)));
                }
            }
            Some(Meaning::Malformed) => {
                tell("not understood: write `# leitmotiv: allow(rule) reason`".to_owned());
            }
            _ => {}
        }
    }
    sort(&mut kept);
    kept
}

fn matches(pattern: &str, rule: &str) -> bool {
    pattern == rule || pattern.strip_suffix(".*").is_some_and(|family| rule.split('.').next() == Some(family))
}

/// The 0-based line on which the import statement begins that a line belongs to.
fn import_head(text: &str, line: usize) -> usize {
    let lines: Vec<&str> = text.lines().take(line + 1).collect();
    let begins = |line: &&str| line.trim_start().starts_with("from ") || line.trim_start().starts_with("import ");
    lines.iter().rposition(begins).unwrap_or(line)
}

/// The 0-based line of the first thing that is no comment, before which a comment speaks for the whole file.
fn first_code_line(text: &str) -> usize {
    text.lines().position(|line| !line.trim().is_empty() && !line.trim_start().starts_with('#')).unwrap_or(usize::MAX)
}

/// Checks files in parallel; the results are in the order of the files. A panic stays with its file.
#[must_use]
pub fn check(db: &Database, files: &[File]) -> Vec<Arc<Checked>> {
    // What the files say by themselves depends on nothing else, and so is worked out side by side without any waiting.
    files.par_iter().for_each_with(db.clone(), |db, file| {
        let _ = catch_unwind(AssertUnwindSafe(|| module_index(db, *file)));
    });
    files
        .par_iter()
        .map_with(db.clone(), |db, file| {
            let result = catch_unwind(AssertUnwindSafe(|| check_file(db, *file)));
            result.unwrap_or_else(|_| {
                let message = "Leitmotiv failed while checking this file; the other files are reported".to_owned();
                Arc::new(Checked { findings: vec![fault(*file, message)], fault: true, ..Checked::default() })
            })
        })
        .collect()
}
