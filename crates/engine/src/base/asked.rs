//! Which answers about files hang on which answers about others: written down while a check runs that is to be kept, so that a later one can
//! tell what an edit reaches.
//!
//! A query is one of a file: the frame ([`frame`]) that is open while it runs says which. What it asks of another file, it asks by a function
//! that says so first ([`saw`]): by an [`Ask`], which means the same in another run. Bundled stubs never change, and are left out.

use std::cell::{Cell, RefCell};
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ClassId, FunctionId};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::Name;
use rustc_hash::{FxHashMap, FxHashSet, FxHasher};
use serde::{Deserialize, Serialize};

use super::db::Db;
use super::file::File;
use crate::types::{TupleId, VarId};

/// What is asked of a file. All but the last two are answered by one query each ([`crate::answers`]).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[allow(missing_docs)]
pub enum Ask {
    // Of its names.
    ModuleName(Name),
    ModuleNames,
    Exported,
    TestedAttributes,
    NamesForOthers,
    HasStars,
    SetsComputedNames,
    ImportsBelow(Name),
    ImportsSubmodule(Name),
    ImportedFiles,
    ScopeType(Name),
    Starred(Name),
    Constant(Name),
    PatchedObjects(Name),
    Comes(Name),
    IsDeclaredName(Name),
    DeclarationIn(Name),
    IsSaidName(Name, u32),
    // Of what stands somewhere.
    BoundAt(Anchor),
    DecoratorAt(Anchor, usize),
    Deprecation(Anchor),
    Defaults(Anchor),
    Specifiers(Anchor),
    Qualifiers(Anchor),
    DeclaredLimits(Anchor),
    ParametersBeside(Anchor),
    // Of its functions.
    FunctionOutline(FunctionId),
    ManyOverloads(FunctionId),
    Declared(FunctionId),
    Value(FunctionId),
    OpenReturnType(FunctionId),
    NeverReturns(FunctionId),
    GivesItsFirst(FunctionId),
    MadeBy(FunctionId),
    AskedForNone(FunctionId),
    GivenSomething(FunctionId),
    SizeOf(FunctionId),
    OwnCalls(FunctionId),
    /// The places and types of what is given, one behind the other, in a tuple.
    GivenBackFor(FunctionId, TupleId),
    /// What it passes to a function of another file.
    PassedTo(File, FunctionId),
    /// How often it calls a function of another file.
    CallsOf(File, FunctionId),
    // Of its classes.
    ClassOutline(ClassId),
    ClassInfo(ClassId),
    NamedMember(ClassId, Name),
    PutByMethods(ClassId, Name),
    ValueInBody(ClassId, Name),
    WrittenMatchArgs(ClassId),
    AttributeGivenLater(ClassId, Name),
    InferredUses(ClassId, VarId),
    EnumMembers(ClassId),
    ValueOf(ClassId, Name),
    IsRemade(ClassId),
    DeclaredFields(ClassId, bool),
    IsGivenByParameters(ClassId, Name),
    IsGivenByDeclared(ClassId, Name),
    Describes(ClassId),
    /// Its text, and places in it. The answer is another one whenever the text is.
    Text,
    /// Anything else. The answer is taken to be another one whenever the file itself, or what it asked for, is.
    Whole,
}

/// What is asked of all of the project's files together.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum AskAll {
    /// Which assign an attribute of that name on another object.
    Patched(Name),
    /// Whether one provides something of that name.
    Provided(Name),
    /// Whether one calls something of that name.
    Called(Name),
    /// Which do.
    Calling(Name),
    /// Which do, where they are few.
    FewCalling(Name),
    /// The classes below one, by module and name.
    Below(Name, Name),
    /// All classes.
    Classes,
    /// Where a name leads, from a file whose imports begin in a folder.
    Located(Name, Option<Name>),
    /// The names of top-level modules.
    Modules,
    /// The source beside a stub.
    Beside(File),
}

impl AskAll {
    /// Whether the answer hangs on which files there are, and on nothing that they say.
    #[must_use]
    pub fn is_of_layout(self) -> bool {
        matches!(self, AskAll::Located(..) | AskAll::Modules | AskAll::Beside(_))
    }
}

/// What was asked, by those who asked.
#[derive(Debug, Default)]
pub struct Written {
    /// What was asked of files; the numbers in `read` are places in it.
    pub asks: Vec<(File, Ask)>,
    /// What was asked of all files together.
    pub asks_of_all: Vec<AskAll>,
    /// Who asked for which of `asks`, and of `asks_of_all`, to answer what others may ask.
    pub read: FxHashMap<File, Read>,
    /// The same to tell what is found in a file, which nobody asks for.
    pub told: FxHashMap<File, Read>,
}

/// What one file asked, by numbers.
#[derive(Debug, Default)]
pub struct Read {
    /// Of files.
    pub asks: FxHashSet<u32>,
    /// Of all files together.
    pub asks_of_all: FxHashSet<u32>,
}

/// Writes down what is asked.
#[derive(Debug)]
pub struct Recorder {
    number: u64,
    parts: Mutex<Vec<Arc<Mutex<Part>>>>,
    /// Whether something was asked that nobody can vouch for: by a bundled stub, of a file that may change.
    is_open: AtomicBool,
}

/// What one thread has seen asked.
#[derive(Debug, Default)]
struct Part {
    asks: FxHashMap<(File, Ask), u32>,
    asks_of_all: FxHashMap<AskAll, u32>,
    read: FxHashSet<(Reader, u32)>,
    read_of_all: FxHashSet<(Reader, u32)>,
}

/// Who asks.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
struct Reader {
    file: File,
    /// Whether to tell what is found in the file.
    tells: bool,
}

impl Default for Recorder {
    fn default() -> Recorder {
        static NEXT: AtomicU64 = AtomicU64::new(1);
        Recorder {
            number: NEXT.fetch_add(1, Ordering::Relaxed),
            parts: Mutex::default(),
            is_open: AtomicBool::new(false),
        }
    }
}

impl Written {
    fn of(&mut self, reader: Reader) -> &mut Read {
        let all = if reader.tells { &mut self.told } else { &mut self.read };
        all.entry(reader.file).or_default()
    }
}

impl Recorder {
    /// What was asked so far; `None` where that is not all that counts.
    #[must_use]
    pub fn written(&self) -> Option<Written> {
        if self.is_open.load(Ordering::Relaxed) {
            return None;
        }
        let mut written = Written::default();
        let (mut asks, mut asks_of_all) = (FxHashMap::default(), FxHashMap::default());
        for part in self.parts.lock().unwrap_or_else(PoisonError::into_inner).iter() {
            let part = part.lock().unwrap_or_else(PoisonError::into_inner);
            let numbers = renumber(&part.asks, &mut asks, &mut written.asks);
            for (reader, ask) in &part.read {
                written.of(*reader).asks.insert(numbers[*ask as usize]);
            }
            let numbers = renumber(&part.asks_of_all, &mut asks_of_all, &mut written.asks_of_all);
            for (reader, ask) in &part.read_of_all {
                written.of(*reader).asks_of_all.insert(numbers[*ask as usize]);
            }
        }
        Some(written)
    }
}

/// The numbers that some things have among those of others.
fn renumber<T: Copy + Eq + std::hash::Hash>(
    own: &FxHashMap<T, u32>,
    known: &mut FxHashMap<T, u32>,
    all: &mut Vec<T>,
) -> Vec<u32> {
    let mut numbers = vec![0; own.len()];
    for (thing, number) in own {
        numbers[*number as usize] = *known.entry(*thing).or_insert_with(|| {
            all.push(*thing);
            u32::try_from(all.len() - 1).unwrap_or(u32::MAX)
        });
    }
    numbers
}

/// So many of what was asked last are known again without looking them up: two to the power of this.
const RECENT: u32 = 12;

/// What a thread writes into.
struct Pen {
    recorder: u64,
    part: Arc<Mutex<Part>>,
    recent: Box<[Option<(Reader, File, Ask)>]>,
    recent_of_all: Box<[Option<(Reader, AskAll)>]>,
}

thread_local! {
    /// Whose query runs; `None` where nobody's, or nothing is written down.
    static READER: Cell<Option<Reader>> = const { Cell::new(None) };
    static PEN: RefCell<Option<Pen>> = const { RefCell::new(None) };
}

/// How long what is asked is asked by a file.
#[must_use]
pub struct Frame {
    before: Option<Reader>,
}

impl Drop for Frame {
    fn drop(&mut self) {
        READER.set(self.before);
    }
}

/// Says who asks, until what is given back is dropped.
pub(crate) fn frame(db: &dyn Db, file: File) -> Frame {
    Frame { before: READER.replace(db.recorder().map(|_| Reader { file, tells: false })) }
}

/// Says that what is found in a file is told, until what is given back is dropped.
pub fn telling(db: &dyn Db, file: File) -> Frame {
    Frame { before: READER.replace(db.recorder().map(|_| Reader { file, tells: true })) }
}

/// Nobody asks, until what is given back is dropped: those who do say themselves what they hang on.
pub(crate) fn nobody() -> Frame {
    Frame { before: READER.replace(None) }
}

/// Whether what is asked is written down.
pub(crate) fn is_written() -> bool {
    READER.get().is_some()
}

/// Says that something is asked of a file.
#[inline]
pub(crate) fn saw(db: &dyn Db, file: File, ask: Ask) {
    saw_with(db, file, || ask);
}

/// The same; what is asked is made only where it is written down.
#[inline]
pub(crate) fn saw_with(db: &dyn Db, file: File, ask: impl FnOnce() -> Ask) {
    if let Some(reader) = READER.get()
        && reader.file != file
    {
        write(db, reader, file, ask());
    }
}

/// Says that something is asked of all files together.
pub(crate) fn saw_of_all(db: &dyn Db, ask: AskAll) {
    let Some((reader, recorder)) = READER.get().zip(db.recorder()) else { return };
    let key = (reader, ask);
    let place = recent_place(&key);
    with_pen(recorder, |pen| {
        if pen.recent_of_all[place] == Some(key) {
            return;
        }
        pen.recent_of_all[place] = Some(key);
        let mut part = pen.part.lock().unwrap_or_else(PoisonError::into_inner);
        let next = u32::try_from(part.asks_of_all.len()).unwrap_or(u32::MAX);
        let number = *part.asks_of_all.entry(ask).or_insert(next);
        part.read_of_all.insert((reader, number));
    });
    // What a bundled stub hangs on beside which files there are, nobody would be told of.
    if db.facts(reader.file).origin == Origin::Bundled && !ask.is_of_layout() {
        recorder.is_open.store(true, Ordering::Relaxed);
    }
}

#[inline(never)]
fn write(db: &dyn Db, reader: Reader, file: File, ask: Ask) {
    let Some(recorder) = db.recorder() else { return };
    let key = (reader, file, ask);
    let place = recent_place(&key);
    with_pen(recorder, |pen| {
        if pen.recent[place] == Some(key) {
            return;
        }
        pen.recent[place] = Some(key);
        if db.facts(file).disk.is_none() {
            return;
        }
        if db.facts(reader.file).disk.is_none() {
            recorder.is_open.store(true, Ordering::Relaxed);
        }
        let mut part = pen.part.lock().unwrap_or_else(PoisonError::into_inner);
        let next = u32::try_from(part.asks.len()).unwrap_or(u32::MAX);
        let number = *part.asks.entry((file, ask)).or_insert(next);
        part.read.insert((reader, number));
    });
}

fn recent_place(key: &impl std::hash::Hash) -> usize {
    use std::hash::Hasher;
    let mut hasher = FxHasher::default();
    key.hash(&mut hasher);
    (hasher.finish() >> (u64::BITS - RECENT)) as usize
}

fn with_pen(recorder: &Recorder, work: impl FnOnce(&mut Pen)) {
    PEN.with_borrow_mut(|pen| {
        if pen.as_ref().is_none_or(|pen| pen.recorder != recorder.number) {
            let part = Arc::<Mutex<Part>>::default();
            recorder.parts.lock().unwrap_or_else(PoisonError::into_inner).push(part.clone());
            let (recent, recent_of_all) = (vec![None; 1 << RECENT].into(), vec![None; 1 << RECENT].into());
            *pen = Some(Pen { recorder: recorder.number, part, recent, recent_of_all });
        }
        if let Some(pen) = pen {
            work(pen);
        }
    });
}

/// Whether it was said that something is asked of a file by whoever runs: in debug builds all queries see to it.
#[cfg(debug_assertions)]
pub(crate) fn is_said(db: &dyn Db, file: File) -> bool {
    let Some((reader, recorder)) = READER.get().zip(db.recorder()) else { return true };
    if reader.file == file || db.facts(file).disk.is_none() {
        return true;
    }
    recorder.parts.lock().unwrap_or_else(PoisonError::into_inner).iter().any(|part| {
        let part = part.lock().unwrap_or_else(PoisonError::into_inner);
        part.asks.iter().any(|((of, _), number)| *of == file && part.read.contains(&(reader, *number)))
    })
}
