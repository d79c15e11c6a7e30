//! What type handles stand for. The tables only grow; equal things have equal handles, whichever thread asks first.

use std::hash::{BuildHasherDefault, Hash};

use dashmap::DashMap;
use rustc_hash::FxHasher;

use super::{
    Cause, CauseId, FunctionRef, FunctionTypeId, Instance, InstanceId, Literal, LiteralId, Method, MethodId, Signature,
    SignatureId, Tuple, TupleId, Type, TypeId, TypeVariable, UnionId, VarId,
};

/// One table.
struct Table<T> {
    numbers: DashMap<T, u32, BuildHasherDefault<FxHasher>>,
    items: boxcar::Vec<T>,
}

impl<T: Clone + Eq + Hash> Table<T> {
    fn new() -> Table<T> {
        Table { numbers: DashMap::default(), items: boxcar::Vec::new() }
    }

    fn intern(&self, item: T) -> u32 {
        if let Some(number) = self.numbers.get(&item) {
            return *number;
        }
        *self.numbers.entry(item.clone()).or_insert_with(|| u32::try_from(self.items.push(item)).unwrap_or(u32::MAX))
    }

    fn get(&self, number: u32) -> &T {
        &self.items[number as usize]
    }
}

macro_rules! store {
    ($($field:ident: $item:ty, $id:ident, $intern:ident, $get:ident;)*) => {
        /// All tables.
        pub struct Store {
            $($field: Table<$item>,)*
        }

        impl Store {
            /// Empty tables.
            #[must_use]
            pub fn new() -> Store {
                Store { $($field: Table::new(),)* }
            }

            $(
                /// The handle for an item.
                #[must_use]
                pub fn $intern(&self, item: $item) -> $id {
                    $id(self.$field.intern(item))
                }

                /// What a handle stands for.
                #[must_use]
                pub fn $get(&self, id: $id) -> &$item {
                    self.$field.get(id.0)
                }
            )*
        }
    };
}

store! {
    instances: Instance, InstanceId, intern_instance, instance;
    tuples: Tuple, TupleId, intern_tuple, tuple;
    literals: Literal, LiteralId, intern_literal, literal;
    functions: FunctionRef, FunctionTypeId, intern_function, function;
    methods: Method, MethodId, intern_method, method;
    signatures: Signature, SignatureId, intern_signature, signature;
    unions: Box<[Type]>, UnionId, intern_union, union_parts;
    variables: TypeVariable, VarId, intern_variable, variable;
    causes: Cause, CauseId, intern_cause, cause;
    types: Type, TypeId, intern_type, single;
}

impl Default for Store {
    fn default() -> Store {
        Store::new()
    }
}
