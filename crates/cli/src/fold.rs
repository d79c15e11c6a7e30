//! Folding over lines: sentences at their words, the types in them where a person would break them.
//!
//! Within backquotes, and in a signature on its own, a line ends behind the comma of a parameter or of a long list, or before
//! a `|` or an arrow; what belongs together (`name: str = ...`, `dict[str, int]`) stays on one line if it is short.

/// Stands for a space at which no line ends; one column wide, and not found in what is folded.
const KEPT: char = '\u{a0}';

/// How a proposed command begins.
const PROPOSAL: &str = "Next: leitmotiv ";

/// How long a bracketed part may be that is kept on one line, in characters.
const LONGEST_KEPT: usize = 40;

/// Folds a sentence to a width, each line behind an indent. Types stand in backquotes.
pub fn fold(text: &str, width: usize, first: &str, rest: &str) -> String {
    let mut kept = String::with_capacity(text.len());
    for (place, part) in text.split('`').enumerate() {
        if place > 0 {
            kept.push('`');
        }
        if place % 2 == 1 { kept.push_str(&keep_together(part)) } else { kept.push_str(part) }
    }
    fill(&keep_command(&kept), width, first, rest)
}

/// A sentence whose proposed command is kept on one line, so that it can be copied.
fn keep_command(text: &str) -> String {
    let Some(start) = text.rfind(PROPOSAL) else { return text.to_owned() };
    let end = text[start..].find([',', ';']).map_or(text.len(), |length| start + length);
    let command = text[start..end].replace(' ', &KEPT.to_string());
    format!("{}{command}{}", &text[..start], &text[end..])
}

/// Folds a signature or type that stands on its own.
pub fn fold_type(text: &str, width: usize, first: &str, rest: &str) -> String {
    fill(&keep_together(text), width, first, rest)
}

fn fill(text: &str, width: usize, first: &str, rest: &str) -> String {
    let options = textwrap::Options::new(width)
        .initial_indent(first)
        .subsequent_indent(rest)
        .word_separator(textwrap::WordSeparator::AsciiSpace)
        .word_splitter(textwrap::WordSplitter::NoHyphenation)
        .wrap_algorithm(textwrap::WrapAlgorithm::FirstFit)
        .break_words(false);
    textwrap::fill(text, options).replace(KEPT, " ")
}

/// The text of a type with the spaces marked at which no line should end.
fn keep_together(text: &str) -> String {
    let chars: Vec<char> = text.chars().collect();
    let short = short_brackets(&chars);
    let mut kept = String::with_capacity(text.len());
    for (at, char) in chars.iter().enumerate() {
        let behind = chars.get(at + 1).copied().unwrap_or_default();
        let before = at.checked_sub(1).map(|at| chars[at]).unwrap_or_default();
        let is_arrow = behind == '-' && chars.get(at + 2) == Some(&'>');
        let may_end = !short[at] && (matches!(before, ',' | ';') || behind == '|' || is_arrow);
        kept.push(if *char == ' ' && !may_end { KEPT } else { *char });
    }
    kept
}

/// For each character, whether it stands in brackets that are short enough to be kept on one line.
fn short_brackets(chars: &[char]) -> Vec<bool> {
    let mut short = vec![false; chars.len()];
    let mut open: Vec<usize> = Vec::new();
    for (at, char) in chars.iter().enumerate() {
        match char {
            '[' => open.push(at),
            ']' => {
                if let Some(start) = open.pop()
                    && at - start <= LONGEST_KEPT
                {
                    short[start..at].fill(true);
                }
            }
            _ => {}
        }
    }
    short
}

#[cfg(test)]
mod tests {
    use super::*;
    use unicode_width::UnicodeWidthStr;

    #[test]
    fn sentences_fold_behind_their_indent() {
        let text = fold("one two three four five six seven eight nine ten", 20, "  ", "    ");
        assert!(text.lines().all(|line| line.width() <= 20));
        assert!(text.lines().nth(1).is_some_and(|line| line.starts_with("    ")));
    }

    #[test]
    fn signatures_end_lines_between_parameters() {
        let signature =
            "(vessel: str = ..., berths: dict[str, list[int]] | None = ..., *, tide: float = ...) -> int | None";
        let text = fold_type(signature, 40, "  ", "      ");
        let lines: Vec<&str> = text.lines().map(str::trim).collect();
        assert_eq!(
            lines,
            [
                "(vessel: str = ...,",
                "berths: dict[str, list[int]]",
                "| None = ..., *,",
                "tide: float = ...) -> int | None"
            ]
        );
    }

    #[test]
    fn proposed_commands_stay_on_one_line() {
        let text = fold("2 modules lack types. Next: leitmotiv stub write tidelib, to begin", 30, "", "  ");
        assert_eq!(text, "2 modules lack types.\n  Next: leitmotiv stub write tidelib,\n  to begin");
    }

    #[test]
    fn types_in_sentences_stay_readable() {
        let text = fold("the type is `dict[str, int] | tuple[int, ...] | None`, not `int`", 30, "", "");
        assert_eq!(text, "the type is `dict[str, int]\n| tuple[int, ...] | None`, not\n`int`");
    }

    #[test]
    fn nothing_is_lost() {
        let text = "a `b: c = d, [e, f], (g) -> h | i` j";
        assert_eq!(fold(text, 9, "", "").split_whitespace().collect::<Vec<_>>().join(" "), text);
    }
}
