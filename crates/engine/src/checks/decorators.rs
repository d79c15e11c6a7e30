//! Decorators are called with what stands below them (language reference, "Function definitions").

use leitmotiv_index::tree::FunctionId;
use leitmotiv_syntax::names::known;

use crate::call::{Argument, Bare, Bind};
use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::types::{FunctionRef, Type};

impl Infer<'_> {
    /// Looks at the decorators of a function, from the nearest on.
    pub(crate) fn check_decorators(&mut self, function: FunctionId) {
        let index = self.index;
        let record = &index.functions[function];
        for decorator in &record.decorators {
            self.expr(*decorator);
        }
        if record.decorators.is_empty() || !self.checking {
            return;
        }
        let signatures = crate::outline::functions::signatures(self.db, self.file, index, function);
        if signatures.len() > 1 || signatures.first() != Some(&function) {
            return;
        }
        let binding = crate::outline::functions::binding(self.db, index, function);
        let plain = FunctionRef { file: self.file, function, binding, owner: None };
        let mut ty = Type::Function(self.db.store().intern_function(plain));
        for decorator in record.decorators.iter().rev() {
            let is_built_in = matches!(
                index.decorator_name(*decorator),
                Some(
                    known::STATICMETHOD
                        | known::CLASSMETHOD
                        | known::PROPERTY
                        | known::SETTER
                        | known::DELETER
                        | known::OVERLOAD
                )
            );
            // What these make of it is looked at no further.
            if is_built_in {
                return;
            }
            let called = self.expr(*decorator);
            match called {
                Type::Literal(_) | Type::Tuple(_) | Type::None => {
                    self.problem(*decorator, ProblemKind::CallNotCallable { object: called });
                    return;
                }
                Type::Instance(_) if self.member(called, known::CALL).is_none() => {
                    self.problem(*decorator, ProblemKind::CallNotCallable { object: called });
                    return;
                }
                Type::Function(_) | Type::Method(_) | Type::Callable(_) => {
                    let candidates = self.candidates(called);
                    let given = [Argument::of_type(ty)];
                    if let Err(refusals) = Bare(self).choose(&candidates, &given) {
                        self.report(*decorator, &candidates, refusals);
                        return;
                    }
                }
                _ => {}
            }
            ty = self.decorated(*decorator, ty);
            if ty.is_dynamic() {
                return;
            }
        }
    }
}
