//! A console: each input is typed before it runs, on the engine's session and the project's interpreter.
//!
//! Knows nothing of terminals. In reading order:
//!
//! - this file: what inputs mean together, and what may run
//! - [`input`]: whether an input is whole; scripts as inputs
//! - [`child`]: the interpreter
//!
//! What was run stands, one input below the other, in a text that only this session knows: a module of the project's that is checked with each new
//! input at its end. The entry is [`Console::open`].

pub mod child;
pub mod input;

use std::collections::BTreeMap;
use std::path::PathBuf;

use leitmotiv_engine::base::database::FileChange;
use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::view::complete::{self, Completion};
use leitmotiv_engine::view::lookup::{self, Answer};
use leitmotiv_engine::view::signature;
use leitmotiv_index::tree::{BodyId, DefKind, ScopeId, StatementKind};
use leitmotiv_migrate::session::{Asked, Report, Session, SessionError};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::{Ranged, TextRange, TextSize, ast, parse};

/// The file that the inputs stand in, which is never written: no project has one of that name.
const FILE: &str = ".leitmotiv-console.py";

/// A console's session.
pub struct Console {
    /// The session.
    pub session: Session,
    path: PathBuf,
    /// The inputs that were run.
    text: String,
    /// The line, from 1, that each of them begins on.
    starts: Vec<usize>,
    /// The names that they bound, as they were last shown.
    names: BTreeMap<String, String>,
}

/// An input, typed.
#[derive(Debug, Default)]
pub struct Typed {
    /// What it makes known, in the order of the text.
    pub shown: Vec<Shown>,
    /// What is wrong with it, in the text of all inputs.
    pub report: Report,
    /// Whether that is an error.
    pub is_wrong: bool,
}

/// The type of something that an input makes known.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Shown {
    /// The name that is bound; `None` of a value that is shown.
    pub name: Option<String>,
    /// Its type.
    pub ty: String,
    /// What the name was before, where it was something else.
    pub before: Option<String>,
}

impl Console {
    /// A console on a session, in which nothing was typed yet.
    ///
    /// # Errors
    /// [`SessionError`]
    pub fn open(mut session: Session) -> Result<Console, SessionError> {
        session.prepare(&Asked::default())?;
        let path = session.project().root.join(FILE);
        let mut console = Console { session, path, text: String::new(), starts: Vec::new(), names: BTreeMap::new() };
        console.hold("");
        Ok(console)
    }

    /// The file that the inputs stand in.
    #[must_use]
    pub fn file(&self) -> File {
        self.session.db.source(&self.path)
    }

    /// The number of the next input, from 1.
    #[must_use]
    pub fn number(&self) -> usize {
        self.starts.len() + 1
    }

    /// The input that a line, from 1, of the file belongs to: its number, and which of its lines that is, both from 1.
    #[must_use]
    pub fn input_at(&self, line: usize) -> (usize, usize) {
        let next = self.text.matches('\n').count() + 1;
        if line >= next {
            return (self.number(), line - next + 1);
        }
        let number = self.starts.partition_point(|start| *start <= line).max(1);
        (number, line.saturating_sub(self.starts.get(number - 1).copied().unwrap_or(1)) + 1)
    }

    /// Puts a text behind what was run, for the session alone.
    fn hold(&mut self, more: &str) {
        let change = FileChange::Held { path: self.path.clone(), text: format!("{}{more}", self.text) };
        // A text of an editor is neither configuration nor a ledger: nothing can go wrong.
        let _ = self.session.apply(&[change]);
    }

    /// Types an input, as if it stood behind all that was run.
    pub fn typed(&mut self, input: &str) -> Typed {
        let start = TextSize::of(self.text.as_str());
        self.hold(&format!("{}\n", input.trim_end()));
        let file = self.file();
        let mut report = self.session.report(vec![file], &Asked::default());
        report.findings.retain(|reported| reported.finding.range.end() >= start && reported.severity > Severity::Note);
        let is_wrong = report.findings.iter().any(|reported| reported.severity == Severity::Error);
        let is_broken = !module_index(&self.session.db, file).faults.is_empty();
        let shown = if is_broken { Vec::new() } else { self.shown(file, start) };
        Typed { shown, report, is_wrong }
    }

    /// What the text from a place on makes known.
    fn shown(&self, file: File, start: TextSize) -> Vec<Shown> {
        let db = &self.session.db;
        let index = module_index(db, file);
        let mut infer = Infer::new(db, file, BodyId(0));
        infer.check();
        infer.checking = false;
        let mut shown: Vec<Shown> = Vec::new();
        for (_, def) in index.defs.iter() {
            if def.range.start() < start || def.scope != ScopeId(0) || def.body != BodyId(0) {
                continue;
            }
            if matches!(def.kind, DefKind::Import { .. } | DefKind::ImportFrom { .. } | DefKind::Star { .. }) {
                continue;
            }
            let name = db.names().text(def.name).to_owned();
            let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&def.name) else { continue };
            let ty = symbol.exit.map_or(Type::Never, |value| infer.value(value));
            let ty = match ty {
                Type::Never => continue,
                Type::Class(id) => format!("class {}", show(db, Type::Instance(id))),
                Type::Function(_) => match signature::of(&mut infer, ty).first() {
                    Some(one) => one.line(""),
                    None => show(db, ty),
                },
                ty => show(db, infer.widen(ty)),
            };
            let before = self.names.get(&name).filter(|before| **before != ty).cloned();
            shown.retain(|one| one.name.as_ref() != Some(&name));
            shown.push(Shown { name: Some(name), ty, before });
        }
        for statement in index.bodies[BodyId(0)].statements.iter().filter(|one| one.range.start() >= start) {
            if let StatementKind::Expr(expr) = statement.kind
                && is_own(file.text(db), statement.range)
            {
                let ty = infer.expr(expr);
                // A value is told by its class; a choice of literals says more than that.
                let ty = if matches!(ty, Type::Literal(_)) { infer.widen(ty) } else { ty };
                if !matches!(ty, Type::None | Type::Never) {
                    shown.push(Shown { name: None, ty: show(db, ty), before: None });
                }
            }
        }
        shown
    }

    /// Keeps the statements of an input that were run to their ends: what follows is typed with them.
    pub fn keep(&mut self, input: &str, done: usize) {
        let parsed = parse::parse(input);
        let mut kept = String::new();
        let mut from = 0;
        for stmt in parsed.body.iter().take(done) {
            let range = stmt.range();
            // What was shown last is called `_`, as the interpreter has it.
            if let ast::Stmt::Expr(_) = stmt {
                kept.push_str(&input[from..usize::from(range.start())]);
                kept.push_str("_ = ");
                kept.push_str(&input[range]);
            } else {
                kept.push_str(&input[from..usize::from(range.end())]);
            }
            from = usize::from(range.end());
        }
        if done >= parsed.body.len() {
            kept.push_str(&input[from..]);
        }
        let kept = kept.trim_end();
        if !kept.is_empty() {
            let start = TextSize::of(self.text.as_str());
            self.starts.push(self.text.matches('\n').count() + 1);
            self.text.push_str(kept);
            self.text.push('\n');
            self.hold("");
            let file = self.file();
            for shown in self.shown(file, start) {
                if let Some(name) = shown.name.filter(|name| name != "_") {
                    self.names.insert(name, shown.ty);
                }
            }
        } else {
            self.hold("");
        }
    }

    /// Forgets what was typed, and not run.
    pub fn drop_input(&mut self) {
        self.hold("");
    }

    /// Forgets all that was run: the interpreter is another one.
    pub fn begin_anew(&mut self) {
        self.text.clear();
        self.starts.clear();
        self.names.clear();
        self.hold("");
    }

    /// The names that were bound, with their types.
    #[must_use]
    pub fn names(&self) -> &BTreeMap<String, String> {
        &self.names
    }

    /// The type of an expression, without running it; with what is wrong with it.
    pub fn type_of(&mut self, expression: &str) -> Typed {
        let mut typed = self.typed(expression);
        typed.shown.retain(|shown| shown.name.is_none());
        if typed.shown.is_empty() && typed.report.findings.is_empty() {
            typed.shown.push(Shown { name: None, ty: "None".to_owned(), before: None });
        }
        self.drop_input();
        typed
    }

    /// What is known of a name: one that was bound here, or a dotted one of a module.
    pub fn lookup(&mut self, name: &str) -> Option<Answer> {
        let start = TextSize::of(self.text.as_str());
        self.hold(&format!("{name}\n"));
        let file = self.file();
        let here = lookup::at(&self.session.db, file, start + TextSize::of(name));
        self.drop_input();
        here.filter(|answer| !answer.ty.is_unknown()).or_else(|| lookup::named(&self.session.db, name))
    }

    /// What may stand at the end of an input that is being written.
    pub fn complete(&mut self, input: &str) -> (Completion, usize) {
        let start = self.text.len();
        self.hold(input);
        let at = TextSize::of(self.text.as_str()) + TextSize::of(input);
        let found = complete::at(&self.session.db, self.file(), at);
        let from = usize::from(found.replaces.start()).saturating_sub(start);
        self.drop_input();
        (found, from)
    }

    /// Notes that a module's file was changed; whether there is such a module.
    ///
    /// # Errors
    /// [`SessionError`]
    pub fn reload(&mut self, module: &str) -> Result<bool, SessionError> {
        let db = &self.session.db;
        let found = leitmotiv_engine::resolve::module_file(db, db.names().intern(module), None);
        let Some(path) = found.and_then(|file| file.disk(db).map(std::path::Path::to_owned)) else { return Ok(false) };
        self.session.apply(&[FileChange::OnDisk { path }])?;
        Ok(true)
    }
}

/// Whether a statement stands on the module's own level: its line begins with it.
fn is_own(text: &str, range: TextRange) -> bool {
    let start = usize::from(range.start());
    let line = text[..start].rfind('\n').map_or(0, |end| end + 1);
    let before = &text[line..start];
    before.trim().is_empty() && before.is_empty() || before.trim_end().ends_with(';')
}

#[cfg(test)]
mod tests {
    use leitmotiv_project::{Project, Surroundings};

    use super::*;

    fn console(files: &[(&str, &str)]) -> (tempfile::TempDir, Console) {
        let folder = tempfile::tempdir().unwrap();
        for (path, text) in files {
            std::fs::write(folder.path().join(path), text).unwrap();
        }
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        let console = Console::open(Session::open(project).unwrap()).unwrap();
        (folder, console)
    }

    fn told(typed: &Typed) -> Vec<String> {
        let one = |shown: &Shown| {
            let before = shown.before.as_ref().map(|before| format!(", was {before}")).unwrap_or_default();
            format!("{}: {}{before}", shown.name.as_deref().unwrap_or_default(), shown.ty)
        };
        typed.shown.iter().map(one).collect()
    }

    #[test]
    fn names_and_their_types_live_on_and_change() {
        let (_folder, mut console) = console(&[]);
        assert_eq!(told(&console.typed("x = [1, 2]")), ["x: list[int]"]);
        console.keep("x = [1, 2]", 1);
        assert_eq!(told(&console.typed("x[0] + 1")), [": int"]);
        console.keep("x[0] + 1", 1);
        assert_eq!(told(&console.typed("_ + 1")), [": int"]);
        assert_eq!(told(&console.typed("x = 'a'")), ["x: str, was list[int]"]);
        console.keep("x = 'a'", 1);
        let typed = console.typed("x + 1");
        assert!(typed.is_wrong);
        assert_eq!(typed.report.findings[0].finding.rule, "operator.unsupported");
        console.drop_input();
        assert!(!console.typed("x.upper()").is_wrong);
        assert_eq!(told(&console.typed("def f(a: int) -> str:\n    return 'a'\n")), ["f: (a: int) -> str"]);
    }

    #[test]
    fn only_what_was_run_counts() {
        let (_folder, mut console) = console(&[]);
        console.keep("a = 1; b = 2; c = 3", 2);
        assert_eq!(console.names().keys().collect::<Vec<_>>(), ["a", "b"]);
        assert!(console.typed("c").is_wrong);
        console.keep("if a:\n    d = 3\n", 1);
        assert_eq!((console.input_at(1), console.input_at(3), console.input_at(5)), ((1, 1), (2, 2), (3, 2)));
        console.begin_anew();
        assert!(console.typed("a").is_wrong);
    }

    #[test]
    fn modules_of_the_project_are_imported_and_read_anew() {
        let (folder, mut console) = console(&[("tides.py", "def high() -> int:\n    return 3\n")]);
        assert!(!console.typed("import tides").is_wrong);
        console.keep("import tides", 1);
        assert_eq!(told(&console.type_of("tides.high()")), [": int"]);
        std::fs::write(folder.path().join("tides.py"), "def high() -> str:\n    return '3'\n").unwrap();
        assert!(console.reload("tides").unwrap());
        assert_eq!(told(&console.type_of("tides.high()")), [": str"]);
        assert!(!console.reload("ebbs").unwrap());
        assert!(console.lookup("tides.high").is_some());
        let (found, from) = console.complete("tides.hi");
        assert_eq!((found.items[0].label.as_str(), from), ("high", 6));
    }
}
