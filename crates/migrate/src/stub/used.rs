//! Stubs of no more than a project uses, with types that its uses tell.

use std::collections::{BTreeMap, BTreeSet};

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::context::TypeContext;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::view::uses::{self, Called};
use leitmotiv_index::tree::BodyId;
use leitmotiv_syntax::ast::{self, Stmt};
use leitmotiv_syntax::edits::{Edit, apply};
use leitmotiv_syntax::{Ranged, TextRange, parse};

use super::text::{behind_head, made, module_of, words};
use crate::spell::{Style, spell};

/// What stands for the names that are left out (typing specification, "Incomplete stubs").
const REST: &str =
    "\n# What the project does not use of the module was left out.\ndef __getattr__(name: str) -> Any: ...\n";

/// A stub's text with no more than some files use of its module. `source` is the module's source, if it has one.
#[must_use]
pub fn only(db: &Database, files: &[File], module: &str, source: Option<File>, text: &str) -> String {
    let name = db.names().intern(module);
    let wanted = |file: File| file.module(db) == name;
    let (mut names, mut calls) = (BTreeSet::new(), Vec::new());
    for file in files {
        let (used, called) = uses::of(db, *file, &wanted);
        names.extend(used.into_iter().map(|used| db.names().text(used.name).to_owned()));
        // A method's class is used even where only its objects are.
        names.extend(called.iter().filter_map(|called| called.path.split('.').next()).map(str::to_owned));
        calls.extend(called);
    }
    let kept = keep(text, &names);
    fill(db, source.or_else(|| files.first().copied()), &kept, &calls)
}

/// The statements of a stub that make some names, and those that these need in turn.
fn keep(text: &str, names: &BTreeSet<String>) -> String {
    let parsed = parse::parse(text);
    let mut wanted = names.clone();
    loop {
        let before = wanted.len();
        for stmt in &parsed.body {
            if made(stmt).iter().any(|name| wanted.contains(*name))
                && !matches!(stmt, Stmt::ImportFrom(_) | Stmt::Import(_))
            {
                let source = &text[usize::from(stmt.start())..usize::from(stmt.end())];
                wanted.extend(words(source).map(str::to_owned));
            }
        }
        if wanted.len() == before {
            break;
        }
    }
    let mut out = text[..usize::from(behind_head(text))].to_owned();
    let mut has_any = false;
    let mut body = String::new();
    for stmt in &parsed.body {
        let source = &text[usize::from(stmt.start())..usize::from(stmt.end())];
        match stmt {
            Stmt::ImportFrom(import) => {
                let kept: Vec<String> = import
                    .names
                    .iter()
                    .filter(|alias| wanted.contains(alias.asname.as_ref().unwrap_or(&alias.name).as_str()))
                    .map(|alias| text[usize::from(alias.start())..usize::from(alias.end())].to_owned())
                    .collect();
                if kept.is_empty() {
                    continue;
                }
                has_any |= kept.iter().any(|name| name == "Any");
                out.push_str(&format!("from {} import {}\n", module_of(import), kept.join(", ")));
            }
            Stmt::Import(_) if made(stmt).iter().any(|name| wanted.contains(*name)) => {
                out.push_str(source);
                out.push('\n');
            }
            Stmt::Import(_) => {}
            _ if made(stmt).iter().any(|name| wanted.contains(*name) && *name != "__all__") => {
                body.push_str(source);
                body.push('\n');
            }
            _ => {}
        }
    }
    if !has_any {
        out.push_str("from typing import Any\n");
    }
    if !body.is_empty() {
        out.push('\n');
    }
    out + &body + REST
}

/// Annotations from calls, where a stub's parameters have none.
fn fill(db: &Database, around: Option<File>, text: &str, calls: &[Called]) -> String {
    let Some(around) = around else { return text.to_owned() };
    let mut by_path: BTreeMap<&str, Vec<&Called>> = BTreeMap::new();
    for call in calls {
        by_path.entry(&call.path).or_default().push(call);
    }
    let parsed = parse::parse(text);
    let mut filling = Filling { db, around, edits: Vec::new(), imports: BTreeSet::new() };
    for stmt in &parsed.body {
        match stmt {
            Stmt::FunctionDef(function) => filling.function(function, false, by_path.get(function.name.as_str())),
            Stmt::ClassDef(class) => {
                for member in &class.body {
                    let Stmt::FunctionDef(function) = member else { continue };
                    let path = format!("{}.{}", class.name, function.name);
                    let is_static = function.decorator_list.iter().any(|decorator| {
                        decorator.expression.as_name_expr().is_some_and(|name| name.id.as_str() == "staticmethod")
                    });
                    filling.function(function, !is_static, by_path.get(path.as_str()));
                }
            }
            _ => {}
        }
    }
    let heads: String = filling.imports.iter().map(|(module, name)| format!("from {module} import {name}\n")).collect();
    if !heads.is_empty() {
        filling.edits.push(Edit::insert(behind_head(text), heads));
    }
    apply(text, &filling.edits).unwrap_or_else(|_| text.to_owned())
}

struct Filling<'a> {
    db: &'a Database,
    around: File,
    edits: Vec<Edit>,
    imports: BTreeSet<(String, String)>,
}

impl Filling<'_> {
    fn function(&mut self, function: &ast::StmtFunctionDef, has_receiver: bool, calls: Option<&Vec<&Called>>) {
        let Some(calls) = calls else { return };
        let parameters = &function.parameters;
        let placed: Vec<&ast::ParameterWithDefault> =
            parameters.posonlyargs.iter().chain(&parameters.args).skip(usize::from(has_receiver)).collect();
        let named = parameters.kwonlyargs.iter().map(|param| (usize::MAX, param));
        for (place, param) in placed.into_iter().enumerate().chain(named) {
            if param.parameter.annotation.is_some() {
                continue;
            }
            let name = param.parameter.name.as_str();
            let given: Vec<Type> = calls
                .iter()
                .filter_map(|call| {
                    let by_name = call
                        .args
                        .iter()
                        .find(|(known, _)| known.is_some_and(|known| self.db.names().text(known) == name));
                    let by_place = call.args.get(place).filter(|(name, _)| name.is_none());
                    by_name.or(by_place).map(|(_, ty)| *ty)
                })
                .collect();
            if given.is_empty() || given.iter().any(|ty| ty.is_dynamic()) {
                continue;
            }
            let infer = TypeContext::new(self.db, self.around, BodyId(0));
            let default = param.default.as_deref();
            // What may be left out may be None; of other tuples, nobody knows how long they are.
            let is_none = default.is_some_and(|default| matches!(default, ast::Expr::NoneLiteral(_)));
            let given = given.into_iter().map(|ty| infer.widen(ty)).map(|ty| match ty {
                Type::Tuple(id) => infer.tuple_of_any(infer.tuple_element(id)),
                ty => ty,
            });
            let ty = infer.join(given.chain(is_none.then_some(Type::None)));
            let Some(spelled) = spell(self.db, self.around, ty, Style::STUB) else { continue };
            self.imports.extend(spelled.imports);
            // A default stands behind spaces where there is an annotation (PEP 8).
            let end = param.parameter.name.end();
            match default {
                Some(default) => {
                    let sign = TextRange::new(end, default.start());
                    self.edits.push(Edit::replace(sign, format!(": {} = ", spelled.text)));
                }
                None => self.edits.push(Edit::insert(end, format!(": {}", spelled.text))),
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_used_is_kept_with_what_it_needs() {
        let text = "# Stub\nfrom typing import Any, Final\nfrom re import Pattern\nimport os\n\nclass Berth: ...\nclass Pier:\n    berth: Berth\ndef moor(at: Pier) -> Any: ...\ndef sound(by: Pattern) -> None: ...\n\n__all__ = [\"moor\", \"sound\"]\n";
        let kept = keep(text, &["moor".to_owned()].into());
        let expected = format!(
            "# Stub\nfrom typing import Any\n\nclass Berth: ...\nclass Pier:\n    berth: Berth\ndef moor(at: Pier) -> Any: ...\n{REST}"
        );
        assert_eq!(kept, expected);
    }
}
