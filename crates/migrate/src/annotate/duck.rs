//! Which class a value is of, by the attributes that are read of it.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes::{self, ClassKind};
use leitmotiv_engine::outline;
use leitmotiv_engine::resolve::{builtin, is_builtin};
use leitmotiv_engine::types::ClassRef;
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::FxHashMap;

use super::evidence::Strength;

/// Built-in classes that are told by their methods, the likelier ones first.
const BUILT_IN: [&str; 9] = ["str", "dict", "list", "set", "int", "float", "bytes", "tuple", "frozenset"];

/// Classes by the names of their members, inherited ones included.
pub(super) struct Members {
    classes: Vec<ClassRef>,
    by_name: FxHashMap<Name, Vec<u32>>,
    /// Those of the classes that each one derives from, by number.
    above: Vec<Vec<u32>>,
    built_in: usize,
}

impl Members {
    /// The members of some classes, and of built-in ones.
    pub(super) fn new(db: &Database, own: &[ClassRef]) -> Members {
        let store = db.store();
        let built_in: Vec<ClassRef> = BUILT_IN.iter().filter_map(|name| builtin(db, db.names().intern(name))).collect();
        let own = own.iter().copied().filter(|class| !built_in.contains(class));
        let mut members = Members {
            built_in: built_in.len(),
            classes: built_in.iter().copied().chain(own).collect(),
            by_name: FxHashMap::default(),
            above: Vec::new(),
        };
        let numbers: FxHashMap<ClassRef, u32> = members.classes.iter().copied().zip(0..).collect();
        let above = members.classes.iter().map(|class| {
            let bases = classes::info(db, *class).mro.iter().map(|base| store.instance(*base).class);
            bases.filter(|base| base != class).filter_map(|base| numbers.get(&base).copied()).collect()
        });
        members.above = above.collect();
        for (number, class) in members.classes.iter().enumerate() {
            let info = classes::info(db, *class);
            if info.kind == ClassKind::Protocol {
                continue;
            }
            let mut names: Vec<Name> = Vec::new();
            for (place, base) in info.mro.iter().enumerate() {
                if is_builtin(db, store.instance(*base).class, known::OBJECT) {
                    continue;
                }
                names.extend(info.names.get(place).into_iter().flat_map(outline::classes::ClassNames::in_no_order));
            }
            names.sort_unstable();
            names.dedup();
            for name in names {
                members.by_name.entry(name).or_default().push(u32::try_from(number).unwrap_or(u32::MAX));
            }
        }
        members
    }

    /// The class that has all of some attributes, and how much that says; `named` is what the value is called.
    pub(super) fn class(&self, db: &Database, attributes: &[Name], named: &str) -> Option<(ClassRef, Strength)> {
        let mut attributes = attributes.iter();
        let first = self.by_name.get(attributes.next()?)?;
        let mut found: Vec<u32> = first.clone();
        let mut count = 1;
        for name in attributes {
            let with = self.by_name.get(name)?;
            found.retain(|number| with.binary_search(number).is_ok());
            count += 1;
        }
        let is_built_in = |number: &u32| (*number as usize) < self.built_in;
        let all: Vec<ClassRef> = found.iter().map(|number| self.classes[*number as usize]).collect();
        let is_root = |number: u32| !self.above[number as usize].iter().any(|base| found.binary_search(base).is_ok());
        let mut roots: Vec<(u32, ClassRef)> =
            found.iter().copied().zip(all.iter().copied()).filter(|(number, _)| is_root(*number)).collect();
        if let Some((_, class)) = roots.iter().find(|(_, class)| is_named_so(named, classes::shown(db, *class))) {
            return Some((*class, Strength::Strong));
        }
        // A value that is called as a class below the roots.
        if let Some(class) = all.iter().find(|class| is_named_so(named, classes::shown(db, **class))) {
            return Some((*class, Strength::Medium));
        }
        if roots.len() == 1 {
            let (number, class) = roots.remove(0);
            let strength = match count {
                _ if is_built_in(&number) => Strength::Strong,
                1 => Strength::Medium,
                _ => Strength::Strong,
            };
            return Some((class, strength));
        }
        // Of built-in classes the likelier one, where nothing else is likely.
        let (number, class) = *roots.first()?;
        let rest: Vec<&(u32, ClassRef)> = roots.iter().skip(1).filter(|(number, _)| is_built_in(number)).collect();
        let is_text =
            classes::shown(db, class) == "str" && rest.iter().all(|(_, other)| classes::shown(db, *other) == "bytes");
        if is_built_in(&number) && (rest.is_empty() || is_text) {
            let strength = if roots.len() == 1 + rest.len() || count > 1 { Strength::Medium } else { Strength::Weak };
            return Some((class, strength));
        }
        None
    }
}

/// Whether a value is called as a class is: `vessel`, `own_vessel` as `Vessel`.
pub(super) fn is_named_so(value: &str, class: &str) -> bool {
    let mut snake = String::new();
    let plain = class.trim_start_matches('_');
    for (place, character) in plain.char_indices() {
        if character.is_ascii_uppercase()
            && place > 0
            && !plain[..place].ends_with(|last: char| last.is_ascii_uppercase())
        {
            snake.push('_');
        }
        snake.push(character.to_ascii_lowercase());
    }
    let value = value.trim_matches('_');
    !snake.is_empty()
        && plain.starts_with(|first: char| first.is_ascii_uppercase())
        && (value == snake || value.strip_suffix(&snake).is_some_and(|rest| rest.ends_with('_')))
}

#[cfg(test)]
mod tests {
    use super::is_named_so;

    #[test]
    fn values_are_called_as_their_classes() {
        assert!(is_named_so("vessel", "Vessel") && is_named_so("own_tide_table", "TideTable"));
        assert!(!is_named_so("vessels", "Vessel") && !is_named_so("name", "Vessel"));
    }
}
