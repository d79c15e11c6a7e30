//! Annotations taken off annotated packages, proposed anew from what is left, and compared with those that their authors wrote.

mod packages;
mod recorded;
mod shape;
mod strip;

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes::members;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::{self, module_index};
use leitmotiv_engine::resolve::scope_type;
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_index::tree::{DefKind, ScopeId};
use leitmotiv_migrate::annotate::{self, Inquiry, Part, Sureness, Wanted, edit, vet};
use leitmotiv_migrate::session::Session;
use leitmotiv_project::{Project, Surroundings};

use shape::{Classes, Shape, Verdict};

/// Where an annotation may stand: the file, the dotted name of the function or class, and the parameter's or attribute's name.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
struct Slot {
    path: String,
    owner: String,
    kind: Kind,
    name: String,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Kind {
    Parameter,
    Return,
    Attribute,
    Variable,
}

/// How a run is made.
#[derive(Debug, Default)]
pub struct Options {
    /// The environment whose packages are imported.
    environment: Option<PathBuf>,
    /// The least sure that is written.
    low: bool,
    /// Whether what is proposed is written without being proved.
    unproved: bool,
    /// Whether each slot is shown.
    shows: bool,
    /// Whether slots are told apart by how much speaks for them.
    weighs: bool,
    /// Whether the packages' own tests are run and recorded first, without annotations; and for how many seconds at most.
    traces: Option<u64>,
    /// Where the packages without their annotations are left.
    keep: Option<PathBuf>,
}

/// What came of a package.
#[derive(Debug, Default)]
struct Outcome {
    slots: usize,
    /// Kind, source, sureness, verdict: how many.
    counts: BTreeMap<(Kind, String, &'static str, Verdict), usize>,
    of_kind: BTreeMap<Kind, usize>,
    lines: Vec<String>,
    /// Slots of attributes and variables for which nothing was written, and whose type is known all the same; by verdict.
    known: BTreeMap<Verdict, usize>,
}

/// Runs over folders with unpacked source distributions, given behind the options; without any over those that [`packages`] names.
pub fn run(words: &[&str]) -> Result<(), String> {
    crate::in_pool(|| in_pool(words))
}

fn in_pool(words: &[&str]) -> Result<(), String> {
    let mut options = Options::default();
    let mut folders: Vec<PathBuf> = Vec::new();
    let mut words = words.iter();
    while let Some(word) = words.next() {
        match *word {
            "--environment" => options.environment = words.next().map(PathBuf::from),
            "--low" => options.low = true,
            "--unproved" => options.unproved = true,
            "--show" => options.shows = true,
            "--weights" => options.weighs = true,
            "--traces" => options.traces = Some(240),
            "--keep" => options.keep = words.next().map(PathBuf::from),
            folder => folders.push(PathBuf::from(folder)),
        }
    }
    if folders.is_empty() {
        packages::fetch()?;
        options.environment.get_or_insert_with(packages::environment);
        for (what, names) in [("looked at", packages::LOOKED_AT), ("not looked at", packages::NOT_LOOKED_AT)] {
            println!("{what}");
            let folders: Vec<PathBuf> = names.iter().map(|name| packages::folder(name)).collect();
            all_of(&folders, &options)?;
        }
        return Ok(());
    }
    all_of(&folders, &options)
}

fn all_of(folders: &[PathBuf], options: &Options) -> Result<(), String> {
    let mut all = Outcome::default();
    for folder in folders {
        let started = std::time::Instant::now();
        let outcome = package(folder, options)?;
        let name = folder.file_name().unwrap_or_default().to_string_lossy();
        println!("{name:<20} {}  {:.1} s", summary(&outcome, |_| true), started.elapsed().as_secs_f64());
        outcome.lines.iter().for_each(|line| println!("{line}"));
        all.slots += outcome.slots;
        for (key, count) in outcome.counts {
            *all.counts.entry(key).or_default() += count;
        }
        for (kind, count) in outcome.of_kind {
            *all.of_kind.entry(kind).or_default() += count;
        }
        for (verdict, count) in outcome.known {
            *all.known.entry(verdict).or_default() += count;
        }
    }
    table(&all);
    Ok(())
}

/// One line: slots, covered, right, wrong.
fn summary(outcome: &Outcome, keep: impl Fn(&(Kind, String, &'static str, Verdict)) -> bool) -> String {
    let count = |verdicts: &[Verdict]| -> usize {
        let of = outcome.counts.iter().filter(|(key, _)| keep(key) && verdicts.contains(&key.3));
        of.map(|(_, count)| count).sum()
    };
    let written = count(&[Verdict::Exact, Verdict::Arguments, Verdict::Wider, Verdict::Narrower, Verdict::Wrong]);
    let right = count(&[Verdict::Exact, Verdict::Arguments]);
    let share = |part: usize, of: usize| if of == 0 { 0.0 } else { part as f64 * 100.0 / of as f64 };
    format!(
        "{written:>6} written, {right:>5} right {:>5.1}%  exact {:>5} args {:>4} wider {:>4} narrower {:>4} wrong {:>4} {:>4.1}%",
        share(right, written),
        count(&[Verdict::Exact]),
        count(&[Verdict::Arguments]),
        count(&[Verdict::Wider]),
        count(&[Verdict::Narrower]),
        count(&[Verdict::Wrong]),
        share(count(&[Verdict::Wrong]), written),
    )
}

fn table(all: &Outcome) {
    let covered = |least: &[&str], kind: Option<Kind>| {
        let of = all.counts.iter().filter(|(key, _)| {
            key.3 != Verdict::Apart && least.contains(&key.2) && kind.is_none_or(|kind| kind == key.0)
        });
        of.map(|(_, count)| *count).sum::<usize>()
    };
    println!("\n{} slots", all.slots);
    for (name, least) in [("sure", &["sure"][..]), ("fair", &["sure", "fair"]), ("low", &["sure", "fair", "low"])] {
        let number = covered(least, None);
        let share = number as f64 * 100.0 / all.slots.max(1) as f64;
        println!("{name:<5} and above {share:>5.1}%  {}", summary(all, |key| least.contains(&key.2)));
    }
    for kind in [Kind::Parameter, Kind::Return, Kind::Attribute, Kind::Variable] {
        let slots = all.of_kind.get(&kind).copied().unwrap_or_default();
        let share = covered(&["sure", "fair"], Some(kind)) as f64 * 100.0 / slots.max(1) as f64;
        println!("{kind:?} {slots} slots, fair {share:.1}%");
        for sureness in ["sure", "fair", "low"] {
            println!("    {sureness:<5} {}", summary(all, |key| key.0 == kind && key.2 == sureness));
        }
    }
    let known: usize = all.known.values().sum();
    println!("attributes and variables known without an annotation {known}: {:?}", all.known);
    let mut sources: Vec<&(Kind, String, &str, Verdict)> = all.counts.keys().collect();
    sources.sort_by_key(|key| (key.0, &key.1, key.2));
    sources.dedup_by_key(|key| (key.0, &key.1, key.2));
    for (kind, source, sureness, _) in sources {
        let line = summary(all, |key| key.0 == *kind && key.1 == *source && key.2 == *sureness);
        println!("{:<10} {source:<24} {sureness:<5} {line}", format!("{kind:?}"));
    }
}

fn package(folder: &Path, options: &Options) -> Result<Outcome, String> {
    let mut classes = Classes::default();
    let theirs = {
        let session = open(folder, options)?;
        let files = session.files(&[]).map_err(|error| error.to_string())?;
        harvest(&session.db, &files, &mut classes)
    };
    let copy = tempfile::tempdir().map_err(|error| error.to_string())?;
    let copy_root = match &options.keep {
        Some(keep) => keep.join(folder.file_name().unwrap_or_default()),
        None => copy.path().to_owned(),
    };
    std::fs::create_dir_all(&copy_root).map_err(|error| error.to_string())?;
    let copy_root = copy_root.canonicalize().map_err(|error| error.to_string())?;
    strip_folder(folder, &copy_root)?;
    if let Some(seconds) = options.traces {
        let environment = options.environment.as_ref().ok_or("`--traces` needs `--environment`")?;
        let name = folder.file_name().unwrap_or_default().to_string_lossy();
        println!("{name:<20} {}", recorded::record(&copy_root, environment, seconds)?);
    }
    let mut session = open(&copy_root, options)?;
    let files = session.files(&[]).map_err(|error| error.to_string())?;
    let left = harvest(&session.db, &files, &mut classes);
    let slots: BTreeMap<&Slot, &Shape> = theirs.iter().filter(|(slot, _)| !left.contains_key(slot)).collect();
    let asked: Vec<File> = files.iter().copied().filter(|file| !is_test(file.path(&session.db))).collect();
    let at_least = if options.low { Sureness::Low } else { Sureness::Fair };
    let wanted = Wanted { at_least, records: annotate::recorded(session.project()), ..Wanted::default() };
    let mut withdrawn: BTreeMap<Slot, String> = BTreeMap::new();
    let (proposals, texts) = if options.unproved {
        let proposals = Inquiry::new(&session.db, &files).propose(&asked, &wanted);
        let edited = edit::edited(&session.db, proposals);
        let texts: Vec<(File, String)> =
            edited.iter().map(|edited| (edited.file, edited.change.after.clone())).collect();
        (edited.into_iter().flat_map(|edited| edited.proposals).collect::<Vec<_>>(), texts)
    } else {
        let vetted = vet::vetted(&mut session.db, &files, &asked, &wanted);
        for one in &vetted.withdrawn {
            let against = one.against.as_ref().map_or("", |(_, words)| words);
            let slot = slot_of(&one.path, &one.function, &one.part);
            withdrawn.insert(slot, format!("{} against: {against}", one.text));
        }
        let texts = vetted.changes.into_iter().filter_map(|change| {
            let file = files.iter().find(|file| file.path(&session.db) == change.shown)?;
            Some((*file, change.after))
        });
        let texts = texts.collect();
        (vetted.accepted, texts)
    };
    let mut sources: BTreeMap<Slot, (String, &'static str)> = BTreeMap::new();
    for proposal in &proposals {
        let slot = slot_of(proposal.file.path(&session.db), &proposal.function, &proposal.part);
        let names: Vec<&str> = proposal.sources.iter().map(|source| source.name()).collect();
        let conflict = if proposal.conflicts.is_empty() { "" } else { "!" };
        let weight = proposal.weight;
        let more = if weight.asks_for_more { "?" } else { "" };
        let weighed = match options.weighs {
            true => format!(":{}/{}/{}{more}", weight.best, weight.agreeing, weight.against),
            false => String::new(),
        };
        sources.insert(slot, (format!("{}{conflict}{weighed}", names.join("+")), proposal.sureness.name()));
    }
    for (file, text) in texts {
        session.db.try_text(file, Arc::from(text.as_str()));
    }
    let written = harvest(&session.db, &files, &mut classes);
    let known = known(&session.db, &files, &mut classes);
    let mut outcome = Outcome::default();
    for (slot, author) in slots {
        if *author == Shape::Any {
            continue;
        }
        outcome.slots += 1;
        *outcome.of_kind.entry(slot.kind).or_default() += 1;
        let ours = written.get(slot);
        let unknown = ("?".to_owned(), "fair");
        let (source, sureness) = sources.get(slot).unwrap_or(&unknown);
        if let Some(ours) = ours {
            let verdict = classes.compare(author, ours);
            *outcome.counts.entry((slot.kind, source.clone(), sureness, verdict)).or_default() += 1;
        } else if let Some(known) = known.get(slot).filter(|known| !known.is_open()) {
            *outcome.known.entry(classes.compare(author, known)).or_default() += 1;
        }
        if options.shows {
            let verdict = ours.map_or("-".to_owned(), |ours| format!("{:?}", classes.compare(author, ours)));
            let refused = withdrawn.get(slot).filter(|_| ours.is_none());
            let ours = ours.map_or_else(|| concluded(&session.db, &files, slot), shown);
            outcome.lines.push(format!(
                "  {verdict:<9} {:<9} {source:<20} {sureness:<4} {}:{} {}: {} <- {ours}{}",
                format!("{:?}", slot.kind),
                slot.path,
                slot.owner,
                slot.name,
                shown(author),
                refused.map_or(String::new(), |refused| format!("  refused {refused}")),
            ));
        }
    }
    Ok(outcome)
}

/// What is known of attributes and variables, whether annotated or not.
fn known(db: &Database, files: &[File], classes: &mut Classes) -> BTreeMap<Slot, Shape> {
    let mut all = BTreeMap::new();
    for file in files.iter().copied().filter(|file| !is_test(file.path(db)) && !file.is_stub(db)) {
        let index = module_index(db, file);
        let path = file.path(db).to_owned();
        let mut add = |owner: &str, kind: Kind, name: &str, shape: Shape| {
            let slot = Slot { path: path.clone(), owner: owner.to_owned(), kind, name: name.to_owned() };
            all.insert(slot, shape);
        };
        for (class, record) in index.classes.iter() {
            let owner = db.names().text(outline::class_name(db, ClassRef { file, class }));
            for name in record.attributes.keys().chain(index.scopes[record.scope].symbols.keys()) {
                if let Some(member) = members::own_member(db, file, class, *name) {
                    add(owner, Kind::Attribute, db.names().text(*name), classes.shape(db, member.ty));
                }
            }
        }
        for name in index.scopes[ScopeId(0)].symbols.keys() {
            let shape = classes.shape(db, scope_type(db, file, ScopeId(0), *name));
            add("", Kind::Variable, db.names().text(*name), shape);
        }
    }
    all
}

fn slot_of(path: &str, owner: &str, part: &Part) -> Slot {
    let (kind, name) = match part {
        Part::Parameter(name) => (Kind::Parameter, name.clone()),
        Part::Return => (Kind::Return, String::new()),
        Part::Attribute(name) => (Kind::Attribute, name.clone()),
        Part::Variable(name) => (Kind::Variable, name.clone()),
    };
    let owner = match kind {
        Kind::Attribute => owner.rsplit('.').next().unwrap_or_default(),
        Kind::Variable => "",
        _ => owner,
    };
    Slot { path: path.to_owned(), owner: owner.to_owned(), kind, name }
}

/// What the engine concludes of a result for which nothing was written.
fn concluded(db: &Database, files: &[File], slot: &Slot) -> String {
    let find = || {
        let file = files.iter().copied().find(|file| file.path(db) == slot.path)?;
        let index = module_index(db, file);
        let is_it = |(id, _): &(_, _)| functions::qualified(db, file, Some(*id)) == slot.owner;
        let (function, _) = index.functions.iter().find(is_it)?;
        Some(functions::return_type(db, file, function))
    };
    match find().filter(|_| slot.kind == Kind::Return) {
        Some(Type::Unknown(cause)) => {
            let cause = db.store().cause(cause);
            format!("- {} `{}`", cause.kind.words(), db.names().text(cause.name))
        }
        Some(ty) => format!("- {}", leitmotiv_engine::types::display::show(db, ty)),
        None => "-".to_owned(),
    }
}

fn shown(shape: &Shape) -> String {
    let list = |parts: &[Shape]| parts.iter().map(shown).collect::<Vec<_>>().join(", ");
    match shape {
        Shape::Any => "Any".into(),
        Shape::None => "None".into(),
        Shape::Class(name, args) => {
            let name = name.trim_start_matches("builtins.").trim_start_matches("collections.abc.");
            if args.is_empty() { name.to_owned() } else { format!("{name}[{}]", list(args)) }
        }
        Shape::Tuple(parts) => format!("tuple[{}]", list(parts)),
        Shape::Union(parts) => parts.iter().map(shown).collect::<Vec<_>>().join(" | "),
        Shape::Literal(_, text) | Shape::Callable(text) | Shape::Variable(text) | Shape::Other(text) => text.clone(),
        Shape::Type(inner) => format!("type[{}]", shown(inner)),
        Shape::SelfType => "Self".into(),
    }
}

fn open(folder: &Path, options: &Options) -> Result<Session, String> {
    let surroundings = Surroundings {
        interpreter: options.environment.as_ref().map(|path| path.to_string_lossy().into_owned()),
        ..Surroundings::default()
    };
    let project = Project::open(folder, None, &surroundings).map_err(|error| error.to_string())?;
    Session::open(project).map_err(|error| error.to_string())
}

fn is_test(path: &str) -> bool {
    path.split('/').any(|part| {
        let stem = part.trim_end_matches(".py");
        matches!(
            stem,
            "test"
                | "tests"
                | "testing"
                | "conftest"
                | "docs"
                | "doc"
                | "examples"
                | "example"
                | "setup"
                | "benchmarks"
                | "tools"
                | "scripts"
                | "noxfile"
        ) || stem.starts_with("test_")
            || stem.ends_with("_test")
    })
}

/// A folder's files, annotations taken off those in Python.
fn strip_folder(from: &Path, to: &Path) -> Result<(), String> {
    for entry in std::fs::read_dir(from).map_err(|error| error.to_string())?.flatten() {
        let (path, goal) = (entry.path(), to.join(entry.file_name()));
        let is_link = entry.file_type().is_ok_and(|kind| kind.is_symlink());
        if is_link || entry.file_name() == ".git" {
            continue;
        }
        if path.is_dir() {
            std::fs::create_dir_all(&goal).map_err(|error| error.to_string())?;
            strip_folder(&path, &goal)?;
        } else if path.extension().is_some_and(|extension| extension == "py") {
            let bytes = std::fs::read(&path).map_err(|error| error.to_string())?;
            match std::str::from_utf8(&bytes).ok().and_then(strip::stripped) {
                Some(text) => std::fs::write(&goal, text).map_err(|error| error.to_string())?,
                None => std::fs::write(&goal, bytes).map_err(|error| error.to_string())?,
            }
        } else {
            std::fs::copy(&path, &goal).map_err(|error| error.to_string())?;
        }
    }
    Ok(())
}

/// What is annotated in files that are no tests, names that are defined more than once left out.
fn harvest(db: &Database, files: &[File], classes: &mut Classes) -> BTreeMap<Slot, Shape> {
    let mut all: BTreeMap<Slot, Option<Shape>> = BTreeMap::new();
    let mut add = |slot: Slot, shape: Option<Shape>| {
        all.entry(slot).and_modify(|found| *found = None).or_insert(shape);
    };
    for file in files.iter().copied().filter(|file| !is_test(file.path(db))) {
        if file.is_stub(db) {
            continue;
        }
        let index = module_index(db, file);
        let path = file.path(db).to_owned();
        for (function, record) in index.functions.iter() {
            let owner = functions::qualified(db, file, Some(function));
            let has_overloads = outline::function(db, file, function).signatures[..] != [function];
            let declared = functions::declared(db, file, function);
            for (param, signature) in record.params.iter().zip(&declared.params) {
                let name = db.names().text(param.name).to_owned();
                let slot = Slot { path: path.clone(), owner: owner.clone(), kind: Kind::Parameter, name };
                let is_slot = param.annotation.is_some() && !has_overloads;
                add(slot, is_slot.then(|| classes.shape(db, signature.ty)));
            }
            let slot = Slot { path: path.clone(), owner, kind: Kind::Return, name: String::new() };
            let returns = declared.returns.filter(|_| !has_overloads).map(|returns| match returns {
                Type::Instance(id) if record.is_async && index.bodies[record.body].yields.is_empty() => {
                    db.store().instance(id).args.get(2).copied().unwrap_or(Type::Any)
                }
                returns => returns,
            });
            add(slot, returns.map(|returns| classes.shape(db, returns)));
        }
        for (class, record) in index.classes.iter() {
            let mut names: Vec<_> = record.attributes.keys().chain(index.scopes[record.scope].symbols.keys()).collect();
            names.sort_unstable();
            names.dedup();
            for name in names {
                let defs = record.attributes.get(name).into_iter().flatten();
                let own = index.scopes[record.scope].symbols.get(name).into_iter().flat_map(|symbol| &symbol.defs);
                let is_annotated =
                    defs.chain(own).any(|def| matches!(index.defs[*def].kind, DefKind::Annotated { .. }));
                if !is_annotated {
                    continue;
                }
                let owner = outline::class_name(db, ClassRef { file, class });
                let member = members::own_member(db, file, class, *name);
                let slot = Slot {
                    path: path.clone(),
                    owner: db.names().text(owner).to_owned(),
                    kind: Kind::Attribute,
                    name: db.names().text(*name).to_owned(),
                };
                add(slot, member.map(|member| classes.shape(db, member.ty)));
            }
        }
        for (name, symbol) in &index.scopes[ScopeId(0)].symbols {
            let is_annotated = symbol.defs.iter().any(|def| matches!(index.defs[*def].kind, DefKind::Annotated { .. }));
            if is_annotated {
                let slot = Slot {
                    path: path.clone(),
                    owner: String::new(),
                    kind: Kind::Variable,
                    name: db.names().text(*name).to_owned(),
                };
                add(slot, Some(classes.shape(db, scope_type(db, file, ScopeId(0), *name))));
            }
        }
    }
    all.into_iter().filter_map(|(slot, shape)| Some((slot, shape?))).collect()
}
