//! Parameters of a stub's functions compared with those of the module's.

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_index::tree::{Expr, ParamKind};

use super::{Comparison, Difference, Kind, Said};
use crate::stub::running::{Function, Param};

/// A parameter as a stub has it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Own {
    pub(super) name: String,
    pub(super) kind: ParamKind,
    pub(super) optional: bool,
    /// The default, where it is a constant.
    pub(super) default: Option<String>,
}

impl Comparison<'_> {
    /// Compares the signatures of a function. `has_receiver`: both take an object or a class first.
    pub(super) fn signatures(&mut self, full: &str, said: Said, function: &Function, has_receiver: bool) {
        let Some(params) = &function.params else { return };
        let Some(mut own) = self.own_signatures(said.ty) else { return };
        self.result.signatures += 1;
        let mut theirs: &[Param] = params;
        if has_receiver {
            // What the first parameter is called is the method's own affair.
            if theirs.first().is_some_and(|first| first.kind < 2) {
                theirs = &theirs[1..];
            }
            for signature in &mut own {
                if signature.first().is_some_and(|first| first.kind != ParamKind::VarArgs) {
                    signature.remove(0);
                }
            }
        }
        // Special methods are called by position: what their parameters are called is nobody's affair.
        let name = full.rsplit('.').next().unwrap_or(full);
        let is_constructor = matches!(name, "__init__" | "__new__");
        let by_name = !name.starts_with("__") || !name.ends_with("__") || is_constructor;
        for (kind, words) in compare(&own, theirs, by_name) {
            self.result.differences.push(Difference {
                name: full.to_owned(),
                kind,
                words,
                stub: said.place,
                module: function.place.clone(),
            });
        }
    }

    fn own_signatures(&self, ty: Type) -> Option<Vec<Vec<Own>>> {
        let db = self.db;
        let text = |name| db.names().text(name).to_owned();
        match ty {
            Type::Function(id) => {
                let record = *db.store().function(id);
                let index = module_index(db, record.file);
                let mut all = Vec::new();
                for overload in leitmotiv_engine::outline::function(db, record.file, record.function).signatures.iter()
                {
                    let params = &index.functions[*overload].params;
                    let default = |expr| match index.exprs[expr] {
                        Expr::None | Expr::Bool(_) | Expr::Int(_) | Expr::Float | Expr::Str(Some(_)) => {
                            let range = index.spans[expr];
                            let source = record.file.text(db);
                            source.get(usize::from(range.start())..usize::from(range.end())).map(str::to_owned)
                        }
                        _ => None,
                    };
                    all.push(
                        params
                            .iter()
                            .map(|param| Own {
                                name: text(param.name),
                                kind: param.kind,
                                optional: param.default.is_some(),
                                default: param.default.and_then(default),
                            })
                            .collect(),
                    );
                }
                Some(all)
            }
            Type::Callable(id) => {
                let signature = db.store().signature(id);
                // Parameters without names are those of a `Callable`, which says only so much.
                let named = signature.params.iter().all(|param| !text(param.name).is_empty());
                named.then(|| {
                    let own = |param: &leitmotiv_engine::types::SignatureParam| Own {
                        name: text(param.name),
                        kind: param.kind,
                        optional: param.optional,
                        default: None,
                    };
                    vec![signature.params.iter().map(own).collect()]
                })
            }
            _ => None,
        }
    }
}

/// The differences between signatures of a stub, several where it is overloaded, and the one of the module. Overloads may leave
/// out what has a default, and take by name only what can be given by name. Without `by_name`, parameters are never given by
/// name, and their names do not matter.
pub(super) fn compare(own: &[Vec<Own>], theirs: &[Param], by_name: bool) -> Vec<(Kind, String)> {
    let mut found: Vec<(Kind, String)> = Vec::new();
    let mut told = |kind: Kind, words: String| {
        if !found.iter().any(|(_, known)| *known == words) {
            found.push((kind, words));
        }
    };
    let is_overloaded = own.len() > 1;
    let placed: Vec<&Param> = theirs.iter().filter(|param| param.kind <= 1).collect();
    let has = |kind: u8| theirs.iter().any(|param| param.kind == kind);
    let mut covered: Vec<&str> = Vec::new();
    let mut takes_rest = (false, false);
    for signature in own {
        let mut place = 0;
        for param in signature {
            let name = &param.name;
            match param.kind {
                ParamKind::PositionalOnly | ParamKind::Normal => {
                    let at = place;
                    place += 1;
                    if let Some(other) = placed.get(at) {
                        covered.push(&other.name);
                        if let Some(words) = placed_words(param, other, at, is_overloaded, by_name) {
                            told(Kind::Parameter, words);
                        }
                        default(param, other, is_overloaded, &mut told);
                    } else if let Some(other) = theirs.iter().find(|other| other.kind == 3 && other.name == *name) {
                        covered.push(&other.name);
                        told(
                            Kind::Parameter,
                            format!("`{name}` can be given by position in the stub, only by name in the module"),
                        );
                    } else if !has(2) && !has(4) {
                        told(Kind::Parameter, format!("`{name}` is no parameter of the module's function"));
                    }
                }
                ParamKind::KeywordOnly => {
                    let other = theirs.iter().find(|other| matches!(other.kind, 1 | 3) && other.name == *name);
                    if let Some(other) = other {
                        covered.push(&other.name);
                        if other.kind == 1 && !is_overloaded && !has(2) {
                            told(
                                Kind::Parameter,
                                format!("`{name}` can be given by position in the module, only by name in the stub"),
                            );
                        }
                        default(param, other, is_overloaded, &mut told);
                    } else if !has(4) {
                        told(Kind::Parameter, format!("`{name}` is no parameter of the module's function"));
                    }
                }
                ParamKind::VarArgs => {
                    takes_rest.0 = true;
                    covered.extend(placed.iter().skip(place).map(|param| param.name.as_str()));
                    if !has(2) && !is_overloaded {
                        told(Kind::Parameter, format!("`*{name}` is no parameter of the module's function"));
                    }
                }
                ParamKind::KwArgs => {
                    takes_rest.1 = true;
                    if !has(4) && !is_overloaded {
                        told(Kind::Parameter, format!("`**{name}` is no parameter of the module's function"));
                    }
                }
            }
        }
    }
    // A stub may spell out what the module takes by stars.
    let is_plain = |kind: ParamKind| !matches!(kind, ParamKind::VarArgs | ParamKind::KwArgs);
    let most = own.iter().map(|all| all.iter().filter(|param| is_plain(param.kind)).count()).max().unwrap_or(0);
    let spelled_out = most > theirs.iter().filter(|param| !matches!(param.kind, 2 | 4)).count();
    for param in theirs {
        let is_covered = match param.kind {
            2 => takes_rest.0 || is_overloaded || spelled_out,
            4 => takes_rest.1 || is_overloaded || spelled_out,
            // A private parameter is not meant to be given.
            3 => covered.contains(&param.name.as_str()) || takes_rest.1 || param.name.starts_with('_'),
            _ => covered.contains(&param.name.as_str()) || param.name.starts_with('_') && param.default.is_some(),
        };
        if !is_covered {
            let stars = match param.kind {
                2 => "*",
                4 => "**",
                _ => "",
            };
            told(Kind::Parameter, format!("`{stars}{}` is a parameter in the module, and not in the stub", param.name));
        }
    }
    found
}

/// How two parameters at one place differ in name and kind.
fn placed_words(own: &Own, other: &Param, at: usize, is_overloaded: bool, by_name: bool) -> Option<String> {
    let (name, named_there) = (&own.name, other.kind == 1);
    let named_here = own.kind == ParamKind::Normal;
    // Two leading underscores make a name one of its class's own, which nobody else can give.
    let is_mangled = other.name.starts_with('_') && other.name.contains("__");
    if is_mangled {
        return None;
    }
    match (named_here, named_there) {
        (true, true) if by_name && other.name != *name => {
            Some(format!("parameter {} is `{name}` in the stub, `{}` in the module", at + 1, other.name))
        }
        (true, false) => Some(format!("`{name}` can be given by name in the stub, only by position in the module")),
        (false, true) if by_name && !is_overloaded => {
            Some(format!("`{}` can be given by name in the module, only by position in the stub", other.name))
        }
        _ => None,
    }
}

fn default(own: &Own, other: &Param, is_overloaded: bool, told: &mut dyn FnMut(Kind, String)) {
    let name = &own.name;
    match (&other.default, own.optional) {
        (None, true) => told(Kind::Default, format!("`{name}` has a default in the stub, and none in the module")),
        (Some(_), false) if !is_overloaded => {
            told(Kind::Default, format!("`{name}` has a default in the module, and none in the stub"));
        }
        (Some(default), true) => {
            if let (Some(have), Some(is)) = (&own.default, &default.text)
                && !is_same(have, is)
            {
                told(Kind::Default, format!("`{name}` is `{have}` by default in the stub, `{is}` in the module"));
            }
        }
        _ => {}
    }
}

/// Whether two constants as source are the same value, as far as spelling tells.
fn is_same(one: &str, other: &str) -> bool {
    // What escapes mean is left to the interpreter.
    if one == other || one.contains('\\') || other.contains('\\') {
        return true;
    }
    let text = |source: &str| {
        let body = source.trim_start_matches(['b', 'u', 'r', 'B']);
        let inner = body.strip_prefix(['\'', '"'])?.strip_suffix(['\'', '"'])?;
        Some(inner.replace("\\\"", "\"").replace("\\'", "'"))
    };
    let number = |source: &str| {
        let plain = source.replace('_', "");
        let radix =
            |prefix: &str, radix| plain.strip_prefix(prefix).and_then(|digits| i64::from_str_radix(digits, radix).ok());
        plain.parse().ok().or_else(|| radix("0x", 16)).or_else(|| radix("0o", 8)).or_else(|| radix("0b", 2))
    };
    match (text(one), text(other)) {
        (Some(one), Some(other)) => return one == other,
        (None, None) => {}
        _ => return false,
    }
    if let (Some(one), Some(other)) = (number(one), number(other)) {
        return one == other;
    }
    matches!((one.parse::<f64>(), other.parse::<f64>()), (Ok(one), Ok(other)) if (one - other).abs() < f64::EPSILON)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::stub::running::DefaultValue;

    /// `a, b=1, *, c=None` with `/` read as in Python: own parameters.
    fn own(text: &str) -> Vec<Own> {
        let mut all: Vec<Own> = Vec::new();
        let mut kind = ParamKind::Normal;
        for part in text.split(',').map(str::trim).filter(|part| !part.is_empty()) {
            match part {
                "/" => all.iter_mut().for_each(|param| param.kind = ParamKind::PositionalOnly),
                "*" => kind = ParamKind::KeywordOnly,
                part => {
                    let (name, default) =
                        part.split_once('=').map_or((part, None), |(name, value)| (name, Some(value)));
                    let (name, kind) = match (name.strip_prefix("**"), name.strip_prefix('*')) {
                        (Some(name), _) => (name, ParamKind::KwArgs),
                        (_, Some(name)) => (name, std::mem::replace(&mut kind, ParamKind::KeywordOnly)),
                        _ => (name, kind),
                    };
                    let kind = if part.starts_with('*') && !part.starts_with("**") { ParamKind::VarArgs } else { kind };
                    let default = default.map(str::to_owned);
                    all.push(Own { name: name.to_owned(), kind, optional: default.is_some(), default });
                }
            }
        }
        all
    }

    fn theirs(text: &str) -> Vec<Param> {
        own(text)
            .into_iter()
            .map(|param| Param {
                name: param.name,
                kind: match param.kind {
                    ParamKind::PositionalOnly => 0,
                    ParamKind::Normal => 1,
                    ParamKind::VarArgs => 2,
                    ParamKind::KeywordOnly => 3,
                    ParamKind::KwArgs => 4,
                },
                default: param.optional.then(|| DefaultValue { text: param.default, ..DefaultValue::default() }),
                annotation: None,
            })
            .collect()
    }

    fn words(stub: &[&str], module: &str) -> Vec<String> {
        let stub: Vec<Vec<Own>> = stub.iter().map(|text| own(text)).collect();
        compare(&stub, &theirs(module), true)
            .into_iter()
            .map(|(kind, words)| format!("{}: {words}", kind.name()))
            .collect()
    }

    #[test]
    fn equal_signatures_do_not_differ() {
        for text in ["", "a, b=1", "a, /, b, *, c=None", "*args, key=None, **rest"] {
            assert!(words(&[text], text).is_empty(), "{text}");
        }
        assert!(words(&["depth=0x10, name='sonar'"], "depth=16, name=\"sonar\"").is_empty());
    }

    #[test]
    fn names_kinds_and_defaults_are_compared() {
        let cases = [
            ("deep", "depth", "parameter: parameter 1 is `deep` in the stub, `depth` in the module"),
            ("a", "a, /", "parameter: `a` can be given by name in the stub, only by position in the module"),
            ("a, /", "a", "parameter: `a` can be given by name in the module, only by position in the stub"),
            ("*, a", "a", "parameter: `a` can be given by position in the module, only by name in the stub"),
            ("a", "*, a", "parameter: `a` can be given by position in the stub, only by name in the module"),
            ("a, b", "a", "parameter: `b` is no parameter of the module's function"),
            ("a", "a, b", "parameter: `b` is a parameter in the module, and not in the stub"),
            ("a", "a, *rest", "parameter: `*rest` is a parameter in the module, and not in the stub"),
            ("a=1", "a", "default: `a` has a default in the stub, and none in the module"),
            ("a", "a=1", "default: `a` has a default in the module, and none in the stub"),
            ("a=1", "a=2", "default: `a` is `1` by default in the stub, `2` in the module"),
        ];
        for (stub, module, expected) in cases {
            assert_eq!(words(&[stub], module), [expected], "{stub} | {module}");
        }
    }

    #[test]
    fn names_do_not_matter_where_nothing_is_given_by_name() {
        let compared = |stub: &str, module: &str| compare(&[own(stub)], &theirs(module), false);
        assert!(compared("other, /", "value").is_empty());
        assert!(compared("other", "value").is_empty());
        assert_eq!(compared("other, more", "value").len(), 1);
        // A name of the class's own.
        assert!(words(&["__pier, /"], "_Berth__pier").is_empty());
    }

    #[test]
    fn overloads_together_cover_the_parameters() {
        assert!(words(&["a", "a, *, key"], "a, key=None").is_empty());
        assert_eq!(
            words(&["a", "a, b"], "a, b, c=1"),
            ["parameter: `c` is a parameter in the module, and not in the stub"]
        );
    }
}
