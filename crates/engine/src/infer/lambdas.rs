//! What is expected of lambdas by where they stand: behind a declared name or attribute, as a result, as a default, or in a
//! display there (typing specification, "Bidirectional inference"). What calls expect is told by `call::bind`.

use leitmotiv_index::tree::{Expr, ExprId, LambdaId, ParamKind, ScopeId, StandKind};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use crate::context::TypeContext;
use crate::definitions::classes::members;
use crate::types::Type;
use crate::types::union::parts;

impl TypeContext<'_> {
    /// The arguments that a display of a class must have to be one of the expected types.
    fn wanted_of(&mut self, class: Name, expected: &[Type], count: usize) -> Option<Vec<Type>> {
        let class = crate::resolve::builtin(self.db, class)?;
        expected.iter().find_map(|part| self.expected_args(class, *part, count))
    }
}

impl Infer<'_> {
    /// The types of the parameters of a lambda, as its place expects them.
    pub(crate) fn expected_of_lambda(&mut self, lambda: LambdaId) -> Vec<Type> {
        let Some(stand) = self.index.stands.get(&lambda).copied() else { return Vec::new() };
        if let Some(known) = self.lambdas.get(&lambda) {
            return known.clone();
        }
        let declared = match stand.kind {
            StandKind::Annotation(annotation) => self.declared_annotation(annotation),
            StandKind::Target(target) => self.declared_target(target),
            StandKind::Result => self.declared_here(),
        };
        if let Some(declared) = declared {
            self.expect_lambdas(stand.root, declared);
        }
        self.lambdas.entry(lambda).or_default().clone()
    }

    /// What a single target of an assignment is declared to be.
    fn declared_target(&mut self, target: ExprId) -> Option<Type> {
        match self.index.exprs[target] {
            Expr::Name(name, _) => {
                let scope = match self.index.bodies[self.body].function {
                    Some(function) => self.index.functions[function].scope,
                    None => ScopeId(0),
                };
                self.declared_symbol(scope, name)
            }
            Expr::Attribute { value, name, .. } => {
                let Type::Instance(id) = self.quietly(value) else { return None };
                let class = self.db.store().instance(id).class;
                let found = members::declared(self.db, class, name)?;
                Some(found.member_type(self.db, id))
            }
            _ => None,
        }
    }

    /// What the function whose body this is declares to give.
    fn declared_here(&mut self) -> Option<Type> {
        let function = self.index.bodies[self.body].function?;
        let declared = crate::definitions::functions::declared(self.db, self.file, function).returns?;
        match self.index.bodies[self.body].yields.is_empty() {
            true => Some(declared),
            false => self.declared_result(declared),
        }
    }

    /// Notes what the lambdas in an expression are expected to take.
    fn expect_lambdas(&mut self, expr: ExprId, expected: Type) {
        let store = self.db.store();
        let index = self.index;
        let all: Vec<Type> = parts(store, &expected).to_vec();
        match &index.exprs[expr] {
            Expr::Lambda(lambda) => {
                let signature = all.iter().find_map(|part| match part {
                    Type::Callable(id) => Some(store.signature(*id)),
                    _ => None,
                });
                if let Some(signature) = signature {
                    let placed = signature
                        .params
                        .iter()
                        .take_while(|param| matches!(param.kind, ParamKind::Normal | ParamKind::PositionalOnly));
                    let taken = placed.map(|param| self.solved(param.ty)).collect();
                    self.lambdas.insert(*lambda, taken);
                }
            }
            Expr::List(items) => {
                if let Some([element]) = self.wanted_of(known::LIST, &all, 1).as_deref() {
                    items.iter().for_each(|item| self.expect_lambdas(*item, *element));
                }
            }
            Expr::Dict(items) => {
                if let Some([_, element]) = self.wanted_of(known::DICT, &all, 2).as_deref() {
                    items.iter().for_each(|(_, item)| self.expect_lambdas(*item, *element));
                }
            }
            Expr::Tuple(items) => {
                let tuple = all.iter().find_map(|part| match part {
                    Type::Tuple(id) => Some(store.tuple(*id)),
                    _ => None,
                });
                for (place, item) in items.iter().enumerate() {
                    if let Some(element) = tuple.and_then(|tuple| tuple.prefix.get(place).or(tuple.rest.as_ref())) {
                        self.expect_lambdas(*item, *element);
                    }
                }
            }
            Expr::Conditional { then, otherwise, .. } => {
                self.expect_lambdas(*then, expected);
                self.expect_lambdas(*otherwise, expected);
            }
            Expr::BoolOp { operands, .. } => {
                operands.iter().for_each(|operand| self.expect_lambdas(*operand, expected));
            }
            _ => {}
        }
    }
}
