//! Damaged texts: whatever stands in a file, it is checked without a fault, and what is told of it lies in it.
//!
//! `cargo xtask fuzz` runs the long form over the corpora; `LEITMOTIV_FUZZ` names its folder, how many texts, and the seed.

use std::path::{Path, PathBuf};
use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::check::check;
use leitmotiv_project::{Project, Surroundings};

use crate::edits::{Random, asked, python_files};

/// Pieces that are put in: what opens, closes and begins things, and what is no Python.
const PIECES: [&str; 28] = [
    "(",
    ")",
    "[",
    "]",
    "{",
    "}",
    ":",
    ",",
    ".",
    "=",
    "*",
    "**",
    "@",
    "->",
    "lambda",
    "def f(",
    "class A(",
    "async ",
    "await ",
    "yield ",
    "match x:\n case ",
    "if ",
    "\"",
    "f'{",
    "\\",
    "\n    ",
    "\u{0}",
    "é𝕊",
];

/// A text with some damage.
fn damaged(text: &str, random: &mut Random) -> String {
    let mut chars: Vec<char> = text.chars().collect();
    for _ in 0..=random.below(6) {
        let at = random.below(chars.len() + 1);
        let end = (at + 1 + random.below(30)).min(chars.len());
        match random.below(7) {
            0 => chars.truncate(at),
            1 | 2 => drop(chars.drain(at..end)),
            3 => {
                let copied: Vec<char> = chars[at..end].to_vec();
                let to = random.below(chars.len() + 1);
                chars.splice(to..to, copied);
            }
            4 => {
                let other = random.below(chars.len().max(1));
                if at < chars.len() {
                    chars.swap(at, other);
                }
            }
            _ => {
                let piece = PIECES[random.below(PIECES.len())];
                chars.splice(at..at, piece.chars());
            }
        }
    }
    chars.into_iter().collect()
}

fn run(folder: &Path, number: usize, seed: u64) {
    let mut paths: Vec<PathBuf> = Vec::new();
    python_files(folder, &mut paths);
    let texts: Vec<String> = paths.iter().filter_map(|path| std::fs::read_to_string(path).ok()).collect();
    let project = tempfile::tempdir().unwrap();
    let path = project.path().canonicalize().unwrap().join("main.py");
    std::fs::write(&path, "").unwrap();
    let mut db = Database::new(Project::open(project.path(), None, &Surroundings::default()).unwrap());
    let file = db.source(&path);
    let mut random = Random(seed | 1);
    for _ in 0..number {
        let text = damaged(&texts[random.below(texts.len())], &mut random);
        db.try_text(file, Arc::from(text.as_str()));
        let checked = check(&db, &[file]);
        let kept = || {
            let folder = std::env::temp_dir().join(format!("soup-{seed}.py"));
            std::fs::write(&folder, &text).unwrap();
            folder.display().to_string()
        };
        assert!(!checked[0].fault, "seed {seed}: a fault, see {}", kept());
        for finding in &checked[0].findings {
            let (start, end) = (usize::from(finding.range.start()), usize::from(finding.range.end()));
            assert!(text.get(start..end).is_some(), "seed {seed}: {} at {start}..{end}, see {}", finding.rule, kept());
        }
    }
}

fn with_room(work: impl FnOnce() + Send) {
    rayon::ThreadPoolBuilder::new().num_threads(2).stack_size(256 << 20).build().unwrap().install(work);
}

#[test]
fn damaged_texts_are_checked_without_a_fault() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR"));
    with_room(|| {
        run(&folder.join("../../demo/project"), 150, 5);
        run(&folder.join("tests/spec"), 400, 7);
    });
}

#[test]
#[ignore = "takes long; run by `cargo xtask fuzz`"]
fn many_damaged_texts_of_a_corpus() {
    let (folder, number, seed) = asked("LEITMOTIV_FUZZ");
    with_room(move || run(&folder, number, seed));
}
