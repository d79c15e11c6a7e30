//! Numbers, days and arguments as people and shells read them.

/// A number with its noun.
#[must_use]
pub fn count(number: usize, one: &str, many: &str) -> String {
    if number == 1 { format!("1 {one}") } else { format!("{} {many}", thousands(number)) }
}

/// A number with thousands set apart.
#[must_use]
pub fn thousands(number: usize) -> String {
    let digits = number.to_string();
    let mut out = String::new();
    for (place, digit) in digits.chars().enumerate() {
        if place > 0 && (digits.len() - place).is_multiple_of(3) {
            out.push(',');
        }
        out.push(digit);
    }
    out
}

/// A share in percent.
#[must_use]
pub fn percent(part: usize, whole: usize) -> String {
    (part * 100).checked_div(whole).map_or_else(|| "–".to_owned(), |share| format!("{share}%"))
}

/// A word as a shell takes it.
#[must_use]
pub fn argument(word: &str) -> String {
    let is_plain = |char: char| char.is_alphanumeric() || "_-./+,:@%".contains(char);
    if !word.is_empty() && word.chars().all(is_plain) {
        word.to_owned()
    } else {
        format!("'{}'", word.replace('\'', "'\\''"))
    }
}

/// A day, counted from 1970, as a date of the Gregorian calendar: year, month, day.
#[must_use]
pub fn date(day: i64) -> (i64, i64, i64) {
    // Years begin in March, so that the day that some of them have more comes last.
    let shifted = day + 719_468;
    let era = shifted.div_euclid(146_097);
    let of_era = shifted.rem_euclid(146_097);
    let year = (of_era - of_era / 1_460 + of_era / 36_524 - of_era / 146_096) / 365;
    let of_year = of_era - (365 * year + year / 4 - year / 100);
    let month = (5 * of_year + 2) / 153;
    let (month, day) = (if month < 10 { month + 3 } else { month - 9 }, of_year - (153 * month + 2) / 5 + 1);
    (year + era * 400 + i64::from(month <= 2), month, day)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_readable() {
        assert_eq!(thousands(1234567), "1,234,567");
        assert_eq!(count(1, "file", "files"), "1 file");
        assert_eq!(count(1200, "file", "files"), "1,200 files");
        assert_eq!(percent(1, 3), "33%");
        assert_eq!(percent(0, 0), "–");
    }

    #[test]
    fn days_are_dates() {
        for (day, expected) in
            [(0, (1970, 1, 1)), (59, (1970, 3, 1)), (11_016, (2000, 2, 29)), (20_787, (2026, 11, 30))]
        {
            assert_eq!(date(day), expected);
        }
    }
}
