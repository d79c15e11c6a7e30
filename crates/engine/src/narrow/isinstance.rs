//! `isinstance`, `issubclass`, `callable`.

use leitmotiv_index::tree::ExprId;
use leitmotiv_syntax::names::known;

use crate::context::TypeContext;
use crate::definitions::classes;
use crate::infer::Infer;
use crate::types::union::{filter, join, parts};
use crate::types::{CauseKind, Type};

impl TypeContext<'_> {
    fn is_protocol(&self, ty: Type) -> bool {
        matches!(ty, Type::Instance(id)
            if classes::info(self.db, self.db.store().instance(id).class).kind == classes::ClassKind::Protocol)
    }

    fn is_object(&self, ty: Type) -> bool {
        matches!(ty, Type::Instance(id)
            if crate::resolve::is_builtin(self.db, self.db.store().instance(id).class, known::OBJECT))
    }

    /// The cause of a value that has members beside those of its class.
    pub(crate) fn dynamic_cause(&self) -> crate::types::CauseId {
        self.db.store().intern_cause(crate::types::Cause {
            kind: CauseKind::Dynamic,
            file: self.file,
            at: leitmotiv_index::anchor::Anchor::Module,
            name: known::EMPTY,
        })
    }

    /// Whether a class derived from the type and another may exist.
    fn is_open(&self, ty: Type) -> bool {
        let Type::Instance(id) = ty else { return ty.is_dynamic() };
        let class = self.db.store().instance(id).class;
        // Built-in classes with a layout of their own do not combine.
        class.file.module(self.db) != known::BUILTINS
            || crate::resolve::is_builtin(self.db, class, known::OBJECT)
            || crate::resolve::is_builtin(self.db, class, known::TYPE)
    }

    /// Whether nothing derives from an instance's class: it is marked as final.
    pub(crate) fn is_sealed(&self, ty: Type) -> bool {
        let Type::Instance(id) = ty else { return false };
        let class = self.db.store().instance(id).class;
        crate::outline::class(self.db, class).is_under(known::FINAL_MARK)
    }

    /// `list` in place of `Sequence[int]` is `list[int]`.
    pub(crate) fn with_arguments(&mut self, part: Type, wanted: Type) -> Type {
        let store = self.db.store();
        let (Type::Instance(have), Type::Instance(want)) = (part, wanted) else { return wanted };
        let want_class = store.instance(want).class;
        let info = classes::info(self.db, want_class);
        if info.params.is_empty() {
            return wanted;
        }
        let vars: Vec<Type> = info.params.iter().map(|var| Type::Var(*var)).collect();
        let generic = crate::resolve::instance_of(self.db, want_class, &vars);
        let Some(base) = classes::as_base(self.db, generic, store.instance(have).class) else { return wanted };
        let base = store.instance(base).args.clone();
        let have_args = store.instance(have).args.clone();
        let mut args = store.instance(want).args.to_vec();
        for (slot, var) in base.iter().zip(have_args.iter()) {
            if let Type::Var(slot) = slot
                && let Some(place) = info.params.iter().position(|param| param == slot)
                && let Some(arg) = args.get_mut(place)
            {
                *arg = *var;
            }
        }
        Type::Instance(crate::resolve::instance_of(self.db, want_class, &args))
    }

    /// Whether a tuple of any length may be one of a known length; the outer `None` where they are no such tuples.
    fn is_tuple_of(&self, part: Type, wanted: Type) -> Option<Option<bool>> {
        let (Type::Tuple(own), Type::Tuple(other)) = (part, wanted) else { return None };
        let store = self.db.store();
        let is_open = store.tuple(own).rest.is_some() && store.tuple(other).rest.is_none();
        // One that fits as it is needs no answer here, nor one that holds something else.
        let holds = self.is_assignable(wanted, part);
        (is_open && holds).then_some(None)
    }

    /// Whether values of `part` are instances of `wanted`'s class; `None` where some may be.
    pub(crate) fn is_class_of(&self, part: Type, wanted: Type) -> Option<bool> {
        let store = self.db.store();
        if part == wanted {
            return Some(true);
        }
        if let Some(found) = self.is_tuple_of(part, wanted) {
            return found;
        }
        // Every class is a `type`, whatever its own.
        if matches!(part, Type::Class(_) | Type::SubclassOf(_))
            && matches!(wanted, Type::Instance(id)
                if crate::resolve::is_builtin(self.db, store.instance(id).class, known::TYPE))
        {
            return Some(true);
        }
        if wanted == Type::None || part == Type::None {
            let object = matches!(wanted, Type::Instance(id)
                if crate::resolve::is_builtin(self.db, store.instance(id).class, known::OBJECT));
            return Some(object || part == wanted);
        }
        let (Some(own), Some(other)) = (self.nominal(part), self.nominal(wanted)) else { return None };
        let (own, other) = (store.instance(own).class, store.instance(other).class);
        match classes::derives(self.db, own, other) {
            Some(true) => Some(true),
            None => None,
            Some(false) => {
                // Protocols and the abstract containers ask for members, not for bases.
                let info = classes::info(self.db, other);
                if info.kind == classes::ClassKind::Protocol {
                    let part_fits = self.is_assignable(part, wanted);
                    return if part_fits { Some(true) } else { None };
                }
                // A subclass of both may exist.
                if classes::derives(self.db, other, own) == Some(true) { None } else { Some(false) }
            }
        }
    }
}

impl Infer<'_> {
    /// Narrows by `isinstance(x, class)`, or `issubclass`.
    pub(crate) fn narrow_isinstance(&mut self, ty: Type, class: ExprId, positive: bool, of_classes: bool) -> Type {
        let class_type = self.quietly(class);
        let instances = self.instances_of(class_type, class);
        if of_classes {
            return self.narrow_subclass(ty, instances, positive);
        }
        if has_dynamic(self, instances) {
            // Not known what is asked for: then nothing is known of what passed.
            return if positive { self.unknown(CauseKind::Dynamic, class) } else { ty };
        }
        if positive {
            return self.intersect(ty, instances);
        }
        let store = self.db.store();
        filter(store, ty, |part| part.is_dynamic() || !self.surely_is(part, instances))
    }

    fn narrow_subclass(&mut self, ty: Type, instances: Type, positive: bool) -> Type {
        let store = self.db.store();
        let all: Vec<Type> = parts(store, &ty).to_vec();
        let mut kept = Vec::with_capacity(all.len());
        // Where some parts pass as they are, those that share no value with what is asked for are not meant.
        let inner_of = |part: &Type| instances_made_by(store, *part);
        let some_pass = positive
            && all
                .iter()
                .filter_map(inner_of)
                .any(|inner| parts(store, &instances).iter().any(|one| self.is_class_of(inner, *one) != Some(false)));
        for part in all {
            if some_pass
                && let Some(inner) = inner_of(&part)
                && parts(store, &instances).iter().all(|one| self.is_class_of(inner, *one) == Some(false))
            {
                continue;
            }
            let inner = match part {
                Type::SubclassOf(id) => *store.single(id),
                Type::Class(id) => Type::Instance(id),
                other => {
                    if positive && !other.is_dynamic() {
                        kept.push(crate::types::union::map(store, instances, |part| {
                            Type::SubclassOf(store.intern_type(part))
                        }));
                    } else {
                        kept.push(other);
                    }
                    continue;
                }
            };
            if positive {
                let narrowed = self.intersect(inner, instances);
                kept.push(crate::types::union::map(store, narrowed, |part| Type::SubclassOf(store.intern_type(part))));
            } else if !self.surely_is(inner, instances) {
                kept.push(part);
            }
        }
        join(store, kept)
    }

    /// Whether every value of the part is one of the classes'.
    fn surely_is(&self, part: Type, classes_type: Type) -> bool {
        let store = self.db.store();
        parts(store, &classes_type).iter().any(|wanted| self.is_class_of(part, *wanted) == Some(true))
    }

    /// What passes: the parts that are of the classes, and the classes below a part.
    pub(crate) fn intersect(&mut self, ty: Type, wanted: Type) -> Type {
        let store = self.db.store();
        let own: Vec<Type> = parts(store, &ty).to_vec();
        let wanted: Vec<Type> = parts(store, &wanted).to_vec();
        let mut kept = Vec::new();
        // Where some parts pass by their class, those that merely ask for a few members are not meant.
        let by_class = own.iter().any(|part| {
            let is_class = !part.is_dynamic() && !self.is_protocol(*part) && !self.is_object(*part);
            is_class && wanted.iter().any(|one| self.is_class_of(*part, *one) != Some(false))
        });
        for part in &own {
            if by_class && self.is_protocol(*part) {
                kept.extend(wanted.iter().any(|one| self.is_class_of(*part, *one) == Some(true)).then_some(*part));
                continue;
            }
            if part.is_dynamic() {
                // Of a value that merely has a protocol's members, all else is as unknown as before.
                kept.extend(wanted.iter().map(|one| if self.is_protocol(*one) { *part } else { *one }));
                continue;
            }
            for one in &wanted {
                // Of classes it is asked as of their instances.
                let answer = match (instances_made_by(store, *part), *one) {
                    (Some(own), Type::SubclassOf(id)) => self.is_class_of(own, *store.single(id)),
                    _ => self.is_class_of(*part, *one),
                };
                match answer {
                    Some(true) => {
                        kept.push(*part);
                        break;
                    }
                    // No class below it has what it lacks.
                    None if self.is_protocol(*one) && self.is_sealed(*part) => {}
                    None if self.is_protocol(*one) && !self.is_object(*part) => {
                        kept.push(Type::Unknown(self.dynamic_cause()));
                    }
                    None => {
                        kept.push(self.with_arguments(*part, *one));
                    }
                    Some(false) => {}
                }
            }
        }
        if kept.is_empty() {
            // Nothing known passes: some class that derives from both may (typing specification, "Narrowing"), unless
            // the types can have no common values.
            // What a call is given is what it is, and of no such class.
            let is_given = self.calls > 0;
            return if !is_given
                && own.iter().any(|part| self.is_open(*part))
                && wanted.iter().any(|one| self.is_open(*one))
            {
                // It has the members of both, which no type that can be written has.
                Type::Unknown(self.dynamic_cause())
            } else {
                Type::Never
            };
        }
        join(store, kept)
    }

    /// `callable(x)`
    pub(super) fn narrow_callable(&mut self, ty: Type, subject: ExprId, positive: bool) -> Type {
        let store = self.db.store();
        let all: Vec<Type> = parts(store, &ty).to_vec();
        let mut kept = Vec::with_capacity(all.len());
        for part in all {
            let callable = match part {
                Type::Function(_) | Type::Method(_) | Type::Callable(_) | Type::Class(_) | Type::SubclassOf(_) => {
                    Some(true)
                }
                Type::None | Type::Literal(_) | Type::Tuple(_) | Type::Module(_) => Some(false),
                Type::Instance(_) => match self.member(part, known::CALL) {
                    Some(_) => Some(true),
                    None if self.is_sealed(part) => Some(false),
                    None => None,
                },
                _ => None,
            };
            match (callable, positive) {
                (Some(callable), positive) if callable == positive => kept.push(part),
                (Some(_), _) => {}
                (None, true) if !part.is_dynamic() => kept.push(self.unknown(CauseKind::Dynamic, subject)),
                (None, _) => kept.push(part),
            }
        }
        join(store, kept)
    }
}

/// What calling a class, or some class, makes; `None` of what is no class.
fn instances_made_by(store: &crate::types::store::Store, ty: Type) -> Option<Type> {
    match ty {
        Type::SubclassOf(id) => Some(*store.single(id)),
        Type::Class(id) => Some(Type::Instance(id)),
        _ => None,
    }
}

fn has_dynamic(infer: &Infer<'_>, ty: Type) -> bool {
    parts(infer.db.store(), &ty).iter().any(|part| part.is_dynamic())
}
