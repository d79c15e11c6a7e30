//! Where in the text an expression stands: its statement, the loop and function around that, and what is evaluated before it.

use std::sync::Arc;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_syntax::ast::visitor::source_order::{SourceOrderVisitor, TraversalSignal};
use leitmotiv_syntax::ast::{
    AnyNodeRef, Arguments, Comprehension, ExceptHandler, Expr, Stmt, StmtFunctionDef, StmtReturn,
};
use leitmotiv_syntax::parse::parse;
use leitmotiv_syntax::{Ranged, TextRange, TextSize};

/// A file's text and its tree.
pub(crate) struct Code {
    pub(crate) text: Arc<str>,
    body: Vec<Stmt>,
}

/// The nodes around a stretch, outermost first.
struct Path<'a> {
    wanted: TextRange,
    nodes: Vec<AnyNodeRef<'a>>,
}

impl<'a> SourceOrderVisitor<'a> for Path<'a> {
    fn enter_node(&mut self, node: AnyNodeRef<'a>) -> TraversalSignal {
        if !node.range().contains_range(self.wanted) {
            return TraversalSignal::Skip;
        }
        self.nodes.push(node);
        TraversalSignal::Traverse
    }
}

/// A statement that something can be written before.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Spot<'a> {
    /// The statement.
    pub(crate) range: TextRange,
    /// What its line begins with.
    pub(crate) indent: &'a str,
    /// Whether a loop of the same function is around it.
    pub(crate) in_loop: bool,
    /// The function around it.
    pub(crate) function: Option<&'a StmtFunctionDef>,
}

impl Code {
    pub(crate) fn of(db: &dyn Db, file: File) -> Code {
        let text = file.text(db).clone();
        let body = parse(&text).body;
        Code { text, body }
    }

    /// The text of a stretch.
    pub(crate) fn slice(&self, range: TextRange) -> &str {
        self.text.get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default()
    }

    fn around(&self, wanted: TextRange) -> Vec<AnyNodeRef<'_>> {
        let mut path = Path { wanted, nodes: Vec::new() };
        path.visit_body(&self.body);
        path.nodes
    }

    /// The outermost expression that is just a stretch.
    pub(crate) fn expression(&self, range: TextRange) -> Option<&Expr> {
        struct Finder<'a>(TextRange, Option<&'a Expr>);
        impl<'a> SourceOrderVisitor<'a> for Finder<'a> {
            fn enter_node(&mut self, node: AnyNodeRef<'a>) -> TraversalSignal {
                if self.1.is_none() && node.range().contains_range(self.0) {
                    TraversalSignal::Traverse
                } else {
                    TraversalSignal::Skip
                }
            }
            fn visit_expr(&mut self, expr: &'a Expr) {
                if self.1.is_none() && expr.range() == self.0 {
                    self.1 = Some(expr);
                } else {
                    leitmotiv_syntax::ast::visitor::source_order::walk_expr(self, expr);
                }
            }
        }
        let mut finder = Finder(range, None);
        finder.visit_body(&self.body);
        finder.1
    }

    /// The arguments of the innermost call that a stretch is an argument of.
    pub(crate) fn arguments(&self, range: TextRange) -> Option<&Arguments> {
        self.around(range).into_iter().rev().find_map(|node| match node {
            AnyNodeRef::ExprCall(call) if call.arguments.range().contains_range(range) => Some(&call.arguments),
            _ => None,
        })
    }

    /// The value that an assignment around a stretch gives.
    pub(crate) fn assigned(&self, range: TextRange) -> Option<&Expr> {
        let statement = self.statement(range)?;
        match statement {
            AnyNodeRef::StmtAssign(assign) => Some(&assign.value),
            AnyNodeRef::StmtAnnAssign(assign) => assign.value.as_deref(),
            _ => None,
        }
    }

    /// The `return` statement that is a stretch.
    pub(crate) fn returned(&self, range: TextRange) -> Option<&StmtReturn> {
        match self.statement(range)? {
            AnyNodeRef::StmtReturn(returned) => Some(returned),
            _ => None,
        }
    }

    fn statement(&self, range: TextRange) -> Option<AnyNodeRef<'_>> {
        self.around(range).into_iter().rev().find(|node| node.is_statement())
    }

    /// The function whose `def` line holds a stretch, or the innermost one around it.
    pub(crate) fn function(&self, range: TextRange) -> Option<&StmtFunctionDef> {
        self.around(range).into_iter().rev().find_map(|node| match node {
            AnyNodeRef::StmtFunctionDef(function) => Some(function),
            _ => None,
        })
    }

    /// Where the body of the class of a name begins, behind its docstring, and the blanks before that.
    pub(crate) fn class_start(&self, name: TextRange) -> Option<(TextSize, &str)> {
        let class = self.around(name).into_iter().rev().find_map(|node| match node {
            AnyNodeRef::StmtClassDef(class) if class.name.range() == name => Some(class),
            _ => None,
        })?;
        let is_docstring =
            |statement: &&Stmt| matches!(statement, Stmt::Expr(expr) if expr.value.is_string_literal_expr());
        let first = class.body.iter().find(|statement| !is_docstring(statement)).or(class.body.first())?;
        // Before its decorators.
        let start = first.range().start();
        Some((start, self.indent(start)?))
    }

    /// The statement before which an expression's value can be looked at; `None` where it has no value there yet, or no line can be put there.
    pub(crate) fn spot(&self, value: TextRange) -> Option<Spot<'_>> {
        let around = self.around(value);
        let place = around.iter().rposition(|node| node.is_statement())?;
        // What a comprehension binds is not there before it; what it only reads is.
        let root =
            self.slice(value).split(|char: char| !(char.is_alphanumeric() || char == '_')).next().unwrap_or_default();
        let binds = |comprehension: &Comprehension| {
            let target = self.slice(comprehension.target.range());
            target.split(|char: char| !(char.is_alphanumeric() || char == '_')).any(|word| word == root)
        };
        let binds = |generators: &[Comprehension]| generators.iter().any(binds);
        let is_inner = |node: &AnyNodeRef<'_>| match node {
            AnyNodeRef::ExprListComp(comprehension) => binds(&comprehension.generators),
            AnyNodeRef::ExprSetComp(comprehension) => binds(&comprehension.generators),
            AnyNodeRef::ExprDictComp(comprehension) => binds(&comprehension.generators),
            AnyNodeRef::ExprGenerator(comprehension) => binds(&comprehension.generators),
            node => matches!(
                node,
                AnyNodeRef::ExprLambda(_)
                    | AnyNodeRef::ElifElseClause(_)
                    | AnyNodeRef::ExceptHandlerExceptHandler(_)
                    | AnyNodeRef::MatchCase(_)
            ),
        };
        let statement = around[place];
        let is_header = matches!(
            statement,
            AnyNodeRef::StmtWhile(_)
                | AnyNodeRef::StmtFunctionDef(_)
                | AnyNodeRef::StmtClassDef(_)
                | AnyNodeRef::StmtTry(_)
        );
        if is_header || around[place..].iter().any(is_inner) {
            return None;
        }
        let indent = self.indent(statement.range().start())?;
        let mut in_loop = false;
        let mut function = None;
        for node in around[..place].iter().rev() {
            match node {
                AnyNodeRef::StmtFor(_) | AnyNodeRef::StmtWhile(_) => in_loop = true,
                AnyNodeRef::StmtFunctionDef(found) => {
                    function = Some(*found);
                    break;
                }
                AnyNodeRef::StmtClassDef(_) => break,
                _ => {}
            }
        }
        Some(Spot { range: statement.range(), indent, in_loop, function })
    }

    /// The last statement before which a name is bound on every way to where it is bound first and where it is read.
    pub(crate) fn before_both(&self, first: TextRange, read: TextRange) -> Option<Spot<'_>> {
        let around = self.around(first);
        let statements: Vec<&AnyNodeRef<'_>> = around.iter().filter(|node| node.is_statement()).collect();
        let apart = statements.iter().position(|node| !node.range().contains_range(read));
        let place = apart.unwrap_or(statements.len());
        let around_both = place.checked_sub(1).map(|place| statements[place]);
        // Where they are in two branches of one statement, or the name is bound in its header, that is it.
        let is_branched = |node: &&AnyNodeRef<'_>| {
            let holds_both = |suite: &[Stmt]| match (suite.first(), suite.last()) {
                (Some(start), Some(end)) => {
                    let range = TextRange::new(start.range().start(), end.range().end());
                    range.contains_range(first) && range.contains_range(read)
                }
                _ => false,
            };
            let is_scope = matches!(node, AnyNodeRef::StmtFunctionDef(_) | AnyNodeRef::StmtClassDef(_));
            !is_scope && !suites(node).into_iter().any(holds_both)
        };
        let statement = around_both.filter(is_branched).or_else(|| statements.get(place).copied())?;
        let indent = self.indent(statement.range().start())?;
        Some(Spot { range: statement.range(), indent, in_loop: false, function: None })
    }

    /// The blanks that a line begins with, where a statement is the first thing in it.
    pub(crate) fn indent(&self, start: TextSize) -> Option<&str> {
        let before = &self.text[..usize::from(start)];
        let line = before.rfind(['\n', '\r']).map_or(0, |end| end + 1);
        let indent = &before[line..];
        indent.chars().all(|char| char == ' ' || char == '\t').then_some(indent)
    }

    /// Whether a value in a statement is evaluated each time that the statement is, and no call before it.
    pub(crate) fn comes_first(&self, spot: &Spot<'_>, value: TextRange) -> bool {
        let mut before = self.slice(TextRange::new(spot.range.start(), value.start())).trim_start();
        for word in ["return", "raise", "assert", "if", "async", "with", "match", "del"] {
            if let Some(rest) = before.strip_prefix(word).filter(|rest| rest.starts_with([' ', '('])) {
                before = rest.trim_start();
            }
        }
        if before.starts_with("for ") {
            let Some((_, rest)) = before.split_once(" in ") else { return false };
            before = rest;
        }
        // The value itself may be awaited.
        before = before.trim_end().strip_suffix("await").unwrap_or(before);
        let is_part = |char: char| char.is_alphanumeric() || char == '_';
        let decides = |word: &str| matches!(word, "and" | "or" | "if" | "else" | "lambda" | "for" | "yield" | "await");
        !before.contains([')', '"', '\'', '#'])
            && !before.contains(":=")
            && !before.split(|char| !is_part(char)).any(decides)
    }
}

/// The bodies of a compound statement.
fn suites<'a>(node: &AnyNodeRef<'a>) -> Vec<&'a [Stmt]> {
    match node {
        AnyNodeRef::StmtFor(node) => vec![&node.body, &node.orelse],
        AnyNodeRef::StmtWhile(node) => vec![&node.body, &node.orelse],
        AnyNodeRef::StmtWith(node) => vec![&node.body],
        AnyNodeRef::StmtIf(node) => {
            let clauses = node.elif_else_clauses.iter().map(|clause| &*clause.body);
            std::iter::once(&*node.body).chain(clauses).collect()
        }
        AnyNodeRef::StmtTry(node) => {
            let handlers = node.handlers.iter().map(|handler| match handler {
                ExceptHandler::ExceptHandler(handler) => &*handler.body,
            });
            [&*node.body, &node.orelse, &node.finalbody].into_iter().chain(handlers).collect()
        }
        AnyNodeRef::StmtMatch(node) => node.cases.iter().map(|case| &*case.body).collect(),
        _ => Vec::new(),
    }
}
