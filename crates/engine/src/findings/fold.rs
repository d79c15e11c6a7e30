//! Imports that fail for one missing package, told once.

use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;
use rustc_hash::FxHashMap;

use crate::base::db::Db;
use crate::base::file::File;
use crate::findings::fingerprint::fingerprint;

use super::finding::Finding;

/// What is missing of a module that cannot be found: its name up to the first part that is not there.
pub(crate) fn missing_part(db: &dyn Db, file: File, module: Name) -> Name {
    let text = db.names().text(module);
    let ends = text.match_indices('.').map(|(end, _)| end).chain([text.len()]);
    let mut parts = ends.map(|end| db.names().intern(&text[..end]));
    parts.find(|part| crate::resolve::module_value(db, *part, Some(file)).is_none()).unwrap_or(module)
}

/// One thing that is missing is told once in a file: where it is first imported, with the number of the other imports.
pub(crate) fn fold_imports(findings: &mut Vec<Finding>, missing: &FxHashMap<TextRange, (Name, String)>) {
    let mut others: FxHashMap<Name, usize> = FxHashMap::default();
    let part_of = |finding: &Finding| missing.get(&finding.range).filter(|_| finding.rule == "import.unresolved");
    findings.retain(|finding| {
        let Some((part, _)) = part_of(finding) else { return true };
        let count = others.entry(*part).or_default();
        *count += 1;
        *count == 1
    });
    for finding in findings {
        let Some((part, name)) = part_of(finding) else { continue };
        finding.weight = others[part];
        finding.fingerprint = fingerprint(name);
        finding.package = Some(name.clone());
        match others[part] - 1 {
            0 => {}
            1 => finding.message.push_str(&format!("; another import below needs `{name}` as well")),
            more => finding.message.push_str(&format!("; {more} more imports below need `{name}` as well")),
        }
    }
}
