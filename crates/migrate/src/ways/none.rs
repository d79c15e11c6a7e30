//! What may be None: checked before use, or kept from being None where that begins.

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::findings::evidence::Evidence;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::view::given::{self, How};
use leitmotiv_syntax::ast::{self, Expr, StmtFunctionDef};
use leitmotiv_syntax::edits::{Edit, line_end};
use leitmotiv_syntax::names::Name;
use leitmotiv_syntax::{Ranged, TextRange};

use super::code::{Code, Spot};
use super::held::Held;
use super::{Reach, Way, Ways};
use crate::annotate::is_test;

impl Ways<'_> {
    /// The value is checked before the statement that it stands in, which is not reached where it is None.
    pub(super) fn check(&mut self, finding: &Finding, value: TextRange, way: &mut Way) -> Option<()> {
        let code = self.code(finding.file);
        let spot = code.spot(value)?;
        let held = Held::of(&code, &spot, value)?;
        let end = line_end(&code.text);
        let is_in_test = is_test(finding.file.path(self.db));
        let (leave, what) = leave(&code, &spot, &held.name, is_in_test);
        let indent = spot.indent;
        let step = if indent.contains('\t') { "\t" } else { "    " };
        let check =
            format!("{}if {} is None:{end}{indent}{step}{leave}{end}{indent}", held.before(indent, end), held.name);
        way.edits = held.edits(finding.file, spot.range.start(), check);
        way.title = format!("check `{}` for None first: `{leave}`", held.name);
        way.price = what.to_owned();
        Some(())
    }

    pub(super) fn assert(&mut self, finding: &Finding, value: TextRange, way: &mut Way) -> Option<()> {
        let code = self.code(finding.file);
        let spot = code.spot(value)?;
        let held = Held::of(&code, &spot, value)?;
        let end = line_end(&code.text);
        let line = format!("{}assert {} is not None{end}{}", held.before(spot.indent, end), held.name, spot.indent);
        way.edits = held.edits(finding.file, spot.range.start(), line);
        way.title = format!("assert that `{}` is not None, if you know better", held.name);
        "no check is left: where you are wrong, AssertionError stops the program here".clone_into(&mut way.price);
        Some(())
    }

    /// Where None comes from, it does not any more. `None` where it comes from a library, and nothing better can be asked of that.
    pub(super) fn origin(&mut self, finding: &Finding, value: TextRange, rest: Type, mut way: Way) -> Option<Way> {
        let db = self.db;
        way.reach = Reach::Cause;
        if let Some((file, range)) = self.made(finding, value)
            && let Some((new, price)) = self.without_none(finding, file, range, rest)
        {
            let code = self.code(file);
            let at = if file == finding.file && range.contains_range(value) || range == value {
                String::new()
            } else {
                format!(" ({})", self.place(finding, file, range.start()))
            };
            let old = code.slice(range);
            let is_short = old.chars().count() + new.chars().count() <= 72 && !old.contains('\n');
            way.title = if is_short {
                format!("write `{new}`{at}")
            } else {
                format!("leave the None out of `{}(…)`{at}", code.slice(range).split('(').next().unwrap_or_default())
            };
            way.price = price;
            way.edits = vec![(file, Edit::replace(range, new))];
            return Some(way);
        }
        let first = finding.evidence.iter().find(|step| !step.asks && step.file.origin(db).is_own())?;
        // A call of a library that gives None by its nature can only be checked.
        let is_foreign = finding.evidence.first().is_some_and(|step| !step.file.origin(db).is_own());
        if is_foreign {
            return None;
        }
        let place = self.place(finding, first.file, first.range.start());
        if first.kind == "returned" && self.raise(first, &mut way).is_some() {
            return Some(way);
        }
        match first.kind {
            "assigned" => {
                way.title = format!("give a value other than None where it begins ({place})");
                "it must make sense to all who read it".clone_into(&mut way.price);
            }
            "declared" => {
                if let Some(annotation) = self.annotation(first.file, first.range) {
                    let code = self.code(first.file);
                    let new = without_optional(code.slice(annotation));
                    way.edits = new.map(|new| (first.file, Edit::replace(annotation, new))).into_iter().collect();
                }
                way.is_last = true;
                way.title = format!("take None out of the declaration ({place})");
                "who gives None there must stop doing so".clone_into(&mut way.price);
            }
            _ => way.title = format!("give a default where the None comes from ({place})"),
        }
        Some(way)
    }

    /// The expression that gives the value: itself, or what is assigned to the name last.
    fn made(&mut self, finding: &Finding, value: TextRange) -> Option<(File, TextRange)> {
        let code = self.code(finding.file);
        if let Some(Expr::Call(_)) = code.expression(value) {
            return Some((finding.file, value));
        }
        let last = finding.evidence.iter().rev().find(|step| !step.asks && step.file.origin(self.db).is_own())?;
        (last.kind == "assigned").then_some(())?;
        let code = self.code(last.file);
        let value = code.assigned(last.range)?;
        matches!(value, Expr::Call(_)).then(|| (last.file, value.range()))
    }

    /// A call that gives None where it finds nothing, written so that it does not; and what that costs.
    fn without_none(
        &mut self,
        finding: &Finding,
        file: File,
        range: TextRange,
        rest: Type,
    ) -> Option<(String, String)> {
        let code = self.code(file);
        let Expr::Call(call) = code.expression(range)? else { return None };
        let arguments = &call.arguments;
        if !arguments.keywords.is_empty() {
            return None;
        }
        match (&*call.func, &*arguments.args) {
            (Expr::Attribute(method), [key]) if method.attr.as_str() == "get" => {
                let (holder, key) = (code.slice(method.value.range()), code.slice(key.range()));
                // What is put into a new container is lost; one that is gone through may be a new one.
                let is_kept = |default: &&str| !matches!(*default, "[]" | "{}") || finding.rule == "none.iteration";
                match self.default(rest).filter(is_kept) {
                    Some(default) => {
                        let price = format!("`{default}` must make sense here where there is nothing under the key");
                        Some((format!("{holder}.get({key}, {default})"), price))
                    }
                    None => Some((
                        format!("{holder}[{key}]"),
                        "KeyError here where there is nothing under the key".to_owned(),
                    )),
                }
            }
            (Expr::Attribute(method), [key]) if method.attr.as_str() == "getenv" => {
                let (holder, key) = (code.slice(method.value.range()), code.slice(key.range()));
                Some((format!("{holder}.environ[{key}]"), "KeyError here where the variable is not set".to_owned()))
            }
            (Expr::Name(name), [iterator, Expr::NoneLiteral(_)]) if name.id.as_str() == "next" => {
                let iterator = code.slice(iterator.range());
                Some((format!("next({iterator})"), "StopIteration here where there is nothing to be found".to_owned()))
            }
            (Expr::Name(name), [object, attribute, Expr::NoneLiteral(_)]) if name.id.as_str() == "getattr" => {
                let (object, attribute) = (code.slice(object.range()), code.slice(attribute.range()));
                Some((
                    format!("getattr({object}, {attribute})"),
                    "AttributeError here where it is not there".to_owned(),
                ))
            }
            _ => None,
        }
    }

    /// An empty value of a type, where it has a usual one.
    fn default(&self, ty: Type) -> Option<&'static str> {
        match show(self.db, ty).as_str() {
            "str" => Some("\"\""),
            "bytes" => Some("b\"\""),
            "int" => Some("0"),
            "float" => Some("0.0"),
            "bool" => Some("False"),
            shown if shown.starts_with("list[") => Some("[]"),
            shown if shown.starts_with("dict[") => Some("{}"),
            _ => None,
        }
    }

    /// The function raises where it gives None.
    fn raise(&mut self, step: &Evidence, way: &mut Way) -> Option<()> {
        let db = self.db;
        let code = self.code(step.file);
        let function = code.function(step.range)?;
        let index = module_index(db, step.file);
        let (id, _) = index.functions.iter().find(|(_, record)| record.name_range == function.name.range())?;
        let words = format!("raise LookupError(\"{}() has no result\")", function.name);
        // Wherever it gives None, and nothing else.
        let mut edits = Vec::new();
        for given in given::of(db, step.file, id).iter().filter(|given| given.ty == Type::None) {
            let edit = match given.how {
                How::Returned if matches!(code.slice(given.range).trim(), "return None" | "return") => {
                    Edit::replace(given.range, words.clone())
                }
                How::Ends => {
                    let last = function.body.last()?;
                    let indent = code.indent(last.range().start())?;
                    Edit::insert(last.range().end(), format!("{}{indent}{words}", line_end(&code.text)))
                }
                _ => return None,
            };
            edits.push((step.file, edit));
        }
        let first = edits.first()?.1.start;
        let callers = self.callers(step.file, id);
        let shown = functions::shown(db, step.file, id);
        let line = index.lines.0.index_of(first) + 1;
        way.id = "raise";
        way.edits = edits;
        let more = match way.edits.len() {
            1 => String::new(),
            more => format!(" and {} more", more - 1),
        };
        way.title =
            format!("raise an exception in `{shown}` where it gives None ({}:{line}{more})", step.file.path(db));
        way.price = match callers {
            Some(callers) => format!("{callers} would meet the exception"),
            None => "no call of it is known here".to_owned(),
        };
        Some(())
    }

    /// The name is bound before the statement that binds it on some ways only.
    pub(super) fn bind(
        &mut self,
        finding: &Finding,
        name: Name,
        first: TextRange,
        ty: Type,
        way: &mut Way,
    ) -> Option<()> {
        let code = self.code(finding.file);
        let spot = code.before_both(first, finding.range)?;
        let name = self.db.names().text(name);
        let value = self.default(ty).unwrap_or("None");
        let line = self.place(finding, finding.file, spot.range.start());
        way.edits = vec![(
            finding.file,
            Edit::insert(spot.range.start(), format!("{name} = {value}{}{}", line_end(&code.text), spot.indent)),
        )];
        way.title = format!("begin with `{name} = {value}` before {line}");
        way.price = format!("`{value}` must make sense where nothing else is bound");
        Some(())
    }
}

/// An annotation that says None as well, without it.
fn without_optional(text: &str) -> Option<String> {
    let (quote, inner) = match text.chars().next()? {
        quote @ ('"' | '\'') => (quote.to_string(), text.strip_prefix(quote)?.strip_suffix(quote)?),
        _ => (String::new(), text),
    };
    let is_alone = |text: &str| !text.contains('|') && text.matches('[').count() == text.matches(']').count();
    let new = inner
        .strip_suffix("| None")
        .or_else(|| inner.strip_prefix("None |"))
        .or_else(|| inner.strip_prefix("Optional[")?.strip_suffix(']').filter(|text| is_alone(text)))
        .or_else(|| inner.strip_prefix("typing.Optional[")?.strip_suffix(']').filter(|text| is_alone(text)))?;
    Some(format!("{quote}{}{quote}", new.trim()))
}

/// How the statement is left where the value is None, and what that costs.
fn leave(code: &Code, spot: &Spot<'_>, name: &str, is_in_test: bool) -> (String, &'static str) {
    if spot.in_loop && !is_in_test {
        return ("continue".to_owned(), "one branch more; what has none is passed over");
    }
    let short = name.rsplit('.').next().unwrap_or(name);
    let is_plain = short.chars().all(|char| char.is_alphanumeric() || char == '_');
    let words = match short {
        "found" | "result" | "given" => "nothing found".to_owned(),
        _ if short.len() < 3 => "nothing found".to_owned(),
        _ if is_plain => format!("no {}", short.trim_matches('_').replace('_', " ")),
        _ => "nothing there".to_owned(),
    };
    if is_in_test {
        return (format!("raise AssertionError(\"{words}\")"), "one branch more; the test fails there and says why");
    }
    let raise = (format!("raise ValueError(\"{words}\")"), "one branch more; callers get an exception that says why");
    let Some(function) = spot.function else { return raise };
    // Where more is to be done behind it, that is not passed over in silence.
    let is_last = function.body.last().is_some_and(|last| last.range().end() == spot.range.end());
    match function.returns.as_deref() {
        Some(Expr::NoneLiteral(_)) if !is_last => raise,
        Some(Expr::NoneLiteral(_)) => ("return".to_owned(), "one branch more; nothing of the rest is done then"),
        Some(returns) => {
            let text = code.slice(returns.range());
            let mut words = text.split(|char: char| !char.is_alphanumeric());
            match words.any(|word| matches!(word, "None" | "Optional")) {
                true => ("return None".to_owned(), "one branch more; callers handle None already"),
                false => raise,
            }
        }
        None => {
            let returns = Returns::of(function);
            match (returns.values, returns.nothing, returns.yields) {
                (_, _, true) | (false, _, _) if !is_last => raise,
                (_, _, true) | (false, _, _) => {
                    ("return".to_owned(), "one branch more; nothing of the rest is done then")
                }
                (true, true, false) => ("return None".to_owned(), "one branch more; callers handle None already"),
                (true, false, false) => raise,
            }
        }
    }
}

/// What a function returns, as its text says.
#[derive(Default)]
struct Returns {
    values: bool,
    nothing: bool,
    yields: bool,
}

impl Returns {
    fn of(function: &StmtFunctionDef) -> Returns {
        let mut returns = Returns::default();
        ast::visitor::Visitor::visit_body(&mut returns, &function.body);
        returns
    }
}

impl ast::visitor::Visitor<'_> for Returns {
    fn visit_stmt(&mut self, statement: &ast::Stmt) {
        match statement {
            ast::Stmt::FunctionDef(_) | ast::Stmt::ClassDef(_) => {}
            ast::Stmt::Return(returned) => match returned.value.as_deref() {
                None | Some(Expr::NoneLiteral(_)) => self.nothing = true,
                Some(_) => self.values = true,
            },
            _ => ast::visitor::walk_stmt(self, statement),
        }
    }

    fn visit_expr(&mut self, expr: &Expr) {
        match expr {
            Expr::Yield(_) | Expr::YieldFrom(_) => self.yields = true,
            Expr::Lambda(_) => {}
            _ => ast::visitor::walk_expr(self, expr),
        }
    }
}
