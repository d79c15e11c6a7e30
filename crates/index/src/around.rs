//! What a place stands in: ranges that lie within each other or apart, asked by a place.

use leitmotiv_syntax::{TextRange, TextSize};

/// Ranges with what they belong to.
#[derive(Debug)]
pub struct Around<I> {
    /// By start, outer ones first; with the number of the range right around each.
    ranges: Vec<(TextRange, I, Option<u32>)>,
}

impl<I> Default for Around<I> {
    fn default() -> Around<I> {
        Around { ranges: Vec::new() }
    }
}

impl<I: Copy> Around<I> {
    /// From ranges in any order; none may reach over another's end.
    #[must_use]
    pub fn new(ranges: impl IntoIterator<Item = (TextRange, I)>) -> Around<I> {
        let mut sorted: Vec<(TextRange, I)> = ranges.into_iter().collect();
        sorted.sort_by_key(|(range, _)| (range.start(), std::cmp::Reverse(range.end())));
        let mut open: Vec<u32> = Vec::new();
        let mut all: Vec<(TextRange, I, Option<u32>)> = Vec::with_capacity(sorted.len());
        for (number, (range, item)) in sorted.into_iter().enumerate() {
            while open.last().is_some_and(|outer| all[*outer as usize].0.end() <= range.start()) {
                open.pop();
            }
            all.push((range, item, open.last().copied()));
            open.push(u32::try_from(number).unwrap_or(u32::MAX));
        }
        Around { ranges: all }
    }

    /// What a place stands in, innermost first. The end of a range is not in it.
    pub fn of(&self, at: TextSize) -> impl Iterator<Item = I> + '_ {
        let behind = self.ranges.partition_point(|(range, ..)| range.start() <= at);
        let mut next = behind.checked_sub(1);
        std::iter::from_fn(move || {
            while let Some(number) = next {
                let (range, item, outer) = self.ranges[number];
                next = outer.map(|outer| outer as usize);
                if range.contains(at) {
                    return Some(item);
                }
            }
            None
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_innermost_comes_first() {
        let range = |start: u32, end: u32| TextRange::new(TextSize::new(start), TextSize::new(end));
        let around =
            Around::new([(range(10, 20), 'b'), (range(0, 50), 'a'), (range(12, 15), 'c'), (range(30, 40), 'd')]);
        let of = |at: u32| around.of(TextSize::new(at)).collect::<String>();
        assert_eq!(of(13), "cba");
        assert_eq!(of(15), "ba");
        assert_eq!(of(25), "a");
        assert_eq!(of(39), "da");
        assert_eq!(of(50), "");
    }
}
