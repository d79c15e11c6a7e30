//! How long ago something was, in words.

use std::time::{SystemTime, UNIX_EPOCH};

use crate::look;

/// Days since 1970.
pub fn today() -> i64 {
    let seconds = SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |since| since.as_secs());
    i64::try_from(seconds / (24 * 60 * 60)).unwrap_or(0)
}

/// So many days in words.
pub fn words(days: i64) -> String {
    let count = |number: i64, one: &str, many: &str| look::count(usize::try_from(number).unwrap_or(0), one, many);
    match days {
        ..=0 => "today".to_owned(),
        1..60 => count(days, "day", "days"),
        60..730 => count(days / 30, "month", "months"),
        _ => count(days / 365, "year", "years"),
    }
}

/// Who touched something so many days ago; nobody yet where no name is known.
pub fn touched(author: &str, days: i64) -> String {
    match (author, days) {
        ("", _) => "not committed".to_owned(),
        (author, ..=0) => format!("{author}, today"),
        (author, days) => format!("{author}, {} ago", words(days)),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn ages_are_told_in_what_one_counts_in() {
        for (days, told) in [(-1, "today"), (1, "1 day"), (59, "59 days"), (75, "2 months"), (800, "2 years")] {
            assert_eq!(words(days), told);
        }
        assert_eq!(touched("Isla Skerry", 3), "Isla Skerry, 3 days ago");
        assert_eq!(touched("Isla Skerry", 0), "Isla Skerry, today");
        assert_eq!(touched("", 3), "not committed");
    }
}
