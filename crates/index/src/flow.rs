//! Which value a place has at each point of a body.
//!
//! The lowering walk goes through statements in order and keeps one *current* map from places to values. A branch is
//! lowered on that map, then its changes are taken off again as an [`Exit`]; [`Flow::join`] merges exits into phis. Work
//! is thus proportional to what branches change, not to how many places there are.
//!
//! Places are names (by scope), and attribute and item chains over the *unnarrowed value* of a name: rebinding the name
//! gives a new value and so forgets what was known of `name.attribute`, without any search.

use leitmotiv_syntax::names::Name;
use rustc_hash::{FxHashMap, FxHashSet};

use crate::tree::{ModuleIndex, Reach, ReachId, ScopeId, Value, ValueId};

/// A place that can hold a value.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Place {
    /// A name of a scope.
    Name(ScopeId, Name),
    /// A chain over a value.
    Chain(ChainId),
}

/// An attribute or item chain, see [`Link`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub struct ChainId(u32);

/// One link of a chain.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Link {
    /// The value of a name, without its narrowings.
    Root(ValueId),
    /// An attribute.
    Attribute(ChainId, Name),
    /// An item by a constant integer.
    Index(ChainId, i64),
    /// An item by a constant string.
    Key(ChainId, Name),
    /// An item by what a name holds, without its narrowings.
    Variable(ChainId, ValueId),
}

/// Where a branch ended: how that point is reached, and what differs there from where the branch began.
#[derive(Debug, Clone)]
pub struct Exit {
    /// How it is reached.
    pub reach: ReachId,
    changes: Vec<(Place, Option<ValueId>)>,
}

/// A change of a place.
#[derive(Debug, Clone, Copy)]
struct Change {
    place: Place,
    /// What was there before.
    old: Option<ValueId>,
    /// Where in the log the place was changed before, counted from 1; 0 where it was not.
    before: u32,
}

/// The current state of a body.
pub struct Flow {
    current: FxHashMap<Place, ValueId>,
    /// The changes, newest last.
    log: Vec<Change>,
    /// Where in the log each place was changed last.
    last: FxHashMap<Place, u32>,
    /// How the current point is reached.
    pub reach: ReachId,
    chains: FxHashMap<Link, ChainId>,
    links: Vec<Link>,
    /// For each chain, those that are one link longer.
    longer: FxHashMap<ChainId, Vec<ChainId>>,
    /// The writes inside of `try` and `with` blocks that an exception may follow, innermost last.
    recorders: Vec<Vec<(Place, Option<ValueId>)>>,
    /// Writes that nothing has followed yet that could raise an exception.
    pending: Vec<(Place, Option<ValueId>)>,
}

/// A point to which changes can be taken back.
#[derive(Debug, Clone, Copy)]
pub struct Mark {
    log: usize,
    reach: ReachId,
}

impl Mark {
    /// How the point is reached.
    #[must_use]
    pub fn reach(self) -> ReachId {
        self.reach
    }
}

impl Flow {
    /// The state at a body's start.
    #[must_use]
    pub fn new() -> Flow {
        Flow {
            current: FxHashMap::default(),
            log: Vec::new(),
            last: FxHashMap::default(),
            reach: ReachId::ALWAYS,
            chains: FxHashMap::default(),
            links: Vec::new(),
            longer: FxHashMap::default(),
            recorders: Vec::new(),
            pending: Vec::new(),
        }
    }

    /// The value that a place has here, if the flow knows one.
    #[must_use]
    pub fn get(&self, place: Place) -> Option<ValueId> {
        self.current.get(&place).copied()
    }

    /// Remembers the value that a place has from the body's start on; not a change.
    pub fn preset(&mut self, place: Place, value: ValueId) {
        self.current.insert(place, value);
    }

    /// Gives a place a value (or none that is known) from here on.
    pub fn set(&mut self, place: Place, value: Option<ValueId>) {
        let old = match value {
            Some(value) => self.current.insert(place, value),
            None => self.current.remove(&place),
        };
        if old != value {
            self.note(place, old);
        }
        if !self.recorders.is_empty() {
            self.pending.push((place, value));
        }
    }

    /// Something happens here that may raise an exception: what was written before is then seen by handlers.
    pub fn may_raise(&mut self) {
        if self.pending.is_empty() {
            return;
        }
        for recorder in &mut self.recorders {
            recorder.extend_from_slice(&self.pending);
        }
        self.pending.clear();
    }

    /// Like [`Flow::set`] for a narrowing: the value is the same, only more is known of it, so handlers of exceptions need
    /// not hear of it.
    pub fn narrow(&mut self, place: Place, value: ValueId) {
        let old = self.current.insert(place, value);
        self.note(place, old);
    }

    /// The chain's id, made if need be.
    pub fn chain(&mut self, link: Link) -> ChainId {
        if let Some(id) = self.chains.get(&link) {
            return *id;
        }
        let id = ChainId(u32::try_from(self.links.len()).unwrap_or(u32::MAX));
        self.links.push(link);
        if let Link::Attribute(base, _) | Link::Index(base, _) | Link::Key(base, _) | Link::Variable(base, _) = link {
            self.longer.entry(base).or_default().push(id);
        }
        self.chains.insert(link, id);
        id
    }

    /// The chain's id if any place has been made of it.
    #[must_use]
    pub fn find_chain(&self, link: Link) -> Option<ChainId> {
        self.chains.get(&link).copied()
    }

    /// Whether any chain exists: most bodies have none, and need not look for them.
    #[must_use]
    pub fn has_chains(&self) -> bool {
        !self.links.is_empty()
    }

    /// Forgets what is known of chains that end in one of `attributes` (or in an item), or go through one.
    pub fn forget_chains(&mut self, attributes: &FxHashSet<Name>, items: bool) {
        let hit: Vec<Place> = self
            .current
            .keys()
            .filter(|place| matches!(place, Place::Chain(chain) if self.goes_through(*chain, attributes, items)))
            .copied()
            .collect();
        let mut hit = hit;
        hit.sort_by_key(|place| if let Place::Chain(ChainId(id)) = place { *id } else { 0 });
        for place in hit {
            self.set(place, None);
        }
    }

    /// The attributes of names of which something is known, by some of these names, in a fixed order.
    pub fn attributes_of_names(&self, attributes: &FxHashSet<Name>) -> Vec<(ChainId, ValueId)> {
        let mut found: Vec<(ChainId, ValueId)> = self
            .current
            .iter()
            .filter_map(|(place, value)| match place {
                Place::Chain(chain) => Some((*chain, *value)),
                Place::Name(..) => None,
            })
            .filter(|(chain, _)| match self.links[chain.0 as usize] {
                Link::Attribute(base, name) => {
                    attributes.contains(&name) && matches!(self.links[base.0 as usize], Link::Root(_))
                }
                _ => false,
            })
            .collect();
        found.sort_by_key(|(chain, _)| chain.0);
        found
    }

    fn goes_through(&self, mut chain: ChainId, attributes: &FxHashSet<Name>, items: bool) -> bool {
        loop {
            chain = match self.links[chain.0 as usize] {
                Link::Root(_) => return false,
                Link::Attribute(_, name) if attributes.contains(&name) => return true,
                Link::Index(..) | Link::Key(..) | Link::Variable(..) if items => return true,
                Link::Attribute(base, _) | Link::Index(base, _) | Link::Key(base, _) | Link::Variable(base, _) => base,
            }
        }
    }

    /// Forgets the items of a chain that an assignment to the item `written` may have changed as well.
    pub fn forget_items_beside(&mut self, written: ChainId) {
        let (Link::Index(object, _) | Link::Key(object, _) | Link::Variable(object, _)) =
            self.links[written.0 as usize]
        else {
            return;
        };
        let by_name = matches!(self.links[written.0 as usize], Link::Variable(..));
        for beside in self.below(object) {
            let may_be_same = match self.links[beside.0 as usize] {
                Link::Index(..) | Link::Key(..) => by_name,
                Link::Variable(..) => true,
                Link::Root(_) | Link::Attribute(..) => false,
            };
            if may_be_same && beside != written {
                self.forget_below(beside);
                self.set(Place::Chain(beside), None);
            }
        }
    }

    /// The attributes right below a chain of which something is known, in no order.
    pub fn attributes_of(&self, chain: ChainId) -> Vec<(Name, ValueId)> {
        let below = self.below(chain).into_iter();
        below
            .filter_map(|longer| match self.links[longer.0 as usize] {
                Link::Attribute(_, name) => self.get(Place::Chain(longer)).map(|value| (name, value)),
                _ => None,
            })
            .collect()
    }

    /// Forgets what is known of chains that begin with `chain` and go on.
    pub fn forget_below(&mut self, chain: ChainId) {
        for longer in self.below(chain) {
            self.forget_below(longer);
            self.set(Place::Chain(longer), None);
        }
    }

    /// The chains that are one link longer, in the order in which they were made.
    fn below(&self, chain: ChainId) -> Vec<ChainId> {
        self.longer.get(&chain).cloned().unwrap_or_default()
    }

    fn note(&mut self, place: Place, old: Option<ValueId>) {
        let own = u32::try_from(self.log.len() + 1).unwrap_or(u32::MAX);
        let before = self.last.insert(place, own).unwrap_or(0);
        self.log.push(Change { place, old, before });
    }

    /// The point to which [`Flow::take`] goes back.
    #[must_use]
    pub fn mark(&self) -> Mark {
        Mark { log: self.log.len(), reach: self.reach }
    }

    /// The changes since `mark`; they stay.
    #[must_use]
    pub fn peek(&self, mark: Mark) -> Exit {
        let log = self.log.get(mark.log..).unwrap_or_default();
        // Each place once, where it was first changed.
        let first = |change: &&Change| change.before as usize <= mark.log;
        let changes = log.iter().filter(first).map(|change| (change.place, self.current.get(&change.place).copied()));
        let changes = changes.collect();
        Exit { reach: self.reach, changes }
    }

    /// Takes back all changes since `mark`, and gives them.
    pub fn take(&mut self, mark: Mark) -> Exit {
        let exit = self.peek(mark);
        while self.log.len() > mark.log {
            let Some(Change { place, old, before }) = self.log.pop() else { break };
            match before {
                0 => self.last.remove(&place),
                before => self.last.insert(place, before),
            };
            match old {
                Some(old) => self.current.insert(place, old),
                None => self.current.remove(&place),
            };
        }
        self.reach = mark.reach;
        exit
    }

    /// Goes on from an exit; the current point must be the mark that the exit was taken from.
    pub fn resume(&mut self, exit: &Exit) {
        for (place, value) in &exit.changes {
            let old = match value {
                Some(value) => self.current.insert(*place, *value),
                None => self.current.remove(place),
            };
            self.note(*place, old);
        }
        self.reach = exit.reach;
    }

    /// Goes on from where all `exits` meet. All were taken from the current point.
    pub fn join(&mut self, index: &mut ModuleIndex, exits: &[Exit]) {
        self.join_keeping(index, exits, false);
    }

    /// The same; with `keep`, a chain of which nothing is known on some way is remembered from the others, and is unbound on
    /// that way: whether it can be gone is only told later.
    pub fn join_keeping(&mut self, index: &mut ModuleIndex, exits: &[Exit], keep: bool) {
        let live: Vec<&Exit> = exits.iter().filter(|exit| !exit.reach.is_never()).collect();
        let exits = match live.as_slice() {
            // Code after this is not reached; keep the last state so that it still has names.
            [] => {
                if let Some(exit) = exits.last() {
                    self.resume(exit);
                }
                let reaches: Vec<ReachId> = exits.iter().map(|exit| exit.reach).collect();
                self.reach = join_reaches(index, &reaches);
                return;
            }
            [only] => {
                self.resume(only);
                return;
            }
            several => several,
        };
        let mut places: Vec<Place> = Vec::new();
        let mut values: FxHashMap<Place, Vec<Option<Option<ValueId>>>> = FxHashMap::default();
        for (number, exit) in exits.iter().enumerate() {
            for (place, value) in &exit.changes {
                let slots = values.entry(*place).or_insert_with(|| {
                    places.push(*place);
                    vec![None; exits.len()]
                });
                slots[number] = Some(*value);
            }
        }
        for place in places {
            let before = self.current.get(&place).copied();
            let args: Vec<(ReachId, Option<ValueId>)> =
                exits.iter().zip(&values[&place]).map(|(exit, value)| (exit.reach, value.unwrap_or(before))).collect();
            let merged = merge(index, place, &args, keep);
            let old = match merged {
                Some(merged) => self.current.insert(place, merged),
                None => self.current.remove(&place),
            };
            if old != merged {
                self.note(place, old);
            }
        }
        let reaches: Vec<ReachId> = exits.iter().map(|exit| exit.reach).collect();
        self.reach = join_reaches(index, &reaches);
    }

    /// Control does not go on from here.
    pub fn stop(&mut self) {
        if self.reach != ReachId::EXCLUDED {
            self.reach = ReachId::NEVER;
        }
    }

    /// Begins to record writes, for the handlers of a `try`.
    pub fn start_recording(&mut self) {
        self.may_raise();
        self.recorders.push(Vec::new());
    }

    /// Ends the innermost recording: what each place may hold if an exception leaves the block at any point, as an exit
    /// of the current point, which must be the block's start.
    pub fn stop_recording(&mut self, index: &mut ModuleIndex, reach: ReachId) -> Exit {
        let recorded = self.recorders.pop().unwrap_or_default();
        if self.recorders.is_empty() {
            self.pending.clear();
        }
        let mut places: Vec<Place> = Vec::new();
        let mut values: FxHashMap<Place, Vec<Option<ValueId>>> = FxHashMap::default();
        for (place, value) in recorded {
            let all = values.entry(place).or_insert_with(|| {
                places.push(place);
                vec![self.current.get(&place).copied()]
            });
            if !all.contains(&value) {
                all.push(value);
            }
        }
        let mut changes = Vec::with_capacity(places.len());
        for place in places {
            let args: Vec<(ReachId, Option<ValueId>)> = values[&place].iter().map(|value| (reach, *value)).collect();
            changes.push((place, merge(index, place, &args, false)));
        }
        Exit { reach, changes }
    }

    /// The names of `scope` with their current values, in no order.
    pub fn names_of(&self, scope: ScopeId) -> impl Iterator<Item = (Name, ValueId)> {
        self.current.iter().filter_map(move |(place, value)| match place {
            Place::Name(owner, name) if *owner == scope => Some((*name, *value)),
            _ => None,
        })
    }
}

impl Default for Flow {
    fn default() -> Flow {
        Flow::new()
    }
}

impl Exit {
    /// The value that a place has at the exit, where it differs from the start.
    #[must_use]
    pub fn changed(&self, place: Place) -> Option<Option<ValueId>> {
        self.changes.iter().find(|(other, _)| *other == place).map(|(_, value)| *value)
    }

    /// The places that changed.
    pub fn places(&self) -> impl Iterator<Item = (Place, Option<ValueId>)> {
        self.changes.iter().copied()
    }
}

/// One value for a place where several meet. For names, no value means unbound; for chains, that nothing is known, unless
/// what is known on other ways is to be kept.
pub(crate) fn merge(
    index: &mut ModuleIndex,
    place: Place,
    args: &[(ReachId, Option<ValueId>)],
    keep: bool,
) -> Option<ValueId> {
    let first = args.first()?.1;
    if args.iter().all(|(_, value)| *value == first) {
        return first;
    }
    let is_name = matches!(place, Place::Name(..));
    let mut distinct: Vec<(ReachId, ValueId)> = Vec::with_capacity(args.len());
    for (reach, value) in args {
        let value = match value {
            Some(value) => *value,
            None if is_name || keep => ValueId::UNBOUND,
            None => return None,
        };
        distinct.push((*reach, value));
    }
    // Only where both ways are reached alike: else one of them may turn out not to be.
    if let [(left_reach, left), (right_reach, right)] = distinct.as_slice()
        && left_reach == right_reach
        && let Some(whole) = complementary(index, *left, *right)
    {
        return Some(whole);
    }
    let start = u32::try_from(index.phi_args.len()).unwrap_or(u32::MAX);
    let len = u32::try_from(distinct.len()).unwrap_or(u32::MAX);
    let root = index.unnarrowed(distinct[0].1);
    let is_one = distinct.iter().all(|(_, value)| index.unnarrowed(*value) == root);
    index.phi_args.extend(distinct);
    let phi = index.values.push(Value::Phi { start, len, is_loop: false });
    if is_one {
        index.roots.insert(phi, root);
    }
    Some(phi)
}

/// `x if c else x`, told apart only by how `c` came out, is `x`.
fn complementary(index: &ModuleIndex, left: ValueId, right: ValueId) -> Option<ValueId> {
    match (index.values[left], index.values[right]) {
        (
            Value::Narrow { of, condition, positive, .. },
            Value::Narrow { of: other, condition: same, positive: opposite, .. },
        ) if of == other && condition == same && positive != opposite => Some(of),
        // One side is narrowed, the other is the plain value: together they are the plain value.
        (Value::Narrow { of, .. }, _) if of == right => Some(right),
        (_, Value::Narrow { of, .. }) if of == left => Some(left),
        _ => None,
    }
}

/// Reached by any of `reaches`.
pub fn join_reaches(index: &mut ModuleIndex, reaches: &[ReachId]) -> ReachId {
    let mut distinct: Vec<ReachId> = Vec::with_capacity(reaches.len());
    for reach in reaches {
        match *reach {
            ReachId::ALWAYS => return ReachId::ALWAYS,
            ReachId::NEVER | ReachId::EXCLUDED => {}
            reach if distinct.contains(&reach) => {}
            reach => distinct.push(reach),
        }
    }
    match distinct.as_slice() {
        [] if reaches.contains(&ReachId::EXCLUDED) => ReachId::EXCLUDED,
        [] => ReachId::NEVER,
        [only] => *only,
        several => {
            let start = u32::try_from(index.reach_args.len()).unwrap_or(u32::MAX);
            let len = u32::try_from(several.len()).unwrap_or(u32::MAX);
            index.reach_args.extend_from_slice(several);
            index.reaches.push(Reach::Join { start, len })
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::tree::ExprId;
    use leitmotiv_syntax::names::Names;

    fn module() -> ModuleIndex {
        let mut index = ModuleIndex::default();
        index.values.push(Value::Unbound);
        index.reaches.push(Reach::Always);
        index.reaches.push(Reach::Never);
        index.reaches.push(Reach::Never);
        index
    }

    /// An empty module and flow, and the place of a name.
    fn start() -> (ModuleIndex, Flow, Place) {
        (module(), Flow::new(), Place::Name(ScopeId(0), Names::new().intern("x")))
    }

    #[test]
    fn a_branch_is_taken_off_and_joined_again() {
        let (mut index, mut flow, place) = start();
        let first = index.values.push(Value::Natural(ExprId(0)));
        let second = index.values.push(Value::Natural(ExprId(1)));
        flow.set(place, Some(first));
        let mark = flow.mark();
        flow.set(place, Some(second));
        let then = flow.take(mark);
        assert_eq!(flow.get(place), Some(first));
        let otherwise = flow.take(mark);
        flow.join(&mut index, &[then, otherwise]);
        let Some(merged) = flow.get(place) else { panic!("no value") };
        let Value::Phi { start, len, .. } = index.values[merged] else { panic!("no phi") };
        assert_eq!(index.phi(start, len).iter().map(|arg| arg.1).collect::<Vec<_>>(), [second, first]);
    }

    #[test]
    fn an_exit_that_is_never_reached_does_not_count() {
        let (mut index, mut flow, place) = start();
        let first = index.values.push(Value::Natural(ExprId(0)));
        let mark = flow.mark();
        flow.reach = ReachId::NEVER;
        let raised = flow.take(mark);
        flow.set(place, Some(first));
        let assigned = flow.take(mark);
        flow.join(&mut index, &[raised, assigned]);
        assert_eq!(flow.get(place), Some(first));
    }

    #[test]
    fn an_exception_may_leave_a_block_at_any_point() {
        let (mut index, mut flow, place) = start();
        let first = index.values.push(Value::Natural(ExprId(0)));
        let second = index.values.push(Value::Natural(ExprId(1)));
        flow.start_recording();
        let mark = flow.mark();
        flow.set(place, Some(first));
        flow.may_raise();
        flow.set(place, Some(second));
        flow.take(mark);
        let exit = flow.stop_recording(&mut index, ReachId::ALWAYS);
        let Some(Some(merged)) = exit.changed(place) else { panic!("no change") };
        let Value::Phi { start, len, .. } = index.values[merged] else { panic!("no phi") };
        let args: Vec<_> = index.phi(start, len).iter().map(|arg| arg.1).collect();
        // Nothing follows the second write that could raise.
        assert_eq!(args, [ValueId::UNBOUND, first]);
    }

    #[test]
    fn an_outer_block_sees_what_an_inner_one_wrote_last() {
        let (mut index, mut flow, place) = start();
        let first = index.values.push(Value::Natural(ExprId(0)));
        let mark = flow.mark();
        flow.start_recording();
        flow.start_recording();
        flow.set(place, Some(first));
        flow.stop_recording(&mut index, ReachId::ALWAYS);
        flow.may_raise();
        flow.take(mark);
        let exit = flow.stop_recording(&mut index, ReachId::ALWAYS);
        assert!(exit.changed(place).is_some());
    }

    #[test]
    fn a_write_by_a_name_forgets_the_items_that_it_may_have_changed() {
        let names = Names::new();
        let mut index = module();
        let mut flow = Flow::new();
        let root = index.values.push(Value::Natural(ExprId(0)));
        let (key, other) = (index.values.push(Value::Natural(ExprId(1))), index.values.push(Value::Natural(ExprId(2))));
        let base = flow.chain(Link::Root(root));
        let by_text = flow.chain(Link::Key(base, names.intern("north")));
        let by_name = flow.chain(Link::Variable(base, key));
        let by_other = flow.chain(Link::Variable(base, other));
        let below = flow.chain(Link::Attribute(by_other, names.intern("berth")));
        for chain in [by_text, by_name, by_other, below] {
            flow.set(Place::Chain(chain), Some(root));
        }
        flow.forget_items_beside(by_name);
        assert_eq!(flow.get(Place::Chain(by_text)), None);
        assert_eq!(flow.get(Place::Chain(by_name)), Some(root));
        assert_eq!(flow.get(Place::Chain(by_other)), None);
        assert_eq!(flow.get(Place::Chain(below)), None);
    }
}
