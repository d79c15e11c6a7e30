//! What special methods give: the interpreter asks some of them for a certain type (data model, "Special method names").

use leitmotiv_index::tree::{BodyShape, FunctionId};
use leitmotiv_syntax::names::{Name, known};

use crate::definitions::functions;
use crate::infer::Infer;
use crate::problems::ProblemKind;
use crate::types::Type;

impl Infer<'_> {
    /// What the interpreter takes from a special method, where it takes only that.
    fn taken_of(&self, name: Name) -> Option<Type> {
        Some(match self.text(name) {
            "__str__" | "__repr__" | "__format__" => self.builtin(known::STR),
            "__bytes__" => self.builtin(known::BYTES),
            "__bool__" => self.builtin(known::BOOL_CLASS),
            "__len__" | "__length_hint__" | "__index__" | "__int__" | "__hash__" => self.builtin(known::INT),
            "__float__" => self.builtin(known::FLOAT),
            "__init__" => Type::None,
            _ => return None,
        })
    }

    /// Reports a special method that gives something else than is asked of it.
    pub(crate) fn check_special_result(&mut self, function: FunctionId) {
        let record = &self.index.functions[function];
        let Some(class) = record.class.filter(|_| self.checking) else { return };
        let Some(wanted) = self.taken_of(record.name) else { return };
        let is_said = record.returns.is_some();
        // What only stands for what subclasses are to write gives nothing yet.
        if !is_said && (record.shape != BodyShape::Code || !record.decorators.is_empty()) {
            return;
        }
        let gives = match is_said {
            true => functions::declared(self.db, self.file, function).returns,
            false => Some(functions::return_type(self.db, self.file, function)),
        };
        // What ends without a value mostly ends by an exception.
        let is_nothing = |gives: Type| gives == Type::Never || gives == Type::None && !is_said;
        let Some(gives) = gives.filter(|gives| !is_nothing(*gives)) else { return };
        let parts = crate::types::union::parts(self.db.store(), &gives).to_vec();
        let fits = |part: &Type| part.is_dynamic() || matches!(part, Type::Var(_)) || self.is_assignable(*part, wanted);
        // Of what was only concluded, one that will do is enough.
        let is_wrong = match is_said {
            true => !parts.iter().all(fits),
            false => !parts.iter().any(fits),
        };
        if is_wrong {
            let class = crate::types::ClassRef { file: self.file, class };
            let method = format!("{}.{}", crate::definitions::classes::shown(self.db, class), self.text(record.name));
            self.problem_at(record.name_range, None, ProblemKind::SpecialResult { method, gives, wanted });
        }
    }
}
