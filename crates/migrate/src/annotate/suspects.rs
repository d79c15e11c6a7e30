//! Which annotations a new finding may come from, and the search among them.

use std::collections::{BTreeSet, HashSet};
use std::hash::{Hash, Hasher};
use std::ops::Deref;
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::{classes, functions};
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::findings::source::excerpt;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::leads_to;
use leitmotiv_engine::types::ClassRef;
use leitmotiv_engine::view::roots;
use leitmotiv_syntax::{TextRange, TextSize};

use super::edit::Edited;
use super::vet::Key;
use super::{Part, Proposal, Sureness};

/// A proposal that is suspected: this very one, whatever others say.
#[derive(Debug, Clone)]
pub(super) struct Suspect(pub(super) Arc<Proposal>);

impl Deref for Suspect {
    type Target = Proposal;

    fn deref(&self) -> &Proposal {
        &self.0
    }
}

impl PartialEq for Suspect {
    fn eq(&self, other: &Suspect) -> bool {
        Arc::ptr_eq(&self.0, &other.0)
    }
}

impl Eq for Suspect {}

impl Hash for Suspect {
    fn hash<H: Hasher>(&self, state: &mut H) {
        Arc::as_ptr(&self.0).hash(state);
    }
}

/// So many findings are looked into at once.
pub(super) const MOST_SEARCHES: usize = 256;

/// The search for what a finding comes from: of suspects without all of which it is gone, those are put back, part by part, that it is gone with
/// as well.
#[derive(Debug)]
pub(super) struct Search {
    /// Which finding it is.
    pub(super) at: usize,
    pub(super) file: File,
    pub(super) key: Key,
    /// Those it may come from.
    pub(super) suspects: Vec<Suspect>,
    /// Those that were suspected first.
    pub(super) nearest: Vec<Suspect>,
    /// More of them, should it come from none of these; the last ones first.
    pub(super) wider: Vec<Vec<Suspect>>,
    /// How many are put back at once; `None` while it is still to be seen that it is gone without all of them.
    pub(super) part: Option<usize>,
    /// From where on they are put back next.
    pub(super) from: usize,
    /// Whether it was seen to come from the only one that is left.
    is_seen: bool,
}

impl Search {
    /// A search among suspects, the nearest ones first; those without any are left out.
    pub(super) fn new(at: usize, file: File, key: Key, tiers: impl IntoIterator<Item = Vec<Suspect>>) -> Search {
        let mut wider: Vec<Vec<Suspect>> = tiers.into_iter().filter(|some| !some.is_empty()).collect();
        wider.reverse();
        let suspects = wider.pop().unwrap_or_default();
        let part = wider.is_empty().then(|| suspects.len().div_ceil(2));
        Search { at, file, key, nearest: suspects.clone(), suspects, wider, part, from: 0, is_seen: false }
    }

    /// Whether there is more to ask.
    pub(super) fn is_open(&self) -> bool {
        match self.part {
            None => true,
            Some(part) => match self.suspects.len() {
                0 => false,
                1 => !self.is_seen,
                _ => part > 0,
            },
        }
    }

    /// What is put back next.
    pub(super) fn put_back(&self) -> &[Suspect] {
        match self.part {
            None => &[],
            Some(part) => &self.suspects[self.from..(self.from + part.max(1)).min(self.suspects.len())],
        }
    }

    /// Goes on with what was seen when that was put back.
    pub(super) fn step(&mut self, is_gone: bool) {
        let Some(part) = self.part else {
            if !is_gone && let Some(wider) = self.wider.pop() {
                self.suspects = wider;
                // It must come from some of all.
                if !self.wider.is_empty() {
                    return;
                }
            }
            self.part = Some(self.suspects.len().div_ceil(2));
            return;
        };
        let part = part.max(1);
        self.is_seen = !is_gone && self.suspects.len() == 1;
        if is_gone {
            let end = (self.from + part).min(self.suspects.len());
            self.suspects.drain(self.from..end);
        } else {
            self.from += part;
        }
        let left = self.suspects.len();
        if self.from >= left {
            self.from = 0;
            self.part = Some(if part == 1 { 0 } else { part.min(left).div_ceil(2) });
        }
    }
}

/// What the function around a finding names.
pub(super) fn named_around(db: &Database, written: &[Edited], finding: &Finding) -> Vec<Suspect> {
    let index = module_index(db, finding.file);
    let around = index.functions_around.of(finding.range.start()).last().map(|id| index.functions[id].range);
    named_in(db, written, finding.file, around.unwrap_or(finding.range))
}

/// What the lines of a finding name.
pub(super) fn on_its_lines(db: &Database, written: &[Edited], finding: &Finding) -> Vec<Suspect> {
    let text = finding.file.text(db);
    let (start, end) = (usize::from(finding.range.start()), usize::from(finding.range.end()));
    let start = text[..start].rfind('\n').map_or(0, |end| end + 1);
    let end = text[end..].find('\n').map_or(text.len(), |behind| end + behind);
    let at = |offset: usize| TextSize::try_from(offset).unwrap_or_default();
    named_in(db, written, finding.file, TextRange::new(at(start), at(end)))
}

/// What some code names: functions, attributes and what they may be filled with.
fn named_in(db: &Database, written: &[Edited], file: File, range: TextRange) -> Vec<Suspect> {
    let code = file.text(db).get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
    let words: HashSet<&str> = code.split(|char: char| char != '_' && !char.is_alphanumeric()).collect();
    pick(written, |proposal| {
        let function = proposal.function.as_str();
        words.contains(function.rsplit('.').next().unwrap_or(function))
            || match &proposal.part {
                Part::Attribute(name) | Part::Variable(name) => words.contains(name.as_str()),
                // `self.tide` may be what a parameter `tide` was kept as.
                Part::Parameter(name) => {
                    (proposal.file == file || function.ends_with(".__init__")) && words.contains(name.as_str())
                }
                Part::Return => false,
            }
    })
}

/// All that is written into files that a file imports.
pub(super) fn imported(db: &Database, written: &[Edited], file: File) -> Vec<Suspect> {
    let led: HashSet<File> =
        written.iter().map(|edited| edited.file).filter(|other| leads_to(db, file, *other)).collect();
    pick(written, |proposal| led.contains(&proposal.file))
}

/// What is written, but for some.
pub(super) fn without(written: &[Edited], out: &HashSet<Suspect>) -> Vec<Arc<Proposal>> {
    pick(written, |_| true).into_iter().filter(|one| !out.contains(one)).map(|one| one.0).collect()
}

/// What is written for which something holds.
pub(super) fn pick(written: &[Edited], keep: impl Fn(&Proposal) -> bool) -> Vec<Suspect> {
    let all = written.iter().flat_map(|edited| &edited.proposals);
    all.filter(|proposal| keep(proposal)).cloned().map(Suspect).collect()
}

/// The proposal for the attribute or variable that is declared at a place, if there is one.
fn attribute_at<'e>(db: &Database, edited: &'e Edited, range: TextRange) -> Option<&'e Arc<Proposal>> {
    let file = edited.file;
    let class = module_index(db, file).classes_around.of(range.start()).next();
    let owner = match class {
        Some(class) => classes::shown(db, ClassRef { file, class }),
        None => db.names().text(file.module(db)),
    };
    let text = file.text(db);
    let line = text[..usize::from(range.start())].rfind('\n').map_or(0, |end| end + 1);
    let name = text[line..].split([':', '=']).next()?.trim().rsplit('.').next()?;
    edited.proposals.iter().find(|proposal| match &proposal.part {
        Part::Attribute(attribute) => {
            attribute == name && class.is_some() && proposal.function.rsplit('.').next() == Some(owner)
        }
        Part::Variable(variable) => variable == name && class.is_none(),
        Part::Parameter(_) | Part::Return => false,
    })
}

/// The proposal for the parameter that stands at a place, if there is one.
fn parameter_at<'e>(db: &Database, edited: &'e Edited, range: TextRange) -> Option<&'e Arc<Proposal>> {
    let index = module_index(db, edited.file);
    let id = index.functions_around.of(range.start()).next()?;
    let param = index.functions[id].params.iter().find(|param| {
        let annotation = param.annotation.map(|annotation| index.spans[annotation]);
        let whole = annotation.map_or(param.name_range, |annotation| param.name_range.cover(annotation));
        whole.contains_range(range)
    })?;
    let function = functions::qualified(db, edited.file, Some(id));
    let part = Part::Parameter(db.names().text(param.name).to_owned());
    edited.proposals.iter().find(|proposal| proposal.function == function && proposal.part == part)
}

/// The proposal for the result that is declared at a place, if there is one.
fn result_at<'e>(db: &Database, edited: &'e Edited, range: TextRange) -> Option<&'e Arc<Proposal>> {
    let index = module_index(db, edited.file);
    let id = index
        .functions_around
        .of(range.start())
        .find(|id| index.functions[*id].returns.is_some_and(|returns| index.spans[returns].contains_range(range)))?;
    let function = functions::qualified(db, edited.file, Some(id));
    edited.proposals.iter().find(|proposal| proposal.function == function && proposal.part == Part::Return)
}

/// What a new finding is laid to.
pub(super) enum Blame {
    /// This slot: the finding's own evidence leads to it.
    Slot(Suspect),
    /// One of these, or none of them.
    Among(Vec<Suspect>),
}

/// What a new finding is laid to: of the annotations that its evidence leads to, the one that the least speaks for. Where it leads to none,
/// one of the functions along it is suspected; of a text that is no program any more, or that uses a name that is not bound in
/// it, all of its own.
pub(super) fn blame(db: &Database, written: &[Edited], finding: &Finding) -> Blame {
    if matches!(finding.rule, "syntax.error" | "engine.fault" | "name.undefined" | "name.unbound") {
        let own = pick(written, |proposal| proposal.file == finding.file);
        let code = excerpt(db, finding.file, finding.range);
        let naming: Vec<Suspect> = own.iter().filter(|proposal| is_written_as(proposal, &code)).cloned().collect();
        if !own.is_empty() {
            return Blame::Among(if naming.is_empty() { own } else { naming });
        }
    }
    let declared = finding.evidence.iter().filter(|step| step.kind == "declared");
    let found = declared.filter_map(|step| slot_at(db, written, step.file, step.range));
    // The last step says what is asked for, from too few uses as like as not: it loses against what is given, all else being equal.
    let weakest = found.reduce(|one, other| if standing(other) <= standing(one) { other } else { one });
    if let Some(weakest) = weakest {
        return Blame::Slot(Suspect(weakest.clone()));
    }
    let mut names: BTreeSet<String> = BTreeSet::from([finding.symbol.clone()]);
    let places = finding.evidence.iter().map(|step| (step.file, step.range));
    let clash = (finding.rule == "class.override").then(|| clashing(&finding.message)).flatten();
    for (file, range) in places.chain([(finding.file, finding.range)]) {
        let around = module_index(db, file).functions_around.of(range.start());
        names.extend(around.map(|id| functions::qualified(db, file, Some(id))));
    }
    let mut found = pick(written, |proposal| names.contains(&proposal.function));
    match clash {
        Some(part) => found.retain(|proposal| proposal.part == part),
        // Within a function, what it gives is asked about where it gives something.
        None if !asks_what_is_given(finding.rule) => {
            found.retain(|proposal| proposal.function != finding.symbol || proposal.part != Part::Return);
        }
        None => {}
    }
    Blame::Among(found)
}

/// Whether an annotation, or what is imported for it, names something.
fn is_written_as(proposal: &Proposal, name: &str) -> bool {
    let spelled = &proposal.spelled;
    name == "TYPE_CHECKING" && !spelled.guarded.is_empty()
        || spelled.imports.iter().any(|(_, imported)| imported == name)
        || spelled.text.split(|char: char| char != '_' && !char.is_alphanumeric()).any(|word| word == name)
}

/// What the types in the statement around a finding rest on, that which stands firmest first.
pub(super) fn rooted(db: &Database, written: &[Edited], finding: &Finding) -> Vec<Suspect> {
    let roots = roots::of(db, finding.file, finding.range);
    let slots = roots.into_iter().filter_map(|(file, range)| slot_at(db, written, file, range));
    let mut found: Vec<Suspect> = slots.cloned().map(Suspect).collect();
    found.sort_by_key(|proposal| std::cmp::Reverse(standing(proposal)));
    found.dedup();
    found
}

/// The proposal that is written at a place.
fn slot_at<'e>(db: &Database, written: &'e [Edited], file: File, range: TextRange) -> Option<&'e Arc<Proposal>> {
    let edited = written.iter().find(|edited| edited.file == file)?;
    let found = parameter_at(db, edited, range).or_else(|| attribute_at(db, edited, range));
    found.or_else(|| result_at(db, edited, range))
}

/// How firmly a proposal stands.
fn standing(proposal: &Proposal) -> (Sureness, u32, u32) {
    (proposal.sureness, proposal.weight.best, proposal.weight.agreeing)
}

/// Whether a rule asks what functions give, where they give it.
fn asks_what_is_given(rule: &str) -> bool {
    matches!(rule, "value.return" | "value.yield" | "flow.missing-return")
        || rule.starts_with("class.")
        || rule.starts_with("generic.")
        || rule.starts_with("annotation.")
}

/// What of two methods clashes, as the finding says it: what they give, or a parameter.
fn clashing(message: &str) -> Option<Part> {
    if message.contains(": it gives `") {
        return Some(Part::Return);
    }
    let (_, behind) = message.split_once(": for `")?;
    let (name, rest) = behind.split_once('`')?;
    rest.starts_with(" it takes").then(|| Part::Parameter(name.to_owned()))
}

#[cfg(test)]
mod tests {
    use std::collections::BTreeSet;

    use leitmotiv_project::{Project, Surroundings};

    use super::super::{Inquiry, Wanted};
    use super::*;

    /// What a search ends with that finds a finding wherever one of the guilty ones is written; in how many steps.
    fn found(suspects: &[&str], wider: &[&str], guilty: &[&str]) -> (BTreeSet<String>, usize) {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().canonicalize().unwrap().join("ferry.py");
        let names: BTreeSet<&str> = suspects.iter().chain(wider).copied().collect();
        let text: String = names.iter().map(|name| format!("def {name}():\n    return 1\n")).collect();
        std::fs::write(&path, text).unwrap();
        let project = Project::open(folder.path(), None, &Surroundings::default()).unwrap();
        let db = Database::new(project);
        let file = db.source(&path);
        let proposals = Inquiry::new(&db, &[file]).propose(&[file], &Wanted::default());
        let of = |name: &&str| {
            let is_its = |proposal: &&Arc<Proposal>| last(&proposal.function) == *name;
            Suspect(proposals.iter().find(is_its).unwrap().clone())
        };
        let all = |names: &[&str]| names.iter().map(of).collect::<Vec<Suspect>>();
        let key = ("ferry.py".to_owned(), "call.argument", "ferry".to_owned());
        let mut search = Search::new(0, file, key, [all(suspects), all(wider)]);
        let mut steps = 0;
        while search.is_open() {
            let put_back = search.put_back().to_vec();
            let out = |name| search.suspects.contains(&of(name)) && !put_back.contains(&of(name));
            let is_gone = guilty.iter().all(out);
            search.step(is_gone);
            steps += 1;
            assert!(steps < 100, "the search does not end");
        }
        (search.suspects.iter().map(|one| last(&one.function).to_owned()).collect(), steps)
    }

    fn last(dotted: &str) -> &str {
        dotted.rsplit('.').next().unwrap()
    }

    #[test]
    fn a_search_ends_with_the_guilty_ones() {
        let all = ["a", "b", "c", "d", "e", "f", "g", "h"];
        for guilty in all {
            let (found, steps) = found(&all, &[], &[guilty]);
            assert_eq!(found, BTreeSet::from([guilty.to_owned()]));
            assert!(steps <= 8, "{steps} steps");
        }
        assert_eq!(found(&all, &[], &["b", "g"]).0, BTreeSet::from(["b".to_owned(), "g".to_owned()]));
        // None of the nearest: one of the others.
        assert_eq!(found(&["a", "b"], &all, &["f"]).0, BTreeSet::from(["f".to_owned()]));
        assert_eq!(found(&["a"], &[], &["a"]), (BTreeSet::from(["a".to_owned()]), 1));
        // One that does not come from any of them is laid to nobody.
        assert!(found(&["a", "b"], &[], &[]).0.is_empty());
    }
}
