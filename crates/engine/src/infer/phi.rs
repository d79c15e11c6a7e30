//! Narrowings of one value that come together again behind a condition: what one way took away the other has.

use leitmotiv_index::tree::{Expr, Value, ValueId};
use smallvec::SmallVec;

use super::Infer;

/// Joins of more ways than this are not looked at. Said in docs/architecture.md.
const MOST_WAYS: usize = 24;

/// Nor are more ways than this gone through to find them. Said in docs/architecture.md.
const MOST_STEPS: u32 = 200;

impl Infer<'_> {
    /// The value that is narrowed on all ways that a join brings together, where the ways have all of it between them.
    pub(crate) fn merged(&mut self, start: u32, len: u32) -> Option<ValueId> {
        let mut ways: SmallVec<[ValueId; 8]> = SmallVec::new();
        let mut steps = MOST_STEPS;
        self.ways_into(start, len, &mut ways, &mut steps)?;
        let mut whole = ways.clone();
        if let Some(only) = self.merged_ways(ways) {
            return Some(only);
        }
        let mut changed = false;
        for way in &mut whole {
            let before = self.without_idle_calls(*way);
            changed |= before != *way;
            *way = before;
        }
        whole.sort_unstable();
        whole.dedup();
        if !changed {
            return None;
        }
        // What is narrower than another way adds nothing to it.
        let all = whole.clone();
        whole.retain(|way| !all.iter().any(|other| self.is_narrowing_of(*way, *other)));
        self.merged_ways(whole)
    }

    fn merged_ways(&mut self, mut ways: SmallVec<[ValueId; 8]>) -> Option<ValueId> {
        loop {
            let found = (0..ways.len()).find_map(|one| {
                let place = (0..ways.len()).find(|other| *other != one && self.complete(ways[one], ways[*other]))?;
                Some((one, place))
            });
            let Some((one, other)) = found else { break };
            let Value::Narrow { of, .. } = self.index.values[ways[one]] else { break };
            ways[one] = of;
            ways.swap_remove(other);
            // What is narrower than another way adds nothing to it.
            if let Some(place) = ways.iter().position(|way| *way == of) {
                let kept = ways[place];
                ways.retain(|way| *way == kept || !self.is_narrowing_of(*way, kept));
            }
            if let Value::Phi { start, len, is_loop: false } = self.index.values[of] {
                ways.retain(|way| *way != of);
                let mut steps = MOST_STEPS;
                self.ways_into(start, len, &mut ways, &mut steps)?;
                ways.push(of);
            }
            ways.sort_unstable();
            ways.dedup();
        }
        match ways.as_slice() {
            [only] => Some(*only),
            _ => None,
        }
    }

    /// A value before the calls that might have narrowed it and did not, being no guards.
    fn without_idle_calls(&mut self, mut value: ValueId) -> ValueId {
        while let Value::Narrow { of, condition, .. } = self.index.values[value]
            && matches!(self.index.exprs[condition], Expr::Call { .. })
            && self.value(of) == self.value(value)
        {
            value = of;
        }
        value
    }

    /// The values that come into a join, those of joins among them in turn; `None` if there are too many.
    fn ways_into(&mut self, start: u32, len: u32, ways: &mut SmallVec<[ValueId; 8]>, steps: &mut u32) -> Option<()> {
        for (reach, arg) in self.index.phi(start, len) {
            *steps = steps.checked_sub(1)?;
            if !self.reachable(*reach) {
                continue;
            }
            match self.index.values[*arg] {
                Value::Phi { start, len, is_loop: false } if ways.len() < MOST_WAYS => {
                    self.ways_into(start, len, ways, steps)?;
                }
                _ if ways.contains(arg) => {}
                _ if ways.len() >= MOST_WAYS => return None,
                _ => ways.push(*arg),
            }
        }
        Some(())
    }

    /// Whether two narrowings are of one value by one condition, once for each outcome.
    fn complete(&self, one: ValueId, other: ValueId) -> bool {
        match (self.index.values[one], self.index.values[other]) {
            (
                Value::Narrow { of, condition, subject, positive },
                Value::Narrow { of: other, condition: asked, subject: about, positive: outcome },
            ) => of == other && condition == asked && subject == about && positive != outcome,
            _ => false,
        }
    }

    fn is_narrowing_of(&self, mut value: ValueId, of: ValueId) -> bool {
        while let Value::Narrow { of: next, .. } | Value::Matched { of: next, .. } = self.index.values[value] {
            if next == of {
                return true;
            }
            value = next;
        }
        false
    }
}
