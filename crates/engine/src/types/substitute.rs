//! Putting types in the place of type variables: the one walk over the structure of types.

use leitmotiv_index::tree::ParamKind;
use rustc_hash::FxHashMap;
use smallvec::SmallVec;

use super::store::Store;
use super::union::join;
use super::{Instance, Signature, SignatureParam, Tuple, Type, VarId, VarKind};

/// What stands for type variables.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Substitution {
    pairs: SmallVec<[(VarId, Type); 4]>,
}

impl Substitution {
    /// One that changes nothing.
    #[must_use]
    pub fn new() -> Substitution {
        Substitution::default()
    }

    /// From parameters and their arguments, in order.
    #[must_use]
    pub fn of(params: &[VarId], args: &[Type]) -> Substitution {
        Substitution { pairs: params.iter().copied().zip(args.iter().copied()).collect() }
    }

    /// What stands for a variable.
    #[must_use]
    pub fn get(&self, var: VarId) -> Option<Type> {
        self.pairs.iter().find(|(other, _)| *other == var).map(|(_, ty)| *ty)
    }

    /// Sets what stands for a variable.
    pub fn set(&mut self, var: VarId, ty: Type) {
        match self.pairs.iter_mut().find(|(other, _)| *other == var) {
            Some(pair) => pair.1 = ty,
            None => self.pairs.push((var, ty)),
        }
    }

    /// Whether it changes nothing.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.pairs.is_empty()
    }

    /// Applies it to a type.
    #[must_use]
    pub fn apply(&self, store: &Store, ty: Type) -> Type {
        if self.is_empty() {
            return ty;
        }
        rewrite(store, ty, &mut |var| self.get(var))
    }
}

/// Replaces the variables for which `replace` gives something; the same for each time that it is asked for one.
pub fn rewrite(store: &Store, ty: Type, replace: &mut dyn FnMut(VarId) -> Option<Type>) -> Type {
    match ty {
        Type::Instance(id) | Type::Class(id) if store.instance(id).args.is_empty() => ty,
        Type::None | Type::Any | Type::Never | Type::Unknown(_) | Type::Literal(_) | Type::Module(_) => ty,
        _ => Rewrite { store, replace, steps: 0, known: FxHashMap::default() }.of(ty),
    }
}

/// One walk. Types share their parts, and written out one may be endlessly larger than it is: after some steps, parts that
/// come again are not gone through again.
struct Rewrite<'a> {
    store: &'a Store,
    replace: &'a mut dyn FnMut(VarId) -> Option<Type>,
    steps: u32,
    known: FxHashMap<Type, Type>,
}

/// From how many steps on results are remembered.
const LONG: u32 = 64;

impl Rewrite<'_> {
    fn of(&mut self, ty: Type) -> Type {
        self.steps += 1;
        if self.steps <= LONG {
            return self.parts_of(ty);
        }
        if let Some(known) = self.known.get(&ty) {
            return *known;
        }
        let result = self.parts_of(ty);
        self.known.insert(ty, result);
        result
    }

    fn all(&mut self, types: &[Type]) -> Box<[Type]> {
        types.iter().map(|ty| self.of(*ty)).collect()
    }

    fn parts_of(&mut self, ty: Type) -> Type {
        let store = self.store;
        match ty {
            Type::Var(var) if store.variable(var).kind == VarKind::Alias => ty,
            Type::Var(var) => (self.replace)(var).unwrap_or(ty),
            Type::Instance(id) | Type::Class(id) => {
                let instance = store.instance(id);
                if instance.args.is_empty() {
                    return ty;
                }
                let args = self.all(&instance.args);
                if args == instance.args {
                    return ty;
                }
                let id = store.intern_instance(Instance { class: instance.class, args });
                if matches!(ty, Type::Class(_)) { Type::Class(id) } else { Type::Instance(id) }
            }
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                let prefix = self.all(&tuple.prefix);
                let rest = tuple.rest.map(|rest| (rest, self.of(rest)));
                let suffix = self.all(&tuple.suffix);
                let changed = match rest {
                    Some((before, Type::Tuple(inner))) if is_variadic(store, before) => {
                        spliced(&prefix, store.tuple(inner), &suffix)
                    }
                    rest => Tuple { prefix, rest: rest.map(|(_, rest)| rest), suffix },
                };
                Type::Tuple(store.intern_tuple(changed))
            }
            Type::Union(id) => join(store, self.all(store.union_parts(id)).iter().copied()),
            Type::Callable(id) => Type::Callable(store.intern_signature(self.signature(store.signature(id)))),
            Type::SubclassOf(id) => {
                let inner = self.of(*store.single(id));
                Type::SubclassOf(store.intern_type(inner))
            }
            Type::Form(id) => Type::Form(store.intern_type(self.of(*store.single(id)))),
            Type::Function(id) | Type::Property(id) => {
                let mut function = *store.function(id);
                let Some(owner) = function.owner else { return ty };
                if let Type::Instance(owner) = self.of(Type::Instance(owner)) {
                    function.owner = Some(owner);
                }
                let id = store.intern_function(function);
                if matches!(ty, Type::Property(_)) { Type::Property(id) } else { Type::Function(id) }
            }
            Type::Method(id) | Type::Super(id) => {
                let mut method = *store.method(id);
                method.function = self.of(method.function);
                method.receiver = self.of(method.receiver);
                let id = store.intern_method(method);
                if matches!(ty, Type::Super(_)) { Type::Super(id) } else { Type::Method(id) }
            }
            Type::Never
            | Type::Any
            | Type::Unknown(_)
            | Type::None
            | Type::Literal(_)
            | Type::Module(_)
            | Type::Namespace(_)
            | Type::Special(_) => ty,
        }
    }

    fn signature(&mut self, signature: &Signature) -> Signature {
        let store = self.store;
        let mut params: Vec<SignatureParam> = Vec::with_capacity(signature.params.len());
        let mut waiting = signature.params.iter().peekable();
        while let Some(param) = waiting.next() {
            let ty = self.of(param.ty);
            let is_list = ty != param.ty
                && param.kind == ParamKind::VarArgs
                && matches!(param.ty, Type::Var(var) if store.variable(var).kind == VarKind::Params);
            match ty {
                // A list takes the place of `*args` and `**kwargs` that stand for it.
                Type::Callable(id) if is_list => {
                    params.extend(store.signature(id).params.iter().cloned());
                    waiting.next_if(|next| next.ty == param.ty);
                }
                // What a tuple of variables stands for (PEP 646) is taken by position.
                Type::Tuple(id)
                    if ty != param.ty && param.kind == ParamKind::VarArgs && is_variadic(store, param.ty) =>
                {
                    params.extend(placed(store.tuple(id), param));
                }
                _ => params.push(SignatureParam { ty, ..param.clone() }),
            }
        }
        Signature { params: params.into(), returns: self.of(signature.returns) }
    }
}

/// Whether a type is a tuple of variables, `*Ts` (PEP 646).
#[must_use]
pub fn is_variadic(store: &Store, ty: Type) -> bool {
    matches!(ty, Type::Var(var) if store.variable(var).kind == VarKind::Tuple)
}

/// A tuple between two rows of elements, as one tuple.
#[must_use]
pub fn spliced(prefix: &[Type], inner: &Tuple, suffix: &[Type]) -> Tuple {
    match inner.rest {
        Some(rest) => Tuple {
            prefix: [prefix, &inner.prefix].concat().into(),
            rest: Some(rest),
            suffix: [&inner.suffix, suffix].concat().into(),
        },
        None => Tuple { prefix: [prefix, &inner.prefix, suffix].concat().into(), rest: None, suffix: [].into() },
    }
}

/// The parameters that take a tuple's elements; `list` is the parameter that stood for all of them.
pub fn placed(tuple: &Tuple, list: &SignatureParam) -> Vec<SignatureParam> {
    let mut params: Vec<SignatureParam> = tuple.prefix.iter().map(|ty| SignatureParam::placed(*ty)).collect();
    params.extend(tuple.rest.map(|ty| SignatureParam { ty, ..list.clone() }));
    params
}

/// Replaces variables in a signature.
pub fn signature(store: &Store, signature: &Signature, replace: &mut dyn FnMut(VarId) -> Option<Type>) -> Signature {
    Rewrite { store, replace, steps: 0, known: FxHashMap::default() }.signature(signature)
}

/// Whether any variable occurs in a type.
#[must_use]
pub fn has_variables(store: &Store, ty: Type) -> bool {
    let mut found = false;
    // Asking is walking: nothing is replaced.
    rewrite(store, ty, &mut |_| {
        found = true;
        None
    });
    found
}

/// The variables of a type, in the order of their first appearance.
#[must_use]
pub fn variables(store: &Store, ty: Type) -> Vec<VarId> {
    let mut found = Vec::new();
    rewrite(store, ty, &mut |var| {
        if !found.contains(&var) {
            found.push(var);
        }
        None
    });
    found
}
