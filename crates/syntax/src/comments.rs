//! Comments that speak to a type checker: suppressions (PEP 484 and our own form) and type comments.

use ruff_text_size::{TextRange, TextSize};

/// A comment and where it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Comment {
    /// From `#` to the line's end, in bytes.
    pub range: TextRange,
    /// Whether nothing but white space stands before it on its line.
    pub own_line: bool,
    /// What it says to a type checker, if anything.
    pub meaning: Option<Meaning>,
}

/// What a comment says to a type checker.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Meaning {
    /// `# type: ignore` or `# type: ignore[code, code]` (PEP 484).
    Ignore {
        /// The codes in brackets; empty where there are no brackets.
        codes: Vec<String>,
        /// What else the comment says, without white space at its ends; empty where that is nothing, or speaks to tools.
        reason: String,
    },
    /// `# leitmotiv: allow(rule, rule) reason`.
    Allow {
        /// The rules named.
        rules: Vec<String>,
        /// What follows the parenthesis, without white space at its ends.
        reason: String,
    },
    /// `# leitmotiv:` followed by something else.
    Malformed,
    /// `# type: T` (PEP 484 type comments): the range of `T` in bytes.
    Type(TextRange),
    /// `# tool: ignore[code]`, `# tool: ignore-all`: what another tool is told to leave alone, of whatever name.
    Foreign,
}

/// Words before a colon that begin a remark to readers and name no tool.
const REMARKS: [&str; 6] = ["todo", "note", "fixme", "hack", "xxx", "nb"];

impl Comment {
    /// Reads the comment at `range` of `text`.
    #[must_use]
    pub fn new(text: &str, range: TextRange) -> Comment {
        let before = &text[..usize::from(range.start())];
        let line = before.rsplit(['\n', '\r']).next().unwrap_or("");
        let own_line = line.chars().all(|char| char.is_whitespace() || char == '\u{feff}');
        Comment { range, own_line, meaning: Meaning::read(text, range, "") }
    }
}

impl Meaning {
    /// Reads a comment, or what is left of one behind words that said nothing to a type checker.
    fn read(text: &str, range: TextRange, before: &str) -> Option<Meaning> {
        let body = text[range].strip_prefix('#')?;
        // Several comments may share a line: `x = f()  # type: ignore  # why`.
        let first = body.split('#').next().unwrap_or(body);
        let trimmed = first.trim();
        if let Some(rest) = trimmed.strip_prefix("leitmotiv:") {
            return Some(Meaning::read_allow(rest.trim()).unwrap_or(Meaning::Malformed));
        }
        if Meaning::is_foreign(trimmed) {
            return Some(Meaning::Foreign);
        }
        let Some(rest) = trimmed.strip_prefix("type:") else {
            // A second comment on the line may be the one that speaks.
            let later = body.get(first.len() + 1..)?;
            let start = range.start() + TextSize::try_from(first.len() + 1).ok()?;
            let rest = TextRange::new(start, range.end());
            return later.contains(':').then(|| Meaning::read(text, rest, trimmed)).flatten();
        };
        let rest = rest.trim();
        if let Some(after) = rest.strip_prefix("ignore") {
            let after = after.trim();
            let reason = |here: &str| {
                // What follows the brackets, the other comments behind it, and what stands before.
                let later = body.split('#').skip(1);
                let parts = std::iter::once(here).chain(later).chain([before]);
                parts.map(str::trim).find(|part| is_reason(part)).unwrap_or_default().to_owned()
            };
            if after.is_empty() {
                return Some(Meaning::Ignore { codes: Vec::new(), reason: reason("") });
            }
            if let Some((inside, behind)) = after.strip_prefix('[').and_then(|inside| inside.split_once(']')) {
                let codes = inside.split(',').map(|code| code.trim().to_owned()).filter(|code| !code.is_empty());
                return Some(Meaning::Ignore { codes: codes.collect(), reason: reason(behind) });
            }
            if !after.starts_with(|char: char| char.is_alphanumeric() || char == '_') {
                return Some(Meaning::Ignore { codes: Vec::new(), reason: reason(after) });
            }
        }
        if rest.is_empty() {
            return None;
        }
        let offset = text[range].find(rest)?;
        let start = range.start() + TextSize::try_from(offset).ok()?;
        Some(Meaning::Type(TextRange::at(start, TextSize::of(rest))))
    }

    /// Whether a comment tells another tool to ignore something: its name in small letters, a colon, `ignore`, and then
    /// nothing but codes in brackets or more of the same word.
    fn is_foreign(comment: &str) -> bool {
        let Some((tool, rest)) = comment.split_once(':') else { return false };
        let is_name = tool.starts_with(|char: char| char.is_ascii_lowercase())
            && tool.chars().all(|char| char.is_ascii_lowercase() || char.is_ascii_digit() || matches!(char, '_' | '-'));
        // `# types: ignore` is a slip of the pen, and hides nothing.
        if !is_name || is_like_type(tool) || REMARKS.contains(&tool) {
            return false;
        }
        let Some(after) = rest.trim_start().strip_prefix("ignore") else { return false };
        after.is_empty() || after.trim_start().starts_with('[') || (after.starts_with('-') && !after.contains(' '))
    }

    fn read_allow(rest: &str) -> Option<Meaning> {
        let (inside, reason) = rest.strip_prefix("allow")?.trim_start().strip_prefix('(')?.split_once(')')?;
        let rules: Vec<String> = inside.split(',').map(|rule| rule.trim().to_owned()).collect();
        if rules.iter().any(String::is_empty) {
            return None;
        }
        Some(Meaning::Allow { rules, reason: reason.trim().to_owned() })
    }
}

/// Whether a word is `type`, or that with one letter more, less or changed, or two in the wrong order.
fn is_like_type(word: &str) -> bool {
    word == "type" || strsim::osa_distance(word, "type") == 1
}

/// Whether a part of a comment tells readers something: several words, a number or an address, and nothing in the manner of `tool: word`.
fn is_reason(part: &str) -> bool {
    let is_for_tool = part.split_once(':').is_some_and(|(tool, rest)| {
        let is_name =
            !tool.is_empty() && tool.chars().all(|char| char.is_ascii_lowercase() || matches!(char, '_' | '-'));
        is_name && !REMARKS.contains(&tool) && !rest.starts_with("//")
    });
    let is_told = part.split_whitespace().count() > 1 || part.contains("://") || part.contains(char::is_numeric);
    !is_for_tool && is_told && part.contains(char::is_alphanumeric)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn meaning(comment: &str) -> Option<Meaning> {
        let text = format!("x = 1  {comment}");
        Comment::new(&text, TextRange::new(TextSize::new(7), TextSize::of(text.as_str()))).meaning
    }

    #[test]
    fn ignore_with_and_without_codes() {
        let ignore = |codes: &[&str], reason: &str| {
            let codes = codes.iter().map(|code| (*code).to_owned()).collect();
            Some(Meaning::Ignore { codes, reason: reason.to_owned() })
        };
        assert_eq!(meaning("# type: ignore"), ignore(&[], ""));
        assert_eq!(meaning("#type:ignore[a, b]  # as before 2.0"), ignore(&["a", "b"], "as before 2.0"));
        assert_eq!(meaning("# pragma: no cover # type: ignore"), ignore(&[], ""));
        assert_eq!(meaning("# the pier is closed # type: ignore[a]"), ignore(&["a"], "the pier is closed"));
        assert_eq!(meaning("# type: ignore[a]  # pragma: no cover"), ignore(&["a"], ""));
        assert_eq!(meaning("# type: ignore[a] see https://example.org/3"), ignore(&["a"], "see https://example.org/3"));
    }

    #[test]
    fn allow_takes_rules_and_a_reason() {
        let expected = Meaning::Allow { rules: vec!["call.argument".into()], reason: "both since 2.0".into() };
        assert_eq!(meaning("# leitmotiv: allow(call.argument) both since 2.0"), Some(expected));
        assert_eq!(meaning("# leitmotiv: alow(call.argument)"), Some(Meaning::Malformed));
        assert_eq!(meaning("# leitmotiv: allow()"), Some(Meaning::Malformed));
    }

    #[test]
    fn a_type_comment_keeps_its_place() {
        let text = "x = []  # type: list[int]";
        let comment = Comment::new(text, TextRange::new(TextSize::new(8), TextSize::of(text)));
        let Some(Meaning::Type(range)) = comment.meaning else { panic!("{comment:?}") };
        assert_eq!(&text[range], "list[int]");
    }

    #[test]
    fn comments_for_other_tools_are_told_by_their_shape() {
        assert_eq!(meaning("# quayside: ignore[berth]  # why"), Some(Meaning::Foreign));
        assert_eq!(meaning("# quay-side: ignore-all"), Some(Meaning::Foreign));
        assert_eq!(
            meaning("# type: ignore[berth]  # quayside: ignore"),
            Some(Meaning::Ignore { codes: vec!["berth".into()], reason: String::new() })
        );
        assert_eq!(meaning("# Exception: ignore"), None);
        assert_eq!(meaning("# todo: ignore"), None);
        assert_eq!(meaning("# tide: ignore what follows"), None);
        assert_eq!(meaning("# tide: ignored"), None);
    }

    #[test]
    fn prose_means_nothing() {
        assert_eq!(meaning("# the type: of ship"), None);
        assert!(!Comment::new("x  # y", TextRange::new(TextSize::new(3), TextSize::new(6))).own_line);
        assert!(Comment::new("  # y", TextRange::new(TextSize::new(2), TextSize::new(5))).own_line);
    }
}
