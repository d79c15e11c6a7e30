//! How often queries run, and how many keys are made, in a check of a project from nothing and after an edit: `counts FOLDER`.

use std::path::Path;
use std::time::Instant;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::runs::Runs;
use leitmotiv_engine::check::check;
use leitmotiv_engine::resolve::{module_index, project_files};
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
        let mut counts: Vec<(String, u64)> = runs.take(&db).into_iter().collect();
        counts.sort_by_key(|(_, count)| std::cmp::Reverse(*count));
        for (name, count) in counts {
            println!("{count:>12}  {name}");
        }
    });
}
