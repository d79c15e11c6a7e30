//! Chance that can be had again.

/// Numbers that look like chance, the same for the same seed; a seed is not 0.
pub struct Random(pub u64);

impl Random {
    /// A number below a limit.
    pub fn below(&mut self, limit: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        usize::try_from(self.0 % limit.max(1) as u64).unwrap()
    }

    /// One of some things.
    pub fn one<'a, T>(&mut self, all: &'a [T]) -> &'a T {
        &all[self.below(all.len())]
    }
}
