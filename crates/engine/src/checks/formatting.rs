//! Texts that are formatted (library reference, "printf-style String Formatting" and "Format String Syntax"): whether the values
//! go with what the text asks for. Only texts that are written out are looked at.

use leitmotiv_index::tree::{Arg, ArgKind, Expr, ExprId};
use leitmotiv_syntax::names::known;

use crate::infer::Infer;
use crate::problems::{BadFormat, ProblemKind};
use crate::types::{Literal, Type};

/// One place in a text where a value goes.
#[derive(Debug, Clone, PartialEq, Eq)]
struct Place {
    /// The name of the value, where it has one: `%(berth)s`, `{berth}`; of `{0}` the number.
    name: Option<String>,
    /// What converts it: `d` of `%5.2d` and of `{:>5d}`; of `{}` a blank.
    code: char,
}

/// What a text asks for with `%`; `None` where it cannot be read.
fn percent_places(text: &str) -> Option<Vec<Place>> {
    let mut places = Vec::new();
    let mut rest = text.chars().peekable();
    while let Some(next) = rest.next() {
        if next != '%' {
            continue;
        }
        let mut name = None;
        if rest.peek() == Some(&'(') {
            rest.next();
            let mut depth = 1;
            let mut found = String::new();
            for next in rest.by_ref() {
                depth += i32::from(next == '(') - i32::from(next == ')');
                if depth == 0 {
                    break;
                }
                found.push(next);
            }
            name = Some(found);
        }
        let code = loop {
            match rest.next()? {
                '#' | '0' | '-' | ' ' | '+' | '.' | '1'..='9' | 'h' | 'l' | 'L' => {}
                '*' => places.push(Place { name: None, code: '*' }),
                code => break code,
            }
        };
        match code {
            '%' => {}
            'd' | 'i' | 'u' | 'o' | 'x' | 'X' | 'e' | 'E' | 'f' | 'F' | 'g' | 'G' | 'c' | 'r' | 's' | 'a' | 'b' => {
                places.push(Place { name, code });
            }
            _ => return None,
        }
    }
    Some(places)
}

/// What a text asks for with `format`; `None` where it cannot be read.
fn brace_places(text: &str) -> Option<Vec<Place>> {
    let mut places = Vec::new();
    let mut rest = text.chars().peekable();
    while let Some(next) = rest.next() {
        match next {
            '{' if rest.peek() == Some(&'{') => {
                rest.next();
            }
            '}' => {
                rest.next_if_eq(&'}')?;
            }
            '{' => {
                let mut depth = 1;
                let mut field = String::new();
                for next in rest.by_ref() {
                    depth += i32::from(next == '{') - i32::from(next == '}');
                    if depth == 0 {
                        break;
                    }
                    field.push(next);
                }
                if depth > 0 || field.contains('{') {
                    // A field in a field's specification takes values of its own.
                    return None;
                }
                let (value, spec) = field.split_once(':').unwrap_or((&field, ""));
                let is_converted = value.contains('!');
                let value = value.split('!').next().unwrap_or_default();
                let end = value.find(['.', '[']).unwrap_or(value.len());
                let is_part = end < value.len();
                let code = spec.chars().last().filter(|last| last.is_ascii_alphabetic() || *last == '%');
                // What a conversion or a part of the value is, nobody can tell from the value.
                let code = if is_converted || is_part { None } else { code };
                places.push(Place { name: Some(value[..end].to_owned()), code: code.unwrap_or(' ') });
            }
            _ => {}
        }
    }
    Some(places)
}

/// What a conversion takes, in words, and whether a text will do.
fn wanted(code: char) -> Option<&'static str> {
    match code {
        'd' | 'i' | 'u' | 'e' | 'E' | 'f' | 'F' | 'g' | 'G' | '%' | 'n' => Some("a number"),
        'o' | 'x' | 'X' | 'b' | '*' => Some("an `int`"),
        _ => None,
    }
}

impl Infer<'_> {
    /// Looks at `text % values`.
    pub(crate) fn check_percent(&mut self, left: ExprId, right: ExprId) {
        let (Expr::Str(Some(text)) | Expr::Bytes(Some(text))) = self.index.exprs[left] else { return };
        let is_bytes = matches!(self.index.exprs[left], Expr::Bytes(_));
        let Some(places) = self.checking.then(|| percent_places(self.text(text))).flatten() else { return };
        let index = self.index;
        if places.iter().any(|place| place.name.is_some()) {
            self.check_named_places(&places, right);
            return;
        }
        let values: Vec<(ExprId, Type)> = match &index.exprs[right] {
            Expr::Tuple(parts) if parts.iter().any(|part| matches!(index.exprs[*part], Expr::Starred(_))) => return,
            Expr::Tuple(parts) => parts.iter().map(|part| (*part, self.expr(*part))).collect(),
            _ => match self.expr(right) {
                Type::Tuple(id) => {
                    let tuple = self.db.store().tuple(id);
                    if tuple.rest.is_some() {
                        return;
                    }
                    tuple.prefix.iter().map(|ty| (right, *ty)).collect()
                }
                // Anything but a tuple is one value; a mapping may stand there for nothing.
                ty if self.is_one_value(ty) => vec![(right, ty)],
                _ => return,
            },
        };
        if values.len() != places.len() {
            let why = BadFormat::Count { wanted: places.len(), given: values.len() };
            self.problem(right, ProblemKind::Format { why });
            return;
        }
        for (place, (value, ty)) in places.iter().zip(values) {
            if !(is_bytes && matches!(place.code, 's' | 'b' | 'a' | 'r' | 'c')) {
                self.check_value(&format!("%{}", place.code), place.code, value, ty);
            }
        }
    }

    /// Values by name, as a mapping must have them.
    fn check_named_places(&mut self, places: &[Place], right: ExprId) {
        let index = self.index;
        if let Expr::Dict(items) = &index.exprs[right] {
            let keys: Option<Vec<&str>> = items
                .iter()
                .map(|(key, _)| match key.map(|key| &index.exprs[key]) {
                    Some(Expr::Str(Some(name))) => Some(self.text(*name)),
                    _ => None,
                })
                .collect();
            let Some(keys) = keys else { return };
            let lacking = places.iter().filter_map(|place| place.name.as_deref()).find(|name| !keys.contains(name));
            if let Some(lacking) = lacking {
                let why = BadFormat::Name(lacking.to_owned());
                self.problem(right, ProblemKind::Format { why });
            }
            return;
        }
        let ty = self.expr(right);
        if ty != Type::None && (matches!(ty, Type::Tuple(_)) || self.is_one_value(ty)) {
            self.problem(right, ProblemKind::Format { why: BadFormat::NotMapping(ty) });
        }
    }

    /// Whether a value that stands alone behind `%` is surely one value, and no tuple or mapping.
    fn is_one_value(&self, ty: Type) -> bool {
        let parts = crate::types::union::parts(self.db.store(), &ty);
        !parts.is_empty()
            && parts.iter().all(|part| match part {
                Type::None | Type::Literal(_) => true,
                Type::Instance(id) => {
                    let class = self.db.store().instance(*id).class;
                    [known::INT, known::STR, known::FLOAT, known::BYTES, known::BOOL_CLASS]
                        .into_iter()
                        .any(|name| crate::resolve::is_builtin(self.db, class, name))
                }
                _ => false,
            })
    }

    /// Whether a conversion takes a value.
    fn check_value(&mut self, shown: &str, code: char, at: ExprId, ty: Type) {
        let Some(wanted) = wanted(code) else { return };
        let needs_int = wanted == "an `int`";
        let parts = crate::types::union::parts(self.db.store(), &ty).to_vec();
        let is_wrong = |infer: &Self, part: Type| match part {
            Type::None => true,
            Type::Literal(id) => matches!(infer.db.store().literal(id), Literal::Str(_) | Literal::Bytes(_)),
            Type::Tuple(_) => true,
            Type::Instance(id) => {
                let class = infer.db.store().instance(id).class;
                let mut wrong = vec![known::STR, known::BYTES, known::LIST, known::DICT, known::SET_CLASS];
                wrong.extend(needs_int.then_some(known::FLOAT));
                wrong.into_iter().any(|name| crate::resolve::is_builtin(infer.db, class, name))
            }
            _ => false,
        };
        if !parts.is_empty() && parts.iter().all(|part| is_wrong(self, *part)) && ty != Type::None {
            let why = BadFormat::Value { code: shown.to_owned(), wanted, given: ty };
            self.problem(at, ProblemKind::Format { why });
        }
    }

    /// Looks at `text.format(values)`.
    pub(crate) fn check_format(&mut self, callee: ExprId, args: &[Arg]) {
        let Expr::Attribute { value, name, .. } = self.index.exprs[callee] else { return };
        let Expr::Str(Some(text)) = self.index.exprs[value] else { return };
        if !self.checking
            || self.text(name) != "format"
            || args.iter().any(|arg| matches!(arg.kind, ArgKind::Star | ArgKind::DoubleStar))
        {
            return;
        }
        let Some(places) = brace_places(self.text(text)) else { return };
        let placed: Vec<ExprId> =
            args.iter().filter(|arg| arg.kind == ArgKind::Positional).map(|arg| arg.value).collect();
        let mut next = 0;
        for place in places {
            let field = place.name.unwrap_or_default();
            let number = if field.is_empty() {
                next += 1;
                Some(next - 1)
            } else {
                field.parse::<usize>().ok()
            };
            let found = match number {
                Some(number) => placed.get(number).copied(),
                None => args
                    .iter()
                    .find(|arg| matches!(arg.kind, ArgKind::Keyword(key) if self.text(key) == field))
                    .map(|arg| arg.value),
            };
            let Some(value) = found else {
                let why = match number {
                    Some(number) if field.is_empty() => BadFormat::Count { wanted: number + 1, given: placed.len() },
                    _ => BadFormat::Name(field),
                };
                self.problem(callee, ProblemKind::Format { why });
                return;
            };
            let ty = self.expr(value);
            // Only texts are known to refuse: other classes have formats of their own.
            let is_text = crate::types::union::parts(self.db.store(), &ty).iter().all(|part| match part {
                Type::Literal(id) => matches!(self.db.store().literal(*id), Literal::Str(_)),
                Type::Instance(id) => {
                    crate::resolve::is_builtin(self.db, self.db.store().instance(*id).class, known::STR)
                }
                _ => false,
            });
            if is_text && place.code != 's' {
                self.check_value(&format!("{{:{}}}", place.code), place.code, value, ty);
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::{brace_places, percent_places};

    fn shown(places: Option<Vec<super::Place>>) -> Option<Vec<(String, char)>> {
        places.map(|places| places.into_iter().map(|place| (place.name.unwrap_or_default(), place.code)).collect())
    }

    #[test]
    fn texts_for_percent_are_read() {
        let of = |text| shown(percent_places(text));
        let place = |name: &str, code| (name.to_owned(), code);
        assert_eq!(of("berth %d of %5.2f%%"), Some(vec![place("", 'd'), place("", 'f')]));
        assert_eq!(of("%(port)s %(a(b))r"), Some(vec![place("port", 's'), place("a(b)", 'r')]));
        assert_eq!(of("%-*s"), Some(vec![place("", '*'), place("", 's')]));
        assert_eq!(of("100%"), None);
        assert_eq!(of("%q"), None);
    }

    #[test]
    fn texts_for_format_are_read() {
        let of = |text| shown(brace_places(text));
        let place = |name: &str, code| (name.to_owned(), code);
        assert_eq!(
            of("{} {0} {port.name} {{}} {:>5d}"),
            Some(vec![place("", ' '), place("0", ' '), place("port", ' '), place("", 'd')])
        );
        assert_eq!(of("{0!r:d}"), Some(vec![place("0", ' ')]));
        assert_eq!(of("{:{width}}"), None);
        assert_eq!(of("}"), None);
    }
}
