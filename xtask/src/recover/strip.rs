//! Annotations taken off a text, as they would be missing had nobody ever written any.
//!
//! Taken off are the annotations of parameters, results and assignments, declarations without a value, signatures under `@overload`,
//! type comments, and `cast`. What annotations do as the program runs stays: fields of classes under decorators, of named tuples, typed
//! dictionaries, protocols and the like, and type aliases.

use leitmotiv_syntax::ast::visitor::{self, Visitor};
use leitmotiv_syntax::ast::{self, Expr, Stmt};
use leitmotiv_syntax::comments::Meaning;
use leitmotiv_syntax::edits::{Edit, apply};
use leitmotiv_syntax::parse::parse;
use leitmotiv_syntax::{Ranged, TextRange, TextSize};

/// Bases by whose name the annotations in a class's body say what its objects are made of.
const READ_AS_RUN: &[&str] =
    &["NamedTuple", "TypedDict", "Protocol", "BaseModel", "Struct", "Schema", "SQLModel", "BaseSettings", "Enum"];

/// The text without annotations; `None` where it does not parse, before or after.
pub fn stripped(text: &str) -> Option<String> {
    let parsed = parse(text);
    if !parsed.faults.is_empty() {
        return None;
    }
    let mut strip = Strip { text, edits: Vec::new(), keeps: false };
    strip.visit_body(&parsed.body);
    for comment in &parsed.comments {
        if matches!(comment.meaning, Some(Meaning::Type(_))) {
            strip.edits.push(Edit::replace(comment.range, "#"));
        }
    }
    let after = apply(text, &strip.edits).ok()?;
    parse(&after).faults.is_empty().then_some(after)
}

struct Strip<'a> {
    text: &'a str,
    edits: Vec<Edit>,
    /// Whether the annotations of the class around do something as the program runs.
    keeps: bool,
}

impl Strip<'_> {
    fn delete(&mut self, start: TextSize, end: TextSize) {
        // The annotation's own range leaves out parentheses around it.
        let open = self.text[TextRange::new(start, end)].matches('(').count();
        let close = self.text[TextRange::new(start, end)].matches(')').count();
        let mut end = usize::from(end);
        for _ in close..open {
            let Some(at) = self.text[end..].find(')') else { break };
            end += at + 1;
        }
        self.edits.push(Edit { start, end: TextSize::try_from(end).unwrap_or_default(), text: String::new() });
    }

    fn parameters(&mut self, parameters: &ast::Parameters) {
        let with_defaults = parameters.posonlyargs.iter().chain(&parameters.args).chain(&parameters.kwonlyargs);
        let plain = with_defaults.map(|parameter| &parameter.parameter);
        let stars = parameters.vararg.iter().chain(&parameters.kwarg).map(|star| &**star);
        let all: Vec<(TextSize, TextSize)> = plain
            .chain(stars)
            .filter_map(|parameter| Some((parameter.name.end(), parameter.annotation.as_ref()?.end())))
            .collect();
        for (start, end) in all {
            self.delete(start, end);
        }
    }
}

impl<'a> Visitor<'a> for Strip<'_> {
    fn visit_stmt(&mut self, stmt: &'a Stmt) {
        match stmt {
            Stmt::FunctionDef(function) => {
                if function.decorator_list.iter().any(|decorator| last_name(&decorator.expression) == "overload") {
                    self.edits.push(Edit::replace(function.range, "pass"));
                    return;
                }
                self.parameters(&function.parameters);
                if let Some(returns) = &function.returns {
                    self.delete(function.parameters.end(), returns.end());
                }
                let keeps = std::mem::replace(&mut self.keeps, false);
                for decorator in &function.decorator_list {
                    self.visit_expr(&decorator.expression);
                }
                self.visit_body(&function.body);
                self.keeps = keeps;
            }
            Stmt::ClassDef(class) => {
                let is_read = class.arguments.iter().flat_map(|arguments| &arguments.args).any(|base| {
                    let base = match base {
                        Expr::Subscript(base) => &base.value,
                        base => base,
                    };
                    READ_AS_RUN.iter().any(|read| last_name(base).ends_with(read))
                });
                let has_keywords = class.arguments.iter().any(|arguments| !arguments.keywords.is_empty());
                let keeps =
                    std::mem::replace(&mut self.keeps, is_read || has_keywords || !class.decorator_list.is_empty());
                self.visit_body(&class.body);
                self.keeps = keeps;
            }
            Stmt::AnnAssign(assign) => {
                if self.keeps || last_name(&assign.annotation) == "TypeAlias" {
                    return;
                }
                match &assign.value {
                    Some(value) => {
                        self.delete(assign.target.end(), assign.annotation.end());
                        self.visit_expr(value);
                    }
                    None => self.edits.push(Edit::replace(assign.range, "pass")),
                }
            }
            _ => visitor::walk_stmt(self, stmt),
        }
    }

    fn visit_expr(&mut self, expr: &'a Expr) {
        if let Expr::Call(call) = expr
            && last_name(&call.func) == "cast"
            && let [_, value] = &*call.arguments.args
        {
            self.edits.push(Edit::replace(TextRange::new(call.start(), value.start()), "("));
            self.edits.push(Edit::replace(TextRange::new(value.end(), call.end()), ")"));
            self.visit_expr(value);
            return;
        }
        visitor::walk_expr(self, expr);
    }
}

fn last_name(expr: &Expr) -> &str {
    match expr {
        Expr::Name(name) => name.id.as_str(),
        Expr::Attribute(attribute) => attribute.attr.as_str(),
        _ => "",
    }
}

#[cfg(test)]
mod tests {
    use super::stripped;

    #[test]
    fn annotations_come_off_and_the_program_stays() {
        let text = "def f(a: int, *b: str, c: 'A' = 1) -> (\n    int\n):\n    x: int = cast(int, a)\n    y: int\n    return x\n";
        let after = "def f(a, *b, c = 1):\n    x = (a)\n    pass\n    return x\n";
        assert_eq!(stripped(text).as_deref(), Some(after));
    }

    #[test]
    fn what_annotations_do_as_the_program_runs_stays() {
        let text =
            "@dataclass\nclass A:\n    x: int\n    def f(self) -> int:\n        return self.x\nclass B:\n    x: int\n";
        let after = "@dataclass\nclass A:\n    x: int\n    def f(self):\n        return self.x\nclass B:\n    pass\n";
        assert_eq!(stripped(text).as_deref(), Some(after));
    }
}
