//! Which modules import which, as layers: each imports modules of lower layers only, but for those that import each other in a circle.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use petgraph::algo::kosaraju_scc;
use petgraph::graph::{DiGraph, NodeIndex};
use rustc_hash::FxHashMap;

use super::packages::Target;

/// The layers of some modules, of which is known what each imports, lowest first; in a layer the circles, largest first, and then the modules
/// that stand alone. What is imported later, in functions, or for type checkers alone makes no layer.
#[must_use]
pub fn layers(db: &Database, files: &[File], imports: &[Vec<Target>]) -> Vec<Vec<Vec<String>>> {
    let places: FxHashMap<File, usize> = files.iter().enumerate().map(|(place, file)| (*file, place)).collect();
    let of_file = |targets: &Vec<Target>| {
        let at_start = targets.iter().filter(|target| target.at_start);
        at_start.filter_map(|target| places.get(&target.file).copied()).collect()
    };
    let edges: Vec<Vec<usize>> = imports.iter().map(of_file).collect();
    let named = |place: usize| files[place].path(db).to_owned();
    of(&edges)
        .into_iter()
        .map(|layer| layer.into_iter().map(|circle| circle.into_iter().map(named).collect()).collect())
        .collect()
}

/// The same of places: what each imports.
fn of(edges: &[Vec<usize>]) -> Vec<Vec<Vec<usize>>> {
    let mut graph: DiGraph<(), ()> = DiGraph::new();
    let nodes: Vec<NodeIndex> = edges.iter().map(|_| graph.add_node(())).collect();
    for (from, targets) in edges.iter().enumerate() {
        for to in targets {
            graph.add_edge(nodes[from], nodes[*to], ());
        }
    }
    // What is imported comes before who imports it.
    let circles = kosaraju_scc(&graph);
    let mut circle_of: Vec<usize> = vec![0; edges.len()];
    for (number, circle) in circles.iter().enumerate() {
        circle.iter().for_each(|node| circle_of[node.index()] = number);
    }
    let mut depth: Vec<usize> = vec![0; circles.len()];
    let mut layers: Vec<Vec<Vec<usize>>> = Vec::new();
    for (number, circle) in circles.iter().enumerate() {
        let below = circle.iter().flat_map(|node| &edges[node.index()]).map(|to| circle_of[*to]);
        depth[number] = below.filter(|other| *other != number).map(|other| depth[other] + 1).max().unwrap_or(0);
        if layers.len() <= depth[number] {
            layers.resize_with(depth[number] + 1, Vec::new);
        }
        let mut members: Vec<usize> = circle.iter().map(|node| node.index()).collect();
        members.sort_unstable();
        layers[depth[number]].push(members);
    }
    for layer in &mut layers {
        layer.sort_by(|one, other| other.len().cmp(&one.len()).then_with(|| one.cmp(other)));
    }
    layers
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn each_layer_imports_only_lower_ones_but_for_circles() {
        // 0 imports 1 and 2; 1 and 2 import each other and 3; 4 imports nothing.
        let edges = [vec![1, 2], vec![2, 3], vec![1], vec![], vec![]];
        assert_eq!(of(&edges), [vec![vec![3], vec![4]], vec![vec![1, 2]], vec![vec![0]]]);
        assert!(of(&[]).is_empty());
    }
}
