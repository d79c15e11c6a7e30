//! What an edit reaches of what another run found.

use std::collections::BTreeSet;
use std::path::PathBuf;

use leitmotiv_engine::base::asked::telling;
use leitmotiv_engine::base::database::{Ahead, Database};
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::check;
use leitmotiv_engine::past::Past;
use leitmotiv_engine::resolve::leads_to;
use leitmotiv_project::{Project, Surroundings};

/// Files, and what a run on them has written down.
struct Run {
    folder: tempfile::TempDir,
    past: Past,
}

const FERRIES: &str = "\
def berth(name):
    return name

def length():
    return 30

class Ferry:
    def __init__(self):
        self.berths = 3

    def label(self):
        return 'ferry'

def longest(*ferries: Ferry) -> Ferry:
    return ferries[0]
";

const PORTS: &str = "\
from ferries import Ferry, length
room = length()
def free(ferry: Ferry):
    return ferry.berths
";

const TIMES: &str = "\
from ports import room
from ferries import longest
late: str = room
longest(3)
";

const CREWS: &str = "crew = 4\n";

impl Run {
    fn of(files: &[(&str, &str)]) -> Run {
        Run::with(files, &|_, _| {})
    }

    /// The same where something more is asked.
    fn with(files: &[(&str, &str)], more: &dyn Fn(&Database, &[File])) -> Run {
        let folder = tempfile::tempdir().unwrap();
        for (name, text) in files {
            std::fs::write(folder.path().join(name), text).unwrap();
        }
        let db = open(&folder);
        db.record();
        let own = own(&db);
        let _ = check(&db, &own);
        more(&db, &own);
        let past = Past::of(&db, &own).expect("all is written down");
        Run { folder, past }
    }

    fn small() -> Run {
        Run::of(&[("ferries.py", FERRIES), ("ports.py", PORTS), ("times.py", TIMES), ("crews.py", CREWS)])
    }

    /// The files that an edit reaches; `None` where it is better to begin with nothing. What was written down is then that of the new text.
    fn edit(&mut self, name: &str, from: &str, to: &str) -> Option<BTreeSet<String>> {
        let path = self.folder.path().join(name);
        let text = std::fs::read_to_string(&path).unwrap();
        assert!(text.contains(from));
        std::fs::write(&path, text.replace(from, to)).unwrap();
        self.again(&[name], &[], true)
    }

    /// The same where a file comes.
    fn come(&mut self, name: &str, text: &str) -> Option<BTreeSet<String>> {
        std::fs::write(self.folder.path().join(name), text).unwrap();
        self.again(&[], &[name], false)
    }

    /// The same where one goes.
    fn go(&mut self, name: &str) -> Option<BTreeSet<String>> {
        std::fs::remove_file(self.folder.path().join(name)).unwrap();
        self.again(&[name], &[], false)
    }

    /// What edits reach, beside files that are new.
    fn again(&mut self, edited: &[&str], new: &[&str], is_laid_out: bool) -> Option<BTreeSet<String>> {
        let db = open(&self.folder);
        let edited: Vec<PathBuf> = edited.iter().map(PathBuf::from).collect();
        let known = self.past.known(&db, &|path| !edited.iter().any(|edited| edited == path));
        let known = known.into_iter().map(|(path, known)| (self.folder.path().join(path), known)).collect();
        db.know(Ahead { known, ..Ahead::default() });
        db.record();
        let own = own(&db);
        let reached = self.past.reached(&db, &edited, is_laid_out)?;
        let is_meant = |file: &File| reached.files.contains(file) || new.contains(&file.path(&db));
        let again: Vec<File> = own.iter().copied().filter(is_meant).collect();
        let _ = check(&db, &again);
        self.past = std::mem::take(&mut self.past).after(&db, reached).expect("all is written down");
        Some(again.iter().map(|file| file.path(&db).to_owned()).collect())
    }
}

fn open(folder: &tempfile::TempDir) -> Database {
    Database::new(Project::open(folder.path(), None, &Surroundings::default()).unwrap())
}

fn own(db: &Database) -> Vec<File> {
    db.sources(&[]).unwrap().iter().map(|path| db.source(path)).collect()
}

fn names(names: &[&str]) -> Option<BTreeSet<String>> {
    Some(names.iter().map(|name| (*name).to_owned()).collect())
}

#[test]
fn an_edit_of_a_file_that_nobody_asks_is_its_own_affair() {
    let mut run = Run::small();
    assert_eq!(run.edit("crews.py", "4", "5"), names(&["crews.py"]));
    assert_eq!(run.edit("times.py", "late", "later"), names(&["times.py"]));
}

#[test]
fn a_body_that_gives_the_same_reaches_nobody() {
    let mut run = Run::small();
    assert_eq!(run.edit("ferries.py", "return 30", "size = 31\n    return size"), names(&["ferries.py", "times.py"]));
    // What is told of `times` has a place in `ferries`, behind what was edited; what stands before it does not concern it.
    assert_eq!(
        run.edit("ports.py", "return ferry.berths", "return ferry.berths + 1"),
        names(&["ports.py", "times.py"])
    );
}

#[test]
fn a_body_that_gives_something_else_reaches_who_asked_for_it_and_on() {
    let mut run = Run::small();
    assert_eq!(run.edit("ferries.py", "return 30", "return '30'"), names(&["ferries.py", "ports.py", "times.py"]));
    // The same again begins with what was written down then.
    assert_eq!(run.edit("crews.py", "4", "5"), names(&["crews.py"]));
    assert_eq!(run.edit("ferries.py", "return '30'", "return 30"), names(&["ferries.py", "ports.py", "times.py"]));
}

#[test]
fn what_is_gone_reaches_who_asked_for_it() {
    let mut run = Run::small();
    let reached = run.edit("ferries.py", "def length", "def breadth").unwrap();
    assert!(reached.contains("ports.py") && !reached.contains("crews.py"), "{reached:?}");
}

#[test]
fn what_all_files_do_together_reaches_who_asked_for_that() {
    let mut run = Run::of(&[
        ("ferries.py", "class Ferry: pass\nFerry().name\n"),
        ("ports.py", "import ferries\n"),
        ("crews.py", "crew = 4\n"),
    ]);
    // A name that another file assigns on an object that it does not own may be there.
    let reached = run.edit("ports.py", "import ferries\n", "import ferries\nferries.Ferry.name = 'Tern'\n");
    assert_eq!(reached, names(&["ferries.py", "ports.py"]));
}

#[test]
fn what_imports_lead_to_reaches_all_who_asked_for_it() {
    let files = [("a.py", ""), ("b.py", "import c\n"), ("c.py", "import d\n"), ("d.py", "depth = 3\n"), ("e.py", "")];
    let mut run = Run::with(&files, &|db, own| {
        // Two of them, so that one is told what the other one asked for.
        for asking in [own[0], own[4]] {
            let _telling = telling(db, asking);
            assert!(leads_to(db, own[1], own[3]));
        }
    });
    assert_eq!(run.edit("c.py", "import d", "import a"), names(&["a.py", "b.py", "c.py", "e.py"]));
}

#[test]
fn a_file_that_comes_reaches_who_looked_for_it() {
    let mut run = Run::of(&[
        ("ferries.py", "import tides\ndepth = tides.depth\n"),
        ("ports.py", "from ferries import depth\nlow: str = depth\n"),
        ("crews.py", "crew = 4\n"),
        ("routes.py", "import crews\n"),
    ]);
    // It is told now what the name is, and who asked for that.
    assert_eq!(run.come("tides.py", "depth = 3\n"), names(&["ferries.py", "ports.py", "tides.py"]));
    assert_eq!(run.edit("tides.py", "3", "'3'"), names(&["ferries.py", "ports.py", "tides.py"]));
    assert_eq!(run.come("lights.py", "light = 3\n"), names(&["lights.py"]));
    assert_eq!(run.go("tides.py"), names(&["ferries.py", "ports.py"]));
    // What is not found is compared with what there is.
    assert_eq!(run.go("routes.py"), names(&["ferries.py"]));
    assert_eq!(run.come("tides.py", "depth = 3\n"), names(&["ferries.py", "ports.py", "tides.py"]));
}

#[test]
fn a_file_that_takes_anothers_place_reaches_who_imports_it() {
    let mut run = Run::of(&[
        ("ferries.py", "import typing\nimport ports\n"),
        ("ports.py", "port = 3\n"),
        ("crews.py", "crew = 4\n"),
    ]);
    // A stub counts in place of the source.
    assert_eq!(run.come("ports.pyi", "port: str\n"), names(&["ferries.py", "ports.pyi"]));
    assert_eq!(run.go("ports.pyi"), names(&["ferries.py"]));
}
