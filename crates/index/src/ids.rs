//! Typed numbers and the vectors they index.

use std::marker::PhantomData;
use std::ops::{Index, IndexMut};

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
    /// A `def`.
    FunctionId;
    /// A `class`.
    ClassId;
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
