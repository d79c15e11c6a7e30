//! A program run with the recorder beside it, and what its processes wrote put into the store.

use std::collections::BTreeMap;
use std::ffi::OsString;
use std::fs::{self, File};
use std::io::{self, Write as _};
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::{SystemTime, UNIX_EPOCH};

use leitmotiv_project::write::note;
use leitmotiv_project::{read, sources};
use rayon::prelude::*;
use rustc_hash::FxHashMap;

use crate::raw::{self, Process};
use crate::records::{Texts, called_as};
use crate::seen::Seen;
use crate::store::{Kept, KeptCall, KeptFunction, KeptSite, Run, Store, StoreError};

const RECORDER: &str = include_str!("recorder.py");

/// The folder, in the project's own one, that processes write to.
const FOLDER: &str = "traces";

/// So many bytes of what one process wrote are read.
const MOST_WRITTEN: u64 = 512 << 20;

/// A run that is under way. What its processes wrote stays until it is in the store.
pub struct Recording {
    root: PathBuf,
    folder: PathBuf,
    /// Held while the run goes on, so that another command can tell it from one that was cut off.
    lock: File,
    began: i64,
}

/// What a run brought.
#[derive(Debug, Default, Clone, PartialEq, Eq)]
pub struct Summary {
    /// How many processes were recorded.
    pub processes: usize,
    /// How many functions of the project were called.
    pub functions: usize,
    /// How many calls of them were seen.
    pub calls: u64,
    /// How many of the functions had been changed by the time that the run ended.
    pub changed: usize,
}

/// The recorder's name in a run's folder: the interpreter imports what is called so when it starts.
const RECORDER_FILE: &str = "sitecustomize.py";

impl Recording {
    /// Lays the recorder out for a run: `files` are the project's own, absolute; of calls the part `rate` is looked at.
    ///
    /// # Errors
    /// What the system says; nothing is left behind then.
    pub fn prepare(root: &Path, files: &[PathBuf], rate: f64) -> io::Result<Recording> {
        let home = note::home(root)?;
        let traces = home.join(FOLDER);
        match traces.symlink_metadata() {
            Ok(metadata) if !metadata.is_dir() => return Err(io::ErrorKind::NotADirectory.into()),
            Ok(_) => {}
            Err(_) => match fs::create_dir(&traces) {
                // Another run made it meanwhile.
                Err(error) if error.kind() != io::ErrorKind::AlreadyExists => return Err(error),
                _ => {}
            },
        }
        let folder = tempfile::Builder::new().prefix("run-").tempdir_in(&traces)?;
        let mut lock = File::create_new(folder.path().join("settings"))?;
        lock.lock()?;
        let mut settings = format!("1\n{rate}\n");
        for file in files.iter().filter_map(|file| file.to_str()).filter(|file| !file.contains('\n')) {
            settings.push_str(file);
            settings.push('\n');
        }
        lock.write_all(settings.as_bytes())?;
        // The last thing: from now on the folder is a run's, and locked.
        fs::write(folder.path().join(RECORDER_FILE), RECORDER)?;
        Ok(Recording { root: root.to_owned(), folder: folder.keep(), lock, began: now() })
    }

    /// Puts the recorder in place for a program, by the environment alone.
    pub fn dress(&self, command: &mut Command) {
        let mut path: OsString = self.folder.clone().into();
        if let Some(before) = std::env::var_os("PYTHONPATH").filter(|before| !before.is_empty()) {
            path.push(if cfg!(windows) { ";" } else { ":" });
            path.push(before);
        }
        command.env("PYTHONPATH", path);
    }

    /// How many processes have begun to record.
    #[must_use]
    pub fn processes(&self) -> usize {
        files(&self.folder).len()
    }

    /// Leaves nothing of the run.
    pub fn drop_all(self) {
        let _ = fs::remove_dir_all(&self.folder);
    }

    /// Puts what was recorded into the store. What could not be put there stays for the next time.
    ///
    /// # Errors
    /// [`StoreError`]
    pub fn finish(self, command: &str) -> Result<Summary, StoreError> {
        let name = self.folder.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
        let mut store = Store::open(&self.root)?;
        let summary = merge(&mut store, &self.root, &self.folder, &name, (command, self.began))?;
        let _ = self.lock.unlock();
        let _ = fs::remove_dir_all(&self.folder);
        Ok(summary)
    }
}

fn now() -> i64 {
    let since = SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |since| since.as_secs());
    i64::try_from(since).unwrap_or(i64::MAX)
}

/// The files that processes wrote in a folder, in the order of their names.
fn files(folder: &Path) -> Vec<PathBuf> {
    let entries = fs::read_dir(folder).into_iter().flatten().flatten().map(|entry| entry.path());
    let mut files: Vec<PathBuf> = entries.filter(|path| path.extension().is_some_and(|end| end == "calls")).collect();
    files.sort();
    files
}

/// Whether a folder was made so long ago that nobody is laying it out any more.
fn is_old(folder: &Path) -> bool {
    let made = folder.metadata().and_then(|metadata| metadata.modified());
    made.is_ok_and(|made| made.elapsed().is_ok_and(|since| since > std::time::Duration::from_secs(600)))
}

/// Puts what runs left that were cut off into the store; gives how many there were.
///
/// # Errors
/// [`StoreError`]; what is left stays then.
pub fn gather(root: &Path) -> Result<usize, StoreError> {
    let Some(traces) = note::known(root).map(|home| home.join(FOLDER)) else { return Ok(0) };
    if !traces.symlink_metadata().is_ok_and(|metadata| metadata.is_dir()) {
        return Ok(0);
    }
    let mut found = 0;
    let mut folders: Vec<PathBuf> =
        fs::read_dir(&traces).into_iter().flatten().flatten().map(|entry| entry.path()).collect();
    folders.sort();
    for folder in folders {
        let is_folder = folder.symlink_metadata().is_ok_and(|metadata| metadata.is_dir());
        // One that is still being laid out is not locked yet.
        if !folder.join(RECORDER_FILE).is_file() && !is_old(&folder) {
            continue;
        }
        let Ok(lock) = File::open(folder.join("settings")) else { continue };
        if !is_folder || lock.try_lock().is_err() {
            continue;
        }
        if !files(&folder).is_empty() {
            let name = folder.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
            let mut store = Store::open(root)?;
            merge(&mut store, root, &folder, &name, ("(cut off)", 0))?;
            found += 1;
        }
        let _ = fs::remove_dir_all(&folder);
    }
    Ok(found)
}

/// Adds another store, from another machine or another copy of the project; gives how many functions it knows, and whether anything is new.
///
/// # Errors
/// [`StoreError`]; nothing is added then.
pub fn merge_store(root: &Path, file: &Path) -> Result<(usize, bool), StoreError> {
    let kept = Store::file(root, file)?.all()?;
    let functions = kept.functions.len();
    let mut store = Store::open(root)?;
    let known = store.all()?;
    let names: Vec<&str> = known.runs.iter().map(|run| run.name.as_str()).collect();
    // A store whose every run is known brings nothing. One that has others as well is added whole: what was known of it counts twice.
    let is_known = kept.runs.iter().all(|run| names.contains(&run.name.as_str()));
    if is_known && !kept.runs.is_empty() {
        return Ok((functions, false));
    }
    store.add(&kept)?;
    Ok((functions, true))
}

fn merge(
    store: &mut Store,
    root: &Path,
    folder: &Path,
    name: &str,
    (command, began): (&str, i64),
) -> Result<Summary, StoreError> {
    // Of what is longer the beginning is read: each line is whole by itself.
    let read = |path: &PathBuf| read::beginning(path, MOST_WRITTEN).ok().and_then(|bytes| raw::read(&bytes));
    let processes: Vec<Process> = files(folder).par_iter().filter_map(read).collect();
    let mut builder = Builder::new(root);
    for process in &processes {
        builder.put(process);
    }
    let Builder { mut kept, changed, .. } = builder.calls();
    let began = if began == 0 { processes.iter().map(|process| process.began).min().unwrap_or(0) } else { began };
    kept.runs.push(Run {
        name: name.to_owned(),
        began,
        command: command.to_owned(),
        python: processes.first().map(|process| process.python.clone()).unwrap_or_default(),
        processes: u32::try_from(processes.len()).unwrap_or(u32::MAX),
    });
    store.add(&kept)?;
    let ended = kept.calls.iter().filter(|call| matches!(call.outcome, 'r' | 'x'));
    let calls = ended.map(|call| call.count).sum();
    Ok(Summary { processes: processes.len(), functions: kept.functions.len(), calls, changed })
}

/// A call but for how many there were: function, site, arguments, outcome, type.
type CallKey = (usize, Option<usize>, Vec<Option<usize>>, char, Option<usize>);

/// What processes wrote, put together by what it means.
struct Builder<'a> {
    root: &'a Path,
    texts: Texts<'a>,
    kept: Kept,
    types: FxHashMap<Seen, usize>,
    functions: FxHashMap<KeptFunction, usize>,
    sites: FxHashMap<KeptSite, usize>,
    calls: BTreeMap<CallKey, (u64, i64)>,
    attributes: BTreeMap<(usize, usize, String, usize), (u64, i64)>,
    globals: BTreeMap<(String, String, usize), i64>,
    changed: usize,
}

impl<'a> Builder<'a> {
    fn new(root: &'a Path) -> Builder<'a> {
        Builder {
            root,
            texts: Texts::new(root),
            kept: Kept::default(),
            types: FxHashMap::default(),
            functions: FxHashMap::default(),
            sites: FxHashMap::default(),
            calls: BTreeMap::new(),
            attributes: BTreeMap::new(),
            globals: BTreeMap::new(),
            changed: 0,
        }
    }

    fn relative(&self, path: &str) -> String {
        let inside = Path::new(path).strip_prefix(self.root).ok();
        inside.map_or_else(|| path.to_owned(), |inside| inside.to_string_lossy().replace('\\', "/"))
    }

    fn put(&mut self, process: &Process) {
        let main: Vec<String> = process.main.iter().map(|path| sources::module_of(Path::new(path)).1).collect();
        let main = match main.as_slice() {
            [one] => Some(one.clone()),
            _ => None,
        };
        let above = |seen: &Seen| -> Vec<Seen> {
            let all = process.bases.get(seen).into_iter().flatten();
            all.map(|base| named(base, main.as_deref())).collect()
        };
        let mut types: FxHashMap<u32, usize> = FxHashMap::default();
        for (number, seen) in &process.types {
            let place = self.ty(named(seen, main.as_deref()), || above(seen));
            types.insert(*number, place);
        }
        let functions: FxHashMap<u32, usize> = process
            .functions
            .iter()
            .filter_map(|(number, one)| Some((*number, self.function(process, one)?)))
            .collect();
        let known = |number: &u32| types.get(number).copied();
        for ((function, site, args, outcome, ty), count) in &process.calls {
            let Some(place) = functions.get(function).copied() else { continue };
            let callee = called_as(&self.kept.functions[place].name).to_owned();
            let site = self.site(process, *site, &callee);
            let key = (place, site, args.iter().map(known).collect(), *outcome, known(ty));
            let entry = self.calls.entry(key).or_default();
            *entry = (entry.0 + count, entry.1.max(process.began));
        }
        for ((function, class, name, ty), count) in &process.attributes {
            let (Some(function), Some(class), Some(ty)) = (functions.get(function), known(class), known(ty)) else {
                continue;
            };
            let entry = self.attributes.entry((*function, class, name.clone(), ty)).or_default();
            *entry = (entry.0 + count, entry.1.max(process.began));
        }
        for (file, name, ty) in &process.globals {
            let (Some((path, ..)), Some(ty)) = (process.files.get(file), known(ty)) else { continue };
            let last = self.globals.entry((self.relative(path), name.clone(), ty)).or_default();
            *last = process.began.max(*last);
        }
    }

    fn ty(&mut self, seen: Seen, above: impl FnOnce() -> Vec<Seen>) -> usize {
        if let Some(known) = self.types.get(&seen) {
            return *known;
        }
        let place = self.kept.types.len();
        self.kept.types.push((seen.clone(), above()));
        self.types.insert(seen, place);
        place
    }

    fn function(&mut self, process: &Process, one: &raw::Function) -> Option<usize> {
        let (path, size, changed) = process.files.get(&one.file)?;
        let relative = self.relative(path);
        let source = self.texts.get(&relative)?;
        let function = source.function_at(one.line, &one.name)?;
        let is_same = is_unchanged(Path::new(path), *size, *changed);
        self.changed += usize::from(!is_same);
        let kept = KeptFunction {
            path: relative,
            name: function.name.clone(),
            // What ran may have been another text: nothing will ever be the same as that.
            hash: if is_same { function.hash.clone() } else { String::new() },
            line: one.line,
            params: one.params.clone(),
        };
        if let Some(known) = self.functions.get(&kept) {
            return Some(*known);
        }
        let place = self.kept.functions.len();
        self.kept.functions.push(kept.clone());
        self.functions.insert(kept, place);
        Some(place)
    }

    fn site(&mut self, process: &Process, number: u32, callee: &str) -> Option<usize> {
        let (file, line, through) = *process.sites.get(&number)?;
        let (path, ..) = process.files.get(&file)?;
        let relative = self.relative(path);
        let kept = match self.texts.get(&relative) {
            Some(source) => {
                let call = source.call(line, callee);
                let owner = source.around(line).cloned();
                let (owner, owner_line, hash) =
                    owner.map_or_else(Default::default, |owner| (owner.name, owner.line, owner.hash));
                KeptSite { path: relative, line: call.line, through, owner, owner_line, hash, text: call.text }
            }
            None => KeptSite {
                path: relative,
                line,
                through,
                owner: String::new(),
                owner_line: 0,
                hash: String::new(),
                text: String::new(),
            },
        };
        if let Some(known) = self.sites.get(&kept) {
            return Some(*known);
        }
        let place = self.kept.sites.len();
        self.kept.sites.push(kept.clone());
        self.sites.insert(kept, place);
        Some(place)
    }

    /// With the calls as rows.
    fn calls(mut self) -> Builder<'a> {
        for ((function, site, args, outcome, ty), (count, last)) in std::mem::take(&mut self.calls) {
            self.kept.calls.push(KeptCall { function, site, args, outcome, ty, count, last });
        }
        for ((function, class, name, ty), (count, last)) in std::mem::take(&mut self.attributes) {
            self.kept.attributes.push((function, class, name, ty, count, last));
        }
        for ((path, name, ty), last) in std::mem::take(&mut self.globals) {
            self.kept.globals.push((path, name, ty, last));
        }
        self
    }
}

/// Whether a file is as it was when it was run.
fn is_unchanged(path: &Path, size: u64, changed: u128) -> bool {
    let Ok(metadata) = path.metadata() else { return false };
    let now =
        metadata.modified().ok().and_then(|time| time.duration_since(UNIX_EPOCH).ok()).map(|since| since.as_nanos());
    metadata.len() == size && now == Some(changed)
}

/// A type whose classes of `__main__` have the module's own name.
fn named(seen: &Seen, main: Option<&str>) -> Seen {
    let all = |parts: &[Seen]| parts.iter().map(|part| named(part, main)).collect::<Vec<Seen>>();
    match (seen, main) {
        (Seen::Class(module, name), Some(main)) if module == "__main__" => Seen::Class(main.to_owned(), name.clone()),
        (Seen::Type(of), _) => Seen::Type(Box::new(named(of, main))),
        (Seen::Tuple(items), _) => Seen::Tuple(all(items)),
        (Seen::Items(name, items), _) => Seen::Items(name.clone(), all(items)),
        (Seen::Mapping(name, keys, values), _) => Seen::Mapping(name.clone(), all(keys), all(values)),
        (other, _) => other.clone(),
    }
}
