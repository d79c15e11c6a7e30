//! Functions and calls in a text, by lines.

use std::hash::Hasher;

use leitmotiv_syntax::ast::visitor::{self, Visitor};
use leitmotiv_syntax::ast::{self, Expr, Stmt};
use leitmotiv_syntax::parse::parse;
use leitmotiv_syntax::positions::Lines;
use leitmotiv_syntax::same::hash_function;
use leitmotiv_syntax::{Ranged, TextRange, TextSize};
use rustc_hash::FxHashMap;
use sha2::{Digest, Sha256};

/// How many lines of one call it is found by.
const CALL_LINES: usize = 40;

/// A function in a text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Function {
    /// Its dotted name in the file, as in `Fleet.add`.
    pub name: String,
    /// The line that it begins on, decorators included; 1-based.
    pub line: u32,
    /// Its last line.
    pub last: u32,
    /// What it does, hashed: the same as long as only annotations, docstring, comments and layout change.
    pub hash: String,
}

/// A call in a text.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CallText {
    /// Its first line, 1-based.
    pub line: u32,
    /// It, on one line.
    pub text: String,
    /// Whether it is a call, and not only the line that something was called from.
    pub is_call: bool,
    /// What is passed: the keyword, and the name where it is nothing but one. Nothing where arguments are unpacked.
    pub passed: Vec<(Option<String>, Option<String>)>,
}

/// A text, looked through once.
pub struct Source {
    text: String,
    lines: Lines,
    functions: Vec<Function>,
    calls: Vec<Call>,
    by_line: FxHashMap<u32, Vec<usize>>,
    by_text: FxHashMap<String, Vec<u32>>,
}

struct Call {
    name: String,
    range: TextRange,
    line: u32,
    passed: Vec<(Option<String>, Option<String>)>,
}

impl Source {
    /// Looks a text through.
    #[must_use]
    pub fn new(text: String) -> Source {
        let lines = Lines::new(&text);
        let parsed = parse(&text);
        let mut walk = Walk { lines: &lines, around: Vec::new(), functions: Vec::new(), calls: Vec::new() };
        parsed.body.iter().for_each(|stmt| walk.visit_stmt(stmt));
        let Walk { functions, calls, .. } = walk;
        let mut by_line: FxHashMap<u32, Vec<usize>> = FxHashMap::default();
        let mut by_text: FxHashMap<String, Vec<u32>> = FxHashMap::default();
        for (place, call) in calls.iter().enumerate() {
            by_text.entry(on_one_line(&text[call.range])).or_default().push(call.line);
            let last = line_of(&lines, call.range.end());
            for line in (call.line..=last).take(CALL_LINES) {
                by_line.entry(line).or_default().push(place);
            }
        }
        Source { text, lines, functions, calls, by_line, by_text }
    }

    /// The function that begins on a line and has that name.
    #[must_use]
    pub fn function_at(&self, line: u32, own_name: &str) -> Option<&Function> {
        let is_it = |function: &&Function| function.name.rsplit('.').next() == Some(own_name);
        self.functions.iter().filter(is_it).find(|function| function.line == line)
    }

    /// Functions by their dotted name in the file.
    pub fn named<'a>(&'a self, name: &'a str) -> impl Iterator<Item = &'a Function> {
        self.functions.iter().filter(move |function| function.name == name)
    }

    /// The innermost function around a line.
    #[must_use]
    pub fn around(&self, line: u32) -> Option<&Function> {
        let around = self.functions.iter().filter(|function| (function.line..=function.last).contains(&line));
        around.max_by_key(|function| function.line)
    }

    /// The call of something that stands on a line; the line itself where there is none.
    #[must_use]
    pub fn call(&self, line: u32, callee: &str) -> CallText {
        let here = self.by_line.get(&line).into_iter().flatten().map(|place| &self.calls[*place]);
        // The innermost of several.
        let found = here.filter(|call| call.name == callee).min_by_key(|call| call.range.len());
        if let Some(call) = found {
            let text = &self.text[call.range];
            let passed = call.passed.clone();
            return CallText { line: call.line, text: on_one_line(text), is_call: true, passed };
        }
        let range = self.lines.line_range(&self.text, (line as usize).saturating_sub(1));
        let text = range.map_or("", |range| &self.text[range]);
        CallText { line, text: on_one_line(text), is_call: false, passed: Vec::new() }
    }

    /// The line nearest to one that a call begins on, by the call's text; or, for a text that is no call, of that text. 1-based.
    #[must_use]
    pub fn line_with(&self, text: &str, near: u32) -> Option<u32> {
        if let Some(lines) = self.by_text.get(text) {
            return lines.iter().copied().min_by_key(|line| line.abs_diff(near));
        }
        let is_it = |line: &u32| {
            let range = self.lines.line_range(&self.text, (*line as usize).saturating_sub(1));
            range.is_some_and(|range| on_one_line(&self.text[range]) == text)
        };
        let last = u32::try_from(self.text.lines().count()).unwrap_or(u32::MAX);
        if is_it(&near) { Some(near) } else { (1..=last).filter(is_it).min_by_key(|line| line.abs_diff(near)) }
    }
}

fn line_of(lines: &Lines, at: TextSize) -> u32 {
    u32::try_from(lines.index_of(at)).unwrap_or(u32::MAX).saturating_add(1)
}

/// A text on one line, white space as single blanks.
fn on_one_line(text: &str) -> String {
    text.split_whitespace().collect::<Vec<&str>>().join(" ")
}

struct Walk<'a> {
    lines: &'a Lines,
    around: Vec<String>,
    functions: Vec<Function>,
    calls: Vec<Call>,
}

impl Walk<'_> {
    fn line(&self, at: TextSize) -> u32 {
        line_of(self.lines, at)
    }
}

impl<'a> Visitor<'a> for Walk<'_> {
    fn visit_stmt(&mut self, stmt: &'a Stmt) {
        match stmt {
            Stmt::FunctionDef(function) => {
                self.around.push(function.name.to_string());
                self.functions.push(Function {
                    name: self.around.join("."),
                    line: self.line(function.range().start()),
                    last: self.line(function.range().end()),
                    hash: hash(function),
                });
                visitor::walk_stmt(self, stmt);
                self.around.pop();
            }
            Stmt::ClassDef(class) => {
                self.around.push(class.name.to_string());
                visitor::walk_stmt(self, stmt);
                self.around.pop();
            }
            _ => visitor::walk_stmt(self, stmt),
        }
    }

    fn visit_expr(&mut self, expr: &'a Expr) {
        if let Expr::Call(call) = expr {
            let name = match &*call.func {
                Expr::Name(name) => name.id.to_string(),
                Expr::Attribute(attribute) => attribute.attr.to_string(),
                _ => String::new(),
            };
            let line = self.line(call.range().start());
            self.calls.push(Call { name, range: call.range(), line, passed: passed(&call.arguments) });
        }
        visitor::walk_expr(self, expr);
    }
}

fn passed(arguments: &ast::Arguments) -> Vec<(Option<String>, Option<String>)> {
    let is_unpacked = arguments.args.iter().any(Expr::is_starred_expr);
    if is_unpacked || arguments.keywords.iter().any(|keyword| keyword.arg.is_none()) {
        return Vec::new();
    }
    let name = |expr: &Expr| match expr {
        Expr::Name(name) => Some(name.id.to_string()),
        _ => None,
    };
    let placed = arguments.args.iter().map(|expr| (None, name(expr)));
    let keywords = arguments.keywords.iter();
    let named = keywords.map(|keyword| (keyword.arg.as_ref().map(ToString::to_string), name(&keyword.value)));
    placed.chain(named).collect()
}

/// What a function does, as a hash that is the same on every machine.
fn hash(function: &ast::StmtFunctionDef) -> String {
    struct Whole(Sha256);
    impl Hasher for Whole {
        fn write(&mut self, bytes: &[u8]) {
            self.0.update(bytes);
        }
        fn finish(&self) -> u64 {
            0
        }
    }
    let mut whole = Whole(Sha256::new());
    hash_function(function, &mut whole);
    whole.0.finalize().iter().take(12).map(|byte| format!("{byte:02x}")).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    const TEXT: &str = "class Fleet:\n    @cached\n    def add(self, vessel):\n        '''Adds.'''\n        def inner(): pass\n        return self.note(\n            vessel,\n            add(vessel, at=now),\n        )\n\nadd(1)\n";

    #[test]
    fn functions_are_known_by_line_and_name() {
        let source = Source::new(TEXT.to_owned());
        let add = source.function_at(2, "add").unwrap();
        assert_eq!((add.name.as_str(), add.line, add.last), ("Fleet.add", 2, 9));
        assert_eq!(source.function_at(3, "add"), None);
        assert_eq!(source.around(5).unwrap().name, "Fleet.add.inner");
        assert_eq!(source.around(7).unwrap().name, "Fleet.add");
        assert_eq!(source.around(11), None);
    }

    #[test]
    fn annotations_docstring_and_layout_are_no_other_function() {
        let hash = |text: &str| Source::new(text.to_owned()).named("Fleet.add").next().unwrap().hash.clone();
        let other = TEXT.replace("vessel):", "vessel: 'Vessel') -> None:").replace("Adds.", "Adds one.");
        assert_eq!(hash(&other), hash(TEXT));
        assert_eq!(hash(&TEXT.replace("            vessel,\n", "            vessel,  # it\n")), hash(TEXT));
        assert_ne!(hash(&TEXT.replace("pass", "return 1")), hash(TEXT));
        assert_ne!(hash(&TEXT.replace("@cached", "@other")), hash(TEXT));
    }

    #[test]
    fn calls_are_found_by_any_of_their_lines() {
        let source = Source::new(TEXT.to_owned());
        let add = source.call(8, "add");
        assert_eq!((add.text.as_str(), add.line), ("add(vessel, at=now)", 8));
        let named = |name: &str| Some(name.to_owned());
        assert_eq!(add.passed, [(None, named("vessel")), (named("at"), named("now"))]);
        assert_eq!(source.call(8, "note").line, 6);
        let line = source.call(11, "other");
        assert_eq!((line.text.as_str(), line.is_call), ("add(1)", false));
        assert_eq!(source.line_with("add(1)", 2), Some(11));
    }
}
