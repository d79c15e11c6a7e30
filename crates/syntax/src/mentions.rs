//! Where a text mentions names: everything that a person would call a use of a name, and nothing in strings or comments.

use ruff_python_ast::visitor::{self, Visitor};
use ruff_python_ast::{self as ast, Expr, ExprContext, Identifier, Pattern, Stmt};
use ruff_text_size::{Ranged, TextRange, TextSize};

use crate::parse::parse;

/// One mention of a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Mention {
    /// The name itself, in bytes.
    pub range: TextRange,
    /// How it is mentioned.
    pub how: How,
}

/// How a name is mentioned. Ranges are those of expressions, in bytes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum How {
    /// `berth`, read.
    Read,
    /// `berth`, assigned, deleted or bound by a loop and the like.
    Written,
    /// `.berth`
    Attribute {
        /// What stands before the dot.
        object: TextRange,
        /// Whether it is assigned or deleted.
        is_written: bool,
    },
    /// `assign(berth=3)`
    Keyword {
        /// What is called.
        callee: TextRange,
    },
    /// `case Vessel(berth=3)`
    PatternKeyword {
        /// The class.
        class: TextRange,
    },
    /// The name in a `def`.
    Function,
    /// The name in a `class`.
    Class,
    /// The name of a parameter.
    Parameter,
    /// The name of a type parameter (PEP 695).
    TypeParameter,
    /// One part of a module's name in `import ferry.berths` or `from ferry.berths import …`.
    Module {
        /// Where the dotted name begins that ends with this part; its leading dots left out.
        start: TextSize,
        /// How many dots stand before it.
        level: u32,
        /// Whether this part is a name that the statement binds: the first of `import ferry.berths`.
        is_bound: bool,
    },
    /// `berth` in `from ferry import berth`.
    Imported {
        /// Whether it is bound under this name, as there is no `as`.
        is_bound: bool,
        /// The module's name, without its leading dots; empty where there are only these.
        module: TextRange,
        /// How many dots stand before it.
        level: u32,
    },
    /// The name behind `as` in an import.
    Alias,
    /// A name behind `global` or `nonlocal`.
    Scoped,
}

impl How {
    /// Whether the name gets something here.
    #[must_use]
    pub fn binds(self) -> bool {
        match self {
            How::Written
            | How::Function
            | How::Class
            | How::Parameter
            | How::TypeParameter
            | How::Alias
            | How::Attribute { is_written: true, .. } => true,
            How::Imported { is_bound, .. } | How::Module { is_bound, .. } => is_bound,
            How::Read | How::Attribute { .. } | How::Keyword { .. } | How::PatternKeyword { .. } | How::Scoped => false,
        }
    }
}

/// All mentions, in the order of the text.
#[must_use]
pub fn mentions(text: &str) -> Vec<Mention> {
    let parsed = parse(text);
    let mut walk = Walk { text, found: Vec::new() };
    walk.visit_body(&parsed.body);
    // What a broken text lacks has no width.
    walk.found.retain(|mention| !mention.range.is_empty());
    walk.found.sort_by_key(|mention| (mention.range.start(), mention.range.end()));
    walk.found
}

/// The mention at an offset in bytes; of two that meet there, the one behind.
#[must_use]
pub fn at(mentions: &[Mention], offset: TextSize) -> Option<Mention> {
    mentions.iter().rev().find(|mention| mention.range.contains_inclusive(offset)).copied()
}

struct Walk<'a> {
    text: &'a str,
    found: Vec<Mention>,
}

impl Walk<'_> {
    fn add(&mut self, range: TextRange, how: How) {
        self.found.push(Mention { range, how });
    }

    fn name(&mut self, name: &Identifier, how: How) {
        self.add(name.range(), how);
    }

    /// The parts of a dotted name.
    fn module(&mut self, name: &Identifier, level: u32, binds_first: bool) {
        let start = name.range().start();
        let mut at = start;
        // Spaces may stand around the dots.
        for (place, part) in self.text[name.range()].split('.').enumerate() {
            let own = part.trim();
            let lead = part.len() - part.trim_start().len();
            let size = |length: usize| TextSize::try_from(length).unwrap_or_default();
            let range = TextRange::at(at + size(lead), size(own.len()));
            self.add(range, How::Module { start, level, is_bound: binds_first && place == 0 });
            at += size(part.len() + 1);
        }
    }

    fn import_from(&mut self, import: &ast::StmtImportFrom) {
        if let Some(module) = &import.module {
            self.module(module, import.level, false);
        }
        let module = import.module.as_ref().map_or(TextRange::empty(import.range().start()), Ranged::range);
        for alias in &import.names {
            if alias.name.as_str() != "*" {
                let is_bound = alias.asname.is_none();
                self.name(&alias.name, How::Imported { is_bound, module, level: import.level });
            }
            if let Some(name) = &alias.asname {
                self.name(name, How::Alias);
            }
        }
    }
}

impl<'a> Visitor<'a> for Walk<'_> {
    fn visit_stmt(&mut self, stmt: &'a Stmt) {
        match stmt {
            Stmt::FunctionDef(function) => self.name(&function.name, How::Function),
            Stmt::ClassDef(class) => self.name(&class.name, How::Class),
            Stmt::Import(import) => {
                for alias in &import.names {
                    self.module(&alias.name, 0, alias.asname.is_none());
                    if let Some(name) = &alias.asname {
                        self.name(name, How::Alias);
                    }
                }
            }
            Stmt::ImportFrom(import) => self.import_from(import),
            Stmt::Global(global) => global.names.iter().for_each(|name| self.name(name, How::Scoped)),
            Stmt::Nonlocal(nonlocal) => nonlocal.names.iter().for_each(|name| self.name(name, How::Scoped)),
            _ => {}
        }
        visitor::walk_stmt(self, stmt);
    }

    fn visit_expr(&mut self, expr: &'a Expr) {
        match expr {
            Expr::Name(name) => {
                let how = if matches!(name.ctx, ExprContext::Load) { How::Read } else { How::Written };
                self.add(name.range(), how);
            }
            Expr::Attribute(attribute) => {
                let is_written = !matches!(attribute.ctx, ExprContext::Load);
                self.name(&attribute.attr, How::Attribute { object: attribute.value.range(), is_written });
            }
            Expr::Call(call) => {
                let callee = call.func.range();
                for name in call.arguments.keywords.iter().filter_map(|keyword| keyword.arg.as_ref()) {
                    self.name(name, How::Keyword { callee });
                }
            }
            _ => {}
        }
        visitor::walk_expr(self, expr);
    }

    fn visit_parameter(&mut self, parameter: &'a ast::Parameter) {
        self.name(&parameter.name, How::Parameter);
        visitor::walk_parameter(self, parameter);
    }

    fn visit_type_param(&mut self, parameter: &'a ast::TypeParam) {
        self.name(parameter.name(), How::TypeParameter);
        visitor::walk_type_param(self, parameter);
    }

    fn visit_except_handler(&mut self, handler: &'a ast::ExceptHandler) {
        let ast::ExceptHandler::ExceptHandler(own) = handler;
        if let Some(name) = &own.name {
            self.name(name, How::Written);
        }
        visitor::walk_except_handler(self, handler);
    }

    fn visit_pattern(&mut self, pattern: &'a Pattern) {
        let bound = match pattern {
            Pattern::MatchStar(star) => star.name.as_ref(),
            Pattern::MatchMapping(mapping) => mapping.rest.as_ref(),
            Pattern::MatchAs(part) => part.name.as_ref(),
            Pattern::MatchClass(class) => {
                for keyword in &class.arguments.keywords {
                    self.name(&keyword.attr, How::PatternKeyword { class: class.cls.range() });
                }
                None
            }
            _ => None,
        };
        if let Some(name) = bound {
            self.name(name, How::Written);
        }
        visitor::walk_pattern(self, pattern);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn told(text: &str) -> Vec<String> {
        mentions(text)
            .iter()
            .map(|mention| {
                let how = format!("{:?}", mention.how);
                format!("{} {}", &text[mention.range], how.split(' ').next().unwrap_or_default())
            })
            .collect()
    }

    #[test]
    fn each_kind_is_found_once_and_at_its_place() {
        let text = "import ferry.berths, tide as t\nfrom ..quay import a as b, c\n";
        let found = ["ferry Module", "berths Module", "tide Module", "t Alias", "quay Module", "a Imported", "b Alias"];
        assert_eq!(told(text), [&found[..], &["c Imported"]].concat());
        let text = "def f(x, *y, z=w) -> r:\n    global g\n    x.berth = f(x=g)\n";
        let found =
            ["f Function", "x Parameter", "y Parameter", "z Parameter", "w Read", "r Read", "g Scoped", "x Read"];
        assert_eq!(told(text), [&found[..], &["berth Attribute", "f Read", "x Keyword", "g Read"]].concat());
        let text = "match v:\n    case Leg(port=p) | {**rest} as all: pass\n";
        let found = ["v Read", "Leg Read", "port PatternKeyword", "p Written", "rest Written", "all Written"];
        assert_eq!(told(text), found);
        assert_eq!(told("class C[T](B): pass"), ["C Class", "T TypeParameter", "B Read"]);
        assert_eq!(told("try: pass\nexcept E as e: del e\nf'{n!r}'"), ["E Read", "e Written", "e Written", "n Read"]);
    }

    #[test]
    fn parts_of_a_module_know_how_far_up_they_begin() {
        let text = "from ...a . b import c";
        let modules: Vec<_> = mentions(text)
            .into_iter()
            .filter_map(|mention| match mention.how {
                How::Module { start, level, .. } => Some((&text[mention.range], usize::from(start), level)),
                _ => None,
            })
            .collect();
        assert_eq!(modules, [("a", 8, 3), ("b", 8, 3)]);
    }

    #[test]
    fn what_is_missing_in_a_broken_text_is_no_mention() {
        assert_eq!(told("x = vessel.\n"), ["x Written", "vessel Read"]);
    }
}
