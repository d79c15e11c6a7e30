//! The use of what is marked as deprecated (PEP 702).

use leitmotiv_index::tree::{DefKind, ExprId};

use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::types::Type;

impl Infer<'_> {
    /// Reports the use of what is deprecated (PEP 702).
    pub(crate) fn check_deprecated(&mut self, at: ExprId, ty: Type) {
        if !self.checking {
            return;
        }
        let store = self.db.store();
        let (file, decorators, overloaded) = match ty {
            Type::Function(id) => {
                let function = store.function(id);
                let index = crate::resolve::module_index(self.db, function.file);
                let overloads = crate::definitions::written::overloads(self.db, function.file, function.function);
                (function.file, &index.functions[function.function].decorators, overloads.len() > 1)
            }
            Type::Method(id) => return self.check_deprecated(at, store.method(id).function),
            Type::Class(id) => {
                let class = store.instance(id).class;
                let index = crate::resolve::module_index(self.db, class.file);
                (class.file, &index.classes[class.class].decorators, false)
            }
            _ => return,
        };
        if overloaded || decorators.is_empty() {
            return;
        }
        if let Some(message) = deprecation(self, file, decorators) {
            self.problem(at, ProblemKind::Deprecated { what: ty, message });
        }
    }

    /// Reports a call that uses a signature which is deprecated.
    pub(crate) fn check_deprecated_signature(&mut self, call: ExprId, chosen: crate::types::FunctionRef) {
        if !self.checking {
            return;
        }
        let index = crate::resolve::module_index(self.db, chosen.file);
        if let Some(message) = deprecation(self, chosen.file, &index.functions[chosen.function].decorators) {
            let what = Type::Function(self.db.store().intern_function(chosen));
            self.problem(call, ProblemKind::Deprecated { what, message });
        }
    }
}

/// What `@deprecated("…")` among decorators says.
fn deprecation(infer: &Infer<'_>, file: crate::base::file::File, decorators: &[ExprId]) -> Option<String> {
    use leitmotiv_index::tree::Expr;
    let index = crate::resolve::module_index(infer.db, file);
    decorators.iter().find_map(|decorator| {
        let Expr::Call { callee, args } = &index.exprs[*decorator] else { return None };
        let (Expr::Name(name, _) | Expr::Attribute { name, .. }) = index.exprs[*callee] else { return None };
        if infer.text(name) != "deprecated" || !is_standard_mark(infer, file, *callee, name) {
            return None;
        }
        match index.exprs[args.first()?.value] {
            Expr::Str(Some(text)) => Some(infer.text(text).to_owned()),
            _ => None,
        }
    })
}

/// Whether a decorator is the one of `warnings` or its backport: libraries have others of this name.
fn is_standard_mark(
    infer: &Infer<'_>,
    file: crate::base::file::File,
    callee: ExprId,
    name: leitmotiv_syntax::names::Name,
) -> bool {
    let is_standard = |module: &str| matches!(module, "warnings" | "_py_warnings" | "typing_extensions");
    let mut there = Infer::new(infer.db, file, leitmotiv_index::tree::BodyId(0));
    match there.expr(callee) {
        Type::Class(id) => {
            let module = infer.db.store().instance(id).class.file.module(infer.db);
            is_standard(infer.text(module))
        }
        // Interpreters before 3.13 do not have it; what is written for later ones imports it from there.
        ty if ty.is_dynamic() => {
            let index = crate::resolve::module_index(infer.db, file);
            let symbol = index.scopes[leitmotiv_index::tree::ScopeId(0)].symbols.get(&name);
            symbol.is_some_and(|symbol| {
                symbol.defs.iter().any(|def| match index.defs[*def].kind {
                    DefKind::ImportFrom { module, .. } => is_standard(infer.text(module)),
                    _ => false,
                })
            })
        }
        _ => false,
    }
}
