//! What a method takes beside that of its base, and what a call gives too much.

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_syntax::ast::visitor::{self, Visitor};
use leitmotiv_syntax::ast::{AnyParameterRef, Expr, ParameterWithDefault, Stmt, StmtFunctionDef};
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::names::Name;
use leitmotiv_syntax::{Ranged, TextRange, TextSize};

use super::{Way, Ways};

impl Ways<'_> {
    /// The base's parameter, as it is written there, behind the last one that a method takes.
    pub(super) fn take(
        &mut self,
        finding: &Finding,
        file: File,
        at: TextRange,
        name: Name,
        way: &mut Way,
    ) -> Option<()> {
        let name = self.db.names().text(name);
        let base = self.code(file);
        let theirs = base.function(at)?;
        let AnyParameterRef::NonVariadic(parameter) =
            theirs.parameters.iter().find(|parameter| parameter.name().as_str() == name)?
        else {
            return None;
        };
        let by_keyword = theirs.parameters.kwonlyargs.iter().any(|one| one.range() == parameter.range());
        // Its annotation may mean nothing in another file.
        let default = parameter.default.as_ref().map(|default| base.slice(default.range()));
        let is_plain =
            default.is_none_or(|text| text.starts_with(|char: char| char.is_ascii_digit() || "'\"-TFN".contains(char)));
        let new = match (file == finding.file, default) {
            (true, _) => base.slice(parameter.range()).to_owned(),
            (false, Some(default)) if is_plain => format!("{name}={default}"),
            (false, Some(_)) => return None,
            (false, None) => name.to_owned(),
        };
        let own = self.code(finding.file);
        let method = own.function(finding.range)?;
        let (place, text) = behind(method, &new, by_keyword)?;
        way.edits = vec![(finding.file, Edit::insert(place, text))];
        way.title = format!("take it: `{new}`");
        Some(())
    }
}

impl Ways<'_> {
    /// What a call gives too much is left out.
    pub(super) fn leave_out(&mut self, finding: &Finding, argument: TextRange, way: &mut Way) -> Option<()> {
        let code = self.code(finding.file);
        let arguments = code.arguments(argument)?;
        let is_meant = |range: TextRange| range == argument;
        let place = arguments.iter_source_order().position(|one| is_meant(one.range()))?;
        let is_positional = place < arguments.args.len() && arguments.args.iter().any(|one| is_meant(one.range()));
        let all: Vec<TextRange> = arguments.iter_source_order().map(|one| one.range()).collect();
        let last = if is_positional { arguments.args.last()?.range() } else { argument };
        let range = match place.checked_sub(1) {
            Some(before) => TextRange::new(all[before].end(), last.end()),
            None => TextRange::new(
                argument.start(),
                all.iter().find(|one| one.start() >= last.end()).map_or(last.end(), |next| next.start()),
            ),
        };
        way.edits = vec![(finding.file, Edit::replace(range, String::new()))];
        let text = code.slice(TextRange::new(argument.start(), last.end()));
        if !text.contains('\n') && text.len() <= 48 {
            way.title = format!("leave `{text}` out");
        }
        Some(())
    }

    /// A parameter is called as the base calls it, wherever the method reads it.
    pub(super) fn rename(&mut self, finding: &Finding, from: Name, to: Name, way: &mut Way) -> Option<()> {
        let (from, to) = (self.db.names().text(from), self.db.names().text(to));
        let code = self.code(finding.file);
        let method = code.function(finding.range)?;
        let parameter = method.parameters.iter().find(|one| one.name().as_str() == from)?;
        let mut names = Names { from, to, found: vec![parameter.name().range()], is_taken: false };
        names.visit_body(&method.body);
        if names.is_taken {
            return None;
        }
        way.edits = names.found.iter().map(|range| (finding.file, Edit::replace(*range, to))).collect();
        way.title = format!("call it `{to}`, as the base does, in place of `{from}`");
        way.price =
            format!("{} in the method change; who calls it with `{from}=` must as well", count(names.found.len()));
        Some(())
    }

    /// A parameter that callers of the base do not give gets a default.
    pub(super) fn with_default(&mut self, finding: &Finding, name: Name, way: &mut Way) -> Option<()> {
        let name = self.db.names().text(name);
        let code = self.code(finding.file);
        let method = code.function(finding.range)?;
        let parameters = &method.parameters;
        let place = parameters.args.iter().position(|one| one.parameter.name.as_str() == name);
        let given: Vec<&ParameterWithDefault> = match place {
            // Those behind it need one, too.
            Some(place) => parameters.args[place..].iter().filter(|one| one.default.is_none()).collect(),
            None => parameters.kwonlyargs.iter().filter(|one| one.parameter.name.as_str() == name).collect(),
        };
        // None would have to be declared.
        if given.is_empty() || given.iter().any(|one| one.parameter.annotation.is_some()) {
            return None;
        }
        way.edits = given.iter().map(|one| (finding.file, Edit::insert(one.range().end(), "=None"))).collect();
        way.title = match given.len() {
            1 => format!("give it a default: `{name}=None`"),
            more => format!("give `{name}` and the {} behind it a default, None", more - 1),
        };
        "its body must handle None".clone_into(&mut way.price);
        Some(())
    }
}

fn count(places: usize) -> String {
    if places == 1 { "one place".to_owned() } else { format!("{places} places") }
}

/// Where a name is read or written in a body, and whether that has the other name already.
struct Names<'a> {
    from: &'a str,
    to: &'a str,
    found: Vec<TextRange>,
    is_taken: bool,
}

impl Visitor<'_> for Names<'_> {
    fn visit_stmt(&mut self, statement: &Stmt) {
        // What is defined within may mean another thing by the name.
        let is_inner =
            matches!(statement, Stmt::FunctionDef(_) | Stmt::ClassDef(_) | Stmt::Global(_) | Stmt::Nonlocal(_));
        self.is_taken |= is_inner;
        visitor::walk_stmt(self, statement);
    }

    fn visit_expr(&mut self, expr: &Expr) {
        match expr {
            Expr::Name(name) if name.id.as_str() == self.from => self.found.push(name.range()),
            Expr::Name(name) => self.is_taken |= name.id.as_str() == self.to,
            Expr::Lambda(_) => self.is_taken = true,
            _ => {}
        }
        visitor::walk_expr(self, expr);
    }
}

/// Where a parameter goes, with the commas that it needs.
fn behind(method: &StmtFunctionDef, new: &str, by_keyword: bool) -> Option<(TextSize, String)> {
    let parameters = &method.parameters;
    // A parameter without a default cannot stand behind one with a default, but for those by keyword.
    let has_default = parameters.args.iter().any(|one| one.default.is_some());
    if has_default && !new.contains('=') && !by_keyword {
        return None;
    }
    if by_keyword {
        if parameters.kwarg.is_some() {
            return None;
        }
        let last = parameters.iter().last()?;
        let star = if parameters.vararg.is_none() && parameters.kwonlyargs.is_empty() { "*, " } else { "" };
        return Some((last.range().end(), format!(", {star}{new}")));
    }
    let last =
        parameters.args.last().or_else(|| parameters.posonlyargs.last().filter(|_| parameters.args.is_empty()))?;
    // Behind `/` nothing is told of where that stands.
    if parameters.args.is_empty() && !parameters.posonlyargs.is_empty() {
        return None;
    }
    Some((last.range().end(), format!(", {new}")))
}
