//! Names of the typing module that an annotation names and nothing imports: imported, from where the target version has them. Reading the
//! annotation raises NameError without that, or nothing where annotations are not evaluated.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{own_name, standard_module};
use leitmotiv_index::tree::{DefKind, ModuleIndex};
use leitmotiv_syntax::{TextRange, TextSize};

/// What is done, where the name must be bound, and the import.
pub(super) fn fix(db: &Database, finding: &Finding) -> Option<(String, TextSize, (String, String))> {
    let index = module_index(db, finding.file);
    if !is_in_annotation(index, finding.range) {
        return None;
    }
    let text = finding.file.text(db).get(usize::from(finding.range.start())..usize::from(finding.range.end()))?;
    let module = ["collections.abc", "typing"].into_iter().find(|module| {
        let file = standard_module(db, db.names().intern(module));
        // `collections.abc` can be subscripted since 3.9 (PEP 585).
        (*module == "typing" || db.project().python >= (3, 9))
            && file.is_some_and(|file| own_name(db, file, db.names().intern(text)).is_some())
    })?;
    let is_public =
        text.starts_with(|first: char| first.is_ascii_uppercase()) && text.chars().all(char::is_alphanumeric);
    let words = format!("imports `{text}` from {module}");
    is_public.then(|| (words, finding.range.start(), (module.to_owned(), text.to_owned())))
}

/// Whether a place lies in an annotation.
fn is_in_annotation(index: &ModuleIndex, place: TextRange) -> bool {
    let of_functions = index.functions.iter().any(|(_, record)| {
        let params = record.params.iter().filter_map(|param| param.annotation);
        params.chain(record.returns).any(|annotation| index.spans[annotation].contains_range(place))
    });
    of_functions
        || index.defs.iter().any(|(_, def)| match def.kind {
            DefKind::Annotated { annotation, .. } => index.spans[annotation].contains_range(place),
            _ => false,
        })
}
