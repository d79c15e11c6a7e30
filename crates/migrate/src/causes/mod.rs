//! Causes: the places whose change would settle findings, what each explains, and that change; made on a copy in memory, it shows what goes
//! and what comes.
//!
//! - this file: findings and unknown values by their cause
//! - `attempt`: the change made on trial
//! - `standin`: what a person would write, stood in for where only they can know it

pub(crate) mod attempt;
mod standin;

use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::Checked;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::CauseKind;
use leitmotiv_project::resolve::Origin;

use crate::ways::{Way, Ways};

pub use attempt::{Attempts, Outcome, attempted, texts};

/// A cause.
#[derive(Debug, Clone)]
pub struct Cause {
    /// What it is called: a place as `path:line`, or a package.
    pub key: String,
    /// What `leitmotiv explain` takes to show it.
    pub subject: String,
    /// What happens there.
    pub text: String,
    /// The findings that it explains, by their numbers.
    pub findings: Vec<usize>,
    /// How many expressions are unknown because of it.
    pub unknown: usize,
    /// In how many files these findings and unknown values stand.
    pub files: usize,
    /// What would settle it, in a few words.
    pub change: String,
    /// That change, where it can be made on trial.
    pub way: Option<Way>,
    /// Whether something stands in the change for what only a person can write.
    pub stands_in: bool,
}

/// The causes of findings, and of the unknown values of what was checked: what explains most findings first, then what explains most unknown
/// values.
#[must_use]
pub fn causes(db: &Database, findings: &[&Finding], checked: &[(File, Arc<Checked>)]) -> Vec<Cause> {
    let mut groups: BTreeMap<String, Vec<usize>> = BTreeMap::new();
    for (number, finding) in findings.iter().enumerate() {
        let key = finding.package.clone().unwrap_or_else(|| {
            let (file, range) = finding.cause(db);
            place(db, file, range.start())
        });
        groups.entry(key).or_default().push(number);
    }
    let mut ways = Ways::new(db, findings.iter().copied());
    let mut unknown = unknown(db, checked);
    let mut all: Vec<Cause> = Vec::new();
    for (key, numbers) in groups {
        let first = findings[numbers[0]];
        let mut files: BTreeSet<&str> = numbers.iter().map(|number| findings[*number].file.path(db)).collect();
        let also = unknown.remove(&key);
        files.extend(also.iter().flat_map(|also| also.files.iter().copied()));
        let (file, range) = first.cause(db);
        let (change, way, stands_in) = settling(db, &mut ways, findings, &numbers);
        all.push(Cause {
            subject: place(db, file, range.start()),
            text: match &first.package {
                Some(_) if first.rule == "import.untyped" => "the package says nothing of its types".to_owned(),
                Some(_) => "there is no such module".to_owned(),
                None => first.cause_text(db).to_owned(),
            },
            key,
            unknown: also.map_or(0, |also| also.count),
            files: files.len(),
            findings: numbers,
            change,
            way,
            stands_in,
        });
    }
    for (key, of) in unknown {
        let files = of.files.len();
        all.push(Cause {
            key,
            subject: of.subject,
            text: of.text,
            findings: Vec::new(),
            unknown: of.count,
            files,
            change: of.change,
            way: None,
            stands_in: false,
        });
    }
    let order = |cause: &Cause| (std::cmp::Reverse(cause.findings.len()), std::cmp::Reverse(cause.unknown));
    all.sort_by(|one, other| order(one).cmp(&order(other)).then_with(|| one.key.cmp(&other.key)));
    all
}

/// A place as `path:line`, the line from 1.
fn place(db: &Database, file: File, at: leitmotiv_syntax::TextSize) -> String {
    format!("{}:{}", file.path(db), module_index(db, file).lines.0.index_of(at) + 1)
}

/// What would settle some findings of one cause: in words, as a way out, and whether something stands in for what a person would write.
fn settling(
    db: &Database,
    ways: &mut Ways<'_>,
    findings: &[&Finding],
    numbers: &[usize],
) -> (String, Option<Way>, bool) {
    let first = findings[numbers[0]];
    let known = ways.of(first);
    let changes = |way: &&Way| !way.edits.is_empty() || way.import.is_some();
    let of_cause = known.iter().filter(changes).find(|way| way.settles > 1 || numbers.len() == 1);
    if let Some(way) = of_cause {
        return (way.title.clone(), Some(way.clone()), false);
    }
    if first.package.is_some() {
        return (known.first().map_or_else(String::new, |way| way.title.clone()), None, false);
    }
    // Several findings with one thing to be written at one place, as a name that is spelled wrong twice in a line.
    if let Some(way) = together(ways, findings, numbers) {
        return (way.title.clone(), Some(way), false);
    }
    match standin::of(db, ways, first) {
        Some((words, way)) => (words, Some(way), true),
        None => (known.first().map_or_else(String::new, |way| way.title.clone()), None, false),
    }
}

/// The first way that can be written of each finding, all of them as one.
fn together(ways: &mut Ways<'_>, findings: &[&Finding], numbers: &[usize]) -> Option<Way> {
    let first = findings[numbers[0]];
    // Only what is wrong at a place of its own, or names that one statement binds: what else comes from somewhere is settled there.
    let is_own = |finding: &Finding| {
        matches!(finding.rule, "name.maybe-unbound" | "name.correlated")
            || finding.evidence.iter().all(|step| step.asks)
    };
    if !numbers.iter().all(|number| is_own(findings[*number]) && findings[*number].rule == first.rule) {
        return None;
    }
    let mut all: Option<Way> = None;
    for number in numbers {
        let way = ways.of(findings[*number]).into_iter().find(|way| !way.edits.is_empty())?;
        match &mut all {
            None => all = Some(way),
            Some(all) if all.id == way.id && all.import.is_none() && way.import.is_none() => {
                let new: Vec<_> = way.edits.into_iter().filter(|edit| !all.edits.contains(edit)).collect();
                all.edits.extend(new);
            }
            Some(_) => return None,
        }
    }
    all
}

/// What is unknown because of one thing.
struct Unknown<'db> {
    subject: String,
    text: String,
    change: String,
    count: usize,
    files: BTreeSet<&'db str>,
}

/// Unknown values by the place of the project that they come from, or the package.
fn unknown<'db>(db: &'db Database, checked: &[(File, Arc<Checked>)]) -> HashMap<String, Unknown<'db>> {
    let mut found: HashMap<String, Unknown<'db>> = HashMap::new();
    for (file, checked) in checked {
        for (id, count) in &checked.unknown {
            let cause = *db.store().cause(*id);
            let name = db.names().text(cause.name);
            let package = match cause.kind {
                CauseKind::UnresolvedImport | CauseKind::UntypedImport => Some(name),
                _ if cause.file.origin(db) == Origin::Untyped => Some(db.names().text(cause.file.module(db))),
                _ => None,
            };
            let package = package.and_then(|name| name.split('.').next()).filter(|name| !name.is_empty());
            let (key, subject, change) = match package {
                Some(package) => {
                    let change = match cause.kind {
                        CauseKind::UnresolvedImport => format!("install `{package}`"),
                        _ => format!("write a stub: leitmotiv stub write {package}"),
                    };
                    (package.to_owned(), "import.untyped".to_owned(), change)
                }
                None if !cause.file.origin(db).is_own() => continue,
                None => {
                    let range = leitmotiv_engine::outline::places::range_of(db, cause.file, cause.at);
                    let place = place(db, cause.file, range.start());
                    let change = match cause.kind {
                        CauseKind::Parameter => format!("annotate `{name}`"),
                        CauseKind::Empty => format!("say what `{name}` holds, as in `{name}: list[int] = []`"),
                        CauseKind::Bare => "name what the class is generic in".to_owned(),
                        _ if name.is_empty() => cause.kind.words().to_owned(),
                        _ => format!("declare `{name}`: {}", cause.kind.words()),
                    };
                    (place.clone(), place, change)
                }
            };
            let of = found.entry(key).or_insert_with(|| Unknown {
                subject,
                text: leitmotiv_engine::findings::evidence::cause_words(db, *id),
                change,
                count: 0,
                files: BTreeSet::new(),
            });
            of.count += count;
            of.files.insert(file.path(db));
        }
    }
    found
}
