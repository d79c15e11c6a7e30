//! Functions of one module that call each other in very large circles.
//!
//! What a function without annotations gives is worked out from what it calls. In a circle each waits for the next, and all are
//! worked out together, round by round; of hundreds, as generated code has them, that takes too long and tells too little.
//! Which circles are that large is read from the calls as they are written, and so is the same whoever asks first.

use std::sync::Arc;

use leitmotiv_index::tree::{Expr, ExprId, FunctionId, ModuleIndex, ScopeId};
use leitmotiv_syntax::names::Name;
use rustc_hash::{FxHashMap, FxHashSet};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::outline::{module_index, reading};

/// Circles of more functions than this give unknown. Said in docs/architecture.md.
const LARGEST: usize = 100;

/// A result that hangs on longer chains of calls than this is worked out in steps.
const STEP: usize = 250;

/// How the functions of a file that declare no result call each other.
#[derive(Debug, Default, PartialEq, Eq)]
pub struct Calls {
    /// Those that stand in circles of more than [`LARGEST`].
    pub in_large_circles: FxHashSet<FunctionId>,
    /// Of long chains some of every [`STEP`] calls, from the last one called on. Asked in this order, no result needs more
    /// than so many others first.
    pub on_the_way: Vec<FunctionId>,
}

/// How the functions of a file call each other, as the text has it; of few functions nobody asks.
pub fn calls(db: &dyn Db, file: File) -> Arc<Calls> {
    saw(db, file, Ask::Whole);
    calls_query(db, file)
}

#[salsa::tracked(returns(clone))]
fn calls_query(db: &dyn Db, file: File) -> Arc<Calls> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    Arc::new(if index.functions.len() > LARGEST { calls_of(index) } else { Calls::default() })
}

fn calls_of(index: &ModuleIndex) -> Calls {
    let mut by_name: FxHashMap<(ScopeId, Name), Vec<FunctionId>> = FxHashMap::default();
    for (id, function) in index.functions.iter().filter(|(_, function)| function.returns.is_none()) {
        by_name.entry((function.parent, function.name)).or_default().push(id);
    }
    let mut nodes: Vec<FunctionId> = by_name.values().flatten().copied().collect();
    nodes.sort_unstable();
    let edges: FxHashMap<FunctionId, Vec<FunctionId>> =
        nodes.iter().map(|id| (*id, called(index, *id, &by_name))).collect();
    let circles = circles(&nodes, &edges);
    let large = circles.iter().filter(|circle| circle.len() > LARGEST);
    Calls { in_large_circles: large.flatten().copied().collect(), on_the_way: on_the_way(&circles, &edges) }
}

/// The functions that stand a multiple of [`STEP`] calls above the ground, those below first; of circles in the order in which
/// they are found, where what is called comes first.
fn on_the_way(circles: &[Vec<FunctionId>], edges: &FxHashMap<FunctionId, Vec<FunctionId>>) -> Vec<FunctionId> {
    let mut heights: FxHashMap<FunctionId, usize> = FxHashMap::default();
    let mut found = Vec::new();
    for circle in circles {
        let called = circle.iter().filter_map(|node| edges.get(node)).flatten();
        let height = called.filter_map(|target| heights.get(target)).max().map_or(0, |height| height + 1);
        heights.extend(circle.iter().map(|node| (*node, height)));
        if height > 0 && height % STEP == 0 {
            found.extend(circle);
        }
    }
    found
}

/// The functions that a function calls, as the text has it: by a name of the scopes around it, or on its own object.
fn called(
    index: &ModuleIndex,
    function: FunctionId,
    by_name: &FxHashMap<(ScopeId, Name), Vec<FunctionId>>,
) -> Vec<FunctionId> {
    let record = &index.functions[function];
    let own = record.class.and(record.params.first()).map(|param| param.name);
    let mut found = Vec::new();
    for expr in index.bodies[record.body].exprs.clone() {
        let Expr::Call { callee, .. } = &index.exprs[ExprId(expr)] else { continue };
        match index.exprs[*callee] {
            Expr::Name(name, _) => {
                let mut scope = Some(record.parent);
                while let Some(current) = scope {
                    if let Some(functions) = by_name.get(&(current, name)) {
                        found.extend(functions);
                        break;
                    }
                    scope = index.scopes[current].parent;
                }
            }
            Expr::Attribute { value, name, .. } => {
                if let (Expr::Name(object, _), Some(class)) = (&index.exprs[value], record.class)
                    && Some(*object) == own
                {
                    let methods = by_name.get(&(index.classes[class].scope, name));
                    found.extend(methods.into_iter().flatten());
                }
            }
            _ => {}
        }
    }
    found
}

/// The strongly connected components of a graph (Tarjan), without recursion.
fn circles(nodes: &[FunctionId], edges: &FxHashMap<FunctionId, Vec<FunctionId>>) -> Vec<Vec<FunctionId>> {
    let mut circles = Vec::new();
    let mut number: FxHashMap<FunctionId, usize> = FxHashMap::default();
    let mut low: FxHashMap<FunctionId, usize> = FxHashMap::default();
    let mut open: Vec<FunctionId> = Vec::new();
    let mut is_open: FxHashSet<FunctionId> = FxHashSet::default();
    for start in nodes {
        if number.contains_key(start) {
            continue;
        }
        let mut work: Vec<(FunctionId, usize)> = vec![(*start, 0)];
        while let Some((node, next)) = work.pop() {
            if next == 0 {
                let own = number.len();
                number.insert(node, own);
                low.insert(node, own);
                open.push(node);
                is_open.insert(node);
            }
            let targets = edges.get(&node).map_or(&[][..], Vec::as_slice);
            if let Some(target) = targets.get(next) {
                work.push((node, next + 1));
                if !number.contains_key(target) {
                    work.push((*target, 0));
                } else if is_open.contains(target) {
                    let least = low[&node].min(number[target]);
                    low.insert(node, least);
                }
                continue;
            }
            if low[&node] == number[&node] {
                let mut circle = Vec::new();
                while let Some(last) = open.pop() {
                    is_open.remove(&last);
                    circle.push(last);
                    if last == node {
                        break;
                    }
                }
                circles.push(circle);
            }
            if let Some((before, _)) = work.last() {
                let least = low[before].min(low[&node]);
                low.insert(*before, least);
            }
        }
    }
    circles
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn of_a_long_chain_some_are_on_the_way() {
        let last = 4 * u32::try_from(STEP).unwrap();
        let nodes: Vec<FunctionId> = (0..=last).map(FunctionId).collect();
        let edges = (0..last).map(|number| (FunctionId(number), vec![FunctionId(number + 1)])).collect();
        let found: Vec<u32> = on_the_way(&circles(&nodes, &edges), &edges).iter().map(|id| id.0).collect();
        assert_eq!(found, [750, 500, 250, 0]);
        assert_eq!(on_the_way(&circles(&nodes[900..], &edges), &edges).len(), 0);
    }

    #[test]
    fn circles_are_told_from_chains() {
        let id = FunctionId;
        let nodes: Vec<FunctionId> = (0..6).map(id).collect();
        let edges = FxHashMap::from_iter([
            (id(0), vec![id(1)]),
            (id(1), vec![id(2), id(3)]),
            (id(2), vec![id(0)]),
            (id(3), vec![id(4)]),
            (id(4), vec![id(3), id(5)]),
        ]);
        let mut found: Vec<Vec<u32>> = circles(&nodes, &edges)
            .into_iter()
            .map(|circle| {
                let mut circle: Vec<u32> = circle.into_iter().map(|node| node.0).collect();
                circle.sort_unstable();
                circle
            })
            .collect();
        found.sort();
        assert_eq!(found, [vec![0, 1, 2], vec![3, 4], vec![5]]);
    }
}
