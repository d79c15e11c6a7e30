//! The list of choices: what each takes for granted, what it mutes, where it holds; a text that stays quiet by it, and a neighbour of that
//! text that is still told. `docs/policy.md` is made from it, and both texts of each are run as tests.
//!
//! The code of a choice lies where its question comes up; the entry says where that is.

mod absence;
mod limits;
mod none;
mod provenance;
mod signatures;
mod surroundings;

use std::fmt::Write as _;

/// A choice.
pub struct Policy {
    /// Its name: `absence.patched`.
    pub id: &'static str,
    /// What it does.
    pub effect: Effect,
    /// What it takes for granted, in a sentence or two.
    pub claim: &'static str,
    /// Where it holds.
    pub holds: Holds,
    /// Where its code is: a path of modules in this crate.
    pub code: &'static str,
    /// A text in which nothing is told because of it; of what it softens, a text with the notes, marked.
    pub quiet: &'static str,
    /// A text close by that is still told, with the marks of fixtures.
    pub told: &'static str,
}

/// What a choice does.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Effect {
    /// What would be told is not.
    Silences,
    /// What would be told is a note.
    Softens,
    /// One that may fit is taken to fit.
    Accepts,
    /// The type is unknown, with a cause.
    MakesUnknown,
    /// Something is looked into only so far.
    Limits,
}

/// Where a choice holds.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Holds {
    /// Only where nobody wrote types.
    Unwritten,
    /// Also where somebody did, and why.
    Everywhere(&'static str),
}

impl Effect {
    /// What it does, in words.
    #[must_use]
    pub fn words(self) -> &'static str {
        match self {
            Effect::Silences => "is not told",
            Effect::Softens => "is a note",
            Effect::Accepts => "is taken to fit",
            Effect::MakesUnknown => "is unknown, with a cause",
            Effect::Limits => "is looked into only so far",
        }
    }
}

/// All choices, by their names.
#[must_use]
pub fn all() -> Vec<&'static Policy> {
    let lists = [absence::LIST, limits::LIST, none::LIST, provenance::LIST, signatures::LIST, surroundings::LIST];
    let mut all: Vec<&'static Policy> = lists.into_iter().flatten().collect();
    all.sort_by_key(|policy| policy.id);
    all
}

/// `docs/policy.md`.
#[must_use]
pub fn page() -> String {
    let mut page = String::from(
        "<!-- Made from `crates/engine/src/policy/entries`; a test writes it anew. -->\n\n# What is left untold, and why\n\nA finding should be \
         right nearly always, and much of what a program does cannot be read from its text. So there are choices: what is taken for granted, \
         and what is not told because of that. Each has a text that stays quiet by it, and one close by that is still told (`#!` marks what); \
         both are run as tests.\n\nMost hold only where nobody wrote types: what is annotated is taken at its word.\n",
    );
    let mut family = "";
    for policy in all() {
        let own = policy.id.split('.').next().unwrap_or_default();
        if own != family {
            family = own;
            let _ = write!(page, "\n## {family}\n");
        }
        let holds = match policy.holds {
            Holds::Unwritten => "where nobody wrote types".to_owned(),
            Holds::Everywhere(why) => format!("everywhere: {why}"),
        };
        let _ = write!(
            page,
            "\n### `{}`\n\n{}\n\nWhat it concerns {}. It holds {holds}. Code: `{}`.\n\n{}:\n\n```python\n{}\n```\n\nTold:\n\n```python\n{}\n```\n",
            policy.id,
            policy.claim,
            policy.effect.words(),
            policy.code,
            if policy.effect == Effect::Softens { "Noted" } else { "Quiet" },
            policy.quiet.trim(),
            policy.told.trim(),
        );
    }
    page
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_page_is_made_from_the_list() {
        let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/policy.md");
        let page = page();
        if std::fs::read_to_string(path).unwrap_or_default() != page {
            std::fs::write(path, page).unwrap();
            panic!("docs/policy.md was stale; it has been written anew, commit it");
        }
    }

    #[test]
    fn names_are_unlike_and_code_is_there() {
        let all = all();
        assert!(all.windows(2).all(|pair| pair[0].id < pair[1].id), "two of one name");
        for policy in all {
            let path = policy.code.replace("::", "/");
            let source = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("src");
            let index = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../index/src");
            let is_there = [source, index]
                .iter()
                .any(|folder| folder.join(format!("{path}.rs")).exists() || folder.join(&path).join("mod.rs").exists());
            assert!(is_there, "{}: there is no {}", policy.id, policy.code);
            assert!(!policy.claim.is_empty() && !policy.quiet.is_empty() && !policy.told.is_empty(), "{}", policy.id);
        }
    }
}
