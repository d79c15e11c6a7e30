//! Truth (library reference, "Truth Value Testing").

use leitmotiv_syntax::names::known;

use crate::definitions::classes;
use crate::infer::Infer;
use crate::types::union::{join, parts};
use crate::types::{Literal, Type};

impl Infer<'_> {
    /// The part of a type whose values are true, or false.
    pub(crate) fn truthy_part(&mut self, ty: Type, truthy: bool) -> Type {
        let store = self.db.store();
        let all: Vec<Type> = parts(store, &ty).to_vec();
        let kept = all.into_iter().filter_map(|part| self.truthy_one(part, truthy));
        join(store, kept.collect::<Vec<_>>())
    }

    /// What a class's `__bool__` is declared to give, if always the same.
    fn own_truth(&mut self, ty: Type, id: crate::types::InstanceId) -> Option<bool> {
        let found = classes::members::find(self.db, id, known::BOOL, None)?;
        if !matches!(found.member.ty, Type::Function(_)) {
            return None;
        }
        let method = self.member(ty, known::BOOL)?;
        match self.result_of(method) {
            Type::Literal(id) => match *self.db.store().literal(id) {
                Literal::Bool(truth) => Some(truth),
                _ => None,
            },
            _ => None,
        }
    }

    fn truthy_one(&mut self, part: Type, truthy: bool) -> Option<Type> {
        let store = self.db.store();
        match part {
            Type::None => (!truthy).then_some(part),
            Type::Literal(id) => {
                let value = match *store.literal(id) {
                    Literal::Int(value) => value != 0,
                    Literal::Bool(value) => value,
                    Literal::Str(text) | Literal::Bytes(text) => !self.text(text).is_empty(),
                    Literal::Enum(..) => return Some(part),
                };
                (value == truthy).then_some(part)
            }
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                let least = tuple.prefix.len() + tuple.suffix.len();
                let possible = if truthy { least > 0 || tuple.rest.is_some() } else { least == 0 };
                possible.then_some(part)
            }
            Type::Instance(id) => {
                let class = store.instance(id).class;
                if crate::resolve::is_builtin(self.db, class, known::BOOL_CLASS) {
                    return Some(Type::Literal(store.intern_literal(Literal::Bool(truthy))));
                }
                if let Some(method) = self.own_truth(part, id) {
                    // `def __bool__(self) -> Literal[True]`
                    return (method == truthy).then_some(part);
                }
                if truthy {
                    return Some(part);
                }
                // Without `__bool__` or `__len__`, values are true.
                let may_be_false = classes::members::find(self.db, id, known::BOOL, None).is_some()
                    || classes::members::find(self.db, id, known::LEN, None).is_some()
                    || classes::open_members::unseen(self.db, class).is_some()
                    || crate::resolve::is_builtin(self.db, class, known::OBJECT)
                    || classes::info(self.db, class).kind == classes::ClassKind::Protocol;
                may_be_false.then_some(part)
            }
            Type::Function(_) | Type::Method(_) | Type::Module(_) | Type::Namespace(_) | Type::Class(_) => {
                truthy.then_some(part)
            }
            part => Some(part),
        }
    }
}
