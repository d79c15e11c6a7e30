//! Syntax that not all versions of the language read (each entry: "What's New in Python 3.x").

use ruff_python_ast::PythonVersion;
use ruff_python_parser::{UnsupportedSyntaxError, UnsupportedSyntaxErrorKind as Kind};
use ruff_text_size::TextRange;

/// The oldest version that is told apart; the parser is asked for what any later one brought.
pub(crate) const OLDEST: PythonVersion = PythonVersion::PY38;

/// Something in a text that older versions of the language refuse.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NewerSyntax {
    /// What it is, as the subject of a sentence.
    pub what: &'static str,
    /// The first version that reads it.
    pub since: (u8, u8),
    /// Where, in bytes.
    pub range: TextRange,
}

/// What the parser noted, in our words.
pub(crate) fn newer(noted: &UnsupportedSyntaxError) -> Option<NewerSyntax> {
    let (what, since) = match noted.kind {
        Kind::UnparenthesizedNamedExpr(_) => ("`:=` without parentheses here", (3, 9)),
        Kind::RelaxedDecorator(_) => ("a decorator that is more than a dotted name or its call", (3, 9)),
        Kind::ParenthesizedContextManager => ("`with` and a list in parentheses", (3, 9)),
        Kind::UnparenthesizedUnpackInFor => ("`*` in what `for` goes through, without parentheses,", (3, 9)),
        Kind::Match => ("`match`", (3, 10)),
        Kind::ExceptStar => ("`except*`", (3, 11)),
        Kind::StarExpressionInIndex => ("`*` in an index", (3, 11)),
        Kind::StarAnnotation => ("`*` in an annotation", (3, 11)),
        Kind::TypeParameterList => ("a list of type parameters", (3, 12)),
        Kind::TypeAliasStatement => ("a `type` statement", (3, 12)),
        Kind::Pep701FString(_) => ("what stands in the braces of this f-string", (3, 12)),
        Kind::TypeParamDefault => ("a default of a type parameter", (3, 13)),
        Kind::UnparenthesizedExceptionTypes => ("`except` with several classes and no parentheses", (3, 14)),
        Kind::TemplateStrings => ("a template string", (3, 14)),
        Kind::LazyImportStatement => ("a lazy import", (3, 15)),
        Kind::UnpackingInComprehension(_) => ("unpacking in a comprehension", (3, 15)),
        // All versions from 3.8 on read these, or none does.
        Kind::Walrus | Kind::StarTuple(_) | Kind::PositionalOnlyParameter | Kind::ParenthesizedKeywordArgumentName => {
            return None;
        }
    };
    Some(NewerSyntax { what, since, range: noted.range })
}

#[cfg(test)]
mod tests {
    use crate::parse::parse;

    fn found(text: &str) -> Vec<((u8, u8), &str)> {
        let parsed = parse(text);
        assert!(parsed.faults.is_empty(), "{text}");
        parsed.newer.iter().map(|newer| (newer.since, &text[newer.range])).collect()
    }

    #[test]
    fn each_is_known_by_the_version_that_brought_it() {
        assert_eq!(found("with (open('a') as a, open('b') as b): ...\n")[0].0, (3, 9));
        assert_eq!(found("match 3:\n    case 3: ...\n"), [((3, 10), "match")]);
        assert_eq!(found("try: ...\nexcept* OSError: ...\n")[0].0, (3, 11));
        assert_eq!(found("type Fare = int\n")[0].0, (3, 12));
        assert_eq!(found("def f[T](x: T) -> T: ...\n"), [((3, 12), "[T]")]);
        assert_eq!(found("f'{a['b']}'\n")[0].0, (3, 12));
        assert_eq!(found("class Row[T = int]: ...\n").iter().map(|one| one.0).max(), Some((3, 13)));
        assert_eq!(found("try: ...\nexcept OSError, KeyError: ...\n")[0].0, (3, 14));
        assert_eq!(found("t'{a}'\n")[0].0, (3, 14));
        assert!(found("def f(a, /, *, b): ...\nif (n := 3): ...\n").is_empty());
    }
}
