//! What comments hide, and which of ours hide nothing (PEP 484; typing specification, "Type checker directives").

use leitmotiv_index::tree::{BodyId, ModuleIndex};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::comments::Meaning;
use leitmotiv_syntax::{TextRange, TextSize};
use rustc_hash::FxHashMap;

use crate::check::{Finding, finding, sort};
use crate::db::{Db, File};
use crate::functions;
use crate::infer::Infer;
use crate::problems::{Problem, ProblemKind};
use crate::rules::{self, Context};

/// Leaves out what comments hide, and tells which of ours hide nothing.
pub(crate) fn suppress(db: &dyn Db, file: File, index: &ModuleIndex, findings: Vec<Finding>) -> Vec<Finding> {
    if index.comments.is_empty() {
        return findings;
    }
    let lines = &index.lines.0;
    let text = file.text(db);
    let first_code = first_code_line(text);
    let decorated = decorated(index);
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
        // What is told at a definition's name may be hidden at its decorators, too.
        let start = decorated.get(&finding.range).map_or(line, |start| lines.index_of(*start));
        // What a comment says at the head of an import over several lines holds for all its names.
        let head = if finding.rule.starts_with("import.") { import_head(text, line) } else { line };
        let mut hidden = false;
        for (number, comment) in index.comments.iter().enumerate() {
            let own = lines.index_of(comment.range.start());
            let whole_file = comment.own_line && own < first_code;
            let within = start <= own && own <= end;
            let here = within || own == head || (comment.own_line && own + 1 == line);
            match &comment.meaning {
                Some(Meaning::Ignore { codes }) if (here && !comment.own_line) || whole_file => {
                    let ours: Vec<&String> = codes.iter().filter(|code| rules::exists(code)).collect();
                    let all_ours = !codes.is_empty() && ours.len() == codes.len();
                    if !all_ours || ours.iter().any(|code| matches(code, finding.rule)) {
                        hidden = true;
                    }
                }
                // What another tool is told to leave alone has its reasons.
                Some(Meaning::Foreign) if (here && !comment.own_line) || whole_file => {
                    hidden |= !matches!(finding.rule, "syntax.error" | "engine.fault");
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

/// Where the decorators of functions and classes begin, by the range of the name.
fn decorated(index: &ModuleIndex) -> FxHashMap<TextRange, TextSize> {
    let functions = index.functions.iter().filter(|(_, function)| !function.decorators.is_empty());
    let functions = functions.map(|(_, function)| (function.name_range, function.range.start()));
    let classes = index.classes.iter().filter(|(_, class)| !class.decorators.is_empty());
    functions.chain(classes.map(|(_, class)| (class.name_range, class.range.start()))).collect()
}
