//! Random edits, as an editor, its user and other programs make them: what the server says in the end is what a check of the same texts says
//! from nothing.

use std::collections::{BTreeMap, BTreeSet};
use std::path::{Path, PathBuf};

use leitmotiv_probe::{Probe, able, uri};
use serde_json::{Value, json};

use super::program;
use crate::folder::Folder;
use crate::random::Random;

/// How many edits there are; `LEITMOTIV_LSP_EDITS=NUMBER:SEED` asks for others.
const EDITS: usize = 2_000;

/// After so many edits, both are compared.
const BETWEEN: usize = 25;

/// A document that the client holds.
struct Held {
    version: i32,
    text: String,
}

struct World {
    folder: Folder,
    root: PathBuf,
    probe: Probe,
    random: Random,
    held: BTreeMap<String, Held>,
    made: usize,
    log: Vec<String>,
}

const LINES: &[&str] = &[
    "tide = 3",
    "tide = \"high\"",
    "print(tide + 1)",
    "from skerry import fleet, vessels",
    "import skerry.ops.tides as ebb",
    "fleet.find(\"Isla\").name",
    "vessel = fleet.flagship()",
    "len(3)",
    "x: int = \"three\"  # leitmotiv: allow(value.assign) the harbour says so",
    "y: int = 3  # leitmotiv: allow(value.assign) not needed any more",
    "class Quay(vessels.Vessel): pass",
    "def moor(berth: int, *, side: str = \"port\") -> str: return side * berth",
    "moor(\"3\")",
    "return None",
    "if tide is None:",
    "    pass",
    "raise ValueError(\"ebb\")",
    "(",
    "\"\"\"",
    "# a note: é𝔉",
    "s = 'é𝔉' + 3",
];

const SETTINGS: &[&str] = &[
    "python = \"3.12\"\n",
    "python = \"3.12\"\n\n[severity]\n\"none.member\" = \"error\"\n\"call.unannotated\" = \"note\"\n",
    "python = \"3.12\"\ndemands = [\"full-signatures\"]\n",
    "python = \"3.10\"\n",
    "python = \"3.12\"\n\n[[area]]\npaths = [\"skerry/ops\"]\nseverity = { \"none.*\" = \"off\" }\n",
    "python = \"3.12\"\nleave = [\"tests\"]\n",
];

impl World {
    fn new(seed: u64) -> World {
        let folder = Folder::demo();
        folder.write("leitmotiv.toml", SETTINGS[0]);
        let run = folder.run(&["tighten", "--as-it-is", "--in", "skerry/ops", "--write"]);
        assert_eq!(run.status, 0, "{}{}", run.out, run.err);
        let root = folder.path("").canonicalize().unwrap();
        let mut able = able();
        able["general"]["positionEncodings"] = json!(["utf-32"]);
        let probe = Probe::start(program(), &root, able);
        World { folder, root, probe, random: Random(seed), held: BTreeMap::new(), made: 0, log: Vec::new() }
    }

    /// The Python files on disk, and those that only the client holds.
    fn files(&self) -> Vec<String> {
        let mut found = BTreeSet::new();
        for top in ["skerry", "tests"] {
            collect(&self.root.join(top), &self.root, &mut found);
        }
        found.extend(self.held.keys().cloned());
        found.into_iter().collect()
    }

    fn edit(&mut self) {
        self.made += 1;
        let files = self.files();
        let path = self.random.one(&files).clone();
        let what = self.random.below(20);
        self.log.push(format!("{what} {path}"));
        match what {
            // Opens, closes.
            0..=2 => self.open(&path),
            3 => self.close(&path),
            // Saves.
            4 | 5 => {
                if let Some(held) = self.held.get(&path) {
                    self.folder.write(&path, &held.text);
                    let document = json!({"uri": uri(&self.root.join(&path))});
                    self.probe.notify("textDocument/didSave", json!({"textDocument": document}));
                    self.probe.changed_on_disk(&[&self.root.join(&path)]);
                }
            }
            // Behind the server's back.
            6 => {
                if self.root.join(&path).exists() {
                    let text = self.other(&self.folder.read(&path));
                    self.folder.write(&path, &text);
                    self.probe.changed_on_disk(&[&self.root.join(&path)]);
                }
            }
            7 => {
                let new =
                    format!("skerry/{}made_{}.py", ["", "ops/", "desk/"][self.random.below(3)], self.random.below(6));
                let text = self.other("from skerry import fleet\n\n\nfleet.flagship().name\n");
                self.folder.write(&new, &text);
                self.probe.changed_on_disk(&[&self.root.join(&new)]);
            }
            8 => {
                if path.contains("made_") && !self.held.contains_key(&path) && self.root.join(&path).exists() {
                    std::fs::remove_file(self.root.join(&path)).unwrap();
                    self.probe.changed_on_disk(&[&self.root.join(&path)]);
                }
            }
            9 => {
                if self.random.below(4) == 0 {
                    let settings = *self.random.one(SETTINGS);
                    self.folder.write("leitmotiv.toml", settings);
                    self.probe.changed_on_disk(&[&self.root.join("leitmotiv.toml")]);
                } else if self.random.below(3) == 0 {
                    // A document that was never saved.
                    let new = format!("skerry/held_{}.py", self.random.below(3));
                    self.hold(&new, "import skerry.made_1\n\n\nskerry.made_1.tide.x\n");
                }
            }
            // Types.
            _ => {
                self.open(&path);
                let text = self.held[&path].text.clone();
                self.change(&path, &text);
            }
        }
    }

    fn open(&mut self, path: &str) {
        if !self.held.contains_key(path) && self.root.join(path).exists() {
            let text = self.folder.read(path);
            self.hold(path, &text);
        }
    }

    fn hold(&mut self, path: &str, text: &str) {
        if !self.held.contains_key(path) {
            self.probe.open(&self.root.join(path), 1, text);
            self.held.insert(path.to_owned(), Held { version: 1, text: text.to_owned() });
        }
    }

    fn close(&mut self, path: &str) {
        if self.held.remove(path).is_some() {
            self.probe.close(&self.root.join(path));
        }
    }

    /// Changes a document by one stretch.
    fn change(&mut self, path: &str, text: &str) {
        let lines: Vec<&str> = text.split_inclusive('\n').collect();
        let at = self.random.below(lines.len() + 1);
        let start = json!({"line": at, "character": 0});
        let indent: String =
            lines.get(at).map_or("", |line| &line[..line.len() - line.trim_start().len()]).replace('\n', "");
        let (end, new) = match self.random.below(6) {
            0 | 1 if at < lines.len() => (json!({"line": at + 1, "character": 0}), String::new()),
            2 if at < lines.len() => {
                let text = lines[at].replace("vessel", "ship").replace("name", "title");
                (json!({"line": at + 1, "character": 0}), text)
            }
            _ => (start.clone(), format!("{indent}{}\n", self.random.one(LINES))),
        };
        // A last line without an end gets one first.
        let needs_end = at == lines.len() && !text.is_empty() && !text.ends_with('\n');
        let offset: usize = lines[..at].iter().map(|line| line.len()).sum();
        let gone = if end == start { 0 } else { lines[at].len() };
        let new = if needs_end { format!("\n{new}") } else { new };
        let start = if needs_end { json!({"line": at - 1, "character": lines[at - 1].chars().count()}) } else { start };
        let end = if needs_end { start.clone() } else { end };
        let mut after = text.to_owned();
        after.replace_range(offset..offset + gone, &new);
        let held = self.held.get_mut(path).unwrap();
        held.version += 1;
        held.text = after;
        let change = json!({"range": {"start": start, "end": end}, "text": new});
        let document = json!({"uri": uri(&self.root.join(path)), "version": held.version});
        self.probe.notify("textDocument/didChange", json!({"textDocument": document, "contentChanges": [change]}));
    }

    fn other(&mut self, text: &str) -> String {
        format!("{text}{}\n", self.random.one(LINES))
    }

    /// What the server has said, a line each.
    fn told(&mut self) -> String {
        self.probe.settle();
        let root = format!("{}/", uri(&self.root));
        let library = ".leitmotiv/library-";
        let place = |location: &Value| {
            let path = location["uri"].as_str().unwrap();
            let path = path.strip_prefix(&root).unwrap_or(path);
            let path = path.strip_prefix(library).map_or(path.to_owned(), |name| format!("<bundle>/{name}"));
            format!("{path}:{}", range(&location["range"], 1))
        };
        let mut lines = Vec::new();
        for (name, told) in &self.probe.diagnostics {
            let path = name.strip_prefix(&root).unwrap_or(name);
            // What is left alone by the configuration is not told, whoever has it open.
            let is_told = !told["version"].is_null() || told["diagnostics"] != json!([]);
            if let Some(held) = self.held.get(path).filter(|_| is_told) {
                assert_eq!(told["version"], held.version, "{path} is told of another version; {:#?}", self.log);
            }
            for one in told["diagnostics"].as_array().unwrap() {
                let related = one["relatedInformation"].as_array().into_iter().flatten();
                let steps: Vec<String> = related
                    .map(|step| format!("{} {}", place(&step["location"]), step["message"].as_str().unwrap()))
                    .collect();
                lines.push(line(
                    path,
                    &range(&one["range"], 1),
                    &one["data"]["severity"],
                    &one["code"],
                    &one["data"]["status"],
                    &one["data"]["symbol"],
                    &one["message"],
                    &steps,
                ));
            }
        }
        lines.sort();
        lines.join("\n")
    }

    /// What a check of the same texts says.
    fn checked(&self) -> String {
        let cold = Folder::new(&[]);
        copy(&self.root, &cold.path(""));
        for (path, held) in &self.held {
            cold.write(path, &held.text);
        }
        let run = cold.run(&["check", "--format", "json", "--owed"]);
        assert!(run.status < 2, "{}{}", run.out, run.err);
        let said: Value = serde_json::from_str(&run.out).unwrap();
        let mut lines = Vec::new();
        for one in said["findings"].as_array().unwrap() {
            let steps: Vec<String> = one["evidence"]
                .as_array()
                .unwrap()
                .iter()
                .map(|step| {
                    let path = step["path"].as_str().unwrap();
                    // The server writes a package's stub under the module's name.
                    let path = path.replace("/__init__.pyi", ".pyi");
                    let path = path
                        .strip_prefix("<bundle>/")
                        .map_or(path.clone(), |name| format!("<bundle>/{}", name.replace('/', ".")));
                    format!("{path}:{} {}", range(&step["range"], 0), step["text"].as_str().unwrap())
                })
                .collect();
            lines.push(line(
                one["path"].as_str().unwrap(),
                &range(&one["range"], 0),
                &one["severity"],
                &one["rule"],
                &one["status"],
                &one["symbol"],
                &one["message"],
                &steps,
            ));
        }
        lines.sort();
        lines.join("\n")
    }
}

#[allow(clippy::too_many_arguments)]
fn line(
    path: &str,
    range: &str,
    severity: &Value,
    rule: &Value,
    status: &Value,
    symbol: &Value,
    message: &Value,
    steps: &[String],
) -> String {
    format!("{path}:{range} {severity} {rule} {status} {symbol} {message} {steps:?}")
}

/// A range as text, from 1.
fn range(range: &Value, more: u64) -> String {
    let at = |end: &str| {
        let column = range[end].get("column").or_else(|| range[end].get("character")).unwrap();
        format!("{}:{}", range[end]["line"].as_u64().unwrap() + more, column.as_u64().unwrap() + more)
    };
    format!("{}-{}", at("start"), at("end"))
}

fn collect(folder: &Path, root: &Path, found: &mut BTreeSet<String>) {
    for entry in std::fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            collect(&path, root, found);
        } else if path.extension().is_some_and(|extension| extension == "py") {
            found.insert(path.strip_prefix(root).unwrap().to_string_lossy().into_owned());
        }
    }
}

fn copy(from: &Path, to: &Path) {
    std::fs::create_dir_all(to).unwrap();
    for entry in std::fs::read_dir(from).unwrap() {
        let entry = entry.unwrap();
        if entry.file_name() == ".leitmotiv" {
            continue;
        }
        let target = to.join(entry.file_name());
        if entry.file_type().unwrap().is_dir() {
            copy(&entry.path(), &target);
        } else {
            std::fs::copy(entry.path(), target).unwrap();
        }
    }
}

#[test]
fn random_edits_are_told_as_a_check_from_nothing_tells_them() {
    let asked = std::env::var("LEITMOTIV_LSP_EDITS").unwrap_or_default();
    let (number, seed) = asked.split_once(':').unwrap_or(("", ""));
    let (number, seed) = (number.parse().unwrap_or(EDITS), seed.parse().unwrap_or(20_261_130));
    let mut world = World::new(seed);
    let (mut most, mut has_debts) = (0, false);
    while world.made < number {
        for _ in 0..BETWEEN {
            world.edit();
        }
        let (told, checked) = (world.told(), world.checked());
        most = most.max(told.lines().count());
        has_debts |= told.contains("\"owed\"");
        if told != checked {
            let only = |one: &str, other: &str| {
                one.lines().filter(|line| !other.lines().any(|other| other == *line)).collect::<Vec<_>>().join("\n")
            };
            panic!(
                "after {} edits (seed {seed}); the server alone says\n{}\nthe check alone says\n{}\nthe last edits: {:#?}",
                world.made,
                only(&told, &checked),
                only(&checked, &told),
                world.log.iter().rev().take(30).collect::<Vec<_>>()
            );
        }
    }
    // What is compared is much, and of all kinds.
    assert!(most > 30 && has_debts, "{most} findings at most, debts: {has_debts}");
}
