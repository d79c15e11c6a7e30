//! Who last touched each line of a file, and when, asked of git.

use leitmotiv_project::Project;

use crate::git::Git;

/// A line of a file as git has it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Line {
    /// Who wrote the commit; empty for what is not committed.
    pub author: String,
    /// When, as days since 1970.
    pub day: i64,
    /// Its text.
    pub text: String,
}

/// The lines of a file (relative to the project's folder) as it stands; `None` where git cannot tell.
#[must_use]
pub fn blame(project: &Project, path: &str) -> Option<Vec<Line>> {
    let git = Git::of(project)?;
    let output = git.ask(["blame", "--no-textconv", "--line-porcelain", "--", path])?;
    Some(lines(&String::from_utf8_lossy(&output)))
}

/// What `--line-porcelain` says: for each line a head, its facts, and the line behind a tab.
fn lines(text: &str) -> Vec<Line> {
    let mut found = Vec::new();
    let (mut author, mut day) = (String::new(), 0);
    let mut is_committed = true;
    for line in text.split('\n') {
        if let Some(code) = line.strip_prefix('\t') {
            let author = if is_committed { author.clone() } else { String::new() };
            found.push(Line { author, day, text: code.to_owned() });
        } else if let Some(name) = line.strip_prefix("author ") {
            name.clone_into(&mut author);
        } else if let Some(time) = line.strip_prefix("author-time ") {
            day = time.parse::<i64>().unwrap_or(0).div_euclid(24 * 60 * 60);
        } else if let Some(head) = line.split(' ').next().filter(|head| head.len() >= 40) {
            is_committed = head.contains(|char: char| char != '0');
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn lines_are_read_with_who_and_when() {
        let head = |name: &str, sum: &str| {
            format!(
                "{sum} 1 1 1\nauthor {name}\nauthor-mail <x>\nauthor-time 172800\nsummary author of it\nfilename a.py\n"
            )
        };
        let sum = "1f0c22ab1f0c22ab1f0c22ab1f0c22ab1f0c22ab";
        let text = format!("{}\tx = 1\n{}\tauthor y\n", head("Isla Skerry", sum), head("Not yet", &"0".repeat(40)));
        let expected = [
            Line { author: "Isla Skerry".into(), day: 2, text: "x = 1".into() },
            Line { author: String::new(), day: 2, text: "author y".into() },
        ];
        assert_eq!(lines(&text), expected);
    }
}
