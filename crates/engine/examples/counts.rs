//! How often queries run, and how many keys are made, in a check of a project from nothing and after edits of some files: `counts
//! FOLDER [FILE…]`.

#![allow(clippy::print_stdout)]

use std::path::Path;
use std::time::Instant;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::runs::Runs;
use leitmotiv_engine::check::check;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::project_files;
use leitmotiv_project::{Project, Surroundings};
use rayon::prelude::*;

/// The memory of this process, in megabytes; 0 where the system does not tell.
fn memory() -> usize {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = status.lines().find_map(|line| line.strip_prefix("VmRSS:")).unwrap_or_default();
    line.split_whitespace().next().and_then(|number| number.parse::<usize>().ok()).unwrap_or(0) / 1024
}

fn main() {
    let folder = std::env::args().nth(1).expect("counts FOLDER");
    let pool = rayon::ThreadPoolBuilder::new().stack_size(256 << 20).build().expect("threads");
    pool.install(|| {
        let project = Project::open(Path::new(&folder), None, &Surroundings::default()).expect("a project");
        let runs = Runs::default();
        let db = Database::counted(project, &runs);
        let files = project_files(&db).to_vec();
        println!("{} MB after reading", memory());
        let start = Instant::now();
        files.par_iter().for_each_with(db.clone(), |db, file| {
            let _ = module_index(db, *file);
        });
        println!("{} MB and {:.2} s after indexing", memory(), start.elapsed().as_secs_f64());
        let start = Instant::now();
        let checked = check(&db, &files);
        let lines: usize = checked.iter().map(|checked| checked.lines).sum();
        let expressions: usize = checked.iter().map(|checked| checked.expressions).sum();
        println!("{} MB after checking", memory());
        println!(
            "{} files, {lines} lines, {expressions} expressions, {:.2} s",
            files.len(),
            start.elapsed().as_secs_f64()
        );
        table(&runs, &db);
        let mut db = db;
        // Each edit in the middle of each file that is named: a comment, and a statement in a body.
        for path in std::env::args().skip(2) {
            let Some(file) = files.iter().copied().find(|file| file.path(&db) == path) else { continue };
            let text = file.text(&db).to_string();
            for line in ["# a comment", "_edited = 3"] {
                let edited = edited(&text, line);
                let start = Instant::now();
                db.try_text(file, edited.into());
                let _ = check(&db, &[file]);
                let own = start.elapsed().as_secs_f64() * 1000.0;
                let _ = check(&db, &files);
                let all = start.elapsed().as_secs_f64() * 1000.0;
                println!("{path}, {line}: its findings after {own:.1} ms, all after {all:.1} ms");
                table(&runs, &db);
            }
        }
    });
}

/// The text with a line put into the deepest indented place around its middle.
fn edited(text: &str, line: &str) -> String {
    let lines: Vec<&str> = text.lines().collect();
    let is_plain = |at: &usize| {
        let line = lines[*at];
        line.starts_with("        return ") || line.starts_with("    return ")
    };
    let at = (lines.len() / 2..lines.len()).find(is_plain).unwrap_or(lines.len());
    let indent: String = lines.get(at).map_or("", |line| line).chars().take_while(|char| *char == ' ').collect();
    let mut all: Vec<String> = lines.iter().map(|line| (*line).to_owned()).collect();
    all.insert(at, format!("{indent}{line}"));
    all.join("\n") + "\n"
}

fn table(runs: &Runs, db: &Database) {
    let mut counts: Vec<(String, u64)> = runs.counts(db).into_iter().collect();
    runs.clear();
    counts.sort_by_key(|(_, count)| std::cmp::Reverse(*count));
    for (name, count) in counts.iter().filter(|(name, _)| !name.contains("interned")).take(12) {
        println!("{count:>12}  {name}");
    }
}
