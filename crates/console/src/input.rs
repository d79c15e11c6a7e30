//! What is typed, as text: whether it is whole, and a script as the inputs that it is made of.

use leitmotiv_syntax::{Ranged, TextSize, ast, parse};

/// Whether more must come before an input is whole: brackets or a text are open, or a block that an empty line has not closed yet.
#[must_use]
pub fn is_open(text: &str) -> bool {
    let trimmed = text.trim_end();
    if trimmed.is_empty() || trimmed.starts_with(':') {
        return false;
    }
    let code = trimmed.strip_prefix('!').unwrap_or(trimmed);
    if code.ends_with('\\') {
        return true;
    }
    let parsed = parse::parse(code);
    let end = TextSize::of(code);
    // What is wrong only at the end may come right.
    let is_cut = parsed.faults.iter().all(|fault| fault.range.end() >= end) && !parsed.faults.is_empty();
    if is_cut && (opens(code) || code.ends_with(':') || code.trim_start().starts_with('@')) {
        return true;
    }
    let is_block = parsed.body.last().is_some_and(is_compound);
    // An empty line closes a block.
    let is_closed = text.rsplit_once('\n').is_some_and(|(_, last)| last.trim().is_empty());
    is_block && !is_closed && has_block(code)
}

/// Whether a block stands on lines of its own: `if tide: pass` on one line is whole.
fn has_block(code: &str) -> bool {
    code.trim_end().ends_with(':') || code.contains('\n')
}

/// Whether brackets or a text in three quotes are open.
fn opens(code: &str) -> bool {
    let mut depth = 0i32;
    let mut quote: Option<(char, bool)> = None;
    let chars: Vec<char> = code.chars().collect();
    let mut at = 0;
    while at < chars.len() {
        let char = chars[at];
        let is_triple = chars[at..].starts_with(&[char, char, char]);
        match quote {
            Some(_) if char == '\\' => at += 1,
            Some((open, true)) if char == open && is_triple => {
                quote = None;
                at += 2;
            }
            Some((open, false)) if char == open => quote = None,
            Some((_, false)) if char == '\n' => quote = None,
            Some(_) => {}
            None => match char {
                '"' | '\'' => {
                    quote = Some((char, is_triple));
                    at += if is_triple { 2 } else { 0 };
                }
                '(' | '[' | '{' => depth += 1,
                ')' | ']' | '}' => depth -= 1,
                '#' => {
                    while at < chars.len() && chars[at] != '\n' {
                        at += 1;
                    }
                }
                _ => {}
            },
        }
        at += 1;
    }
    depth > 0 || matches!(quote, Some((_, true)))
}

fn is_compound(stmt: &ast::Stmt) -> bool {
    matches!(
        stmt,
        ast::Stmt::FunctionDef(_)
            | ast::Stmt::ClassDef(_)
            | ast::Stmt::If(_)
            | ast::Stmt::For(_)
            | ast::Stmt::While(_)
            | ast::Stmt::With(_)
            | ast::Stmt::Try(_)
            | ast::Stmt::Match(_)
    )
}

/// A script as inputs: each statement of the module's own level, and each line that begins with `:` or `!`.
#[must_use]
pub fn script(text: &str) -> Vec<String> {
    let mut inputs = Vec::new();
    let mut code = String::new();
    for line in text.split_inclusive('\n') {
        // Within brackets, texts and blocks, these are no commands.
        let is_command = line.starts_with([':', '!']) && !opens(&code);
        if is_command {
            inputs.extend(statements(&code));
            code.clear();
            inputs.push(line.trim_end().to_owned());
        } else {
            code.push_str(line);
        }
    }
    inputs.extend(statements(&code));
    inputs
}

/// The statements of a text, each with the comments before it; where it does not parse, the rest is one.
fn statements(code: &str) -> Vec<String> {
    let parsed = parse::parse(code);
    let mut found = Vec::new();
    let mut from = 0;
    let fault = parsed.faults.first().map_or(usize::MAX, |fault| usize::from(fault.range.start()));
    for stmt in &parsed.body {
        let end = usize::from(stmt.range().end());
        if end >= fault {
            break;
        }
        // Up to the line's end: a comment behind belongs to it, and so does what follows a semicolon.
        let end = code[end..].find('\n').map_or(code.len(), |line| end + line);
        if end <= from {
            continue;
        }
        found.push(code[from..end].trim_matches(['\n', '\r']).to_owned());
        from = end;
    }
    let rest = code[from..].trim_matches(['\n', '\r']);
    if !rest.trim().is_empty() && (fault < usize::MAX || !rest.trim_start().starts_with('#')) {
        found.push(rest.to_owned());
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_input_is_open_while_more_must_come() {
        for open in
            ["f(", "x = [1,\n2", "def f():", "def f():\n    pass", "\"\"\"a", "x = 3 + \\", "@f", "class A:\n    x = 3"]
        {
            assert!(is_open(open), "{open:?}");
        }
        for whole in [
            "x = 3",
            "f()",
            "def f():\n    pass\n",
            "if x:\n    y()\n    ",
            "if x: y()",
            ":type x",
            "",
            "x = )",
            "1 +",
            "# note",
            "!f(3)",
        ] {
            assert!(!is_open(whole), "{whole:?}");
        }
    }

    #[test]
    fn a_script_is_cut_at_its_statements_and_commands() {
        let text = "import a\n\n# a note\ndef f(x):\n    return x\n\n:type f(3)\n!f(\"3\")\nx = [\n    1,\n]; y = 2  # two\nif x:\n    y()\nelse:\n    z()\n";
        let inputs = script(text);
        let expected = [
            "import a",
            "# a note\ndef f(x):\n    return x",
            ":type f(3)",
            "!f(\"3\")",
            "x = [\n    1,\n]; y = 2  # two",
            "if x:\n    y()\nelse:\n    z()",
        ];
        assert_eq!(inputs, expected);
        assert_eq!(script("x = 3\ny = (\n"), ["x = 3", "y = ("]);
        assert_eq!(script("# only a note\n"), [""; 0]);
    }
}
