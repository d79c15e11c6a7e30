//! Imports: that they lead somewhere, to a module with types, and to the one that is meant.

use leitmotiv_index::tree::{DefId, DefKind};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;

use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::resolve::{Imported, absolute_name, import_target, member, module_value};
use crate::types::Type;

impl Infer<'_> {
    pub(crate) fn check_import(&mut self, def: DefId) {
        let db = self.db;
        let record = &self.index.defs[def];
        let range = record.range;
        // `try: import a` with a handler that goes on without it: being absent is expected.
        let guarded = self.is_guarded_import(def);
        if let DefKind::Import { module, .. }
        | DefKind::ImportFrom { module, level: 0, .. }
        | DefKind::Star { module, level: 0 } = record.kind
        {
            self.note_shadowing(module, range);
        }
        match record.kind {
            DefKind::Import { module, .. } => match module_value(db, module, Some(self.file)) {
                Some(Type::Module(file)) => self.note_untyped(file.origin(db), module, range),
                Some(_) => {}
                None if !guarded => self.unresolved_import(module, range),
                None => {}
            },
            DefKind::ImportFrom { module, level, name, .. } => match import_target(db, self.file, module, level) {
                Some(Imported::File(file)) => {
                    if file == self.file {
                        if !guarded {
                            self.check_own_name(file, def, name);
                        }
                        return;
                    }
                    let full = absolute_name(db, self.file, module, level).unwrap_or(module);
                    self.note_untyped(file.origin(db), full, range);
                    // What every module has it has as well (language reference, "Module objects").
                    let is_there = member(db, file, name).is_some() || self.is_of_modules(name);
                    let is_there = is_there && !crate::resolve::is_for_other_versions(db, file, name);
                    if !guarded && !is_there {
                        // Our stubs leave private names out.
                        if file.origin(db) == leitmotiv_project::resolve::Origin::Bundled
                            && self.text(name).starts_with('_')
                        {
                            return;
                        }
                        let near = self.near_member(Type::Module(file), name);
                        // Modules that nobody wrote types for may make their names as they run.
                        if file.origin(db).is_untyped_source() && near.is_none() {
                            return;
                        }
                        self.problem_at(
                            range,
                            None,
                            ProblemKind::ImportName { module: full, file: Some(file), name, near },
                        );
                    }
                }
                Some(Imported::Namespace(package)) => {
                    let full = format!("{}.{}", db.names().text(package), db.names().text(name));
                    if !guarded && module_value(db, db.names().intern(&full), Some(self.file)).is_none() {
                        let kind = ProblemKind::ImportName { module: package, file: None, name, near: None };
                        self.problem_at(range, None, kind);
                    }
                }
                None if !guarded => {
                    let full = absolute_name(db, self.file, module, level).unwrap_or(module);
                    self.unresolved_import(full, range);
                }
                None => {}
            },
            DefKind::Star { module, level } => match import_target(db, self.file, module, level) {
                Some(Imported::File(file)) => {
                    let full = absolute_name(db, self.file, module, level).unwrap_or(module);
                    self.note_untyped(file.origin(db), full, range);
                }
                Some(Imported::Namespace(_)) => {}
                None if !guarded => {
                    let full = absolute_name(db, self.file, module, level).unwrap_or(module);
                    self.unresolved_import(full, range);
                }
                None => {}
            },
            _ => {}
        }
    }

    /// A module of the project that has the name of a standard one is found before it.
    fn note_shadowing(&mut self, module: Name, range: TextRange) {
        let db = self.db;
        let text = db.names().text(module);
        let head = text.split('.').next().unwrap_or(text);
        if !db.is_standard_name(head) || self.is_told_of_import(range) {
            return;
        }
        let head = db.names().intern(head);
        if let Some(file) = crate::resolve::module_file(db, head, Some(self.file))
            && file.origin(db) == Origin::Project
        {
            self.problem_at(range, None, ProblemKind::ImportShadowed { module: head, file });
        }
    }

    fn note_untyped(&mut self, origin: Origin, module: Name, range: TextRange) {
        if origin == Origin::Untyped && !self.is_told_of_import(range) {
            self.problem_at(range, None, ProblemKind::ImportUntyped { module });
        }
    }

    /// Whether the last thing told is of the same import statement: then it has been told.
    fn is_told_of_import(&self, range: TextRange) -> bool {
        let Some(last) = self.problems.last() else { return false };
        let is_import = matches!(
            last.kind,
            ProblemKind::ImportUnresolved { .. }
                | ProblemKind::ImportUntyped { .. }
                | ProblemKind::ImportShadowed { .. }
        );
        let text = self.file.text(self.db);
        is_import
            && last.range.end() <= range.start()
            && text[TextRange::new(last.range.end(), range.start())]
                .split(|char: char| !char.is_alphanumeric() && char != '_')
                .all(|word| !matches!(word, "import" | "from"))
    }

    fn unresolved_import(&mut self, module: Name, range: TextRange) {
        if !self.checking || self.is_told_of_import(range) {
            return;
        }
        let text = self.db.names().text(module);
        let head = text.split('.').next().unwrap_or(text);
        let all = crate::resolve::module_names(self.db);
        let near = crate::infer::attributes::nearest(head, all.iter().map(String::as_str));
        let near = near.map(|near| format!("{near}{}", &text[head.len()..]));
        // What is imported for type checking alone is not missed when the program runs: its types are.
        let is_own = self.index.checking_only.is_empty()
            || crate::resolve::module_file(self.db, self.db.names().intern(head), Some(self.file)).is_some();
        if near.is_none() && !is_own && self.index.checking_only.iter().any(|body| body.contains_range(range)) {
            self.problem_at(range, None, ProblemKind::ImportUntyped { module });
            return;
        }
        self.problem_at(range, None, ProblemKind::ImportUnresolved { module, near });
    }

    /// Whether an import stands in a `try` whose handlers expect it to fail, or in such a handler: one of the two is for another
    /// version or another set of installed packages.
    fn is_guarded_import(&self, def: DefId) -> bool {
        let record = &self.index.defs[def];
        let mut ranges = self.index.guarded.iter().chain(&self.index.fallbacks);
        ranges.any(|range| range.contains_range(record.range))
    }

    /// `from . import berths` in a package itself: there must be such a submodule, or something else that binds the name.
    fn check_own_name(&mut self, file: crate::base::file::File, def: DefId, name: Name) {
        let (range, scope) = (self.index.defs[def].range, self.index.defs[def].scope);
        let index = self.index;
        let symbols = &index.scopes[leitmotiv_index::tree::ScopeId(0)].symbols;
        let is_made = index.makes_names
            || index.made_names.contains(&name)
            || crate::outline::names::has_hook(index)
            || file.is_stub(self.db);
        let others = symbols.get(&name).map_or(0, |symbol| symbol.defs.len() + symbol.foreign.len());
        // The import itself binds it as well, in the module.
        let own = usize::from(scope == leitmotiv_index::tree::ScopeId(0));
        if !is_made && others <= own && crate::resolve::submodule(self.db, file, name).is_none() {
            let module = file.module(self.db);
            let near = self.near_member(Type::Module(file), name);
            self.problem_at(range, None, ProblemKind::ImportName { module, file: Some(file), name, near });
        }
    }
}
