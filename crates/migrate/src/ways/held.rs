//! A value that is looked at before the statement that it stands in.

use leitmotiv_engine::base::file::File;
use leitmotiv_syntax::ast::{Expr, StmtFunctionDef};
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::{Ranged, TextRange, TextSize};

use super::code::{Code, Spot};

/// What is checked: a name or attribute as it is, or a call that gets a name first.
pub(super) struct Held<'a> {
    /// How it is called there.
    pub(super) name: String,
    call: Option<(TextRange, &'a str)>,
}

impl<'a> Held<'a> {
    pub(super) fn of(code: &'a Code, spot: &Spot<'_>, value: TextRange) -> Option<Held<'a>> {
        let text = code.slice(value);
        let expr = code.expression(value)?;
        if is_steady(expr) {
            return Some(Held { name: text.to_owned(), call: None });
        }
        let Expr::Call(call) = expr else { return None };
        if !code.comes_first(spot, value) {
            return None;
        }
        let called = match &*call.func {
            Expr::Name(name) => name.id.as_str(),
            Expr::Attribute(attribute) => attribute.attr.as_str(),
            _ => return None,
        };
        let around = spot
            .function
            .map_or(TextRange::up_to(TextSize::of(&*code.text)), |function: &StmtFunctionDef| function.range());
        // Attributes of that name are other things.
        let is_free = |name: &str| {
            let is_part = |char: char| char.is_alphanumeric() || char == '_';
            let text = code.slice(around);
            let is_name = |(at, _): (usize, &str)| {
                !text[..at].ends_with(|char: char| is_part(char) || char == '.')
                    && !text[at + name.len()..].starts_with(is_part)
            };
            !name.is_empty() && !text.match_indices(name).any(is_name)
        };
        let mut names = vec![];
        if matches!(called, "match" | "search" | "fullmatch") {
            names.push("match");
        }
        names.extend(["get_", "find_", "load_", "read_"].into_iter().filter_map(|start| called.strip_prefix(start)));
        names.extend(["found", "result", "given"]);
        let name = names.into_iter().find(|name| is_free(name) && !is_word(name))?.to_owned();
        Some(Held { name, call: Some((value, text)) })
    }

    /// The line that binds the name.
    pub(super) fn before(&self, indent: &str, end: &str) -> String {
        self.call.map_or_else(String::new, |(_, call)| format!("{} = {call}{end}{indent}", self.name))
    }

    pub(super) fn edits(&self, file: File, before: TextSize, lines: String) -> Vec<(File, Edit)> {
        let replaced = self.call.map(|(range, _)| (file, Edit::replace(range, self.name.clone())));
        std::iter::once((file, Edit::insert(before, lines))).chain(replaced).collect()
    }
}

/// Whether a word is one of the language's own.
fn is_word(name: &str) -> bool {
    matches!(name, "in" | "is" | "as" | "if" | "from" | "with" | "class" | "def" | "for" | "or" | "and" | "not")
}

/// A name, or what is read of one by attributes and plain items: it may be read twice.
fn is_steady(expr: &Expr) -> bool {
    match expr {
        Expr::Name(_) => true,
        Expr::Attribute(attribute) => is_steady(&attribute.value),
        Expr::Subscript(subscript) => {
            let is_plain = matches!(&*subscript.slice, Expr::Name(_) | Expr::StringLiteral(_) | Expr::NumberLiteral(_));
            is_plain && is_steady(&subscript.value)
        }
        _ => false,
    }
}
