//! Text to tree. With [`newer`](crate::newer) the only module that names the parser.

use ruff_python_ast::{self as ast, token::TokenKind};
use ruff_python_parser::{Mode, ParseOptions};
use ruff_text_size::{Ranged, TextRange};

use crate::comments::Comment;
use crate::newer::NewerSyntax;

/// A fault in the text that the interpreter would refuse.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SyntaxFault {
    /// What is wrong, in words.
    pub message: String,
    /// Where, in bytes.
    pub range: TextRange,
}

/// What parsing gives: always a tree, however broken the text.
pub struct Parsed {
    /// The statements; parts that could not be understood are marked as invalid in the tree.
    pub body: Vec<ast::Stmt>,
    /// The comments, in the order of the text.
    pub comments: Vec<Comment>,
    /// The faults, in the order of the text.
    pub faults: Vec<SyntaxFault>,
    /// What older versions of the language refuse, in the order of the text.
    pub newer: Vec<NewerSyntax>,
}

/// Parses a module. Never fails: faults are part of the result.
#[must_use]
pub fn parse(text: &str) -> Parsed {
    let options = ParseOptions::from(Mode::Module).with_target_version(crate::newer::OLDEST);
    let parsed = ruff_python_parser::parse_unchecked(text, options);
    let newer = parsed.unsupported_syntax_errors().iter().filter_map(crate::newer::newer).collect();
    let faults = parsed
        .errors()
        .iter()
        .map(|error| SyntaxFault { message: error.error.to_string(), range: error.location })
        .collect();
    let comments = parsed
        .tokens()
        .iter()
        .filter(|token| token.kind() == TokenKind::Comment)
        .map(|token| Comment::new(text, token.range()))
        .collect();
    let body = match parsed.into_syntax() {
        ast::Mod::Module(module) => module.body.into_iter().collect(),
        ast::Mod::Expression(_) => Vec::new(),
    };
    Parsed { body, comments, faults, newer }
}

/// Parses an expression that stands in `text` at `range`, such as the inside of a quoted annotation; ranges in the
/// tree are those of the whole text.
///
/// # Errors
/// The first fault, where the text is no expression.
pub fn parse_expression(text: &str, range: TextRange) -> Result<ast::Expr, SyntaxFault> {
    // Parenthesised, so that line ends inside of a triple-quoted annotation do not matter (PEP 484).
    ruff_python_parser::parse_parenthesized_expression_range(&text[..usize::from(range.end())], range)
        .map(|parsed| parsed.into_expr())
        .map_err(|error| SyntaxFault { message: error.error.to_string(), range: error.location })
}

#[cfg(test)]
mod tests {
    use super::*;
    use ruff_text_size::TextSize;

    #[test]
    fn a_broken_text_still_gives_a_tree() {
        let parsed = parse("def f(:\n    pass\nx = 1\n");
        assert!(!parsed.faults.is_empty());
        assert!(!parsed.body.is_empty());
    }

    #[test]
    fn a_quoted_annotation_keeps_the_positions_of_the_file() {
        let text = "x: 'list[int]'";
        let range = TextRange::new(TextSize::new(4), TextSize::new(13));
        let expression = parse_expression(text, range).unwrap();
        assert_eq!(&text[expression.range()], "list[int]");
    }
}
