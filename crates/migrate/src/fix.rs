//! Ways out that cannot change what the program does, made and proved: each must settle its finding, and bring no other.
//!
//! Which those are, and what they write, [`crate::ways`] says. They are tried out together, and one by one where that is too much. A person may
//! choose others, and answers for these.

use std::collections::{BTreeMap, BTreeSet, HashSet};
use std::path::PathBuf;
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::check;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::edits::{Edit, apply};
use leitmotiv_syntax::parse::parse;
use leitmotiv_syntax::same::same_but_for_annotations;

use crate::annotate::imports::{self, Needed};
use crate::annotate::vet::{Tally, key, tally};
use crate::causes::attempt::{Told, counted, told};
use crate::change::Change;
use crate::held::Held;
use crate::trial::Trial;
use crate::ways::{Import, Way, Ways};

/// A way out that is made.
#[derive(Debug, Clone)]
pub struct Fix {
    /// The rule whose finding it settles.
    pub rule: &'static str,
    /// The file that the finding stands in, as it is shown.
    pub path: String,
    /// Its line, from 1; of what another fix has uncovered, with that one written.
    pub line: usize,
    /// What is done, in words.
    pub words: String,
    told: Told,
    edits: Vec<(File, Edit)>,
    import: Option<Import>,
    /// Whether a person answers for what it does to the program.
    is_chosen: bool,
}

/// What came of it.
#[derive(Debug, Default)]
pub struct Fixed {
    /// The fixes that hold.
    pub done: Vec<Fix>,
    /// Those that were left out, each with what stands against it.
    pub withdrawn: Vec<(Fix, String)>,
    /// The changes to files, by path.
    pub changes: Vec<Change>,
    /// How many findings no fix is known for.
    pub rest: usize,
}

/// One fix may uncover what another settles; so many rounds there are at most.
const MOST_ROUNDS: usize = 4;

/// Fixes for some findings, tried out on the database, of whose project `files` are all; it is left as it was. With the name of a way out,
/// that one is made wherever it can be, and a person answers for it; else those that cannot change what the program does.
#[must_use]
pub fn fixed(db: &mut Database, files: &[File], findings: &[&Finding], way: Option<&str>) -> Fixed {
    let mut open: Vec<Finding> = findings.iter().copied().cloned().collect();
    let asked: HashSet<(File, &'static str)> = open.iter().map(|finding| (finding.file, finding.rule)).collect();
    let mut fixed = Fixed::default();
    let mut seen: BTreeSet<Told> = BTreeSet::new();
    let mut kept: BTreeMap<PathBuf, Change> = BTreeMap::new();
    let before = tally(db, &check(db, files), &Held::default());
    let mut tried = Tried { trial: Trial::new(db), files, before, told: BTreeMap::new() };
    for round in 0..MOST_ROUNDS {
        let db = tried.trial.db();
        let mut ways = Ways::new(db, &open);
        let proposed: Vec<Fix> = open.iter().filter_map(|finding| fix(db, &mut ways, finding, way)).collect();
        if round == 0 {
            fixed.rest = open.len() - proposed.len();
        }
        seen.extend(open.iter().map(|finding| told(db, finding)));
        let mut held = proposed;
        tried.told = counted(db, &check(db, files));
        if !held.is_empty() && tried.stands_against(&held).is_some() {
            let all = std::mem::take(&mut held);
            for one in all {
                held.push(one);
                if let Some(against) = tried.stands_against(&held) {
                    fixed.withdrawn.extend(held.pop().map(|one| (one, against)));
                }
            }
        }
        if held.is_empty() {
            break;
        }
        for change in tried.keep(&held) {
            let Change { path, shown, before, after } = change;
            let known = kept.entry(path.clone());
            known.and_modify(|known| known.after.clone_from(&after)).or_insert(Change { path, shown, before, after });
        }
        fixed.done.extend(held);
        // What one fix has uncovered.
        let db = tried.trial.db();
        let found = check(db, files);
        let found = found.iter().flat_map(|checked| &checked.findings);
        let is_new =
            |finding: &&Finding| asked.contains(&(finding.file, finding.rule)) && !seen.contains(&told(db, finding));
        open = found.filter(is_new).cloned().collect();
    }
    fixed.changes = kept.into_values().collect();
    fixed.changes.sort_by(|one, other| one.shown.cmp(&other.shown));
    fixed
}

/// The fix for a finding, if one is known.
fn fix(db: &Database, ways: &mut Ways<'_>, finding: &Finding, way: Option<&str>) -> Option<Fix> {
    if !finding.file.origin(db).is_own() {
        return None;
    }
    let is_meant = |known: &Way| match way {
        Some(id) => known.id == id && (!known.edits.is_empty() || known.import.is_some()),
        None => known.safe,
    };
    let chosen = ways.of(finding).into_iter().find(is_meant)?;
    Some(Fix {
        rule: finding.rule,
        path: finding.file.path(db).to_owned(),
        line: module_index(db, finding.file).lines.0.index_of(finding.range.start()) + 1,
        words: chosen.title,
        told: told(db, finding),
        edits: chosen.edits,
        import: chosen.import,
        is_chosen: way.is_some(),
    })
}

/// Fixes written into the project.
struct Tried<'a, 'db> {
    trial: Trial<'db>,
    files: &'a [File],
    /// What was found before anything was written.
    before: Tally,
    /// What was found before this round, word by word.
    told: BTreeMap<Told, usize>,
}

impl Tried<'_, '_> {
    /// What stands against some fixes together, in words; `None` where each settles its finding and none brings another.
    fn stands_against(&mut self, fixes: &[Fix]) -> Option<String> {
        let Some(changes) = self.changes(fixes) else { return Some("it cannot be written safely".to_owned()) };
        let db = self.trial.db();
        let written = texts(db, &changes);
        let originals: Vec<(File, Arc<str>)> = written.iter().map(|(file, _)| (*file, file.text(db).clone())).collect();
        self.trial.write(written);
        let db = self.trial.db();
        let checked = check(db, self.files);
        let now = tally(db, &checked, &Held::default());
        let told = counted(db, &checked);
        let settled =
            fixes.iter().all(|fix| told.get(&fix.told).unwrap_or(&0) < self.told.get(&fix.told).unwrap_or(&0));
        let all = checked.iter().flat_map(|checked| &checked.findings);
        let is_worse = |finding: &&Finding| {
            let key = key(db, finding);
            finding.severity > Severity::Note && now.get(&key) > self.before.get(&key)
        };
        let worse = all.into_iter().find(is_worse).map(|finding| {
            let line = module_index(db, finding.file).lines.0.index_of(finding.range.start()) + 1;
            format!("{}:{line} {}", finding.file.path(db), finding.message)
        });
        self.trial.write(originals);
        worse.or_else(|| (!settled).then(|| "it would still be found".to_owned()))
    }

    /// Leaves fixes written.
    fn keep(&mut self, fixes: &[Fix]) -> Vec<Change> {
        let changes = self.changes(fixes).unwrap_or_default();
        let written = texts(self.trial.db(), &changes);
        self.trial.write(written);
        changes
    }

    /// The changes that fixes make; `None` where a file would not be the same program any more but for annotations, imports and comments.
    fn changes(&self, fixes: &[Fix]) -> Option<Vec<Change>> {
        let db = self.trial.db();
        let mut by_file: BTreeMap<&str, (File, Vec<&Fix>)> = BTreeMap::new();
        for fix in fixes {
            let files = fix.edits.iter().map(|(file, _)| *file).chain(fix.import.iter().map(|import| import.file));
            for file in files {
                let own = &mut by_file.entry(file.path(db)).or_insert_with(|| (file, Vec::new())).1;
                if !own.iter().any(|known| std::ptr::eq(*known, fix)) {
                    own.push(fix);
                }
            }
        }
        by_file.into_values().map(|(file, own)| change(db, file, &own)).collect()
    }
}

/// Files with the texts that changes give them.
fn texts(db: &Database, changes: &[Change]) -> Vec<(File, Arc<str>)> {
    changes.iter().map(|change| (db.source(&change.path), Arc::from(change.after.as_str()))).collect()
}

fn change(db: &Database, file: File, fixes: &[&Fix]) -> Option<Change> {
    let text = file.text(db);
    let mut edits: Vec<Edit> = Vec::new();
    for (_, edit) in fixes.iter().flat_map(|fix| &fix.edits).filter(|(of, _)| *of == file) {
        // Two findings may be settled by one edit.
        if !edits.contains(edit) {
            edits.push(edit.clone());
        }
    }
    let needed = fixes.iter().filter_map(|fix| fix.import.as_ref()).filter(|import| import.file == file);
    let needed = needed.map(|import| Needed {
        imports: &import.names,
        guarded: &import.guarded,
        before: import.before,
        statements: &[],
    });
    edits.extend(imports::edits(text, module_index(db, file), needed, &|name| db.is_standard_name(name))?);
    let after = apply(text, &edits).ok()?;
    let is_same = match fixes.iter().any(|fix| fix.is_chosen) {
        true => parse(&after).faults.is_empty(),
        false => same_but_for_annotations(text, &after),
    };
    let change = Change {
        path: file.disk(db)?.to_owned(),
        shown: file.path(db).to_owned(),
        before: Some(text.to_string()),
        after,
    };
    is_same.then_some(change)
}
