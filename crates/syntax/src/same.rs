//! Whether two texts are the same program but for annotations.

use std::cell::Cell;
use std::collections::BTreeSet;
use std::hash::{Hash, Hasher};

use ruff_python_ast::comparable::ComparableStmt;
use ruff_python_ast::visitor::transformer::{self, Transformer};
use ruff_python_ast::visitor::{self, Visitor};
use ruff_python_ast::{self as ast, Expr, Parameters, Stmt};

use crate::comments::Comment;
use crate::parse::parse;

/// Takes annotations off.
#[derive(Default)]
struct WithoutAnnotations {
    /// Whether the class around has decorators, which may read the annotations in its body (PEP 557).
    is_decorated: Cell<bool>,
}

impl Transformer for WithoutAnnotations {
    fn visit_stmt(&self, stmt: &mut Stmt) {
        if let Stmt::FunctionDef(function) = stmt {
            function.returns = None;
            function.type_params = None;
            // The mark of what stands in for another does nothing at run time (PEP 698).
            function.decorator_list.retain(|decorator| !is_mark(&decorator.expression));
        }
        // `berth: int = 3` is `berth = 3` (PEP 526).
        if let Stmt::AnnAssign(assign) = stmt
            && (assign.target.is_attribute_expr() || assign.simple && !self.is_decorated.get())
            && let Some(value) = &assign.value
        {
            *stmt = Stmt::Assign(ast::StmtAssign {
                node_index: ast::AtomicNodeIndex::NONE,
                range: assign.range,
                targets: vec![(*assign.target).clone()],
                value: value.clone(),
            });
        }
        let around = self.is_decorated.get();
        match stmt {
            Stmt::ClassDef(class) => self.is_decorated.set(!class.decorator_list.is_empty()),
            Stmt::FunctionDef(_) => self.is_decorated.set(false),
            _ => {}
        }
        transformer::walk_stmt(self, stmt);
        self.is_decorated.set(around);
    }

    fn visit_parameters(&self, parameters: &mut Parameters) {
        for parameter in parameters.posonlyargs.iter_mut().chain(&mut parameters.args).chain(&mut parameters.kwonlyargs)
        {
            parameter.parameter.annotation = None;
        }
        for parameter in [&mut parameters.vararg, &mut parameters.kwarg].into_iter().flatten() {
            parameter.annotation = None;
        }
        transformer::walk_parameters(self, parameters);
    }
}

fn is_mark(decorator: &Expr) -> bool {
    match decorator {
        Expr::Name(name) => name.id == "override",
        Expr::Attribute(attribute) => attribute.attr.as_str() == "override",
        _ => false,
    }
}

/// The names of the type variables that some code makes.
fn variables(body: &[Stmt]) -> BTreeSet<String> {
    let mut names = Variables::default();
    body.iter().for_each(|stmt| names.visit_stmt(stmt));
    names.made
}

#[derive(Default)]
struct Variables {
    made: BTreeSet<String>,
}

impl Visitor<'_> for Variables {
    fn visit_stmt(&mut self, stmt: &Stmt) {
        self.made.extend(variable(stmt).map(str::to_owned));
        if let Stmt::FunctionDef(function) = stmt {
            let params = function.type_params.iter().flat_map(|params| &params.type_params);
            self.made.extend(params.map(|param| param.name().to_string()));
        }
        visitor::walk_stmt(self, stmt);
    }
}

/// Whether `after` is a valid program, and the same as `before` but for annotations of functions and of what is assigned, those in bodies of
/// decorated classes apart, and for imports that are added: `from m import a` at the module's own level, and in blocks under `if TYPE_CHECKING` there; and for type variables that are made,
/// by statements or as parameters of functions.
#[must_use]
pub fn same_but_for_annotations(before: &str, after: &str) -> bool {
    let (mut old, mut new) = (parse(before), parse(after));
    if !old.faults.is_empty() || !new.faults.is_empty() {
        return false;
    }
    // A type variable that is new must not be what something else is called.
    let (known, made) = (variables(&old.body), variables(&new.body));
    if made.difference(&known).any(|name| has_word(before, &old.comments, name)) {
        return false;
    }
    let without = WithoutAnnotations::default();
    for stmt in old.body.iter_mut().chain(&mut new.body) {
        without.visit_stmt(stmt);
    }
    same(&old.body, &new.body)
}

/// Feeds a hasher what a function does: all of it but annotations, docstring, comments and layout.
pub fn hash_function(function: &ast::StmtFunctionDef, hasher: &mut impl Hasher) {
    let mut stmt = Stmt::FunctionDef(function.clone());
    WithoutAnnotations::default().visit_stmt(&mut stmt);
    if let Stmt::FunctionDef(function) = &mut stmt
        && matches!(function.body.first(), Some(Stmt::Expr(doc)) if doc.value.is_string_literal_expr())
    {
        function.body.remove(0);
    }
    ComparableStmt::from(&stmt).hash(hasher);
}

fn same(old: &[Stmt], new: &[Stmt]) -> bool {
    let mut rest = old.iter();
    let mut next = rest.next();
    for stmt in new {
        if let Some(expected) = next
            && (ComparableStmt::from(expected) == ComparableStmt::from(stmt)
                || is_same_block(expected, stmt)
                || is_extended(expected, stmt))
        {
            next = rest.next();
        } else if !is_added(stmt) {
            return false;
        }
    }
    next.is_none()
}

/// Two blocks under `if TYPE_CHECKING` of which one has more imports.
fn is_same_block(old: &Stmt, new: &Stmt) -> bool {
    let (Stmt::If(old), Stmt::If(new)) = (old, new) else { return false };
    let rest = |stmt: &ast::StmtIf| Stmt::If(ast::StmtIf { body: ast::Suite::new(), ..stmt.clone() });
    is_checking(&old.test)
        && ComparableStmt::from(&rest(old)) == ComparableStmt::from(&rest(new))
        && same(&old.body, &new.body)
}

/// Two imports from one module of which one names more, under their own names.
fn is_extended(old: &Stmt, new: &Stmt) -> bool {
    let (Stmt::ImportFrom(old), Stmt::ImportFrom(new)) = (old, new) else { return false };
    let mut rest = old.names.iter();
    let mut next = rest.next();
    for alias in &new.names {
        let is_same = next.is_some_and(|known| {
            known.name.as_str() == alias.name.as_str() && text(known.asname.as_ref()) == text(alias.asname.as_ref())
        });
        if is_same {
            next = rest.next();
        } else if alias.asname.is_some() || alias.name.as_str() == "*" {
            return false;
        }
    }
    next.is_none() && old.level == new.level && text(old.module.as_ref()) == text(new.module.as_ref())
}

fn text(identifier: Option<&ast::Identifier>) -> Option<&str> {
    identifier.map(ast::Identifier::as_str)
}

fn is_added(stmt: &Stmt) -> bool {
    match stmt {
        Stmt::ImportFrom(import) => import.names.iter().all(|alias| alias.asname.is_none()),
        Stmt::If(block) => {
            is_checking(&block.test) && block.elif_else_clauses.is_empty() && block.body.iter().all(is_added)
        }
        Stmt::Assign(_) => variable(stmt).is_some(),
        _ => false,
    }
}

/// The name of the type variable that a statement makes, if it does nothing else: `T = TypeVar("T")` (PEP 484, PEP 612).
fn variable(stmt: &Stmt) -> Option<&str> {
    let Stmt::Assign(assign) = stmt else { return None };
    let ([Expr::Name(target)], Expr::Call(call)) = (assign.targets.as_slice(), &*assign.value) else { return None };
    let Expr::Name(callee) = &*call.func else { return None };
    let Some(Expr::StringLiteral(name)) = call.arguments.args.first() else { return None };
    let is_made = matches!(callee.id.as_str(), "TypeVar" | "ParamSpec") && call.arguments.args.len() == 1;
    (is_made && name.value.to_str() == target.id.as_str()).then_some(target.id.as_str())
}

/// Whether a text has a name in it, comments apart.
fn has_word(text: &str, comments: &[Comment], name: &str) -> bool {
    let is_in = |text: &str| text.split(|char: char| char != '_' && !char.is_alphanumeric()).any(|word| word == name);
    let mut from = 0;
    comments.iter().any(|comment| {
        let before = &text[from..usize::from(comment.range.start())];
        from = usize::from(comment.range.end());
        is_in(before)
    }) || is_in(&text[from..])
}

fn is_checking(test: &Expr) -> bool {
    match test {
        Expr::Name(name) => name.id.as_str() == "TYPE_CHECKING",
        Expr::Attribute(attribute) => attribute.attr.as_str() == "TYPE_CHECKING",
        _ => false,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn annotations_and_imports_are_no_difference() {
        let before = "'''doc'''\nimport os\ndef f(a, *b, c=1, **d):\n    def g(): return lambda x: x\n    return g\n";
        let after = "'''doc'''\nfrom typing import TYPE_CHECKING\nimport os\nif TYPE_CHECKING:\n    from m import A\n\ndef f(a: int, *b: 'A', c: int = 1, **d: str) -> object:\n    def g() -> None: return lambda x: x\n    return g\n";
        assert!(same_but_for_annotations(before, after));
        assert!(!same_but_for_annotations(after, before));
        let declared =
            "x: int = 1\n@d\nclass A:\n    def f(self):\n        self.y: int = 1\nclass B:\n    z: int = 1\n";
        assert!(same_but_for_annotations(&declared.replace(": int", ""), declared));
        assert!(same_but_for_annotations("from a import b, d\n", "from a import b, C, d\n"));
        let more = after.replace("    from m import A\n", "    from m import A\n    from n import B\n");
        assert!(same_but_for_annotations(after, &more));
    }

    #[test]
    fn everything_else_is() {
        for (before, after) in [
            ("x = '''\nab\n'''\n", "x = '''\nfrom typing import Any\nab\n'''\n"),
            ("def f(a=1): pass\n", "def f(a: int = 2): pass\n"),
            ("@d\nclass A:\n    x = 1\n", "@d\nclass A:\n    x: int = 1\n"),
            ("x = 1\n", "x: int\n"),
            ("def f(a): return F\n", "from typing import TypeVar\nF = TypeVar(\"F\")\ndef f(a: F) -> F: return F\n"),
            ("def f(a): return F\n", "def f[F](a: F) -> F: return F\n"),
            ("x = 1\n", "F = open(\"F\")\nx = 1\n"),
            ("def f(a): pass\n", "def f(a: int: pass\n"),
            ("import os\n", "from a import os as b\nimport os\n"),
            ("x = 1\ny = 2\n", "y = 2\nx = 1\n"),
            ("from a import b\n", "from a import c\n"),
            ("from a import b\n", "from a import b, c as d\n"),
        ] {
            assert!(!same_but_for_annotations(before, after), "{after}");
        }
    }
}
