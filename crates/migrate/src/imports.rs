//! The imports that written annotations need.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Write as _;

use leitmotiv_index::tree::{BodyId, DefKind, ModuleIndex, ScopeId, StatementKind};
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::names::known;
use leitmotiv_syntax::{TextRange, TextSize};

use crate::spell::Spelled;

type Names<'a> = BTreeMap<&'a str, BTreeSet<&'a str>>;

/// The edits that import what some annotations of one file name: before the first import, or, where a module of the project
/// could be importing this one already, in a block that only a type checker reads.
pub fn edits<'a>(text: &str, index: &ModuleIndex, spelled: impl Iterator<Item = &'a Spelled>) -> Vec<Edit> {
    let mut plain = Names::new();
    let mut guarded = Names::new();
    for spelled in spelled {
        for import in &spelled.imports {
            let list = if spelled.guarded.contains(import) { &mut guarded } else { &mut plain };
            list.entry(import.0.as_str()).or_default().insert(import.1.as_str());
        }
    }
    let mut edits = Vec::new();
    if !guarded.is_empty() {
        match checked_block(text, index) {
            Some((at, indent)) => edits.push(Edit::insert(at, lines(&guarded, indent))),
            None => {
                if !index.scopes[ScopeId(0)].symbols.contains_key(&known::TYPE_CHECKING) {
                    plain.entry("typing").or_default().insert("TYPE_CHECKING");
                }
                let block = format!("\nif TYPE_CHECKING:\n{}", lines(&guarded, "    "));
                match last_import(text, index) {
                    Some(at) => edits.push(Edit::insert(at, block)),
                    None => {
                        let (at, before, after) = first_place(text, index);
                        edits.push(Edit::insert(at, format!("{before}{}{block}{after}", lines(&plain, ""))));
                        return edits;
                    }
                }
            }
        }
    }
    if !plain.is_empty() {
        let (at, before, after) = first_place(text, index);
        edits.push(Edit::insert(at, format!("{before}{}{after}", lines(&plain, ""))));
    }
    edits
}

fn lines(names: &Names, indent: &str) -> String {
    let mut lines = String::new();
    for (module, names) in names {
        let names: Vec<&str> = names.iter().copied().collect();
        let _ = writeln!(lines, "{indent}from {module} import {}", names.join(", "));
    }
    lines
}

/// The start of the first line below `if TYPE_CHECKING:` at the module's own level, with its indentation.
fn checked_block<'a>(text: &'a str, index: &ModuleIndex) -> Option<(TextSize, &'a str)> {
    index.checking_only.iter().find_map(|body| {
        let start = usize::from(body.start());
        let line = text[..start].rfind('\n')? + 1;
        let indent = &text[line..start];
        let above = text[..line].trim_end();
        let header = &above[above.rfind('\n').map_or(0, |at| at + 1)..];
        (indent.trim().is_empty() && header.starts_with("if ")).then(|| (size(line), indent))
    })
}

/// The end of the line of the last import of the first ones at the module's own level.
fn last_import(text: &str, index: &ModuleIndex) -> Option<TextSize> {
    let mut last: Option<TextRange> = None;
    for statement in &index.bodies[BodyId(0)].statements {
        let is_import = matches!(statement.kind, StatementKind::Import(_)) && is_own_level(text, statement.range);
        match (is_import, last) {
            (true, _) => last = Some(statement.range),
            (false, None) => {}
            (false, Some(_)) => break,
        }
    }
    // What stands behind an import on its line goes with it.
    let end = usize::from(last?.end());
    let rest = text[end..].find('\n')?;
    Some(size(end + rest + 1))
}

fn is_own_level(text: &str, range: TextRange) -> bool {
    let start = usize::from(range.start());
    start == 0 || text[..start].ends_with('\n')
}

/// Where new imports go: before the first import that is not from `__future__`, else behind docstring and comments. With it,
/// what stands before and behind them.
fn first_place(text: &str, index: &ModuleIndex) -> (TextSize, &'static str, &'static str) {
    let mut after_future = None;
    for statement in &index.bodies[BodyId(0)].statements {
        let StatementKind::Import(defs) = &statement.kind else { continue };
        let is_future = defs.iter().any(|def| {
            matches!(&index.defs[*def].kind, DefKind::ImportFrom { .. }) && text[statement.range].contains("__future__")
        });
        if is_future {
            after_future = Some(statement.range.end());
        } else if is_own_level(text, statement.range) {
            return (statement.range.start(), "", "");
        }
    }
    match after_future.or(index.docstring.map(|range| range.end())) {
        Some(end) => {
            let rest = &text[usize::from(end)..];
            let line = rest.find('\n').map_or(rest.len(), |at| at + 1);
            (end + size(line), "\n", "")
        }
        None => (TextSize::new(0), "", "\n"),
    }
}

fn size(at: usize) -> TextSize {
    TextSize::try_from(at).unwrap_or_default()
}
