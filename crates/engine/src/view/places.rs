//! Where things are defined, declared and carried out.

use leitmotiv_index::tree::{DefKind, ScopeId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::mentions::{How, Mention};

use super::things::{Reader, Thing, behind_imports};
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes;
use crate::outline::{self, module_index};
use crate::types::union::parts;
use crate::types::{ClassRef, Type};

/// A stretch of a file, in bytes.
pub type Place = (File, TextRange);

/// Where what is mentioned is defined: of a local name the assignments that may have given it its value, of others where they are
/// defined behind all imports.
pub fn definitions(reader: &mut Reader<'_>, mention: Mention) -> Vec<Place> {
    let db = reader.db;
    let mut found = Vec::new();
    for thing in reader.means(mention) {
        let end = behind_imports(db, thing);
        let is_import = end != thing;
        if !is_import
            && let Thing::Name { file, scope, .. } = end
            && file == reader.file
            && scope != ScopeId(0)
        {
            let reaching = reader.reaching(mention);
            found.extend(reaching.into_iter().map(|def| (file, reader.index.defs[def].range)));
            if !found.is_empty() {
                continue;
            }
        }
        found.extend(of_thing(db, end));
    }
    dedup(&mut found);
    found
}

/// Where what is mentioned is declared: the import that brings it, or the first place that says what it is.
pub fn declarations(reader: &mut Reader<'_>, mention: Mention) -> Vec<Place> {
    let db = reader.db;
    let mut found = Vec::new();
    for thing in reader.means(mention) {
        let all = thing.definitions(db);
        let index = module_index(db, thing.file());
        let is_said = |def: &&leitmotiv_index::tree::DefId| {
            matches!(index.defs[**def].kind, DefKind::Annotated { .. } | DefKind::TypeAlias { .. })
        };
        match all.iter().find(is_said).or(all.first()) {
            Some(def) => found.push((thing.file(), index.defs[*def].range)),
            None => found.extend(of_thing(db, thing)),
        }
    }
    dedup(&mut found);
    found
}

/// Where a thing is defined, by its own file: definitions of functions and classes, else what annotates it, else the first assignment.
#[must_use]
pub fn of_thing(db: &dyn Db, thing: Thing) -> Vec<Place> {
    if let Thing::Module(file) = thing {
        return vec![(file, TextRange::default())];
    }
    let index = module_index(db, thing.file());
    let all = thing.definitions(db);
    let of = |is: &dyn Fn(&DefKind) -> bool| -> Vec<Place> {
        all.iter()
            .map(|def| &index.defs[*def])
            .filter(|record| is(&record.kind) && !record.reach.is_never())
            .map(|record| (thing.file(), record.range))
            .collect()
    };
    let made = of(&|kind| matches!(kind, DefKind::Function(_) | DefKind::Class(_)));
    if !made.is_empty() {
        return made;
    }
    let said = of(&|kind| matches!(kind, DefKind::Annotated { .. }));
    if !said.is_empty() {
        return said;
    }
    of(&|_| true).into_iter().take(1).collect()
}

/// Where the classes of an expression's type are defined.
#[must_use]
pub fn of_type(db: &dyn Db, ty: Type) -> Vec<Place> {
    let store = db.store();
    let mut found = Vec::new();
    for part in parts(store, &ty) {
        let class = match *part {
            Type::Instance(id) => Some(store.instance(id).class),
            Type::Literal(literal) => match *store.literal(literal) {
                crate::types::Literal::Enum(class, _) => Some(class),
                _ => None,
            },
            Type::SubclassOf(inner) => match *store.single(inner) {
                Type::Instance(id) => Some(store.instance(id).class),
                _ => None,
            },
            _ => None,
        };
        match class {
            Some(class) => found.push(of_class(db, class)),
            None => found.extend(super::lookup::definition_of(db, *part)),
        }
    }
    dedup(&mut found);
    found
}

/// Where the name of a class stands.
#[must_use]
pub fn of_class(db: &dyn Db, class: ClassRef) -> Place {
    (class.file, module_index(db, class.file).classes[class.class].name_range)
}

/// Where what is mentioned is carried out: of a class, the classes of the project that derive from it; of a method, those that stand in
/// for it there; of what a stub declares, the source.
pub fn implementations(reader: &mut Reader<'_>, mention: Mention) -> Vec<Place> {
    let db = reader.db;
    let mut found = Vec::new();
    for thing in reader.means(mention) {
        let thing = behind_imports(db, thing);
        match thing {
            Thing::Member { class, name } => {
                for derived in classes::derived(db, class) {
                    let own = Thing::Member { class: derived, name };
                    if outline::class(db, derived).has(name) {
                        found.extend(of_thing(db, own));
                    }
                }
            }
            Thing::Name { file, .. } => {
                let index = module_index(db, file);
                for def in thing.definitions(db) {
                    if let DefKind::Class(class) = index.defs[def].kind {
                        let class = ClassRef { file, class };
                        found.extend(classes::derived(db, class).map(|class| of_class(db, class)));
                    }
                }
            }
            Thing::Module(_) => {}
        }
        if found.is_empty() {
            found.extend(of_thing(db, thing));
        }
    }
    dedup(&mut found);
    found
}

/// The other mentions of the same thing in the file, this one among them.
pub fn highlights(reader: &mut Reader<'_>, mention: Mention) -> Vec<Mention> {
    let db = reader.db;
    let text = reader.text(mention);
    let wanted: Vec<Thing> = reader.means(mention).into_iter().map(|thing| behind_imports(db, thing)).collect();
    let same: Vec<Mention> = reader.mentions.iter().filter(|other| reader.text(**other) == text).copied().collect();
    same.into_iter()
        .filter(|other| {
            *other == mention
                || reader.means(*other).into_iter().any(|thing| wanted.contains(&behind_imports(db, thing)))
        })
        .collect()
}

/// Whether a mention gives the name something.
#[must_use]
pub fn is_written(mention: Mention) -> bool {
    mention.how.binds() && !matches!(mention.how, How::Module { .. })
}

fn dedup(places: &mut Vec<Place>) {
    let mut seen: Vec<Place> = Vec::new();
    places.retain(|place| {
        let is_new = !seen.contains(place);
        seen.push(*place);
        is_new
    });
}
