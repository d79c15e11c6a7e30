//! Proposals as changes to files.
//!
//! Every text that is to be written is parsed, and must be the same program as the old one but for annotations and added imports ([`unproved`]).
//! Where it is not, the proposals that need imports are left out, and if that does not help, all of the file's.

use std::collections::BTreeMap;
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_syntax::edits::{Edit, apply};
use leitmotiv_syntax::same::same_but_for_annotations;
use leitmotiv_syntax::{TextRange, TextSize};
use rayon::prelude::*;

use super::{Made, Part, Proposal, Variables, imports};
use crate::change::Change;

/// Proposals for one file and what the file becomes by them.
#[derive(Debug, Clone)]
pub struct Edited {
    /// The file.
    pub file: File,
    /// The proposals that are in it.
    pub proposals: Vec<Arc<Proposal>>,
    /// The change.
    pub change: Change,
}

/// The changes that proposals make, in the order of the files' paths. A proposal whose imports have no place is in none.
#[must_use]
pub fn edited(db: &Database, proposals: Vec<Arc<Proposal>>) -> Vec<Edited> {
    let mut files: BTreeMap<&str, (File, Vec<Arc<Proposal>>)> = BTreeMap::new();
    for proposal in proposals {
        let file = proposal.file;
        files.entry(file.path(db)).or_insert_with(|| (file, Vec::new())).1.push(proposal);
    }
    let files: Vec<(File, Vec<Arc<Proposal>>)> = files.into_values().collect();
    let each: Vec<Option<Edited>> =
        files.into_par_iter().map_with(db.clone(), |db, (file, own)| in_file(db, file, own)).collect();
    each.into_iter().flatten().collect()
}

fn in_file(db: &Database, file: File, proposals: Vec<Arc<Proposal>>) -> Option<Edited> {
    let text = file.text(db);
    let path = file.disk(db)?.to_owned();
    let rewritten = |own: &[Arc<Proposal>]| if own.is_empty() { None } else { rewritten(db, file, own) };
    let proposals = complete(proposals);
    let (own, after) = match rewritten(&proposals) {
        Some(after) => (proposals, after),
        None => {
            let plain = complete(without_imports(proposals));
            let after = rewritten(&plain)?;
            (plain, after)
        }
    };
    let change = Change { path, shown: file.path(db).to_owned(), before: Some(text.to_string()), after };
    Some(Edited { file, proposals: own, change })
}

/// Those that do not need others that are not among them.
fn complete(mut proposals: Vec<Arc<Proposal>>) -> Vec<Arc<Proposal>> {
    let mut counts: BTreeMap<String, usize> = BTreeMap::new();
    for variables in proposals.iter().filter_map(|proposal| proposal.variables.as_ref()) {
        *counts.entry(variables.of.clone()).or_default() += 1;
    }
    let is_whole = |variables: &Arc<Variables>| counts.get(&variables.of) == Some(&variables.count);
    proposals.retain(|proposal| proposal.variables.as_ref().is_none_or(is_whole));
    proposals
}

/// Those that need no imports.
fn without_imports(mut proposals: Vec<Arc<Proposal>>) -> Vec<Arc<Proposal>> {
    proposals.retain(|proposal| proposal.spelled.imports.is_empty());
    proposals
}

/// Whether each changed file is the same program as before but for annotations. Where it is not, those of its proposals that may stay: the ones
/// without imports, and if there are none but those, none at all.
#[must_use]
pub fn unproved(edited: &[Edited]) -> Vec<(File, Vec<Arc<Proposal>>)> {
    let each = edited.par_iter().filter_map(|edited| {
        let Change { before, after, .. } = &edited.change;
        if before.as_deref().is_some_and(|before| same_but_for_annotations(before, after)) {
            return None;
        }
        let plain = without_imports(edited.proposals.clone());
        Some((edited.file, if plain.len() < edited.proposals.len() { plain } else { Vec::new() }))
    });
    each.collect()
}

/// The changes that proposals make, without those of files that would not be the same program any more ([`unproved`]).
#[must_use]
pub fn proved(db: &Database, proposals: Vec<Arc<Proposal>>) -> Vec<Edited> {
    let mut changed = edited(db, proposals);
    let unproved: Vec<File> = unproved(&changed).into_iter().map(|(file, _)| file).collect();
    changed.retain(|edited| !unproved.contains(&edited.file));
    changed
}

/// A file's text with proposals written into it; `None` where there is no place for the imports that they need.
fn rewritten(db: &Database, file: File, own: &[Arc<Proposal>]) -> Option<String> {
    let text = file.text(db);
    let mut edits: Vec<Edit> = own.iter().map(|proposal| edit(text, proposal)).collect();
    let with_parameters = own.iter().filter_map(|proposal| match &proposal.variables.as_ref()?.made {
        Made::ByParameters(at, text) => Some((*at, text)),
        Made::ByStatements(_) => None,
    });
    let with_parameters: BTreeMap<TextSize, &String> = with_parameters.collect();
    edits.extend(with_parameters.into_iter().map(|(at, text)| Edit::insert(at, text.clone())));
    let needed = own.iter().map(|proposal| imports::Needed {
        imports: &proposal.spelled.imports,
        guarded: &proposal.spelled.guarded,
        before: proposal.before,
        statements: match proposal.variables.as_ref().map(|variables| &variables.made) {
            Some(Made::ByStatements(statements)) => statements,
            _ => &[],
        },
    });
    edits.extend(imports::edits(text, module_index(db, file), needed, &|name| db.is_standard_name(name))?);
    apply(text, &edits).ok()
}

fn edit(text: &str, proposal: &Proposal) -> Edit {
    let Some(default) = proposal.default else {
        let mark = if proposal.part == Part::Return { " ->" } else { ":" };
        return Edit::insert(proposal.at, format!("{mark} {}", proposal.spelled.text));
    };
    // `a=1` becomes `a: int = 1` (PEP 8); what stands on other lines or has comments between stays as it is.
    let between = &text[usize::from(proposal.at)..usize::from(default)];
    let is_plain = between.trim_matches([' ', '\t']) == "=";
    if is_plain {
        return Edit::replace(TextRange::new(proposal.at, default), format!(": {} = ", proposal.spelled.text));
    }
    // `a=(1)`: the parenthesis is no part of the default's own text.
    if let Some(behind) = between.trim_start_matches([' ', '\t']).strip_prefix('=')
        && behind.trim_matches([' ', '\t', '(']).is_empty()
    {
        let rest = behind.trim_start_matches([' ', '\t']);
        let end = default - TextSize::try_from(rest.len()).unwrap_or_default();
        return Edit::replace(TextRange::new(proposal.at, end), format!(": {} = ", proposal.spelled.text));
    }
    Edit::insert(proposal.at, format!(": {}", proposal.spelled.text))
}
