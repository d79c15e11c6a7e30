//! Ways out for just this place: the text that would be written, where, and a price in numbers.
//!
//! The engine says what a way changes ([`Act`]); here that becomes text, and what it costs is counted. What cannot be told for this place
//! stays in the words of the rule's page.
//!
//! - this file: the ways out of a finding, in order
//! - `none`: checks for None, and places that None comes from
//! - `held`: values that are looked at before their statement
//! - `narrow`: checks for a class
//! - `declared`: what is declared takes another type
//! - `value`: what is given becomes something else
//! - `parameters`: what a method takes, and what a call gives
//! - `missing`: imports of what annotations name
//! - `unused`: comments that hide nothing
//! - `mark`: methods that say that they stand in for others
//! - `code`: where things stand in the text

pub(crate) mod code;
mod declared;
mod held;
mod mark;
mod missing;
mod narrow;
mod none;
mod parameters;
mod unused;
mod value;

use std::collections::{BTreeSet, HashMap};
use std::rc::Rc;
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::act::Act;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::rules::Remedy;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::view::calls;
use leitmotiv_index::tree::FunctionId;
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::{TextRange, TextSize};

use crate::annotate::imports::{self, Needed};
use crate::annotate::is_test;
use code::Code;

/// A way out of one finding.
#[derive(Debug, Clone)]
pub struct Way {
    /// The way's name, as on the rule's page.
    pub id: &'static str,
    /// What to do here.
    pub title: String,
    /// What it costs.
    pub price: String,
    /// Whether it cannot change what the program does.
    pub safe: bool,
    /// How many findings have the cause that it changes; 1 where it settles the finding alone.
    pub settles: usize,
    /// Which findings it settles.
    pub reach: Reach,
    /// Where it stands among the ways out, lower first: where it settles the finding alone, and where it settles others too.
    pub ranks: (u8, u8),
    /// What is written, but for imports.
    pub edits: Vec<(File, Edit)>,
    /// What must be imported.
    pub import: Option<Import>,
    /// Whether it comes behind the others, whatever it settles.
    pub(crate) is_last: bool,
}

/// Which findings a way out settles.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub enum Reach {
    /// The finding alone.
    #[default]
    Alone,
    /// All of the same cause.
    Cause,
    /// All that the same declaration settles once it takes a type as well.
    Widened(Widened),
}

/// A declaration that takes a type as well: its file, its place, and the type as it is shown.
pub type Widened = (File, TextRange, String);

/// What must be imported for a way out.
#[derive(Debug, Clone)]
pub struct Import {
    /// Where.
    pub file: File,
    /// Before which place.
    pub before: TextSize,
    /// Module and name of each.
    pub names: BTreeSet<(String, String)>,
    /// Those that only a type checker needs.
    pub guarded: BTreeSet<(String, String)>,
}

impl Way {
    fn new(remedy: &Remedy) -> Way {
        Way {
            id: remedy.id,
            title: remedy.title.clone(),
            price: remedy.price.to_owned(),
            safe: remedy.safe,
            settles: 1,
            reach: Reach::Alone,
            ranks: (0, 0),
            edits: Vec::new(),
            import: None,
            is_last: false,
        }
    }

    /// What is written with the imports that it needs; `None` where there is no place for these.
    #[must_use]
    pub fn written(&self, db: &Database) -> Option<Vec<(File, Edit)>> {
        let mut all = self.edits.clone();
        if let Some(import) = &self.import {
            let needed =
                [Needed { imports: &import.names, guarded: &import.guarded, before: import.before, statements: &[] }];
            let (text, index) = (import.file.text(db), module_index(db, import.file));
            let edits = imports::edits(text, index, needed.into_iter(), &|name| db.is_standard_name(name))?;
            all.extend(edits.into_iter().map(|edit| (import.file, edit)));
        }
        Some(all)
    }
}

/// What is known of a project while ways out are worked out.
pub struct Ways<'db> {
    db: &'db Database,
    codes: HashMap<File, Rc<Code>>,
    calls: HashMap<(File, FunctionId), (usize, usize)>,
    shared: Arc<Shared>,
}

/// What some findings have in common.
#[derive(Debug, Default)]
pub struct Shared {
    /// How many findings have a cause, by file and place.
    causes: HashMap<(File, TextRange), usize>,
    /// How many findings a declaration settles that takes a type as well.
    widened: HashMap<Widened, usize>,
}

/// So many files are kept with their trees.
const MOST_CODES: usize = 16;

impl Shared {
    /// What some findings have in common.
    pub fn of<'a>(db: &Database, findings: impl IntoIterator<Item = &'a Finding>) -> Shared {
        let mut shared = Shared::default();
        for finding in findings {
            *shared.causes.entry(finding.cause(db)).or_default() += 1;
            for widened in widened(db, finding) {
                *shared.widened.entry(widened).or_default() += 1;
            }
        }
        shared
    }

    /// How many of them a way out of a finding settles.
    fn settles(&self, db: &Database, finding: &Finding, reach: &Reach) -> usize {
        let count = match reach {
            Reach::Alone => None,
            Reach::Cause => self.causes.get(&finding.cause(db)),
            Reach::Widened(widened) => self.widened.get(widened),
        };
        count.copied().unwrap_or(1).max(1)
    }
}

/// The declarations that would settle a finding if they took a type as well.
pub fn widened(db: &Database, finding: &Finding) -> impl Iterator<Item = Widened> {
    finding.remedies.iter().filter_map(|remedy| match remedy.act {
        Some(Act::Widen { file, at, by }) => Some((file, at, show(db, by))),
        _ => None,
    })
}

impl<'db> Ways<'db> {
    /// Ways out among some findings: those that are known to have causes in common.
    pub fn new<'a>(db: &'db Database, findings: impl IntoIterator<Item = &'a Finding>) -> Ways<'db> {
        Ways::among(db, Arc::new(Shared::of(db, findings)))
    }

    /// Ways out among findings of which is known what they have in common.
    #[must_use]
    pub fn among(db: &'db Database, shared: Arc<Shared>) -> Ways<'db> {
        Ways { db, codes: HashMap::new(), calls: HashMap::new(), shared }
    }

    /// The ways out of a finding: first what settles most and costs least.
    pub fn of(&mut self, finding: &Finding) -> Vec<Way> {
        let mut ways = self.found(finding);
        for way in &mut ways {
            way.settles = self.shared.settles(self.db, finding, &way.reach);
        }
        ways.sort_by_key(|way| if way.settles > 1 { way.ranks.1 } else { way.ranks.0 });
        ways
    }

    /// The ways out of a finding whatever others there are, in no order: how many they settle is for others to count.
    pub fn found(&mut self, finding: &Finding) -> Vec<Way> {
        let db = self.db;
        if !finding.file.origin(db).is_own() {
            return finding.remedies.iter().map(Way::new).collect();
        }
        let mut ways: Vec<Way> = finding.remedies.iter().filter_map(|remedy| self.way(finding, remedy)).collect();
        // What changes a cause that many findings have comes first. Where only one has it, what changes other code than that which is told
        // comes last, and so does what only a person can write.
        let is_in_test = is_test(finding.file.path(db));
        let is_declared = finding.evidence.first().is_some_and(|step| step.kind == "declared") && {
            let code = self.code(finding.file);
            code.function(finding.range).is_some_and(|function| function.returns.is_some())
        };
        let rank = |way: &Way, settles_others: bool| {
            let is_elsewhere =
                way.edits.first().is_some_and(|(file, edit)| *file != finding.file || !self.is_near(finding, edit));
            let takes_more = matches!(way.id, "widen" | "annotate" | "parameter") && !way.safe;
            match (way.edits.is_empty() && way.import.is_none(), settles_others) {
                _ if way.is_last => 4,
                // A name like no other is seldom a slip of the pen.
                (true, _) if way.id == "spell" && finding.rule != "import.unresolved" => 4,
                (true, _) => 3,
                (false, true) => 0,
                (false, false) if matches!(way.id, "default" | "raise") && is_elsewhere || takes_more => 3,
                // A test stops by an assertion, and so do those who write types where somebody declared that it may be None.
                (false, false) if way.id == "assert" && (is_in_test || is_declared) => 1,
                (false, false) if way.safe => 1,
                (false, false) => 2,
            }
        };
        let ranks: Vec<(u8, u8)> = ways.iter().map(|way| (rank(way, false), rank(way, true))).collect();
        for (way, ranks) in ways.iter_mut().zip(ranks) {
            way.ranks = ranks;
        }
        ways
    }

    /// Whether an edit lies within the function that a finding is told in.
    fn is_near(&self, finding: &Finding, edit: &Edit) -> bool {
        let around = &module_index(self.db, finding.file).functions_around;
        around.of(finding.range.start()).next() == around.of(edit.start).next()
    }

    fn way(&mut self, finding: &Finding, remedy: &Remedy) -> Option<Way> {
        let mut way = Way::new(remedy);
        let made = match &remedy.act {
            None => return Some(way),
            Some(Act::Uncomment) => self.unused(finding, &mut way),
            Some(Act::Import) => self.missing(finding, &mut way),
            Some(Act::Mark) => self.mark(finding, &mut way),
            Some(Act::Remove(argument)) => self.leave_out(finding, *argument, &mut way),
            Some(Act::Rename { from, to }) => self.rename(finding, *from, *to, &mut way),
            Some(Act::Default { file, at }) => self.with_defaults(finding, *file, *at, &mut way),
            Some(Act::Replace(..) | Act::Wrap(..) | Act::Append(..)) => self.value(finding, remedy, &mut way),
            Some(Act::Check(value)) => self.check(finding, *value, &mut way),
            Some(Act::Narrow { value, to }) => self.narrow(finding, *value, to, &mut way),
            Some(Act::Attribute { class, name }) => self.attribute(*class, *name, &mut way),
            Some(Act::Assert(value)) => self.assert(finding, *value, &mut way),
            // Where None comes from a library, it is not for the project to say otherwise.
            Some(Act::Origin(value, rest)) => return self.origin(finding, *value, *rest, way),
            Some(Act::Bind { name, first, ty }) => self.bind(finding, *name, *first, *ty, &mut way),
            Some(Act::Widen { file, at, by }) => self.widen(finding, *file, *at, *by, &mut way),
            Some(Act::Annotate { file, at, ty }) => self.annotate(finding, *file, *at, *ty, &mut way),
            Some(Act::ReadOnly { file, at, base }) => self.read_only(finding, *file, *at, base, &mut way),
            Some(Act::Take { file, at, name }) => self.take(finding, *file, *at, *name, &mut way),
        };
        if made.is_none() {
            way = Way::new(remedy);
        } else if let Some(Act::Widen { file, at, by }) = remedy.act {
            // What tests pass asks nothing of what they test.
            let is_asked_by_test = is_test(finding.file.path(self.db)) && !is_test(file.path(self.db));
            way.reach = match is_asked_by_test {
                true => Reach::Alone,
                false => Reach::Widened((file, at, show(self.db, by))),
            };
        } else if matches!(remedy.act, Some(Act::Bind { .. }))
            || way.edits.iter().any(|(file, edit)| self.is_cause(finding, *file, edit))
        {
            way.reach = Reach::Cause;
        }
        Some(way)
    }

    /// Whether an edit changes what a finding's cause stands in.
    fn is_cause(&self, finding: &Finding, file: File, edit: &Edit) -> bool {
        let (of, place) = finding.cause(self.db);
        of == file && TextRange::new(edit.start, edit.end).intersect(place).is_some()
    }

    /// A file's text and its tree.
    pub(crate) fn code(&mut self, file: File) -> Rc<Code> {
        let db = self.db;
        if self.codes.len() >= MOST_CODES && !self.codes.contains_key(&file) {
            self.codes.clear();
        }
        self.codes.entry(file).or_insert_with(|| Rc::new(Code::of(db, file))).clone()
    }

    /// How many calls of a function there are, and in how many files, in words that begin a sentence: "its 7 calls in 3 files".
    fn callers(&mut self, file: File, function: FunctionId) -> Option<String> {
        let db = self.db;
        let (calls, files) = *self.calls.entry((file, function)).or_insert_with(|| calls::count(db, file, function));
        match (calls, files) {
            (0, _) => None,
            (1, _) => Some("its one call".to_owned()),
            (calls, 1) => Some(format!("its {calls} calls in 1 file")),
            (calls, files) => Some(format!("its {calls} calls in {files} files")),
        }
    }

    /// The annotation of what is declared at a place.
    pub(crate) fn annotation(&self, file: File, place: TextRange) -> Option<TextRange> {
        declared::annotation_at(self.db, file, place)
    }

    /// A place as it is told beside a finding.
    fn place(&self, finding: &Finding, file: File, at: TextSize) -> String {
        let line = module_index(self.db, file).lines.0.index_of(at) + 1;
        if file == finding.file { format!("line {line}") } else { format!("{}:{line}", file.path(self.db)) }
    }
}
