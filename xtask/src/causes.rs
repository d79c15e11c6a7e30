//! Whether causes are causes: the change that would settle each is made on a copy in memory, and what was promised to go is counted.

use std::collections::BTreeMap;
use std::path::PathBuf;

use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_migrate::causes::{attempted, causes};
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_project::{Project, Surroundings};

use crate::corpus::{PACKAGES, folder};

/// So many causes are looked at.
const SAMPLE: usize = 100;

/// How to call it.
pub const USAGE: &str = "cargo xtask causes [--seed NUMBER] [--interpreter PYTHON] [FOLDER…]";

/// A cause that was tried.
struct Tried {
    place: String,
    change: String,
    rule: &'static str,
    promised: usize,
    went: usize,
    came: usize,
    stands_in: bool,
}

/// Draws causes of packages, of the corpus where none are named, and says what went by their changes and what came.
pub fn run(words: &[&str]) -> Result<(), String> {
    crate::in_pool(|| drawn(words))
}

fn drawn(words: &[&str]) -> Result<(), String> {
    let mut folders: Vec<PathBuf> = Vec::new();
    let mut seed = 1;
    let mut interpreter = None;
    let mut words = words.iter();
    while let Some(word) = words.next() {
        match *word {
            "--seed" => {
                let number = words.next().and_then(|number| number.parse().ok());
                seed = number.ok_or("give `--seed` a number")?;
            }
            "--interpreter" => {
                interpreter = Some((*words.next().ok_or("give `--interpreter` a path")?).to_owned());
            }
            word => folders.push(word.into()),
        }
    }
    if folders.is_empty() {
        folders = PACKAGES.iter().map(folder).collect();
    }
    let (mut all, mut untried) = (Vec::new(), 0);
    for folder in &folders {
        let said = |error: &dyn std::fmt::Display| format!("{}: {error}", folder.display());
        let surroundings = Surroundings { interpreter: interpreter.clone(), ..Surroundings::default() };
        let project = Project::open(folder, None, &surroundings).map_err(|error| said(&error))?;
        let mut session = Session::open(project).map_err(|error| said(&error))?;
        let report = session.check(&[], &Asked::default()).map_err(|error| said(&error))?;
        let findings: Vec<&Finding> = report.findings.iter().map(|reported| &reported.finding).collect();
        let checked: Vec<_> = report.files.iter().copied().zip(report.checked.iter().cloned()).collect();
        let causes = causes(&session.db, &findings, &checked);
        let outcomes = attempted(&mut session.db, &report.files, &findings, &causes);
        let name = folder.file_name().unwrap_or_default().to_string_lossy();
        for (cause, outcome) in causes.into_iter().zip(outcomes) {
            let (Some(first), Some(outcome)) = (cause.findings.first(), outcome) else {
                untried += usize::from(!cause.findings.is_empty());
                continue;
            };
            all.push(Tried {
                place: format!("{name} {}", cause.key),
                rule: findings[*first].rule,
                promised: cause.findings.len(),
                went: outcome.went,
                came: outcome.came.len(),
                stands_in: cause.stands_in,
                change: cause.change,
            });
        }
    }
    let found = all.len();
    shuffle(&mut all, seed);
    all.truncate(SAMPLE);
    let mut rules: BTreeMap<&str, (usize, usize, usize)> = BTreeMap::new();
    for tried in &all {
        let sum = rules.entry(tried.rule).or_default();
        *sum = (sum.0 + tried.promised, sum.1 + tried.went, sum.2 + tried.came);
    }
    println!("{:<26}{:>9}{:>7}{:>7}", "rule", "promised", "went", "came");
    for (rule, (promised, went, came)) in &rules {
        println!("{rule:<26}{promised:>9}{went:>7}{came:>7}");
    }
    for tried in all.iter().filter(|tried| tried.went < tried.promised) {
        println!("{}: {} of {} go: {}", tried.place, tried.went, tried.promised, tried.change);
    }
    let promised: usize = all.iter().map(|tried| tried.promised).sum();
    let went: usize = all.iter().map(|tried| tried.went).sum();
    let came: usize = all.iter().map(|tried| tried.came).sum();
    let standing = all.iter().filter(|tried| tried.stands_in).count();
    println!(
        "{} of {found} causes (seed {seed}), of {standing} with something that stands in for what a person writes; {untried} more have no change that \
         can be tried: {went} of {promised} findings went ({:.1}%), {came} came",
        all.len(),
        100.0 * went as f64 / promised.max(1) as f64
    );
    Ok(())
}

/// Puts a list in an order that a seed decides (xorshift, Marsaglia 2003).
fn shuffle<T>(list: &mut [T], seed: u64) {
    let mut state = seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) | 1;
    for end in (1..list.len()).rev() {
        state ^= state << 13;
        state ^= state >> 7;
        state ^= state << 17;
        list.swap(end, (state % (end as u64 + 1)) as usize);
    }
}
