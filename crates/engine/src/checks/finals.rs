//! Where `Final` and `@final` say nothing (typing specification, "Type qualifiers": `@final` and `Final`).

use leitmotiv_index::tree::{ClassId, DefKind, Expr, ExprId, FunctionId, ScopeKind};
use leitmotiv_syntax::names::known;

use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::problems::{Ended, ProblemKind};
use crate::types::{ClassRef, SpecialForm, Type};

impl Infer<'_> {
    /// Looks at a declaration with `Final`: outside of classes it has a value, on an object it stands in `__init__`.
    pub(crate) fn check_final_declaration(&mut self, target: ExprId, annotation: ExprId, has_value: bool) {
        let head = match self.index.exprs[annotation] {
            Expr::Subscript { value, .. } => value,
            _ => annotation,
        };
        if self.file.is_stub(self.db) || self.quietly(head) != Type::Special(SpecialForm::Final) {
            return;
        }
        let at = self.site_of_expr(annotation);
        match self.index.exprs[target] {
            Expr::Name(name, _) if !has_value => {
                let scope = self.scope_at(target);
                if !matches!(self.index.scopes[scope].kind, ScopeKind::Class(_)) {
                    self.problem(target, ProblemKind::ClassFinal { what: Ended::Unset(name), at });
                }
            }
            Expr::Attribute { value, name, .. } if self.is_receiver(value) => {
                let function = self.index.bodies[self.body].function.map(|id| &self.index.functions[id]);
                if function.is_some_and(|function| function.name != known::INIT) {
                    self.problem(target, ProblemKind::ClassFinal { what: Ended::Late(name), at });
                }
            }
            _ => {}
        }
    }

    /// Final names of a class's body get their value there or in `__init__`.
    pub(crate) fn check_unset_finals(&mut self, class: ClassId) {
        let index = self.index;
        let record = &index.classes[class];
        let info = classes::info(self.db, ClassRef { file: self.file, class });
        // A dataclass gives its fields their values itself.
        if self.file.is_stub(self.db) || info.dataclass.is_some() || info.kind != ClassKind::Plain {
            return;
        }
        for (def, name) in super::classes::own_names(index, class) {
            let DefKind::Annotated { annotation, value: None } = index.defs[def].kind else { continue };
            if !self.is_final(def) {
                continue;
            }
            let is_set = record.attributes.get(&name).is_some_and(|defs| {
                defs.iter().any(|def| {
                    let function = index.bodies[index.defs[*def].body].function;
                    function.is_some_and(|id| index.functions[id].name == known::INIT)
                })
            });
            if !is_set {
                let at = self.site_of_expr(annotation);
                let range = index.defs[def].range;
                self.problem_at(range, None, ProblemKind::ClassFinal { what: Ended::Unset(name), at });
            }
        }
    }

    /// `@final` stands over classes and methods.
    pub(crate) fn check_final_mark(&mut self, function: FunctionId) {
        let record = &self.index.functions[function];
        if record.class.is_some() {
            return;
        }
        let is_mark = |decorator: &&ExprId| self.index.decorator_name(**decorator) == Some(known::FINAL_MARK);
        let Some(decorator) = record.decorators.iter().find(is_mark).copied() else { return };
        let is_typing = matches!(self.expr(decorator), Type::Function(id)
            if self.db.store().function(id).file.module(self.db) == known::TYPING);
        if is_typing {
            let at = self.site_of_expr(decorator);
            self.problem(decorator, ProblemKind::ClassFinal { what: Ended::Function(record.name), at });
        }
    }
}
