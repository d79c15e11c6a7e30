//! New names into a stub that is there already: what someone wrote stays as it is.

use std::collections::BTreeSet;

use leitmotiv_syntax::ast::{self, Stmt};
use leitmotiv_syntax::edits::{Edit, apply, line_end};
use leitmotiv_syntax::{Ranged, TextLen, TextSize, parse};

use super::text::{behind_head, made, module_of, words};

/// A stub with what was missing in it.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Merged {
    /// The text.
    pub text: String,
    /// The names that were added, members of classes dotted.
    pub added: Vec<String>,
}

/// Adds the names of `fresh` that `existing` does not have, at the end of the module and of its classes, with the imports that
/// they need. Whatever `existing` has stays byte by byte; a name that it has in any form counts as there. A stub that cannot be
/// parsed is given back as it is.
#[must_use]
pub fn merge(existing: &str, fresh: &str) -> Merged {
    let (old, new) = (parse::parse(existing), parse::parse(fresh));
    if !old.faults.is_empty() || !new.faults.is_empty() {
        return Merged { text: existing.to_owned(), added: Vec::new() };
    }
    let end = line_end(existing);
    let mut merge = Merge { existing, fresh, end, edits: Vec::new(), added: Vec::new(), taken: String::new() };
    let known = names(&old.body);
    let mut tail = String::new();
    for group in groups(&new.body) {
        let Some(name) = group.name else { continue };
        if name.starts_with("__") && name != "__getattr__" || group.is_import && known.contains(name) {
            continue;
        }
        if known.contains(name) {
            let classes = (class(&old.body, name), class(&new.body, name));
            if let (Some(old), Some(new)) = classes {
                merge.class(name, old, new);
            }
            continue;
        }
        if group.is_import && !is_given_on(&new.body[group.first]) {
            continue;
        }
        let text = merge.source(&new.body[group.first], &new.body[group.last]);
        tail.push_str(&text);
        tail.push('\n');
        merge.taken.push_str(&text);
        merge.taken.push('\n');
        merge.added.push(name.to_owned());
    }
    merge.finish(&old.body, &new.body, tail)
}

struct Merge<'a> {
    existing: &'a str,
    fresh: &'a str,
    /// The line end that the existing text uses.
    end: &'static str,
    edits: Vec<Edit>,
    added: Vec<String>,
    /// All text that is added, to tell which imports it needs.
    taken: String,
}

impl Merge<'_> {
    fn class(&mut self, name: &str, old: &ast::StmtClassDef, new: &ast::StmtClassDef) {
        let known = names(&old.body);
        let mut lines = String::new();
        for group in groups(&new.body) {
            let Some(member) = group.name.filter(|member| !known.contains(member)) else { continue };
            let text = self.source(&new.body[group.first], &new.body[group.last]);
            lines.push_str("\n    ");
            lines.push_str(&text);
            self.taken.push_str(&text);
            self.taken.push('\n');
            self.added.push(format!("{name}.{member}"));
        }
        if lines.is_empty() {
            return;
        }
        let depth = old.body.last().and_then(|last| column(self.existing, last.start())).unwrap_or(4);
        let lines = lines.replace("\n    ", &format!("\n{}", " ".repeat(depth))).replace('\n', self.end);
        let is_dots = |stmt: &Stmt| {
            matches!(stmt, Stmt::Expr(expression) if matches!(*expression.value, ast::Expr::EllipsisLiteral(_)))
                || matches!(stmt, Stmt::Pass(_))
        };
        match old.body.as_slice() {
            // `class Vessel: ...`
            [only] if is_dots(only) => {
                let head = self.existing[..usize::from(only.start())].trim_end().len();
                let start = TextSize::try_from(head).unwrap_or_default();
                self.edits.push(Edit { start, end: only.end(), text: lines });
            }
            [first, .., last] | [first @ last] => {
                // `class Vessel: name: str` goes on on its next line.
                if column(self.existing, first.start()).is_none() && is_on_line_of(self.existing, old, first) {
                    let head = self.existing[..usize::from(first.start())].trim_end().len();
                    let start = TextSize::try_from(head).unwrap_or_default();
                    let text = format!("{}{}", self.end, " ".repeat(depth));
                    self.edits.push(Edit { start, end: first.start(), text });
                }
                // Behind a comment that stands there, before the line's end.
                let at = usize::from(last.end());
                let rest = self.existing[at..].find(['\r', '\n']).unwrap_or(self.existing.len() - at);
                let at = TextSize::try_from(at + rest).unwrap_or_default();
                self.edits.push(Edit::insert(at, lines));
            }
            [] => {}
        }
    }

    /// The text from one statement to another, decorators included.
    fn source(&self, first: &Stmt, last: &Stmt) -> String {
        self.fresh[usize::from(first.start())..usize::from(last.end())].to_owned()
    }

    fn finish(mut self, old: &[Stmt], new: &[Stmt], tail: String) -> Merged {
        if self.added.is_empty() {
            return Merged { text: self.existing.to_owned(), added: Vec::new() };
        }
        let known = names(old);
        let used: BTreeSet<&str> = words(&self.taken).collect();
        let mut heads = String::new();
        for stmt in new {
            let Stmt::ImportFrom(import) = stmt else { continue };
            if is_given_on(stmt) {
                continue;
            }
            let wanted: Vec<&str> = import
                .names
                .iter()
                .map(|alias| alias.name.as_str())
                .filter(|name| used.contains(name) && !known.contains(*name))
                .collect();
            if !wanted.is_empty() {
                heads.push_str(&format!("from {} import {}\n", module_of(import), wanted.join(", ")));
            }
        }
        let (heads, tail) = (heads.replace('\n', self.end), tail.replace('\n', self.end));
        if !heads.is_empty() {
            let last = old.iter().take_while(|stmt| is_head(stmt)).last();
            let at = last.map_or(behind_head(self.existing), |last| line_behind(self.existing, last.end()));
            self.edits.push(Edit::insert(at, heads));
        }
        if !tail.is_empty() {
            let gap = if self.existing.is_empty() || self.existing.ends_with(['\n', '\r']) { "" } else { self.end };
            self.edits.push(Edit::insert(self.existing.text_len(), format!("{gap}{tail}")));
        }
        match apply(self.existing, &self.edits) {
            Ok(text) if parse::parse(&text).faults.is_empty() => Merged { text, added: self.added },
            _ => Merged { text: self.existing.to_owned(), added: Vec::new() },
        }
    }
}

/// Statements that belong to one name, such as overloads, by their places.
struct Group<'a> {
    name: Option<&'a str>,
    first: usize,
    last: usize,
    is_import: bool,
}

fn groups(body: &[Stmt]) -> Vec<Group<'_>> {
    let mut groups: Vec<Group<'_>> = Vec::new();
    for (at, stmt) in body.iter().enumerate() {
        // What makes several names is no group: those of an import are taken as they are needed.
        let name = match made(stmt).as_slice() {
            [name] => Some(*name),
            _ => None,
        };
        let is_import = matches!(stmt, Stmt::Import(_) | Stmt::ImportFrom(_));
        match groups.last_mut() {
            Some(last) if name.is_some() && last.name == name => last.last = at,
            _ => groups.push(Group { name, first: at, last: at, is_import }),
        }
    }
    groups
}

/// All names that statements make, those under conditions included.
fn names(body: &[Stmt]) -> BTreeSet<&str> {
    let mut found = BTreeSet::new();
    for stmt in body {
        match stmt {
            Stmt::If(branch) => {
                found.extend(names(&branch.body));
                branch.elif_else_clauses.iter().for_each(|clause| found.extend(names(&clause.body)));
            }
            Stmt::Try(attempt) => found.extend(names(&attempt.body)),
            stmt => found.extend(made(stmt)),
        }
    }
    found
}

fn class<'a>(body: &'a [Stmt], name: &str) -> Option<&'a ast::StmtClassDef> {
    body.iter().find_map(|stmt| match stmt {
        Stmt::ClassDef(class) if class.name.as_str() == name => Some(class),
        _ => None,
    })
}

/// Whether an import is there for others: `from x import y as y`.
fn is_given_on(stmt: &Stmt) -> bool {
    match stmt {
        Stmt::ImportFrom(import) => import.names.iter().all(|alias| alias.asname.is_some()),
        Stmt::Import(import) => import.names.iter().all(|alias| alias.asname.is_some()),
        _ => false,
    }
}

fn is_head(stmt: &Stmt) -> bool {
    matches!(stmt, Stmt::Import(_) | Stmt::ImportFrom(_) | Stmt::Expr(_))
}

/// How far a statement is indented; `None` where it does not begin its line.
fn column(text: &str, at: TextSize) -> Option<usize> {
    let before = &text[..usize::from(at)];
    let line = &before[before.rfind('\n').map_or(0, |end| end + 1)..];
    line.chars().all(|character| character == ' ').then_some(line.len())
}

/// Whether a class's first statement stands on the line that ends its head.
fn is_on_line_of(text: &str, class: &ast::StmtClassDef, first: &Stmt) -> bool {
    let head = usize::from(class.name.end())..usize::from(first.start());
    text.get(head).and_then(|head| head.rsplit(':').next()).is_some_and(|rest| !rest.contains(['\n', '\r']))
}

/// The beginning of the line behind an offset.
fn line_behind(text: &str, at: TextSize) -> TextSize {
    let at = usize::from(at);
    let end = text[at..]
        .find(['\n', '\r'])
        .map_or(text.len(), |end| at + end + if text[at + end..].starts_with("\r\n") { 2 } else { 1 });
    TextSize::try_from(end).unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn new_names_are_added_and_the_rest_stays() {
        let existing = "# Mine.\nimport os\n\nclass Berth:\n    name: str  # kept\n\nclass Pier: ...\ndef moor(berth: Berth) -> bool: ...  # by hand\n";
        let fresh = "# Stub\nfrom typing import Any, overload\n\nclass Berth:\n    name: Any\n    depth: float\n    def clear(self) -> Any: ...\nclass Pier:\n    length: int\ndef moor(berth): ...\n@overload\ndef tide(at: int) -> float: ...\n@overload\ndef tide(at: str) -> float: ...\n";
        let merged = merge(existing, fresh);
        let expected = "# Mine.\nimport os\nfrom typing import Any, overload\n\nclass Berth:\n    name: str  # kept\n    depth: float\n    def clear(self) -> Any: ...\n\nclass Pier:\n    length: int\ndef moor(berth: Berth) -> bool: ...  # by hand\n@overload\ndef tide(at: int) -> float: ...\n@overload\ndef tide(at: str) -> float: ...\n";
        assert_eq!(merged.text, expected);
        assert_eq!(merged.added, ["Berth.depth", "Berth.clear", "Pier.length", "tide"]);
    }

    #[test]
    fn a_class_on_one_line_gets_lines() {
        let existing = "class Berth(object): name: str; depth: float  # kept\nx: int\n";
        let merged = merge(existing, "class Berth:\n    def clear(self) -> None: ...\n");
        let expected =
            "class Berth(object):\n    name: str; depth: float  # kept\n    def clear(self) -> None: ...\nx: int\n";
        assert_eq!(merged.text, expected);
    }

    #[test]
    fn line_ends_stay_as_they_are() {
        let existing = "class Berth:\r\n    name: str\r\n    depth: float\r\nx: int\r\n";
        let fresh = "from typing import Any\nclass Berth:\n    def clear(self) -> Any: ...\ny: Any\n";
        let merged = merge(existing, fresh).text;
        assert_eq!(merged.matches('\n').count(), merged.matches("\r\n").count(), "{merged:?}");
        assert!(merged.contains("depth: float\r\n    def clear(self) -> Any: ...\r\nx: int"), "{merged:?}");
    }

    #[test]
    fn nothing_new_changes_nothing() {
        let existing = "import sys\nif sys.platform == 'linux':\n    PORT: int\n";
        assert_eq!(merge(existing, "PORT: int\n"), Merged { text: existing.to_owned(), added: Vec::new() });
        assert_eq!(merge("class (:\n", "PORT: int\n").text, "class (:\n");
    }
}
