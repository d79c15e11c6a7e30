//! Stubs as text: the names that statements make and name.

use leitmotiv_syntax::TextSize;
use leitmotiv_syntax::ast::{self, Stmt};

/// The words of a text that may be names.
pub(super) fn words(text: &str) -> impl Iterator<Item = &str> {
    text.split(|character: char| character != '_' && !character.is_alphanumeric()).filter(|word| !word.is_empty())
}

/// The names that a statement makes in its own scope; none for those that hold statements of their own.
pub(super) fn made(stmt: &Stmt) -> Vec<&str> {
    fn target(target: &ast::Expr) -> Option<&str> {
        target.as_name_expr().map(|name| name.id.as_str())
    }
    match stmt {
        Stmt::FunctionDef(function) => vec![function.name.as_str()],
        Stmt::ClassDef(class) => vec![class.name.as_str()],
        Stmt::AnnAssign(assign) => target(&assign.target).into_iter().collect(),
        Stmt::Assign(assign) => assign.targets.iter().filter_map(target).collect(),
        Stmt::TypeAlias(alias) => target(&alias.name).into_iter().collect(),
        Stmt::ImportFrom(import) => {
            import.names.iter().map(|alias| alias.asname.as_ref().unwrap_or(&alias.name).as_str()).collect()
        }
        Stmt::Import(import) => import
            .names
            .iter()
            .map(|alias| match &alias.asname {
                Some(name) => name.as_str(),
                None => alias.name.split('.').next().unwrap_or_default(),
            })
            .collect(),
        _ => Vec::new(),
    }
}

/// The module that a `from` names, with its dots.
pub(super) fn module_of(import: &ast::StmtImportFrom) -> String {
    let module = import.module.as_ref().map_or("", |module| module.as_str());
    format!("{}{module}", ".".repeat(import.level as usize))
}

/// Where the text begins behind the comments at its head.
pub(super) fn behind_head(text: &str) -> TextSize {
    let mark = if text.starts_with('\u{feff}') { '\u{feff}'.len_utf8() } else { 0 };
    let lines = text[mark..].split_inclusive('\n').take_while(|line| line.starts_with('#'));
    let length = mark + lines.map(str::len).sum::<usize>();
    TextSize::try_from(length).unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::*;
    use leitmotiv_syntax::parse;

    #[test]
    fn statements_make_names() {
        let text =
            "import a.b, c as d\nfrom .e import f, g as h\ni: int\nj = k = 1\ntype l = int\nclass m: ...\nif n: ...\n";
        let parsed = parse::parse(text);
        let all: Vec<Vec<&str>> = parsed.body.iter().map(made).collect();
        let expected: [&[&str]; 7] = [&["a", "d"], &["f", "h"], &["i"], &["j", "k"], &["l"], &["m"], &[]];
        assert_eq!(all, expected);
        assert_eq!(module_of(parsed.body[1].as_import_from_stmt().unwrap()), ".e");
    }

    #[test]
    fn comments_at_the_head_are_stepped_over() {
        assert_eq!(u32::from(behind_head("# one\n# two\nx: int\n# three\n")), 12);
        assert_eq!(words("Berth | list[_Pier]").collect::<Vec<_>>(), ["Berth", "list", "_Pier"]);
    }
}
