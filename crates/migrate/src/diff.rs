//! Unified diffs of texts that differ here and there by a line.
//!
//! Lines are followed on both sides; where they part, the nearest place is looked for at which two lines in a row are the same
//! again. What parts for longer is left to a general algorithm. So the time grows with the text, however many changes there are.

use std::fmt::Write;
use std::ops::Range;

use similar::{Algorithm, DiffOp, capture_diff_slices};

/// How many lines of context a change has on each side.
const CONTEXT: usize = 2;

/// How far ahead the nearest place is looked for, in lines.
const AHEAD: usize = 24;

/// Lines of both sides that stand for each other: equal, or changed.
#[derive(Debug, Clone, PartialEq, Eq)]
struct Part {
    is_equal: bool,
    old: Range<usize>,
    new: Range<usize>,
}

/// The difference of two texts, with the heads `--- old` and `+++ new`; empty where there is none.
#[must_use]
pub fn unified(before: &str, after: &str, old: &str, new: &str) -> String {
    let (before, after) = (lines(before), lines(after));
    let parts = parts(&before, &after);
    let mut out = String::new();
    let mut at = 0;
    while let Some(first) = (at..parts.len()).find(|number| !parts[*number].is_equal) {
        // A hunk goes on while there is not enough between two changes to end it.
        let mut last = first;
        while let Some(next) = (last + 1..parts.len()).find(|number| !parts[*number].is_equal) {
            if parts[next].old.start - parts[last].old.end > 2 * CONTEXT {
                break;
            }
            last = next;
        }
        if out.is_empty() {
            // Writing to a string cannot fail.
            let _ = write!(out, "--- {old}\n+++ {new}\n");
        }
        hunk(&parts[first..=last], &before, &after, &mut out);
        at = last + 1;
    }
    out
}

/// Lines of one text in the place of lines of another.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Changed {
    /// The line that they begin with, from 1; of lines that only come, the one before which they stand.
    pub line: usize,
    /// The lines that go, without their ends.
    pub gone: Vec<String>,
    /// Those that come.
    pub come: Vec<String>,
}

/// Where two texts differ, without the lines around.
#[must_use]
pub fn changed(before: &str, after: &str) -> Vec<Changed> {
    let (before, after) = (lines(before), lines(after));
    let plain = |lines: &[&str]| lines.iter().map(|line| line.trim_end_matches(['\n', '\r']).to_owned()).collect();
    let differing = parts(&before, &after).into_iter().filter(|part| !part.is_equal);
    differing
        .map(|part| Changed { line: part.old.start + 1, gone: plain(&before[part.old]), come: plain(&after[part.new]) })
        .collect()
}

/// Which lines of one text stand in the place of which of another, as ranges of both, from 0.
#[must_use]
pub fn replaced(before: &[&str], after: &[&str]) -> Vec<(Range<usize>, Range<usize>)> {
    parts(before, after).into_iter().filter(|part| !part.is_equal).map(|part| (part.old, part.new)).collect()
}

fn hunk(parts: &[Part], before: &[&str], after: &[&str], out: &mut String) {
    let (Some(first), Some(last)) = (parts.first(), parts.last()) else { return };
    let lead = CONTEXT.min(first.old.start).min(first.new.start);
    let trail = CONTEXT.min(before.len() - last.old.end).min(after.len() - last.new.end);
    let range = |start: usize, end: usize| match end - start {
        0 => format!("{start},0"),
        1 => format!("{}", start + 1),
        length => format!("{},{length}", start + 1),
    };
    let _ = writeln!(
        out,
        "@@ -{} +{} @@",
        range(first.old.start - lead, last.old.end + trail),
        range(first.new.start - lead, last.new.end + trail)
    );
    let mut line = |sign: char, text: &str| {
        out.push(sign);
        out.push_str(text);
        if !text.ends_with('\n') {
            out.push_str("\n\\ No newline at end of file\n");
        }
    };
    before[first.old.start - lead..first.old.start].iter().for_each(|text| line(' ', text));
    for part in parts {
        if part.is_equal {
            before[part.old.clone()].iter().for_each(|text| line(' ', text));
        } else {
            before[part.old.clone()].iter().for_each(|text| line('-', text));
            after[part.new.clone()].iter().for_each(|text| line('+', text));
        }
    }
    before[last.old.end..last.old.end + trail].iter().for_each(|text| line(' ', text));
}

/// The lines of a text with their ends. A lone carriage return ends none: tools that read diffs know none such.
fn lines(text: &str) -> Vec<&str> {
    text.split_inclusive('\n').collect()
}

fn parts(before: &[&str], after: &[&str]) -> Vec<Part> {
    let mut parts: Vec<Part> = Vec::new();
    let (mut old, mut new) = (0, 0);
    while old < before.len() || new < after.len() {
        let same = before[old..].iter().zip(&after[new..]).take_while(|(one, other)| one == other).count();
        if same > 0 {
            parts.push(Part { is_equal: true, old: old..old + same, new: new..new + same });
            (old, new) = (old + same, new + same);
            continue;
        }
        match nearest(&before[old..], &after[new..]) {
            Some((gone, come)) => {
                // A line that stays within, between others that go and come, is found by looking closer.
                parts.extend(closer(before, after, old..old + gone, new..new + come));
                (old, new) = (old + gone, new + come);
            }
            None => {
                parts.extend(closer(before, after, old..before.len(), new..after.len()));
                break;
            }
        }
    }
    parts
}

/// What parts, told by a general algorithm.
fn closer(before: &[&str], after: &[&str], old: Range<usize>, new: Range<usize>) -> Vec<Part> {
    if old.is_empty() || new.is_empty() {
        return vec![Part { is_equal: false, old, new }];
    }
    let ops = capture_diff_slices(Algorithm::Patience, &before[old.clone()], &after[new.clone()]);
    let shift = |range: Range<usize>, by: usize| range.start + by..range.end + by;
    ops.into_iter()
        .map(|op| Part {
            is_equal: matches!(op, DiffOp::Equal { .. }),
            old: shift(op.old_range(), old.start),
            new: shift(op.new_range(), new.start),
        })
        .collect()
}

/// How many lines are gone and have come before the sides are the same again, for two lines or to the end; the fewest. As many
/// gone as come is what an edit in place looks like, behind which one line that says something is enough.
fn nearest(before: &[&str], after: &[&str]) -> Option<(usize, usize)> {
    let meets = |gone: usize, come: usize| match (before.get(gone), after.get(come)) {
        (None, None) => true,
        (Some(one), Some(other)) => {
            let says_something = gone == come && one.trim().len() > 3;
            one == other && (says_something || before.get(gone + 1) == after.get(come + 1))
        }
        _ => false,
    };
    (1..=2 * AHEAD).find_map(|sum| {
        let mut splits: Vec<(usize, usize)> = (0..=sum).map(|gone| (gone, sum - gone)).collect();
        splits.sort_by_key(|(gone, come)| gone.abs_diff(*come));
        let near = |split: &(usize, usize)| split.0 <= before.len() && split.1 <= after.len();
        splits.into_iter().filter(near).find(|(gone, come)| meets(*gone, *come))
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn changes_are_shown_with_their_context() {
        let before = "a\nb\nc\nd\ne\nf\ng\nh\ni\nj\n";
        let after = "new\na\nb\nc\nD\ne\nf\ng\nh\ni\n";
        let expected =
            "--- old\n+++ new\n@@ -1,6 +1,7 @@\n+new\n a\n b\n c\n-d\n+D\n e\n f\n@@ -8,3 +9,2 @@\n h\n i\n-j\n";
        assert_eq!(unified(before, after, "old", "new"), expected);
        assert_eq!(unified(before, before, "old", "new"), "");
    }

    #[test]
    fn files_without_a_last_line_end_and_new_files_are_told() {
        let text = unified("x", "y\n", "old", "new");
        assert_eq!(text, "--- old\n+++ new\n@@ -1 +1 @@\n-x\n\\ No newline at end of file\n+y\n");
        assert_eq!(unified("", "y\n", "old", "new"), "--- old\n+++ new\n@@ -0,0 +1 @@\n+y\n");
    }

    #[test]
    fn what_the_diff_says_makes_the_one_of_the_other() {
        let before: String = (0..200).map(|number| format!("line {}\n", number % 7)).collect();
        let mut lines: Vec<&str> = before.lines().collect();
        lines.drain(20..90);
        lines.insert(3, "more");
        lines.swap(100, 40);
        let after = lines.join("\n") + "\n";
        let parts = parts(&super::lines(&before), &super::lines(&after));
        let (mut old, mut new) = (0, 0);
        for part in &parts {
            assert_eq!((part.old.start, part.new.start), (old, new));
            (old, new) = (part.old.end, part.new.end);
            if part.is_equal {
                let same = super::lines(&before)[part.old.clone()] == super::lines(&after)[part.new.clone()];
                assert!(same);
            }
        }
        assert_eq!((old, new), (before.lines().count(), after.lines().count()));
    }
}
