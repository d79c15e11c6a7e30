//! What comments hide, and which of ours hide nothing (PEP 484; typing specification, "Type checker directives").

use leitmotiv_index::around::Around;
use leitmotiv_index::tree::{Expr, ModuleIndex};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::comments::Meaning;
use leitmotiv_syntax::{TextRange, TextSize};
use rustc_hash::FxHashMap;

use crate::base::db::Db;
use crate::base::file::File;
use crate::problems::{Problem, ProblemKind};
use crate::rules;

/// What a file's comments hide. It is asked by rule and place, before there are words.
pub(crate) struct Suppressions<'db> {
    index: &'db ModuleIndex,
    text: &'db str,
    decorated: FxHashMap<TextRange, TextSize>,
    comments: Comments,
    calls: Around<TextRange>,
    /// For each comment, which of the rules that it names were found.
    used: Vec<Vec<bool>>,
    /// For each comment, how many findings it hides.
    hidden: Vec<usize>,
}

/// A comment that hides findings, or is meant to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Suppression {
    /// From `#` to the line's end, in bytes.
    pub range: TextRange,
    /// The rules or codes that it names.
    pub names: Vec<String>,
    /// Why, as it is written; empty where it does not say.
    pub reason: String,
    /// In which form it is written.
    pub form: Form,
    /// Whether it speaks for the whole file.
    pub whole_file: bool,
    /// How many findings it hides.
    pub hides: usize,
}

/// The form of a suppression.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Form {
    /// `# leitmotiv: allow(…)`
    Own,
    /// `# type: ignore` with rules of ours, or without any.
    Ignore,
    /// `# type: ignore[…]` with codes of other tools, or what only other tools are told.
    Foreign,
}

impl<'db> Suppressions<'db> {
    /// Those of a file.
    pub(crate) fn new(db: &'db dyn Db, file: File, index: &'db ModuleIndex) -> Suppressions<'db> {
        let text = file.text(db);
        let is_any = !index.comments.is_empty();
        let slots = |comment: &leitmotiv_syntax::comments::Comment| match &comment.meaning {
            Some(Meaning::Allow { rules, .. }) => vec![false; rules.len()],
            Some(Meaning::Ignore { codes, .. }) => vec![false; codes.len()],
            _ => Vec::new(),
        };
        let comments = Comments::new(index, if is_any { first_code_line(text) } else { 0 });
        let calls = calls_over_lines(index, &comments);
        let decorated = if is_any { decorated(index) } else { FxHashMap::default() };
        let used = index.comments.iter().map(slots).collect();
        Suppressions { index, text, decorated, comments, calls, used, hidden: vec![0; index.comments.len()] }
    }

    /// Whether a comment hides what a rule finds at a place. `is_asked` says whether somebody asks for the rule; only then does it count as
    /// hidden by a comment that does not name it.
    pub(crate) fn hides(&mut self, rule: &str, range: TextRange, is_asked: bool) -> bool {
        let index = self.index;
        if index.comments.is_empty() {
            return false;
        }
        let lines = &index.lines.0;
        let line = lines.index_of(range.start());
        let end = lines.index_of(range.end());
        // What is told at a definition's name may be hidden at its decorators, too.
        let start = self.decorated.get(&range).map_or(line, |start| lines.index_of(*start));
        // What a comment says at the head of an import over several lines holds for all its names.
        let head = if rule.starts_with("import.") { self.comments.import_head(self.text, index, line) } else { line };
        // What is told of an argument of a call over several lines may be hidden at the call's first or last line.
        // What another tool is told there may be about all of the call.
        let is_of_call = rule.starts_with("call.");
        let call = self.calls.of(range.start()).next();
        let call = call.map(|range| [lines.index_of(range.start()), lines.index_of(range.end())]);
        let mut hidden = false;
        for number in self.comments.near(start, end, head, line, call) {
            let comment = &index.comments[number];
            let own = lines.index_of(comment.range.start());
            let whole_file = self.comments.is_whole_file(number);
            let within = start <= own && own <= end;
            let is_about_call = is_of_call || matches!(comment.meaning, Some(Meaning::Foreign));
            let at_call = is_about_call && call.is_some_and(|ends| ends.contains(&own)) && !comment.own_line;
            let here = within || at_call || own == head || (comment.own_line && own + 1 == line);
            match &comment.meaning {
                Some(Meaning::Ignore { codes, .. }) if (here && !comment.own_line) || whole_file => {
                    let fitting = codes.iter().enumerate().filter(|(_, code)| rules::fits(code, rule));
                    let named = fitting.fold(false, |_, (slot, _)| {
                        self.used[number][slot] = true;
                        true
                    });
                    if named || !are_ours(codes) {
                        hidden = true;
                        self.hidden[number] += usize::from(named || is_asked);
                    }
                }
                // What another tool is told to leave alone has its reasons.
                Some(Meaning::Foreign) if (here && !comment.own_line) || whole_file => {
                    let is_hidden = !matches!(rule, "syntax.error" | "engine.fault");
                    hidden |= is_hidden;
                    self.hidden[number] += usize::from(is_hidden && is_asked);
                }
                Some(Meaning::Allow { rules: allowed, .. }) if here || whole_file => {
                    let mut is_allowed = false;
                    for (slot, allowed) in allowed.iter().enumerate() {
                        if allowed != "*" && rules::fits(allowed, rule) {
                            self.used[number][slot] = true;
                            is_allowed = true;
                        }
                    }
                    hidden |= is_allowed;
                    self.hidden[number] += usize::from(is_allowed);
                }
                _ => {}
            }
        }
        hidden
    }

    /// What is to be told of the comments themselves: those of ours that hid nothing, those that hide all.
    pub(crate) fn problems(&self) -> Vec<Problem> {
        let mut problems = Vec::new();
        for (comment, used) in self.index.comments.iter().zip(&self.used) {
            let mut tell = |kind: ProblemKind| problems.push(Problem { range: comment.range, expr: None, kind });
            let unused = |what: String| ProblemKind::SuppressionUnused { what };
            match &comment.meaning {
                Some(Meaning::Allow { rules: allowed, reason }) => {
                    if reason.is_empty() {
                        tell(ProblemKind::SuppressionUnreasoned { what: "`allow`" });
                    }
                    for (rule, used) in allowed.iter().zip(used) {
                        if rule == "*" {
                            tell(unused("`*` names no rule: name those that are meant".to_owned()));
                        } else if !rules::exists(rule) {
                            let known = rules::ALL.iter().map(|rule| rule.slug);
                            let near = leitmotiv_project::settings::nearest(rule, known);
                            let near = near.map(|near| format!(" (is `{near}` meant?)")).unwrap_or_default();
                            tell(unused(format!("there is no rule `{rule}`{near}")));
                        } else if !used && rules::by_slug(rule).is_none_or(|rule| rule.severity != Severity::Off) {
                            tell(unused(format!("nothing of `{rule}` is found here")));
                        }
                    }
                }
                Some(Meaning::Ignore { codes, .. }) if codes.is_empty() => tell(ProblemKind::SuppressionBlanket),
                Some(Meaning::Ignore { codes, reason }) => {
                    if reason.is_empty() {
                        tell(ProblemKind::SuppressionUnreasoned { what: "`type: ignore`" });
                    }
                    // Codes that are not ours may hide what another tool finds.
                    let own = codes.iter().zip(used).filter(|(code, used)| {
                        !**used && rules::by_slug(code).is_some_and(|rule| rule.severity != Severity::Off)
                    });
                    for (code, _) in own.filter(|_| are_ours(codes)) {
                        tell(unused(format!("nothing of `{code}` is found here")));
                    }
                }
                Some(Meaning::Malformed) => {
                    tell(unused("not understood: write `# leitmotiv: allow(rule) reason`".to_owned()));
                }
                _ => {}
            }
        }
        problems
    }

    /// All of them, in the order of the text, once all that is found was asked about.
    pub(crate) fn all(&self) -> Vec<Suppression> {
        let mut all = Vec::new();
        for (number, comment) in self.index.comments.iter().enumerate() {
            let (names, reason, form) = match &comment.meaning {
                Some(Meaning::Allow { rules, reason }) => (rules.clone(), reason.clone(), Form::Own),
                Some(Meaning::Ignore { codes, reason }) => {
                    let form = if codes.is_empty() || are_ours(codes) { Form::Ignore } else { Form::Foreign };
                    (codes.clone(), reason.clone(), form)
                }
                Some(Meaning::Foreign) => (Vec::new(), String::new(), Form::Foreign),
                _ => continue,
            };
            let whole_file = self.comments.is_whole_file(number);
            all.push(Suppression { range: comment.range, names, reason, form, whole_file, hides: self.hidden[number] });
        }
        all
    }
}

/// Whether codes are all names of rules of ours, or of their families.
fn are_ours(codes: &[String]) -> bool {
    !codes.is_empty() && codes.iter().all(|code| rules::exists(code))
}

/// Whether a comment at the head of a file hides all that is found in it.
#[must_use]
pub fn hides_all(db: &dyn Db, file: File) -> bool {
    let index = crate::outline::module_index(db, file);
    let comments = Comments::new(index, first_code_line(file.text(db)));
    comments.whole_file.iter().any(|number| match &index.comments[*number].meaning {
        Some(Meaning::Ignore { codes, .. }) => !are_ours(codes),
        Some(Meaning::Foreign) => true,
        _ => false,
    })
}

/// The comments of a file by their lines, so that a finding meets only those near it.
struct Comments {
    /// Line (0-based) and number, in order.
    by_line: Vec<(usize, usize)>,
    /// The numbers of those that speak for the whole file.
    whole_file: Vec<usize>,
}

impl Comments {
    fn new(index: &ModuleIndex, first_code: usize) -> Comments {
        let lines = &index.lines.0;
        let by_line: Vec<(usize, usize)> = index
            .comments
            .iter()
            .enumerate()
            .filter(|(_, comment)| comment.meaning.is_some())
            .map(|(number, comment)| (lines.index_of(comment.range.start()), number))
            .collect();
        let whole_file = by_line
            .iter()
            .filter(|(line, number)| index.comments[*number].own_line && *line < first_code)
            .map(|(_, number)| *number)
            .collect();
        Comments { by_line, whole_file }
    }

    fn is_whole_file(&self, number: usize) -> bool {
        self.whole_file.binary_search(&number).is_ok()
    }

    /// The numbers of the comments that may speak of a finding: those from line `start` to `end`, those on line `head` and
    /// above line `line`, those on the lines `call`, and those for the whole file.
    fn near(
        &self,
        start: usize,
        end: usize,
        head: usize,
        line: usize,
        call: Option<[usize; 2]>,
    ) -> impl Iterator<Item = usize> {
        let between = |from: usize, to: usize| {
            let first = self.by_line.partition_point(|(line, _)| *line < from);
            let behind = self.by_line.partition_point(|(line, _)| *line <= to);
            self.by_line[first..behind.max(first)].iter().map(|(_, number)| *number)
        };
        let mut near: Vec<usize> = between(start, end).chain(between(head, head)).collect();
        near.extend(line.checked_sub(1).into_iter().flat_map(|above| between(above, above)));
        near.extend(call.into_iter().flatten().flat_map(|line| between(line, line)));
        near.extend(&self.whole_file);
        near.sort_unstable();
        near.dedup();
        near.into_iter()
    }

    /// The 0-based line on which the import statement begins that a line belongs to.
    fn import_head(&self, text: &str, index: &ModuleIndex, line: usize) -> usize {
        let lines = &index.lines.0;
        let begins = |line: &usize| {
            let range = lines.line_range(text, *line);
            let own = range.and_then(|range| text.get(usize::from(range.start())..usize::from(range.end())));
            let own = own.unwrap_or_default().trim_start();
            own.starts_with("from ") || own.starts_with("import ")
        };
        // No import goes over more lines than that.
        (line.saturating_sub(1_000)..=line).rev().find(begins).unwrap_or(line)
    }
}

/// The calls that go over several lines, with their ranges; none where there are no comments to look for.
fn calls_over_lines(index: &ModuleIndex, comments: &Comments) -> Around<TextRange> {
    if comments.by_line.is_empty() {
        return Around::default();
    }
    let lines = &index.lines.0;
    let calls = index.exprs.iter().filter(|(_, expr)| matches!(expr, Expr::Call { .. }));
    let ranges = calls.map(|(id, _)| index.spans[id]);
    Around::new(
        ranges.filter(|range| lines.index_of(range.start()) != lines.index_of(range.end())).map(|range| (range, range)),
    )
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
