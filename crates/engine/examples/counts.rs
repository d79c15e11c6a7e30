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
        for path in std::env::args().skip(2) {
            let Some(file) = files.iter().copied().find(|file| file.path(&db) == path) else { continue };
            for edit in EDITS {
                let text = file.text(&db).to_string();
                let start = Instant::now();
                db.try_text(file, edit.of(&text).into());
                let _ = check(&db, &[file]);
                let own = start.elapsed().as_secs_f64() * 1000.0;
                let _ = check(&db, &files);
                let all = start.elapsed().as_secs_f64() * 1000.0;
                println!("{path}, {edit:?}: its findings after {own:.1} ms, all after {all:.1} ms");
                table(&runs, &db);
                db.try_text(file, text.into());
                let _ = check(&db, &files);
                runs.clear();
            }
        }
    });
}

/// What is done to a text.
#[derive(Debug, Clone, Copy)]
enum Edit {
    /// A comment in a body around the middle.
    Comment,
    /// A statement there.
    Statement,
    /// An import on top.
    Import,
    /// A parameter, with a default, for the first method behind the middle that gives something.
    Parameter,
    /// An attribute that methods of a class around the middle set.
    Attribute,
    /// A method in a class around the middle.
    Method,
    /// A function behind all others.
    Function,
}

const EDITS: [Edit; 7] =
    [Edit::Comment, Edit::Statement, Edit::Import, Edit::Parameter, Edit::Attribute, Edit::Method, Edit::Function];

impl Edit {
    fn of(self, text: &str) -> String {
        let mut lines: Vec<String> = text.lines().map(str::to_owned).collect();
        let behind = |lines: &[String], is: &dyn Fn(&str) -> bool| {
            (lines.len() / 2..lines.len()).chain(0..lines.len() / 2).find(|at| is(&lines[*at])).unwrap_or(lines.len())
        };
        let is_return = |line: &str| line.starts_with("        return ");
        let is_method = |line: &str| line.starts_with("    def ") && line.contains("(self") && line.ends_with("):");
        match self {
            Edit::Comment => lines.insert(behind(&lines, &is_return), "        # a comment".to_owned()),
            Edit::Statement => lines.insert(behind(&lines, &is_return), "        _edited = 3".to_owned()),
            Edit::Import => {
                let at = lines.iter().position(|line| line.starts_with("import ") || line.starts_with("from "));
                lines.insert(at.unwrap_or(0), "import sys as _edited".to_owned());
            }
            Edit::Parameter => {
                let at = behind(&lines, &is_method);
                if let Some(line) = lines.get_mut(at) {
                    *line = format!("{}, edited=None):", line.trim_end_matches("):"));
                }
            }
            Edit::Attribute => {
                let at = behind(&lines, &is_method) + 1;
                lines.insert(at.min(lines.len()), "        self.edited = 3".to_owned());
            }
            Edit::Method => {
                let at = behind(&lines, &is_method);
                lines.insert(at, "    def edited(self): return 3".to_owned());
            }
            Edit::Function => lines.push("def edited(): return 3".to_owned()),
        }
        lines.join("\n") + "\n"
    }
}

fn table(runs: &Runs, db: &Database) {
    let mut counts: Vec<(String, u64)> = runs.counts(db).into_iter().collect();
    runs.clear();
    counts.sort_by_key(|(_, count)| std::cmp::Reverse(*count));
    for (name, count) in counts.iter().filter(|(name, _)| !name.contains("interned")).take(6) {
        println!("{count:>12}  {name}");
    }
}
