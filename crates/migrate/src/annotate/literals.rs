//! Closed sets of strings: parameters for which a function raises where they are none of some strings.

use std::collections::BTreeSet;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::resolve::is_builtin;
use leitmotiv_engine::types::{Literal, Type, union};
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::{Expr as Known, ModuleIndex};
use leitmotiv_syntax::ast::visitor::{self, Visitor};
use leitmotiv_syntax::ast::{self, CmpOp, Expr, Pattern, Stmt};
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{Ranged, TextRange, parse};

use super::Writer;
use super::evidence::{Conclusion, Evidence, Source, Strength, Sureness, Weight, Why};
use crate::spell::{Spelled, Style, library_names};

/// More strings than that are written by a name of their own, if at all.
const MOST: usize = 8;

/// Strings in the order of the text.
type Strings = Vec<String>;

/// The functions of a file that raise, parsed once.
pub(super) struct Closed {
    body: Option<Vec<Stmt>>,
}

impl Closed {
    /// Nothing is parsed until somebody asks.
    pub(super) fn new() -> Closed {
        Closed { body: None }
    }

    /// What a parameter that was concluded to be a string is, if its function takes a closed set of them: the conclusion, and how it is spelled.
    pub(super) fn of(
        &mut self,
        writer: &Writer<'_>,
        index: &ModuleIndex,
        parameter: Parameter,
        conclusion: &Conclusion,
        style: Style,
    ) -> Option<(Conclusion, Spelled)> {
        let (db, file) = (writer.db, writer.file);
        let record = &index.functions[parameter.function];
        let param = &record.params[parameter.place as usize];
        let is_wanted = writer.wanted.sources.contains(&Source::Guards) && conclusion.sureness >= Sureness::Fair;
        let is_text = |part: &Type| match part {
            Type::Instance(id) => is_builtin(db, db.store().instance(*id).class, known::STR),
            part => *part == Type::None,
        };
        let parts = union::parts(db.store(), &conclusion.ty);
        if !is_wanted || conclusion.ty == Type::None || !parts.iter().all(is_text) || db.project().python < (3, 8) {
            return None;
        }
        let text = file.text(db);
        if !text[usize::from(record.range.start())..usize::from(record.range.end())].contains("raise") {
            return None;
        }
        let body = self.body.get_or_insert_with(|| parse::parse(text).body);
        let function = find(body, record.def_start)?;
        let (strings, range) = closed(&function.body, db.names().text(param.name))?;
        let default = param.default.map(|default| &index.exprs[default]);
        let is_among = match default {
            Some(Known::Str(Some(name))) => strings.iter().any(|string| string == db.names().text(*name)),
            Some(Known::None) | None => true,
            Some(_) => false,
        };
        let is_plain = |string: &String| !string.contains(['"', '\\', '\n', '\r']) && !string.is_empty();
        if !is_among || !(2..=MOST).contains(&strings.len()) || !strings.iter().all(is_plain) {
            return None;
        }
        let imports = library_names(db, file, &[("typing", "Literal")], style)?;
        let quoted: Vec<String> = strings.iter().map(|string| format!("\"{string}\"")).collect();
        let optional = if parts.contains(&Type::None) { " | None" } else { "" };
        if !optional.is_empty() && !style.bars {
            return None;
        }
        let spelled =
            Spelled { text: format!("Literal[{}]{optional}", quoted.join(", ")), imports, ..Spelled::default() };
        let literal =
            |string: &String| Type::Literal(db.store().intern_literal(Literal::Str(db.names().intern(string))));
        let none = (!optional.is_empty()).then_some(Type::None);
        let ty = union::join(db.store(), strings.iter().map(literal).chain(none));
        let mut evidence = conclusion.evidence.clone();
        evidence.insert(0, guard(file, ty, range, &strings));
        // Where a caller has no more than a string, it is this that goes.
        let (sureness, weight) = (Sureness::Fair, Weight::default());
        Some((Conclusion { ty, evidence, sureness, weight, ..conclusion.clone() }, spelled))
    }
}

fn guard(file: File, ty: Type, range: TextRange, strings: &[String]) -> Evidence {
    let words = format!("it raises where it is none of {}", strings.join(", "));
    let (source, strength, why) = (Source::Guards, Strength::Strong, Why::Said(words));
    Evidence { source, ty, strength, file, range, why, passed_on: false }
}

/// The function that begins at a place, `def` or `async`.
fn find(body: &[Stmt], at: leitmotiv_syntax::TextSize) -> Option<&ast::StmtFunctionDef> {
    body.iter().filter(|stmt| stmt.range().contains(at)).find_map(|stmt| match stmt {
        Stmt::FunctionDef(function) => {
            let inner = find(&function.body, at);
            inner.or_else(|| (function.body.first().is_some_and(|first| first.start() > at)).then_some(function))
        }
        Stmt::ClassDef(class) => find(&class.body, at),
        Stmt::If(block) => {
            let rest = block.elif_else_clauses.iter().find_map(|clause| find(&clause.body, at));
            find(&block.body, at).or(rest)
        }
        Stmt::Try(block) => find(&block.body, at).or_else(|| find(&block.orelse, at)),
        Stmt::With(block) => find(&block.body, at),
        _ => None,
    })
}

/// The strings that a function takes for a name, and where it raises for any other.
fn closed(body: &[Stmt], name: &str) -> Option<(Strings, TextRange)> {
    let mut so_far = Strings::new();
    for stmt in body {
        // What is asked about after that is no more what was passed.
        let is_chain = matches!(stmt, Stmt::If(block) if chain(block, name).is_some());
        if !is_chain && binds(stmt, name) {
            return None;
        }
        match stmt {
            Stmt::If(block) => {
                if let Some(strings) = asked(&block.test, name, CmpOp::NotIn)
                    && let Some(raise) = raises(&block.body)
                {
                    return Some((strings, raise));
                }
                let Some(strings) = chain(block, name) else {
                    so_far.clear();
                    continue;
                };
                so_far.extend(strings);
                let rest = block.elif_else_clauses.last().filter(|clause| clause.test.is_none());
                if let Some(rest) = rest {
                    return raises(&rest.body).map(|raise| (distinct(so_far), raise));
                }
                let leaves = |body: &[Stmt]| matches!(body.last(), Some(Stmt::Return(_) | Stmt::Raise(_)));
                if !leaves(&block.body) || !block.elif_else_clauses.iter().all(|clause| leaves(&clause.body)) {
                    so_far.clear();
                }
            }
            Stmt::Match(block) if is_name(&block.subject, name) => {
                let (last, cases) = block.cases.split_last()?;
                let strings: Option<Vec<Strings>> = cases.iter().map(|case| matched(&case.pattern)).collect();
                let is_rest = matches!(&last.pattern, Pattern::MatchAs(rest) if rest.pattern.is_none());
                let raise = raises(&last.body).filter(|_| is_rest)?;
                return Some((distinct(strings?.concat()), raise));
            }
            Stmt::Raise(raise) if !so_far.is_empty() => return Some((distinct(so_far), raise.range())),
            Stmt::Expr(_) => {}
            _ => so_far.clear(),
        }
    }
    None
}

/// Whether a statement gives a name another value.
fn binds(stmt: &Stmt, name: &str) -> bool {
    struct Bound<'a>(&'a str, bool);
    impl Visitor<'_> for Bound<'_> {
        fn visit_expr(&mut self, expr: &Expr) {
            self.1 |= matches!(expr, Expr::Name(bound) if bound.id.as_str() == self.0 && bound.ctx.is_store());
            visitor::walk_expr(self, expr);
        }
    }
    let mut bound = Bound(name, false);
    bound.visit_stmt(stmt);
    bound.1
}

/// The strings that an `if` with its `elif`s asks about, where all ask about nothing else.
fn chain(block: &ast::StmtIf, name: &str) -> Option<Strings> {
    let mut strings = same(&block.test, name)?;
    for test in block.elif_else_clauses.iter().filter_map(|clause| clause.test.as_ref()) {
        strings.extend(same(test, name)?);
    }
    Some(strings)
}

/// The strings of which a name is one where a condition holds.
fn same(test: &Expr, name: &str) -> Option<Strings> {
    match test {
        Expr::BoolOp(both) if both.op == ast::BoolOp::Or => {
            let each: Option<Vec<Strings>> = both.values.iter().map(|value| same(value, name)).collect();
            Some(each?.concat())
        }
        test => asked(test, name, CmpOp::Eq).or_else(|| asked(test, name, CmpOp::In)),
    }
}

/// The strings that a comparison asks about.
fn asked(test: &Expr, name: &str, with: CmpOp) -> Option<Strings> {
    let Expr::Compare(compare) = test else { return None };
    let ([op], [right]) = (&*compare.ops, &*compare.comparators) else { return None };
    if *op != with || !is_name(&compare.left, name) {
        return None;
    }
    if with == CmpOp::Eq {
        return Some(vec![string(right)?]);
    }
    let parts = match right {
        Expr::Tuple(tuple) => &tuple.elts,
        Expr::List(list) => &list.elts,
        Expr::Set(set) => &set.elts,
        _ => return None,
    };
    parts.iter().map(string).collect()
}

fn matched(pattern: &Pattern) -> Option<Strings> {
    match pattern {
        Pattern::MatchValue(value) => Some(vec![string(&value.value)?]),
        Pattern::MatchOr(several) => {
            let each: Option<Vec<Strings>> = several.patterns.iter().map(matched).collect();
            Some(each?.concat())
        }
        _ => None,
    }
}

fn string(expr: &Expr) -> Option<String> {
    let Expr::StringLiteral(string) = expr else { return None };
    Some(string.value.to_str().to_owned())
}

fn is_name(expr: &Expr, name: &str) -> bool {
    matches!(expr, Expr::Name(read) if read.id.as_str() == name)
}

fn raises(body: &[Stmt]) -> Option<TextRange> {
    let Some(Stmt::Raise(raise)) = body.last() else { return None };
    Some(raise.range())
}

fn distinct(strings: Strings) -> Strings {
    let mut seen = BTreeSet::new();
    strings.into_iter().filter(|string| seen.insert(string.clone())).collect()
}

#[cfg(test)]
mod tests {
    use leitmotiv_syntax::ast::Stmt;
    use leitmotiv_syntax::parse::parse;

    use super::closed;

    fn strings(body: &str) -> Option<String> {
        let indented: String = body.lines().map(|line| format!("    {line}\n")).collect();
        let parsed = parse(&format!("def sail(tide):\n{indented}"));
        let Stmt::FunctionDef(function) = &parsed.body[0] else { panic!("no function") };
        closed(&function.body, "tide").map(|(strings, _)| strings.join(" "))
    }

    #[test]
    fn what_raises_for_all_others_is_closed() {
        let high_and_low = Some("high low".to_owned());
        assert_eq!(strings("if tide not in ('high', 'low'):\n    raise ValueError(tide)\nreturn 1"), high_and_low);
        assert_eq!(
            strings("if tide == 'high':\n    x = 1\nelif tide == 'low':\n    x = 2\nelse:\n    raise ValueError"),
            high_and_low
        );
        assert_eq!(
            strings("if tide == 'high':\n    return 1\nif tide in {'low'}:\n    return 2\nraise ValueError"),
            high_and_low
        );
        assert_eq!(
            strings("match tide:\n    case 'high' | 'low':\n        pass\n    case _:\n        raise ValueError"),
            high_and_low
        );
    }

    #[test]
    fn what_goes_on_is_not() {
        assert_eq!(strings("if tide not in ('high', 'low'):\n    return 3\nraise ValueError"), None);
        assert_eq!(strings("if tide == 'high':\n    x = 1\nelif tide == 'low':\n    x = 2\nraise ValueError"), None);
        assert_eq!(
            strings("if tide == 'high':\n    return 1\nif tide.upper() == 'LOW':\n    return 2\nraise ValueError"),
            None
        );
        assert_eq!(strings("tide = tide.lower()\nif tide not in ('high', 'low'):\n    raise ValueError(tide)"), None);
        assert_eq!(strings("for tide in tide:\n    pass\nif tide not in ('high', 'low'):\n    raise ValueError"), None);
        assert_eq!(strings("if tide == 'high' and calm:\n    return 1\nelse:\n    raise ValueError"), None);
    }
}
