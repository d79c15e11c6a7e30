//! Demands: what parts of a project are held to. One file a demand; [`ALL`] is the one list.

mod full_signatures;
mod known_imports;
mod none_handled;

/// A demand.
pub struct Demand {
    /// Its name.
    pub slug: &'static str,
    /// What it asks, in one line.
    pub asks: &'static str,
    /// The rules that become errors where it holds.
    pub rules: &'static [&'static str],
}

/// All demands, sorted by name.
pub static ALL: &[&Demand] = &[&full_signatures::DEMAND, &known_imports::DEMAND, &none_handled::DEMAND];

/// The demand of that name.
#[must_use]
pub fn by_slug(slug: &str) -> Option<&'static Demand> {
    ALL.iter().copied().find(|demand| demand.slug == slug)
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
