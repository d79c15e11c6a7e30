//! How long an editor waits: the built language server on a large project, driven as a client drives it.
//!
//! A package is copied, its largest files are opened one after the other, and lines are typed into bodies of functions, a keystroke at a time.
//! Then a signature that many files use is changed, and at last very many edits are made, to see whether the memory stands still.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::time::{Duration, Instant};

use leitmotiv_probe::{Probe, able, uri};
use serde_json::{Value, json};

use crate::corpus::{PACKAGES, folder, lines, program, python_files};

/// How it is called.
pub const USAGE: &str =
    "cargo xtask latency [--edits NUMBER] [--memory NUMBER] [--seed NUMBER] [--program PATH] [FOLDER]";

/// Keystrokes in each file.
const IN_EACH: usize = 24;

/// What is typed, again and again.
const TYPED: &str = "tide_mark = len(str(3)) ";

/// So many files are open beside the one that is typed in.
const OTHERS: usize = 4;

/// So many changes of a signature are measured.
const SIGNATURES: usize = 10;

struct Wanted {
    edits: usize,
    memory: usize,
    seed: u64,
    folder: Option<PathBuf>,
    program: Option<PathBuf>,
}

/// Random numbers (xorshift64*).
struct Random(u64);

impl Random {
    fn below(&mut self, end: usize) -> usize {
        self.0 ^= self.0 >> 12;
        self.0 ^= self.0 << 25;
        self.0 ^= self.0 >> 27;
        let number = self.0.wrapping_mul(0x2545_F491_4F6C_DD1D) >> 33;
        usize::try_from(number).unwrap_or_default() % end.max(1)
    }
}

/// Runs it.
pub fn run(words: &[&str]) -> Result<(), String> {
    let wanted = read(words)?;
    let source = match wanted.folder {
        Some(folder) => folder,
        // The largest package but one that would be checked for too long.
        None => {
            let named = PACKAGES.iter().find(|package| package.name == "django").ok_or("there is no such package")?;
            folder(named)
        }
    };
    let kept = tempfile::tempdir().map_err(|error| error.to_string())?;
    let root = kept.path().canonicalize().map_err(|error| error.to_string())?.join("project");
    copy(&source, &root).map_err(|error| format!("{}: {error}", source.display()))?;
    let files = python_files(&root);
    println!("{} files, {} lines, seed {}", files.len(), lines(&files), wanted.seed);
    let program = match wanted.program {
        Some(program) => program,
        None => program()?,
    };
    let mut random = Random(wanted.seed | 1);
    let began = Instant::now();
    let mut capabilities = able();
    capabilities["window"] = json!({});
    let mut probe = Probe::start(&program, &root, capabilities);
    probe.settle();
    println!("ready after {:.1} s, {} MB", began.elapsed().as_secs_f64(), memory(probe.process()));
    typing(&mut probe, &files, &mut random, wanted.edits);
    signatures(&mut probe, &files);
    if wanted.memory > 0 {
        many(&mut probe, &files, &mut random, wanted.memory);
    }
    let status = probe.leave();
    if status.success() { Ok(()) } else { Err(format!("the server ended with {status}")) }
}

fn read(words: &[&str]) -> Result<Wanted, String> {
    let mut wanted = Wanted { edits: 600, memory: 10_000, seed: 1, folder: None, program: None };
    let mut words = words.iter();
    while let Some(word) = words.next() {
        let mut number = || words.next().and_then(|word| word.parse::<usize>().ok()).ok_or_else(|| USAGE.to_owned());
        match *word {
            "--edits" => wanted.edits = number()?,
            "--memory" => wanted.memory = number()?,
            "--program" => wanted.program = Some(PathBuf::from(words.next().ok_or_else(|| USAGE.to_owned())?)),
            "--seed" => wanted.seed = number()? as u64,
            folder if !folder.starts_with('-') => wanted.folder = Some(PathBuf::from(folder)),
            _ => return Err(USAGE.to_owned()),
        }
    }
    Ok(wanted)
}

fn copy(from: &Path, to: &Path) -> std::io::Result<()> {
    std::fs::create_dir_all(to)?;
    for entry in std::fs::read_dir(from)? {
        let entry = entry?;
        let target = to.join(entry.file_name());
        if entry.file_type()?.is_dir() {
            copy(&entry.path(), &target)?;
        } else {
            std::fs::copy(entry.path(), target)?;
        }
    }
    Ok(())
}

/// A document that is open.
struct Open {
    path: PathBuf,
    version: i32,
    text: String,
}

impl Open {
    fn new(probe: &mut Probe, path: &Path) -> Option<Open> {
        let text = std::fs::read_to_string(path).ok()?;
        probe.open(path, 1, &text);
        Some(Open { path: path.to_owned(), version: 1, text })
    }

    /// Puts a piece of text at a byte of a line, as an editor tells of it.
    fn insert(&mut self, probe: &mut Probe, at: usize, piece: &str) {
        let position = place(&self.text, at);
        self.text.insert_str(at, piece);
        self.tell(probe, &position, &position, piece);
    }

    /// Takes a stretch out.
    fn remove(&mut self, probe: &mut Probe, stretch: std::ops::Range<usize>) {
        let (start, end) = (place(&self.text, stretch.start), place(&self.text, stretch.end));
        self.text.replace_range(stretch, "");
        self.tell(probe, &start, &end, "");
    }

    fn tell(&mut self, probe: &mut Probe, start: &Value, end: &Value, piece: &str) {
        self.version += 1;
        let change = json!({"range": {"start": start, "end": end}, "text": piece});
        let document = json!({"uri": uri(&self.path), "version": self.version});
        probe.notify("textDocument/didChange", json!({"textDocument": document, "contentChanges": [change]}));
    }

    /// Waits for the diagnostics of the text as it is now; how long since a moment.
    fn checked(&self, probe: &mut Probe, since: Instant) -> Duration {
        let name = uri(&self.path);
        let end = Instant::now() + Duration::from_secs(60);
        loop {
            let is_there = |told: &Value| told["version"].as_i64() == Some(i64::from(self.version));
            if probe.diagnostics.get(&name).is_some_and(is_there) {
                return probe.pushed[&name].saturating_duration_since(since);
            }
            if !probe.hear(end) {
                return Duration::from_secs(60);
            }
        }
    }
}

/// A byte as a position in UTF-16.
fn place(text: &str, at: usize) -> Value {
    let start = text[..at].rfind('\n').map_or(0, |end| end + 1);
    json!({"line": text[..at].matches('\n').count(), "character": text[start..at].encode_utf16().count()})
}

/// Where lines can be typed: behind the first line of a function's body, with its indentation.
fn bodies(text: &str) -> Vec<(usize, String)> {
    let mut found = Vec::new();
    let mut at = 0;
    let mut is_header = false;
    for line in text.split_inclusive('\n') {
        let code = line.trim_end();
        let indent = &line[..line.len() - line.trim_start().len()];
        if is_header && !code.trim_start().starts_with(['"', '\'', '#', 'r', '@']) && !code.trim().is_empty() {
            found.push((at, indent.to_owned()));
        }
        is_header = code.trim_start().starts_with("def ") && code.ends_with(':');
        at += line.len();
    }
    found
}

fn typing(probe: &mut Probe, files: &[PathBuf], random: &mut Random, edits: usize) {
    // Files that people work in, not the smallest ones.
    let large: Vec<&PathBuf> = files
        .iter()
        .filter(|path| {
            std::fs::read_to_string(path).is_ok_and(|text| text.lines().count() > 150 && bodies(&text).len() > 3)
        })
        .collect();
    let mut keystrokes = Vec::new();
    let mut completions = Vec::new();
    let mut sizes = Vec::new();
    let mut others: Vec<Open> = Vec::new();
    while keystrokes.len() < edits && !large.is_empty() {
        let path = large[random.below(large.len())];
        if others.iter().any(|open| open.path == *path) {
            continue;
        }
        let Some(mut open) = Open::new(probe, path) else { continue };
        probe.settle();
        sizes.push(open.text.lines().count());
        let places = bodies(&open.text);
        let (at, indent) = places[random.below(places.len())].clone();
        open.insert(probe, at, &format!("{indent}\n"));
        probe.settle();
        let mut cursor = at + indent.len();
        for (number, char) in TYPED.chars().cycle().take(IN_EACH).enumerate() {
            let began = Instant::now();
            open.insert(probe, cursor, &char.to_string());
            cursor += char.len_utf8();
            if number % 4 == 2 {
                let position = json!({"textDocument": {"uri": uri(&open.path)}, "position": place(&open.text, cursor)});
                let asked = Instant::now();
                let _ = probe.request("textDocument/completion", position);
                completions.push(asked.elapsed());
                // The check begins when this is answered.
                open.checked(probe, began);
                continue;
            }
            keystrokes.push(open.checked(probe, began));
            // A fast typist.
            let next = began + Duration::from_millis(80);
            while probe.hear(next) {}
        }
        others.push(open);
        if others.len() > OTHERS {
            let gone = others.remove(0);
            probe.close(&gone.path);
        }
    }
    sizes.sort_unstable();
    println!(
        "typed in files of {} lines (median), with {OTHERS} others open",
        sizes.get(sizes.len() / 2).unwrap_or(&0)
    );
    told("keystroke in a body to diagnostics of its file", &mut keystrokes);
    told("completion", &mut completions);
    for open in others {
        probe.close(&open.path);
    }
    probe.settle();
}

/// A function that many files use, and some of these files.
fn hub(files: &[PathBuf]) -> Option<(PathBuf, String, Vec<PathBuf>)> {
    let texts: BTreeMap<&PathBuf, String> =
        files.iter().filter_map(|path| Some((path, std::fs::read_to_string(path).ok()?))).collect();
    let mut users: BTreeMap<&str, Vec<&PathBuf>> = BTreeMap::new();
    for (path, text) in &texts {
        for line in text.lines().filter(|line| line.starts_with("from ")) {
            let Some((_, names)) = line.split_once(" import ") else { continue };
            for name in names
                .split(',')
                .map(str::trim)
                .filter(|name| name.chars().all(|char| char.is_lowercase() || char == '_'))
            {
                let known = users.entry(name).or_default();
                if !known.contains(path) {
                    known.push(path);
                }
            }
        }
    }
    let mut all: Vec<(&str, Vec<&PathBuf>)> = users.into_iter().collect();
    all.sort_by_key(|(name, users)| (std::cmp::Reverse(users.len()), *name));
    all.into_iter().find_map(|(name, users)| {
        let head = format!("\ndef {name}(");
        let mut defining = texts.iter().filter(|(_, text)| text.contains(&head));
        let (path, _) = defining.next().filter(|_| defining.next().is_none())?;
        let users: Vec<PathBuf> = users.into_iter().filter(|user| *user != *path).take(5).cloned().collect();
        (users.len() == 5).then(|| ((*path).clone(), name.to_owned(), users))
    })
}

fn signatures(probe: &mut Probe, files: &[PathBuf]) {
    let Some((path, name, users)) = hub(files) else { return println!("no function is used by many files") };
    let Some(mut open) = Open::new(probe, &path) else { return };
    let others: Vec<Open> = users.iter().filter_map(|path| Open::new(probe, path)).collect();
    probe.settle();
    let head = format!("\ndef {name}(");
    let at = open.text.find(&head).unwrap_or_default() + head.len();
    let mut times = Vec::new();
    for number in 0..SIGNATURES {
        let piece = "tide_mark_of_the_quay: int, ";
        let began = Instant::now();
        if number % 2 == 0 {
            open.insert(probe, at, piece);
        } else {
            open.remove(probe, at..at + piece.len());
        }
        let asked: Vec<i64> = others
            .iter()
            .chain([&open])
            .map(|one| probe.ask("textDocument/diagnostic", json!({"textDocument": {"uri": uri(&one.path)}})))
            .collect();
        for number in asked {
            let _ = probe.answer(number);
        }
        times.push(began.elapsed());
        probe.settle();
    }
    println!("`{name}`, which many files import, with {} of them open", others.len());
    told("its signature changed, to diagnostics of all open files", &mut times);
    probe.close(&path);
    for other in others {
        probe.close(&other.path);
    }
    probe.settle();
}

/// Very many edits, all kinds of them, as fast as they can be made.
fn many(probe: &mut Probe, files: &[PathBuf], random: &mut Random, edits: usize) {
    let large: Vec<&PathBuf> =
        files.iter().filter(|path| std::fs::read_to_string(path).is_ok_and(|text| bodies(&text).len() > 3)).collect();
    let mut made = 0;
    let mut first = 0;
    let mut most = 0;
    while made < edits && !large.is_empty() {
        let Some(mut open) = Open::new(probe, large[random.below(large.len())]) else { continue };
        for _ in 0..100.min(edits - made) {
            let places = bodies(&open.text);
            let (at, indent) = places[random.below(places.len())].clone();
            let line = format!("{indent}tide_{} = len(\"{}\")\n", random.below(40), random.below(1000));
            if random.below(3) == 0 {
                let end = open.text[at..].find('\n').map_or(open.text.len(), |end| at + end + 1);
                open.remove(probe, at..end);
            } else {
                open.insert(probe, at, &line);
            }
            made += 1;
            open.checked(probe, Instant::now());
            if bodies(&open.text).len() < 3 {
                break;
            }
        }
        probe.close(&open.path);
        probe.settle();
        let now = memory(probe.process());
        if first == 0 && made * 10 >= edits {
            first = now;
            println!("memory after {made} edits: {now} MB");
        }
        most = most.max(now);
    }
    let last = memory(probe.process());
    let grown = (last as f64 / first.max(1) as f64 - 1.0) * 100.0;
    println!("memory after {made} edits: {last} MB ({grown:+.1}%), {most} MB at most");
}

/// How much memory a process holds, in MB.
fn memory(process: u32) -> usize {
    let status = std::fs::read_to_string(format!("/proc/{process}/status")).unwrap_or_default();
    let line = status.lines().find_map(|line| line.strip_prefix("VmRSS:"));
    let kilobytes = line.and_then(|line| line.split_whitespace().next()?.parse::<usize>().ok());
    kilobytes.unwrap_or_default() / 1024
}

fn told(what: &str, times: &mut [Duration]) {
    times.sort_unstable();
    let at = |part: usize| {
        times.get((times.len() * part / 100).min(times.len().saturating_sub(1))).copied().unwrap_or_default()
    };
    let shown = |time: Duration| format!("{:.1} ms", time.as_secs_f64() * 1000.0);
    println!(
        "{what}: median {}, 95% {}, most {} ({} times)",
        shown(at(50)),
        shown(at(95)),
        shown(at(100)),
        times.len()
    );
}
