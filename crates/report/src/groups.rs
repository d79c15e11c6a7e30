//! Findings by what they have in common: a cause, a rule, a file.

use std::collections::BTreeMap;

use leitmotiv_engine::rules;
use leitmotiv_migrate::causes::{Cause, Outcome};

use crate::document::Entry;

/// What to group by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum By {
    /// The file a finding stands in.
    File,
    /// The place of the project at its root, or the package that is missing or says nothing of its types.
    Cause,
    /// Its rule.
    Rule,
}

impl By {
    /// Its name, as the command line has it.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            By::File => "file",
            By::Cause => "cause",
            By::Rule => "rule",
        }
    }
}

/// Some findings.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Group {
    /// What they have in common: a path, a rule, a place as `path:line` (line from 1), or the name of a package.
    pub key: String,
    /// Where `leitmotiv explain` shows them: a place as `path:line`; of groups by rule the rule, of groups by file nothing.
    pub subject: Option<String>,
    /// What it is, in words.
    pub text: String,
    /// The findings, by their places in what was grouped.
    pub findings: Vec<usize>,
    /// Of causes, what else is known of them.
    pub cause: Option<OfCause>,
}

/// What is known of a cause beside its findings.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OfCause {
    /// How many expressions are unknown because of it.
    pub unknown: usize,
    /// In how many files its findings and unknown values stand.
    pub files: usize,
    /// What would settle it, in a few words.
    pub change: String,
    /// What came of that change on trial, if it was tried.
    pub tried: Option<Outcome>,
    /// Whether something stood in for what only a person can write.
    pub stands_in: bool,
}

/// Causes as groups, with what came of their changes where these were tried.
#[must_use]
pub fn of_causes(causes: Vec<Cause>, tried: Vec<Option<Outcome>>) -> Vec<Group> {
    let tried = tried.into_iter().chain(std::iter::repeat(None));
    let group = |(cause, tried): (Cause, Option<Outcome>)| Group {
        key: cause.key,
        subject: Some(cause.subject),
        text: cause.text,
        findings: cause.findings,
        cause: Some(OfCause {
            unknown: cause.unknown,
            files: cause.files,
            change: cause.change,
            tried,
            stands_in: cause.stands_in,
        }),
    };
    causes.into_iter().zip(tried).map(group).collect()
}

/// Groups of findings, biggest first, then by key.
#[must_use]
pub fn groups(entries: &[Entry], by: By) -> Vec<Group> {
    let mut groups: BTreeMap<String, Vec<usize>> = BTreeMap::new();
    for (place, entry) in entries.iter().enumerate() {
        let key = match (by, &entry.package) {
            (By::File, _) => entry.place.path.clone(),
            (By::Rule, _) => entry.rule.to_owned(),
            (By::Cause, Some(package)) => package.clone(),
            (By::Cause, None) => entry.cause.place.subject(),
        };
        groups.entry(key).or_default().push(place);
    }
    let mut groups: Vec<Group> = groups
        .into_iter()
        .map(|(key, members)| {
            let first = &entries[members[0]];
            let (subject, text) = match by {
                By::File => {
                    let mut rules: Vec<&str> = members.iter().map(|place| entries[*place].rule).collect();
                    rules.sort_unstable();
                    rules.dedup();
                    (None, rules.join(", "))
                }
                By::Rule => {
                    let summary = rules::by_slug(&key).map_or("", |rule| rule.summary);
                    (Some(key.clone()), summary.to_owned())
                }
                By::Cause if first.package.is_some() => {
                    let mut files: Vec<&str> =
                        members.iter().map(|place| entries[*place].place.path.as_str()).collect();
                    files.dedup();
                    let files = files.len();
                    let noun = if files == 1 { "file" } else { "files" };
                    let what = match first.rule {
                        "import.untyped" => "the package says nothing of its types",
                        _ => "there is no such module",
                    };
                    let text = format!("{what}; imported in {files} {noun}");
                    (Some(first.cause.place.subject()), text)
                }
                By::Cause => (Some(key.clone()), first.cause.text.clone()),
            };
            Group { key, subject, text, findings: members, cause: None }
        })
        .collect();
    groups.sort_by(|one, other| other.findings.len().cmp(&one.findings.len()).then_with(|| one.key.cmp(&other.key)));
    groups
}
