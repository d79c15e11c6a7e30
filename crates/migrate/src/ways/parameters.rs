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
    /// The base's parameter, as it is written there, behind the one that it stands behind in the base.
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
        let new = match (file == finding.file, default) {
            (true, _) => base.slice(parameter.range()).to_owned(),
            (false, Some(default)) if is_plain(default) => format!("{name}={default}"),
            (false, Some(_)) => return None,
            (false, None) => name.to_owned(),
        };
        let own = self.code(finding.file);
        let method = own.function(finding.range)?;
        // Behind the one that it stands behind in the base: others are given by position.
        let before: Vec<&str> = theirs
            .parameters
            .args
            .iter()
            .map(|one| one.parameter.name.as_str())
            .take_while(|one| *one != name)
            .collect();
        let (place, text) = behind(method, &before, &new, by_keyword)?;
        way.edits = vec![(finding.file, Edit::insert(place, text))];
        way.title = format!("take it: `{new}`");
        Some(())
    }

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
            // The comma behind it as well.
            None => {
                let rest = &code.text[usize::from(last.end())..];
                let blanks = rest.len() - rest.trim_start().len();
                let comma = if rest.trim_start().starts_with(',') { blanks + 1 } else { 0 };
                TextRange::new(argument.start(), last.end() + TextSize::try_from(comma).unwrap_or_default())
            }
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

    /// What callers of the base do not give gets a default: that of the base, or None.
    pub(super) fn with_defaults(&mut self, finding: &Finding, file: File, at: TextRange, way: &mut Way) -> Option<()> {
        let base = self.code(file);
        let theirs = base.function(at)?;
        let code = self.code(finding.file);
        let parameters = &code.function(finding.range)?.parameters;
        let own = |one: &&ParameterWithDefault| -> Option<&ParameterWithDefault> {
            let name = one.parameter.name.as_str();
            let is_same = |other: &&ParameterWithDefault| other.parameter.name.as_str() == name;
            theirs.parameters.iter_non_variadic_params().find(is_same)
        };
        let is_asked = |one: &&ParameterWithDefault| {
            one.default.is_none() && own(one).is_none_or(|theirs| theirs.default.is_some())
        };
        // Those behind the first one need a default, too.
        let first = parameters.args.iter().enumerate().skip(1).find(|(_, one)| is_asked(one)).map(|(place, _)| place);
        let behind = parameters.args[first.unwrap_or(parameters.args.len())..].iter();
        let all: Vec<&ParameterWithDefault> =
            behind.filter(|one| one.default.is_none()).chain(parameters.kwonlyargs.iter().filter(is_asked)).collect();
        let mut given = Vec::new();
        for one in all {
            let default =
                own(&one).and_then(|theirs| theirs.default.as_ref()).map(|default| base.slice(default.range()));
            let default = default.filter(|text| file == finding.file || is_plain(text)).unwrap_or("None");
            // None would have to be declared.
            if one.parameter.annotation.is_some() && default == "None" {
                return None;
            }
            let equals = if one.parameter.annotation.is_some() { " = " } else { "=" };
            given.push((one.range().end(), format!("{equals}{default}"), one.parameter.name.as_str()));
        }
        let shown: Vec<String> = given.iter().map(|(_, text, name)| format!("`{name}{text}`")).collect();
        way.title = match shown.as_slice() {
            [] => return None,
            [one] => format!("give it a default: {one}"),
            more => format!("give defaults: {}", more.join(", ")),
        };
        way.edits = given.into_iter().map(|(at, text, _)| (finding.file, Edit::insert(at, text))).collect();
        "its body must handle what stands there then".clone_into(&mut way.price);
        Some(())
    }
}

/// Whether a default means the same in another file.
fn is_plain(text: &str) -> bool {
    text.starts_with(|char: char| char.is_ascii_digit() || "'\"-".contains(char))
        || matches!(text, "True" | "False" | "None" | "()")
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
fn behind(method: &StmtFunctionDef, before: &[&str], new: &str, by_keyword: bool) -> Option<(TextSize, String)> {
    let parameters = &method.parameters;
    if by_keyword {
        if parameters.kwarg.is_some() {
            return None;
        }
        let last = parameters.iter().last()?;
        let star = if parameters.vararg.is_none() && parameters.kwonlyargs.is_empty() { "*, " } else { "" };
        return Some((last.range().end(), format!(", {star}{new}")));
    }
    let named = |name: &str| parameters.args.iter().position(|one| one.parameter.name.as_str() == name);
    let end = parameters.args.len().checked_sub(1)?;
    let at = match before {
        // The first parameter is the object, whatever it is called.
        [_] => 0,
        [.., last] => named(last).unwrap_or(end),
        [] => end,
    };
    let last = &parameters.args[at];
    // One without a default cannot stand behind one that has a default, nor one with a default before one without.
    let has_default = |one: &ParameterWithDefault| one.default.is_some();
    let is_out_of_order = if new.contains('=') {
        parameters.args[at + 1..].iter().any(|one| !has_default(one))
    } else {
        parameters.args[..=at].iter().any(has_default)
    };
    if is_out_of_order {
        return None;
    }
    Some((last.range().end(), format!(", {new}")))
}
