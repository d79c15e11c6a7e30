//! What an edit reaches: what a run wrote down of who asked what of whom, kept for the next one, which sees in it what is no longer so.
//!
//! Each file is a node. A file is *touched* where its text is another one, or where something that it asked for is answered otherwise now. Of
//! a touched file all that was asked is asked again, and those who asked for what has another answer are touched too, until nobody is. All
//! others would answer what they answered. Where only what is told of a file hangs on something, it is told again, and nobody who asked it is
//! concerned.
//!
//! Files that do not ask an edited one for anything, nor any that do, and so on, cannot answer otherwise: what took them long to find is
//! read, and not worked out again. Answers of the others are not: what goes in circles could hold itself up.

use std::collections::BTreeMap;
use std::collections::hash_map::Entry;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};

use leitmotiv_index::tree::ClassId;
use leitmotiv_project::resolve::Place;
use leitmotiv_syntax::names::Name;
use rayon::prelude::*;
use rustc_hash::{FxHashMap, FxHashSet};
use serde::{Deserialize, Serialize};

use crate::answers::{FAILED, answer, long};
use crate::base::asked::{Ask, AskAll, Written};
use crate::base::database::Database;
use crate::base::db::Db;
use crate::base::file::{File, Known};
use crate::base::said::{Address, Table, locked, speak};
use crate::base::stored::{Answers, read_all};
use crate::definitions::classes::bases_now;
use crate::resolve::everywhere::{FEW as FEW_FILES, known_now};

/// What a run wrote down.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
pub struct Past {
    /// The files, by the numbers that the rest has of them.
    files: Vec<Address>,
    /// The names that the rest has by their numbers.
    names: Vec<String>,
    /// By the number of the file; empty for those that never change.
    nodes: Vec<Node>,
    /// What was asked that hangs on which files there are, and the sums of the answers.
    laid: Vec<(OfAll, u64)>,
}

/// What is known of one file.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
struct Node {
    /// What others asked of it, written one behind the other.
    asks: Bytes,
    /// The sums of the answers, eight bytes each; zero where there is none.
    sums: Bytes,
    /// The answers that take long to find, written one behind the other: for each of what was asked, or none.
    answers: Bytes,
    /// What it asked to answer others.
    read: Read,
    /// What it asked to tell what is found in it.
    told: Read,
    /// What it adds to what all files do, where it is one of the project's.
    adds: Option<Adds>,
}

/// What one file asked.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
struct Read {
    /// Of others: of each, the numbers among what was asked of that.
    files: Vec<(u32, Vec<u32>)>,
    /// Of all files together.
    all: Vec<OfAll>,
}

impl Read {
    /// Takes in more, in order.
    fn add(&mut self, files: impl Iterator<Item = (u32, u32)>, all: impl Iterator<Item = OfAll>) {
        let mut by_file: BTreeMap<u32, Vec<u32>> = std::mem::take(&mut self.files).into_iter().collect();
        for (file, place) in files {
            by_file.entry(file).or_default().push(place);
        }
        for places in by_file.values_mut() {
            places.sort_unstable();
            places.dedup();
        }
        self.files = by_file.into_iter().collect();
        self.all.extend(all);
        self.all.sort_unstable();
        self.all.dedup();
    }
}

/// Bytes, written in one piece.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
struct Bytes(Vec<u8>);

impl Serialize for Bytes {
    fn serialize<S: serde::Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        to.serialize_bytes(&self.0)
    }
}

impl<'de> Deserialize<'de> for Bytes {
    fn deserialize<D: serde::Deserializer<'de>>(from: D) -> Result<Bytes, D::Error> {
        <&[u8]>::deserialize(from).map(|bytes| Bytes(bytes.to_vec()))
    }
}

/// [`AskAll`] with the numbers of names.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
enum OfAll {
    Patched(u32),
    Provided(u32),
    Called(u32),
    Calling(u32),
    FewCalling(u32),
    Below(u32, u32),
    Classes,
    /// The name, and the folder.
    Located(u32, Option<u32>),
    Modules,
    /// The number of the stub.
    Beside(u32),
}

/// [`Known`] with the numbers of names, sorted.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize, Deserialize)]
struct Adds {
    patched: Vec<u32>,
    provided: Vec<u32>,
    called: Vec<u32>,
    classes: Vec<u32>,
    bases: Vec<(u32, u32, u32)>,
}

/// Names by numbers.
#[derive(Debug, Default)]
struct Numbers {
    all: Vec<String>,
    known: FxHashMap<Name, u32>,
}

impl Numbers {
    fn of(db: &Database, all: Vec<String>) -> Numbers {
        let known = all.iter().zip(0..).map(|(text, number)| (db.names().intern(text), number)).collect();
        Numbers { all, known }
    }

    fn number(&mut self, db: &Database, name: Name) -> u32 {
        *self.known.entry(name).or_insert_with(|| {
            self.all.push(db.names().text(name).to_owned());
            u32::try_from(self.all.len() - 1).unwrap_or(u32::MAX)
        })
    }

    fn sorted(&mut self, db: &Database, names: &[Name]) -> Vec<u32> {
        let mut numbers: Vec<u32> = names.iter().map(|name| self.number(db, *name)).collect();
        numbers.sort_unstable();
        numbers
    }

    fn adds(&mut self, db: &Database, known: &Known) -> Adds {
        let bases = known
            .bases
            .iter()
            .map(|((module, name), class)| (self.number(db, *module), self.number(db, *name), class.0));
        let bases = bases.collect();
        Adds {
            patched: self.sorted(db, &known.patched),
            provided: self.sorted(db, &known.provided),
            called: self.sorted(db, &known.called),
            classes: known.classes.iter().map(|class| class.0).collect(),
            bases,
        }
    }

    /// What was asked of all, with the number of a file.
    fn of_all(&mut self, db: &Database, ask: AskAll, file: &mut dyn FnMut(File) -> u32) -> OfAll {
        match ask {
            AskAll::Patched(name) => OfAll::Patched(self.number(db, name)),
            AskAll::Provided(name) => OfAll::Provided(self.number(db, name)),
            AskAll::Called(name) => OfAll::Called(self.number(db, name)),
            AskAll::Calling(name) => OfAll::Calling(self.number(db, name)),
            AskAll::FewCalling(name) => OfAll::FewCalling(self.number(db, name)),
            AskAll::Below(module, name) => OfAll::Below(self.number(db, module), self.number(db, name)),
            AskAll::Classes => OfAll::Classes,
            AskAll::Located(name, root) => {
                let root = root.map(|root| db.names().intern(db.folder_text(root)));
                OfAll::Located(self.number(db, name), root.map(|root| self.number(db, root)))
            }
            AskAll::Modules => OfAll::Modules,
            AskAll::Beside(stub) => OfAll::Beside(file(stub)),
        }
    }

    /// What was asked that hangs on which files there are.
    fn of_layout(&self, db: &Database, ask: OfAll, table: &mut Table) -> Option<AskAll> {
        let text = |number: u32| self.all.get(number as usize).map(String::as_str);
        Some(match ask {
            OfAll::Located(name, root) => {
                let root = match root {
                    Some(root) => Some(db.folder_of_text(text(root)?)),
                    None => None,
                };
                AskAll::Located(db.names().intern(text(name)?), root)
            }
            OfAll::Modules => AskAll::Modules,
            OfAll::Beside(stub) => AskAll::Beside(table.file(db, stub)?),
            _ => return None,
        })
    }
}

/// What a file adds now, whatever is known of it from before.
fn added(db: &Database, file: File) -> Known {
    Known { bases: bases_now(db, file), ..known_now(db, file) }
}

/// What files do that stay as they are.
#[derive(Debug, Default)]
struct Others {
    provided: FxHashSet<u32>,
    /// How many call something of a name.
    called: FxHashMap<u32, usize>,
}

impl Others {
    /// What all do for which `stays` says so.
    fn of(nodes: &[Node], stays: &dyn Fn(u32) -> bool) -> Others {
        let mut others = Others::default();
        for adds in (0..).zip(nodes).filter(|(number, _)| stays(*number)).filter_map(|(_, node)| node.adds.as_ref()) {
            others.provided.extend(&adds.provided);
            adds.called.iter().for_each(|name| *others.called.entry(*name).or_default() += 1);
        }
        others
    }
}

/// What has changed of what all files add up to, where one of them adds something else, and others add that.
fn changed_of_all(before: &Adds, now: &Adds, others: &Others) -> Vec<OfAll> {
    fn differing<T: Copy + Eq + std::hash::Hash>(before: &[T], now: &[T]) -> Vec<T> {
        let (old, new): (FxHashSet<T>, FxHashSet<T>) =
            (before.iter().copied().collect(), now.iter().copied().collect());
        old.symmetric_difference(&new).copied().collect()
    }
    let mut all: Vec<OfAll> = Vec::new();
    all.extend(differing(&before.patched, &now.patched).into_iter().map(OfAll::Patched));
    // One that does is enough.
    let provided = differing(&before.provided, &now.provided).into_iter();
    all.extend(provided.filter(|name| !others.provided.contains(name)).map(OfAll::Provided));
    let called = differing(&before.called, &now.called);
    let count = |name: &u32| others.called.get(name).copied().unwrap_or(0);
    all.extend(called.iter().copied().filter(|name| count(name) == 0).map(OfAll::Called));
    all.extend(called.iter().copied().filter(|name| count(name) <= FEW_FILES).map(OfAll::FewCalling));
    all.extend(called.into_iter().map(OfAll::Calling));
    let below = differing(&before.bases, &now.bases).into_iter().map(|(module, name, _)| OfAll::Below(module, name));
    all.extend(below);
    if before.classes != now.classes {
        all.push(OfAll::Classes);
    }
    all
}

/// Where so many files are concerned, it is not asked how many there are in all.
const FEW: usize = 64;

/// What an edit reaches.
#[derive(Debug)]
pub struct Reached {
    /// The files that are to be checked again.
    pub files: FxHashSet<File>,
    /// Those that may answer otherwise, and those in which only something else may be told.
    touched: FxHashSet<u32>,
    retold: FxHashSet<u32>,
    table: Arc<Mutex<Table>>,
    names: Numbers,
    /// What is asked of touched files now, and what they answer.
    answered: FxHashMap<u32, Answered>,
    /// What they add now, and files that came or went.
    adds: FxHashMap<u32, Option<Adds>>,
    /// What is answered otherwise now of what hangs on which files there are.
    laid: Vec<(OfAll, u64)>,
}

/// What is asked of one file, and what it answers.
#[derive(Debug, Default)]
struct Answered {
    asks: Vec<Ask>,
    sums: Vec<u8>,
    answers: Vec<u8>,
}

impl Answered {
    /// What a file answers now; the database is spoken on this thread.
    fn of(db: &Database, file: File, asks: Vec<Ask>, edited: &FxHashSet<File>) -> Option<Answered> {
        let mut answered = Answered::default();
        for ask in &asks {
            answered.sums.extend(answer(db, file, *ask, edited).unwrap_or(0).to_le_bytes());
            answered.answers = postcard::to_extend(&long(db, file, *ask, edited), answered.answers).ok()?;
        }
        Some(Answered { asks, ..answered })
    }
}

fn write_asks(asks: &[Ask]) -> Option<Vec<u8>> {
    asks.iter().try_fold(Vec::new(), |bytes, ask| postcard::to_extend(ask, bytes)).ok()
}

/// Adds to each file what it asked in a run. `places` says where each of what was asked stands: the file, and the number among what was asked
/// of it; `of_all` what was asked of all.
fn add_reads(
    nodes: &mut [Node],
    written: &Written,
    places: &[(u32, u32)],
    of_all: &[OfAll],
    number: &mut dyn FnMut(File) -> u32,
) -> Option<()> {
    for (tells, all) in [(false, &written.read), (true, &written.told)] {
        for (reader, read) in all {
            let node = nodes.get_mut(number(*reader) as usize)?;
            let into = if tells { &mut node.told } else { &mut node.read };
            let of_all = read.asks_of_all.iter().map(|ask| of_all[*ask as usize]);
            into.add(read.asks.iter().map(|ask| places[*ask as usize]), of_all);
        }
    }
    Some(())
}

/// What was asked that hangs on which files there are, with the sums of the answers.
fn laid(db: &Database, written: &Written, of_all: &[OfAll]) -> BTreeMap<OfAll, u64> {
    let asks = written.asks_of_all.iter().zip(of_all);
    asks.filter_map(|(ask, of_all)| Some((*of_all, db.laid(*ask)?))).collect()
}

/// The numbers of all files that anybody asked for.
fn number_all(db: &Database, table: &mut Table) {
    let mut all = db.files_so_far();
    all.sort_unstable_by_key(|file| file.path(db));
    all.into_iter().for_each(|file| {
        table.number(db, file);
    });
}

impl Past {
    /// What a run wrote down that began with nothing: `own` are the project's files. `None` where not all was written down that counts.
    #[must_use]
    pub fn of(db: &Database, own: &[File]) -> Option<Past> {
        let added: Vec<Known> = own.par_iter().map_with(db.clone(), |db, file| added(db, *file)).collect();
        let written = db.recorder()?.written()?;
        let mut table = Table::default();
        number_all(db, &mut table);
        let size = table.addresses().len();
        let table = Arc::new(Mutex::new(table));
        let mut of_file: FxHashMap<File, Vec<Ask>> = FxHashMap::default();
        let mut places: Vec<(File, u32)> = Vec::with_capacity(written.asks.len());
        for (file, ask) in &written.asks {
            let asks = of_file.entry(*file).or_default();
            places.push((*file, u32::try_from(asks.len()).ok()?));
            asks.push(*ask);
        }
        let of_file: Vec<(File, Vec<Ask>)> = of_file.into_iter().collect();
        let answered: Option<Vec<(File, Vec<u8>, Answered)>> = of_file
            .into_par_iter()
            .map_with(db.clone(), |db, (file, asks)| {
                let _speaking = speak(db, table.clone());
                Some((file, write_asks(&asks)?, Answered::of(db, file, asks, &FxHashSet::default())?))
            })
            .collect();
        let mut table = locked(&table);
        let mut nodes: Vec<Node> = vec![Node::default(); size];
        let mut number = |file: File| table.number(db, file);
        for (file, asks, answered) in answered? {
            let node = nodes.get_mut(number(file) as usize)?;
            node.asks = Bytes(asks);
            (node.sums, node.answers) = (Bytes(answered.sums), Bytes(answered.answers));
        }
        let places: Vec<(u32, u32)> = places.into_iter().map(|(file, place)| (number(file), place)).collect();
        let mut names = Numbers::default();
        let of_all: Vec<OfAll> = written.asks_of_all.iter().map(|ask| names.of_all(db, *ask, &mut number)).collect();
        add_reads(&mut nodes, &written, &places, &of_all, &mut number)?;
        let laid = laid(db, &written, &of_all);
        for (file, known) in own.iter().zip(&added) {
            nodes.get_mut(number(*file) as usize)?.adds = Some(names.adds(db, known));
        }
        // Of a file that was made while all that was written down, nothing is known.
        (table.addresses().len() == size).then(|| Past {
            files: table.addresses().to_vec(),
            names: names.all,
            nodes,
            laid: laid.into_iter().collect(),
        })
    }

    /// What is known of the files of a project that say what they said, for [`Database::know`]: those for which `is_same`, by their paths, those
    /// of the project relative to it.
    #[must_use]
    pub fn known(&self, db: &Database, is_same: &dyn Fn(&Path) -> bool) -> Vec<(PathBuf, Known)> {
        let names: Vec<Name> = self.names.iter().map(|name| db.names().intern(name)).collect();
        let name = |number: &u32| names.get(*number as usize).copied().unwrap_or(leitmotiv_syntax::names::known::EMPTY);
        let class = |number: &u32| ClassId(*number);
        let mut all = Vec::new();
        for (address, node) in self.files.iter().zip(&self.nodes) {
            let (Address::Disk(path, ..), Some(adds)) = (address, &node.adds) else { continue };
            if !is_same(path) {
                continue;
            }
            let known = Known {
                patched: adds.patched.iter().map(name).collect(),
                provided: adds.provided.iter().map(name).collect(),
                called: adds.called.iter().map(name).collect(),
                classes: adds.classes.iter().map(class).collect(),
                bases: adds.bases.iter().map(|(module, base, own)| ((name(module), name(base)), class(own))).collect(),
            };
            all.push((path.clone(), known));
        }
        all
    }

    /// Which files an edit of some reaches, by their paths as [`Past::known`] has them; those that are gone are edited too. `is_laid_out` says
    /// that what was looked for on the disk is there as it was. `None` where that cannot be told, or they are many, and more than half of all.
    #[must_use]
    pub fn reached(&self, db: &Database, edited: &[PathBuf], is_laid_out: bool) -> Option<Reached> {
        let of_path: FxHashMap<&Path, u32> = (0..)
            .zip(&self.files)
            .filter_map(|(number, address)| match address {
                Address::Disk(path, ..) => Some((path.as_path(), number)),
                _ => None,
            })
            .collect();
        let edited: FxHashSet<u32> =
            edited.iter().map(|path| of_path.get(path.as_path()).copied()).collect::<Option<_>>()?;
        let root = &db.project().root;
        let own = db.sources(&[]).ok()?;
        let own: FxHashSet<&Path> = own.iter().map(|path| path.strip_prefix(root).unwrap_or(path)).collect();
        let is_own = |number: u32| matches!(self.files.get(number as usize), Some(Address::Disk(path, ..)) if own.contains(path.as_path()));
        let readers = Readers::of(self, &|number| is_own(number) && !edited.contains(&number))?;
        let mut reached = Reached {
            files: FxHashSet::default(),
            touched: edited.clone(),
            retold: FxHashSet::default(),
            table: Arc::new(Mutex::new(Table::of(self.files.clone()))),
            names: Numbers::of(db, self.names.clone()),
            answered: FxHashMap::default(),
            adds: FxHashMap::default(),
            laid: Vec::new(),
        };
        if !is_laid_out {
            self.look_at_layout(db, &of_path, &readers, &mut reached)?;
        }
        let came = self.come_and_gone(db, &of_path, &own, &readers, &mut reached);
        // Whoever asks for classes below one that such a file names may have to be told of others.
        let mut may_change: FxHashSet<u32> = FxHashSet::default();
        for number in &edited {
            let file = locked(&reached.table).file(db, *number)?;
            if let Some(before) = &self.nodes[*number as usize].adds
                && !reached.adds.contains_key(number)
            {
                let known = known_now(db, file);
                let now = Adds { bases: before.bases.clone(), ..reached.names.adds(db, &known) };
                readers.of_all(before, &now, &mut reached);
                may_change.extend(readers.below_names_of(db, file, &reached.names));
            }
        }
        for file in &came {
            may_change.extend(readers.below_names_of(db, *file, &reached.names));
        }
        // Nothing that those answer has to do with what was edited that do not ask for it, by however many others.
        may_change.extend(&reached.touched);
        let mut open: Vec<u32> = may_change.iter().copied().collect();
        while let Some(number) = open.pop() {
            open.extend(
                readers.read[number as usize].iter().map(|(reader, _)| *reader).filter(|one| may_change.insert(*one)),
            );
        }
        let mut stored = FxHashMap::default();
        for (number, node) in (0..).zip(&self.nodes) {
            if !may_change.contains(&number) && !node.answers.0.is_empty() {
                let file = locked(&reached.table).file(db, number)?;
                stored.insert(file, Answers::new(node.asks.0.clone(), node.answers.0.clone(), reached.table.clone()));
            }
        }
        db.know_answers(stored);
        let edited_files: FxHashSet<File> =
            edited.iter().map(|number| locked(&reached.table).file(db, *number)).collect::<Option<_>>()?;
        for file in came {
            let now = reached.names.adds(db, &added(db, file));
            readers.of_all(&Adds::default(), &now, &mut reached);
            let number = locked(&reached.table).number(db, file);
            reached.adds.insert(number, Some(now));
        }
        if !reached.touched.is_subset(&may_change) {
            return None;
        }
        let mut next: Vec<u32> = reached.touched.iter().copied().collect();
        while !next.is_empty() {
            let files: Option<Vec<(u32, File)>> =
                next.drain(..).map(|number| Some((number, locked(&reached.table).file(db, number)?))).collect();
            let new: Option<Vec<(u32, Answered, Option<Known>)>> = files?
                .par_iter()
                .map_with(db.clone(), |db, (number, file)| {
                    let _speaking = speak(db, reached.table.clone());
                    let node = &self.nodes[*number as usize];
                    let answered = Answered::of(db, *file, read_all::<Ask>(&node.asks.0)?, &edited_files)?;
                    Some((*number, answered, node.adds.is_some().then(|| added(db, *file))))
                })
                .collect();
            let before = reached.touched.clone();
            for (number, answered, known) in new? {
                let node = &self.nodes[number as usize];
                readers.of_file(self, number, &answered, edited.contains(&number), &mut reached);
                let is_gone = reached.adds.get(&number).is_some_and(Option::is_none);
                if let (Some(before), Some(known), false) = (&node.adds, known, is_gone) {
                    let now = reached.names.adds(db, &known);
                    // What is known of a file of the same text was taken to be what it adds.
                    if now != *before && !edited.contains(&number) {
                        return None;
                    }
                    readers.of_all(before, &now, &mut reached);
                    reached.adds.insert(number, Some(now));
                }
                reached.answered.insert(number, answered);
            }
            next.extend(reached.touched.difference(&before));
            // Of those nobody thought that they might answer otherwise.
            if !reached.touched.is_subset(&may_change) {
                return None;
            }
            let all = reached.touched.union(&reached.retold).count();
            if all > FEW && all * 2 > self.nodes.len() {
                return None;
            }
        }
        let all = reached.touched.union(&reached.retold);
        reached.files = all.map(|number| locked(&reached.table).file(db, *number)).collect::<Option<_>>()?;
        Some(reached)
    }

    /// Touches whoever hangs on which files there are, where that is otherwise now. `None` where nobody could be told of it.
    fn look_at_layout(
        &self,
        db: &Database,
        of_path: &FxHashMap<&Path, u32>,
        readers: &Readers<'_>,
        reached: &mut Reached,
    ) -> Option<()> {
        for (of_all, before) in &self.laid {
            let ask = reached.names.of_layout(db, *of_all, &mut locked(&reached.table))?;
            let now = db.laid(ask)?;
            if now != *before {
                if self.has_other_origin(db, ask, of_path) {
                    return None;
                }
                readers.of_asked(of_all, reached);
                reached.laid.push((*of_all, now));
            }
        }
        let is_bundled = |number: &u32| matches!(self.files.get(*number as usize), Some(Address::Bundled(..)));
        (!reached.touched.iter().any(is_bundled)).then_some(())
    }

    /// Whether a name leads to a file that is known, and that is of another kind now.
    fn has_other_origin(&self, db: &Database, ask: AskAll, of_path: &FxHashMap<&Path, u32>) -> bool {
        let AskAll::Located(name, root) = ask else { return false };
        let Some((Some(Place::File(path)), now)) = db.placed(name, root) else { return false };
        let known = of_path.get(path.as_path()).and_then(|number| self.files.get(*number as usize));
        matches!(known, Some(Address::Disk(_, _, before)) if *before != now)
    }

    /// Touches whoever hangs on files of the project that are gone, and gives those that came.
    fn come_and_gone(
        &self,
        db: &Database,
        of_path: &FxHashMap<&Path, u32>,
        own: &FxHashSet<&Path>,
        readers: &Readers<'_>,
        reached: &mut Reached,
    ) -> Vec<File> {
        for (path, number) in of_path {
            if let Some(before) = &self.nodes[*number as usize].adds
                && !own.contains(path)
            {
                readers.of_all(before, &Adds::default(), reached);
                reached.adds.insert(*number, None);
            }
        }
        let is_known =
            |path: &Path| of_path.get(path).is_some_and(|number| self.nodes[*number as usize].adds.is_some());
        let mut came: Vec<&Path> = own.iter().copied().filter(|path| !is_known(path)).collect();
        came.sort_unstable();
        came.into_iter().map(|path| db.source(&db.project().root.join(path))).collect()
    }

    /// What is written down once those were checked that an edit reached.
    #[must_use]
    pub fn after(self, db: &Database, reached: Reached) -> Option<Past> {
        let written = db.recorder()?.written()?;
        let Reached { touched, retold, table, mut names, answered, adds, laid: now_laid, .. } = reached;
        let mut nodes = self.nodes;
        number_all(db, &mut locked(&table));
        let size = locked(&table).addresses().len();
        nodes.resize(size, Node::default());
        for (number, now) in adds {
            nodes.get_mut(number as usize)?.adds = now;
        }
        // What is asked of each file for the first time.
        let mut asked: FxHashMap<u32, FxHashMap<Ask, u32>> = FxHashMap::default();
        for (number, answered) in answered {
            let node = &mut nodes[number as usize];
            (node.sums, node.answers) = (Bytes(answered.sums), Bytes(answered.answers));
            asked.insert(number, answered.asks.into_iter().zip(0..).collect());
        }
        let mut more: FxHashMap<u32, (File, Vec<Ask>)> = FxHashMap::default();
        let mut places: Vec<(u32, u32)> = Vec::with_capacity(written.asks.len());
        let speaking = speak(db, table.clone());
        for (file, ask) in &written.asks {
            let number = locked(&table).number(db, *file);
            let known = match asked.entry(number) {
                Entry::Occupied(known) => known.into_mut(),
                Entry::Vacant(free) => {
                    let asks = read_all::<Ask>(&nodes.get(number as usize)?.asks.0)?;
                    free.insert(asks.into_iter().zip(0..).collect())
                }
            };
            let next = u32::try_from(known.len()).ok()?;
            let place = *known.entry(*ask).or_insert_with(|| {
                more.entry(number).or_insert_with(|| (*file, Vec::new())).1.push(*ask);
                next
            });
            places.push((number, place));
        }
        for (number, (file, asks)) in more {
            let node = &mut nodes[number as usize];
            node.asks.0.extend(write_asks(&asks)?);
            let answered = Answered::of(db, file, asks, &FxHashSet::default())?;
            node.sums.0.extend(answered.sums);
            node.answers.0.extend(answered.answers);
        }
        drop(speaking);
        for number in &touched {
            let node = &mut nodes[*number as usize];
            (node.read, node.told) = (Read::default(), Read::default());
        }
        for number in &retold {
            nodes[*number as usize].told = Read::default();
        }
        let mut table = locked(&table);
        let mut number = |file: File| table.number(db, file);
        let of_all: Vec<OfAll> = written.asks_of_all.iter().map(|ask| names.of_all(db, *ask, &mut number)).collect();
        add_reads(&mut nodes, &written, &places, &of_all, &mut number)?;
        let mut all_laid: BTreeMap<OfAll, u64> = self.laid.into_iter().collect();
        all_laid.extend(now_laid);
        all_laid.extend(laid(db, &written, &of_all));
        (table.addresses().len() == size).then(|| Past {
            files: table.addresses().to_vec(),
            names: names.all,
            nodes,
            laid: all_laid.into_iter().collect(),
        })
    }
}

/// Who asked, by what was asked.
struct Readers<'a> {
    /// By file: the reader, and the place of the file among those that it asked.
    read: Vec<Vec<(u32, u32)>>,
    told: Vec<Vec<(u32, u32)>>,
    read_of_all: FxHashMap<&'a OfAll, Vec<u32>>,
    told_of_all: FxHashMap<&'a OfAll, Vec<u32>>,
    others: Others,
}

impl<'a> Readers<'a> {
    /// Those of a run; `stays` says which files are as they were.
    fn of(past: &'a Past, stays: &dyn Fn(u32) -> bool) -> Option<Readers<'a>> {
        let none = vec![Vec::new(); past.nodes.len()];
        let mut readers = Readers {
            read: none.clone(),
            told: none,
            read_of_all: FxHashMap::default(),
            told_of_all: FxHashMap::default(),
            others: Others::of(&past.nodes, stays),
        };
        for (reader, node) in (0..).zip(&past.nodes) {
            for (read, files, all) in [
                (&node.read, &mut readers.read, &mut readers.read_of_all),
                (&node.told, &mut readers.told, &mut readers.told_of_all),
            ] {
                for (place, (file, _)) in (0..).zip(&read.files) {
                    files.get_mut(*file as usize)?.push((reader, place));
                }
                read.all.iter().for_each(|ask| all.entry(ask).or_default().push(reader));
            }
        }
        Some(readers)
    }

    /// Those who asked all files for what is answered otherwise once one adds something else.
    fn of_all(&self, before: &Adds, now: &Adds, reached: &mut Reached) {
        for ask in changed_of_all(before, now, &self.others) {
            self.of_asked(&ask, reached);
        }
    }

    /// Those who asked that of all files.
    fn of_asked(&self, ask: &OfAll, reached: &mut Reached) {
        reached.touched.extend(self.read_of_all.get(ask).into_iter().flatten());
        reached.retold.extend(self.told_of_all.get(ask).into_iter().flatten());
    }

    /// Those who asked for the classes below one that has a name which stands in a file.
    fn below_names_of(&self, db: &Database, file: File, names: &Numbers) -> Vec<u32> {
        let words: FxHashSet<&str> =
            file.content(db).split(|char: char| !char.is_alphanumeric() && char != '_').collect();
        let is_named = |ask: &OfAll| match ask {
            OfAll::Below(_, name) => names.all.get(*name as usize).is_some_and(|name| words.contains(name.as_str())),
            _ => false,
        };
        let asked = self.read_of_all.iter().filter(|(ask, _)| is_named(ask));
        asked.flat_map(|(_, readers)| readers.iter().copied()).collect()
    }

    /// Those who asked one file for what it answers otherwise.
    fn of_file(&self, past: &Past, number: u32, answered: &Answered, is_edited: bool, reached: &mut Reached) {
        let before = past.nodes[number as usize].sums.0.chunks_exact(8);
        let sums = answered.sums.chunks_exact(8).zip(before);
        let is_other = |(ask, (now, before)): (&Ask, (&[u8], &[u8]))| match ask {
            Ask::Text => is_edited,
            Ask::Whole => true,
            _ => now != before || now == FAILED.to_le_bytes(),
        };
        let is_other: Vec<bool> = answered.asks.iter().zip(sums).map(is_other).collect();
        let has_other =
            |places: &[u32]| places.iter().any(|place| is_other.get(*place as usize).copied().unwrap_or(true));
        for (reader, place) in &self.read[number as usize] {
            if has_other(&past.nodes[*reader as usize].read.files[*place as usize].1) {
                reached.touched.insert(*reader);
            }
        }
        for (reader, place) in &self.told[number as usize] {
            if has_other(&past.nodes[*reader as usize].told.files[*place as usize].1) {
                reached.retold.insert(*reader);
            }
        }
    }
}
