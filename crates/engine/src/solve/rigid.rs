//! Type variables that are types like any other where they stand: those of the functions and the class around.

use leitmotiv_index::tree::{BodyId, ScopeId, ScopeKind};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::context::TypeContext;
use crate::definitions::{classes, functions};
use crate::outline::{module_index, reading};
use crate::types::substitute::variables;
use crate::types::{ClassRef, VarId};

impl TypeContext<'_> {
    /// Whether a variable belongs to a function or class that the body stands in.
    pub(crate) fn is_own_variable(&self, var: VarId) -> bool {
        self.rigid.get_or_init(|| rigid(self.db, self.file, self.around)).contains(&var)
    }
}

impl TypeContext<'_> {
    /// Whether a variable belongs to a function that the body stands in, and is no class's.
    pub(crate) fn is_function_variable(&self, var: VarId) -> bool {
        let (db, file) = (self.db, self.file);
        let index = module_index(db, file);
        let store = db.store();
        let mut function = index.bodies[self.around].function;
        while let Some(current) = function {
            let record = &index.functions[current];
            let declared = functions::declared(db, file, current);
            if declared.params.iter().any(|param| variables(store, param.ty).contains(&var)) {
                let of_class =
                    record.class.is_some_and(|class| classes::info(db, ClassRef { file, class }).params.contains(&var));
                return !of_class;
            }
            if record.class.is_some() {
                return false;
            }
            function = match index.scopes[record.parent].kind {
                ScopeKind::Function(outer) => Some(outer),
                _ => None,
            };
        }
        false
    }
}

/// The variables of the functions around a body, itself included, up to and with those of the innermost class.
fn rigid(db: &dyn Db, file: File, body: BodyId) -> &[VarId] {
    saw(db, file, Ask::Whole);
    rigid_query(db, file, body)
}

#[salsa::tracked(returns(deref), cycle_initial = |_, _, _, _| Box::default())]
fn rigid_query(db: &dyn Db, file: File, body: BodyId) -> Box<[VarId]> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let store = db.store();
    let module = &index.scopes[ScopeId(0)];
    let mut all: Vec<VarId> = Vec::new();
    // One of another file is only ours where it is imported.
    let mut add = |var: VarId| {
        let variable = store.variable(var);
        let is_known = variable.file == file || module.symbols.contains_key(&variable.name);
        if is_known && !all.contains(&var) {
            all.push(var);
        }
    };
    let mut function = index.bodies[body].function;
    while let Some(current) = function {
        let record = &index.functions[current];
        let declared = functions::declared(db, file, current);
        declared.params.iter().flat_map(|param| variables(store, param.ty)).for_each(&mut add);
        if let Some(class) = record.class {
            classes::info(db, ClassRef { file, class }).params.iter().copied().for_each(&mut add);
            break;
        }
        function = match index.scopes[record.parent].kind {
            ScopeKind::Function(outer) => Some(outer),
            _ => None,
        };
    }
    all.into()
}
