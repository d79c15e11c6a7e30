//! Typed numbers and the vectors they index.

use std::marker::PhantomData;
use std::ops::{Index, IndexMut};

use rustc_hash::FxHashMap;
use serde::{Deserialize, Serialize};

/// A number that stands for a record of one module; only meaningful together with that module.
pub trait Id: Copy {
    /// The number for a 0-based position.
    fn new(index: usize) -> Self;
    /// The 0-based position.
    fn index(self) -> usize;
}

macro_rules! id {
    ($($(#[$doc:meta])* $name:ident;)*) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        pub struct $name(pub u32);

        impl Id for $name {
            fn new(index: usize) -> Self {
                $name(u32::try_from(index).unwrap_or(u32::MAX))
            }

            fn index(self) -> usize {
                self.0 as usize
            }
        }
    )*};
}

id! {
    /// An expression.
    ExprId;
    /// A scope.
    ScopeId;
    /// A `lambda`.
    LambdaId;
    /// A comprehension or generator expression.
    ComprehensionId;
    /// A unit of flow: the module or one function; class bodies, lambdas and comprehensions belong to the body around them.
    BodyId;
    /// A place where a name or attribute is given a value.
    DefId;
    /// A value in the sense of static single assignment.
    ValueId;
    /// A condition under which a place in a body is reached.
    ReachId;
    /// A pattern of a `match` statement.
    PatternId;
}

/// A number that stands for a definition of one module by what it is called and where it is written, so that it stays the same while
/// other definitions come and go; only meaningful together with that module.
pub trait Key: Copy + Eq {
    /// The key of that number.
    fn new(number: u32) -> Self;
    /// Its number: no position.
    fn number(self) -> u32;
}

macro_rules! key {
    ($($(#[$doc:meta])* $name:ident;)*) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
        pub struct $name(pub u32);

        impl Key for $name {
            fn new(number: u32) -> Self {
                $name(number)
            }

            fn number(self) -> u32 {
                self.0
            }
        }
    )*};
}

key! {
    /// A `def`.
    FunctionId;
    /// A `class`.
    ClassId;
}

/// Records by key, in the order in which they were put in.
#[derive(Debug, Clone)]
pub struct KeyVec<K, T> {
    items: Vec<(K, T)>,
    places: FxHashMap<u32, u32>,
    /// Where to look next for a free number, for numbers that were taken when they were asked for.
    next: FxHashMap<u32, u32>,
}

impl<K: Key, T> KeyVec<K, T> {
    /// A key made of a number, or of the next one that is free.
    pub fn free(&mut self, number: u32) -> K {
        if !self.places.contains_key(&number) {
            return K::new(number);
        }
        let next = self.next.entry(number).or_insert(number);
        while self.places.contains_key(next) {
            *next = next.wrapping_add(1);
        }
        K::new(*next)
    }

    /// Puts a record in; its key must be free.
    pub fn push(&mut self, key: K, item: T) {
        let place = u32::try_from(self.items.len()).unwrap_or(u32::MAX);
        self.places.insert(key.number(), place);
        self.items.push((key, item));
    }

    /// The 0-based place of a key in the order.
    #[must_use]
    pub fn place(&self, key: K) -> Option<usize> {
        self.places.get(&key.number()).map(|place| *place as usize)
    }

    /// The record, where there is one of that key.
    #[must_use]
    pub fn get(&self, key: K) -> Option<&T> {
        self.place(key).and_then(|place| self.items.get(place)).map(|(_, item)| item)
    }

    /// How many records there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.items.len()
    }

    /// Whether there are none.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.items.is_empty()
    }

    /// Records with their keys, in order.
    pub fn iter(&self) -> impl DoubleEndedIterator<Item = (K, &T)> {
        self.items.iter().map(|(key, item)| (*key, item))
    }

    /// Gives back memory that is not used.
    pub fn shrink_to_fit(&mut self) {
        self.items.shrink_to_fit();
        self.places.shrink_to_fit();
        self.next = FxHashMap::default();
    }
}

impl<K, T> Default for KeyVec<K, T> {
    fn default() -> Self {
        KeyVec { items: Vec::new(), places: FxHashMap::default(), next: FxHashMap::default() }
    }
}

impl<K: Key, T> Index<K> for KeyVec<K, T> {
    type Output = T;

    fn index(&self, key: K) -> &T {
        &self.items[self.places[&key.number()] as usize].1
    }
}

impl<K: Key, T> IndexMut<K> for KeyVec<K, T> {
    fn index_mut(&mut self, key: K) -> &mut T {
        let place = self.places[&key.number()] as usize;
        &mut self.items[place].1
    }
}

/// A vector indexed by one kind of id.
#[derive(Debug, Clone, PartialEq)]
pub struct IdVec<I, T> {
    items: Vec<T>,
    id: PhantomData<I>,
}

impl<I: Id, T> IdVec<I, T> {
    /// An empty vector.
    #[must_use]
    pub fn new() -> Self {
        IdVec { items: Vec::new(), id: PhantomData }
    }

    /// Appends a record and gives its id.
    pub fn push(&mut self, item: T) -> I {
        self.items.push(item);
        I::new(self.items.len() - 1)
    }

    /// How many records there are.
    #[must_use]
    pub fn len(&self) -> usize {
        self.items.len()
    }

    /// Whether there are none.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        self.items.is_empty()
    }

    /// The id that the next [`IdVec::push`] will give.
    #[must_use]
    pub fn next_id(&self) -> I {
        I::new(self.items.len())
    }

    /// Records with their ids, in order.
    pub fn iter(&self) -> impl DoubleEndedIterator<Item = (I, &T)> {
        self.items.iter().enumerate().map(|(index, item)| (I::new(index), item))
    }

    /// The record, where there is one of that id.
    #[must_use]
    pub fn get(&self, id: I) -> Option<&T> {
        self.items.get(id.index())
    }

    /// How many records at the front a condition holds for, where it holds for none behind the first that it does not hold for.
    #[must_use]
    pub fn partition_point(&self, is_in_front: impl FnMut(&T) -> bool) -> usize {
        self.items.partition_point(is_in_front)
    }

    /// Makes room for so many more records.
    pub fn reserve(&mut self, more: usize) {
        self.items.reserve(more);
    }

    /// Gives back memory that is not used.
    pub fn shrink_to_fit(&mut self) {
        self.items.shrink_to_fit();
    }
}

impl<I: Id, T> Default for IdVec<I, T> {
    fn default() -> Self {
        IdVec::new()
    }
}

impl<I: Id, T> Index<I> for IdVec<I, T> {
    type Output = T;

    fn index(&self, id: I) -> &T {
        &self.items[id.index()]
    }
}

impl<I: Id, T> IndexMut<I> for IdVec<I, T> {
    fn index_mut(&mut self, id: I) -> &mut T {
        &mut self.items[id.index()]
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_key_that_is_taken_gives_the_next_one_that_is_free() {
        let mut ferries: KeyVec<ClassId, &str> = KeyVec::default();
        for name in ["Gannet", "Tern", "Skua"] {
            let key = ferries.free(u32::MAX);
            ferries.push(key, name);
        }
        let keys: Vec<u32> = ferries.iter().map(|(key, _)| key.0).collect();
        assert_eq!(keys, [u32::MAX, 0, 1]);
        // One that was asked for by itself is passed over as well.
        let key = ferries.free(2);
        ferries.push(key, "Petrel");
        assert_eq!(ferries.free(u32::MAX), ClassId(3));
    }

    #[test]
    fn records_are_found_by_key_and_walked_in_order() {
        let mut ferries: KeyVec<ClassId, String> = KeyVec::default();
        for (number, name) in [(70, "Gannet"), (3, "Tern"), (41, "Skua")] {
            ferries.push(ClassId(number), name.to_owned());
        }
        ferries[ClassId(3)].push('n');
        assert_eq!(ferries[ClassId(3)], "Ternn");
        assert_eq!(ferries.get(ClassId(4)), None);
        assert_eq!((ferries.place(ClassId(41)), ferries.len()), (Some(2), 3));
        ferries.shrink_to_fit();
        let names: Vec<&str> = ferries.iter().map(|(_, name)| name.as_str()).collect();
        assert_eq!(names, ["Gannet", "Ternn", "Skua"]);
    }
}
