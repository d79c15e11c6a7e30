//! An import that is to be added to a file, wherever it belongs there.

use std::collections::BTreeSet;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_syntax::edits::{Edit, line_end};
use leitmotiv_syntax::{Ranged, TextSize, ast, parse};

use crate::annotate::imports::{self, Needed};

/// What imports a name of a module, or with no name the module itself, for something that is used at a place; `None` where there is no place
/// before it for that.
#[must_use]
pub fn edits(db: &Database, file: File, module: &str, name: Option<&str>, at: TextSize) -> Option<Vec<Edit>> {
    let text = file.text(db);
    let index = module_index(db, file);
    let parsed = parse::parse(text);
    // The statement of the module's own that it is used in.
    let before = parsed.body.iter().rfind(|stmt| stmt.range().start() <= at).map_or(at, |stmt| stmt.range().start());
    let Some(name) = name else {
        let is_docstring =
            |stmt: &ast::Stmt| matches!(stmt, ast::Stmt::Expr(first) if first.value.is_string_literal_expr());
        let is_future = |stmt: &ast::Stmt| matches!(stmt, ast::Stmt::ImportFrom(import) if import.module.as_ref().is_some_and(|module| module == "__future__"));
        let first = parsed.body.iter().find(|stmt| !is_docstring(stmt) && !is_future(stmt))?;
        return Some(vec![Edit::insert(first.range().start(), format!("import {module}{}", line_end(text)))]);
    };
    let needed: BTreeSet<(String, String)> = [(module.to_owned(), name.to_owned())].into();
    let none = BTreeSet::new();
    let needed = [Needed { imports: &needed, guarded: &none, before, statements: &[] }];
    imports::edits(text, index, needed.into_iter(), &|name| db.is_standard_name(name))
}
