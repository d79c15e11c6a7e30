//! Stubs written from source: each `stubs/NAME.py` gives `stubs/NAME.pyi`, which `check` finds nothing wrong in and which says what
//! the module is once it is imported. Run with `REWRITE=1` to write the stubs anew, and read what changed.

use std::path::Path;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::check::check;
use leitmotiv_migrate::stub::running::{self, describe};
use leitmotiv_migrate::stub::verify::verify;
use leitmotiv_migrate::stub::{draft, from_source, merge};
use leitmotiv_project::settings::Severity;
use leitmotiv_project::{Project, Surroundings};

fn project(folder: &Path) -> Project {
    let path = std::env::split_paths(&std::env::var_os("PATH").unwrap_or_default()).collect();
    let mut project = Project::open(folder, None, &Surroundings { path, ..Surroundings::default() }).unwrap();
    project.python = (3, 13);
    project
}

/// The fixtures: name and source.
fn sources() -> Vec<(String, String)> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/stubs");
    let mut found: Vec<(String, String)> = std::fs::read_dir(folder)
        .unwrap()
        .map(|entry| entry.unwrap().path())
        .filter(|path| path.extension().is_some_and(|extension| extension == "py"))
        .map(|path| (path.file_stem().unwrap().to_string_lossy().into_owned(), std::fs::read_to_string(&path).unwrap()))
        .collect();
    found.sort();
    found
}

/// A folder with one module, and its stub from source.
fn written(name: &str, source: &str) -> (tempfile::TempDir, String) {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join(format!("{name}.py"));
    std::fs::write(&path, source).unwrap();
    let db = Database::new(project(folder.path()));
    let text = from_source(&db, db.source(&path.canonicalize().unwrap()));
    (folder, text)
}

#[test]
fn each_source_gives_its_stub() {
    let sources = sources();
    assert!(sources.len() >= 3);
    for (name, source) in sources {
        let (_folder, text) = written(&name, &source);
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join(format!("tests/stubs/{name}.pyi"));
        if std::env::var_os("REWRITE").is_some() {
            std::fs::write(&path, &text).unwrap();
        }
        assert_eq!(text, std::fs::read_to_string(&path).unwrap_or_default(), "{name}");
    }
}

#[test]
fn nothing_is_wrong_in_what_is_written() {
    for (name, source) in sources() {
        let (folder, text) = written(&name, &source);
        let stub = folder.path().join(format!("{name}.pyi"));
        std::fs::write(&stub, &text).unwrap();
        let db = Database::new(project(folder.path()));
        let checked = check(&db, &[db.source(&stub.canonicalize().unwrap())]);
        let found: Vec<&str> = checked[0]
            .findings
            .iter()
            .filter(|finding| finding.severity >= Severity::Error)
            .map(|finding| finding.message.as_str())
            .collect();
        assert!(found.is_empty(), "{name}: {found:?}\n{text}");
    }
}

#[test]
fn what_is_written_from_source_is_what_the_interpreter_has() {
    for (name, source) in sources() {
        let (folder, text) = written(&name, &source);
        std::fs::create_dir(folder.path().join("stubs")).unwrap();
        std::fs::write(folder.path().join(format!("stubs/{name}.pyi")), &text).unwrap();
        let project = project(folder.path());
        if project.interpreter.is_none() {
            return;
        }
        let [described] = describe(&project, std::slice::from_ref(&name), running::LIMIT).unwrap().try_into().unwrap();
        assert_eq!(described.error, None, "{name}");
        let db = Database::new(project);
        let stub = db.source(&folder.path().join(format!("stubs/{name}.pyi")).canonicalize().unwrap());
        let told: Vec<String> = verify(&db, stub, &described)
            .differences
            .into_iter()
            .map(|difference| format!("{}: {}", difference.name, difference.words))
            .collect();
        assert!(told.is_empty(), "{told:?}\n{text}");
        // The running module adds nothing to it that would be a difference either.
        let both = merge::merge(&text, &draft::from_running(&described));
        std::fs::write(folder.path().join("again.pyi"), &both.text).unwrap();
        let again = db.source(&folder.path().join("again.pyi").canonicalize().unwrap());
        let left = verify(&db, again, &described).differences;
        assert!(left.is_empty(), "{name}: {:?}\n{}", both.added, both.text);
    }
}
