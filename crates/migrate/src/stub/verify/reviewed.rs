//! Differences that someone has looked at and means to keep.
//!
//! A file of lines `KIND NAME: REASON`; in a name, `*` stands for any text. What begins with `#` is a comment.

use thiserror::Error;

use super::{Difference, Kind};

/// The differences that are meant to be.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Reviewed {
    lines: Vec<(Kind, String)>,
}

/// A line that cannot be read.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("line {line} of the reviewed list should read `KIND NAME: REASON`, with one of {kinds} for the kind", kinds = kinds())]
pub struct ReviewedError {
    /// The line, 1-based.
    pub line: usize,
}

fn kinds() -> String {
    Kind::ALL.map(Kind::name).join(", ")
}

impl Reviewed {
    /// Reads a list.
    ///
    /// # Errors
    /// [`ReviewedError`] for the first line that is none.
    pub fn read(text: &str) -> Result<Reviewed, ReviewedError> {
        let mut lines = Vec::new();
        for (number, line) in text.lines().enumerate() {
            let line = line.trim();
            if line.is_empty() || line.starts_with('#') {
                continue;
            }
            let parsed = line.split_once(": ").and_then(|(head, reason)| {
                let (kind, name) = head.split_once(' ')?;
                let kind = Kind::ALL.into_iter().find(|known| known.name() == kind)?;
                let is_whole = !reason.trim().is_empty() && !name.trim().contains(' ');
                is_whole.then(|| (kind, name.trim().to_owned()))
            });
            lines.push(parsed.ok_or(ReviewedError { line: number + 1 })?);
        }
        Ok(Reviewed { lines })
    }

    /// Whether a difference is on the list.
    #[must_use]
    pub fn has(&self, difference: &Difference) -> bool {
        self.lines.iter().any(|(kind, name)| *kind == difference.kind && fits(name, &difference.name))
    }
}

/// Whether a name fits a pattern, in which each `*` stands for any text.
fn fits(pattern: &str, name: &str) -> bool {
    match pattern.split_once('*') {
        None => pattern == name,
        Some((head, rest)) => name.strip_prefix(head).is_some_and(|tail| {
            (0..=tail.len()).filter(|at| tail.is_char_boundary(*at)).any(|at| fits(rest, &tail[at..]))
        }),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_list_names_kind_and_name_and_gives_a_reason() {
        let list =
            Reviewed::read("# Sonar\nextra sonar.PING: only where the driver is old\nvalue sonar.tide.*: tides\n")
                .unwrap();
        let difference = |kind, name: &str| Difference {
            name: name.to_owned(),
            kind,
            words: String::new(),
            stub: None,
            module: None,
        };
        assert!(list.has(&difference(Kind::Extra, "sonar.PING")));
        assert!(list.has(&difference(Kind::Value, "sonar.tide.HIGH")));
        assert!(!list.has(&difference(Kind::Missing, "sonar.PING")));
        assert!(fits("sonar.*.hear*", "sonar.Echo.hear_all") && !fits("sonar.*.hear", "sonar.Echo.hear_all"));
        assert_eq!(Reviewed::read("extra sonar.PING\n"), Err(ReviewedError { line: 1 }));
        assert_eq!(Reviewed::read("\nodd sonar.PING: so\n"), Err(ReviewedError { line: 2 }));
    }
}
