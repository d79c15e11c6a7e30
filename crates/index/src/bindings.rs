//! Which names a block of statements binds, found before any of it is lowered.
//!
//! A name is local to a scope if it is bound anywhere in it (language reference, "Naming and binding"); a loop's head
//! must know what its body will assign.

use leitmotiv_syntax::ast::{self, Expr, Pattern, Stmt};
use leitmotiv_syntax::names::{Name, Names};
use leitmotiv_syntax::{Ranged, TextRange, TextSize};
use rustc_hash::{FxHashMap, FxHashSet};

/// What a block binds in its own scope: not in nested functions, classes or comprehensions (but `:=` in the latter counts).
#[derive(Debug, Default)]
pub struct Bindings {
    /// Bound names, each with the offset of the binding that comes last in the text.
    pub names: FxHashMap<Name, TextSize>,
    /// Names that are bound by `def` alone.
    pub functions: FxHashSet<Name>,
    /// Names declared `global`.
    pub globals: FxHashSet<Name>,
    /// Names declared `nonlocal`.
    pub nonlocals: FxHashSet<Name>,
    /// Assigned attributes, as the last attribute's name.
    pub attributes: FxHashSet<Name>,
    /// Whether some item is assigned or deleted.
    pub items: bool,
}

/// A cache of interned names for one module: most identifiers come many times.
pub struct NameCache<'a> {
    names: &'a Names,
    seen: FxHashMap<&'a str, Name>,
}

impl<'a> NameCache<'a> {
    /// An empty cache over `names`.
    #[must_use]
    pub fn new(names: &'a Names) -> NameCache<'a> {
        NameCache { names, seen: FxHashMap::default() }
    }

    /// The name for `text`.
    pub fn get(&mut self, text: &'a str) -> Name {
        *self.seen.entry(text).or_insert_with(|| self.names.intern(text))
    }

    /// The name for a text that does not live as long as the tree.
    pub fn intern(&self, text: &str) -> Name {
        self.names.intern(text)
    }

    /// The text of a name.
    #[must_use]
    pub fn text(&self, name: Name) -> &str {
        self.names.text(name)
    }
}

impl Bindings {
    /// What `body` binds.
    pub fn of<'a>(body: &'a [Stmt], names: &mut NameCache<'a>) -> Bindings {
        let mut bindings = Bindings::default();
        bindings.block(body, names);
        bindings
    }

    fn bind<'a>(&mut self, name: &'a ast::Identifier, names: &mut NameCache<'a>) {
        self.insert(names.get(name.as_str()), name.range());
    }

    /// Adds a name that is bound at a place.
    pub fn insert(&mut self, name: Name, range: TextRange) {
        self.functions.remove(&name);
        let last = self.names.entry(name).or_insert(range.start());
        *last = range.start().max(*last);
    }

    fn block<'a>(&mut self, body: &'a [Stmt], names: &mut NameCache<'a>) {
        for statement in body {
            self.statement(statement, names);
        }
    }

    fn statement<'a>(&mut self, statement: &'a Stmt, names: &mut NameCache<'a>) {
        match statement {
            Stmt::FunctionDef(function) => {
                let name = names.get(function.name.as_str());
                let is_only_def = !self.names.contains_key(&name) || self.functions.contains(&name);
                self.insert(name, function.name.range());
                if is_only_def {
                    self.functions.insert(name);
                }
                for decorator in &function.decorator_list {
                    self.walrus(&decorator.expression, names);
                }
                for default in function.parameters.iter_non_variadic_params().filter_map(|param| param.default()) {
                    self.walrus(default, names);
                }
            }
            Stmt::ClassDef(class) => {
                self.bind(&class.name, names);
                for decorator in &class.decorator_list {
                    self.walrus(&decorator.expression, names);
                }
                if let Some(arguments) = &class.arguments {
                    arguments.args.iter().for_each(|base| self.walrus(base, names));
                    arguments.keywords.iter().for_each(|keyword| self.walrus(&keyword.value, names));
                }
            }
            Stmt::Return(ast::StmtReturn { value: Some(value), .. }) => self.walrus(value, names),
            Stmt::Delete(delete) => delete.targets.iter().for_each(|target| self.target(target, names)),
            Stmt::TypeAlias(alias) => self.target(&alias.name, names),
            Stmt::Assign(assign) => {
                assign.targets.iter().for_each(|target| self.target(target, names));
                self.walrus(&assign.value, names);
            }
            Stmt::AugAssign(assign) => {
                self.target(&assign.target, names);
                self.walrus(&assign.value, names);
            }
            Stmt::AnnAssign(assign) => {
                self.target(&assign.target, names);
                if let Some(value) = &assign.value {
                    self.walrus(value, names);
                }
            }
            Stmt::For(statement) => {
                self.target(&statement.target, names);
                self.walrus(&statement.iter, names);
                self.block(&statement.body, names);
                self.block(&statement.orelse, names);
            }
            Stmt::While(statement) => {
                self.walrus(&statement.test, names);
                self.block(&statement.body, names);
                self.block(&statement.orelse, names);
            }
            Stmt::If(statement) => {
                self.walrus(&statement.test, names);
                self.block(&statement.body, names);
                for clause in &statement.elif_else_clauses {
                    if let Some(test) = &clause.test {
                        self.walrus(test, names);
                    }
                    self.block(&clause.body, names);
                }
            }
            Stmt::With(statement) => {
                for item in &statement.items {
                    self.walrus(&item.context_expr, names);
                    if let Some(target) = &item.optional_vars {
                        self.target(target, names);
                    }
                }
                self.block(&statement.body, names);
            }
            Stmt::Match(statement) => {
                self.walrus(&statement.subject, names);
                for case in &statement.cases {
                    self.pattern(&case.pattern, names);
                    if let Some(guard) = &case.guard {
                        self.walrus(guard, names);
                    }
                    self.block(&case.body, names);
                }
            }
            Stmt::Try(statement) => {
                self.block(&statement.body, names);
                for handler in &statement.handlers {
                    let ast::ExceptHandler::ExceptHandler(handler) = handler;
                    if let Some(exception) = &handler.type_ {
                        self.walrus(exception, names);
                    }
                    if let Some(name) = &handler.name {
                        self.bind(name, names);
                    }
                    self.block(&handler.body, names);
                }
                self.block(&statement.orelse, names);
                self.block(&statement.finalbody, names);
            }
            Stmt::Assert(statement) => self.walrus(&statement.test, names),
            Stmt::Import(import) => {
                for alias in &import.names {
                    let bound = match &alias.asname {
                        Some(name) => name.as_str(),
                        None => alias.name.as_str().split('.').next().unwrap_or_default(),
                    };
                    self.insert(names.get(bound), alias.range());
                }
            }
            Stmt::ImportFrom(import) => {
                for alias in &import.names {
                    let bound = alias.asname.as_ref().unwrap_or(&alias.name).as_str();
                    if bound != "*" {
                        self.insert(names.get(bound), alias.range());
                    }
                }
            }
            Stmt::Global(statement) => {
                self.globals.extend(statement.names.iter().map(|name| names.get(name.as_str())));
            }
            Stmt::Nonlocal(statement) => {
                self.nonlocals.extend(statement.names.iter().map(|name| names.get(name.as_str())));
            }
            Stmt::Expr(statement) => self.walrus(&statement.value, names),
            Stmt::Raise(statement) => {
                for part in [&statement.exc, &statement.cause].into_iter().flatten() {
                    self.walrus(part, names);
                }
            }
            Stmt::Return(_) | Stmt::Pass(_) | Stmt::Break(_) | Stmt::Continue(_) | Stmt::IpyEscapeCommand(_) => {}
        }
    }

    /// Names bound by an assignment target.
    pub fn target<'a>(&mut self, target: &'a Expr, names: &mut NameCache<'a>) {
        match target {
            Expr::Name(name) => self.insert(names.get(name.id.as_str()), name.range()),
            Expr::Attribute(attribute) => {
                self.attributes.insert(names.get(attribute.attr.as_str()));
            }
            Expr::Subscript(_) => self.items = true,
            Expr::Tuple(tuple) => tuple.elts.iter().for_each(|element| self.target(element, names)),
            Expr::List(list) => list.elts.iter().for_each(|element| self.target(element, names)),
            Expr::Starred(starred) => self.target(&starred.value, names),
            _ => {}
        }
    }

    fn pattern<'a>(&mut self, pattern: &'a Pattern, names: &mut NameCache<'a>) {
        let mut bind = |name: &'a Option<ast::Identifier>, names: &mut NameCache<'a>| {
            if let Some(name) = name {
                self.bind(name, names);
            }
        };
        match pattern {
            Pattern::MatchValue(_) | Pattern::MatchSingleton(_) => {}
            Pattern::MatchStar(star) => bind(&star.name, names),
            Pattern::MatchSequence(sequence) => sequence.patterns.iter().for_each(|part| self.pattern(part, names)),
            Pattern::MatchMapping(mapping) => {
                bind(&mapping.rest, names);
                mapping.patterns.iter().for_each(|part| self.pattern(part, names));
            }
            Pattern::MatchClass(class) => {
                class.arguments.patterns.iter().for_each(|part| self.pattern(part, names));
                class.arguments.keywords.iter().for_each(|part| self.pattern(&part.pattern, names));
            }
            Pattern::MatchAs(part) => {
                bind(&part.name, names);
                if let Some(inner) = &part.pattern {
                    self.pattern(inner, names);
                }
            }
            Pattern::MatchOr(or) => or.patterns.iter().for_each(|part| self.pattern(part, names)),
        }
    }

    /// Names bound by `:=` in an expression.
    pub(crate) fn walrus<'a>(&mut self, expression: &'a Expr, names: &mut NameCache<'a>) {
        struct Walk<'b, 'c, 'a>(&'b mut Bindings, &'c mut NameCache<'a>);
        impl<'a> ast::visitor::Visitor<'a> for Walk<'_, '_, 'a> {
            fn visit_expr(&mut self, expression: &'a Expr) {
                match expression {
                    Expr::Named(named) => {
                        if let Expr::Name(name) = &*named.target {
                            self.0.insert(self.1.get(name.id.as_str()), name.range());
                        }
                        self.visit_expr(&named.value);
                    }
                    Expr::Lambda(_) => {}
                    // Atoms cannot hold a `:=`; most expressions are atoms.
                    Expr::Name(_) | Expr::StringLiteral(_) | Expr::NumberLiteral(_) => {}
                    _ => ast::visitor::walk_expr(self, expression),
                }
            }
        }
        ast::visitor::Visitor::visit_expr(&mut Walk(self, names), expression);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn bound(text: &str) -> Vec<String> {
        let names = Names::new();
        let parsed = leitmotiv_syntax::parse::parse(text);
        let bindings = Bindings::of(&parsed.body, &mut NameCache::new(&names));
        let mut bound: Vec<String> = bindings.names.keys().map(|name| names.text(*name).to_owned()).collect();
        bound.sort();
        bound
    }

    #[test]
    fn all_binding_statements_count() {
        assert_eq!(bound("import a.b, c as d\nfrom e import f as g, h"), ["a", "d", "g", "h"]);
        assert_eq!(bound("for a, (b, *c) in x:\n  with y as d: pass\n"), ["a", "b", "c", "d"]);
        assert_eq!(bound("try:\n  pass\nexcept E as a:\n  b = 1\nfinally:\n  c = 1"), ["a", "b", "c"]);
        assert_eq!(bound("try:\n  pass\nexcept (a := E):\n  raise (b := F)"), ["a", "b"]);
        assert_eq!(bound("@(a := d)\nclass C(b := B): pass\ndef f(x=(c := 1)): pass"), ["C", "a", "b", "c", "f"]);
        assert_eq!(
            bound("match x:\n  case [a, *b] | {'k': c, **d} | K(e, k=f) as g: pass"),
            ["a", "b", "c", "d", "e", "f", "g"]
        );
    }

    #[test]
    fn the_last_binding_is_known() {
        let names = Names::new();
        let text = "a = 1\nif a:\n    b = 2\na = (c := 3)\nprint(b)";
        let parsed = leitmotiv_syntax::parse::parse(text);
        let bindings = Bindings::of(&parsed.body, &mut NameCache::new(&names));
        let last = |name: &str| usize::from(bindings.names[&names.intern(name)]);
        assert_eq!(last("a"), text.rfind("a = ").unwrap());
        assert_eq!(last("b"), text.find("b = ").unwrap());
        assert_eq!(last("c"), text.find("c :=").unwrap());
    }

    #[test]
    fn nested_scopes_keep_their_names_but_a_walrus_in_a_comprehension_does_not() {
        assert_eq!(bound("def f(a):\n  b = 1\nclass C:\n  d = 1"), ["C", "f"]);
        assert_eq!(bound("[x for y in z if (w := y)]"), ["w"]);
    }
}
