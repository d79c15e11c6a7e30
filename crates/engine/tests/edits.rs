//! A database that is told of edits says what a new one would, whatever the edits are.
//!
//! The edits are random, from a seed. `cargo xtask edits` runs the long form over the corpora; `LEITMOTIV_EDITS` names its folder, and
//! how many edits.

use std::path::{Path, PathBuf};

use leitmotiv_engine::base::database::{Database, FileChange};
use leitmotiv_engine::check::check;
use leitmotiv_engine::resolve::project_files;
use leitmotiv_project::{Project, Surroundings};

/// Random numbers (xorshift), from a seed that is not 0.
pub struct Random(pub u64);

impl Random {
    pub fn below(&mut self, limit: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        usize::try_from(self.0 % limit.max(1) as u64).unwrap()
    }
}

/// The Python files below a folder, by path.
pub fn python_files(folder: &Path, found: &mut Vec<PathBuf>) {
    let mut entries: Vec<PathBuf> = std::fs::read_dir(folder).unwrap().map(|entry| entry.unwrap().path()).collect();
    entries.sort();
    for path in entries {
        if path.is_dir() {
            python_files(&path, found);
        } else if path.extension().is_some_and(|extension| extension == "py") {
            found.push(path);
        }
    }
}

fn open(folder: &Path) -> Database {
    Database::new(Project::open(folder, None, &Surroundings::default()).unwrap())
}

/// All that is said of a project's files.
fn said(db: &Database) -> Vec<String> {
    let files = project_files(db).to_vec();
    let mut lines = Vec::new();
    for (file, checked) in files.iter().zip(check(db, &files)) {
        let path = file.path(db);
        let counts: usize = checked.unknown.iter().map(|(_, count)| count).sum();
        lines.push(format!("{path} {} {} {counts} {}", checked.lines, checked.expressions, checked.any));
        for finding in &checked.findings {
            let evidence: Vec<String> = finding
                .evidence
                .iter()
                .map(|step| format!("{} {:?} {} {}", step.file.path(db), step.range, step.kind, step.text))
                .collect();
            let (rule, range, message) = (finding.rule, finding.range, &finding.message);
            lines.push(format!("{path} {range:?} {rule} {message} {} {evidence:?}", finding.fingerprint));
        }
    }
    lines
}

/// Changes a file somehow, and says how.
fn edit(path: &Path, random: &mut Random) -> &'static str {
    let text = std::fs::read_to_string(path).unwrap_or_default();
    let mut lines: Vec<String> = text.split_inclusive('\n').map(str::to_owned).collect();
    let at = random.below(lines.len());
    let other = random.below(lines.len());
    let how = if lines.is_empty() {
        lines.push("LEVEL = 3\n".to_owned());
        "began"
    } else {
        match random.below(10) {
            0 => {
                lines.insert(at, "# a comment\n".to_owned());
                "comment"
            }
            1 => {
                lines.insert(at, "\n".to_owned());
                "blank line"
            }
            2 => {
                lines.remove(at);
                "removed a line"
            }
            3 => {
                let line = lines[at].clone();
                lines.insert(other, line);
                "copied a line"
            }
            4 => {
                lines.swap(at, other);
                "swapped lines"
            }
            5 => {
                lines[at] = lines[at].replacen("self.", "self.x", 1);
                "renamed an attribute"
            }
            6 => {
                lines[at] = lines[at].replacen("return", "return None and", 1);
                "another result"
            }
            7 => {
                lines[at] = lines[at].replacen("):", ") -> int:", 1);
                "annotated"
            }
            8 => {
                lines.truncate(at);
                "cut off"
            }
            _ => {
                lines.push("def late(level=None):\n    return [level]\n".to_owned());
                "a function more"
            }
        }
    };
    std::fs::write(path, lines.concat()).unwrap();
    how
}

/// Edits a copy of some files again and again, and compares.
fn run(from: &Path, edits: usize, seed: u64) {
    let folder = tempfile::tempdir().unwrap();
    let root = folder.path().canonicalize().unwrap();
    let mut originals = Vec::new();
    python_files(from, &mut originals);
    let mut paths = Vec::new();
    for path in &originals {
        let to = root.join(path.strip_prefix(from).unwrap());
        std::fs::create_dir_all(to.parent().unwrap()).unwrap();
        // Files of other encodings would be changed by being read as texts.
        if let Ok(text) = std::fs::read_to_string(path) {
            std::fs::write(&to, text).unwrap();
            paths.push(to);
        }
    }
    let mut random = Random(seed | 1);
    let mut db = open(&root);
    let mut history: Vec<String> = Vec::new();
    for _ in 0..edits {
        let mut changes = Vec::new();
        for _ in 0..=random.below(3) {
            let path = paths[random.below(paths.len())].clone();
            let how = match random.below(12) {
                0 if path.exists() => {
                    std::fs::remove_file(&path).unwrap();
                    "removed"
                }
                1 => {
                    let original =
                        originals.iter().find(|from_path| root.join(from_path.strip_prefix(from).unwrap()) == path);
                    std::fs::write(&path, std::fs::read_to_string(original.unwrap()).unwrap()).unwrap();
                    "as it was"
                }
                _ => edit(&path, &mut random),
            };
            history.push(format!("{}: {how}", path.strip_prefix(&root).unwrap().display()));
            changes.push(FileChange::OnDisk { path });
        }
        db.apply(&changes);
        let (told, fresh) = (said(&db), said(&open(&root)));
        if told != fresh {
            let only = |one: &[String], other: &[String]| -> String {
                let lines: Vec<&str> = one.iter().filter(|line| !other.contains(line)).map(String::as_str).collect();
                lines.join("\n")
            };
            let kept = folder.keep();
            panic!(
                "seed {seed}, after\n{}\nin {}:\nonly when told of edits:\n{}\nonly afresh:\n{}",
                history.join("\n"),
                kept.display(),
                only(&told, &fresh),
                only(&fresh, &told)
            );
        }
    }
}

#[test]
fn random_edits_give_what_a_new_database_gives() {
    let demo = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/project");
    let pool = rayon::ThreadPoolBuilder::new().num_threads(2).stack_size(64 << 20).build().unwrap();
    pool.install(|| {
        for seed in 1..=5 {
            run(&demo, 16, seed * 7919);
        }
    });
}

#[test]
#[ignore = "takes long; run by `cargo xtask edits`"]
fn many_random_edits_of_a_corpus() {
    let (folder, edits, seed) = asked("LEITMOTIV_EDITS");
    let pool = rayon::ThreadPoolBuilder::new().num_threads(2).stack_size(256 << 20).build().unwrap();
    pool.install(move || run(&folder, edits, seed));
}

/// What a variable of the environment asks for: a folder, how often, and a seed, with colons between them.
pub fn asked(variable: &str) -> (PathBuf, usize, u64) {
    let asked = std::env::var(variable).unwrap_or_else(|_| panic!("{variable}=FOLDER:NUMBER:SEED"));
    let mut parts = asked.rsplitn(3, ':');
    let seed = parts.next().unwrap().parse().unwrap();
    let number = parts.next().unwrap().parse().unwrap();
    (PathBuf::from(parts.next().unwrap()), number, seed)
}
