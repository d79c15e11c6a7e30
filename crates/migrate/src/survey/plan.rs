//! What to annotate first, with what comes of it: each step is tried, in memory, on top of those before it.

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::{Checked, check};
use rustc_hash::FxHashMap;
use serde::Serialize;

use super::Survey;
use crate::annotate::edit::Edited;
use crate::annotate::vet::{self, Tally, tally};
use crate::annotate::{Sureness, Wanted, recorded};
use crate::held::Held;
use crate::session::Report;
use crate::trial::Trial;

/// A module that is annotated with what there is evidence for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Step {
    /// The file, relative to the project.
    pub path: String,
    /// How many annotations are written.
    pub annotations: usize,
    /// How many expressions of the whole project are known by them that were not before.
    pub gain: usize,
    /// How many findings, at or above a warning, go with them.
    pub went: usize,
    /// How many come.
    pub came: usize,
}

/// So many modules are tried before the first step is taken, and one more for each.
const MOST_TRIED: usize = 8;

/// What is counted of a project.
struct Count {
    /// Expressions that are unknown, or `Any`.
    open: usize,
    findings: Tally,
}

fn count(db: &Database, checked: &[Arc<Checked>], held: &Held) -> Count {
    Count { open: checked.iter().map(|checked| checked.open()).sum(), findings: tally(db, checked, held) }
}

/// How much of one tally is not in another.
fn beyond(one: &Tally, other: &Tally) -> usize {
    one.iter().map(|(key, count)| count.saturating_sub(other.get(key).copied().unwrap_or(0))).sum()
}

/// What a module would become, and what is known to come of it.
struct Candidate {
    file: File,
    texts: Vec<(File, Arc<str>)>,
    annotations: usize,
    proved: bool,
    /// What came of it when it was tried last, for each annotation.
    worth: Option<f64>,
}

impl Candidate {
    /// Tries it on top of what is written already.
    fn tried(&mut self, trial: &mut Trial<'_>, files: &[File], held: &Held, before: &Count) -> Step {
        let old: Vec<(File, Arc<str>)> =
            self.texts.iter().map(|(file, _)| (*file, file.text(trial.db()).clone())).collect();
        trial.write(self.texts.iter().cloned());
        let after = count(trial.db(), &check(trial.db(), files), held);
        trial.write(old);
        let step = step(trial.db(), self, before, &after);
        let good = (step.gain + step.went).saturating_sub(step.came);
        self.worth = Some(good as f64 / (step.annotations + 1) as f64);
        step
    }
}

/// The steps to begin with: again and again the module by which most becomes known or settled for each annotation to write. `edited` is what
/// there is evidence for ([`super::weigh`]).
///
/// What no finding comes of is written by `annotate` just so. Where some come, other code contradicts some of it: of so many modules as `proofs`
/// says each annotation is held against all other code, as `annotate` does it, and others of this kind are passed over. With `is_thorough`
/// every module that is taken is.
pub fn plan(
    db: &mut Database,
    report: &Report,
    survey: &Survey,
    edited: &[Edited],
    (most, mut proofs, is_thorough): (usize, usize, bool),
    held: &Arc<Held>,
) -> Vec<Step> {
    let files = &report.files;
    let by_path: FxHashMap<&str, &Edited> = edited.iter().map(|edited| (edited.file.path(&*db), edited)).collect();
    // The modules come in the order of what they promise when all are annotated.
    let edited = survey.modules.iter().filter_map(|module| by_path.get(module.path.as_str()));
    let mut candidates: Vec<Candidate> = edited
        .map(|edited| Candidate {
            file: edited.file,
            texts: vec![(edited.file, Arc::from(edited.change.after.as_str()))],
            annotations: edited.proposals.len(),
            proved: false,
            worth: None,
        })
        .collect();
    let mut trial = Trial::new(db);
    let mut before = count(trial.db(), &report.checked, held);
    let mut steps: Vec<Step> = Vec::new();
    let records = recorded(trial.db().project());
    let wanted = Wanted { at_least: Sureness::Fair, records, held: Arc::clone(held), ..Wanted::default() };
    while steps.len() < most {
        for candidate in candidates.iter_mut().take(MOST_TRIED).filter(|candidate| candidate.worth.is_none()) {
            let step = candidate.tried(&mut trial, files, held, &before);
            candidate.proved = step.came == 0 && !is_thorough;
        }
        // To hold each annotation against all other code costs more than all the rest, and leaves less to write.
        let worth = |candidate: &Candidate| {
            let worth = candidate.worth.unwrap_or(0.0);
            if candidate.proved || is_thorough { worth } else { worth / 2.0 }
        };
        let best = (0..candidates.len()).max_by(|one, other| {
            let by_worth = worth(&candidates[*one]).total_cmp(&worth(&candidates[*other]));
            by_worth.then(other.cmp(one))
        });
        let Some(best) = best.filter(|best| worth(&candidates[*best]) > 0.0) else { break };
        if candidates[best].proved {
            let mut taken = candidates.remove(best);
            // What was written since it was tried may have changed what comes of it.
            let step = taken.tried(&mut trial, files, held, &before);
            if step.gain + step.went > 0 {
                trial.write(taken.texts);
                before = count(trial.db(), &check(trial.db(), files), held);
                steps.push(step);
            }
            continue;
        }
        if proofs == 0 {
            candidates.remove(best);
            continue;
        }
        proofs -= 1;
        let candidate = &mut candidates[best];
        let vetted = vet::vetted(trial.within(), files, &[candidate.file], &wanted);
        let changes = vetted.changes.iter();
        candidate.texts =
            changes.map(|change| (trial.db().source(&change.path), Arc::from(change.after.as_str()))).collect();
        candidate.annotations = vetted.accepted.len();
        candidate.proved = true;
        candidate.worth = Some(0.0);
        if candidate.annotations > 0 {
            candidate.tried(&mut trial, files, held, &before);
        }
    }
    steps
}

fn step(db: &Database, candidate: &Candidate, before: &Count, after: &Count) -> Step {
    Step {
        path: candidate.file.path(db).to_owned(),
        annotations: candidate.annotations,
        gain: before.open.saturating_sub(after.open),
        went: beyond(&before.findings, &after.findings),
        came: beyond(&after.findings, &before.findings),
    }
}
