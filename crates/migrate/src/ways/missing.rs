//! Names of the typing module that an annotation names and nothing imports: imported, from where the target version has them. Reading the
//! annotation raises NameError without that, or nothing where annotations are not evaluated.

use std::collections::BTreeSet;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{own_name, standard_module};
use leitmotiv_index::tree::{DefKind, ModuleIndex};
use leitmotiv_syntax::TextRange;

use super::{Import, Way, Ways};

impl Ways<'_> {
    pub(super) fn missing(&mut self, finding: &Finding, way: &mut Way) -> Option<()> {
        let db = self.db;
        if !is_in_annotation(module_index(db, finding.file), finding.range) {
            return None;
        }
        let code = self.code(finding.file);
        let text = code.slice(finding.range);
        let module = ["collections.abc", "typing"].into_iter().find(|module| {
            let file = standard_module(db, db.names().intern(module));
            // `collections.abc` can be subscripted since 3.9 (PEP 585).
            (*module == "typing" || db.project().python >= (3, 9))
                && file.is_some_and(|file| own_name(db, file, db.names().intern(text)).is_some())
        })?;
        let is_public =
            text.starts_with(|first: char| first.is_ascii_uppercase()) && text.chars().all(char::is_alphanumeric);
        is_public.then_some(())?;
        way.title = format!("import `{text}` from {module}");
        "one import more".clone_into(&mut way.price);
        way.safe = true;
        way.import = Some(Import {
            file: finding.file,
            before: finding.range.start(),
            names: BTreeSet::from([(module.to_owned(), text.to_owned())]),
            guarded: BTreeSet::new(),
        });
        Some(())
    }
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
