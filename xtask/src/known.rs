//! How much is known of packages' expressions: by what they say, and with what is concluded of parameters that nobody annotated.

use std::path::{Path, PathBuf};
use std::sync::Arc;
use std::time::Instant;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::check::Checked;
use leitmotiv_engine::types::CauseKind;
use leitmotiv_migrate::annotate::{Inquiry, Sureness, Wanted};
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_project::{Project, Surroundings};

use crate::corpus::{PACKAGES, folder};

/// How to call it.
pub const USAGE: &str = "cargo xtask known [--interpreter PYTHON] [FOLDER…]";

/// Counts what is known of packages, of those of the corpus without types where none are named.
pub fn run(words: &[&str]) -> Result<(), String> {
    crate::in_pool(|| counted(words))
}

/// Expressions: all, those that rest on an import that leads nowhere, and those that are known.
#[derive(Default, Clone, Copy)]
struct Count {
    all: usize,
    missing: usize,
    known: usize,
}

impl Count {
    fn of(db: &Database, checked: &[Arc<Checked>]) -> Count {
        let mut count = Count::default();
        for checked in checked {
            count.all += checked.expressions;
            count.known += checked.known();
            let is_missing = |kind| matches!(kind, CauseKind::UnresolvedImport | CauseKind::UntypedImport);
            count.missing += checked
                .unknown
                .iter()
                .filter(|(cause, _)| is_missing(db.store().cause(*cause).kind))
                .map(|(_, number)| number)
                .sum::<usize>();
        }
        count
    }

    fn add(&mut self, other: Count) {
        self.all += other.all;
        self.missing += other.missing;
        self.known += other.known;
    }

    fn share(self) -> f64 {
        100.0 * self.known as f64 / (self.all - self.missing).max(1) as f64
    }
}

fn counted(words: &[&str]) -> Result<(), String> {
    let mut folders: Vec<PathBuf> = Vec::new();
    let mut interpreter = None;
    let mut words = words.iter();
    while let Some(word) = words.next() {
        match *word {
            "--interpreter" => {
                interpreter = Some((*words.next().ok_or("give `--interpreter` a path")?).to_owned());
            }
            word => folders.push(word.into()),
        }
    }
    if folders.is_empty() {
        folders = PACKAGES.iter().filter(|package| !package.typed).map(folder).collect();
    }
    let (mut plain, mut fair, mut low) = (Count::default(), Count::default(), Count::default());
    println!(
        "{:<30}{:>9}{:>9}{:>7}{:>7}{:>7}{:>8}{:>7}{:>7}",
        "package", "values", "missing", "known", "fair", "low", "check s", "fair", "low"
    );
    for folder in &folders {
        let one = one(folder, interpreter.as_deref())?;
        let name = folder.file_name().unwrap_or_default().to_string_lossy();
        println!(
            "{name:<30.30}{:>9}{:>9}{:>6.1}%{:>6.1}%{:>6.1}%{:>8.1}{:>6.1}x{:>6.1}x",
            one.plain.all,
            one.plain.missing,
            one.plain.share(),
            one.fair.share(),
            one.low.share(),
            one.time,
            one.fair_time,
            one.low_time
        );
        plain.add(one.plain);
        fair.add(one.fair);
        low.add(one.low);
    }
    println!(
        "{:<30}{:>9}{:>9}{:>6.1}%{:>6.1}%{:>6.1}%",
        "all",
        plain.all,
        plain.missing,
        plain.share(),
        fair.share(),
        low.share()
    );
    Ok(())
}

struct One {
    plain: Count,
    fair: Count,
    low: Count,
    time: f64,
    fair_time: f64,
    low_time: f64,
}

fn one(folder: &Path, interpreter: Option<&str>) -> Result<One, String> {
    let said = |error: &dyn std::fmt::Display| format!("{}: {error}", folder.display());
    let surroundings = Surroundings { interpreter: interpreter.map(str::to_owned), ..Surroundings::default() };
    let project = Project::open(folder, None, &surroundings).map_err(|error| said(&error))?;
    let mut session = Session::open(project).map_err(|error| said(&error))?;
    let begun = Instant::now();
    let report = session.check(&[], &Asked::default()).map_err(|error| said(&error))?;
    let time = begun.elapsed().as_secs_f64();
    let plain = Count::of(&session.db, &report.checked);
    let concluded = |at_least| {
        let begun = Instant::now();
        let mut inquiry = Inquiry::new(&session.db, &report.files);
        let (db, checked) = inquiry.check(&Wanted { at_least, ..Wanted::default() });
        (Count::of(db, &checked), begun.elapsed().as_secs_f64() / time)
    };
    let (fair, fair_time) = concluded(Sureness::Fair);
    let (low, low_time) = concluded(Sureness::Low);
    Ok(One { plain, fair, low, time, fair_time, low_time })
}
