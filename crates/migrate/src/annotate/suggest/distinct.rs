//! Types of their own for plain values that never meet: ids, addresses and quantities of units that are all `int` or `str`, so that one can be
//! passed for another unseen (typing specification, "NewType").
//!
//! What a value is called tells what it is: `vessel_id`, `self.vessel_id` and `vessel.id` are the same kind. Two kinds meet where something of
//! one kind is passed to a parameter of the other.

use std::collections::{BTreeMap, BTreeSet};

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::{classes, functions};
use leitmotiv_engine::findings::source::excerpt;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::view::handled::Parameter;

use super::super::is_test;
use super::{Facts, Kind, Suggestion, camel, line};

/// What names of ids, addresses and units end with.
const ENDS: [&str; 44] = [
    "id",
    "uid",
    "uuid",
    "key",
    "code",
    "number",
    "ref",
    "email",
    "address",
    "addr",
    "url",
    "uri",
    "host",
    "phone",
    "token",
    "digest",
    "lat",
    "latitude",
    "lon",
    "longitude",
    "seconds",
    "secs",
    "ms",
    "millis",
    "minutes",
    "hours",
    "days",
    "metres",
    "meters",
    "km",
    "miles",
    "kg",
    "tonnes",
    "grams",
    "celsius",
    "bytes",
    "cents",
    "pence",
    "euros",
    "pounds",
    "percent",
    "degrees",
    "radians",
    "knots",
];

/// Fewer slots than that are not worth a type.
const FEWEST_SLOTS: usize = 3;

/// So many places are listed.
const MOST_PLACES: usize = 12;

/// A slot: its file as it is shown, its line from 1, and how it is told.
type Slot = (String, usize, String);

/// Values of one kind.
#[derive(Default)]
struct Group {
    types: BTreeSet<String>,
    slots: Vec<Slot>,
    functions: BTreeSet<String>,
    /// The other kinds that it meets.
    meets: BTreeSet<String>,
    /// The other kinds that stand beside it, with the function that takes both.
    beside: BTreeMap<String, Slot>,
}

/// The suggestions.
pub(super) fn of(facts: &Facts<'_>) -> Vec<Suggestion> {
    let groups = groups(facts);
    let is_fit = |group: &Group| {
        group.types.len() == 1
            && group.slots.len() >= FEWEST_SLOTS
            && group.functions.len() > 1
            && group.meets.is_empty()
    };
    let mut found: Vec<(usize, Suggestion)> = Vec::new();
    for (kind, group) in groups.iter().filter(|(_, group)| is_fit(group)) {
        let ty = group.types.iter().next().map_or("", String::as_str);
        // There must be something that it could be taken for.
        let rivals =
            group.beside.iter().filter(|(other, _)| groups.get(*other).is_some_and(|other| other.types.contains(ty)));
        let Some((rival, (path, line, function))) = rivals.min_by_key(|(_, slot)| (*slot).clone()) else { continue };
        let name = camel(kind);
        let words = format!(
            "`{kind}` is {ty} in {} places and never passed for anything else; {function} takes it beside `{rival}`, which is {ty} too",
            group.slots.len()
        );
        let mut places = group.slots.clone();
        places.truncate(MOST_PLACES);
        let code = format!("{name} = NewType(\"{name}\", {ty})\n");
        found.push((
            group.slots.len(),
            Suggestion { kind: Kind::Distinct, path: path.clone(), line: *line, words, code, places },
        ));
    }
    found.sort_by_key(|(slots, _)| std::cmp::Reverse(*slots));
    found.into_iter().map(|(_, suggestion)| suggestion).collect()
}

/// All plain parameters by their kinds.
fn groups(facts: &Facts<'_>) -> BTreeMap<String, Group> {
    let db = facts.db;
    let mut groups: BTreeMap<String, Group> = BTreeMap::new();
    for file in facts.files.iter().copied().filter(|file| !is_test(file.path(db)) && !file.is_stub(db)) {
        let index = module_index(db, file);
        for (function, record) in index.functions.iter() {
            let dotted = functions::qualified(db, file, Some(function));
            let mut own: Vec<(String, String)> = Vec::new();
            for (place, param) in record.params.iter().enumerate() {
                let parameter = Parameter { file, function, place: u32::try_from(place).unwrap_or(u32::MAX) };
                let name = db.names().text(param.name);
                let (Some(kind), Some(ty)) = (kind(name), plain(facts, parameter)) else { continue };
                let slot =
                    (file.path(db).to_owned(), line(db, file, param.name_range.start()), format!("{dotted}({name})"));
                let group = groups.entry(kind.clone()).or_default();
                group.types.insert(ty.clone());
                group.slots.push(slot);
                group.functions.insert(dotted.clone());
                let passed = facts.concluded.known.passed.get(&parameter).into_iter().flatten();
                let fed = passed.filter_map(|(from, _, one)| kind_of(&excerpt(db, *from, one.range)));
                for other in fed.filter(|other| *other != kind).collect::<Vec<_>>() {
                    groups.entry(other.clone()).or_default().meets.insert(kind.clone());
                    groups.entry(kind.clone()).or_default().meets.insert(other);
                }
                own.push((kind, ty));
            }
            for (kind, ty) in &own {
                for (other, _) in own.iter().filter(|(other, with)| other != kind && with == ty) {
                    let slot = (file.path(db).to_owned(), line(db, file, record.name_range.start()), dotted.clone());
                    groups.entry(kind.clone()).or_default().beside.entry(other.clone()).or_insert(slot);
                }
            }
        }
    }
    groups
}

/// The plain type of a parameter, None apart, as it is shown.
fn plain(facts: &Facts<'_>, parameter: Parameter) -> Option<String> {
    let db = facts.db;
    let ty = leitmotiv_engine::types::union::without(db.store(), facts.parameter(parameter)?, Type::None);
    let Type::Instance(id) = ty else { return None };
    let class = classes::shown(db, db.store().instance(id).class);
    matches!(class, "int" | "str" | "float" | "bytes").then(|| show(db, ty))
}

/// The kind of a value by what it is called; `None` of names that say nothing of that.
fn kind(name: &str) -> Option<String> {
    let name = name.trim_matches('_').to_lowercase();
    let (owner, end) = name.rsplit_once('_')?;
    (ENDS.contains(&end) && !owner.is_empty()).then(|| name.clone())
}

/// The kind of what an expression reads: of a name, of an attribute, of `vessel.id` as of `vessel_id`.
fn kind_of(code: &str) -> Option<String> {
    let is_plain = code.chars().all(|char| char == '_' || char == '.' || char.is_alphanumeric());
    let parts: Vec<&str> = code.split('.').collect();
    let last = parts.last().filter(|_| is_plain)?;
    kind(last).or_else(|| {
        let owner = parts.len().checked_sub(2).map(|at| parts[at])?;
        kind(&format!("{owner}_{last}")).filter(|_| owner != "self")
    })
}

#[cfg(test)]
mod tests {
    use super::{kind, kind_of};

    #[test]
    fn what_values_are_called_tells_their_kind() {
        assert_eq!(kind("vessel_id").as_deref(), Some("vessel_id"));
        assert_eq!(kind("name"), None);
        assert_eq!(kind_of("vessel.id").as_deref(), Some("vessel_id"));
        assert_eq!(kind_of("self.vessel_id").as_deref(), Some("vessel_id"));
        assert_eq!(kind_of("self.id"), None);
        assert_eq!(kind_of("vessel_id + 1"), None);
    }
}
