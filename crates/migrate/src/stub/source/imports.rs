//! The imports of a stub that is written from source: each name by the import that the source has it by.

use std::fmt::Write as _;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::resolve::{Imported, import_target, own_name};
use leitmotiv_index::tree::{DefKind, ScopeId};
use leitmotiv_syntax::names::Name;

use super::Writer;

impl Writer<'_> {
    /// The import that a name of the source came by.
    pub(super) fn name_import(&mut self, name: &str) {
        if let Some(name) = self.db.names().find(name) {
            self.import_of(name);
        }
    }

    fn import_of(&mut self, name: Name) {
        let scope = &self.index.scopes[ScopeId(0)];
        let names = self.db.names();
        let Some(symbol) = scope.symbols.get(&name) else {
            for star in &scope.stars {
                let DefKind::Star { module, level } = self.index.defs[*star].kind else { continue };
                if let Some(Imported::File(target)) = import_target(self.db, self.file, module, level)
                    && own_name(self.db, target, name).is_some()
                {
                    let module = format!("{}{}", ".".repeat(level as usize), names.text(module));
                    self.imports.insert((module, names.text(name).to_owned()));
                    return;
                }
            }
            return;
        };
        for def in &symbol.defs {
            match &self.index.defs[*def].kind {
                DefKind::ImportFrom { module, level, name: imported, .. } => {
                    let module = format!("{}{}", ".".repeat(*level as usize), names.text(*module));
                    let own = names.text(name);
                    let imported = names.text(*imported);
                    let clause = if own == imported { own.to_owned() } else { format!("{imported} as {own}") };
                    self.imports.insert((module, clause));
                    return;
                }
                DefKind::Import { module, alias } => {
                    let module = names.text(*module);
                    let clause = if *alias { format!("{module} as {}", names.text(name)) } else { module.to_owned() };
                    self.imports.insert((String::new(), clause));
                    return;
                }
                _ => {}
            }
        }
    }

    /// The whole stub: what it needs from elsewhere, then what it says.
    pub(super) fn finish(self) -> String {
        let module = self.db.names().text(self.file.module(self.db));
        let mut out = format!("# Stub of `{module}`, written by Leitmotiv from its source. Yours to edit.\n");
        let mut by_module: Vec<(String, Vec<String>)> = Vec::new();
        for (module, name) in self.imports {
            // What is given on is imported already.
            if self.body.contains(&format!("from {module} import {name} as {name}\n")) {
                continue;
            }
            match by_module.iter_mut().find(|(known, _)| *known == module) {
                Some((_, names)) => names.push(name),
                None => by_module.push((module, vec![name])),
            }
        }
        for (module, names) in &by_module {
            if module.is_empty() {
                names.iter().for_each(|name| {
                    let _ = writeln!(out, "import {name}");
                });
            } else {
                let _ = writeln!(out, "from {module} import {}", names.join(", "));
            }
        }
        if !self.body.is_empty() {
            out.push('\n');
            out.push_str(self.body.trim_start_matches('\n'));
        }
        out
    }
}
