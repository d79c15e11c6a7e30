//! Markdown for clients that show it.

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_syntax::TextRange;

pub use leitmotiv_report::markdown::text;

use crate::snapshot::Snapshot;

/// Code as a block of its own.
#[must_use]
pub fn block(code: &str) -> String {
    let longest = code.split(|char| char != '`').map(str::len).max().unwrap_or(0);
    let fence = "`".repeat(longest.max(2) + 1);
    format!("{fence}python\n{code}\n{fence}")
}

/// A place as a link, with its line.
#[must_use]
pub fn place(snapshot: &Snapshot, file: File, range: TextRange) -> String {
    let db = &snapshot.session.db;
    let line = module_index(db, file).lines.0.index_of(range.start()) + 1;
    let path = file.path(db);
    let shown = match path.rsplit_once('/') {
        // A package's stub is called `__init__`, like all others.
        Some(_) if path.starts_with('<') => format!("{}.pyi", db.names().text(file.module(db))),
        Some((_, name)) if path.starts_with('/') => name.to_owned(),
        _ => path.to_owned(),
    };
    match snapshot.uri(file) {
        Some(uri) => format!("[`{shown}:{line}`]({}#L{line})", uri.as_str()),
        None => format!("`{shown}:{line}`"),
    }
}

/// The text without what only Markdown needs, for clients that show plain text.
#[must_use]
pub fn plain(text: &str) -> String {
    let lines = text.lines().filter(|line| !line.starts_with("```"));
    let mut out = String::new();
    for line in lines {
        // `[text](where)` is its text.
        let mut rest = line;
        while let Some((before, behind)) = rest.split_once("](") {
            let Some((label, tail)) = before.rsplit_once('[').zip(behind.split_once(')')) else { break };
            out.push_str(label.0);
            out.push_str(&label.1.replace('`', ""));
            rest = tail.1;
        }
        out.push_str(&rest.replace('\\', ""));
        out.push('\n');
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_comes_from_code_stays_code() {
        assert_eq!(block("a"), "```python\na\n```");
        assert_eq!(block("'```'"), "````python\n'```'\n````");
    }

    #[test]
    fn plain_text_has_no_links_and_fences() {
        assert_eq!(
            plain("```python\nberth: int\n```\nfrom [`a.py:3`](file:///a.py#L3): x\\_y"),
            "berth: int\nfrom a.py:3: x_y\n"
        );
    }
}
