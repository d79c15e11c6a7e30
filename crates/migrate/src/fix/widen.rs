//! A declared type that gets None is widened by None: an annotation does nothing when the program runs, and None arrives there either way. That
//! the code behind it copes is what the check of the whole project shows.

use std::collections::BTreeSet;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::findings::source::excerpt;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::own_name;
use leitmotiv_engine::types::{Type, union};
use leitmotiv_index::tree::{DefKind, ExprId, ScopeId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::edits::Edit;

use crate::annotate::{is_test, postpones};

/// An annotation that is widened.
pub(super) struct Widened {
    pub(super) file: File,
    pub(super) words: String,
    pub(super) edit: Edit,
    pub(super) imports: BTreeSet<(String, String)>,
}

/// The annotation that a finding's evidence says is too narrow, widened by None.
pub(super) fn fix(db: &Database, finding: &Finding) -> Option<Widened> {
    let declared = finding.evidence.iter().rev().find(|step| step.kind == "declared")?;
    let file = declared.file;
    // A test may pass None on purpose, or by mistake: that asks nothing of what it tests.
    let is_asked_by_test = is_test(finding.file.path(db)) && !is_test(file.path(db));
    if !file.origin(db).is_own() || is_asked_by_test || !gives_none(db, finding) {
        return None;
    }
    let annotation = annotation_at(db, file, declared.range)?;
    let range = module_index(db, file).spans[annotation];
    let text = file.text(db).get(usize::from(range.start())..usize::from(range.end()))?;
    // What says None already is too narrow in another way.
    if text.split(|char: char| char != '_' && !char.is_alphanumeric()).any(|word| matches!(word, "None" | "Optional")) {
        return None;
    }
    let quoted = ['"', '\''].into_iter().find_map(|quote| {
        let inner = text.strip_prefix(quote)?.strip_suffix(quote)?;
        (!inner.contains(['"', '\'', '\\', '\n'])).then_some((quote, inner))
    });
    if quoted.is_none() && text.starts_with(['"', '\'', 'r', 'f', 'b']) && text.ends_with(['"', '\'']) {
        return None;
    }
    let has_bars = db.project().python >= (3, 10) || postpones(db, file) || file.is_stub(db);
    let mut imports = BTreeSet::new();
    let new = match (quoted, has_bars) {
        (Some((quote, inner)), true) => format!("{quote}{inner} | None{quote}"),
        (None, true) => format!("{text} | None"),
        (_, false) => {
            let names = db.names();
            let optional = own_name(db, file, names.intern("Optional"));
            match optional.map_or_else(|| typing_as(db, file), |_| None) {
                Some(module) => format!("{module}.Optional[{text}]"),
                None => {
                    if optional.is_none() {
                        imports.insert(("typing".to_owned(), "Optional".to_owned()));
                    }
                    format!("Optional[{text}]")
                }
            }
        }
    };
    let words = format!("`{text}` becomes `{new}`");
    Some(Widened { file, words, edit: Edit::replace(range, new), imports })
}

/// What a module calls the typing module, if it imports that as a whole: `t` by `import typing as t`.
fn typing_as(db: &Database, file: File) -> Option<&str> {
    let index = module_index(db, file);
    let names = db.names();
    index.defs.iter().find_map(|(_, def)| match def.kind {
        DefKind::Import { module, .. } if def.scope == ScopeId(0) && names.text(module) == "typing" => {
            Some(names.text(def.name))
        }
        _ => None,
    })
}

/// Whether what stands at a finding is None, or may be.
fn gives_none(db: &Database, finding: &Finding) -> bool {
    let index = module_index(db, finding.file);
    let found = index.bodies.iter().find_map(|(body, record)| {
        let here = |number: &u32| index.spans[ExprId(*number)] == finding.range;
        record.exprs.clone().find(here).map(|number| (body, ExprId(number)))
    });
    let Some((body, expr)) = found else {
        // A `return` without a value.
        return excerpt(db, finding.file, finding.range).trim() == "return";
    };
    let ty = Infer::new(db, finding.file, body).expr(expr);
    union::parts(db.store(), &ty).contains(&Type::None)
}

/// The annotation of the parameter, result or variable that is declared at a place.
fn annotation_at(db: &Database, file: File, place: TextRange) -> Option<ExprId> {
    let index = module_index(db, file);
    let around = |annotation: ExprId| index.spans[annotation].contains_range(place);
    for function in index.functions_around.of(place.start()) {
        let record = &index.functions[function];
        let param = record.params.iter().find_map(|param| {
            let annotation = param.annotation?;
            param.name_range.cover(index.spans[annotation]).contains_range(place).then_some(annotation)
        });
        if let Some(found) = param.or(record.returns.filter(|returns| around(*returns))) {
            return Some(found);
        }
    }
    index.defs.iter().find_map(|(_, def)| match def.kind {
        DefKind::Annotated { annotation, .. } if around(annotation) || def.range.contains_range(place) => {
            Some(annotation)
        }
        _ => None,
    })
}
