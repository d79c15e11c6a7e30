//! What docstrings say of types: evidence where annotations are missing.
//!
//! Understood are fields (`:param int depth:`, `:type depth: int`, `:rtype: float`), sections with indented entries
//! (`Args:`, `Returns:`), sections under a line of dashes (`Parameters`, `Returns`), and a signature in the first line, as the
//! documentation of machine code has it.

use std::collections::BTreeMap;

use leitmotiv_syntax::{TextLen, TextRange, TextSize, ast, parse};

/// The types that a docstring names, as annotations.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Told {
    /// Of parameters, by name.
    pub params: BTreeMap<String, String>,
    /// Of the result.
    pub returns: Option<String>,
}

/// A signature in the first line of a docstring.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct ToldSignature {
    /// The parameters: name with stars, type, default (`...` where it may be left out without one being told).
    pub params: Vec<(String, Option<String>, Option<String>)>,
    /// The result's type.
    pub returns: Option<String>,
}

/// What a docstring's literal says, as it is written in the source: without its prefix and its quotes.
#[must_use]
pub fn unquoted(literal: &str) -> &str {
    literal.trim_start_matches(['r', 'R', 'u', 'U']).trim_matches(['"', '\''])
}

/// Reads the types of a docstring. `is_class` says whether a name is a class that an annotation may name, built-in ones apart.
#[must_use]
pub fn types(doc: &str, is_class: &dyn Fn(&str) -> bool) -> Told {
    let mut told = Told::default();
    let lines: Vec<&str> = doc.lines().collect();
    let mut at = 0;
    while at < lines.len() {
        let line = lines[at].trim();
        let next = lines.get(at + 1).map_or("", |line| line.trim());
        let is_ruled = next.len() >= 3 && next.chars().all(|character| character == '-');
        let section = section_of(line.trim_end_matches(':'));
        if let Some(field) = line.strip_prefix(':') {
            field_line(field, &mut told, is_class);
            at += 1;
        } else if let Some(section) = section.filter(|_| is_ruled || line.ends_with(':')) {
            at = entries(
                &lines,
                at + 1 + usize::from(is_ruled),
                indent(lines[at]),
                is_ruled,
                section,
                &mut told,
                is_class,
            );
        } else {
            at += 1;
        }
    }
    told
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Section {
    Params,
    Returns,
}

fn section_of(head: &str) -> Option<Section> {
    match head {
        "Args" | "Arguments" | "Parameters" | "Keyword Args" | "Other Parameters" => Some(Section::Params),
        "Returns" | "Return" => Some(Section::Returns),
        _ => None,
    }
}

fn indent(line: &str) -> usize {
    line.len() - line.trim_start().len()
}

/// `param int depth: words`, `type depth: int`, `rtype: int`
fn field_line(field: &str, told: &mut Told, is_class: &dyn Fn(&str) -> bool) {
    let Some((head, rest)) = field.split_once(':') else { return };
    let words: Vec<&str> = head.split_whitespace().collect();
    match words.as_slice() {
        ["param" | "parameter" | "arg" | "argument" | "key" | "keyword", ty @ .., name] if !ty.is_empty() => {
            if let Some(ty) = annotation(&ty.join(" "), is_class) {
                told.params.insert(name.trim_start_matches('*').to_owned(), ty);
            }
        }
        ["type", name] => {
            if let Some(ty) = annotation(rest, is_class) {
                told.params.insert(name.trim_start_matches('*').to_owned(), ty);
            }
        }
        ["rtype"] => told.returns = annotation(rest, is_class),
        _ => {}
    }
}

/// The entries of a section from a line on; gives the line behind it.
fn entries(
    lines: &[&str],
    from: usize,
    outer: usize,
    is_ruled: bool,
    section: Section,
    told: &mut Told,
    is_class: &dyn Fn(&str) -> bool,
) -> usize {
    let mut at = from;
    let mut inner = None;
    while let Some(line) = lines.get(at) {
        if line.trim().is_empty() {
            at += 1;
            continue;
        }
        let depth = indent(line);
        if depth < outer || !is_ruled && depth == outer {
            break;
        }
        let next = lines.get(at + 1).map_or("", |line| line.trim());
        if is_ruled && depth == outer && next.len() >= 3 && next.chars().all(|character| character == '-') {
            break;
        }
        // Entries stand at the depth of the first one; what is deeper belongs to them.
        if *inner.get_or_insert(depth) == depth {
            entry(line.trim(), is_ruled, section, told, is_class);
        }
        at += 1;
    }
    at
}

fn entry(line: &str, is_ruled: bool, section: Section, told: &mut Told, is_class: &dyn Fn(&str) -> bool) {
    match (section, is_ruled) {
        // `depth : int, optional`
        (Section::Params, true) => {
            if let Some((names, ty)) = line.split_once(" :")
                && let Some(ty) = annotation(ty, is_class)
            {
                for name in names.split(',') {
                    told.params.insert(name.trim().trim_start_matches('*').to_owned(), ty.clone());
                }
            }
        }
        // `depth (int): words`
        (Section::Params, false) => {
            if let Some((name, rest)) = line.split_once('(')
                && let Some((ty, _)) = rest.split_once("):")
                && let Some(ty) = annotation(ty, is_class)
            {
                told.params.insert(name.trim().trim_start_matches('*').to_owned(), ty);
            }
        }
        // `int` or `depth : int`
        (Section::Returns, true) => {
            if told.returns.is_none() {
                let ty = line.split_once(" :").map_or(line, |(_, ty)| ty);
                told.returns = annotation(ty, is_class);
            }
        }
        // `int: words`
        (Section::Returns, false) => {
            if told.returns.is_none()
                && let Some((ty, _)) = line.split_once(':')
            {
                told.returns = annotation(ty, is_class);
            }
        }
    }
}

/// Words for a type as an annotation; `None` where they name anything that is not known to be a class.
#[must_use]
pub fn annotation(words: &str, is_class: &dyn Fn(&str) -> bool) -> Option<String> {
    let mut text = words.trim().trim_end_matches('.').replace('`', "");
    for class in [":class:", ":obj:", ":py:class:"] {
        text = text.replace(class, "");
    }
    // `int, optional`, `int, default 3`
    while let Some((head, tail)) = top_level_comma(&text) {
        let tail = tail.trim();
        if tail == "optional" || tail.starts_with("default") || tail.starts_with("required") {
            text = head.trim().to_owned();
        } else {
            return None;
        }
    }
    let parts: Option<Vec<String>> =
        text.replace(" or ", " | ").split(" | ").map(|part| one(part.trim(), is_class)).collect();
    let mut parts = parts?;
    parts.dedup();
    (!parts.is_empty()).then(|| parts.join(" | "))
}

/// Splits at the last comma that stands in no brackets.
fn top_level_comma(text: &str) -> Option<(&str, &str)> {
    let mut depth = 0;
    let mut last = None;
    for (at, character) in text.char_indices() {
        match character {
            '[' | '(' => depth += 1,
            ']' | ')' => depth -= 1,
            ',' if depth == 0 => last = Some(at),
            _ => {}
        }
    }
    last.map(|at| (&text[..at], &text[at + 1..]))
}

fn one(words: &str, is_class: &dyn Fn(&str) -> bool) -> Option<String> {
    let plain = |word: &str| -> Option<&'static str> {
        Some(match word {
            "string" | "strings" | "unicode" | "str" | "text" => "str",
            "integer" | "integers" | "int" | "ints" => "int",
            "boolean" | "bool" | "booleans" => "bool",
            "float" | "floats" | "number" => "float",
            "none" | "None" | "NoneType" => "None",
            "dictionary" | "dict" => "dict",
            "list" => "list",
            "tuple" => "tuple",
            "bytes" => "bytes",
            _ => return None,
        })
    };
    if let Some(known) = plain(words) {
        return Some(known.to_owned());
    }
    for (head, container) in [("list of ", "list"), ("set of ", "set"), ("tuple of ", "tuple"), ("a list of ", "list")]
    {
        if let Some(item) = words.strip_prefix(head) {
            let inner = one(item.trim(), is_class).or_else(|| one(item.trim().strip_suffix('s')?, is_class))?;
            return Some(if container == "tuple" {
                format!("tuple[{inner}, ...]")
            } else {
                format!("{container}[{inner}]")
            });
        }
    }
    let range = TextRange::new(TextSize::new(0), words.text_len());
    let expression = parse::parse_expression(words, range).ok()?;
    is_annotation(&expression, is_class).then(|| words.to_owned())
}

/// Whether an expression consists of classes that are known, subscripts, unions and `None`.
fn is_annotation(expression: &ast::Expr, is_class: &dyn Fn(&str) -> bool) -> bool {
    const BUILT_IN: &[&str] = &[
        "bool",
        "bytearray",
        "bytes",
        "complex",
        "dict",
        "float",
        "frozenset",
        "int",
        "list",
        "memoryview",
        "object",
        "range",
        "set",
        "slice",
        "str",
        "tuple",
        "type",
    ];
    match expression {
        ast::Expr::Name(name) => BUILT_IN.contains(&name.id.as_str()) || is_class(&name.id),
        ast::Expr::Attribute(_) => dotted(expression).is_some_and(|name| is_class(&name)),
        ast::Expr::NoneLiteral(_) => true,
        ast::Expr::Subscript(subscript) => {
            is_annotation(&subscript.value, is_class)
                && match &*subscript.slice {
                    ast::Expr::Tuple(tuple) => tuple
                        .elts
                        .iter()
                        .all(|part| matches!(part, ast::Expr::EllipsisLiteral(_)) || is_annotation(part, is_class)),
                    part => is_annotation(part, is_class),
                }
        }
        ast::Expr::BinOp(union) => {
            union.op == ast::Operator::BitOr
                && is_annotation(&union.left, is_class)
                && is_annotation(&union.right, is_class)
        }
        _ => false,
    }
}

/// The dotted name that an expression is: `skerry.fleet.Vessel`.
pub(crate) fn dotted(expression: &ast::Expr) -> Option<String> {
    match expression {
        ast::Expr::Name(name) => Some(name.id.to_string()),
        ast::Expr::Attribute(attribute) => Some(format!("{}.{}", dotted(&attribute.value)?, attribute.attr)),
        _ => None,
    }
}

/// A signature in the first line of a docstring: `sound(depth[, ping]) -> float`.
#[must_use]
pub fn signature(doc: &str, name: &str, is_class: &dyn Fn(&str) -> bool) -> Option<ToldSignature> {
    let line = doc.lines().map(str::trim).find(|line| !line.is_empty())?;
    let head = line.split('(').next()?;
    if head.rsplit('.').next()?.trim() != name || head.contains(' ') {
        return None;
    }
    let rest = &line[head.len() + 1..];
    let mut depth = 0i32;
    let end = rest.char_indices().find_map(|(at, character)| {
        match character {
            '(' => depth += 1,
            ')' if depth == 0 => return Some(at),
            ')' => depth -= 1,
            _ => {}
        }
        None
    })?;
    let mut told = ToldSignature::default();
    if let Some(returns) = rest[end + 1..].trim().strip_prefix("->") {
        let words = returns.split(" -- ").next().unwrap_or(returns);
        told.returns = annotation(words, is_class);
    }
    for (part, is_optional) in parameters(&rest[..end]) {
        let text =
            if part.contains(':') { part.trim().to_owned() } else { part.replace(['[', ']'], "").trim().to_owned() };
        if text.is_empty() {
            continue;
        }
        if matches!(text.as_str(), "..." | "*args" | "\\*args") {
            told.params.push(("*args".to_owned(), None, None));
            continue;
        }
        if matches!(text.as_str(), "/" | "*") {
            told.params.push((text, None, None));
            continue;
        }
        let (text, default) = match text.split_once('=') {
            Some((text, default)) => (text.trim().to_owned(), Some(default.trim().to_owned())),
            None => (text, None),
        };
        let (name, ty) = match text.split_once(':') {
            Some((name, ty)) => (name.trim().to_owned(), annotation(ty, is_class)),
            None => (text, None),
        };
        let bare = name.trim_start_matches('*');
        let is_name = !bare.is_empty()
            && !bare.starts_with(|first: char| first.is_ascii_digit())
            && bare.chars().all(|character| character == '_' || character.is_alphanumeric());
        if !is_name {
            return None;
        }
        let default = default.or_else(|| (is_optional && !name.starts_with('*')).then(|| "...".to_owned()));
        // What must be given cannot stand behind what need not be.
        let before = told.params.iter().any(|(name, _, default)| default.is_some() && !name.starts_with('*'));
        if default.is_none()
            && before
            && !name.starts_with('*')
            && !told.params.iter().any(|(name, ..)| name.starts_with('*'))
        {
            return None;
        }
        told.params.push((name, ty, default));
    }
    Some(told)
}

/// The parts between commas, and whether each begins within the brackets that mean *may be left out*.
fn parameters(text: &str) -> Vec<(&str, bool)> {
    let mut parts = Vec::new();
    let (mut start, mut depth, mut open) = (0, 0, 0);
    let mut in_type = false;
    let mut is_optional = None;
    for (at, character) in text.char_indices() {
        match character {
            ':' => in_type = true,
            '(' | '{' => depth += 1,
            ')' | '}' => depth -= 1,
            '[' if in_type => depth += 1,
            ']' if in_type && depth > 0 => depth -= 1,
            '[' => open += 1,
            ']' => open -= 1,
            ',' if depth == 0 => {
                parts.push((&text[start..at], is_optional.unwrap_or(false)));
                start = at + 1;
                in_type = false;
                is_optional = None;
            }
            _ if !character.is_whitespace() => {
                is_optional.get_or_insert(open > 0);
            }
            _ => {}
        }
    }
    parts.push((&text[start..], is_optional.unwrap_or(false)));
    parts
}

#[cfg(test)]
mod tests {
    use super::*;

    fn told(doc: &str) -> (Vec<(String, String)>, Option<String>) {
        let told = types(doc, &|name| name == "Vessel");
        (told.params.into_iter().collect(), told.returns)
    }

    fn pairs(all: &[(&str, &str)]) -> Vec<(String, String)> {
        all.iter().map(|(name, ty)| ((*name).to_owned(), (*ty).to_owned())).collect()
    }

    #[test]
    fn fields_name_types() {
        let doc = "Moors.\n\n:param int berth: which\n:param vessel: whose\n:type vessel: Vessel or None\n:rtype: list of str\n";
        assert_eq!(told(doc), (pairs(&[("berth", "int"), ("vessel", "Vessel | None")]), Some("list[str]".into())));
    }

    #[test]
    fn sections_with_indented_entries_name_types() {
        let doc = "Moors.\n\nArgs:\n    berth (int): which,\n        from the north\n    name (string, optional): whose\n\nReturns:\n    bool: whether\n";
        assert_eq!(told(doc), (pairs(&[("berth", "int"), ("name", "str")]), Some("bool".into())));
    }

    #[test]
    fn sections_under_dashes_name_types() {
        let doc = "Moors.\n\n    Parameters\n    ----------\n    berth, pier : int, optional\n        Which.\n    tide : Tide\n\n    Returns\n    -------\n    dict[str, int]\n        What.\n";
        assert_eq!(told(doc), (pairs(&[("berth", "int"), ("pier", "int")]), Some("dict[str, int]".into())));
    }

    #[test]
    fn what_is_no_class_is_no_evidence() {
        assert_eq!(annotation("the berth", &|_| false), None);
        assert_eq!(annotation("Harbour", &|_| false), None);
        assert_eq!(annotation("int, str", &|_| false), None);
        assert_eq!(annotation("f(x)", &|_| true), None);
    }

    #[test]
    fn a_signature_may_stand_in_the_first_line() {
        let read = |doc: &str| signature(doc, "sound", &|_| false);
        let param = |name: &str, ty: Option<&str>, default: Option<&str>| {
            (name.to_owned(), ty.map(str::to_owned), default.map(str::to_owned))
        };
        let found = read("sound(depth[, ping]) -> float\n\nSounds.").unwrap();
        assert_eq!(found.params, [param("depth", None, None), param("ping", None, Some("..."))]);
        assert_eq!(found.returns.as_deref(), Some("float"));
        let found = read("sound(depth: int, names: dict[str, int] = {}, *, at=3) -> None").unwrap();
        assert_eq!(found.params[1], param("names", Some("dict[str, int]"), Some("{}")));
        assert_eq!(found.params[3], param("at", None, Some("3")));
        assert_eq!(read("sound([y, x,] ch)"), None);
        assert_eq!(read("Sounds the depth (in metres)."), None);
    }
}
