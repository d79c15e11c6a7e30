//! Functions of one module that call each other in very large circles.
//!
//! What a function without annotations gives is worked out from what it calls. In a circle each waits for the next, and all are
//! worked out together, round by round; of hundreds, as generated code has them, that takes too long and tells too little.
//! Which circles are that large is read from the calls as they are written, and so is the same whoever asks first.

use std::sync::Arc;

use leitmotiv_index::tree::{Expr, ExprId, FunctionId, ModuleIndex, ScopeId};
use leitmotiv_syntax::names::Name;
use rustc_hash::{FxHashMap, FxHashSet};

use crate::db::{Db, File};
use crate::module::module_index;

/// Circles of more functions than this give unknown. Said in docs/architecture.md.
const LARGEST: usize = 100;

/// The functions of a file without a declared result that stand in circles of more than [`LARGEST`].
#[salsa::tracked(returns(clone))]
pub fn in_large_circles(db: &dyn Db, file: File) -> Arc<FxHashSet<FunctionId>> {
    let index = module_index(db, file);
    let found = if index.functions.len() > LARGEST { large_circles(index) } else { FxHashSet::default() };
    Arc::new(found)
}

fn large_circles(index: &ModuleIndex) -> FxHashSet<FunctionId> {
    let mut by_name: FxHashMap<(ScopeId, Name), Vec<FunctionId>> = FxHashMap::default();
    for (id, function) in index.functions.iter().filter(|(_, function)| function.returns.is_none()) {
        by_name.entry((function.parent, function.name)).or_default().push(id);
    }
    let nodes: Vec<FunctionId> = by_name.values().flatten().copied().collect();
    let edges: FxHashMap<FunctionId, Vec<FunctionId>> =
        nodes.iter().map(|id| (*id, called(index, *id, &by_name))).collect();
    circles(&nodes, &edges).into_iter().filter(|circle| circle.len() > LARGEST).flatten().collect()
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
