//! Demands: what parts of a project are held to. One file a demand; [`ALL`] is the one list.

mod complete_matches;
mod declared_attributes;
mod filled_generics;
mod full_signatures;
mod known_imports;
mod known_values;
mod marked_overrides;
mod no_any;
mod none_handled;
mod reasoned_suppressions;
mod typed_callees;

use leitmotiv_index::tree::ModuleIndex;

/// A demand.
pub struct Demand {
    /// Its name.
    pub slug: &'static str,
    /// What it asks, in one line.
    pub asks: &'static str,
    /// The rules that become errors where it holds.
    pub rules: &'static [&'static str],
    /// Whether it asks anything of a file as it stands. Of code without annotations some demands ask nothing, and would only be in the way of
    /// the first ones: such a file is not held before there is something to hold.
    pub asks_of: fn(&ModuleIndex) -> bool,
    /// What `explain` shows.
    pub page: Page,
}

/// A demand's page.
pub struct Page {
    /// What is asked, in full.
    pub means: &'static str,
    /// What one has of it.
    pub gives: &'static str,
    /// What it takes to get there.
    pub costs: &'static str,
    /// Python text that does not meet it, and breaks no rule else.
    pub fails: &'static str,
    /// Python text that meets it.
    pub holds: &'static str,
}

/// All demands, sorted by name.
pub static ALL: &[&Demand] = &[
    &complete_matches::DEMAND,
    &declared_attributes::DEMAND,
    &filled_generics::DEMAND,
    &full_signatures::DEMAND,
    &known_imports::DEMAND,
    &known_values::DEMAND,
    &marked_overrides::DEMAND,
    &no_any::DEMAND,
    &none_handled::DEMAND,
    &reasoned_suppressions::DEMAND,
    &typed_callees::DEMAND,
];

/// The demand of that name.
#[must_use]
pub fn by_slug(slug: &str) -> Option<&'static Demand> {
    ALL.iter().copied().find(|demand| demand.slug == slug)
}

/// A demand's page as Markdown, with headings of some depth.
#[must_use]
pub fn page(demand: &Demand, depth: usize) -> String {
    let heading = "#".repeat(depth);
    let page = &demand.page;
    let rules: Vec<String> = demand.rules.iter().map(|rule| format!("`{rule}`")).collect();
    format!(
        "{}\n\n{}\n\n{heading} What it costs\n\n{}\n\n{heading} Not met\n\n```python\n{}```\n\n{heading} Met\n\n```python\n{}```\n\nErrors where it is held: {}.\n",
        page.means,
        page.gives,
        page.costs,
        page.fails,
        page.holds,
        rules.join(", ")
    )
}

/// `docs/demands.md`: all demands with their pages.
#[must_use]
pub fn documentation() -> String {
    let mut all = String::from(
        "<!-- Made from the demands' pages in `crates/engine/src/demands`; a test writes it anew. -->\n\n# Demands\n\nWhat a part of a \
         project can be held to, and `leitmotiv explain DEMAND` shows. `leitmotiv tighten` tells what each would cost, \
         and holds what is reached; `leitmotiv check --demand NAME` tries one.\n",
    );
    for demand in ALL.iter() {
        all.push_str(&format!("\n## `{}`\n\nAsks that {}.\n\n{}", demand.slug, demand.asks, page(demand, 3)));
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_list_is_sorted_complete_and_names_rules_that_exist() {
        let slugs: Vec<&str> = ALL.iter().map(|demand| demand.slug).collect();
        let mut sorted = slugs.clone();
        sorted.sort_unstable();
        assert_eq!(slugs, sorted);
        let folder = concat!(env!("CARGO_MANIFEST_DIR"), "/src/demands");
        let mut files: Vec<String> = std::fs::read_dir(folder)
            .unwrap()
            .map(|entry| entry.unwrap().path().file_stem().unwrap().to_string_lossy().replace('_', "-"))
            .filter(|name| name != "mod")
            .collect();
        files.sort();
        assert_eq!(files, slugs);
        for demand in ALL {
            for rule in demand.rules {
                assert!(crate::rules::by_slug(rule).is_some(), "{}: {rule}", demand.slug);
            }
        }
    }
}
