//! What is nearest: the steps that hold most code for least work.

use std::collections::HashSet;

use super::cost::{Cost, Standing, subtrees};

/// A step that is proposed.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Step {
    /// What is free is held: promises (a file and a demand each), in so many packages.
    Free {
        /// How many promises.
        promises: usize,
        /// In how many packages.
        packages: usize,
    },
    /// All that stands against a demand in a package has a fix that cannot change what the program does.
    Safe(Cost),
    /// Little stands against it.
    Mend(Cost),
}

/// What a finding that is mended under a demand is worth beside others.
fn worth(demand: &str) -> usize {
    match demand {
        // What fails when the program runs.
        "none-handled" | "complete-matches" | "declared-attributes" => 3,
        // What keeps other mistakes from being seen.
        "full-signatures" | "known-imports" | "known-values" | "typed-callees" => 2,
        _ => 1,
    }
}

/// The steps that one would take next, nearest first: what is free, what is fixed safely, and then what holds most lines for each finding to
/// mend, in a folder with all that lies in it. Of one demand there is one step.
#[must_use]
pub fn steps(costs: &[Cost], most: usize) -> Vec<Step> {
    let folders = subtrees(costs);
    let mut steps = Vec::new();
    let promises: usize = costs.iter().map(|cost| cost.free).sum();
    if promises > 0 {
        let packages: HashSet<&str> =
            costs.iter().filter(|cost| cost.free > 0).map(|cost| cost.package.as_str()).collect();
        steps.push(Step::Free { promises, packages: packages.len() });
    }
    let mut named: HashSet<&str> = HashSet::new();
    let mut open: Vec<&Cost> =
        folders.iter().filter(|cost| matches!(cost.standing(), Standing::Cheap | Standing::Dear)).collect();
    // Lines that would be held for each finding, in a unit that does not lose small packages.
    let gain = |cost: &Cost| (cost.lines + 1) * worth(cost.demand) * 1_000 / (cost.findings - cost.safe + 1);
    open.sort_by(|one, other| {
        let is_safe = |cost: &Cost| cost.safe == cost.findings;
        is_safe(other).cmp(&is_safe(one)).then(gain(other).cmp(&gain(one))).then_with(|| {
            // Where all of it lies in one folder, that is named.
            let depth = |cost: &Cost| cost.package.trim_start_matches("./").len();
            let key = |cost: &Cost| (cost.demand, std::cmp::Reverse(depth(cost)), cost.package.clone());
            key(one).cmp(&key(other))
        })
    });
    for cost in open {
        if steps.len() < most && named.insert(cost.demand) {
            let is_safe = cost.safe == cost.findings;
            steps.push(if is_safe { Step::Safe(cost.clone()) } else { Step::Mend(cost.clone()) });
        }
    }
    steps
}

#[cfg(test)]
mod tests {
    use super::*;

    fn cost(demand: &'static str, package: &str, lines: usize, findings: usize, safe: usize) -> Cost {
        let package = package.to_owned();
        Cost { demand, package, files: 2, lines, findings, safe, in_files: 1, ..Cost::default() }
    }

    #[test]
    fn the_nearest_comes_first_and_each_demand_once() {
        let free = Cost { free: 2, ..cost("no-any", "a/", 10, 0, 0) };
        let safe = cost("marked-overrides", "a/", 10, 9, 9);
        let near = cost("none-handled", "b/", 5_000, 2, 0);
        let far = cost("none-handled", "a/", 100, 50, 0);
        let dear = cost("known-values", "a/", 100, 500, 0);
        let all = [free, far, dear.clone(), near.clone(), safe.clone()];
        let first = Step::Free { promises: 2, packages: 1 };
        assert_eq!(steps(&all, 3), [first, Step::Safe(safe.clone()), Step::Mend(near.clone())]);
        assert_eq!(steps(&all[1..], 3), [Step::Safe(safe), Step::Mend(near), Step::Mend(dear)]);
        assert!(steps(&[], 3).is_empty());
    }
}
