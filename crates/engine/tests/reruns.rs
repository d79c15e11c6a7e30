//! What is worked out again after an edit: the files that are checked anew.

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::base::runs::Runs;
use leitmotiv_engine::check::check;
use leitmotiv_project::{Project, Surroundings};

const FLEET: &str = "
'''The fleet.'''

BERTHS = 3

class Ferry:
    def __init__(self, name: str) -> None:
        self.name = name

    def label(self) -> str:
        text = self.name
        return text.upper()

def longest(names: list[str]) -> str:
    best = ''
    for name in names:
        best = max(best, name)
    return best
";

/// Uses a class and a function of the fleet.
const CREW: &str = "
from fleet import Ferry, longest

def board(ferry: Ferry) -> str:
    return ferry.label() + longest([ferry.name])
";

/// Uses what uses it.
const QUAY: &str = "
from crew import board
from fleet import Ferry

board(Ferry('Gannet'))
";

/// Imports the fleet, and uses nothing of it.
const NOTES: &str = "
import fleet

def note(text: str) -> str:
    return text
";

const ALONE: &str = "
def tide() -> int:
    return 3
";

struct Harbour {
    _folder: tempfile::TempDir,
    db: Database,
    runs: Runs,
    files: Vec<File>,
}

impl Harbour {
    fn new() -> Harbour {
        let folder = tempfile::tempdir().unwrap();
        let root = folder.path().canonicalize().unwrap();
        let runs = Runs::default();
        let texts = [("alone", ALONE), ("crew", CREW), ("fleet", FLEET), ("notes", NOTES), ("quay", QUAY)];
        for (name, text) in texts {
            std::fs::write(root.join(format!("{name}.py")), text).unwrap();
        }
        let project = Project::open(&root, None, &Surroundings::default()).unwrap();
        let db = Database::counted(project, &runs);
        let files = texts.iter().map(|(name, _)| db.source(&root.join(format!("{name}.py")))).collect();
        let harbour = Harbour { _folder: folder, db, runs, files };
        let _ = check(&harbour.db, &harbour.files);
        harbour
    }

    /// The files that are checked anew after a file got another text, without their endings.
    fn after(mut self, name: &str, edit: impl Fn(&str) -> String) -> Vec<String> {
        let path = format!("{name}.py");
        let file = self.files.iter().copied().find(|file| file.path(&self.db) == path).unwrap();
        let (before, after) = (file.text(&self.db).to_string(), edit(file.text(&self.db)));
        assert_ne!(before, after, "the edit changes nothing");
        self.runs.clear();
        self.db.try_text(file, Arc::from(after));
        let _ = check(&self.db, &self.files);
        let checked = self.runs.files(&self.db, "problems");
        checked.iter().map(|path| path.trim_end_matches(".py").to_owned()).collect()
    }
}

/// Each edit of the fleet, and the files that are checked anew.
macro_rules! edits {
    ($($(#[$doc:meta])* $name:ident: $from:literal => $to:literal, $files:expr;)*) => {$(
        $(#[$doc])*
        #[test]
        fn $name() {
            assert_eq!(Harbour::new().after("fleet", |text| text.replacen($from, $to, 1)), $files);
        }
    )*};
}

edits! {
    a_comment_at_the_end: "    return best\n" => "    return best\n# the end\n", ["fleet"];
    a_blank_line_at_the_top: "\n'''The" => "\n\n'''The", ["fleet"];
    another_docstring: "'''The fleet.'''" => "'''All ships of it.'''", ["fleet"];
    a_statement_in_a_body: "    best = ''\n" => "    best = ''\n    best = ' '\n", ["fleet"];
    another_value_of_a_name: "BERTHS = 3" => "BERTHS = 4", ["fleet"];
    another_type_of_a_name: "BERTHS = 3" => "BERTHS = 'three'", ["fleet"];
    an_import_more: "BERTHS = 3" => "import sys\nBERTHS = 3", ["fleet"];
    a_function_at_the_end: "    return best\n" => "    return best\n\ndef shortest() -> None: ...\n", ["fleet"];
    /// The crew calls it; the quay calls what the crew declares.
    another_signature: "names: list[str]" => "names: list[str], most: int = 1", ["crew", "fleet"];
    another_result: "-> str:\n        text" => "-> str | None:\n        text", ["crew", "fleet"];
    a_function_more: "def longest" => "def shortest() -> None: ...\n\ndef longest", ["fleet"];
    a_class_more: "class Ferry" => "class Barge:\n    def label(self) -> int: ...\n\nclass Ferry", ["fleet"];
    a_function_within: "    best = ''\n" => "    def key() -> int: ...\n    best = ''\n", ["fleet"];
    /// The quay makes a ferry: what a class has says whether that can be done.
    a_method_less: "    def label(self) -> str:\n        text = self.name\n        return text.upper()\n" => "", ["crew", "fleet", "quay"];
    a_fault: "def longest(" => "def longest((", ["crew", "fleet", "quay"];
}

#[test]
fn an_edit_of_a_file_that_nobody_imports_is_its_own_affair() {
    assert_eq!(Harbour::new().after("alone", |text| text.replace('3', "4")), ["alone"]);
    assert_eq!(Harbour::new().after("quay", |text| format!("{text}# late\n")), ["quay"]);
}

#[test]
fn a_file_made_later_is_looked_for_and_changes_nobody_else() {
    let mut harbour = Harbour::new();
    let path = harbour.db.project().root.join("tides.py");
    std::fs::write(&path, "LEVEL = 3\n").unwrap();
    harbour.runs.clear();
    harbour.db.apply(&[leitmotiv_engine::base::database::FileChange::OnDisk { path }]);
    let _ = check(&harbour.db, &harbour.files);
    assert_eq!(harbour.runs.files(&harbour.db, "check_file"), Vec::<String>::new());
}

#[test]
fn the_same_text_again_is_no_edit() {
    let mut harbour = Harbour::new();
    let text = harbour.files[2].text(&harbour.db).clone();
    harbour.runs.clear();
    harbour.db.try_text(harbour.files[2], text);
    let _ = check(&harbour.db, &harbour.files);
    assert!(harbour.runs.counts(&harbour.db).is_empty());
}
