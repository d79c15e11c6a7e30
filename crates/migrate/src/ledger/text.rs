//! The ledger as text.
//!
//! ```text
//! # leitmotiv.ledger 3
//! # Written by `leitmotiv tighten`; commit it, and let the tool change it.
//! debt none-handled skerry/fleet.py none.member skerry.fleet.find 1f0c22ab
//! debt none-handled skerry/fleet.py none.member skerry.fleet.find 1f0c22ab/2
//! debt full-signatures skerry/fleet.py annotation.missing skerry.fleet.find 811c9dc5 3
//! hold none-handled skerry/fleet.py
//! lost skerry/fleet.py 1
//! whole none-handled skerry/
//! ```
//!
//! Fields are separated by one space; in a field, white space, control characters and `%` are written as `%20` and the like. A debt that is
//! owed several times has a line for each time, so that two branches that pay one each take out lines, and change none. Of rules that count
//! several things in one finding the number of them stands at the end. A line that stands twice counts once, as after a merge that kept
//! both sides; of two numbers for one thing the larger one does: what is too much is struck, and what is too little would fail a check that
//! nobody has broken.

use std::collections::{BTreeMap, HashMap};

use thiserror::Error;

use super::{ANY, Contents, Debt, FILE};

const HEAD: &str = "# leitmotiv.ledger 3";

/// The head of the second version, in which a debt had one line, with how often it is owed.
const SECOND: &str = "# leitmotiv.ledger 2";
const WORDS: &str = "# Written by `leitmotiv tighten`; commit it, and let the tool change it.";

/// A ledger that cannot be read.
#[derive(Debug, Error)]
pub enum LedgerError {
    /// The file cannot be read.
    #[error("cannot read `{FILE}`: {0}")]
    Unreadable(std::io::Error),
    /// A line that is none of ours.
    #[error(
        "`{FILE}` line {0} is not understood; `leitmotiv tighten` writes it, and `git log -p {FILE}` shows how it came about"
    )]
    Line(usize),
    /// The first line is not ours.
    #[error(
        "`{FILE}` does not begin with the line `{HEAD}`: it was emptied or saved by something else; restore it from version \
         control, or delete it to begin anew"
    )]
    Head,
    /// It was written by a later version.
    #[error("`{FILE}` is of version {0}, which this version of Leitmotiv does not know")]
    Newer(u32),
    /// A merge was left undone.
    #[error(
        "`{FILE}` line {0} is a conflict marker: keep the lines of both sides, take out the markers, then run \
         `leitmotiv tighten --write`"
    )]
    Conflict(usize),
}

/// Reads a ledger's text.
pub(super) fn parse(text: &str) -> Result<Contents, LedgerError> {
    // The first version had one remark at its head and no fingerprints.
    let is_old = match text.lines().next() {
        Some(HEAD | SECOND) => false,
        Some(first) if first == WORDS => true,
        Some(first) => match first.strip_prefix("# leitmotiv.ledger ").map(str::parse) {
            Some(Ok(version)) if version > 3 => return Err(LedgerError::Newer(version)),
            _ if is_marker(first) => return Err(LedgerError::Conflict(1)),
            _ => return Err(LedgerError::Head),
        },
        None => return Err(LedgerError::Head),
    };
    let mut contents = Contents::default();
    let mut seen: HashMap<&str, usize> = HashMap::new();
    // How often each debt is owed by the lines read so far, by file, debt, and the number of the line among those of one debt.
    let mut owed: BTreeMap<(String, Debt), BTreeMap<usize, usize>> = BTreeMap::new();
    for (number, line) in text.lines().enumerate() {
        if is_marker(line) {
            return Err(LedgerError::Conflict(number + 1));
        }
        if line.starts_with('#') {
            // Lone carriage returns would make one remark of the whole file.
            if line.contains('\r') {
                return Err(LedgerError::Line(number + 1));
            }
            continue;
        }
        if line.is_empty() {
            continue;
        }
        let fields = if is_old { old_fields(line) } else { fields(line) };
        let understood = fields.and_then(|fields| take(&fields, &mut contents, &mut owed));
        if understood.is_none() {
            return Err(LedgerError::Line(number + 1));
        }
        match seen.get(line) {
            Some(first) => contents.doubles.push((*first, number + 1)),
            None => {
                seen.insert(line, number + 1);
            }
        }
    }
    for ((path, debt), lines) in owed {
        let count = lines.values().fold(0, |all: usize, one| all.saturating_add(*one));
        contents.files.entry(path).or_default().debts.insert(debt, count);
    }
    Ok(contents)
}

fn is_marker(line: &str) -> bool {
    ["<<<<<<<", "=======", ">>>>>>>", "|||||||"].iter().any(|marker| line.starts_with(marker))
}

fn take(
    fields: &[String],
    contents: &mut Contents,
    owed: &mut BTreeMap<(String, Debt), BTreeMap<usize, usize>>,
) -> Option<()> {
    match fields.iter().map(String::as_str).collect::<Vec<_>>().as_slice() {
        ["hold", demand, path] => {
            contents.files.entry((*path).to_owned()).or_default().holds.insert((*demand).to_owned());
        }
        ["whole", demand, folder] if folder.ends_with('/') => {
            contents.folders.entry((*folder).to_owned()).or_default().insert((*demand).to_owned());
        }
        ["lost", path, count] => {
            let lost = &mut contents.files.entry((*path).to_owned()).or_default().lost;
            *lost = count.parse::<usize>().ok()?.max(*lost);
        }
        ["debt", demand, path, rule, symbol, fingerprint, rest @ ..] => {
            let count: usize = match rest {
                [] => 1,
                [count] => count.parse().ok().filter(|count| *count > 0)?,
                _ => return None,
            };
            let (fingerprint, place) = match fingerprint.split_once('/') {
                Some((fingerprint, place)) => (fingerprint, place.parse().ok().filter(|place| *place > 1)?),
                None => (*fingerprint, 1),
            };
            let debt = Debt {
                demand: (*demand).to_owned(),
                rule: (*rule).to_owned(),
                symbol: (*symbol).to_owned(),
                fingerprint: fingerprint.to_owned(),
            };
            let known = owed.entry(((*path).to_owned(), debt)).or_default().entry(place).or_default();
            *known = count.max(*known);
        }
        _ => return None,
    }
    Some(())
}

/// Whether a finding of a rule counts several things, whose number is written: parts of a signature, uses of what is unknown, imports of
/// what is missing.
pub(super) fn is_counted(rule: &str) -> bool {
    rule == "annotation.missing" || rule == "unknown.value" || rule.starts_with("import.")
}

/// The fields of a line; `None` where it is not as it is written.
fn fields(line: &str) -> Option<Vec<String>> {
    let plain = |field: &str| !field.is_empty() && field.chars().all(|char| !must_be_written(char) || char == '%');
    line.split(' ').map(|field| plain(field).then(|| unescape(field)).flatten()).collect()
}

/// The fields of a line of the first version, in which paths may hold spaces.
fn old_fields(line: &str) -> Option<Vec<String>> {
    let (kind, rest) = line.split_once(' ')?;
    let (demand, rest) = rest.split_once(' ')?;
    let own = |text: &str| text.to_owned();
    if kind != "debt" {
        return Some(vec![own(kind), own(demand), own(rest)]);
    }
    let mut ends = rest.rsplitn(4, ' ');
    let (count, symbol, rule, path) = (ends.next()?, ends.next()?, ends.next()?, ends.next()?);
    Some(vec![own(kind), own(demand), own(path), own(rule), own(symbol), own(ANY), own(count)])
}

/// The ledger's text.
pub(super) fn write(contents: &Contents) -> String {
    let mut lines: Vec<String> = Vec::new();
    for (folder, demands) in &contents.folders {
        let folder = escape(folder);
        lines.extend(demands.iter().map(|demand| format!("whole {} {folder}", escape(demand))));
    }
    for (path, promises) in &contents.files {
        let path = escape(path);
        lines.extend(promises.holds.iter().map(|demand| format!("hold {} {path}", escape(demand))));
        for (debt, count) in &promises.debts {
            let line = format!(
                "debt {} {path} {} {} {}",
                escape(&debt.demand),
                escape(&debt.rule),
                escape(&debt.symbol),
                escape(&debt.fingerprint)
            );
            if is_counted(&debt.rule) || *count > MOST_LINES {
                lines.push(format!("{line} {count}"));
            } else {
                lines.push(line.clone());
                lines.extend((2..=*count).map(|place| format!("{line}/{place}")));
            }
        }
        if promises.lost > 0 {
            lines.push(format!("lost {path} {}", promises.lost));
        }
    }
    // By kind, then demand, then path.
    lines.sort();
    let mut text = format!("{HEAD}\n{WORDS}\n");
    for line in lines {
        text.push_str(&line);
        text.push('\n');
    }
    text
}

/// A debt that is owed more often than this has one line with its number.
const MOST_LINES: usize = 100;

fn must_be_written(char: char) -> bool {
    char == '%' || char.is_whitespace() || char.is_control() || leitmotiv_syntax::shown::is_hidden(char)
}

/// A field as it is written.
pub(crate) fn escape(field: &str) -> String {
    let mut out = String::with_capacity(field.len());
    let mut buffer = [0; 4];
    for char in field.chars() {
        if must_be_written(char) {
            for byte in char.encode_utf8(&mut buffer).bytes() {
                out.push_str(&format!("%{byte:02X}"));
            }
        } else {
            out.push(char);
        }
    }
    out
}

fn unescape(field: &str) -> Option<String> {
    let mut bytes = Vec::with_capacity(field.len());
    let mut rest = field.as_bytes();
    while let Some((first, after)) = rest.split_first() {
        if *first == b'%' {
            let (digits, behind) = after.split_at_checked(2)?;
            bytes.push(u8::from_str_radix(std::str::from_utf8(digits).ok()?, 16).ok()?);
            rest = behind;
        } else {
            bytes.push(*first);
            rest = after;
        }
    }
    String::from_utf8(bytes).ok()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn debt(symbol: &str) -> Debt {
        let own = str::to_owned;
        Debt {
            demand: own("none-handled"),
            rule: own("none.member"),
            symbol: own(symbol),
            fingerprint: own("1f0c22ab"),
        }
    }

    #[test]
    fn text_and_back_whatever_the_names() {
        for path in [
            "skerry/fleet.py",
            "the fleet.py",
            "new\nline.py",
            "debt x y.py",
            "100%.py",
            "<<<<<<< a.py",
            "\u{202e}x.py",
        ] {
            let mut contents = Contents::default();
            let promises = contents.files.entry(path.to_owned()).or_default();
            promises.holds.insert("none-handled".into());
            promises.debts.insert(debt("skerry.fleet.find"), 2);
            promises.debts.insert(Debt { rule: "annotation.missing".into(), ..debt("skerry.fleet.find") }, 7);
            promises.lost = 3;
            contents.folders.entry("skerry/".to_owned()).or_default().insert("no-any".into());
            let text = write(&contents);
            assert_eq!(text.lines().count(), 8, "{text}");
            assert_eq!(parse(&text).unwrap(), contents, "{text}");
        }
    }

    #[test]
    fn earlier_versions_are_read() {
        let text = format!(
            "{WORDS}\nhold none-handled the fleet.py\ndebt none-handled the fleet.py none.member fleet.find 2\n"
        );
        let files = parse(&text).unwrap().files;
        let promises = &files["the fleet.py"];
        assert!(promises.holds.contains("none-handled"));
        assert_eq!(promises.debts[&Debt { fingerprint: ANY.into(), ..debt("fleet.find") }], 2);
        let text = format!("{SECOND}\nhold none-handled a.py\ndebt none-handled a.py none.member a.f 1f0c22ab 2\n");
        assert_eq!(parse(&text).unwrap().files["a.py"].debts[&debt("a.f")], 2);
    }

    #[test]
    fn what_merges_leave_counts_once_and_the_larger_number_holds() {
        let told = |rest: &str| parse(&format!("{HEAD}\n{rest}")).unwrap_err().to_string();
        assert!(told("<<<<<<< ours\n").contains("line 2 is a conflict marker"));
        let line = "debt none-handled a.py none.member a.f 1f0c22ab";
        let read = |rest: &str| parse(&format!("{HEAD}\n{rest}")).unwrap();
        // One line for each time: both sides paid one, and one of them has a line that the other took out.
        assert_eq!(read(&format!("{line}\n{line}/2\n{line}/2\n")).files["a.py"].debts[&debt("a.f")], 2);
        assert_eq!(read(&format!("{line}\n{line}/2\n{line}/2\n")).doubles, [(3, 4)]);
        assert_eq!(read(&format!("{line}/3\n{line}\n")).files["a.py"].debts[&debt("a.f")], 2);
        let signature = Debt { rule: "annotation.missing".into(), ..debt("a.f") };
        let line = "debt none-handled a.py annotation.missing a.f 1f0c22ab";
        assert_eq!(read(&format!("{line} 3\n{line} 2\n")).files["a.py"].debts[&signature], 3);
        assert_eq!(read("lost a.py 3\nlost a.py 1\n").files["a.py"].lost, 3);
    }

    #[test]
    fn damage_is_told() {
        let told = |text: &str| parse(text).unwrap_err().to_string();
        assert!(told("").contains("does not begin with the line"));
        assert!(told("x\n").contains("does not begin with the line"));
        assert!(told(&format!("{HEAD}\rhold none-handled a.py\r")).contains("does not begin with the line"));
        assert!(told(&format!("{HEAD}\n# x\rhold none-handled a.py\r")).contains("line 2"));
        assert!(told("# leitmotiv.ledger 9\n").contains("version 9"));
        let lines = ["foo", "hold a", "hold  a b", "hold a b ", "debt a b c d e 0", "debt a b c d e -1", "hold a b%2"];
        for line in lines.into_iter().chain(["debt a b c d e/1", "debt a b c d e/x", "debt a b c d e 1 2", "whole a b"])
        {
            assert!(told(&format!("{HEAD}\n# x\n{line}\n")).contains("line 3"), "{line}");
        }
    }
}
