//! Methods that stand in for others are marked so (PEP 698): where the target version has the mark, or the file has it already from
//! elsewhere. The mark does nothing when the program runs.

use std::collections::BTreeSet;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_index::tree::{DefKind, Function, ModuleIndex, ScopeId};
use leitmotiv_syntax::edits::{Edit, line_end};
use leitmotiv_syntax::names::known;

use super::{Import, Way, Ways};

impl Ways<'_> {
    pub(super) fn mark(&mut self, finding: &Finding, way: &mut Way) -> Option<()> {
        let db = self.db;
        let index = module_index(db, finding.file);
        let (_, named) = index.functions.iter().find(|(_, record)| record.name_range == finding.range)?;
        let method = marked(index, named);
        let text = finding.file.text(db);
        let name = known::OVERRIDE_MARK;
        let is_hidden = method.class.is_some_and(|class| {
            let scope = index.classes[class].scope;
            index.scopes[scope].symbols.contains_key(&name)
        });
        let bound = index.scopes[ScopeId(0)].symbols.get(&name);
        let is_mark = |kind: &DefKind| match kind {
            DefKind::ImportFrom { module, level: 0, name: imported, .. } => {
                *imported == name && matches!(db.names().text(*module), "typing" | "typing_extensions")
            }
            _ => false,
        };
        let has_mark = match bound {
            Some(symbol) => symbol.defs.iter().all(|def| is_mark(&index.defs[*def].kind)).then_some(true)?,
            None => false,
        };
        let has_extensions = || {
            index.scopes[ScopeId(0)].symbols.values().flat_map(|symbol| &symbol.defs).any(|def| {
                matches!(index.defs[*def].kind, DefKind::ImportFrom { module, level: 0, .. }
                    if db.names().text(module) == "typing_extensions")
            })
        };
        let module = match () {
            () if has_mark => None,
            () if db.project().python >= (3, 12) => Some("typing"),
            () if has_extensions() => Some("typing_extensions"),
            () => return None,
        };
        (!is_hidden).then_some(())?;
        let start = usize::from(method.def_start);
        let line = text[..start].rfind(['\n', '\r']).map_or(0, |at| at + 1);
        let indent = &text[line..start];
        indent.chars().all(|char| matches!(char, ' ' | '\t')).then_some(())?;
        way.edits =
            vec![(finding.file, Edit::insert(method.def_start, format!("@override{}{indent}", line_end(text))))];
        way.price = if module.is_some() { "a line, and an import" } else { "a line" }.to_owned();
        way.safe = true;
        way.import = module.map(|module| Import {
            file: finding.file,
            before: index.classes.iter().map(|(_, class)| class.range.start()).min().unwrap_or(method.range.start()),
            names: BTreeSet::from([(module.to_owned(), "override".to_owned())]),
            guarded: BTreeSet::new(),
        });
        Some(())
    }
}

/// The definition that bears the mark: of an overloaded method its implementation, which is the last.
fn marked<'a>(index: &'a ModuleIndex, named: &'a Function) -> &'a Function {
    let is_overload =
        |record: &Function| record.decorators.iter().any(|mark| index.decorator_name(*mark) == Some(known::OVERLOAD));
    if !is_overload(named) {
        return named;
    }
    let same = index.functions.iter().map(|(_, record)| record);
    let same = same.filter(|record| record.class == named.class && record.name == named.name);
    same.filter(|record| !is_overload(record)).max_by_key(|record| record.range.start()).unwrap_or(named)
}
