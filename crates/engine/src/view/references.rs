//! Where a thing is mentioned in the project.

use leitmotiv_syntax::mentions::{How, Mention};
use leitmotiv_syntax::names::Name;
use rayon::prelude::*;

use super::things::{Reader, Thing, behind_imports, chain};
use crate::base::database::Database;
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes;
use crate::outline::{self, module_index};
use crate::resolve::project_files;
use crate::types::{ClassRef, Type};

/// A mention in some file.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Reference {
    /// The file.
    pub file: File,
    /// The mention.
    pub mention: Mention,
    /// Whether it may mean something else as well: an object of several classes, or of which nothing is known.
    pub is_sure: bool,
}

/// What counts as one thing for those who look for its mentions: a method with those that it stands in for, and that stand in for it.
#[must_use]
pub fn family(db: &dyn Db, thing: Thing) -> Vec<Thing> {
    let thing = behind_imports(db, thing);
    let Thing::Member { class, name } = thing else { return vec![thing] };
    let mut found = vec![class];
    let mut at = 0;
    while let Some(class) = found.get(at).copied() {
        at += 1;
        let store = db.store();
        let bases = classes::info(db, class).mro.iter().map(|entry| store.instance(*entry).class);
        let near: Vec<ClassRef> = bases.chain(classes::derived(db, class)).collect();
        for other in near {
            if !found.contains(&other) && outline::class(db, other).has(name) && !is_special(db, other, name) {
                found.push(other);
            }
        }
    }
    found.into_iter().map(|class| Thing::Member { class, name }).collect()
}

/// Every class has what `object` has: that binds nothing together.
fn is_special(db: &dyn Db, class: ClassRef, name: Name) -> bool {
    let text = db.names().text(name);
    crate::resolve::is_builtin(db, class, leitmotiv_syntax::names::known::OBJECT) || text.starts_with("__")
}

/// The mentions of some things in the project's files, in the order of the files and their texts. Attributes of objects of which nothing is
/// known are among them, as not sure, where `unsure` is set.
#[must_use]
pub fn of(db: &Database, things: &[Thing], unsure: bool) -> Vec<Reference> {
    let Some(name) = things.first().map(|thing| thing.name(db).to_owned()) else { return Vec::new() };
    let mut files = project_files(db).to_vec();
    for file in things.iter().map(|thing| thing.file()) {
        if !files.contains(&file) {
            files.push(file);
        }
    }
    // The name under which others import it may be another one: those mentions are of that name, and stay as they are.
    let candidates: Vec<File> = files.into_iter().filter(|file| has_word(file.text(db), &name)).collect();
    let found: Vec<Vec<Reference>> =
        candidates.par_iter().map_with(db.clone(), |db, file| in_file(db, *file, things, &name, unsure)).collect();
    found.into_iter().flatten().collect()
}

/// The mentions in one file.
fn in_file(db: &Database, file: File, things: &[Thing], name: &str, unsure: bool) -> Vec<Reference> {
    let mut reader = Reader::new(db, file);
    let same: Vec<Mention> = reader.mentions.iter().filter(|mention| reader.text(**mention) == name).copied().collect();
    let mut found = Vec::new();
    for mention in same {
        let means = reader.means(mention);
        let is_meant = |thing: &Thing| chain(db, *thing).iter().any(|one| things.contains(one));
        let hits = means.iter().filter(|thing| is_meant(thing)).count();
        if hits > 0 {
            found.push(Reference { file, mention, is_sure: hits == means.len() });
        } else if unsure
            && means.is_empty()
            && (may_be_any(&mut reader, mention) || may_be_of(&reader, mention, things))
        {
            found.push(Reference { file, mention, is_sure: false });
        }
    }
    found
}

/// Whether a mention is an attribute of something of which nothing is known.
fn may_be_any(reader: &mut Reader<'_>, mention: Mention) -> bool {
    match mention.how {
        How::Attribute { .. } => {
            let Some(expr) = reader.expr_of(mention) else { return true };
            let leitmotiv_index::tree::Expr::Attribute { value, .. } = reader.index.exprs[expr] else { return true };
            let object = reader.type_of(value);
            let store = reader.db.store();
            crate::types::union::parts(store, &object)
                .iter()
                .any(|part| part.is_dynamic() && !matches!(part, Type::Never))
        }
        How::Keyword { .. } => true,
        _ => false,
    }
}

/// Whether a name is imported from a module that is not found, and is called like the one that has a thing of that name.
fn may_be_of(reader: &Reader<'_>, mention: Mention, things: &[Thing]) -> bool {
    let How::Imported { module, .. } = mention.how else { return false };
    let text = &reader.file.text(reader.db)[module];
    let last = text.rsplit('.').next().unwrap_or_default().trim();
    things.iter().any(|thing| Thing::Module(thing.file()).name(reader.db) == last)
}

/// Whether a text has a word, not as a part of a longer one.
#[must_use]
pub fn has_word(text: &str, word: &str) -> bool {
    let is_part = |char: char| char.is_alphanumeric() || char == '_';
    text.match_indices(word).any(|(at, _)| {
        let before = text[..at].chars().next_back();
        let behind = text[at + word.len()..].chars().next();
        !before.is_some_and(is_part) && !behind.is_some_and(is_part)
    })
}

/// The functions that call a function, with the places of the calls.
#[must_use]
pub fn callers(db: &dyn Db, file: File, function: leitmotiv_index::tree::FunctionId) -> Vec<Caller> {
    let mut found: Vec<Caller> = Vec::new();
    for (file, range) in super::calls::of(db, file, function) {
        let around = module_index(db, file).functions_around.of(range.start()).next();
        match found.iter_mut().find(|caller| caller.file == file && caller.function == around) {
            Some(caller) => caller.calls.push(range),
            None => found.push(Caller { file, function: around, calls: vec![range] }),
        }
    }
    found
}

/// A function, or a module, that calls something.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Caller {
    /// The file.
    pub file: File,
    /// The function; `None` for the module.
    pub function: Option<leitmotiv_index::tree::FunctionId>,
    /// Where the names of what is called stand, in bytes.
    pub calls: Vec<leitmotiv_syntax::TextRange>,
}
