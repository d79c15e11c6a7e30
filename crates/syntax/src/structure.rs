//! The shape of a text: what can be folded away, and what a selection grows to.

use ruff_python_ast::visitor::{self, Visitor};
use ruff_python_ast::{self as ast, Expr, Stmt};
use ruff_text_size::{Ranged, TextRange, TextSize};

use crate::parse::parse;

/// A stretch of lines that can be folded away.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Fold {
    /// From the line that stays to the last one that goes, in bytes.
    pub range: TextRange,
    /// What it is.
    pub kind: FoldKind,
}

/// What can be folded away.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum FoldKind {
    /// A block or an expression.
    Code,
    /// Imports that follow each other.
    Imports,
    /// Comments that follow each other, or a docstring.
    Comment,
}

/// What can be folded away, in the order of the text: blocks, expressions in brackets, texts, imports and comments of several lines.
#[must_use]
pub fn folds(text: &str) -> Vec<Fold> {
    let parsed = parse(text);
    let mut walk = Folds { text, found: Vec::new() };
    walk.visit_body(&parsed.body);
    walk.comments();
    walk.found.retain(|fold| text[fold.range].contains(['\n', '\r']));
    walk.found.sort_by_key(|fold| (fold.range.start(), std::cmp::Reverse(fold.range.end()), fold.kind));
    walk.found.dedup();
    walk.found
}

struct Folds<'a> {
    text: &'a str,
    found: Vec<Fold>,
}

impl Folds<'_> {
    fn add(&mut self, start: TextSize, end: TextSize, kind: FoldKind) {
        if start < end {
            self.found.push(Fold { range: TextRange::new(start, end), kind });
        }
    }

    /// A block below a header that begins somewhere.
    fn block(&mut self, start: TextSize, body: &[Stmt]) {
        if let Some(last) = body.last() {
            self.add(start, last.range().end(), FoldKind::Code);
        }
    }

    fn docstring(&mut self, body: &[Stmt]) {
        if let Some(Stmt::Expr(first)) = body.first()
            && first.value.is_string_literal_expr()
        {
            self.add(first.range().start(), first.range().end(), FoldKind::Comment);
        }
    }

    fn imports(&mut self, body: &[Stmt]) {
        let is_import = |stmt: &Stmt| matches!(stmt, Stmt::Import(_) | Stmt::ImportFrom(_));
        for run in body.chunk_by(|one, other| is_import(one) && is_import(other)) {
            if let [first, .., last] = run {
                self.add(first.range().start(), last.range().end(), FoldKind::Imports);
            }
        }
    }

    /// Whole lines of comments that follow each other.
    fn comments(&mut self) {
        let mut at = 0;
        let mut open: Option<(usize, usize)> = None;
        let size = |at: usize| TextSize::try_from(at).unwrap_or_default();
        for line in self.text.split_inclusive('\n') {
            let is_comment = line.trim_start().starts_with('#');
            let end = at + line.trim_end().len();
            open = match (open, is_comment) {
                (Some((start, _)), true) => Some((start, end)),
                (None, true) => Some((at + line.len() - line.trim_start().len(), end)),
                (Some((start, end)), false) => {
                    self.add(size(start), size(end), FoldKind::Comment);
                    None
                }
                (None, false) => None,
            };
            at += line.len();
        }
        if let Some((start, end)) = open {
            self.add(size(start), size(end), FoldKind::Comment);
        }
    }
}

impl<'a> Visitor<'a> for Folds<'_> {
    fn visit_body(&mut self, body: &'a [Stmt]) {
        self.docstring(body);
        self.imports(body);
        visitor::walk_body(self, body);
    }

    fn visit_stmt(&mut self, stmt: &'a Stmt) {
        let start = stmt.range().start();
        match stmt {
            Stmt::FunctionDef(function) => self.block(function.name.range().start(), &function.body),
            Stmt::ClassDef(class) => self.block(class.name.range().start(), &class.body),
            Stmt::For(own) => {
                self.block(start, &own.body);
                self.block(own.body.last().map_or(start, |last| last.range().end()), &own.orelse);
            }
            Stmt::While(own) => {
                self.block(start, &own.body);
                self.block(own.body.last().map_or(start, |last| last.range().end()), &own.orelse);
            }
            Stmt::If(own) => {
                self.block(start, &own.body);
                for clause in &own.elif_else_clauses {
                    self.block(clause.range().start(), &clause.body);
                }
            }
            Stmt::With(own) => self.block(start, &own.body),
            Stmt::Try(own) => {
                self.block(start, &own.body);
                for handler in &own.handlers {
                    let ast::ExceptHandler::ExceptHandler(handler) = handler;
                    self.block(handler.range().start(), &handler.body);
                }
            }
            Stmt::Match(own) => {
                for case in &own.cases {
                    self.block(case.range().start(), &case.body);
                }
                self.add(start, stmt.range().end(), FoldKind::Code);
            }
            Stmt::Import(_) | Stmt::ImportFrom(_) => self.add(start, stmt.range().end(), FoldKind::Imports),
            _ => {}
        }
        visitor::walk_stmt(self, stmt);
    }

    fn visit_expr(&mut self, expr: &'a Expr) {
        let is_long = matches!(
            expr,
            Expr::Call(_)
                | Expr::List(_)
                | Expr::Tuple(_)
                | Expr::Dict(_)
                | Expr::Set(_)
                | Expr::ListComp(_)
                | Expr::DictComp(_)
                | Expr::SetComp(_)
                | Expr::Generator(_)
                | Expr::StringLiteral(_)
                | Expr::FString(_)
        );
        if is_long {
            self.add(expr.range().start(), expr.range().end(), FoldKind::Code);
        }
        visitor::walk_expr(self, expr);
    }
}

/// What stands around an offset, innermost first: names, expressions, statements, and the whole text.
#[must_use]
pub fn around(text: &str, offset: TextSize) -> Vec<TextRange> {
    let parsed = parse(text);
    let mut walk = Grow { offset, found: vec![TextRange::up_to(TextSize::of(text))] };
    walk.visit_body(&parsed.body);
    let mut found = walk.found;
    found.sort_by_key(|range| (range.len(), range.start()));
    found.dedup();
    // Each must lie in the next: a decorated definition begins before its name does, but nothing reaches over another's end.
    let mut grown: Vec<TextRange> = Vec::new();
    for range in found {
        if grown.last().is_none_or(|last| range.contains_range(*last)) {
            grown.push(range);
        }
    }
    grown
}

struct Grow {
    offset: TextSize,
    found: Vec<TextRange>,
}

impl Grow {
    fn note(&mut self, range: TextRange) -> bool {
        let holds = range.contains_inclusive(self.offset);
        if holds {
            self.found.push(range);
        }
        holds
    }
}

impl<'a> Visitor<'a> for Grow {
    fn visit_body(&mut self, body: &'a [Stmt]) {
        if let [first, .., last] = body {
            self.note(TextRange::new(first.range().start(), last.range().end()));
        }
        visitor::walk_body(self, body);
    }

    fn visit_stmt(&mut self, stmt: &'a Stmt) {
        if !self.note(stmt.range()) {
            return;
        }
        match stmt {
            Stmt::FunctionDef(function) => {
                self.note(function.name.range());
                self.note(function.parameters.range());
            }
            Stmt::ClassDef(class) => {
                self.note(class.name.range());
            }
            _ => {}
        }
        visitor::walk_stmt(self, stmt);
    }

    fn visit_expr(&mut self, expr: &'a Expr) {
        if !self.note(expr.range()) {
            return;
        }
        match expr {
            Expr::Attribute(attribute) => {
                self.note(attribute.attr.range());
            }
            Expr::Call(call) => {
                self.note(call.arguments.range());
                for keyword in &call.arguments.keywords {
                    self.note(keyword.range());
                }
            }
            _ => {}
        }
        visitor::walk_expr(self, expr);
    }

    fn visit_parameter(&mut self, parameter: &'a ast::Parameter) {
        if self.note(parameter.range()) {
            self.note(parameter.name.range());
        }
        visitor::walk_parameter(self, parameter);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn blocks_brackets_imports_and_comments_fold() {
        let text =
            "import a\nimport b\n# one\n# two\ndef f():\n    \"\"\"A\n    B\"\"\"\n    return [\n        1,\n    ]\n";
        let found: Vec<(&str, FoldKind)> = folds(text).iter().map(|fold| (&text[fold.range], fold.kind)).collect();
        assert_eq!(found[0], ("import a\nimport b", FoldKind::Imports));
        assert_eq!(found[1], ("# one\n# two", FoldKind::Comment));
        assert!(found[2].0.starts_with("f():") && found[2].0.ends_with(']'), "{found:?}");
        assert_eq!(found[3].1, FoldKind::Code);
        assert!(found.contains(&("\"\"\"A\n    B\"\"\"", FoldKind::Comment)), "{found:?}");
        assert!(found.contains(&("[\n        1,\n    ]", FoldKind::Code)), "{found:?}");
        assert!(folds("x = [1]\n# one\n").is_empty());
    }

    #[test]
    fn a_selection_grows_from_the_name_to_the_text() {
        let text = "def f(a):\n    return g(a.berth + 1)\n";
        let at = TextSize::try_from(text.find("berth").unwrap() + 1).unwrap();
        let found: Vec<&str> = around(text, at).iter().map(|range| &text[*range]).collect();
        assert_eq!(&found[..5], ["berth", "a.berth", "a.berth + 1", "(a.berth + 1)", "g(a.berth + 1)"]);
        assert_eq!(*found.last().unwrap(), text);
    }
}
