//! What fits where (typing specification, "Type system concepts": assignability).
//!
//! Where something cannot be told, it fits: a finding must be sure. `reasons` looks for why something does not.

mod callables;
mod protocols;
mod reasons;

pub(crate) use protocols::protocol_members;

use leitmotiv_index::tree::ParamKind;
use leitmotiv_syntax::names::known;

use crate::base::db::Db;
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind, as_base};
use crate::resolve::{builtin, is_builtin};
use crate::types::{ClassRef, InstanceId, Literal, Type, VarKind, Variance};

/// Whether a class is that of modules.
pub(crate) fn is_module_class(db: &dyn Db, class: ClassRef) -> bool {
    class.file.module(db) == known::TYPES && classes::shown(db, class) == "ModuleType"
}

impl TypeContext<'_> {
    /// The parts of a union, without those that are special cases of another: classes that derive from it.
    fn without_special(&self, union: crate::types::UnionId) -> Vec<Type> {
        let store = self.db.store();
        let parts = store.union_parts(union);
        let is_plain = |part: &Type| matches!(part, Type::Instance(id) if store.instance(*id).args.is_empty());
        let is_number = |name: leitmotiv_syntax::names::Name| {
            parts
                .iter()
                .any(|part| matches!(part, Type::Instance(id) if is_builtin(self.db, store.instance(*id).class, name)))
        };
        // `float` takes `int` as it is, and `complex` both (typing specification, "Special cases for float and complex").
        let (has_float, has_complex) = (is_number(known::FLOAT), is_number(known::COMPLEX));
        let is_taken = |part: &Type| match self.literal_fallback(*part) {
            Type::Instance(id) => {
                let class = store.instance(id).class;
                (has_float || has_complex) && is_builtin(self.db, class, known::INT)
                    || has_complex && is_builtin(self.db, class, known::FLOAT)
            }
            _ => false,
        };
        let is_special = |part: &Type| {
            if is_taken(part) {
                return true;
            }
            // A literal beside its class says nothing more.
            if matches!(part, Type::Literal(_)) {
                return parts.contains(&self.literal_fallback(*part));
            }
            is_plain(part)
                && parts.iter().any(|other| match (part, other) {
                    (Type::Instance(one), Type::Instance(two)) => {
                        one != two
                            && is_plain(other)
                            && classes::derives(self.db, store.instance(*one).class, store.instance(*two).class)
                                == Some(true)
                    }
                    _ => false,
                })
        };
        parts.iter().copied().filter(|part| !is_special(part)).collect()
    }

    /// Whether two types take each other's values, so that a union's order does not matter.
    pub fn is_equivalent(&self, one: Type, other: Type) -> bool {
        // What is not known cannot be said to be something else.
        if one == other || one.is_unknown() || other.is_unknown() {
            return true;
        }
        if one.is_dynamic() || other.is_dynamic() {
            // Nothing is known of either, whether or not somebody said so.
            return one.is_dynamic() && other.is_dynamic();
        }
        let store = self.db.store();
        if self.are_any_parameters(one, other) || self.are_any_parameters(other, one) {
            return true;
        }
        match (one, other) {
            (Type::Union(one), Type::Union(other)) => {
                let (one, other) = (self.without_special(one), self.without_special(other));
                one.len() == other.len()
                    && one.iter().all(|part| other.iter().any(|with| self.is_equivalent(*part, *with)))
                    && other.iter().all(|part| one.iter().any(|with| self.is_equivalent(*part, *with)))
            }
            (Type::Union(union), single) | (single, Type::Union(union)) => {
                matches!(self.without_special(union).as_slice(), [only] if self.is_equivalent(*only, single))
            }
            (Type::Instance(one), Type::Instance(other)) => {
                let (one, other) = (store.instance(one), store.instance(other));
                one.class == other.class
                    && one.args.len() == other.args.len()
                    && one.args.iter().zip(&other.args).all(|(one, other)| self.is_equivalent(*one, *other))
            }
            (Type::Tuple(one), Type::Tuple(other)) => {
                let (one, other) = (store.tuple(one), store.tuple(other));
                one.prefix.len() == other.prefix.len()
                    && one.suffix.len() == other.suffix.len()
                    && one.prefix.iter().zip(&other.prefix).all(|(one, other)| self.is_equivalent(*one, *other))
                    && one.suffix.iter().zip(&other.suffix).all(|(one, other)| self.is_equivalent(*one, *other))
                    && match (one.rest, other.rest) {
                        (Some(one), Some(other)) => self.is_equivalent(one, other),
                        (None, None) => true,
                        _ => false,
                    }
            }
            (Type::Callable(one), Type::Callable(other)) => {
                let (one, other) = (store.signature(one), store.signature(other));
                one.params.len() == other.params.len()
                    && self.is_equivalent(one.returns, other.returns)
                    && one.params.iter().zip(&other.params).all(|(one, other)| self.is_equivalent(one.ty, other.ty))
            }
            (function @ (Type::Function(_) | Type::Method(_)), callable @ Type::Callable(_))
            | (callable @ Type::Callable(_), function @ (Type::Function(_) | Type::Method(_))) => {
                let candidates = self.fresh().candidates(function);
                matches!(&*candidates, [only] if !only.inferred && {
                    let is_needed = only.signature.params.iter().all(|param| {
                        !param.optional && matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal)
                    });
                    let called = Type::Callable(store.intern_signature(only.signature.clone()));
                    is_needed && self.is_equivalent(called, callable)
                })
            }
            (Type::SubclassOf(one), Type::SubclassOf(other)) => {
                self.is_equivalent(*store.single(one), *store.single(other))
            }
            (Type::Class(class), Type::SubclassOf(other)) | (Type::SubclassOf(other), Type::Class(class)) => {
                self.is_equivalent(self.normal_instance(class), *store.single(other))
            }
            (Type::Module(_) | Type::Namespace(_), Type::Instance(id))
            | (Type::Instance(id), Type::Module(_) | Type::Namespace(_)) => {
                is_module_class(self.db, store.instance(id).class)
            }
            _ => false,
        }
    }

    /// Whether `...` stands where another class has a variable for parameters, or some: any will do (typing specification,
    /// "Generics": ParamSpec).
    fn are_any_parameters(&self, any: Type, params: Type) -> bool {
        let store = self.db.store();
        let is_list = match params {
            Type::Var(var) => store.variable(var).kind == VarKind::Params,
            Type::Callable(_) => true,
            _ => false,
        };
        is_list
            && matches!(any, Type::Callable(id) if {
                let signature = store.signature(id);
                signature.returns == Type::Never
                    && signature.params.len() == 2
                    && signature.params.iter().all(|param| {
                        matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) && param.ty.is_dynamic()
                    })
            })
    }

    fn fits_literal(&self, given: Type, expected: Type) -> bool {
        let store = self.db.store();
        match (given, expected) {
            (Type::Literal(one), Type::Literal(other)) => one == other,
            // An enumeration with one member is that member.
            (Type::Instance(id), Type::Literal(other)) => {
                let class = store.instance(id).class;
                matches!(store.literal(other), Literal::Enum(of, _) if *of == class)
                    && classes::enum_members(self.db, class).len() == 1
            }
            _ => false,
        }
    }

    /// Whether instances of a class stand in for others: `__getattr__` makes attributes, and nobody said of what type.
    fn is_stand_in(&self, instance: InstanceId) -> bool {
        if self.plainly {
            return false;
        }
        let found = classes::members::find(self.db, instance, known::GETATTR, None);
        let Some(Type::Function(id)) = found.map(|found| found.member.ty) else { return false };
        let function = *self.db.store().function(id);
        !function.file.is_stub(self.db)
            && crate::definitions::functions::declared(self.db, function.file, function.function).returns.is_none()
    }

    /// `int` for `float` for `complex` (typing specification, "Special cases for float and complex").
    fn promotes(&self, have: ClassRef, want: ClassRef) -> bool {
        let want_float = is_builtin(self.db, want, known::FLOAT);
        if is_builtin(self.db, want, known::BYTES) {
            // Long taken as such by most code; told apart once there is a rule for buffers.
            return is_builtin(self.db, have, known::BYTEARRAY) || is_builtin(self.db, have, known::MEMORYVIEW);
        }
        let want_complex = is_builtin(self.db, want, known::COMPLEX);
        if !(want_float || want_complex) {
            return false;
        }
        classes::derives_builtin(self.db, have, known::INT)
            || (want_complex && classes::derives_builtin(self.db, have, known::FLOAT))
    }

    /// Whether a value of type `given` may stand where `expected` is asked for.
    pub fn is_assignable(&self, given: Type, expected: Type) -> bool {
        self.is_assignable_at(given, expected, self.nesting)
    }

    pub(crate) fn is_assignable_at(&self, given: Type, expected: Type, depth: u32) -> bool {
        // Types that hold themselves: nothing against them was found so far.
        if depth > 24 || given == expected {
            return true;
        }
        let depth = depth + 1;
        let store = self.db.store();
        if matches!(given, Type::Var(_)) && self.are_any_parameters(expected, given) {
            return true;
        }
        match (given, expected) {
            (Type::Never | Type::Any | Type::Unknown(_), _) | (_, Type::Any | Type::Unknown(_)) => true,
            // A part that is not known may be all there ever is.
            (Type::Union(id), _) => {
                let parts = store.union_parts(id);
                parts.iter().any(|part| part.is_dynamic())
                    || parts.iter().all(|part| self.is_assignable_at(*part, expected, depth))
            }
            (_, Type::Var(var)) => {
                let variable = store.variable(var);
                match variable.kind {
                    VarKind::Params | VarKind::Tuple => true,
                    // What is left of a variable was not solved: only its bound can be asked for.
                    VarKind::Type | VarKind::SelfType | VarKind::Alias => {
                        let limits = crate::definitions::type_variables::limits(self.db, var);
                        match (limits.bound, limits.constraints.is_empty()) {
                            (Some(bound), _) => self.is_assignable_at(given, bound, depth),
                            (None, true) => true,
                            (None, false) => {
                                limits.constraints.iter().any(|one| self.is_assignable_at(given, *one, depth))
                            }
                        }
                    }
                }
            }
            (_, Type::Union(id)) => {
                let parts = store.union_parts(id);
                parts.iter().any(|part| self.is_assignable_at(given, *part, depth))
                    || (matches!(given, Type::Var(_))
                        && self.is_assignable_at(self.upper_bound(given), expected, depth))
                    || self.expands_into(given, expected, depth)
            }
            (Type::Var(var), _) => {
                // Of constraints, one is meant at a time: code that goes through them all looks at each alone.
                let constraints = &crate::definitions::type_variables::limits(self.db, var).constraints;
                if !constraints.is_empty() {
                    return constraints.iter().any(|one| self.is_assignable_at(*one, expected, depth));
                }
                let upper = self.upper_bound(given);
                self.is_assignable_at(upper, expected, depth)
            }
            (_, Type::Never) => false,
            (_, Type::Instance(id)) => self.fits_instance(given, id, depth),
            (Type::None, _) => false,
            (_, Type::Literal(_)) => self.fits_literal(given, expected),
            (_, Type::Tuple(_)) => self.fits_tuple(given, expected, depth),
            (_, Type::Callable(_)) => self.fits_callable(given, expected, depth),
            (_, Type::SubclassOf(inner)) => self.fits_class(given, *store.single(inner), depth),
            (Type::SubclassOf(inner), Type::Class(_)) => {
                matches!(*store.single(inner), Type::Instance(own) if Type::Class(own) == expected)
            }
            (_, Type::Module(_) | Type::Namespace(_) | Type::Special(_) | Type::Form(_) | Type::Super(_)) => true,
            (_, Type::None) => false,
            (_, Type::Function(_) | Type::Method(_) | Type::Property(_) | Type::Class(_)) => {
                // These are the types of single values; a declaration can only be inferred to be one.
                !matches!(given, Type::None | Type::Instance(_) | Type::Literal(_) | Type::Tuple(_))
            }
        }
    }

    /// `bool` fits `Literal[True, False]`, an enumeration the union of its members.
    fn expands_into(&self, given: Type, expected: Type, depth: u32) -> bool {
        let mut infer = self.fresh();
        let expanded = infer.expand(given);
        expanded != given && self.is_assignable_at(expanded, expected, depth)
    }

    fn fits_tuple(&self, given: Type, expected: Type, depth: u32) -> bool {
        let store = self.db.store();
        let Type::Tuple(want) = expected else { return false };
        let have = match given {
            Type::Tuple(id) => id,
            Type::Instance(id) => {
                // A class that derives from a tuple.
                let mut infer = self.fresh();
                if let Some(shape) = infer.tuple_shape(given) {
                    shape
                } else {
                    let class = store.instance(id).class;
                    return match builtin(self.db, known::TUPLE) {
                        Some(tuple) => classes::derives(self.db, class, tuple) != Some(false),
                        None => true,
                    };
                }
            }
            _ => return false,
        };
        let (have, want) = (store.tuple(have), store.tuple(want));
        let element = |given: &Type, expected: &Type| self.is_assignable_at(*given, *expected, depth);
        match (have.rest, want.rest) {
            (None, None) => {
                have.prefix.len() == want.prefix.len()
                    && have.prefix.iter().zip(&want.prefix).all(|(given, expected)| element(given, expected))
            }
            (None, Some(rest)) => {
                let (front, back) = (want.prefix.len(), want.suffix.len());
                if have.prefix.len() < front + back {
                    return false;
                }
                let middle = have.prefix.len() - back;
                have.prefix[..front].iter().zip(&want.prefix).all(|(given, expected)| element(given, expected))
                    && have.prefix[front..middle].iter().all(|given| element(given, &rest))
                    && have.prefix[middle..].iter().zip(&want.suffix).all(|(given, expected)| element(given, expected))
            }
            // A tuple of unknown length is not one of a known length; of unknown elements, nobody can say.
            (Some(rest), None) => rest.is_dynamic(),
            (Some(have_rest), Some(rest)) => {
                element(&have_rest, &rest)
                    && have
                        .prefix
                        .iter()
                        .zip(want.prefix.iter().chain(std::iter::repeat(&rest)))
                        .all(|(given, expected)| element(given, expected))
            }
        }
    }

    pub(crate) fn is_protocol_itself(&self, id: InstanceId) -> bool {
        let class = self.db.store().instance(id).class;
        classes::info(self.db, class).kind == ClassKind::Protocol
            && class.file.origin(self.db) != leitmotiv_project::resolve::Origin::Bundled
    }

    fn fits_class(&self, given: Type, inner: Type, depth: u32) -> bool {
        let store = self.db.store();
        match given {
            // A protocol itself makes nothing (typing specification, "Protocols": type[] and class objects).
            Type::Class(id)
                if self.is_protocol_itself(id)
                    && matches!(inner, Type::Instance(want) if self.is_protocol_itself(want)) =>
            {
                false
            }
            Type::Class(id) => self.is_assignable_at(self.normal_instance(id), inner, depth),
            Type::SubclassOf(own) => self.is_assignable_at(*store.single(own), inner, depth),
            Type::Instance(id) => {
                // A metaclass's instance, or `type` itself, may be any class.
                let class = store.instance(id).class;
                classes::derives_builtin(self.db, class, known::TYPE)
                    || classes::info(self.db, class).unknown_base.is_some()
            }
            Type::Special(_) | Type::Form(_) | Type::Callable(_) => true,
            _ => false,
        }
    }

    fn fits_instance(&self, given: Type, expected: InstanceId, depth: u32) -> bool {
        let store = self.db.store();
        let want = store.instance(expected);
        if is_builtin(self.db, want.class, known::OBJECT) {
            return true;
        }
        let own = match given {
            Type::None => {
                return match classes::info(self.db, want.class).kind {
                    ClassKind::Protocol => self.fits_protocol(given, expected, depth),
                    _ => crate::resolve::is_standard(self.db, want.class, known::TYPES, known::NONE_TYPE),
                };
            }
            Type::Class(_) | Type::SubclassOf(_) if is_builtin(self.db, want.class, known::TYPE) => return true,
            Type::Function(_)
            | Type::Method(_)
            | Type::Callable(_)
            | Type::Module(_)
            | Type::Namespace(_)
            | Type::Property(_)
            | Type::Super(_)
            | Type::Special(_)
            | Type::Form(_) => {
                return self.fits_value(given, expected, depth);
            }
            Type::SubclassOf(_) => return true,
            given => match self.nominal(given) {
                Some(own) => own,
                None => return true,
            },
        };
        // A text that is written out is such a text (PEP 675).
        if matches!(given, Type::Literal(_)) && self.is_literal_string(expected) {
            return matches!(given, Type::Literal(id) if matches!(store.literal(id), Literal::Str(_)));
        }
        let have = store.instance(own);
        // A typed dictionary is a mapping of its items, and no dict (typing specification, "Typed dictionaries": assignability).
        if let ClassKind::TypedDict { .. } = classes::info(self.db, have.class).kind
            && !matches!(classes::info(self.db, want.class).kind, ClassKind::TypedDict { .. } | ClassKind::Protocol)
            && classes::info(self.db, have.class).unknown_base.is_none()
        {
            return self.is_mapping_of_items(want, depth);
        }
        if let Some(base) = as_base(self.db, own, want.class) {
            return self.arguments_fit(want.class, &store.instance(base).args, &want.args, depth);
        }
        if self.promotes(have.class, want.class) {
            return true;
        }
        let want_info = classes::info(self.db, want.class);
        if want_info.kind == ClassKind::Protocol {
            return self.fits_protocol(given, expected, depth);
        }
        let have_info = classes::info(self.db, have.class);
        if matches!(have_info.kind, ClassKind::TypedDict { .. }) {
            return match want_info.kind {
                ClassKind::TypedDict { .. } => self.has_items_of(own, expected, depth),
                _ => false,
            };
        }
        have_info.unknown_base.is_some() || have_info.is_registered || self.is_stand_in(own)
    }

    /// Whether what is asked for is a mapping from texts to anything: so much every typed dictionary is.
    fn is_mapping_of_items(&self, want: &crate::types::Instance, depth: u32) -> bool {
        let db = self.db;
        match classes::shown(db, want.class) {
            "_TypedDict" => true,
            "Mapping" => {
                let [key, value] = want.args.as_ref() else { return true };
                let text = crate::resolve::builtin_instance(db, known::STR, &[]);
                let object = crate::resolve::builtin_instance(db, known::OBJECT, &[]);
                self.is_assignable_at(text, *key, depth) && self.is_assignable_at(object, *value, depth)
            }
            // What nobody gave arguments takes any mapping there is.
            "dict" | "MutableMapping" => want.args.iter().all(|arg| arg.is_unknown()),
            _ => is_builtin(db, want.class, known::OBJECT),
        }
    }

    /// Whether one typed dictionary has all items of another, required alike and of the same types (typing specification,
    /// "Typed dictionaries: assignability").
    fn has_items_of(&self, own: InstanceId, expected: InstanceId, depth: u32) -> bool {
        let have = classes::dataclass::fields_of(self.db, own);
        classes::dataclass::fields_of(self.db, expected).into_iter().all(|want| {
            have.iter().any(|field| {
                field.name == want.name
                    && self.is_assignable_at(field.ty, want.ty, depth)
                    // What is only read may be there always, and be something narrower (PEP 705).
                    && match want.read_only {
                        true => want.optional || !field.optional,
                        false => {
                            !field.read_only
                                && field.optional == want.optional
                                && self.is_assignable_at(want.ty, field.ty, depth)
                        }
                    }
            })
        })
    }

    /// Functions, modules and other values whose class matters only as a protocol.
    fn fits_value(&self, given: Type, expected: InstanceId, depth: u32) -> bool {
        let class = self.db.store().instance(expected).class;
        let info = classes::info(self.db, class);
        if info.kind == ClassKind::Protocol {
            return match given {
                Type::Namespace(_) => true,
                _ => {
                    let hashable = classes::shown(self.db, class) == "Hashable";
                    hashable || self.fits_protocol(given, expected, depth)
                }
            };
        }
        let module = class.file.module(self.db);
        match given {
            Type::Function(_) | Type::Method(_) | Type::Callable(_) | Type::Module(_) | Type::Namespace(_) => {
                module == known::TYPES || info.unknown_base.is_some()
            }
            Type::Property(_) => is_builtin(self.db, class, known::PROPERTY),
            _ => true,
        }
    }

    fn arguments_fit(&self, class: ClassRef, have: &[Type], want: &[Type], depth: u32) -> bool {
        if have.is_empty() || want.is_empty() {
            return true;
        }
        let info = classes::info(self.db, class);
        let store = self.db.store();
        // What stands for a tuple of variables may be any number of anything.
        let is_open = |ty: &Type| matches!(ty, Type::Tuple(id) if store.tuple(*id).is_anything());
        info.params.iter().zip(have.iter().zip(want)).all(|(var, (have, want))| {
            if store.variable(*var).kind == VarKind::Tuple && (is_open(have) || is_open(want)) {
                return true;
            }
            match crate::definitions::variance::of(self.db, class, *var) {
                Variance::Covariant | Variance::Inferred => self.is_assignable_at(*have, *want, depth),
                Variance::Contravariant => self.is_assignable_at(*want, *have, depth),
                Variance::Invariant => {
                    self.is_assignable_at(*have, *want, depth) && self.is_assignable_at(*want, *have, depth)
                }
            }
        })
    }
}
