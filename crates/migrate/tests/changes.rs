//! A session that is told of changes says what a new one would.

use std::path::{Path, PathBuf};

use leitmotiv_engine::base::database::FileChange;
use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_project::{Project, Surroundings};

struct Harbour {
    folder: tempfile::TempDir,
    session: Session,
}

fn open(folder: &Path) -> Session {
    let project = Project::open(folder, None, &Surroundings::default()).unwrap();
    Session::open(project).unwrap().with_ledger().unwrap()
}

/// What a check says, a line a finding.
fn said(session: &mut Session) -> Vec<String> {
    let report = session.check(&[], &Asked::default()).unwrap();
    let line = |reported: &leitmotiv_migrate::session::Reported| {
        let finding = &reported.finding;
        let place = format!("{}:{:?}", finding.file.path(&session.db), finding.range);
        format!("{place} {} {} {}", reported.severity.name(), finding.rule, finding.message)
    };
    report.findings.iter().map(line).collect()
}

impl Harbour {
    fn new(files: &[(&str, &str)]) -> Harbour {
        let folder = tempfile::tempdir().unwrap();
        for (path, text) in files {
            write(&folder.path().join(path), text);
        }
        let session = open(folder.path());
        Harbour { folder, session }
    }

    fn path(&self, path: &str) -> PathBuf {
        self.folder.path().canonicalize().unwrap().join(path)
    }

    fn tell(&mut self, paths: &[&str]) {
        let changes: Vec<FileChange> = paths.iter().map(|path| FileChange::OnDisk { path: self.path(path) }).collect();
        self.session.apply(&changes).unwrap();
    }

    fn save(&mut self, path: &str, text: &str) {
        write(&self.path(path), text);
        self.tell(&[path]);
    }

    fn remove(&mut self, path: &str) {
        std::fs::remove_file(self.path(path)).unwrap();
        self.tell(&[path]);
    }

    /// What the session says, which is what a new one says.
    #[track_caller]
    fn said(&mut self) -> Vec<String> {
        let said = said(&mut self.session);
        assert_eq!(said, self::said(&mut open(self.folder.path())));
        said
    }

    #[track_caller]
    fn says(&mut self, rule: &str) -> bool {
        self.said().iter().any(|line| line.contains(rule))
    }
}

fn write(path: &Path, text: &str) {
    std::fs::create_dir_all(path.parent().unwrap()).unwrap();
    std::fs::write(path, text).unwrap();
}

const FLEET: &str = "class Ferry:\n    def __init__(self):\n        self.name = 'Gannet'\n";

#[test]
fn a_module_that_is_made_later_is_found() {
    let mut harbour = Harbour::new(&[("main.py", "import tides\n\nprint(tides.LEVEL.upper())\n")]);
    assert!(harbour.says("import.unresolved"));
    harbour.save("tides.py", "LEVEL = 3\n");
    assert!(!harbour.says("import.unresolved"));
    assert!(harbour.says("member.absent"));
    harbour.remove("tides.py");
    assert!(harbour.says("import.unresolved"));
}

#[test]
fn an_attribute_that_another_file_begins_to_assign_is_there() {
    let reads = "from fleet import Ferry\n\ndef show(ferry: Ferry):\n    return ferry.captain\n";
    let mut harbour = Harbour::new(&[("fleet.py", FLEET), ("main.py", reads), ("crew.py", "")]);
    assert!(harbour.says("member.absent"));
    let gives = "from fleet import Ferry\n\ndef board(ferry: Ferry):\n    ferry.captain = 'Ada'\n";
    harbour.save("crew.py", gives);
    assert!(!harbour.says("member.absent"));
    harbour.save("crew.py", "");
    assert!(harbour.says("member.absent"));
}

#[test]
fn a_stub_beside_the_source_counts_from_then_on() {
    let reads = "from fleet import Ferry\n\nFerry().name.upper()\nFerry().berths\n";
    let mut harbour = Harbour::new(&[("fleet.py", FLEET), ("main.py", reads)]);
    assert!(harbour.says("berths"));
    harbour.save("stubs/fleet.pyi", "class Ferry:\n    name: int\n    berths: int\n");
    let said = harbour.said();
    assert!(
        said.iter().any(|line| line.contains("upper")) && !said.iter().any(|line| line.contains("berths")),
        "{said:?}"
    );
    harbour.remove("stubs/fleet.pyi");
    assert!(harbour.says("berths"));
}

#[test]
fn a_folder_becomes_a_package_and_its_modules_get_other_names() {
    let mut harbour = Harbour::new(&[
        ("ops/tides.py", "from . import levels\n\nlevels.HIGH.upper()\n"),
        ("ops/levels.py", "HIGH = 3\n"),
        ("main.py", "import ops.levels\n\nops.levels.LOW\n"),
    ]);
    let before = harbour.said();
    harbour.save("ops/__init__.py", "");
    let _ = harbour.said();
    harbour.remove("ops/__init__.py");
    assert_eq!(harbour.said(), before);
}

#[test]
fn a_module_with_the_name_of_a_standard_one_stands_before_it_while_it_is_there() {
    let mut harbour =
        Harbour::new(&[("main.py", "import enum\n\nclass Deck(enum.Enum):\n    CAR = 1\n\nDeck.CAR.valeu\n")]);
    let before = harbour.said();
    harbour.save("enum.py", "class Enum:\n    pass\n");
    assert_ne!(harbour.said(), before);
    harbour.remove("enum.py");
    assert_eq!(harbour.said(), before);
}

#[test]
fn what_an_editor_holds_counts_until_it_lets_go() {
    let mut harbour = Harbour::new(&[("fleet.py", FLEET), ("main.py", "import fleet\n\nfleet.Ferry().name.lower()\n")]);
    assert!(harbour.said().is_empty());
    let held = FLEET.replace("'Gannet'", "7");
    let fleet = harbour.path("fleet.py");
    harbour.session.apply(&[FileChange::Held { path: fleet.clone(), text: held }]).unwrap();
    assert!(said(&mut harbour.session).iter().any(|line| line.contains("lower")));
    // What is not saved is not on disk; a file that only the editor has is found, too.
    let new = harbour.path("crew.py");
    harbour.session.apply(&[FileChange::Held { path: new.clone(), text: "NAMES = ['Ada']\n".into() }]).unwrap();
    let main = harbour.path("main.py");
    harbour
        .session
        .apply(&[FileChange::Held { path: main.clone(), text: "import crew\n\ncrew.NAMES.upper()\n".into() }])
        .unwrap();
    let told = said(&mut harbour.session);
    assert!(
        told.iter().any(|line| line.contains("upper")) && !told.iter().any(|line| line.contains("unresolved")),
        "{told:?}"
    );
    let gone = [fleet, new, main].map(|path| FileChange::OnDisk { path });
    harbour.session.apply(&gone).unwrap();
    assert!(harbour.said().is_empty());
}

#[test]
fn settings_and_the_ledger_are_read_again_and_a_broken_one_changes_nothing() {
    let text = "def board(name=None):\n    return name.upper()\n\nimport tomllib\n";
    let mut harbour = Harbour::new(&[("main.py", text), ("leitmotiv.toml", "python = \"3.13\"\n")]);
    let before = harbour.said();
    harbour.save("leitmotiv.toml", "python = \"3.13\"\nseverity = { \"annotation.missing\" = \"error\" }\n");
    assert!(harbour.says("error annotation.missing"));
    // The target version, too; what an editor holds is held on.
    let new = harbour.path("crew.py");
    harbour.session.apply(&[FileChange::Held { path: new.clone(), text: "NAMES = ['Ada']\n".into() }]).unwrap();
    harbour.save("leitmotiv.toml", "python = \"3.10\"\n");
    let main = harbour.path("main.py");
    let held = "import crew\n\ncrew.NAMES.upper()\n".into();
    harbour.session.apply(&[FileChange::Held { path: main.clone(), text: held }]).unwrap();
    assert!(said(&mut harbour.session).iter().any(|line| line.contains("upper")));
    harbour.session.apply(&[new, main].map(|path| FileChange::OnDisk { path })).unwrap();
    let _ = harbour.said();
    write(&harbour.path("leitmotiv.toml"), "python = \n");
    let changes = [FileChange::OnDisk { path: harbour.path("leitmotiv.toml") }];
    assert!(harbour.session.apply(&changes).is_err());
    assert!(!said(&mut harbour.session).is_empty());
    harbour.save("leitmotiv.toml", "python = \"3.13\"\n");
    assert_eq!(harbour.said(), before);
    write(&harbour.path("leitmotiv.ledger"), "no ledger\n");
    assert!(harbour.session.apply(&[FileChange::OnDisk { path: harbour.path("leitmotiv.ledger") }]).is_err());
    assert_eq!(said(&mut harbour.session), before);
    harbour.remove("leitmotiv.ledger");
    assert_eq!(harbour.said(), before);
}

#[test]
fn a_damaged_text_and_a_file_that_cannot_be_read_are_told_and_forgotten() {
    let mut harbour = Harbour::new(&[("fleet.py", FLEET), ("main.py", "import fleet\n\nfleet.Ferry().nam\n")]);
    let before = harbour.said();
    harbour.save("fleet.py", "class Ferry(:\n");
    assert!(harbour.says("syntax.error"));
    std::fs::write(harbour.path("fleet.py"), b"NAME = '\xff\xfe'\n").unwrap();
    harbour.tell(&["fleet.py"]);
    let _ = harbour.said();
    harbour.save("fleet.py", FLEET);
    assert_eq!(harbour.said(), before);
}
