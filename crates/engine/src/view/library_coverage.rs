//! What files use of the standard library, and whether it is known.

use std::collections::BTreeMap;

use leitmotiv_index::tree::{BodyId, Expr, ExprId};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::Name;

use crate::base::db::Db;
use crate::base::file::File;
use crate::infer::Infer;
use crate::outline::module_index;
use crate::types::Type;
use crate::view::uses::module_name;

/// How often a name is used, and how often what it gives is known.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Uses {
    /// How often it is used.
    pub all: usize,
    /// How often its type is known, and that of a call's result where it is called with known arguments.
    pub known: usize,
}

/// The names of standard modules that a file uses, as (module, name).
pub fn uses(db: &dyn Db, file: File) -> BTreeMap<(String, String), Uses> {
    let index = module_index(db, file);
    let mut found: BTreeMap<(String, String), Uses> = BTreeMap::new();
    for (body, _) in index.bodies.iter() {
        let mut infer = Infer::new(db, file, body);
        infer.check();
        let mut exprs: Vec<(ExprId, Type)> = infer.known_exprs().collect();
        exprs.sort_by_key(|(expr, _)| *expr);
        let known: BTreeMap<ExprId, Type> = exprs.iter().copied().collect();
        // What comes of arguments that nothing is known of says nothing of the library.
        let is_known = |value: &ExprId| known.get(value).is_none_or(|ty| !holds_unknown(db, *ty));
        let called: BTreeMap<ExprId, Type> = exprs
            .iter()
            .filter_map(|(expr, ty)| match &index.exprs[*expr] {
                Expr::Call { callee, args } if args.iter().all(|arg| is_known(&arg.value)) => Some((*callee, *ty)),
                _ => None,
            })
            .collect();
        for (expr, ty) in exprs {
            let wanted = |module: File| is_standard(db, module);
            let Some((module, name)) = module_name(db, file, &mut infer, expr, &wanted) else { continue };
            let given = called.get(&expr).copied().unwrap_or(ty);
            let uses = found.entry((text(db, module), text(db, name))).or_default();
            uses.all += 1;
            uses.known += usize::from(!ty.is_unknown() && !given.is_unknown());
        }
    }
    found
}

fn holds_unknown(db: &dyn Db, ty: Type) -> bool {
    crate::types::holds(db.store(), ty, &|part| part.is_unknown())
}

fn text(db: &dyn Db, name: Name) -> String {
    db.names().text(name).to_owned()
}

fn is_standard(db: &dyn Db, file: File) -> bool {
    matches!(file.origin(db), Origin::Bundled | Origin::Library)
        && module_index(db, file).bodies.iter().next().is_some_and(|(body, _)| body == BodyId(0))
}

/// The dotted names of the standard modules that stubs come with the program for, sorted; private ones left out.
#[must_use]
pub fn bundled_modules() -> Vec<String> {
    let mut names: Vec<String> = leitmotiv_stdlib::paths()
        .into_iter()
        .filter_map(|path| path.strip_suffix(".pyi"))
        .map(|path| path.strip_suffix("/__init__").unwrap_or(path).replace('/', "."))
        .filter(|name| name.split('.').all(|part| !part.starts_with('_') || part.starts_with("__")))
        .collect();
    names.sort_unstable();
    names
}
