//! Parts of a check, made side by side and put together afterwards.

use std::collections::BTreeMap;

use leitmotiv_project::cache::{Sum, sum};
use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::told::OfFile;

/// What the bytes of a part begin with.
const MAGIC: &[u8] = b"leitmotiv.part/1\n";

/// One part.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct Part {
    /// What was asked for, of which project, as a sum: parts that are put together have the same.
    pub asked: Sum,
    /// The same with what all of its files say, and how they were divided.
    pub state: Sum,
    /// Which part it is, from 1, and of how many.
    pub place: (usize, usize),
    /// The places of its files among all, from 0.
    pub places: Vec<usize>,
    /// How many files there are in all.
    pub all: usize,
    /// What was found in each.
    pub files: Vec<OfFile>,
    /// What each took, in millionths of a second.
    pub took: Vec<u64>,
}

/// Why parts cannot be put together. Names of files are as they were given.
#[derive(Debug, Error, PartialEq, Eq)]
pub enum PartsError {
    /// A file that holds no part, or a damaged one, or one of another version.
    #[error("`{0}` is no part of a check by this version: `leitmotiv check --part K/N --output FILE` makes one")]
    NoPart(String),
    /// Parts of different checks.
    #[error(
        "`{0}` and `{1}` are parts of different checks: other files, other settings, other options or another division"
    )]
    Different(String, String),
    /// The same part twice.
    #[error("`{0}` and `{1}` are the same part ({2} of {3})")]
    Twice(String, String, usize, usize),
    /// Parts that are not there.
    #[error("{} of {of} {}", list(.missing), if missing.len() == 1 { "is missing" } else { "are missing" })]
    Missing {
        /// Which.
        missing: Vec<usize>,
        /// Of how many.
        of: usize,
    },
}

fn list(numbers: &[usize]) -> String {
    let shown: Vec<String> = numbers.iter().take(8).map(usize::to_string).collect();
    let rest = numbers.len() - shown.len();
    let rest = if rest > 0 { format!(" and {rest} more") } else { String::new() };
    format!("{} {}{rest}", if numbers.len() == 1 { "part" } else { "parts" }, shown.join(", "))
}

impl Part {
    /// The part as bytes, with a check sum; `None` where that cannot be done.
    #[must_use]
    pub fn bytes(&self) -> Option<Vec<u8>> {
        let held = postcard::to_stdvec(self).ok()?;
        Some([MAGIC, &sum(&held), &held].concat())
    }

    /// From bytes; `None` where they are none of a part by this version, or damaged.
    #[must_use]
    pub fn of(bytes: &[u8]) -> Option<Part> {
        let (said, held) = bytes.strip_prefix(MAGIC)?.split_at_checked(size_of::<Sum>())?;
        if sum(held) != said {
            return None;
        }
        let part: Part = postcard::from_bytes(held).ok()?;
        let is_whole = part.places.len() == part.files.len() && part.took.len() == part.files.len();
        is_whole.then_some(part)
    }
}

/// The files of parts put together, in the order of one check, with what each took.
///
/// # Errors
/// [`PartsError`] where they are not all the parts of one check.
pub fn merged(parts: Vec<(String, Part)>) -> Result<Vec<(OfFile, u64)>, PartsError> {
    let Some((first_name, first)) = parts.first() else { return Ok(Vec::new()) };
    let (of, all) = (first.place.1, first.all);
    let mut by_number: BTreeMap<usize, &str> = BTreeMap::new();
    for (name, part) in &parts {
        if part.state != first.state || part.asked != first.asked || part.place.1 != of || part.all != all {
            return Err(PartsError::Different(first_name.clone(), name.clone()));
        }
        if let Some(other) = by_number.insert(part.place.0, name) {
            return Err(PartsError::Twice(other.to_owned(), name.clone(), part.place.0, of));
        }
    }
    let missing: Vec<usize> = (1..=of).filter(|number| !by_number.contains_key(number)).collect();
    if !missing.is_empty() {
        return Err(PartsError::Missing { missing, of });
    }
    let mut files: Vec<Option<(OfFile, u64)>> = vec![None; all];
    let first_name = first_name.clone();
    for (name, part) in parts {
        for ((place, file), took) in part.places.into_iter().zip(part.files).zip(part.took) {
            match files.get_mut(place) {
                Some(free @ None) => *free = Some((file, took)),
                _ => return Err(PartsError::Different(first_name, name)),
            }
        }
    }
    // Parts of one division leave none out, but where one was made up.
    files.into_iter().collect::<Option<Vec<_>>>().ok_or(PartsError::NoPart(first_name))
}

/// Divides files into parts that cost about the same: runs of files, so that what stands together is checked together. For each file its
/// part, from 0.
#[must_use]
pub fn divided(costs: &[u64], parts: usize) -> Vec<usize> {
    let parts = parts.max(1);
    let total: u128 = costs.iter().map(|cost| u128::from(*cost).max(1)).sum();
    let mut before: u128 = 0;
    let part_of = |cost: &u64| {
        let cost = u128::from(*cost).max(1);
        // Where its middle lies.
        let middle = before * 2 + cost;
        before += cost;
        usize::try_from(middle * parts as u128 / (total * 2)).unwrap_or(0).min(parts - 1)
    };
    costs.iter().map(part_of).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn part(number: usize, of: usize, places: &[usize], all: usize) -> (String, Part) {
        let file = |place: &usize| OfFile {
            path: format!("{place}.py"),
            lines: *place,
            fault: false,
            silenced: false,
            untold: false,
            lost: 0,
            gone: Vec::new(),
            told: Vec::new(),
        };
        let part = Part {
            asked: [1; 32],
            state: [2; 32],
            place: (number, of),
            places: places.to_vec(),
            all,
            files: places.iter().map(file).collect(),
            took: places.iter().map(|place| *place as u64).collect(),
        };
        (format!("p{number}"), part)
    }

    #[test]
    fn parts_come_together_in_the_order_of_the_files() {
        let files = merged(vec![part(2, 2, &[1, 3], 4), part(1, 2, &[0, 2], 4)]).unwrap();
        let lines: Vec<(usize, u64)> = files.iter().map(|(file, took)| (file.lines, *took)).collect();
        assert_eq!(lines, [(0, 0), (1, 1), (2, 2), (3, 3)]);
    }

    #[test]
    fn what_is_not_all_of_one_check_is_refused() {
        let mut other = part(2, 2, &[1], 2);
        other.1.state = [9; 32];
        let told = |parts| merged(parts).unwrap_err().to_string();
        assert!(told(vec![part(1, 2, &[0], 2), other]).starts_with("`p1` and `p2` are parts of different checks"));
        assert_eq!(told(vec![part(1, 2, &[0], 2), part(1, 2, &[0], 2)]), "`p1` and `p1` are the same part (1 of 2)");
        assert_eq!(told(vec![part(2, 3, &[0], 2)]), "parts 1, 3 of 3 are missing");
        assert_eq!(told(vec![part(1, 2, &[0, 1], 2)]), "part 2 of 2 is missing");
    }

    #[test]
    fn a_part_is_read_as_it_was_written_and_damaged_it_is_none() {
        let (_, part) = part(1, 1, &[0, 1], 2);
        let bytes = part.bytes().unwrap();
        assert_eq!(Part::of(&bytes), Some(part));
        for at in [0, 20, bytes.len() - 1] {
            let mut damaged = bytes.clone();
            damaged[at] ^= 4;
            assert_eq!(Part::of(&damaged), None);
        }
        assert_eq!(Part::of(&bytes[..bytes.len() - 1]), None);
    }

    #[test]
    fn files_are_divided_by_what_they_cost_and_stay_in_runs() {
        assert_eq!(divided(&[1, 1, 1, 1], 2), [0, 0, 1, 1]);
        assert_eq!(divided(&[6, 1, 1, 1, 1, 2], 2), [0, 1, 1, 1, 1, 1]);
        assert_eq!(divided(&[0, 0, 0], 3), [0, 1, 2]);
        assert_eq!(divided(&[5], 3), [1]);
        assert_eq!(divided(&[], 3), Vec::<usize>::new());
    }
}
