//! Dictionaries with the same constant keys, which are records: a typed dictionary or a dataclass says what is in them.

use std::collections::BTreeMap;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::{Type, union};
use leitmotiv_index::tree::{BodyId, DefKind, Expr, ExprId, ModuleIndex};
use leitmotiv_syntax::TextRange;

use super::super::generalise::together;
use super::super::is_test;
use super::{Facts, Kind, Suggestion, camel, line, written};

/// Fewer keys than that are no record.
const FEWEST_KEYS: usize = 2;

/// A dictionary as it is written.
struct Made {
    file: File,
    range: TextRange,
    types: Vec<Type>,
    /// What it is given to, or the function that gives it back.
    named: Option<String>,
    is_given_back: bool,
}

/// The suggestions.
pub(super) fn of(facts: &Facts<'_>) -> Vec<Suggestion> {
    let db = facts.db;
    let mut all: BTreeMap<Vec<String>, Vec<Made>> = BTreeMap::new();
    for file in facts.files.iter().copied().filter(|file| !is_test(file.path(db)) && !file.is_stub(db)) {
        let index = module_index(db, file);
        for (body, record) in index.bodies.iter() {
            let mut infer = Infer::new(db, file, body);
            for number in record.exprs.clone() {
                let expr = ExprId(number);
                let Some((keys, values)) = keys(facts, index, expr) else { continue };
                let types: Vec<Type> = values
                    .into_iter()
                    .map(|value| {
                        let ty = infer.expr(value);
                        infer.widen(ty)
                    })
                    .collect();
                let is_given_back = record.returns.iter().any(|one| one.value == Some(expr));
                let named = named(facts, index, body, expr);
                let made = Made { file, range: index.spans[expr], types, named, is_given_back };
                let mut order: Vec<usize> = (0..keys.len()).collect();
                order.sort_by_key(|place| &keys[*place]);
                let sorted: Vec<String> = order.iter().map(|place| keys[*place].clone()).collect();
                let types = order.iter().map(|place| made.types[*place]).collect();
                all.entry(sorted).or_default().push(Made { types, ..made });
            }
        }
    }
    let mut found: Vec<((usize, usize), Suggestion)> = all
        .iter()
        .filter_map(|(keys, made)| Some(((made.len(), keys.len()), suggestion(facts, keys, made)?)))
        .collect();
    found.sort_by(|(one, first), (other, second)| {
        other.cmp(one).then_with(|| first.path.cmp(&second.path)).then(first.line.cmp(&second.line))
    });
    found.into_iter().map(|(_, suggestion)| suggestion).collect()
}

/// The keys of a dictionary that is written out, if all are texts that can be names of attributes, with its values.
fn keys(facts: &Facts<'_>, index: &ModuleIndex, expr: ExprId) -> Option<(Vec<String>, Vec<ExprId>)> {
    let Expr::Dict(items) = &index.exprs[expr] else { return None };
    let mut keys = Vec::new();
    for (key, _) in items {
        let Expr::Str(Some(key)) = index.exprs[(*key)?] else { return None };
        let key = facts.db.names().text(key);
        let is_name = key.starts_with(|first: char| first == '_' || first.is_alphabetic())
            && key.chars().all(|char| char == '_' || char.is_alphanumeric());
        if !is_name || keys.iter().any(|known| known == key) {
            return None;
        }
        keys.push(key.to_owned());
    }
    let values = items.iter().map(|(_, value)| *value).collect();
    (keys.len() >= FEWEST_KEYS).then_some((keys, values))
}

/// What a dictionary is given to, or the function that gives it back.
fn named(facts: &Facts<'_>, index: &ModuleIndex, body: BodyId, expr: ExprId) -> Option<String> {
    let names = facts.db.names();
    let record = &index.bodies[body];
    let given = record.defs.clone().find_map(|number| {
        let def = &index.defs[leitmotiv_index::tree::DefId(number)];
        matches!(def.kind, DefKind::Assign { value, unpack: None, .. } if value == expr).then_some(def.name)
    });
    let returned = || {
        let function = record.function?;
        record.returns.iter().any(|one| one.value == Some(expr)).then_some(index.functions[function].name)
    };
    given.or_else(returned).map(|name| names.text(name).to_owned())
}

fn suggestion(facts: &Facts<'_>, keys: &[String], made: &[Made]) -> Option<Suggestion> {
    let db = facts.db;
    let first = made.first()?;
    let infer = Infer::new(db, first.file, BodyId(0));
    let types: Vec<Type> = (0..keys.len())
        .map(|place| {
            let all: Vec<Type> = made.iter().map(|one| one.types[place]).filter(|ty| !ty.is_dynamic()).collect();
            if all.is_empty() { Type::Any } else { together(db, &infer, all) }
        })
        .collect();
    // Values of one kind under constant keys are a table as like as not; so is what is written once and goes nowhere by a name.
    let plain = |ty: &Type| union::without(db.store(), *ty, Type::None);
    let is_mixed = made.iter().any(|one| one.types.iter().any(|ty| plain(ty) != plain(&one.types[0])));
    let is_given = made.iter().any(|one| one.named.is_some());
    if !is_mixed || !is_given || made.len() == 1 && (keys.len() < 3 || !first.is_given_back) {
        return None;
    }
    let name = made.iter().find_map(|one| one.named.as_deref()).map_or("Record".to_owned(), |name| camel(single(name)));
    let mut code = format!("class {name}(TypedDict):\n");
    // In the order in which they are written first.
    let text = &first.file.text(db)[usize::from(first.range.start())..usize::from(first.range.end())];
    let mut fields: Vec<(usize, &String, Type)> = std::iter::zip(keys, types)
        .map(|(key, ty)| {
            (text.find(&format!("\"{key}\"")).or_else(|| text.find(&format!("'{key}'"))).unwrap_or(0), key, ty)
        })
        .collect();
    fields.sort_by_key(|(at, ..)| *at);
    for (_, key, ty) in &fields {
        code.push_str(&format!("    {key}: {}\n", written(db, first.file, *ty)?));
    }
    let shown: Vec<String> = fields.iter().map(|(_, key, _)| format!("`{key}`")).collect();
    let keys = shown.join(", ");
    let words = match made.len() {
        1 => format!("a dictionary with the keys {keys} is given back"),
        count => format!("dictionaries with the keys {keys} are made in {count} places"),
    };
    let places = made.iter().map(|one| {
        let said = one.named.as_ref().map_or("a dictionary of them".to_owned(), |name| format!("as `{name}`"));
        (one.file.path(db).to_owned(), line(db, one.file, one.range.start()), said)
    });
    Some(Suggestion {
        kind: Kind::Records,
        path: first.file.path(db).to_owned(),
        line: line(db, first.file, first.range.start()),
        words,
        code,
        places: places.collect(),
    })
}

/// `get_sailing` and `sailings` as one `sailing`.
fn single(name: &str) -> &str {
    let name = name.trim_matches('_');
    let verbs = ["get_", "make_", "build_", "create_", "to_", "as_", "parse_", "read_", "load_"];
    let name = verbs.iter().find_map(|verb| name.strip_prefix(verb)).unwrap_or(name);
    match name.strip_suffix('s') {
        Some(rest) if rest.len() > 2 && !rest.ends_with('s') && !rest.ends_with("tu") => rest,
        _ => name,
    }
}
