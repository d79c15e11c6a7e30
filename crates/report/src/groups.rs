//! Findings by what they have in common: a cause, a rule, a file.

use std::collections::BTreeMap;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::rules;
use leitmotiv_migrate::session::Reported;

use crate::place::positions;

/// What to group by.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum By {
    /// The file a finding stands in.
    File,
    /// The place of the project at its root, or the package that is missing.
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
    /// What they have in common: a path, a rule, a place as `path:line` (line from 1), or the name of a missing package.
    pub key: String,
    /// Where `leitmotiv explain` shows them: a place as `path:line`; of groups by rule the rule, of groups by file nothing.
    pub subject: Option<String>,
    /// What it is, in words.
    pub text: String,
    /// The findings, by their places in what was grouped.
    pub findings: Vec<usize>,
}

/// The place at the root of a finding as `path:line`, line from 1.
#[must_use]
pub fn cause_place(db: &Database, reported: &Reported) -> String {
    let (file, range) = reported.finding.cause(db);
    format!("{}:{}", file.path(db), positions(db, file, range).0.line)
}

/// Groups of findings, biggest first, then by key.
#[must_use]
pub fn groups(db: &Database, findings: &[&Reported], by: By) -> Vec<Group> {
    let mut groups: BTreeMap<String, Vec<usize>> = BTreeMap::new();
    for (place, reported) in findings.iter().enumerate() {
        let finding = &reported.finding;
        let key = match (by, &finding.missing) {
            (By::File, _) => finding.file.path(db).to_owned(),
            (By::Rule, _) => finding.rule.to_owned(),
            (By::Cause, Some(missing)) => missing.clone(),
            (By::Cause, None) => cause_place(db, reported),
        };
        groups.entry(key).or_default().push(place);
    }
    let mut groups: Vec<Group> = groups
        .into_iter()
        .map(|(key, members)| {
            let first = findings[members[0]];
            let (subject, text) = match by {
                By::File => {
                    let mut rules: Vec<&str> = members.iter().map(|place| findings[*place].finding.rule).collect();
                    rules.sort_unstable();
                    rules.dedup();
                    (None, rules.join(", "))
                }
                By::Rule => {
                    let summary = rules::by_slug(&key).map_or("", |rule| rule.summary);
                    (Some(key.clone()), summary.to_owned())
                }
                By::Cause if first.finding.missing.is_some() => {
                    let files = members.len();
                    let noun = if files == 1 { "file" } else { "files" };
                    let text = format!("there is no such module; imported in {files} {noun}");
                    (Some(cause_place(db, first)), text)
                }
                By::Cause => {
                    let text = first.finding.cause_text(db).to_owned();
                    (Some(key.clone()), text)
                }
            };
            Group { key, subject, text, findings: members }
        })
        .collect();
    groups.sort_by(|one, other| other.findings.len().cmp(&one.findings.len()).then_with(|| one.key.cmp(&other.key)));
    groups
}
