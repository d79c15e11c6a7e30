//! Which names of other modules a file uses, and with what it calls them.

use leitmotiv_index::tree::{ArgKind, DefId, DefKind, Expr, ExprId, ScopeId, Value};
use leitmotiv_syntax::names::Name;

use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::class_name;
use crate::outline::module_index;
use crate::resolve::{Imported, import_target};
use crate::types::Type;

/// A name of a module that a file uses.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Used {
    /// The module's dotted name.
    pub module: Name,
    /// The name in it.
    pub name: Name,
}

/// A call of something that a module defines.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Called {
    /// The module's dotted name.
    pub module: Name,
    /// The function's name in it; of methods, behind that of their class and a dot; of classes, their `__init__`.
    pub path: String,
    /// The arguments' types, with their names where they are given by name; up to the first one that is unpacked.
    pub args: Vec<(Option<Name>, Type)>,
}

/// What a file uses and calls of the modules that `wanted` picks.
pub fn of(db: &dyn Db, file: File, wanted: &dyn Fn(File) -> bool) -> (Vec<Used>, Vec<Called>) {
    let index = module_index(db, file);
    let (mut used, mut called) = (Vec::new(), Vec::new());
    for (_, def) in index.defs.iter() {
        if let DefKind::ImportFrom { module, level, name, .. } = def.kind
            && let Some(Imported::File(target)) = import_target(db, file, module, level)
            && wanted(target)
        {
            used.push(Used { module: target.module(db), name });
        }
    }
    for (body, _) in index.bodies.iter() {
        let mut infer = Infer::new(db, file, body);
        infer.check();
        let mut exprs: Vec<ExprId> = infer.known_exprs().map(|(expr, _)| expr).collect();
        exprs.sort();
        for expr in exprs {
            if let Some((module, name)) = module_name(db, file, &mut infer, expr, wanted) {
                used.push(Used { module, name });
            }
            let Expr::Call { callee, ref args } = index.exprs[expr] else { continue };
            let named = module_name(db, file, &mut infer, callee, wanted);
            let callee = infer.quietly(callee);
            let Some((module, path)) = defined(db, callee, named, wanted) else { continue };
            let plain = args.iter().take_while(|arg| matches!(arg.kind, ArgKind::Positional | ArgKind::Keyword(_)));
            let args = plain
                .map(|arg| {
                    let name = match arg.kind {
                        ArgKind::Keyword(name) => Some(name),
                        _ => None,
                    };
                    let ty = infer.quietly(arg.value);
                    (name, infer.widen(ty))
                })
                .collect();
            called.push(Called { module, path, args });
        }
    }
    (used, called)
}

/// The module and the path in it of what is called.
fn defined(
    db: &dyn Db,
    callee: Type,
    named: Option<(Name, Name)>,
    wanted: &dyn Fn(File) -> bool,
) -> Option<(Name, String)> {
    let store = db.store();
    match callee {
        Type::Function(id) => {
            let function = store.function(id);
            let path = functions::shown(db, function.file, function.function);
            wanted(function.file).then(|| (function.file.module(db), path))
        }
        Type::Method(id) => defined(db, store.method(id).function, None, wanted),
        Type::Class(id) => {
            let class = store.instance(id).class;
            let path = format!("{}.__init__", db.names().text(class_name(db, class)));
            wanted(class.file).then(|| (class.file.module(db), path))
        }
        // Of machine code nothing but the name is known.
        Type::Unknown(_) => named.map(|(module, name)| (module, db.names().text(name).to_owned())),
        _ => None,
    }
}

/// The module and the name in it that an expression stands for, where `wanted` picks the module.
pub(crate) fn module_name(
    db: &dyn Db,
    file: File,
    infer: &mut Infer<'_>,
    expr: ExprId,
    wanted: &dyn Fn(File) -> bool,
) -> Option<(Name, Name)> {
    let index = module_index(db, file);
    match index.exprs[expr] {
        Expr::Attribute { value, name, .. } => {
            let Type::Module(module) = infer.quietly(value) else { return None };
            wanted(module).then(|| (module.module(db), name))
        }
        Expr::Name(name, value) => {
            let scope = match index.values[index.unnarrowed(value)] {
                Value::Def(def) => return imported(db, file, def, wanted),
                Value::Global(_) => ScopeId(0),
                _ => return None,
            };
            let symbol = index.scopes[scope].symbols.get(&name)?;
            symbol.defs.iter().find_map(|def| imported(db, file, *def, wanted))
        }
        _ => None,
    }
}

fn imported(db: &dyn Db, file: File, def: DefId, wanted: &dyn Fn(File) -> bool) -> Option<(Name, Name)> {
    let DefKind::ImportFrom { module, level, name, .. } = module_index(db, file).defs[def].kind else { return None };
    let Some(Imported::File(target)) = import_target(db, file, module, level) else { return None };
    wanted(target).then(|| (target.module(db), name))
}
