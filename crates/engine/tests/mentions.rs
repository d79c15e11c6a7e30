//! What mentions of names mean, where things are defined and mentioned, what may stand at a place: `view`, as editors ask it.
//!
//! A `|` in a text marks the place that is asked about; it is not part of the text.

use std::path::Path;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::view::complete;
use leitmotiv_engine::view::places::{self, Place};
use leitmotiv_engine::view::references::{self, family};
use leitmotiv_engine::view::rename;
use leitmotiv_engine::view::things::{Reader, Thing};
use leitmotiv_project::{Project, Surroundings};
use leitmotiv_syntax::TextSize;

/// Files, one of which has a mark.
struct Desk {
    _folder: tempfile::TempDir,
    db: Database,
    file: File,
    at: TextSize,
}

impl Desk {
    fn new(files: &[(&str, &str)]) -> Desk {
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path().canonicalize().unwrap();
        let mut marked = None;
        for (path, text) in files {
            if let Some(at) = text.find('|') {
                marked = Some((root.join(path), at));
            }
            std::fs::write(root.join(path), text.replacen('|', "", 1)).unwrap();
        }
        let db = Database::new(Project::open(&root, None, &Surroundings::default()).unwrap());
        let (path, at) = marked.unwrap();
        let file = db.source(Path::new(&path));
        Desk { _folder: folder, db, file, at: TextSize::try_from(at).unwrap() }
    }

    fn one(text: &str) -> Desk {
        Desk::new(&[("ferry.py", text)])
    }

    fn shown(&self, places: &[Place]) -> Vec<String> {
        let line = |file: File, at: TextSize| module_index(&self.db, file).lines.0.index_of(at) + 1;
        places.iter().map(|(file, range)| format!("{}:{}", file.path(&self.db), line(*file, range.start()))).collect()
    }

    fn definitions(&self) -> Vec<String> {
        let mut reader = Reader::new(&self.db, self.file);
        let mention = reader.at(self.at).unwrap();
        let found = places::definitions(&mut reader, mention);
        self.shown(&found)
    }

    fn references(&self) -> Vec<String> {
        let mut reader = Reader::new(&self.db, self.file);
        let mention = reader.at(self.at).unwrap();
        let things: Vec<Thing> = reader.means(mention).into_iter().flat_map(|thing| family(&self.db, thing)).collect();
        let found = references::of(&self.db, &things, false);
        let places: Vec<Place> = found.iter().map(|one| (one.file, one.mention.range)).collect();
        self.shown(&places)
    }

    /// The text after a new name, or why there is none.
    fn renamed(&self, new: &str) -> Result<String, String> {
        let plan = rename::plan(&self.db, self.file, self.at, new).map_err(|refusal| refusal.to_string())?;
        let mut text = self.file.text(&self.db).to_string();
        for (_, range) in plan.iter().rev().filter(|(file, _)| *file == self.file) {
            text.replace_range(usize::from(range.start())..usize::from(range.end()), new);
        }
        Ok(text)
    }

    fn labels(&self) -> Vec<String> {
        complete::at(&self.db, self.file, self.at).items.into_iter().map(|item| item.label).collect()
    }
}

#[test]
fn a_local_name_leads_to_the_assignments_that_reach_it() {
    let text =
        "def moor(x: bool) -> int:\n    berth = 1\n    berth = 2\n    if x:\n        berth = 3\n    return |berth\n";
    assert_eq!(Desk::one(text).definitions(), ["ferry.py:3", "ferry.py:5"]);
}

#[test]
fn names_are_followed_through_imports_stars_and_modules() {
    let ferry = ("ferry.py", "def load() -> int:\n    return 3\n");
    let quay = ("quay.py", "from ferry import load as embark\n");
    for main in
        ["from quay import embark\n|embark()\n", "import quay\nquay.|embark()\n", "from quay import *\n|embark()\n"]
    {
        assert_eq!(Desk::new(&[ferry, quay, ("main.py", main)]).definitions(), ["ferry.py:1"], "{main}");
    }
    let star = Desk::new(&[ferry, ("main.py", "from ferry import *\n|load()\n")]);
    assert_eq!(star.references(), ["ferry.py:1", "main.py:2"]);
}

#[test]
fn members_belong_to_the_class_that_has_them() {
    let text = "class Hull:\n    depth = 3\n    def sink(self): self.depth = 4\n\nclass Ferry(Hull): pass\n\ndef f(a: Ferry, b: list[int]):\n    a.|depth, b.depth\n";
    let desk = Desk::one(text);
    assert_eq!(desk.definitions(), ["ferry.py:2"]);
    assert_eq!(desk.references(), ["ferry.py:2", "ferry.py:3", "ferry.py:8"]);
}

#[test]
fn keywords_are_mentions_of_parameters_and_of_fields() {
    let text = "from dataclasses import dataclass\n\n@dataclass\nclass Leg:\n    |port: str\n\nLeg(port='a').port\n";
    assert_eq!(Desk::one(text).references(), ["ferry.py:5", "ferry.py:7", "ferry.py:7"]);
    let text = "def f(|day): return day\n\nf(day=3)\n";
    assert_eq!(Desk::one(text).references(), ["ferry.py:1", "ferry.py:1", "ferry.py:3"]);
}

#[test]
fn a_new_name_goes_into_quoted_annotations_and_global_statements() {
    let text = "class |Hull: pass\n\ndef f(a: 'list[Hull]') -> 'Hull': return a[0]\n";
    assert_eq!(
        Desk::one(text).renamed("Keel").unwrap(),
        "class Keel: pass\n\ndef f(a: 'list[Keel]') -> 'Keel': return a[0]\n"
    );
    let text = "tide = 3\n\ndef f():\n    global tide\n    |tide = 4\n";
    assert_eq!(Desk::one(text).renamed("ebb").unwrap(), "ebb = 3\n\ndef f():\n    global ebb\n    ebb = 4\n");
}

#[test]
fn a_new_name_that_would_catch_another_one_is_refused() {
    let text = "def f(|day):\n    def g():\n        return night\n    return day, g\n\nnight = 3\n";
    let refused = Desk::one(text).renamed("night").unwrap_err();
    assert_eq!(refused, "`night` at ferry.py:3 would mean this then");
    let text = "tide = 3\n\ndef f(ebb):\n    return |tide\n";
    assert_eq!(Desk::one(text).renamed("ebb").unwrap_err(), "`ebb` is bound at ferry.py:3 already");
}

#[test]
fn what_may_stand_at_a_place_follows_what_stands_before_it() {
    let head = "class Hull:\n    depth: int = 3\n\ndef f(hull: Hull, *, wide: bool = True): pass\n\nhull = Hull()\n";
    assert_eq!(Desk::one(&format!("{head}hull.de|")).labels()[0], "depth");
    assert_eq!(Desk::one(&format!("{head}f(hull.|\nx = 3\n")).labels()[0], "depth");
    assert!(Desk::one(&format!("{head}f(hull, |)\n")).labels().contains(&"wide=".to_owned()));
    assert_eq!(Desk::one(&format!("{head}# hull.|\n")).labels(), [""; 0]);
}
