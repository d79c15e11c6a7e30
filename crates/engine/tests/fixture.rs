//! A fixture is Python text with marks as trailing comments, so that column 1 can be marked and the text still runs.
//!
//! | mark | on a line | meaning |
//! | --- | --- | --- |
//! | `#! rule` or `#! rule "words"` | of code | this rule is found on this line, with these words in its message |
//! | `#! rule@5-9 "words"` | of code | the same, from column 5 up to before column 9 (from 1, in code points; `@5-2:3` where it ends on line 2) |
//! | `#< kind "words"` | of code | a step of some finding's evidence lies on this line |
//! | `#> way "words"` | of code | a way out of a finding on this line, in their order |
//! | `#= type` | of code | the type of the line's target, or of its expression, printed as messages print it |
//! | `#- path/to/file.py` | of its own | what follows is that file (`.pyi` too); before the first one, the file is `main.py` |
//! | `#- python 3.9` | of its own | the language version |
//! | `#- demand name` | of its own | the rules of that demand are marked as well |
//! | `#- quiet` | of its own | the text has no marks and nothing may be found |
//! | `#- in full` | first of all | columns, evidence and ways out are marked as well, all of them; the marks are no part of the text |
//!
//! Strict both ways: a finding without a mark fails, a mark without a finding fails, a text without marks must say that
//! it is quiet. Rules that are off need no marks but where a demand asks for them or another mark has them; notes about imports and
//! suppressions need none but in texts that are marked in full.
//!
//! With `LEITMOTIV_BLESS=1` fixtures that fail are written anew, with what was found in place of their marks, in files and in the texts of
//! tests: read the difference before it is committed.

use std::fmt::Write as _;
use std::path::Path;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::check;
use leitmotiv_engine::findings::evidence::Evidence;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::rules::Remedy;
use leitmotiv_engine::types::display::show;
use leitmotiv_index::tree::StatementKind;
use leitmotiv_project::settings::Severity;
use leitmotiv_project::{Project, Surroundings};
use leitmotiv_syntax::TextRange;

/// A file of a fixture.
pub struct Source {
    /// Relative to the project.
    pub path: String,
    /// Its text.
    pub text: String,
}

/// A fixture taken apart.
pub struct Fixture {
    /// Its files.
    pub files: Vec<Source>,
    /// Whether it says that nothing is found.
    pub quiet: bool,
    /// Whether it is marked in full.
    pub in_full: bool,
    /// The version of the language.
    pub version: Option<String>,
    /// The rules that are asked for beside those that are told anyway.
    pub asked: Vec<&'static str>,
    /// Whether anything stands before the first file's name.
    begins_with_main: bool,
}

/// Takes a fixture apart.
pub fn split(text: &str) -> Fixture {
    let mut fixture = Fixture {
        files: Vec::new(),
        quiet: false,
        in_full: false,
        version: None,
        asked: Vec::new(),
        begins_with_main: false,
    };
    fixture.files.push(Source { path: "main.py".into(), text: String::new() });
    for line in text.lines() {
        match line.strip_prefix("#- ").map(str::trim) {
            Some("quiet") => fixture.quiet = true,
            Some("in full") => fixture.in_full = true,
            Some(rest) => match rest.split_once(' ') {
                Some(("python", named)) => fixture.version = Some(named.to_owned()),
                Some(("demand", named)) => {
                    fixture.asked.extend(leitmotiv_engine::demands::by_slug(named).expect("a demand").rules);
                }
                _ => fixture.files.push(Source { path: rest.to_owned(), text: String::new() }),
            },
            None => {
                if let Some(file) = fixture.files.last_mut() {
                    // Where columns count, the marks are no part of the text.
                    let line = if fixture.in_full { marks_of(line).0.trim_end() } else { line };
                    file.text.push_str(line);
                    file.text.push('\n');
                }
            }
        }
    }
    fixture.begins_with_main = !fixture.files[0].text.trim().is_empty();
    if !fixture.begins_with_main {
        fixture.files.remove(0);
    }
    let is_marked = |slug: &&str| text.contains(&format!("#! {slug}@"));
    fixture.asked.extend(leitmotiv_engine::rules::ALL.iter().map(|rule| rule.slug).filter(is_marked));
    fixture
}

/// A database on files in a temporary folder.
pub fn database(files: &[Source], version: Option<&str>) -> (tempfile::TempDir, Database) {
    let folder = tempfile::tempdir().unwrap();
    for file in files {
        let path = folder.path().join(&file.path);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(path, &file.text).unwrap();
    }
    let version = version.unwrap_or("3.12");
    std::fs::write(folder.path().join("leitmotiv.toml"), format!("python = \"{version}\"\n")).unwrap();
    let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
    let db = Database::new(project);
    // Debug builds see to it that whatever is asked of another file is written down.
    db.record();
    (folder, db)
}

/// What is wrong with a fixture.
pub struct Wrong {
    /// The whole text, with what was found in place of the marks, and what these were.
    pub told: String,
    /// The fixture as it would hold; `None` where no marks could make it.
    pub blessed: Option<String>,
}

/// Runs a fixture.
pub fn run(text: &str) -> Result<(), Wrong> {
    let fixture = split(text);
    let (folder, db) = database(&fixture.files, fixture.version.as_deref());
    let root = folder.path().canonicalize().unwrap();
    let files: Vec<File> = fixture.files.iter().map(|source| db.source(&root.join(&source.path))).collect();
    let checked = check(&db, &files);
    let findings: Vec<&Finding> = checked.iter().flat_map(|checked| &checked.findings).collect();
    let mut found = files.iter().copied();
    let mut file = if fixture.begins_with_main { found.next() } else { None };
    let (mut told, mut blessed) = (String::new(), String::new());
    let (mut wrong, mut marks, mut number) = (false, 0, 0);
    for line in text.lines() {
        if let Some(rest) = line.strip_prefix("#- ") {
            let rest = rest.trim();
            if !matches!(rest, "quiet" | "in full") && !rest.starts_with("python ") && !rest.starts_with("demand ") {
                file = found.next();
                number = 0;
            }
            let _ = writeln!(told, "{line}");
            let _ = writeln!(blessed, "{line}");
            continue;
        }
        let Some(file) = file else {
            let _ = writeln!(blessed, "{line}");
            continue;
        };
        let here = Line { db: &db, file, number, findings: &findings, in_full: fixture.in_full, asked: &fixture.asked };
        number += 1;
        let (code, wanted) = marks_of(line);
        marks += wanted.len();
        if here.holds(&wanted) {
            let _ = writeln!(told, "{line}");
            let _ = writeln!(blessed, "{line}");
            continue;
        }
        wrong = true;
        let new: String = here.marks(&wanted).iter().map(|mark| format!("  {mark}")).collect();
        let _ = writeln!(blessed, "{}{new}", code.trim_end());
        let _ = writeln!(told, "{}{new}   <-- the mark was: {}", code.trim_end(), line[code.len()..].trim());
    }
    if marks == 0 && !fixture.quiet && !wrong {
        let told = "the fixture has no marks; say `#- quiet` if nothing is to be found".into();
        return Err(Wrong { told, blessed: None });
    }
    if marks > 0 && fixture.quiet {
        return Err(Wrong { told: "the fixture says that it is quiet, but has marks".into(), blessed: None });
    }
    if wrong { Err(Wrong { told, blessed: Some(blessed).filter(|_| !fixture.quiet) }) } else { Ok(()) }
}

/// A line of a fixture, with all that was found.
struct Line<'a> {
    db: &'a Database,
    file: File,
    /// 0-based.
    number: usize,
    findings: &'a [&'a Finding],
    in_full: bool,
    asked: &'a [&'static str],
}

impl Line<'_> {
    fn line_of(&self, file: File, range: TextRange) -> usize {
        module_index(self.db, file).lines.0.index_of(range.start())
    }

    /// Whether a finding is to be marked.
    fn is_told(&self, finding: &Finding) -> bool {
        let is_free = finding.rule.starts_with("import.") || finding.rule == "suppression.blanket";
        match finding.severity {
            Severity::Off => self.asked.contains(&finding.rule),
            Severity::Note => self.in_full || !is_free,
            _ => true,
        }
    }

    /// The findings that are to be marked on it.
    fn found(&self) -> Vec<&Finding> {
        let is_here =
            |finding: &&Finding| finding.file == self.file && self.line_of(self.file, finding.range) == self.number;
        self.findings.iter().copied().filter(is_here).filter(|finding| self.is_told(finding)).collect()
    }

    /// The steps of evidence on it.
    fn steps(&self) -> Vec<&Evidence> {
        let told = self.findings.iter().filter(|finding| self.is_told(finding));
        let all = told.flat_map(|finding| &finding.evidence);
        all.filter(|step| step.file == self.file && self.line_of(step.file, step.range) == self.number).collect()
    }

    fn columns(&self, range: TextRange) -> String {
        let index = module_index(self.db, self.file);
        let text = self.file.text(self.db);
        let start = index.lines.0.position(text, range.start());
        let end = index.lines.0.position(text, range.end());
        if start.line == end.line {
            format!("{}-{}", start.column, end.column)
        } else {
            format!("{}-{}:{}", start.column, end.line, end.column)
        }
    }

    /// Whether its marks say what was found, no less and no more.
    fn holds(&self, marks: &[Mark]) -> bool {
        let found = self.found();
        let says =
            |words: &Option<String>, text: &str| words.as_ref().is_none_or(|words| text.contains(words.as_str()));
        let rules = marks.iter().filter(|mark| matches!(mark, Mark::Rule { .. })).count();
        let steps = self.steps();
        let ways: Vec<&Remedy> = found.iter().flat_map(|finding| &finding.remedies).collect();
        let marked: Vec<(&str, &Option<String>)> = marks
            .iter()
            .filter_map(|mark| match mark {
                Mark::Way { id, words } => Some((id.as_str(), words)),
                _ => None,
            })
            .collect();
        let counted = marks.iter().filter(|mark| matches!(mark, Mark::Step { .. })).count();
        let each = marks.iter().all(|mark| match mark {
            Mark::Rule { rule, columns, words } => found.iter().any(|finding| {
                finding.rule == rule
                    && says(words, &finding.message)
                    && columns.as_ref().map_or(!self.in_full, |columns| *columns == self.columns(finding.range))
            }),
            Mark::Step { kind, words } => steps.iter().any(|step| step.kind == kind && says(words, &step.text)),
            Mark::Way { .. } => true,
            Mark::Type(expected) => type_at(self.db, self.file, self.number).as_ref() == Some(expected),
        });
        let are_ways = if marked.is_empty() && !self.in_full {
            true
        } else {
            ways.len() == marked.len()
                && ways.iter().zip(marked).all(|(way, (id, words))| way.id == id && says(words, &way.title))
        };
        rules == found.len() && (!self.in_full || counted == steps.len()) && each && are_ways
    }

    /// The marks that would hold, as full as those that stand there.
    fn marks(&self, old: &[Mark]) -> Vec<String> {
        let mut new = Vec::new();
        let found = self.found();
        let has_columns = self.in_full || old.iter().any(|mark| matches!(mark, Mark::Rule { columns: Some(_), .. }));
        for finding in &found {
            let columns = if has_columns { format!("@{}", self.columns(finding.range)) } else { String::new() };
            new.push(format!("#! {}{columns} \"{}\"", finding.rule, finding.message));
        }
        if self.in_full || old.iter().any(|mark| matches!(mark, Mark::Way { .. })) {
            let ways = found.iter().flat_map(|finding| &finding.remedies);
            new.extend(ways.map(|way| format!("#> {} \"{}\"", way.id, way.title)));
        }
        if self.in_full || old.iter().any(|mark| matches!(mark, Mark::Step { .. })) {
            new.extend(self.steps().iter().map(|step| format!("#< {} \"{}\"", step.kind, step.text)));
        }
        if old.iter().any(|mark| matches!(mark, Mark::Type(_))) {
            let ty = type_at(self.db, self.file, self.number).unwrap_or_else(|| "nothing".into());
            new.push(format!("#= {ty}"));
        }
        new
    }
}

#[derive(Debug)]
enum Mark {
    Rule { rule: String, columns: Option<String>, words: Option<String> },
    Step { kind: String, words: Option<String> },
    Way { id: String, words: Option<String> },
    Type(String),
}

/// How marks begin.
const BEGINNINGS: [&str; 4] = ["#! ", "#= ", "#< ", "#> "];

/// A line's code, and its marks.
fn marks_of(line: &str) -> (&str, Vec<Mark>) {
    let first = |text: &str| BEGINNINGS.iter().filter_map(|begin| text.find(begin)).min();
    let Some(start) = first(line) else { return (line, Vec::new()) };
    let mut marks = Vec::new();
    let mut rest = &line[start..];
    while !rest.is_empty() {
        let end = first(&rest[2..]).map_or(rest.len(), |end| end + 2);
        let (mark, more) = rest.split_at(end);
        let body = mark[3..].trim();
        let (name, words) = body.split_once(' ').unwrap_or((body, ""));
        let words = words.trim().strip_prefix('"').and_then(|words| words.strip_suffix('"')).map(str::to_owned);
        marks.push(match &mark[..2] {
            "#=" => Mark::Type(body.to_owned()),
            "#<" => Mark::Step { kind: name.to_owned(), words },
            "#>" => Mark::Way { id: name.to_owned(), words },
            _ => {
                let (rule, columns) = name.split_once('@').map_or((name, None), |(rule, at)| (rule, Some(at)));
                Mark::Rule { rule: rule.to_owned(), columns: columns.map(str::to_owned), words }
            }
        });
        rest = more;
    }
    (&line[..start], marks)
}

/// The type of the target or expression of the statement that begins on a line.
fn type_at(db: &Database, file: File, number: usize) -> Option<String> {
    let index = module_index(db, file);
    for (id, body) in index.bodies.iter() {
        for statement in &body.statements {
            if index.lines.0.index_of(statement.range.start()) != number {
                continue;
            }
            let expr = match &statement.kind {
                StatementKind::Expr(expr) => *expr,
                StatementKind::Assign { targets, .. } => targets[0],
                StatementKind::Annotated { target, .. }
                | StatementKind::Augmented { target, .. }
                | StatementKind::For { target, .. } => *target,
                StatementKind::With { target: Some(target), .. } => *target,
                StatementKind::Return(place) => body.returns[*place].value?,
                _ => continue,
            };
            let mut infer = Infer::new(db, file, id);
            infer.check();
            return Some(show(db, infer.expr(expr)));
        }
    }
    None
}

/// Whether fixtures that fail are to be written anew.
pub fn blesses() -> bool {
    std::env::var_os("LEITMOTIV_BLESS").is_some_and(|value| value == "1")
}

/// Runs all fixtures of a folder; each failure is told with its file.
#[track_caller]
pub fn run_folder(folder: &Path) {
    let mut failures = String::new();
    let mut number = 0;
    let mut paths: Vec<_> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    paths.sort();
    for path in paths {
        number += 1;
        let text = std::fs::read_to_string(&path).unwrap();
        let Err(wrong) = run(&text) else { continue };
        match wrong.blessed.filter(|_| blesses()) {
            Some(blessed) => std::fs::write(&path, blessed).unwrap(),
            None => {
                let _ = writeln!(failures, "==== {}\n{}", path.display(), wrong.told);
            }
        }
    }
    assert!(number > 0, "{} is empty", folder.display());
    assert!(failures.is_empty(), "{failures}");
}

/// Runs a fixture that stands in a test's own text.
#[track_caller]
pub fn holds(text: &str) {
    let Err(wrong) = run(text) else { return };
    let Some(blessed) = wrong.blessed.filter(|_| blesses()) else { panic!("\n{}", wrong.told) };
    // The path is relative to the workspace.
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").join(std::panic::Location::caller().file());
    let source = std::fs::read_to_string(&path).unwrap();
    assert_eq!(
        source.matches(text).count(),
        1,
        "the text stands in {} more than once, or not as it is",
        path.display()
    );
    std::fs::write(&path, source.replacen(text, &blessed, 1)).unwrap();
}

#[test]
fn a_mark_without_a_finding_fails_and_a_finding_without_a_mark_too() {
    assert!(run("x = 1  #! call.missing\n").is_err());
    assert!(run("undefined_name\n#- quiet\n").is_err());
    assert!(run("x = 1\n").is_err());
    assert!(run("x = 1  #= Literal[1]\n").is_ok());
    assert!(run("x = 1  #= str\n").is_err());
}

#[test]
fn columns_evidence_and_ways_out_are_held_where_they_are_marked() {
    let text = "tide = None  #< assigned\ntide.level  #! none.member@1-11  #> guard\n";
    let Err(wrong) = run(text) else { panic!("the ways out are not all there") };
    let blessed = wrong.blessed.unwrap();
    assert!(run(&blessed).is_ok(), "{blessed}");
    assert!(run(&blessed.replace("@1-11", "@1-10")).is_err());
    assert!(run(&blessed.replace("#< assigned", "#< returned")).is_err());
    // In full, nothing may be left out.
    assert!(run(&format!("#- in full\n{blessed}")).is_ok(), "{blessed}");
    let bare = "#- in full\ntide = None\ntide.level  #! none.member\n";
    let Err(wrong) = run(bare) else { panic!("nothing is marked in full") };
    assert!(run(&wrong.blessed.unwrap()).is_ok());
}
