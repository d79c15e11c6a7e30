//! The use of what is marked as deprecated (PEP 702).

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyId, DefKind, Expr, ExprId, ScopeId};
use leitmotiv_syntax::names::Name;

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::functions::Decorator;
use crate::outline::{Site, module_index, reading};
use crate::problems::ProblemKind;
use crate::types::Type;

impl Infer<'_> {
    /// Reports the use of what is deprecated (PEP 702).
    pub(crate) fn check_deprecated(&mut self, at: ExprId, ty: Type) {
        let may_be = matches!(ty, Type::Function(_) | Type::Method(_) | Type::Class(_));
        if !may_be || !self.checking || self.asked.undecorated.contains(&ty) || self.is_another_name(at, ty) {
            return;
        }
        let range = self.index.spans[at];
        self.note_deprecated(range, Some(at), ty);
    }

    /// Reports that a module imports what is deprecated.
    pub(crate) fn check_deprecated_import(&mut self, def: leitmotiv_index::tree::DefId) {
        if !self.checking || !matches!(self.index.defs[def].kind, DefKind::ImportFrom { .. }) {
            return;
        }
        let ty = self.definition(def);
        self.note_deprecated(self.index.defs[def].range, None, ty);
    }

    /// Reports an operator whose method is deprecated.
    pub(crate) fn check_deprecated_operator(&mut self, at: ExprId, object: Type, method: Name) {
        if !self.checking || !matches!(object, Type::Instance(_)) {
            return;
        }
        if let Some(method @ Type::Method(_)) = self.member(object, method)
            && !self.asked.undecorated.contains(&method)
        {
            let range = self.index.spans[at];
            self.note_deprecated(range, Some(at), method);
        }
    }

    /// Reports that a property is read whose getter is deprecated.
    pub(crate) fn check_deprecated_property(&mut self, at: ExprId, object: Type, name: Name) {
        let Type::Instance(id) = object else { return };
        if !self.checking || !self.asked.read.insert((object, name)) {
            return;
        }
        let Some(found) = crate::definitions::classes::members::find(self.db, id, name, None) else { return };
        if let Type::Property(getter) = found.member.ty {
            let before = self.problems.len();
            let range = self.index.spans[at];
            self.note_deprecated(range, Some(at), Type::Function(getter));
            // It is told wherever it is read.
            if self.problems.len() > before {
                self.asked.read.remove(&(object, name));
            }
        }
    }

    /// Whether an expression names something by another name than it was defined or imported by: the use of what is deprecated was where it
    /// got that name.
    fn is_another_name(&self, at: ExprId, ty: Type) -> bool {
        let Expr::Name(name, value) = self.index.exprs[at] else { return false };
        let defined = match ty {
            Type::Function(id) => {
                let function = self.db.store().function(id);
                crate::outline::function(self.db, function.file, function.function).name
            }
            Type::Class(id) => crate::outline::class_name(self.db, self.db.store().instance(id).class),
            _ => return false,
        };
        let is_assigned = |def: &leitmotiv_index::tree::DefId| {
            matches!(self.index.defs[*def].kind, DefKind::Assign { .. } | DefKind::Annotated { .. })
        };
        match self.index.values[self.index.unnarrowed(value)] {
            leitmotiv_index::tree::Value::Def(def) => name != defined && is_assigned(&def),
            _ => {
                let symbol = self.index.scopes[ScopeId(0)].symbols.get(&name);
                name != defined && symbol.is_some_and(|symbol| symbol.defs.iter().all(is_assigned))
            }
        }
    }

    fn note_deprecated(&mut self, range: leitmotiv_syntax::TextRange, at: Option<ExprId>, ty: Type) {
        if self.asked.undecorated.contains(&ty) {
            return;
        }
        let store = self.db.store();
        let (site, decorators) = match ty {
            Type::Function(id) => {
                let function = store.function(id);
                let outline = crate::outline::function(self.db, function.file, function.function);
                if outline.signatures.len() > 1 {
                    return;
                }
                (Site::of_function(function.file, function.function), &outline.decorators)
            }
            Type::Method(id) => {
                let function = store.method(id).function;
                self.note_deprecated(range, at, function);
                if self.asked.undecorated.contains(&function) {
                    self.asked.undecorated.insert(ty);
                }
                return;
            }
            Type::Class(id) => {
                let class = store.instance(id).class;
                let site = Site { file: class.file, at: Anchor::Class(class.class) };
                (site, &crate::outline::class(self.db, class).decorators)
            }
            _ => return,
        };
        if decorators.is_empty() {
            self.asked.undecorated.insert(ty);
        } else if let Some(message) = self.deprecation(site, decorators) {
            self.problem_at(range, at, ProblemKind::Deprecated { what: ty, message });
        }
    }

    /// Reports a call that uses a signature which is deprecated.
    pub(crate) fn check_deprecated_signature(&mut self, call: ExprId, chosen: crate::types::FunctionRef) {
        if !self.checking {
            return;
        }
        let outline = crate::outline::function(self.db, chosen.file, chosen.function);
        let site = Site::of_function(chosen.file, chosen.function);
        if let Some(message) = self.deprecation(site, &outline.decorators) {
            let what = Type::Function(self.db.store().intern_function(chosen));
            self.problem(call, ProblemKind::Deprecated { what, message });
        }
    }

    fn deprecation(&self, site: Site, decorators: &[Decorator]) -> Option<String> {
        let is_named = |decorator: &Decorator| decorator.called.is_some_and(|name| self.text(name) == "deprecated");
        if !decorators.iter().any(is_named) {
            return None;
        }
        deprecation(self.db, site.file, site.at).map(str::to_owned)
    }
}

/// What `@deprecated("…")` over a function or class says.
pub(crate) fn deprecation(db: &dyn Db, file: File, at: Anchor) -> Option<&str> {
    saw(db, file, Ask::Deprecation(at));
    deprecation_query(db, file, at)
}

#[salsa::tracked(returns(as_deref))]
fn deprecation_query(db: &dyn Db, file: File, at: Anchor) -> Option<Box<str>> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    index.decorators_at(at).iter().find_map(|decorator| {
        let Expr::Call { callee, args } = &index.exprs[*decorator] else { return None };
        let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = index.exprs[*callee] else { return None };
        if db.names().text(name) != "deprecated" || !is_standard_mark(db, file, *callee, name) {
            return None;
        }
        match index.exprs[args.first()?.value] {
            Expr::Str(Some(text)) => Some(db.names().text(text).into()),
            _ => None,
        }
    })
}

/// Whether a decorator is the one of `warnings` or its backport: libraries have others of this name.
fn is_standard_mark(db: &dyn Db, file: File, callee: ExprId, name: Name) -> bool {
    let is_standard =
        |module: Name| matches!(db.names().text(module), "warnings" | "_py_warnings" | "typing_extensions");
    match Infer::new(db, file, BodyId(0)).expr(callee) {
        Type::Class(id) => is_standard(db.store().instance(id).class.file.module(db)),
        // Interpreters before 3.13 do not have it; what is written for later ones imports it from there.
        ty if ty.is_dynamic() => {
            let symbol = module_index(db, file).scopes[ScopeId(0)].symbols.get(&name);
            symbol.is_some_and(|symbol| {
                symbol.defs.iter().any(|def| match module_index(db, file).defs[*def].kind {
                    DefKind::ImportFrom { module, .. } => is_standard(module),
                    _ => false,
                })
            })
        }
        _ => false,
    }
}
