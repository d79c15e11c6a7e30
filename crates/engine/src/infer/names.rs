//! Names that the body itself does not bind.

use leitmotiv_index::tree::{DefId, ReachId, ScopeId, ScopeKind};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use crate::base::db::Db;
use crate::base::file::File;
use crate::context::TypeContext;
use crate::outline::module_name;
use crate::outline::names::module_names;
use crate::resolve::{own_name, scope_type, standard_module, starred};
use crate::types::Type;

impl TypeContext<'_> {
    fn builtin_name(&self, name: Name) -> Option<Type> {
        let builtins = standard_module(self.db, known::BUILTINS)?;
        if builtins == self.file || self.db.names().text(name).starts_with('_') && !self.is_public_dunder(name) {
            return None;
        }
        is_own(self.db, builtins, name).then(|| own_name(self.db, builtins, name)).flatten()
    }

    /// Whether a name is one of the builtins.
    pub(crate) fn names_builtin(&self, name: Name) -> bool {
        self.builtin_name(name).is_some() || self.implicit(name).is_some()
    }

    fn is_public_dunder(&self, name: Name) -> bool {
        matches!(self.db.names().text(name), "__import__" | "__debug__" | "__build_class__")
    }

    /// Whether every module has a name: `__doc__`, `__spec__`.
    pub(crate) fn is_of_modules(&self, name: Name) -> bool {
        self.db.names().text(name).starts_with("__") && self.implicit(name).is_some()
    }

    /// Names that every module has (language reference, "Module objects").
    fn implicit(&self, name: Name) -> Option<Type> {
        let text = self.db.names().text(name);
        Some(match text {
            "__name__" | "__file__" | "__qualname__" | "__module__" => self.builtin(known::STR),
            // `None` only in a file that is run as a script.
            "__package__" if self.file.is_package(self.db) || self.text(self.file.module(self.db)).contains('.') => {
                self.builtin(known::STR)
            }
            "__doc__" | "__package__" | "__cached__" => self.join([self.builtin(known::STR), Type::None]),
            "__path__" => self.container(known::LIST, &[self.builtin(known::STR)]),
            "__dict__" | "__annotations__" => self.container(known::DICT, &[self.builtin(known::STR), Type::Any]),
            "__builtins__" | "__loader__" | "__spec__" | "__class__" | "__conditional_annotations__" => Type::Any,
            // Typing constructs that stubs of builtins mention before they are imported.
            "reveal_type" | "reveal_locals" => {
                let typing = standard_module(self.db, known::TYPING)?;
                return own_name(self.db, typing, known::REVEAL_TYPE);
            }
            "WindowsError" => return self.builtin_name(self.db.names().intern("OSError")),
            _ => return None,
        })
    }
}

impl Infer<'_> {
    /// A name of the module or the builtins.
    pub fn global(&self, name: Name) -> Option<Type> {
        if let Some(known) = self.asked.globals.borrow().get(&name) {
            return *known;
        }
        let ty = self.find_global(name);
        self.asked.globals.borrow_mut().insert(name, ty);
        ty
    }

    fn find_global(&self, name: Name) -> Option<Type> {
        if self.is_bound_for_others_only(ScopeId(0), name)
            && let Some(builtin) = self.builtin_name(name)
        {
            return Some(builtin);
        }
        self.module_name(name).or_else(|| self.implicit(name)).or_else(|| self.builtin_name(name))
    }

    /// A name of the body's own module, as [`own_name`] gives it.
    fn module_name(&self, name: Name) -> Option<Type> {
        let scope = &self.index.scopes[ScopeId(0)];
        if scope.symbols.contains_key(&name) {
            return Some(scope_type(self.db, self.file, ScopeId(0), name));
        }
        if scope.stars.is_empty() { None } else { starred(self.db, self.file, name) }
    }

    /// Whether all that binds a name in a scope is for other versions or platforms: then the name outside is meant.
    pub(crate) fn is_bound_for_others_only(&self, scope: ScopeId, name: Name) -> bool {
        let Some(symbol) = self.index.scopes[scope].symbols.get(&name) else { return false };
        let is_excluded = |def: &DefId| self.index.defs[*def].reach == ReachId::EXCLUDED;
        symbol.foreign.is_empty() && !symbol.defs.is_empty() && symbol.defs.iter().all(is_excluded)
    }

    /// A name in an annotation that is resolved when everything is defined: from the scope outwards.
    pub(crate) fn deferred(&self, scope: ScopeId, name: Name) -> Option<Type> {
        let mut next = Some(scope);
        let mut first = true;
        while let Some(current) = next {
            let record = &self.index.scopes[current];
            let visible = first || !matches!(record.kind, ScopeKind::Class(_));
            // Type parameters belong to the class or function below them, and annotations of a method see those of its class.
            if visible && record.symbols.contains_key(&name) {
                if current == ScopeId(0) {
                    break;
                }
                return Some(scope_type(self.db, self.file, current, name));
            }
            first = false;
            next = record.parent;
        }
        self.global(name)
    }
}

impl<'db> Infer<'db> {
    /// Names visible from a scope, for near misses.
    pub(crate) fn visible_names(&self, scope: ScopeId) -> Vec<&'db str> {
        let mut all: Vec<&'db str> = Vec::new();
        let mut next = Some(scope);
        while let Some(current) = next {
            let record = &self.index.scopes[current];
            all.extend(record.symbols.keys().map(|name| self.db.names().text(*name)));
            next = record.parent;
        }
        if let Some(builtins) = standard_module(self.db, known::BUILTINS) {
            let names = module_names(self.db, builtins).iter().filter(|name| is_own(self.db, builtins, **name));
            all.extend(names.map(|name| self.db.names().text(*name)));
        }
        all
    }
}

/// Whether a stub's module-level name is its own: what a stub imports it does not give on (typing specification, "Stub
/// files: imports").
fn is_own(db: &dyn Db, stub: File, name: Name) -> bool {
    let outline = module_name(db, stub, name);
    outline.is_bound && !outline.is_imported
}
