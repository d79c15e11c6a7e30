//! What type handles stand for. The tables only grow; equal things have equal handles, whichever thread asks first.

use std::fmt;
use std::hash::{BuildHasher, BuildHasherDefault, Hash};
use std::sync::atomic::{AtomicU32, Ordering};

use dashmap::DashMap;
use rustc_hash::FxHasher;
use serde::de::Error as _;
use serde::ser::Error as _;
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use smallvec::SmallVec;

use crate::base::db::Db;
use crate::base::said;

use super::{
    Cause, CauseId, FunctionRef, FunctionTypeId, Instance, InstanceId, Literal, LiteralId, Method, MethodId, Signature,
    SignatureId, Tuple, TupleId, Type, TypeId, TypeVariable, UnionId, VarId,
};

/// Numbers that were asked for not long ago, by hashes. What is in it is only a guess, to be held against the table: so no thread waits
/// for another one.
struct Recent {
    numbers: Box<[AtomicU32]>,
}

impl Recent {
    /// How many are kept: two to the power of this.
    const BITS: u32 = 14;

    /// Nothing is known yet.
    fn new() -> Recent {
        Recent { numbers: (0..1_u32 << Self::BITS).map(|_| AtomicU32::new(u32::MAX)).collect() }
    }

    /// The number that was kept last of those whose hashes fall together.
    fn guess(&self, hash: u64) -> u32 {
        self.slot(hash).load(Ordering::Relaxed)
    }

    /// Keeps a number.
    fn keep(&self, hash: u64, number: u32) {
        self.slot(hash).store(number, Ordering::Relaxed);
    }

    fn slot(&self, hash: u64) -> &AtomicU32 {
        // Spread over all of the bits once more (Fibonacci hashing).
        &self.numbers[(hash.wrapping_mul(0x9E37_79B9_7F4A_7C15) >> (u64::BITS - Self::BITS)) as usize]
    }
}

/// One table.
struct Table<T> {
    recent: Recent,
    /// By the items' hashes, the numbers of those that have it: an item is kept once, which matters where it is a long union.
    numbers: DashMap<u64, SmallVec<[u32; 2]>, BuildHasherDefault<FxHasher>>,
    items: boxcar::Vec<T>,
}

impl<T: Eq + Hash> Table<T> {
    fn new() -> Table<T> {
        Table { recent: Recent::new(), numbers: DashMap::default(), items: boxcar::Vec::new() }
    }

    fn intern(&self, item: T) -> u32 {
        let hash = BuildHasherDefault::<FxHasher>::default().hash_one(&item);
        let guess = self.recent.guess(hash);
        if self.items.get(guess as usize).is_some_and(|known| *known == item) {
            return guess;
        }
        let number = self.number(item, hash);
        self.recent.keep(hash, number);
        number
    }

    fn number(&self, item: T, hash: u64) -> u32 {
        let find = |numbers: &[u32]| numbers.iter().copied().find(|number| self.items[*number as usize] == item);
        if let Some(number) = self.numbers.get(&hash).and_then(|numbers| find(&numbers)) {
            return number;
        }
        let mut numbers = self.numbers.entry(hash).or_default();
        if let Some(number) = find(&numbers) {
            return number;
        }
        let number = u32::try_from(self.items.push(item)).unwrap_or(u32::MAX);
        numbers.push(number);
        number
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

        $(
            /// What it stands for, as a sum, where types are spoken on the thread ([`said::speak`]).
            impl fmt::Debug for $id {
                fn fmt(&self, to: &mut fmt::Formatter<'_>) -> fmt::Result {
                    match said::sum_of::<$id>(self.0, |db| db.store().$get(*self)) {
                        Some(sum) => write!(to, "{sum:016x}"),
                        None => write!(to, concat!(stringify!($id), "({})"), self.0),
                    }
                }
            }

            /// What it stands for, where types are spoken on the thread.
            impl Serialize for $id {
                fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
                    said::with(|db| db.store().$get(*self).serialize(to)).unwrap_or_else(|| Err(S::Error::custom(said::SILENT)))
                }
            }

            impl<'de> Deserialize<'de> for $id {
                fn deserialize<D: Deserializer<'de>>(from: D) -> Result<$id, D::Error> {
                    let item = <$item>::deserialize(from)?;
                    said::with(|db| db.store().$intern(item)).ok_or_else(|| D::Error::custom(said::SILENT))
                }
            }
        )*
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
